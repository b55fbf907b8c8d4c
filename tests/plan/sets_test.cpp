// SPDX-License-Identifier: GPL-3.0-or-later
// A socket takes one thing at a time: figures are of what is mated, and of the worst that may be.
#include "core/plan/sets.h"

#include <algorithm>
#include <fmt/format.h>

#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/findings/answered.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "core/plan/analyse.h"
#include "core/power/peaks.h"
#include "files/job_json.h"
#include "support/fixtures.h"
#include "threads/side_by_side.h"

namespace conductus::plan {
namespace {

using namespace test;
using job::Job;
using job::Mated;
using Set = std::vector<Mated>;

/// A second blade for Heron's socket, another of an owner, a plain plug and a lit one.
Job with_mates() {
    Job job = clean_job();
    const auto more = [&](const char* ref, int pixels, double length) -> job::Blade& {
        job::Blade blade = job.blades[0];
        blade.ref = ref;
        blade.length = Millimetre(length);
        int n = 0;
        for (job::Strip& s : blade.strips) {
            s.ref = fmt::format("{}S{}", ref, ++n);
            s.pixels = pixels;
            s.length = Millimetre(length);
        }
        job.blades.push_back(blade);
        return job.blades.back();
    };
    more("BL2", 60, 417);
    more("BL3", 130, 903).count = job::PixelCount::assumed;
    more("PL1", 1, 20).form = job::BladeForm::plug;
    job.blades.back().strips.clear();
    more("PL2", 2, 20).form = job::BladeForm::plug;
    job.blades.back().strips.resize(1);
    EXPECT_TRUE(job::validate(job, parts())) << job::validate(job, parts()).error().text();
    return job;
}

/// The same hilt with a second connector beside the first, on the same pads and line.
Job with_two_sockets() {
    Job job = with_mates();
    job::Part other = *job::find_ref(job.parts, "P1");
    other.ref = "P2";
    other.at += Millimetre(1);
    job.parts.push_back(other);
    const auto wires = job.wires;
    for (job::Wire w : wires)
        for (std::string* end : {&w.from, &w.to})
            if (end->starts_with("P1.")) {
                *end = "P2." + end->substr(3);
                w.ref = "X" + w.ref;
                job.wires.push_back(w);
                break;
            }
    for (job::Blade& b : job.blades)
        if (b.ref != "BL1") b.goes_into = {{"P2"}};
    EXPECT_TRUE(job::validate(job, parts())) << job::validate(job, parts()).error().text();
    return job;
}

double amps_of(const Job& job) {
    const auto state = power::most_of_all(job, parts(), 1);
    EXPECT_TRUE(state) << state.error().text();
    const auto network = power::network_of(job, parts(), *state);
    EXPECT_TRUE(network);
    const auto point = circuit::solve(*network);
    EXPECT_TRUE(point);
    return circuit::pack_amps(*network, *point);
}

/// The job with these blades alone, each in its socket: by hand, for comparing.
Job by_hand(Job job, const std::vector<std::pair<std::string, std::string>>& in) {
    job.mated.clear();
    std::vector<job::Blade> stay;
    for (const auto& [socket, ref] : in)
        if (!ref.empty()) {
            stay.push_back(*job::find_ref(job.blades, ref));
            stay.back().connector = socket;
            stay.back().goes_into.clear();
        }
    std::stable_sort(stay.begin(), stay.end(),
                     [](const auto& a, const auto& b) { return a.ref < b.ref; });
    job.blades = stay;
    return job;
}

TEST(Sets, TwoBladesOfOneSocketDrawAsOne) {
    const Plan one = analyse_figures(std::make_shared<const Job>(clean_job()), shared_parts());
    const Plan many = analyse_figures(std::make_shared<const Job>(with_mates()), shared_parts());
    EXPECT_EQ(job::set_text(many.mated), "BL1 in P1");
    for (std::size_t i = 0; i < one.figures.size(); ++i)
        EXPECT_EQ(one.figures[i].value, many.figures[i].value) << one.figures[i].id;
    EXPECT_EQ(many.whole->blades.size(), 5u);
    EXPECT_EQ(many.job->blades.size(), 1u);
}

TEST(Sets, TheWorstIsFoundAndNamedWithItsFigures) {
    Plan plan = analyse_figures(std::make_shared<const Job>(with_mates()), shared_parts());
    judge_worst_set(plan, one_by_one);
    ASSERT_TRUE(plan.worst_mated);
    EXPECT_EQ(plan.worst_mated->text, "BL3 in P1");
    EXPECT_FALSE(plan.worst_mated->is_mated);
    const Explained* peak = plan.figure("peak-current");
    ASSERT_TRUE(peak->worst);
    EXPECT_GT(*peak->worst, *peak->value);
    EXPECT_EQ(peak->worst_set, "BL3 in P1");
    EXPECT_NEAR(*peak->worst, amps_of(by_hand(with_mates(), {{"P1", "BL3"}})), 1e-6);
    // What only the worst set has is told with its name: clean for long enough, but not with that.
    Job asked = with_mates();
    const Explained* clean = plan.figure("first-crackle");
    ASSERT_TRUE(clean->worst && *clean->worst < *clean->value - 1);
    asked.use.clean = Minute((*clean->worst + *clean->value) / 2);
    Plan told = analyse_figures(std::make_shared<const Job>(asked), shared_parts());
    EXPECT_FALSE(findings::finding_of(told.findings, "sound.crackle-early"));
    judge_worst_set(told, one_by_one);
    const auto* early = findings::finding_of(told.findings, "sound.crackle-early");
    ASSERT_TRUE(early);
    EXPECT_EQ(early->mated, "BL3 in P1");
    EXPECT_TRUE(early->detail.english().starts_with("With BL3 in P1: ")) << early->detail.english();
    // With the worst one in, there is nothing more to tell.
    Job job = with_mates();
    ASSERT_TRUE(job::mate("P1", "BL3")(job));
    Plan worst = analyse_figures(std::make_shared<const Job>(job), shared_parts());
    judge_worst_set(worst, one_by_one);
    EXPECT_TRUE(worst.worst_mated->is_mated);
    EXPECT_FALSE(worst.figure("peak-current")->worst);
    EXPECT_NEAR(*worst.figure("peak-current")->value, *peak->worst, 1e-9);
}

TEST(Sets, TheWorstIsThatOfTryingEvery) {
    std::mt19937 random(21);
    const auto share = [&](double from, double to) {
        return std::uniform_real_distribution<double>(from, to)(random);
    };
    std::vector<Job> jobs;
    for (int i = 0; i < rounds(200); ++i) {
        Job job = i % 2 ? with_mates() : with_two_sockets();
        for (job::Blade& b : job.blades)
            for (job::Strip& s : b.strips)
                s.pixels = std::max(1, static_cast<int>(s.pixels * share(0.3, 1.6)));
        for (job::Look& l : job.looks)
            l.cap = share(0.1, 1), l.colour = {share(0, 1), share(0, 1), share(0, 1), 0};
        jobs.push_back(std::move(job));
    }
    side_by_side(jobs.size(), [&](std::size_t i) {
        const Job& job = jobs[i];
        const bool two = job::find_ref(job.parts, "P2") != nullptr;
        std::vector<std::string> first{""}, second{""};
        for (const job::Blade& b : job.blades) {
            first.push_back(b.ref);
            if (two && b.ref != "BL1") second.push_back(b.ref);
        }
        double most = -1;
        for (const std::string& a : first)
            for (const std::string& b : second)
                if (a.empty() || a != b)
                    most = std::max(most, amps_of(by_hand(job, {{"P1", a}, {"P2", b}})));
        const auto worst = worst_set(job, parts(), one_by_one);
        ASSERT_TRUE(worst);
        EXPECT_NEAR(amps_of(job::as_mated(job, *worst)), most, 1e-6) << i;
    });
}

TEST(Sets, EverySetAgreesWithEveryRailANode) {
    const Job job = with_two_sockets();
    const auto sets = job::all_sets(job, 100);
    EXPECT_EQ(sets.size(), 26u) << "six in the first, five in the second, four of them twice";
    for (const Set& set : sets) {
        const Job as = job::as_mated(job, set);
        const auto network =
            power::network_of(as, parts(), *power::state_named(as, parts(), "", "", 1));
        ASSERT_TRUE(network) << job::set_text(set);
        const auto by_ports = circuit::solve(*network);
        const auto exact = circuit::solve_exact(*network);
        ASSERT_TRUE(by_ports && exact) << job::set_text(set);
        for (std::size_t n = 0; n < network->nodes.size(); ++n)
            EXPECT_NEAR(by_ports->volts[n], exact->volts[n], 1e-6)
                << job::set_text(set) << " " << network->nodes[n];
    }
}

TEST(Sets, ACountThatSuitsTheLongestIsRightForAll) {
    Job job = with_mates();
    const auto told = [](const Job& j) {
        std::vector<std::string> all;
        const Plan plan = analyse_figures(std::make_shared<const Job>(j), shared_parts());
        for (const harness::Mismatch& m : plan.harness.data.mismatches)
            all.push_back(m.text.english());
        return all;
    };
    job.lines = {{"U1.d1", 130}};
    for (const char* ref : {"BL1", "BL2", "BL3", "PL1", "PL2", ""}) {
        ASSERT_TRUE(job::mate("P1", ref)(job));
        EXPECT_EQ(told(job), std::vector<std::string>{}) << ref;
    }
    job.lines[0].pixels = 117;
    ASSERT_TRUE(job::mate("P1", "BL1")(job));
    ASSERT_EQ(told(job).size(), 1u);
    EXPECT_EQ(told(job)[0], "U1.d1 is set to 117 pixels, 130 suit all that may be mated");
    const Plan plan = analyse(std::make_shared<const Job>(job), shared_parts());
    const auto* finding = findings::finding_of(plan.findings, "line.programmed-differs");
    ASSERT_TRUE(finding && finding->fix);
    ASSERT_TRUE(finding->fix->edit(job));
    EXPECT_EQ(job.lines[0].pixels, 130);
    EXPECT_EQ(job.blades.size(), 5u) << "what is laid aside is still there";
}

TEST(Sets, APlugOrAnEmptySocketIsNoMistake) {
    Job job = demo("bittern");
    // P1 takes its blade, its plug or nothing; the two side sockets two of five things, one each,
    // or nothing: 3 × (1 + 2 · 5 + 5 · 4).
    const auto sets = job::all_sets(job, 1000);
    ASSERT_EQ(sets.size(), 93u);
    for (std::size_t i = 0; i < sets.size(); i += 13) {
        const Set& set = sets[i];
        job.mated = set;
        Plan plan = analyse_figures(std::make_shared<const Job>(job), shared_parts());
        judge_worst_set(plan, one_by_one);
        for (const findings::Finding& f : plan.findings)
            EXPECT_EQ(f.severity, findings::Severity::note)
                << job::set_text(set) << ": " << f.text.english();
    }
}

TEST(Sets, AreEditedCheckedAndReadBack) {
    Job job = with_two_sockets();
    EXPECT_EQ(job::sockets_of(job), (std::vector<std::string>{"P1", "P2"}));
    EXPECT_EQ(job::mates_of(job, "P2").size(), 4u);
    EXPECT_EQ(job::set_text(job::mated_set(job)), "BL1 in P1, nothing in P2");
    ASSERT_TRUE(job::mate("P2", "BL2")(job));
    ASSERT_TRUE(job::mate("P1", "BL2")(job)); // out of the one, into the other
    EXPECT_EQ(job::set_text(job::mated_set(job)), "BL2 in P1, nothing in P2");
    EXPECT_FALSE(job::mate("P2", "BL1")(job)) << "it does not go in there";
    EXPECT_FALSE(job::mate("P9", "BL1")(job));
    const auto read = files::read_job(files::job_json(job), parts(), "a file");
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(*read, job);

    ASSERT_TRUE(job::also_into(1, " ")(job));
    EXPECT_TRUE(job.blades[1].goes_into.empty());
    ASSERT_TRUE(job::also_into(1, "P2; P1")(job)) << "its own is not named twice";
    EXPECT_EQ(job.blades[1].goes_into, std::vector<job::GoesInto>{{"P2"}});
    EXPECT_FALSE(job::also_into(1, "P2, Q7")(job));

    const auto where = [](const Job& j) {
        const auto ok = job::validate(j, parts());
        return ok ? std::string() : ok.error().where;
    };
    Job wrong = job;
    wrong.mated = {{"P1", "BL2"}, {"P2", "BL2"}};
    EXPECT_EQ(where(wrong), "/mated/1/blade");
    wrong.mated = {{"P1", "BL2"}, {"P1", ""}};
    EXPECT_EQ(where(wrong), "/mated/1/socket");
    wrong.mated = {{"P2", "BL1"}};
    EXPECT_EQ(where(wrong), "/mated/0/blade");
    wrong.mated.clear();
    wrong.blades[1].goes_into = {{"P2"}, {"P2"}};
    EXPECT_EQ(where(wrong), "/blades/1/goes_into/1/socket");
    wrong.blades[1].goes_into = {{"U1"}};
    EXPECT_EQ(where(wrong), "/blades/1/goes_into/0/socket");

    // Whatever goes takes its place in the sets along.
    ASSERT_TRUE(job::mate("P1", "BL2")(job));
    ASSERT_TRUE(job::remove_blade("BL2")(job));
    EXPECT_EQ(where(job), "");
    EXPECT_EQ(job::set_text(job::mated_set(job)), "BL1 in P1, nothing in P2");
    ASSERT_TRUE(job::remove_part("P2")(job));
    EXPECT_EQ(where(job), "");
    EXPECT_EQ(job::sockets_of(job), (std::vector<std::string>{"P1"}));

    // Pixels are typed: cut at the density, as many strips as there are counts, or none.
    ASSERT_TRUE(job::give_pixels(0, "100 + 90, 80", parts())(job));
    ASSERT_EQ(job.blades[0].strips.size(), 3u);
    EXPECT_EQ(job.blades[0].strips[1].pixels, 90);
    EXPECT_EQ(job.blades[0].strips[1].length, Millimetre(625)) << "at 144 per metre";
    EXPECT_EQ(where(job), "");
    for (const char* typed : {"", "many", "0", "-3", "117.5", "99999999"})
        EXPECT_FALSE(job::give_pixels(0, typed, parts())(job)) << typed;
    ASSERT_TRUE(job::give_pixels(1, "plain", parts())(job));
    EXPECT_TRUE(job.blades[1].strips.empty());
    ASSERT_TRUE(job::give_pixels(1, "40", parts())(job));
    EXPECT_EQ(job.blades[1].strips.size(), 1u);
    EXPECT_EQ(where(job), "");
    Job wired = demo("bittern");
    wired.blades[1].connector.clear(), wired.blades[1].goes_into.clear();
    EXPECT_FALSE(job::give_pixels(1, "plain", parts())(wired)) << "its wires would hang loose";

    const std::size_t many = job.blades.size();
    ASSERT_TRUE(job::add_mate()(job));
    EXPECT_EQ(job.blades.size(), many + 1);
    EXPECT_EQ(where(job), "");
    EXPECT_EQ(job::set_text(job::mated_set(job)), "BL1 in P1") << "what is mated stays";
}

} // namespace
} // namespace conductus::plan
