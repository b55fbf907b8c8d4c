// SPDX-License-Identifier: GPL-3.0-or-later
// A clean job plus one mistake must raise exactly one finding, whose fix mends it.
#pragma once

#include <set>

#include "core/findings/finding.h"
#include "core/job/validate.h"
#include "support/fixtures.h"

namespace conductus::test {

struct Mistake {
    const char* name;
    const char* id; ///< of the finding
    findings::Severity severity;
    bool has_fix;
    void (*plant)(job::Job&);
};

inline std::set<std::string> ids(const plan::Plan& plan) {
    std::set<std::string> set;
    for (const findings::Finding& f : plan.findings)
        set.insert(f.id);
    return set;
}

inline const findings::Finding* find(const plan::Plan& plan, const std::string& id) {
    return findings::finding_of(plan.findings, id);
}

inline void raises_exactly_one_finding(const Mistake& m) {
    job::Job job = clean_job();
    m.plant(job);
    const auto valid = job::validate(job, parts());
    ASSERT_TRUE(valid) << valid.error().text();
    const plan::Plan plan = plan_of(job);
    EXPECT_EQ(ids(plan), (std::set<std::string>{m.id, "cell.lithium-cautions"}));
    const findings::Finding* f = find(plan, m.id);
    ASSERT_TRUE(f);
    EXPECT_EQ(f->severity, m.severity);
    EXPECT_FALSE(f->where.empty());
    EXPECT_FALSE(f->evidence.empty());
    EXPECT_FALSE(f->text.empty());
    EXPECT_EQ(f->fix.has_value(), m.has_fix);
    if (!f->fix) return;
    job::Job mended = job;
    f->fix->edit(mended);
    ASSERT_TRUE(job::validate(mended, parts()));
    EXPECT_FALSE(ids(plan_of(mended)).contains(m.id)) << f->fix->text;
}

} // namespace conductus::test
