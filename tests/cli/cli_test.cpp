// SPDX-License-Identifier: GPL-3.0-or-later
// The command line as a script would use it.
#include <set>
#include <sstream>

#include "cli/cli.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "shop/book.h"

namespace conductus {
namespace {

using namespace test;
using files::Json;

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

TEST(Cli, MendsAndAcceptsAJobWithItsMilestones) {
    TemporaryFolder folder;
    const std::string out = (folder / "mended.json").string();
    const Ran ran = cli("mend " + heron() + " pins.over-current -o " + out);
    EXPECT_EQ(ran.code, 0) << ran.err;
    EXPECT_EQ(Json::parse(read_file(out))["milestones"],
              Json::parse(read_file(heron()))["milestones"]);
    EXPECT_EQ(cli("check " + out).code, 0);
}

TEST(Cli, AcceptsAFindingForAReason) {
    TemporaryFolder folder;
    const std::string out = (folder / "accepted.json").string();
    const Ran ran = cli("accept " + heron() +
                        " pins.over-current --why 'The pins are changed at "
                        "the next service' -o " +
                        out);
    EXPECT_EQ(ran.code, 0) << ran.err;
    EXPECT_NE(ran.out.find("accepted"), std::string::npos);
    const Ran plan = cli("plan --json " + out);
    EXPECT_EQ(plan.code, 0) << "its only stop is accepted";
    bool told = false;
    const Json planned = Json::parse(plan.out);
    for (const auto& f : planned["findings"])
        if (f["id"] == "pins.over-current") {
            told = true;
            EXPECT_EQ(f["accepted"]["why"], "The pins are changed at the next service");
            EXPECT_EQ(f["accepted"]["on"].get<std::string>().size(), 10u);
        }
    EXPECT_TRUE(told);
    EXPECT_EQ(cli("check " + out).code, 0);
    EXPECT_NE(cli("check " + out).out.find("accepted"), std::string::npos);

    const std::string cautions = (folder / "cautions.json").string();
    EXPECT_EQ(cli("accept " + heron() + " cell.lithium-cautions --why read -o " + cautions).code,
              0);
    const Json checked = Json::parse(cli("check --json " + cautions).out);
    for (const auto& f : checked["findings"])
        EXPECT_EQ(f.contains("acknowledged"), f["id"] == "cell.lithium-cautions");

    for (const char* wrong :
         {"no.such --why so", "pins.over-current --why ' '",
          "pins.over-current --about U9 --why so", "blade.dims-early --why so"}) {
        const Ran refused = cli("accept " + heron() + " " + wrong + " -o " + out + ".not");
        EXPECT_EQ(refused.code, 3) << wrong;
        EXPECT_FALSE(std::filesystem::exists(out + ".not")) << wrong;
    }
}

TEST(Cli, PlansTheSetThatIsMatedAndTheWorst) {
    TemporaryFolder folder;
    job::Job job = test::demo("heron");
    job::Blade other = job.blades[0];
    other.ref = "BL2";
    for (job::Strip& s : other.strips)
        s.ref = "S" + s.ref, s.pixels += 20, s.length = s.length + Millimetre(100);
    other.length = other.length + Millimetre(100);
    job.blades.push_back(other);
    const std::string file = job_file(folder, job);
    const auto figure = [](const Json& j, const char* key) -> double {
        for (const auto& f : j["figures"])
            if (f["id"] == "peak-current") return f.contains(key) ? f[key].get<double>() : -1;
        return -1;
    };
    const Json now = Json::parse(cli("plan --json " + file).out);
    EXPECT_EQ(now["mated"][0]["blade"], "BL1");
    EXPECT_EQ(now["worst_mated"][0]["blade"], "BL2");
    const Json worst = Json::parse(cli("plan --mated worst --json " + file).out);
    EXPECT_EQ(worst["mated"][0]["blade"], "BL2");
    EXPECT_NEAR(figure(worst, "value"), figure(now, "worst"), 1e-9);
    EXPECT_EQ(Json::parse(cli("plan --mated P1=BL2 --json " + file).out)["figures"],
              worst["figures"]);
    EXPECT_LT(figure(Json::parse(cli("plan --mated P1= --json " + file).out), "value"), 1);
    EXPECT_EQ(cli("plan --mated P1=BL9 " + file).code, 3);
    EXPECT_EQ(cli("plan --mated P1 " + file).code, 3);
    // What is solved is what is planned.
    const Json peak = Json::parse(cli("solve --state worst --mated P1=BL2 --json " + file).out);
    EXPECT_NEAR(peak["cell"]["amps"].get<double>(), figure(worst, "value"), 1e-6);
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

} // namespace
} // namespace conductus
