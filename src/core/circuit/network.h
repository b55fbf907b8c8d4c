// SPDX-License-Identifier: GPL-3.0-or-later
// An electrical network at one moment: what the solvers, and the netlist export, are given.
#pragma once

#include <string>
#include <vector>

#include "core/circuit/pixel_model.h"

namespace conductus::circuit {

using Node = std::size_t; ///< index into Network::nodes; 0 is ground, the cell's negative end

/// What a device is for a person reading where the volts go.
enum class Part {
    cell,
    protection,
    bay, ///< springs and plates a cell is held between, and an adapter
    kill,
    board,
    wire,
    pins,
    strip,
    light,    ///< LEDs, with the resistance inside them
    resistor, ///< that was soldered in
    supply,   ///< drivers, regulators
    fuse,
    leak ///< what an open switch or a dark LED lets through
};

struct Resistor {
    std::string name; ///< netlist-safe, lower case: "k1_contact"
    std::string ref;  ///< the part or wire it belongs to: "K1"
    Part part = Part::wire;
    Node a = 0, b = 0;
    double ohms = 0; ///< > 0
    std::string pin; ///< of a connector: "plus2"; "plus": all of the pole as one; of a board: "l1"
};

/// Which junction of a light it is.
struct Junction {
    enum class Of { die, segment, flash };
    Of of = Of::die;
    int number = 0; ///< counted from 1; 0: there is only one
    bool operator==(const Junction&) const = default;
    /// "die2", "seg3", "flash": as its terminal and its node are called.
    [[nodiscard]] std::string name() const;
    /// What the terminals of a light with several are called by: "2"; empty: there is only one.
    [[nodiscard]] std::string suffix() const { return number > 0 ? std::to_string(number) : ""; }
};

/// An ideal source in series with `ohms`.
struct Source {
    std::string name, ref;
    Node plus = 0, minus = 0;
    double emf = 0;
    double ohms = 0; ///< > 0
};

/// An amplifier as its supply sees it; sink.h.
struct Amplifier {
    double peak = 0; ///< V across the speaker, wanted
    double siemens =
        0; ///< of what it drives, over its efficiency: 1/(Z·η), for a share of the time
    double headroom = 0;  ///< V of its rail that it can not use
    double rail = 0;      ///< V, where it has one of its own
    bool boosted = false; ///< that rail is made from the supply; else the rail is the supply
};

/// Electronics that draw a set current once they have a supply, and their sound; sink.h.
struct Sink {
    std::string name, ref;
    Node plus = 0, minus = 0;
    double amps = 0;
    Amplifier sound{};
};

/// Shockley's junction: I = saturation (e^(V / slope) − 1). Resistances are resistors of their own.
struct Diode {
    std::string name, ref;
    Node plus = 0, minus = 0;
    double saturation = 0; ///< A
    double slope = 0;      ///< n·V_T, V
    double stated = 0;     ///< A it is meant to carry: where a search starts
    Junction junction{};   ///< of the light `ref`
    double of_time = 1;    ///< it is on in this state, which lasts for this share of its time
};

/// A linear driver in series: I = amps · s(V / knee), never backwards; s as of a pixel's channel.
struct Limiter {
    std::string name, ref;
    Node plus = 0, minus = 0;
    double amps = 0;
    double knee = 0.1; ///< V it needs
};

/// A regulator or switching driver: takes at in, gives at out, both against gnd. converter.h.
struct Converter {
    std::string name, ref;
    Node in = 0, gnd = 0, out = 0;
    bool steps_up = false;
    bool switching =
        true;         ///< input power = output power / efficiency; else its current flows through
    double volts = 0; ///< held at the output, behind `output` ohms; 0: a current is held
    double output = 0.05; ///< ohm
    double amps = 0;      ///< held, where no voltage is
    double pass = 0.2;    ///< ohm from in to out; stepping up 0: it is switched off
    double limit = 5;     ///< A of its input; of a low-drop, of its output
    double efficiency = 1;
    double least = 0; ///< V it works from; stepping up
    double quiet = 0; ///< A
};

using lights::Span;

/// Copper from the strip's pads to a pixel, besides the foot's.
struct Feed {
    int pixel = 0;
    double ohms = 0; ///< both rails together
    bool operator==(const Feed&) const = default;
};

/// A ladder of pixels fed alike on both rails: equal currents in both, so one ladder with both
/// rails' copper.
struct Strip {
    std::string name, ref;
    Node plus = 0, minus = 0;
    double lead = 0;    ///< ohm, both rails together, foot to first pixel
    double segment = 0; ///< ohm, both rails together, pixel to pixel
    int pixels = 0;
    PixelModel pixel;
    std::vector<Span> spans; ///< ascending, covering all pixels
    std::vector<Feed> feeds; ///< besides the foot
    [[nodiscard]] bool same_load(const Strip& o) const {
        return lead == o.lead && segment == o.segment && pixels == o.pixels && pixel == o.pixel &&
               feeds == o.feeds && spans == o.spans;
    }
};

struct Network {
    std::vector<std::string> nodes{"0"}; ///< "b1_plus"; index 0 is ground
    std::vector<Source> sources;
    std::vector<Resistor> resistors;
    std::vector<Sink> sinks;
    std::vector<Strip> strips;
    std::vector<Diode> diodes;
    std::vector<Limiter> limiters;
    std::vector<Converter> converters;
};

struct StripState {
    double amps = 0;           ///< into its pads, all feeds together
    std::vector<double> volts; ///< across each pixel, foot to tip
    std::vector<double> rail;  ///< of the plus rail at each pixel, against ground
};

/// A solved network; vectors run parallel to the network's.
struct OperatingPoint {
    std::vector<double> volts; ///< of each node
    std::vector<double> source_amps;
    std::vector<double> resistor_amps; ///< a to b
    std::vector<double> sink_amps;
    std::vector<StripState> strips;
    std::vector<double> diode_amps, limiter_amps;
    std::vector<double> converter_in, converter_out; ///< A taken at in, given at out
    int iterations = 0;
};

} // namespace conductus::circuit
