// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/diagnose/faults.h"

#include <algorithm>
#include <fmt/format.h>
#include <set>

#include "core/hilt/assembly.h"
#include "core/job/lookup.h"
#include "core/job/wiring.h"
#include "core/lights/chains.h"

namespace conductus::diagnose {
namespace {

using Kind = Alteration::Kind;
using circuit::Part;

/// Of a recipe of access, each step and each key that has to be fetched.
constexpr double minutes_a_step = 0.35, minutes_a_key = 0.15;
constexpr double broken = 1e6, cold_joint = 0.25, worn = 0.3, touching = 0.05;

/// What comes in front of the point of a terminal.
std::string ref_of(const std::string& terminal) {
    return std::string(job::split_terminal(terminal).first);
}

class Lister {
public:
    explicit Lister(World& world)
        : world_(world), job_(world.job()), parts_(world.parts()), wiring_(job_, parts_),
          chains_(lights::chains_of(job_, parts_, wiring_)) {}

    std::vector<Fault> run() {
        const circuit::Network* lit = world_.network(world_.lit());
        // What is wired to nothing can have no fault that anybody could find.
        if (!lit || !world_.is_fed()) return {};
        std::set<std::string> wires;
        for (const circuit::Resistor& r : lit->resistors)
            resistor(r, wires);
        for (const circuit::Source& s : lit->sources)
            cell(s);
        for (const job::Wire& w : job_.wires)
            if (w.role != job::Role::supply && w.role != job::Role::return_path) signal(w);
        for (const circuit::Strip& s : lit->strips)
            strip(s);
        swapped();
        wrong_parts(*lit);
        loose_board(*lit);
        neighbours(*lit);
        settings();
        inspected();
        return std::move(all_);
    }

private:
    Fault& add(std::string id, std::string where, Message says, double prior,
               std::vector<Alteration> does) {
        all_.push_back({std::move(id),
                        std::move(where),
                        std::move(says),
                        prior,
                        std::move(does),
                        false,
                        {},
                        {}});
        return all_.back();
    }

    void resistor(const circuit::Resistor& r, std::set<std::string>& wires) {
        const auto set = [&](double ohms) {
            return std::vector<Alteration>{{Kind::ohms, r.name, {}, ohms}};
        };
        const auto more = [&](double ohms) {
            return std::vector<Alteration>{{Kind::more_ohms, r.name, {}, ohms}};
        };
        const std::string pin = r.pin.empty() ? r.ref : r.ref + "." + r.pin;
        switch (r.part) {
        case Part::wire:
            if (!wires.insert(r.ref).second) break;
            add("open " + r.ref, r.ref, say("{} is open", r.ref), 1, set(broken));
            add("joint " + r.ref, r.ref, say("{} has a cold joint", r.ref), 2, more(cold_joint));
            break;
        case Part::kill:
            add("open " + r.ref, r.ref, say("{} does not close", r.ref), 1.5, set(broken));
            add("worn " + r.ref, r.ref, say("{} has worn contacts", r.ref), 3, more(worn));
            add("stuck " + r.ref, r.ref, say("{} does not open", r.ref), 1, set(r.ohms));
            break;
        case Part::pins:
            add("open " + pin, r.ref, say("{} does not touch", pin), 1.5, set(broken));
            add("worn " + pin, r.ref, say("{} has a worn spring or is oxidised", pin), 4,
                more(worn));
            add("turned " + pin, r.ref, say("{} loses touch when it is turned", pin), 3,
                set(broken))
                .turned = true;
            break;
        case Part::bay:
        case Part::protection:
        case Part::fuse:
            add("open " + r.name, r.ref,
                say("{} is open at its {}", r.ref,
                    r.part == Part::bay    ? Message("springs")
                    : r.part == Part::fuse ? Message("fuse")
                                           : Message("protection")),
                1, set(broken));
            add("worn " + r.name, r.ref,
                say("{} has too much resistance at its {}", r.ref,
                    r.part == Part::bay    ? Message("springs")
                    : r.part == Part::fuse ? Message("fuse")
                                           : Message("protection")),
                r.part == Part::bay ? 3 : 1, more(worn));
            if (r.part == Part::bay)
                add("turned " + r.name, r.ref, say("{} loses touch when it is turned", r.ref), 2,
                    set(broken))
                    .turned = true;
            break;
        case Part::board:
            if (r.pin.empty()) break;
            add("dead " + pin, r.ref, say("the transistor of {} is dead", pin), 0.6, set(broken));
            add("shorted " + pin, r.ref, say("the transistor of {} is shorted", pin), 0.6,
                set(0.02));
            break;
        default:
            break;
        }
    }

