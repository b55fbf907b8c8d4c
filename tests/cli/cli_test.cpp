// SPDX-License-Identifier: GPL-3.0-or-later
// The command line as a script would use it.
#include <set>
#include <sstream>

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
std::string heron() { return (source_dir() / "data/demo/heron.json").string(); }

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

} // namespace
} // namespace conductus
