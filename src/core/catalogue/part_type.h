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

/// How many times its R0 a cell has at a charge, measured at 25 °C.
struct ByCharge {
    double charge = 0; ///< 0 to 1
    double times = 1;
    bool operator==(const ByCharge&) const = default;
};

/// How a cell's volts follow its current late: two parts, each a share of R0 with a time constant.
struct Lag {
    double quick_share = 0.35, slow_share = 0.8;
    Second quick{12}, slow{400};
    bool operator==(const Lag&) const = default;
};

struct Cell {
    std::string size; ///< "18650"
    MilliAmpereHour capacity;
    Ampere continuous;
    Ohm resistance; ///< R0 at 25 °C, above 30 % charge, without protection; of a pack the whole
    int series = 1; ///< cells one behind the other in a pack that is one part
    Ampere charge;  ///< most it may be charged with; 0: half its capacity in an hour
    /// How cells one behind the other are kept alike.
    enum class Balancing { unsaid, none, lead, inside };
    Balancing balancing = Balancing::unsaid; ///< of a pack of several
    std::vector<ByCharge> by_charge;         ///< by rising charge; empty: as cells usually are
    Lag lag;
    bool operator==(const Cell&) const = default;
};

/// A protection board at a cell's negative end; it lengthens the cell.
struct Protection {
    Ohm resistance;
    Ampere trip;
    Volt cut_off;
    Millimetre adds;
    Second trip_after{0.01};
    bool operator==(const Protection&) const = default;
};

/// Lets a smaller cell sit in a larger one's bay: its body takes the bay's room.
struct Adapter {
    std::string takes; ///< size that goes in: "18350"
    std::string bay;   ///< size of the bay it fills: "18650"
    Ohm contacts;      ///< both ends together
    bool operator==(const Adapter&) const = default;
};

/// What a cell is held between in its bay, both ends together: a spring and a plate are usual.
struct Bay {
    Ohm contacts{0.040};
    Ampere rating{10}; ///< held; beyond it a spring loses its temper
    Ohm worn;          ///< when it is due to be replaced; 0: not known
    int changes = 0;   ///< of cells until then; 0: not known
    bool operator==(const Bay&) const = default;
};

/// Fills a cell: constant current, then constant voltage.
struct Charger {
    bool in_hilt = false; ///< behind a recharge port; else the cell comes out to it
    Ampere current;
    int cells = 1;             ///< one behind the other
    bool balances = false;     ///< looks after each cell of a pack
    Second gives_up{6 * 3600}; ///< its safety timer
    bool operator==(const Charger&) const = default;
};

/// Which colour a pixel takes from its data first.
enum class ColourOrder { green_first, red_first, blue_first };

/// A colour order that a board drives.
struct OrderDriven {
    ColourOrder order = ColourOrder::green_first;
    bool operator==(const OrderDriven&) const = default;
};

/// Sounds of a font that belong together: a font has at least one.
struct SoundKind {
    std::string kind;   ///< "hum"
    std::string begins; ///< how the names of its files, or of their folder, begin
    bool operator==(const SoundKind&) const = default;
};

struct Board {
    enum class NameCase { any, lower, upper };
    /// Where something of it is reached: an end of its body, a long side, or its face.
    enum class Edge { none, start, end, side, face };
    Ampere active; ///< lit, without sound
    Ampere idle;
    Ampere sleep;
    Ohm pad_resistance; ///< negative-side transistor of one blade pad
    Ampere pad_rating;
    Ampere total_rating;  ///< all pads together
    int max_pixels = 0;   ///< on one data line
    Volt clean_min;       ///< at the bat pad, below it sound is not clean at any level
    bool boosted = false; ///< the sound rail is boosted: loudness does not ask for volts at the pad
    Volt headroom;        ///< rail less the amplifier's largest output
    Volt rail{5};         ///< of the sound, where it is boosted
    double amplifier_efficiency = 0.85;
    Volt reset;
    Volt cut_off;
    Volt most{5.5};                     ///< supply it stands
    Volt logic{3.3};                    ///< high level of its data lines; 0: its supply
    int max_lights = 0;                 ///< lights of their own it can drive; 0: not known
    Farad capacitor;                    ///< across its supply
    Second sleep_after{300};            ///< idle for so long, it falls asleep; 0: it never does
    int channels = 4;                   ///< of a pixel that it drives
    std::vector<OrderDriven> orders;    ///< colour orders that it drives; empty: every one
    int most_buttons = 0;               ///< that it tells apart; 0: as many as it has pads
    int most_presets = 0;               ///< 0: not known
    int name_length = 0;                ///< of names on its card, letters; 0: not known
    NameCase name_case = NameCase::any; ///< that it finds names on its card in
    std::string name_letters;      ///< that a name may have beside letters and digits; empty: any
    std::string fonts_in;          ///< folder of its card; empty: the top
    std::string tracks_in;         ///< folder; empty: the font's folder or the top of the card
    std::vector<SoundKind> sounds; ///< that every font has; empty: not known
    int sound_rate = 0;            ///< samples a second that it plays; 0: not known
    int sound_bits = 0;            ///< 0: not known
    int sound_channels = 0;        ///< most that it plays; 0: not known
    bool senses_blade = false;     ///< tells whether a blade is in, by a pad
    Edge card = Edge::none;        ///< where its memory card is drawn
    Edge port = Edge::none;        ///< where its data port is plugged
    bool operator==(const Board&) const = default;
};

