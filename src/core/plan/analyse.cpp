// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cctype>
#include <cmath>
#include <fmt/format.h>

#include "core/base/format.h"

#include "core/circuit/copper.h"
#include "core/circuit/solver.h"
#include "core/findings/fold.h"
#include "core/findings/held.h"
#include "core/findings/rules.h"
#include "core/job/lookup.h"
#include "core/job/terminals.h"
#include "core/plan/analyse.h"
#include "core/plan/figures.h"
#include "core/plan/fixes.h"
#include "core/plan/options.h"
#include "core/plan/plan.h"
#include "core/plan/start.h"
#include "core/plan/view.h"
#include "core/power/bands.h"
#include "core/power/film.h"
#include "core/power/peaks.h"
#include "core/power/sound.h"

namespace conductus::plan {
namespace {

using findings::Solved;
using findings::SolvedPtr;
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
    s.look = state.look.name;
    if (state.effect) s.of_effect = state.effect->name;
    s.network = std::move(*network);
    s.point = std::move(*point);
    s.mean_share = state.effect ? 1 : lights::mean_factor(state.look.style);
    return s;
}

/// What the cells give without the peak of the sound.
Result<void> calm(const job::Job& job, const catalogue::Catalogue& parts, State state, Solved& s,
                  circuit::Guess& guess) {
    if (std::none_of(job.parts.begin(), job.parts.end(),
                     [](const job::Part& p) { return p.protection.has_value(); }))
        return {};
    state.loudness = Loudness::hum;
    auto quiet = solved(job, parts, state, guess);
    if (!quiet) return tl::unexpected(quiet.error());
    s.without_peak = std::move(quiet->point.source_amps);
    return {};
}

/// Everything a page shows of one look or effect; the solved states are kept for the rules.
Result<LookPlan> look_plan(const job::Job& job, const catalogue::Catalogue& parts, State state) {
    LookPlan plan;
    plan.name = state.effect ? state.effect->name : state.look.name;
    plan.effect = state.effect.has_value();
    plan.style = state.look.style;
    // An effect comes with its sound; a look with the hum.
    state.loudness = plan.effect ? Loudness::peak : Loudness::hum;
    if (power::has_bands(state)) {
        const auto bands_at = power::brightest_bands(job, parts, state);
        if (!bands_at) return tl::unexpected(bands_at.error());
        state.bands_at = *bands_at;
    }
    double white_y = 0;
    circuit::Guess guess;
    std::vector<std::array<double, charges.size()>> cell_amps;
    for (std::size_t i = 0; i < charges.size(); ++i) {
        state.charge = charges[i];
        auto at = solved(job, parts, state, guess);
        if (!at) return tl::unexpected(at.error());
        plan.views[i] = view_of(job, parts, *at, charges[i], white_y);
        cell_amps.resize(at->point.source_amps.size());
        for (std::size_t c = 0; c < cell_amps.size(); ++c)
            cell_amps[c][i] = at->point.source_amps[c];
        if (i == full) {
            plan.peak = Ampere(at->cell_amps());
            if (plan.effect)
                if (auto ok = calm(job, parts, state, *at, guess); !ok)
                    return tl::unexpected(ok.error());
            plan.fresh = std::make_shared<const Solved>(std::move(*at));
        }
    }
    plan.mean = plan.peak;
    // The first pixel that is lit: bands and an effect on a stretch leave others dark.
    for (const lights::Rgb& seen : plan.views[full].paint)
        if (seen.r + seen.g + seen.b > 0) {
            plan.swatch = seen;
            break;
        }
    state.charge = 1;
    std::optional<power::MeanAndPeak> over_time;
    // Lights on pads that are on for a share of the time have a mean of their own.
    const auto& diodes = plan.fresh->network.diodes;
    const bool moves =
        plan.fresh->mean_share != 1 || power::has_bands(state) ||
        std::any_of(state.look.lights.begin(), state.look.lights.end(),
                    [](const auto& l) { return lights::mean_factor(l.style) != 1; }) ||
        std::any_of(diodes.begin(), diodes.end(),
                    [](const circuit::Diode& d) { return d.of_time < 1; });
    if (plan.effect || moves) {
        auto solved_over_time = power::shares_amps(job, parts, state);
        if (!solved_over_time) return tl::unexpected(solved_over_time.error());
        over_time = std::move(*solved_over_time);
        plan.mean = over_time->mean;
    }
    plan.carried = carried_of(job, parts, plan.fresh->network, plan.fresh->point,
                              over_time ? &*over_time : nullptr);
    if (plan.effect) return plan;
    if (!moves) {
        plan.sustained = plan.fresh;
    } else {
        State even = power::mean_state(state.look);
        even = power::as_known(std::move(even), state);
        auto mean = solved(job, parts, even, guess);
        if (!mean) return tl::unexpected(mean.error());
        plan.sustained = std::make_shared<const Solved>(std::move(*mean));
    }
    plan.own_heat = power::heat_of(job, parts, plan.sustained->network, plan.sustained->point);
    // As it runs down the mean goes as the brightest frame does.
    const double full_amps = plan.fresh->cell_amps();
    for (auto& cell : cell_amps)
        for (double& amps : cell)
            amps *= full_amps > 0 ? plan.mean.value() / full_amps : 1;
    const auto course =
        power::course_of(power::cells_of(job, parts), cell_amps, job.use.temperature);
    std::vector<std::pair<std::string, Celsius>> cells;
    for (std::size_t i = 0; i < course.cells.size(); ++i)
        cells.emplace_back(plan.fresh->network.sources[i].ref, course.cells[i]);
    power::reach(plan.own_heat, course.course, cells, job.use.temperature);
    plan.heat = plan.own_heat;
    return plan;
}

/// What draws most of anything in the job.
Result<SolvedPtr> worst_of(const job::Job& job, const catalogue::Catalogue& parts,
                           const State& known) {
    const auto state = power::most_of_all(job, parts, 1, known);
    if (!state) return tl::unexpected(state.error());
    circuit::Guess guess;
    auto at = solved(job, parts, *state, guess);
    if (!at) return tl::unexpected(at.error());
    at->name = power::name_of(*state);
    at->momentary = !state->effect;
    if (state->effect)
        if (auto ok = calm(job, parts, *state, *at, guess); !ok) return tl::unexpected(ok.error());
    return std::make_shared<const Solved>(std::move(*at));
}

/// How warm everything gets in the use: its look as it runs down, effects at their rates.
void in_the_use(Plan& plan, LookPlan& look) {
    const power::Discharge& run = *plan.run;
    power::Course course;
    const double amps = look.mean.value();
    const Volt first = run.samples.front().cell;
    for (const power::Sample& s : run.samples)
        course.emplace_back(s.at.value() * 60,
                            amps > 0 ? s.amps.value() * s.cell.value() / (amps * first.value())
                                     : 0);
    std::vector<std::pair<std::string, Celsius>> cells;
    for (std::size_t i = 0; i < run.hottest.size(); ++i)
        cells.emplace_back(look.fresh->network.sources[i].ref, run.hottest[i]);
    look.heat = look.own_heat;
    power::reach(look.heat, course, cells, plan.job->use.temperature);
    plan.heat = look.heat;
}

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
        same_run_ = same_use_ && before->job->effects == now.job->effects;
        same_worst_ =
            before->job->effects == now.job->effects && before->job->looks == now.job->looks;
    }
    [[nodiscard]] const Plan* rest() const { return before_; } ///< null: the parts have changed
    [[nodiscard]] const LookPlan* of(const job::Look& look) const {
        const job::Look* then = before_ ? job::find_name(before_->job->looks, look.name) : nullptr;
        return then && *then == look ? before_->look(look.name) : nullptr;
    }
    [[nodiscard]] const LookPlan* of(const job::Effect& effect) const {
        if (!same_use_) return nullptr;
        const job::Effect* then = job::find_name(before_->job->effects, effect.name);
        return then && *then == effect ? job::find_name(before_->effects, effect.name) : nullptr;
    }
    [[nodiscard]] SolvedPtr worst() const { return same_worst_ ? before_->most_asked : nullptr; }
    [[nodiscard]] const power::Discharge* run() const {
        return same_run_ && before_->run ? &*before_->run : nullptr;
    }

