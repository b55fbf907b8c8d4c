// SPDX-License-Identifier: GPL-3.0-or-later
// The use lived through, made off the interface thread for the sheet that shows it.
#pragma once

#include "app/session/newest.h"
#include "app/session/session.h"
#include "core/plan/use_study.h"

namespace conductus::app {

using StudyPtr = std::shared_ptr<const Result<plan::UseStudy>>;

class Study {
public:
    /// Asks for the study of a plan's job; `done` is called on the interface thread with the
    /// newest. The same plan and temperatures again: nothing is made anew.
    void ask(const PlanPtr& plan, std::vector<Celsius> temperatures,
             std::function<void(StudyPtr)> done);
    /// Whether what is asked for is still being made.
    [[nodiscard]] bool waiting() const { return waiting_; }

private:
    JobPtr job_;
    std::vector<Celsius> temperatures_;
    StudyPtr made_;
    bool waiting_ = false;
    Newest<StudyPtr> newest_;
};

} // namespace conductus::app
