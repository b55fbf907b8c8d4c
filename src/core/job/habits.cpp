// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/habits.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <set>

#include "core/base/format.h"
#include "core/catalogue/kinds.h"
#include "core/job/lookup.h"
#include "core/job/place_values.h"
#include "core/job/places.h"
#include "core/job/wiring.h"
#include "core/job/words.h"

namespace conductus::job {
namespace {

template <class T>
std::string type_of(const Job& job, const catalogue::Catalogue& parts) {
    const auto fitted = first_of<T>(job, parts);
    return fitted ? fitted.part->type : std::string();
}

std::string first_strip(const Job& job) {
    for (const Blade& blade : job.blades)
        for (const Strip& strip : blade.strips)
            return strip.type;
    return {};
}

/// The pad that the first accent hears or is switched by; empty: there is none.
std::string accent_pad_of(const Job& job, const catalogue::Catalogue& parts) {
    const auto board = first_of<catalogue::Board>(job, parts);
    if (!board) return {};
    const auto of_board = [&](std::string_view at) {
        return split_terminal(at).first == board.part->ref;
    };
    for (const Part& part : job.parts) {
        const auto& figures = parts.find(part.type)->figures;
        const bool pixels =
            catalogue::pixels_in(figures) && !std::holds_alternative<catalogue::Connector>(figures);
        const bool led = std::holds_alternative<catalogue::Led>(figures) &&
                         std::none_of(job.blades.begin(), job.blades.end(),
                                      [&](auto& b) { return b.connector == part.ref; });
        if (!pixels && !led) continue;
        for (const Wire& w : job.wires)
            for (const auto& [here, there] : {std::pair{w.from, w.to}, {w.to, w.from}}) {
                const auto [ref, terminal] = split_terminal(here);
                const bool data = pixels && terminal == "data";
                const bool switched = led && terminal.starts_with("minus");
                if (ref == part.ref && (data || switched) && of_board(there))
                    return std::string(split_terminal(there).second);
            }
    }
    return {};
}

/// The terminal of the board that is reached from there along wires of that role, through what
/// limits; empty: none.
std::string pad_reached(const Job& job, const catalogue::Catalogue& parts, const Part& board,
                        const std::string& from, Role role) {
    const Wiring wiring(job, parts);
    const std::string at = wiring.nearest(
        from, {role}, Wiring::Through::conductors,
        [&](std::string_view t) {
            const auto [ref, terminal] = split_terminal(t);
            return ref == board.ref && terminal != "gnd" && terminal != "bat";
        },
        [](std::string_view) { return false; });
    return std::string(split_terminal(at).second);
}

std::string blade_pad_of(const Job& job, const catalogue::Catalogue& parts) {
    const auto board = first_of<catalogue::Board>(job, parts);
    if (!board || job.blades.empty()) return {};
    const Blade& blade = job.blades.front();
    const std::string& end = blade.connector.empty() ? blade.ref : blade.connector;
    return pad_reached(job, parts, *board.part, end + ".data", Role::data);
}

std::string main_pad_of(const Job& job, const catalogue::Catalogue& parts) {
    const auto board = first_of<catalogue::Board>(job, parts);
    const auto button = first_of<catalogue::Button>(job, parts);
    if (!board || !button) return {};
    for (const ButtonUse& use : job.config.pads)
        if (use.use == "main" && split_terminal(use.pad).first == board.part->ref)
            return std::string(split_terminal(use.pad).second);
    for (const char* side : {".a", ".b"})
        if (auto pad = pad_reached(job, parts, *board.part, button.part->ref + side, Role::button);
            !pad.empty())
            return pad;
    return {};
}

/// Exchanges two terminals of a part, in wires and in what the board is told.
void exchange(Job& job, const std::string& one, const std::string& other) {
    const auto change = [&](std::string& at) {
        if (at == one)
            at = other;
        else if (at == other)
            at = one;
    };
    for (Wire& w : job.wires)
        change(w.from), change(w.to);
    for (Line& l : job.lines)
        change(l.pad);
    for (ButtonUse& b : job.config.pads)
        change(b.pad);
}

/// The end that the first button, or the one on the first button pad, is toward.
End main_button_of(const Job& job, const catalogue::Catalogue& parts) {
    std::vector<const Part*> buttons;
    for (const Part& part : job.parts)
        if (parts.find_as<catalogue::Button>(part.type)) buttons.push_back(&part);
    if (buttons.size() < 2) return End::neither;
    const Part* main = nullptr;
    for (const ButtonUse& use : job.config.pads)
        for (const Wire& w : job.wires)
            for (const Part* b : buttons) {
                const bool here = (w.from == use.pad && split_terminal(w.to).first == b->ref) ||
                                  (w.to == use.pad && split_terminal(w.from).first == b->ref);
                if (!main && use.use == "main" && here) main = b;
            }
    if (!main) return End::neither;
    const bool last = std::all_of(buttons.begin(), buttons.end(),
                                  [&](const Part* b) { return b->at <= main->at; });
    return last ? End::emitter : End::pommel;
}

/// A free pad of the board and of the same kind, "d2" for "d1".
bool may_move_to(const Job& job, const catalogue::Catalogue& parts, const std::string& is,
                 const std::string& usual) {
    const auto board = first_of<catalogue::Board>(job, parts);
    if (!board || is.empty() || usual.empty() || is[0] != usual[0]) return false;
    const auto& there = board.type->terminals;
    const std::string pad = board.part->ref + "." + usual;
    return std::find(there.begin(), there.end(), usual) != there.end() &&
           std::none_of(job.wires.begin(), job.wires.end(),
                        [&](const Wire& w) { return w.from == pad || w.to == pad; });
}

/// Lets the first accent hear the usual pad where that is free.
void lead_accent(Job& job, const catalogue::Catalogue& parts, const Habits& habits) {
    const std::string is = accent_pad_of(job, parts);
    if (!may_move_to(job, parts, is, habits.accent_pad)) return;
    const std::string ref = first_of<catalogue::Board>(job, parts).part->ref;
    exchange(job, ref + "." + is, ref + "." + habits.accent_pad);
}

/// Lets the button at the usual end be the main one: it changes pads with the one that is.
void lead_main_button(Job& job, const catalogue::Catalogue& parts, const Habits& habits) {
    if (habits.main_button == End::neither) return;
    const auto board = first_of<catalogue::Board>(job, parts);
    const std::string main = main_pad_of(job, parts);
    if (!board || main.empty()) return;
    const Part *is = nullptr, *at_end = nullptr;
    for (const Part& part : job.parts) {
        if (!parts.find_as<catalogue::Button>(part.type)) continue;
        std::string pad;
        for (const char* side : {".a", ".b"})
            if (pad.empty())
                pad = pad_reached(job, parts, *board.part, part.ref + side, Role::button);
        if (pad.empty()) continue;
        if (pad == main) is = &part;
        const bool further = habits.main_button == End::emitter ? !at_end || part.at > at_end->at
                                                                : !at_end || part.at < at_end->at;
        if (further) at_end = &part;
    }
    if (!is || is == at_end) return;
    for (const char* side : {".a", ".b"})
        exchange(job, is->ref + side, at_end->ref + side);
}

/// How many buttons the board hears.
std::size_t buttons_heard(const Job& job, const catalogue::Catalogue& parts) {
    const auto board = first_of<catalogue::Board>(job, parts);
    if (!board) return 0;
    return static_cast<std::size_t>(
        std::count_if(job.parts.begin(), job.parts.end(), [&](const Part& part) {
            if (!parts.find_as<catalogue::Button>(part.type)) return false;
            return !pad_reached(job, parts, *board.part, part.ref + ".a", Role::button).empty() ||
                   !pad_reached(job, parts, *board.part, part.ref + ".b", Role::button).empty();
        }));
}

const WireHabit* habit_for(const Habits& habits, Role role) {
    const auto it = std::find_if(habits.wires.begin(), habits.wires.end(),
                                 [&](const WireHabit& w) { return w.role == role; });
    return it == habits.wires.end() ? nullptr : &*it;
}

void make_as_usual(Wire& wire, const Habits& habits) {
    const WireHabit* usual = habit_for(habits, wire.role);
    if (!usual) return;
    wire.gauge = std::min(wire.gauge, usual->gauge); // a smaller number is thicker
    if (wire.colour.empty()) wire.colour = usual->colour;
}

/// "wires/supply/gauge_awg": the role and the field.
std::optional<std::pair<Role, std::string>> wire_key(std::string_view key) {
    constexpr std::string_view start = "wires/";
    if (!key.starts_with(start)) return std::nullopt;
    const auto rest = key.substr(start.size());
    const auto slash = rest.find('/');
    const auto role = from_word<Role>(rest.substr(0, slash));
    if (!role || slash == std::string_view::npos) return std::nullopt;
    return std::pair{*role, std::string(rest.substr(slash + 1))};
}

std::string unit_of_habit(std::string_view key) { return key == "volume" ? "%" : ""; }

} // namespace

Habits habits_of(const Job& job, const catalogue::Catalogue& parts) {
    Habits h;
    h.blade_pad = blade_pad_of(job, parts);
    h.accent_pad = accent_pad_of(job, parts);
    h.main_pad = main_pad_of(job, parts);
    h.main_button = main_button_of(job, parts);
    h.board = type_of<catalogue::Board>(job, parts);
    h.cell = type_of<catalogue::Cell>(job, parts);
    h.speaker = type_of<catalogue::Speaker>(job, parts);
    h.kill = type_of<catalogue::Kill>(job, parts);
    h.connector = type_of<catalogue::Connector>(job, parts);
    h.strip = first_strip(job);
    h.clearance = job.hilt.clearance;
    h.chassis_wall = job.hilt.chassis_wall;
    h.volume = job.use.volume;
    h.ignited = job.use.ignited;
    h.idle = job.use.idle;
    for (const auto& [role, word] : Words<Role>::table) {
        std::map<std::pair<int, std::string>, int> counted;
        for (const Wire& w : job.wires)
            if (w.role == role) ++counted[{w.gauge, w.colour}];
        const auto most =
            std::max_element(counted.begin(), counted.end(),
                             [](const auto& a, const auto& b) { return a.second < b.second; });
        if (most != counted.end()) h.wires.push_back({role, most->first.first, most->first.second});
    }
    return h;
}

void begin_with(Job& job, const Habits& habits) {
    if (habits.clearance > Millimetre(0)) job.hilt.clearance = habits.clearance;
    if (habits.chassis_wall > Millimetre(0)) job.hilt.chassis_wall = habits.chassis_wall;
    if (habits.volume > 0) job.use.volume = habits.volume;
    if (habits.ignited > Minute(0)) job.use.ignited = habits.ignited;
    if (habits.idle > Minute(0)) job.use.idle = habits.idle;
}

Edit wire_as_usual(const Habits& habits) {
    return [habits](Job& job) {
        for (Wire& w : job.wires)
            make_as_usual(w, habits);
    };
}

Edit pads_as_usual(const Habits& habits, const catalogue::Catalogue& parts) {
    return [habits, &parts](Job& job) {
        const auto board = first_of<catalogue::Board>(job, parts);
        if (!board) return;
        const std::string ref = board.part->ref;
        const auto& there = board.type->terminals;
        const auto lead = [&](const std::string& is, const std::string& usual) {
            const bool has = std::find(there.begin(), there.end(), usual) != there.end();
            if (!is.empty() && has && is != usual) exchange(job, ref + "." + is, ref + "." + usual);
        };
        lead(blade_pad_of(job, parts), habits.blade_pad);
        lead(main_pad_of(job, parts), habits.main_pad);
        lead_accent(job, parts, habits);
        lead_main_button(job, parts, habits);
    };
}

Edit fitted_as_usual(Edit fit, const Habits& habits, const catalogue::Catalogue& parts) {
    return [fit = std::move(fit), habits, &parts](Job& job) -> Result<void> {
        const bool accents = !accent_pad_of(job, parts).empty();
        const std::size_t buttons = buttons_heard(job, parts);
        std::set<std::string> wires;
        for (const Wire& w : job.wires)
            wires.insert(w.ref);
        if (auto ok = fit(job); !ok) return ok;
        for (Wire& w : job.wires)
            if (!wires.contains(w.ref)) make_as_usual(w, habits);
        if (!accents) lead_accent(job, parts, habits);
        if (buttons < 2 && buttons_heard(job, parts) >= 2) lead_main_button(job, parts, habits);
        return {};
    };
}

std::vector<Message> differs_from(const Job& job, const catalogue::Catalogue& parts,
                                  const Habits& habits) {
    std::vector<Message> all;
    const Habits now = habits_of(job, parts);
    const auto part = [&](const char* what, const std::string& usual, const std::string& is) {
        if (usual.empty() || is.empty() || usual == is) return;
        const auto name = [&](const std::string& id) {
            const auto* type = parts.find(id);
            return type ? type->name : id;
        };
        all.push_back(say("{}: {}, usually {}", Message(what), name(is), name(usual)));
    };
    part("board", habits.board, now.board);
    part("cell", habits.cell, now.cell);
    part("speaker", habits.speaker, now.speaker);
    part("kill", habits.kill, now.kill);
    part("connector", habits.connector, now.connector);
    part("strip", habits.strip, now.strip);
    if (!habits.accent_pad.empty() && !now.accent_pad.empty() &&
        habits.accent_pad != now.accent_pad)
        all.push_back(say("accents on {}, usually on {}", now.accent_pad, habits.accent_pad));
    const auto pad = [&](const char* what, const std::string& usual, const std::string& is) {
        if (!usual.empty() && !is.empty() && usual != is)
            all.push_back(say("{} on {}, usually on {}", Message(what), is, usual));
    };
    pad("the blade", habits.blade_pad, now.blade_pad);
    pad("the main button", habits.main_pad, now.main_pad);
    if (habits.main_button != End::neither && now.main_button != End::neither &&
        habits.main_button != now.main_button)
        all.push_back(say("the main button is toward the {}, usually toward the {}",
                          word(now.main_button), word(habits.main_button)));
    const auto length = [&](const char* what, Millimetre usual, Millimetre is) {
        if (usual > Millimetre(0) && is > Millimetre(0) && usual != is)
            all.push_back(say("{}: {}, usually {}", Message(what), text(is), text(usual)));
    };
    length("clearance", habits.clearance, now.clearance);
    length("chassis wall", habits.chassis_wall, now.chassis_wall);
    for (const WireHabit& usual : habits.wires) {
        std::vector<std::string> thinner, other;
        for (const Wire& w : job.wires) {
            if (w.role != usual.role) continue;
            if (w.gauge > usual.gauge) thinner.push_back(w.ref);
            if (!usual.colour.empty() && !w.colour.empty() && w.colour != usual.colour)
                other.push_back(w.ref);
        }
        if (!thinner.empty())
            all.push_back(say("{}: thinner than {} AWG, which is usual for {}",
                              conductus::joined(thinner, ", "), usual.gauge, word(usual.role)));
        if (!other.empty())
            all.push_back(say("{}: not {}, which is usual for {}", conductus::joined(other, ", "),
                              usual.colour, word(usual.role)));
    }
    return all;
}

std::string habit_typed(const Habits& habits, std::string_view key) {
    const std::string unit = unit_of_habit(key);
    Shows shows{unit, {}};
    if (const auto wire = wire_key(key)) {
        const WireHabit* usual = habit_for(habits, wire->first);
        if (!usual) return {};
        Walk<Shows> walk("/" + wire->second, shows);
        describe(walk, *usual);
        return shows.out.value_or("");
    }
    const std::string at = "/" + std::string(key);
    Walk<Shows> walk(at, shows);
    describe(walk, habits);
    const std::string typed = shows.out.value_or("");
    return typed == "0" || typed == word(End::neither) ? std::string() : typed;
}

Result<Habits> with_habit(Habits habits, const std::string& key, const std::string& given) {
    const std::string typed = trimmed(given), unit = unit_of_habit(key);
    const std::string usual =
        typed.empty() && key == "main_button" ? std::string(word(End::neither)) : typed;
    Takes takes{usual, unit};
    if (const auto wire = wire_key(key)) {
        const auto is = [&](const WireHabit& w) { return w.role == wire->first; };
        auto it = std::find_if(habits.wires.begin(), habits.wires.end(), is);
        if (typed.empty() && wire->second == "gauge_awg") {
            std::erase_if(habits.wires, is);
            return habits;
        }
        if (it == habits.wires.end())
            it = habits.wires.insert(habits.wires.end(), {wire->first, 26, {}});
        const std::string at = "/" + wire->second;
        Walk<Takes> walk(at, takes);
        describe(walk, *it);
    } else {
        const std::string at = "/" + key;
        Walk<Takes> walk(at, takes);
        describe(walk, habits);
    }
    if (!takes.found) return problem("", say("there is no habit '{}'", key), "Name one of them");
    if (!takes.done) return tl::unexpected(takes.done.error());
    return habits;
}

std::vector<std::string_view> habit_words(std::string_view key) {
    Offers offers;
    const std::string at = "/" + std::string(key);
    const Habits none;
    Walk<Offers> walk(at, offers);
    describe(walk, none);
    return offers.out;
}

} // namespace conductus::job
