// SPDX-License-Identifier: GPL-3.0-or-later
// What rules judge: the job, and everything computed from it.
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/circuit/pack.h"
#include "core/findings/finding.h"
#include "core/harness/harness.h"
#include "core/harness/levels.h"
#include "core/hilt/report.h"
#include "core/job/job.h"
#include "core/lights/colour_names.h"
#include "core/lights/scene.h"
#include "core/power/data_level.h"
#include "core/power/draws.h"
#include "core/power/heat.h"
#include "core/power/led_run.h"
#include "core/power/runtime.h"
#include "core/power/sound.h"
#include "core/power/storage.h"

namespace conductus::findings {

/// A solved state with a name a person gives it.
struct Solved {
    std::string name; ///< look or effect
    bool effect = false;
    std::string look;       ///< that is shown, or under the effect
    std::string of_effect;  ///< its name; empty: of a look
    bool momentary = false; ///< a look at a peak of sound: nothing of it is held
    /// A of each source with the sound's mean in place of its peak, which is over before a
    /// protection acts; empty: the same as in `point`.
    std::vector<double> without_peak;
    circuit::Network network;
    circuit::OperatingPoint point;
    double mean_share = 1; ///< of the brightest frame, over time
    [[nodiscard]] double cell_amps() const { return circuit::pack_amps(network, point); }
    /// Current of the named resistor's ref, largest over its resistors; 0 where there is none.
    [[nodiscard]] double amps_of(std::string_view ref) const;
};

using SolvedPtr = std::shared_ptr<const Solved>;

/// Last over first pixel at half charge, of the look where that is least.
struct Tip {
    std::string look;
    double ratio = 1;
};

/// A look as the first blade shows it.
struct SeenLook {
    std::string look;
    job::Style style = job::Style::steady;
    std::optional<lights::Uv> foot, tip;         ///< at full charge
    std::optional<lights::Uv> low_foot, low_tip; ///< nearly empty
    std::optional<lights::Family> family;        ///< of its foot at full charge
};

/// A job and what was computed of it, before anything is said of that. A Plan is these facts, with
/// figures and findings.
struct Facts {
    std::shared_ptr<const job::Job> whole; ///< with everything that may be mated: the document
    std::vector<job::Mated> mated;         ///< what stands in its sockets
    std::shared_ptr<const job::Job> job; ///< with that set alone; where there is no choice, `whole`
    std::shared_ptr<const catalogue::Catalogue> parts;
    std::shared_ptr<const job::Wiring> wiring;     ///< of the job, with what conducts inside parts
    std::shared_ptr<const harness::Levels> levels; ///< what copper joins, with its contacts at rest
    hilt::Fit fit;
    hilt::Report hilt_report;
    harness::Harness harness;
    lights::Chains chains;
    std::vector<SolvedPtr> fresh;     ///< looks, effects over the use's, and the worst of all, at
                                      ///< full charge, brightest
    SolvedPtr most_asked;             ///< what draws most of anything in the job; null: not solved
    std::vector<SolvedPtr> sustained; ///< looks at full charge, mean frame
    std::optional<Tip> tip;
    std::vector<SeenLook> seen; ///< looks that a blade shows, in the job's order
    std::optional<power::Discharge> run;
    /// Parts that would be alternatives, so that a fix is one that fits.
    std::vector<hilt::CellTrial> cell_trials;
    std::vector<power::DataHop> hops; ///< each at the state where it has least in hand
    std::vector<power::LedRun> leds;
    std::vector<power::LeftOn> left_on;
    std::vector<power::PartHeat> heat;    ///< in the use, hottest first
    std::vector<power::PartHeat> warmest; ///< every part in the look where it gets hottest
    std::optional<power::Storage> storage;
    std::vector<power::Draw> asleep; ///< what draws in deep sleep, kills closed
    std::optional<power::LoudnessFigure> loudness;

    /// The solved state with the largest current through `ref`; null where nothing is solved.
    [[nodiscard]] const Solved* worst_for(std::string_view ref) const;
    [[nodiscard]] const Solved* largest() const; ///< cell current
};

/// What the rules of polarity and kills say of a job before anything is solved: cheap.
std::vector<Finding> judge_copper(const job::Job& job, const catalogue::Catalogue& parts);

/// Every rule, in the order of severity then station.
std::vector<Finding> judge(const Facts& facts);

// The families. Each appends what it finds.
void judge_wiring(const Facts& facts, std::vector<Finding>& out);
void judge_supply(const Facts& facts, std::vector<Finding>& out);
void judge_kill(const Facts& facts, std::vector<Finding>& out);
void judge_contacts(const Facts& facts, std::vector<Finding>& out);
void judge_pads(const Facts& facts, std::vector<Finding>& out);
void judge_lines(const Facts& facts, std::vector<Finding>& out);
void judge_blades(const Facts& facts, std::vector<Finding>& out);
void judge_survey(const Facts& facts, std::vector<Finding>& out);
void judge_openings(const Facts& facts, std::vector<Finding>& out);
void judge_lights(const Facts& facts, std::vector<Finding>& out);
void judge_loads(const Facts& facts, std::vector<Finding>& out);
void judge_heat(const Facts& facts, std::vector<Finding>& out);
void judge_fit(const Facts& facts, std::vector<Finding>& out);
void judge_hilt(const Facts& facts, std::vector<Finding>& out);
void judge_harness(const Facts& facts, std::vector<Finding>& out);
void judge_safety(const Facts& facts, std::vector<Finding>& out);
void judge_brief(const Facts& facts, std::vector<Finding>& out);
void judge_parts(const Facts& facts, std::vector<Finding>& out);
void judge_colours(const Facts& facts, std::vector<Finding>& out);
void judge_plugs(const Facts& facts, std::vector<Finding>& out);
void judge_board(const Facts& facts, std::vector<Finding>& out);
void judge_tubes(const Facts& facts, std::vector<Finding>& out);
void judge_handling(const Facts& facts, std::vector<Finding>& out);
void judge_motion(const Facts& facts, std::vector<Finding>& out);
void judge_bench(const Facts& facts, std::vector<Finding>& out);

/// The order findings are read in: severity, then station.
void in_order(std::vector<Finding>& findings);

} // namespace conductus::findings
