// SPDX-License-Identifier: GPL-3.0-or-later
// Cards, motion and templates on the command line.
#include <filesystem>
#include <fstream>

#include "cli/cli.h"
#include "support/made_up_card.h"

namespace conductus {
namespace {

using namespace test;
namespace fs = std::filesystem;

TEST(CliCard, TellsPresetsProblemsAndLoudness) {
    const Ran ran = cli("card " + heron() + " " +
                        (source_dir() / "data" / "cards" / "heron").string() + " --json");
    EXPECT_EQ(ran.code, 1) << "a font and a track are missing";
    const auto json = nlohmann::json::parse(ran.out);
    ASSERT_EQ(json["presets"].size(), 8u);
    EXPECT_EQ(json["presets"][0]["order"], 1);
    EXPECT_EQ(json["presets"][0]["name"], "Harbour");
    EXPECT_EQ(json["presets"][0]["state"], "ready");
    EXPECT_EQ(json["presets"][4]["state"], "font missing");
    EXPECT_EQ(json["presets"][6]["state"], "track missing");
    for (const auto& p : json["problems"])
        for (const char* key : {"id", "where", "what", "mend"})
            EXPECT_FALSE(p[key].get<std::string>().empty()) << key;
    bool loud = false;
    for (const auto& l : json["loudness"])
        if (l["font"] == "moon") {
            loud = true;
            EXPECT_GT(l["lufs"].get<double>(), -12);
            EXPECT_LT(l["gain_dB"].get<double>(), -3);
            EXPECT_LT(l["peak_dBFS"].get<double>(), 0);
        }
    EXPECT_TRUE(loud);
    // In words as well, and what is no folder is said.
    const Ran said = cli("card " + heron() + " " +
                         (source_dir() / "data" / "cards" / "heron").string());
    EXPECT_NE(said.out.find("Rename Kelp to kelp"), std::string::npos) << said.out;
    EXPECT_EQ(cli("card " + heron() + " /nowhere/at/all").code, 3);
    EXPECT_EQ(cli("card " + heron()).code, 2);
}

TEST(CliCard, PreparesACardAfterADryRun) {
    TemporaryFolder folder;
    const fs::path from = folder.path() / "source", to = folder.path() / "card";
    make_card(from, demo("heron"), parts());
    const std::string command = "card prepare " + heron() + " " + from.string() + " " + to.string();
    const Ran dry = cli(command + " --dry-run --json");
    EXPECT_EQ(dry.code, 0) << dry.err;
    EXPECT_FALSE(fs::exists(to));
    const auto json = nlohmann::json::parse(dry.out);
    EXPECT_EQ(json["files"].size(), 44u);
    EXPECT_EQ(json["copied"], 0);
    EXPECT_EQ(cli(command).code, 0);
    EXPECT_EQ(cli("card " + heron() + " " + to.string()).code, 0);
    EXPECT_EQ(nlohmann::json::parse(cli(command + " --json").out)["copied"], 0);
    fs::remove_all(from / "moon");
    const Ran lacks = cli(command);
    EXPECT_EQ(lacks.code, 1);
    EXPECT_NE(lacks.out.find("font moon"), std::string::npos) << lacks.out;
}

TEST(CliMotion, SaysWhatAMovementIsTakenFor) {
    const auto motion = [](const char* name) {
        const Ran ran = cli(
            "motion " + heron() + " " +
            (source_dir() / "data" / "motion" / (std::string(name) + ".csv")).string() + " --json");
        EXPECT_EQ(ran.code, 0) << ran.err;
        return nlohmann::json::parse(ran.out);
    };
    const auto swing = motion("swing");
    ASSERT_EQ(swing["events"].size(), 1u);
    EXPECT_EQ(swing["events"][0]["what"], "swing");
    EXPECT_EQ(swing["events"][0]["meant"], true);
    EXPECT_TRUE(swing["missed"].empty());
    EXPECT_EQ(swing["settings"], "usual");
    const auto loose = motion("loose-board");
    EXPECT_EQ(loose["loose"], true);
    for (const auto& t : loose["thresholds"]) {
        const bool blow = t["what"] == "tap" || t["what"] == "clash";
        EXPECT_EQ(t["parts"].get<bool>(), !blow) << t;
        EXPECT_EQ(t["loose"].get<bool>(), blow) << t;
    }
    EXPECT_TRUE(motion("walking")["events"].empty());
    TemporaryFolder folder;
    std::ofstream(folder.path() / "log.csv") << "no,log\n1,2\n";
    const Ran wrong = cli("motion " + heron() + " " + (folder.path() / "log.csv").string());
    EXPECT_EQ(wrong.code, 3);
    EXPECT_NE(wrong.err.find("no column"), std::string::npos) << wrong.err;
}

TEST(CliTemplate, FillsWhatAPersonWrote) {
    TemporaryFolder folder;
    const fs::path tpl = folder.path() / "board.tpl", out = folder.path() / "board.ini";
    std::ofstream(tpl) << "[{{JOB}}]\n{{#PRESETS}}{{INDEX}}={{FONT}}\n{{/PRESETS}}";
    EXPECT_EQ(cli("export " + heron() + " --as template --template " + tpl.string() + " -o " +
                  out.string())
                  .code,
              0);
    EXPECT_TRUE(read_file(out).starts_with("[Heron]\n1=harbour\n2=lantern\n")) << read_file(out);
    std::ofstream(tpl) << "{{JOBB}}";
    const Ran wrong = cli("export " + heron() + " --as template --template " + tpl.string());
    EXPECT_EQ(wrong.code, 3);
    EXPECT_NE(wrong.err.find("Did you mean 'JOB'"), std::string::npos) << wrong.err;
    EXPECT_EQ(cli("export " + heron() + " --as template").code, 2);
    EXPECT_EQ(cli("export " + heron() + " --as config --template " + tpl.string()).code, 2);
}

} // namespace
} // namespace conductus
