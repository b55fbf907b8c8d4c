// SPDX-License-Identifier: GPL-3.0-or-later
// Steps of the test plan as they were tried, and the plan signed off.
#include <algorithm>
#include <iterator>

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

namespace {

/// What a step read the last time is no evidence any more: it is read anew, or was no reading.
void drop_reading_of(job::Bench& bench, const TestStep& step) {
    const job::BenchTried* before = tried(bench, step);
    if (!before || !before->read || !step.measured) return;
    const int now = static_cast<int>(bench.mends.size());
    auto& all = bench.readings;
    const auto last = std::find_if(all.rbegin(), all.rend(), [&](const job::BenchReading& r) {
        return r.mends == now && r.what == step.what && r.state == step.measured->state &&
               r.from == step.from && r.to == step.to && r.turned == step.turned &&
               r.value == *before->read;
    });
    if (last != all.rend()) all.erase(std::next(last).base());
}

/// What is tried after it was signed is not what was signed.
void unsign(job::Bench& bench) {
    bench.signed_on.clear(), bench.signed_by.clear();
    bench.steps = 0, bench.untried.clear();
}

} // namespace

job::Edit try_step(const TestStep& step, std::optional<double> read, bool fine, std::string on,
                   std::string note) {
    job::BenchTried done{step.id, read, read ? step.judge(*read) != Verdict::out : fine,
                         std::move(on), std::move(note)};
    return [done = std::move(done), step](job::Job& job) {
        drop_reading_of(job.bench, step);
        // What a meter read at the hilt is evidence for the search as well.
        if (done.read && step.measured) {
            job::BenchReading reading{step.what, step.measured->state, step.from, step.to,
                                      *done.read};
            reading.turned = step.turned, reading.on = done.on;
            (void)add_reading(std::move(reading))(job);
        }
        unsign(job.bench);
        for (job::BenchTried& t : job.bench.tried)
            if (t.step == done.step) {
                t = done;
                return;
            }
        job.bench.tried.push_back(done);
    };
}

job::Edit untry_step(const TestStep& step) {
    return [step](job::Job& job) {
        drop_reading_of(job.bench, step);
        unsign(job.bench);
        std::erase_if(job.bench.tried, [&](const job::BenchTried& t) { return t.step == step.id; });
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
