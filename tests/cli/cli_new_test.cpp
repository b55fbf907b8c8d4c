// SPDX-License-Identifier: GPL-3.0-or-later
// A job from nothing, and a part from readings, on the command line.
#include <fstream>
#include <nlohmann/json.hpp>

#include "cli/cli.h"
#include "core/job/edits.h"
#include "core/plan/start.h"
#include "files/job_json.h"
#include "support/fixtures.h"

namespace conductus {
namespace {

using PlainJson = nlohmann::json;
using test::cli;

TEST(CliNew, MakesTheJobThatTheStartSheetMakes) {
    const test::TemporaryFolder dir;
    const auto file = dir / "plover.json";
    const auto run = cli("new Plover --length 280 --bore '1.118 in' --blade 813 --cell "
                         "cell.18650-power --buttons 2 --for bout --json -o " +
                         file.string());
    ASSERT_EQ(run.code, 0) << run.err;
    for (const PlainJson& figure : PlainJson::parse(run.out).at("figures"))
        EXPECT_FALSE(figure.at("value").is_null()) << figure.dump();
    plan::Start start;
    start.length = Millimetre(280), start.bore = Millimetre(1.118 * 25.4);
    start.blade = Millimetre(813), start.cell = "cell.18650-power", start.buttons = 2;
    start.occasion = job::Occasion::bout;
    job::Job job = job::blank("Plover", job::Kind::conversion);
    ASSERT_TRUE(plan::begin_job(start, test::parts())(job));
    const auto read = files::read_job(file, test::parts());
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(*read, job);
}

TEST(CliNew, RefusesWhatCanNotBeMeantAndWritesNothing) {
    const test::TemporaryFolder dir;
    const auto file = dir / "x.json";
    for (const char* said : {"--length 10 --bore 28", "--length 280", "--cell cell.18650",
                             "--length 280 --bore 28 --cell board.small", "--bore wide"}) {
        const auto run = cli(std::string("new X ") + said + " -o " + file.string());
        EXPECT_EQ(run.code, 3) << said;
        EXPECT_NE(run.err.find("--"), std::string::npos) << run.err;
        EXPECT_FALSE(std::filesystem::exists(file));
    }
    EXPECT_EQ(cli("new X --strips 40 -o " + file.string()).code, 2);
}

TEST(CliFitPart, GivesParametersWithTheirIntervals) {
    const test::TemporaryFolder dir;
    const auto file = dir / "switch.csv";
    std::ofstream(file) << "amps,drop_mV\n1,20.3\n2,39.9\n4,80.1\n6,119.8\n";
    const auto run = cli("fit-part switch " + file.string() + " --json");
    ASSERT_EQ(run.code, 0) << run.err;
    const PlainJson found = PlainJson::parse(run.out);
    const PlainJson& ohms = found.at("parameters").at(0);
    EXPECT_EQ(ohms.at("name"), "resistance");
    EXPECT_EQ(ohms.at("unit"), "Ohm");
    EXPECT_NEAR(ohms.at("value").get<double>(), 0.02, 1e-4);
    EXPECT_LT(ohms.at("low95").get<double>(), 0.02);
    EXPECT_GT(ohms.at("high95").get<double>(), 0.02);
    EXPECT_GT(found.at("residual_mV").get<double>(), 0.05);
    EXPECT_LT(found.at("residual_mV").get<double>(), 1);

    std::ofstream(file) << "amps,drop_mV\n0,0.1\n";
    const auto few = cli("fit-part switch " + file.string());
    EXPECT_EQ(few.code, 3);
    EXPECT_NE(few.err.find("load"), std::string::npos) << few.err;
    EXPECT_EQ(cli("fit-part speaker " + file.string()).code, 2);
}

} // namespace
} // namespace conductus
