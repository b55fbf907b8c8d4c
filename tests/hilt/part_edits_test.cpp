// SPDX-License-Identifier: GPL-3.0-or-later
// Parts in, out and instead: every type of the catalogue, and long random sequences.
#include <algorithm>
#include <random>

#include "core/catalogue/count.h"
#include "core/catalogue/kinds.h"
#include "core/harness/derive.h"
#include "core/hilt/part_edits.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "support/fixtures.h"

namespace conductus::hilt {
namespace {

using namespace test;
using catalogue::Stands;

const char* const demo_jobs[] = {"heron", "bittern", "avocet", "curlew", "dunlin", "godwit"};

const std::vector<catalogue::PartType>& all_types() {
    static const auto all = [] {
        std::vector<catalogue::PartType> types;
        for (const std::string& id : parts().ids())
            types.push_back(*parts().find(id));
        return types;
    }();
    return all;
}

Stands stands(const std::string& type) {
    return catalogue::kind_of(parts().find(type)->figures).stands;
}

TEST(AddPart, EveryTypeOfTheCatalogueGoesIntoABlankJob) {
    for (const catalogue::PartType& type : all_types()) {
        job::Job job = job::blank("New", job::Kind::conversion);
        ASSERT_TRUE(add_part("cell.18650-power", {}, parts())(job));
        ASSERT_TRUE(add_part("cell.18350", {}, parts())(job));
        const job::Job before = job;
        const auto ok = add_part(type.id, {}, parts())(job);
        if (const auto* adapter = std::get_if<catalogue::Adapter>(&type.figures);
            adapter && adapter->takes != "18650" && adapter->takes != "18350") {
            EXPECT_FALSE(ok) << type.id;
            EXPECT_EQ(ok.error().code(), "no cell is fitted that takes {}");
            continue;
        }
        ASSERT_TRUE(ok) << type.id << ": " << ok.error().text();
        EXPECT_NE(job, before) << type.id;
        const auto valid = job::validate(job, parts());
        EXPECT_TRUE(valid) << type.id << ": " << valid.error().text();
        if (stands(type.id) == Stands::apart) continue;
        ASSERT_EQ(job.parts.size(), before.parts.size() + 1) << type.id;
        const std::string stem(catalogue::kind_of(type.figures).stem);
        EXPECT_TRUE(job.parts.back().ref.starts_with(stem)) << job.parts.back().ref;
    }
    job::Job job = job::blank("New", job::Kind::conversion);
    EXPECT_FALSE(add_part("no.such-part", {}, parts())(job));
}

TEST(AddPart, AFreePlaceIsOneThatFits) {
    int free = 0, full = 0;
    for (const char* name : demo_jobs) {
        const job::Job job = demo(name);
        for (const catalogue::PartType& type : all_types()) {
            if (stands(type.id) != Stands::bore) continue;
            const NewPlace place = place_for(job, parts(), type.id);
            job::Job with = job;
            ASSERT_TRUE(add_part(type.id, {}, parts())(with));
            const std::string ref = with.parts.back().ref;
            EXPECT_EQ(with.parts.back().at, place.at);
            const Fit fitted = fit(with, parts());
            const Clearance* c = fitted.of(ref);
            if (!c) continue; // it needs no room of its own
            if (place.free) {
                ++free;
                EXPECT_GE(c->spare.value(), job.hilt.clearance.value() - 1e-3)
                    << name << ": " << type.id << " at " << place.at.value();
                // Nothing that was there has less room for it.
                const Fit before = fit(job, parts());
                for (const Clearance& other : before.clearances) {
                    const Clearance* now = fitted.of(other.ref);
                    ASSERT_TRUE(now);
                    EXPECT_GE(now->spare.value(),
                              std::min(other.spare.value(), job.hilt.clearance.value()) - 1e-3)
                        << name << ": " << type.id << " and " << other.ref;
                }
            } else {
                ++full;
                EXPECT_FALSE(place.why.empty());
            }
        }
    }
    EXPECT_GT(free, 40);
    EXPECT_GT(full, 40);
}

TEST(AddPart, AButtonTakesAFreeHoleOfTheSurvey) {
    job::Job job = demo("heron");
    job::Opening hole;
    hole.name = "second hole";
    hole.use = job::OpeningUse::switch_hole;
    hole.at = Millimetre(120);
    hole.length = hole.width = Millimetre(12);
    job.hilt.openings.push_back(hole);
    ASSERT_TRUE(add_part("button.momentary-12", {}, parts())(job));
    const auto* taken = job::find_name(job.hilt.openings, "second hole");
    EXPECT_EQ(taken->part, job.parts.back().ref);
    const Millimetre half = parts().find("button.momentary-12")->body.length / 2;
    EXPECT_NEAR(job.parts.back().at.value(), 120 - half.value(), 1e-9);
    // The next one has none left, and says so.
    EXPECT_FALSE(place_for(job, parts(), "button.momentary-12").free);
}

TEST(AddPart, ItsWiresFollow) {
    // A build out of nothing but its parts is wired by what is missing.
    job::Job job = job::blank("New", job::Kind::conversion);
    for (const char* type :
         {"cell.18650-power", "kill.slide-10a", "board.standard", "speaker.28-8ohm",
          "button.momentary-12", "connector.pins-5", "strip.rgb-144"})
        ASSERT_TRUE(add_part(type, {}, parts())(job)) << type;
    EXPECT_TRUE(job.wires.empty());
    ASSERT_TRUE(harness::wire_missing(parts())(job));
    EXPECT_TRUE(harness::missing_wires(job, parts()).empty());
    EXPECT_TRUE(harness::wire_conflicts(job, parts()).empty());
    EXPECT_TRUE(job::validate(job, parts()));
    EXPECT_EQ(job.blades.at(0).connector, "P1");
}

TEST(AddPart, AStripHasThePixelsThatItsLengthTakes) {
    // As many as the finding and the field beside a strip's length count, whatever the length.
    for (const double length : {178.0, 500.0, 610.0, 813.0, 914.0})
        for (const catalogue::PartType* type : parts().all<catalogue::Strip>()) {
            job::Job job = job::blank("New", job::Kind::conversion);
            job::Blade last;
            last.ref = "BL1";
            last.length = Millimetre(length);
            last.outer = Millimetre(22.2);
            job.blades.push_back(last);
            ASSERT_TRUE(add_part(type->id, {}, parts())(job));
            const job::Strip& strip = job.blades.back().strips.at(0);
            const auto& density = std::get<catalogue::Strip>(type->figures).density;
            EXPECT_EQ(strip.pixels, catalogue::pixels_on(strip.length, density)) << type->id;
            EXPECT_EQ(strip.length, Millimetre(length));
            EXPECT_EQ(strip.lead, job::usual_strip_lead);
        }
}

TEST(AddPart, ABuildFromNothingGivesAllEightFigures) {
    job::Job job = job::blank("New", job::Kind::conversion);
    job.hilt.sections = {
        {"grip", Millimetre(0), Millimetre(240), Millimetre(28.4), Millimetre(35), {}, {}},
        {"socket", Millimetre(240), Millimetre(290), Millimetre(25.7), Millimetre(35), {}, {}}};
    for (const char* type :
         {"speaker.24-8ohm", "cell.18650-power", "kill.slide-10a", "board.standard",
          "button.momentary-12", "connector.pins-7", "strip.rgb-144-wide"})
        ASSERT_TRUE(add_part(type, {}, parts())(job)) << type;
    ASSERT_TRUE(harness::wire_missing(parts())(job));
    job::Look look{"Blue", {0, 0, 1, 0}, job::Style::steady, 0.8};
    ASSERT_TRUE(job::add_look(look)(job));
    job.use.volume = 0.7;
    job.use.ignited = Minute(60);
    job.use.idle = Minute(120);
    const plan::Plan plan = plan_of(job);
    for (const Explained& figure : plan.figures)
        EXPECT_TRUE(figure.value) << figure.id << ": " << figure.reason;
    // What was put where there is room lies in nothing's way, and nothing is forgotten.
    for (const findings::Finding& f : plan.findings)
        for (const char* family : {"fit.", "harness.", "strip.", "line.", "supply.not"})
            EXPECT_NE(f.id.rfind(family, 0), 0u) << f.id << ": " << f.text;
}

TEST(ReplacePart, KeepsPlaceAndWiresOfAPartLikeIt) {
    job::Job job = demo("heron");
    const job::Job before = job;
    const auto replacement = replace_part(job, "K1", "kill.slide-10a", parts());
    EXPECT_TRUE(replacement.lost.empty());
    ASSERT_TRUE(replacement.edit(job));
    EXPECT_EQ(job.wires, before.wires);
    const auto *is = job::find_ref(job.parts, "K1"), *was = job::find_ref(before.parts, "K1");
    EXPECT_EQ(is->type, "kill.slide-10a");
    EXPECT_EQ(is->carrier, was->carrier);
    EXPECT_TRUE(job::validate(job, parts()));
}

TEST(ReplacePart, SaysWhatItCanNotKeep) {
    job::Job job = demo("heron");
    job::find_ref(job.parts, "K1")->measured.resistance = Ohm(0.02);
    const std::size_t on_it = static_cast<std::size_t>(
        std::count_if(job.wires.begin(), job.wires.end(), [](const job::Wire& w) {
            return w.from.starts_with("K1.") || w.to.starts_with("K1.");
        }));
    const auto replacement = replace_part(job, "K1", "speaker.20-8ohm", parts());
    EXPECT_EQ(replacement.lost.size(), on_it + 1) << "its wires, and what was measured";
    const std::size_t wires = job.wires.size();
    ASSERT_TRUE(replacement.edit(job));
    EXPECT_EQ(job.wires.size(), wires - on_it);
    EXPECT_TRUE(job::validate(job, parts()));
}

TEST(DuplicatePart, IsAnotherLikeItWithoutWiresOrReadings) {
    job::Job job = demo("bittern");
    for (const job::Part& part : demo("bittern").parts) {
        const job::Job before = job;
        ASSERT_TRUE(duplicate_part(part.ref, parts())(job));
        const job::Part& twin = job.parts.back();
        EXPECT_EQ(twin.type, part.type);
        EXPECT_NE(twin.ref, part.ref);
        EXPECT_EQ(twin.measured, job::Measured{});
        EXPECT_EQ(job.wires, before.wires);
        EXPECT_TRUE(job::validate(job, parts())) << part.ref;
    }
    EXPECT_FALSE(duplicate_part("X9", parts())(job));
}

TEST(PartEdits, TwoHundredAtRandomAlwaysLeaveAValidJob) {
    std::mt19937 random(1811);
    const auto pick = [&](std::size_t n) {
        return std::uniform_int_distribution<std::size_t>(0, n - 1)(random);
    };
    std::vector<std::string> types;
    for (const catalogue::PartType& type : all_types())
        types.push_back(type.id);
    for (const char* name : demo_jobs) {
        job::Job job = demo(name);
        int done = 0;
        for (int i = 0; i < 200; ++i) {
            job::Job next = job;
            job::Edit edit;
            std::string what;
            const std::string ref = job.parts.empty() ? "" : job.parts[pick(job.parts.size())].ref;
            switch (pick(4)) {
            case 0:
                what = "add " + types[pick(types.size())];
                edit = add_part(what.substr(4), {}, parts());
                break;
            case 1:
                if (ref.empty()) continue;
                what = "remove " + ref;
                edit = job::remove_part(ref);
                break;
            case 2: {
                const std::string type = types[pick(types.size())];
                if (ref.empty() || stands(type) == Stands::apart) continue;
                what = "replace " + ref + " by " + type;
                edit = replace_part(job, ref, type, parts()).edit;
                break;
            }
            default:
                if (ref.empty()) continue;
                what = "duplicate " + ref;
                edit = duplicate_part(ref, parts());
            }
            if (!edit(next)) continue; // told, and nothing is changed
            const auto valid = job::validate(next, parts());
            ASSERT_TRUE(valid) << name << ", " << what << ": " << valid.error().text();
            job = std::move(next);
            ++done;
        }
        EXPECT_GT(done, 120) << name;
    }
}

TEST(PartEdits, StripsAndBladesAreDuplicatedAddedAndTakenOut) {
    job::Job job = demo("bittern");
    const std::size_t blades = job.blades.size();
    ASSERT_TRUE(duplicate_part("ST3", parts())(job));
    ASSERT_EQ(job.blades[1].strips.size(), 3u);
    EXPECT_EQ(job.blades[1].strips[2].pixels, 25);
    ASSERT_TRUE(duplicate_part("BL2", parts())(job));
    ASSERT_EQ(job.blades.size(), blades + 1);
    EXPECT_EQ(job.blades.back().strips.size(), 3u);
    EXPECT_TRUE(job.blades.back().connector.empty());
    EXPECT_TRUE(job.blades.back().goes_into.empty());
    ASSERT_TRUE(add_strip("strip.rgb-144", job.blades.back().ref, parts())(job));
    EXPECT_EQ(job.blades.back().strips.back().length, Millimetre(174));
    EXPECT_TRUE(job::validate(job, parts()));
    std::set<std::string> refs;
    for (const job::Blade& blade : job.blades)
        for (const job::Strip& strip : blade.strips)
            EXPECT_TRUE(refs.insert(strip.ref).second) << strip.ref;
    const std::size_t wires = job.wires.size();
    ASSERT_TRUE(job::remove_blade("BL2")(job));
    EXPECT_EQ(job.blades.size(), blades);
    EXPECT_EQ(job.wires.size(), wires) << "the wires of its socket stay";
    EXPECT_TRUE(job::validate(job, parts()));
    EXPECT_FALSE(add_strip("strip.rgb-144", "BL9", parts())(job));
    EXPECT_FALSE(add_strip("fuse.blade-7a5", "BL1", parts())(job));
    EXPECT_FALSE(duplicate_part("nothing", parts())(job));
    // A blade lit from the hilt stands on its LED.
    EXPECT_FALSE(add_blade_on("P1", parts())(job));
    ASSERT_TRUE(add_part("led.3mm-red", std::nullopt, parts())(job));
    const std::string led = job.parts.back().ref;
    ASSERT_TRUE(add_blade_on(led, parts())(job));
    EXPECT_EQ(job.blades.back().connector, led);
    EXPECT_TRUE(job::validate(job, parts()));
    EXPECT_FALSE(add_strip("strip.rgb-144", job.blades.back().ref, parts())(job));
}

} // namespace
} // namespace conductus::hilt
