// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of what shares a pad of a board: segments and their flash, LEDs, buttons.
#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <tuple>

#include "core/base/format.h"
#include "core/circuit/compile.h"
#include "core/findings/facts.h"
#include "core/findings/rule_tools.h"
#include "core/harness/nets.h"
#include "core/job/lookup.h"

namespace conductus::findings {
namespace {

/// The pad that an LED's die or a string's segment returns to; empty: none.
std::string pad_of(const Facts& f, const std::string& terminal) {
    return circuit::pad_of(*f.job, *f.parts, *f.wiring, terminal);
}

void strings(const Facts& f, std::vector<Finding>& out) {
    for (const job::Blade& blade : f.job->blades)
        for (const job::LedString& string : blade.strings) {
            const auto* type = f.parts->find_as<catalogue::SegmentedString>(string.type);
            const std::string& end_of = job::string_end(*f.job, *f.parts, blade);
            std::vector<std::string> pads;
            for (int i = 1; i <= type->segments; ++i)
                pads.push_back(pad_of(f, fmt::format("{}.seg{}", end_of, i)));
            if (type->has_flash) {
                const std::string flash = pad_of(f, end_of + ".flash");
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
                            (w.from == end_of + ".flash" || w.to == end_of + ".flash"))
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
                                        [blade = end_of, wired, sorted](job::Job& job) {
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

void judge_pads(const Facts& facts, std::vector<Finding>& out) {
    if (!facts.levels->shorts().empty()) return;
    strings(facts, out);
    shared_pads(facts, out);
    buttons(facts, out);
}

} // namespace conductus::findings
