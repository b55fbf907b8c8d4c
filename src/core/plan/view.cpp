// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/view.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <map>
#include <numeric>
#include <set>

#include "core/circuit/terminal.h"
#include "core/hilt/tube.h"
#include "core/job/lookup.h"
#include "core/plan/carried.h"
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
            if (e.part == circuit::Part::leak) continue;
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
    case circuit::Part::bay:
        return "cell bay";
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
    case circuit::Part::light:
        return "LED's own";
    case circuit::Part::resistor:
        return "resistors";
    case circuit::Part::supply:
        return "driver";
    case circuit::Part::fuse:
        return "fuse";
    case circuit::Part::leak:
        return "leak";
    }
    return "";
}

/// What is lost between the cells and a load's two nodes, by kind of part; of cells in a row, all.
std::vector<VoltStep> steps_to(const Network& n, const OperatingPoint& p, Node plus, Node minus) {
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
    auto joined = [&](Node a, Node b) { return a == b || !way(n, a, b).empty(); };
    // From the load's plus through one cell after another to where its minus comes back.
    std::vector<std::size_t> left(n.sources.size());
    std::iota(left.begin(), left.end(), std::size_t{0});
    Volt in_cells;
    std::string weakest;
    for (Node at = plus;;) {
        const auto next = std::find_if(
            left.begin(), left.end(), [&](std::size_t i) { return joined(n.sources[i].plus, at); });
        if (next == left.end()) break;
        const auto& source = n.sources[*next];
        if (weakest.empty()) weakest = source.ref;
        collect(source.plus, at);
        in_cells += Volt(p.source_amps[*next] * source.ohms);
        at = source.minus;
        left.erase(next);
        if (joined(minus, at)) {
            collect(minus, at);
            break;
        }
    }
    std::vector<VoltStep> steps{{label_of(circuit::Part::cell), weakest, in_cells}};
    for (const auto part : {circuit::Part::protection, circuit::Part::bay, circuit::Part::fuse,
                            circuit::Part::kill, circuit::Part::board, circuit::Part::wire,
                            circuit::Part::resistor, circuit::Part::pins, circuit::Part::light})
        if (const auto it = by_part.find(part); it != by_part.end())
            steps.push_back({label_of(part), it->second.ref, it->second.drop});
    return steps;
}

std::vector<VoltStep> steps_of(const Network& n, const OperatingPoint& p, std::size_t strip) {
    const auto& s = n.strips[strip];
    auto steps = steps_to(n, p, s.plus, s.minus);
    const double foot = p.volts[s.plus] - p.volts[s.minus];
    steps.push_back(
        {label_of(circuit::Part::strip), s.ref, Volt(foot - p.strips[strip].volts.back())});
    return steps;
}

/// To the LED of these refs that carries most.
void step_to_led(View& view, const Network& n, const OperatingPoint& p,
                 const std::set<std::string>& refs) {
    std::optional<std::size_t> most;
    for (std::size_t i = 0; i < n.diodes.size(); ++i)
        if (refs.contains(n.diodes[i].ref) && p.diode_amps[i] > 1e-6 &&
            (!most || p.diode_amps[i] > p.diode_amps[*most]))
            most = i;
    if (!most) return;
    const auto& led = n.diodes[*most];
    view.steps = steps_to(n, p, led.plus, led.minus);
    view.across_led = Volt(p.volts[led.plus] - p.volts[led.minus]);
}

/// Between two terminals of a part; the second may be ground by not being there.
std::optional<Volt> across(const Network& n, const OperatingPoint& p, const std::string& ref,
                           const char* plus, const char* minus) {
    const auto a = circuit::volts_of(n, p, ref, plus);
    if (!a) return std::nullopt;
    const auto b = minus ? circuit::volts_of(n, p, ref, minus) : std::nullopt;
    return Volt(*a - b.value_or(0));
}

} // namespace

namespace {

/// What there is of one blade.
class BladePainter {
public:
    BladePainter(const job::Job& job, const catalogue::Catalogue& parts, const Network& n,
                 const OperatingPoint& p, double& white_y)
        : job_(job), parts_(parts), n_(n), p_(p), white_y_(white_y),
          lights_(power::strip_lights(job, parts)) {}

    std::optional<BladeView> of(const job::Blade& blade) {
        BladeView view;
        view.ref = blade.ref;
        passes_ = std::max(hilt::light_passed(blade.tube), 1e-3);
        if (!blade.strips.empty()) return strips(blade, std::move(view));
        if (!blade.strings.empty()) return string(blade, std::move(view));
        return from_hilt(blade, std::move(view));
    }

private:
    /// As it is seen through its tube, against the foot of the first blade through its own.
    void paint(BladeView& view, const std::vector<lights::Xyz>& light) {
        if (!(white_y_ > 0))
            for (const auto& l : light)
                white_y_ = std::max(white_y_, lights::full_scale(l) * passes_);
        for (const auto& l : light)
            view.paint.push_back(lights::on_screen(l, white_y_ / passes_));
    }

