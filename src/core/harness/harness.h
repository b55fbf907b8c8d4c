// SPDX-License-Identifier: GPL-3.0-or-later
// The harness of a job as it is solved: every wire, its length, its load and its place.
// docs/models.md, "Harness".
#pragma once

#include <map>
#include <memory>
#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/circuit/solver.h"
#include "core/harness/data_map.h"
#include "core/harness/derive.h"
#include "core/harness/faces.h"
#include "core/harness/lanes.h"
#include "core/hilt/route.h"

namespace conductus::harness {

/// A solved state that wires are judged by.
struct SolvedState {
    std::string name; ///< look or effect
    const circuit::Network* network = nullptr;
    const circuit::OperatingPoint* point = nullptr;
};

struct WireRow {
    std::string ref, from, to;
    job::Role role = job::Role::supply;
    int gauge = 26;
    Millimetre length;
    bool own_length = false; ///< measured or decided; else as its route asks
    hilt::Route route;
    std::string colour;
    bool own_colour = false;
    Ampere amps;                 ///< most, over the states
    std::string state;           ///< that one
    Volt drop;                   ///< in it, as solved
    Kelvin rise_held;            ///< over the air, were that held for ever
    Kelvin rise;                 ///< what the use does to it; until that is known, the same
    int gauge_wanted = 26;       ///< finest that loses no more than usual_drop, and stays cool
    std::vector<Message> advice; ///< "polyimide tape at the button hole, 178 mm"
};

/// A screwed joint that wires go through.
struct Twist {
    std::string joint;
    job::Hand hand = job::Hand::right; ///< of the thread
    double turns = 0;                  ///< until it is home
    double pretwist = 0;               ///< turns the other way, before
    Message how;                       ///< which way, in words
    std::vector<std::string> wires;
    Millimetre shortest;  ///< of those wires
    double per_100mm = 0; ///< turns of that one, were it not twisted before
    double radius = 0;    ///< mm, of the bundle's middle wires
};

/// Room for the slack.
struct Coil {
    double needs = 0, has = 0; ///< mm³; insulation, laid as loosely as by hand
    std::string where;         ///< "behind C1, 34 to 62 mm"
};

struct PinLoad {
    std::string ref, pin;
    Ampere amps, rated;
    std::string state;
    std::string wire; ///< of a docking board: the one it carries
};

struct Harness {
    std::vector<WireRow> wires; ///< in the job's order
    Millimetre total;
    Volt drop; ///< all wires together, in the worst state: watts in them over the pack's current
    std::string worst; ///< state with the largest current of the pack
    std::vector<Twist> twists;
    Coil coil;
    std::vector<PinLoad> pins;
    std::vector<hilt::Rail> rails; ///< wires across docking boards
    DataMap data;
    std::vector<Missing> missing;
    std::vector<WireConflict> conflicts;
    std::vector<Lane> lanes; ///< as the wires
    int crossings = 0;
    [[nodiscard]] const WireRow* wire(std::string_view ref) const;
};

/// Of a valid job; `states` may be empty, then nothing flows.
Harness harness_of(const job::Job& job, const catalogue::Catalogue& parts,
                   const job::Wiring& wiring, const lights::Chains& chains,
                   const std::vector<SolvedState>& states);

/// What a wire has over the way it goes, mm: its slack, or what was cut beyond; below 0 it does not
/// reach.
double spare_of(const WireRow& wire);

} // namespace conductus::harness
