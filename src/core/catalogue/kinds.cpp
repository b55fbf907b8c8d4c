// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/catalogue/kinds.h"

#include <cctype>
#include <fmt/format.h>

namespace conductus::catalogue {
namespace {

using Carries = Pass::Carries;
using How = Pass::How;

constexpr Takes supply_or_back{true, true};
constexpr Takes any{true, true, true, true, true};
constexpr Takes data_wire{false, false, true};

/// What holds where a kind says nothing else.
struct Plain {
    template <class T>
    static std::vector<Pass> passes(const T&) {
        return {};
    }
    template <class T>
    static Takes takes(const T&, std::string_view terminal) {
        return terminal == "data" || terminal == "out" ? data_wire : supply_or_back;
    }
    template <class T>
    static TerminalPlace place(const T&, std::string_view) {
        return TerminalPlace::middle;
    }
    template <class T>
    static const Led* led(const T&) {
        return nullptr;
    }
    template <class T>
    static std::optional<PixelsIn> pixels(const T&) {
        return std::nullopt;
    }
    template <class T>
    static std::optional<Ampere> rating(const T&) {
        return std::nullopt;
    }
    template <class T>
    static std::optional<PlugHole> plug(const T&) {
        return std::nullopt;
    }
};

/// In to out, or a to b, from one end of the body to the other.
struct InARow : Plain {
    template <class T>
    static Takes takes(const T&, std::string_view) {
        return supply_or_back;
    }
    template <class T>
    static TerminalPlace place(const T&, std::string_view terminal) {
        return terminal == "in" || terminal == "a"    ? TerminalPlace::start
               : terminal == "out" || terminal == "b" ? TerminalPlace::end
                                                      : TerminalPlace::middle;
    }
};

/// Pixels between their data and their out.
struct Chained : Plain {
    template <class T>
    static TerminalPlace place(const T&, std::string_view terminal) {
        return terminal == "out" ? TerminalPlace::end : TerminalPlace::start;
    }
};

/// A kind that is not here does not compile.
template <class T>
struct Facts;

template <>
struct Facts<Cell> : Plain {
    static constexpr Kind kind{"cell", "B", "cell", "cells", "cell", Stands::bore, Fill::cell};
    static TerminalPlace place(const Cell&, std::string_view) { return TerminalPlace::plus_end; }
    static std::optional<Ampere> rating(const Cell& c) { return c.continuous; }
};
template <>
struct Facts<Protection> : Plain {
    static constexpr Kind kind{"protection", "PR", "protection", "protections", "", Stands::apart};
};
template <>
struct Facts<Board> : Plain {
    static constexpr Kind kind{"board", "U", "board", "boards", "board", Stands::bore, Fill::board};
    static Takes takes(const Board&, std::string_view t) {
        if (t == "bat") return {true};
        if (t == "gnd") return {true, true, false, true, true};
        if (t.starts_with("spk")) return {false, false, false, false, true};
        if (t.starts_with('d')) return data_wire;
        if (t.starts_with('s')) return {false, false, false, true};
        return supply_or_back;
    }
    static TerminalPlace place(const Board&, std::string_view) { return TerminalPlace::edges; }
};
template <>
struct Facts<Speaker> : Plain {
    static constexpr Kind kind{"speaker", "SP",         "speaker",     "speakers",
                               "speaker", Stands::bore, Fill::speaker, false};
    static Takes takes(const Speaker&, std::string_view) {
        return {false, false, false, false, true};
    }
};
template <>
struct Facts<Kill> : InARow {
    static constexpr Kind kind{"kill", "K", "kill", "kills", "kill"};
    static std::vector<Pass> passes(const Kill&) {
        return {{"in", "out", Carries::supply, How::switched}};
    }
    static std::optional<Ampere> rating(const Kill& k) { return k.rating; }
    static std::optional<PlugHole> plug(const Kill& k) {
        if (k.method != Kill::Method::plug) return std::nullopt;
        return PlugHole{k.plug, k.opens, true};
    }
};
template <>
struct Facts<Button> : Plain {
    static constexpr Kind kind{"button", "S", "button", "buttons", "button", Stands::wall};
    static Takes takes(const Button&, std::string_view t) {
        return t == "a" || t == "b" ? Takes{false, true, false, true} : supply_or_back;
    }
    static const Led* led(const Button& b) { return b.light.dies.empty() ? nullptr : &b.light; }
};
template <>
struct Facts<Connector> : Plain {
    static constexpr Kind kind{"connector", "P",          "connector",     "connectors",
                               "pins",      Stands::bore, Fill::connector, false};
    static Takes takes(const Connector&, std::string_view t) {
        if (t == "sense") return {false, true, false, true};
        return t == "data" ? data_wire : supply_or_back;
    }
    static TerminalPlace place(const Connector&, std::string_view) { return TerminalPlace::start; }
    static std::optional<PixelsIn> pixels(const Connector& c) {
        return c.pixels > 0 ? std::optional(PixelsIn{c.pixel, c.pixels}) : std::nullopt;
    }
};
template <>
struct Facts<Pixel> : Chained {
    static constexpr Kind kind{"pixel", "A", "pixel", "pixels of their own", "pixel"};
    static std::optional<PixelsIn> pixels(const Pixel&) { return PixelsIn{}; }
};
template <>
struct Facts<Strip> : Plain {
    static constexpr Kind kind{"strip", "ST", "strip", "strips", "", Stands::apart};
};
template <>
struct Facts<Spacer> : Plain {
    static constexpr Kind kind{"spacer", "SC", "spacer", "spacers", "spacer"};
};
template <>
struct Facts<PixelGroup> : Chained {
    static constexpr Kind kind{"pixels", "A", "pixels", "groups of pixels", "pixels"};
    static std::optional<PixelsIn> pixels(const PixelGroup& g) {
        return PixelsIn{g.pixel, g.count};
    }
};
template <>
struct Facts<Led> : Plain {
    static constexpr Kind kind{"led", "L", "LED", "LEDs", "LED"};
    static const Led* led(const Led& l) { return &l; }
};
template <>
struct Facts<SegmentedString> : Plain {
    static constexpr Kind kind{"led-string", "LS", "LED string", "LED strings", "", Stands::apart};
};
template <>
struct Facts<Resistor> : InARow {
    static constexpr Kind kind{"resistor", "R", "resistor", "resistors", "resistor", Stands::wire};
    static std::vector<Pass> passes(const Resistor&) {
        return {{"a", "b", Carries::both, How::limits}};
    }
    static Takes takes(const Resistor&, std::string_view) { return any; }
};
template <>
struct Facts<Driver> : InARow {
    static constexpr Kind kind{"driver", "DR", "LED driver", "LED drivers", "driver"};
    static std::vector<Pass> passes(const Driver& d) {
        const bool linear = d.method == Driver::Method::linear;
        return {{"in", "out", Carries::supply, linear ? How::limits : How::converts}};
    }
};
template <>
struct Facts<Regulator> : InARow {
    static constexpr Kind kind{"regulator", "V", "regulator", "regulators", "regulator"};
    static std::vector<Pass> passes(const Regulator&) {
        return {{"in", "out", Carries::supply, How::converts}};
    }
};
template <>
struct Facts<Fuse> : InARow {
    static constexpr Kind kind{"fuse", "F", "fuse", "fuses", "fuse", Stands::wire};
    static std::vector<Pass> passes(const Fuse&) { return {{"a", "b"}}; }
    static std::optional<Ampere> rating(const Fuse& f) { return f.hold; }
};
template <>
struct Facts<Display> : Plain {
    static constexpr Kind kind{"display", "DY", "display", "displays", "display"};
};
template <>
struct Facts<Shifter> : InARow {
    static constexpr Kind kind{"shifter", "LV", "level shifter", "level shifters", "shifter"};
    static std::vector<Pass> passes(const Shifter&) {
        return {{"in", "out", Carries::data, How::converts}};
    }
    static Takes takes(const Shifter&, std::string_view t) {
        return t == "in" || t == "out" ? data_wire : supply_or_back;
    }
};
template <>
struct Facts<Port> : Plain {
    static constexpr Kind kind{"port",           "J",    "recharge port",
                               "recharge ports", "port", Stands::wall};
    static const Led* led(const Port& p) { return p.light.dies.empty() ? nullptr : &p.light; }
    static std::optional<Ampere> rating(const Port& p) { return p.rating; }
    static std::optional<PlugHole> plug(const Port& p) {
        return PlugHole{p.plug, {}, false, !p.configures, p.configures};
    }
};
template <>
struct Facts<Adapter> : Plain {
    static constexpr Kind kind{"adapter", "AD", "adapter", "adapters", "", Stands::apart};
};
template <>
struct Facts<Bay> : Plain {
    static constexpr Kind kind{"bay", "BY", "bay contacts", "bay contacts", "", Stands::apart};
    static std::optional<Ampere> rating(const Bay& b) { return b.rating; }
};
template <>
struct Facts<Charger> : Plain {
    static constexpr Kind kind{"charger", "CH", "charger", "chargers", "", Stands::apart};
};

template <>
struct Facts<Jack> : Plain {
    static constexpr Kind kind{"jack",           "J",    "switched jack",
                               "switched jacks", "jack", Stands::wall};
    static std::vector<Pass> passes(const Jack&) {
        return {{"minus", "out", Carries::supply, How::switched}};
    }
    static Takes takes(const Jack&, std::string_view) { return supply_or_back; }
    static std::optional<Ampere> rating(const Jack& j) { return j.rating; }
    static std::optional<PlugHole> plug(const Jack& j) {
        return PlugHole{j.plug, j.opens, true, true};
    }
};

template <std::size_t... I>
constexpr std::array<Kind, sizeof...(I)> table(std::index_sequence<I...>) {
    return {Facts<std::variant_alternative_t<I, Figures>>::kind...};
}
constexpr auto all_kinds = table(std::make_index_sequence<std::variant_size_v<Figures>>());

/// Asks the facts of the kind that the figures are of.
template <class Ask>
auto ask(const Figures& figures, Ask question) {
    return std::visit(
        [&](const auto& f) {
            using T = std::remove_cvref_t<decltype(f)>;
            return question(Facts<T>{}, f);
        },
        figures);
}

} // namespace

const Kind& kind_of(const Figures& figures) { return all_kinds[figures.index()]; }

const std::array<Kind, std::variant_size_v<Figures>>& kinds() { return all_kinds; }

const Kind* kind_named(std::string_view key) {
    for (const Kind& kind : all_kinds)
        if (kind.key == key) return &kind;
    return nullptr;
}

std::vector<Pass> passes(const Figures& figures) {
    return ask(figures, [](auto facts, const auto& f) { return facts.passes(f); });
}

Takes takes(const Figures& figures, std::string_view terminal) {
    return ask(figures, [&](auto facts, const auto& f) { return facts.takes(f, terminal); });
}

TerminalPlace place_of_terminal(const Figures& figures, std::string_view terminal) {
    return ask(figures, [&](auto facts, const auto& f) { return facts.place(f, terminal); });
}

const Led* led_in(const Figures& figures) {
    return ask(figures, [](auto facts, const auto& f) { return facts.led(f); });
}

std::optional<PixelsIn> pixels_in(const Figures& figures) {
    return ask(figures, [](auto facts, const auto& f) { return facts.pixels(f); });
}

std::optional<Ampere> rating_of(const Figures& figures) {
    return ask(figures, [](auto facts, const auto& f) { return facts.rating(f); });
}

std::optional<PlugHole> plug_hole(const Figures& figures) {
    return ask(figures, [](auto facts, const auto& f) { return facts.plug(f); });
}

std::vector<std::string> letterings(const PartType& type) {
    const std::string word(kind_of(type.figures).lettering);
    if (const auto* cell = std::get_if<Cell>(&type.figures)) return {cell->size};
    if (std::holds_alternative<Board>(type.figures)) return {"sound " + word, word};
    if (std::holds_alternative<Speaker>(type.figures))
        return {fmt::format("{} {} mm", word, type.body.diameter.value()), word};
    if (const auto* kill = std::get_if<Kill>(&type.figures);
        kill && kill->method == Kill::Method::plug)
        return {word + " plug", word};
    if (const auto* fuse = std::get_if<Fuse>(&type.figures))
        return {fmt::format("{} {:g} A", word, fuse->hold.value()), word};
    if (const auto* regulator = std::get_if<Regulator>(&type.figures))
        return {fmt::format("{} {:g} V", word, regulator->volts.value()), word};
    if (word.empty()) return {};
    return {word};
}

} // namespace conductus::catalogue
