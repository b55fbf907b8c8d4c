// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/figures.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/job/lookup.h"
#include "core/plan/choices.h"
#include "core/power/cell_model.h"
#include "core/power/sound.h"

namespace conductus::plan {
namespace {

const std::string solved_source = "solved network";

std::string cell_source(const job::Part& part, bool measured) {
    return measured ? "measured" : "catalogue " + part.type;
}

/// The sounds that a figure goes by, where they were measured.
void font_parts(Explained& e, const job::FontSound* font) {
    if (!font) return;
    e.parts.push_back({"loudest half second of font " + font->font,
                       font->loudest * 100,
                       "%",
                       {},
                       "the card, of full scale"});
    e.parts.push_back(
        {"mean of font " + font->font, font->mean * 100, "%", {}, "the card, of full scale"});
}

Explained peak_current(const Plan& plan) {
    Explained e{.id = "peak-current",
                .label = "peak",
                .value = {},
                .unit = "A",
                .reason = {},
                .formula = "the most that anything in the job can ask of the cells: every look and "
                           "every effect over it, at a peak of sound, full charge",
                .parts = {}};
    const findings::Solved* worst = plan.most_asked.get();
    if (!worst) return e;
    e.value = worst->cell_amps();
    // The look under an effect is told with the formula: the gauge has no room for it.
    e.label = "peak, " + (worst->effect ? worst->of_effect : worst->look);
    e.formula = say("{}: the most that anything in the job can ask of the cells, of every look and "
                    "every effect over it, at a peak of sound, full charge",
                    worst->name);
    for (std::size_t i = 0; i < worst->network.strips.size(); ++i)
        e.parts.push_back({"strip " + worst->network.strips[i].ref, worst->point.strips[i].amps,
                           "A", worst->network.strips[i].ref, solved_source});
    for (std::size_t i = 0; i < worst->network.sinks.size(); ++i)
        e.parts.push_back({"board and sound", worst->point.sink_amps[i], "A",
                           worst->network.sinks[i].ref, solved_source});
    font_parts(e, power::font_of(*plan.job, worst->look, true));
    if (plan.by_count > Ampere(0))
        e.parts.push_back(
            {"count × 60 mA would say", plan.by_count.value(), "A", {}, "arithmetic"});
    return e;
}

Explained board_sag(const Plan& plan) {
    Explained e{.id = "board-sag",
                .label = "sag at the board",
                .value = {},
                .unit = "V",
                .reason = {},
                .formula = "OCV at full charge − lowest voltage at the board",
                .parts = {}};
    if (plan.fresh.empty() || plan.fresh[0]->network.sinks.empty()) {
        e.reason = "there is no board wired";
        return e;
    }
    double lowest = INFINITY;
    std::string at;
    auto take = [&](const std::vector<LookPlan>& list) {
        for (const LookPlan& l : list)
            if (const double v = l.views[full].board.value(); v < lowest) lowest = v, at = l.name;
    };
    take(plan.looks);
    take(plan.effects);
    take(plan.own_effects);
    if (plan.most_asked && !plan.most_asked->network.sinks.empty()) {
        const auto& sink = plan.most_asked->network.sinks.front();
        const double v =
            plan.most_asked->point.volts[sink.plus] - plan.most_asked->point.volts[sink.minus];
        if (v < lowest) lowest = v, at = plan.most_asked->name;
    }
    const double ocv = open_at_board(plan.fresh[0]->network);
    e.value = ocv - lowest;
    e.label = "sag at the board";
    e.parts = {{"OCV, full", ocv, "V", {}, "OCV table"},
               {"board in " + at, lowest, "V", {}, solved_source}};
    return e;
}

Explained tip_brightness(const Plan& plan) {
    Explained e{.id = "tip-brightness",
                .label = "tip against foot",
                .value = {},
                .unit = "%",
                .reason = {},
                .formula = "luminance of last pixel / first pixel, dimmest look at half charge",
                .parts = {}};
    if (!plan.tip) {
        e.reason = "there is no lit blade";
        return e;
    }
    e.value = plan.tip->ratio * 100;
    for (const LookPlan& l : plan.looks)
        e.parts.push_back({l.name, l.views[half].tip * 100, "%", {}, solved_source});
    return e;
}

void run_parts(Explained& e, const Plan& plan) {
    const auto cell = job::first_of<catalogue::Cell>(*plan.job, *plan.parts);
    if (!cell) return;
    const auto figures = power::figures_of(*cell.part, *cell.figures);
    e.parts.push_back({"capacity", figures.capacity.value(), "mAh", cell.part->ref,
                       cell_source(*cell.part, figures.measured_capacity)});
    e.parts.push_back({"cell resistance", figures.resistance.value(), "Ohm", cell.part->ref,
                       cell_source(*cell.part, figures.measured_resistance)});
    if (!plan.run->samples.empty())
        e.parts.push_back({"current at the start", plan.run->samples.front().amps.value(), "A",
                           cell.part->ref, solved_source});
}

Explained first_crackle(const Plan& plan) {
    Explained e{.id = "first-crackle",
                .label = "to first crackle",
                .value = {},
                .unit = "min",
                .reason = {},
                .formula =
                    "charge stepped down; board at a light and sound peak below what sound needs",
                .parts = {}};
    if (!plan.run) return e;
    e.value = plan.run->clean().value();
    if (!plan.run->crackle)
        e.label = plan.run->tripped ? "clean until it trips" : "clean until off";
    if (plan.run->tripped)
        e.parts.push_back({plan.run->tripped->why, plan.run->off.value(), "min",
                           plan.run->tripped->ref, solved_source});
    run_parts(e, plan);
    e.parts.push_back({"sound needs", plan.run->need.value(), "V", {}, "catalogue"});
    font_parts(e, power::font_of(*plan.job));
    const power::Sound sound = power::sound_of(*plan.job, *plan.parts);
    if (sound.clips > Volt(0) && sound.clips < Volt(100))
        e.parts.push_back({"peaks are heard to clip below",
                           sound.clips.value(),
                           "V",
                           {},
                           "amplifier and loudness"});
    if (plan.run->clips)
        e.parts.push_back({"clips after", plan.run->clips->value(), "min", {}, solved_source});
    if (!plan.run->samples.empty())
        e.parts.push_back({"board at " + plan.run->peak_event + ", fresh",
                           plan.run->samples.front().board_peak.value(),
                           "V",
                           {},
                           solved_source});
    return e;
}

Explained dim(const Plan& plan) {
    Explained e{.id = "dim",
                .label = "to dim",
                .value = {},
                .unit = "min",
                .reason = {},
                .formula =
                    "charge stepped down; the tip below 70 % of the foot of the same moment, or "
                    "all of it below half of its fresh light",
                .parts = {}};
    if (!plan.run) return e;
    e.value = plan.run->bright().value();
    if (!plan.run->dim())
        e.label = "bright until off";
    else
        e.label = plan.run->dim() == plan.run->uneven ? "until the tip dims" : "to half its light";
    run_parts(e, plan);
    if (!plan.run->samples.empty())
        e.parts.push_back({"tip against foot, fresh",
                           plan.run->samples.front().tip * 100,
                           "%",
                           {},
                           solved_source});
    if (plan.run->uneven)
        e.parts.push_back({"tip below 70 % of the foot after",
                           plan.run->uneven->value(),
                           "min",
                           {},
                           solved_source});
    if (plan.run->faded)
        e.parts.push_back(
            {"half of its fresh light after", plan.run->faded->value(), "min", {}, solved_source});
    e.parts.push_back(
        {say("off: {}", plan.run->off_because), plan.run->off.value(), "min", {}, solved_source});
    return e;
}

Explained cells_per_day(const Plan& plan) {
    Explained e{.id = "cells-per-day",
                .label = "for the day",
                .value = {},
                .unit = "cells",
                .reason = {},
                .formula =
                    "ignited time / clean time + charge at rest / charge used clean, rounded up",
                .parts = {}};
    if (!plan.run) return e;
    const job::Use& use = plan.job->use;
    const double clean = plan.run->clean().value();
    if (use.ignited + use.idle <= Minute(0)) {
        e.reason = "the use has no ignited or idle minutes";
        return e;
    }
    if (plan.run->tripped) {
        e.reason = say("fresh cells do not mend it: {}", plan.run->tripped->why);
        return e;
    }
    if (!(clean > 0)) {
        e.reason = "it is never clean";
        return e;
    }
    const auto board = job::first_of<catalogue::Board>(*plan.job, *plan.parts);
    if (!plan.storage) return e;
    const AtRest rest = at_rest(*plan.job, *plan.parts, *plan.storage);
    const auto minutes = power::minutes_of(power::phases_of(use), rest.sleep_after);
    constexpr double most_cells = 200; // a day; more is no use of cells but a slip
    const double cells = sets_a_day(*plan.run, use, rest);
    if (cells > most_cells) {
        e.reason =
            say("beyond what the model says: more than {} cells a day", decimals(most_cells, 0));
        return e;
    }
    e.value = cells;
    e.parts = {{"ignited", minutes.ignited.value(), "min", {}, "use"},
               {"clean on one cell", clean, "min", {}, solved_source},
               {"used of it by then",
                (1 - plan.run->clean_charge) * rest.capacity.value(),
                "mAh",
                {},
                solved_source},
               {"idle, awake", (minutes.idle - minutes.dozing).value(), "min", {}, "use and sleep"},
               {"idle takes",
                rest.idle.value() * 1e3 * (minutes.idle - minutes.dozing).value() / 60, "mAh",
                board ? board.part->ref : "", solved_source},
               {"asleep", (minutes.stored + minutes.dozing).value(), "min", {}, "use and sleep"},
               {"deep sleep takes",
                rest.asleep.value() * 1e3 * (minutes.stored + minutes.dozing).value() / 60, "mAh",
                board ? board.part->ref : "", solved_source}};
    return e;
}

Explained tightest_fit(const Plan& plan) {
    Explained e{.id = "tightest-fit",
                .label = "tightest fit",
                .value = {},
                .unit = "mm",
                .reason = {},
                .formula = "bore − needed diameter, over every place a body lies in or passes",
                .parts = {}};
    const hilt::Clearance* tightest = plan.fit.tightest();
    if (!tightest) {
        e.reason =
            plan.job->hilt.sections.empty() ? "the hilt is not surveyed" : "nothing is fitted";
        return e;
    }
    e.value = tightest->spare.value();
    e.label = say("{} in {}", tightest->ref, tightest->against);
    for (const hilt::Clearance& c : plan.fit.clearances)
        e.parts.push_back(
            {c.ref + " in " + c.against, c.spare.value(), "mm", c.ref, "survey and body"});
    return e;
}

Explained hottest_part(const Plan& plan) {
    Explained e{.id = "hottest-part",
                .label = "hottest part",
                .value = {},
                .unit = "degC",
                .reason = {},
                .formula =
                    "the highest temperature that is reached in the use, from full cells until "
                    "they are empty",
                .parts = {}};
    if (plan.heat.empty()) return e;
    // Solder melts and plastic burns long before: no thermal resistance holds there.
    constexpr double hottest = 400; // °C
    if (plan.heat.front().temperature.value() > hottest) {
        e.reason = say("beyond what the model says: {} would pass {} °C", plan.heat.front().ref,
                       decimals(hottest, 0));
        return e;
    }
    e.value = plan.heat.front().temperature.value();
    e.label = say("hottest, {}", plan.heat.front().ref);
    for (std::size_t i = 0; i < std::min<std::size_t>(6, plan.heat.size()); ++i)
        e.parts.push_back(
            {plan.heat[i].ref, plan.heat[i].temperature.value(), "degC", plan.heat[i].ref,
             say("{} W to begin with; held for ever it would be {}",
                 decimals(plan.heat[i].power.value(), 2), text(plan.heat[i].steady))});
    return e;
}

} // namespace

double open_at_board(const circuit::Network& n) {
    std::vector<double> volts(n.nodes.size(), NAN);
    volts[0] = 0;
    auto spread = [&](circuit::Node a, circuit::Node b, double rise) {
        if (std::isnan(volts[a]) == std::isnan(volts[b])) return false;
        std::isnan(volts[b]) ? volts[b] = volts[a] + rise : volts[a] = volts[b] - rise;
        return true;
    };
    for (bool more = true; more;) {
        more = false;
        for (const auto& s : n.sources)
            more = spread(s.minus, s.plus, s.emf) || more;
        for (const auto& r : n.resistors)
            if (r.part != circuit::Part::leak) more = spread(r.a, r.b, 0) || more;
    }
    const double open = volts[n.sinks[0].plus] - volts[n.sinks[0].minus];
    return std::isnan(open) ? n.sources[0].emf : open;
}

std::vector<Explained> figures_of(const Plan& plan) {
    std::vector<Explained> all{peak_current(plan),  board_sag(plan),   tip_brightness(plan),
                               first_crackle(plan), dim(plan),         cells_per_day(plan),
                               tightest_fit(plan),  hottest_part(plan)};
    if (!plan.trouble) return all;
    // A place in the document is for programs.
    const Problem& p = *plan.trouble;
    const Message reason =
        p.where.starts_with('/') ? say("{}. {}", p.what, p.mend) : Message(p.text());
    for (Explained& e : all)
        if (!e.value && e.id != "tightest-fit") e.reason = reason;
    return all;
}

} // namespace conductus::plan
