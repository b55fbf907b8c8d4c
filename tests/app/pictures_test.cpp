// SPDX-License-Identifier: GPL-3.0-or-later
// Drawings as files.
#include <gtest/gtest.h>

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

} // namespace
} // namespace conductus::app
