// SPDX-License-Identifier: GPL-3.0-or-later
// The harness as loaded, as configured, as built.
#include "core/harness/harness.h"

#include <cmath>

#include "core/circuit/copper.h"
#include "core/harness/built.h"
#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "support/planted.h"

namespace conductus::harness {
namespace {

using namespace test;

TEST(Loads, DropsAreTheNetworksAndRiseFollowsTheGauge) {
    for (const char* name : demo_jobs) {
        const plan::Plan plan = plan_of(demo(name));
        for (const WireRow& w : plan.harness.wires) {
            if (w.role != job::Role::supply && w.role != job::Role::return_path) continue;
            if (w.state == "charging") continue; // a charger's current is no state of the network
            double most = -1, drop = 0;
            auto look_in = [&](const findings::Solved& s) {
                for (std::size_t i = 0; i < s.network.resistors.size(); ++i) {
                    const auto& r = s.network.resistors[i];
                    const double amps = std::abs(s.point.resistor_amps[i]);
                    if (r.part != circuit::Part::wire || r.ref != w.ref || amps <= most) continue;
                    most = amps;
                    drop = std::abs(s.point.volts[r.a] - s.point.volts[r.b]);
                }
            };
            for (const auto& look : plan.looks)
                look_in(*look.fresh);
            for (const auto& effect : plan.effects)
                look_in(*effect.fresh);
            look_in(*plan.most_asked);
            EXPECT_NEAR(w.drop.value(), drop, 1e-9) << name << " " << w.ref;
            EXPECT_NEAR(w.amps.value(), most, 1e-12);
            const Celsius air = plan.job->use.temperature;
            EXPECT_NEAR(w.rise_held.value(), circuit::wire_rise(w.gauge, most, air).value(), 1e-12);
            // What the use does to it is no more, and is held by its thermal time.
            EXPECT_LE(w.rise.value(), w.rise_held.value() + 1e-12);
        }
        EXPECT_GT(plan.harness.total.value(), 300) << name;
    }
}

TEST(Twist, TurnsOfAThreadThatWiresGoThrough) {
    const plan::Plan plan = plan_of(one_button_heron());
    // The speaker's two go through the pommel's thread, everything for the blade through the box's.
    ASSERT_EQ(plan.harness.twists.size(), 2u);
    const Twist& pommel = plan.harness.twists[0];
    EXPECT_EQ(pommel.joint, "pommel");
    EXPECT_NEAR(pommel.turns, 8, 1e-12); // 8 mm engaged, 1 mm a turn
    EXPECT_EQ(pommel.hand, job::Hand::right);
    EXPECT_NE(pommel.how.english().find("anticlockwise before"), std::string::npos);
    EXPECT_EQ(std::set<std::string>(pommel.wires.begin(), pommel.wires.end()).count("W10"), 1u);
    const Twist& box = plan.harness.twists[1];
    EXPECT_NEAR(box.turns, 12, 1e-12);
    EXPECT_EQ(box.hand, job::Hand::left);
    EXPECT_EQ(box.how.english().find("anticlockwise before"), std::string::npos);
}

TEST(Twist, OfAWireThatWasCutBeforeIsAFinding) {
    job::Job job = clean_job();
    job.hilt.joints = {{"pommel", Millimetre(34), job::JointKind::thread, job::Hand::right,
                        Millimetre(0.4), Millimetre(20)}};
    // Wires that follow their routes have what the turns take.
    EXPECT_EQ(find(plan_of(job), "harness.twist-takes-slack"), nullptr);
    const hilt::Router router(job, parts());
    for (const char* ref : {"W10", "W11"}) {
        job::Wire& w = *job::find_ref(job.wires, ref);
        const hilt::Route r = router.route(w);
        w.length = r.length() - r.twist;
    }
    const plan::Plan plan = plan_of(job);
    const auto* f = find(plan, "harness.twist-takes-slack");
    ASSERT_TRUE(f);
    EXPECT_EQ(std::set<std::string>(f->where.begin(), f->where.end()),
              (std::set<std::string>{"W10", "W11"}));
    EXPECT_EQ(find(plan, "wire.too-short"), nullptr);
    ASSERT_TRUE(f->fix);
    f->fix->edit(job);
    EXPECT_EQ(find(plan_of(job), "harness.twist-takes-slack"), nullptr);
}

TEST(Twist, AWireWhoseEndsRideOnOneChassisIsNotTwisted) {
    job::Job job = one_button_heron();
    const auto wires = [&] {
        std::set<std::string> all;
        for (const Twist& t : plan_of(job).harness.twists)
            if (t.joint == "pommel") all.insert(t.wires.begin(), t.wires.end());
        return all;
    };
    // The chassis reaches into the pommel: cell and kill before the thread, the board behind it.
    for (job::Joint& joint : job.hilt.joints)
        if (joint.name == "pommel") joint.at = Millimetre(100);
    for (const std::string& ref : wires()) {
        const job::Wire& w = *job::find_ref(job.wires, ref);
        const bool speaker = w.from.starts_with("SP1") || w.to.starts_with("SP1");
        EXPECT_TRUE(speaker) << ref; // in the cap by itself, so it turns with it
    }
    EXPECT_TRUE(wires().contains("W10"));
    // A cell that rides on another carrier than the board: its wires are.
    job.hilt.carriers.push_back(job.hilt.carriers.front());
    job.hilt.carriers.back().ref = "C9";
    job::find_ref(job.parts, "B1")->carrier = "C9";
    EXPECT_TRUE(wires().contains("W4")) << "from the cell's minus to the board";
}

TEST(Lengths, OneThatDoesNotLetItsChassisOutIsTooShort) {
    job::Job job = one_button_heron();
    job.hilt.carriers[0].kind = job::CarrierKind::slide_out;
    const hilt::Route r = hilt::Router(job, parts()).route(*job::find_ref(job.wires, "W3"));
    EXPECT_NEAR(r.out.value(), 118, 1e-9);
    auto told = [&](Millimetre length) {
        job::find_ref(job.wires, "W3")->length = length;
        const plan::Plan plan = plan_of(job);
        const auto* f = find(plan, "wire.too-short");
        return f ? f->where : std::vector<std::string>{};
    };
    EXPECT_TRUE(told(r.least()).empty()) << "it needs no coil to be long enough";
    EXPECT_EQ(told(r.least() - Millimetre(3)), std::vector<std::string>{"W3"});
    job.hilt.carriers[0].kind = job::CarrierKind::fixed;
    EXPECT_TRUE(told(r.least() - Millimetre(3)).empty()) << "where nothing comes out it is enough";
}

TEST(Coil, SlackAgainstTheRoomBehindTheChassis) {
    job::Job job = one_button_heron();
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
    const auto map_of = [](const job::Job& j) {
        return data_map(j, parts(), job::Wiring(j, parts()), lights::chains_of(j, parts()));
    };
    const auto map = map_of(job);
    ASSERT_EQ(map.mismatches.size(), 1u);
    ASSERT_FALSE(map.mismatches[0].solder_text.empty());
    map.mismatches[0].solder(job);
    ASSERT_TRUE(job::validate(job, parts()));
    EXPECT_EQ(map_of(job).buttons_wired, 2);
}

TEST(Faces, MirroredTwiceIsTheSameAndRowsHaveAWrongWay) {
    int rows = 0, rings = 0;
    for (const auto* type : parts().all<catalogue::Connector>()) {
        const auto& c = std::get<catalogue::Connector>(type->figures);
        const Face face = face_of(*type), back = mirrored(mirrored(face));
        ASSERT_EQ(face.contacts.size(),
                  static_cast<std::size_t>(c.plus_pins + c.minus_pins + c.data_pins + c.segments +
                                           (c.flash_pin ? 1 : 0)));
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

TEST(Docks, ABoardWithTooFewContactsIsToldAndNothingIsLeftOutOfTheNetwork) {
    job::Job job = docked_heron();
    EXPECT_EQ(find(plan_of(job), "dock.too-few-contacts"), nullptr);
    job.wires.push_back({"W12", "U1.bat", "P1.plus", job::Role::supply, 22, {}, {}});
    const plan::Plan plan = plan_of(job);
    const auto* f = find(plan, "dock.too-few-contacts");
    ASSERT_TRUE(f);
    EXPECT_EQ(f->text, "DK1 has 6 contacts for 7 wires");
    EXPECT_EQ(f->where, (std::vector<std::string>{"DK1", "W9"})) << "the button gave way to supply";
    EXPECT_GT(plan.harness.wire("W12")->amps.value(), 1);
    EXPECT_EQ(find(plan, "pins.over-current")->where.front(), "P1");
    // Half round, what a contact carries meets what the opposite one carries.
    const auto carries = carries_of(plan.harness.rails, job, "DK1");
    EXPECT_EQ(carries.size(), 6u);
    const Face face = face_of(*parts().find("connector.dock-6"));
    bool harmful = false;
    for (const Touch& t : wrong_way(face, carries))
        harmful |= t.harmful;
    EXPECT_TRUE(harmful);
    EXPECT_TRUE(wrong_way(face, {{"plus1", {"W3", job::Role::supply}}}).empty())
        << "what carries nothing harms nothing";
}

TEST(AsBuilt, WhatDiffersIsSolvedAnew) {
    job::Job job = one_button_heron();
    job.built = job.wires;
    job::find_ref(job.built, "W3")->gauge = 28;
    job.built.push_back({"W99", "K9.in", "U1.bat", job::Role::supply, 22, Millimetre(20), {}});
    ASSERT_TRUE(job::validate(job, parts())) << "a part that is gone is still part of the record";
    const AsBuilt built = as_built(job, parts());
    ASSERT_EQ(built.left_out.size(), 1u);
    EXPECT_NE(built.left_out[0].english().find("K9.in"), std::string::npos);
    job::Job as = job;
    as.wires = built.wires;
    const plan::Plan planned = plan_of(job), solved = plan_of(as);
    EXPECT_GT(solved.harness.drop, planned.harness.drop);
    EXPECT_LT(*solved.figure("peak-current")->value, *planned.figure("peak-current")->value);
    EXPECT_NE(find(solved, "wire.too-thin"), nullptr);
}

} // namespace
} // namespace conductus::harness
