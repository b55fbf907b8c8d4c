// SPDX-License-Identifier: GPL-3.0-or-later
// Steps of the test plan as they were tried, and the plan signed off.
#include <algorithm>

#include "core/diagnose/diagnosis.h"
#include "core/diagnose/test_plan.h"

namespace conductus::diagnose {

const job::BenchTried* tried(const job::Bench& bench, const TestStep& step) {
    for (const job::BenchTried& t : bench.tried)
        if (t.step == step.id) return &t;
    return nullptr;
}

Verdict judged(const TestStep& step, const job::Bench& bench) {
    const job::BenchTried* t = tried(bench, step);
    if (!t) return Verdict::untried;
    if (t->read) return step.judge(*t->read);
    return t->fine ? Verdict::fine : Verdict::out;
}

job::Edit try_step(const TestStep& step, std::optional<double> read, bool fine, std::string on,
                   std::string note) {
    job::BenchTried done{step.id, read, read ? step.judge(*read) != Verdict::out : fine,
                         std::move(on), std::move(note)};
    // What a meter read at the hilt is evidence for the search as well.
    std::optional<job::BenchReading> reading;
    if (read && step.measured) {
        reading = job::BenchReading{step.what, step.measured->state, step.from, step.to, *read};
        reading->turned = step.turned, reading->on = done.on;
    }
    return [done = std::move(done), reading = std::move(reading)](job::Job& job) {
        if (reading) (void)add_reading (*reading)(job);
        // What is tried after it was signed is not what was signed.
        job.bench.signed_on.clear(), job.bench.signed_by.clear();
        job.bench.steps = 0, job.bench.untried.clear();
        for (job::BenchTried& t : job.bench.tried)
            if (t.step == done.step) {
                t = done;
                return;
            }
        job.bench.tried.push_back(done);
    };
}

job::Edit untry_step(std::string id) {
    return [id = std::move(id)](job::Job& job) {
        job.bench.signed_on.clear(), job.bench.signed_by.clear();
        job.bench.steps = 0, job.bench.untried.clear();
        std::erase_if(job.bench.tried, [&](const job::BenchTried& t) { return t.step == id; });
    };
}

job::Edit sign_off(const TestPlan& plan, std::string on, std::string by) {
    return [plan, on = std::move(on), by = std::move(by)](job::Job& job) -> Result<void> {
        std::vector<std::string> untried;
        for (const TestStep& s : plan.steps) {
            const Verdict v = judged(s, job.bench);
            if (v == Verdict::out)
                return problem("the test plan", say("'{}' is out of its band", s.words.english()),
                               "Find the fault, mend it, and try that step again");
            if (v == Verdict::untried) untried.push_back(s.words.english());
        }
        if (untried.size() == plan.steps.size())
            return problem("the test plan", "nothing was tried yet", "Try the first step");
        constexpr std::size_t named = 12;
        job.bench.signed_on = on, job.bench.signed_by = by;
        job.bench.steps = static_cast<int>(plan.steps.size());
        std::string words;
        for (std::size_t i = 0; i < untried.size() && i < named; ++i)
            words += (i ? "; " : "") + untried[i];
        if (untried.size() > named) words += say("; and {} more", untried.size() - named).english();
        job.bench.untried = words;
        return {};
    };
}

} // namespace conductus::diagnose
