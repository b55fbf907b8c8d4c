// SPDX-License-Identifier: GPL-3.0-or-later
// Maps to begin with, as a shop would take them over; and triggers as they are written.
#include <gtest/gtest.h>

#include "core/handling/buttons.h"
#include "core/job/lookup.h"
#include "core/job/names.h"
#include "core/job/places.h"
#include "core/job/trigger.h"
#include "core/job/words.h"
#include "core/plan/analyse.h"
#include "core/plan/fixes.h"
#include "core/plan/handled.h"
#include "core/plan/owner_page.h"
#include "support/planted.h"

namespace conductus::handling {
namespace {

using findings::Finding;
using findings::Severity;
using findings::Station;
using job::Job;
using test::demo;
using test::parts;
using test::plan_of;

std::vector<Finding> of_handling(const plan::Plan& plan) {
    std::vector<Finding> all;
    for (const Finding& f : plan.findings)
        if (f.station == Station::handling) all.push_back(f);
    return all;
}

Job with_buttons(const char* name, std::size_t buttons) {
    Job job = demo(name);
    std::size_t n = hand_buttons(job, parts()).size();
    job::Part more;
    for (const job::Part& p : job.parts)
        if (parts().find_as<catalogue::Button>(p.type)) more = p;
    for (; n < buttons; ++n) {
        more.ref = job::free_ref(job, "S");
        more.at -= Millimetre(18);
        job.parts.push_back(more);
    }
    return job;
}

TEST(Schemes, BeginWithoutAnAlarm) {
    int maps = 0;
    for (const char* name : {"heron", "bittern", "avocet", "curlew", "dunlin", "godwit"})
        for (const Scheme scheme : {Scheme::presses, Scheme::chords, Scheme::motions})
            for (const std::size_t buttons : {1, 2, 3}) {
                Job job = with_buttons(name, buttons);
                if (hand_buttons(job, parts()).size() != buttons) continue;
                ASSERT_TRUE(begin_with(scheme, parts())(job));
                ASSERT_TRUE(job::validate(job, parts()))
                    << job::validate(job, parts()).error().text();
                for (const Finding& f : of_handling(plan_of(job)))
                    EXPECT_EQ(f.severity, Severity::note)
                        << name << " " << static_cast<int>(scheme) << " " << buttons << " "
                        << f.text.english() << " " << f.detail.english();
                const plan::Handled h = plan::handled(job, parts());
                EXPECT_TRUE(h.conflicts.empty());
                EXPECT_TRUE(h.tour.left_out.empty());
                EXPECT_TRUE(h.tour.shortest);
                ++maps;
            }
    EXPECT_GE(maps, 40);
    Job bare = demo("heron");
    std::erase_if(bare.parts, [](const job::Part& p) {
        return parts().find_as<catalogue::Button>(p.type) != nullptr;
    });
    EXPECT_FALSE(begin_with(Scheme::presses, parts())(bare));
}

TEST(Schemes, ButtonsAreNamedByTheirPlace) {
    const Job job = with_buttons("heron", 3);
    const auto all = hand_buttons(job, parts());
    ASSERT_EQ(all.size(), 3u);
    EXPECT_EQ(all[0].letter, "A");
    EXPECT_EQ(all[0].place.english(), "near the emitter");
    EXPECT_EQ(all[2].place.english(), "near the pommel");
    EXPECT_GT(job::find_ref(job.parts, all[0].ref)->at, job::find_ref(job.parts, all[2].ref)->at);
}

TEST(Triggers, ReadAsTheyAreWritten) {
    for (const char* written :
         {"S1", "S1 twice", "S1 three times", "S1 held 1 s", "S1 held 0.4 s", "S1 then S2",
          "S1 then S2 then S3", "twist", "twist left", "swing, blade up", "S1 with twist right",
          "S1 held 1.5 s, blade down", "S1, blade level", "S2 with thrust, blade down"}) {
        const auto trigger = job::read_trigger(written);
        ASSERT_TRUE(trigger) << written << ": " << trigger.error().text();
        EXPECT_EQ(job::trigger_text(*trigger), written);
    }
    EXPECT_EQ(job::trigger_text(*job::read_trigger("  S1   HELD 2s ,Blade Up")),
              "S1 held 2 s, blade up");
    for (const char* written :
         {"", "then S2", "S1 then", "S1 S2", "left", "S1 held", "twist swing", "S1 then S1",
          "S1 twice with twist", "blade", "S1, blade sideways", "twist held 1 s"}) {
        const auto trigger = job::read_trigger(written);
        ASSERT_FALSE(trigger) << written;
        EXPECT_FALSE(trigger.error().mend.empty()) << written;
    }
}

TEST(Triggers, AStateThatIsTakenOutTakesItsCommandsAlongAndASlipOfThePenNone) {
    Job job = with_buttons("avocet", 2);
    const std::size_t all = job.handling.commands.size();
    ASSERT_GT(all, 5u);
    Job mistyped = job;
    ASSERT_TRUE(job::write_at("/handling/commands/0/state", "cellar")(mistyped));
    EXPECT_EQ(mistyped.handling.commands.size(), all) << "the row stays";
    EXPECT_FALSE(job::validate(mistyped, parts())) << "and is refused";
    const std::size_t menu = 2;
    ASSERT_EQ(job.handling.states[menu].kind, job::StateKind::menu);
    ASSERT_TRUE(job::take_out_at("/handling/states/2")(job));
    EXPECT_LT(job.handling.commands.size(), all);
    EXPECT_TRUE(job::validate(job, parts())) << job::validate(job, parts()).error().text();
    for (const job::Command& c : job.handling.commands)
        EXPECT_NE(c.leads, "volume menu");
}

/// Heron with two buttons and the first scheme, which raises nothing.
Job handled() {
    Job job = with_buttons("heron", 2);
    EXPECT_TRUE(begin_with(Scheme::presses, parts())(job));
    return job;
}

TEST(Schemes, TheOwnersPageHasEveryCommand) {
    Job job = handled();
    job.handling.commands[0].tried_on = "2027-01-04";
    const std::string page = plan::owner_text(plan::owner_page(plan_of(job)));
    for (const job::Command& c : job.handling.commands)
        EXPECT_NE(page.find(c.name), std::string::npos) << c.name;
    EXPECT_NE(page.find("[x] While idle: A – light the blade\n"), std::string::npos) << page;
    EXPECT_NE(page.find("(untried)"), std::string::npos);
    EXPECT_NE(page.find("Button B – near the pommel"), std::string::npos);
}

/// The one finding of the station that the mistake makes; where it has a fix, that mends it.
void expect_one(const Job& job, const char* id, Severity severity) {
    const auto found = of_handling(plan_of(job));
    ASSERT_EQ(found.size(), 1u) << id << (found.empty() ? "" : " " + found[1 % found.size()].id);
    EXPECT_EQ(found[0].id, id);
    EXPECT_EQ(found[0].severity, severity) << id;
    if (!found[0].fix) return;
    Job mended = job;
    ASSERT_TRUE(found[0].fix->edit(mended));
    EXPECT_TRUE(of_handling(plan_of(mended)).empty()) << id;
}

job::Command* command(Job& job, const char* state, const char* name) {
    for (job::Command& c : job.handling.commands)
        if (c.state == state && c.name == name) return &c;
    ADD_FAILURE() << state << ", " << name;
    return &job.handling.commands.front();
}

TEST(PlantedInHandling, EachIsOneFinding) {
    ASSERT_TRUE(of_handling(plan_of(handled())).empty());
    Job job = handled();
    const auto plant = [&](const char* id, Severity severity, auto change) {
        job = handled();
        change();
        expect_one(job, id, severity);
    };
    plant("handling.means-two", Severity::stop, [&] {
        command(job, "idle", "light it without sound")->trigger =
            command(job, "idle", "light the blade")->trigger;
    });
    plant("handling.no-button", Severity::stop,
          [&] { command(job, "asleep", "wake")->trigger.buttons = {{"S9"}}; });
    plant("handling.no-way-out", Severity::warn, [&] {
        std::erase_if(job.handling.commands,
                      [](const job::Command& c) { return c.name == "take it"; });
        job.handling.states[2].then.clear(), job.handling.states[2].limit = Second(0);
    });
    plant("handling.state-unreached", Severity::warn, [&] {
        job::HandState s;
        s.name = "cellar";
        job.handling.states.push_back(s);
    });
    plant("handling.unreached", Severity::warn, [&] {
        std::erase_if(job.handling.commands, [&](const job::Command& c) {
            return c.does == job::Does::effect && c.what == job.effects[1].name;
        });
    });
    plant("handling.one-slip", Severity::warn,
          [&] { command(job, "lit", "put it out")->trigger.held = Second(0.3); });
    plant("handling.late", Severity::note, [&] {
        job::Command twice = *command(job, "lit", "put it out");
        twice.name = "tell it twice", twice.does = job::Does::charge, twice.leads.clear();
        twice.trigger = *job::read_trigger(
            command(job, "lit", job.effects[1].name.c_str())->trigger.buttons[0].button + " twice");
        job.handling.commands.push_back(twice);
    });
    plant("handling.masked", Severity::warn, [&] {
        job::Command usual = *command(job, "lit", "put it out");
        for (const auto attitude : {job::Attitude::up, job::Attitude::level, job::Attitude::down}) {
            job::Command c = usual;
            c.name = std::string("told ") + std::string(job::word(attitude));
            c.trigger.attitude = attitude;
            job.handling.commands.push_back(c);
        }
    });
}

} // namespace
} // namespace conductus::handling
