// SPDX-License-Identifier: GPL-3.0-or-later
// Figures that a person can check in the hand: what opens, springs of bays, bands and fire, lights
// on pads, warmth, copper, sleep and percent.
#include <cmath>

#include "core/circuit/copper.h"
#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/findings/held.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/presets.h"
#include "core/power/bands.h"
#include "core/power/day_run.h"
#include "core/power/film.h"
#include "core/power/heat.h"
#include "core/power/peaks.h"
#include "core/power/percent.h"
#include "support/fixtures.h"
#include "support/lit_jobs.h"

namespace conductus::power {
namespace {

using namespace test;

struct At {
    circuit::Network network;
    circuit::OperatingPoint point;
    [[nodiscard]] double amps() const { return circuit::pack_amps(network, point); }
    [[nodiscard]] double board() const {
        const auto& s = network.sinks.front();
        return point.volts[s.plus] - point.volts[s.minus];
    }
};

At solved(const job::Job& job, const State& state) {
    At at{network_of(job, parts(), state).value(), {}};
    at.point = circuit::solve(at.network).value();
    return at;
}

job::Part& part(job::Job& job, const std::string& ref) { return *job::find_ref(job.parts, ref); }

/// Heron with a fuse between cell and kill.
job::Job fused(const std::string& type) {
    job::Job job = demo("heron");
    job::Part fuse = part(job, "K1");
    fuse.ref = "F1", fuse.type = type, fuse.measured = {};
    job.parts.push_back(fuse);
    job::Wire& w = *job::find_ref(job.wires, "W1");
    w.to = "F1.a";
    job::Wire more = w;
    more.ref = "W20", more.from = "F1.b", more.to = "K1.in";
    job.wires.push_back(more);
    return job;
}

TEST(Opens, AProtectionThatTripsEndsTheRun) {
    job::Job job = demo("heron");
    for (job::Strip& s : job.blades[0].strips)
        s.type = "strip.rgb-bright-144-wide";
    part(job, "P1").type = "connector.pins-7";
    part(job, "B1").protection = "protection.5a"; // the blade asks for more than 5 A
    const Discharge run = run_down(job, parts()).value();
    ASSERT_TRUE(run.tripped);
    EXPECT_EQ(run.tripped->ref, "B1");
    EXPECT_EQ(run.clean(), Minute(0));
    EXPECT_EQ(run.off, Minute(0));
    const auto plan = plan_of(job);
    EXPECT_EQ(plan.figure("first-crackle")->value, 0);
    EXPECT_FALSE(plan.figure("cells-per-day")->value) << "fresh cells mend no protection";
    // The day says what opened and when, and that it comes back when the blade is out.
    const DayLoads loads = day_loads(job, parts(), job.use).value();
    const Day day = live(loads, {});
    ASSERT_GE(day.marks.size(), 2u);
    const auto tripped = std::find_if(day.marks.begin(), day.marks.end(), [](const DayMark& m) {
        return m.kind == DayMark::Kind::tripped;
    });
    ASSERT_NE(tripped, day.marks.end());
    EXPECT_NE(tripped->why.english().find("protection of B1 trips"), std::string::npos);
    EXPECT_TRUE(std::any_of(day.marks.begin(), day.marks.end(),
                            [](const DayMark& m) { return m.kind == DayMark::Kind::back; }));
    EXPECT_LT(day.clean->value(), 1);
    EXPECT_LT(day.ignited.value(), job.use.ignited.value() / 4);
}

TEST(Opens, AResettableFuseOpensByItsOwnCurve) {
    job::Job job = fused("fuse.resettable-3a"); // holds 3 A, opens at 6: in time from 4.24 A on
    const auto& fuse = *parts().find_as<catalogue::Fuse>("fuse.resettable-3a");
    EXPECT_NEAR(opens_at(fuse).value(), std::sqrt(18), 1e-12);
    for (job::Strip& s : job.blades[0].strips)
        s.type = "strip.rgb-144-wide-2oz";
    part(job, "P1").type = "connector.pins-7";
    part(job, "B1").protection.reset();
    job.effects.clear();
    job.use.day.clear();
    job::find_name(job.looks, "Moonrise")->style = job::Style::steady;
    job.use.look = "Moonrise";
    const Discharge run = run_down(job, parts()).value();
    ASSERT_TRUE(run.tripped);
    EXPECT_EQ(run.tripped->ref, "F1");
    // By hand: 1 = x²(1 − e^(−t/30 s)), x the current over 4.24 A; it falls by little till then.
    const double x2 = std::pow(run.samples.front().amps.value(), 2) / 18;
    ASSERT_GT(x2, 1.02);
    EXPECT_NEAR(run.off.value() * 60, 30 * std::log(x2 / (x2 - 1)), 0.2 * run.off.value() * 60);
    // Left to cool it holds again at a fifth of where it opens.
    EXPECT_NEAR(run.tripped->back->value(), 30 * std::log(5), 1e-9);
    // One that is never reached does no harm; a plain fuse does not come back.
    EXPECT_FALSE(run_down(fused("fuse.blade-7a5"), parts())->tripped);
    Warming warming({{"F1", Guard::Kind::fuse, Ampere(4), Second(8), {}}}, Celsius(20));
    EXPECT_FALSE(warming.told(0, {5}, Celsius(20)).back);
    // Warmed by steps as in one go: 1 = (5/4)²(1 − e^(−t/8 s)).
    double at = 0;
    for (std::optional<Warming::Opening> opened; !opened; at += opened ? opened->share * 0.1 : 0.1)
        opened = warming.pass({5}, 0.1, Celsius(20));
    EXPECT_NEAR(at, 8 * std::log(25.0 / 9), 1e-6);
}

TEST(Opens, ARegulatorShutsDownAtItsTemperature) {
    const std::vector<Guard> guards{
        {"U2", Guard::Kind::shutdown, {}, Second(60), KelvinPerWatt(60)}};
    Warming warming(guards, Celsius(20));
    // 3 W on 60 K/W would be 200 °C: 150 is reached after τ·ln(180/50).
    double at = 0;
    for (std::optional<Warming::Opening> opened; !opened; at += opened ? opened->share : 1)
        opened = warming.pass({3}, 1, Celsius(20));
    EXPECT_NEAR(at, 60 * std::log(180.0 / 50), 1e-6);
    const Opened told = warming.told(0, {3}, Celsius(20));
    EXPECT_EQ(told.why, "U2 shuts down at 150 °C: it burns 3\u202fW");
    EXPECT_NEAR(told.back->value(), 60 * std::log(130.0 / 110), 1e-9);
    EXPECT_FALSE(Warming(guards, Celsius(20)).pass({2}, 1e6, Celsius(20))); // 140 °C for ever
}

TEST(Bays, SpringsAndPlatesAreInEveryJob) {
    job::Job job = demo("heron");
    EXPECT_EQ(job::bay_of(part(job, "B1"), parts()).contacts, Ohm(0.04));
    const double with = solved(job, most_of_all(job, parts(), 1).value()).amps();
    const auto clean_with = run_down(job, parts())->clean();
    part(job, "B1").bay_measured = Ohm(0.0001);
    const double without = solved(job, most_of_all(job, parts(), 1).value()).amps();
    EXPECT_GT(without / with, 1.08);
    EXPECT_LT(without / with, 1.2);
    EXPECT_GT(run_down(job, parts())->clean(), clean_with);
    // What was measured wins over what was chosen, a pouch has leads, and tags are soldered.
    part(job, "B1").bay = "bay.leaf";
    EXPECT_EQ(job::bay_of(part(job, "B1"), parts()).contacts, Ohm(0.0001));
    part(job, "B1").bay_measured.reset();
    EXPECT_EQ(job::bay_of(part(job, "B1"), parts()).contacts, Ohm(0.022));
    part(job, "B1").bay.reset();
    part(job, "B1").type = "cell.pouch-2000";
    EXPECT_EQ(job::bay_of(part(job, "B1"), parts()).contacts, Ohm(0));
}

TEST(Bays, TheUsualOneIsTheCataloguesSpringAndPlate) {
    const auto& listed = *parts().find_as<catalogue::Bay>("bay.spring-plate");
    EXPECT_EQ(listed.contacts, catalogue::Bay{}.contacts);
    EXPECT_EQ(listed.rating, catalogue::Bay{}.rating);
}

TEST(Beside, EachCellGivesItsOwnFromTheFirstMomentOn) {
    job::Job job = demo("heron");
    job::Part second = part(job, "B1");
    second.ref = "B2", second.protection = "protection.8a";
    job.parts.push_back(second);
    job.wires.push_back({"W30", "B2.plus", "B1.plus", job::Role::supply, 30, Millimetre(200), {}});
    job.wires.push_back(
        {"W31", "B2.minus", "B1.minus", job::Role::return_path, 30, Millimetre(200), {}});
    part(job, "B2").measured.capacity = MilliAmpereHour(2000);
    job.use.look = "Tidewater"; // steady
    const DayLoads loads = day_loads(job, parts(), job.use).value();
    const UseLoads& use = *loads.sets.front();
    ASSERT_EQ(use.pack.kind, Pack::Kind::beside);
    const At now = solved(job, {*job::find_name(job.looks, "Tidewater")});
    Bank bank(use.cells, use.pack, job.use.temperature);
    const Held held = bank.hold(use.look.bright);
    EXPECT_NEAR(use.look.bright.at(held.volts).board, now.board(), 1.5e-3);
    for (std::size_t i = 0; i < 2; ++i)
        EXPECT_NEAR(bank.amps(i, held).value(), now.point.source_amps[i],
                    5e-3 * now.point.source_amps[i]);
    EXPECT_GT(now.point.source_amps[0] / now.point.source_amps[1], 1.2); // thin wires share less
    // Half an hour later each stands where its own current has brought it, solved anew.
    Held then = held;
    for (int i = 0; i < 180; ++i)
        then = bank.advance(use.look.bright, then, 10, Celsius(20));
    auto later = now.network;
    for (std::size_t i = 0; i < 2; ++i) {
        later.sources[i].emf = bank.cells[i].emf(use.cells[i]).value();
        later.sources[i].ohms = bank.cells[i].resistance(use.cells[i]).value();
    }
    const auto point = circuit::solve(later).value();
    for (std::size_t i = 0; i < 2; ++i)
        EXPECT_NEAR(bank.amps(i, then).value(), point.source_amps[i], 0.01);
    EXPECT_GT(std::abs(bank.cells[0].charge - bank.cells[1].charge), 0.01);
    const double out = bank.tally.loads() + bank.tally.resistance + bank.tally.polarisation;
    EXPECT_NEAR(out / bank.tally.drawn, 1, 1e-4);
}

TEST(Bands, StandWhereTheyDrawMost) {
    job::Job job = demo("heron");
    const State state{*job::find_name(job.looks, "Kelp")}; // bands
    ASSERT_TRUE(has_bands(state));
    const double told = solved(job, state).amps();
    double most = 0, least = 1e9;
    for (int i = 0; i < 600; ++i) {
        State at = state;
        at.bands_at = i * lights::bands_repeat_seconds / 600;
        const double amps = solved(job, at).amps();
        most = std::max(most, amps), least = std::min(least, amps);
    }
    EXPECT_NEAR(told, most, 2e-4 * most);
    EXPECT_GT(most / least, 1.01); // it matters where they stand
}

TEST(Fire, PeaksWhereOneFrameOfAThousandIsBrighter) {
    // Of 20,000 films of one frame, the mean of 16 tongues.
    int brighter = 0, rounds_of = 40000;
    for (int i = 0; i < rounds_of; ++i) {
        double sum = 0;
        for (int k = 0; k < 16; ++k)
            sum += lights::level(job::Style::fire, (k + 0.5) / 16, 0.04,
                                 static_cast<std::uint64_t>(i) * 7919 + 3);
        brighter += sum / 16 > lights::fire_peak;
    }
    // 40 are expected; five standard deviations either way.
    EXPECT_NEAR(brighter, (1 - lights::fire_quantile) * rounds_of, 5 * std::sqrt(40.0));
}

TEST(Pulsed, LightsOnPadsDrawWhatTheyDrawWhileTheyAreOn) {
    const job::Job job = demo("godwit");
    job::Look dim = job.looks.front();
    dim.style = job::Style::steady;
    dim.cap = 0.4;
    job::Look full = dim;
    full.cap = 1;
    const double on = solved(job, {full}).amps(), at_40 = solved(job, {dim}).amps();
    // While they are on they do not know for how long.
    EXPECT_NEAR(at_40, on, 1e-9);
    const double mean = mean_amps(job, parts(), {dim})->value();
    EXPECT_LT(mean / on, 0.5);
    EXPECT_GT(mean / on, 0.4);
    // Heat and the run-down take the mean, the light is what the eye sees of it.
    const auto lights = blade_lights(job, parts());
    const At bright = solved(job, {full}), half = solved(job, {dim});
    EXPECT_NEAR(whole_light(lights, half.network, half.point) /
                    whole_light(lights, bright.network, bright.point),
                0.4, 1e-9);
}

TEST(Dies, ASingleDieFollowsItsOwnColour) {
    job::Job job = demo("heron");
    job::Look look;
    look.colour = {1, 0.2, 0, 0};
    const auto chains = std::make_shared<const lights::Chains>();
    const lights::Scene scene(job, chains, look, {}, {});
    EXPECT_NEAR(scene.die("D1", 'R', "R", false), 1, 1e-12);
    EXPECT_NEAR(scene.die("D1", 'G', "G", false), 0.2, 1e-12);
    EXPECT_NEAR(scene.die("D1", 'B', "B", false), 0, 1e-12);
    EXPECT_NEAR(scene.die("D1", 'W', "W", false), 0, 1e-12);
    look.colour = {0.6, 0.5, 0.9, 0.3}; // white alone shows the white that is mixed as well
    const lights::Scene white(job, chains, look, {}, {});
    EXPECT_NEAR(white.die("D1", 'W', "W", false), 0.8, 1e-12);
}

TEST(Warmth, StripsOfOneTubeShareItsWall) {
    job::Job job = demo("heron");
    const job::Strip one = job.blades[0].strips[0];
    const State white = mean_state(*job::find_name(job.looks, "Signal red"));
    const auto wall = [&](int strips) {
        job.blades[0].strips.clear();
        for (int i = 0; i < strips; ++i) {
            job.blades[0].strips.push_back(one);
            job.blades[0].strips.back().ref = "ST" + std::to_string(i + 1);
        }
        const At at = solved(job, white);
        const auto heat = heat_of(job, parts(), at.network, at.point);
        double watts = 0, own = 0, told = 0;
        for (const PartHeat& h : heat)
            if (h.ref.starts_with("ST"))
                watts += h.power.value(), own = h.power.value(), told = h.steady.value();
        // ΣP/(10 W/m²K · π·D·L) to the wall, then 2.8 K m/W inside.
        const job::Blade& b = job.blades[0];
        const double area = 3.14159265358979 * b.outer.value() * b.length.value() * 1e-6;
        EXPECT_NEAR(told, 20 + watts / (10 * area) + own * 2800 / one.length.value(), 1e-6);
        return told - own * 2800 / one.length.value();
    };
    const double two = wall(2) - 20, six = wall(6) - 20;
    EXPECT_GT(six / two, 1.7); // volts fall, so not three times
}

TEST(Warmth, TheCellIsAsWarmAsItsDischargeMakesIt) {
    for (const char* name : demo_jobs) {
        const auto plan = plan_of(demo(name));
        const auto cell = job::first_of<catalogue::Cell>(*plan.job, *plan.parts);
        double warmest = -273;
        for (const Sample& s : plan.run->samples)
            warmest = std::max(warmest, s.warmth.value());
        const PartHeat* told = job::find_ref(plan.heat, cell.part->ref);
        ASSERT_TRUE(told);
        EXPECT_NEAR(told->temperature.value(), warmest, 1.0) << name;
        EXPECT_GE(told->steady, told->temperature) << name;
        EXPECT_EQ(plan.figure("hottest-part")->value, plan.heat.front().temperature.value());
        for (const findings::Finding& f : plan.findings)
            EXPECT_NE(f.id, "cell.hot") << name;
    }
}

TEST(Warmth, ReachedByHand) {
    // Drawn evenly for 300 s something of 100 s reaches 1 − e⁻³ of its rise.
    EXPECT_NEAR(reached({{0, 1}, {300, 1}}, Second(100)), 1 - std::exp(-3), 1e-12);
    EXPECT_NEAR(reached({{0, 1}, {100, 0.5}, {1e6, 0}}, Second(100)),
                0.5 + (1 - std::exp(-1) - 0.5), 1e-6);
    EXPECT_EQ(reached({{0, 1}}, Second(100)), 0); // it went out at once
}

TEST(Copper, FollowsTheTemperature) {
    job::Job job = demo("heron");
    const State state{*job::find_name(job.looks, "Signal red")};
    const auto ohms = [&](double celsius, const std::string& name) {
        job.use.temperature = Celsius(celsius);
        const auto n = network_of(job, parts(), state).value();
        for (const auto& r : n.resistors)
            if (r.name == name) return r.ohms;
        return n.strips.front().segment;
    };
    EXPECT_NEAR(ohms(45, "w1_wire") / ohms(20, "w1_wire"), 1 + 25 * 0.00393, 1e-12);
    EXPECT_NEAR(ohms(-5, "strip") / ohms(20, "strip"), 1 - 25 * 0.00393, 1e-12);
    EXPECT_EQ(ohms(45, "k1_contact"), ohms(20, "k1_contact"));
    // And in the discharge, phase by phase.
    job.use.temperature = Celsius(20);
    job.use.day = {{job::PhaseKind::ignited, Minute(5), 1, {}, {}, Celsius(40), {}},
                   {job::PhaseKind::ignited, Minute(5), 1, {}, {}, Celsius(0), {}}};
    const DayLoads loads = day_loads(job, parts(), job.use).value();
    EXPECT_NE(loads.of_phase[0], loads.of_phase[1]);
    double slope = 0;
    EXPECT_LT(loads.in(0).look.mean.amps(4, slope), loads.in(1).look.mean.amps(4, slope));
}

TEST(Sleep, ABoardThatIsIdleFallsAsleep) {
    const std::vector<job::Phase> phases{
        {job::PhaseKind::ignited, Minute(2), 3, Minute(10), {}, {}, {}},
        {job::PhaseKind::idle, Minute(4), 1, {}, {}, {}, {}}};
    const Minutes sum = minutes_of(phases, Second(300));
    EXPECT_NEAR(sum.idle.value(), 24, 1e-12);
    EXPECT_NEAR(sum.dozing.value(), 10, 1e-12); // five of each ten; four are too few
    EXPECT_EQ(minutes_of(phases).dozing, Minute(0));
    double idle = 0, dozing = 0;
    for (const Stretch& s : day_of(phases, {}, {}, Second(300))) {
        if (s.shows == Stretch::Shows::idle) idle += s.lasts.value();
        if (s.shows == Stretch::Shows::dozing) dozing += s.lasts.value();
    }
    EXPECT_NEAR(idle, 14 * 60, 1e-9);
    EXPECT_NEAR(dozing, 10 * 60, 1e-9);
    // Set on the part, it wins over the catalogue's; asleep it takes next to nothing.
    job::Job job = demo("heron");
    const auto used = [&](double after) {
        part(job, "U1").chosen.sleep_after = Second(after);
        const Day day = live(day_loads(job, parts(), job.use).value(), {.to_crackle = true});
        return 1 - day.charge;
    };
    job.use.day = {{job::PhaseKind::idle, Minute(600), 1, {}, {}, {}, {}}};
    EXPECT_NEAR(used(3600) / used(0), 0.1, 0.01);
}

TEST(Percents, AreTheChargeOfTheRunsFirstCrackle) {
    for (const char* name : demo_jobs) {
        const job::Job job = demo(name);
        const auto all = percents(job, parts()).value();
        ASSERT_EQ(all.size(), job.looks.size());
        for (const Percent& p : all) {
            job::Job with = job;
            with.use.look = p.look;
            const Discharge run = run_down(with, parts()).value();
            EXPECT_EQ(p.crackle.has_value(), run.crackle && *run.crackle <= run.off);
            if (!p.crackle) continue;
            EXPECT_EQ(*p.crackle, run.clean_charge);
            EXPECT_EQ(p.clean, run.clean());
            // Under load a gauge says less than there is.
            EXPECT_LT(p.gauge, *p.crackle) << name << " " << p.look;
            EXPECT_GE(p.change_below() + 1e-9, p.gauge * 100);
        }
    }
    // 3.60 V at rest are 30 %: and back.
    EXPECT_NEAR(charge_at(Volt(3.60)), 0.3, 1e-12);
    for (double c = 0; c <= 1; c += 0.01)
        EXPECT_NEAR(charge_at(open_circuit(c)), c, 1e-12);
}

TEST(Dim, HasTwoMarks) {
    const job::Job job = demo("heron");
    const Discharge run = run_down(job, parts()).value();
    ASSERT_TRUE(run.uneven && run.faded);
    EXPECT_EQ(run.dim(), std::min(run.uneven, run.faded));
    // At each the sample beside it stands on the mark.
    const auto near = [&](Minute at) {
        const Sample* best = &run.samples.front();
        for (const Sample& s : run.samples)
            if (std::abs((s.at - at).value()) < std::abs((best->at - at).value())) best = &s;
        return *best;
    };
    EXPECT_NEAR(near(*run.uneven).tip, dim_share, 0.01);
    EXPECT_NEAR(near(*run.faded).light, faded_share, 0.01);
    EXPECT_NEAR(run.samples.front().light, 1, 2e-3);
    // The tip is compared with the foot of the same moment, as the looks tell it.
    const auto plan = plan_of(job);
    EXPECT_NEAR(run.samples.front().tip, plan.look(job.use.look)->views[plan::full].tip, 0.01);
}

TEST(Converters, SettleOrSayWhereTheyLetGo) {
    job::Job job = demo("heron");
    job::Part boost = part(job, "K1");
    boost.ref = "U2", boost.type = "regulator.5v-step-up", boost.measured = {};
    job.parts.push_back(boost);
    job::find_ref(job.wires, "W3")->to = "U2.in";
    job.wires.push_back({"W40", "U2.out", "P1.plus", job::Role::supply, 20, Millimetre(60), {}});
    job.wires.push_back(
        {"W41", "U2.gnd", "U1.gnd", job::Role::return_path, 20, Millimetre(60), {}});
    job.use.look = "Moonrise";
    job::find_name(job.looks, "Moonrise")->style = job::Style::steady;
    const At at = solved(job, {*job::find_name(job.looks, "Moonrise")});
    const auto& c = at.network.converters.front();
    const double in = at.point.volts[c.in] - at.point.volts[c.gnd],
                 out = at.point.volts[c.out] - at.point.volts[c.gnd];
    EXPECT_LE(out * at.point.converter_out[0], 0.9 * 5 * in + 1e-6);
    EXPECT_GE(out, in - 0.05 * at.point.converter_in[0] - 1e-9);
    EXPECT_GT(at.amps(), 4.5); // the cell is asked for what it really is
    const auto run = run_down(job, parts());
    ASSERT_TRUE(run) << run.error().text();
    EXPECT_LT(run->clean(), Minute(45));
    // One that can not be solved any lower ends there, and says so.
    Left left;
    left.collapsed = true, left.below = 2.75;
    EXPECT_EQ(left.because(), "off below 2.75\u202fV: a converter lets go there");
}

TEST(Worst, IsTheMostThatAnythingInTheJobCanAsk) {
    std::mt19937 random(20);
    for (int i = 0; i < rounds(40); ++i) {
        const job::Job job = random_lit_job(random);
        const auto told = most_of_all(job, parts(), 1);
        ASSERT_TRUE(told) << told.error().text();
        double most = 0;
        for (const job::Look& look : job.looks) {
            State state{look, {}, Brightness::brightest, Loudness::peak, 1};
            most = std::max(most, solved(job, state).amps());
            // Each preset of the look has effects of its own.
            for (const job::Effect& effect : job::effects_over(job, look.name)) {
                state.effect = effect;
                most = std::max(most, solved(job, state).amps());
            }
        }
        for (const auto when : {job::Rest::idle, job::Rest::blade_out, job::Rest::asleep})
            most = std::max(most, solved(job, rest_state(job, when, 1)).amps());
        EXPECT_NEAR(solved(job, *told).amps(), most, 1e-6 * most + 1e-9);
    }
}

TEST(Held, AFlashIsHeldByItsShareOfTheThermalTime) {
    // I_held² = I₀² + (I² − I₀²)(1 − e^(−t/τ)): 0.15 s of 6 A over 2 A on 8 s.
    findings::Facts f;
    auto job = std::make_shared<job::Job>(demo("heron"));
    job->use.day.clear();
    job->use.ignited = Minute(0);
    f.job = job;
    f.parts = shared_parts();
    const auto state = [](const std::string& name, double amps, const std::string& effect) {
        auto s = std::make_shared<findings::Solved>();
        s->name = effect.empty() ? name : effect;
        s->look = name, s->of_effect = effect, s->effect = !effect.empty();
        s->point.source_amps = {amps};
        return s;
    };
    f.fresh = {state("Tidewater", 2, ""), state("Tidewater", 6, "clash flash")};
    f.sustained = {state("Tidewater", 2, "")};
    const auto amps = [](const findings::Solved& s) { return s.point.source_amps[0]; };
    const findings::HeldCurrent held = findings::held(f, 8, amps);
    EXPECT_NEAR(held.amps, std::sqrt(4 + 32 * (1 - std::exp(-0.15 / 8))), 1e-12);
    EXPECT_EQ(held.sustained, 2);
    EXPECT_EQ(held.peak, 6);
    EXPECT_EQ(held.severity(1.9), findings::Severity::stop); // held over it
    EXPECT_EQ(held.severity(2.1), findings::Severity::warn); // only with its flashes
    EXPECT_FALSE(held.over(2.3));
    EXPECT_EQ(held.how_long(), "(for 0.15 s)");
    // What is on for a quarter of the time feels half of it.
    f.fresh = {state("Tidewater", 4, "")};
    f.sustained = {state("Tidewater", 1, "")};
    EXPECT_NEAR(findings::held(f, 8, amps).amps, 2, 1e-12);
}

} // namespace
} // namespace conductus::power
