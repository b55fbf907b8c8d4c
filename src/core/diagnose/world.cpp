// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/diagnose/world.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cctype>
#include <cmath>

#include "core/job/lookup.h"
#include "core/job/presets.h"
#include "core/job/wiring.h"
#include "core/power/state.h"

namespace conductus::diagnose {
namespace {

using circuit::Network;
using circuit::Node;

constexpr double open_ohms = 1e6, leak_ohms = 1e7, parted_ohms = 1e9;

/// A node of that name, made where there is none yet.
Node node_in(Network& n, const std::string& terminal) {
    const std::string name = node_name(terminal);
    const auto it = std::find(n.nodes.begin(), n.nodes.end(), name);
    if (it != n.nodes.end()) return static_cast<Node>(it - n.nodes.begin());
    n.nodes.push_back(name);
    return n.nodes.size() - 1;
}

void alter(Network& n, const Alteration& a, const std::string& ground, bool bare) {
    using Change = Alteration::Kind;
    const auto at = [&](const std::string& terminal) {
        return node_name(terminal) == ground ? Node(0) : node_in(n, terminal);
    };
    const auto there = [&](const std::string& terminal) {
        return node_name(terminal) == ground ||
               std::find(n.nodes.begin(), n.nodes.end(), node_name(terminal)) != n.nodes.end();
    };
    switch (a.kind) {
    case Change::ohms:
    case Change::more_ohms:
        for (circuit::Resistor& r : n.resistors)
            if (r.name == a.name) r.ohms = a.kind == Change::ohms ? a.value : r.ohms + a.value;
        break;
    case Change::bridge:
        // Of signals the powered network knows nothing: they are told by what is seen.
        if (!bare && !(there(a.name) && there(a.other))) break;
        if (const Node x = at(a.name), y = at(a.other); x != y)
            n.resistors.push_back({"bridge_" + node_name(a.name) + "_" + node_name(a.other),
                                   {},
                                   circuit::Part::leak,
                                   x,
                                   y,
                                   a.value,
                                   {}});
        break;
    case Change::emf:
        for (circuit::Source& s : n.sources)
            if (s.name == a.name) s.emf *= a.value;
        break;
    case Change::source_ohms:
        for (circuit::Source& s : n.sources)
            if (s.name == a.name) s.ohms *= a.value;
        break;
    case Change::dark_from:
        for (circuit::Strip& s : n.strips) {
            if (s.name != a.name) continue;
            const int from = static_cast<int>(a.value);
            std::vector<lights::Span> spans;
            for (lights::Span span : s.spans) {
                if (span.first >= from) break;
                span.last = std::min(span.last, from);
                spans.push_back(span);
            }
            if (from < s.pixels) spans.push_back({from, s.pixels, {}});
            s.spans = std::move(spans);
        }
        break;
    }
}

void scale(Network& n, const Draw& draw) {
    for (circuit::Resistor& r : n.resistors)
        if (const auto it = draw.ohms.find(r.name); it != draw.ohms.end()) r.ohms *= it->second;
    for (circuit::Source& s : n.sources) {
        s.ohms *= draw.cell_ohms;
        s.emf += draw.cell_volts;
    }
    for (circuit::Strip& s : n.strips)
        for (double& full : s.pixel.full)
            full *= draw.pixels;
    for (circuit::Sink& s : n.sinks)
        s.amps *= draw.board;
}

} // namespace

std::string node_name(const std::string& terminal) {
    std::string name = terminal;
    for (char& c : name)
        c = c == '.' ? '_' : static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return name;
}

std::string World::light_named(const circuit::Diode& diode) {
    return diode.junction.number > 0 || diode.junction.of == circuit::Junction::Of::flash
               ? diode.ref + "." + diode.junction.name()
               : diode.ref;
}

const char* unit_of(Quantity quantity) {
    constexpr const char* units[] = {"V", "A", "Ohm", "pixels", "dB", "seen"};
    return units[static_cast<int>(quantity)];
}

World::World(const job::Job& job, const catalogue::Catalogue& parts, double charge)
    : job_(job), parts_(&parts), charge_(charge) {
    job_.variants.clear();
    lit_ = !job.use.look.empty() ? job.use.look : job.looks.empty() ? "" : job.looks[0].name;
    double most = -1;
    for (const job::Effect& e : job::effects_of_use(job)) {
        const double asks = e.cap * (e.to - e.from);
        if (e.kind == job::EffectKind::flash && asks > most) most = asks, flash_ = e.name;
    }
    if (const auto board = job::first_of<catalogue::Board>(job_, parts)) {
        board_ = board.part->ref;
        reset_ = board.figures->reset.value();
        clean_ = board.figures->clean_min.value();
    }
}

const Network* World::network(const std::string& state) {
    const auto [it, fresh] = networks_.try_emplace(state);
    if (fresh) {
        // Without the cell: the board is off, and of switches what they are set to.
        const bool bare = state == cell_out || state == kill_open;
        const auto named = bare ? Result<power::State>(power::dark_state(
                                      circuit::BoardMode::asleep, state == kill_open, charge_))
                                : power::state_named(job_, *parts_, state, {}, charge_);
        if (named) {
            auto made = power::network_of(job_, *parts_, power::looked_up(job_, *parts_, *named));
            if (made) {
                // A switch that is open lets nothing through that a meter could read.
                for (circuit::Resistor& r : made->resistors)
                    if (r.part == circuit::Part::kill && r.ohms > 1e4) r.ohms = parted_ohms;
                it->second = std::move(*made);
            }
        }
    }
    return it->second ? &*it->second : nullptr;
}

std::optional<Node> World::node(const Network& network, const std::string& terminal) const {
    const auto cell = job::first_of<catalogue::Cell>(job_, *parts_);
    if (cell && terminal == cell.part->ref + ".minus") return Node(0);
    const auto it = std::find(network.nodes.begin(), network.nodes.end(), node_name(terminal));
    if (it == network.nodes.end()) return std::nullopt;
    return static_cast<Node>(it - network.nodes.begin());
}

std::optional<World::Solved> World::solved(const std::string& state,
                                           const std::vector<const Fault*>& faults,
                                           const Draw& draw, bool turned) {
    const Network* base = network(state);
    if (!base) return std::nullopt;
    const auto cell = job::first_of<catalogue::Cell>(job_, *parts_);
    const std::string ground = cell ? node_name(cell.part->ref + ".minus") : std::string();
    Solved s;
    s.network = *base;
    scale(s.network, draw);
    for (const Fault* fault : faults)
        if (!fault->turned || turned)
            for (const Alteration& a : fault->does)
                alter(s.network, a, ground, false);
    // What stands alone now has a path as long as the air is.
    for (Node n = 1; n < s.network.nodes.size(); ++n)
        s.network.resistors.push_back(
            {"air_" + s.network.nodes[n], {}, circuit::Part::leak, n, 0, leak_ohms, {}});
    circuit::Guess& guess = guesses_[state];
    const auto solve = [&]() -> bool {
        auto point = circuit::solve(s.network, &guess);
        if (!point) {
            guess.clear();
            point = circuit::solve(s.network, &guess);
        }
        if (!point) return false;
        s.point = std::move(*point);
        return true;
    };
    if (!solve()) return std::nullopt;
    // A board that has too little is off: what it drives is dark, what it draws is nothing.
    for (const circuit::Sink& sink : s.network.sinks)
        if (sink.ref == board_ && s.point.volts[sink.plus] - s.point.volts[sink.minus] < reset_)
            s.board_off = true;
    if (s.board_off) {
        for (circuit::Sink& sink : s.network.sinks)
            if (sink.ref == board_) sink.amps = 0, sink.sound = {};
        for (circuit::Resistor& r : s.network.resistors)
            if (r.ref == board_ && !r.pin.empty() && r.ohms < 1) r.ohms = open_ohms;
        for (circuit::Strip& strip : s.network.strips)
            strip.spans = {{0, strip.pixels, {}}};
        guess.clear();
        if (!solve()) return std::nullopt;
        guess.clear();
    }
    return s;
}

std::optional<double> World::ohms(const Measure& measure, const std::vector<const Fault*>& faults,
                                  const Draw& draw, bool turned, double* spread) {
    const Network* base = network(measure.state);
    if (!base) return std::nullopt;
    const auto cell = job::first_of<catalogue::Cell>(job_, *parts_);
    const std::string ground = cell ? node_name(cell.part->ref + ".minus") : std::string();
    Network n = *base;
    n.sources.clear(), n.sinks.clear(), n.strips.clear(), n.diodes.clear();
    n.limiters.clear(), n.converters.clear();
    // Wires of data, buttons and sound, which no supply runs through.
    for (const job::Wire& w : job_.wires) {
        if (w.role == job::Role::supply || w.role == job::Role::return_path) continue;
        const auto at = [&](const std::string& terminal) {
            return node_name(terminal) == ground ? Node(0) : node_in(n, terminal);
        };
        n.resistors.push_back(
            {node_name(w.ref), w.ref, circuit::Part::wire, at(w.from), at(w.to), 0.03, {}});
    }
    // A speaker is its coil.
    for (const job::Part& part : job_.parts)
        if (const auto* speaker = parts_->find_as<catalogue::Speaker>(part.type)) {
            const Node plus = node_in(n, part.ref + ".plus"),
                       minus = node_in(n, part.ref + ".minus");
            n.resistors.push_back({node_name(part.ref) + "_coil",
                                   part.ref,
                                   circuit::Part::resistor,
                                   plus,
                                   minus,
                                   speaker->impedance.value() * 0.9,
                                   {}});
        }
    // A resistor in a line of data, which no supply runs through either.
    for (const job::Part& part : job_.parts)
        if (const auto* resistor = parts_->find_as<catalogue::Resistor>(part.type))
            if (std::none_of(n.resistors.begin(), n.resistors.end(),
                             [&](const circuit::Resistor& r) { return r.ref == part.ref; })) {
                const Node in = node_in(n, part.ref + ".a"), out = node_in(n, part.ref + ".b");
                n.resistors.push_back({node_name(part.ref),
                                       part.ref,
                                       circuit::Part::resistor,
                                       in,
                                       out,
                                       job::resistance_of(part, *resistor).value(),
                                       {}});
            }
    scale(n, draw);
    for (const Fault* fault : faults)
        if (!fault->turned || turned)
            for (const Alteration& a : fault->does)
                alter(n, a, ground, true);
    const auto place = [&](const std::string& terminal) -> std::optional<Node> {
        if (node_name(terminal) == ground) return Node(0);
        const auto it = std::find(n.nodes.begin(), n.nodes.end(), node_name(terminal));
        if (it == n.nodes.end()) return std::nullopt;
        return static_cast<Node>(it - n.nodes.begin());
    };
    const auto from = place(measure.from), to = place(measure.to);
    // A terminal that nothing is soldered to is joined to nothing.
    if (!from || !to) return open_ohms;
    if (*from == *to) return 0;
    const auto size = static_cast<Eigen::Index>(n.nodes.size());
    Eigen::MatrixXd g = Eigen::MatrixXd::Zero(size, size);
    const auto add = [&](Node a, Node b, double siemens) {
        const auto i = static_cast<Eigen::Index>(a), k = static_cast<Eigen::Index>(b);
        g(i, i) += siemens, g(k, k) += siemens, g(i, k) -= siemens, g(k, i) -= siemens;
    };
    for (const circuit::Resistor& r : n.resistors)
        if (r.a != r.b) add(r.a, r.b, 1 / std::max(r.ohms, 1e-4));
    for (Eigen::Index i = 0; i < size; ++i)
        g(i, i) += 1e-9; // nothing floats
    Eigen::VectorXd amps = Eigen::VectorXd::Zero(size);
    amps(static_cast<Eigen::Index>(*from)) = 1, amps(static_cast<Eigen::Index>(*to)) = -1;
    const Eigen::VectorXd volts = g.ldlt().solve(amps);
    const double r =
        volts(static_cast<Eigen::Index>(*from)) - volts(static_cast<Eigen::Index>(*to));
    if (spread) {
        // A unit of current through it all: each resistor counts by the square of its share. Signal
        // wires and coils are as they are.
        double sum = 0;
        for (const circuit::Resistor& one : n.resistors) {
            const double share = (volts(static_cast<Eigen::Index>(one.a)) -
                                  volts(static_cast<Eigen::Index>(one.b))) /
                                 std::max(one.ohms, 1e-4);
            if (std::any_of(base->resistors.begin(), base->resistors.end(),
                            [&](const circuit::Resistor& of) { return of.name == one.name; }))
                sum += std::pow(tolerance_of(one.part) * one.ohms * share * share, 2);
        }
        *spread = std::sqrt(sum);
    }
    return std::clamp(r, 0.0, open_ohms);
}

std::optional<double> World::read(const Measure& measure, const std::vector<const Fault*>& faults,
                                  const Draw& draw, bool turned) {
    if (measure.what == Quantity::ohms) return ohms(measure, faults, draw, turned);
    if (measure.what == Quantity::decibels || measure.what == Quantity::seen) return std::nullopt;
    if (measure.state == by_itself) return in_the_hand(measure, faults, draw);
    const auto s = solved(measure.state, faults, draw, turned);
    if (!s) return std::nullopt;
    return value_of(*s, measure);
}

std::optional<double> World::in_the_hand(const Measure& measure,
                                         const std::vector<const Fault*>& faults,
                                         const Draw& draw) {
    const Network* base = network("idle");
    const auto [ref, terminal] = job::split_terminal(measure.from);
    if (!base || measure.what != Quantity::volts || job::split_terminal(measure.to).first != ref)
        return std::nullopt;
    Network n = *base;
    scale(n, draw);
    for (const Fault* fault : faults)
        for (const Alteration& a : fault->does)
            if (a.kind == Alteration::Kind::emf) alter(n, a, {}, true);
    for (const circuit::Source& source : n.sources)
        if (source.ref == ref) // whichever way round it was in the hilt
            return terminal == "minus" ? -std::abs(source.emf) : std::abs(source.emf);
    return std::nullopt;
}

std::vector<World::Opening> World::openings() {
    std::vector<Opening> all;
    const Network* lit = network(lit_);
    if (!lit) return all;
    for (const circuit::Resistor& r : lit->resistors) {
        if (r.part != circuit::Part::kill) continue;
        const auto terminal = [&](Node node) {
            // "k1_in" is K1.in.
            const std::string& name = lit->nodes[node];
            return name.size() > r.ref.size() + 1 ? r.ref + "." + name.substr(r.ref.size() + 1)
                                                  : std::string();
        };
        Opening one{r.ref, terminal(r.a), terminal(r.b)};
        if (!one.in.empty() && !one.out.empty()) all.push_back(std::move(one));
    }
    return all;
}

double tolerance_of(circuit::Part part) {
    using circuit::Part;
    switch (part) {
    case Part::wire:
        return 0.08;
    case Part::pins:
    case Part::kill:
    case Part::bay:
        return 0.25;
    case Part::board:
    case Part::protection:
    case Part::fuse:
        return 0.15;
    case Part::resistor:
        return 0.03;
    default:
        return 0;
    }
}

const World::Shifted& World::shifted(const std::string& state) {
    const auto [it, fresh] = shifted_.try_emplace(state);
    Shifted& all = it->second;
    if (!fresh) return all;
    all.sound = solved(state, {}, {}, false);
    if (!all.sound) return all;
    const auto add = [&](const Draw& draw) {
        if (auto moved = solved(state, {}, draw, false)) all.moved.push_back(std::move(*moved));
    };
    for (const circuit::Resistor& r : network(state)->resistors) {
        const double off = tolerance_of(r.part);
        if (off <= 0 || r.ohms > 1e4) continue;
        Draw draw;
        draw.ohms[r.name] = 1 + off;
        add(draw);
    }
    Draw cell, volts, pixels, board;
    cell.cell_ohms = 1 + cell_ohms_off, volts.cell_volts = cell_volts_off;
    pixels.pixels = 1 + pixels_off, board.board = 1 + board_current_off;
    for (const Draw& draw : {cell, volts, pixels, board})
        add(draw);
    return all;
}

double World::spread(const Measure& measure) {
    if (measure.what == Quantity::ohms) {
        double spread = 0;
        const auto read_there = ohms(measure, {}, {}, false, &spread);
        return read_there && *read_there < open_ohms / 2 ? spread : 0;
    }
    if (measure.what != Quantity::volts && measure.what != Quantity::amps) return 0;
    const Shifted& s = shifted(measure.state);
    const auto sound = s.sound ? value_of(*s.sound, measure) : std::nullopt;
    if (!sound) return 0;
    double sum = 0;
    for (const Solved& moved : s.moved)
        if (const auto v = value_of(moved, measure)) sum += (*v - *sound) * (*v - *sound);
    return std::sqrt(sum);
}

std::optional<double> World::value_of(const Solved& s, const Measure& measure) const {
    if (measure.what == Quantity::amps) {
        double amps = 0;
        for (std::size_t i = 0; i < s.network.sources.size(); ++i)
            amps =
                std::abs(s.point.source_amps[i]) > std::abs(amps) ? s.point.source_amps[i] : amps;
        return amps;
    }
    if (measure.what == Quantity::pixels) {
        for (std::size_t i = 0; i < s.network.strips.size(); ++i) {
            if (s.network.strips[i].ref != measure.from) continue;
            const circuit::Strip& strip = s.network.strips[i];
            int lit = 0;
            for (const lights::Span& span : strip.spans)
                for (int k = span.first; k < span.last; ++k) {
                    double amps = 0;
                    for (std::size_t c = 0; c < 4; ++c)
                        if (span.duty[c] > 0.02)
                            amps += circuit::channel_current(
                                strip.pixel, c, 1,
                                s.point.strips[i].volts[static_cast<std::size_t>(k)]);
                    lit += amps > 0.001;
                }
            return lit;
        }
        return std::nullopt;
    }
    const auto from = node(s.network, measure.from), to = node(s.network, measure.to);
    if (!from || !to) return std::nullopt;
    return s.point.volts[*from] - s.point.volts[*to];
}

Result<void> World::check(const Measure& m) {
    if (m.state == by_itself && m.what == Quantity::volts) return {};
    if (!network(m.state)) {
        std::vector<std::string> states{"killed", "asleep", "idle", cell_out, kill_open};
        for (const job::Look& l : job_.looks)
            states.push_back(l.name);
        for (const job::Effect& e : job_.effects)
            states.push_back(e.name);
        return problem(m.state, say("'{}' is no state of this hilt", shown(m.state, 40)),
                       say("There are: {}", joined(states, "; ")));
    }
    if (m.what == Quantity::pixels) {
        std::vector<std::string> strips;
        for (const circuit::Strip& s : network(m.state)->strips) {
            if (s.ref == m.from) return {};
            strips.push_back(s.ref);
        }
        return problem(m.from, say("'{}' is no strip", shown(m.from, 40)),
                       say("There are: {}", joined(strips, "; ")));
    }
    std::vector<std::string> points{m.from};
    if (m.what != Quantity::amps) points.push_back(m.to);
    for (const std::string& point : points) {
        const auto [ref, terminal] = job::split_terminal(point);
        const job::Part* part = job::find_ref(job_.parts, std::string(ref));
        const auto* type = part ? parts_->find(part->type) : nullptr;
        const bool listed = type && std::find(type->terminals.begin(), type->terminals.end(),
                                              terminal) != type->terminals.end();
        if (listed || node(*network(m.state), point) ||
            job::find_ref(job_.blades, std::string(ref)))
            continue;
        if (!type)
            return problem(point, say("there is no part or blade '{}'", shown(ref, 40)),
                           "Write the point like U1.bat");
        return problem(point, say("{} has no terminal '{}'", ref, shown(terminal, 40)),
                       say("It has: {}", joined(type->terminals, "; ")));
    }
    return {};
}

double World::light(const std::string& state, const std::string& light, const Fault* fault) {
    std::vector<const Fault*> faults;
    if (fault) faults.push_back(fault);
    const auto s = solved(state, faults, {}, false);
    if (!s || s->board_off) return 0;
    double amps = 0;
    for (std::size_t i = 0; i < s->network.diodes.size(); ++i)
        if (light_named(s->network.diodes[i]) == light) amps += s->point.diode_amps[i];
    return amps;
}

bool World::burns(const std::string& state, const std::vector<const Fault*>& faults) {
    if (state == cell_out || state == kill_open) return false;
    if (most_amps_ < 0) {
        most_amps_ = 0;
        for (const std::string& s : {lit_, flash_})
            if (!s.empty())
                if (const auto amps = read({Quantity::amps, s, {}, {}}, {}))
                    most_amps_ = std::max(most_amps_, std::abs(*amps));
    }
    for (const bool turned : {false, true}) {
        const auto s = solved(state, faults, {}, turned);
        if (!s) continue;
        for (const double amps : s->point.source_amps)
            if (std::abs(amps) > 2 * most_amps_ + 3) return true;
        for (const circuit::Sink& sink : s->network.sinks)
            if (sink.ref == board_ && s->point.volts[sink.plus] - s->point.volts[sink.minus] < -1)
                return true;
    }
    return false;
}

} // namespace conductus::diagnose
