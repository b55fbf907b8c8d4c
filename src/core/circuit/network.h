// SPDX-License-Identifier: GPL-3.0-or-later
// An electrical network at one moment: what the solvers, and the netlist export, are given.
#pragma once

#include <string>
#include <vector>

#include "core/circuit/pixel_model.h"

namespace conductus::circuit {

using Node = std::size_t; ///< index into Network::nodes; 0 is ground, the cell's negative end

/// What a device is for a person reading where the volts go.
enum class Part { cell, protection, kill, board, wire, pins, strip };

struct Resistor {
    std::string name; ///< netlist-safe, lower case: "k1_contact"
    std::string ref;  ///< the part or wire it belongs to: "K1"
    Part part = Part::wire;
    Node a = 0, b = 0;
    double ohms = 0; ///< > 0
};

/// An ideal source in series with `ohms`.
struct Source {
    std::string name, ref;
    Node plus = 0, minus = 0;
    double emf = 0;
    double ohms = 0; ///< > 0
};

/// I = amps (1 - e^(-V / 1 V)): electronics that draw a set current once they have a supply.
struct Sink {
    std::string name, ref;
    Node plus = 0, minus = 0;
    double amps = 0;
};

/// Pixels first..last (from 0, last excluded) showing these duties.
struct Span {
    int first = 0, last = 0;
    Duties duty{};
    bool operator==(const Span&) const = default;
};

/// A base-fed ladder of pixels: equal currents in both rails, so one ladder with both rails'
/// copper.
struct Strip {
    std::string name, ref;
    Node plus = 0, minus = 0;
    double lead = 0;    ///< ohm, both rails together, foot to first pixel
    double segment = 0; ///< ohm, both rails together, pixel to pixel
    int pixels = 0;
    PixelModel pixel;
    std::vector<Span> spans; ///< ascending, covering all pixels
    [[nodiscard]] bool same_load(const Strip& o) const {
        return lead == o.lead && segment == o.segment && pixels == o.pixels && pixel == o.pixel &&
               spans == o.spans;
    }
};

struct Network {
    std::vector<std::string> nodes{"0"}; ///< "b1_plus"; index 0 is ground
    std::vector<Source> sources;
    std::vector<Resistor> resistors;
    std::vector<Sink> sinks;
    std::vector<Strip> strips;
};

struct StripState {
    double amps = 0;           ///< into the foot
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
    int iterations = 0;
};

} // namespace conductus::circuit
