// SPDX-License-Identifier: GPL-3.0-or-later
// Findings that are lived with: they leave the count, come back when they are worse, and never
// silence what is about a lithium cell.
#include "core/findings/answered.h"

#include <cmath>
#include <functional>
#include <mutex>
#include <random>

#include "core/findings/rules.h"
#include "core/job/diff.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/names.h"
#include "core/job/validate.h"
#include "core/plan/analyse.h"
#include "core/plan/owner_page.h"
#include "files/job_json.h"
#include "support/corpus.h"
#include "support/fixtures.h"
#include "support/planted.h"
#include "threads/side_by_side.h"

namespace conductus::findings {
namespace {

using namespace test;
using job::Answer;
using job::Job;

plan::Plan judged(const Job& job) {
    return plan::analyse_figures(std::make_shared<const Job>(job), shared_parts());
}

const Finding* open(const plan::Plan& plan, std::string_view id) {
    for (const Finding& f : plan.findings)
        if (f.id == id) return &f;
    return nullptr;
}

const Finding* silent(const plan::Plan& plan, std::string_view id) {
    for (const Finding& f : plan.answered)
        if (f.id == id) return &f;
    return nullptr;
}

Job answered(Job job, std::string_view id, Answer how = Answer::accepted) {
    const plan::Plan plan = judged(job);
    const Finding* f = open(plan, id);
    EXPECT_TRUE(f) << id;
    const auto edit = answer(*f, how, "the owner knows", "2027-03-12");
    EXPECT_TRUE(edit);
    EXPECT_TRUE((*edit)(job));
    EXPECT_TRUE(job::validate(job, parts()));
    return job;
}

TEST(Answered, LeavesTheCountWithItsReasonAndIsReadBack) {
    const Job job = answered(one_button_heron(), "pins.over-current");
    const plan::Plan plan = judged(job);
    EXPECT_FALSE(open(plan, "pins.over-current"));
    const Finding* f = silent(plan, "pins.over-current");
    ASSERT_TRUE(f);
    EXPECT_EQ(f->answer->why, "the owner knows");
    EXPECT_EQ(f->answer->on, "2027-03-12");
    EXPECT_FALSE(f->answer->back);
    EXPECT_NE(plan.worst(Station::power), Severity::stop) << "it does not count";

    const auto read = files::read_job(files::job_json(job), parts(), "a file");
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(*read, job);
    EXPECT_EQ(files::job_json(job).at("version"), 11);
    const auto told = job::changes(one_button_heron(), job, parts());
    ASSERT_EQ(told.size(), 1u);
    EXPECT_NE(told[0].text.english().find("answer to pins.over-current P1 added"),
              std::string::npos)
        << told[0].text.english();
    const std::string page = plan::owner_text(plan::owner_page(plan));
    EXPECT_NE(page.find("Accepted as it is"), std::string::npos);
    EXPECT_NE(page.find("the owner knows"), std::string::npos);

    // The copy of a job for another hilt has been accepted by nobody.
    EXPECT_TRUE(job::built_like(job, "Another", job::Kind::upgrade).answered.empty());
    // A part that is called otherwise takes its answer along.
    Job renamed = job;
    job::rename_ref(renamed, "P1", "P7");
    EXPECT_TRUE(silent(judged(renamed), "pins.over-current"));
    ASSERT_TRUE(take_back(*f)(renamed));
    EXPECT_EQ(renamed.answered.size(), 1u) << "the finding it was asked of is of P1";
    EXPECT_TRUE(open(judged([&] {
                         Job back = job;
                         EXPECT_TRUE(take_back(*f)(back));
                         return back;
                     }()),
                     "pins.over-current"));
}

TEST(Answered, WithoutAReasonOrADateIsRefused) {
    Job job = one_button_heron();
    const plan::Plan plan = judged(job);
    EXPECT_FALSE(answer(*open(plan, "pins.over-current"), Answer::accepted, "  ", "2027-03-12"));
    const auto undated = answer(*open(plan, "pins.over-current"), Answer::accepted, "so", "soon");
    ASSERT_TRUE(undated);
    ASSERT_TRUE((*undated)(job));
    const auto valid = job::validate(job, parts());
    ASSERT_FALSE(valid);
    EXPECT_EQ(valid.error().where, "/answered/0/on");
    job.answered[0].on = "2027-03-12";
    job.answered.push_back(job.answered[0]);
    EXPECT_EQ(job::validate(job, parts()).error().where, "/answered/1");
    job.answered.pop_back();
    job.answered[0].why = "\t";
    EXPECT_EQ(job::validate(job, parts()).error().where, "/answered/0/why");
}

TEST(Answered, NothingAboutLithiumIsSilent) {
    Job job = one_button_heron();
    for (job::Wire& w : job.wires)
        for (std::string* end : {&w.from, &w.to})
            *end = *end == "B1.plus" ? "B1.minus" : *end == "B1.minus" ? "B1.plus" : *end;
    const plan::Plan plan = judged(job);
    const Finding* reversed = open(plan, "cell.reversed");
    ASSERT_TRUE(reversed);
    for (const Answer how : {Answer::accepted, Answer::agreed})
        EXPECT_FALSE(answer(*reversed, how, "so", "2027-03-12"));
    EXPECT_FALSE(answer(*open(judged(one_button_heron()), "pins.over-current"),
                        Answer::acknowledged, "so", "2027-03-12"));
    const plan::Plan after = judged(answered(job, "cell.reversed", Answer::acknowledged));
    const Finding* still = open(after, "cell.reversed");
    ASSERT_TRUE(still);
    EXPECT_EQ(still->severity, Severity::stop);
    EXPECT_EQ(still->answer->how, Answer::acknowledged);
    // Nor by a file that says it were accepted.
    Job forged = answered(job, "cell.reversed", Answer::acknowledged);
    forged.answered[0].how = Answer::accepted;
    EXPECT_TRUE(open(judged(forged), "cell.reversed"));
    for (const Rule& r : rules())
        if (r.id.starts_with("cell.") && r.id != "cell.protection-trips") {
            EXPECT_TRUE(about_lithium(r.id)) << r.id;
        }
}

TEST(Answered, AgreedWithTheOwnerIsATradeOffThatHoldsAndBreaks) {
    const Job job = answered(one_button_heron(), "pins.over-current", Answer::agreed);
    ASSERT_EQ(job.brief.agreements.size(), one_button_heron().brief.agreements.size() + 1);
    const job::Agreement& a = job.brief.agreements.back();
    EXPECT_EQ(a.measure, "finding:pins.over-current P1");
    EXPECT_EQ(a.bound, job::Bound::at_most);
    EXPECT_EQ(a.kind, job::Bargain::trade_off);
    plan::Plan plan = judged(job);
    EXPECT_TRUE(plan.brief.agreements.back().holds);
    EXPECT_TRUE(silent(plan, "pins.over-current"));

    Job worse = job;
    worse.looks[0].cap = std::min(1.0, worse.looks[0].cap * 1.5);
    for (job::Look& look : worse.looks)
        look.cap = 1;
    plan = judged(worse);
    const Finding* back = open(plan, "pins.over-current");
    ASSERT_TRUE(back);
    EXPECT_TRUE(back->answer->back);
    EXPECT_NE(back->detail.english().find("worse than when it was agreed on 2027-03-12"),
              std::string::npos)
        << back->detail.english();
    EXPECT_FALSE(plan.brief.agreements.back().holds);
    for (const Finding& f : plan.findings)
        EXPECT_NE(about(f), "P1 each pin") << "one thing, one finding";

    Job mended = job;
    ASSERT_TRUE(job::fit_type("P1", "connector.pins-7")(mended));
    plan = judged(mended);
    EXPECT_TRUE(plan.brief.agreements.back().holds) << plan.brief.agreements.back().says.english();
    EXPECT_FALSE(silent(plan, "pins.over-current"));
}

/// A job with a finding, and an edit that makes it worse above 0 and better below.
struct Turned {
    const char *name, *id;
    std::function<void(Job&)> plant;
    std::function<void(Job&, double)> turn;
    int worse; ///< sign of its first figure's change that is worse
};

void for_all_looks(Job& job, double by) {
    for (job::Look& look : job.looks)
        look.cap = std::clamp(look.cap * (1 + by), 0.05, 1.0);
}

const Turned turned[] = {
    {"crackle", "sound.crackle-early", [](Job& j) { j.use.clean = Minute(600); },
     [](Job& j, double by) { j.use.temperature = Celsius(20 - 20 * by); }, -1},
    {"asked for longer", "sound.crackle-early", [](Job& j) { j.use.clean = Minute(300); },
     [](Job& j, double by) { j.use.clean = Minute(300 * (1 + by)); }, 0},
    {"worn kill", "contact.poor", [](Job& j) { j.parts[2].measured.resistance = Ohm(0.12); },
     [](Job& j, double by) { j.parts[2].measured.resistance = Ohm(0.12 * (1 + by)); }, 1},
    {"thin wire", "wire.too-thin", [](Job& j) { job::find_ref(j.wires, "W3")->gauge = 32; },
     [](Job& j, double by) { for_all_looks(j, by); }, 1},
    {"budget", "brief.over-budget", [](Job& j) { j.brief.budget = 10, j.brief.currency = "EUR"; },
     [](Job& j, double by) { j.brief.budget = 10 * (1 - by); }, 0},
    {"tip", "blade.tip-dim",
     [](Job& j) {
         for (auto& s : j.blades[0].strips)
             s.rail = OhmPerMetre(0.6);
     },
     [](Job& j, double by) {
         for (auto& s : j.blades[0].strips)
             s.rail = OhmPerMetre(0.6 * (1 + by));
     },
     -1},
};

TEST(Answered, ComesBackOnEveryChangeForTheWorseAndOnNoOther) {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> amount(-0.5, 0.5);
    int worsened = 0, returned = 0, others = 0, wrongly = 0;
    for (const Turned& t : turned) {
        Job job = clean_job();
        t.plant(job);
        const plan::Plan before = judged(job);
        const Finding* then = open(before, t.id);
        ASSERT_TRUE(then) << t.name;
        const auto edit = answer(*then, Answer::accepted, "so", "2027-03-12");
        ASSERT_TRUE(edit);
        ASSERT_TRUE((*edit)(job));
        for (int i = 0; i < 40; ++i) {
            Job next = job;
            const double by = amount(random);
            t.turn(next, by);
            if (!job::validate(next, parts())) continue;
            const plan::Plan plan = judged(next);
            const Finding* now = open(plan, t.id) ? open(plan, t.id) : silent(plan, t.id);
            if (!now) continue;
            const double was = then->evidence[0].value, is = now->evidence[0].value;
            // By its own figure, or by what it is held against where only that moved.
            const auto past = [](const Finding& f) {
                return std::abs(f.evidence[0].value - f.evidence[1].value);
            };
            const double change = t.worse != 0 ? t.worse * (is - was) : past(*now) - past(*then);
            const double read =
                std::pow(10, std::floor(std::log10(std::max(std::abs(was), std::abs(is)))) - 2);
            if (change > read) {
                ++worsened, returned += open(plan, t.id) != nullptr;
                EXPECT_TRUE(open(plan, t.id)) << t.name << ": " << was << " to " << is;
            } else if (change <= 0 && now->severity >= then->severity &&
                       now->follows.size() <= then->follows.size()) {
                ++others, wrongly += open(plan, t.id) != nullptr;
                EXPECT_FALSE(open(plan, t.id)) << t.name << ": " << was << " to " << is;
            }
        }
    }
    std::printf("  %d of %d changes for the worse came back, %d of %d others\n", returned, worsened,
                wrongly, others);
    EXPECT_GE(worsened, 100);
    EXPECT_GE(others, 60);
}

TEST(Answered, EveryFigureOfARuleIsKnownToBeBadOneWay) {
    const std::vector<Case> all = planted_mistakes();
    std::mutex printing;
    side_by_side(all.size(), [&](std::size_t i) {
        const plan::Plan plan = judged(all[i].job);
        for (const Finding& f : plan.findings)
            for (const Evidence& e : f.evidence) {
                const std::scoped_lock lock(printing);
                EXPECT_TRUE(known_label(e.label.english())) << f.id << ": " << e.label.english();
            }
    });
}

} // namespace
} // namespace conductus::findings