    std::optional<BladeView> strips(const job::Blade& blade, BladeView view) {
        std::optional<std::size_t> shown;
        double least = 2;
        for (std::size_t i = 0; i < n_.strips.size(); ++i) {
            if (!job::find_ref(blade.strips, n_.strips[i].ref)) continue;
            const auto [meant, tip_light] = ends(i);
            const double foot = meant.y, tip = tip_light.y;
            const double ratio = foot > 0 ? tip / foot : 1;
            if (shown && ratio >= least) continue;
            shown = i, least = ratio;
        }
        if (!shown) return std::nullopt;
        const auto& strip = n_.strips[*shown];
        const auto [foot, tip] = ends(*shown);
        view.strip = strip.ref;
        view.volts = p_.strips[*shown].volts;
        view.foot = foot.y, view.tip = tip.y;
        view.tint_shift = lights::tint_shift(foot, tip);
        view.foot_tint = lights::tint(foot), view.tip_tint = lights::tint(tip);
        std::vector<lights::Xyz> seen;
        for (std::size_t k = 0; k < view.volts.size(); ++k) {
            seen.push_back(light(*shown, k));
            view.amps.push_back(power::pixel_amps(strip, p_.strips[*shown], k));
        }
        paint(view, seen);
        return view;
    }

    /// What the last lit pixel would show at the first one's volts, and what it shows.
    std::pair<lights::Xyz, lights::Xyz> ends(std::size_t strip) {
        const auto lit = power::lit_ends(n_.strips[strip]);
        const auto* l = job::find_ref(lights_, n_.strips[strip].ref);
        return {lights::mix(power::pixel_light_at(n_.strips[strip], *l, lit.last,
                                                  p_.strips[strip].volts[lit.first])),
                light(strip, lit.last)};
    }

    lights::Xyz light(std::size_t strip, std::size_t k) {
        const auto* l = job::find_ref(lights_, n_.strips[strip].ref);
        return lights::mix(power::pixel_light(n_.strips[strip], *l, p_.strips[strip], k));
    }

    [[nodiscard]] double diode_amps(const std::string& name) const {
        for (std::size_t i = 0; i < n_.diodes.size(); ++i)
            if (n_.diodes[i].name == name) return p_.diode_amps[i];
        return 0;
    }

    /// Of one that is on for a share of the time the eye sees the mean.
    [[nodiscard]] double mean_amps(const std::string& name) const {
        for (std::size_t i = 0; i < n_.diodes.size(); ++i)
            if (n_.diodes[i].name == name) return p_.diode_amps[i] * n_.diodes[i].of_time;
        return 0;
    }

    std::optional<BladeView> string(const job::Blade& blade, BladeView view) {
        const auto* type = parts_.find_as<catalogue::SegmentedString>(blade.strings.front().type);
        std::string name = blade.strings.front().ref + "_";
        for (char& c : name)
            c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        const double flash = type->has_flash ? mean_amps(name + "flash") : 0;
        std::vector<lights::Xyz> light;
        for (int i = 0; i < type->segments; ++i) {
            const double amps = diode_amps(name + "seg" + std::to_string(i + 1));
            auto seen = power::die_light(type->die, mean_amps(name + "seg" + std::to_string(i + 1)),
                                         type->parallel);
            if (type->has_flash) {
                const auto over = power::die_light(type->flash, flash, type->flash_parallel);
                for (std::size_t c = 0; c < seen.size(); ++c)
                    seen[c] += over[c];
            }
            view.amps.push_back(amps);
            light.push_back(lights::mix(seen));
        }
        view.foot = light.front().y, view.tip = light.back().y;
        paint(view, light);
        return view;
    }

    std::optional<BladeView> from_hilt(const job::Blade& blade, BladeView view) {
        const job::Part* part = job::find_ref(job_.parts, blade.connector);
        const auto* led = part ? parts_.find_as<catalogue::Led>(part->type) : nullptr;
        if (!led) return std::nullopt;
        std::array<double, 4> seen{};
        for (std::size_t i = 0; i < n_.diodes.size(); ++i) {
            if (n_.diodes[i].ref != part->ref) continue;
            const char number = n_.diodes[i].name.back();
            const auto die =
                std::isdigit(static_cast<unsigned char>(number)) && led->dies.size() > 1
                    ? static_cast<std::size_t>(number - '1')
                    : std::size_t{0};
            const auto one =
                power::die_light(led->dies[die], p_.diode_amps[i] * n_.diodes[i].of_time);
            for (std::size_t c = 0; c < seen.size(); ++c)
                seen[c] += one[c];
        }
        // How a tube spreads the light is not computed: it is shown even.
        const auto light = lights::mix(seen);
        view.foot = view.tip = light.y;
        paint(view, std::vector<lights::Xyz>(24, light));
        return view;
    }

