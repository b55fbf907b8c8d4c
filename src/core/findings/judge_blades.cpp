// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of what a blade is made of, and of what looks can show.
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/catalogue/kinds.h"
#include "core/findings/facts.h"
#include "core/findings/rule_tools.h"
#include "core/hilt/tube.h"
#include "core/job/lookup.h"
#include "core/lights/frame.h"

namespace conductus::findings {
namespace {

/// Both walls of a tube that is struck; less is for show.
constexpr Millimetre both_walls(3);

void made_of(const Facts& f, std::vector<Finding>& out) {
    for (const job::Blade& blade : f.job->blades) {
        const Millimetre inside = blade.tube.bore > Millimetre(0)
                                      ? blade.tube.bore - blade.tube.diffuser_thick * 2
                                      : blade.outer - both_walls;
        std::vector<std::string> wide;
        Millimetre widest;
        for (const job::Strip& strip : blade.strips) {
            const auto* type = f.parts->find_as<catalogue::Strip>(strip.type);
            if (type->width <= inside) continue;
            wide.push_back(strip.ref);
            widest = std::max(widest, type->width);
        }
        if (!wide.empty()) {
            auto where = wide;
            where.push_back(blade.ref);
            out.push_back(raise(
                "strip.too-wide", Severity::warn, Station::lights, where,
                say("{} {} {} wide, the tube of {} has {} inside", conductus::joined(wide, " and "),
                    wide.size() == 1 ? "is" : "are", text(widest), blade.ref, text(inside)),
                "It does not go in, or its edge is bent. A narrower strip, or a wider tube.",
                {{"wide", widest.value(), "mm"}, {"inside", inside.value(), "mm"}}));
        }
        for (const job::LedString& string : blade.strings) {
            const Millimetre length = f.parts->find(string.type)->body.length;
            if (length > blade.length + Millimetre(2))
                out.push_back(raise(
                    "string.too-long", Severity::warn, Station::lights, {string.ref, blade.ref},
                    say("{} is {} long, {} is {}", string.ref, text(length), blade.ref,
                        text(blade.length)),
                    "It does not go in. A string made for the blade, or a longer blade.",
                    {{"string", length.value(), "mm"}, {"blade", blade.length.value(), "mm"}}));
        }
        if (blade.strips.empty()) continue;
        const auto [shortest, longest] = std::minmax_element(
            blade.strips.begin(), blade.strips.end(),
            [](const job::Strip& a, const job::Strip& b) { return a.length < b.length; });
        constexpr double seen = 10; // mm
        if ((longest->length - shortest->length).value() > seen) {
            out.push_back(
                raise("strip.unequal", Severity::note, Station::lights,
                      {shortest->ref, longest->ref, blade.ref},
                      say("{} is {}, {} beside it {}", shortest->ref, text(shortest->length),
                          longest->ref, text(longest->length)),
                      "Toward the tip one side stays dark.",
                      {{"shorter by", (longest->length - shortest->length).value(), "mm"}}));
            continue;
        }
        // A stretch in the socket may stay dark; more is seen.
        double dark = 12;
        for (const hilt::SocketFit& s : f.hilt_report.sockets)
            if (s.blade == blade.ref) dark += std::max(0.0, s.seats.value());
        // What is folded over at the tip lights it, and no length of the tube beside it.
        const double lacks = (blade.length - hilt::length_along(blade.tube, *longest)).value();
        if (lacks > dark)
            out.push_back(raise(
                "strip.short", Severity::note, Station::lights, {longest->ref, blade.ref},
                say("{} is {} shorter than {}", longest->ref, text(Millimetre(lacks)), blade.ref),
                "That much of the tube stays dark.", {{"dark", lacks, "mm"}}));
    }
}

struct Shown {
    const job::Colour* colour;
    double cap;
};

/// What a look asks of a light: its own, else of the blade.
Shown asked_of(const job::Look& look, const std::string& ref, const std::string& owner) {
    for (const std::string* name : {&ref, &owner})
        for (const job::LightOverride& o : look.lights)
            if (o.light == *name) return {&o.colour, o.cap};
    return {&look.colour, look.cap};
}

bool asks_for_light(const Shown& s) {
    const job::Colour& c = *s.colour;
    return s.cap > 0 && std::max({c.red, c.green, c.blue, c.white}) > 0;
}

/// Whether dies of these colours, one channel each, show anything of it.
bool shows(const Shown& s, const std::string& dies) {
    const bool white = dies.find('W') != std::string::npos;
    const auto d = lights::duties(*s.colour, s.cap, white ? 4 : 3);
    for (const char die : dies)
        if (d[std::string_view("RGBW").find(die)] > 0) return true;
    return false;
}

const char* colour_word(char die) {
    return die == 'R' ? "red" : die == 'G' ? "green" : die == 'B' ? "blue" : "white";
}

std::string colours_of(const std::string& dies) {
    std::vector<std::string> words;
    for (const char die : dies)
        if (std::find(words.begin(), words.end(), colour_word(die)) == words.end())
            words.push_back(colour_word(die));
    return conductus::joined(words, " and ");
}

void shows_nothing(const Facts& f, std::vector<Finding>& out) {
    struct Light {
        std::string ref, owner, dies;
    };
    std::vector<Light> lights;
    for (const job::Part& part : f.job->parts) {
        const auto* led = catalogue::led_in(f.parts->find(part.type)->figures);
        if (!led || f.wiring->is_loose(part)) continue;
        std::string dies;
        for (const auto& die : led->dies)
            dies += die.colour;
        const auto blade = std::find_if(f.job->blades.begin(), f.job->blades.end(),
                                        [&](auto& b) { return b.connector == part.ref; });
        lights.push_back(
            {part.ref, blade == f.job->blades.end() ? std::string() : blade->ref, std::move(dies)});
    }
    for (const job::Blade& blade : f.job->blades)
        for (const job::LedString& string : blade.strings)
            lights.push_back(
                {string.ref, blade.ref,
                 std::string(
                     1, f.parts->find_as<catalogue::SegmentedString>(string.type)->die.colour)});
    for (const lights::Group& g : f.chains.groups) {
        std::string dies;
        for (const auto& c : f.parts->find_as<catalogue::Pixel>(g.pixel)->channels)
            dies += c.colour;
        lights.push_back({g.ref, g.owner, std::move(dies)});
    }
    for (const Light& light : lights)
        for (const job::Look& look : f.job->looks) {
            const bool told = std::any_of(look.lights.begin(), look.lights.end(), [&](auto& o) {
                return o.light == light.ref || o.light == light.owner;
            });
            const job::Part* part = job::find_ref(f.job->parts, light.ref);
            // An accent that a look does not name follows the blade as far as it can.
            if (part && light.owner != light.ref && light.owner.empty() && !told) continue;
            const Shown asked = asked_of(look, light.ref, light.owner);
            if (!asks_for_light(asked) || shows(asked, light.dies)) continue;
            out.push_back(raise(
                "look.shows-nothing", Severity::warn, Station::lights, {light.ref, look.name},
                say("{} can not show {}: it has {} alone", light.ref, look.name,
                    colours_of(light.dies)),
                "Nothing of the colour that is asked for is in this light. Ask another colour of "
                "it, or fit a light that has it.",
                {{"colours", static_cast<double>(light.dies.size()), ""}}));
            break;
        }
}

void cap_of_zero(const Facts& f, std::vector<Finding>& out) {
    for (const job::Look& look : f.job->looks) {
        std::vector<std::string> dark;
        if (look.cap <= 0) dark.push_back(look.name);
        for (const job::LightOverride& o : look.lights) {
            const job::Colour& c = o.colour;
            if (o.cap <= 0 && std::max({c.red, c.green, c.blue, c.white}) > 0)
                dark.push_back(o.light);
        }
        if (dark.empty()) continue;
        Finding finding = raise(
            "look.cap-zero", Severity::note, Station::lights, {look.name},
            dark[0] == look.name
                ? say("{} is capped at 0 %: it shows nothing", look.name)
                : say("{} is capped at 0 % in {}: it shows nothing", dark[0], look.name),
            "A light that is to stay dark is asked for black; a cap of nothing is usually a slip.",
            {{"cap", 0, "%"}});
        out.push_back(std::move(finding));
    }
}

/// Resistors that leave an LED dark, or that do not limit it at all.
void led_resistors(const Facts& f, std::vector<Finding>& out) {
    for (const power::LedRun& led : f.leds) {
        const double share = led.amps / led.stated;
        if (led.resistor.empty() || share >= 0.08 || led.amps > led.most) continue;
        Finding finding =
            raise("led.too-dim", Severity::note, Station::lights, {led.led, led.resistor},
                  say("{} of {} runs at {}, {} % of what it is made for", led.die, led.led,
                      text(led.amps), decimals(share * 100, share < 0.01 ? 1 : 0)),
                  say("{} is {}: it leaves hardly any light.", led.resistor, text(led.fitted)),
                  {{"runs at", led.amps.value(), "A"}, {"made for", led.stated.value(), "A"}});
        if (led.e24 > Ohm(0) && led.e24 < led.fitted)
            finding.proposed.push_back({say("make {} {}", led.resistor, text(led.e24)),
                                        [ref = led.resistor, ohms = led.e24](job::Job& job) {
                                            if (auto* part = job::find_ref(job.parts, ref)) {
                                                part->chosen.resistance = ohms;
                                                part->measured.resistance.reset();
                                            }
                                        }});
        out.push_back(std::move(finding));
    }
}

} // namespace

void judge_blades(const Facts& f, std::vector<Finding>& out) {
    made_of(f, out);
    shows_nothing(f, out);
    cap_of_zero(f, out);
    led_resistors(f, out);
}

} // namespace conductus::findings