struct Speaker {
    Ohm impedance;
    Watt power;             ///< rated
    double sensitivity = 0; ///< dB at a metre from a watt, enclosed; 0: not known
    bool operator==(const Speaker&) const = default;
};

/// Fills the bore behind a speaker, so that the room between is a cavity of its own.
struct Spacer {
    bool closed = true; ///< airtight but for its wires
    bool operator==(const Spacer&) const = default;
};

/// One die of an LED: Shockley behind a resistance, from a stated point.
struct Die {
    char colour = 'W';   ///< R G B W
    Volt forward;        ///< at `stated`
    Ampere stated;       ///< what it is meant to run at
    Ampere most;         ///< what it stands
    Volt slope{0.06};    ///< n·V_T of its exponential
    Ohm series;          ///< behind it
    double luminous = 0; ///< at `stated`, in the measure of pixels
    bool operator==(const Die&) const = default;
};

/// An LED: one die between plus and minus, or several on a common plus to minus1, minus2 ...
struct Led {
    std::vector<Die> dies;
    Ohm built_in;              ///< resistor inside, of each die
    KelvinPerWatt junction;    ///< from a die to the module's back
    Celsius hottest_die{125};  ///< what it stands
    double light_share = 0.25; ///< of its power that leaves as light
    bool operator==(const Led&) const = default;
};

struct Kill {
    enum class Method { slide_switch, plug };
    Method method = Method::slide_switch;
    Ohm contact;
    Ampere rating;
    Millimetre plug;  ///< diameter that it takes, of a plug; 0: not known
    Millimetre opens; ///< how far in a plug opens it; 0: not known
    bool operator==(const Kill&) const = default;
};

struct Button {
    enum class Action { momentary, latching };
    Action action = Action::momentary;
    Led light; ///< between led_plus and led_minus; no dies: it is not lit
    bool operator==(const Button&) const = default;
};

/// Hilt connector and its blade side: spring pins or docking contacts in parallel per pole.
struct Connector {
    int plus_pins = 1;
    int minus_pins = 1;
    int data_pins = 1;
    int segments = 0;       ///< contacts seg1 to segN of a string's segments
    bool flash_pin = false; ///< a contact of a string's flash row
    bool keyed = false;     ///< goes in one way round, and must not be turned in its socket
    std::string insertion;  ///< how it is put in, for the owner's page
    Ohm pin_resistance;
    Ampere pin_rating;
    Millimetre travel; ///< of its springs; 0: not known
    Millimetre pitch;  ///< between neighbouring contacts; 0: not known
    std::string pixel; ///< class of the pixels that light it; empty: it is not lit
    int pixels = 0;    ///< ahead of the blade on its data line
    bool operator==(const Connector&) const = default;
};

/// One light channel of a pixel: a current sink behind an LED.
struct Channel {
    char colour = 'R'; ///< R G B W
    Ampere full;
    Volt on;
    double luminous = 0; ///< luminance at full current; R+G+B of the plain 5050 is 1
    bool operator==(const Channel&) const = default;
};

struct Pixel {
    using Order = ColourOrder;
    std::vector<Channel> channels; ///< 3 or 4, in the order R G B W
    Volt knee;
    Ampere quiet;
    Volt most{5.5};          ///< supply it stands
    double data_share = 0.7; ///< of its supply that its data input takes for high
    Order order = Order::green_first;
    bool operator==(const Pixel&) const = default;
};

