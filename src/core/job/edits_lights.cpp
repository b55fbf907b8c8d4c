// SPDX-License-Identifier: GPL-3.0-or-later
// Edits of loads: strips, blades, accents, with the wires they need.
#include <algorithm>
#include <fmt/format.h>

#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/names.h"

namespace conductus::job {

Edit cut_strip(std::string ref, Millimetre length, int pixels) {
    return [ref = std::move(ref), length, pixels](Job& job) {
        for (Blade& blade : job.blades)
            if (Strip* strip = find_ref(blade.strips, ref)) {
                strip->length = length;
                strip->pixels = pixels;
            }
    };
}

namespace {

void add_wire(Job& job, std::string from, std::string to, Role role, int gauge) {
    job.wires.push_back({free_ref(job, "W"), std::move(from), std::move(to), role, gauge, {}, {}});
}

/// The data wire that goes into the first blade, through its connector or straight.
Wire* data_into_blade(Job& job) {
    for (const Blade& blade : job.blades)
        for (Wire& w : job.wires)
            if (w.role == Role::data &&
                (w.to == blade.ref + ".data" || w.to == blade.connector + ".data"))
                return &w;
    return nullptr;
}

/// The board's first data pad that nothing is wired to; empty where there is none.
std::string free_data_pad(const Job& job, const catalogue::Catalogue& parts) {
    const auto board = first_of<catalogue::Board>(job, parts);
    if (!board) return {};
    for (const std::string& terminal : board.type->terminals) {
        const std::string pad = board.part->ref + "." + terminal;
        const bool taken = std::any_of(job.wires.begin(), job.wires.end(),
                                       [&](const Wire& w) { return w.from == pad || w.to == pad; });
        if (terminal[0] == 'd' && !taken) return pad;
    }
    return {};
}

/// Nothing that a look shows on that light alone stays, nor a stretch of it. What effects and
/// resting name of it every edit lets go: forget_lost_presets().
void forget_light(Job& job, const std::string& ref) {
    auto gone = [&](const std::string& light) {
        const Stretch* s = find_name(job.stretches, light);
        return light == ref || (s && s->of == ref);
    };
    for (Look& look : job.looks)
        std::erase_if(look.lights, [&](const LightOverride& s) { return gone(s.light); });
    std::erase_if(job.stretches, [&](const Stretch& s) { return s.of == ref; });
}

} // namespace

Edit add_accent(std::string type, Mount mount, const catalogue::Catalogue& parts) {
    return [type = std::move(type), mount, &parts](Job& job) {
        const auto board = first_of<catalogue::Board>(job, parts);
        const auto* body = parts.find(type);
        if (!board || !body) return;
        Part part;
        part.ref = free_ref(job, "A");
        part.type = type;
        const auto connector = first_of<catalogue::Connector>(job, parts);
        const Millimetre end = connector                   ? connector.part->at
                               : job.hilt.sections.empty() ? Millimetre(100)
                                                           : job.hilt.sections.back().to;
        part.at = std::max(Millimetre(0), end - body->body.length - Millimetre(1));
        const std::string ref = part.ref, u = board.part->ref;
        job.parts.push_back(std::move(part));
        add_wire(job, u + ".bat", ref + ".plus", Role::supply, 26);
        add_wire(job, ref + ".minus", u + ".gnd", Role::return_path, 26);
        Wire* blade = data_into_blade(job);
        if (mount == Mount::ahead && blade) {
            const std::string to = blade->to;
            blade->to = ref + ".data";
            add_wire(job, ref + ".out", to, Role::data, 28);
            return;
        }
        if (mount == Mount::mirrored && blade) {
            const std::string from = blade->from;
            add_wire(job, from, ref + ".data", Role::data, 28);
            return;
        }
        if (const std::string pad = free_data_pad(job, parts); !pad.empty())
            add_wire(job, pad, ref + ".data", Role::data, 28);
    };
}

Edit add_strip(std::string like) {
    return [like = std::move(like)](Job& job) {
        for (Blade& blade : job.blades)
            if (const Strip* strip = find_ref(blade.strips, like)) {
                Strip another = *strip;
                another.ref = free_ref(job, "ST");
                blade.strips.push_back(std::move(another));
                return;
            }
    };
}

Edit add_blade(std::string like, Mount mount, const catalogue::Catalogue& parts) {
    return [like = std::move(like), mount, &parts](Job& job) {
        const auto old = std::find_if(job.blades.begin(), job.blades.end(), [&](const Blade& b) {
            return b.ref == like || find_ref(b.strips, like);
        });
        if (old == job.blades.end()) return;
        const std::string end = old->connector.empty() ? old->ref : old->connector;
        Blade blade = *old;
        blade.ref = free_ref(job, "BL");
        blade.connector.clear();
        blade.goes_into.clear();
        const std::string ref = blade.ref;
        const std::size_t at = job.blades.size();
        job.blades.push_back(std::move(blade));
        for (std::size_t i = 0; i < job.blades[at].strips.size(); ++i) {
            job.blades[at].strips[i].ref.clear();
            job.blades[at].strips[i].ref = free_ref(job, "ST");
        }
        for (std::size_t i = 0; i < job.blades[at].strings.size(); ++i) {
            job.blades[at].strings[i].ref.clear();
            job.blades[at].strings[i].ref = free_ref(job, "LS");
        }
        const std::vector<Wire> wires = job.wires;
        for (Wire w : wires) {
            const bool into = split_terminal(w.to).first == end;
            if (!into && split_terminal(w.from).first != end) continue;
            std::string& here = into ? w.to : w.from;
            const std::string terminal(split_terminal(here).second);
            if (terminal == "out") continue; // what the connector's own pixels hand on
            here = fmt::format("{}.{}", ref, terminal);
            w.ref = free_ref(job, "W");
            if (w.role == Role::data && mount == Mount::own_line) {
                const std::string pad = free_data_pad(job, parts);
                if (!pad.empty()) w.from = pad;
            }
            job.wires.push_back(std::move(w));
        }
    };
}

Edit remove_strip(std::string ref) {
    return [ref = std::move(ref)](Job& job) {
        std::string blade_gone;
        for (Blade& blade : job.blades) {
            if (!find_ref(blade.strips, ref)) continue;
            std::erase_if(blade.strips, [&](const Strip& s) { return s.ref == ref; });
            if (blade.strips.empty() && blade.strings.empty()) blade_gone = blade.ref;
        }
        forget_light(job, ref);
        if (blade_gone.empty()) return;
        // A blade without light is none.
        forget_light(job, blade_gone);
        std::erase_if(job.blades, [&](const Blade& b) { return b.ref == blade_gone; });
        std::erase_if(job.wires, [&](const Wire& w) {
            return w.from.starts_with(blade_gone + ".") || w.to.starts_with(blade_gone + ".");
        });
    };
}

Edit remove_blade(std::string ref) {
    return [ref = std::move(ref)](Job& job) {
        const Blade* blade = find_ref(job.blades, ref);
        if (!blade) return;
        std::vector<std::string> lights{ref};
        for (const Strip& strip : blade->strips)
            lights.push_back(strip.ref);
        for (const LedString& string : blade->strings)
            lights.push_back(string.ref);
        for (const std::string& light : lights)
            forget_light(job, light);
        std::erase_if(job.blades, [&](const Blade& b) { return b.ref == ref; });
        std::erase_if(job.wires, [&](const Wire& w) {
            return w.from.starts_with(ref + ".") || w.to.starts_with(ref + ".");
        });
    };
}

Edit remove_part(std::string ref) {
    return [ref = std::move(ref)](Job& job) {
        const auto in = std::find_if(job.wires.begin(), job.wires.end(), [&](const Wire& w) {
            return w.role == Role::data && w.to == ref + ".data";
        });
        bool joined = false;
        for (Wire& w : job.wires) {
            if (in == job.wires.end() || w.role != Role::data || w.from != ref + ".out") continue;
            // The wire that came here goes on to the first; others begin where it does.
            joined ? w.from = in->from : in->to = w.to;
            joined = true;
        }
        std::erase_if(job.wires, [&](const Wire& w) {
            return w.from.starts_with(ref + ".") || w.to.starts_with(ref + ".");
        });
        std::erase_if(job.parts, [&](const Part& p) { return p.ref == ref; });
        // What the board was told of its pads goes with it.
        std::erase_if(job.lines, [&](const Line& l) { return split_terminal(l.pad).first == ref; });
        forget_light(job, ref);
        for (Opening& o : job.hilt.openings)
            if (o.part == ref) o.part.clear();
        for (Blade& blade : job.blades)
            if (blade.connector == ref) blade.connector.clear();
    };
}

} // namespace conductus::job
