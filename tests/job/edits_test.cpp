// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/edits.h"

#include <algorithm>
#include <set>

#include "core/base/date.h"
#include "core/job/checklist.h"
#include "core/job/found.h"
#include "core/job/limits.h"
#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "core/lights/chains.h"
#include "support/fixtures.h"

namespace conductus {
namespace {

using namespace test;

TEST(Date, OnlyDaysThatExist) {
    for (const char* good : {"2027-03-12", "2024-02-29", "2000-02-29", "0001-01-01"})
        EXPECT_TRUE(is_date(good)) << good;
    for (const char* bad : {"", "2027-3-12", "2027-02-29", "1900-02-29", "2027-13-01", "2027-00-10",
                            "2027-04-31", "2027-04-00", "12.03.2027", "2027-03-12T", "２027-03-12"})
        EXPECT_FALSE(is_date(bad)) << bad;
}

TEST(Checklist, FollowsTheKindAndKeepsWhatWasFilledIn) {
    job::Job job = job::blank("New", job::Kind::conversion);
    const std::size_t conversion = job.inspection.size();
    EXPECT_GT(conversion, 8u);
    ASSERT_TRUE(job::validate(job, parts()));
    job.inspection[0].condition = job::Condition::worn;
    const std::string kept = job.inspection[0].item;
    const auto only_here = std::find_if(job.inspection.begin(), job.inspection.end(), [](auto& i) {
        return i.item.find("Room for a chassis") == 0;
    });
    ASSERT_NE(only_here, job.inspection.end());
    job::set_kind(job::Kind::repair)(job);
    EXPECT_GT(job.inspection.size(), conversion) << "a repair has more to look at";
    auto there = [&](const std::string& item) {
        return std::count_if(job.inspection.begin(), job.inspection.end(),
                             [&](auto& i) { return i.item == item; });
    };
    EXPECT_EQ(there(kept), 1);
    EXPECT_EQ(there("Room for a chassis: nothing cast or glued in"), 0) << "nobody looked at it";
    EXPECT_EQ(there("Cell: resistance"), 1);
    // An item of one's own stays, whatever the kind.
    job.inspection.push_back({});
    job.inspection.back().item = "The bell";
    job::set_kind(job::Kind::upgrade)(job);
    EXPECT_EQ(there("The bell"), 1);
    EXPECT_EQ(there(kept), 1);
    // Every area has something, but for the card of a hilt without one.
    for (const auto kind : {job::Kind::conversion, job::Kind::repair, job::Kind::upgrade}) {
        std::set<job::Area> areas;
        for (const auto& i : job::checklist(kind))
            areas.insert(i.area);
        EXPECT_EQ(areas.size(), kind == job::Kind::conversion ? 6u : 7u);
    }
}

/// Heron with one item about its cell.
job::Job inspected(double reading, job::ReadingUnit unit, job::Fate fate = job::Fate::kept) {
    job::Job job = demo("heron");
    job::Inspected item = job.inspection[0];
    item.part = "B1";
    item.reading = reading;
    item.unit = unit;
    item.fate = fate;
    job::inspect(0, item)(job);
    return job;
}

TEST(Inspection, AReadingOverridesTheCatalogue) {
    const plan::Plan before = plan_of(demo("heron"));
    const job::Job tired = inspected(58, job::ReadingUnit::milliohm);
    EXPECT_NEAR(job::find_ref(tired.parts, "B1")->measured.resistance->value(), 0.058, 1e-12);
    const plan::Plan after = plan_of(tired);
    EXPECT_GT(*after.figure("board-sag")->value, *before.figure("board-sag")->value + 0.05);
    const auto& why = after.figure("first-crackle")->parts;
    EXPECT_TRUE(
        std::any_of(why.begin(), why.end(), [](auto& p) { return p.source == "measured"; }));

    const job::Job small = inspected(1500, job::ReadingUnit::milliampere_hour);
    EXPECT_EQ(*job::find_ref(small.parts, "B1")->measured.capacity, MilliAmpereHour(1500));
    EXPECT_LT(*plan_of(small).figure("first-crackle")->value,
              *before.figure("first-crackle")->value * 0.6);
}

TEST(Inspection, AReadingGoesWithItsItemAndItsPart) {
    job::Job job = inspected(58, job::ReadingUnit::milliohm);
    job::Inspected item = job.inspection[0];
    item.reading.reset();
    job::inspect(0, item)(job);
    EXPECT_FALSE(job::find_ref(job.parts, "B1")->measured.resistance) << "no reading, no override";

    job = inspected(58, job::ReadingUnit::milliohm, job::Fate::replaced);
    EXPECT_FALSE(job::find_ref(job.parts, "B1")->measured.resistance)
        << "of a part that does not stay";
    job = inspected(58, job::ReadingUnit::milliohm, job::Fate::undecided);
    job::fit_type("B1", "cell.18650-capacity")(job);
    EXPECT_FALSE(job::find_ref(job.parts, "B1")->measured.resistance);
    EXPECT_EQ(job.inspection[0].fate, job::Fate::replaced);

    // Volts are noted, and override nothing; nor does what no part can have.
    EXPECT_EQ(inspected(3.9, job::ReadingUnit::volt).parts, demo("heron").parts);
    EXPECT_EQ(inspected(-4, job::ReadingUnit::ohm).parts, demo("heron").parts);
    EXPECT_EQ(inspected(1e8, job::ReadingUnit::milliampere_hour).parts, demo("heron").parts);
}

TEST(NewJobs, BuiltLikeAnotherKeepsTheBuildAndNothingOfItsPast) {
    const job::Job avocet = demo("avocet");
    const job::Job copy = job::built_like(avocet, "Avocet twin", job::Kind::conversion);
    ASSERT_TRUE(job::validate(copy, parts()));
    EXPECT_EQ(copy.hilt, avocet.hilt);
    EXPECT_EQ(copy.wires, avocet.wires);
    EXPECT_EQ(copy.looks, avocet.looks);
    EXPECT_FALSE(job::find_ref(copy.parts, "B1")->measured.resistance) << "of the other's cell";
    EXPECT_TRUE(copy.log.empty());
    EXPECT_TRUE(copy.milestones.empty());
    EXPECT_EQ(copy.as_found, job::AsFound{});
    for (const auto& a : copy.brief.agreements)
        EXPECT_TRUE(a.on.empty()) << "nothing is agreed yet";
    for (const auto& i : copy.inspection)
        EXPECT_TRUE(job::untouched(i));
}

TEST(GoingBack, KeepsNamePastAndNotes) {
    const job::Job now = demo("heron");
    job::Job then = now;
    then.name = "Old name";
    then.use.volume = 0.2;
    then.log.clear();
    then.milestones.clear();
    job::Job job = now;
    job::go_back_to(then)(job);
    EXPECT_EQ(job.use.volume, 0.2);
    EXPECT_EQ(job.name, now.name);
    EXPECT_EQ(job.log, now.log);
    EXPECT_EQ(job.milestones, now.milestones);
}

TEST(Occasion, BringsAUsualDayOnlyWhereNoneIsSet) {
    job::Job job = job::blank("New", job::Kind::upgrade);
    job::set_occasion(job::Occasion::carried)(job);
    EXPECT_GT(job.use.idle, Minute(60));
    const job::Use set = job.use;
    job::set_occasion(job::Occasion::bout)(job);
    EXPECT_EQ(job.use, set);
}

TEST(AsFound, ComparesByTerminalsInEitherDirection) {
    job::Job job = demo("avocet");
    EXPECT_TRUE(job::is_planned(job, {"B1.plus", "K1.in", "", ""}));
    EXPECT_TRUE(job::is_planned(job, {"K1.in", "B1.plus", "", ""}));
    EXPECT_FALSE(job::is_planned(job, {"B1.plus", "U1.bat", "", ""}));
    const auto fresh = job::not_found(job);
    EXPECT_EQ(fresh.size(), job.wires.size() - job.as_found.wires.size());
    job::find_as_planned(job);
    EXPECT_TRUE(job::not_found(job).empty());
    EXPECT_EQ(job.as_found.wires.size(), job.wires.size());
}

TEST(Validate, PapersAreChecked) {
    auto refused = [](auto change) {
        job::Job job = demo("heron");
        change(job);
        const auto ok = job::validate(job, parts());
        return ok ? std::string() : ok.error().where;
    };
    EXPECT_EQ(refused([](job::Job& j) { j.brief.wishes[1].text.clear(); }), "/brief/wishes/1/text");
    EXPECT_EQ(refused([](job::Job& j) { j.brief.agreements[0].measure.clear(); }),
              "/brief/agreements/0/measure");
    EXPECT_EQ(refused([](job::Job& j) { j.brief.agreements[0].on = "soon"; }),
              "/brief/agreements/0/on");
    EXPECT_EQ(refused([](job::Job& j) { j.log[0].on = "2026-02-30"; }), "/log/0/on");
    EXPECT_EQ(refused([](job::Job& j) { j.inspection[2].item.clear(); }), "/inspection/2/item");
    EXPECT_EQ(refused([](job::Job& j) {
                  j.inspection[2].pictures.assign(job::limits::pictures_each + 1, {"id", ""});
              }),
              "/inspection/2/pictures");
    EXPECT_EQ(refused([](job::Job& j) { j.milestones[1].on = ""; }), "/milestones/1/on");
}

TEST(Accents, AddedEachWayAndTakenOutAgain) {
    const job::Job heron = demo("heron");
    for (const auto mount : {job::Mount::own_line, job::Mount::ahead, job::Mount::mirrored}) {
        job::Job job = heron;
        job::add_accent("pixels.micro-5", mount, parts())(job);
        ASSERT_TRUE(job::validate(job, parts()));
        const auto chains = lights::chains_of(job, parts());
        const auto* accent = chains.group("A1");
        ASSERT_TRUE(accent);
        EXPECT_EQ(accent->line, mount == job::Mount::own_line ? "U1.d2" : "U1.d1");
        EXPECT_EQ(accent->first, 0);
        EXPECT_EQ(chains.group("ST1")->first, mount == job::Mount::ahead ? 5 : 0);
        EXPECT_EQ(chains.chain("U1.d1")->longest, mount == job::Mount::ahead ? 122 : 117);
        job.looks[0].lights.push_back({"A1", {1, 0, 0, 0}, job::Style::steady, 1});
        job::remove_part("A1")(job);
        EXPECT_EQ(job, heron);
    }
    // Without a board there is nothing to solder it to.
    job::Job bare = job::blank("bare", job::Kind::conversion);
    job::add_accent("pixels.micro-5", job::Mount::own_line, parts())(bare);
    EXPECT_TRUE(bare.parts.empty());
}

TEST(Accents, AStretchGoesWithItsPart) {
    job::Job job = demo("heron");
    job::add_accent("pixels.ring-7-rgb", job::Mount::own_line, parts())(job);
    job.stretches = {{"half ring", "A1", 1, 3}};
    job.looks[0].lights = {{"half ring", {1, 0, 0, 0}, job::Style::steady, 1}};
    ASSERT_TRUE(job::validate(job, parts()));
    job::remove_part("A1")(job);
    ASSERT_TRUE(job::validate(job, parts()));
    EXPECT_EQ(job, demo("heron"));
}

TEST(Variants, ChangingPlacesTwiceIsWhereItBegan) {
    const job::Job curlew = demo("curlew");
    job::Job job = curlew;
    job::take_variant(0)(job);
    EXPECT_EQ(job.variant, "LED in the hilt");
    EXPECT_EQ(job.variants[0].name, "pixel blade");
    ASSERT_TRUE(job::validate(job, parts()));
    job::take_variant(0)(job);
    EXPECT_EQ(job, curlew);
    job::take_variant(7)(job); // there is none
    EXPECT_EQ(job, curlew);
    job.variants[0].parts[0].type = "no such part";
    const auto refused = job::validate(job, parts());
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().where, "/variants/0/parts/0/type");
}

TEST(Variants, TwoOfOneNameAreRefused) {
    job::Job job = demo("heron");
    job::keep_variant("long cell", "short cell")(job);
    ASSERT_TRUE(job::validate(job, parts()));
    job::keep_variant("long cell", "short cell")(job);
    EXPECT_FALSE(job::validate(job, parts()));
    job.variants.pop_back();
    job.variant = "long cell";
    EXPECT_FALSE(job::validate(job, parts()));
}

TEST(Lights, WhatIsWrongIsNamed) {
    const std::pair<void (*)(job::Job&), const char*> wrong[] = {
        {[](job::Job& j) {
             j.lines = {{"U1.l1", 5}};
         },
         "/lines/0/pad"},
        {[](job::Job& j) {
             j.lines = {{"U1.d1", 5}, {"U1.d1", 6}};
         },
         "/lines/1/pad"},
        {[](job::Job& j) {
             j.stretches = {{"x", "K1", 1, 2}};
         },
         "/stretches/0/of"},
        {[](job::Job& j) {
             j.stretches = {{"x", "ST1", 5, 2}};
         },
         "/stretches/0/last"},
        {[](job::Job& j) {
             j.stretches = {{"x", "ST1", 1, 500}};
         },
         "/stretches/0/last"},
        {[](job::Job& j) {
             j.looks[1].lights = {{"nobody", {}, {}, 1}};
         },
         "/looks/1/lights/0/light"},
        {[](job::Job& j) {
             j.looks[0].lights = {{"ST1", {}, {}, 1}, {"ST1", {}, {}, 1}};
         },
         "/looks/0/lights/1/light"},
        {[](job::Job& j) {
             j.blades[0].strips[0].feeds = {{0, Ohm(0.1)}};
         },
         "/blades/0/strips/0/feeds/0/at"},
        {[](job::Job& j) {
             j.blades[0].strings = {{"LS1", "strip.rgb-144"}};
         },
         "/blades/0/strings/0/type"},
        {[](job::Job& j) { j.parts[0].type = "string.blue-6"; }, "/parts/0/type"}};
    for (const auto& [plant, where] : wrong) {
        job::Job job = demo("heron");
        plant(job);
        const auto refused = job::validate(job, parts());
        ASSERT_FALSE(refused) << where;
        EXPECT_EQ(refused.error().where, where);
        EXPECT_FALSE(refused.error().mend.empty());
    }
}

TEST(LoadEdits, AnotherStripMirrorsAndAnotherBladeIsWiredLikeTheFirst) {
    job::Job job = test::demo("heron");
    job::add_strip("ST1")(job);
    ASSERT_EQ(job.blades[0].strips.size(), 3u);
    EXPECT_EQ(job.blades[0].strips[2].ref, "ST3");
    EXPECT_EQ(job.blades[0].strips[2].pixels, job.blades[0].strips[0].pixels);
    ASSERT_TRUE(job::validate(job, test::parts()));
    job::add_blade("ST1", job::Mount::mirrored, test::parts())(job);
    ASSERT_TRUE(job::validate(job, test::parts()))
        << job::validate(job, test::parts()).error().text();
    ASSERT_EQ(job.blades.size(), 2u);
    EXPECT_EQ(job.blades[1].strips.size(), 3u);
    EXPECT_TRUE(job.blades[1].connector.empty());
    // One line, all strips from its first pixel on.
    auto chains = lights::chains_of(job, test::parts());
    ASSERT_EQ(chains.chains.size(), 1u);
    EXPECT_EQ(chains.chains[0].groups.size(), 6u);
    for (const auto& g : chains.groups)
        EXPECT_EQ(g.first, 0) << g.ref;
    // With a line of its own it can show something else.
    job::add_blade("BL1", job::Mount::own_line, test::parts())(job);
    ASSERT_TRUE(job::validate(job, test::parts()));
    chains = lights::chains_of(job, test::parts());
    EXPECT_EQ(chains.chains.size(), 2u);
    // Taken out strip by strip the blade goes with its wires, and the job is what it was.
    for (const char* blade : {"BL3", "BL2"})
        while (const job::Blade* b = job::find_ref(job.blades, blade))
            job::remove_strip(b->strips.back().ref)(job);
    job::remove_strip("ST3")(job);
    EXPECT_EQ(job, test::demo("heron"));
}

} // namespace
} // namespace conductus
