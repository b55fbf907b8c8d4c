// SPDX-License-Identifier: GPL-3.0-or-later
// Drawings as files.
#include <gtest/gtest.h>
#include <sstream>

#include "app/drawing/drawings.h"
#include "support/fixtures.h"

namespace conductus::app {
namespace {

using namespace test;

TEST(Pictures, SameDrawingAsSvgPngAndPdfWithoutADisplay) {
    TemporaryFolder folder;
    const std::string program = "env -u DISPLAY -u WAYLAND_DISPLAY -u QT_QPA_PLATFORM " +
                                (bin_dir() / "conductus").string();
    const std::string job = (source_dir() / "data/demo/heron.json").string();
    for (const char* overlay : {"body", "volts"})
        for (const char* ending : {"svg", "png", "pdf"}) {
            const auto file = folder / (std::string(overlay) + "." + ending);
            const Ran ran = run(program + " picture " + job + " --drawing section --overlay " +
                                overlay + " -o " + file.string());
            ASSERT_EQ(ran.code, 0) << ran.err;
            EXPECT_GT(std::filesystem::file_size(file), 2000u);
        }
    EXPECT_TRUE(read_file(folder / "body.png").starts_with("\x89PNG"));
    EXPECT_TRUE(read_file(folder / "body.pdf").starts_with("%PDF"));
    const std::string svg = read_file(folder / "volts.svg");
    EXPECT_NE(svg.find("<svg"), std::string::npos);
    EXPECT_NE(svg.find("first pixel"), std::string::npos);
    EXPECT_NE(svg, read_file(folder / "body.svg"));
    EXPECT_EQ(
        run(program + " picture " + job + " --drawing section -o " + (folder / "x.gif").string())
            .code,
        3);
    EXPECT_EQ(run(program + " picture " + job + " --drawing cube -o x.svg").code, 2);
    EXPECT_EQ(run(program + " picture none.json --drawing section -o x.svg").code, 3);
}

TEST(Pictures, EveryDrawingOfTheListIsMade) {
    TemporaryFolder folder;
    const std::string program = (bin_dir() / "conductus").string() + " picture ";
    const Ran list = run(program + "--list");
    ASSERT_EQ(list.code, 0) << list.err;
    std::istringstream lines(list.out);
    std::string line;
    int made = 0;
    for (; std::getline(lines, line); ++made) {
        const std::string id = line.substr(0, line.find(' '));
        const auto* entry = drawing_named(id);
        ASSERT_TRUE(entry) << line;
        for (const char* job : {"bittern", "godwit"}) {
            const auto file = folder / (id + job + ".svg");
            const Ran ran = run(program + (source_dir() / "data/demo" / job).string() +
                                ".json --drawing " + id + " -o " + file.string());
            if (id == "variants") { // neither keeps another way of building
                EXPECT_EQ(ran.code, 3);
                EXPECT_NE(ran.err.find("no other way of building is kept"), std::string::npos);
                continue;
            }
            ASSERT_EQ(ran.code, 0) << id << " " << ran.err;
            const std::string svg = read_file(file);
            EXPECT_NE(svg.find("<svg"), std::string::npos);
            if (id == "commands" || id == "loudness") continue; // neither has any: said in words
            // Its string of LEDs hears no data, and stands on no connector.
            if ((id != "chains" && id != "connectors") || std::string(job) == "bittern") {
                EXPECT_GT(svg.size(), 2500u) << id << " " << job;
            }
        }
        for (const char* option : {"--at 30", "--overlay heat", "--look Blue"}) {
            const bool takes =
                std::any_of(entry->takes.begin(), entry->takes.end(), [&](std::string_view o) {
                    return std::string_view(option).starts_with(o);
                });
            const Ran ran =
                run(program + (source_dir() / "data/demo/heron.json").string() + " --drawing " +
                    id + " " + option + " -o " + (folder / "x.svg").string());
            EXPECT_EQ(ran.code == 2, !takes) << id << " " << option << " " << ran.err;
        }
    }
    EXPECT_EQ(made, static_cast<int>(drawings().size()));
    EXPECT_EQ(run(program + "-o x.svg").code, 2);
    EXPECT_EQ(run(program + (source_dir() / "data/demo/heron.json").string()).code, 2);
}

} // namespace
} // namespace conductus::app
