// SPDX-License-Identifier: GPL-3.0-or-later
// Edits of single values that stand in tables and are no field of one element alone.
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>
#include <utility>

#include "core/base/parse.h"
#include "core/job/edits.h"
#include "core/job/limits.h"
#include "core/job/lookup.h"
#include "core/job/places.h"
#include "core/job/words.h"

namespace conductus::job {

Edit take_wires(std::vector<Wire> wires) {
    return [wires = std::move(wires)](Job& job) { job.wires = wires; };
}

Edit record_built() {
    return [](Job& job) { job.built = job.wires; };
}

Edit set_soldered(std::string wire, bool done) {
    return [wire = std::move(wire), done](Job& job) -> Result<void> {
        std::erase_if(job.soldered, [&](const Soldered& s) { return s.wire == wire; });
        if (!done) return {};
        if (!find_ref(job.wires, wire))
            return problem("", say("there is no wire {}", wire), "Wire it first");
        job.soldered.push_back({wire});
        return {};
    };
}

Edit measure_pin(std::string ref, std::string pin, std::string typed) {
    return [ref = std::move(ref), pin = std::move(pin),
            typed = std::move(typed)](Job& job) -> Result<void> {
        Part* part = find_ref(job.parts, ref);
        if (!part) return problem("", say("there is no part {}", ref), "Fit a connector first");
        auto& pins = part->measured.pins;
        const auto it =
            std::find_if(pins.begin(), pins.end(), [&](auto& p) { return p.pin == pin; });
        if (typed.empty()) {
            if (it != pins.end()) pins.erase(it);
            return {};
        }
        const auto milliohms = number_typed(typed, "mΩ", {0, 1e6});
        if (!milliohms) return tl::unexpected(milliohms.error());
        const Ohm read(*milliohms / 1e3);
        it != pins.end() ? void(it->resistance = read) : pins.push_back({pin, read});
        return {};
    };
}

Edit program_line(std::string pad, std::string typed) {
    return [pad = std::move(pad), typed = std::move(typed)](Job& job) -> Result<void> {
        const auto it = std::find_if(job.lines.begin(), job.lines.end(),
                                     [&](const Line& l) { return l.pad == pad; });
        if (typed.empty() || typed == "0") {
            if (it != job.lines.end()) job.lines.erase(it);
            return {};
        }
        const auto pixels = number_typed(typed, "px", limits::pixels);
        if (!pixels) return tl::unexpected(pixels.error());
        if (*pixels != std::floor(*pixels))
            return problem("", "this is no whole number", "Count in whole pixels");
        const int n = static_cast<int>(*pixels);
        it != job.lines.end() ? void(it->pixels = n) : job.lines.push_back({pad, n});
        return {};
    };
}

Edit set_rate(std::size_t phase, EffectKind kind, std::string typed) {
    return [phase, kind, typed = std::move(typed)](Job& job) -> Result<void> {
        if (phase >= job.use.day.size())
            return problem("", "there is no such phase", "It may have been taken out meanwhile");
        const auto rate =
            typed.empty() ? Result<double>(0.0) : number_typed(typed, "", limits::per_minute);
        if (!rate) return tl::unexpected(rate.error());
        auto& rates = job.use.day[phase].rates;
        const auto it =
            std::find_if(rates.begin(), rates.end(), [&](const Rate& r) { return r.kind == kind; });
        if (!(*rate > 0)) {
            if (it != rates.end()) rates.erase(it);
        } else if (it != rates.end()) {
            it->per_minute = *rate;
        } else {
            rates.push_back({kind, *rate});
        }
        return {};
    };
}

std::string held_by(const Fastener& screw) {
    return screw.socket.empty() ? screw.holds : fmt::format("{} in {}", screw.holds, screw.socket);
}

Edit hold(std::size_t index, std::string typed) {
    return [index, typed = std::move(typed)](Job& job) -> Result<void> {
        if (index >= job.hilt.fasteners.size())
            return problem("", "there is no such screw", "It may have been taken out meanwhile");
        Fastener& screw = job.hilt.fasteners[index];
        constexpr std::string_view side = "blade in ";
        const bool at_side = typed.starts_with(side);
        screw.holds = at_side ? "blade" : typed;
        screw.socket = at_side ? typed.substr(side.size()) : std::string();
        return {};
    };
}

Edit put_on_carrier(std::size_t index, std::string typed) {
    return [index, typed = std::move(typed)](Job& job) -> Result<void> {
        if (index >= job.hilt.carriers.size())
            return problem("", "there is no such carrier", "It may have been taken out meanwhile");
        const std::string carrier = job.hilt.carriers[index].ref;
        std::set<std::string> refs;
        std::string ref;
        for (const char c : typed + " ") {
            if (c != ' ' && c != ',' && c != ';') {
                ref += c;
                continue;
            }
            if (ref.empty()) continue;
            if (!find_ref(job.parts, ref))
                return problem("", say("there is no part {}", ref),
                               "Name fitted parts, like B1, K1");
            refs.insert(std::exchange(ref, {}));
        }
        for (Part& part : job.parts) {
            if (refs.contains(part.ref))
                part.carrier = carrier;
            else if (part.carrier == carrier)
                part.carrier.clear();
        }
        return {};
    };
}

Edit measure_section(std::size_t index, bool outer, std::string typed) {
    return [index, outer, typed = std::move(typed)](Job& job) -> Result<void> {
        if (index >= job.hilt.sections.size())
            return problem("", "there is no such section", "It may have been taken out meanwhile");
        const auto mark = typed.find('>');
        const auto near = number_typed(typed.substr(0, mark), "mm", limits::diameter_mm);
        if (!near) return tl::unexpected(near.error());
        std::optional<Millimetre> far;
        if (mark != std::string::npos) {
            const auto end = number_typed(typed.substr(mark + 1), "mm", limits::diameter_mm);
            if (!end) return tl::unexpected(end.error());
            if (*end != *near) far = Millimetre(*end);
        }
        BoreSection& s = job.hilt.sections[index];
        (outer ? s.outer : s.bore) = Millimetre(*near);
        (outer ? s.outer_end : s.bore_end) = far;
        return {};
    };
}

Edit take_reading(std::size_t index, std::string typed) {
    return [index, typed = std::move(typed)](Job& job) -> Result<void> {
        if (index >= job.inspection.size())
            return problem("", "there is no such item", "It may have been taken out meanwhile");
        Inspected next = job.inspection[index];
        std::string text = typed;
        // The sign of the ohm is written out.
        for (auto at = text.find("Ω"); at != std::string::npos; at = text.find("Ω"))
            text.replace(at, std::string_view("Ω").size(), "Ohm");
        const auto last = text.find_last_not_of(" \t\u202f");
        text.erase(last == std::string::npos ? 0 : last + 1);
        if (text.empty()) {
            next.reading.reset();
            return inspect(index, std::move(next))(job);
        }
        const auto unit =
            text.find_last_not_of("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ");
        const std::string tail = unit == std::string::npos ? text : text.substr(unit + 1);
        if (!tail.empty()) {
            const auto known = from_word<ReadingUnit>(tail);
            if (!known)
                return problem("", "this unit is not known here",
                               "Write V, A, Ohm, mOhm, mAh, mm or dB");
            next.unit = *known;
            text.erase(text.size() - tail.size());
        }
        const auto value = parse_number(text);
        if (!value) return tl::unexpected(value.error());
        if (!limits::figure.holds(*value))
            return problem("", "this is out of range",
                           "Write a number from −1,000,000,000 to 1,000,000,000");
        next.reading = *value;
        return inspect(index, std::move(next))(job);
    };
}

Edit add_inspected(std::string item, std::optional<std::size_t> beside) {
    return [item = std::move(item), beside](Job& job) {
        Inspected added;
        if (beside && *beside < job.inspection.size()) added.area = job.inspection[*beside].area;
        added.item = item;
        job.inspection.push_back(std::move(added));
    };
}

Edit add_picture(std::size_t index, Picture picture) {
    return [index, picture = std::move(picture)](Job& job) -> Result<void> {
        if (index >= job.inspection.size())
            return problem("", "there is no such item", "It may have been taken out meanwhile");
        auto& pictures = job.inspection[index].pictures;
        if (pictures.size() >= limits::pictures_each)
            return problem("", say("{} pictures are kept with it already", pictures.size()),
                           "Take one out first");
        pictures.push_back(picture);
        return {};
    };
}

} // namespace conductus::job
