// SPDX-License-Identifier: GPL-3.0-or-later
#include <chrono>
#include <fmt/format.h>

#include "cli/commands.h"
#include "core/base/format.h"
#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/plan/states.h"
#include "core/power/state.h"
#include "files/json_text.h"
#include "files/spice.h"
#include "shop/book.h"

namespace conductus::cli {
namespace {

using files::Json;

/// A job as it stands in a state, and its network.
struct Chosen {
    shop::Named named;
    circuit::Network network;
};

Result<Chosen> chosen_of(const catalogue::Catalogue& parts, const StateChoice& choice) {
    auto named = job_with(parts, choice.job, choice.mated);
    if (!named) return tl::unexpected(named.error());
    auto of = plan::state_of(named->job, *named->parts, choice.state, choice.look, choice.preset,
                             choice.charge);
    if (!of) return tl::unexpected(of.error());
    // A look beside a state says over which look an effect is shown, and nothing else.
    if (!choice.state.empty() && !choice.look.empty() && !of->state.effect)
        return problem("--look",
                       say("it says nothing beside the state '{}'", shown(choice.state, 60)),
                       "Leave one of the two out; a look goes with the name of an effect");
    auto network = power::network_of(of->job, *named->parts, of->state);
    if (!network) return tl::unexpected(network.error());
    named->job = std::move(of->job);
    return Chosen{std::move(*named), std::move(*network)};
}

/// Every node the netlist has, under the same names.
Json nodes_json(const circuit::Network& network, const circuit::OperatingPoint& point) {
    Json nodes = Json::object();
    for (circuit::Node n = 1; n < network.nodes.size(); ++n)
        nodes[network.nodes[n]] = point.volts[n];
    for (const auto& s : network.sources)
        nodes[s.name + "_ocv"] = point.volts[s.minus] + s.emf;
    for (std::size_t i = 0; i < network.strips.size(); ++i)
        for (std::size_t k = 0; k < point.strips[i].volts.size(); ++k) {
            const double rail = point.strips[i].rail[k];
            nodes[files::plus_node(network.strips[i], k + 1)] = rail;
            nodes[files::minus_node(network.strips[i], k + 1)] = rail - point.strips[i].volts[k];
        }
    return nodes;
}

/// Terminal of the first cell: behind its protection board where it has one.
double cell_volts(const circuit::Network& network, const circuit::OperatingPoint& point) {
    for (const auto& r : network.resistors)
        if (r.part == circuit::Part::protection && r.ref == network.sources[0].ref)
            return point.volts[r.b];
    return point.volts[network.sources[0].plus];
}

} // namespace

int solve(const catalogue::Catalogue& parts, const StateChoice& choice, bool exact, int repeat,
          bool json) {
    const auto chosen = chosen_of(parts, choice);
    if (!chosen) return refuse(chosen.error());
    const circuit::Network* network = &chosen->network;
    using Clock = std::chrono::steady_clock;
    const auto start = Clock::now();
    auto point = exact ? circuit::solve_exact(*network) : circuit::solve(*network);
    for (int i = 1; i < repeat && point; ++i)
        point = exact ? circuit::solve_exact(*network) : circuit::solve(*network);
    const double us =
        std::chrono::duration<double, std::micro>(Clock::now() - start).count() / repeat;
    if (!point) return refuse(point.error());

    const double volts = cell_volts(*network, *point);
    const double amps = circuit::pack_amps(*network, *point);
    if (json) {
        Json strips = Json::array();
        for (std::size_t i = 0; i < network->strips.size(); ++i)
            strips.push_back(
                {{"name", network->strips[i].ref}, {"pixel_volts", point->strips[i].volts}});
        const Json all{
            {"cell", {{"ocv_V", network->sources[0].emf}, {"volts", volts}, {"amps", amps}}},
            {"nodes", nodes_json(*network, *point)},
            {"strips", strips},
            {"solve_us", us}};
        fmt::print("{}\n", all.dump(2));
        return fine;
    }
    fmt::print("cell  {} open, {} at its ends, {}\n", text(Volt(network->sources[0].emf)),
               text(Volt(volts)), text(Ampere(amps)));
    for (circuit::Node n = 1; n < network->nodes.size(); ++n)
        fmt::print("{:<14} {:.6f} V\n", network->nodes[n], point->volts[n]);
    for (std::size_t i = 0; i < network->strips.size(); ++i)
        fmt::print("{:<14} {} pixels, {:.6f} V at the first, {:.6f} V at the last, {}\n",
                   network->strips[i].ref, point->strips[i].volts.size(),
                   point->strips[i].volts.front(), point->strips[i].volts.back(),
                   text(Ampere(point->strips[i].amps)));
    fmt::print("solved in {:.1f} µs\n", us);
    return fine;
}

int export_spice(const catalogue::Catalogue& parts, const StateChoice& choice, double seconds,
                 const std::string& out) {
    const auto chosen = chosen_of(parts, choice);
    if (!chosen) return refuse(chosen.error());
    const circuit::Network* network = &chosen->network;
    const std::string title =
        fmt::format("{} {} at charge {}", shown(choice.job),
                    choice.state.empty() ? choice.look : choice.state, choice.charge);
    if (seconds > 0) {
        const std::string print =
            fmt::format(".print tran v({})\n", network->nodes[network->sources[0].plus]);
        const std::string text = files::spice_transient_text(
            *network, title,
            files::spice_cells(chosen->named.job, *chosen->named.parts, *network, choice.charge),
            seconds, std::max(seconds / 600, 1e-3), print);
        if (auto ok = files::write_output(out, text, files::Content::text); !ok)
            return refuse(ok.error());
        return fine;
    }
    const auto start = network->converters.empty()
                           ? Result<circuit::OperatingPoint>(tl::unexpected(Problem{}))
                           : circuit::solve(*network);
    if (auto ok =
            files::write_output(out, files::spice_text(*network, title, start ? &*start : nullptr),
                                files::Content::text);
        !ok)
        return refuse(ok.error());
    return fine;
}

} // namespace conductus::cli
