// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/edits.h"

#include <algorithm>
#include <fmt/format.h>

#include "core/job/checklist.h"
#include "core/job/limits.h"
#include "core/job/lookup.h"
#include "core/job/mating.h"
#include "core/job/names.h"
#include "core/job/presets.h"

namespace conductus::job {

Edit fit_type(std::string ref, std::string type) {
    return [ref = std::move(ref), type = std::move(type)](Job& job) {
        if (Part* part = find_ref(job.parts, ref)) {
            part->type = type;
            part->measured = {};
            part->adapter.reset();
            for (Inspected& item : job.inspection)
                if (item.part == ref && item.fate == Fate::undecided) item.fate = Fate::replaced;
        }
    };
}

Edit fit_cells(std::string type, std::string adapter, const catalogue::Catalogue& parts) {
    return [type = std::move(type), adapter = std::move(adapter), &parts](Job& job) {
        for (std::size_t i = 0; i < job.parts.size(); ++i) {
            if (!parts.find_as<catalogue::Cell>(job.parts[i].type)) continue;
            if (job.parts[i].type != type) fit_type(job.parts[i].ref, type)(job);
            job.parts[i].adapter = adapter.empty() ? std::nullopt : std::optional(adapter);
        }
    };
}

Edit place_cells(std::string type, std::string adapter, std::vector<Millimetre> at,
                 const catalogue::Catalogue& parts) {
    return [fit = fit_cells(std::move(type), std::move(adapter), parts), at = std::move(at),
            &parts](Job& job) {
        fit(job);
        auto next = at.begin();
        for (Part& part : job.parts)
            if (next != at.end() && parts.find_as<catalogue::Cell>(part.type)) part.at = *next++;
    };
}

Edit fit_strip_type(std::string ref, std::string type) {
    return [ref = std::move(ref), type = std::move(type)](Job& job) {
        for (Blade& blade : job.blades)
            if (Strip* strip = find_ref(blade.strips, ref)) {
                strip->type = type;
                strip->rail.reset();
            }
    };
}

Edit fit_strips(std::string type) {
    return [type = std::move(type)](Job& job) {
        for (Blade& blade : job.blades)
            for (Strip& strip : blade.strips) {
                strip.type = type;
                strip.rail.reset();
            }
    };
}

Edit set_look(std::size_t index, Look look) {
    return [index, look = std::move(look)](Job& job) {
        if (index >= job.looks.size()) return;
        rename_look(job, job.looks[index].name, look.name);
        job.looks[index] = look;
    };
}

namespace {

/// Where an item's reading goes: one of the part's measured values.
void carry(const Inspected& item, Measured& measured, bool set) {
    if (!item.reading) return;
    const double reading = *item.reading;
    const double ohms = item.unit == ReadingUnit::milliohm ? reading / 1000 : reading;
    if (item.unit == ReadingUnit::ohm || item.unit == ReadingUnit::milliohm) {
        if (!limits::resistance_Ohm.holds(ohms)) return;
        measured.resistance = set ? std::optional(Ohm(ohms)) : std::nullopt;
    } else if (item.unit == ReadingUnit::milliampere_hour) {
        if (!limits::capacity_mAh.holds(reading)) return;
        measured.capacity = set ? std::optional(MilliAmpereHour(reading)) : std::nullopt;
    }
}

} // namespace

Edit inspect(std::size_t index, Inspected found) {
    return [index, found = std::move(found)](Job& job) {
        if (index >= job.inspection.size()) return;
        Inspected& item = job.inspection[index];
        if (Part* was = find_ref(job.parts, item.part); was && item.fate != Fate::replaced)
            carry(item, was->measured, false);
        item = found;
        if (Part* is = find_ref(job.parts, item.part); is && item.fate != Fate::replaced)
            carry(item, is->measured, true);
    };
}

Edit set_kind(Kind kind) {
    return [kind](Job& job) {
        job.kind = kind;
        if (!job.inspection.empty()) follow_checklist(job);
    };
}

Edit set_occasion(Occasion occasion) {
    return [occasion](Job& job) {
        job.brief.occasion = occasion;
        struct Day {
            double ignited, idle;
        };
        constexpr Day days[] = {{0, 0}, {5, 0}, {90, 360}, {60, 90}, {45, 120}, {60, 60}};
        if (job.use.ignited + job.use.idle > Minute(0)) return;
        job.use.ignited = Minute(days[static_cast<int>(occasion)].ignited);
        job.use.idle = Minute(days[static_cast<int>(occasion)].idle);
    };
}

Edit agree(std::size_t index, std::optional<double> value, std::string word, std::string day) {
    return [=](Job& job) {
        if (index >= job.brief.agreements.size()) return;
        Agreement& a = job.brief.agreements[index];
        a.on = day;
        a.that_day = value;
        if (value && !a.value) a.value = value;
        if (!word.empty() && a.word.empty()) a.word = word;
    };
}

Edit agree_anew(std::size_t index, std::optional<double> value, std::string word, std::string day) {
    return [=](Job& job) {
        if (index >= job.brief.agreements.size()) return;
        job.brief.agreements[index].value.reset();
        job.brief.agreements[index].word.clear();
        (void)agree(index, value, word, day)(job);
    };
}

Edit add_agreement(std::string measure, Bound bound) {
    return [measure = std::move(measure), bound](Job& job) {
        Agreement& a = job.brief.agreements.emplace_back();
        a.measure = measure;
        a.bound = bound;
    };
}

Edit add_wish(std::string text) {
    return [text = std::move(text)](Job& job) {
        job.brief.wishes.push_back({text, Proof::hand, {}, false});
    };
}

Edit want_blades(std::vector<WantedBlade> blades) {
    return [blades = std::move(blades)](Job& job) { job.brief.blades = blades; };
}

Edit note(std::string day, std::string text) {
    return [day = std::move(day), text = std::move(text)](Job& job) {
        job.log.push_back({day, text});
    };
}

Edit add_milestone(Milestone milestone) {
    return [milestone = std::move(milestone)](Job& job) { job.milestones.push_back(milestone); };
}

Edit add_look(Look look) {
    return [look = std::move(look)](Job& job) {
        job.looks.push_back(look);
        if (job.use.look.empty()) job.use.look = look.name;
    };
}

Job blank(std::string name, Kind kind) {
    Job job;
    job.name = std::move(name);
    job.kind = kind;
    job.hilt.clearance = Millimetre(0.4);
    job.hilt.chassis_wall = Millimetre(1.2);
    job.use.name = "a day";
    job.use.volume = 0.6;
    follow_checklist(job);
    return job;
}

Job built_like(const Job& like, std::string name, Kind kind) {
    Job job = like;
    job.name = std::move(name);
    job.kind = kind;
    job.stage = Stage::brief;
    job.promised.clear();
    job.notes.clear();
    for (Part& part : job.parts)
        part.measured = {};
    for (Blade& blade : job.blades)
        for (Strip& strip : blade.strips)
            strip.rail.reset();
    for (Wire& wire : job.wires)
        wire.resistance.reset();
    job.built.clear();
    job.soldered.clear();
    for (Plug& plug : job.plugs) {
        plug.proved_on.clear();
        plug.volts_in.reset(), plug.volts_out.reset();
    }
    for (Wish& wish : job.brief.wishes)
        wish.done = false;
    for (Agreement& agreement : job.brief.agreements) {
        agreement.on.clear();
        agreement.that_day.reset();
    }
    job.answered.clear();
    job.inspection.clear();
    job.as_found = {};
    job.log.clear();
    job.milestones.clear();
    follow_checklist(job);
    return job;
}

Edit go_back_to(Job then) {
    return [then = std::move(then)](Job& job) {
        Job next = then;
        next.name = job.name;
        next.milestones = job.milestones;
        next.log = job.log;
        job = std::move(next);
    };
}

namespace {

Variant as_variant(const Job& job, std::string name) {
    Variant v;
    v.name = std::move(name);
    v.look = job.use.look;
    v.parts = job.parts;
    v.blades = job.blades;
    v.wires = job.wires;
    v.lines = job.lines;
    v.stretches = job.stretches;
    v.looks = job.looks;
    v.effects = job.effects;
    v.soldered = job.soldered;
    v.hilt = job.hilt;
    v.config = job.config;
    v.preset = job.use.preset;
    v.presets = job.presets;
    v.resting = job.resting;
    v.plugs = job.plugs;
    return v;
}

} // namespace

Edit choose_resistor(std::string ref, Ohm ohms) {
    return [ref = std::move(ref), ohms](Job& job) {
        if (Part* part = find_ref(job.parts, ref)) {
            part->chosen.resistance = ohms;
            part->measured.resistance.reset();
        }
    };
}

Job with_variant(const Job& job, std::size_t index) {
    if (index >= job.variants.size()) return job;
    Job as = job;
    const Variant& v = job.variants[index];
    as.variant = v.name;
    as.use.look = v.look;
    as.parts = v.parts;
    as.blades = v.blades;
    as.wires = v.wires;
    as.lines = v.lines;
    as.stretches = v.stretches;
    as.looks = v.looks;
    as.effects = v.effects;
    as.soldered = v.soldered;
    if (v.hilt) {
        as.hilt = *v.hilt;
        as.config = v.config;
        as.use.preset = v.preset;
        as.presets = v.presets;
        as.resting = v.resting;
        as.plugs = v.plugs;
    }
    as.variants[index] = as_variant(job, job.variant.empty() ? "as it was" : job.variant);
    forget_lost_mates(as);
    forget_lost_presets(as);
    return as;
}

Edit keep_variant(std::string name, std::string now) {
    return [name = std::move(name), now = std::move(now)](Job& job) {
        job.variants.push_back(as_variant(job, name));
        job.variant = now;
    };
}

Edit take_variant(std::size_t index) {
    return [index](Job& job) { job = with_variant(job, index); };
}

void move_boundary(Hilt& hilt, std::size_t index, Millimetre to) {
    const Millimetre was = hilt.sections[index].to;
    hilt.sections[index].to = to;
    const bool beyond = index + 1 < hilt.sections.size() && to >= hilt.sections[index + 1].to;
    if (index + 1 < hilt.sections.size()) hilt.sections[index + 1].from = to;
    for (Joint& joint : hilt.joints)
        if (joint.at == was) joint.at = to;
    if (!beyond) return;
    // Past the next section's end: what follows keeps its length and makes room.
    const Millimetre by = to - was;
    for (std::size_t i = index + 1; i < hilt.sections.size(); ++i) {
        if (i > index + 1) hilt.sections[i].from += by;
        hilt.sections[i].to += by;
    }
    const auto on = [&](auto& list) {
        for (auto& e : list)
            if (e.at > was && e.at != to) e.at += by;
    };
    on(hilt.joints);
    on(hilt.fasteners);
    on(hilt.openings);
}

void add_section(Hilt& hilt) {
    if (hilt.sections.empty()) {
        hilt.sections.push_back(
            {"section", Millimetre(0), Millimetre(50), Millimetre(28), Millimetre(35), {}, {}});
        return;
    }
    BoreSection next = hilt.sections.back();
    const Millimetre length = next.to - next.from;
    next.name = "section";
    next.from = next.to;
    next.to = next.from + length;
    if (next.bore_end) next.bore = *next.bore_end;
    if (next.outer_end) next.outer = *next.outer_end;
    next.bore_end.reset();
    next.outer_end.reset();
    hilt.sections.push_back(next);
}

void remove_section(Hilt& hilt, std::size_t index) {
    if (index >= hilt.sections.size()) return;
    const Millimetre from = hilt.sections[index].from, to = hilt.sections[index].to;
    const Millimetre gone = to - from;
    hilt.sections.erase(hilt.sections.begin() + static_cast<std::ptrdiff_t>(index));
    for (std::size_t i = index; i < hilt.sections.size(); ++i) {
        hilt.sections[i].from -= gone;
        hilt.sections[i].to -= gone;
    }
    // What was measured in it goes with it; what lay beyond moves up.
    const auto up = [&](auto& list) {
        std::erase_if(list, [&](const auto& e) { return e.at > from && e.at < to; });
        for (auto& e : list)
            if (e.at >= to) e.at -= gone;
    };
    up(hilt.joints);
    up(hilt.fasteners);
    up(hilt.openings);
}

} // namespace conductus::job
