// SPDX-License-Identifier: GPL-3.0-or-later
// The solving behind each question of core/plan/questions.h. It takes from milliseconds to half a
// minute: never on a thread that somebody waits for.
#pragma once

#include <functional>

#include "core/base/parallel_for.h"
#include "core/plan/questions.h"

namespace conductus::plan {

/// How a question is worked on.
struct Answering {
    ParallelFor parallel_for = one_by_one;
    std::function<bool()> stop; ///< true: answer with what there is by now
    std::function<void(std::size_t done, std::size_t all)> told; ///< from any thread
};

/// Of an analysed plan; for Between its job and parts are enough. Errors: as of the functions
/// below, which each of them calls.
Result<Why> answer(const WhyOf& question, const Plan& plan, const Answering& by = {});
Result<Film> answer(const FilmOf& question, const Plan& plan, const Answering& by = {});
Result<UseStudy> answer(const UseLivedThrough& question, const Plan& plan,
                        const Answering& by = {});
Result<View> answer(const MomentOf& question, const Plan& plan, const Answering& by = {});
Result<power::Percentiles> answer(const ManyDays& question, const Plan& plan,
                                  const Answering& by = {});
Result<Choices> answer(const WaysToBuild& question, const Plan& plan, const Answering& by = {});
Result<SizedWires> answer(const GaugesUnder& question, const Plan& plan, const Answering& by = {});
Result<OrdersInTheBore::Answer> answer(const OrdersInTheBore& question, const Plan& plan,
                                       const Answering& by = {});
Result<BuiltAgainstPlanned::Answer> answer(const BuiltAgainstPlanned& question, const Plan& plan,
                                           const Answering& by = {});
Result<VariantBuilt::Answer> answer(const VariantBuilt& question, const Plan& plan,
                                    const Answering& by = {});
/// Stopped: as many outcomes as there are by then.
Result<StartsTried::Answer> answer(const StartsTried& question, const Plan& plan,
                                   const Answering& by = {});
Result<std::vector<HiltState>> answer(const StatesOf& question, const Plan& plan,
                                      const Answering& by = {});
Result<std::vector<PresetPlan>> answer(const PresetsOf& question, const Plan& plan,
                                       const Answering& by = {});
/// Error: there is no network to look for a fault in.
Result<BenchOf::Answer> answer(const BenchOf& question, const Plan& plan, const Answering& by = {});
Result<diagnose::Diagnosis> answer(const DiagnosisOf& question, const Plan& plan,
                                   const Answering& by = {});
Result<diagnose::Played> answer(const CasePlayed& question, const Plan& plan,
                                const Answering& by = {});
Result<Comparison> answer(const Between& question, const Plan& plan, const Answering& by = {});

/// Of an analysed plan, whatever figure that is. Each input's tenth is analysed anew. Error: no
/// such figure, named with those there are; what is not known.
Result<Why> why(const Plan& plan, const std::string& figure,
                const ParallelFor& parallel_for = one_by_one,
                const std::function<bool()>& stop = {});

/// `name`: an effect, over `look`, from its start to a little after its end; or a look, for four
/// seconds. From a full cell, with its sound at its peak for an effect. Error: no such look or
/// effect; as of compiling and solving.
Result<Film> film_of(const Plan& plan, const std::string& name, const std::string& look,
                     std::uint64_t seed = 1);

/// Of an analysed job in its use. Errors: as of power::day_loads().
Result<UseStudy> use_study(const job::Job& job, const catalogue::Catalogue& parts,
                           const std::vector<Celsius>& temperatures,
                           const ParallelFor& parallel_for = one_by_one);

/// A moment of a recorded day as the sections show it: its look or effect, its cells as they are
/// then. `white_y` as of view_of(). Errors: as of compiling and solving.
Result<View> moment_of(const Plan& plan, const UseStudy& study, const power::DaySample& sample,
                       double& white_y);

/// `told` is given how many of how many steps are done, from any thread. Errors: as of run_down();
/// a job that fits no cell.
Result<Choices> choices_of(const Plan& plan, const ParallelFor& parallel_for = one_by_one,
                           const std::function<bool()>& stop = {},
                           const std::function<void(std::size_t, std::size_t)>& told = {});

/// Least copper that keeps what all wires lose together under the budget, in the state with the
/// largest current; each cool enough. Currents follow the gauges: it is solved again until both
/// agree. Wires whose resistance was measured stay as they are. Errors: as of solving; a plan that
/// could not be solved.
Result<SizedWires> size_wires(const Plan& plan, Volt budget);

} // namespace conductus::plan
