// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/circuit/network.h"

namespace conductus::circuit {

/// What carries one current, piece by piece: indices into the network's lists.
struct Branch {
    std::vector<std::size_t> resistors, diodes, limiters;
    std::vector<std::size_t> outputs; ///< converters that give at its end
};

/// What is soldered where in a network, leaks aside.
class Soldering {
public:
    explicit Soldering(const Network& network);
    /// From a node on in every direction, as long as only one thing goes on.
    [[nodiscard]] Branch from(Node node) const;
    /// All that carries the junction's current alone; itself not in it.
    [[nodiscard]] Branch beside(std::size_t diode) const;

private:
    struct Ends {
        std::vector<std::size_t> resistors, diodes, limiters, outputs;
        std::size_t others = 0;
        [[nodiscard]] std::size_t count() const {
            return resistors.size() + diodes.size() + limiters.size() + outputs.size() + others;
        }
    };
    void walk(Node node, Branch& branch) const;
    const Network& network_;
    std::vector<Ends> ends_; ///< of each node
};

} // namespace conductus::circuit
