// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of the harness: what is not wired, what can not be meant, what disagrees with the
// configuration, what does not go where it must.
#include <cmath>
#include <fmt/format.h>
#include <map>

#include "core/base/format.h"
#include "core/circuit/copper.h"
#include "core/findings/facts.h"
#include "core/findings/held.h"
#include "core/harness/gauge.h"
#include "core/job/lookup.h"

namespace conductus::findings {
namespace {

std::string owner(const std::string& terminal) {
    return std::string(job::split_terminal(terminal).first);
}

void unwired(const Facts& f, std::vector<Finding>& out) {
    // Lights that hear no data have a rule of their own.
    std::vector<harness::Missing> all = f.harness.missing;
    const bool told = std::any_of(out.begin(), out.end(),
                                  [](const Finding& o) { return o.id == "line.no-data"; });
    if (told)
        std::erase_if(all, [](const harness::Missing& m) { return m.role == job::Role::data; });
    if (all.empty()) return;
    Finding finding{
        .id = "harness.missing",
        .severity = Severity::warn,
        .station = Station::harness,
        .where = {},
        .text = all.size() == 1 ? say("{} to {} is not wired", all[0].from, all[0].to)
                                : say("{} connections are not wired", all.size()),
        .detail = {},
        .evidence = {{"missing", static_cast<double>(all.size()), ""}},
        .fix = Fix{all.size() == 1 ? "wire it" : "wire them all", harness::wire_missing(*f.parts)}};
    std::vector<Message> why; // each reason once
    for (const auto& m : all) {
        if (std::find(why.begin(), why.end(), m.why) == why.end()) why.push_back(m.why);
        for (const std::string& ref : {owner(m.from), owner(m.to)})
            if (std::find(finding.where.begin(), finding.where.end(), ref) == finding.where.end())
                finding.where.push_back(ref);
    }
    if (why.size() > 4) {
        const std::size_t more = why.size() - 3;
        why.resize(3);
        why.push_back(say("{} more", more));
    }
    finding.detail = say("{}.", joined(why, "; "));
    out.push_back(std::move(finding));
}

void contradictory(const Facts& f, std::vector<Finding>& out) {
    for (const harness::WireConflict& c : f.harness.conflicts) {
        Finding finding{.id = c.id,
                        .severity = Severity::warn,
                        .station = Station::harness,
                        .where = c.where,
                        .text = c.text,
                        .detail = c.detail,
                        .evidence = {},
                        .fix = {}};
        if (!c.fix_text.empty()) finding.fix = Fix{c.fix_text, c.fix};
        out.push_back(std::move(finding));
    }
}

void mismatched(const Facts& f, std::vector<Finding>& out) {
    for (const harness::Mismatch& m : f.harness.data.mismatches) {
        Finding finding{.id = m.id,
                        .severity = Severity::warn,
                        .station = m.id.starts_with("line.") ? Station::lights : Station::harness,
                        .where = m.where,
                        .text = m.text,
                        .detail = m.detail,
                        .evidence = {{"set", static_cast<double>(m.set), ""},
                                     {"wired", static_cast<double>(m.wired), ""}},
                        .fix = {}};
        std::vector<Fix> fixes;
        if (!m.config_text.empty()) fixes.push_back({m.config_text, m.config});
        if (!m.solder_text.empty()) fixes.push_back({m.solder_text, m.solder});
        if (!fixes.empty()) finding.fix = fixes[0];
        if (fixes.size() > 1) finding.other = fixes[1];
        out.push_back(std::move(finding));
    }
}

/// Wires that one look is too much for are one finding, the worst of them first.
void too_hot(const Facts& f, std::vector<Finding>& out) {
    struct Thin {
        const harness::WireRow* wire;
        Ampere amps;
        Kelvin rise;
    };
    std::map<std::string, std::vector<Thin>> by_state;
    for (const harness::WireRow& w : f.harness.wires) {
        if (w.rise_held <= harness::most_rise && w.amps <= circuit::usual_limit(w.gauge)) continue;
        HeldCurrent load =
            held(f, circuit::wire_time(w.gauge), [&](const Solved& s) { return s.amps_of(w.ref); });
        // The speaker's wires and those of charging are in no look.
        if (!load.state) load.amps = load.peak = w.amps.value();
        const Ampere amps(std::max(load.amps, load.peak / (2 * momentary_times)));
        const Kelvin rise = circuit::wire_rise(w.gauge, amps.value(), f.job->use.temperature);
        if (rise <= harness::most_rise && amps <= circuit::usual_limit(w.gauge)) continue;
        by_state[load.state ? load.state->name : w.state].push_back({&w, amps, rise});
    }
    for (auto& [state, thin] : by_state) {
        const auto over = [](const Thin& t) {
            return t.amps / circuit::usual_limit(t.wire->gauge);
        };
        std::stable_sort(thin.begin(), thin.end(),
                         [&](const Thin& a, const Thin& b) { return over(a) > over(b); });
        const Thin& worst = thin.front();
        const harness::WireRow& w = *worst.wire;
        const Message one = say("{}, {} AWG, carries {}", w.ref, w.gauge, text(worst.amps));
        Finding finding{
            .id = "wire.too-thin",
            .severity = Severity::warn,
            .station = Station::harness,
            .where = {},
            .text = thin.size() == 1 ? one : say("{} wires are too thin: {}", thin.size(), one),
            .detail = say("Held, it would be {} over the air in the hilt; {} AWG is usually "
                          "given {}.",
                          with_unit(worst.rise.value(), "K"), w.gauge,
                          text(circuit::usual_limit(w.gauge))),
            .evidence = {{"carries", worst.amps.value(), "A"},
                         {"usually given", circuit::usual_limit(w.gauge).value(), "A"},
                         {"rise", worst.rise.value(), "K"}},
            .fix = {}};
        std::vector<std::pair<std::string, int>> thicker;
        for (const Thin& t : thin) {
            finding.where.push_back(t.wire->ref);
            if (const int gauge = harness::finest_by_heat(t.amps); gauge < t.wire->gauge)
                thicker.emplace_back(t.wire->ref, gauge);
        }
        finding.where.push_back(state);
        if (thicker.size() == thin.size())
            finding.fix = Fix{thin.size() == 1 ? say("make it {} AWG", thicker[0].second)
                                               : Message("make each as thick as it needs"),
                              [thicker](job::Job& j) {
                                  for (const auto& [ref, gauge] : thicker)
                                      if (auto* wire = job::find_ref(j.wires, ref))
                                          wire->gauge = gauge;
                              }};
        out.push_back(std::move(finding));
    }
}

/// What was cut before the parts had their places, or before they were moved: it does not reach, or
/// not when the chassis comes out.
void too_short(const Facts& f, std::vector<Finding>& out) {
    std::vector<std::string> refs;
    const harness::WireRow* worst = nullptr;
    auto lacks = [](const harness::WireRow& w) { return w.route.least() - w.length; };
    for (const harness::WireRow& w : f.harness.wires) {
        if (!w.own_length || lacks(w) < Millimetre(0.5)) continue;
        refs.push_back(w.ref);
        if (!worst || lacks(w) > lacks(*worst)) worst = &w;
    }
    if (!worst) return;
    const hilt::Route& r = worst->route;
    const Message one =
        say("{} is {}, its way takes {}", worst->ref, text(worst->length), text(r.least()));
    out.push_back(
        {.id = "wire.too-short",
         .severity = Severity::warn,
         .station = Station::harness,
         .where = refs,
         .text = refs.size() == 1 ? one : say("{} wires are too short", refs.size()),
         .detail = say("{}{} along the hilt, {} around the bore, {} into its joints{}{}.",
                       refs.size() == 1 ? Message() : say("{}: ", one), text(r.along),
                       text(r.around), text(r.ends),
                       r.out > Millimetre(0) ? say(", {} to let the chassis out", text(r.out)) : "",
                       r.docks.empty() ? say("; with its slack {}", text(r.length())) : ""),
         .evidence = {{"length", worst->length.value(), "mm"}, {"takes", r.least().value(), "mm"}},
         .fix = Fix{refs.size() == 1 ? "cut it as its route asks" : "cut them as their routes ask",
                    [refs](job::Job& j) {
                        for (const std::string& ref : refs)
                            if (auto* wire = job::find_ref(j.wires, ref)) wire->length.reset();
                    }}});
}

void too_few_contacts(const Facts& f, std::vector<Finding>& out) {
    std::map<std::string, std::vector<std::string>> without;
    std::map<std::string, int> wires;
    for (const hilt::Rail& rail : f.harness.rails) {
        ++wires[rail.dock];
        if (rail.pins.empty()) without[rail.dock].push_back(rail.wire);
    }
    for (const auto& [dock, none] : without) {
        const int has = wires[dock] - static_cast<int>(none.size());
        Finding finding{.id = "dock.too-few-contacts",
                        .severity = Severity::warn,
                        .station = Station::harness,
                        .where = {dock},
                        .text = say("{} has {} contacts for {} wires", dock, has, wires[dock]),
                        .detail = say("There is none for {}. Take a board with more, or let "
                                      "what they feed ride with what feeds it.",
                                      conductus::joined(none, ", ")),
                        .evidence = {{"contacts", static_cast<double>(has), ""},
                                     {"wires", static_cast<double>(wires[dock]), ""}},
                        .fix = {}};
        finding.where.insert(finding.where.end(), none.begin(), none.end());
        out.push_back(std::move(finding));
    }
}

/// Wires wound round each other get shorter: by more than their slack, and an end tears off. Those
/// that follow their routes have what that takes.
void twisted(const Facts& f, std::vector<Finding>& out) {
    for (const harness::Twist& t : f.harness.twists) {
        std::map<std::string, double> lacks; // mm, of those that are too short
        std::string worst;
        double taken_of_worst = 0;
        for (const std::string& ref : t.wires) {
            const harness::WireRow& w = *f.harness.wire(ref);
            const double spare = harness::spare_of(w);
            if (!w.own_length || spare < -0.5) continue; // which does not reach at all is told
            const double taken = hilt::wound_up(w.length.value(), t.radius, t.turns);
            const double lack = taken - spare;
            if (lack <= 0) continue;
            lacks[ref] = lack;
            if (worst.empty() || lack > lacks[worst]) worst = ref, taken_of_worst = taken;
        }
        if (lacks.empty()) continue;
        const double spare = harness::spare_of(*f.harness.wire(worst));
        Finding finding{.id = "harness.twist-takes-slack",
                        .severity = Severity::warn,
                        .station = Station::harness,
                        .where = {worst},
                        .text =
                            say("{} turns of {} take {} of {}, it has {} to spare",
                                three_figures(t.turns), t.joint, text(Millimetre(taken_of_worst)),
                                worst, text(Millimetre(std::max(0.0, spare)))),
                        .detail = say("Twist them {}. Or cut them longer, or solder with the joint "
                                      "home.",
                                      t.how),
                        .evidence = {{"turns", t.turns, ""},
                                     {"taken", taken_of_worst, "mm"},
                                     {"spare", spare, "mm"}},
                        .fix = {}};
        for (const auto& [ref, lack] : lacks)
            if (ref != worst) finding.where.push_back(ref);
        finding.fix = Fix{"cut them as their routes ask", [lacks](job::Job& j) {
                              for (const auto& [ref, lack] : lacks)
                                  if (auto* wire = job::find_ref(j.wires, ref))
                                      wire->length.reset();
                          }};
        out.push_back(std::move(finding));
    }
}

void room(const Facts& f, std::vector<Finding>& out) {
    const harness::Coil& coil = f.harness.coil;
    if (coil.needs > coil.has && !f.job->hilt.sections.empty())
        out.push_back(
            {.id = "harness.no-coil-room",
             .severity = Severity::warn,
             .station = Station::harness,
             .where = {},
             .text = say("The slack needs {} ml, there is {} ml {}", decimals(coil.needs / 1e3, 1),
                         decimals(coil.has / 1e3, 1), coil.where),
             .detail = "Pushed back by force it is wound up or torn off: leave more room, "
                       "take finer wire, or dock on contacts.",
             .evidence = {{"needs", coil.needs, "mm³"}, {"has", coil.has, "mm³"}},
             .fix = {}});
}

} // namespace

void judge_harness(const Facts& f, std::vector<Finding>& out) {
    unwired(f, out);
    contradictory(f, out);
    mismatched(f, out);
    too_hot(f, out);
    too_short(f, out);
    too_few_contacts(f, out);
    twisted(f, out);
    room(f, out);
}

} // namespace conductus::findings
