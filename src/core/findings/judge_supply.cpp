// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of the way from the cell to the blade.
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

#include "core/base/format.h"
#include "core/catalogue/kinds.h"
#include "core/findings/facts.h"
#include "core/findings/held.h"
#include "core/findings/rule_tools.h"
#include "core/job/lookup.h"

namespace conductus::findings {
namespace {

/// What a cell gives in a state for long enough that its protection acts.
double for_long(const Solved& s, const std::string& cell) {
    for (std::size_t i = 0; i < s.network.sources.size(); ++i)
        if (s.network.sources[i].ref == cell)
            return s.without_peak.empty() ? s.point.source_amps[i] : s.without_peak[i];
    return 0;
}

/// What asks for more the lower its volts get may trip a protection that full cells do not.
void trips_later(const Facts& f, std::vector<Finding>& out) {
    if (!f.run || !f.run->tripped) return;
    const job::Part* cell = job::find_ref(f.job->parts, f.run->tripped->ref);
    if (!cell || !cell->protection || !f.parts->find_as<catalogue::Cell>(cell->type)) return;
    const auto* board = f.parts->find_as<catalogue::Protection>(*cell->protection);
    if (!board) return;
    // At the moment it trips it carries what it trips at.
    out.push_back({.id = "cell.protection-trips",
                   .severity = Severity::stop,
                   .station = Station::power,
                   .where = {cell->ref, f.run->peak_event},
                   .text = say("After {} {}", duration(f.run->off), f.run->tripped->why),
                   .detail = "The lower the volts, the more its converter asks for. The blade goes "
                             "dark at that moment and the board restarts.",
                   .evidence = {{"carries then", board->trip.value(), "A"},
                                {"trips at", board->trip.value(), "A"},
                                {"after", f.run->off.value(), "min"}},
                   .fix = {}});
}

/// Of any cell: side by side, the one of least resistance gives most.
void protection_trips(const Facts& f, std::vector<Finding>& out) {
    const job::Part* cell = nullptr;
    const catalogue::Protection* board = nullptr;
    const Solved* state = nullptr;
    double amps = 0, most = 0; // most: over its trip, in proportion
    for (const job::Part& part : f.job->parts) {
        if (!f.parts->find_as<catalogue::Cell>(part.type) || !part.protection) continue;
        const auto* protection = f.parts->find_as<catalogue::Protection>(*part.protection);
        for (const SolvedPtr& s : f.fresh) {
            const double here = protection && !s->momentary ? for_long(*s, part.ref) : 0;
            if (!protection || here <= protection->trip.value() ||
                here / protection->trip.value() <= most)
                continue;
            most = here / protection->trip.value();
            cell = &part, board = protection, state = s.get(), amps = here;
        }
    }
    if (!cell) return trips_later(f, out);
    Finding finding{.id = "cell.protection-trips",
                    .severity = Severity::stop,
                    .station = Station::power,
                    .where = {cell->ref, state->name},
                    .text = say("{} takes {} from {}, its protection trips at {}", state->name,
                                text(Ampere(amps)), cell->ref, text(board->trip)),
                    .detail = "The blade goes dark at that moment and the board restarts.",
                    .evidence = {{"peak", amps, "A"}, {"trips at", board->trip.value(), "A"}},
                    .fix = {}};
    for (const catalogue::PartType* type : f.parts->all<catalogue::Protection>())
        if (std::get<catalogue::Protection>(type->figures).trip.value() > amps)
            finding.proposed.push_back(
                {say("fit a {}", type->name), [id = type->id](job::Job& job) {
                     for (job::Part& part : job.parts)
                         if (part.protection) part.protection = id;
                 }});
    out.push_back(std::move(finding));
}

void cell_over_continuous(const Facts& f, std::vector<Finding>& out) {
    const job::Part* cell = nullptr;
    const Solved* worst = nullptr;
    double amps = 0, rated = 0;
    for (const job::Part& part : f.job->parts) {
        const auto* figures = f.parts->find_as<catalogue::Cell>(part.type);
        if (!figures) continue;
        for (const SolvedPtr& s : f.sustained)
            for (std::size_t i = 0; s && i < s->network.sources.size(); ++i) {
                const double here = s->point.source_amps[i];
                if (s->network.sources[i].ref != part.ref || here <= figures->continuous.value() ||
                    here <= amps)
                    continue;
                cell = &part, worst = s.get(), amps = here, rated = figures->continuous.value();
            }
    }
    if (!cell) return;
    Finding finding{.id = "cell.over-continuous",
                    .severity = Severity::stop,
                    .station = Station::power,
                    .where = {cell->ref, worst->name},
                    .text = say("{} holds {} on {}, it is rated {}", worst->name,
                                text(Ampere(amps)), cell->ref, text(Ampere(rated))),
                    .detail = "Held over its rating a lithium cell overheats: choose one rated "
                              "for it, or cap the look.",
                    .evidence = {{"held", amps, "A"}, {"rated", rated, "A"}},
                    .fix = {}};
    for (const hilt::CellTrial& t : f.cell_trials) {
        const auto* other = f.parts->find_as<catalogue::Cell>(t.type);
        // A stiffer cell draws more; leave a fifth in hand.
        if (t.trial.clearance.spare < f.job->hilt.clearance ||
            other->continuous.value() < 1.2 * amps)
            continue;
        finding.proposed.push_back({say("fit the {}", f.parts->find(t.type)->name),
                                    job::place_cells(t.type, t.adapter, t.at, *f.parts)});
        if (finding.proposed.size() == 3) break;
    }
    out.push_back(std::move(finding));
}

/// The largest current of one contact of a part in a solved state; of one wire's contacts alone
/// where one is named.
double pin_amps(const Solved& s, const std::string& ref, const catalogue::Connector& c,
                const std::string& name) {
    double most = 0;
    std::map<std::string, double> pins; // blades on one connector add up
    for (std::size_t i = 0; i < s.network.resistors.size(); ++i) {
        const auto& r = s.network.resistors[i];
        if (r.part != circuit::Part::pins || r.ref != ref) continue;
        if (!name.empty() && r.pin != name) continue;
        pins[r.pin] += std::abs(s.point.resistor_amps[i]);
    }
    for (const auto& [pin, amps] : pins) {
        const int many = pin == "plus" ? c.plus_pins : pin == "minus" ? c.minus_pins : 1;
        most = std::max(most, amps / std::max(1, many));
    }
    return most;
}

/// Takes another connector with its face where the old one's was: that is where the blade stands.
job::Edit fit_connector(const Facts& f, const std::string& ref, const catalogue::PartType& type) {
    const job::Part* part = job::find_ref(f.job->parts, ref);
    const Millimetre longer = type.body.length - f.parts->find(part->type)->body.length;
    return [ref, longer, edit = job::fit_type(ref, type.id)](job::Job& job) {
        if (auto ok = edit(job); !ok) return;
        if (auto* p = job::find_ref(job.parts, ref); p && p->at >= longer) p->at -= longer;
    };
}

void pins_over_current(const Facts& f, std::vector<Finding>& out) {
    for (const job::Part& part : f.job->parts) {
        const auto* c = f.parts->find_as<catalogue::Connector>(part.type);
        if (!c) continue;
        const HeldCurrent load =
            held(f, pin_time, [&](const Solved& s) { return pin_amps(s, part.ref, *c, {}); });
        if (!load.over(c->pin_rating.value())) continue;
        const double amps = load.told(c->pin_rating.value());
        const Message flows = say("{} {}", text(Ampere(amps)), load.how_long());
        const harness::PinLoad* most = nullptr;
        for (const harness::PinLoad& l : f.harness.pins)
            if (l.ref == part.ref && !l.wire.empty() && (!most || l.amps > most->amps)) most = &l;
        const bool uneven = !part.measured.pins.empty();
        const int fewest = std::min(c->plus_pins, c->minus_pins);
        Finding finding{
            .id = "pins.over-current",
            .severity = load.severity(c->pin_rating.value()),
            .station = Station::power,
            .where = {part.ref, load.state->name},
            .text = most     ? say("A contact of {} carries {}, rated {}", part.ref, flows,
                                   text(c->pin_rating))
                    : uneven ? say("A pin of {} carries {}, rated {}", part.ref, flows,
                                   text(c->pin_rating))
                             : say("Pins of {} carry {} each {}, rated {}", part.ref,
                                   text(Ampere(amps)), load.how_long(), text(c->pin_rating)),
            .detail =
                most ? say("{}: {} through {}. Take a board with more contacts, or lead a second "
                           "wire beside it.",
                           load.state->name, most->wire, most->pin)
                : uneven
                    ? say("{}: the pins share unevenly, as measured.", load.state->name)
                    : say("{} leads it through {} {} a pole. A flash counts as long as it lasts.",
                          load.state->name, fewest, fewest == 1 ? "pin" : "pins"),
            .evidence = {{"each pin", amps, "A"}, {"rated", c->pin_rating.value(), "A"}},
            .fix = {}};
        if (most) finding.where.push_back(most->wire);
        for (const catalogue::PartType* type : f.parts->all<catalogue::Connector>()) {
            const auto& o = std::get<catalogue::Connector>(type->figures);
            const bool like = (o.pixels > 0) == (c->pixels > 0) && o.segments == c->segments;
            if (!most && like && std::min(o.plus_pins, o.minus_pins) > fewest)
                finding.proposed.push_back(
                    {say("fit a {}", type->name), fit_connector(f, part.ref, *type)});
        }
        out.push_back(std::move(finding));
    }
}

/// Contacts of segments meet one way round alone: what can be turned puts the supply on a segment.
void unkeyed_segments(const Facts& f, std::vector<Finding>& out) {
    for (const job::Part& part : f.job->parts) {
        const auto* c = f.parts->find_as<catalogue::Connector>(part.type);
        if (!c || c->keyed || (c->segments == 0 && !c->flash_pin)) continue;
        Finding finding{
            .id = "connector.unkeyed",
            .severity = Severity::warn,
            .station = Station::power,
            .where = {part.ref},
            .text = say("{} has contacts of segments, and nothing keeps it from being turned",
                        part.ref),
            .detail = "Turned in its socket, its contacts wipe over the others and put the supply "
                      "on a segment. A connector with a key, or say in the part that it has one.",
            .evidence = {{"segments", static_cast<double>(c->segments), ""}},
            .fix = {}};
        for (const catalogue::PartType* type : f.parts->all<catalogue::Connector>()) {
            const auto& o = std::get<catalogue::Connector>(type->figures);
            if (o.keyed && o.segments >= c->segments && o.flash_pin >= c->flash_pin)
                finding.proposed.push_back(
                    {say("fit a {}", type->name), fit_connector(f, part.ref, *type)});
        }
        out.push_back(std::move(finding));
    }
}

void kill_over_current(const Facts& f, std::vector<Finding>& out) {
    for (const job::Part& part : f.job->parts) {
        const auto& figures = f.parts->find(part.type)->figures;
        const auto rating = catalogue::rating_of(figures);
        if (!opens(f, part) || !rating) continue;
        const HeldCurrent load =
            held(f, contact_time, [&](const Solved& s) { return s.amps_of(part.ref); });
        if (!load.over(rating->value())) continue;
        const double amps = load.told(rating->value());
        std::string word(catalogue::kind_of(figures).word);
        word[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(word[0])));
        Finding finding{.id = "kill.over-current",
                        .severity = load.severity(rating->value()),
                        .station = Station::power,
                        .where = {part.ref, load.state->name},
                        .text = say("{} {} carries {} {}, rated {}", word, part.ref,
                                    text(Ampere(amps)), load.how_long(), text(*rating)),
                        .detail =
                            say("In {}. Worn contacts heat up and drop more.", load.state->name),
                        .evidence = {{"carries", amps, "A"}, {"rated", rating->value(), "A"}},
                        .fix = {}};
        if (const auto* kill = std::get_if<catalogue::Kill>(&figures))
            for (const catalogue::PartType* type : f.parts->all<catalogue::Kill>()) {
                const auto& o = std::get<catalogue::Kill>(type->figures);
                if (o.method == kill->method && o.rating > *rating)
                    finding.proposed.push_back(
                        {say("fit a {}", type->name), job::fit_type(part.ref, type->id)});
            }
        out.push_back(std::move(finding));
    }
}

} // namespace

