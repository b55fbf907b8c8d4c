// SPDX-License-Identifier: GPL-3.0-or-later
// What a board takes a movement for, and the thresholds that part movements. docs/models.md,
// "Motion".
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/job/edit.h"
#include "core/motion/trace.h"

namespace conductus::motion {

/// What the board took a stretch of the trace for.
struct Event {
    double at = 0; ///< s, when the threshold was passed for long enough
    job::Felt what = job::Felt::nothing;
    double most = 0;    ///< the largest value of it, in the unit of its threshold
    bool meant = false; ///< it was meant then
    bool operator==(const Event&) const = default;
};

struct Understood {
    std::vector<Event> events; ///< in the order of time
    std::vector<Meant> missed; ///< meant, and not felt
    bool loose = false;        ///< blows that are answered by blows while nothing moves: a rattle
};

/// The threshold of one kind: a reference into the settings. Not of `nothing`.
double& threshold_of(job::MotionSettings& settings, job::Felt what);
double threshold_of(const job::MotionSettings& settings, job::Felt what);
/// "°/s", "°" or "g".
const char* unit_of(job::Felt what);

/// What a kind's threshold is held against, for each sample: turning across or about the blade,
/// degrees turned, acceleration along it or a blow, without gravity.
std::vector<double> values_of(const Trace& trace, job::Felt what);

/// What the board takes a trace for. Kinds whose threshold is 0 it does not listen for: they are
/// neither felt nor missed. Of a movement that is a swing and a blow, a meant swing that ends in a
/// meant blow is not missed.
Understood understood(const Trace& trace, const job::MotionSettings& settings);

/// The thresholds of one kind that part what is meant from what is not.
struct Parting {
    job::Felt what = job::Felt::nothing;
    double above = 0;    ///< passed by what is not meant, up to this
    double below = 0;    ///< passed by all that is meant, up to this; 0: nothing is meant so
    std::string highest; ///< name of the trace that `above` is of
    std::string lowest;  ///< name of the trace that `below` is of
    bool loose = false;  ///< only a loose board stands in the way
    [[nodiscard]] bool parts() const { return below > above; }
    /// Between both: lively answers easily, calm needs more.
    [[nodiscard]] double lively() const { return above + (below - above) * 0.25; }
    [[nodiscard]] double calm() const { return above + (below - above) * 0.75; }
};

/// The highest threshold at which a kind is felt in a trace, where it is meant or where it is not.
struct Reach {
    std::size_t trace = 0;
    job::Felt what = job::Felt::nothing;
    bool meant = false;
    bool loose = false; ///< the trace rattles
    double value = 0;
};
/// Of all traces and kinds, those that are not felt at any threshold left out. The other thresholds
/// are as in `settings`, or usual where they are 0.
std::vector<Reach> reaches(const std::vector<Trace>& traces, const job::MotionSettings& settings);
std::vector<Parting> partings_of(const std::vector<Trace>& traces,
                                 const std::vector<Reach>& reached);

/// Of every kind that is meant in some of the traces. The other thresholds are as in `settings`, or
/// as usual where they are 0.
std::vector<Parting> partings(const std::vector<Trace>& traces,
                              const job::MotionSettings& settings);

/// Sets thresholds of those kinds.
job::Edit set_thresholds(std::vector<std::pair<job::Felt, double>> set);
/// The usual movements at the end of the test sheet, each as it should be taken; what is there
/// already is left alone.
job::Edit begin_tests();

/// Thresholds in the middle between lively and calm for the made-up set without a loose board.
job::MotionSettings usual_settings();

} // namespace conductus::motion
