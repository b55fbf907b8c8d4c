// SPDX-License-Identifier: GPL-3.0-or-later
// The command line as a script would use it.
#include <set>
#include <sstream>

#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "files/job_json.h"
#include "shop/book.h"
#include "support/fixtures.h"

namespace conductus {
namespace {

using namespace test;
using files::Json;

Ran cli(const std::string& arguments) {
    return run((bin_dir() / "conductus-cli").string() + " " + arguments);
}
std::string demo_file(const std::string& name) {
    return (source_dir() / "data/demo" / (name + ".json")).string();
}
std::string heron() { return demo_file("heron"); }

std::string job_file(const TemporaryFolder& folder, const job::Job& job) {
    write_file(folder / "job.json", files::job_text(job));
    return (folder / "job.json").string();
}

TEST(Cli, PlanGivesFiguresAndFindings) {
    const Ran ran = cli("plan --json " + heron());
    EXPECT_EQ(ran.code, 1) << "Heron's pins say stop";
    const Json j = Json::parse(ran.out);
    ASSERT_EQ(j["figures"].size(), 8u);
    for (const auto& f : j["figures"]) {
        EXPECT_TRUE(f["id"].is_string() && f["unit"].is_string());
        EXPECT_TRUE(f["value"].is_number());
    }
    bool pins = false;
    for (const auto& f : j["findings"]) {
        for (const char* key : {"id", "severity", "where", "text"})
            EXPECT_TRUE(f.contains(key)) << key;
        pins |= f["id"] == "pins.over-current" && f["severity"] == "stop";
    }
    EXPECT_TRUE(pins);
}

TEST(Cli, PlainTextReadsLikeAPerson) {
    const Ran plan = cli("plan " + heron());
    EXPECT_NE(plan.out.find("first-crackle"), std::string::npos);
    EXPECT_NE(plan.out.find("to first crackle"), std::string::npos);
    EXPECT_NE(plan.out.find("fix: fit a hilt connector"), std::string::npos);
    const Ran solve = cli("solve " + heron());
    EXPECT_NE(solve.out.find("117 pixels"), std::string::npos);
    EXPECT_NE(solve.out.find("solved in"), std::string::npos);
    EXPECT_EQ(solve.err, "");
}

TEST(Cli, FindsItsDataWhereItIsTold) {
    TemporaryFolder folder;
    std::filesystem::copy(source_dir() / "data", folder / "elsewhere",
                          std::filesystem::copy_options::recursive);
    EXPECT_EQ(run("CONDUCTUS_DATA=" + (folder / "elsewhere").string() + " " +
                  (bin_dir() / "conductus-cli").string() + " check " + heron())
                  .code,
              1);
    // A copy of the program far from its data says what to do.
    std::filesystem::copy(bin_dir() / "conductus-cli", folder / "conductus-cli");
    const Ran lost = run((folder / "conductus-cli").string() + " check " + heron());
    EXPECT_EQ(lost.code, 3);
    EXPECT_NE(lost.err.find("CONDUCTUS_DATA"), std::string::npos);
}

TEST(Cli, NullFiguresHaveAReason) {
    TemporaryFolder folder;
    job::Job job = demo("heron");
    job.wires.clear();
    const Json j = Json::parse(cli("plan --json " + job_file(folder, job)).out);
    int nulls = 0;
    for (const auto& f : j["figures"])
        if (f["value"].is_null()) {
            ++nulls;
            EXPECT_FALSE(f["reason"].get<std::string>().empty());
        }
    EXPECT_EQ(nulls, 7);
}

TEST(Cli, CheckExitsByTheWorstFinding) {
    TemporaryFolder folder;
    EXPECT_EQ(cli("check " + heron()).code, 1);
    const Ran fine = cli("check " + job_file(folder, clean_job()));
    EXPECT_EQ(fine.code, 0);
    EXPECT_NE(fine.out.find("note"), std::string::npos);
    EXPECT_TRUE(Json::parse(cli("check --json " + heron()).out)["findings"].is_array());
}

TEST(Cli, SolveBothWays) {
    const Json a = Json::parse(cli("solve --json --look Moonrise --soc 0.4 " + heron()).out);
    const Json b =
        Json::parse(cli("solve --json --exact --look Moonrise --soc 0.4 " + heron()).out);
    EXPECT_NEAR(a["cell"]["ocv_V"].get<double>(), 3.64, 1e-9);
    EXPECT_GT(a["cell"]["amps"].get<double>(), 0.5);
    EXPECT_LT(a["cell"]["volts"].get<double>(), 3.64);
    EXPECT_EQ(a["nodes"].size(), b["nodes"].size());
    for (const auto& [node, volts] : a["nodes"].items())
        EXPECT_NEAR(volts.get<double>(), b["nodes"][node].get<double>(), 1e-6) << node;
    ASSERT_EQ(a["strips"].size(), 2u);
    EXPECT_EQ(a["strips"][0]["pixel_volts"].size(), 117u);
    EXPECT_TRUE(a["strips"][0]["name"].is_string());
    EXPECT_GT(a["solve_us"].get<double>(), 0);
}

TEST(Cli, LookAndChargeHaveDefaults) {
    const Json a = Json::parse(cli("solve --json " + heron()).out);
    const Json b =
        Json::parse(cli("solve --json --look Tidewater --soc 1.0 --repeat 50 " + heron()).out);
    EXPECT_EQ(a["nodes"], b["nodes"]);
}

TEST(Cli, ExportedNetlistHasTheNodesOfSolve) {
    TemporaryFolder folder;
    const auto net = (folder / "net.cir").string();
    ASSERT_EQ(cli("export " + heron() + " --as spice --look Dusk --soc 0.7 -o " + net).code, 0);
    const Ran ran = run("ngspice -b " + net);
    EXPECT_EQ(ran.code, 0);
    const Json j = Json::parse(cli("solve --json --look Dusk --soc 0.7 " + heron()).out);
    std::set<std::string> printed;
    std::istringstream lines(ran.out);
    for (std::string line; std::getline(lines, line);) {
        std::istringstream words(line);
        std::string node;
        words >> node;
        printed.insert(node);
    }
    for (const auto& [node, volts] : j["nodes"].items())
        EXPECT_TRUE(printed.contains(node)) << node;
}

TEST(Cli, UsageIsTwo) {
    for (const char* wrong :
         {"", "plan", "fly ", "solve --soc 2 x.json", "solve --repeat 0 x.json",
          "export x.json --as word -o y", "export x.json -o y", "plan --nonsense x.json"})
        EXPECT_EQ(cli(wrong).code, 2) << wrong;
    EXPECT_EQ(cli("--help").code, 0);
}

TEST(Cli, BadInputIsThreeWithOneLine) {
    TemporaryFolder folder;
    write_file(folder / "empty.json", "");
    write_file(folder / "cut.json", read_file(heron()).substr(0, 900));
    write_file(folder / "large.json", std::string(50u << 20, 'x'));
    std::string negative = read_file(heron());
    negative.replace(negative.find("\"length_mm\": 813"), 16, "\"length_mm\": -81");
    write_file(folder / "negative.json", negative);
    std::string unknown = read_file(heron());
    unknown.replace(unknown.find("kill.slide-5a"), 13, "kill.slide-9a");
    write_file(folder / "unknown.json", unknown);
    write_file(folder / "garbage.book", std::string(5000, 'g'));
    for (const std::string name : {"empty.json", "cut.json", "large.json", "negative.json",
                                   "unknown.json", "none.json", "Heron@garbage.book"}) {
        const auto at = name.find('@');
        const std::string job =
            at == std::string::npos
                ? (folder / name).string()
                : name.substr(0, at + 1) + (folder / name.substr(at + 1)).string();
        for (const std::string command : {"plan ", "check ", "solve "}) {
            const Ran ran = cli(command + job);
            EXPECT_EQ(ran.code, 3) << command << name;
            EXPECT_EQ(std::count(ran.err.begin(), ran.err.end(), '\n'), 1) << ran.err;
            EXPECT_TRUE(ran.out.empty());
        }
    }
    EXPECT_EQ(cli("solve --look Nowhere " + heron()).code, 3);
    EXPECT_EQ(cli("export " + heron() + " --as spice -o /no/such/place/x.cir").code, 3);
}

TEST(Cli, ReadsAJobOfABookWhileItIsOpen) {
    TemporaryFolder folder;
    const auto path = folder / "shop.book";
    ASSERT_TRUE(*shop::make_demo_book(path, source_dir() / "data/demo", parts()));
    auto open = shop::Book::open(path, shop::Access::read_write);
    const Json from_book = Json::parse(cli("solve --json Heron@" + path.string()).out);
    const Json from_file = Json::parse(cli("solve --json " + heron()).out);
    EXPECT_EQ(from_book["nodes"], from_file["nodes"]);
    EXPECT_EQ(cli("plan Nobody@" + path.string()).code, 3);
}

TEST(Cli, BriefSaysWhatIsDoneAndWhatHolds) {
    TemporaryFolder folder;
    const Ran ran = cli("brief --json " + (source_dir() / "data/demo/dunlin.json").string());
    EXPECT_EQ(ran.code, 0);
    const Json j = Json::parse(ran.out);
    ASSERT_EQ(j["wishes"].size(), 5u);
    for (const auto& w : j["wishes"]) {
        EXPECT_TRUE(w["text"].is_string() && w["by"].is_string());
        EXPECT_TRUE(w["state"] == "done" || w["state"] == "open");
    }
    ASSERT_EQ(j["agreements"].size(), 3u);
    const Json& hour = j["agreements"][0];
    EXPECT_EQ(hour["agreed_value"], 60);
    EXPECT_NEAR(hour["now"].get<double>(), 42.5, 1);
    EXPECT_EQ(hour["holds"], false);
    EXPECT_EQ(j["agreements"][1]["agreed_value"], "18350 cell, 1100 mAh");
    EXPECT_EQ(j["agreements"][1]["holds"], true);
    // A larger cell keeps the hour, and breaks the agreement about the cell.
    job::Job job = demo("dunlin");
    job::find_ref(job.parts, "B1")->type = "cell.26650";
    const Json after = Json::parse(cli("brief --json " + job_file(folder, job)).out);
    EXPECT_EQ(after["agreements"][0]["holds"], true);
    EXPECT_EQ(after["agreements"][1]["holds"], false);
    const Ran plain = cli("brief " + (source_dir() / "data/demo/dunlin.json").string());
    EXPECT_NE(plain.out.find("broken  An hour of the ferry scene"), std::string::npos);
    EXPECT_NE(plain.out.find("done Beacon blue"), std::string::npos);
}

TEST(Cli, DiffSpeaksInWords) {
    TemporaryFolder folder;
    job::Job job = demo("heron");
    job::fit_type("B1", "cell.18350")(job);
    const Ran ran = cli("diff --json " + heron() + " " + job_file(folder, job));
    EXPECT_EQ(ran.code, 0);
    const Json j = Json::parse(ran.out);
    ASSERT_FALSE(j["changes"].empty());
    bool cell = false;
    for (const auto& c : j["changes"])
        cell |= c["path"] == "/parts/B1/type" &&
                c["text"] == "cell B1: 18650 power cell, 3000 mAh → 18350 cell, 1100 mAh";
    EXPECT_TRUE(cell);
    bool clean = false;
    for (const auto& f : j["figures"])
        clean |= f["id"] == "first-crackle" && f["after"] < f["before"];
    EXPECT_TRUE(clean);
    EXPECT_EQ(j["agreements"].size(), 1u);
    EXPECT_EQ(cli("diff " + heron() + " " + heron()).out, "no difference\n");
    EXPECT_EQ(cli("diff " + heron() + " nothing.json").code, 3);
}

TEST(Cli, ShopListsFindsAndMoves) {
    TemporaryFolder folder;
    const std::string book = (folder / "shop.book").string();
    EXPECT_EQ(cli("shop " + book + " list").code, 3) << "looking makes no book";
    EXPECT_FALSE(std::filesystem::exists(book));
    write_file(folder / "bad.json", "{");
    EXPECT_EQ(cli("shop " + book + " import " + (folder / "bad.json").string()).code, 3);
    EXPECT_FALSE(std::filesystem::exists(book)) << "nor does a file that is refused";
    for (const auto& file : std::filesystem::directory_iterator(source_dir() / "data/demo"))
        EXPECT_EQ(cli("shop " + book + " import " + file.path().string()).code, 0);

    const Json list = Json::parse(cli("shop " + book + " list --json").out);
    ASSERT_EQ(list["jobs"].size(), 6u);
    for (const char* key : {"name", "kind", "stage", "promised", "purpose"})
        EXPECT_TRUE(list["jobs"][0][key].is_string()) << key;
    EXPECT_EQ(cli("shop " + book + " list --csv").out.find("name,kind"), 0u);
    const Json hits = Json::parse(cli("shop " + book + " find swollen cell --json").out);
    ASSERT_EQ(hits["jobs"].size(), 1u);
    EXPECT_EQ(hits["jobs"][0]["name"], "Curlew");

    const std::string out = (folder / "out").string(), copy = (folder / "copy.book").string();
    EXPECT_EQ(Json::parse(cli("shop " + book + " export " + out + " --json").out)["exported"], 6);
    EXPECT_EQ(cli("shop " + book + " export " + out).code, 3) << "never over something";
    EXPECT_EQ(cli("shop " + book + " backup " + copy).code, 0);
    EXPECT_EQ(cli("shop " + book + " backup " + copy).code, 0) << "an older backup is replaced";
    write_file(folder / "mine.txt", "mine");
    EXPECT_EQ(cli("shop " + book + " backup " + (folder / "mine.txt").string()).code, 3);
    EXPECT_EQ(read_file(folder / "mine.txt"), "mine");
    EXPECT_EQ(
        Json::parse(cli("shop " + book + " import " + out + " --json").out)["imported"].size(), 6u);
    EXPECT_EQ(Json::parse(cli("shop " + book + " list --json").out)["jobs"].size(), 12u);
    EXPECT_EQ(cli("shop " + book + " restore " + copy).code, 0);
    EXPECT_EQ(Json::parse(cli("shop " + book + " list --json").out)["jobs"].size(), 6u);
    EXPECT_EQ(Json::parse(cli("shop " + book + " verify --json").out)["sound"], true);
    EXPECT_EQ(cli("brief --json Heron@" + book).code, 0);

    std::string bytes = read_file(book);
    for (std::size_t i = 8192; i < bytes.size(); i += 53)
        bytes[i] = static_cast<char>(~bytes[i]);
    write_file(book, bytes);
    const Ran damaged = cli("shop " + book + " verify --json");
    EXPECT_EQ(damaged.code, 3);
    EXPECT_FALSE(damaged.err.empty());
    EXPECT_EQ(cli("shop " + book + " restore " + copy).code, 0);
    EXPECT_EQ(cli("shop " + book + " verify").code, 0);
    EXPECT_EQ(cli("shop " + book).code, 2) << "what should it do?";
    EXPECT_EQ(cli("shop " + book + " find").code, 2);
}

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
    // What is wrong with it is said with its file; the shipped ids can not be taken.
    file["parts"][0]["id"] = "cell.18350";
    write_file(own / "mine.json", file.dump());
    const Ran r = with("fit " + demo_file("heron"));
    EXPECT_EQ(r.code, 3);
    EXPECT_NE(r.err.find("mine.json"), std::string::npos) << r.err;
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
        Json::parse(cli("runtime " + demo_file("heron") + " --days 40 --seed 4 --json").out)["p50"],
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

TEST(CliHarness, SaysEveryWirePinTwistAndMismatch) {
    const Ran ran = cli("harness --json " + heron());
    ASSERT_EQ(ran.code, 0) << ran.err;
    const Json j = Json::parse(ran.out);
    ASSERT_EQ(j["wires"].size(), 11u);
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
    EXPECT_EQ(read->wires.size(), 11u);
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
    EXPECT_EQ(j["missing"].size(), 11u);
    EXPECT_EQ(Json::parse(cli("harness --derive --json " + file).out)["wires"].size(), 11u);
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