namespace {

/// Springs and plates of the bays.
void bay_over_current(const Facts& f, std::vector<Finding>& out) {
    for (const job::Part* part : parts_of<catalogue::Cell>(f)) {
        const catalogue::Bay bay = job::bay_of(*part, *f.parts);
        if (!(bay.contacts > Ohm(0))) continue;
        const HeldCurrent load = held(f, spring_time, [&](const Solved& s) {
            for (std::size_t i = 0; i < s.network.sources.size(); ++i)
                if (s.network.sources[i].ref == part->ref) return s.point.source_amps[i];
            return 0.0;
        });
        if (!load.over(bay.rating.value())) continue;
        const double amps = load.told(bay.rating.value());
        Finding finding{.id = "bay.over-current",
                        .severity = load.severity(bay.rating.value()),
                        .station = Station::power,
                        .where = {part->ref, load.state->name},
                        .text =
                            say("The bay of {} carries {} {}, its springs are rated {}", part->ref,
                                text(Ampere(amps)), load.how_long(), text(bay.rating)),
                        .detail = say("In {}. A spring that gets hot loses its force, and then has "
                                      "more resistance.",
                                      load.state->name),
                        .evidence = {{"carries", amps, "A"}, {"rated", bay.rating.value(), "A"}},
                        .fix = {}};
        for (const catalogue::PartType* type : f.parts->all<catalogue::Bay>())
            // Less resistance lets more through; leave a fifth in hand.
            if (std::get<catalogue::Bay>(type->figures).rating.value() >= 1.2 * amps)
                finding.proposed.push_back({say("hold it between {}", type->name),
                                            [&parts = *f.parts, id = type->id](job::Job& job) {
                                                for (job::Part& p : job.parts)
                                                    if (parts.find_as<catalogue::Cell>(p.type))
                                                        p.bay = id, p.bay_measured.reset();
                                            }});
        out.push_back(std::move(finding));
    }
}

} // namespace

void judge_supply(const Facts& facts, std::vector<Finding>& out) {
    protection_trips(facts, out);
    cell_over_continuous(facts, out);
    pins_over_current(facts, out);
    unkeyed_segments(facts, out);
    kill_over_current(facts, out);
    bay_over_current(facts, out);
}

} // namespace conductus::findings
