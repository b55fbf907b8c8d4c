// SPDX-License-Identifier: GPL-3.0-or-later
// Single values of a job: written as they are typed, read back, renamed with all that names them.
#include "core/job/places.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "core/job/diff.h"
#include "core/job/lookup.h"
#include "core/job/names.h"
#include "core/job/validate.h"
#include "files/job_json.h"
#include "support/fixtures.h"

namespace conductus::job {
namespace {

using namespace test;
using PlainJson = nlohmann::json;

/// Every place of the job's document that holds a value, as a JSON pointer.
void places_of(const PlainJson& node, const std::string& at, std::vector<std::string>& into) {
    if (node.is_object())
        for (const auto& [key, value] : node.items())
            places_of(value, at + "/" + key, into);
    else if (node.is_array())
        for (std::size_t i = 0; i < node.size(); ++i)
            places_of(node[i], at + "/" + std::to_string(i), into);
    else
        into.push_back(at);
}

PlainJson document_of(const Job& job) { return PlainJson::parse(files::job_text(job)); }

TEST(Places, WhatStandsThereTypedAgainChangesNothing) {
    int tried = 0;
    for (const std::string name : demo_jobs) {
        const Job job = demo(name);
        std::vector<std::string> places;
        places_of(document_of(job), "", places);
        for (const std::string& at : places) {
            for (const char* unit : {"", "%", "mΩ"}) {
                const auto typed = typed_at(job, at, unit);
                if (!typed) {
                    // The header of the file is no value of the job.
                    EXPECT_TRUE(at.find('/', 1) == std::string::npos) << at;
                    continue;
                }
                Job same = job;
                ASSERT_TRUE(write_at(at, *typed, unit)(same)) << at << " " << *typed;
                ASSERT_EQ(same, job) << at << " " << *typed;
                ++tried;
            }
        }
    }
    EXPECT_GT(tried, 5000);
}

TEST(Places, OneValueIsChangedAndNoOther) {
    int changed = 0;
    for (const std::string name : demo_jobs) {
        const Job job = demo(name);
        const PlainJson before = document_of(job);
        std::vector<std::string> places;
        places_of(before, "", places);
        for (const std::string& at : places) {
            const PlainJson::json_pointer pointer(at);
            if (!typed_at(job, at) || !before[pointer].is_number()) continue;
            // A boundary of the survey is the end of one section and the start of the next.
            if (at.starts_with("/hilt/sections/") &&
                (at.ends_with("/from_mm") || at.ends_with("/to_mm")))
                continue;
            // A reading is the measured value of its part, too.
            if (at.starts_with("/inspection/") && at.ends_with("/reading")) continue;
            const double value = before[pointer];
            for (const double next : {value * 1.01 + 0.01, value + 1, value - 1}) {
                Job edited = job;
                if (!write_at(at, fmt::format("{:.6g}", next))(edited) || edited == job) continue;
                const PlainJson patch = PlainJson::diff(before, document_of(edited));
                ASSERT_EQ(patch.size(), 1u) << name << " " << at << " " << patch.dump();
                EXPECT_EQ(patch[0]["path"], at);
                ++changed;
                break;
            }
        }
    }
    EXPECT_GT(changed, 900);
}

TEST(Places, ADigitIsNeverLost) {
    Job job = demo("heron");
    ASSERT_TRUE(write_at("/wires/0/length_mm", "60.27")(job));
    ASSERT_TRUE(write_at("/wires/0/turn_deg", "12.6")(job));
    EXPECT_EQ(typed_at(job, "/wires/0/length_mm"), "60.27");
    ASSERT_TRUE(write_at("/wires/3/colour", "violet")(job));
    EXPECT_EQ(job.wires[0].length, Millimetre(60.27));
    EXPECT_EQ(job.wires[0].turn, Degree(12.6));
    // Inches, a comma, milliohms, percent.
    ASSERT_TRUE(write_at("/wires/0/length_mm", "7/8 in")(job));
    EXPECT_EQ(typed_at(job, "/wires/0/length_mm"), "22.225");
    ASSERT_TRUE(write_at("/wires/0/length_mm", "61,5 mm")(job));
    EXPECT_EQ(job.wires[0].length, Millimetre(61.5));
    ASSERT_TRUE(write_at("/wires/0/resistance_Ohm", "12.5", "mΩ")(job));
    EXPECT_EQ(job.wires[0].resistance, Ohm(0.0125));
    ASSERT_TRUE(write_at("/use/volume", "57 %", "%")(job));
    EXPECT_EQ(job.use.volume, 0.57);
    EXPECT_EQ(typed_at(job, "/use/volume", "%"), "57");
    // Nothing typed is nothing set.
    ASSERT_TRUE(write_at("/wires/0/length_mm", " ")(job));
    EXPECT_FALSE(job.wires[0].length);
}

TEST(Places, NonsenseIsRefusedInWords) {
    const Job job = demo("heron");
    struct Mistake {
        const char *at, *typed, *unit, *why;
    };
    for (const Mistake& m : {Mistake{"/wires/0/role", "fireworks", "", "supply"},
                             {"/wires/0/length_mm", "long", "", "not a number"},
                             {"/wires/0/length_mm", "7 furlongs", "", "unit of length"},
                             {"/wires/0/length_mm", "99999", "", "between"},
                             {"/wires/0/gauge_awg", "22.5", "", "whole number"},
                             {"/wires/0/gauge_awg", "99999999999999999999", "", "between"},
                             {"/wires/0/gauge_awg", "nan", "", "not a number"},
                             {"/use/volume", "130", "%", "between 0 and 100 %"},
                             {"/use/clean_min", "soon", "", "not a number"},
                             {"/hilt/sections/0/from_mm", "3", "", "starts at 0"},
                             {"/wires/99/length_mm", "3", "", "no such place"},
                             {"/nonsense", "3", "", "no such place"}}) {
        Job edited = job;
        const auto ok = write_at(m.at, m.typed, m.unit)(edited);
        ASSERT_FALSE(ok) << m.at << " " << m.typed;
        EXPECT_NE(ok.error().text().find(m.why), std::string::npos) << ok.error().text();
    }
}

TEST(Places, ARenamedThingIsRenamedEverywhere) {
    Job job = demo("heron");
    job.soldered = {{"W2"}};
    job.wires[1].resistance = Ohm(0.011);
    job.built = job.wires;
    ASSERT_TRUE(write_at("/wires/1/ref", "W20")(job));
    EXPECT_EQ(job.soldered[0].wire, "W20");
    EXPECT_EQ(job.wires[1].resistance, Ohm(0.011));
    EXPECT_EQ(job.built[1].ref, "W20");
    // A part with all that hangs on it: nothing says the old name any more, and it is valid.
    for (const std::string name : demo_jobs) {
        const Job before = demo(name);
        for (std::size_t i = 0; i < before.parts.size(); ++i) {
            Job renamed = before;
            const std::string was = before.parts[i].ref;
            ASSERT_TRUE(write_at(fmt::format("/parts/{}/ref", i), "ZZ9")(renamed));
            const auto ok = validate(renamed, parts());
            ASSERT_TRUE(ok) << name << " " << was << ": " << ok.error().text();
            const std::string text = files::job_text(renamed);
            EXPECT_EQ(text.find('"' + was + '.'), std::string::npos) << name << " " << was;
            Job back = renamed;
            ASSERT_TRUE(write_at(fmt::format("/parts/{}/ref", i), was)(back));
            EXPECT_EQ(back, before);
        }
        for (std::size_t i = 0; i < before.looks.size(); ++i) {
            Job renamed = before;
            ASSERT_TRUE(write_at(fmt::format("/looks/{}/name", i), "Another")(renamed));
            EXPECT_TRUE(validate(renamed, parts())) << name;
        }
    }
    // A name that is taken is refused by the whole.
    Job twice = demo("heron");
    ASSERT_TRUE(write_at("/parts/0/ref", twice.parts[1].ref)(twice));
    EXPECT_FALSE(validate(twice, parts()));
}

TEST(Places, RowsComeAndGoWithWhatHangsOnThem) {
    Job job = demo("heron");
    const std::size_t wires = job.wires.size();
    job.soldered = {{job.wires[0].ref}};
    ASSERT_TRUE(take_out_at("/wires/0")(job));
    EXPECT_EQ(job.wires.size(), wires - 1);
    EXPECT_TRUE(job.soldered.empty());
    ASSERT_TRUE(add_at("/wires")(job));
    EXPECT_EQ(job.wires.back().ref, "W1") << "the first that is free";
    ASSERT_TRUE(take_out_at("/hilt/carriers/0")(job));
    EXPECT_TRUE(std::all_of(job.parts.begin(), job.parts.end(),
                            [](const Part& p) { return p.carrier.empty(); }));
    EXPECT_FALSE(take_out_at("/wires/99")(job));
    EXPECT_FALSE(take_out_at("/nothing/0")(job));
    EXPECT_FALSE(add_at("/nothing")(job));
    EXPECT_EQ(count_at(job, "/wires"), wires);
    // Every list there is takes another element and gives it back.
    for (const char* list : {"/hilt/joints", "/hilt/openings", "/hilt/fasteners",
                             "/hilt/socket/bores", "/hilt/side_bores", "/hilt/carriers", "/effects",
                             "/stretches", "/lines", "/config/pads", "/use/day", "/as_found/wires",
                             "/as_found/settings", "/built", "/hilt/sections", "/brief/wishes"}) {
        Job more = demo("heron");
        const std::size_t n = count_at(more, list);
        ASSERT_TRUE(add_at(list)(more)) << list;
        EXPECT_EQ(count_at(more, list), n + 1) << list;
        ASSERT_TRUE(take_out_at(fmt::format("{}/{}", list, n))(more)) << list;
        EXPECT_EQ(more, demo("heron")) << list;
    }
}

TEST(Places, ABladeMadeShorterCutsItsStripsAlong) {
    Job job = demo("heron");
    ASSERT_EQ(job.blades[0].strips[0].pixels, 117);
    ASSERT_TRUE(write_at("/blades/0/length_mm", "410")(job));
    for (const Strip& strip : job.blades[0].strips) {
        EXPECT_EQ(strip.length, Millimetre(410));
        EXPECT_EQ(strip.pixels, 59);
    }
    ASSERT_TRUE(write_at("/blades/0/length_mm", "32 in")(job));
    EXPECT_EQ(job.blades[0].strips[0].length, Millimetre(410)) << "longer, it grows no pixels";
    EXPECT_FALSE(write_at("/blades/0/length_mm", "long")(job));
}

TEST(Places, AnUnitMayHaveAnyPrefix) {
    Job job = demo("heron");
    const std::string lead = "/blades/0/strips/0/lead_Ohm";
    for (const auto& [typed, ohms] : {std::pair{"58 mΩ", 0.058}, {"0.06 Ω", 0.06}, {"61", 0.061}}) {
        ASSERT_TRUE(write_at(lead, typed, "mΩ")(job)) << typed;
        EXPECT_NEAR(job.blades[0].strips[0].lead.value(), ohms, 1e-12) << typed;
    }
    EXPECT_FALSE(write_at(lead, "58 mV", "mΩ")(job));
}

TEST(Places, APlaceIsSaidInWords) {
    const Job job = demo("heron");
    EXPECT_EQ(said_place(job, "/wires/3/from"), "wire W4, from");
    EXPECT_EQ(said_place(job, "/use/look"), "use, look");
    EXPECT_EQ(said_place(job, "/looks"), "looks");
    EXPECT_EQ(said_place(job, "/nonsense"), "/nonsense");
    EXPECT_EQ(words_at(job, "/wires/0/role").size(), 5u);
    EXPECT_TRUE(words_at(job, "/wires/0/ref").empty());
}

} // namespace
} // namespace conductus::job
