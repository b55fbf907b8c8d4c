// SPDX-License-Identifier: GPL-3.0-or-later
// Random numbers that are the same on every machine. Source: SplitMix64.
#pragma once

#include <cmath>
#include <cstdint>

namespace conductus {

class Random {
public:
    explicit Random(std::uint64_t seed) : state_(seed) {}
    std::uint64_t next() {
        std::uint64_t z = state_ += 0x9e3779b97f4a7c15ULL;
        z = (z ^ (z >> 30)) * 0xbf58476d1ce4e5b9ULL;
        z = (z ^ (z >> 27)) * 0x94d049bb133111ebULL;
        return z ^ (z >> 31);
    }
    /// 0 to 1, 1 excluded.
    double uniform() { return static_cast<double>(next() >> 11) * 0x1p-53; }
    double uniform(double least, double most) { return least + (most - least) * uniform(); }
    /// With that mean.
    double exponential(double mean) { return -mean * std::log1p(-uniform()); }

    /// About 0 with a standard deviation of 1, never beyond 6: the sum of twelve even ones.
    double bell() {
        double sum = 0;
        for (int i = 0; i < 12; ++i)
            sum += uniform();
        return sum - 6;
    }

private:
    std::uint64_t state_;
};

} // namespace conductus