private:
    /// Only what no look's solution depends on is left out.
    static job::Job without_lights(job::Job job) {
        job.looks.clear(), job.effects.clear(), job.variants.clear();
        job.use.look.clear();
        return job;
    }
    const Plan* before_ = nullptr;
    bool same_use_ = false, same_run_ = false, same_worst_ = false;
};

/// Fills looks, effects, run and heat. On an error what came before it stays.
Result<void> solve_all(Plan& plan, const ReusableResults& kept, const ParallelFor& parallel_for) {
    const job::Job& job = *plan.job;
    const catalogue::Catalogue& parts = *plan.parts;
    const auto used = power::look_named(job, job.use.look);
    if (!used) return tl::unexpected(used.error());
    const auto chains = std::make_shared<const lights::Chains>(plan.chains);
    const auto runs = std::make_shared<const hilt::Runs>(hilt::runs_of(job, parts));
    const std::size_t looks = job.looks.size(), effects = job.effects.size();
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
            worst = kept.worst();
            if (!*worst) worst = worst_of(job, parts, known);
            return;
        }
        const std::size_t i = task - 2;
        const LookPlan* same = i < looks ? kept.of(job.looks[i]) : kept.of(job.effects[i - looks]);
        if (same) {
            solved[i] = *same;
            return;
        }
        State state{i < looks ? job.looks[i] : *used, {}, Brightness::brightest, Loudness::hum, 1};
        if (i >= looks) state.effect = job.effects[i - looks];
        state.chains = chains;
        state.runs = runs;
        state.wiring = plan.wiring;
        solved[i] = look_plan(job, parts, std::move(state));
    });
    for (std::size_t i = 0; i < solved.size(); ++i) {
        if (!solved[i]) return tl::unexpected(solved[i].error());
        (i < looks ? plan.looks : plan.effects).push_back(std::move(*solved[i]));
    }
    // What was taken from a plan before may have been of its use.
    for (LookPlan& look : plan.looks)
        look.heat = look.own_heat;
    if (!worst) return tl::unexpected(worst.error());
    plan.most_asked = *worst;
    if (!run) return tl::unexpected(run.error());
    plan.run = std::move(*run);
    in_the_use(plan, *job::find_name(plan.looks, used->name));
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