struct Strip {
    std::string pixel; ///< id of its pixel class
    PerMetre density;
    OhmPerMetre rail; ///< copper of each rail
    Millimetre width;
    bool operator==(const Strip&) const = default;
};

/// A ring, stick or short strip of pixels in the hilt.
struct PixelGroup {
    std::string pixel; ///< id of its pixel class
    int count = 1;
    Ohm segment; ///< copper from pixel to pixel, both rails together
    bool operator==(const PixelGroup&) const = default;
};

/// Segments of LEDs along a blade, each on a pad of its own, and a flash string among them.
/// Terminals: plus, seg1 ... segN, and flash where it has one.
struct SegmentedString {
    int segments = 6;
    int series = 1;   ///< LEDs one behind the other in a segment
    int parallel = 1; ///< of such rows in a segment
    Die die;
    Ohm resistor; ///< of a row
    bool has_flash = false;
    int flash_series = 1, flash_parallel = 1; ///< of the whole flash string
    Die flash;
    Ohm flash_resistor; ///< of a row
    bool operator==(const SegmentedString&) const = default;
};

struct Resistor {
    Ohm usual; ///< where no value is chosen
    Watt power;
    bool operator==(const Resistor&) const = default;
};

/// Keeps the current of an LED. Linear: in series, in to out. Switching: in and gnd to out.
struct Driver {
    enum class Method { linear, step_down, step_up };
    Method method = Method::linear;
    Ampere current; ///< where none is chosen
    Ampere most;
    Volt dropout; ///< below it a linear driver starves
    Ohm pass;     ///< of its switch, input to output
    double efficiency = 1;
    Ampere quiet;
    Volt least; ///< input it works from
    bool operator==(const Driver&) const = default;
};

/// A supply of its own behind the cell. Terminals in, gnd, out.
struct Regulator {
    enum class Method { low_drop, step_up };
    Method method = Method::low_drop;
    Volt volts;
    Ohm output;   ///< how much it gives under load
    Ohm pass;     ///< of a low-drop's transistor; of a step-up's coil and switch
    Ampere limit; ///< of its input, stepping up; of its output, low-drop
    double efficiency = 1;
    Ampere quiet;
    Volt least;
    bool operator==(const Regulator&) const = default;
};

struct Fuse {
    Ohm resistance;
    Ampere hold, trip;
    bool resettable = false;
    Second warms; ///< how long it takes to warm through; 0: as usual for its kind
    bool operator==(const Fuse&) const = default;
};

struct Display {
    Ampere lit, dark;
    bool operator==(const Display&) const = default;
};

/// Repeats data at the level of its own supply. Terminals in, out, plus, minus.
struct Shifter {
    Ampere quiet;
    bool operator==(const Shifter&) const = default;
};

/// A jack or port to recharge through, and the light in it.
struct Port {
    Ampere rating;
    bool configures = false; ///< it is for the board's configuration, not for charging
    Millimetre plug;         ///< diameter that it takes; 0: not known
    Led light;               ///< between led_plus and led_minus; no dies: it is not lit
    bool operator==(const Port&) const = default;
};

/// A recharge jack with a contact of its own: `out` rests on `minus` until a plug goes in. The
/// board returns through it, so that a plug takes the board off and leaves the cell to the charger.
struct Jack {
    Ampere rating;
    Ohm contact;      ///< between minus and out
    Millimetre plug;  ///< diameter that it takes; 0: not known
    Millimetre opens; ///< how far in a plug opens the contact; 0: not known
    bool operator==(const Jack&) const = default;
};

using Figures = std::variant<Cell, Protection, Board, Speaker, Kill, Button, Connector, Pixel,
                             Strip, Spacer, PixelGroup, Led, SegmentedString, Resistor, Driver,
                             Regulator, Fuse, Display, Shifter, Port, Adapter, Charger, Jack, Bay>;

struct PartType {
    std::string id;   ///< "cell.18650-power"
    std::string name; ///< "18650 power cell, 3000 mAh"
    Body body;
    Gram mass;
    KelvinPerWatt thermal; ///< from the part to the air of the hilt
    double price = 0;      ///< typical, EUR; 0: not known
    std::vector<std::string> terminals;
    Figures figures;
    bool operator==(const PartType&) const = default;
};

} // namespace conductus::catalogue