    const job::Job& job_;
    const catalogue::Catalogue& parts_;
    const Network& n_;
    const OperatingPoint& p_;
    double& white_y_;
    double passes_ = 1; ///< light that leaves the tube of the blade at hand, a share
    std::vector<power::StripLight> lights_;
};

/// Largest current through the resistors of a part, and what it is rated for.
void flag_amps(const job::Job& job, const catalogue::Catalogue& parts, const Network& n,
               const OperatingPoint& p, View& view) {
    for (std::size_t i = 0; i < n.sources.size(); ++i) {
        const job::Part* part = job::find_ref(job.parts, n.sources[i].ref);
        view.amp_flags.push_back({n.sources[i].ref, n.sources[i].ref, Ampere(p.source_amps[i]),
                                  parts.find_as<catalogue::Cell>(part->type)->continuous});
    }
    for (std::size_t i = 0; i < n.resistors.size(); ++i) {
        const auto& r = n.resistors[i];
        const auto place = carrying_place(job, parts, r);
        if (!place || place->kind == CarryingPlace::Kind::wire) continue;
        AmpFlag flag{r.ref, place->label, Ampere(std::abs(p.resistor_amps[i])), place->rated};
        view.amp_flags.push_back(std::move(flag));
    }
    for (std::size_t i = 0; i < n.sinks.size(); ++i)
        view.amp_flags.push_back(
            {n.sinks[i].ref, "board and sound", Ampere(p.sink_amps[i]), std::nullopt});
    for (std::size_t i = 0; i < n.strips.size(); ++i)
        view.amp_flags.push_back({n.strips[i].ref, n.strips[i].ref, Ampere(p.strips[i].amps), {}});
}

/// The flags of each part taken together.
void add_up(const job::Job& job, const catalogue::Catalogue& parts, View& view) {
    for (const AmpFlag& flag : view.amp_flags) {
        auto it = std::find_if(view.part_amps.begin(), view.part_amps.end(),
                               [&](const PartAmps& p) { return p.ref == flag.ref; });
        if (it == view.part_amps.end())
            it = view.part_amps.insert(it, PartAmps{flag.ref, Ampere(0), std::nullopt});
        const Ampere amps(std::abs(flag.amps.value()));
        const job::Part* part = job::find_ref(job.parts, flag.ref);
        // Its pads, its own and its sound: all that comes in at the board's cell.
        const bool board = part && parts.find_as<catalogue::Board>(part->type);
        it->amps = board ? it->amps + amps : std::max(it->amps, amps);
        if (flag.rated && amps > *flag.rated) it->over = flag.rated;
    }
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
        } else if (std::holds_alternative<catalogue::PixelGroup>(figures) ||
                   std::holds_alternative<catalogue::Pixel>(figures)) {
            v = across(n, p, part.ref, "plus", "minus");
        } else if (std::holds_alternative<catalogue::Regulator>(figures)) {
            v = across(n, p, part.ref, "out", "gnd");
        }
        if (v) view.flags.push_back({part.ref, part.ref, *v});
    }
    flag_amps(job, parts, n, p, view);
    add_up(job, parts, view);

    BladePainter painter(job, parts, n, p, white_y);
    const BladeView* shown = nullptr;
    double least = 2;
    for (const job::Blade& blade : job.blades)
        if (auto seen = painter.of(blade)) view.blades.push_back(std::move(*seen));
    // The strip whose tip is dimmest against its foot stands for all; where none has a strip, the
    // first blade.
    for (const BladeView& blade : view.blades) {
        const double ratio = blade.foot > 0 ? blade.tip / blade.foot : 1;
        if (shown && (blade.strip.empty() || (ratio >= least && !shown->strip.empty()))) continue;
        shown = &blade, least = ratio;
    }
    if (!shown) return view;
    view.tip = least;
    view.tint_shift = shown->tint_shift;
    view.foot_tint = shown->foot_tint, view.tip_tint = shown->tip_tint;
    view.paint = shown->paint;
    if (shown->strip.empty()) {
        std::set<std::string> lit;
        for (const job::Blade& blade : job.blades) {
            lit.insert(blade.connector); // an LED in the hilt that shines into it
            for (const job::LedString& string : blade.strings)
                lit.insert(string.ref);
        }
        step_to_led(view, n, p, lit);
        return view;
    }
    view.pixel_volts = shown->volts;
    view.first_pixel = Volt(shown->volts.front());
    view.last_pixel = Volt(shown->volts.back());
    view.flags.push_back({shown->strip, "first pixel", view.first_pixel});
    view.flags.push_back({shown->strip, "last pixel", view.last_pixel});
    for (std::size_t i = 0; i < n.strips.size(); ++i)
        if (n.strips[i].ref == shown->strip) view.steps = steps_of(n, p, i);
    return view;
}

} // namespace conductus::plan
