// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/plan/figures.h"
#include "core/plan/options.h"
#include "core/plan/plan.h"
#include "core/plan/view.h"
#include "core/power/film.h"
#include "core/power/peaks.h"

namespace conductus::plan {
namespace {

using findings::Solved;
using power::Brightness;
using power::Loudness;
using power::State;

/// `guess` carries one state's solution to the next: they are much alike.
Result<Solved> solved(const job::Job& job, const catalogue::Catalogue& parts, const State& state,
                      circuit::Guess& guess) {
    auto network = power::network_of(job, parts, state);
    if (!network) return tl::unexpected(network.error());
    auto point = circuit::solve(*network, &guess);
    if (!point) return tl::unexpected(point.error());
    Solved s;
    s.name = state.effect ? state.effect->name : state.look.name;
    s.effect = state.effect.has_value();
    s.network = std::move(*network);
    s.point = std::move(*point);
    s.mean_share = state.effect ? 1 : lights::mean_factor(state.look.style);
    return s;
}

/// Everything a page shows of one look or effect; the fresh state is kept for the rules.
Result<LookPlan> look_plan(const job::Job& job, const catalogue::Catalogue& parts, State state,
                           std::vector<Solved>& fresh, std::vector<Solved>& sustained) {
    LookPlan plan;
    plan.name = state.effect ? state.effect->name : state.look.name;
    plan.effect = state.effect.has_value();
    plan.style = state.look.style;
    // An effect comes with its sound; a look with the hum.
    state.loudness = plan.effect ? Loudness::peak : Loudness::hum;
    double white_y = 0;
    circuit::Guess guess;
    for (std::size_t i = 0; i < charges.size(); ++i) {
        state.charge = charges[i];
        auto at = solved(job, parts, state, guess);
        if (!at) return tl::unexpected(at.error());
        plan.views[i] = view_of(job, parts, *at, charges[i], white_y);
        if (i == full) {
            plan.peak = Ampere(at->cell_amps());
            fresh.push_back(std::move(*at));
        }
    }
    plan.mean = plan.peak;
    const auto& paint = plan.views[full].paint;
    if (!paint.empty()) plan.swatch = paint[plan.style == job::Style::bands ? paint.size() - 1 : 0];
    state.charge = 1;
    if (plan.effect || fresh.back().mean_share != 1) {
        auto over_time = power::shares_amps(job, parts, state);
        if (!over_time) return tl::unexpected(over_time.error());
        plan.mean = over_time->mean;
        // Bands meet a blade that mirrors part of another at any phase.
        plan.peak = std::max(plan.peak, over_time->peak);
    }
    if (plan.effect) return plan;
    if (fresh.back().mean_share == 1) {
        sustained.push_back(fresh.back());
    } else {
        State even = power::mean_state(state.look);
        even.chains = state.chains;
        auto mean = solved(job, parts, even, guess);
        if (!mean) return tl::unexpected(mean.error());
        sustained.push_back(std::move(*mean));
    }
    plan.heat = power::heat_of(job, parts, sustained.back().network, sustained.back().point);
    return plan;
}

/// Fills looks, effects, run and heat. On an error what came before it stays.
Result<void> solve_all(Plan& plan, std::vector<Solved>& fresh, std::vector<Solved>& sustained) {
    const job::Job& job = *plan.job;
    const catalogue::Catalogue& parts = *plan.parts;
    const auto used = power::look_named(job, job.use.look);
    if (!used) return tl::unexpected(used.error());
    const auto chains = std::make_shared<const lights::Chains>(lights::chains_of(job, parts));
    for (const job::Look& look : job.looks) {
        State state{look, {}, Brightness::brightest, Loudness::hum, 1};
        state.chains = chains;
        auto one = look_plan(job, parts, state, fresh, sustained);
        if (!one) return tl::unexpected(one.error());
        plan.looks.push_back(std::move(*one));
    }
    for (const job::Effect& effect : job.effects) {
        State state{*used, effect, Brightness::brightest, Loudness::peak, 1};
        state.chains = chains;
        auto one = look_plan(job, parts, state, fresh, sustained);
        if (!one) return tl::unexpected(one.error());
        plan.effects.push_back(std::move(*one));
    }
    const auto hottest =
        std::max_element(sustained.begin(), sustained.end(), [](const Solved& a, const Solved& b) {
            return a.cell_amps() < b.cell_amps();
        });
    plan.heat = plan.look(hottest->name)->heat;
    plan.hottest_look = hottest->name;
    auto run = power::run_down(job, parts);
    if (!run) return tl::unexpected(run.error());
    plan.run = std::move(*run);
    return {};
}

/// Pixels at 60 mA, LEDs at what they are stated for.
void count_arithmetic(Plan& plan) {
    for (const lights::Group& g : plan.lights.chains.groups)
        plan.pixels += g.pixels;
    plan.by_count = Ampere(0.060 * plan.pixels);
    for (const job::Part& part : plan.job->parts)
        if (const auto* led = plan.parts->find_as<catalogue::Led>(part.type))
            for (const catalogue::Die& die : led->dies)
                plan.by_count += die.stated;
    for (const job::Blade& blade : plan.job->blades)
        for (const job::LedString& string : blade.strings) {
            const auto* type = plan.parts->find_as<catalogue::SegmentedString>(string.type);
            plan.by_count += type->die.stated * type->parallel * type->segments;
            if (type->has_flash) plan.by_count += type->flash.stated * type->flash_parallel;
        }
}

/// Lines, levels and single lights; what can not be solved is left out, the looks say why.
void study_lights(Plan& plan, const std::vector<Solved>& fresh) {
    const job::Job& job = *plan.job;
    for (const Solved& s : fresh)
        for (const power::Hop& hop :
             power::data_levels(job, *plan.parts, plan.lights.chains, s.network, s.point)) {
            auto same = std::find_if(plan.lights.hops.begin(), plan.lights.hops.end(),
                                     [&](const power::Hop& h) { return h.to == hop.to; });
            if (same == plan.lights.hops.end())
                plan.lights.hops.push_back(hop);
            else if (hop.margin() < same->margin())
                *same = hop;
        }
    if (auto runs = power::led_runs(job, *plan.parts)) plan.lights.leds = std::move(*runs);
    if (auto on = power::left_on(job, *plan.parts)) plan.lights.left_on = std::move(*on);
}

findings::Finding trouble_finding(const Problem& p, std::size_t solved, std::size_t looks) {
    return {.id = "supply.not-solved",
            .severity = findings::Severity::stop,
            .station = findings::Station::power,
            .where = {p.where},
            .text = p.where + " " + p.what,
            .detail = p.mend,
            .evidence = {{"looks solved", static_cast<double>(solved), ""},
                         {"looks", static_cast<double>(looks), ""}},
            .fix = {}};
}

} // namespace

const Explained* Plan::figure(std::string_view id) const {
    const auto it =
        std::find_if(figures.begin(), figures.end(), [&](auto& f) { return f.id == id; });
    return it == figures.end() ? nullptr : &*it;
}

const LookPlan* Plan::look(std::string_view name) const { return job::find_name(looks, name); }

std::optional<findings::Severity> Plan::worst(findings::Station station) const {
    std::optional<findings::Severity> worst;
    for (const auto& f : findings)
        if (f.station == station && (!worst || f.severity < *worst)) worst = f.severity;
    return worst;
}

Plan analyse_figures(std::shared_ptr<const job::Job> job,
                     std::shared_ptr<const catalogue::Catalogue> parts) {
    Plan plan;
    plan.job = std::move(job);
    plan.parts = std::move(parts);
    plan.fit = hilt::fit(*plan.job, *plan.parts);
    plan.study = hilt::study(*plan.job, *plan.parts, plan.fit);
    plan.lights.chains = lights::chains_of(*plan.job, *plan.parts);
    count_arithmetic(plan);

    std::vector<Solved> fresh, sustained;
    if (auto ok = solve_all(plan, fresh, sustained); !ok) plan.trouble = ok.error();

    std::optional<findings::Tip> tip;
    for (const LookPlan& look : plan.looks)
        if (!look.views[half].pixel_volts.empty() && (!tip || look.views[half].tip < tip->ratio))
            tip = findings::Tip{look.name, look.views[half].tip};

    if (!plan.trouble) study_lights(plan, fresh);
    const auto trials = cell_trials(plan);
    const findings::Facts facts{*plan.job,
                                *plan.parts,
                                plan.fit,
                                plan.study,
                                fresh,
                                sustained,
                                tip,
                                plan.run,
                                trials,
                                plan.lights.chains,
                                plan.lights.hops,
                                plan.lights.leds,
                                plan.lights.left_on,
                                plan.heat};
    plan.figures = figures_of(plan, facts);
    plan.findings = findings::judge(facts);
    if (plan.trouble)
        plan.findings.insert(
            plan.findings.begin(),
            trouble_finding(*plan.trouble, plan.looks.size(), plan.job->looks.size()));
    plan.brief = brief_of(plan);
    for (auto& broken : broken_agreements(*plan.job, plan.brief, !plan.trouble))
        plan.findings.push_back(std::move(broken));
    findings::in_order(plan.findings);
    return plan;
}

void add_options(Plan& plan) {
    plan.options = cell_options(plan, cell_trials(plan));
    if (plan.trouble) return;
    for (const job::Look& look : plan.job->looks) {
        auto changes = power::what_ifs(*plan.job, *plan.parts, look.name);
        plan.lights.what_ifs.push_back(changes ? std::move(*changes)
                                               : std::vector<power::WhatIf>{});
    }
}

Plan analyse(std::shared_ptr<const job::Job> job,
             std::shared_ptr<const catalogue::Catalogue> parts) {
    Plan plan = analyse_figures(std::move(job), std::move(parts));
    add_options(plan);
    return plan;
}

} // namespace conductus::plan
