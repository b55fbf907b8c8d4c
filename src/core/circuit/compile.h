// SPDX-License-Identifier: GPL-3.0-or-later
// From a job to its network.
#pragma once

#include <functional>
#include <vector>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "core/circuit/network.h"
#include "core/job/job.h"
#include "core/lights/frame.h"

namespace conductus::circuit {

/// A cell at one moment.
struct CellState {
    Volt emf;
    Ohm resistance; ///< without protection
};

/// Everything about the instant that is not in the job.
struct Moment {
    std::function<lights::Frame(int channels)> frame; ///< what the blades show
    std::vector<CellState> cells;                     ///< of each cell part, in the job's order
    Ampere sound;                                     ///< what the amplifier draws
};

/// The network of a valid job. Node names are "ref_terminal" in lower case: "u1_bat". Ground is the
/// first cell's negative end. Kills are closed. Wires of role supply and return count, and every
/// part they reach. Errors: no cell; a cell without a state.
Result<Network> compile(const job::Job& job, const catalogue::Catalogue& parts,
                        const Moment& moment);

/// The pixel class of a strip type as a load.
PixelModel pixel_model(const catalogue::Pixel& pixel);

/// Spans of a frame on that many pixels; every pixel belongs to the band its middle lies in.
std::vector<Span> spans_of(const lights::Frame& frame, int pixels);

} // namespace conductus::circuit
