// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/answers.h"

#include "core/plan/analyse.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <set>

#include "core/base/nearest.h"
#include "core/circuit/copper.h"
#include "core/hilt/route.h"
#include "core/job/lookup.h"
#include "core/job/presets.h"
#include "core/power/cell_model.h"
#include "core/power/storage.h"
#include "core/power/use_day.h"

namespace conductus::plan {
namespace {

using catalogue::Catalogue;
using job::Job;

/// An input, and the job with a tenth more of it. `back`: with a tenth less.
struct Input {
    std::string name, ref, unit;
    double was = 0;
    std::function<void(Job&, double)> set; ///< to that many times what it was
    bool back = false;
    std::shared_ptr<const Catalogue> parts; ///< where it is the catalogue's
};

/// The catalogue with one type's figures changed.
template <class T, class F>
std::shared_ptr<const Catalogue> changed(const Catalogue& parts, const std::string& id,
                                         F&& change) {
    Catalogue copy;
    std::vector<catalogue::PartType> rest;
    auto take = [&](bool pixels) { // others name pixel classes
        for (const std::string& each : parts.ids()) {
            catalogue::PartType type = *parts.find(each);
            if (std::holds_alternative<catalogue::Pixel>(type.figures) != pixels) continue;
            if (each == id) change(std::get<T>(type.figures));
            (void)copy.add(std::move(type));
        }
    };
    take(true);
    take(false);
    return std::make_shared<const Catalogue>(std::move(copy));
}

class Inputs {
public:
    Inputs(const Job& job, const Catalogue& parts) : job_(job), parts_(parts) {}

