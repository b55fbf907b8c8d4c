// SPDX-License-Identifier: GPL-3.0-or-later
// SPICE netlist: what an independent circuit simulator is given.
#pragma once

#include <string>

#include "core/circuit/network.h"

namespace conductus::files {

/// A netlist that a SPICE simulator runs in batch as it is (.op), printing every node. Nodes have
/// the names of the network, pixels those of plus_node() and minus_node(). Ground is 0. `start` may
/// be null: else its voltages are where the simulator begins, which networks with converters need.
std::string spice_text(const circuit::Network& network, const std::string& title,
                       const circuit::OperatingPoint* start = nullptr);

/// Names of a pixel's two rail nodes, counted from 1 at the foot: "st1_p117", "st1_n117".
std::string plus_node(const circuit::Strip& strip, std::size_t pixel);
std::string minus_node(const circuit::Strip& strip, std::size_t pixel);

} // namespace conductus::files
