// SPDX-License-Identifier: GPL-3.0-or-later
// Named edits of single values: what they change, what they leave, what they refuse.
#include "core/harness/built.h"
#include "core/harness/derive.h"
#include "core/hilt/arrange.h"
#include "core/job/edits.h"
#include "core/job/limits.h"
#include "core/job/lookup.h"
#include "core/job/places.h"
#include "core/job/validate.h"
#include "core/power/use_day.h"
#include "support/fixtures.h"

namespace conductus::job {
namespace {

using namespace test;

/// The reason an edit of the job is refused for; empty: it is not.
std::string refusal_of(const Edit& edit, Job job) {
    const auto ok = edit(job);
    return ok ? std::string() : ok.error().text();
}

TEST(NamedEdits, OneThatRefusesEndsThoseThatFollow) {
    Job job = demo("heron");
    const Edit both = all_of({write_at("/notes", "begun"), refused({"", "no", "Leave it"}),
                              write_at("/notes", "never")});
    const auto ok = both(job);
    ASSERT_FALSE(ok);
    EXPECT_EQ(ok.error().what, "no");
    EXPECT_EQ(job.notes, "begun") << "a copy is thrown away where an edit refuses";
    EXPECT_FALSE(Edit());
    Job same = demo("heron");
    EXPECT_TRUE(Edit()(same));
    EXPECT_TRUE(all_of({})(same));
    EXPECT_EQ(same, demo("heron"));
}

TEST(NamedEdits, ATickGoesWithItsWireWhateverTakesIt) {
    const Job heron = demo("heron");
    for (const Edit& edit :
         {take_out_at("/wires/2"), take_wires({}), remove_part("U1"), remove_strip("ST1")}) {
        Job job = heron;
        for (const Wire& w : job.wires)
            ASSERT_TRUE(set_soldered(w.ref, true)(job));
        ASSERT_TRUE(edit(job));
        for (const Soldered& s : job.soldered)
            EXPECT_TRUE(find_ref(job.wires, s.wire)) << s.wire;
        EXPECT_TRUE(validate(job, parts()));
    }
    Job job = heron;
    EXPECT_NE(refusal_of(set_soldered("W99", true), job).find("no wire W99"), std::string::npos);
    ASSERT_TRUE(set_soldered("W1", true)(job));
    ASSERT_TRUE(set_soldered("W1", true)(job));
    EXPECT_EQ(job.soldered.size(), 1u) << "ticked once";
    ASSERT_TRUE(set_soldered("W1", false)(job));
    EXPECT_TRUE(job.soldered.empty());
    // A file that ticks a wire there is none of is refused, and says where.
    job.soldered = {{"W1"}, {"W77"}};
    const auto ok = validate(job, parts());
    ASSERT_FALSE(ok);
    EXPECT_EQ(ok.error().where, "/soldered/1/wire");
    EXPECT_NE(ok.error().what.english().find("W77"), std::string::npos);
    job.soldered = {{"W1"}, {"W1"}};
    EXPECT_FALSE(validate(job, parts()));
}

TEST(NamedEdits, TicksOfAVariantStayWithIt) {
    Job job = demo("heron");
    ASSERT_TRUE(set_soldered("W1", true)(job));
    ASSERT_TRUE(keep_variant("one", "two")(job));
    ASSERT_TRUE(take_out_at("/wires/0")(job));
    EXPECT_TRUE(job.soldered.empty());
    ASSERT_TRUE(validate(job, parts()));
    ASSERT_TRUE(take_variant(0)(job));
    EXPECT_EQ(job.soldered, std::vector<Soldered>{{"W1"}});
    ASSERT_TRUE(validate(job, parts()));
    ASSERT_TRUE(take_variant(0)(job));
    EXPECT_TRUE(job.soldered.empty());
}

TEST(NamedEdits, APinIsMeasuredAndForgotten) {
    Job job = demo("bittern");
    const Job before = job;
    ASSERT_TRUE(measure_pin("P1", "plus1", "80")(job));
    ASSERT_TRUE(measure_pin("P1", "plus1", "85 mΩ")(job));
    const auto& pins = find_ref(job.parts, "P1")->measured.pins;
    ASSERT_EQ(pins.size(), 1u);
    EXPECT_EQ(pins[0].resistance, Ohm(0.085));
    EXPECT_TRUE(validate(job, parts()));
    EXPECT_NE(refusal_of(measure_pin("P1", "plus1", "wobbly"), job), "");
    EXPECT_NE(refusal_of(measure_pin("P9", "plus1", "80"), job), "");
    ASSERT_TRUE(measure_pin("P1", "plus1", "")(job));
    EXPECT_EQ(job, before);
}

TEST(NamedEdits, ALineIsProgrammedInWholePixels) {
    Job job = demo("bittern");
    ASSERT_TRUE(program_line("U1.d1", "110 px")(job));
    EXPECT_EQ(job.lines[0].pixels, 110);
    for (const char* nonsense : {"many", "2.5", "-3", "1e9"})
        EXPECT_NE(refusal_of(program_line("U1.d1", nonsense), job), "") << nonsense;
    ASSERT_TRUE(program_line("U1.d2", "7")(job));
    EXPECT_EQ(job.lines.size(), 2u);
    ASSERT_TRUE(program_line("U1.d2", "0")(job));
    ASSERT_TRUE(program_line("U1.d1", "")(job));
    EXPECT_TRUE(job.lines.empty());
}

TEST(NamedEdits, ARateIsOfOnePhaseAndOneKind) {
    Job job = demo("heron");
    ASSERT_FALSE(job.use.day.empty());
    const Phase before = job.use.day[0];
    ASSERT_TRUE(set_rate(0, EffectKind::lock_up, "2.5")(job));
    ASSERT_TRUE(set_rate(0, EffectKind::lock_up, "3")(job));
    const auto& rates = job.use.day[0].rates;
    EXPECT_EQ(std::count_if(rates.begin(), rates.end(),
                            [](const Rate& r) { return r.kind == EffectKind::lock_up; }),
              1);
    EXPECT_NE(refusal_of(set_rate(0, EffectKind::lock_up, "often"), job), "");
    EXPECT_NE(refusal_of(set_rate(0, EffectKind::lock_up, "900"), job), "");
    EXPECT_NE(refusal_of(set_rate(99, EffectKind::lock_up, "1"), job), "");
    ASSERT_TRUE(set_rate(0, EffectKind::lock_up, "")(job));
    std::erase_if(job.use.day[0].rates,
                  [](const Rate& r) { return r.kind == EffectKind::lock_up; });
    EXPECT_EQ(job.use.day[0].lasts, before.lasts);
}

TEST(NamedEdits, ACarrierCarriesWhatIsNamedAndNothingElse) {
    Job job = demo("heron");
    ASSERT_FALSE(job.hilt.carriers.empty());
    ASSERT_TRUE(put_on_carrier(0, " B1; K1,U1 ")(job));
    for (const Part& part : job.parts)
        EXPECT_EQ(part.carrier == job.hilt.carriers[0].ref,
                  part.ref == "B1" || part.ref == "K1" || part.ref == "U1")
            << part.ref;
    EXPECT_NE(refusal_of(put_on_carrier(0, "B1, X9"), job).find("no part X9"), std::string::npos);
    EXPECT_NE(refusal_of(put_on_carrier(9, "B1"), job), "");
    ASSERT_TRUE(put_on_carrier(0, "")(job));
    for (const Part& part : job.parts)
        EXPECT_TRUE(part.carrier.empty());
}

TEST(NamedEdits, ASectionIsMeasuredStraightOrTapered) {
    Job job = demo("heron");
    ASSERT_TRUE(measure_section(1, false, "28.4 > 1.1 in")(job));
    EXPECT_EQ(job.hilt.sections[1].bore, Millimetre(28.4));
    EXPECT_NEAR(job.hilt.sections[1].bore_end->value(), 27.94, 1e-9);
    ASSERT_TRUE(measure_section(1, false, "28.4 > 28.4")(job));
    EXPECT_FALSE(job.hilt.sections[1].bore_end) << "no taper";
    ASSERT_TRUE(measure_section(1, true, "36")(job));
    EXPECT_EQ(job.hilt.sections[1].outer, Millimetre(36));
    for (const char* nonsense : {"", "wide", "28 > ", "28 > narrow", "0", "900"})
        EXPECT_NE(refusal_of(measure_section(1, false, nonsense), job), "") << nonsense;
}

TEST(NamedEdits, AReadingBringsItsUnitAndFeedsItsPart) {
    Job job = demo("heron");
    ASSERT_TRUE(add_inspected("The cell", 0)(job));
    const std::size_t at = job.inspection.size() - 1;
    EXPECT_EQ(job.inspection[at].area, job.inspection[0].area);
    const std::string here = "/inspection/" + std::to_string(at);
    ASSERT_TRUE(write_at(here + "/part", "B1")(job));
    ASSERT_TRUE(take_reading(at, "70 mΩ")(job));
    EXPECT_EQ(job.inspection[at].unit, ReadingUnit::milliohm);
    EXPECT_NEAR(find_ref(job.parts, "B1")->measured.resistance->value(), 0.07, 1e-12);
    ASSERT_TRUE(take_reading(at, "0.08 Ω")(job));
    EXPECT_NEAR(find_ref(job.parts, "B1")->measured.resistance->value(), 0.08, 1e-12);
    for (const char* nonsense : {"70 furlongs", "mOhm", "seventy", "1e99 V"})
        EXPECT_NE(refusal_of(take_reading(at, nonsense), job), "") << nonsense;
    // Replaced, what was read of the old one is not planned with.
    ASSERT_TRUE(write_at(here + "/fate", "replaced")(job));
    EXPECT_FALSE(find_ref(job.parts, "B1")->measured.resistance);
    ASSERT_TRUE(take_reading(at, "")(job));
    EXPECT_FALSE(job.inspection[at].reading);
    for (std::size_t i = 0; i < limits::pictures_each; ++i)
        ASSERT_TRUE(add_picture(at, {"p" + std::to_string(i), ""})(job));
    EXPECT_NE(refusal_of(add_picture(at, {"more", ""}), job), "");
    EXPECT_NE(refusal_of(add_picture(999, {"p", ""}), job), "");
}

TEST(NamedEdits, WhatWasAgreedIsAgreedAnew) {
    Job job = demo("heron");
    ASSERT_TRUE(add_agreement("first-crackle", Bound::at_least)(job));
    const std::size_t at = job.brief.agreements.size() - 1;
    ASSERT_TRUE(agree(at, 30.0, "", "2027-03-01")(job));
    ASSERT_TRUE(agree(at, 40.0, "", "2027-03-02")(job));
    EXPECT_EQ(job.brief.agreements[at].value, 30.0) << "the promise stays";
    EXPECT_EQ(job.brief.agreements[at].that_day, 40.0);
    ASSERT_TRUE(agree_anew(at, 45.0, "", "2027-03-03")(job));
    EXPECT_EQ(job.brief.agreements[at].value, 45.0);
    EXPECT_EQ(job.brief.agreements[at].on, "2027-03-03");
    EXPECT_TRUE(validate(job, parts()));
}

TEST(NamedEdits, ADayIsTakenKeptAndCounted) {
    Job job = demo("heron");
    const Use own = job.use;
    ASSERT_TRUE(power::keep_use("mine")(job));
    EXPECT_EQ(find_name(job.uses, "mine")->day, own.day);
    const auto festival = power::use_named(job, "festival day");
    ASSERT_TRUE(festival);
    ASSERT_TRUE(power::take_use(*festival)(job));
    EXPECT_EQ(job.use.name, "festival day");
    EXPECT_TRUE(validate(job, parts()));
    ASSERT_TRUE(power::take_use(*find_name(job.uses, "mine"))(job));
    EXPECT_EQ(job.use.day, own.day);
    // The minutes follow the phases, and the phases the minutes.
    ASSERT_TRUE(all_of({write_at("/use/day/0/lasts_min", "7"), power::count_day()})(job));
    EXPECT_EQ(job.use.ignited, power::minutes_of(job.use.day).ignited);
    ASSERT_TRUE(all_of({write_at("/use/ignited_min", "42"), power::follow_minutes()})(job));
    if (!job.use.day.empty()) {
        EXPECT_NEAR(power::minutes_of(job.use.day).ignited.value(), 42, 1e-6);
    }
}

TEST(NamedEdits, TheHarnessAsBuiltIsRecordedAndPlanned) {
    Job job = demo("heron");
    const auto planned = job.wires;
    ASSERT_TRUE(record_built()(job));
    ASSERT_TRUE(write_at("/built/2/gauge_awg", "28")(job));
    EXPECT_EQ(job.wires, planned);
    ASSERT_TRUE(harness::plan_as_built(parts())(job));
    EXPECT_EQ(job.wires[2].gauge, 28);
    // A wire as built has its own name: nothing else is renamed with it.
    ASSERT_TRUE(write_at("/built/2/ref", "W30")(job));
    EXPECT_EQ(job.wires[2].ref, planned[2].ref);
    EXPECT_TRUE(validate(job, parts()));
}

TEST(NamedEdits, EveryDemoJobIsWiredAnewFromItsParts) {
    for (const std::string name : demo_jobs) {
        Job job = demo(name);
        job.wires.clear();
        job.soldered.clear();
        job.built.clear();
        ASSERT_TRUE(harness::wire_missing(parts())(job)) << name;
        const auto ok = validate(job, parts());
        ASSERT_TRUE(ok) << name << " " << ok.error().text();
        EXPECT_TRUE(harness::missing_wires(job, parts()).empty()) << name;
        EXPECT_TRUE(harness::wire_conflicts(job, parts()).empty()) << name;
        // Again, there is nothing to be done.
        const Job once = job;
        ASSERT_TRUE(harness::wire_missing(parts())(job));
        EXPECT_EQ(job, once) << name;
    }
}

} // namespace
} // namespace conductus::job
