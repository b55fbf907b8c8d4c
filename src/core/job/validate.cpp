// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/validate.h"

#include <cctype>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

#include "core/base/nearest.h"
#include "core/catalogue/kinds.h"
#include "core/job/edits.h"
#include "core/job/limits.h"
#include "core/job/lookup.h"
#include "core/job/mating.h"
#include "core/job/terminals.h"
#include "core/job/validate_rules.h"

namespace conductus::job {
namespace {

using catalogue::Catalogue;
using catalogue::PartType;

Result<const PartType*> known_type(const std::string& id, const std::string& where,
                                   const Catalogue& parts) {
    if (const PartType* type = parts.find(id)) return type;
    const std::string near = parts.nearest(id);
    return problem(where, say("the part type '{}' is not in the catalogue", id),
                   near.empty()
                       ? "Choose a type of the catalogue, or add it to the shop's own parts"
                       : say("Did you mean '{}'?", near),
                   Cause::unknown_part);
}

/// A reference becomes node names of the netlist, so it is letters and digits, unique in any case.
Result<void> take_ref(const std::string& ref, const std::string& where,
                      std::set<std::string>& taken) {
    std::string lower;
    for (const char c : ref) {
        if (!std::isalnum(static_cast<unsigned char>(c)))
            return problem(where, say("the reference '{}' has other than letters and digits", ref),
                           "Write it like B1 or ST2");
        lower += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    }
    if (lower.empty() || !std::isalpha(static_cast<unsigned char>(lower[0])))
        return problem(where, say("the reference '{}' does not start with a letter", ref),
                       "Write it like B1 or ST2");
    if (!taken.insert(lower).second)
        return problem(where, say("the reference '{}' is used twice", ref),
                       "Give every part, blade, strip and wire a reference of its own");
    return {};
}

Result<void> check_part(const Part& part, const std::string& at, const Catalogue& parts) {
    auto type = known_type(part.type, at + "/type", parts);
    if (!type) return tl::unexpected(type.error());
    const auto& figures = (*type)->figures;
    if (catalogue::kind_of(figures).stands == catalogue::Stands::apart)
        return problem(at + "/type", say("'{}' does not go into a hilt by itself", part.type),
                       "Strips and LED strings belong to a blade, protection, adapters and bay "
                       "contacts to a cell; a charger is the job's");
    if (part.protection) {
        if (!std::holds_alternative<catalogue::Cell>(figures))
            return problem(at + "/protection", "only a cell has protection", "Remove the key");
        auto board = known_type(*part.protection, at + "/protection", parts);
        if (!board) return tl::unexpected(board.error());
        if (!std::holds_alternative<catalogue::Protection>((*board)->figures))
            return problem(at + "/protection",
                           say("'{}' is not a protection board", *part.protection),
                           "Name one of the catalogue's protection boards");
    }
    if (part.adapter) {
        const auto* cell = std::get_if<catalogue::Cell>(&figures);
        if (!cell)
            return problem(at + "/adapter", "only a cell sits in an adapter", "Remove the key");
        auto sleeve = known_type(*part.adapter, at + "/adapter", parts);
        if (!sleeve) return tl::unexpected(sleeve.error());
        const auto* adapter = std::get_if<catalogue::Adapter>(&(*sleeve)->figures);
        if (!adapter)
            return problem(at + "/adapter", say("'{}' is not an adapter", *part.adapter),
                           "Name one of the catalogue's adapters");
        if (adapter->takes != cell->size)
            return problem(at + "/adapter",
                           say("it takes {} cells, not {}", adapter->takes, cell->size),
                           "Name one for this size, or remove the key");
    }
    if (part.bay || part.bay_measured) {
        const std::string key = part.bay ? "/bay" : "/bay_Ohm";
        if (!std::holds_alternative<catalogue::Cell>(figures))
            return problem(at + key, "only a cell is held in a bay", "Remove the key");
    }
    if (part.bay) {
        auto bay = known_type(*part.bay, at + "/bay", parts);
        if (!bay) return tl::unexpected(bay.error());
        if (!std::holds_alternative<catalogue::Bay>((*bay)->figures))
            return problem(at + "/bay", say("'{}' is not the contacts of a bay", *part.bay),
                           "Name one of the catalogue's bay contacts");
    }
    return {};
}

/// What a blade goes into is a connector, or an LED that lights a blade with nothing in it.
Result<void> check_socket(const Blade& blade, const std::string& socket, const std::string& at,
                          const Job& job, const Catalogue& parts) {
    const Part* connector = find_ref(job.parts, socket);
    const bool led = connector && parts.find_as<catalogue::Led>(connector->type);
    if (!connector || !(led || parts.find_as<catalogue::Connector>(connector->type)))
        return problem(at, say("'{}' is not a connector or LED of this job", socket),
                       "Name a fitted connector, the LED that lights it from the hilt, or leave "
                       "it empty for a wired blade");
    if (const auto* c = parts.find_as<catalogue::Connector>(connector->type))
        for (const LedString& string : blade.strings)
            if (const auto* type = parts.find_as<catalogue::SegmentedString>(string.type);
                type && c->segments > 0 && c->segments < type->segments)
                return problem(at,
                               say("{} has contacts for {} segments, the string has {}", socket,
                                   c->segments, type->segments),
                               "Name a connector with a contact for each segment, or leave it "
                               "empty for a wired blade");
    if (led && !(blade.strips.empty() && blade.strings.empty()))
        return problem(at, "a blade lit from the hilt has nothing in it",
                       "Take its strips out, or name a connector");
    return {};
}

/// What stands in the sockets now: each named once, with what goes into it, a blade in one of them.
Result<void> check_mated(const Job& job) {
    std::set<std::string> sockets, blades;
    for (std::size_t i = 0; i < job.mated.size(); ++i) {
        const Mated& m = job.mated[i];
        const std::string at = fmt::format("/mated/{}", i);
        const auto mates = mates_of(job, m.socket);
        if (mates.empty())
            return problem(at + "/socket", say("no blade goes into '{}'", m.socket),
                           "Name a socket of a blade, or take the line out");
        if (!sockets.insert(m.socket).second)
            return problem(at + "/socket", say("'{}' is named twice", m.socket),
                           "Name each socket once");
        if (m.blade.empty()) continue;
        if (std::find(mates.begin(), mates.end(), m.blade) == mates.end())
            return problem(at + "/blade", say("'{}' does not go into {}", m.blade, m.socket),
                           say("Into {} go {}", m.socket, conductus::joined(mates, ", ")));
        if (!blades.insert(m.blade).second)
            return problem(at + "/blade", say("'{}' is in two sockets", m.blade),
                           "A blade is in one at a time");
    }
    return {};
}

Result<void> check_blade(const Blade& blade, const std::string& at, const Job& job,
                         const Catalogue& parts, std::set<std::string>& taken) {
    if (auto ok = take_ref(blade.ref, at + "/ref", taken); !ok) return ok;
    if (!blade.connector.empty())
        if (auto ok = check_socket(blade, blade.connector, at + "/connector", job, parts); !ok)
            return ok;
    std::set<std::string> sockets{blade.connector};
    for (std::size_t i = 0; i < blade.goes_into.size(); ++i) {
        const std::string here = fmt::format("{}/goes_into/{}/socket", at, i);
        const std::string& socket = blade.goes_into[i].socket;
        if (auto ok = check_socket(blade, socket, here, job, parts); !ok) return ok;
        if (!sockets.insert(socket).second)
            return problem(here, say("'{}' is named twice", socket), "Name each socket once");
    }
    if (blade.strings.size() > 1)
        return problem(at + "/strings", "a blade has one segmented string",
                       "Leave one; its flash string is part of it");
    for (std::size_t i = 0; i < blade.strings.size(); ++i) {
        const std::string here = fmt::format("{}/strings/{}", at, i);
        if (auto ok = take_ref(blade.strings[i].ref, here + "/ref", taken); !ok) return ok;
        auto type = known_type(blade.strings[i].type, here + "/type", parts);
        if (!type) return tl::unexpected(type.error());
        if (!std::holds_alternative<catalogue::SegmentedString>((*type)->figures))
            return problem(here + "/type",
                           say("'{}' is not a segmented LED string", blade.strings[i].type),
                           "Name one of the catalogue's LED strings");
    }
    for (std::size_t i = 0; i < blade.strips.size(); ++i) {
        const Strip& strip = blade.strips[i];
        const std::string here = fmt::format("{}/strips/{}", at, i);
        if (auto ok = take_ref(strip.ref, here + "/ref", taken); !ok) return ok;
        auto type = known_type(strip.type, here + "/type", parts);
        if (!type) return tl::unexpected(type.error());
        if (!std::holds_alternative<catalogue::Strip>((*type)->figures))
            return problem(here + "/type", say("'{}' is not a pixel strip", strip.type),
                           "Name one of the catalogue's strips");
        if (strip.length > blade.length)
            return problem(here + "/length_mm", "the strip is longer than its blade",
                           say("Make it {} mm or less", blade.length.value()));
        for (std::size_t k = 0; k < strip.feeds.size(); ++k)
            if (strip.feeds[k].at <= 0)
                return problem(fmt::format("{}/feeds/{}/at", here, k), "the foot is fed already",
                               "Write more than 0, up to 1 for the tip");
    }
    return {};
}

/// A day is at most 24 hours; what is stored or idle has no effects.
Result<void> check_use(const Use& use, const std::string& at) {
    double minutes = 0;
    for (std::size_t i = 0; i < use.day.size(); ++i) {
        const Phase& p = use.day[i];
        const std::string here = fmt::format("{}/day/{}", at, i);
        if (!(p.lasts > Minute(0)))
            return problem(here + "/lasts_min", "it lasts no time",
                           "Write more than 0, or take it out");
        if (p.kind != PhaseKind::ignited && !p.rates.empty())
            return problem(here + "/rates", "effects come only while it is ignited",
                           "Take them out");
        std::set<EffectKind> kinds;
        for (std::size_t k = 0; k < p.rates.size(); ++k) {
            const EffectKind kind = p.rates[k].kind;
            const std::string rate = fmt::format("{}/rates/{}/kind", here, k);
            if (kind == EffectKind::ignition || kind == EffectKind::retraction)
                return problem(rate, "it comes with every time it is lit, not at a rate",
                               "Set how many times it is lit");
            if (!kinds.insert(kind).second)
                return problem(rate, "it has a rate already", "Leave one");
        }
        minutes += p.lasts.value() * p.times + p.pause.value() * (p.times - 1);
    }
    if (minutes > 1440 + 1e-6)
        return problem(at + "/day", fmt::format("it is {:.0f} minutes long", minutes),
                       "A day has 1440 minutes: shorten it");
    return {};
}

Result<void> check_end(const std::string& name, const std::string& where,
                       const TerminalsByOwner& terminals) {
    const auto [ref, terminal] = split_terminal(name);
    const auto owner = terminals.find(ref);
    if (owner == terminals.end())
        return problem(where, say("'{}' leads to no part of this job", name),
                       "Write it as REF.terminal, like B1.plus");
    const auto& known = owner->second;
    if (std::find(known.begin(), known.end(), terminal) == known.end())
        return problem(where, say("{} has no terminal '{}'", ref, terminal),
                       say("It has {}", conductus::joined(known, ", ")));
    return {};
}

/// Pixels of the part, connector or strip of that ref; nothing where it has none.
std::optional<int> pixels_of(const Job& job, const Catalogue& parts, const std::string& ref) {
    if (const Part* part = find_ref(job.parts, ref)) {
        const auto pixels = catalogue::pixels_in(parts.find(part->type)->figures);
        return pixels ? std::optional(pixels->count) : std::nullopt;
    }
    for (const Blade& blade : job.blades)
        if (const Strip* strip = find_ref(blade.strips, ref)) return strip->pixels;
    return std::nullopt;
}

/// Lines, stretches, and what the looks say of single lights.
Result<void> check_lights(const Job& job, const Catalogue& parts,
                          const TerminalsByOwner& terminals) {
    std::set<std::string> pads;
    for (std::size_t i = 0; i < job.lines.size(); ++i) {
        const std::string at = fmt::format("/lines/{}/pad", i), &pad = job.lines[i].pad;
        if (auto ok = check_end(pad, at, terminals); !ok) return ok;
        const auto [ref, terminal] = split_terminal(pad);
        const Part* board = find_ref(job.parts, ref);
        if (!board || !parts.find_as<catalogue::Board>(board->type) || terminal[0] != 'd')
            return problem(at, say("'{}' is not a data pad", pad), "Write it like U1.d1");
        if (!pads.insert(pad).second)
            return problem(at, say("the line of '{}' is set twice", pad), "Leave one");
    }
    if (auto ok = names_unique(job.stretches, "/stretches"); !ok) return ok;
    for (std::size_t i = 0; i < job.stretches.size(); ++i) {
        const Stretch& s = job.stretches[i];
        const std::string at = fmt::format("/stretches/{}", i);
        const auto pixels = pixels_of(job, parts, s.of);
        if (!pixels)
            return problem(at + "/of", say("'{}' has no pixels", s.of),
                           "Name a strip, an accent or a lit connector");
        if (s.last < s.first || s.last > *pixels)
            return problem(at + "/last",
                           say("pixels {} to {} are not a stretch of {}", s.first, s.last, *pixels),
                           "Count from 1 at the data end, the smaller number first");
    }
    for (std::size_t i = 0; i < job.looks.size(); ++i) {
        std::set<std::string> lights;
        for (std::size_t k = 0; k < job.looks[i].lights.size(); ++k) {
            const std::string& light = job.looks[i].lights[k].light;
            const std::string at = fmt::format("/looks/{}/lights/{}/light", i, k);
            if (!terminals.contains(light) && !find_name(job.stretches, light))
                return problem(at, say("'{}' is no light of this job", light),
                               "Name a strip, blade, string, accent or LED by its reference, or a "
                               "stretch by its name");
            if (!lights.insert(light).second)
                return problem(at, say("'{}' is named twice", light), "Leave one");
        }
    }
    return {};
}

/// A light is named once by its reference, or a stretch by its name.
template <class Lights>
Result<void> check_named_lights(const Lights& lights, const std::string& at, const Job& job,
                                const TerminalsByOwner& terminals, bool stretches) {
    std::set<std::string> once;
    for (std::size_t k = 0; k < lights.size(); ++k) {
        const std::string& light = lights[k].light;
        const std::string here = fmt::format("{}/{}/light", at, k);
        if (!terminals.contains(light) && !(stretches && find_name(job.stretches, light)))
            return problem(here, say("'{}' is no light of this job", light),
                           "Name a strip, blade, string, accent or LED by its reference, or a "
                           "stretch by its name");
        if (!once.insert(light).second)
            return problem(here, say("'{}' is named twice", light), "Leave one");
    }
    return {};
}

/// Effects of the job or of a preset.
Result<void> check_effects(const std::vector<Effect>& effects, const std::string& list,
                           const Job& job, const TerminalsByOwner& terminals) {
    if (auto ok = names_unique(effects, list); !ok) return ok;
    for (std::size_t i = 0; i < effects.size(); ++i) {
        const std::string at = fmt::format("{}/{}", list, i);
        if (effects[i].from >= effects[i].to)
            return problem(at + "/to", "the effect covers nothing of the blade",
                           "Make 'to' larger than 'from', both 0 to 1");
        if (auto ok = check_named_lights(effects[i].lights, at + "/lights", job, terminals, false);
            !ok)
            return ok;
    }
    return {};
}

/// Presets, what a use names of them, and what lights show at rest.
Result<void> check_presets(const Job& job, const TerminalsByOwner& terminals) {
    if (auto ok = names_unique(job.presets, "/presets"); !ok) return ok;
    for (std::size_t i = 0; i < job.presets.size(); ++i) {
        const Preset& p = job.presets[i];
        const std::string at = fmt::format("/presets/{}", i);
        if (!find_name(job.looks, p.look))
            return problem(at + "/look", say("there is no look named '{}'", p.look),
                           "Name one of the job's looks");
        if (auto ok = check_effects(p.effects, at + "/effects", job, terminals); !ok) return ok;
        std::set<std::string> out;
        for (std::size_t k = 0; k < p.left_out.size(); ++k) {
            const std::string& effect = p.left_out[k].effect;
            const std::string here = fmt::format("{}/left_out/{}/effect", at, k);
            if (!find_name(job.effects, effect))
                return problem(here, say("there is no effect named '{}'", effect),
                               "Name one of the job's effects");
            if (!out.insert(effect).second || find_name(p.effects, effect))
                return problem(here, say("'{}' is there twice", effect), "Leave one");
        }
        for (std::size_t k = 0; k < p.tracks.size(); ++k)
            if (p.tracks[k].name.empty())
                return problem(fmt::format("{}/tracks/{}/name", at, k), "the track has no name",
                               "Name its file, or take it out");
    }
    const auto of_use = [&](const Use& use, const std::string& at) -> Result<void> {
        if (use.preset.empty()) return {};
        const Preset* p = find_name(job.presets, use.preset);
        if (!p)
            return problem(at + "/preset", say("there is no preset named '{}'", use.preset),
                           "Name one of the job's presets, or leave it out");
        if (p->look != use.look)
            return problem(at + "/preset",
                           say("'{}' shows {}, the use is lit with {}", p->name, p->look, use.look),
                           "Name the look that the preset shows");
        return {};
    };
    if (auto ok = of_use(job.use, "/use"); !ok) return ok;
    for (std::size_t i = 0; i < job.uses.size(); ++i)
        if (auto ok = of_use(job.uses[i], fmt::format("/uses/{}", i)); !ok) return ok;
    for (std::size_t i = 0; i < job.resting.size(); ++i) {
        const Resting& r = job.resting[i];
        const std::string at = fmt::format("/resting/{}", i);
        if (!r.preset.empty() && !find_name(job.presets, r.preset))
            return problem(at + "/preset", say("there is no preset named '{}'", r.preset),
                           "Name one of the job's presets, or leave it out for always");
        for (std::size_t k = 0; k < i; ++k)
            if (job.resting[k].when == r.when && job.resting[k].preset == r.preset)
                return problem(at, "this is there twice", "Write all its lights in one of them");
        if (auto ok = check_named_lights(r.lights, at + "/lights", job, terminals, true); !ok)
            return ok;
    }
    return {};
}

/// A plug is for a jack, a port or a kill.
Result<void> check_plugs(const Job& job, const Catalogue& parts, std::set<std::string>& taken) {
    for (std::size_t i = 0; i < job.plugs.size(); ++i) {
        const Plug& p = job.plugs[i];
        const std::string at = fmt::format("/plugs/{}", i);
        if (auto ok = take_ref(p.ref, at + "/ref", taken); !ok) return ok;
        if (p.jack.empty()) continue;
        const Part* part = find_ref(job.parts, p.jack);
        const auto* type = part ? parts.find(part->type) : nullptr;
        if (!type || !catalogue::plug_hole(type->figures))
            return problem(at + "/jack", say("no plug goes into '{}'", p.jack),
                           "Name a jack, a port or a kill that takes a plug");
    }
    return {};
}

Result<void> check_harness(const Job& job, const Catalogue& parts) {
    for (std::size_t i = 0; i < job.parts.size(); ++i) {
        const auto& pins = job.parts[i].measured.pins;
        if (pins.empty()) continue;
        const std::string at = fmt::format("/parts/{}/measured/pins", i);
        const auto* c = parts.find_as<catalogue::Connector>(job.parts[i].type);
        if (!c) return problem(at, "only a connector has pins", "Remove the key");
        std::set<std::string> once;
        for (std::size_t k = 0; k < pins.size(); ++k) {
            bool there = false;
            for (int n = 1; n <= std::max(c->plus_pins, c->minus_pins); ++n)
                there |= (n <= c->plus_pins && pins[k].pin == fmt::format("plus{}", n)) ||
                         (n <= c->minus_pins && pins[k].pin == fmt::format("minus{}", n));
            for (int n = 1; n <= c->segments; ++n)
                there |= pins[k].pin == fmt::format("seg{}", n);
            there |= c->flash_pin && pins[k].pin == "flash";
            if (!there)
                return problem(fmt::format("{}/{}/pin", at, k),
                               say("'{}' is no pin of it", pins[k].pin),
                               say("It has plus1 to plus{} and minus1 to minus{}", c->plus_pins,
                                   c->minus_pins));
            if (!once.insert(pins[k].pin).second)
                return problem(fmt::format("{}/{}/pin", at, k),
                               say("'{}' is given twice", pins[k].pin), "Leave one");
        }
    }
    std::set<std::string> pads;
    for (std::size_t i = 0; i < job.config.pads.size(); ++i) {
        const std::string &pad = job.config.pads[i].pad, at = fmt::format("/config/pads/{}/pad", i);
        if (pad.find('.') == std::string::npos)
            return problem(at, say("'{}' is not a pad", pad), "Write it like U1.s1");
        if (!pads.insert(pad).second)
            return problem(at, say("the pad '{}' is set twice", pad), "Leave one");
    }
    // What was built may hang on parts that are no longer planned: only its form is judged.
    std::set<std::string> built;
    for (std::size_t i = 0; i < job.built.size(); ++i) {
        const std::string at = fmt::format("/built/{}", i);
        if (auto ok = take_ref(job.built[i].ref, at + "/ref", built); !ok) return ok;
        for (const std::string* end : {&job.built[i].from, &job.built[i].to})
            if (end->find('.') == std::string::npos)
                return problem(at + (end == &job.built[i].from ? "/from" : "/to"),
                               say("'{}' is not a terminal", *end), "Write it like U1.bat");
    }
    return {};
}

} // namespace

Result<void> validate(const Job& job, const Catalogue& parts) {
    if (job.name.empty()) return problem("/name", "the job has no name", "Give it one");
    if (auto ok = check_limits(job); !ok) return ok;
    if (auto ok = validate_sections(job.hilt.sections); !ok) return ok;
    if (auto ok = check_survey(job.hilt); !ok) return ok;

    std::set<std::string> taken;
    TerminalsByOwner terminals;
    for (std::size_t i = 0; i < job.hilt.carriers.size(); ++i)
        if (auto ok =
                take_ref(job.hilt.carriers[i].ref, fmt::format("/hilt/carriers/{}/ref", i), taken);
            !ok)
            return ok;
    for (std::size_t i = 0; i < job.parts.size(); ++i) {
        const std::string at = fmt::format("/parts/{}", i);
        if (auto ok = take_ref(job.parts[i].ref, at + "/ref", taken); !ok) return ok;
        if (auto ok = check_part(job.parts[i], at, parts); !ok) return ok;
        if (!job.parts[i].carrier.empty() && !find_ref(job.hilt.carriers, job.parts[i].carrier))
            return problem(at + "/carrier",
                           say("'{}' is not a carrier of this hilt", job.parts[i].carrier),
                           "Name one of the hilt's carriers, or leave it out");
        terminals[job.parts[i].ref] = parts.find(job.parts[i].type)->terminals;
    }
    for (std::size_t i = 0; i < job.blades.size(); ++i) {
        if (auto ok = check_blade(job.blades[i], fmt::format("/blades/{}", i), job, parts, taken);
            !ok)
            return ok;
        terminals[job.blades[i].ref] = blade_terminals(job.blades[i], parts);
        for (const Strip& strip : job.blades[i].strips)
            terminals[strip.ref] = {"data", "out"};
        for (const LedString& string : job.blades[i].strings)
            terminals[string.ref] = {};
    }
    if (auto ok = check_mated(job); !ok) return ok;
    for (std::size_t i = 0; i < job.wires.size(); ++i) {
        const Wire& wire = job.wires[i];
        const std::string at = fmt::format("/wires/{}", i);
        if (auto ok = take_ref(wire.ref, at + "/ref", taken); !ok) return ok;
        if (auto ok = check_end(wire.from, at + "/from", terminals); !ok) return ok;
        if (auto ok = check_end(wire.to, at + "/to", terminals); !ok) return ok;
    }
    if (auto ok = check_harness(job, parts); !ok) return ok;
    std::set<std::string> ticks;
    for (std::size_t i = 0; i < job.planned_with.size(); ++i)
        for (std::size_t k = 0; k < i; ++k)
            if (job.planned_with[i].type == job.planned_with[k].type)
                return problem(fmt::format("/planned_with/{}/type", i),
                               say("'{}' is planned with twice", job.planned_with[i].type),
                               "Keep one of the two");
    for (std::size_t i = 0; i < job.soldered.size(); ++i) {
        const std::string& wire = job.soldered[i].wire;
        const std::string at = fmt::format("/soldered/{}/wire", i);
        if (!find_ref(job.wires, wire))
            return problem(at, say("there is no wire '{}' to be soldered", wire),
                           "Name a wire of the plan, or take the entry out");
        if (!ticks.insert(wire).second)
            return problem(at, say("the wire '{}' is ticked twice", wire), "Leave one");
    }
    if (auto ok = names_unique(job.looks, "/looks"); !ok) return ok;
    if (auto ok = check_lights(job, parts, terminals); !ok) return ok;
    if (auto ok = check_effects(job.effects, "/effects", job, terminals); !ok) return ok;
    if (auto ok = check_presets(job, terminals); !ok) return ok;
    if (auto ok = check_handling(job); !ok) return ok;
    if (auto ok = check_plugs(job, parts, taken); !ok) return ok;
    if (!job.use.look.empty() && !find_name(job.looks, job.use.look))
        return problem("/use/look", say("there is no look named '{}'", job.use.look),
                       "Name one of the job's looks");
    if (auto ok = check_use(job.use, "/use"); !ok) return ok;
    if (auto ok = names_unique(job.uses, "/uses"); !ok) return ok;
    for (std::size_t i = 0; i < job.uses.size(); ++i) {
        const std::string at = fmt::format("/uses/{}", i);
        if (job.uses[i].name == job.use.name)
            return problem(at + "/name",
                           say("'{}' is what the job's own use is called", job.use.name),
                           "Give each a name of its own");
        if (!job.uses[i].look.empty() && !find_name(job.looks, job.uses[i].look))
            return problem(at + "/look", say("there is no look named '{}'", job.uses[i].look),
                           "Name one of the job's looks, or leave it empty for the use's");
        if (auto ok = check_use(job.uses[i], at); !ok) return ok;
    }
    if (!job.charger.empty()) {
        auto type = known_type(job.charger, "/charger", parts);
        if (!type) return tl::unexpected(type.error());
        if (!std::holds_alternative<catalogue::Charger>((*type)->figures))
            return problem("/charger", say("'{}' is not a charger", job.charger),
                           "Name one of the catalogue's chargers");
    }
    if (auto ok = names_unique(job.variants, "/variants"); !ok) return ok;
    for (std::size_t i = 0; i < job.variants.size(); ++i) {
        if (job.variants[i].name == job.variant)
            return problem(fmt::format("/variants/{}/name", i),
                           say("'{}' is what the job itself is called", job.variant),
                           "Give each a name of its own");
        Job as = with_variant(job, i);
        as.variants.clear();
        if (auto ok = validate(as, parts); !ok) {
            Problem p = ok.error();
            p.where = fmt::format("/variants/{}{}", i, p.where == "/use/look" ? "/look" : p.where);
            return tl::unexpected(p);
        }
    }
    return check_papers(job);
}

} // namespace conductus::job
