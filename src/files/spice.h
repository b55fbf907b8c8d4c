// SPDX-License-Identifier: GPL-3.0-or-later
// SPICE netlist: what an independent circuit simulator is given.
#pragma once

#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/circuit/network.h"
#include "core/job/job.h"

namespace conductus::files {

/// A netlist that a SPICE simulator runs in batch as it is (.op), printing every node. Nodes have
/// the names of the network, pixels those of plus_node() and minus_node(). Ground is 0. `start` may
/// be null: else its voltages are where the simulator begins, which networks with converters need.
std::string spice_text(const circuit::Network& network, const std::string& title,
                       const circuit::OperatingPoint* start = nullptr);

/// A cell of a transient: what makes the source of that name one. Its resistances stand still.
struct SpiceCell {
    std::string name;      ///< of the source: "b1"
    double capacity = 0;   ///< As
    double charge = 1;     ///< at the start
    double r0 = 0;         ///< ohm
    double r1 = 0, c1 = 0; ///< the quick pair
    double r2 = 0, c2 = 0; ///< the slow one
    int series = 1;
    std::vector<std::pair<double, double>> curve; ///< charge, V of one cell
};

/// Of every cell of a network, by its sources' refs: figures of `job` at that charge, in the air of
/// its use.
std::vector<SpiceCell> spice_cells(const job::Job& job, const catalogue::Catalogue& parts,
                                   const circuit::Network& network, double charge);

/// The same network held for `seconds`, each cell with its curve, charge and both polarisations as
/// elements, stepped by at most `step` (.tran). Node NAME_soc is the charge; NAME_u1 and NAME_u2
/// are the polarisations. Prints nothing: .print tran or .meas lines go in at `extra`.
std::string spice_transient_text(const circuit::Network& network, const std::string& title,
                                 const std::vector<SpiceCell>& cells, double seconds, double step,
                                 const std::string& extra);

/// Names of a pixel's two rail nodes, counted from 1 at the foot: "st1_p117", "st1_n117".
std::string plus_node(const circuit::Strip& strip, std::size_t pixel);
std::string minus_node(const circuit::Strip& strip, std::size_t pixel);

} // namespace conductus::files
