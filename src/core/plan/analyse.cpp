// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/circuit/copper.h"
#include "core/circuit/solver.h"
#include "core/findings/answered.h"
#include "core/findings/fold.h"
#include "core/findings/held.h"
#include "core/findings/rules.h"
#include "core/job/lookup.h"
#include "core/job/presets.h"
#include "core/job/words.h"
#include "core/plan/analyse.h"
#include "core/plan/figures.h"
#include "core/plan/fixes.h"
#include "core/plan/look_plan.h"
#include "core/plan/options.h"
#include "core/plan/plan.h"
#include "core/plan/sets.h"
#include "core/plan/trouble.h"
#include "core/power/sound.h"

namespace conductus::plan {
namespace {

using findings::Solved;
using findings::SolvedPtr;
using power::Brightness;
using power::Loudness;
using power::State;

/// What of the plan before still holds: all that follows from what both jobs have alike.
class ReusableResults {
public:
    ReusableResults(const Plan* before, const Plan& now) {
        if (!before || before->trouble || before->parts != now.parts) return;
        const job::Job rest = without_lights(*now.job);
        if (!(rest == without_lights(*before->job))) return;
        before_ = before;
        const auto then = power::look_named(*before->job, before->job->use.look);
        const auto used = power::look_named(*now.job, now.job->use.look);
        same_use_ = then && used && *then == *used;
        same_run_ = same_use_ && job::effects_of_use(*before->job) == job::effects_of_use(*now.job);
        const auto &looks = now.job->looks, &looks_then = before->job->looks;
        same_effects_ =
            before->job->effects == now.job->effects && before->job->presets == now.job->presets;
        for (std::size_t i = 0; i < looks.size() && looks.size() == looks_then.size(); ++i)
            if (!(looks[i] == looks_then[i]))
                ++looks_changed_, changed_ = &looks[i], changed_from_ = &looks_then[i];
        if (looks.size() != looks_then.size()) same_effects_ = false;
    }
    [[nodiscard]] const Plan* rest() const { return before_; } ///< null: the parts have changed
    [[nodiscard]] const LookPlan* of(const job::Look& look) const {
        const job::Look* then = before_ ? job::find_name(before_->job->looks, look.name) : nullptr;
        return then && *then == look ? before_->look(look.name) : nullptr;
    }
    [[nodiscard]] const LookPlan* of(const job::Effect& effect) const {
        if (!same_use_) return nullptr;
        const auto before = job::effects_of_use(*before_->job);
        const job::Effect* then = job::find_name(before, effect.name);
        return then && *then == effect ? job::find_name(before_->effects, effect.name) : nullptr;
    }
    /// The most that was asked, where no more than one look has changed and that was not of it.
    [[nodiscard]] SolvedPtr worst() const {
        const bool holds =
            before_ && before_->most_asked && same_effects_ &&
            (looks_changed_ == 0 ||
             (looks_changed_ == 1 && before_->most_asked->look != changed_from_->name));
        return holds ? before_->most_asked : nullptr;
    }
    /// The look that is another than it was; null: none.
    [[nodiscard]] const job::Look* changed() const { return changed_; }
    [[nodiscard]] const power::Discharge* run() const {
        return same_run_ && before_->run ? &*before_->run : nullptr;
    }

private:
    /// Only what no look's solution depends on is left out.
    static job::Job without_lights(job::Job job) {
        job.looks.clear(), job.effects.clear(), job.variants.clear();
        // Where the sounds of fonts were measured, what a look draws goes by its preset's.
        if (job.card.fonts.empty()) {
            job.presets.clear();
            job.use.look.clear(), job.use.preset.clear();
        }
        job.answered.clear();
        job.card.files.clear(), job.card.meant.clear(), job.card.on.clear();
        job.presets_found.clear(), job.presets_asked.clear();
        job.motion_tests.clear(), job.handling.rehearsed.clear();
        job.bench = {};
        job.config.motion = {};
        return job;
    }
    const Plan* before_ = nullptr;
    bool same_use_ = false, same_run_ = false, same_effects_ = false;
    std::size_t looks_changed_ = 0;
    const job::Look *changed_ = nullptr, *changed_from_ = nullptr; ///< the last of them
};

/// An effect over the look that it comes over.
struct Shown {
    job::Effect effect;
    const job::Look* look = nullptr;
    std::string preset; ///< whose own it is; empty: of the use
};

/// Those of the use, and those that other presets have of their own.
std::vector<Shown> shown_effects(const job::Job& job, const job::Look& used) {
    std::vector<Shown> all;
    for (job::Effect& effect : job::effects_of_use(job))
        all.push_back({std::move(effect), &used, {}});
    const job::Preset* in_use = job::preset_of_use(job);
    for (const job::Preset& preset : job.presets) {
        const job::Look* look = job::find_name(job.looks, preset.look);
        if (&preset == in_use || !look) continue;
        for (const job::Effect& own : preset.effects)
            all.push_back({own, look, preset.name});
    }
    return all;
}

/// Fills looks, effects, run and heat. On an error what came before it stays.
Result<void> solve_all(Plan& plan, const ReusableResults& kept, const ParallelFor& parallel_for) {
    const job::Job& job = *plan.job;
    const catalogue::Catalogue& parts = *plan.parts;
    const auto used = power::look_named(job, job.use.look);
    if (!used) return tl::unexpected(used.error());
    const auto chains = std::make_shared<const lights::Chains>(plan.chains);
    const auto runs = std::make_shared<const hilt::Runs>(hilt::runs_of(job, parts));
    const std::vector<Shown> shown = shown_effects(job, *used);
    const std::size_t looks = job.looks.size(), effects = shown.size();
    std::vector<Result<LookPlan>> solved(looks + effects);
    Result<power::Discharge> run;
    Result<SolvedPtr> worst;
    State known;
    known.chains = chains, known.runs = runs, known.wiring = plan.wiring;
    // Each on its own, the longest first.
    parallel_for(2 + looks + effects, [&](std::size_t task) {
        if (task == 0) {
            const power::Discharge* same = kept.run();
            run = same ? *same : power::run_down(job, parts);
            return;
        }
        if (task == 1) {
            const SolvedPtr before = kept.worst();
            worst = !before          ? most_asked_of(job, parts, known)
                    : kept.changed() ? most_asked_after(job, parts, known, *kept.changed(), before)
                                     : before;
            return;
        }
        const std::size_t i = task - 2;
        const Shown* event = i < looks ? nullptr : &shown[i - looks];
        const LookPlan* same = !event                  ? kept.of(job.looks[i])
                               : event->preset.empty() ? kept.of(event->effect)
                                                       : nullptr;
        if (same) {
            solved[i] = *same;
            return;
        }
        State state{
            event ? *event->look : job.looks[i], {}, Brightness::brightest, Loudness::hum, 1};
        if (event) state.effect = event->effect;
        state.chains = chains;
        state.runs = runs;
        state.wiring = plan.wiring;
        solved[i] = look_plan(job, parts, std::move(state));
    });
    for (std::size_t i = 0; i < solved.size(); ++i) {
        if (!solved[i]) return tl::unexpected(solved[i].error());
        if (i >= looks) solved[i]->preset = shown[i - looks].preset;
        (i < looks                   ? plan.looks
         : solved[i]->preset.empty() ? plan.effects
                                     : plan.own_effects)
            .push_back(std::move(*solved[i]));
    }
    // What was taken from a plan before may have been of its use.
    for (LookPlan& look : plan.looks)
        look.heat = look.own_heat;
    if (!worst) return tl::unexpected(worst.error());
    plan.most_asked = *worst;
    if (!run) return tl::unexpected(run.error());
    plan.run = std::move(*run);
    LookPlan& in_use = *job::find_name(plan.looks, used->name);
    reach_in_use(in_use, *plan.run, job.use.temperature);
    plan.heat = in_use.heat;
    // The looks that something was agreed for; that of the use has been run down.
    for (const job::Look& look : job.looks) {
        const bool agreed = std::any_of(
            job.brief.agreements.begin(), job.brief.agreements.end(),
            [&](const job::Agreement& a) { return a.measure == job::percent_measure + look.name; });
        if (look.name == used->name)
            plan.percents.push_back(power::percent_of(look.name, *plan.run));
        else if (agreed)
            if (auto one = power::percent_in(job, parts, look.name))
                plan.percents.push_back(std::move(*one));
    }
    return {};
}

/// What is lit while no blade is, solved at full charge.
std::vector<SolvedPtr> resting_states(const Plan& plan) {
    std::vector<SolvedPtr> all;
    for (const job::Rest when : {job::Rest::idle, job::Rest::blade_out, job::Rest::asleep}) {
        State state = power::rest_state(*plan.job, when, 1);
        if (state.look.lights.empty()) continue;
        state.wiring = plan.wiring;
        auto network = power::network_of(*plan.job, *plan.parts, state);
        if (!network) continue;
        auto point = circuit::solve(*network);
        if (!point) continue;
        auto solved = std::make_shared<Solved>();
        solved->name = solved->look = std::string(job::word(when));
        solved->network = std::move(*network);
        solved->point = std::move(*point);
        all.push_back(std::move(solved));
    }
    return all;
}

/// Of a pixel of the first blade, else of the first accent.
std::array<double, 4> luminous_of(const Plan& plan) {
    std::array<double, 4> luminous{};
    const lights::Group* first = nullptr;
    for (const lights::Group& g : plan.chains.groups)
        if (!first || (g.kind == lights::Group::Kind::strip && first->kind != g.kind)) first = &g;
    const auto* pixel = first ? plan.parts->find_as<catalogue::Pixel>(first->pixel) : nullptr;
    for (std::size_t c = 0; pixel && c < pixel->channels.size(); ++c)
        luminous[c] = pixel->channels[c].luminous;
    return luminous;
}

/// Pixels at 60 mA, LEDs at what they are stated for.
void count_arithmetic(Plan& plan) {
    for (const lights::Group& g : plan.chains.groups)
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
void study_lights(Plan& plan, const std::vector<SolvedPtr>& fresh, const Plan* rest) {
    const job::Job& job = *plan.job;
    for (const SolvedPtr& s : fresh)
        for (const power::DataHop& hop :
             power::data_levels(job, *plan.parts, plan.chains, s->network, s->point)) {
            auto same = std::find_if(plan.hops.begin(), plan.hops.end(),
                                     [&](const power::DataHop& h) { return h.to == hop.to; });
            if (same == plan.hops.end())
                plan.hops.push_back(hop);
            else if (hop.margin() < same->margin())
                *same = hop;
        }
    State known;
    known.chains = std::make_shared<const lights::Chains>(plan.chains);
    known.wiring = plan.wiring;
    known = power::looked_up(job, *plan.parts, std::move(known));
    if (auto runs = power::led_runs(job, *plan.parts, known)) plan.leds = std::move(*runs);
    if (auto on = power::left_on(job, *plan.parts, known)) plan.left_on = std::move(*on);
    if (rest && rest->storage) { // in the dark no look is shown
        plan.storage = rest->storage;
        plan.asleep = rest->asleep;
    } else {
        if (auto days = power::storage_of(job, *plan.parts)) plan.storage = *days;
        if (auto draws = power::draws_in_the_dark(job, *plan.parts, false, known))
            plan.asleep = std::move(*draws);
    }
    for (const LookPlan& look : plan.looks)
        for (const power::PartHeat& h : look.heat) {
            auto* same = job::find_ref(plan.warmest, h.ref);
            if (!same)
                plan.warmest.push_back(h);
            else if (h.temperature > same->temperature)
                *same = h;
        }
}

/// What the use does to each wire.
void warm_wires(Plan& plan) {
    if (plan.trouble) return;
    for (harness::WireRow& w : plan.harness.wires) {
        if (w.state == "charging") continue;
        const findings::HeldCurrent load = findings::held(
            plan, circuit::wire_time(w.gauge), [&](const Solved& s) { return s.amps_of(w.ref); },
            true);
        double amps = load.amps;
        // Speaker wires are in no look: hum and swing are on for most of the time.
        if (w.role == job::Role::sound) amps = w.amps.value() * std::sqrt(power::hum_share);
        w.rise = circuit::wire_rise(w.gauge, amps, plan.job->use.temperature);
    }
}

/// Severities as the use asks, one finding a mistake, and fixes that wait to be judged.
void settle(Plan& plan) {
    plan.brief = brief_of(plan);
    for (auto& broken : broken_agreements(*plan.job, plan.brief, !plan.trouble))
        plan.findings.push_back(std::move(broken));
    for (auto& open : open_wishes(*plan.job, plan.brief))
        plan.findings.push_back(std::move(open));
    for (findings::Finding& f : plan.findings) {
        if (const auto* rule = findings::rule(f.id))
            f.severity = findings::severity_for(*rule, f.severity, plan.job->brief.occasion);
        // What a rule names as its fix is the likeliest of its proposals.
        std::vector<findings::Fix> all;
        for (auto* fix : {&f.fix, &f.other})
            if (*fix) all.push_back(std::move(**fix)), fix->reset();
        f.proposed.insert(f.proposed.begin(), std::make_move_iterator(all.begin()),
                          std::make_move_iterator(all.end()));
    }
    findings::in_order(plan.findings);
    findings::fold(plan.findings);
    findings::in_order(plan.findings);
    plan.answered = findings::take_answered(plan.findings, plan.job->answered);
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
                     std::shared_ptr<const catalogue::Catalogue> parts, const Plan* before,
                     const ParallelFor& parallel_for) {
    Plan plan;
    plan.whole = std::move(job);
    plan.mated = job::mated_set(*plan.whole);
    plan.job = job::has_choice(*plan.whole) || !plan.whole->mated.empty()
                   ? std::make_shared<const job::Job>(job::as_mated(*plan.whole, plan.mated))
                   : plan.whole;
    plan.parts = std::move(parts);
    const ReusableResults kept(before, plan);
    if (const Plan* rest = kept.rest()) {
        plan.fit = rest->fit;
        plan.hilt_report = rest->hilt_report;
        plan.wiring = rest->wiring;
        plan.levels = rest->levels;
        plan.chains = rest->chains;
    } else {
        plan.fit = hilt::fit(*plan.job, *plan.parts);
        plan.hilt_report = hilt::report_on(*plan.job, *plan.parts, plan.fit);
        plan.wiring = std::make_shared<const job::Wiring>(*plan.job, *plan.parts);
        plan.levels = std::make_shared<const harness::Levels>(*plan.job, *plan.parts);
        plan.chains = lights::chains_of(*plan.job, *plan.parts, *plan.wiring);
    }
    plan.lights.luminous = luminous_of(plan);
    count_arithmetic(plan);

    if (auto ok = solve_all(plan, kept, parallel_for); !ok) {
        plan.trouble = ok.error();
        if (!plan.trouble->where.starts_with('/'))
            plan.trouble->where = in_words(*plan.job, *plan.parts, plan.trouble->where);
    }
    for (const LookPlan& look : plan.looks)
        plan.fresh.push_back(look.fresh), plan.sustained.push_back(look.sustained);
    for (const auto* effects : {&plan.effects, &plan.own_effects})
        for (const LookPlan& effect : *effects)
            plan.fresh.push_back(effect.fresh);
    if (plan.most_asked) plan.fresh.push_back(plan.most_asked);
    for (const LookPlan& look : plan.looks)
        if (!look.views[half].pixel_volts.empty() &&
            (!plan.tip || look.views[half].tip < plan.tip->ratio))
            plan.tip = findings::Tip{look.name, look.views[half].tip};
    for (const LookPlan& look : plan.looks) {
        const View &fresh = look.views[full], &nearly_empty = look.views[low];
        if (!fresh.foot_tint) continue;
        plan.seen.push_back({look.name, look.style, fresh.foot_tint, fresh.tip_tint,
                             nearly_empty.foot_tint, nearly_empty.tip_tint,
                             lights::family_of(*fresh.foot_tint)});
    }
    if (!plan.trouble) study_lights(plan, plan.fresh, kept.rest());
    // At rest a blade's own data and supply are off: its levels say nothing.
    if (!plan.trouble)
        for (SolvedPtr& rest : resting_states(plan))
            plan.fresh.push_back(std::move(rest));
    std::vector<harness::SolvedState> states;
    if (!plan.trouble)
        for (const SolvedPtr& s : plan.fresh)
            states.push_back({s->name, &s->network, &s->point});
    plan.harness = harness::harness_of(*plan.job, *plan.parts, *plan.wiring, plan.chains, states);
    suit_all_sets(plan);
    warm_wires(plan);
    plan.cell_trials = cell_trials(plan);
    if (!plan.trouble) {
        plan.lights.loads = loads_of(plan);
        for (Load& load : plan.lights.loads)
            if (const auto* h = job::find_ref(plan.warmest, load.ref))
                load.hottest = h->temperature;
    }
    if (!plan.trouble && !plan.fresh.empty() && !plan.fresh.front()->network.sinks.empty())
        plan.loudness = power::loudness_of(
            *plan.job, *plan.parts, Volt(open_at_board(plan.fresh.front()->network)),
            plan.hilt_report.sound ? hilt::cavity_gain(*plan.hilt_report.sound) : 0);
    plan.figures = figures_of(plan);
    plan.findings = findings::judge(plan);
    if (plan.trouble) {
        auto finding =
            trouble_finding(plan, *plan.trouble, plan.looks.size(), plan.job->looks.size());
        // Nothing is solved because something is not wired: one mistake, one finding.
        const auto missing =
            std::find_if(plan.findings.begin(), plan.findings.end(),
                         [](const findings::Finding& f) { return f.id == "harness.missing"; });
        if (missing != plan.findings.end()) {
            finding.detail = say("{}. {}", finding.detail, missing->text);
            finding.fix = missing->fix;
            plan.findings.erase(missing);
        }
        plan.findings.insert(plan.findings.begin(), std::move(finding));
    }
    settle(plan);
    return plan;
}

bool add_options(Plan& plan, const std::function<bool()>& stop, const ParallelFor& parallel_for) {
    plan.options = cell_options(plan, stop, parallel_for);
    if (plan.trouble) return !(stop && stop());
    const auto& looks = plan.job->looks;
    plan.lights.what_ifs.resize(looks.size());
    std::vector<std::optional<power::Percent>> percents(looks.size());
    parallel_for(2 * looks.size(), [&](std::size_t task) {
        if (stop && stop()) return;
        const std::size_t i = task % looks.size();
        if (task >= looks.size()) {
            if (auto one = power::percent_in(*plan.job, *plan.parts, looks[i].name))
                percents[i] = std::move(*one);
            return;
        }
        if (auto changes = power::what_ifs(*plan.job, *plan.parts, looks[i].name))
            plan.lights.what_ifs[i] = std::move(*changes);
    });
    plan.percents.clear();
    for (auto& one : percents)
        if (one) plan.percents.push_back(std::move(*one));
    return !(stop && stop());
}

Plan analyse(std::shared_ptr<const job::Job> job,
             std::shared_ptr<const catalogue::Catalogue> parts) {
    Plan plan = analyse_figures(std::move(job), std::move(parts));
    judge_worst_set(plan, one_by_one);
    offer_fixes(plan);
    add_options(plan);
    return plan;
}

} // namespace conductus::plan
