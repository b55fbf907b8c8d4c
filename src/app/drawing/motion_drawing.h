// SPDX-License-Identifier: GPL-3.0-or-later
// Movements against the thresholds of the board: where each kind begins, and the course of one.
#pragma once

#include <vector>

#include "app/drawing/drawing.h"
#include "app/session/session.h"
#include "core/motion/felt.h"

namespace conductus::app {

/// What all movements come to, in a lane for each kind that the board can feel.
struct MotionStudy {
    std::vector<motion::Trace> traces;
    job::MotionSettings settings; ///< 0: that is not entered
    std::vector<motion::Reach> reached;
    std::vector<motion::Parting> partings;
};
/// Of the made-up movements, and those that are given beside them.
MotionStudy motion_study(const job::MotionSettings& settings,
                         const std::vector<motion::Trace>& more = {});

DrawingPtr thresholds_drawing(std::shared_ptr<const MotionStudy> study);
/// The same of a job and the made-up movements alone.
DrawingPtr motion_drawing(const PlanPtr& plan);

/// Turning and acceleration of one movement over time, what was meant, and what the board takes it
/// for at these thresholds.
DrawingPtr trace_drawing(motion::Trace trace, const job::MotionSettings& settings);

} // namespace conductus::app