    void cell(const circuit::Source& s) {
        add("weak " + s.ref, s.ref, say("{} is old: much resistance", s.ref), 3,
            {{Kind::source_ohms, s.name, {}, 6}});
        add("flat " + s.ref, s.ref, say("{} is nearly empty", s.ref), 4,
            {{Kind::emf, s.name, {}, 0.8}});
        add("reversed " + s.ref, s.ref, say("{} is the wrong way round", s.ref), 1,
            {{Kind::emf, s.name, {}, -1}});
    }

    /// Those pixels dark, in the powered network.
    std::vector<Alteration> dark(const std::set<std::string>& groups) {
        std::vector<Alteration> does;
        for (const circuit::Strip& s : world_.network(world_.lit())->strips)
            if (groups.contains(s.ref)) does.push_back({Kind::dark_from, s.name, {}, 0});
        return does;
    }
    /// Pixels whose data runs over that wire: those that hear nothing without it.
    std::vector<Alteration> dark_behind(const job::Wire& w) {
        job::Job without = job_;
        std::erase_if(without.wires, [&](const job::Wire& one) { return one.ref == w.ref; });
        const lights::Chains now = lights::chains_of(without, parts_);
        std::set<std::string> deaf;
        for (const lights::Group& g : chains_.groups) {
            const lights::Group* still = now.group(g.ref);
            if (!g.line.empty() && (!still || still->line.empty())) deaf.insert(g.ref);
        }
        return dark(deaf);
    }
    /// Pixels that hear what those pass on, and so on.
    std::vector<Alteration> dark_after(const std::string& group) {
        std::set<std::string> deaf;
        std::vector<std::string> before{group};
        while (!before.empty()) {
            const std::string ref = before.back();
            before.pop_back();
            for (const lights::Group& g : chains_.groups)
                if (g.before == ref && deaf.insert(g.ref).second) before.push_back(g.ref);
        }
        return dark(deaf);
    }

    void signal(const job::Wire& w) {
        Fault& open = add("open " + w.ref, w.ref, say("{} is open", w.ref), 1.5,
                          {{Kind::ohms, node_name(w.ref), {}, broken}});
        open.signal = w.ref;
        switch (w.role) {
        case job::Role::data:
            for (Alteration& a : dark_behind(w))
                open.does.push_back(std::move(a));
            open.prior = 2;
            break;
        case job::Role::button:
            open.seen = {{Symptom::button_dead, {}}};
            break;
        case job::Role::sound:
            open.seen = {{Symptom::silent, {}}};
            break;
        default:
            break;
        }
        // On the pad beside it: of data and buttons.
        if (w.role != job::Role::data && w.role != job::Role::button) return;
        const std::string pad = ref_of(w.from).empty() ? "" : w.from;
        const job::Part* board = job::find_ref(job_.parts, ref_of(pad));
        if (!board || !parts_.find_as<catalogue::Board>(board->type)) return;
        const auto& there = parts_.find(board->type)->terminals;
        const std::string own(job::split_terminal(pad).second);
        for (const std::string& other : there)
            if (other.size() == own.size() && other != own && other[0] == own[0]) {
                Fault& f = add(fmt::format("pad {} {}", w.ref, other), w.ref,
                               say("{} is soldered to {} in place of {}", w.ref, other, own), 0.7,
                               open.does);
                f.does.push_back({Kind::bridge, board->ref + "." + other, w.to, 0.03});
                f.signal = w.ref;
                f.seen = w.role == job::Role::button
                             ? std::vector<Sight>{{Symptom::buttons_swapped, {}}}
                             : std::vector<Sight>{};
                break;
            }
    }

