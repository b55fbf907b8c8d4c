// SPDX-License-Identifier: GPL-3.0-or-later
// What the bench says as findings and on the owner's page: what is out, unproved, untried.
#include <set>

#include "core/findings/finding.h"
#include "core/plan/owner_page.h"
#include "support/fixtures.h"
#include "support/planted.h"

namespace conductus::findings {
namespace {

using namespace test;

std::set<std::string> bench_ids(const job::Job& job) {
    std::set<std::string> ids;
    for (const Finding& f : plan_of(job).findings)
        if (f.id.starts_with("bench.")) ids.insert(f.id);
    return ids;
}

TEST(BenchRules, WhatIsOutUnprovedOrUntriedIsSaidEverywhere) {
    job::Job job = clean_job();
    EXPECT_TRUE(bench_ids(job).empty()) << "nothing was tried yet, and it is still being built";
    job.bench.tried.push_back({"ohms | cell out | B1.plus | U1.bat", 0.04, true, "2026-11-20"});
    EXPECT_TRUE(bench_ids(job).empty());
    job.bench.tried.push_back({"amps | idle | B1.plus | ", 1.4, false, "2026-11-20"});
    EXPECT_EQ(bench_ids(job), std::set<std::string>{"bench.out"});
    const auto plan = plan_of(job);
    const Finding* out = finding_of(plan.findings, "bench.out");
    ASSERT_TRUE(out);
    EXPECT_NE(out->detail.english().find("amps, idle, B1.plus"), std::string::npos);
    job.bench.tried.pop_back();

    job.bench.mends.push_back({"worn P1.plus", "P1.plus has a worn spring", "P1", "2026-11-20"});
    EXPECT_EQ(bench_ids(job), std::set<std::string>{"bench.unproved"});
    job.bench.mends[0].proof = "P1.plus against BL1: 40 mV";
    EXPECT_TRUE(bench_ids(job).empty());

    job.stage = job::Stage::handed_over;
    EXPECT_EQ(bench_ids(job), std::set<std::string>{"bench.untried"});
    job.bench.signed_on = "2026-11-21", job.bench.steps = 42, job.bench.untried = "loudness";
    EXPECT_EQ(bench_ids(job), std::set<std::string>{"bench.untried"});
    const auto page = [&] { return plan::owner_text(plan::owner_page(plan_of(job))); };
    EXPECT_NE(page().find("not tried: loudness"), std::string::npos) << page();
    EXPECT_NE(page().find("Mended: P1.plus has a worn spring"), std::string::npos);
    job.bench.untried.clear();
    EXPECT_TRUE(bench_ids(job).empty());
    EXPECT_NE(page().find("everything was tried"), std::string::npos);
}

} // namespace
} // namespace conductus::findings
