// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/trace.h"

#include <array>
#include <cmath>
#include <numbers>

#include "core/base/random.h"

namespace conductus::motion {
namespace {

using job::Felt;

constexpr double rate = 200; // samples a second
constexpr double g = 9.80665;

/// A push that begins and ends at rest: sin² over its length, 1 in the middle.
double push(double t, double from, double lasts) {
    const double x = (t - from) / lasts;
    if (x <= 0 || x >= 1) return 0;
    const double s = std::sin(std::numbers::pi * x);
    return s * s;
}
/// A push and the pull that ends it: what an acceleration of a movement from rest to rest does.
double to_and_fro(double t, double from, double lasts) {
    const double x = (t - from) / lasts;
    if (x <= 0 || x >= 1) return 0;
    return std::sin(2 * std::numbers::pi * x);
}
/// A blow: it rings out.
double blow(double t, double at, double hertz, double decay) {
    if (t < at) return 0;
    return std::exp(-(t - at) / decay) * std::cos(2 * std::numbers::pi * hertz * (t - at));
}

/// What is done to a hilt that is held level, and where its board is.
class Hand {
public:
    Hand(double lasts, unsigned seed)
        : noise_(seed), samples_(static_cast<std::size_t>(lasts * rate)) {
        for (std::size_t i = 0; i < samples_.size(); ++i) {
            samples_[i].t = static_cast<double>(i) / rate;
            samples_[i].az = 1;
        }
    }
    template <class Do>
    void each(Do change) {
        for (Sample& s : samples_)
            change(s);
    }
    /// A turn about y or z throws the board outward: it sits 0.09 m from where the hilt turns.
    void swung(double across, Sample& s) const {
        s.gy += across;
        const double radians = across * std::numbers::pi / 180;
        s.ax -= radians * radians * 0.09 / g;
    }
    /// A hand trembles and a sensor has noise.
    std::vector<Sample> done() {
        for (Sample& s : samples_) {
            for (double* a : {&s.ax, &s.ay, &s.az})
                *a += noise_.bell() * 0.012;
            for (double* w : {&s.gx, &s.gy, &s.gz})
                *w += noise_.bell() * 1.5;
        }
        return std::move(samples_);
    }
    Random& noise() { return noise_; }

private:
    Random noise_;
    std::vector<Sample> samples_;
};

} // namespace

const char* word(Movement movement) {
    constexpr std::array<const char*, movement_count> words{
        "lighting up", "slow turn", "flick",   "swing",    "spin",       "thrust",
        "tap",         "strike",    "walking", "set down", "loose board"};
    return words[static_cast<std::size_t>(movement)];
}

Trace make_trace(Movement movement, unsigned seed, double vigour) {
    Trace trace;
    trace.name = word(movement);
    Hand hand(movement == Movement::walking ? 4 : 2.5,
              seed * 131 + static_cast<unsigned>(movement));
    const double early = hand.noise().uniform(-0.05, 0.05), at = 0.8 + early;
    const auto meant = [&](double from, double to, Felt what) {
        trace.meant.push_back({from, to, what});
    };
    switch (movement) {
    case Movement::lighting_up: // the thumb presses, the speaker's first sound shakes the chassis
        hand.each([&](Sample& s) {
            s.az += 0.35 * vigour * to_and_fro(s.t, at, 0.18);
            s.gy += 25 * vigour * to_and_fro(s.t, at, 0.3);
            s.ay += 0.55 * vigour * blow(s.t, at + 0.15, 62, 0.12);
        });
        break;
    case Movement::slow_turn:
        hand.each([&](Sample& s) { s.gx += 210 * vigour * push(s.t, at, 1.1); });
        meant(at, at + 1.3, Felt::roll);
        break;
    case Movement::flick: // of the wrist, about the blade and back
        hand.each([&](Sample& s) {
            s.gx += 620 * vigour * to_and_fro(s.t, at, 0.32);
            s.gy += 60 * vigour * to_and_fro(s.t, at, 0.32);
        });
        meant(at, at + 0.5, Felt::twist);
        break;
    case Movement::swing:
        hand.each([&](Sample& s) {
            hand.swung(430 * vigour * push(s.t, at, 0.55), s);
            s.gx += 45 * push(s.t, at, 0.55);
        });
        meant(at, at + 0.7, Felt::swing);
        break;
    case Movement::spin:
        hand.each([&](Sample& s) {
            hand.swung(690 * vigour * push(s.t, at, 1.2), s);
            s.gx += 60 * push(s.t, at, 1.2);
        });
        meant(at, at + 1.3, Felt::swing);
        break;
    case Movement::thrust:
        hand.each([&](Sample& s) {
            s.ax += 2.6 * vigour * to_and_fro(s.t, at, 0.34);
            s.gy += 30 * vigour * push(s.t, at, 0.34);
        });
        meant(at, at + 0.5, Felt::thrust);
        break;
    case Movement::tap: // a finger against the hilt
        hand.each([&](Sample& s) { s.ay += 2.9 * vigour * blow(s.t, at, 48, 0.018); });
        meant(at - 0.05, at + 0.3, Felt::tap);
        break;
    case Movement::strike: // the blade meets another one in a swing
        hand.each([&](Sample& s) {
            hand.swung(330 * vigour * push(s.t, at - 0.3, 0.6) * (s.t < at ? 1 : 0.2), s);
            s.az += 7.5 * vigour * blow(s.t, at, 38, 0.035);
        });
        meant(at - 0.05, at + 0.3, Felt::clash);
        // The swing before it may be taken for one or not: it is meant, its end is the blow.
        meant(at - 0.3, at + 0.3, Felt::swing);
        break;
    case Movement::walking:
        hand.each([&](Sample& s) {
            const double step = std::fmod(s.t, 0.55);
            s.az += 0.28 * vigour * std::sin(2 * std::numbers::pi * s.t / 0.55) +
                    0.22 * vigour * blow(step, 0.05, 14, 0.05);
            s.gy += 38 * vigour * std::sin(2 * std::numbers::pi * s.t / 1.1);
            s.gx += 20 * vigour * std::cos(2 * std::numbers::pi * s.t / 1.1);
        });
        break;
    case Movement::set_down:
        hand.each([&](Sample& s) {
            s.gy += 70 * vigour * push(s.t, at - 0.4, 0.5);
            s.az += 0.9 * vigour * blow(s.t, at + 0.15, 30, 0.02);
        });
        break;
    case Movement::loose_board: // turned over calmly: the board hits its carrier, again and again
        hand.each([&](Sample& s) {
            s.gx += 110 * vigour * push(s.t, at - 0.2, 0.7);
            for (int k = 0; k < 5; ++k)
                s.ay += (k % 2 ? -1 : 1) * 5.5 * vigour * blow(s.t, at + 0.07 * k, 46, 0.022);
        });
        break;
    }
    trace.samples = hand.done();
    return trace;
}

std::vector<Trace> made_up_set() {
    std::vector<Trace> all;
    for (int m = 0; m < movement_count; ++m)
        for (const auto& [seed, vigour] : {std::pair{1u, 0.8}, {2u, 1.0}, {3u, 1.25}})
            all.push_back(make_trace(static_cast<Movement>(m), seed, vigour));
    return all;
}

} // namespace conductus::motion
