// SPDX-License-Identifier: GPL-3.0-or-later
// The harness as derived, as loaded, as configured.
#include "core/harness/study.h"

#include <cmath>

#include "core/circuit/copper.h"
#include "core/harness/built.h"
#include "core/harness/order.h"
#include "core/harness/rewire.h"
#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "files/harness_files.h"
#include "support/planted.h"

namespace conductus::harness {
namespace {

using namespace test;
using files::cutlist_csv;
using files::read_wires_csv;

const char* const demos[] = {"heron", "bittern", "avocet", "curlew", "dunlin", "godwit"};

TEST(Derive, AJobWithoutWiresIsWiredFromWhatIsFitted) {
    for (const char* name : demos) {
        job::Job job = demo(name);
        EXPECT_TRUE(missing_wires(job, parts()).empty()) << name << " as it is wired";
        EXPECT_TRUE(contradictions(job, parts()).empty()) << name;
        job.variants.clear();
        job.wires.clear();
        const std::size_t wanted = missing_wires(job, parts()).size();
        EXPECT_GT(wanted, 5u) << name;
        wire_missing(parts())(job);
        EXPECT_EQ(job.wires.size(), wanted) << name;
        ASSERT_TRUE(job::validate(job, parts())) << name;
        EXPECT_TRUE(missing_wires(job, parts()).empty()) << name;
        EXPECT_TRUE(contradictions(job, parts()).empty()) << name;
        const plan::Plan plan = plan_of(job);
        ASSERT_FALSE(plan.trouble) << name << ": " << plan.trouble->text();
        EXPECT_GT(plan.run->off.value(), 5) << name;
        // Everything that shines does.
        for (const auto& g : plan.lights.chains.groups)
            EXPECT_FALSE(g.line.empty()) << name << " " << g.ref;
    }
}

TEST(Derive, HeronsWiresAreThoseItsInstallerChose) {
    job::Job job = demo("heron");
    const auto chosen = job.wires;
    job.wires.clear();
    wire_missing(parts())(job);
    for (const job::Wire& w : chosen)
        EXPECT_TRUE(std::any_of(job.wires.begin(), job.wires.end(),
                                [&](const job::Wire& d) {
                                    return d.role == w.role &&
                                           ((d.from == w.from && d.to == w.to) ||
                                            (d.from == w.to && d.to == w.from));
                                }))
            << w.from << " to " << w.to;
    EXPECT_EQ(job.wires.size(), chosen.size());
}

TEST(Derive, OneWireTakenOutIsTheOneThatIsMissing) {
    const job::Job whole = clean_job();
    for (const job::Wire& w : whole.wires) {
        job::Job job = whole;
        std::erase_if(job.wires, [&](const job::Wire& x) { return x.ref == w.ref; });
        const auto missing = missing_wires(job, parts());
        // One of two in parallel is not missed.
        const bool second = w.ref == "W5" || w.ref == "W6";
        EXPECT_EQ(missing.size(), second ? 0u : 1u) << w.ref;
        if (missing.empty()) continue;
        const std::set<std::string> ends{missing[0].from, missing[0].to}, own{w.from, w.to};
        EXPECT_EQ(ends, own) << w.ref;
        const plan::Plan plan = plan_of(job);
        // Where nothing can be solved for it, that finding has the fix.
        const auto* f = find(plan, plan.trouble ? "supply.not-solved" : "harness.missing");
        ASSERT_TRUE(f) << w.ref;
        ASSERT_TRUE(f->fix) << w.ref;
        f->fix->edit(job);
        EXPECT_EQ(find(plan_of(job), "harness.missing"), nullptr);
    }
}

TEST(Derive, WhatCanNotBeMeantIsSaid) {
    job::Job job = clean_job();
    job::find_ref(job.wires, "W7")->role = job::Role::supply; // data as supply
    auto all = contradictions(job, parts());
    ASSERT_EQ(all.size(), 1u);
    EXPECT_EQ(all[0].id, "harness.wrong-role");
    all[0].fix(job);
    EXPECT_EQ(job::find_ref(job.wires, "W7")->role, job::Role::data);
    EXPECT_TRUE(contradictions(job, parts()).empty());
    job.wires.push_back({"WX", "U1.d1", "U1.d2", job::Role::data, 28, {}, {}});
    all = contradictions(job, parts());
    ASSERT_EQ(all.size(), 1u);
    EXPECT_EQ(all[0].id, "harness.data-joined");
    job.wires.back() = {"WX", "U1.s2", "S1.b", job::Role::button, 28, {}, {}};
    all = contradictions(job, parts());
    ASSERT_EQ(all.size(), 1u);
    EXPECT_EQ(all[0].id, "harness.button-both");
    job.wires.back() = {"WX", "U1.bat", "U1.bat", job::Role::supply, 22, {}, {}};
    EXPECT_EQ(contradictions(job, parts()).at(0).id, "harness.loop");
}

TEST(Rewire, DoubledItSharesAndThroughAPartItIsInSeries) {
    job::Job job = clean_job();
    const double alone = plan_of(job).harness.wire("W3")->drop.value();
    double_wire("W3")(job);
    ASSERT_TRUE(job::validate(job, parts()));
    const plan::Plan doubled = plan_of(job);
    ASSERT_EQ(doubled.harness.wires.size(), 12u);
    EXPECT_LT(doubled.harness.wire("W3")->drop.value(), 0.55 * alone);
    job::Part fuse;
    fuse.ref = "F1", fuse.type = "fuse.blade-7a5", fuse.at = Millimetre(156);
    job = clean_job();
    job.parts.push_back(fuse);
    const auto ways = ways_through(job, parts(), *job::find_ref(job.wires, "W1"));
    ASSERT_EQ(ways.size(), 1u);
    EXPECT_EQ(ways[0].in, "F1.a");
    EXPECT_TRUE(ways_through(job, parts(), *job::find_ref(job.wires, "W8")).empty());
    split_wire("W1", ways[0])(job);
    ASSERT_TRUE(job::validate(job, parts()));
    EXPECT_TRUE(missing_wires(job, parts()).empty());
    const plan::Plan through = plan_of(job);
    ASSERT_FALSE(through.trouble);
    EXPECT_EQ(through.harness.wires[0].to, "F1.a");
    EXPECT_EQ(through.harness.wires[1].from, "F1.b");
    EXPECT_EQ(through.harness.wires[1].to, "K1.in");
    EXPECT_NEAR(through.harness.wires[0].amps.value(), through.harness.wires[1].amps.value(), 1e-9);
}

TEST(Loads, DropsAreTheNetworksAndRiseFollowsTheGauge) {
    for (const char* name : demos) {
        const plan::Plan plan = plan_of(demo(name));
        for (const WireRow& w : plan.harness.wires) {
            if (w.role != job::Role::supply && w.role != job::Role::ground) continue;
            double most = -1, drop = 0;
            auto look_in = [&](const plan::LookPlan& look) {
                const auto& s = *look.fresh;
                for (std::size_t i = 0; i < s.network.resistors.size(); ++i) {
                    const auto& r = s.network.resistors[i];
                    const double amps = std::abs(s.point.resistor_amps[i]);
                    if (r.part != circuit::Part::wire || r.ref != w.ref || amps <= most) continue;
                    most = amps;
                    drop = std::abs(s.point.volts[r.a] - s.point.volts[r.b]);
                }
            };
            for (const auto& look : plan.looks)
                look_in(look);
            for (const auto& effect : plan.effects)
                look_in(effect);
            EXPECT_NEAR(w.drop.value(), drop, 1e-9) << name << " " << w.ref;
            EXPECT_NEAR(w.amps.value(), most, 1e-12);
            EXPECT_NEAR(w.rise.value(), circuit::wire_rise(w.gauge, most).value(), 1e-12);
        }
        EXPECT_GT(plan.harness.total.value(), 300) << name;
    }
}

TEST(Twist, TurnsOfAThreadThatWiresGoThrough) {
    const plan::Plan plan = plan_of(demo("heron"));
    // The speaker's two go through the pommel's thread, everything for the blade through the box's.
    ASSERT_EQ(plan.harness.twists.size(), 2u);
    const Twist& pommel = plan.harness.twists[0];
    EXPECT_EQ(pommel.joint, "pommel");
    EXPECT_NEAR(pommel.turns, 8, 1e-12); // 8 mm engaged, 1 mm a turn
    EXPECT_EQ(pommel.hand, job::Hand::right);
    EXPECT_NE(pommel.how.find("anticlockwise before"), std::string::npos);
    EXPECT_EQ(std::set<std::string>(pommel.wires.begin(), pommel.wires.end()).count("W10"), 1u);
    const Twist& box = plan.harness.twists[1];
    EXPECT_NEAR(box.turns, 12, 1e-12);
    EXPECT_EQ(box.hand, job::Hand::left);
    EXPECT_EQ(box.how.find("anticlockwise before"), std::string::npos);
}

TEST(Twist, ThatTakesMoreThanTheSlackIsAFinding) {
    job::Job job = clean_job();
    ASSERT_EQ(find(plan_of(job), "harness.twist-takes-slack"), nullptr);
    job.hilt.joints = {{"pommel", Millimetre(34), job::JointKind::thread, job::Hand::right,
                        Millimetre(1), Millimetre(20)}};
    for (const char* ref : {"W10", "W11"})
        job::find_ref(job.wires, ref)->length.reset();
    const plan::Plan plan = plan_of(job);
    const auto* f = find(plan, "harness.twist-takes-slack");
    ASSERT_TRUE(f);
    EXPECT_EQ(std::set<std::string>(f->where.begin(), f->where.end()),
              (std::set<std::string>{"W10", "W11"}));
    ASSERT_TRUE(f->fix);
    f->fix->edit(job);
    EXPECT_EQ(find(plan_of(job), "harness.twist-takes-slack"), nullptr);
}

TEST(Coil, SlackAgainstTheRoomBehindTheChassis) {
    job::Job job = demo("heron");
    for (job::Wire& w : job.wires)
        w.length.reset();
    job.hilt.carriers[0].kind = job::CarrierKind::slide_out;
    const Coil coil = plan_of(job).harness.coil;
    double needs = 0;
    const hilt::Router router(job, parts());
    for (const job::Wire& w : job.wires)
        needs += router.route(w).slack.value() * insulated_area(w.gauge) / 0.5;
    EXPECT_NEAR(coil.needs, needs, 1e-6);
    // From the board's end at 152 to the button at 172 in the wall, so to the connector at 218:
    // ring and box bores, nothing in them.
    const double ring = M_PI / 4 * 25.2 * 25.2 * (168 - 152), box = M_PI / 4 * 28.4 * 28.4 * 50;
    EXPECT_NEAR(coil.has, ring + box, 1);
    EXPECT_NE(coil.where.find("C1"), std::string::npos);
}

TEST(DataMap, EachMismatchIsMendedFromEitherSide) {
    struct Planted {
        const char* id;
        void (*plant)(job::Job&);
        bool solder;
    };
    const Planted all[] = {
        {"config.line-elsewhere", [](job::Job& j) { job::find_ref(j.wires, "W7")->from = "U1.d2"; },
         true},
        {"line.programmed-differs", [](job::Job& j) { j.lines[0].pixels = 100; }, true},
        {"config.line-bare",
         [](job::Job& j) {
             j.lines.push_back({"U1.d2", 8});
         },
         false},
        {"config.button-elsewhere",
         [](job::Job& j) { job::find_ref(j.wires, "W8")->from = "U1.s2"; }, true},
        {"config.button-bare",
         [](job::Job& j) {
             j.config.pads.push_back({"U1.s2", "second"});
         },
         false},
        {"config.button-mode", [](job::Job& j) { j.config.buttons = 2; }, false},
    };
    job::Job set = clean_job();
    configure_as_wired(parts())(set);
    ASSERT_EQ(set.lines.size(), 1u);
    EXPECT_EQ(set.lines[0].pad, "U1.d1");
    EXPECT_EQ(set.config.buttons, 1);
    ASSERT_EQ(set.config.pads.size(), 1u);
    ASSERT_TRUE(plan_of(set).harness.data.mismatches.empty());
    for (const Planted& p : all) {
        job::Job job = set;
        p.plant(job);
        ASSERT_TRUE(job::validate(job, parts())) << p.id;
        const plan::Plan plan = plan_of(job);
        ASSERT_EQ(plan.harness.data.mismatches.size(), 1u) << p.id;
        const Mismatch& m = plan.harness.data.mismatches[0];
        EXPECT_EQ(m.id, p.id);
        EXPECT_EQ(m.solder_text.empty(), !p.solder) << p.id;
        ASSERT_FALSE(m.config_text.empty()) << p.id;
        const auto* f = find(plan, p.id);
        ASSERT_TRUE(f);
        ASSERT_TRUE(f->fix);
        EXPECT_EQ(f->other.has_value(), p.solder) << p.id;
        auto mended = [&](const job::Edit& edit) {
            job::Job with = job;
            edit(with);
            EXPECT_TRUE(job::validate(with, parts())) << p.id;
            return plan_of(with).harness.data.mismatches.empty();
        };
        EXPECT_TRUE(mended(m.config)) << p.id;
        if (p.solder) {
            EXPECT_TRUE(mended(m.solder)) << p.id;
        }
    }
    // A second button fitted and not wired: the mode is mended by wiring it.
    job::Job job = set;
    job.config.buttons = 2;
    job::Part button = *job::find_ref(job.parts, "S1");
    button.ref = "S2", button.type = "button.momentary-6", button.at = Millimetre(190);
    job.parts.push_back(button);
    const auto map = data_map(job, parts(), lights::chains_of(job, parts()));
    ASSERT_EQ(map.mismatches.size(), 1u);
    ASSERT_FALSE(map.mismatches[0].solder_text.empty());
    map.mismatches[0].solder(job);
    ASSERT_TRUE(job::validate(job, parts()));
    EXPECT_EQ(data_map(job, parts(), lights::chains_of(job, parts())).buttons_wired, 2);
}

TEST(Faces, MirroredTwiceIsTheSameAndRowsHaveAWrongWay) {
    int rows = 0, rings = 0;
    for (const auto* type : parts().all<catalogue::Connector>()) {
        const auto& c = std::get<catalogue::Connector>(type->figures);
        const Face face = face_of(*type), back = mirrored(mirrored(face));
        ASSERT_EQ(face.contacts.size(),
                  static_cast<std::size_t>(c.plus_pins + c.minus_pins + c.data_pins));
        for (std::size_t i = 0; i < face.contacts.size(); ++i) {
            EXPECT_EQ(face.contacts[i].x, back.contacts[i].x);
            EXPECT_LT(std::hypot(face.contacts[i].x, face.contacts[i].y), face.radius);
            for (std::size_t k = 0; k < i; ++k)
                EXPECT_GT(std::hypot(face.contacts[i].x - face.contacts[k].x,
                                     face.contacts[i].y - face.contacts[k].y),
                          1.5)
                    << type->id;
        }
        const auto touches = wrong_way(face);
        if (face.layout == Face::Layout::rings) {
            ++rings;
            EXPECT_TRUE(touches.empty());
        } else {
            ++rows;
            EXPECT_FALSE(touches.empty()) << type->id << " would need no key";
            for (const Touch& t : touches)
                EXPECT_NE(t.hilt.substr(0, 4), t.blade.substr(0, 4));
            for (const Touch& t : touches)
                EXPECT_EQ(t.harmful, t.hilt.starts_with("plus") || t.blade.starts_with("plus"));
        }
    }
    EXPECT_GT(rows, 0);
    EXPECT_GT(rings, 0);
}

TEST(Order, TheCellsPlusComesLastAndTicksAreKept) {
    job::Job job = demo("heron");
    job.soldered = {{"W7"}};
    const plan::Plan plan = plan_of(job);
    const auto steps = solder_order(job, parts(), plan.harness);
    ASSERT_EQ(steps.size(), job.wires.size());
    EXPECT_EQ(steps.back().wire, "W1"); // B1.plus to the kill
    std::size_t bench = 0, beside = 0;
    for (std::size_t i = 0; i < steps.size(); ++i) {
        if (steps[i].where == "on the bench") bench = i;
        if (steps[i].where == "chassis beside the hilt" && beside == 0) beside = i;
        EXPECT_EQ(steps[i].done, steps[i].wire == "W7");
        EXPECT_FALSE(steps[i].why.empty());
    }
    EXPECT_LT(bench, beside) << "what rides together is done before it is put to the hilt";
}

TEST(AsBuilt, WhatDiffersIsSolvedAnew) {
    job::Job job = demo("heron");
    job.built = job.wires;
    job::find_ref(job.built, "W3")->gauge = 28;
    job.built.push_back({"W99", "K9.in", "U1.bat", job::Role::supply, 22, Millimetre(20), {}});
    ASSERT_TRUE(job::validate(job, parts())) << "a part that is gone is still part of the record";
    const AsBuilt built = as_built(job, parts());
    ASSERT_EQ(built.left_out.size(), 1u);
    EXPECT_NE(built.left_out[0].find("K9.in"), std::string::npos);
    job::Job as = job;
    as.wires = built.wires;
    const plan::Plan planned = plan_of(job), solved = plan_of(as);
    EXPECT_GT(solved.harness.drop, planned.harness.drop);
    EXPECT_LT(*solved.figure("peak-current")->value, *planned.figure("peak-current")->value);
    EXPECT_NE(find(solved, "wire.too-thin"), nullptr);
}

TEST(WiresCsv, TheCutListReadBackIsTheSameHarness) {
    for (const char* name : demos) {
        const job::Job job = demo(name);
        const auto read = read_wires_csv(cutlist_csv(plan_of(job).harness), job, parts(), name);
        ASSERT_TRUE(read.problems.empty()) << read.problems.front().text();
        ASSERT_EQ(read.wires.size(), job.wires.size());
        for (std::size_t i = 0; i < read.wires.size(); ++i) {
            EXPECT_EQ(read.wires[i].ref, job.wires[i].ref);
            EXPECT_EQ(read.wires[i].from, job.wires[i].from);
            EXPECT_EQ(read.wires[i].to, job.wires[i].to);
            EXPECT_EQ(read.wires[i].role, job.wires[i].role);
            EXPECT_EQ(read.wires[i].gauge, job.wires[i].gauge);
            EXPECT_NEAR(read.wires[i].length->value(), job.wires[i].length->value(), 1);
        }
    }
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
        where.push_back(p.where + " " + p.what);
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
