// SPDX-License-Identifier: GPL-3.0-or-later
// What goes in, in which order, and what it lights.
#include "cli/cli.h"
#include "core/job/lookup.h"

namespace conductus {
namespace {

using namespace test;
using files::Json;

TEST(CliFit, SaysWhatGoesInAndInWhichOrder) {
    const Ran r = cli("fit " + demo_file("heron") + " --json");
    EXPECT_EQ(r.code, 0) << r.err;
    const Json j = Json::parse(r.out);
    EXPECT_NEAR(j["tightest"]["clearance_mm"].get<double>(), 2.719, 0.001);
    EXPECT_EQ(j["tightest"]["between"], (Json{"U1", "ring"}));
    ASSERT_EQ(j["passes"].size(), 3u);
    EXPECT_EQ(j["passes"][0]["carrier"], "C1");
    EXPECT_EQ(j["passes"][0]["ok"], true);
    EXPECT_EQ(j["passes"][0]["binds_at_mm"], nullptr);
    std::size_t single = 0; // packs of two in a row are no alternative
    for (const auto* type : parts().all<catalogue::Cell>())
        single += std::get<catalogue::Cell>(type->figures).series == 1;
    EXPECT_EQ(j["cells"].size(), single);
    for (const Json& cell : j["cells"])
        EXPECT_TRUE(cell["fits"].is_boolean() && cell["passes"].is_boolean() &&
                    cell["spare_mm"].is_number() && cell["limit_at_mm"].is_number());
    EXPECT_GT(j["assembly"].size(), 6u);
    for (const Json& step : j["assembly"])
        EXPECT_TRUE(step["step"].is_string() && step["why"].is_string());
    for (const char* what : {"cell", "card", "data_port", "kill", "blade"}) {
        EXPECT_TRUE(j["access"][what]["steps"].is_number()) << what;
        EXPECT_TRUE(j["access"][what]["keys"].is_array()) << what;
    }
    EXPECT_GT(j["cavity_ml"].get<double>(), 10);
    EXPECT_GT(j["mass_g"].get<double>(), 100);
    EXPECT_GT(j["balance_mm"].get<double>(), 10);
    EXPECT_NE(cli("fit " + demo_file("heron")).out.find("left-hand"), std::string::npos);
}

TEST(CliLights, TellsLooksLinesResistorsAndBothWaysOfBuilding) {
    const Json bittern = Json::parse(cli("lights " + demo_file("bittern") + " --json").out);
    EXPECT_GE(bittern["looks"].size(), 12u);
    for (const Json& look : bittern["looks"])
        for (const char* key : {"mean_A", "peak_A", "base_V", "tip_V", "tip_brightness",
                                "tint_shift", "white_arithmetic_A"})
            EXPECT_TRUE(look[key].is_number()) << look["name"] << " " << key;
    ASSERT_EQ(bittern["chains"].size(), 1u);
    EXPECT_EQ(bittern["chains"][0]["line"], "U1.d1");
    EXPECT_TRUE(bittern["led_die_C"].is_null());
    const Json curlew = Json::parse(cli("lights " + demo_file("curlew") + " --json").out);
    ASSERT_EQ(curlew["variants"].size(), 1u);
    EXPECT_EQ(curlew["variants"][0]["name"], "LED in the hilt");
    EXPECT_GT(curlew["variants"][0]["led_die_C"].get<double>(), 40);
    EXPECT_FALSE(curlew["variants"][0]["resistors"].empty());
    const Json godwit = Json::parse(cli("lights " + demo_file("godwit") + " --json").out);
    int rows = 0;
    for (const Json& r : godwit["resistors"])
        rows += r["led"] == "LS1" && r["fitted_Ohm"] == 100;
    EXPECT_EQ(rows, 7) << godwit["resistors"].dump(1);
    EXPECT_EQ(cli("lights " + demo_file("heron") + "x --json").code, 3);
}

TEST(CliFit, TriesTheShopsOwnCells) {
    TemporaryFolder folder;
    const auto own = folder.path() / "conductus" / "catalogue";
    std::filesystem::create_directories(own);
    const auto with = [&](const std::string& arguments) {
        return run("XDG_DATA_HOME=" + folder.path().string() + " " +
                   (bin_dir() / "conductus-cli").string() + " " + arguments);
    };
    const std::size_t shipped =
        Json::parse(with("fit " + demo_file("heron") + " --json").out)["cells"].size();
    Json file = Json::parse(read_file(source_dir() / "data/catalogue/cells.json"));
    Json cell = file["parts"][0];
    cell["id"] = "cell.own-thin";
    cell["body"]["diameter_mm"] = 10;
    file["parts"] = Json::array({cell});
    write_file(own / "mine.json", file.dump());
    const Json cells = Json::parse(with("fit " + demo_file("heron") + " --json").out)["cells"];
    ASSERT_EQ(cells.size(), shipped + 1);
    EXPECT_EQ(cells.back()["type"], "cell.own-thin");
    EXPECT_EQ(cells.back()["passes"], true);
    // The shipped ids can not be taken: that file is left out, and said with its line.
    file["parts"][0]["id"] = "cell.18350";
    write_file(own / "mine.json", file.dump());
    const Ran r = with("fit " + demo_file("heron") + " --json");
    EXPECT_NE(r.code, 3);
    EXPECT_EQ(Json::parse(r.out)["cells"].size(), shipped);
    EXPECT_NE(r.err.find("mine.json, line"), std::string::npos) << r.err;
}

TEST(CliFit, ABindingCarrierIsToldAndStops) {
    TemporaryFolder folder;
    job::Job job = demo("dunlin");
    job::find_name(job.hilt.sections, "ring")->bore = Millimetre(18);
    const Ran r = cli("fit " + job_file(folder, job) + " --json");
    EXPECT_EQ(r.code, 1);
    const Json c1 = Json::parse(r.out)["passes"][0];
    EXPECT_EQ(c1["ok"], false);
    EXPECT_NEAR(c1["by_mm"].get<double>(), 18.3 + 2.4 - 18, 1e-9);
    EXPECT_GE(c1["binds_at_mm"].get<double>(), 8);
    EXPECT_LE(c1["binds_at_mm"].get<double>(), 12);
    EXPECT_EQ(c1["part"], "B1");
}

TEST(CliArrange, RanksOrSaysWhatWouldDo) {
    const Json j = Json::parse(cli("arrange " + demo_file("dunlin") + " --json").out);
    ASSERT_FALSE(j["arrangements"].empty());
    EXPECT_EQ(j["arrangements"][0]["rank"], 1);
    EXPECT_EQ(j["arrangements"][0]["parts"][0]["ref"], "SP1");
    TemporaryFolder folder;
    job::Job job = demo("dunlin");
    job::find_name(job.hilt.sections, "ring")->bore = Millimetre(16);
    const Ran r = cli("arrange " + job_file(folder, job) + " --json");
    EXPECT_EQ(r.code, 1);
    const Json none = Json::parse(r.out)["impossible"];
    EXPECT_GT(none["by_mm"].get<double>(), 0);
    EXPECT_FALSE(none["remedies"].empty());
}

} // namespace
} // namespace conductus