    void strip(const circuit::Strip& s) {
        Fault& dead = add("pixel " + s.ref, s.ref,
                          say("a pixel of {} is dead: what is behind it is dark", s.ref), 1.5,
                          {{Kind::dark_from, s.name, {}, std::floor(s.pixels / 3.0)}});
        dead.seen = {{Symptom::dead_after_pixel, s.ref}};
        for (Alteration& a : dark_after(s.ref))
            dead.does.push_back(std::move(a));
        Fault& deaf = add("data " + s.ref, s.ref, say("the first pixel of {} takes no data", s.ref),
                          0.8, {{Kind::dark_from, s.name, {}, 0}});
        for (Alteration& a : dark_after(s.ref))
            deaf.does.push_back(std::move(a));
    }

    /// Two wires of data, or of buttons, that are on each other's pad.
    void swapped() {
        for (std::size_t i = 0; i < job_.wires.size(); ++i)
            for (std::size_t k = i + 1; k < job_.wires.size(); ++k) {
                const job::Wire &a = job_.wires[i], &b = job_.wires[k];
                if (a.role != b.role || ref_of(a.from) != ref_of(b.from) || a.from == b.from ||
                    a.to == b.to || (a.role != job::Role::data && a.role != job::Role::button))
                    continue;
                const job::Part* board = job::find_ref(job_.parts, ref_of(a.from));
                if (!board || !parts_.find_as<catalogue::Board>(board->type) ||
                    a.from.ends_with(".gnd") || b.from.ends_with(".gnd"))
                    continue;
                Fault& f = add(fmt::format("swap {} {}", a.ref, b.ref), a.ref,
                               say("{} and {} are on each other's pad", a.ref, b.ref), 0.6,
                               {{Kind::ohms, node_name(a.ref), {}, broken},
                                {Kind::ohms, node_name(b.ref), {}, broken},
                                {Kind::bridge, a.from, b.to, 0.03},
                                {Kind::bridge, b.from, a.to, 0.03}});
                f.signal = a.ref;
                if (a.role == job::Role::button)
                    f.seen = {{Symptom::buttons_swapped, {}}};
                else
                    for (const job::Wire* w : {&a, &b})
                        for (Alteration& dark : dark_behind(*w))
                            f.does.push_back(std::move(dark));
            }
    }

    /// A resistor or a speaker of another value, a button that latches.
    void wrong_parts(const circuit::Network& lit) {
        for (const circuit::Resistor& r : lit.resistors)
            if (r.part == Part::resistor)
                add("wrong " + r.ref, r.ref, say("{} has another value than is planned", r.ref),
                    0.5, {{Kind::ohms, r.name, {}, r.ohms * 4.7}});
        for (const job::Part& part : job_.parts) {
            if (const auto* speaker = parts_.find_as<catalogue::Speaker>(part.type)) {
                add("wrong " + part.ref, part.ref,
                    say("{} has another impedance than is planned", part.ref), 0.4,
                    {{Kind::more_ohms,
                      node_name(part.ref) + "_coil",
                      {},
                      speaker->impedance.value() * 0.9}});
            }
            if (const auto* resistor = parts_.find_as<catalogue::Resistor>(part.type))
                in_data_line(part, job::resistance_of(part, *resistor).value(), lit);
            if (parts_.find_as<catalogue::Button>(part.type))
                add("latching " + part.ref, part.ref,
                    say("{} latches where the board wants a press", part.ref), 0.5, {})
                    .seen = {{Symptom::button_dead, {}}};
        }
    }

