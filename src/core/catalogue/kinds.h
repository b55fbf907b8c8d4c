// SPDX-License-Identifier: GPL-3.0-or-later
// What a kind of part is, once: its words, where it stands, what its terminals are for, what
// conducts through it, how it is lettered and filled. Everything that asks "which kind is it?" and
// can be answered by a table is answered here; a kind without an answer does not compile.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/catalogue/part_type.h"

namespace conductus::catalogue {

/// Where a part of a kind stands.
enum class Stands {
    bore, ///< takes room in the bore of the hilt
    wall, ///< sits in a hole through the wall
    wire, ///< rides in its wire
    apart ///< is no part of the hilt by itself: it belongs to a blade, a cell or the shelf
};

/// How its outline is filled in drawings.
enum class Fill { cell, board, speaker, connector, switches };

struct Kind {
    std::string_view key;       ///< in files: "led-string"
    std::string_view stem;      ///< of references: "B" as in B1
    std::string_view word;      ///< "LED string"
    std::string_view words;     ///< "LED strings"
    std::string_view lettering; ///< inside drawings: "LED"; empty: only the reference
    Stands stands = Stands::bore;
    Fill fill = Fill::switches;
    bool on_chassis = true; ///< rides on the one chassis of a hilt without carriers
};

/// The terminals `a` and `b` are joined inside the part.
struct Pass {
    enum class Carries { supply, data, both };
    enum class How {
        conducts, ///< both ways, as copper does: a fuse
        switched, ///< the same, unless it is opened
        limits,   ///< both ways, with volts of its own: a resistor, a linear driver
        converts  ///< from `a` to `b`, at another voltage or level
    };
    std::string_view a, b;
    Carries carries = Carries::supply;
    How how = How::conducts;
};

/// What wires a terminal takes.
struct Takes {
    bool supply = false, back = false, data = false, button = false, sound = false;
    bool operator==(const Takes&) const = default;
};

/// Where along the body a terminal is.
enum class TerminalPlace { middle, start, end, plus_end, edges };

/// Pixels in a part: how many of which class, in a chain from `data` to `out`.
struct PixelsIn {
    std::string_view pixel; ///< class; empty: the part is one pixel of itself
    int count = 1;
};

/// The table.
const Kind& kind_of(const Figures& figures);
/// Every kind there is, in the order of Figures.
const std::array<Kind, std::variant_size_v<Figures>>& kinds();
/// The kind of that key; null: there is none.
const Kind* kind_named(std::string_view key);

/// What conducts, switches or converts inside it.
std::vector<Pass> passes(const Figures& figures);
/// What wires a terminal of it takes.
Takes takes(const Figures& figures, std::string_view terminal);
TerminalPlace place_of_terminal(const Figures& figures, std::string_view terminal);
/// The LED it is or has, and its terminals begin with `led_` where it is in something else; null:
/// none.
const Led* led_in(const Figures& figures);
/// The pixels it is or has.
std::optional<PixelsIn> pixels_in(const Figures& figures);
/// The current it is made to carry; nothing: it carries none, or as much as its copper.
std::optional<Ampere> rating_of(const Figures& figures);
/// A hole that a plug goes into.
struct PlugHole {
    Millimetre takes; ///< diameter; 0: not known
    Millimetre opens; ///< how far in a plug opens its contact; 0: not known
    bool kills = false, charges = false, configures = false;
};
/// The hole for a plug that it has; nothing: it takes none.
std::optional<PlugHole> plug_hole(const Figures& figures);
/// What it may be called in drawings, the longest first.
std::vector<std::string> letterings(const PartType& type);

/// Calls `f` with the figures, of whatever kind: an overload for each, or it does not compile.
template <class... F>
struct EachKind : F... {
    using F::operator()...;
};
template <class... F>
EachKind(F...) -> EachKind<F...>;

} // namespace conductus::catalogue
