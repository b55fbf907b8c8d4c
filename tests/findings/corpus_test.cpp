// SPDX-License-Identifier: GPL-3.0-or-later
// The corpus: planted mistakes that must be named, each by one finding, and sound builds that must
// be left in peace. The sums are printed.
#include <atomic>
#include <cstdio>
#include <fmt/format.h>
#include <mutex>
#include <set>

#include "core/findings/rules.h"
#include "core/plan/analyse.h"
#include "core/plan/fixes.h"
#include "support/corpus.h"
#include "support/planted.h"
#include "threads/side_by_side.h"

namespace conductus::findings {
namespace {

using namespace test;

plan::Plan figures_of(const job::Job& job) {
    return plan::analyse_figures(std::make_shared<const job::Job>(job), shared_parts());
}

/// Id and first thing of every main finding.
std::set<std::string> named(const plan::Plan& plan) {
    std::set<std::string> all;
    for (const Finding& f : plan.findings)
        all.insert(f.id + " " + (f.where.empty() ? f.text.english() : f.where[0]));
    return all;
}

TEST(Corpus, PlantedMistakesAreNamedEachByOneFinding) {
    std::map<std::string, std::set<std::string>> before;
    for (const auto& [name, job] : base_jobs())
        before[name] = named(figures_of(job));
    const std::vector<Case> all = planted_mistakes();
    ASSERT_GE(all.size(), 250u);
    std::atomic<std::size_t> caught = 0, single = 0;
    std::mutex printing;
    side_by_side(all.size(), [&](std::size_t i) {
        const Case& c = all[i];
        const plan::Plan plan = figures_of(c.job);
        bool hit = false;
        std::size_t fresh = 0;
        std::string said;
        for (const Finding& f : plan.findings) {
            const std::string name = f.id + " " + (f.where.empty() ? f.text.english() : f.where[0]);
            if (before[c.base].contains(name)) continue;
            ++fresh;
            said += fmt::format("\n    {} {}: {}", word(f.severity), f.id, f.text.english());
            hit = hit || (std::find(c.ids.begin(), c.ids.end(), f.id) != c.ids.end() &&
                          (c.severity.empty() || c.severity == word(f.severity)));
        }
        caught += hit, single += fresh == 1;
        if (hit && fresh == 1) return;
        const std::scoped_lock lock(printing);
        fmt::print("  {}: {}{}\n", hit ? "more than one" : "missed", c.name, said);
    });
    fmt::print("  {} planted mistakes: {} named, {} by exactly one finding\n", all.size(),
               caught.load(), single.load());
    EXPECT_GE(static_cast<double>(caught), 0.98 * static_cast<double>(all.size()));
    EXPECT_GE(static_cast<double>(single), 0.95 * static_cast<double>(all.size()));
}

TEST(Corpus, SoundBuildsAreLeftInPeace) {
    const std::vector<Case> all = sound_builds();
    ASSERT_GE(all.size(), 100u);
    std::atomic<std::size_t> alarms = 0;
    std::mutex printing;
    side_by_side(all.size(), [&](std::size_t i) {
        const plan::Plan plan = figures_of(all[i].job);
        std::string said;
        for (const Finding& f : plan.findings)
            if (f.severity != Severity::note)
                said += fmt::format("\n    {} {}: {}", word(f.severity), f.id, f.text.english());
        if (said.empty()) return;
        ++alarms;
        const std::scoped_lock lock(printing);
        fmt::print("  alarm: {}{}\n", all[i].name, said);
    });
    fmt::print("  {} sound builds: {} false alarms\n", all.size(), alarms.load());
    EXPECT_LE(alarms * 100, all.size());
}

TEST(Corpus, EveryFixThatIsOfferedMendsItsMistakeAndHarmsNothing) {
    const std::vector<Case> all = planted_mistakes();
    std::atomic<std::size_t> offered = 0, stops = 0, mended = 0;
    side_by_side(all.size(), [&](std::size_t i) {
        plan::Plan plan = figures_of(all[i].job);
        ASSERT_TRUE(plan::offer_fixes(plan));
        for (const Finding& f : plan.findings) {
            if (f.severity == Severity::stop) ++stops, mended += f.fix.has_value();
            for (const auto* fix : {&f.fix, &f.other}) {
                if (!*fix) continue;
                ++offered;
                job::Job job = all[i].job;
                ASSERT_TRUE((*fix)->edit(job)) << all[i].name;
                ASSERT_TRUE(job::validate(job, parts())) << all[i].name;
                const plan::Plan after = figures_of(job);
                EXPECT_TRUE(harness::Levels(job, parts()).shorts().empty() ||
                            !plan.levels->shorts().empty())
                    << all[i].name << ": " << (*fix)->text;
                for (const Finding& then : after.findings) {
                    EXPECT_FALSE(then.id == f.id && then.where == f.where)
                        << all[i].name << ": " << (*fix)->text;
                    // What is told of wires afterwards was told before, or hidden by a missing one.
                    const Rule* r = rule(then.id);
                    EXPECT_TRUE(f.id == "harness.missing" || f.id == "supply.not-solved" ||
                                f.id == "line.no-data" || then.severity == Severity::note || !r ||
                                r->basis != Basis::wiring || find(plan, then.id))
                        << all[i].name << ": " << (*fix)->text << " leads to " << then.text;
                }
                if (after.findings.empty()) continue;
                EXPECT_GE(after.findings[0].severity, plan.findings[0].severity)
                    << all[i].name << ": " << (*fix)->text << " leads to "
                    << after.findings[0].text;
            }
        }
    });
    fmt::print("  {} fixes offered; {} of {} stops have one\n", offered.load(), mended.load(),
               stops.load());
    EXPECT_GT(offered, all.size() / 3);
}

TEST(Rules, EveryRuleHasAnIdAndSaysWhatItIs) {
    std::set<std::string_view> ids;
    for (const Rule& r : rules()) {
        EXPECT_TRUE(ids.insert(r.id).second) << r.id << " is there twice";
        EXPECT_FALSE(r.looks_at.empty() || r.source.empty() || r.remedy.empty()) << r.id;
        EXPECT_NE(r.id.find('.'), std::string_view::npos) << r.id;
    }
    // Nothing is said that no rule says.
    for (const Case& c : planted_mistakes())
        for (const std::string& id : c.ids)
            EXPECT_TRUE(rule(id)) << id;
}

TEST(Rules, SeverityFollowsWhatTheHiltIsFor) {
    const Rule& seat = *rule("socket.too-weak");
    EXPECT_EQ(severity_for(seat, Severity::warn, job::Occasion::stage), Severity::warn);
    EXPECT_EQ(severity_for(seat, Severity::warn, job::Occasion::shelf), Severity::note);
    EXPECT_EQ(severity_for(seat, Severity::warn, job::Occasion::bout), Severity::stop);
    const Rule& shorted = *rule("cell.shorted");
    for (const auto occasion : {job::Occasion::shelf, job::Occasion::bout})
        EXPECT_EQ(severity_for(shorted, Severity::stop, occasion), Severity::stop);
}

TEST(Rules, TheDocumentIsMadeOfTheTable) {
    const Ran made = run(bin_dir().string() + "/conductus-cli rules --markdown");
    EXPECT_EQ(made.out, read_file(source_dir() / "docs" / "rules.md"))
        << "make it anew: conductus-cli rules --markdown > docs/rules.md";
}

} // namespace
} // namespace conductus::findings
