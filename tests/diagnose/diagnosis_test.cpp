// SPDX-License-Identifier: GPL-3.0-or-later
// What the bench of a job says: rows against bands, hypotheses, next, mends and their proof.
#include "core/diagnose/diagnosis.h"

#include "core/diagnose/words.h"
#include "core/power/cell_model.h"
#include "support/fixtures.h"
#include "support/sample_bench.h"

namespace conductus::diagnose {
namespace {

using test::parts;

const Finder& heron_finder() {
    static const Finder one(test::demo("heron"), parts());
    return one;
}

TEST(Diagnosis, LeadsFromASymptomToTheFaultItsMendAndTheProof) {
    job::Job job = test::demo("heron");
    Finder hilt = heron_finder();
    const std::size_t wrong = test::fault_named(hilt, "worn P1.plus");
    const Fault& fault = hilt.faults()[wrong];
    const Diagnosis untold = diagnosed(heron_finder(), job.bench);
    EXPECT_FALSE(untold.anything) << "nothing to judge yet is not judged and fine";
    EXPECT_FALSE(untold.next.empty()) << "a first reading is offered all the same";
    for (const Sight& s : hilt.sights())
        if (hilt.world().shows(s, {&fault})) {
            ASSERT_TRUE(tell_symptom(s)(job));
            ASSERT_TRUE(tell_symptom(s)(job));
        }
    Diagnosis d;
    for (int k = 0; k < 8; ++k) {
        d = diagnosed(heron_finder(), job.bench);
        ASSERT_TRUE(d.anything || k == 0);
        if (!d.may.empty() && d.may[0].p > 0.9) break;
        ASSERT_FALSE(d.next.empty());
        if (k > 0) {
            EXPECT_FALSE(d.next[0].outcomes.empty());
        }
        const auto& next = d.next[0];
        const auto value = hilt.world().read(next.measure, {&fault}, {}, next.turned);
        ASSERT_TRUE(value);
        job::BenchReading r{
            next.measure.what, next.measure.state, next.measure.from, next.measure.to, *value,
            next.turned};
        ASSERT_TRUE(add_reading(r)(job));
    }
    ASSERT_FALSE(d.may.empty());
    EXPECT_EQ(d.may[0].id, "worn P1.plus");
    EXPECT_GT(d.may[0].p, d.may[0].before - 1e-9);
    EXPECT_FALSE(d.may[0].mend.empty());
    EXPECT_TRUE(std::any_of(d.rows.begin(), d.rows.end(),
                            [](auto& r) { return r.verdict == Verdict::out; }));
    double sum = 0;
    for (const auto& m : d.may)
        sum += m.p;
    EXPECT_LE(sum, 1 + 1e-9);

    ASSERT_TRUE(mend(d.may[0], "2026-11-20")(job));
    const Diagnosis after = diagnosed(Finder(job, parts()), job.bench);
    EXPECT_FALSE(after.anything) << "what was read before the mend counts no more";
    EXPECT_TRUE(
        std::all_of(after.rows.begin(), after.rows.end(), [](auto& r) { return r.earlier; }));
    ASSERT_TRUE(after.proof);
    // The proof parts the mended hilt from the fault.
    const auto bad = hilt.world().read(after.proof->measure, {&fault}, {}, after.proof->turned);
    const auto good = hilt.world().read(after.proof->measure, {}, {}, after.proof->turned);
    ASSERT_TRUE(bad && good);
    EXPECT_TRUE(*bad < after.proof->low || *bad > after.proof->high);
    EXPECT_TRUE(*good >= after.proof->low && *good <= after.proof->high);
    ASSERT_TRUE(prove("P1.plus against BL1: 40 mV")(job));
    EXPECT_FALSE(diagnosed(Finder(job, parts()), job.bench).proof);
    // What was mended before is suspected sooner.
    const Finder again(job, parts());
    EXPECT_GT(again.faults()[wrong].prior, 2 * fault.prior);
}

TEST(Diagnosis, KnowsWhatIsNoneOfTheFaultsItHas) {
    job::Job job = test::demo("heron");
    // Readings that contradict each other and everything.
    for (const auto& [state, from, to, volts] : {std::tuple{"idle", "B1.plus", "B1.minus", 1.3},
                                                 {"killed", "U1.bat", "U1.gnd", 2.2},
                                                 {"Tidewater", "B1.plus", "B1.minus", 6.1}})
        ASSERT_TRUE(add_reading({Quantity::volts, state, from, to, volts})(job));
    const Diagnosis d = diagnosed(heron_finder(), job.bench);
    ASSERT_FALSE(d.may.empty());
    EXPECT_TRUE(d.may[0].unknown) << d.may[0].says.english();
    EXPECT_FALSE(mend(d.may[0], "2026-11-20")(job)) << "it can not be mended by name";
}

TEST(Diagnosis, GoesByHowFarTheCellIsCharged) {
    job::Job job = test::demo("heron");
    EXPECT_EQ(charge_told(job, parts()), 1);
    const double half = power::open_circuit(0.5).value();
    ASSERT_TRUE(add_reading({Quantity::volts, by_itself, "B1.plus", "B1.minus", half})(job));
    EXPECT_NEAR(charge_told(job, parts()), 0.5, 0.01);
    Finder charged(job, parts(), charge_told(job, parts()));
    const Measure rest{Quantity::volts, "idle", "B1.plus", "B1.minus"};
    EXPECT_NEAR(*charged.world().read(rest, {}), half, 0.02);
    // What a half full cell reads is then nothing wrong.
    ASSERT_TRUE(add_reading({Quantity::volts, "idle", "B1.plus", "B1.minus", half - 0.003})(job));
    const Diagnosis d = diagnosed(charged, job.bench);
    EXPECT_NE(d.rows.back().verdict, Verdict::out);
    EXPECT_EQ(diagnosed(heron_finder(), job.bench).rows.back().verdict, Verdict::out);
    // A cell that is nearly empty by itself is what is wrong.
    job.bench.readings.back() = {Quantity::volts, by_itself, "B1.plus", "B1.minus", 3.2};
    EXPECT_EQ(charge_told(job, parts()), 1);
}

TEST(Diagnosis, AHalfChargedCellIsKnownByTheBoardAtRestAsWell) {
    job::Job job = test::demo("avocet");
    World half(job, parts(), 0.5);
    const auto faults = faults_of(half);
    const auto named = [&](const char* id) {
        return &*std::find_if(faults.begin(), faults.end(),
                              [&](const Fault& f) { return f.id == id; });
    };
    const Measure rest{Quantity::volts, "idle", "U1.bat", "U1.gnd"};
    const auto read = [&](const Measure& m, const char* fault) {
        ASSERT_TRUE(
            add_reading({m.what, m.state, m.from, m.to, *half.read(m, {named(fault)})})(job));
    };
    read(rest, "open P1.plus");
    EXPECT_NEAR(charge_told(job, parts()), 0.5, 0.02);
    ASSERT_TRUE(tell_symptom(*sight_named("boots, no blade"))(job));
    const Finder finder(job, parts(), charge_told(job, parts()));
    const Diagnosis d = diagnosed(finder, job.bench);
    EXPECT_NE(d.rows[0].verdict, Verdict::out);
    EXPECT_FALSE(d.may[0].unknown);
    EXPECT_EQ(d.may[0].id.find("flat"), std::string::npos) << d.may[0].id;
    EXPECT_NE(d.charge_words.english().find("50 %"), std::string::npos) << d.charge_words.english();
    // A full cell's faults move the charge nowhere, and a mend begins anew.
    for (const Fault& f : faults) {
        World full(job, parts());
        job::Job faulty = test::demo("avocet");
        const auto volts = full.read(rest, {&f});
        if (!volts || f.turned) continue;
        ASSERT_TRUE(add_reading({rest.what, rest.state, rest.from, rest.to, *volts})(faulty));
        EXPECT_EQ(charge_told(faulty, parts()), 1) << f.id << " " << *volts;
    }
    ASSERT_TRUE(mend(d.may[0], "2026-11-20")(job));
    EXPECT_EQ(charge_told(job, parts()), 1);
}

TEST(Diagnosis, AReadingOfOnePartFeedsItsValue) {
    job::Job job = test::demo("heron");
    Finder finder = heron_finder();
    const job::Wire& wire = job.wires[1];
    const Measure across{Quantity::volts, finder.world().lit(), wire.from, wire.to};
    const double sound = *finder.world().read(across, {});
    job::BenchReading r{across.what, across.state, across.from, across.to, std::abs(sound) * 3};
    const auto found = found_by(heron_finder(), r);
    ASSERT_TRUE(found);
    EXPECT_EQ(found->ref, wire.ref);
    ASSERT_TRUE(found->take(job));
    ASSERT_TRUE(job.wires[1].resistance);
    // The plan follows: three times the drop.
    Finder follows(job, parts());
    EXPECT_NEAR(std::abs(*follows.world().read(across, {})), std::abs(sound) * 3,
                0.1 * std::abs(sound));
    // The kill's contact and a pole of the connector.
    const Measure kill{Quantity::volts, finder.world().lit(), "K1.in", "K1.out"};
    const double drop = *finder.world().read(kill, {});
    const auto contact =
        found_by(heron_finder(), {kill.what, kill.state, "K1.in", "K1.out", drop * 2});
    ASSERT_TRUE(contact && contact->take(job));
    ASSERT_TRUE(job::find_ref(job.parts, "K1")->measured.resistance);
    const Measure pole{Quantity::volts, finder.world().lit(), "P1.plus", "BL1.plus"};
    const auto pin = found_by(heron_finder(), {pole.what, pole.state, "P1.plus", "BL1.plus",
                                               *finder.world().read(pole, {}) * 2});
    ASSERT_TRUE(pin && pin->take(job));
    EXPECT_FALSE(job::find_ref(job.parts, "P1")->measured.pins.empty());
    // Too coarse, of several, open: nothing.
    EXPECT_FALSE(found_by(heron_finder(), {Quantity::ohms, cell_out, wire.from, wire.to, 0.02}));
    EXPECT_FALSE(found_by(heron_finder(), {Quantity::volts, "idle", "U1.bat", "U1.gnd", 3.9}));
    EXPECT_FALSE(found_by(heron_finder(), {Quantity::ohms, cell_out, wire.from, wire.to, 1e6}));
}

TEST(Diagnosis, NonsenseIsRefusedInWords) {
    job::Job job;
    EXPECT_FALSE(add_reading({Quantity::volts, "", "a", "b", 1})(job));
    EXPECT_FALSE(add_reading({Quantity::volts, "idle", "", "b", 1})(job));
    EXPECT_FALSE(add_reading({Quantity::volts, "idle", "a", "b", NAN})(job));
    for (const auto& [what, typed, value] : {std::tuple{Quantity::volts, "3.71", 3.71},
                                             {Quantity::volts, "3710 mV", 3.71},
                                             {Quantity::volts, "−0,3 V", -0.3},
                                             {Quantity::amps, "90mA", 0.09},
                                             {Quantity::ohms, "open", 1e6},
                                             {Quantity::ohms, "4.7k", 4700.0},
                                             {Quantity::ohms, "120 mΩ", 0.12},
                                             {Quantity::pixels, "117", 117.0},
                                             {Quantity::seen, "yes", 1.0}}) {
        const auto read = value_typed(what, typed);
        ASSERT_TRUE(read) << typed;
        EXPECT_NEAR(*read, value, 1e-9) << typed;
    }
    for (const auto& [what, typed] : {std::pair{Quantity::volts, "3.71 A"},
                                      {Quantity::volts, ""},
                                      {Quantity::volts, "inf"},
                                      {Quantity::amps, "many"},
                                      {Quantity::ohms, "12 V"},
                                      {Quantity::seen, "maybe"}})
        EXPECT_FALSE(value_typed(what, typed)) << typed;
    // A dead symptom of a later format is passed over.
    job = test::demo("heron");
    job.bench.symptoms.push_back({"it hums the wrong tune", ""});
    EXPECT_TRUE(diagnosed(heron_finder(), job.bench).told.empty());
}

TEST(Symptoms, AreTakenInTheCraftsWords) {
    for (const auto& [words, symptom] : {std::pair{"nothing at all", Symptom::nothing_at_all},
                                         {"boots, no blade", Symptom::no_blade},
                                         {"dead after pixel 39", Symptom::dead_after_pixel},
                                         {"Flicker when turned", Symptom::flickers_turned},
                                         {"wrong colours", Symptom::wrong_colours},
                                         {"crackle early", Symptom::crackles_early},
                                         {"one button dead", Symptom::button_dead},
                                         {"buttons swapped", Symptom::buttons_swapped},
                                         {"lit while off", Symptom::lit_while_off},
                                         {"hot", Symptom::hot},
                                         {"resets at clash", Symptom::resets_at_clash}}) {
        const auto sight = sight_named(words);
        ASSERT_TRUE(sight) << words;
        EXPECT_EQ(sight->symptom, symptom) << words;
        EXPECT_TRUE(sight->where.empty()) << words;
    }
    // Every one that is told is read back.
    Finder finder = heron_finder();
    for (const Sight& s : finder.sights())
        EXPECT_EQ(sight_named(told(s)), s) << told(s);
    EXPECT_EQ(sight_named("dim ST1"), (Sight{Symptom::dim, "ST1"}));
    for (const char* none : {"", "gloomy", "hotter", "dark and stormy night"})
        EXPECT_FALSE(sight_named(none)) << none;
}

TEST(Readings, OfWhatThereIsNotAreRefusedWithWhatThereIs) {
    Finder finder = heron_finder();
    World& world = finder.world();
    EXPECT_TRUE(world.check({Quantity::volts, "idle", "B1.plus", "B1.minus"}));
    EXPECT_TRUE(world.check({Quantity::volts, by_itself, "B1.plus", "B1.minus"}));
    EXPECT_TRUE(world.check({Quantity::ohms, cell_out, "U1.d2", "P1.data"})) << "a bare pad is one";
    for (const Candidate& c : finder.candidates())
        EXPECT_TRUE(world.check(c.measure)) << c.measure.from << " " << c.measure.to;
    for (const auto& [m, says] :
         {std::pair{Measure{Quantity::volts, "asleeep", "B1.plus", "B1.minus"}, "asleep"},
          {Measure{Quantity::volts, "idle", "B7.plus", "B1.minus"}, "no part"},
          {Measure{Quantity::volts, "idle", "U1.bat", "U1.d77"}, "It has"},
          {Measure{Quantity::pixels, "Tidewater", "ST9", ""}, "ST1"}}) {
        const auto refused = world.check(m);
        ASSERT_FALSE(refused) << says;
        EXPECT_NE(refused.error().text().find(says), std::string::npos) << refused.error().text();
    }
}

} // namespace
} // namespace conductus::diagnose
