// SPDX-License-Identifier: GPL-3.0-or-later
// Every state of a hilt and every preset: what it draws follows from what is lit in it.
#include "core/plan/states.h"

#include <cmath>

#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/mating.h"
#include "core/job/presets.h"
#include "core/power/film.h"
#include "core/power/peaks.h"
#include "core/power/runtime.h"
#include "core/power/storage.h"
#include "core/power/use_loads.h"
#include "support/fixtures.h"

namespace conductus::plan {
namespace {

using namespace test;
using job::Job;

double amps_in(const Job& job, const power::State& state) {
    const auto n = power::network_of(job, parts(), state);
    EXPECT_TRUE(n);
    const auto p = circuit::solve(*n);
    EXPECT_TRUE(p);
    return circuit::pack_amps(*n, *p);
}

double amps_named(const Job& job, const std::string& name, const std::string& preset = {}) {
    const auto of = state_of(job, parts(), name, {}, preset, 1);
    EXPECT_TRUE(of) << (of ? "" : of.error().text());
    return amps_in(of->job, of->state);
}

const HiltState* find_state(const std::vector<HiltState>& all, const std::string& name) {
    for (const HiltState& s : all)
        if (s.state == name) return &s;
    return nullptr;
}

/// Heron with a ring of seven pixels on a data line and supply of its own.
Job with_accent() {
    Job job = clean_job();
    EXPECT_TRUE(job::add_accent("pixels.ring-7-rgb", job::Mount::own_line, parts())(job));
    return job;
}

TEST(States, AnAccentAtRestDrawsInThatStateAlone) {
    Job job = with_accent();
    const std::string ring = job.parts.back().ref;
    const double idle = amps_named(job, "idle"), asleep = amps_named(job, "asleep");
    EXPECT_EQ(idle, amps_named(job, "idle without accents"));
    ASSERT_TRUE(
        job::let_rest(job::Rest::idle, {}, {ring, {1, 0, 0, 0}, job::Style::steady, 0.5})(job));
    // Seven red channels at half: 7 × 0.5 × 12 mA; straight from a full cell nothing starves.
    EXPECT_NEAR(amps_named(job, "idle") - idle, 7 * 0.5 * 0.012, 7e-4);
    EXPECT_EQ(amps_named(job, "idle without accents"), idle);
    EXPECT_EQ(amps_named(job, "asleep"), asleep);
    const auto all = states_of(job, parts());
    ASSERT_TRUE(all);
    EXPECT_EQ(find_state(*all, "idle")->lights, std::vector<std::string>{ring});
    EXPECT_TRUE(find_state(*all, "asleep")->lights.empty());
    EXPECT_EQ(find_state(*all, "charging"), nullptr) << "its cell comes out to be charged";
    // Idle it lasts less long, lit as long as it did.
    EXPECT_LT(*find_state(*all, "idle")->days, *find_state(*all, "idle without accents")->days);
}

TEST(States, AnAccentOnABladesPadLetsTheBladesQuietCurrentFlow) {
    Job job = with_accent();
    const std::string ring = job.parts.back().ref;
    for (job::Wire& w : job.wires)
        if (w.from == ring + ".minus") w.to = "P1.minus"; // behind the pads of the blade
    const double idle = amps_named(job, "idle");
    ASSERT_TRUE(
        job::let_rest(job::Rest::idle, {}, {ring, {1, 0, 0, 0}, job::Style::steady, 0.5})(job));
    double quiet = 0;
    for (const job::Strip& s : job.blades[0].strips)
        quiet += s.pixels * 0.0008;
    quiet += 7 * 0.0008;
    EXPECT_NEAR(amps_named(job, "idle") - idle, 7 * 0.5 * 0.012 + quiet, 0.05 * quiet + 1e-3);
    const auto all = states_of(job, parts());
    ASSERT_TRUE(all);
    EXPECT_EQ(find_state(*all, "idle")->lights, std::vector<std::string>{ring})
        << "the blade has a supply and shows nothing";
}

TEST(States, WhatIsLitAsleepEmptiesTheCellInStorage) {
    Job job = with_accent();
    const auto before = power::storage_of(job, parts());
    ASSERT_TRUE(before);
    ASSERT_TRUE(job::let_rest(job::Rest::asleep, {}, {job.parts.back().ref, {1, 0, 0, 0},
                                                      job::Style::steady, 1})(job));
    const auto after = power::storage_of(job, parts());
    ASSERT_TRUE(after);
    // Simpson's rule by hand over the same three charges.
    const double ah = power::cells_of(job, parts())[0].capacity.value() / 1e3;
    double sum = 0;
    for (const auto& [charge, weight] : {std::pair{1.0, 1.0}, {0.5, 4.0}, {0.02, 1.0}})
        sum += weight /
               (amps_in(job, power::rest_state(job, job::Rest::asleep, charge)) * 24 / ah +
                after->self_a_day);
    EXPECT_NEAR(after->asleep_days, sum / 6, 1e-6 * sum);
    EXPECT_LT(after->asleep_days, before->asleep_days / 10);
    EXPECT_EQ(after->killed_days, before->killed_days) << "killed, nothing is lit";
    // Set so, it is told, and is no mistake as long as it lasts some days.
    const plan::Plan plan = plan_of(job);
    const auto* f = findings::finding_of(plan.findings, "light.always-on");
    ASSERT_TRUE(f);
    EXPECT_EQ(f->severity, after->asleep_days > 3 ? findings::Severity::note
                                                  : findings::Severity::warn);
}

TEST(States, AJackThatChargesAndKillsTakesTheBoardOff) {
    const Job curlew = demo("curlew");
    for (const char* name : {"charging", "killed"}) {
        const auto of = state_of(curlew, parts(), name, {}, {}, 1);
        ASSERT_TRUE(of);
        const auto n = power::network_of(of->job, parts(), of->state);
        ASSERT_TRUE(n);
        const auto p = circuit::solve(*n);
        ASSERT_TRUE(p);
        const auto& board = n->sinks.front();
        EXPECT_LT(p->volts[board.plus] - p->volts[board.minus], 0.05) << name;
        EXPECT_LT(circuit::pack_amps(*n, *p), 1e-5) << name;
    }
    EXPECT_GT(amps_named(curlew, "asleep"), 5e-5);
}

TEST(States, AreWhatSolvingThemSays) {
    for (const char* name : {"bittern", "curlew", "avocet"}) {
        const Job job = demo(name);
        const auto all = states_of(job, parts());
        ASSERT_TRUE(all);
        const Plan plan = test::plan_of(job);
        std::size_t lit = 0;
        for (const HiltState& s : *all) {
            ASSERT_TRUE(s.hottest) << s.state;
            if (s.state == "lit") {
                // The look's own temperatures, which the gauges and the section begin from.
                const power::PartHeat& told = plan.look(s.look)->own_heat.front();
                EXPECT_EQ(s.hottest->ref, told.ref) << s.look;
                EXPECT_NEAR(s.hottest->steady.value(), told.steady.value(), 1e-6) << s.look;
                ++lit;
                EXPECT_GE(s.peak->value(), s.amps.value() - 1e-9) << s.look;
                EXPECT_NEAR(s.peak->value(), amps_named(job, s.look, s.preset), 1e-9);
                EXPECT_FALSE(s.lights.empty());
            } else if (s.state == "effect") {
                EXPECT_FALSE(s.days);
                EXPECT_GT(s.hottest->steady, job.use.temperature) << s.effect;
            } else {
                EXPECT_NEAR(s.amps.value(), amps_named(job, s.state), 1e-12) << s.state;
                EXPECT_TRUE(s.days) << s.state;
            }
        }
        EXPECT_EQ(lit, job.presets.empty() ? job.looks.size() : job.presets.size());
        EXPECT_EQ(find_state(*all, "blade out") != nullptr, !job::sockets_of(job).empty());
    }
}

TEST(States, WithoutABladeTheBoardDoesWhatItIsSetTo) {
    Job job = with_accent();
    const std::string ring = job.parts.back().ref;
    for (const auto when : {job::Rest::idle, job::Rest::blade_out})
        ASSERT_TRUE(job::let_rest(when, {},
                                  {ring, {1, 0, 0, 0}, job::Style::steady,
                                   when == job::Rest::idle ? 0.5 : 1})(job));
    const double dark = amps_named(job, "idle without accents");
    const double half = amps_named(job, "blade out") - dark;
    EXPECT_GT(half, 0.03) << "not felt: as idle";
    job.config.blade_out = job::BladeOut::lights_accents;
    EXPECT_NEAR(amps_named(job, "blade out") - dark, 2 * half, 0.1 * half);
    job.config.blade_out = job::BladeOut::stays_dark;
    // Out with the blade goes what little leaks through its open pads.
    EXPECT_NEAR(amps_named(job, "blade out"), dark, 1e-4);
}

TEST(PresetPlans, FollowTheirOwnEffects) {
    Job job = clean_job();
    ASSERT_TRUE(job::preset_each_look()(job));
    job::Effect blinding = job.effects[0];
    blinding.colour = {1, 1, 1, 0}, blinding.cap = 1;
    const std::size_t own = 2;
    const auto before = presets_of(job, parts());
    ASSERT_TRUE(before);
    job.presets[own].effects = {blinding};
    const auto after = presets_of(job, parts());
    ASSERT_TRUE(after);
    for (std::size_t i = 0; i < after->size(); ++i) {
        const PresetPlan &was = (*before)[i], &is = (*after)[i];
        EXPECT_EQ(is.order, i + 1);
        if (i == own) {
            EXPECT_GT(is.peak.value(), was.peak.value() * 1.05);
            EXPECT_EQ(is.peak_event, blinding.name);
            EXPECT_LT(is.clean, was.clean);
        } else {
            EXPECT_EQ(is.peak, was.peak) << i;
            EXPECT_EQ(is.clean, was.clean) << i;
        }
        // The most of all that comes in it, one by one.
        double most = amps_in(job, {is.look, {}, power::Brightness::brightest,
                                    power::Loudness::peak, 1});
        for (const job::Effect& e : is.effects)
            most = std::max(most, amps_in(job, {is.look, e, power::Brightness::brightest,
                                                power::Loudness::peak, 1}));
        EXPECT_NEAR(is.peak.value(), most, 1e-9) << is.preset.name;
    }
    // It is among what pads, pins and wires are judged by, and in the most that is asked for.
    const plan::Plan plan = plan_of(job);
    ASSERT_EQ(plan.own_effects.size(), 1u);
    EXPECT_EQ(plan.own_effects[0].preset, job.presets[own].name);
    EXPECT_NEAR(plan.figure("peak-current")->value.value(), (*after)[own].peak.value(), 1e-9);
    // In the use the preset's own effects come.
    ASSERT_TRUE(job::use_preset(job.presets[own].name)(job));
    const auto run = power::run_down(job, parts());
    ASSERT_TRUE(run);
    EXPECT_EQ(run->clean(), (*after)[own].clean);
}

TEST(PresetPlans, AWorseEffectOfOnePresetIsTheWorstOfAll) {
    // A look that asks for less than another may have worse effects of its own.
    Job job = clean_job();
    ASSERT_TRUE(job::preset_each_look()(job));
    std::size_t least = 0;
    double amps = 1e9;
    for (std::size_t i = 0; i < job.looks.size(); ++i)
        if (const double a = amps_in(job, {job.looks[i]}); a < amps) amps = a, least = i;
    job::Effect blinding = job.effects[0];
    blinding.name = "blinding", blinding.colour = {1, 1, 1, 0}, blinding.cap = 1;
    job.presets[least].effects = {blinding};
    const auto worst = power::most_of_all(job, parts(), 1);
    ASSERT_TRUE(worst);
    EXPECT_EQ(worst->look.name, job.presets[least].look);
    ASSERT_TRUE(worst->effect);
    EXPECT_EQ(worst->effect->name, "blinding");
}

} // namespace
} // namespace conductus::plan
