// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/part_edits.h"

#include <algorithm>
#include <cmath>

#include "core/catalogue/count.h"
#include "core/catalogue/kinds.h"
#include "core/hilt/start_places.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/names.h"

namespace conductus::hilt {
namespace {

using catalogue::Catalogue;
using catalogue::PartType;
using job::Job;

bool is_cell(const Catalogue& parts, const job::Part& part) {
    return parts.find_as<catalogue::Cell>(part.type) != nullptr;
}

/// Where the middle of such a part usually is, mm from the pommel.
double usual_middle(const Job& job, const Catalogue& parts, const PartType& type, double end) {
    const double half = type.body.length.value() / 2;
    if (std::holds_alternative<catalogue::Speaker>(type.figures)) return half;
    if (std::holds_alternative<catalogue::Spacer>(type.figures)) return half;
    if (std::holds_alternative<catalogue::Connector>(type.figures)) return end - half;
    double first_cell = INFINITY, last_cell = 0;
    for (const job::Part& part : job.parts)
        if (is_cell(parts, part)) {
            const PlacedBody body = place(part, job.hilt, parts);
            first_cell = std::min(first_cell, body.from.value());
            last_cell = std::max(last_cell, body.to.value());
        }
    if (last_cell > 0) return last_cell + half;
    return std::holds_alternative<catalogue::Cell>(type.figures) ? end / 4 : end / 2;
}

/// A part of that type as it would be fitted: on the first carrier where it rides on one.
job::Part new_part(const Job& job, const PartType& type) {
    job::Part part;
    part.ref = job::free_ref(job, catalogue::kind_of(type.figures).stem);
    part.type = type.id;
    if (catalogue::kind_of(type.figures).on_chassis && !job.hilt.carriers.empty())
        part.carrier = job.hilt.carriers.front().ref;
    return part;
}

NewPlace in_the_bore(const Job& job, const Catalogue& parts, const PartType& type,
                     std::optional<double> wanted) {
    job::Part part = new_part(job, type);
    double behind = 0; // all that is there
    std::vector<std::pair<double, double>> taken;
    for (const PlacedBody& body : place_all(job, parts)) {
        if (!body.in_bore) continue;
        taken.emplace_back(body.from.value(), body.to.value());
        behind = std::max(behind, body.to.value());
    }
    if (job.hilt.sections.empty()) return {Millimetre(wanted.value_or(behind)), true, {}, {}};
    const double end = job.hilt.sections.back().to.value();
    const PlacedBody body = place(part, job.hilt, parts);
    Block block;
    block.bodies = {&body};
    block.start = body.from.value();
    block.length = (body.to - body.from).value();
    describe(block);
    const double start = wanted.value_or(usual_middle(job, parts, type, end) - block.length / 2);
    const double most = std::max(0.0, end - block.length);
    const double at = StartPlaces(job.hilt, block, taken).nearest(start, 0, most);
    // The body may begin before the part's own place does: a cell's protection is part of it.
    const double ahead = body.from.value() - part.at.value();
    const auto part_at = [&](double of_body) {
        return Millimetre(std::max(0.0, std::round((of_body - ahead) * 10) / 10));
    };
    if (std::isfinite(at) && at >= -1e-6 && at <= most + 1e-6) {
        // A tenth of a millimetre may be a tenth too far: the exact place is taken then.
        part.at = part_at(at);
        const double moved = part.at.value() + ahead;
        const bool stays = StartPlaces(job.hilt, block, taken).may_start(moved);
        return {stays ? part.at : Millimetre(std::max(0.0, at - ahead)), true, {}, {}};
    }
    return {part_at(std::clamp(start, 0.0, most)),
            false,
            {},
            say("no free place {} mm long and {} mm wide", three_figures(block.length),
                three_figures(body.need.value()))};
}

NewPlace in_the_wall(const Job& job, const PartType& type) {
    const bool port = std::holds_alternative<catalogue::Port>(type.figures) ||
                      std::holds_alternative<catalogue::Jack>(type.figures);
    const auto use = port ? job::OpeningUse::port : job::OpeningUse::switch_hole;
    const Millimetre half = type.body.length / 2;
    for (const job::Opening& o : job.hilt.openings)
        if (o.use == use && o.part.empty())
            return {std::max(Millimetre(0), o.at - half), true, o.name, {}};
    const Millimetre end =
        job.hilt.sections.empty() ? Millimetre(100) : job.hilt.sections.back().to;
    const Millimetre at = std::max(Millimetre(0), end * 0.7 - half);
    if (job.hilt.openings.empty()) return {at, true, {}, {}};
    return {at,
            false,
            {},
            port ? Message("no port is free in the survey")
                 : Message("no switch hole is free in the survey")};
}

/// A blade with that light, as long and as wide as the last one there is.
void add_lit_blade(Job& job, const PartType& type, const Catalogue& parts) {
    job::Blade blade;
    blade.ref = job::free_ref(job, "BL");
    blade.length = job.blades.empty() ? Millimetre(813) : job.blades.back().length;
    blade.outer = job.blades.empty() ? Millimetre(25.4) : job.blades.back().outer;
    for (const job::Part& part : job.parts) {
        const bool taken =
            std::any_of(job.blades.begin(), job.blades.end(),
                        [&](const job::Blade& b) { return b.connector == part.ref; });
        const auto* c = parts.find_as<catalogue::Connector>(part.type);
        if (c && !taken && blade.connector.empty() && c->data_pins > 0) blade.connector = part.ref;
    }
    job.blades.push_back(std::move(blade));
    job::Blade& added = job.blades.back();
    if (const auto* strip = std::get_if<catalogue::Strip>(&type.figures)) {
        job::Strip one;
        one.ref = job::free_ref(job, catalogue::kind_of(type.figures).stem);
        one.type = type.id;
        one.length = added.length;
        one.pixels = std::max(1, catalogue::pixels_on(one.length, strip->density));
        one.lead = job::usual_strip_lead;
        added.strips.push_back(std::move(one));
        return;
    }
    job::LedString one;
    one.ref = job::free_ref(job, catalogue::kind_of(type.figures).stem);
    one.type = type.id;
    added.strings.push_back(std::move(one));
}

/// One more strip like the last of a blade, or as long as the blade.
job::Strip strip_for(const Job& job, const job::Blade& blade, const PartType& type) {
    job::Strip one;
    if (!blade.strips.empty()) one = blade.strips.back();
    one.feeds.clear();
    one.rail.reset();
    one.ref = job::free_ref(job, catalogue::kind_of(type.figures).stem);
    const bool same = one.type == type.id;
    one.type = type.id;
    if (blade.strips.empty()) {
        one.length = blade.length;
        one.lead = job::usual_strip_lead;
    }
    if (!same)
        one.pixels = std::max(
            1, catalogue::pixels_on(one.length, std::get<catalogue::Strip>(type.figures).density));
    return one;
}

Result<void> another_light(Job& job, const std::string& ref, const Catalogue& parts) {
    for (job::Blade& blade : job.blades) {
        if (job::find_ref(blade.strips, ref)) return job::add_strip(ref)(job);
        if (blade.ref != ref) continue;
        job::Blade another = blade;
        another.ref = job::free_ref(job, "BL");
        another.connector.clear();
        another.goes_into.clear();
        job.blades.push_back(another);
        job::Blade& added = job.blades.back();
        for (std::size_t i = 0; i < added.strips.size(); ++i) {
            added.strips[i].ref.clear();
            added.strips[i].rail.reset();
        }
        for (job::Strip& strip : added.strips)
            strip.ref =
                job::free_ref(job, catalogue::kind_of(parts.find(strip.type)->figures).stem);
        for (job::LedString& string : added.strings) {
            string.ref.clear();
            string.ref =
                job::free_ref(job, catalogue::kind_of(parts.find(string.type)->figures).stem);
        }
        return {};
    }
    return problem("/parts", say("there is no part {}", ref), "Choose one");
}

Result<void> put_on_cells(Job& job, const PartType& type, const Catalogue& parts) {
    int suited = 0;
    for (job::Part& part : job.parts) {
        const auto* cell = parts.find_as<catalogue::Cell>(part.type);
        if (!cell) continue;
        if (std::holds_alternative<catalogue::Protection>(type.figures)) {
            part.protection = type.id;
        } else if (std::holds_alternative<catalogue::Bay>(type.figures)) {
            part.bay = type.id;
            part.bay_measured.reset();
        } else {
            if (cell->size != std::get<catalogue::Adapter>(type.figures).takes) continue;
            part.adapter = type.id;
        }
        ++suited;
    }
    if (suited == 0)
        return problem("/parts", say("no cell is fitted that takes {}", type.name),
                       "Fit the cell first");
    return {};
}

} // namespace

NewPlace place_for(const Job& job, const Catalogue& parts, const std::string& type) {
    const PartType& found = *parts.find(type);
    switch (catalogue::kind_of(found.figures).stands) {
    case catalogue::Stands::bore:
        return in_the_bore(job, parts, found, std::nullopt);
    case catalogue::Stands::wall:
        return in_the_wall(job, found);
    case catalogue::Stands::wire:
    case catalogue::Stands::apart:
        break;
    }
    return {};
}

job::Edit add_part(std::string type, std::optional<Millimetre> at, const Catalogue& parts) {
    return [type = std::move(type), at, &parts](Job& job) -> Result<void> {
        const PartType* found = parts.find(type);
        if (!found)
            return problem("/parts", say("no part is called '{}'", type), "Name one that is there");
        const auto& kind = catalogue::kind_of(found->figures);
        if (kind.stands == catalogue::Stands::apart) {
            if (std::holds_alternative<catalogue::Charger>(found->figures)) {
                job.charger = type;
                return {};
            }
            if (std::holds_alternative<catalogue::Protection>(found->figures) ||
                std::holds_alternative<catalogue::Bay>(found->figures) ||
                std::holds_alternative<catalogue::Adapter>(found->figures))
                return put_on_cells(job, *found, parts);
            add_lit_blade(job, *found, parts);
            return {};
        }
        job::Part part = new_part(job, *found);
        const NewPlace place = place_for(job, parts, type);
        part.at = at.value_or(place.at);
        if (kind.stands == catalogue::Stands::wall)
            for (job::Opening& o : job.hilt.openings)
                if (!at && o.name == place.opening && o.part.empty()) {
                    o.part = part.ref;
                    break;
                }
        job.parts.push_back(std::move(part));
        return {};
    };
}

job::Edit add_strip(std::string type, std::string blade, const Catalogue& parts) {
    return [type = std::move(type), blade = std::move(blade), &parts](Job& job) -> Result<void> {
        const PartType* found = parts.find(type);
        job::Blade* in = job::find_ref(job.blades, blade);
        if (!found || !std::holds_alternative<catalogue::Strip>(found->figures) || !in)
            return problem("/blades", say("there is no blade {} for a {}", blade, type),
                           "Choose a blade, and a strip");
        if (!in->strings.empty())
            return problem("/blades", "the blade has a segmented string",
                           "Take its string out first");
        if (in->strips.empty() && !in->connector.empty())
            return problem("/blades", "the blade is lit from the hilt",
                           "Fit the strip in a blade of its own");
        in->strips.push_back(strip_for(job, *in, *found));
        return {};
    };
}

job::Edit add_blade_on(std::string led, const Catalogue& parts) {
    return [led = std::move(led), &parts](Job& job) -> Result<void> {
        const job::Part* part = job::find_ref(job.parts, led);
        if (!part || !parts.find_as<catalogue::Led>(part->type))
            return problem("/parts", say("there is no LED {}", led), "Choose one");
        job::Blade blade;
        blade.ref = job::free_ref(job, "BL");
        blade.length = job.blades.empty() ? Millimetre(813) : job.blades.back().length;
        blade.outer = job.blades.empty() ? Millimetre(25.4) : job.blades.back().outer;
        blade.connector = led;
        job.blades.push_back(std::move(blade));
        return {};
    };
}

job::Edit duplicate_part(std::string ref, const Catalogue& parts) {
    return [ref = std::move(ref), &parts](Job& job) -> Result<void> {
        const job::Part* like = job::find_ref(job.parts, ref);
        if (!like) return another_light(job, ref, parts);
        const PartType& type = *parts.find(like->type);
        job::Part part = *like;
        part.ref = job::free_ref(job, catalogue::kind_of(type.figures).stem);
        part.measured = {};
        const auto stands = catalogue::kind_of(type.figures).stands;
        if (stands == catalogue::Stands::bore)
            part.at = in_the_bore(job, parts, type, place(*like, job.hilt, parts).to.value()).at;
        if (stands == catalogue::Stands::wall) {
            const NewPlace hole = in_the_wall(job, type);
            part.at = hole.at;
            if (auto* opening = job::find_name(job.hilt.openings, hole.opening))
                opening->part = part.ref;
        }
        job.parts.push_back(std::move(part));
        return {};
    };
}

Replacement replace_part(const Job& job, const std::string& ref, const std::string& type,
                         const Catalogue& parts) {
    const job::Part& was = *job::find_ref(job.parts, ref);
    const PartType &old = *parts.find(was.type), &now = *parts.find(type);
    const bool same_kind = old.figures.index() == now.figures.index();
    Replacement r;
    std::vector<std::string> loose; // wires
    for (const job::Wire& w : job.wires)
        for (const std::string* end : {&w.from, &w.to}) {
            const auto [part, terminal] = job::split_terminal(*end);
            const bool has = std::find(now.terminals.begin(), now.terminals.end(), terminal) !=
                             now.terminals.end();
            if (part != ref || has || std::find(loose.begin(), loose.end(), w.ref) != loose.end())
                continue;
            loose.push_back(w.ref);
            r.lost.push_back(say("wire {} ended at {}", w.ref, *end));
        }
    if (was.type != type && was.measured != job::Measured{})
        r.lost.push_back(say("what was measured of {} belonged to the old part", ref));
    if (!same_kind && was.chosen != job::Chosen{})
        r.lost.push_back(say("the value chosen for {}", ref));
    const auto* cell = std::get_if<catalogue::Cell>(&now.figures);
    const auto* adapter = was.adapter ? parts.find_as<catalogue::Adapter>(*was.adapter) : nullptr;
    const bool keeps_adapter = cell && adapter && adapter->takes == cell->size;
    if (was.adapter && !keeps_adapter)
        r.lost.push_back(say("the adapter takes no {}", cell ? cell->size : now.name));
    if (was.protection && !cell) r.lost.push_back(say("the protection of {}", ref));
    // A blade with lights of its own sits on a connector, one without on the LED that lights it; a
    // plug of any kind stays in a socket that stays one.
    const bool was_connector = parts.find_as<catalogue::Connector>(was.type),
               is_connector = std::holds_alternative<catalogue::Connector>(now.figures),
               is_led = std::holds_alternative<catalogue::Led>(now.figures);
    const auto loses = [ref, was_connector, is_connector, is_led](const job::Blade& b) {
        const bool lit = !b.strips.empty() || !b.strings.empty();
        const bool goes =
            b.connector == ref || std::any_of(b.goes_into.begin(), b.goes_into.end(),
                                              [&](const auto& g) { return g.socket == ref; });
        return goes && !(lit || was_connector ? is_connector : is_led);
    };
    const bool takes_plugs = catalogue::plug_hole(now.figures).has_value();
    for (const job::Plug& plug : job.plugs)
        if (plug.jack == ref && !takes_plugs)
            r.lost.push_back(say("the plug {} was of {}", plug.ref, ref));
    for (const job::Blade& blade : job.blades)
        if (loses(blade)) r.lost.push_back(say("{} sat on {}", blade.ref, ref));
    std::vector<std::string> lines; // pads that the new part does not have
    for (const job::Line& line : job.lines) {
        const auto [part, terminal] = job::split_terminal(line.pad);
        if (part != ref || (same_kind && std::find(now.terminals.begin(), now.terminals.end(),
                                                   terminal) != now.terminals.end()))
            continue;
        lines.push_back(line.pad);
        r.lost.push_back(say("what is programmed on {}", line.pad));
    }
    const auto pixels = catalogue::pixels_in(now.figures);
    std::vector<std::string> stretches; // that the new part does not reach
    for (const job::Stretch& s : job.stretches)
        if (s.of == ref && (!pixels || s.last > pixels->count)) {
            stretches.push_back(s.name);
            r.lost.push_back(say("the stretch {} of {}", s.name, ref));
        }
    const Millimetre at = catalogue::kind_of(now.figures).stands == catalogue::Stands::bore
                              ? try_type(job, parts, ref, type).at
                              : was.at;
    r.edit = [ref, type, loose, lines, stretches, at, same_kind, keeps_adapter, loses, takes_plugs,
              keeps_protection = cell != nullptr](Job& with) {
        std::erase_if(with.wires, [&](const job::Wire& w) {
            return std::find(loose.begin(), loose.end(), w.ref) != loose.end();
        });
        std::erase_if(with.lines, [&](const job::Line& line) {
            return std::find(lines.begin(), lines.end(), line.pad) != lines.end();
        });
        for (const std::string& name : stretches) {
            for (job::Look& look : with.looks)
                std::erase_if(look.lights, [&](auto& s) { return s.light == name; });
            std::erase_if(with.stretches, [&](auto& s) { return s.name == name; });
        }
        if (auto* part = job::find_ref(with.parts, ref)) {
            const auto kept_adapter = part->adapter;
            (void)job::fit_type(ref, type)(with);
            part->at = at;
            if (keeps_adapter) part->adapter = kept_adapter;
            if (!keeps_protection)
                part->protection.reset(), part->bay.reset(), part->bay_measured.reset();
            if (!same_kind) part->chosen = {};
        }
        for (job::Blade& blade : with.blades) {
            if (!loses(blade)) continue;
            if (blade.connector == ref) blade.connector.clear();
            std::erase_if(blade.goes_into, [&](const auto& g) { return g.socket == ref; });
        }
        if (!takes_plugs)
            for (job::Plug& plug : with.plugs)
                if (plug.jack == ref) plug.jack.clear();
    };
    return r;
}

} // namespace conductus::hilt
