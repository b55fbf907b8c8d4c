// SPDX-License-Identifier: GPL-3.0-or-later
// The test plan: every step finds something or says what for, nothing burns before it is found, a
// sound build passes.
#include "core/diagnose/test_plan.h"

#include <algorithm>
#include <set>

#include "cli/cli.h"
#include "core/job/names.h"
#include "core/power/cell_model.h"
#include "files/job_json.h"
#include "support/fixtures.h"
#include "support/sample_bench.h"

namespace conductus::diagnose {
namespace {

using test::parts;

struct Planned {
    std::string name;
    Finder finder;
    TestPlan plan;
};
std::vector<Planned>& all_planned() {
    static std::vector<Planned> all = [] {
        std::vector<Planned> made;
        for (const char* name : test::demo_jobs) {
            made.push_back({name, Finder(test::demo(name), parts()), {}});
            made.back().plan = test_plan(made.back().finder, 77);
        }
        return made;
    }();
    return all;
}

const TestStep* with(const TestPlan& plan, const std::string& words) {
    for (const TestStep& s : plan.steps)
        if (s.words.english().find(words) != std::string::npos) return &s;
    return nullptr;
}

TEST(TestPlan, EachStepFindsAPlantedFaultThatNoneBeforeItFindsOrSaysWhatFor) {
    for (Planned& p : all_planned()) {
        ASSERT_GT(p.plan.steps.size(), 20u) << p.name;
        std::set<std::size_t> found;
        std::set<std::string> ids;
        for (const TestStep& s : p.plan.steps) {
            EXPECT_TRUE(ids.insert(s.id).second) << s.id;
            EXPECT_FALSE(s.words.empty());
            EXPECT_TRUE(!s.finds.empty() || !s.purpose.empty()) << s.id;
            EXPECT_FALSE(s.below.empty()) << s.id;
            EXPECT_LE(s.low, s.high) << s.id;
            EXPECT_LE(s.low, s.expected + 1e-9) << s.id;
            for (const std::size_t f : s.finds) {
                EXPECT_TRUE(found.insert(f).second)
                    << p.name << " " << s.id << " finds " << p.finder.faults()[f].id << " again";
                // And it really does: with the fault in it the step is out.
                const Fault& fault = p.finder.faults()[f];
                if (!s.measured || s.state == "cell by itself") continue;
                const auto read = p.finder.world().read(*s.measured, {&fault}, {}, s.turned);
                EXPECT_TRUE(!read || s.judge(*read) == Verdict::out ||
                            s.judge(*read) == Verdict::edge)
                    << p.name << " " << s.id << " " << fault.id;
            }
        }
        // Nearly nothing is left that no step finds, and nothing that would burn.
        EXPECT_LE(p.plan.not_found.size(), p.finder.faults().size() / 12) << p.name;
        for (const std::size_t f : p.plan.not_found) {
            EXPECT_FALSE(p.finder.burns(f, p.finder.world().lit()))
                << p.name << " " << p.finder.faults()[f].id;
        }
    }
}

TEST(TestPlan, NothingIsDamagedByAFaultThatAnEarlierStepWouldHaveFound) {
    for (Planned& p : all_planned())
        for (std::size_t i = 0; i < p.plan.steps.size(); ++i) {
            const TestStep& s = p.plan.steps[i];
            for (const std::size_t f : s.finds)
                // What burns with the cell in is found before the cell is in, or from a supply that
                // is limited.
                if (p.finder.burns(f, p.finder.world().lit()) || p.finder.burns(f, "idle")) {
                    EXPECT_LE(static_cast<int>(s.stage), static_cast<int>(TestStage::first_power))
                        << p.name << " " << p.finder.faults()[f].id << " by " << s.id;
                }
            if (i > 0) {
                EXPECT_LE(static_cast<int>(p.plan.steps[i - 1].stage), static_cast<int>(s.stage))
                    << "stages come in their order";
            }
        }
}

TEST(TestPlan, ASoundBuildPasses) {
    int held = 0, all = 0, out = 0;
    for (Planned& p : all_planned()) {
        Random noise(17);
        for (const TestStep& s : p.plan.steps) {
            if (!s.measured || s.state == "cell by itself" || s.open() ||
                s.what == Quantity::pixels)
                continue;
            for (int i = 0; i < test::rounds(8); ++i) {
                const auto value = p.finder.world().read(
                    *s.measured, {}, drawn(p.finder.world(), 4000 + static_cast<unsigned>(i)),
                    s.turned);
                ASSERT_TRUE(value) << s.id;
                const double read = *value + noise.bell() * instrument_sigma(s.what, *value);
                held += s.judge(read) == Verdict::fine;
                out += s.judge(read) == Verdict::out;
                ++all;
            }
        }
    }
    EXPECT_GT(all, test::rounds(900));
    EXPECT_NEAR(static_cast<double>(held) / all, 0.95, 0.025) << held << " of " << all;
    EXPECT_LE(out, all / 100) << "what is out is no matter of tolerance";
}

TEST(TestPlan, HasWhatTheJobHas) {
    Planned& heron = all_planned().back();
    ASSERT_EQ(heron.name, "heron");
    EXPECT_TRUE(with(heron.plan, "minus of B1"));
    EXPECT_TRUE(with(heron.plan, "limited to"));
    for (const char* words : {"S2: light the blade", "Harbour plays", "pixels of ST1", "rattles"})
        EXPECT_TRUE(with(heron.plan, words)) << words;
    const TestStep* kill = with(heron.plan, "K1.in to K1.out");
    ASSERT_TRUE(kill);
    EXPECT_EQ(kill->state, kill_open);
    EXPECT_TRUE(kill->open());
    EXPECT_EQ(kill->judge(1e6), Verdict::fine);
    EXPECT_EQ(kill->judge(0.02), Verdict::out);
    // Every plug that kills is proved by itself.
    job::Job plugged = test::demo("heron");
    plugged.plugs.push_back({"PG7", job::PlugUse::kill, "K1"});
    Finder finder(plugged, parts());
    EXPECT_TRUE(with(test_plan(finder), "K1.in to K1.out"));
    const TestPlan plan = test_plan(finder);
    for (const auto& [state, open] :
         {std::pair{"cell out, PG7 in K1", true}, {"cell out, PG7 out of K1", false}})
        EXPECT_TRUE(std::any_of(plan.steps.begin(), plan.steps.end(), [&](const TestStep& s) {
            return s.state == state && s.open() == open;
        })) << state;
    // A job of which nothing is wired has no plan.
    job::Job bare = test::demo("heron");
    bare.wires.clear();
    Finder none(bare, parts());
    EXPECT_TRUE(none.faults().empty());
    EXPECT_TRUE(test_plan(none).steps.empty());
}

TEST(TestPlan, CellsInARowAndJacksThatOpenAreReadAsTheyAre) {
    const auto plan_of = [](const char* name) {
        Finder finder(test::demo(name), parts());
        return test_plan(finder);
    };
    const auto step = [](const TestPlan& plan, const std::string& words) {
        const auto it = std::find_if(plan.steps.begin(), plan.steps.end(), [&](const TestStep& s) {
            return s.words.english().find(words) != std::string::npos;
        });
        return it == plan.steps.end() ? nullptr : &*it;
    };
    // Each of two cells in a row by itself, and a supply for both of them.
    const TestPlan godwit = plan_of("godwit");
    EXPECT_TRUE(step(godwit, "B1 in the hand"));
    EXPECT_TRUE(step(godwit, "B2 in the hand"));
    EXPECT_TRUE(step(godwit, "from a supply at 8.4")) << "two cells";
    EXPECT_TRUE(step(plan_of("heron"), "from a supply at 4.2"));
    EXPECT_EQ(godwit.steps[0].what, Quantity::volts);
    World hilt(test::demo("godwit"), parts(), 0.5);
    for (const char* cell : {"B1", "B2"}) {
        const std::string ref(cell);
        const Measure m{Quantity::volts, by_itself, ref + ".plus", ref + ".minus"};
        EXPECT_NEAR(*hilt.read(m, {}), power::open_circuit(0.5).value(), 1e-9);
        EXPECT_FALSE(hilt.read({m.what, m.state, m.from, "U1.gnd"}, {}));
    }
    // The contact of a jack that a plug opens, with each of its plugs in and out.
    const TestPlan curlew = plan_of("curlew");
    int in = 0, out = 0;
    for (const TestStep& s : curlew.steps) {
        const bool drawn = s.state.ends_with(" out of J1"), fitted = s.state.ends_with(" in J1");
        out += drawn, in += fitted;
        EXPECT_TRUE((!drawn || !s.open()) && (!fitted || s.open())) << s.state;
    }
    EXPECT_EQ(in, 2) << "a kill plug and a charger's";
    EXPECT_EQ(out, 2);
    EXPECT_TRUE(std::any_of(curlew.steps.begin(), curlew.steps.end(), [](const TestStep& s) {
        return s.stage == TestStage::killed;
    })) << "a jack kills as a switch does";
}

TEST(TestPlan, IsTickedReadAndSignedOffAndWhatIsUntriedIsSaid) {
    Planned& heron = all_planned().back();
    job::Job job = test::demo("heron");
    const TestPlan& plan = heron.plan;
    EXPECT_FALSE(sign_off(plan, "2026-11-20", "shop")(job)) << "nothing was tried";
    const auto volts = std::find_if(plan.steps.begin(), plan.steps.end(), [](const TestStep& s) {
        return s.what == Quantity::amps && s.stage == TestStage::lit;
    });
    ASSERT_NE(volts, plan.steps.end());
    ASSERT_TRUE(try_step(*volts, volts->expected, false, "2026-11-19")(job));
    EXPECT_EQ(judged(*volts, job.bench), Verdict::fine);
    EXPECT_EQ(job.bench.readings.size(), 1u) << "it is evidence for the search as well";
    ASSERT_TRUE(sign_off(plan, "2026-11-20", "shop")(job));
    EXPECT_EQ(job.bench.steps, static_cast<int>(plan.steps.size()));
    EXPECT_NE(job.bench.untried.find("more"), std::string::npos) << job.bench.untried;
    // What is tried afterwards is not what was signed.
    ASSERT_TRUE(try_step(*volts, volts->high * 2, false, "2026-11-21")(job));
    EXPECT_TRUE(job.bench.signed_on.empty());
    EXPECT_EQ(judged(*volts, job.bench), Verdict::out);
    const auto refused = sign_off(plan, "2026-11-21", "shop")(job);
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().text().find("out of its band"), std::string::npos);
    EXPECT_EQ(job.bench.readings.size(), 1u) << "the step was read anew";
    EXPECT_EQ(job.bench.readings[0].value, volts->high * 2);
    ASSERT_TRUE(untry_step(*volts)(job));
    EXPECT_EQ(judged(*volts, job.bench), Verdict::untried);
    EXPECT_TRUE(job.bench.readings.empty()) << "what was no reading misleads no search";
    // It is kept in the file, and follows names.
    ASSERT_TRUE(try_step(*volts, volts->expected, false, "2026-11-22")(job));
    const auto again = files::parse_job(files::job_text(job), parts(), "heron");
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(again->bench, job.bench);
    job::rename_ref(job, "B1", "B9");
    EXPECT_NE(job.bench.tried.back().step.find("B9.plus"), std::string::npos);
    EXPECT_EQ(job.bench.readings.back().from, "B9.plus");
    job::rename_look(job, volts->state, "Storm light");
    EXPECT_NE(job.bench.tried.back().step.find("Storm light"), std::string::npos);
}

TEST(CliTests, ListsEveryStepWithItsBand) {
    using namespace test;
    const Ran ran = cli("tests " + heron() + " --json");
    ASSERT_EQ(ran.code, 0) << ran.err;
    const auto json = files::Json::parse(ran.out);
    ASSERT_GT(json.size(), 30u);
    for (const auto& s : json) {
        for (const char* key : {"step", "state", "from", "to", "unit"})
            EXPECT_TRUE(s.contains(key) && s[key].is_string()) << key;
        EXPECT_LE(s["low"].get<double>(), s["high"].get<double>());
        EXPECT_TRUE(!s["finds"].empty() || !s["for"].get<std::string>().empty());
    }
    EXPECT_NE(cli("tests " + heron()).out.find("first power"), std::string::npos);
    EXPECT_EQ(cli("tests /nowhere/at/all.json").code, 3);
}

} // namespace
} // namespace conductus::diagnose
