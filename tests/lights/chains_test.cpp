// SPDX-License-Identifier: GPL-3.0-or-later
// Which pixel hears what: lines read off the data wires, mirrors, counts, lights of their own.
#include "core/job/lookup.h"
#include "core/job/mating.h"
#include "core/job/validate.h"
#include "core/lights/scene.h"
#include "support/fixtures.h"

namespace conductus::lights {
namespace {

using namespace test;

std::shared_ptr<const Chains> chains(const job::Job& job) {
    return std::make_shared<const Chains>(chains_of(job, parts()));
}

job::Part& add_part(job::Job& job, const char* ref, const char* type) {
    job::Part& p = job.parts.emplace_back();
    p.ref = ref;
    p.type = type;
    return p;
}

void wire(job::Job& job, const char* from, const char* to, job::Role role = job::Role::data) {
    job.wires.push_back(
        {"X" + std::to_string(job.wires.size()), from, to, role, 26, Millimetre(50), {}});
}

job::Effect mark(double from, double to) {
    return {"mark", {0, 1, 0, 0}, 1, from, to, Second(1), job::EffectKind::mark};
}

/// Pixels of a group that show green.
int green(const job::Job& job, const std::shared_ptr<const Chains>& all, const char* ref,
          const job::Effect& effect) {
    const Scene scene(job, all, job.looks[0], effect, {});
    int lit = 0;
    for (const Span& s : scene.spans(*all->group(ref), 3))
        if (s.duty == Duties{0, 1, 0, 0}) lit += s.last - s.first;
    return lit;
}

TEST(Chains, BitternsMatedBladesAreOneLine) {
    const job::Job whole = demo("bittern");
    const auto all = chains(job::as_mated(whole, job::mated_set(whole)));
    ASSERT_EQ(all->chains.size(), 1u);
    const Chain& line = all->chains[0];
    EXPECT_EQ(line.pad, "U1.d1");
    EXPECT_EQ(line.longest, 117);
    EXPECT_EQ(line.programmed, 117);
    EXPECT_TRUE(line.mirrored);
    EXPECT_EQ(line.groups.size(), 6u);
    for (const std::size_t i : line.groups) {
        EXPECT_EQ(all->groups[i].first, 0);
        EXPECT_EQ(all->groups[i].series, Ohm(330)); // through its first resistor
    }
}

TEST(Chains, AMeasuredResistorCountsAsItWasMeasured) {
    job::Job bittern = demo("bittern");
    const std::string ref = job::first_of<catalogue::Resistor>(bittern, parts()).part->ref;
    job::find_ref(bittern.parts, ref)->chosen.resistance = Ohm(470);
    EXPECT_EQ(chains(bittern)->groups[chains(bittern)->chains[0].groups[0]].series, Ohm(470));
    job::find_ref(bittern.parts, ref)->measured.resistance = Ohm(900);
    EXPECT_EQ(chains(bittern)->groups[chains(bittern)->chains[0].groups[0]].series, Ohm(900));
}

TEST(Chains, AMirrorShowsTheFirstPixelsOfTheLongOne) {
    job::Job bittern = demo("bittern");
    bittern.looks[0] = {"red", {1, 0, 0, 0}, job::Style::steady, 1, {}};
    const auto all = chains(bittern);
    // A mark in the middle of the long blade is past the end of the short ones.
    EXPECT_EQ(green(bittern, all, "ST1", mark(0.5, 0.6)), 12); // 58.5 to 70.2
    EXPECT_EQ(green(bittern, all, "ST3", mark(0.5, 0.6)), 0);
    // One at the foot covers as many pixels of each.
    EXPECT_EQ(green(bittern, all, "ST1", mark(0, 0.1)), 12);
    EXPECT_EQ(green(bittern, all, "ST5", mark(0, 0.1)), 12);
}

TEST(Chains, ALineOfItsOwnShowsItsOwnMiddle) {
    job::Job bittern = demo("bittern");
    bittern.looks[0] = {"red", {1, 0, 0, 0}, job::Style::steady, 1, {}};
    for (job::Wire& w : bittern.wires)
        if (w.to == "P3.data") w.from = "U1.d2";
    const auto all = chains(bittern);
    ASSERT_EQ(all->chains.size(), 2u);
    EXPECT_EQ(all->group("ST5")->line, "U1.d2");
    EXPECT_EQ(green(bittern, all, "ST5", mark(0.5, 0.6)), 3); // 12.5 to 15 of 25
    EXPECT_EQ(green(bittern, all, "ST3", mark(0.5, 0.6)), 0);
}

TEST(Chains, AnAccentAheadPushesTheBladeBack) {
    const job::Job curlew = demo("curlew");
    const auto all = chains(curlew);
    EXPECT_EQ(all->group("A1")->first, 0);
    EXPECT_EQ(all->group("ST1")->first, 1);
    EXPECT_EQ(all->group("ST1")->before, "A1");
    EXPECT_EQ(all->chains[0].longest, 118);
    EXPECT_EQ(*all->chains[0].programmed, 118);
}

TEST(Chains, ALitConnectorIsAheadOfItsBlade) {
    job::Job heron = one_button_heron();
    job::fit_type("P1", "connector.pins-7-lit")(heron);
    const auto all = chains(heron);
    EXPECT_EQ(all->group("P1")->first, 0);
    EXPECT_EQ(all->group("ST2")->first, 5);
    EXPECT_EQ(all->group("ST2")->before, "P1");
}

TEST(Chains, StripsOneAfterTheOtherCountOn) {
    job::Job heron = one_button_heron();
    wire(heron, "ST1.out", "ST2.data");
    const auto all = chains(heron);
    EXPECT_EQ(all->group("ST1")->first, 0);
    EXPECT_EQ(all->group("ST2")->first, 117);
    EXPECT_FALSE(all->chains[0].mirrored);
    EXPECT_EQ(all->chains[0].longest, 234);
}

TEST(Chains, ARingOfDataWiresEnds) {
    job::Job heron = one_button_heron();
    add_part(heron, "A1", "pixels.ring-7-rgb");
    wire(heron, "U1.d2", "A1.data");
    wire(heron, "A1.out", "A1.data");
    EXPECT_EQ(chains(heron)->group("A1")->line, "U1.d2");
}

TEST(Chains, ThroughAShifterAndWithoutAnyData) {
    job::Job heron = one_button_heron();
    add_part(heron, "A1", "pixels.stick-8-rgb");
    EXPECT_EQ(chains(heron)->group("A1")->line, "");
    add_part(heron, "T1", "shifter.one-line");
    wire(heron, "U1.d2", "T1.in");
    wire(heron, "T1.out", "A1.data");
    EXPECT_EQ(chains(heron)->group("A1")->shifter, "T1");
    EXPECT_EQ(chains(heron)->group("A1")->line, "U1.d2");
}

TEST(Scenes, BeyondTheProgrammedCountItIsDark) {
    job::Job heron = one_button_heron();
    heron.looks[0] = {"red", {1, 0, 0, 0}, job::Style::steady, 1, {}};
    heron.lines = {{"U1.d1", 100}};
    const auto all = chains(heron);
    const auto spans = Scene(heron, all, heron.looks[0], {}, {}).spans(*all->group("ST1"), 3);
    ASSERT_EQ(spans.size(), 2u);
    EXPECT_EQ(spans[0].last, 100);
    EXPECT_EQ(spans[1].duty, Duties{});
}

TEST(Scenes, AStretchShowsItsOwnAndEffectsPassItBy) {
    job::Job heron = one_button_heron();
    heron.looks[0] = {"red", {1, 0, 0, 0}, job::Style::steady, 1, {}};
    heron.use.look = "red";
    heron.uses.clear();
    heron.stretches = {{"foot lamp", "ST1", 1, 10}};
    heron.looks[0].lights = {{"foot lamp", {0, 0, 1, 0}, job::Style::steady, 0.5}};
    ASSERT_TRUE(job::validate(heron, parts()));
    const auto all = chains(heron);
    const auto spans =
        Scene(heron, all, heron.looks[0], mark(0, 1), {}).spans(*all->group("ST1"), 3);
    ASSERT_EQ(spans.size(), 2u);
    EXPECT_EQ(spans[0].last, 10);
    EXPECT_EQ(spans[0].duty, (Duties{0, 0, 0.5, 0}));
    EXPECT_EQ(spans[1].duty, (Duties{0, 1, 0, 0}));
}

TEST(Scenes, SolderedTogetherTheyCanNotDiffer) {
    job::Job bittern = demo("bittern");
    EXPECT_TRUE(look_conflicts(chains_of(bittern, parts()), bittern.looks[0]).empty());
    bittern.looks[0].lights = {{"BL2", {0, 0, 1, 0}, job::Style::steady, 1}};
    const auto found = look_conflicts(chains_of(bittern, parts()), bittern.looks[0]);
    ASSERT_FALSE(found.empty());
    EXPECT_EQ(found[0].light, "ST3");
}

TEST(Scenes, DiesFollowTheirOwnColour) {
    job::Job job = one_button_heron();
    job.looks[0] = {"a", {0.2, 0.5, 0.1, 0.3}, job::Style::steady, 0.5, {}};
    const Scene scene(job, chains(job), job.looks[0], {}, {});
    EXPECT_NEAR(scene.die("D1", 'R', "RGBW", false), 0.1, 1e-12);
    EXPECT_NEAR(scene.die("D1", 'W', "RGBW", false), 0.15, 1e-12);
    EXPECT_NEAR(scene.die("D1", 'R', "RGB", false), 0.25, 1e-12); // white folded in
    EXPECT_NEAR(scene.die("D1", 'B', "B", false), 0.2, 1e-12); // its own, with the white folded in
}

} // namespace
} // namespace conductus::lights