    /// A resistor that no supply runs through: open, and nothing behind it takes data.
    void in_data_line(const job::Part& part, double ohms, const circuit::Network& lit) {
        if (std::any_of(lit.resistors.begin(), lit.resistors.end(),
                        [&](const circuit::Resistor& r) { return r.ref == part.ref; }))
            return;
        const std::string name = node_name(part.ref);
        add("wrong " + part.ref, part.ref, say("{} has another value than is planned", part.ref),
            0.5, {{Kind::ohms, name, {}, ohms * 4.7}});
        Fault& open = add("open " + part.ref, part.ref, say("{} is open", part.ref), 1,
                          {{Kind::ohms, name, {}, broken}});
        for (const job::Wire& w : job_.wires)
            if (w.role == job::Role::data && ref_of(w.to) == part.ref)
                for (Alteration& a : dark_behind(w))
                    open.does.push_back(std::move(a));
    }

    /// A board that moves: its supply joint parts while the hilt is moved.
    void loose_board(const circuit::Network& lit) {
        const auto board = job::first_of<catalogue::Board>(job_, parts_);
        if (!board) return;
        for (const job::Wire& w : job_.wires) {
            if (w.role != job::Role::supply ||
                (w.from != board.part->ref + ".bat" && w.to != board.part->ref + ".bat"))
                continue;
            for (const circuit::Resistor& r : lit.resistors)
                if (r.ref == w.ref) {
                    add("loose " + board.part->ref, board.part->ref,
                        say("{} is loose: its joint with {} parts when it is moved",
                            board.part->ref, w.ref),
                        1, {{Kind::ohms, r.name, {}, broken}})
                        .turned = true;
                    return;
                }
        }
    }

    /// What lies side by side on a part and touches.
    void neighbours(const circuit::Network& lit) {
        for (const job::Part& part : job_.parts) {
            const catalogue::PartType* type = parts_.find(part.type);
            if (!type || std::holds_alternative<catalogue::Cell>(type->figures)) continue;
            for (std::size_t i = 0; i + 1 < type->terminals.size(); ++i) {
                const std::string a = part.ref + "." + type->terminals[i],
                                  b = part.ref + "." + type->terminals[i + 1];
                if (!wiring_.is_wired(a) || !wiring_.is_wired(b)) continue;
                // What is joined already, or by a switch that may be stuck, is no other fault.
                const auto sound = world_.read({Quantity::ohms, cell_out, a, b}, {});
                if (sound && *sound < 0.5) continue;
                const auto x = world_.node(lit, a), y = world_.node(lit, b);
                if (x && y && *x == *y) continue;
                Fault& f = add(fmt::format("touch {} {}", a, b), part.ref,
                               say("{} and {} touch", a, b), 0.4, {{Kind::bridge, a, b, touching}});
                if (a.find(".s") != std::string::npos && b.find(".s") != std::string::npos)
                    f.seen = {{Symptom::buttons_swapped, {}}};
                if (std::holds_alternative<catalogue::Button>(type->figures))
                    f.seen = {{Symptom::button_dead, {}}}; // it is held down for ever
                // Data that touches anything says nothing; past a resistor it goes on as before.
                const bool past = std::holds_alternative<catalogue::Resistor>(type->figures);
                for (const job::Wire& w : job_.wires)
                    if (!past && w.role == job::Role::data &&
                        (w.from == a || w.to == a || w.from == b || w.to == b))
                        for (Alteration& dark : dark_behind(w))
                            f.does.push_back(std::move(dark));
                if (a.find(".spk") != std::string::npos && b.find(".spk") != std::string::npos)
                    f.seen = {{Symptom::silent, {}}};
            }
        }
    }

    void settings() {
        const auto seen = [](Fault& f, Symptom symptom) { f.seen = {{symptom, {}}}; };
        if (const circuit::Network* lit = world_.network(world_.lit());
            lit && !lit->strips.empty()) {
            Fault& count = add("setting count", "pixels", "too few pixels are set", 2, {});
            // Every strip ends too soon.
            for (const circuit::Strip& s : lit->strips) {
                count.seen.push_back({Symptom::dead_after_pixel, s.ref});
                count.does.push_back({Kind::dark_from, s.name, {}, std::floor(s.pixels * 0.7)});
            }
            seen(add("setting order", "colours", "the order of colours is set for other pixels",
                     1.5, {}),
                 Symptom::wrong_colours);
        }
        int buttons = 0;
        for (const job::Part& part : job_.parts)
            buttons += parts_.find_as<catalogue::Button>(part.type) != nullptr;
        if (buttons > 1)
            seen(add("setting buttons", "buttons", "one button is set where two are fitted", 2, {}),
                 Symptom::button_dead);
        if (job::first_of<catalogue::Speaker>(job_, parts_))
            seen(add("missing font", "card", "the font of the preset is not on the card", 1.5, {}),
                 Symptom::silent);
    }

