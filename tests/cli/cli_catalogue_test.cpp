// SPDX-License-Identifier: GPL-3.0-or-later
// The catalogue on the command line: list, show, check.
#include "cli/cli.h"

namespace conductus {
namespace {

using namespace test;
using files::Json;

TEST(CliCatalogue, ListsByWordsFiguresAndKind) {
    const Ran all = cli("catalogue list --json");
    ASSERT_EQ(all.code, 0) << all.err;
    EXPECT_EQ(Json::parse(all.out)["parts"].size(), parts().ids().size());
    const Ran five = cli("catalogue list 5 pins --json");
    ASSERT_EQ(five.code, 0) << five.err;
    const Json found = Json::parse(five.out)["parts"];
    ASSERT_FALSE(found.empty());
    for (const Json& part : found) {
        EXPECT_EQ(part["kind"], "connector");
        EXPECT_EQ(part["own"], false);
        EXPECT_GT(part["body"]["length_mm"].get<double>(), 0);
    }
    const Ran cells = cli("catalogue list 18650 15 A --kind cell");
    EXPECT_EQ(cells.code, 0);
    EXPECT_NE(cells.out.find("cell.18650-power"), std::string::npos);
    EXPECT_EQ(cells.out.find("adapter"), std::string::npos);
    EXPECT_EQ(cli("catalogue list --kind nonsense").code, 2);
    // Nothing that is so is an answer, too.
    EXPECT_EQ(cli("catalogue list zzzz").code, 0);
}

TEST(CliCatalogue, ShowsOneAndHelpsWithAMistypedId) {
    const Ran one = cli("catalogue show cell.18650-power");
    EXPECT_EQ(one.code, 0) << one.err;
    EXPECT_NE(one.out.find("3000"), std::string::npos);
    const Json j = Json::parse(cli("catalogue show cell.18650-power --json").out);
    EXPECT_EQ(j["id"], "cell.18650-power");
    EXPECT_EQ(j["terminals"].size(), 2u);
    const Ran none = cli("catalogue show cell.18650-powr");
    EXPECT_EQ(none.code, 3);
    EXPECT_NE(none.err.find("Did you mean 'cell.18650-power'?"), std::string::npos) << none.err;
}

TEST(CliCatalogue, ChecksAFileOfOwnParts) {
    const TemporaryFolder folder;
    const std::string file = (folder / "own.json").string();
    const auto write = [&](const std::string& capacity, const std::string& id) {
        write_file(folder / "own.json",
                   R"({"format": "conductus-catalogue", "version": 1, "parts": [{"id": ")" + id +
                       R"(", "kind": "cell", "name": "18650 cell of our own",
"body": {"shape": "cylinder", "length_mm": 65, "diameter_mm": 18.4},
"mass_g": 46, "thermal_K_per_W": 40, "terminals": ["plus", "minus"],
"cell": {"size": "18650", "capacity_mAh": )" +
                       capacity + R"(, "continuous_A": 12, "resistance_Ohm": 0.025}}]})");
    };
    write("2900", "cell.own");
    const Ran fine = cli("catalogue check " + file + " --json");
    ASSERT_EQ(fine.code, 0) << fine.err;
    EXPECT_EQ(Json::parse(fine.out)["parts"][0]["id"], "cell.own");
    EXPECT_EQ(Json::parse(fine.out)["parts"][0]["own"], true);
    write("-5", "cell.own");
    const Ran bad = cli("catalogue check " + file);
    EXPECT_EQ(bad.code, 3);
    EXPECT_NE(bad.err.find("line"), std::string::npos) << bad.err;
    EXPECT_NE(bad.err.find("capacity_mAh"), std::string::npos) << bad.err;
    write("2900", "cell.18650-power"); // an id that is taken
    EXPECT_EQ(cli("catalogue check " + file).code, 3);
    write_file(folder / "own.json", "garbage");
    EXPECT_EQ(cli("catalogue check " + file).code, 3);
    EXPECT_EQ(cli("catalogue check " + (folder / "not-there.json").string()).code, 3);
}

TEST(CliCatalogue, AnUnknownActionIsNamed) {
    const Ran ran = cli("catalogue lst");
    EXPECT_EQ(ran.code, 2);
    EXPECT_NE(ran.err.find("list"), std::string::npos) << ran.err;
}

} // namespace
} // namespace conductus
