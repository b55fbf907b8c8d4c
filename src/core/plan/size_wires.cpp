// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/answers.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/harness/gauge.h"
#include "core/job/lookup.h"
#include "core/power/state.h"

namespace conductus::plan {
namespace {

/// What flows in one state.
struct Flow {
    std::map<std::string, double> amps, drops; ///< of each wire
    double watts = 0, fixed_watts = 0, pack = 0;
};

class Sizer {
public:
    Sizer(const Plan& plan, Volt budget) : plan_(plan), budget_(budget) {
        for (const job::Wire& w : plan.job->wires)
            if ((w.role == job::Role::supply || w.role == job::Role::return_path) && !w.resistance)
                refs_.push_back(w.ref);
    }

    Result<SizedWires> run() {
        if (plan_.trouble) return tl::unexpected(*plan_.trouble);
        if (plan_.harness.worst.empty())
            return problem("/wires", "nothing flows that wires could be sized by",
                           "Wire the board and the blade to the cell");
        state_ = power::state_named(*plan_.job, *plan_.parts, "worst", plan_.job->use.look, 1);
        if (!state_) return tl::unexpected(state_.error());
        job::Job job = *plan_.job;
        auto flow = flow_in(job);
        if (!flow) return tl::unexpected(flow.error());
        SizedWires s;
        s.state = plan_.harness.worst;
        s.budget = budget_;
        s.now = Volt(flow->watts / flow->pack);
        s.copper_now = copper(job);

        // The thicker, the more flows, the more is lost: what was allowed is taken back until what
        // is solved keeps to the budget.
        double allowed = budget_.value();
        std::vector<int> wanted = gauges_of(job);
        std::optional<std::pair<job::Job, Flow>> best;
        for (int pass = 0; pass < 12; ++pass) {
            const auto loads = loads_of(*flow);
            const harness::Sizing sizing =
                harness::least_copper(loads, flow->pack, allowed - flow->fixed_watts / flow->pack);
            s.reached = sizing.reached;
            const bool same = sizing.gauge == wanted;
            wanted = sizing.gauge;
            for (std::size_t i = 0; i < refs_.size(); ++i)
                job::find_ref(job.wires, refs_[i])->gauge = wanted[i];
            flow = flow_in(job);
            if (!flow) return tl::unexpected(flow.error());
            const double drop = flow->watts / flow->pack;
            if (drop <= budget_.value() * (1 + 1e-12)) {
                if (!best || copper(job) < copper(best->first) - 1e-9) best = {job, *flow};
                if (same || pass > 6) break;
            } else if (!sizing.reached) {
                break;
            } else if (same) {
                allowed *= std::min(0.999, budget_.value() / drop);
            }
        }
        if (best) {
            job = best->first, *flow = best->second;
        } else {
            s.reached = false;
            for (std::size_t i = 0; i < refs_.size(); ++i)
                job::find_ref(job.wires, refs_[i])->gauge = harness::gauges.front();
            flow = flow_in(job);
            if (!flow) return tl::unexpected(flow.error());
        }
        s.drop = Volt(flow->watts / flow->pack);
        s.copper = copper(job);
        std::map<std::string, int> gauge;
        for (const std::string& ref : refs_) {
            const int to = job::find_ref(job.wires, ref)->gauge;
            s.wires.push_back({ref, job::find_ref(plan_.job->wires, ref)->gauge, to,
                               Ampere(flow->amps[ref]), Volt(flow->drops[ref])});
            gauge[ref] = to;
        }
        s.edit = [gauge](job::Job& j) {
            for (job::Wire& w : j.wires)
                if (const auto it = gauge.find(w.ref); it != gauge.end()) w.gauge = it->second;
        };
        return s;
    }

private:
    [[nodiscard]] std::vector<int> gauges_of(const job::Job& job) const {
        std::vector<int> all;
        for (const std::string& ref : refs_)
            all.push_back(job::find_ref(job.wires, ref)->gauge);
        return all;
    }
    Result<Flow> flow_in(const job::Job& job) const {
        const auto network = power::network_of(job, *plan_.parts, *state_);
        if (!network) return tl::unexpected(network.error());
        const auto point = circuit::solve(*network);
        if (!point) return tl::unexpected(point.error());
        Flow flow;
        flow.pack = std::max(1e-9, circuit::pack_amps(*network, *point));
        for (std::size_t i = 0; i < network->resistors.size(); ++i) {
            const auto& r = network->resistors[i];
            if (r.part != circuit::Part::wire) continue;
            const double amps = std::abs(point->resistor_amps[i]), watts = amps * amps * r.ohms;
            flow.amps[r.ref] = amps;
            flow.drops[r.ref] = std::abs(point->volts[r.a] - point->volts[r.b]);
            flow.watts += watts;
            if (std::find(refs_.begin(), refs_.end(), r.ref) == refs_.end())
                flow.fixed_watts += watts;
        }
        return flow;
    }
    [[nodiscard]] std::vector<harness::WireLoad> loads_of(const Flow& flow) const {
        std::vector<harness::WireLoad> loads;
        for (const std::string& ref : refs_) {
            const double amps = flow.amps.contains(ref) ? flow.amps.at(ref) : 0;
            loads.push_back({ref, amps, plan_.harness.wire(ref)->length.value(),
                             harness::finest_by_heat(Ampere(amps))});
        }
        return loads;
    }
    [[nodiscard]] double copper(const job::Job& job) const {
        return harness::copper_of(loads_of({}), gauges_of(job));
    }

    const Plan& plan_;
    Volt budget_;
    std::vector<std::string> refs_;
    Result<power::State> state_;
};

} // namespace

Result<SizedWires> size_wires(const Plan& plan, Volt budget) { return Sizer(plan, budget).run(); }

} // namespace conductus::plan
