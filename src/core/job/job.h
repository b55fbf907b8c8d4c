// SPDX-License-Identifier: GPL-3.0-or-later
// The document: what the installer knows and decides. Plain values, no behaviour.
// The file form is described in docs/job-format.md; the ranges are in core/job/limits.h.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/quantity.h"
#include "core/job/brief.h"
#include "core/job/hilt.h"
#include "core/job/inspection.h"

namespace conductus::job {

enum class Kind { conversion, repair, upgrade };
enum class Stage { brief, survey, agreed, wiring, bench, handed_over };
enum class CellTop { flat, button };
enum class Style { steady, pulse, flicker, fire, bands };
enum class Role { supply, ground, data, button, sound };

/// Values measured on this very part; each overrides the catalogue's.
struct Measured {
    std::optional<Ohm> resistance; ///< cell R0, switch contact, or one pin
    std::optional<MilliAmpereHour> capacity;
    bool operator==(const Measured&) const = default;
};

/// A part fitted in the hilt.
struct Part {
    std::string ref;                       ///< "B1"
    std::string type;                      ///< id in the catalogue
    Millimetre at;                         ///< where its body starts, from the pommel end
    Millimetre off_axis;                   ///< up, in the plane of the long section
    std::optional<std::string> protection; ///< cells: id of the protection board
    CellTop top = CellTop::flat;           ///< cells
    Measured measured;
    Millimetre side;     ///< across that plane
    Degree turn;         ///< boxes: about the axis
    std::string carrier; ///< ref of what it rides on, where the hilt lists carriers
    bool operator==(const Part&) const = default;
};

struct Strip {
    std::string ref;
    std::string type;
    int pixels = 0;
    Millimetre length;
    Ohm lead;                        ///< foot pad to first pixel and back, both rails together
    std::optional<OhmPerMetre> rail; ///< measured, each rail
    bool operator==(const Strip&) const = default;
};

struct Blade {
    std::string ref;
    Millimetre length;
    Millimetre outer;
    std::string connector; ///< ref of the hilt connector it mates with; empty: wired to its pads
    std::vector<Strip> strips;
    bool operator==(const Blade&) const = default;
};

/// A wire between two terminals, written "B1.plus".
struct Wire {
    std::string ref;
    std::string from, to;
    Role role = Role::supply;
    int gauge = 26; ///< AWG
    Millimetre length;
    std::optional<Ohm> resistance; ///< measured
    bool operator==(const Wire&) const = default;
};

/// Duty of each channel, 0 to 1.
struct Colour {
    double red = 0, green = 0, blue = 0, white = 0;
    bool operator==(const Colour&) const = default;
};

/// What a blade shows.
struct Look {
    std::string name;
    Colour colour;
    Style style = Style::steady;
    double cap = 1; ///< brightness cap, 0 to 1
    bool operator==(const Look&) const = default;
};

/// A passing event over a look: part of the blade, from..to as fractions foot to tip.
struct Effect {
    std::string name;
    Colour colour;
    double cap = 1;
    double from = 0, to = 1;
    Second lasts;
    bool operator==(const Effect&) const = default;
};

struct Use {
    std::string name; ///< "stage run"
    std::string look; ///< the look it is lit with
    Minute clean;     ///< clean runtime the owner asked for
    Minute ignited;   ///< a day
    Minute idle;      ///< a day
    Celsius temperature{20};
    double volume = 0; ///< 0 to 1 of the speaker's rated amplitude
    bool operator==(const Use&) const = default;
};

struct Job {
    std::string name;
    Kind kind = Kind::conversion;
    std::string purpose;  ///< "for The Lantern Wardens"
    std::string promised; ///< ISO date, may be empty
    Stage stage = Stage::brief;
    std::string notes;
    Use use;
    Hilt hilt;
    std::vector<Part> parts;
    std::vector<Blade> blades;
    std::vector<Wire> wires;
    std::vector<Look> looks;
    std::vector<Effect> effects;
    Brief brief;
    std::vector<Inspected> inspection;
    AsFound as_found;
    std::vector<LogEntry> log; ///< oldest first
    std::vector<Milestone> milestones;
    bool operator==(const Job&) const = default;
};

} // namespace conductus::job
