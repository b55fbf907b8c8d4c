// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <cctype>
#include <optional>
#include <string>

#include "core/circuit/network.h"

namespace conductus::circuit {

/// The node of a part's terminal, "U1" and "bat"; empty where nothing is wired to it.
inline std::optional<Node> node_of(const Network& network, const std::string& ref,
                                   const char* terminal) {
    std::string name = ref + "_" + terminal;
    for (char& c : name)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    const auto it = std::find(network.nodes.begin(), network.nodes.end(), name);
    if (it == network.nodes.end()) return std::nullopt;
    return static_cast<Node>(it - network.nodes.begin());
}

/// Volts of that terminal against ground.
inline std::optional<double> volts_of(const Network& network, const OperatingPoint& point,
                                      const std::string& ref, const char* terminal) {
    const auto node = node_of(network, ref, terminal);
    return node ? std::optional(point.volts[*node]) : std::nullopt;
}

} // namespace conductus::circuit
