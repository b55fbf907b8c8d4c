// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of contacts by their readings, of resistors in the wrong place, and of what shares a pad
// or a line.
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

#include "core/base/format.h"
#include "core/catalogue/kinds.h"
#include "core/circuit/compile.h"
#include "core/circuit/copper.h"
#include "core/findings/facts.h"
#include "core/findings/poles.h"
#include "core/findings/propose.h"
#include "core/harness/nets.h"
#include "core/job/lookup.h"

namespace conductus::findings {
namespace {

/// A contact is poor from this many times what its class has, and from this much more.
constexpr double poor_times = 3;
constexpr double poor_more = 0.03; // Ω
/// A soldered lead of a strip, foot pad to first pixel and back.
constexpr double poor_lead = 0.25; // Ω

bool poor(Ohm measured, Ohm usual) {
    return measured.value() > poor_times * usual.value() &&
           measured.value() > usual.value() + poor_more;
}

struct PoorContact {
    std::string what; ///< "pin plus2 of P1", "joint of W3"
    std::string ref;
    double ohms = 0, usual = 0;
};

std::vector<PoorContact> poor_contacts(const Facts& f) {
    std::vector<PoorContact> all;
    for (const job::Part& part : f.job->parts) {
        const auto& figures = f.parts->find(part.type)->figures;
        const auto judge = [&](Ohm usual) {
            if (const auto read = part.measured.resistance; read && poor(*read, usual))
                all.push_back({part.ref, part.ref, read->value(), usual.value()});
        };
        std::visit(catalogue::EachKind{
                       [](const auto&) {}, [&](const catalogue::Kill& k) { judge(k.contact); },
                       [&](const catalogue::Jack& j) { judge(j.contact); },
                       [&](const catalogue::Fuse& k) { judge(k.resistance); },
                       [&](const catalogue::Connector& c) {
                           judge(c.pin_resistance);
                           for (const job::MeasuredPin& pin : part.measured.pins)
                               if (poor(pin.resistance, c.pin_resistance))
                                   all.push_back({fmt::format("{} of {}", pin.pin, part.ref),
                                                  part.ref, pin.resistance.value(),
                                                  c.pin_resistance.value()});
                       }},
                   figures);
    }
    for (const job::Wire& w : f.job->wires) {
        const harness::WireRow* row = f.harness.wire(w.ref);
        if (!w.resistance || !row) continue;
        using circuit::operator*;
        const Ohm copper = circuit::wire_resistance(w.gauge) * row->length;
        if (poor(*w.resistance, copper + Ohm(0.005)))
            all.push_back({w.ref, w.ref, w.resistance->value(), copper.value()});
    }
    for (const job::Blade& blade : f.job->blades)
        for (const job::Strip& strip : blade.strips) {
            if (strip.lead.value() > poor_lead)
                all.push_back({"the lead of " + strip.ref, strip.ref, strip.lead.value(), 0.05});
            for (const job::Feed& feed : strip.feeds)
                if (feed.lead.value() > 4 * poor_lead)
                    all.push_back({"a feed of " + strip.ref, strip.ref, feed.lead.value(), 0.1});
        }
    return all;
}

void contacts(const Facts& f, std::vector<Finding>& out) {
    std::map<std::string, std::vector<PoorContact>> by_ref;
    for (PoorContact& c : poor_contacts(f))
        by_ref[c.ref].push_back(std::move(c));
    for (const auto& [ref, all] : by_ref) {
        const PoorContact& worst = *std::max_element(
            all.begin(), all.end(), [](const auto& a, const auto& b) { return a.ohms < b.ohms; });
        out.push_back(
            {.id = "contact.poor",
             .severity = Severity::warn,
             .station = Station::power,
             .where = {ref},
             .text = say("{} has {}, usual is {}", worst.what, text(Ohm(worst.ohms)),
                         text(Ohm(worst.usual))),
             .detail = all.size() > 1 ? say("{} contacts of {} are like that. A poor contact drops "
                                            "volts, gets warm and gets worse: clean, bend or "
                                            "solder it again, then measure it again.",
                                            all.size(), ref)
                                      : Message("A poor contact drops volts, gets warm and gets "
                                                "worse: clean, bend or solder it again, then "
                                                "measure it again."),
             .evidence = {{"measured", worst.ohms * 1e3, "mΩ"}, {"usual", worst.usual * 1e3, "mΩ"}},
             .fix = {}});
    }
}

/// Copper that joins a terminal, and what hangs beyond resistors.
bool reached_past(const Facts& f, const std::string& plus, std::string& resistor, double& ohms) {
    if (f.levels->level(plus)) return false; // copper all the way
    for (const job::Part& part : f.job->parts) {
        const auto* r = f.parts->find_as<catalogue::Resistor>(part.type);
        if (!r) continue;
        const std::string a = part.ref + ".a", b = part.ref + ".b";
        if (!f.levels->joined(plus, a) && !f.levels->joined(plus, b)) continue;
        resistor = part.ref, ohms = job::resistance_of(part, *r).value();
        return true;
    }
    return false;
}

void resistors(const Facts& f, std::vector<Finding>& out) {
    std::set<std::string> told;
    // In the supply of what wants all the volts there are.
    for (const Poles& p : poles_of(*f.job, *f.parts)) {
        const job::Part* part = job::find_ref(f.job->parts, p.ref);
        const bool led = (part && catalogue::led_in(f.parts->find(part->type)->figures)) ||
                         (!part && !job::find_ref(f.job->blades, p.ref)->strings.empty());
        std::string resistor;
        double ohms = 0;
        if (led || !(reached_past(f, p.plus, resistor, ohms) ||
                     (f.levels->on_minus(p.minus) && reached_past(f, p.minus, resistor, ohms) &&
                      f.levels->on_plus(p.plus))))
            continue;
        if (!f.levels->on_plus(p.plus) || ohms < 1 || !told.insert(resistor).second) continue;
        Finding finding{.id = "resistor.in-supply",
                        .severity = Severity::warn,
                        .station = Station::harness,
                        .where = {resistor, p.ref},
                        .text =
                            say("{}, {}, is in the supply of {}", resistor, text(Ohm(ohms)), p.ref),
                        .detail = "It drops the volts that the pixels need. A resistor of a data "
                                  "line goes into the data wire, before the first pixel.",
                        .evidence = {{"resistor", ohms, "Ohm"}},
                        .fix = {}};
        out.push_back(std::move(finding));
    }
    for (const harness::DataLine& line : f.harness.data.lines) {
        const double ohms = line.series.value();
        const bool none = ohms == 0;
        if (none || (ohms >= 68 && ohms <= 1500)) continue;
        std::vector<std::string> in_line;
        const auto data =
            f.wiring->reached({line.pad}, {job::Role::data}, job::Wiring::Through::conductors);
        for (const job::Part& part : f.job->parts)
            if (f.parts->find_as<catalogue::Resistor>(part.type) && data.contains(part.ref + ".a"))
                in_line.push_back(part.ref);
        if (in_line.empty()) continue;
        Finding finding{.id = "data.resistor",
                        .severity = Severity::warn,
                        .station = Station::harness,
                        .where = {in_line[0]},
                        .text = say("{} in the data line of {}, 220 to 470 Ω suit",
                                    text(line.series), line.pad),
                        .detail = ohms > 470
                                      ? Message("So much rounds the edges of the data off: pixels "
                                                "flicker or stay dark.")
                                      : Message("So little neither tames the edges nor spares the "
                                                "first pixel."),
                        .evidence = {{"resistor", ohms, "Ohm"}, {"usual", 330, "Ohm"}},
                        .fix = {}};
        finding.proposed.push_back(
            {say("make {} {}", in_line[0], text(Ohm(330))), [ref = in_line[0]](job::Job& job) {
                 if (auto* part = job::find_ref(job.parts, ref)) {
                     part->chosen.resistance = Ohm(330);
                     part->measured.resistance.reset();
                 }
             }});
        out.push_back(std::move(finding));
    }
    // A resistor in a speaker's or a button's wires.
    for (const job::Part& part : f.job->parts) {
        const auto* r = f.parts->find_as<catalogue::Resistor>(part.type);
        if (!r || job::resistance_of(part, *r).value() < 20) continue;
        const auto sound = f.wiring->reached({part.ref + ".a", part.ref + ".b"}, {job::Role::sound},
                                             job::Wiring::Through::nothing);
        const bool speaks = std::any_of(sound.begin(), sound.end(), [&](const std::string& t) {
            const job::Part* at = job::find_ref(f.job->parts, job::split_terminal(t).first);
            return at && f.parts->find_as<catalogue::Speaker>(at->type);
        });
        if (!speaks || !told.insert(part.ref).second) continue;
        out.push_back({.id = "resistor.in-sound",
                       .severity = Severity::warn,
                       .station = Station::harness,
                       .where = {part.ref},
                       .text = say("{} is in the speaker's wire", part.ref),
                       .detail = "Nearly all of the sound is lost in it: lead the wire past it.",
                       .evidence = {{"resistor", job::resistance_of(part, *r).value(), "Ohm"}},
                       .fix = {}});
    }
}

void mixed_pixels(const Facts& f, std::vector<Finding>& out) {
    for (const lights::Chain& chain : f.chains.chains) {
        const lights::Group* first = nullptr;
        for (const std::size_t i : chain.groups) {
            const lights::Group& g = f.chains.groups[i];
            if (!first) {
                first = &g;
                continue;
            }
            const auto* a = f.parts->find_as<catalogue::Pixel>(first->pixel);
            const auto* b = f.parts->find_as<catalogue::Pixel>(g.pixel);
            const bool channels = a->channels.size() != b->channels.size();
            if (!channels && a->order == b->order) continue;
            out.push_back(
                {.id = "line.mixed-pixels",
                 .severity = Severity::warn,
                 .station = Station::lights,
                 .where = {first->ref, g.ref},
                 .text = channels ? say("{} and {} on {} have {} and {} colours", first->ref, g.ref,
                                        chain.pad, a->channels.size(), b->channels.size())
                                  : say("{} and {} on {} take their colours in another order",
                                        first->ref, g.ref, chain.pad),
                 .detail = channels
                               ? Message("Each pixel takes as many bytes as it has colours: from "
                                         "there on every colour is wrong. One kind on a line.")
                               : Message("A board sends one order on a line: one of the two shows "
                                         "wrong colours. One kind on a line."),
                 .evidence = {{"colours", static_cast<double>(a->channels.size()), ""},
                              {"colours of the other", static_cast<double>(b->channels.size()),
                               ""}},
                 .fix = {}});
            break;
        }
    }
}

/// The pad that an LED's die or a string's segment returns to; empty: none.
std::string pad_of(const Facts& f, const std::string& terminal) {
    return circuit::pad_of(*f.job, *f.parts, *f.wiring, terminal);
}

void strings(const Facts& f, std::vector<Finding>& out) {
    for (const job::Blade& blade : f.job->blades)
        for (const job::LedString& string : blade.strings) {
            const auto* type = f.parts->find_as<catalogue::SegmentedString>(string.type);
            std::vector<std::string> pads;
            for (int i = 1; i <= type->segments; ++i)
                pads.push_back(pad_of(f, fmt::format("{}.seg{}", blade.ref, i)));
            if (type->has_flash) {
                const std::string flash = pad_of(f, blade.ref + ".flash");
                const auto same = std::find(pads.begin(), pads.end(), flash);
                if (!flash.empty() && same != pads.end()) {
                    Finding finding{
                        .id = "pad.flash-shared",
                        .severity = Severity::warn,
                        .station = Station::lights,
                        .where = {string.ref},
                        .text = say("The flash of {} is on {} with segment {}", string.ref, flash,
                                    same - pads.begin() + 1),
                        .detail = "The segment flashes with it, and the flash is lit with the "
                                  "segment: give the flash a pad of its own.",
                        .evidence = {{"segment", static_cast<double>(same - pads.begin() + 1), ""}},
                        .fix = {}};
                    const auto free = harness::free_pads(*f.job, *f.parts, *f.wiring, 'l');
                    for (const job::Wire& w : f.job->wires)
                        if (!free.empty() &&
                            (w.from == blade.ref + ".flash" || w.to == blade.ref + ".flash"))
                            propose(finding,
                                    {harness::move_end(w.ref, w.from == flash ? w.from : w.to,
                                                       free.front())});
                    out.push_back(std::move(finding));
                }
            }
            // Foot to tip the pads are meant to rise: a board lights them one after another.
            std::vector<std::string> sorted;
            for (const std::string& pad : pads)
                if (!pad.empty()) sorted.push_back(pad);
            const auto wired = sorted;
            const auto number = [](const std::string& pad) {
                return std::stoi(std::string(job::split_terminal(pad).second.substr(1)));
            };
            std::stable_sort(sorted.begin(), sorted.end(),
                             [&](auto& a, auto& b) { return number(a) < number(b); });
            if (sorted == wired || wired.size() != pads.size()) continue;
            std::vector<std::string> swapped;
            for (std::size_t i = 0; i < pads.size(); ++i)
                if (wired[i] != sorted[i]) swapped.push_back(std::to_string(i + 1));
            Finding finding{.id = "string.segments-swapped",
                            .severity = Severity::note,
                            .station = Station::lights,
                            .where = {string.ref},
                            .text = say("Segments {} of {} are not in the order of their pads",
                                        conductus::joined(swapped, ", "), string.ref),
                            .detail = "At ignition they light out of turn, unless the board is set "
                                      "to it.",
                            .evidence = {{"out of turn", static_cast<double>(swapped.size()), ""}},
                            .fix = {}};
            finding.proposed.push_back({"solder them in the order of their pads",
                                        [blade = blade.ref, wired, sorted](job::Job& job) {
                                            for (job::Wire& w : job.wires)
                                                for (std::size_t i = 0; i < wired.size(); ++i) {
                                                    const std::string end =
                                                        fmt::format("{}.seg{}", blade, i + 1);
                                                    if (w.from == end && w.to == wired[i]) {
                                                        w.to = sorted[i];
                                                        break;
                                                    }
                                                    if (w.to == end && w.from == wired[i]) {
                                                        w.from = sorted[i];
                                                        break;
                                                    }
                                                }
                                        }});
            out.push_back(std::move(finding));
        }
}

/// LEDs on one pad that a look tells apart.
void shared_pads(const Facts& f, std::vector<Finding>& out) {
    std::map<std::string, std::vector<std::string>> on; // LEDs by pad
    for (const power::LedRun& led : f.leds)
        if (!led.pad.empty() && job::find_ref(f.job->parts, led.led)) {
            auto& all = on[led.pad];
            if (std::find(all.begin(), all.end(), led.led) == all.end()) all.push_back(led.led);
        }
    for (const auto& [pad, leds] : on)
        for (const job::Look& look : f.job->looks) {
            const auto shown = [&](const std::string& ref) {
                const job::LightOverride* found = nullptr;
                for (const job::LightOverride& o : look.lights)
                    if (o.light == ref) found = &o;
                return found
                           ? std::tuple(found->colour.red, found->colour.green, found->colour.blue,
                                        found->colour.white, found->cap, found->style)
                           : std::tuple(look.colour.red, look.colour.green, look.colour.blue,
                                        look.colour.white, look.cap, look.style);
            };
            const auto other = std::find_if(leds.begin(), leds.end(), [&](const std::string& ref) {
                return shown(ref) != shown(leds[0]);
            });
            if (other == leds.end()) continue;
            out.push_back({.id = "pad.shared-lights",
                           .severity = Severity::warn,
                           .station = Station::lights,
                           .where = {leds[0], *other, look.name},
                           .text = say("{} can not differ from {} in {}: both are on {}", *other,
                                       leds[0], look.name, pad),
                           .detail = "A pad drives all that hangs on it alike. Give one a pad of "
                                     "its own, or ask the same of both.",
                           .evidence = {{"on the pad", static_cast<double>(leds.size()), ""}},
                           .fix = {}});
            break;
        }
}

void buttons(const Facts& f, std::vector<Finding>& out) {
    std::map<std::string, std::vector<std::string>> on; // buttons by pad
    for (const std::string& pad : harness::pads(*f.job, *f.parts, 's')) {
        const auto reached = f.wiring->reached({pad}, {job::Role::button, job::Role::return_path},
                                               job::Wiring::Through::nothing);
        // Through the board's own ground everything would be one.
        const std::string gnd = std::string(job::split_terminal(pad).first) + ".gnd";
        if (reached.contains(gnd)) continue;
        for (const job::Part& part : f.job->parts) {
            const auto* button = f.parts->find_as<catalogue::Button>(part.type);
            if (!button ||
                !(reached.contains(part.ref + ".a") || reached.contains(part.ref + ".b")))
                continue;
            on[pad].push_back(part.ref);
            if (button->action != catalogue::Button::Action::latching) continue;
            Finding finding{
                .id = "button.latching",
                .severity = Severity::warn,
                .station = Station::harness,
                .where = {part.ref},
                .text = say("{} latches, and {} wants one that springs back", part.ref, pad),
                .detail = "Latched, it is a press without end: the board hears no "
                          "gesture after it.",
                .evidence = {{"pads", 1, ""}},
                .fix = {}};
            const auto* body = &f.parts->find(part.type)->body;
            for (const catalogue::PartType* type : f.parts->all<catalogue::Button>()) {
                const auto& other = std::get<catalogue::Button>(type->figures);
                if (other.action == catalogue::Button::Action::momentary &&
                    other.light.dies.empty() == button->light.dies.empty() &&
                    type->body.diameter == body->diameter && type->body.shape == body->shape) {
                    finding.proposed.push_back(
                        {say("fit a {}", type->name), job::fit_type(part.ref, type->id)});
                    break;
                }
            }
            out.push_back(std::move(finding));
        }
    }
    // Asked for: a wish or an agreement names all of them.
    const auto asked = [&](const std::vector<std::string>& refs) {
        const auto names = [&](const std::string& words) {
            return !refs.empty() &&
                   std::all_of(refs.begin(), refs.end(), [&](const std::string& ref) {
                       return words.find(ref) != std::string::npos;
                   });
        };
        const auto& b = f.job->brief;
        return std::any_of(b.wishes.begin(), b.wishes.end(),
                           [&](auto& w) { return names(w.text); }) ||
               std::any_of(b.agreements.begin(), b.agreements.end(),
                           [&](auto& a) { return names(a.text); });
    };
    for (const auto& [pad, refs] : on)
        if (refs.size() > 1 && !asked(refs)) {
            Finding finding{.id = "button.shared-pad",
                            .severity = Severity::warn,
                            .station = Station::harness,
                            .where = refs,
                            .text =
                                say("{} are on one pad, {}", conductus::joined(refs, " and "), pad),
                            .detail = "The board can not tell them apart. Give each a pad of its "
                                      "own, or note in the brief that both are to do the same.",
                            .evidence = {{"buttons", static_cast<double>(refs.size()), ""}},
                            .fix = {}};
            const auto free = harness::free_pads(*f.job, *f.parts, *f.wiring, 's');
            for (const job::Wire& w : f.job->wires)
                if (!free.empty() &&
                    job::split_terminal(w.from == pad ? w.to : w.from).first == refs.back() &&
                    (w.from == pad || w.to == pad))
                    propose(finding, {harness::move_end(w.ref, pad, free.front())});
            out.push_back(std::move(finding));
        }
    const auto& pads = f.job->config.pads;
    for (std::size_t i = 0; i < pads.size(); ++i)
        for (std::size_t k = i + 1; k < pads.size(); ++k) {
            if (pads[i].use != pads[k].use || pads[i].pad == pads[k].pad || pads[i].use.empty())
                continue;
            std::vector<std::string> refs;
            for (const auto& pad : {pads[i].pad, pads[k].pad})
                if (const auto it = on.find(pad); it != on.end())
                    refs.insert(refs.end(), it->second.begin(), it->second.end());
            if (asked(refs)) continue;
            Finding finding{
                .id = "config.use-twice",
                .severity = Severity::warn,
                .station = Station::harness,
                .where = refs,
                .text = say("{} and {} are both set as {}", pads[i].pad, pads[k].pad, pads[i].use),
                .detail = "Two buttons do the same, and nothing does what the second "
                          "was fitted for. Note it in the brief if that is wanted.",
                .evidence = {{"set alike", 2, ""}},
                .fix = {}};
            const char* const other = pads[i].use == "second" ? "main" : "second";
            finding.proposed.push_back(
                {say("set {} as {}", pads[k].pad, other), [k, other](job::Job& job) {
                     if (k < job.config.pads.size()) job.config.pads[k].use = other;
                 }});
            out.push_back(std::move(finding));
        }
}

} // namespace

void judge_contacts(const Facts& f, std::vector<Finding>& out) {
    contacts(f, out);
    if (!f.levels->shorts().empty()) return;
    resistors(f, out);
    mixed_pixels(f, out);
    strings(f, out);
    shared_pads(f, out);
    buttons(f, out);
}

} // namespace conductus::findings
