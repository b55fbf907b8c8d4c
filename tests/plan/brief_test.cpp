// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/brief.h"

#include <algorithm>
#include <sstream>

#include "core/findings/rules.h"
#include "core/job/lookup.h"
#include "core/plan/compare.h"
#include "core/plan/owner_page.h"
#include "support/fixtures.h"

namespace conductus {
namespace {

using namespace test;
using job::Bound;

plan::WishState wish(job::Proof by, const std::string& target, bool done = false) {
    job::Job job = demo("heron");
    job.brief.wishes = {{"a wish", by, target, done}};
    return plan_of(job).brief.wishes.at(0);
}

TEST(Wishes, AreShownByWhatTheyAreLinkedTo) {
    EXPECT_TRUE(wish(job::Proof::hand, "", true).done);
    EXPECT_FALSE(wish(job::Proof::hand, "", false).done);
    EXPECT_FALSE(wish(job::Proof::hand, "", true).known);
    EXPECT_TRUE(wish(job::Proof::look, "Tidewater").done);
    EXPECT_TRUE(wish(job::Proof::look, "Tidewater").known);
    EXPECT_FALSE(wish(job::Proof::look, "Aurora", true).done) << "a tick by hand does not count";
    EXPECT_NE(wish(job::Proof::look, "Aurora").reason.english().find("no look Aurora"),
              std::string::npos);
    EXPECT_TRUE(wish(job::Proof::part, "SP1").done);
    EXPECT_TRUE(wish(job::Proof::part, "speaker.28-4ohm").done);
    EXPECT_TRUE(wish(job::Proof::part, "strip.rgb-144-wide").done) << "strips are parts too";
    EXPECT_FALSE(wish(job::Proof::part, "speaker.36-4ohm").done);
    EXPECT_FALSE(wish(job::Proof::finding, "pins.over-current").done);
    EXPECT_NE(
        wish(job::Proof::finding, "pins.over-current").reason.english().find("Pins of P1 carry"),
        std::string::npos);
    EXPECT_TRUE(wish(job::Proof::finding, "supply.no-kill").done);
    EXPECT_FALSE(wish(job::Proof::finding, "pins.over-currant").done) << "no such rule";
}

TEST(Wishes, AFindingCountsAsClosedOnlyWhereThePlanIsSolved) {
    job::Job job = demo("heron");
    job.wires.clear();
    job.brief.wishes = {{"pins", job::Proof::finding, "pins.over-current", false}};
    EXPECT_FALSE(plan_of(job).brief.wishes[0].done);
}

TEST(Wishes, FollowALookThatIsRenamed) {
    job::Job job = demo("heron");
    job::Look look = job.looks[0];
    look.name = "High tide";
    job::set_look(0, look)(job);
    EXPECT_EQ(job.brief.wishes[0].target, "High tide");
    EXPECT_TRUE(plan_of(job).brief.wishes[0].done);
}

plan::AgreementState agreed(job::Job job, const std::string& measure, Bound bound,
                            std::optional<double> value, const std::string& word = {}) {
    job::Agreement a;
    a.text = "as said";
    a.measure = measure;
    a.bound = bound;
    a.value = value;
    a.word = word;
    a.on = "2027-01-02";
    job.brief.agreements = {a};
    return plan_of(job).brief.agreements.at(0);
}

TEST(Agreements, HoldOnTheRightSideOfTheirBound) {
    const job::Job heron = demo("heron");
    const double clean = *plan_of(heron).figure("first-crackle")->value;
    EXPECT_TRUE(agreed(heron, "first-crackle", Bound::at_least, clean - 10).holds);
    EXPECT_FALSE(agreed(heron, "first-crackle", Bound::at_least, clean + 10).holds);
    EXPECT_FALSE(agreed(heron, "first-crackle", Bound::at_most, clean - 10).holds);
    EXPECT_TRUE(agreed(heron, "first-crackle", Bound::at_most, clean + 10).holds);
    EXPECT_TRUE(agreed(heron, "first-crackle", Bound::same, clean).holds);
    EXPECT_FALSE(agreed(heron, "first-crackle", Bound::same, clean + 10).holds);
    EXPECT_FALSE(agreed(heron, "first-crackle", Bound::same, clean - 10).holds);
    EXPECT_TRUE(agreed(heron, "first-crackle", Bound::at_least, clean * 1.004).holds)
        << "nobody sees the fourth figure";
    EXPECT_FALSE(agreed(heron, "first-crackle", Bound::at_least, {}).holds) << "promises nothing";
    EXPECT_FALSE(agreed(heron, "no-such-figure", Bound::at_least, 1).holds);
    EXPECT_TRUE(agreed(heron, "cell", Bound::same, {}, "cell.18650-power").holds);
    EXPECT_FALSE(agreed(heron, "cell", Bound::same, {}, "cell.18350").holds);
    EXPECT_TRUE(agreed(heron, "chassis", Bound::same, {}, "fixed").holds);
    EXPECT_TRUE(agreed(heron, "pixels", Bound::same, 234).holds);
}

TEST(Agreements, SayWhatWasAgreedAndWhatIsNow) {
    const auto s = agreed(demo("heron"), "first-crackle", Bound::at_least, 90);
    EXPECT_EQ(s.says, "clean runtime agreed at least 1\u202fh\u202f30, now 1\u202fh\u202f04");
    const auto cell = agreed(demo("heron"), "cell", Bound::same, {}, "cell.18350");
    EXPECT_EQ(cell.says, "cell agreed 18350 cell, 1100 mAh, now 18650 power cell, 3000 mAh");
}

TEST(Agreements, EveryMeasureCanBeAgreedAndIsBrokenByItsLoss) {
    const job::Job clean = clean_job();
    for (const plan::Measure& m : plan::measures(plan_of(clean))) {
        SCOPED_TRACE(m.id);
        EXPECT_TRUE(m.value.has_value() != m.words) << "a number or a word, never neither";
        job::Job job = clean;
        job::Agreement a;
        a.measure = m.id;
        a.bound = m.usual;
        job.brief.agreements = {a};
        job::agree(0, m.value, m.word, "2027-01-02")(job);
        const auto plan = plan_of(job);
        EXPECT_TRUE(plan.brief.agreements[0].holds) << plan.brief.agreements[0].says;
        EXPECT_EQ(plan.findings.size(), 1u) << "the cautions";
        // With nothing in the hilt nothing that was promised is there.
        job.parts.clear();
        job.blades.clear();
        job.wires.clear();
        job.looks.clear();
        job.effects.clear();
        job.use.look.clear();
        job.use.volume = 0;
        const bool stays = m.id == "chassis";
        EXPECT_EQ(plan_of(job).brief.agreements[0].holds, stays);
    }
}

TEST(Agreements, ABrokenOneIsOneFindingAtTheBrief) {
    job::Job job = clean_job();
    job.brief.agreements = {{"An hour clean", job::Bargain::must_have, "first-crackle",
                             Bound::at_least, 6000, "", "2027-01-02", 61}};
    const plan::Plan plan = plan_of(job);
    ASSERT_EQ(plan.findings.size(), 2u);
    const auto& f = plan.findings[0];
    EXPECT_EQ(f.id, "agreement.broken");
    EXPECT_EQ(f.severity, findings::Severity::warn);
    EXPECT_EQ(f.station, findings::Station::brief);
    EXPECT_NE(f.detail.english().find("An hour clean"), std::string::npos);
    ASSERT_EQ(f.evidence.size(), 2u);
    EXPECT_EQ(f.evidence[0].value, 6000);
    EXPECT_EQ(plan.brief.broken(), 1);
    // Proposed is not agreed: nobody was promised anything.
    job.brief.agreements[0].on.clear();
    EXPECT_EQ(plan_of(job).findings.size(), 1u);
}

TEST(Agreements, AgreeingStampsTheDayAndKeepsWhatWasPromised) {
    job::Job job = demo("heron");
    job.brief.agreements = {
        {"", job::Bargain::must_have, "first-crackle", Bound::at_least, 45.0, "", "", {}}};
    job::agree(0, 59.3, "", "2027-01-02")(job);
    EXPECT_EQ(job.brief.agreements[0].value, 45.0);
    EXPECT_EQ(job.brief.agreements[0].that_day, 59.3);
    EXPECT_EQ(job.brief.agreements[0].on, "2027-01-02");
    job.brief.agreements[0].value.reset();
    job::agree(0, 59.3, "", "2027-01-03")(job);
    EXPECT_EQ(job.brief.agreements[0].value, 59.3) << "the plan's figure, where none was asked for";
}

struct BriefMistake {
    const char* name;
    void (*plant)(job::Job&);
    const char* id;
};

class PlantedInTheBrief : public testing::TestWithParam<BriefMistake> {};

TEST_P(PlantedInTheBrief, RaisesExactlyOneFinding) {
    job::Job job = clean_job();
    ASSERT_EQ(plan_of(job).findings.size(), 1u);
    GetParam().plant(job);
    const plan::Plan plan = plan_of(job);
    ASSERT_EQ(plan.findings.size(), 2u);
    EXPECT_TRUE(std::any_of(plan.findings.begin(), plan.findings.end(),
                            [](auto& f) { return f.id == GetParam().id; }));
}

INSTANTIATE_TEST_SUITE_P(
    All, PlantedInTheBrief,
    testing::Values(BriefMistake{"ShorterBlade",
                                 [](job::Job& j) {
                                     j.brief.blades = {{Millimetre(610), Millimetre(25.4)}};
                                 },
                                 "brief.blade-differs"},
                    BriefMistake{"TwoBladesAsked",
                                 [](job::Job& j) { j.brief.blades.push_back(j.brief.blades[0]); },
                                 "brief.blade-differs"},
                    BriefMistake{"NoSwap",
                                 [](job::Job& j) {
                                     j.brief.swap = job::Swap::refused;
                                     j.use.ignited = Minute(1000);
                                 },
                                 "brief.needs-swap"},
                    BriefMistake{"BrokenAndKept",
                                 [](job::Job& j) {
                                     j.inspection[0].condition = job::Condition::broken;
                                     j.inspection[0].fate = job::Fate::kept;
                                 },
                                 "inspection.kept-broken"},
                    BriefMistake{"MissingUndecided",
                                 [](job::Job& j) {
                                     j.inspection[0].condition = job::Condition::missing;
                                     j.inspection[0].fate = job::Fate::undecided;
                                 },
                                 "inspection.undecided"}),
    [](const auto& planted) { return planted.param.name; });

TEST(Rules, EveryIdThatIsRaisedIsKnown) {
    const auto ids = findings::rule_ids();
    for (const char* name : demo_jobs)
        for (const auto& f : plan_of(demo(name)).findings)
            EXPECT_NE(std::find(ids.begin(), ids.end(), f.id), ids.end()) << f.id;
    // And those in the sources, so that a new rule is not forgotten.
    for (const auto& file :
         std::filesystem::recursive_directory_iterator(source_dir() / "src/core")) {
        const std::string text = read_file(file.path());
        for (std::size_t at = text.find(".id = \""); at != std::string::npos;
             at = text.find(".id = \"", at + 1)) {
            const std::string id = text.substr(at + 7, text.find('"', at + 7) - at - 7);
            if (id.find('.') == std::string::npos) continue; // a figure's
            EXPECT_NE(std::find(ids.begin(), ids.end(), id), ids.end()) << id;
        }
    }
}

TEST(Compare, TellsWhatCameOfAChange) {
    job::Job before = clean_job();
    job::find_ref(before.parts, "B1")->type = "cell.18350";
    before.brief.agreements = {{"An hour", job::Bargain::must_have, "first-crackle",
                                Bound::at_least, 45, "", "2027-01-02", 61}};
    job::Job after = before;
    job::fit_type("B1", "cell.18650-power")(after);
    const auto c = plan::compare(plan_of(before), plan_of(after));
    ASSERT_EQ(c.changes.size(), 1u);
    EXPECT_EQ(c.changes[0].path, "/parts/B1/type");
    ASSERT_EQ(c.agreements.size(), 1u);
    EXPECT_TRUE(c.agreements[0].holds);
    EXPECT_EQ(c.agreements[0].text, "agreement 1 now holds");
    const auto clean = std::find_if(c.figures.begin(), c.figures.end(),
                                    [](auto& f) { return f.id == "first-crackle"; });
    ASSERT_NE(clean, c.figures.end());
    EXPECT_LT(*clean->before, *clean->after);
    EXPECT_EQ(clean->text.english().find("clean runtime "), 0u);
    EXPECT_NE(clean->text.english().find("→"), std::string::npos);
    const auto back = plan::compare(plan_of(after), plan_of(before));
    ASSERT_EQ(back.agreements.size(), 1u);
    EXPECT_EQ(back.agreements[0].text.english().find("agreement 1 is now broken"), 0u);
    EXPECT_TRUE(plan::compare(plan_of(after), plan_of(after)).empty());
}

TEST(OwnerPage, SaysWhatWasAskedPromisedAndKept) {
    const plan::Plan plan = plan_of(demo("dunlin"));
    const std::string text = plan::owner_text(plan::owner_page(plan));
    for (const char* says :
         {"Dunlin", "promised for 2027-03-19", "[x] Beacon blue", "[ ] Recharge in the hilt",
          "[!] An hour of the ferry scene", "now 43", "Must-haves", "Trade-offs",
          "kept: good travel", "never shorted", "Agreed: ____"})
        EXPECT_NE(text.find(says), std::string::npos) << says << "\n" << text;
    std::istringstream lines(text);
    for (std::string line; std::getline(lines, line);)
        EXPECT_LE(line.size(), 100u) << line;
    // A job nothing is known of has a page too.
    const plan::Plan blank = plan_of(job::blank("New", job::Kind::repair));
    EXPECT_NE(plan::owner_text(plan::owner_page(blank)).find("Agreed"), std::string::npos);
}

} // namespace
} // namespace conductus
