// SPDX-License-Identifier: GPL-3.0-or-later
// What a part is: generic parts with electrical figures, terminals, body and mass.
#pragma once

#include <string>
#include <variant>
#include <vector>

#include "core/base/quantity.h"

namespace conductus::catalogue {

/// One solid of a compound body: along from the body's start, across from the middle of the part.
struct BodyPiece;

/// The room a part takes. A cylinder lies along the hilt's axis; a box has its length along it.
struct Body {
    enum class Shape { cylinder, box, compound };
    Shape shape = Shape::cylinder;
    Millimetre length;
    Millimetre diameter;           ///< cylinder
    Millimetre width;              ///< box, across
    Millimetre height;             ///< box, up
    std::vector<BodyPiece> pieces; ///< compound
    bool operator==(const Body&) const;
};

struct BodyPiece {
    Body::Shape shape = Body::Shape::box; ///< cylinder or box
    Millimetre from, length;
    Millimetre diameter, width, height;
    Millimetre up, side; ///< of its middle
    bool operator==(const BodyPiece&) const = default;
};

inline bool Body::operator==(const Body&) const = default;

struct Cell {
    std::string size; ///< "18650"
    MilliAmpereHour capacity;
    Ampere continuous;
    Ohm resistance; ///< R0 at 25 °C, above 30 % charge, without protection
};

/// A protection board at a cell's negative end; it lengthens the cell.
struct Protection {
    Ohm resistance;
    Ampere trip;
    Volt cut_off;
    Millimetre adds;
};

struct Board {
    Ampere active; ///< lit, without sound
    Ampere idle;
    Ampere sleep;
    Ohm pad_resistance; ///< negative-side transistor of one blade pad
    Ampere pad_rating;
    Ampere total_rating;  ///< all pads together
    int max_pixels = 0;   ///< on one data line
    Volt clean_min;       ///< at the bat pad, below it sound is not clean at any level
    bool boosted = false; ///< the sound rail is boosted: loudness does not ask for volts at the pad
    Volt headroom;        ///< rail less the amplifier's largest output; not for a boosted rail
    double amplifier_efficiency = 0.85;
    Volt reset;
    Volt cut_off;
};

struct Speaker {
    Ohm impedance;
    Watt power; ///< rated
};

/// Fills the bore behind a speaker, so that the room between is a cavity of its own.
struct Spacer {
    bool closed = true; ///< airtight but for its wires
};

struct Kill {
    enum class Method { slide_switch, plug };
    Method method = Method::slide_switch;
    Ohm contact;
    Ampere rating;
};

struct Button {
    enum class Action { momentary, latching };
    Action action = Action::momentary;
};

/// Hilt connector and its blade side: spring pins or docking contacts in parallel per pole.
struct Connector {
    int plus_pins = 1;
    int minus_pins = 1;
    int data_pins = 1;
    Ohm pin_resistance;
    Ampere pin_rating;
    Millimetre travel; ///< of its springs; 0: not known
    Millimetre pitch;  ///< between neighbouring contacts; 0: not known
};

/// One light channel of a pixel: a current sink behind an LED.
struct Channel {
    char colour = 'R'; ///< R G B W
    Ampere full;
    Volt on;
    double luminous = 0; ///< luminance at full current; R+G+B of the plain 5050 is 1
};

struct Pixel {
    std::vector<Channel> channels; ///< 3 or 4, in the order R G B W
    Volt knee;
    Ampere quiet;
};

struct Strip {
    std::string pixel; ///< id of its pixel class
    PerMetre density;
    OhmPerMetre rail; ///< copper of each rail
    Millimetre width;
};

using Figures =
    std::variant<Cell, Protection, Board, Speaker, Kill, Button, Connector, Pixel, Strip, Spacer>;

struct PartType {
    std::string id;   ///< "cell.18650-power"
    std::string name; ///< "18650 power cell, 3000 mAh"
    Body body;
    Gram mass;
    KelvinPerWatt thermal; ///< from the part to the air of the hilt
    std::vector<std::string> terminals;
    Figures figures;
};

} // namespace conductus::catalogue
