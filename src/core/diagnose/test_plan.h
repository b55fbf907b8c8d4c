// SPDX-License-Identifier: GPL-3.0-or-later
// How a build is tried: every step with what it should read, in an order in which no fault damages
// what an earlier step would have saved. docs/models.md, "Test plan".
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/diagnose/band.h"
#include "core/job/edit.h"

namespace conductus::diagnose {

/// In their order: nothing that a stage could burn is left unfound by those before it.
enum class TestStage { in_hand, before_power, killed, first_power, at_rest, lit, handling };
Message words_of(TestStage stage);

/// A step, and the band of what it reads.
struct TestStep : Band {
    /// What the step is told by in a job: what is read, the state and the points between " | ".
    std::string id;
    TestStage stage = TestStage::in_hand;
    Message words;        ///< what to do: "W3 from end to end"
    std::string state;    ///< as of a Measure; of what is seen the state it is seen in
    std::string from, to; ///< probes; empty: none
    bool turned = false;
    std::optional<Measure> measured; ///< as the finder knows it; empty: it can not weigh it
    double minutes = 0.5;
    /// Faults that this step finds and none before it: indices of Finder::faults().
    std::vector<std::size_t> finds;
    Message purpose;      ///< what else it is for; empty: for `finds` alone
    Message below, above; ///< what to do when it reads less, or more; of what is not seen the first
};

struct TestPlan {
    std::vector<TestStep> steps;
    std::vector<std::size_t> not_found; ///< faults that no step finds
    double minutes = 0;
};

/// `loudness`: dB at a metre that the speaker should have; empty: it is not told.
TestPlan test_plan(Finder& finder, std::optional<double> loudness = {});

/// As it was tried; untried where it was not. What was read is judged against the plan as it is.
Verdict judged(const TestStep& step, const job::Bench& bench);
const job::BenchTried* tried(const job::Bench& bench, const TestStep& step);

/// The step is tried: seen as it should be or not, or read.
job::Edit try_step(const TestStep& step, std::optional<double> read, bool fine, std::string on,
                   std::string note = {});
/// As if it had not been tried: what it read is no evidence for the search either.
job::Edit untry_step(const TestStep& step);
/// The plan is signed off, with what was not tried. Refused: a step that was tried is out.
job::Edit sign_off(const TestPlan& plan, std::string on, std::string by);

} // namespace conductus::diagnose