    std::vector<Input> all() {
        for (const job::Part& part : job_.parts)
            of_part(part);
        const hilt::Lengths lengths = hilt::runs_of(job_, parts_).lengths;
        double copper = 0;
        for (const job::Wire& w : job_.wires)
            if (w.role == job::Role::supply || w.role == job::Role::return_path)
                copper += ohms(w, lengths).value();
        if (copper > 0)
            add("resistance of all wires", "", "Ohm", copper, [lengths](Job& j, double k) {
                for (job::Wire& w : j.wires)
                    if (w.role == job::Role::supply || w.role == job::Role::return_path)
                        w.resistance = ohms(w, lengths) * k;
            });
        of_strips();
        of_light();
        of_use();
        return std::move(inputs_);
    }

private:
    static Ohm ohms(const job::Wire& w, const hilt::Lengths& lengths) {
        using circuit::operator*;
        const auto length = lengths.find(w.ref);
        if (length == lengths.end()) return w.resistance.value_or(Ohm(0));
        return w.resistance.value_or(circuit::wire_resistance(w.gauge) * length->second);
    }
    void add(std::string name, std::string ref, std::string unit, double was,
             std::function<void(Job&, double)> set, std::shared_ptr<const Catalogue> parts = {}) {
        if (was != 0)
            inputs_.push_back({std::move(name), std::move(ref), std::move(unit), was,
                               std::move(set), false, std::move(parts)});
    }
    /// Of a part that may have been measured.
    void resistance(const job::Part& part, const char* what, Ohm catalogued) {
        const Ohm was = part.measured.resistance.value_or(catalogued);
        add(fmt::format("{} of {}", what, part.ref), part.ref, "Ohm", was.value(),
            [ref = part.ref, was](Job& j, double k) {
                job::find_ref(j.parts, ref)->measured.resistance = was * k;
            });
    }
    void of_part(const job::Part& part) {
        const auto& figures = parts_.find(part.type)->figures;
        if (const auto* cell = std::get_if<catalogue::Cell>(&figures)) {
            const auto f = power::figures_of(part, *cell);
            add("capacity of " + part.ref, part.ref, "mAh", f.capacity.value(),
                [ref = part.ref, f](Job& j, double k) {
                    job::find_ref(j.parts, ref)->measured.capacity = f.capacity * k;
                });
            resistance(part, "resistance", cell->resistance);
            if (const Ohm bay = job::bay_of(part, parts_).contacts; bay > Ohm(0))
                add("bay contacts of " + part.ref, part.ref, "Ohm", bay.value(),
                    [ref = part.ref, bay](Job& j, double k) {
                        job::find_ref(j.parts, ref)->bay_measured = bay * k;
                    });
            if (const auto* board = part.protection
                                        ? parts_.find_as<catalogue::Protection>(*part.protection)
                                        : nullptr)
                if (asked_.insert(*part.protection).second)
                    add(
                        "resistance of the protection", part.ref, "Ohm", board->resistance.value(),
                        [](Job&, double) {},
                        changed<catalogue::Protection>(
                            parts_, *part.protection,
                            [](catalogue::Protection& p) { p.resistance = p.resistance * 1.1; }));
        } else if (const auto* kill = std::get_if<catalogue::Kill>(&figures)) {
            resistance(part, "contact", kill->contact);
        } else if (const auto* pins = std::get_if<catalogue::Connector>(&figures)) {
            resistance(part, "each pin", pins->pin_resistance);
        } else if (const auto* board = std::get_if<catalogue::Board>(&figures)) {
            if (!asked_.insert(part.type).second) return;
            add(
                "own current of " + part.ref, part.ref, "A", board->active.value(),
                [](Job&, double) {},
                changed<catalogue::Board>(parts_, part.type, [](catalogue::Board& b) {
                    b.active = b.active * 1.1;
                    b.idle = b.idle * 1.1;
                    b.sleep = b.sleep * 1.1;
                }));
            add(
                "pad resistance of " + part.ref, part.ref, "Ohm", board->pad_resistance.value(),
                [](Job&, double) {},
                changed<catalogue::Board>(parts_, part.type, [](catalogue::Board& b) {
                    b.pad_resistance = b.pad_resistance * 1.1;
                }));
            add(
                "volts that sound needs at " + part.ref, part.ref, "V", board->clean_min.value(),
                [](Job&, double) {},
                changed<catalogue::Board>(parts_, part.type, [](catalogue::Board& b) {
                    b.clean_min = b.clean_min * 1.1;
                }));
        }
    }
    void of_strips() {
        const job::Strip* first = nullptr;
        int pixels = 0;
        for (const job::Blade& blade : job_.blades)
            for (const job::Strip& strip : blade.strips) {
                if (!first) first = &strip;
                pixels += strip.pixels;
            }
        if (!first) return;
        const auto* type = parts_.find_as<catalogue::Strip>(first->type);
        add("copper of the strips, each rail", first->ref, "Ohm/m",
            first->rail.value_or(type->rail).value(), [&parts = parts_](Job& j, double k) {
                for (job::Blade& blade : j.blades)
                    for (job::Strip& s : blade.strips)
                        s.rail = s.rail.value_or(parts.find_as<catalogue::Strip>(s.type)->rail) * k;
            });
        add("leads to the strips", first->ref, "Ohm", first->lead.value(), [](Job& j, double k) {
            for (job::Blade& blade : j.blades)
                for (job::Strip& s : blade.strips)
                    s.lead = s.lead * k;
        });
        const auto* pixel = parts_.find_as<catalogue::Pixel>(type->pixel);
        add(
            "full current of a pixel's colours", first->ref, "A",
            pixel->channels.front().full.value(), [](Job&, double) {},
            changed<catalogue::Pixel>(parts_, type->pixel, [](catalogue::Pixel& p) {
                for (catalogue::Channel& c : p.channels)
                    c.full = c.full * 1.1;
            }));
        add("pixels", first->ref, "", pixels, [](Job& j, double k) {
            for (job::Blade& blade : j.blades)
                for (job::Strip& s : blade.strips)
                    s.pixels = std::max(1, static_cast<int>(std::lround(s.pixels * k)));
            for (job::Line& line : j.lines)
                line.pixels = std::max(1, static_cast<int>(std::lround(line.pixels * k)));
        });
    }
    void of_light() {
        const std::string name =
            job_.use.look.empty() && !job_.looks.empty() ? job_.looks.front().name : job_.use.look;
        if (const job::Look* look = job::find_name(job_.looks, name)) {
            add("brightness of " + name, "", "%", look->cap * 100,
                [name](Job& j, double k) { job::find_name(j.looks, name)->cap *= k; });
            inputs_.back().back = look->cap * 1.1 > 1;
        }
        double most = 0;
        for (const job::Effect& e : job::effects_of_use(job_))
            most = std::max(most, e.cap);
        add("brightness of the effects", "", "%", most * 100, [](Job& j, double k) {
            job::each_effect(j, [&](job::Effect& e) { e.cap *= k; });
        });
        if (most > 0) inputs_.back().back = most * 1.1 > 1;
    }
    void of_use() {
        add("loudness", "", "%", job_.use.volume * 100,
            [](Job& j, double k) { j.use.volume *= k; });
        if (job_.use.volume > 0) inputs_.back().back = job_.use.volume * 1.1 > 1;
        add("temperature", "", "degC", job_.use.temperature.value(),
            [](Job& j, double k) { j.use.temperature = Celsius(j.use.temperature.value() * k); });
        auto phases = [](job::PhaseKind kind) {
            return [kind](Job& j, double k) {
                if (j.use.day.empty()) {
                    if (kind == job::PhaseKind::ignited) j.use.ignited = j.use.ignited * k;
                    if (kind == job::PhaseKind::idle) j.use.idle = j.use.idle * k;
                    return;
                }
                for (job::Phase& p : j.use.day) {
                    if (p.kind == kind) p.lasts = p.lasts * k;
                    if (kind == job::PhaseKind::idle) p.pause = p.pause * k;
                }
                power::set_day(j.use, j.use.day);
            };
        };
        const auto minutes = power::minutes_of(power::phases_of(job_.use));
        add("minutes ignited a day", "", "min", minutes.ignited.value(),
            phases(job::PhaseKind::ignited));
        add("minutes idle a day", "", "min", minutes.idle.value(), phases(job::PhaseKind::idle));
        double rates = 0;
        for (const job::Rate& r : power::mean_rates(power::phases_of(job_.use)))
            rates += r.per_minute;
        if (!job_.use.day.empty())
            add("effects a minute", "", "1/min", rates, [](Job& j, double k) {
                for (job::Phase& p : j.use.day)
                    for (job::Rate& r : p.rates)
                        r.per_minute *= k;
            });
    }

