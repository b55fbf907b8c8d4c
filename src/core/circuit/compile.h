// SPDX-License-Identifier: GPL-3.0-or-later
// From a job to its network.
#pragma once

#include <memory>
#include <vector>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "core/circuit/network.h"
#include "core/circuit/pulse.h"
#include "core/hilt/route.h"
#include "core/job/job.h"
#include "core/lights/scene.h"

namespace conductus::circuit {

/// A cell at one moment.
struct CellState {
    Volt emf;
    Ohm resistance; ///< without protection
};

/// Active: lit or able to be. Idle: awake, blade in. Asleep: deep sleep, all pads off.
enum class BoardMode { active, idle, asleep };

/// Everything about the instant that is not in the job.
struct Moment {
    std::shared_ptr<const lights::Chains> chains; ///< of the job
    std::shared_ptr<const hilt::Runs> runs;       ///< of the job
    std::shared_ptr<const job::Wiring> wiring;    ///< of the job
    lights::Scene scene;                          ///< what the lights show
    std::vector<CellState> cells;                 ///< of each cell part, in the job's order
    Amplifier sound;                              ///< of the board; none: it is silent
    BoardMode board = BoardMode::active;
    bool killed = false;              ///< kills are open
    bool plugged = false;             ///< jacks are open, with a plug in them
    Celsius air{20};                  ///< as warm as it copper is
    Pulses pulses = Pulses::averaged; ///< of lights on pads
};

/// The network of a valid job. Node names are "ref_terminal" in lower case: "u1_bat". Ground is the
/// first cell's negative end. Wires of role supply and return count, and every part they reach; of
/// a wire that docking boards cut, the contacts it is given there are in series with it. A light on
/// a pad is pulsed: for its share of the time all that is in series with it conducts. On average
/// that branch is scaled by the share, which gives the mean current exactly; else all such lights
/// are on at once. Errors: no cell; a cell without a state.
Result<Network> compile(const job::Job& job, const catalogue::Catalogue& parts,
                        const Moment& moment);

/// The pixel class of a strip type as a load.
PixelModel pixel_model(const catalogue::Pixel& pixel);

/// A die as a junction and the resistance behind it, `series` in a row and `rows` of them.
struct DieModel {
    double saturation = 0, slope = 0, stated = 0, ohms = 0;
};
DieModel die_model(const catalogue::Die& die, double extra_ohms = 0, int series = 1, int rows = 1);

/// The pad that switches an LED, following the wires from its terminal through what is in series:
/// "U1.l3"; empty where it is lit for as long as it has a supply.
std::string pad_of(const job::Job& job, const catalogue::Catalogue& parts,
                   const job::Wiring& wiring, const std::string& terminal);

} // namespace conductus::circuit