    /// What came in poor condition is suspected sooner.
    void inspected() {
        for (const job::Inspected& i : job_.inspection)
            if (!i.part.empty() && i.condition != job::Condition::fine &&
                i.condition != job::Condition::unknown)
                for (Fault& f : all_)
                    if (f.where == i.part) f.prior *= 3;
        // And what was mended before came loose once.
        for (const job::BenchMend& m : job_.bench.mends)
            for (Fault& f : all_)
                if (is_among(f.id, m.fault))
                    f.prior *= 3;
                else if (f.where == m.where)
                    f.prior *= 1.5;
    }

    World& world_;
    const job::Job& job_;
    const catalogue::Catalogue& parts_;
    job::Wiring wiring_;
    lights::Chains chains_;
    std::vector<Fault> all_;
};

} // namespace

bool is_among(std::string_view id, std::string_view ids) {
    for (std::size_t at = 0; at <= ids.size();) {
        const std::size_t end = std::min(ids.find(and_fault, at), ids.size());
        if (ids.substr(at, end - at) == id) return true;
        at = end + and_fault.size();
    }
    return false;
}

std::vector<Fault> faults_of(World& world) { return Lister(world).run(); }

double minutes_into(const std::string& state) {
    if (state == cell_out || state == kill_open) return 1.5;
    return state == "killed" ? 0.3 : 0.5;
}

std::vector<Candidate> candidates_of(World& world) {
    const job::Job& job = world.job();
    const catalogue::Catalogue& parts = world.parts();
    // Minutes to bare a point, as the recipes of access have it: a board is as far as its card, the
    // face of a connector lies open once the blade is drawn.
    const hilt::Assembly apart = hilt::assembly(job, parts, hilt::fit(job, parts));
    const auto steps_to = [&](const char* what, double unknown) {
        const hilt::Access* way = apart.to(what);
        if (!way || !way->possible) return unknown;
        return 0.3 + minutes_a_step * static_cast<double>(way->steps.size()) +
               minutes_a_key * static_cast<double>(way->keys.size());
    };
    const double inside = steps_to("card", job.hilt.chassis == job::Chassis::fixed       ? 3
                                           : job.hilt.chassis == job::Chassis::removable ? 2
                                                                                         : 1.5),
                 at_cell = steps_to("cell", 0.4), at_blade = steps_to("blade", 0.7);
    const auto reach = [&](const std::string& terminal) {
        const std::string ref = ref_of(terminal);
        const job::Part* part = job::find_ref(job.parts, ref);
        const auto* type = part ? parts.find(part->type) : nullptr;
        if (!type) return at_blade; // a blade's foot
        if (std::holds_alternative<catalogue::Cell>(type->figures)) return at_cell;
        if (std::holds_alternative<catalogue::Connector>(type->figures)) return at_blade;
        return inside;
    };
    std::vector<Candidate> all;
    const auto add = [&](Quantity what, const std::string& state, const std::string& from,
                         const std::string& to, bool turned = false) {
        Measure m{what, state, from, to};
        if (state.empty() || std::any_of(all.begin(), all.end(), [&](const Candidate& c) {
                return c.measure == m && c.turned == turned;
            }))
            return;
        // Volts are of points that the network has: a bare pad is none.
        if (what != Quantity::ohms && !world.read(m, {})) return;
        const double minutes = what == Quantity::pixels ? 0.3
                               : what == Quantity::amps ? 1.5
                                                        : 0.5 + std::max(reach(from), reach(to));
        all.push_back({std::move(m), minutes + (turned ? 0.5 : 0), turned});
    };
    const auto cell = job::first_of<catalogue::Cell>(job, parts);
    const auto board = job::first_of<catalogue::Board>(job, parts);
    if (!cell) return all;
    const std::string plus = cell.part->ref + ".plus", minus = cell.part->ref + ".minus";
    for (const std::string& state : {std::string("idle"), world.lit(), world.flash()})
        add(Quantity::volts, state, plus, minus);
    for (const char* state : {"killed", "asleep", "idle"})
        add(Quantity::amps, state, plus, {});
    add(Quantity::amps, world.lit(), plus, {});
    if (board)
        for (const std::string& state :
             {std::string("killed"), std::string("idle"), world.lit(), world.flash()})
            add(Quantity::volts, state, board.part->ref + ".bat", board.part->ref + ".gnd");
    for (const World::Opening& one : world.openings()) {
        add(Quantity::volts, world.lit(), one.in, one.out);
        add(Quantity::ohms, kill_open, one.in, one.out);
        add(Quantity::ohms, cell_out, one.in, one.out);
    }
    for (const job::Part& part : job.parts) {
        if (parts.find_as<catalogue::Connector>(part.type))
            for (const std::string& state : {std::string("asleep"), world.lit()})
                add(Quantity::volts, state, part.ref + ".plus", part.ref + ".minus");
    }
    for (const job::Blade& blade : job.blades) {
        add(Quantity::volts, world.lit(), blade.ref + ".plus", blade.ref + ".minus");
        if (blade.connector.empty()) continue;
        for (const char* pole : {".plus", ".minus"}) {
            add(Quantity::volts, world.lit(), blade.connector + pole, blade.ref + pole);
            add(Quantity::volts, world.lit(), blade.connector + pole, blade.ref + pole, true);
            add(Quantity::ohms, cell_out, blade.connector + pole, blade.ref + pole);
        }
    }
    // From a cell's own end over its springs to the tab.
    for (const job::Part& part : job.parts)
        if (parts.find_as<catalogue::Cell>(part.type))
            for (const bool turned : {false, true}) {
                add(Quantity::volts, world.lit(), part.ref + ".bay", part.ref + ".plus", turned);
                if (!turned)
                    for (const std::string& state : {std::string("asleep"), world.lit()})
                        add(Quantity::volts, state, part.ref + ".bay", part.ref + ".minus");
            }
    if (const circuit::Network* lit = world.network(world.lit()))
        for (const circuit::Strip& strip : lit->strips)
            add(Quantity::pixels, world.lit(), strip.ref, {});
    for (const job::Wire& w : job.wires) {
        const bool power = w.role == job::Role::supply || w.role == job::Role::return_path;
        if (power) add(Quantity::volts, world.lit(), w.from, w.to);
        // A joint at the board that parts when it is moved.
        if (w.role == job::Role::supply && board &&
            (w.to == board.part->ref + ".bat" || w.from == board.part->ref + ".bat"))
            add(Quantity::volts, world.lit(), w.from, w.to, true);
        add(Quantity::ohms, cell_out, w.from, w.to);
        // And to the pad beside the one it should be on.
        const job::Part* on = job::find_ref(job.parts, ref_of(w.from));
        if (power || !on || !parts.find_as<catalogue::Board>(on->type)) continue;
        const std::string own(job::split_terminal(w.from).second);
        for (const std::string& other : parts.find(on->type)->terminals)
            if (other.size() == own.size() && other != own && other[0] == own[0])
                add(Quantity::ohms, cell_out, on->ref + "." + other, w.to);
    }
    // Neighbours that should not touch.
    for (const job::Part& part : job.parts) {
        const auto* type = parts.find(part.type);
        if (!type || std::holds_alternative<catalogue::Cell>(type->figures)) continue;
        const job::Wiring wiring(job, parts);
        for (std::size_t i = 0; i + 1 < type->terminals.size(); ++i) {
            const std::string a = part.ref + "." + type->terminals[i],
                              b = part.ref + "." + type->terminals[i + 1];
            if (wiring.is_wired(a) && wiring.is_wired(b)) add(Quantity::ohms, cell_out, a, b);
        }
    }
    return all;
}

} // namespace conductus::diagnose