    const Job& job_;
    const Catalogue& parts_;
    std::vector<Input> inputs_;
    std::set<std::string> asked_;
};

Result<Explained> storage(const Job& job, const Catalogue& parts) {
    const auto s = power::storage_of(job, parts);
    if (!s) return tl::unexpected(s.error());
    Explained e;
    e.id = "storage";
    e.label = "in storage, asleep";
    e.value = s->days();
    e.unit = "days";
    e.formula = "1 / (drawn a day / capacity + self-discharge a day), over the charge";
    const auto cell = job::first_of<catalogue::Cell>(job, parts);
    const auto board = job::first_of<catalogue::Board>(job, parts);
    e.parts = {{"deep sleep draws", s->asleep.value() * 1e6, "µA",
                board ? board.part->ref : std::string(), "solved network"},
               {"kill open, leaks draw", s->killed.value() * 1e6, "µA", "", "solved network"},
               {"self-discharge", s->self_a_day * 3000, "% a month", cell.part->ref,
                "class of cell, by temperature"},
               {"with the kill open", s->killed_days, "days", "", "solved network"},
               {"cell taken out", s->pulled_days, "days", cell.part->ref, "self-discharge alone"}};
    return e;
}

Result<Explained> off(const Plan& plan) {
    if (!plan.run) return problem("off", "is not known", plan.trouble ? plan.trouble->text() : "");
    Explained e;
    e.id = "off";
    e.label = say("until off: {}", plan.run->off_because);
    e.value = plan.run->off.value();
    e.unit = "min";
    e.formula = "charge stepped down until a cut-off or an empty cell";
    const auto& tally = plan.run->tally;
    const double hours = plan.run->off.value() * 60;
    e.parts.push_back(
        {"taken from each cell", plan.run->drawn.value(), "mAh", "", "solved network"});
    if (hours > 0)
        e.parts.push_back({"on average", tally.drawn / hours, "W", "", "solved network"});
    return e;
}

/// The figure as it is in an analysed job.
Result<Explained> figure_of(const Plan& plan, const std::string& id) {
    if (id == "storage") return storage(*plan.job, *plan.parts);
    if (id == "off") return off(plan);
    const Explained* e = plan.figure(id);
    if (!e) {
        const auto all = figures_to_ask();
        const std::string near = nearest_word(id, all);
        return problem("figure", say("there is no figure '{}'", id),
                       near.empty() ? say("There are: {}", conductus::joined(all, ", "))
                                    : say("Did you mean '{}'? There are: {}", near,
                                          conductus::joined(all, ", ")));
    }
    if (!e->value) return problem(id, "is not known", e->reason.english());
    return *e;
}

} // namespace

namespace {

/// What the capacitor at the board's supply saves of a sound peak's dip, full cells.
void tell_capacitor(Explained& e, const Plan& plan) {
    const auto board = job::first_of<catalogue::Board>(*plan.job, *plan.parts);
    if (!board || !(board.figures->capacitor > Farad(0))) return;
    const auto loads = power::loads_of(*plan.job, *plan.parts, plan.job->use, power::Wanted::worst);
    if (!loads || !(*loads)->peak || (*loads)->peak->bright.empty()) return;
    power::UseLoads& l = **loads;
    const power::LitLoad& peak = *l.peak;
    const power::Bank bank(l.cells, l.pack, l.use.temperature);
    const double with = l.lowest_board(peak, bank, bank.hold(peak.loud));
    l.capacitor = 0;
    const double bare = l.lowest_board(peak, bank, bank.hold(peak.loud));
    const power::Held hum = bank.hold(peak.bright), loud = bank.hold(peak.loud);
    const double dip = peak.bright.at(hum.volts).board - bare, amps = loud.amps - hum.amps;
    e.parts.push_back({"capacitor at the board", board.figures->capacitor.value() * 1e6, "µF",
                       board.part->ref, "catalogue " + board.part->type});
    e.parts.push_back({"sound's dip without it", dip, "V", board.part->ref, "solved network"});
    e.parts.push_back({"it saves, in a peak of 1 ms", (with - bare) * 1e3, "mV", board.part->ref,
                       "R·C ahead of the board"});
    if (dip > 0 && amps > 0)
        e.parts.push_back({"half the dip would take",
                           power::sound_peak_seconds / std::log(2.0) * amps / dip * 1e6, "µF",
                           board.part->ref, "R·C ahead of the board"});
}

} // namespace

std::vector<std::string> figures_to_ask() {
    return {"peak-current",  "board-sag",    "tip-brightness", "first-crackle", "dim",
            "cells-per-day", "tightest-fit", "hottest-part",   "off",           "storage"};
}

Result<Why> why(const Plan& plan, const std::string& figure, const ParallelFor& parallel_for,
                const std::function<bool()>& stop) {
    auto now = figure_of(plan, figure);
    if (!now) return tl::unexpected(now.error());
    Why w{std::move(*now), {}};
    if (figure == "first-crackle") tell_capacitor(w.figure, plan);
    const std::vector<Input> inputs = Inputs(*plan.job, *plan.parts).all();
    std::vector<std::optional<double>> then(inputs.size());
    parallel_for(inputs.size(), [&](std::size_t i) {
        if (stop && stop()) return;
        Job job = *plan.job;
        job.variants.clear();
        inputs[i].set(job, inputs[i].back ? 0.9 : 1.1);
        const auto parts = inputs[i].parts ? inputs[i].parts : plan.parts;
        if (figure == "storage") {
            if (const auto e = storage(job, *parts)) then[i] = e->value;
            return;
        }
        const Plan changed = analyse_figures(std::make_shared<const Job>(std::move(job)), parts);
        if (const auto e = figure_of(changed, figure)) then[i] = e->value;
    });
    for (std::size_t i = 0; i < inputs.size(); ++i) {
        if (!then[i]) continue;
        const double change = (*then[i] - *w.figure.value) * (inputs[i].back ? -1 : 1);
        if (std::abs(change) <= 1e-6 * std::abs(*w.figure.value)) continue;
        w.by.push_back({inputs[i].name, inputs[i].ref, inputs[i].was,
                        inputs[i].was * (inputs[i].back ? 0.9 : 1.1), inputs[i].unit, change});
    }
    std::stable_sort(w.by.begin(), w.by.end(), [](const Sensitivity& a, const Sensitivity& b) {
        return std::abs(a.change) > std::abs(b.change);
    });
    return w;
}

} // namespace conductus::plan
