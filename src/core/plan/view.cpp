// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/view.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <map>

#include "core/job/lookup.h"
#include "core/power/luminance.h"

namespace conductus::plan {
namespace {

using circuit::Network;
using circuit::Node;
using circuit::OperatingPoint;

/// Resistors on the shortest way between two nodes; empty where there is none.
std::vector<std::size_t> way(const Network& n, Node from, Node to) {
    std::vector<int> by(n.nodes.size(), -1);
    std::vector<Node> before(n.nodes.size());
    std::vector<Node> queue{from};
    std::vector<bool> seen(n.nodes.size());
    seen[from] = true;
    for (std::size_t i = 0; i < queue.size() && !seen[to]; ++i)
        for (std::size_t r = 0; r < n.resistors.size(); ++r) {
            const auto& e = n.resistors[r];
            if (e.a != queue[i] && e.b != queue[i]) continue;
            const Node next = e.a == queue[i] ? e.b : e.a;
            if (seen[next]) continue;
            seen[next] = true;
            by[next] = static_cast<int>(r);
            before[next] = queue[i];
            queue.push_back(next);
        }
    std::vector<std::size_t> path;
    for (Node at = to; seen[to] && at != from; at = before[at])
        path.push_back(static_cast<std::size_t>(by[at]));
    std::reverse(path.begin(), path.end());
    return path;
}

const char* label_of(circuit::Part part) {
    switch (part) {
    case circuit::Part::cell:
        return "cell";
    case circuit::Part::protection:
        return "protection";
    case circuit::Part::kill:
        return "kill switch";
    case circuit::Part::board:
        return "board";
    case circuit::Part::wire:
        return "wires";
    case circuit::Part::pins:
        return "pins";
    case circuit::Part::strip:
        return "blade copper";
    }
    return "";
}

std::vector<VoltStep> steps_of(const Network& n, const OperatingPoint& p, std::size_t strip) {
    const auto& s = n.strips[strip];
    const auto& source = n.sources[0];
    std::vector<VoltStep> steps{
        {label_of(circuit::Part::cell), source.ref, Volt(p.source_amps[0] * source.ohms)}};
    std::map<circuit::Part, VoltStep> by_part;
    std::map<circuit::Part, double> largest;
    auto collect = [&](Node from, Node to) {
        for (const std::size_t r : way(n, from, to)) {
            const auto& e = n.resistors[r];
            const double drop = std::abs(p.volts[e.a] - p.volts[e.b]);
            VoltStep& step = by_part[e.part];
            step.drop += Volt(drop);
            if (drop >= largest[e.part]) largest[e.part] = drop, step.ref = e.ref;
        }
    };
    collect(source.plus, s.plus);
    collect(s.minus, source.minus);
    for (const auto part : {circuit::Part::protection, circuit::Part::kill, circuit::Part::board,
                            circuit::Part::wire, circuit::Part::pins})
        if (const auto it = by_part.find(part); it != by_part.end())
            steps.push_back({label_of(part), it->second.ref, it->second.drop});
    const double foot = p.volts[s.plus] - p.volts[s.minus];
    steps.push_back(
        {label_of(circuit::Part::strip), s.ref, Volt(foot - p.strips[strip].volts.back())});
    return steps;
}

std::optional<Node> node_named(const Network& n, const std::string& ref, const char* terminal) {
    std::string name = ref + "_" + terminal;
    for (char& c : name)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    const auto it = std::find(n.nodes.begin(), n.nodes.end(), name);
    if (it == n.nodes.end()) return std::nullopt;
    return static_cast<Node>(it - n.nodes.begin());
}

/// Between two terminals of a part; the second may be ground by not being there.
std::optional<Volt> across(const Network& n, const OperatingPoint& p, const std::string& ref,
                           const char* plus, const char* minus) {
    const auto a = node_named(n, ref, plus);
    if (!a) return std::nullopt;
    const auto b = minus ? node_named(n, ref, minus) : std::nullopt;
    return Volt(p.volts[*a] - (b ? p.volts[*b] : 0));
}

} // namespace

View view_of(const job::Job& job, const catalogue::Catalogue& parts, const findings::Solved& solved,
             double charge, double& white_y) {
    const Network& n = solved.network;
    const OperatingPoint& p = solved.point;
    View view;
    view.charge = charge;
    view.amps = Ampere(solved.cell_amps());

    for (const job::Part& part : job.parts) {
        const auto& figures = parts.find(part.type)->figures;
        std::optional<Volt> v;
        if (std::holds_alternative<catalogue::Cell>(figures)) {
            v = across(n, p, part.ref, "plus", "minus");
            if (v && view.cell == Volt(0)) view.cell = *v;
        } else if (std::holds_alternative<catalogue::Board>(figures)) {
            v = across(n, p, part.ref, "bat", "gnd");
            if (v) view.board = *v;
        } else if (std::holds_alternative<catalogue::Kill>(figures)) {
            v = across(n, p, part.ref, "out", nullptr);
        } else if (std::holds_alternative<catalogue::Connector>(figures)) {
            for (const job::Blade& blade : job.blades)
                if (blade.connector == part.ref) v = across(n, p, blade.ref, "plus", "minus");
        }
        if (v) view.flags.push_back({part.ref, part.ref, *v});
    }

    // The strip whose tip is dimmest against its foot stands for the blade.
    const auto lights = power::strip_lights(job, parts);
    std::optional<std::size_t> shown;
    const power::StripLight* shown_light = nullptr;
    for (std::size_t i = 0; i < n.strips.size(); ++i) {
        const auto* light = job::find_ref(lights, n.strips[i].ref);
        if (!light) continue;
        auto luminance = [&](std::size_t k) {
            return lights::mix(power::pixel_light(n.strips[i], *light, p.strips[i], k));
        };
        const auto foot = luminance(0), tip = luminance(p.strips[i].volts.size() - 1);
        const double ratio = foot.y > 0 ? tip.y / foot.y : 1;
        if (shown && ratio >= view.tip) continue;
        shown = i, shown_light = light;
        view.tip = ratio;
        view.tint_shift = lights::tint_shift(foot, tip);
        if (!(white_y > 0)) white_y = lights::full_scale(foot);
    }
    if (!shown) return view;
    const auto& strip = p.strips[*shown];
    view.pixel_volts = strip.volts;
    view.first_pixel = Volt(strip.volts.front());
    view.last_pixel = Volt(strip.volts.back());
    view.flags.push_back({n.strips[*shown].ref, "first pixel", view.first_pixel});
    view.flags.push_back({n.strips[*shown].ref, "last pixel", view.last_pixel});
    for (std::size_t k = 0; k < strip.volts.size(); ++k)
        view.paint.push_back(lights::on_screen(
            lights::mix(power::pixel_light(n.strips[*shown], *shown_light, strip, k)), white_y));
    view.steps = steps_of(n, p, *shown);
    return view;
}

} // namespace conductus::plan
