// SPDX-License-Identifier: GPL-3.0-or-later
// Wires in and out, sized, matched.
#include "cli/cli.h"

namespace conductus {
namespace {

using namespace test;
using files::Json;

TEST(CliHarness, SaysEveryWirePinTwistAndMismatch) {
    const Ran ran = cli("harness --json " + heron());
    ASSERT_EQ(ran.code, 0) << ran.err;
    const Json j = Json::parse(ran.out);
    ASSERT_EQ(j["wires"].size(), 13u);
    double total = 0;
    for (const auto& w : j["wires"]) {
        for (const char* key : {"ref", "from", "to", "role", "gauge_awg", "length_mm", "amps",
                                "drop_mV", "rise_K", "colour"})
            EXPECT_TRUE(w.contains(key)) << key;
        total += w["length_mm"].get<double>();
    }
    EXPECT_NEAR(j["total_mm"], total, 1e-6);
    EXPECT_TRUE(j["coil"]["needs_mm3"].is_number() && j["coil"]["has_mm3"].is_number());
    ASSERT_EQ(j["twist"].size(), 2u);
    for (const auto& t : j["twist"]) {
        EXPECT_EQ(t["turns"], t["pretwist"]);
        EXPECT_TRUE(t["hand"] == "left" || t["hand"] == "right");
    }
    ASSERT_EQ(j["pins"].size(), 3u);
    for (const auto& p : j["pins"])
        EXPECT_EQ(p["rated_A"], 3.0);
    EXPECT_EQ(j["data"][0]["pad"], "U1.d1");
    EXPECT_TRUE(j["mismatches"].empty());
    // What solve says of the same state.
    const Json solved = Json::parse(cli("solve --json --state \"clash flash\" " + heron()).out);
    const double drop =
        solved["nodes"]["b1_plus"].get<double>() - solved["nodes"]["k1_in"].get<double>();
    for (const auto& w : j["wires"])
        if (w["ref"] == "W1") {
            EXPECT_NEAR(w["drop_mV"].get<double>(), drop * 1e3, 1e-6);
        }
    EXPECT_EQ(cli("harness nowhere.json").code, 3);
}

TEST(CliHarness, WiresComeInBySpreadsheetAndOutAsALists) {
    TemporaryFolder folder;
    const std::string list = (folder / "cut.csv").string(), job = (folder / "job.json").string();
    ASSERT_EQ(cli("export --as cutlist -o " + list + " " + heron()).code, 0);
    ASSERT_EQ(cli("harness --wires " + list + " -o " + job + " " + heron()).code, 0);
    const auto read = files::read_job(job, parts());
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read->wires.size(), 13u);
    write_file(folder / "bad.csv", "ref,from,to\nW1,B1.plus,K1.inn\nW1,B1.plus,K1.in\n");
    const Ran bad = cli("harness --wires " + (folder / "bad.csv").string() + " " + heron());
    EXPECT_EQ(bad.code, 3);
    EXPECT_NE(bad.err.find("line 2, column 12"), std::string::npos) << bad.err;
    EXPECT_NE(bad.err.find("line 3, column 1"), std::string::npos);
    // From nothing: the parts say what is needed.
    job::Job bare = demo("heron");
    bare.wires.clear();
    const std::string file = job_file(folder, bare);
    const Json j = Json::parse(cli("harness --json " + file).out);
    EXPECT_EQ(j["wires"].size(), 0u);
    EXPECT_EQ(j["missing"].size(), 13u);
    EXPECT_EQ(Json::parse(cli("harness --derive --json " + file).out)["wires"].size(), 13u);
    EXPECT_NE(cli("export --as labels " + heron()).out.find("<svg"), std::string::npos);
    const Json config = Json::parse(cli("export --as config " + heron()).out);
    EXPECT_EQ(config["format"], "conductus-config");
    EXPECT_EQ(config["lines"][0]["pixels"], 117);
    EXPECT_EQ(cli("export --as spice " + heron()).code, 2);
}

TEST(CliHarness, SizesUnderABudget) {
    const Ran ran = cli("size-wires --json --budget-mV 80 " + heron());
    ASSERT_EQ(ran.code, 0) << ran.err;
    const Json j = Json::parse(ran.out);
    EXPECT_TRUE(j["reached"]);
    EXPECT_LE(j["drop_mV"], 80.0 + 1e-6);
    EXPECT_EQ(j["wires"].size(), 6u);
    EXPECT_FALSE(Json::parse(cli("size-wires --json --budget-mV 1 " + heron()).out)["reached"]);
    EXPECT_EQ(cli("size-wires --budget-mV 0 " + heron()).code, 2);
    EXPECT_NE(cli("size-wires --budget-mV 80 " + heron()).out.find("AWG"), std::string::npos);
}

} // namespace
} // namespace conductus
