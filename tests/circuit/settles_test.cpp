// SPDX-License-Identifier: GPL-3.0-or-later
// Sound jobs settle: whatever the count of pixels behind a step-up, the setting of a linear driver,
// or the resistance of a feed.
#include <random>

#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/power/state.h"
#include "support/fixtures.h"

namespace conductus::circuit {
namespace {

using job::Job;

void add_part(Job& j, const char* ref, const char* type, double amps = 0) {
    job::Part p;
    p.ref = ref, p.type = type, p.at = Millimetre(190);
    if (amps > 0) p.chosen.current = Ampere(amps);
    j.parts.push_back(p);
}

void add_wire(Job& j, const std::string& from, const std::string& to, job::Role role) {
    job::Wire w;
    w.ref = "X" + std::to_string(j.wires.size());
    w.from = from, w.to = to, w.role = role, w.gauge = 22;
    j.wires.push_back(w);
}

/// Every look, one after the other as an analysis does it, and every effect over the last.
void settles(const Job& job, const std::string& what) {
    Guess guess;
    for (const job::Look& look : job.looks)
        for (const bool peak : {false, true}) {
            power::State state;
            state.look = look;
            if (peak && !job.effects.empty()) state.effect = job.effects.front();
            const auto network = power::network_of(job, test::parts(), state);
            ASSERT_TRUE(network) << what;
            const auto warm = solve(*network, &guess);
            ASSERT_TRUE(warm) << what << ", " << look.name << ": " << warm.error().text();
            const auto cold = solve(*network);
            ASSERT_TRUE(cold) << what << ", " << look.name << ": " << cold.error().text();
            for (std::size_t n = 0; n < warm->volts.size(); ++n)
                EXPECT_NEAR(warm->volts[n], cold->volts[n], 1e-7) << what << network->nodes[n];
        }
}

TEST(Settles, EveryCountOfPixelsBehindAStepUp) {
    for (int pixels = 1; pixels <= 144; pixels += test::rounds(1)) {
        Job job = test::clean_job();
        add_part(job, "V1", "regulator.5v-step-up");
        job::find_ref(job.wires, "W3")->from = "V1.out";
        add_wire(job, "U1.bat", "V1.in", job::Role::supply);
        add_wire(job, "V1.gnd", "U1.gnd", job::Role::return_path);
        for (job::Strip& s : job.blades[0].strips)
            s.pixels = pixels;
        settles(job, std::to_string(pixels) + " pixels");
    }
}

TEST(Settles, AFeedAtTheTipWithoutResistance) {
    for (const double ohms : {0.0, 1e-6, 0.01, 1.0})
        for (const int pixels : {1, 2, 117, 1200}) {
            Job job = test::clean_job();
            for (job::Strip& s : job.blades[0].strips) {
                s.pixels = pixels;
                s.feeds = {{1, Ohm(ohms)}, {0.5, Ohm(ohms)}};
            }
            settles(job, std::to_string(ohms) + " Ohm, " + std::to_string(pixels) + " pixels");
        }
}

TEST(Settles, LinearDriversOfAnySetting) {
    std::mt19937 random(7);
    const auto uniform = [&](double a, double b) {
        return std::uniform_real_distribution<>(a, b)(random);
    };
    const char* leds[] = {"led.power-1-red", "led.power-1-white", "led.3mm-red", "led.power-3-rgb"};
    for (int i = 0; i < test::rounds(200); ++i) {
        Job job = test::clean_job();
        const char* led = leds[i % 4];
        add_part(job, "D1", led);
        add_wire(job, "U1.bat", "D1.plus", job::Role::supply);
        const int dies = i % 4 == 3 ? 3 : 1;
        for (int d = 1; d <= dies; ++d) {
            const std::string driver = "DR" + std::to_string(d);
            add_part(job, driver.c_str(), "driver.linear-1a", uniform(0.005, 1.2));
            add_wire(job, dies == 1 ? "D1.minus" : "D1.minus" + std::to_string(d), driver + ".in",
                     job::Role::return_path);
            add_wire(job, driver + ".out", d == 1 ? "U1.l3" : "U1.l4", job::Role::return_path);
        }
        for (job::Look& look : job.looks)
            look.lights = {{"D1",
                            {uniform(0, 1), uniform(0, 1), uniform(0, 1), 0},
                            job::Style::steady,
                            uniform(0.05, 1)}};
        settles(job, std::string(led) + " " + std::to_string(i));
    }
}

} // namespace
} // namespace conductus::circuit
