// SPDX-License-Identifier: GPL-3.0-or-later
// Runtime, discharge, options, why.
#include <sstream>

#include "cli/cli.h"
#include "core/job/lookup.h"

namespace conductus {
namespace {

using namespace test;
using files::Json;

TEST(CliPower, RuntimeHasEveryFigureAndTheSameSeedTheSameDays) {
    const std::string command = "runtime " + demo_file("heron") + " --days 40 --seed 3 --json";
    const Ran r = cli(command);
    EXPECT_EQ(r.code, 0) << r.err;
    const Json j = Json::parse(r.out);
    for (const char* key : {"clean_min", "dim_min", "off_min", "limited_by", "first_crackle_event",
                            "cells_per_day", "storage_days", "p10", "p50", "p90"})
        EXPECT_TRUE(j.contains(key)) << key;
    EXPECT_LE(j["clean_min"], j["off_min"]);
    EXPECT_LE(j["p10"], j["p50"]);
    EXPECT_LE(j["p50"], j["p90"]);
    EXPECT_EQ(j["first_crackle_event"], "clash flash");
    EXPECT_EQ(cli(command).out, r.out);
    EXPECT_NE(
        Json::parse(
            cli("runtime " + demo_file("heron") + " --days 40 --seed 4000 --json").out)["p50"],
        j["p50"]);
    // The gauge bar says the same.
    for (const Json& f : Json::parse(cli("plan " + demo_file("heron") + " --json").out)["figures"])
        if (f["id"] == "first-crackle") {
            EXPECT_NEAR(f["value"].get<double>(), j["clean_min"].get<double>(), 1e-9);
        }
    const Json fair = Json::parse(
        cli("runtime " + demo_file("heron") + " --use \"quay fair\" --days 5 --json").out);
    EXPECT_EQ(fair["use"], "quay fair");
    EXPECT_NE(fair["clean_min"], j["clean_min"]);
    const Ran none = cli("runtime " + demo_file("heron") + " --use regatta --json");
    EXPECT_EQ(none.code, 3);
    EXPECT_NE(none.err.find("quay fair"), std::string::npos);
    EXPECT_EQ(cli("runtime " + demo_file("heron") + " --days 0").code, 2);
}

TEST(CliPower, DischargeIsACsvWhoseColumnsBalance) {
    TemporaryFolder folder;
    const auto path = folder / "run.csv";
    const Ran r =
        cli("discharge " + demo_file("dunlin") + " --use \"bout evening\" -o " + path.string());
    EXPECT_EQ(r.code, 0) << r.err;
    std::istringstream lines(read_file(path));
    std::string line;
    std::getline(lines, line);
    EXPECT_EQ(line.substr(0, line.find('\r')),
              "time_s,state,charge,ocv_V,cell_V,board_V,audio_V,pixel_V,tip,amps_A,"
              "temperature_degC,taken_mAh,drawn_J,loads_J,losses_J,mark");
    double taken = 0, last_time = 0, last_amps = 0, told = 0, drawn = 0, given = 0;
    bool crackled = false;
    for (bool first = true; std::getline(lines, line); first = false) {
        std::vector<std::string> cells;
        std::istringstream row(line);
        for (std::string cell; std::getline(row, cell, ',');)
            cells.push_back(cell);
        ASSERT_GE(cells.size(), 15u) << line;
        const double time = std::stod(cells[0]), amps = std::stod(cells[9]);
        if (!first) taken += (amps + last_amps) / 2 * (time - last_time) / 3.6;
        last_time = time, last_amps = amps;
        told = std::stod(cells[11]);
        drawn = std::stod(cells[12]);
        given = std::stod(cells[13]) + std::stod(cells[14]);
        crackled |= cells.size() > 15 && cells[15].find("first crackle") != std::string::npos;
    }
    EXPECT_NEAR(taken / told, 1, 1e-6);
    EXPECT_NEAR(given / drawn, 1, 1e-6);
    EXPECT_TRUE(crackled);
    EXPECT_EQ(cli("discharge " + demo_file("dunlin") + " -o /nowhere/at/all.csv").code, 3);
}

TEST(CliPower, OptionsWhyAndCapAnswer) {
    const Json o = Json::parse(cli("options " + demo_file("dunlin") + " --json").out);
    EXPECT_EQ(o["options"][0]["fitted"], true);
    for (const Json& option : o["options"])
        for (const char* key : {"cell", "clean_min", "crackle_margin_V", "spares_per_day",
                                "clearance_mm", "mass_g", "price", "best", "changes"})
            ASSERT_TRUE(option.contains(key)) << key;
    const Json w = Json::parse(cli("why " + demo_file("heron") + " first-crackle --json").out);
    EXPECT_FALSE(w["parts"].empty());
    EXPECT_FALSE(w["sensitivity"].empty());
    EXPECT_FALSE(w["formula"].get<std::string>().empty());
    const Ran typo = cli("why " + demo_file("heron") + " first-crakle");
    EXPECT_EQ(typo.code, 3);
    EXPECT_NE(typo.err.find("first-crackle"), std::string::npos);
    const Json c = Json::parse(cli("cap " + demo_file("heron") + " --for 90 --json").out);
    EXPECT_EQ(c["reached"], true);
    EXPECT_NEAR(c["clean_min"].get<double>(), 90, 0.2);
    // Written into the job, the cap does what it says.
    TemporaryFolder folder;
    job::Job job = demo("heron");
    job::find_name(job.looks, c["look"].get<std::string>())->cap = c["cap"];
    const Json then = Json::parse(cli("runtime " + job_file(folder, job) + " --days 1 --json").out);
    EXPECT_NEAR(then["clean_min"].get<double>(), c["clean_min"].get<double>(), 1e-9);
    EXPECT_NE(cli("cap " + demo_file("heron") + " --for 9000").out.find("not to be had"),
              std::string::npos);
    EXPECT_EQ(cli("cap " + demo_file("heron")).code, 2);
}

TEST(CliPower, ATransientIsExportedWithTheCellsInIt) {
    TemporaryFolder folder;
    const auto path = folder / "net.cir";
    EXPECT_EQ(
        cli("export " + demo_file("heron") + " --as spice --seconds 60 -o " + path.string()).code,
        0);
    const std::string text = read_file(path);
    EXPECT_NE(text.find(".tran"), std::string::npos);
    EXPECT_NE(text.find("b1_soc"), std::string::npos);
    EXPECT_NE(text.find("pwl("), std::string::npos);
}

} // namespace
} // namespace conductus
