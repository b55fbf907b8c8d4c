// SPDX-License-Identifier: GPL-3.0-or-later
// What opens or switches off by itself in use: fuses, protections, and parts that shut down when
// they get too hot. docs/models.md, "What opens".
#pragma once

#include <array>
#include <optional>
#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"
#include "core/power/load_curve.h"

namespace conductus::power {

/// Steady current from which on a fuse opens in time: between what it holds and what surely opens
/// it, their geometric mean.
Ampere opens_at(const catalogue::Fuse& fuse);
/// How long it takes to warm through, where its part does not say: 8 s, resettable 30 s.
Second warms_in(const catalogue::Fuse& fuse);

/// Where a converter or linear driver shuts down, and where it comes back.
inline constexpr Celsius shuts_down{150}, comes_back{130};

struct Guard {
    std::string ref;
    enum class Kind { fuse, resettable, shutdown };
    Kind kind = Kind::fuse;
    Ampere opens;         ///< of a fuse
    Second warms;         ///< time constant
    KelvinPerWatt to_air; ///< of what shuts down
    [[nodiscard]] bool watts() const { return kind == Kind::shutdown; }
};
/// Of a job, the first guard_count; those nothing flows through do no harm.
std::vector<Guard> guards_of(const job::Job& job, const catalogue::Catalogue& parts);
std::vector<Guarded> guarded_in(const std::vector<Guard>& guards);

/// Something has opened.
struct Opened {
    std::string ref;
    Message why;                ///< "F1 opens at 4.9 A"
    std::optional<Second> back; ///< comes back by itself after so long without load; empty: never
};

/// How warm each is, as it lives through the use. Warmth of a fuse is 1 where it opens.
class Warming {
public:
    /// Everything as warm as the air.
    Warming(std::vector<Guard> guards, Celsius air);
    /// Lets that flow for `seconds`. One that opened, and how far into that time, 0 to 1.
    struct Opening {
        std::size_t guard = 0;
        double share = 1;
    };
    std::optional<Opening> pass(const std::array<double, guard_count>& flows, double seconds,
                                Celsius air);
    /// What a flow of that length on top of how warm each is would open.
    [[nodiscard]] std::optional<std::size_t>
    would_open(const std::array<double, guard_count>& flows, double seconds, Celsius air) const;
    [[nodiscard]] Opened told(std::size_t guard, const std::array<double, guard_count>& flows,
                              Celsius air) const;

private:
    [[nodiscard]] double settled(std::size_t guard, double flow, Celsius air) const;
    [[nodiscard]] double limit(std::size_t guard) const;
    std::vector<Guard> guards_;
    std::vector<double> warmth_;
};

} // namespace conductus::power
