// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/data_level.h"

#include <optional>

#include "core/circuit/terminal.h"
#include "core/job/lookup.h"

namespace conductus::power {
namespace {

/// Rails of a group's pixel against ground.
struct Rails {
    double plus = 0, minus = 0;
};

std::optional<Rails> rails_of(const std::string& ref, bool last, const circuit::Network& network,
                              const circuit::OperatingPoint& point) {
    for (std::size_t i = 0; i < network.strips.size(); ++i) {
        if (network.strips[i].ref != ref) continue;
        const auto& state = point.strips[i];
        const std::size_t k = last ? state.volts.size() - 1 : 0;
        return Rails{state.rail[k], state.rail[k] - state.volts[k]};
    }
    return std::nullopt;
}

} // namespace

std::vector<DataHop> data_levels(const job::Job& job, const catalogue::Catalogue& parts,
                                 const lights::Chains& chains, const circuit::Network& network,
                                 const circuit::OperatingPoint& point) {
    std::vector<DataHop> hops;
    for (const lights::Chain& chain : chains.chains) {
        const std::string board_ref(job::split_terminal(chain.pad).first);
        const job::Part* part = job::find_ref(job.parts, board_ref);
        const auto* board = parts.find_as<catalogue::Board>(part->type);
        const double ground = circuit::volts_of(network, point, board_ref, "gnd").value_or(0);
        const double bat = circuit::volts_of(network, point, board_ref, "bat").value_or(0);
        for (const std::size_t i : chain.groups) {
            const lights::Group& g = chains.groups[i];
            const auto here = rails_of(g.ref, false, network, point);
            if (!here) continue;
            double high = 0; // against the cell's negative end
            if (!g.shifter.empty()) {
                const auto plus = circuit::volts_of(network, point, g.shifter, "plus");
                if (!plus) continue;
                high = *plus;
            } else if (!g.before.empty()) {
                const auto before = rails_of(g.before, true, network, point);
                if (!before) continue;
                high = before->plus;
            } else {
                // A logic level is against the board's own ground, and no higher than its supply.
                const double logic = board->logic.value();
                high = logic > 0 ? std::min(ground + logic, bat) : bat;
            }
            const auto* pixel = parts.find_as<catalogue::Pixel>(g.pixel);
            DataHop hop;
            hop.line = chain.pad;
            hop.from = g.before.empty() ? chain.pad : g.before;
            hop.to = g.ref;
            hop.shifter = g.shifter;
            hop.high = Volt(high - here->minus);
            hop.need = Volt(pixel->data_share * (here->plus - here->minus));
            hop.shift = Volt(here->minus - ground);
            hop.series = g.series;
            hops.push_back(hop);
        }
    }
    return hops;
}

} // namespace conductus::power
