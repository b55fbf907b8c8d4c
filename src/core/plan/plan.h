// SPDX-License-Identifier: GPL-3.0-or-later
// Everything that follows from a job. Drawings, pages, findings, files and the command line read
// plans and compute nothing.
#pragma once

#include <array>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "core/base/explained.h"
#include "core/catalogue/catalogue.h"
#include "core/findings/facts.h"
#include "core/harness/harness.h"
#include "core/hilt/report.h"
#include "core/lights/colour.h"
#include "core/plan/brief.h"
#include "core/plan/carried.h"
#include "core/plan/loads.h"
#include "core/power/data_level.h"
#include "core/power/heat.h"
#include "core/power/led_run.h"
#include "core/power/percent.h"
#include "core/power/runtime.h"
#include "core/power/what_if.h"

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

/// The current of a part: out of a cell, through a kill or pins, into a board's pad, a strip or
/// LED.
struct AmpFlag {
    std::string ref;
    std::string label; ///< "l1", "first pixel"
    Ampere amps;
    std::optional<Ampere> rated; ///< where it has a rating
};

/// What a part carries in all: the most of its flags; a board all that comes in at its cell.
struct PartAmps {
    std::string ref;
    Ampere amps;
    std::optional<Ampere> over; ///< the rating that one of its flags is over
};

/// One step on the way from the cell's open-circuit voltage to the last pixel.
struct VoltStep {
    std::string label; ///< "kill switch"
    std::string ref;   ///< where to jump; for wires the one that loses most
    Volt drop;
};

/// One blade as it is seen: the strip whose tip is dimmest, a string's segments, or the LED under
/// it.
struct BladeView {
    std::string ref;   ///< of the blade
    std::string strip; ///< shown; empty where it has none
    std::vector<lights::Rgb>
        paint;                 ///< foot to tip through the tube, against the first's fresh foot
    std::vector<double> volts; ///< across each pixel; empty where it has no strip
    std::vector<double> amps;  ///< into each pixel, or each segment
    double tip = 0;            ///< luminance of the last lit pixel
    double foot = 0;           ///< what that one would show at the first lit pixel's volts
    double tint_shift = 0;     ///< Δu'v' between the two
    std::optional<lights::Uv> foot_tint, tip_tint; ///< empty: dark, or no strip
};

/// A look or effect at one charge, brightest frame.
struct View {
    double charge = 1;
    Ampere amps; ///< cell
    Volt cell, board, first_pixel, last_pixel;
    Volt across_led;       ///< without strips: the string's LED that carries most
    double tip = 1;        ///< luminance, last lit pixel over what it had at the foot
    double tint_shift = 0; ///< Δu'v', the same
    std::optional<lights::Uv> foot_tint, tip_tint; ///< of the same two; empty: dark, or no strip
    std::vector<lights::Rgb> paint;  ///< of each pixel, foot to tip, against the fresh foot
    std::vector<double> pixel_volts; ///< of the same strip
    std::vector<BladeView> blades;   ///< in the job's order; those that light up at all
    std::vector<VoltFlag> flags;
    std::vector<AmpFlag> amp_flags;
    std::vector<PartAmps> part_amps; ///< of the parts that have flags
    /// Telescopes: emf − Σ drops = last pixel, or without strips `across_led`.
    std::vector<VoltStep> steps;
};

struct LookPlan {
    std::string name;
    bool effect = false;
    std::string preset; ///< whose own effect it is; empty: of a look, or an effect of the use
    job::Style style = job::Style::steady;
    Ampere mean, peak; ///< cell, full charge
    lights::Rgb swatch;
    std::array<View, charges.size()> views;
    /// Reached in it from full cells until they are empty, hottest first; not of effects. Of the
    /// use's look with the use's effects.
    std::vector<power::PartHeat> heat;
    std::vector<power::PartHeat> own_heat; ///< the same of the look alone
    std::vector<Carried> carried;          ///< what cells, pads, pins and wires carry
    findings::SolvedPtr fresh;             ///< at full charge, brightest
    findings::SolvedPtr sustained;         ///< at full charge, mean frame; null: of an effect
};

/// A cell of the catalogue in the fitted one's place.
struct CellOption {
    std::string type, name;
    std::string adapter;        ///< id of the one it would sit in; empty: none
    std::vector<Millimetre> at; ///< where each cell would lie, in the job's order
    hilt::Clearance clearance;
    bool fitted = false;
    bool fits = false;
    bool trips = false;      ///< the protection opens at the peak
    bool overloaded = false; ///< held over its continuous rating
    Minute clean, bright, off;
    Message remark; ///< "fits · 0.6 mm spare"
};

/// What follows of lights beside the looks and the facts.
struct Lights {
    /// Luminance of each channel at full, of a pixel of the first blade, else of the first accent;
    /// all 0 where there are no pixels.
    std::array<double, 4> luminous{};
    std::vector<Load> loads; ///< each where it draws most
    /// What would change a look, in the job's order; filled with the options.
    std::vector<std::vector<power::WhatIf>> what_ifs;
};

struct Plan;

/// Of everything that may be mated, what asks for most.
struct WorstSet {
    std::vector<job::Mated> set;
    std::string text;                 ///< "BL2 in P1": where it differs from what is mated now
    bool is_mated = false;            ///< it is what is mated now
    std::shared_ptr<const Plan> plan; ///< figures with it; null: it is mated now
};

struct Plan : findings::Facts {
    std::vector<Explained> figures; ///< eight, in the order of the gauge bar
    std::vector<findings::Finding> findings;
    std::vector<findings::Finding> answered; ///< accepted or agreed: they do not count
    BriefState brief;                  ///< what figures and findings say of wishes and agreements
    std::vector<LookPlan> looks;       ///< in the job's order
    std::vector<LookPlan> effects;     ///< that come in the use, over its look
    std::vector<LookPlan> own_effects; ///< that other presets have of their own, over their looks
    Lights lights;
    std::vector<CellOption> options;
    std::optional<WorstSet> worst_mated; ///< where sockets take more than one thing
    std::optional<Problem> trouble;      ///< why nothing electrical could be solved
    /// Of looks that something was agreed for; of every look with the options.
    std::vector<power::Percent> percents;
    Ampere by_count; ///< pixels × 60 mA and LEDs as stated, the arithmetic of the trade
    int pixels = 0;  ///< of blades, accents and lit connectors

    [[nodiscard]] const Explained* figure(std::string_view id) const;
    [[nodiscard]] const LookPlan* look(std::string_view name) const;
    /// The worst severity among a station's findings; empty where it has none.
    [[nodiscard]] std::optional<findings::Severity> worst(findings::Station station) const;
    /// Whether there was anything that the rules of a station could judge.
    [[nodiscard]] bool judged(findings::Station station) const;
};

/// The edit that fits an option, with its place, in place of every cell. `parts` must outlive it.
job::Edit fit_option(const catalogue::Catalogue& parts, const CellOption& option);

} // namespace conductus::plan