/// What a job lacks before anything electrical can be solved: what it is, and what to do about it.
struct Lacking {
    std::vector<Message> what, mend;
    findings::Station station = findings::Station::hilt;
};
Lacking lacking(const job::Job& job, const catalogue::Catalogue& parts) {
    Lacking l;
    const auto lacks = [&](Message what, Message mend, findings::Station station) {
        if (l.what.empty()) l.station = station;
        l.what.push_back(std::move(what)), l.mend.push_back(std::move(mend));
    };
    if (!job::first_of<catalogue::Cell>(job, parts))
        lacks("no cell", "fit a cell at Hilt, Parts", findings::Station::hilt);
    if (!job::first_of<catalogue::Board>(job, parts) && job.wires.empty())
        lacks("no board", "fit a board at Hilt, Parts", findings::Station::hilt);
    if (job.wires.empty() && l.what.empty())
        lacks("no wire", "wire what is missing at Hilt, Parts", findings::Station::harness);
    if (job.looks.empty())
        lacks("no look", "add a look at Lights, Looks", findings::Station::lights);
    return l;
}

/// Of a job that is not whole yet: no mistake was made.
findings::Finding incomplete_finding(const Plan& plan) {
    const Lacking l = lacking(*plan.job, *plan.parts);
    const bool blank = is_blank(*plan.job);
    return {.id = "supply.not-solved",
            .severity = blank ? findings::Severity::note : findings::Severity::stop,
            .station = l.station,
            .text = blank ? Message("Nothing is fitted yet")
                          : say("Not whole yet: there is {}", joined(l.what, ", ")),
            .detail = blank ? Message("Begin on the start sheet: a few readings and choices make a "
                                      "whole job. Or fit parts by hand at Hilt, Parts")
                            : say("To get figures: {}", joined(l.mend, "; ")),
            .fix = {}};
}

