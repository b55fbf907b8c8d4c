// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/answers.h"

#include <atomic>

#include "core/harness/built.h"
#include "core/job/edits.h"
#include "core/plan/analyse.h"
#include "core/plan/view.h"

namespace conductus::plan {
namespace {

std::shared_ptr<const Plan> figures_of(std::shared_ptr<const job::Job> job, const Plan& like,
                                       const Answering& by) {
    return std::make_shared<const Plan>(
        analyse_figures(std::move(job), like.parts, nullptr, by.parallel_for));
}

} // namespace

Result<Why> answer(const WhyOf& question, const Plan& plan, const Answering& by) {
    return why(plan, question.figure, by.parallel_for, by.stop);
}

Result<StartsTried::Answer> answer(const StartsTried& question, const Plan& plan,
                                   const Answering& by) {
    StartsTried::Answer outcomes;
    for (const Start& start : question.starts) {
        if (by.stop && by.stop()) break;
        StartsTried::Outcome& outcome = outcomes.emplace_back();
        outcome.decided = decided(start, *plan.parts);
        job::Job job = *plan.whole;
        if (const auto ok = begin_job(outcome.decided, *plan.parts)(job); !ok) {
            outcome.worst = findings::Severity::stop;
            outcome.said = ok.error().what;
            continue;
        }
        const auto made = figures_of(std::make_shared<const job::Job>(std::move(job)), plan, by);
        outcome.figures = made->figures;
        for (const findings::Finding& f : made->findings)
            if (f.severity != findings::Severity::note &&
                (!outcome.worst || f.severity < *outcome.worst))
                outcome.worst = f.severity, outcome.said = f.text;
        if (by.told) by.told(outcomes.size(), question.starts.size());
    }
    return outcomes;
}

Result<Film> answer(const FilmOf& question, const Plan& plan, const Answering&) {
    return film_of(plan, question.name, question.look);
}

Result<UseStudy> answer(const UseLivedThrough& question, const Plan& plan, const Answering& by) {
    return use_study(*plan.job, *plan.parts, question.temperatures, by.parallel_for);
}

Result<View> answer(const MomentOf& question, const Plan& plan, const Answering&) {
    const UseStudy& study = **question.study;
    const auto& samples = study.day.samples;
    if (question.sample >= samples.size())
        return problem("", "the day has no such moment", "Ask for one of its samples");
    // Every moment is shown against the foot of the blade in its look with full cells.
    double white_y = 0;
    const LookPlan* look = plan.look(plan.job->use.look);
    if (!look && !plan.looks.empty()) look = &plan.looks.front();
    if (look && look->fresh) (void)view_of(*plan.job, *plan.parts, *look->fresh, 1, white_y);
    return moment_of(plan, study, samples[question.sample], white_y);
}

Result<power::Percentiles> answer(const ManyDays& question, const Plan&, const Answering& by) {
    std::function<void(std::size_t)> told;
    std::atomic<std::size_t> done{0};
    if (by.told) told = [&](std::size_t more) { by.told(done += more, question.days); };
    return power::many_days(*question.loads, question.days, question.seed, by.parallel_for, by.stop,
                            told);
}

Result<Choices> answer(const WaysToBuild&, const Plan& plan, const Answering& by) {
    return choices_of(plan, by.parallel_for, by.stop, by.told);
}

Result<SizedWires> answer(const GaugesUnder& question, const Plan& plan, const Answering&) {
    return size_wires(plan, question.budget);
}

Result<OrdersInTheBore::Answer> answer(const OrdersInTheBore&, const Plan& plan, const Answering&) {
    OrdersInTheBore::Answer answer{hilt::arrange(*plan.job, *plan.parts), {}};
    for (const hilt::Arrangement& a : answer.best) {
        Plan drawn;
        drawn.job = drawn.whole = std::make_shared<const job::Job>(hilt::arranged(*plan.job, a));
        drawn.parts = plan.parts;
        drawn.fit.bodies = hilt::place_all(*drawn.job, *drawn.parts);
        answer.drawn.push_back(std::make_shared<const Plan>(std::move(drawn)));
    }
    return answer;
}

Result<BuiltAgainstPlanned::Answer> answer(const BuiltAgainstPlanned&, const Plan& plan,
                                           const Answering& by) {
    BuiltAgainstPlanned::Answer answer;
    answer.recorded = !plan.job->built.empty();
    if (!answer.recorded) return answer;
    const harness::AsBuilt built = harness::as_built(*plan.job, *plan.parts);
    answer.same = built.wires == plan.job->wires;
    if (answer.same) return answer;
    job::Job job = *plan.whole;
    job.wires = built.wires;
    answer.lines = built.left_out;
    const auto after = figures_of(std::make_shared<const job::Job>(std::move(job)), plan, by);
    for (Message& line : compare(plan, *after).lines())
        answer.lines.push_back(std::move(line));
    return answer;
}

Result<VariantBuilt::Answer> answer(const VariantBuilt& question, const Plan& plan,
                                    const Answering& by) {
    if (question.variant >= plan.job->variants.size())
        return problem("/variants", "there is no such way of building", "Choose one that is kept");
    VariantBuilt::Answer answer;
    answer.plan = figures_of(
        std::make_shared<const job::Job>(job::with_variant(*plan.whole, question.variant)), plan,
        by);
    answer.difference = compare(plan, *answer.plan);
    return answer;
}

Result<std::vector<HiltState>> answer(const StatesOf&, const Plan& plan, const Answering& by) {
    return states_of(*plan.whole, *plan.parts, by.parallel_for);
}

Result<std::vector<PresetPlan>> answer(const PresetsOf&, const Plan& plan, const Answering& by) {
    return presets_of(*plan.whole, *plan.parts, by.parallel_for);
}

Result<BenchOf::Answer> answer(const BenchOf&, const Plan& plan, const Answering&) {
    auto finder = std::make_shared<diagnose::Finder>(*plan.job, *plan.parts,
                                                     diagnose::charge_told(*plan.job, *plan.parts));
    if (finder->faults().empty())
        return problem(plan.job->name, "there is no network to measure in",
                       "Wire the board to the cell first");
    BenchOf::Answer answer{plan.parts, nullptr, {}, 0, 0};
    answer.tests = diagnose::test_plan(*finder, plan.loudness ? plan.loudness->level
                                                              : std::optional<double>());
    answer.path_ohms = diagnose::path_ohms(finder->world());
    answer.lit_amps =
        finder->world().read({job::Reads::amps, finder->world().lit(), {}, {}}, {}).value_or(0);
    answer.finder = std::move(finder);
    return answer;
}

Result<diagnose::Diagnosis> answer(const DiagnosisOf& question, const Plan&, const Answering&) {
    return diagnose::diagnosed(*(*question.bench)->finder, question.told);
}

Result<diagnose::Played> answer(const CasePlayed& question, const Plan&, const Answering&) {
    return diagnose::play(*(*question.bench)->finder, question.level, question.seed);
}

Result<Comparison> answer(const Between& question, const Plan& plan, const Answering& by) {
    return compare(*figures_of(question.before, plan, by), *figures_of(question.after, plan, by));
}

} // namespace conductus::plan
