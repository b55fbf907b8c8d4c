// SPDX-License-Identifier: GPL-3.0-or-later
// Everything that follows from a job. Drawings, pages, findings, files and the command line read
// plans and compute nothing.
#pragma once

#include <array>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "core/base/explained.h"
#include "core/catalogue/catalogue.h"
#include "core/findings/facts.h"
#include "core/hilt/study.h"
#include "core/lights/colour.h"
#include "core/plan/brief.h"
#include "core/power/heat.h"
#include "core/power/runtime.h"

namespace conductus::plan {

/// States of charge every look is solved at.
inline constexpr std::array<double, 3> charges{1.0, 0.5, 0.1};
enum Charge : std::size_t { full, half, low };

/// A voltage to show at a part: across a cell or board, behind a kill, at the blade's pads.
struct VoltFlag {
    std::string ref;
    std::string label; ///< "first pixel"
    Volt volts;
};

/// One step on the way from the cell's open-circuit voltage to the last pixel.
struct VoltStep {
    std::string label; ///< "kill switch"
    std::string ref;   ///< where to jump; for wires the one that loses most
    Volt drop;
};

/// A look or effect at one charge, brightest frame.
struct View {
    double charge = 1;
    Ampere amps; ///< cell
    Volt cell, board, first_pixel, last_pixel;
    double tip = 1;                  ///< luminance, last over first pixel
    double tint_shift = 0;           ///< Δu'v', last against first pixel
    std::vector<lights::Rgb> paint;  ///< of each pixel, foot to tip, against the fresh foot
    std::vector<double> pixel_volts; ///< of the same strip
    std::vector<VoltFlag> flags;
    std::vector<VoltStep> steps; ///< telescopes: emf − Σ drops = last pixel
};

struct LookPlan {
    std::string name;
    bool effect = false;
    job::Style style = job::Style::steady;
    Ampere mean, peak; ///< cell, full charge
    lights::Rgb swatch;
    std::array<View, charges.size()> views;
};

/// A cell of the catalogue in the fitted one's place.
struct CellOption {
    std::string type, name;
    Millimetre at;
    hilt::Clearance clearance;
    bool fitted = false;
    bool fits = false;
    bool trips = false;      ///< the protection opens at the peak
    bool overloaded = false; ///< held over its continuous rating
    Minute clean, bright, off;
    std::string remark; ///< "fits · 0.6 mm spare"
};

struct Plan {
    std::shared_ptr<const job::Job> job;
    std::shared_ptr<const catalogue::Catalogue> parts;
    std::vector<Explained> figures; ///< eight, in the order of the gauge bar
    std::vector<findings::Finding> findings;
    BriefState brief; ///< what figures and findings say of wishes and agreements
    hilt::Fit fit;
    hilt::Study study;
    std::vector<LookPlan> looks;   ///< in the job's order
    std::vector<LookPlan> effects; ///< over the use's look
    std::optional<power::Discharge> run;
    std::vector<CellOption> options;
    std::vector<power::PartHeat> heat; ///< in the worst sustained look, hottest first
    std::string hottest_look;
    std::optional<Problem> trouble; ///< why nothing electrical could be solved
    Ampere by_count;                ///< pixels × 60 mA, the arithmetic of the trade

    [[nodiscard]] const Explained* figure(std::string_view id) const;
    [[nodiscard]] const LookPlan* look(std::string_view name) const;
    /// The worst severity among a station's findings; empty where it has none.
    [[nodiscard]] std::optional<findings::Severity> worst(findings::Station station) const;
};

/// Analyses a valid job, all but the options: what the gauge bar waits for. Pure: the same job
/// gives the same plan.
Plan analyse_figures(std::shared_ptr<const job::Job> job,
                     std::shared_ptr<const catalogue::Catalogue> parts);

/// Fills the options of such a plan: a runtime for every cell of the catalogue.
void add_options(Plan& plan);

/// Both.
Plan analyse(std::shared_ptr<const job::Job> job,
             std::shared_ptr<const catalogue::Catalogue> parts);

/// The edit that fits an option, with its place.
job::Edit fit_option(const job::Job& job, const catalogue::Catalogue& parts,
                     const CellOption& option);

} // namespace conductus::plan
