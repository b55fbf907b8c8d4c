// SPDX-License-Identifier: GPL-3.0-or-later
// Wires in and out of tables; the configuration sheet.
#include "files/configuration.h"
#include "files/cut_list.h"
#include "files/wires_csv.h"

#include "core/job/lookup.h"
#include "support/planted.h"

namespace conductus::harness {
namespace {

using namespace test;
using files::cutlist_csv;
using files::read_wires_csv;

TEST(WiresCsv, TheCutListReadBackIsTheSameHarness) {
    for (const char* name : demo_jobs) {
        const job::Job job = demo(name);
        const plan::Plan plan = plan_of(job);
        const auto read = read_wires_csv(cutlist_csv(plan.harness), job, parts(), name);
        ASSERT_TRUE(read.problems.empty()) << read.problems.front().text();
        ASSERT_EQ(read.wires.size(), job.wires.size());
        for (std::size_t i = 0; i < read.wires.size(); ++i) {
            EXPECT_EQ(read.wires[i].ref, job.wires[i].ref);
            EXPECT_EQ(read.wires[i].from, job.wires[i].from);
            EXPECT_EQ(read.wires[i].to, job.wires[i].to);
            EXPECT_EQ(read.wires[i].role, job.wires[i].role);
            EXPECT_EQ(read.wires[i].gauge, job.wires[i].gauge);
            EXPECT_NEAR(read.wires[i].length->value(), plan.harness.wires[i].length.value(), 1);
        }
    }
}

TEST(WiresCsv, PiecesOfADockedWireAreOneWireAgain) {
    job::Job job = docked_heron();
    job::find_ref(job.wires, "W3")->turn = Degree(90);
    const plan::Plan plan = plan_of(job);
    const std::string csv = cutlist_csv(plan.harness);
    EXPECT_NE(csv.find("W3.1,U1.bat,DK1.plus1,"), std::string::npos) << csv;
    EXPECT_NE(csv.find("W3.2,DK1.plus1,P1.plus,"), std::string::npos) << csv;
    const auto read = read_wires_csv(csv, job, parts(), "x");
    ASSERT_TRUE(read.problems.empty()) << read.problems.front().text();
    ASSERT_EQ(read.wires.size(), job.wires.size());
    const job::Wire& w3 = *job::find_ref(read.wires, "W3");
    EXPECT_EQ(w3.to, "P1.plus");
    EXPECT_EQ(w3.turn, Degree(90)) << "a table without it does not take it away";
    EXPECT_NEAR(w3.length->value(), plan.harness.wire("W3")->length.value(), 2);
    // A piece alone is no wire.
    const auto alone = read_wires_csv("ref,from,to\nW3.2,U1.bat,P1.plus\n", job, parts(), "x");
    ASSERT_EQ(alone.problems.size(), 1u);
    EXPECT_NE(alone.problems[0].what.english().find("W3.2"), std::string::npos);
}

TEST(WiresCsv, EveryErrorHasItsLineAndColumn) {
    const job::Job job = demo("heron");
    const auto read = read_wires_csv("ref,from,to,role,gauge_awg,length_mm,colour\r\n"
                                     "W1,B1.plus,K1.in,supply,20,38,red\r\n"
                                     "W1,\"B1.plsu\",K1.in,supply,20,38,red\r\n"
                                     "W3,B1.plus,K7.in,power,20.5,far,red\r\n"
                                     "W4,B1.plus,,supply,99,,\r\n",
                                     job, parts(), "wires.csv");
    EXPECT_TRUE(read.wires.empty()) << "nothing is taken where something is wrong";
    std::vector<std::string> where;
    for (const Problem& p : read.problems)
        where.push_back(p.where + " " + p.what.english());
    auto said = [&](const char* at, const char* what) {
        return std::any_of(where.begin(), where.end(), [&](const std::string& w) {
            return w.starts_with(std::string("wires.csv: ") + at) &&
                   w.find(what) != std::string::npos;
        });
    };
    EXPECT_TRUE(said("line 3, column 1", "twice"));
    EXPECT_TRUE(said("line 3, column 4", "plsu"));
    EXPECT_TRUE(said("line 4, column 12", "K7"));
    EXPECT_TRUE(said("line 4, column 18", "power"));
    EXPECT_TRUE(said("line 4, column 24", "whole"));
    EXPECT_TRUE(said("line 4, column 29", ""));
    EXPECT_TRUE(said("line 5, column 1", "'to'"));
    EXPECT_TRUE(said("line 5, column 20", "range"));
    EXPECT_EQ(read.problems.size(), 8u);
    EXPECT_FALSE(read_wires_csv("", job, parts(), "x").problems.empty());
    EXPECT_FALSE(read_wires_csv("colur,from\n", job, parts(), "x").problems.empty());
    const auto near = read_wires_csv("ref,from,tо,lenght_mm\n", job, parts(), "x");
    EXPECT_FALSE(near.problems.empty());
    // A spreadsheet's tabs, and columns in any order; a length that is not given follows its route.
    const auto tabs = read_wires_csv("to\tfrom\nK1.in\tB1.plus\n", job, parts(), "x");
    ASSERT_TRUE(tabs.problems.empty()) << tabs.problems[0].text();
    ASSERT_EQ(tabs.wires.size(), 1u);
    EXPECT_EQ(tabs.wires[0].ref, "W1");
    EXPECT_FALSE(tabs.wires[0].length);
}

TEST(WiresCsv, GarbageNeverParsesAndNeverThrows) {
    std::mt19937 random(77);
    const job::Job job = demo("heron");
    const std::string good = cutlist_csv(plan_of(job).harness);
    for (int i = 0; i < rounds(400); ++i) {
        std::string text = good.substr(0, random() % good.size());
        for (int k = 0; k < 5 && !text.empty(); ++k)
            text[random() % text.size()] = static_cast<char>(random() % 256);
        const auto read = read_wires_csv(text, job, parts(), "x");
        if (!read.problems.empty()) {
            EXPECT_TRUE(read.wires.empty());
        }
    }
}

TEST(ConfigSheet, SaysLinesLightsAndButtons) {
    job::Job job = demo("bittern");
    configure_as_wired(parts())(job);
    const plan::Plan plan = plan_of(job);
    const files::Json j = files::config_json(job, plan.harness.data);
    EXPECT_EQ(j["lines"].size(), job.lines.size());
    for (const auto& line : j["lines"]) {
        EXPECT_TRUE(line["entered"]);
        int last = 0;
        for (const auto& light : line["lights"])
            last = std::max(last, light["last"].get<int>());
        EXPECT_EQ(line["pixels"], last);
    }
    EXPECT_EQ(j["buttons"]["mode"], job.config.buttons);
    EXPECT_EQ(j["mismatches"], 0);
    const std::string text = files::config_text(job, plan.harness.data);
    for (const job::Look& look : job.looks)
        EXPECT_NE(text.find(look.name), std::string::npos);
    const std::string labels = files::labels_svg(plan.harness, "B<&>");
    EXPECT_NE(labels.find("B&lt;&amp;&gt;"), std::string::npos);
    for (const job::Wire& w : job.wires)
        EXPECT_NE(labels.find(">" + w.ref + "  " + w.from + "<"), std::string::npos) << w.ref;
}

} // namespace
} // namespace conductus::harness