/// A node or a device of the network as a person calls it: "p1_plus" is P1.plus, "d1_die2" is D1.
std::string in_words(const job::Job& job, const catalogue::Catalogue& parts,
                     const std::string& name) {
    const auto lower = [](std::string text) {
        for (char& c : text)
            c = c == '.' ? '_' : static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        return text;
    };
    std::string ref;
    for (const auto& [owner, names] : job::terminals_of(job, parts)) {
        for (const std::string& terminal : names)
            if (lower(owner + "." + terminal) == name) return owner + "." + terminal;
        if (lower(owner) == name || name.starts_with(lower(owner) + "_")) ref = owner;
    }
    for (const job::Wire& wire : job.wires)
        if (lower(wire.ref) == name || name.starts_with(lower(wire.ref) + "_")) ref = wire.ref;
    for (const job::Blade& blade : job.blades)
        for (const job::LedString& string : blade.strings)
            if (lower(string.ref) == name || name.starts_with(lower(string.ref) + "_"))
                ref = string.ref;
    return ref.empty() ? name : ref;
}

findings::Finding trouble_finding(const Plan& plan, const Problem& p, std::size_t solved,
                                  std::size_t looks) {
    if (p.where.starts_with('/') && !lacking(*plan.job, *plan.parts).what.empty())
        return incomplete_finding(plan);
    // A place in the document is for programs; people are led to the station.
    const bool in_document = p.where.starts_with('/');
    // As the first words of a sentence where no place stands before them.
    std::string said = p.what.english();
    if (in_document && !said.empty())
        said[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(said[0])));
    const Message text = in_document ? Message(said) : say("{} {}", p.where, p.what);
    return {.id = "supply.not-solved",
            .severity = findings::Severity::stop,
            .station = p.where == "/looks"   ? findings::Station::lights
                       : p.where == "/parts" ? findings::Station::hilt
                                             : findings::Station::power,
            .where =
                in_document
                    ? std::vector<std::string>{}
                    : std::vector<std::string>{std::string(job::split_terminal(p.where).first)},
            .text = text,
            .detail = p.mend,
            .evidence = {{"looks solved", static_cast<double>(solved), ""},
                         {"looks", static_cast<double>(looks), ""}},
            .fix = {}};
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
    plan.job = std::move(job);
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
    for (const LookPlan& effect : plan.effects)
        plan.fresh.push_back(effect.fresh);
    if (plan.most_asked) plan.fresh.push_back(plan.most_asked);
    for (const LookPlan& look : plan.looks)
        if (!look.views[half].pixel_volts.empty() &&
            (!plan.tip || look.views[half].tip < plan.tip->ratio))
            plan.tip = findings::Tip{look.name, look.views[half].tip};
    if (!plan.trouble) study_lights(plan, plan.fresh, kept.rest());
    std::vector<harness::SolvedState> states;
    if (!plan.trouble)
        for (const SolvedPtr& s : plan.fresh)
            states.push_back({s->name, &s->network, &s->point});
    plan.harness = harness::harness_of(*plan.job, *plan.parts, *plan.wiring, plan.chains, states);
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
    offer_fixes(plan);
    add_options(plan);
    return plan;
}

} // namespace conductus::plan
