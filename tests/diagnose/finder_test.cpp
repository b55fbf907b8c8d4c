// SPDX-License-Identifier: GPL-3.0-or-later
// Faults: what they do to readings, and how soon they are found.
#include "core/diagnose/finder.h"

#include <cmath>
#include <map>

#include "cli/cli.h"
#include "core/diagnose/diagnosis.h"
#include "core/diagnose/practice.h"
#include "core/diagnose/words.h"
#include "files/bench_csv.h"
#include "support/fixtures.h"

namespace conductus::diagnose {
namespace {

using test::parts;

const Fault& fault(const std::vector<Fault>& all, const std::string& id) {
    for (const Fault& f : all)
        if (f.id == id) return f;
    throw std::runtime_error("no fault " + id);
}

const std::vector<Finder>& finders() {
    static const std::vector<Finder> all = [] {
        std::vector<Finder> made;
        for (const char* name : test::demo_jobs)
            made.emplace_back(test::demo(name), parts());
        return made;
    }();
    return all;
}

TEST(World, ReadsWhatTheNetworkAndTheWiresSay) {
    World world(test::demo("heron"), parts());
    const auto faults = faults_of(world);
    // Ohms of a wire are its copper; of an open one none; of two in a row their sum.
    const Measure w1{Quantity::ohms, cell_out, "B1.plus", "K1.in"};
    double copper = 0;
    for (const circuit::Resistor& r : world.network(cell_out)->resistors)
        if (r.ref == "W1") copper += r.ohms;
    ASSERT_GT(copper, 0);
    EXPECT_NEAR(*world.read(w1, {}), copper, 1e-4);
    EXPECT_GT(*world.read(w1, {&fault(faults, "open W1")}), 9e5);
    EXPECT_NEAR(*world.read(w1, {&fault(faults, "joint W1")}), copper + 0.25, 1e-3);
    const Measure kill{Quantity::ohms, kill_open, "K1.in", "K1.out"};
    EXPECT_GT(*world.read(kill, {}), 9e5);
    EXPECT_LT(*world.read(kill, {&fault(faults, "stuck K1")}), 0.1);
    // A button's wire, which no supply runs through.
    EXPECT_LT(*world.read({Quantity::ohms, cell_out, "U1.s1", "S1.a"}, {}), 0.1);
    EXPECT_GT(*world.read({Quantity::ohms, cell_out, "U1.s1", "S1.a"}, {&fault(faults, "open W8")}),
              9e5);
    // Volts along the supply fall where current meets ohms.
    const Measure drop{Quantity::volts, world.lit(), "K1.in", "K1.out"};
    const double amps = *world.read({Quantity::amps, world.lit(), "B1.plus", {}}, {});
    EXPECT_NEAR(*world.read(drop, {}) / amps, 0.02, 0.02);
    EXPECT_GT(*world.read(drop, {&fault(faults, "worn K1")}), 5 * *world.read(drop, {}));
    // What a turn alone shows is not there at rest.
    const Fault& turned = fault(faults, "turned P1.plus");
    const Measure pins{Quantity::volts, world.lit(), "P1.plus", "BL1.plus"};
    EXPECT_NEAR(*world.read(pins, {&turned}), *world.read(pins, {}), 1e-9);
    EXPECT_GT(*world.read(pins, {&turned}, {}, true), 1);
    // A cell the wrong way round: the board is off, and nothing is lit.
    EXPECT_TRUE(world.shows({Symptom::nothing_at_all, {}}, {&fault(faults, "reversed B1")}));
    EXPECT_FALSE(world.shows({Symptom::nothing_at_all, {}}, {}));
    EXPECT_TRUE(world.shows({Symptom::no_blade, {}}, {&fault(faults, "open W7")}));
    EXPECT_TRUE(world.shows({Symptom::dark, "ST1"}, {&fault(faults, "data ST1")}));
    EXPECT_FALSE(world.shows({Symptom::dark, "ST2"}, {&fault(faults, "data ST1")}));
    EXPECT_EQ(*world.read({Quantity::pixels, world.lit(), "ST1", {}}, {}), 117);
    EXPECT_EQ(
        *world.read({Quantity::pixels, world.lit(), "ST1", {}}, {&fault(faults, "pixel ST1")}), 39);
}

TEST(World, ASoundHiltShowsNothing) {
    for (const Finder& finder : finders()) {
        Finder f = finder;
        for (const Sight& s : f.sights())
            EXPECT_FALSE(f.world().shows(s, {})) << told(s);
        for (const Fault& one : f.faults())
            EXPECT_FALSE(one.id.empty() || one.where.empty() || one.says.empty());
    }
}

TEST(Finder, BandsHoldNineteenOfTwentyBuilds) {
    int held = 0, all = 0;
    for (std::size_t j = 0; j < finders().size(); ++j) {
        Finder finder = finders()[j];
        Random noise(j + 3);
        const auto& candidates = finder.candidates();
        for (std::size_t k = j; k < candidates.size(); k += 5) {
            const Candidate& c = candidates[k];
            const auto expected = finder.expected(c.measure, {}, c.turned);
            // Of what is open there is no band, and nobody counts pixels within one.
            if (!expected || c.measure.what == Quantity::pixels || expected->value > 1e4) continue;
            for (int i = 0; i < test::rounds(24); ++i) {
                const auto value = finder.world().read(
                    c.measure, {}, drawn(finder.world(), 900 + static_cast<unsigned>(i)), c.turned);
                ASSERT_TRUE(value);
                const double read =
                    *value + noise.bell() * instrument_sigma(c.measure.what, *value);
                held += std::abs(read - expected->value) <= 1.96 * expected->sigma;
                ++all;
            }
        }
    }
    EXPECT_GT(all, test::rounds(1500));
    EXPECT_NEAR(static_cast<double>(held) / all, 0.95, 0.02) << held << " of " << all;
}

/// Random single faults that are seen, read with noise at builds within their tolerances.
TEST(Finder, SingleFaultsAreFoundInSixReadingsAndItKnowsHowSureItIs) {
    const int trials = test::rounds(96);
    int first = 0, third = 0;
    std::map<bool, std::pair<int, int>> said; // between 0.8 and 0.9: true, of
    for (int i = 0; i < trials; ++i) {
        const Finder& fresh = finders()[static_cast<std::size_t>(i) % finders().size()];
        Finder finder = fresh, hilt = fresh;
        Case hidden(hilt, 2, static_cast<unsigned>(i) + 1);
        for (const Sight& s : hidden.seen())
            finder.tell(s);
        for (int k = 0; k < 6 && finder.hypotheses()[0].p < 0.95; ++k) {
            const auto next = finder.next(1);
            if (next.empty()) break;
            const Measure& m = finder.candidates()[next[0].candidate].measure;
            const auto value = hidden.read(m, next[0].turned);
            ASSERT_TRUE(value);
            finder.read({m, *value, next[0].turned});
        }
        const auto& ranked = finder.hypotheses();
        double sum = 0;
        for (const Hypothesis& h : ranked)
            sum += h.p;
        EXPECT_NEAR(sum, 1, 1e-9);
        first += ranked[0].faults == hidden.faults();
        for (std::size_t r = 0; r < 3; ++r)
            third += ranked[r].faults == hidden.faults();
        if (ranked[0].p >= 0.8) {
            auto& [right, of] = said[ranked[0].p < 0.9];
            right += ranked[0].faults == hidden.faults();
            ++of;
        }
    }
    EXPECT_GE(first, 0.9 * trials) << first << " of " << trials;
    EXPECT_GE(third, 0.97 * trials) << third << " of " << trials;
    for (const auto& [below, counts] : said)
        EXPECT_GE(counts.first, 0.75 * counts.second) << counts.second;
}

TEST(Finder, TwoFaultsAtOnceAreAmongItsFirstThree) {
    const int trials = test::rounds(48);
    int third = 0;
    for (int i = 0; i < trials; ++i) {
        const Finder& fresh = finders()[static_cast<std::size_t>(i) % finders().size()];
        Finder finder = fresh, hilt = fresh;
        Case hidden(hilt, 3, static_cast<unsigned>(i) + 700);
        finder.take(hidden.seen(), {});
        for (int k = 0; k < 12 && finder.hypotheses()[0].p < 0.99; ++k) {
            const auto next = finder.next(1);
            if (next.empty()) break;
            const Measure& m = finder.candidates()[next[0].candidate].measure;
            const auto value = hidden.read(m, next[0].turned);
            ASSERT_TRUE(value);
            finder.read({m, *value, next[0].turned});
        }
        auto truth = hidden.faults();
        std::sort(truth.begin(), truth.end());
        for (std::size_t r = 0; r < 3; ++r)
            third += finder.hypotheses()[r].faults == truth;
    }
    EXPECT_GE(third, 0.8 * trials) << third << " of " << trials;
}

TEST(Practice, IsTheSameForASeedAndTheFinderFindsTwoFaultsOneAfterTheOther) {
    const int trials = test::rounds(30);
    int right = 0;
    for (int i = 0; i < trials; ++i) {
        const Finder& fresh = finders()[static_cast<std::size_t>(i) % finders().size()];
        const Played p = play(fresh, 3, static_cast<unsigned>(i) + 40);
        EXPECT_EQ(p.faults.size(), 2u);
        right += p.right;
        if (i % 12 == 0) {
            const Played again = play(fresh, 3, static_cast<unsigned>(i) + 40);
            EXPECT_EQ(again.faults, p.faults);
            EXPECT_EQ(again.named, p.named);
            EXPECT_EQ(again.minutes, p.minutes);
        }
    }
    EXPECT_GE(right, 0.7 * trials) << right << " of " << trials;
}

TEST(BenchCsv, IsReadWithItsUnitsAndMistakesHaveTheirPlace) {
    const auto read = files::read_bench_csv("state,from,to,value,unit,turned\n"
                                            "Tidewater,U1.bat,U1.gnd,3710,mV,\n"
                                            "\"cell out\",U1.l1,P1.minus,open,Ohm,\n"
                                            "asleep,B1.plus,,0.09,mA,yes\n",
                                            "bench.csv");
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_NEAR(read->at(0).value, 3.71, 1e-12);
    EXPECT_EQ(read->at(1).measure, (Measure{Quantity::ohms, cell_out, "U1.l1", "P1.minus"}));
    EXPECT_GE(read->at(1).value, 1e6);
    EXPECT_NEAR(read->at(2).value, 9e-5, 1e-12);
    EXPECT_TRUE(read->at(2).turned);
    for (const auto& [text, says] :
         {std::pair{"state,from,to,value\na,b,c,1\n", "no column unit"},
          {"state,from,to,value,unit\nidle,B1.plus,B1.minus,many,V\n", "column 23"},
          {"state,from,to,value,unit\nidle,B1.plus,B1.minus,4,furlong\n", "no unit"},
          {"state,from,to,value,unit\n,B1.plus,B1.minus,4,V\n", "missing"}}) {
        const auto wrong = files::read_bench_csv(text, "bench.csv");
        ASSERT_FALSE(wrong) << text;
        EXPECT_NE(wrong.error().text().find(says), std::string::npos) << wrong.error().text();
    }
}

TEST(World, DataThatIsCutLeavesDarkWhatHearsItAndNothingElse) {
    const auto dark = [](const Finder& f, const char* id) {
        World world = Finder(f).world();
        std::string all;
        for (const Sight& s : world.sights())
            if (s.symptom == Symptom::dark && world.shows(s, {&fault(f.faults(), id)}))
                all += (all.empty() ? "" : " ") + s.where;
        return all;
    };
    const Finder &bittern = finders()[1], &curlew = finders()[2];
    // One of three blades; all of them behind the resistor that they share.
    EXPECT_EQ(dark(bittern, "open W11"), "ST1 ST2");
    EXPECT_TRUE(dark(bittern, "open R1").starts_with("ST1 ST2 ST3 ST4 ST5 ST6"));
    EXPECT_EQ(dark(bittern, "open W18"), dark(bittern, "open R1"));
    EXPECT_EQ(dark(bittern, "touch R1.a R1.b"), "") << "data passes a resistor that is bridged";
    // A blade that hears an accent's output.
    EXPECT_EQ(dark(curlew, "open W13"), "ST1 ST2");
    EXPECT_EQ(dark(curlew, "open W12"), "A1 ST1 ST2");
    EXPECT_EQ(dark(curlew, "data A1"), "A1 ST1 ST2");
    EXPECT_EQ(mend_words(fault(bittern.faults(), "open R1")).english(),
              "Replace R1 by what the plan names");
    EXPECT_EQ(mend_words(fault(bittern.faults(), "open W18")).english(),
              "Solder W18 again at both ends");
    // A resistor of a line of data reads its ohms, not open.
    World world = Finder(bittern).world();
    EXPECT_NEAR(*world.read({Quantity::ohms, cell_out, "R1.a", "R1.b"}, {}), 330, 1);
    EXPECT_NEAR(*world.read({Quantity::ohms, cell_out, "U1.d1", "P1.data"}, {}), 330.1, 1);
    EXPECT_GT(*world.read({Quantity::ohms, cell_out, "R1.a", "R1.b"},
                          {&fault(bittern.faults(), "open R1")}),
              9e5);
}

TEST(Finder, GoesByTheOneSymptomThatSomebodyTells) {
    // Of a dark blade nobody tells each strip, and accents may be lit.
    for (const auto& [job, id] : {std::pair{0, "open P1.plus"},
                                  {1, "open W18"},
                                  {2, "open W13"},
                                  {3, "open W6"},
                                  {4, "open W9"},
                                  {5, "open W7"}}) {
        Finder finder = finders()[static_cast<std::size_t>(job)];
        finder.tell({Symptom::no_blade, {}});
        const auto& all = finder.hypotheses();
        const bool among = std::any_of(all.begin(), all.begin() + 5, [&](const Hypothesis& h) {
            return h.faults.size() == 1 && finder.faults()[h.faults[0]].id == id;
        });
        EXPECT_TRUE(among) << id << " is not among the first five of job " << job;
        EXPECT_FALSE(all[0].unknown);
    }
}

TEST(Finder, KnowsThatAFaultMayBeLargerThanTheUsual) {
    const Finder& heron = finders().back();
    World world = Finder(heron).world();
    const auto likely = [&](Symptom symptom, const char* id) {
        return world.likely_seen({symptom, {}}, {&fault(heron.faults(), id)});
    };
    for (const Symptom s : {Symptom::crackles_early, Symptom::resets_at_clash, Symptom::hot}) {
        EXPECT_EQ(world.likely_seen({s, {}}, {}), 0) << word(s) << ": nothing is wrong";
        EXPECT_LT(likely(s, "setting buttons"), 1e-6) << word(s);
        for (const Fault& f : heron.faults())
            EXPECT_EQ(world.shows({s, {}}, {&f}), world.likely_seen({s, {}}, {&f}) >= 1) << f.id;
    }
    // No usual fault but a loose one lets the board reset at a clash; a larger one might.
    EXPECT_FALSE(world.shows({Symptom::resets_at_clash, {}}, {&fault(heron.faults(), "weak B1")}));
    EXPECT_GT(likely(Symptom::resets_at_clash, "weak B1"), 0.001);
    EXPECT_TRUE(
        world.shows({Symptom::resets_at_clash, {}}, {&fault(heron.faults(), "turned b1_bay")}));
    Finder finder = heron;
    finder.tell({Symptom::resets_at_clash, {}});
    EXPECT_FALSE(finder.hypotheses()[0].unknown);
    const auto place = [&](const char* id) {
        const auto& all = finder.hypotheses();
        for (std::size_t i = 0; i < all.size(); ++i)
            if (all[i].faults.size() == 1 && finder.faults()[all[i].faults[0]].id == id) return i;
        return all.size();
    };
    EXPECT_LT(place("weak B1"), place("setting buttons")) << "what bears on it stands first";
    EXPECT_LT(place("worn K1"), place("open W8"));
}

TEST(CliDiagnose, RanksFaultsAndNamesTheNextReading) {
    using namespace test;
    TemporaryFolder folder;
    // The blade is dark, and between pad and pin nothing conducts.
    write_file(folder / "r.csv", "state,from,to,value,unit\n"
                                 "cell out,U1.d1,P1.data,open,Ohm\n");
    const Ran ran = cli("diagnose " + heron() + " --symptom \"boots, no blade\" --readings " +
                        (folder / "r.csv").string() + " --json");
    ASSERT_EQ(ran.code, 0) << ran.err;
    const auto json = files::Json::parse(ran.out);
    EXPECT_EQ(json["hypotheses"][0]["where"], "W7");
    EXPECT_EQ(json["hypotheses"][0]["fault"], "W7 is open");
    EXPECT_GT(json["hypotheses"][0]["p"].get<double>(), 0.5);
    const Ran bare = cli("diagnose " + heron() + " --symptom \"nothing at all\" --json");
    const auto next = files::Json::parse(bare.out)["next"];
    EXPECT_GT(next["bits"].get<double>(), 0.2);
    EXPECT_GT(next["minutes"].get<double>(), 0);
    EXPECT_FALSE(next["measure"].get<std::string>().empty());
    EXPECT_EQ(cli("diagnose " + heron() + " --symptom gloomy").code, 3);
    // A hilt that is not wired yet is not judged.
    job::Job unwired = demo("heron");
    unwired.wires.clear();
    for (const char* command : {"diagnose ", "tests "}) {
        const Ran refused = cli(command + job_file(folder, unwired));
        EXPECT_EQ(refused.code, 3) << command;
        EXPECT_NE(refused.err.find("Wire the board to the cell"), std::string::npos) << refused.err;
    }
    // What the job's own bench holds counts as it does in the window.
    job::Job kept = demo("heron");
    ASSERT_TRUE(tell_symptom(*sight_named("boots, no blade"))(kept));
    ASSERT_TRUE(add_reading({Quantity::ohms, "cell out", "U1.d1", "P1.data", 1e6})(kept));
    const Ran own = cli("diagnose " + job_file(folder, kept) + " --json");
    ASSERT_EQ(own.code, 0) << own.err;
    EXPECT_EQ(files::Json::parse(own.out)["hypotheses"], json["hypotheses"]);
    const Diagnosis window = diagnosed(Finder(kept, parts()), kept.bench);
    EXPECT_NEAR(window.may[0].p, json["hypotheses"][0]["p"].get<double>(), 1e-9);
    const Ran played = cli("practice " + heron() + " --seed 3 --level 1 --policy finder --json");
    ASSERT_EQ(played.code, 0) << played.err;
    const auto p = files::Json::parse(played.out);
    EXPECT_TRUE(p["right"].get<bool>()) << played.out;
    EXPECT_EQ(p["fault"], p["named"]);
    EXPECT_GT(p["minutes"].get<double>(), 0);
}

} // namespace
} // namespace conductus::diagnose
