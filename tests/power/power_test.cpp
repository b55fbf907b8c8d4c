// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>

#include "core/circuit/sink.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/power/cell_model.h"
#include "core/power/heat.h"
#include "core/power/luminance.h"
#include "core/power/peaks.h"
#include "core/power/runtime.h"
#include "core/power/sound.h"
#include "core/power/state.h"
#include "support/fixtures.h"

namespace conductus::power {
namespace {

using namespace test;

TEST(Cell, CurveThroughItsPoints) {
    EXPECT_EQ(open_circuit(0), Volt(3.00));
    EXPECT_NEAR(open_circuit(0.05).value(), 3.30, 1e-12);
    EXPECT_NEAR(open_circuit(0.5).value(), 3.70, 1e-12);
    EXPECT_NEAR(open_circuit(1).value(), 4.18, 1e-12);
    EXPECT_NEAR(open_circuit(0.25).value(), 3.57, 1e-12);
    EXPECT_EQ(open_circuit(-1), open_circuit(0));
    EXPECT_EQ(open_circuit(2), open_circuit(1));
    for (double s = 0.01; s <= 1; s += 0.01)
        EXPECT_GT(open_circuit(s), open_circuit(s - 0.01));
}

TEST(Cell, ResistanceWithChargeAndTemperature) {
    EXPECT_EQ(resistance_by_charge(1), 1);
    EXPECT_EQ(resistance_by_charge(0.3), 1);
    EXPECT_NEAR(resistance_by_charge(0.1), 1.6, 1e-12);
    EXPECT_NEAR(resistance_by_charge(0), 2.5, 1e-12);
    EXPECT_NEAR(resistance_by_charge(0.2), 1.3, 1e-12);
    EXPECT_NEAR(resistance_by_temperature(Celsius(25)), 1, 1e-12);
    EXPECT_NEAR(resistance_by_temperature(Celsius(0)),
                std::exp(22e3 / 8.314462618 * (1 / 273.15 - 1 / 298.15)), 1e-12);
    EXPECT_GT(resistance_by_temperature(Celsius(0)), 2);
}

TEST(Cell, PolarisationIsTheExactExponential) {
    Polarisation one, many;
    one.advance(Ampere(3), Ohm(0.02), Second(60));
    for (int i = 0; i < 60; ++i)
        many.advance(Ampere(3), Ohm(0.02), Second(1));
    EXPECT_NEAR(one.u1.value(), 3 * 0.35 * 0.02 * (1 - std::exp(-60.0 / 12)), 1e-12);
    EXPECT_NEAR(one.u2.value(), 3 * 0.8 * 0.02 * (1 - std::exp(-60.0 / 400)), 1e-12);
    EXPECT_NEAR(one.u1.value(), many.u1.value(), 1e-12);
    EXPECT_NEAR(one.u2.value(), many.u2.value(), 1e-12);
    one.advance(Ampere(0), Ohm(0.02), Second(1e6));
    EXPECT_NEAR(one.u2.value(), 0, 1e-12);
}

TEST(Cell, MeasuredFiguresGoFirst) {
    const auto* cell = parts().find_as<catalogue::Cell>("cell.18350");
    job::Part part;
    part.measured.capacity = MilliAmpereHour(870);
    const CellFigures f = figures_of(part, *cell);
    EXPECT_EQ(f.capacity, MilliAmpereHour(870));
    EXPECT_TRUE(f.measured_capacity);
    EXPECT_EQ(f.resistance, cell->resistance);
    EXPECT_FALSE(f.measured_resistance);
}

TEST(Sound, ByHand) {
    job::Job job = demo("heron"); // 4 Ω, 2 W, standard board
    job.use.volume = 0.5;
    const Sound s = sound_of(job, parts());
    EXPECT_NEAR(s.peak.value(), 0.5 * 4, 1e-12);
    EXPECT_NEAR(s.need.value(), 3.0, 1e-12);
    // 2 V are cut by 2 dB where the rail leaves 1.589 V: 1.889 V with the headroom.
    EXPECT_NEAR(s.clips.value(), 2 * std::pow(10, -0.1) + 0.3, 1e-12);
    EXPECT_NEAR(s.compression(Volt(1.889)), 2, 2e-3);
    EXPECT_EQ(s.compression(Volt(2.4)), 0);
    circuit::Sink sink;
    sink.sound = s.at_peak;
    EXPECT_NEAR(circuit::sink_current(sink, 3.7).amps, 1.0 / (0.85 * 3.7), 1e-12);
    // It takes its power from whatever supply it has: half the current from twice the volts.
    EXPECT_NEAR(circuit::sink_current(sink, 7.4).amps, 1.0 / (0.85 * 7.4), 1e-12);
    sink.sound = s.hum; // an eighth of a steady tone, which is half of its peak
    EXPECT_NEAR(circuit::sink_current(sink, 3.7).amps, 1.0 / 16 / (0.85 * 3.7), 1e-12);
    job.use.volume = 0;
    EXPECT_EQ(sound_of(job, parts()).at_peak.siemens, 0);
}

TEST(Sound, CrackleAndClippingAreTwoThings) {
    // However loud it is, the board needs no more than its minimum; only peaks are cut.
    job::Job job = demo("heron");
    for (const double volume : {0.7, 0.77, 1.0}) {
        job.use.volume = volume;
        EXPECT_NEAR(sound_of(job, parts()).need.value(), 3.0, 1e-12);
    }
    EXPECT_NEAR(sound_of(job, parts()).clips.value(), 4 * std::pow(10, -0.1) + 0.3, 1e-12);
    const auto quiet = [&](double volume) {
        job.use.volume = volume;
        return run_down(job, parts()).value();
    };
    // From 70 % to 77 % the louder sound draws a little more: minutes, not half of the time.
    const Discharge soft = quiet(0.7), loud = quiet(0.77), full = quiet(1);
    EXPECT_GT(loud.clean() / soft.clean(), 0.97);
    EXPECT_GT(full.clean() / soft.clean(), 0.9);
    ASSERT_TRUE(full.clips);
    EXPECT_LT(*full.clips, full.clean());
    EXPECT_FALSE(soft.clips && *soft.clips < soft.clean());
    // A boosted rail keeps its amplitude down to where the board gives up.
    job::fit_type("U1", "board.large")(job);
    EXPECT_EQ(sound_of(job, parts()).clips, Volt(0));
    EXPECT_FALSE(quiet(1).clips);
}

TEST(Sound, TwoCellsAreAskedForHalfTheCurrent) {
    job::Job job = demo("godwit"); // 8 Ω, 2 W, two cells
    job.use.volume = 0.6;
    circuit::Sink sink;
    sink.sound = sound_of(job, parts()).at_peak;
    const double peak = 0.6 * std::sqrt(2.0 * 2 * 8);
    EXPECT_NEAR(circuit::sink_current(sink, 8.19).amps, peak * peak / (8 * 0.85 * 8.19), 1e-9);
    EXPECT_NEAR(circuit::sink_current(sink, 8.19).amps, 0.207, 1e-3);
}

TEST(Sound, LoudnessIsAgainstTheBoardsOwnMaximum) {
    job::Job job = demo("heron");
    job.use.volume = 0.5;
    const auto l = loudness_of(job, parts(), Volt(4.18), -3);
    ASSERT_TRUE(l);
    EXPECT_NEAR(l->full, 4.18 - 0.3, 1e-12);
    EXPECT_NEAR(l->below_full, 20 * std::log10(2 / 3.88), 1e-12);
    EXPECT_NEAR(l->power.value(), 2 * 2 / 2 / 4.0, 1e-12);
    EXPECT_NEAR(*l->level, 80 + 10 * std::log10(0.5) - 3, 1e-9);
    job.use.volume = 1; // 4 V are wanted: more than it has is not given
    const auto most = loudness_of(job, parts(), Volt(4.18), 0);
    EXPECT_GT(most->below_full, 0);
    EXPECT_NEAR(most->power.value(), 3.88 * 3.88 / 8, 1e-12);
}

/// A cell feeding a resistor: no board, no blade.
job::Job resistor_job() {
    job::Job job = demo("heron");
    job.blades.clear();
    job.wires.clear();
    job.parts = {job.parts[1], job.parts[2]};
    job.parts[0].protection.reset();
    job.parts[1].measured.resistance = Ohm(2.0); // the kill, as the load
    job.wires = {
        {"W1", "B1.plus", "K1.in", job::Role::supply, 20, Millimetre(1), Ohm(0.001)},
        {"W2", "K1.out", "B1.minus", job::Role::return_path, 20, Millimetre(1), Ohm(0.001)}};
    job.use.temperature = Celsius(25);
    return job;
}

TEST(Runtime, ChargeTakenIsTheIntegralOfTheCurrent) {
    const auto run = run_down(resistor_job(), parts());
    ASSERT_TRUE(run) << run.error().text();
    EXPECT_EQ(run->off_because, "the cell is empty");
    double ampere_minutes = 0;
    for (std::size_t i = 1; i < run->samples.size(); ++i)
        ampere_minutes += (run->samples[i].amps.value() + run->samples[i - 1].amps.value()) / 2 *
                          (run->samples[i].at - run->samples[i - 1].at).value();
    EXPECT_NEAR(ampere_minutes / 60 * 1000, 3000, 3000 * 2e-3);
    EXPECT_NEAR(run->drawn.value(), 3000, 1e-6);
}

TEST(Runtime, FlatLoadAgreesWithTheClosedForm) {
    // A load that draws a set current at any voltage: t = Q / I.
    job::Job job = demo("heron");
    job.blades.clear();
    std::erase_if(job.wires, [](const job::Wire& w) {
        return w.from.starts_with("P1") || w.to.starts_with("P1");
    });
    job.use.volume = 0;
    job::find_ref(job.parts, "B1")->protection.reset();
    job::find_ref(job.parts, "B1")->measured.capacity = MilliAmpereHour(100);
    const auto run = run_down(job, parts());
    ASSERT_TRUE(run) << run.error().text();
    // 60 mA (1 − e^−V) is within 6 % of 60 mA above 2.85 V; the board cuts off close to empty.
    EXPECT_NEAR(run->off.value(), 100 / 60.0 * 60, 100 * 0.06);
    EXPECT_FALSE(run->dim());
}

TEST(Runtime, HalvingTheStepChangesLittle) {
    for (const char* name : {"heron", "dunlin"}) {
        const auto whole = run_down(demo(name), parts(), 0.01),
                   half = run_down(demo(name), parts(), 0.005);
        ASSERT_TRUE(whole && half);
        EXPECT_NEAR(whole->clean() / half->clean(), 1, 0.002) << name;
        EXPECT_NEAR(whole->off / half->off, 1, 0.002) << name;
        EXPECT_NEAR(whole->bright().value(), half->bright().value(), 0.05) << name;
    }
}

double clean_with(void (*change)(job::Job&)) {
    job::Job job = demo("heron");
    change(job);
    const auto run = run_down(job, parts());
    EXPECT_TRUE(run);
    return run ? run->clean().value() : -1;
}

TEST(Runtime, BetterNeverShortensIt) {
    const double now = clean_with([](job::Job&) {});
    EXPECT_GT(now, 0);
    EXPECT_GT(clean_with([](job::Job& j) { j.parts[1].measured.capacity = MilliAmpereHour(3300); }),
              now);
    EXPECT_GT(clean_with([](job::Job& j) {
                  for (auto& l : j.looks)
                      l.cap *= 0.8;
              }),
              now);
    EXPECT_GT(clean_with([](job::Job& j) { j.use.volume = 0.5; }), now);
}

TEST(Runtime, OffComesAfterAllElseAndVoltsFall) {
    const auto run = run_down(demo("heron"), parts());
    ASSERT_TRUE(run);
    EXPECT_LE(run->clean(), run->off);
    EXPECT_LE(run->bright(), run->off);
    for (std::size_t i = 1; i < run->samples.size(); ++i) {
        EXPECT_LT(run->samples[i].board, run->samples[i - 1].board);
        EXPECT_LE(run->samples[i].board_peak, run->samples[i].board);
        EXPECT_LT(run->samples[i].charge, run->samples[i - 1].charge);
    }
    EXPECT_EQ(run->peak_event, "clash flash");
}

TEST(Runtime, SaysWhatSwitchesItOff) {
    job::Job job = demo("heron");
    job::find_ref(job.parts, "B1")->measured.resistance = Ohm(0.15);
    EXPECT_EQ(run_down(job, parts())->off_because, "the board cuts off");
    // Without a board, protection is all that ends it; without either, the charge.
    job = resistor_job();
    job.parts[0].measured.resistance = Ohm(0.3);
    EXPECT_EQ(run_down(job, parts())->off_because, "the cell is empty");
    job.parts[0].protection = "protection.5a";
    const auto run = run_down(job, parts());
    EXPECT_EQ(run->off_because, "the protection cuts off");
    EXPECT_LT(run->drawn, MilliAmpereHour(3000));
}

TEST(Runtime, NothingWiredIsAnErrorNotForever) {
    job::Job job = resistor_job();
    job.parts.pop_back();
    job.wires.clear();
    const auto run = run_down(job, parts());
    ASSERT_FALSE(run);
    EXPECT_FALSE(run.error().mend.empty());
}

TEST(Peaks, TheWorstIsFullWhiteWithSound) {
    const job::Job job = demo("heron");
    const auto worst = most_of_look(job, parts(), {job.looks[0]});
    ASSERT_TRUE(worst);
    ASSERT_TRUE(worst->effect);
    EXPECT_EQ(worst->effect->name, "clash flash");
    EXPECT_EQ(worst->loudness, Loudness::peak);
}

TEST(State, NamesTheLooksThereAre) {
    const job::Job job = demo("heron");
    EXPECT_EQ(look_named(job, "")->name, "Tidewater");
    EXPECT_EQ(look_named(job, "Kelp")->name, "Kelp");
    const auto none = look_named(job, "Kelpp");
    ASSERT_FALSE(none);
    EXPECT_NE(none.error().mend.english().find("Kelp"), std::string::npos);
}

TEST(Luminance, RedStaysWhereBlueFades) {
    job::Job job = demo("heron");
    auto tip = [&](const job::Colour& colour, double charge) {
        const auto n =
            network_of(job, parts(), {{"x", colour, job::Style::steady, 1}, {}, {}, {}, charge});
        const auto p = circuit::solve(*n);
        return dimmest_ends(strip_lights(job, parts()), *n, *p);
    };
    auto share = [](const Ends& e) { return e.tip / e.foot; };
    EXPECT_GT(share(tip({1, 0, 0, 0}, 0.5)), 0.95);
    EXPECT_LT(share(tip({0, 0, 1, 0}, 0.5)), share(tip({1, 0, 0, 0}, 0.5)));
    // With the cell the tip fades, against what it was when fresh.
    EXPECT_LT(tip({1, 1, 1, 0}, 0.2).tip, 0.9 * tip({1, 1, 1, 0}, 1).tip);
}

TEST(Heat, EveryWattIsSomewhere) {
    const job::Job job = demo("heron");
    const auto n = network_of(job, parts(), mean_state(job.looks[0]));
    const auto p = circuit::solve(*n);
    const auto heat = heat_of(job, parts(), *n, *p);
    double watts = 0;
    for (std::size_t i = 0; i < heat.size(); ++i) {
        watts += heat[i].power.value();
        EXPECT_GE(heat[i].temperature, job.use.temperature);
        if (i) {
            EXPECT_LE(heat[i].temperature, heat[i - 1].temperature);
        }
    }
    // The cell's slow polarisation heats beyond what the resting network shows.
    const double polarised =
        p->source_amps[0] * p->source_amps[0] * n->sources[0].ohms * (r1_share + r2_share);
    EXPECT_NEAR(watts, n->sources[0].emf * p->source_amps[0] + polarised, 1e-6);
}

} // namespace
} // namespace conductus::power
