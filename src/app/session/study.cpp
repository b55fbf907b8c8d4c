// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/study.h"

namespace conductus::app {

void Study::ask(const PlanPtr& plan, std::vector<Celsius> temperatures,
                std::function<void(StudyPtr)> done) {
    if (plan->job == job_ && temperatures == temperatures_) {
        if (made_) done(made_);
        return;
    }
    job_ = plan->job;
    temperatures_ = std::move(temperatures);
    made_.reset();
    waiting_ = true;
    newest_.ask(
        [job = plan->job, parts = plan->parts, at = temperatures_] {
            return std::make_shared<const Result<plan::UseStudy>>(
                plan::use_study(*job, *parts, at));
        },
        [this, done = std::move(done)](StudyPtr study) {
            made_ = study;
            waiting_ = false;
            done(std::move(study));
        });
}

} // namespace conductus::app
