// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of data lines: what hangs on them, what reaches it, and what it can tell apart.
#include <algorithm>
#include <fmt/format.h>
#include <set>

#include "core/base/format.h"
#include "core/findings/facts.h"
#include "core/job/lookup.h"

namespace conductus::findings {
namespace {

const catalogue::Board* board_of(const Facts& f, const std::string& pad) {
    const job::Part* part = job::find_ref(f.job->parts, job::split_terminal(pad).first);
    return part ? f.parts->find_as<catalogue::Board>(part->type) : nullptr;
}

void lines(const Facts& f, std::vector<Finding>& out) {
    for (const lights::Chain& chain : f.chains.chains) {
        const auto* board = board_of(f, chain.pad);
        if (chain.longest > board->max_pixels)
            out.push_back({.id = "line.too-many-pixels",
                           .severity = Severity::stop,
                           .station = Station::lights,
                           .where = {std::string(job::split_terminal(chain.pad).first)},
                           .text = say("{} pixels on {}, the board drives {}", chain.longest,
                                       chain.pad, board->max_pixels),
                           .detail = "What lies beyond stays dark. Use another line, or solder "
                                     "lights in parallel so that they mirror.",
                           .evidence = {{"on the line", static_cast<double>(chain.longest), "px"},
                                        {"driven", static_cast<double>(board->max_pixels), "px"}},
                           .fix = {}});
    }
}

/// Lights that one missing wire leaves without data are one finding.
void no_data(const Facts& f, std::vector<Finding>& out) {
    if (f.fresh.empty()) return;
    std::vector<std::string> refs, owners;
    int pixels = 0;
    for (const lights::Group& g : f.chains.groups) {
        const auto& strips = f.fresh[0]->network.strips;
        const bool supplied = std::any_of(strips.begin(), strips.end(),
                                          [&](const auto& s) { return s.ref == g.ref; });
        if (!g.line.empty() || !supplied) continue;
        refs.push_back(g.ref), pixels += g.pixels;
        // A blade's data goes through the connector that it stands on.
        const job::Blade* blade = job::find_ref(f.job->blades, g.owner);
        const std::string& owner = blade && !blade->connector.empty() ? blade->connector : g.owner;
        if (std::find(owners.begin(), owners.end(), owner) == owners.end()) owners.push_back(owner);
    }
    if (refs.empty()) return;
    Finding finding{.id = "line.no-data",
                    .severity = Severity::warn,
                    .station = Station::lights,
                    .where = refs,
                    .text = say("No data reaches {}", conductus::joined(refs, ", ")),
                    .detail = refs.size() == 1
                                  ? "It has a supply but no data wire leads to it from a board: it "
                                    "stays dark."
                                  : "They have a supply but no data wire leads to them from a "
                                    "board: they stay dark.",
                    .evidence = {{"pixels", static_cast<double>(pixels), "px"}},
                    .fix = {}};
    // All that is missing of their data, at once.
    finding.proposed.push_back({"wire it", [&parts = *f.parts, owners](job::Job& job) {
                                    for (const std::string& owner : owners)
                                        if (auto ok = harness::wire_missing(parts, owner)(job); !ok)
                                            return;
                                }});
    finding.proposed.push_back({"wire all that is missing", harness::wire_missing(*f.parts)});
    out.push_back(std::move(finding));
}

/// Lights the board drives by themselves: what leads on a line, stretches that a look names, pads
/// with LEDs.
int driven(const Facts& f, const std::string& board) {
    int lights = 0;
    for (const lights::Chain& chain : f.chains.chains) {
        if (job::split_terminal(chain.pad).first != board) continue;
        std::set<int> starts; // groups soldered in parallel are one light
        for (const std::size_t i : chain.groups)
            starts.insert(f.chains.groups[i].first);
        lights += static_cast<int>(starts.size());
        for (const job::Stretch& s : f.job->stretches)
            for (const std::size_t i : chain.groups)
                lights += f.chains.groups[i].ref == s.of;
    }
    std::set<std::string> pads;
    for (const power::LedRun& led : f.leds)
        if (job::split_terminal(led.pad).first == board) pads.insert(led.pad);
    return lights + static_cast<int>(pads.size());
}

void too_many_lights(const Facts& f, std::vector<Finding>& out) {
    for (const job::Part& part : f.job->parts) {
        const auto* board = f.parts->find_as<catalogue::Board>(part.type);
        if (!board || board->max_lights == 0) continue;
        const int lights = driven(f, part.ref);
        if (lights <= board->max_lights) continue;
        out.push_back({.id = "board.too-many-lights",
                       .severity = Severity::warn,
                       .station = Station::lights,
                       .where = {part.ref},
                       .text = say("{} lights of their own, {} drives {}", lights, part.ref,
                                   board->max_lights),
                       .detail = "Solder some in parallel so that they mirror, or choose a board "
                                 "that drives more.",
                       .evidence = {{"lights", static_cast<double>(lights), ""},
                                    {"driven", static_cast<double>(board->max_lights), ""}},
                       .fix = {}});
    }
}

/// Strips side by side hear the same data: they are one finding.
void data_low(const Facts& f, std::vector<Finding>& out) {
    std::vector<std::pair<std::string, std::size_t>> told; // what was read, and its finding
    for (const power::DataHop& hop : f.hops) {
        if (hop.margin() >= Volt(0)) continue;
        const std::string read = text(hop.high) + text(hop.need);
        const auto same =
            std::find_if(told.begin(), told.end(), [&](const auto& t) { return t.first == read; });
        if (same != told.end()) {
            Finding& finding = out[same->second];
            finding.where.push_back(hop.to);
            finding.text =
                say("Data reaches {} at {}, they need {}", conductus::joined(finding.where, ", "),
                    text(hop.high), text(hop.need));
            continue;
        }
        told.emplace_back(read, out.size());
        out.push_back(
            {.id = "data.level-low",
             .severity = Severity::warn,
             .station = Station::lights,
             .where = {hop.to},
             .text =
                 say("Data reaches {} at {}, it needs {}", hop.to, text(hop.high), text(hop.need)),
             .detail = hop.shift > Volt(0.2)
                           ? "Its ground is lifted by what its return loses: thicker "
                             "return wires, or a second pad."
                           : "Its supply is higher than the data was made for: put a level "
                             "shifter on its supply into the line.",
             .evidence = {{"data", hop.high.value(), "V"},
                          {"needed", hop.need.value(), "V"},
                          {"ground shift", hop.shift.value(), "V"}},
             .fix = {}});
    }
}

void mirrored(const Facts& f, std::vector<Finding>& out) {
    std::set<std::string> told;
    for (const job::Look& look : f.job->looks)
        for (const auto& c : lights::look_conflicts(f.chains, look)) {
            if (!told.insert(c.light).second) continue;
            const lights::Group* g = f.chains.group(c.light);
            out.push_back(
                {.id = "light.mirrors",
                 .severity = Severity::warn,
                 .station = Station::lights,
                 .where = {c.light, c.leads, look.name},
                 .text = say("{} can not differ from {} in {}", c.light, c.leads, look.name),
                 .detail = say("Both hear the same data on {}: they mirror. Give "
                               "one a line of its own.",
                               g->line),
                 .evidence = {{"first pixel", static_cast<double>(g->first + 1), ""}},
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

} // namespace

void judge_lines(const Facts& facts, std::vector<Finding>& out) {
    lines(facts, out);
    no_data(facts, out);
    too_many_lights(facts, out);
    data_low(facts, out);
    mirrored(facts, out);
    if (facts.levels->shorts().empty()) mixed_pixels(facts, out);
}

} // namespace conductus::findings
