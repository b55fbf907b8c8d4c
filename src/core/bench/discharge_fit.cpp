// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/discharge_fit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/bench/least_squares.h"
#include "core/job/lookup.h"
#include "core/power/cell_model.h"

namespace conductus::bench {
namespace {

constexpr std::size_t fewest = 5;
constexpr double meter_volts = 0.005; ///< one standard deviation of a logged voltage

/// Volts at every moment with those figures: the cell's model, stepped from moment to moment with
/// the currents of the log.
std::vector<double> volts_of(const std::vector<job::DischargePoint>& points,
                             power::CellFigures figures, double capacity, double ohms, double path,
                             double charge, Celsius air) {
    figures.capacity = MilliAmpereHour(capacity);
    figures.resistance = Ohm(ohms);
    power::CellNow now;
    now.charge = charge, now.temperature = air;
    std::vector<double> all;
    for (std::size_t i = 0; i < points.size(); ++i) {
        if (i > 0) {
            const double dt = points[i].seconds - points[i - 1].seconds;
            const double amps = (points[i].amps + points[i - 1].amps) / 2;
            // In pieces, for the resistance follows the charge.
            const int pieces = std::clamp(static_cast<int>(dt / 20), 1, 200);
            for (int p = 0; p < pieces; ++p) {
                now.lag.advance(Ampere(amps), now.resistance(figures), Second(dt / pieces),
                                figures.lag);
                now.charge -= amps * dt / pieces / 3.6 / capacity;
            }
        }
        all.push_back(now.emf(figures).value() -
                      points[i].amps * (now.resistance(figures).value() + path));
    }
    return all;
}

FoundFigure figure(const Estimate& e, double planned) {
    return {e.value, e.value - e.half, e.value + e.half, planned, e.determined};
}

std::string interval(const FoundFigure& f, const char* unit) {
    return fmt::format("{} ({} to {})", with_unit(f.value, unit), with_unit(f.low, unit),
                       with_unit(f.high, unit));
}

} // namespace

Result<DischargeFit> fit_discharge(const job::DischargeLog& log, const job::Job& job,
                                   const catalogue::Catalogue& parts, double planned_path) {
    const job::Part* part = job::find_ref(job.parts, log.cell);
    const auto* cell = part ? parts.find_as<catalogue::Cell>(part->type) : nullptr;
    if (!cell)
        return problem(log.name, say("there is no cell {} in this job", log.cell),
                       "Fit the cell that was discharged");
    const auto& points = log.points;
    if (points.size() < fewest)
        return problem(log.name, say("{} moments are too few", points.size()),
                       "Log the volts and the amps every minute, until it is empty");
    double most = 0, taken = 0;
    for (std::size_t i = 0; i < points.size(); ++i) {
        most = std::max(most, std::abs(points[i].amps));
        if (i == 0) continue;
        if (points[i].seconds < points[i - 1].seconds)
            return problem(log.name, say("moment {} is before the one ahead of it", i + 1),
                           "Sort the log by its time");
        taken += (points[i].amps + points[i - 1].amps) / 2 *
                 (points[i].seconds - points[i - 1].seconds) / 3.6;
    }
    if (most < 0.01 || taken <= 0)
        return problem(log.name, "no current was drawn", "Log it while the hilt is lit");
    const power::CellFigures planned = power::figures_of(*part, *cell);
    const bool at_board = log.at == job::DischargeAt::board;
    const double path = at_board ? planned_path : 0;
    const double capacity = planned.capacity.value(), ohms = planned.resistance.value();
    const Celsius air = job.use.temperature;
    // It begins full, or as its first volts say.
    const double rests =
        (points[0].volts + points[0].amps * (ohms + path)) / std::max(1, planned.series);
    const double charge = power::charge_at(Volt(rests));
    std::vector<Unknown> unknowns{
        {.start = capacity,
         .scale = capacity,
         .least = capacity * 0.1,
         .most = capacity * 3,
         .widest = 0.25},
        {.start = ohms, .scale = ohms, .least = ohms * 0.05, .most = ohms * 20, .widest = 1},
        {.start = path, .scale = 0.1, .least = -0.05, .most = 3, .fixed = !at_board, .widest = 0.5},
        {.start = std::clamp(charge, 0.02, 1.0),
         .scale = 1,
         .least = 0.01,
         .most = 1.02,
         .widest = 0.3}};
    const Residuals residuals = [&](const std::vector<double>& v, std::vector<double>& r) {
        const auto model = volts_of(points, planned, v[0], v[1], v[2], v[3], air);
        r.resize(points.size());
        for (std::size_t i = 0; i < points.size(); ++i)
            r[i] = points[i].volts - model[i];
    };
    const LeastSquares found =
        least_squares(unknowns, residuals, std::vector<double>(points.size(), meter_volts),
                      std::vector<int>(points.size(), 0));
    DischargeFit fit;
    fit.taken = taken;
    fit.capacity = figure(found.estimates[0], capacity);
    fit.resistance = figure(found.estimates[1], ohms);
    fit.path = figure(found.estimates[2], path);
    fit.charge = figure(found.estimates[3], 1);
    double sum = 0;
    for (const double r : found.residuals)
        sum += r * r;
    fit.residual_mV = 1000 * std::sqrt(sum / static_cast<double>(points.size()));
    const auto fitted =
        volts_of(points, planned, found.estimates[0].value, found.estimates[1].value,
                 found.estimates[2].value, found.estimates[3].value, air);
    const auto as_planned =
        volts_of(points, planned, capacity, ohms, path, found.estimates[3].value, air);
    for (std::size_t i = 0; i < points.size(); ++i) {
        fit.measured.push_back({points[i].seconds, points[i].volts});
        fit.fitted.push_back({points[i].seconds, fitted[i]});
        fit.planned.push_back({points[i].seconds, as_planned[i]});
    }
    if (fit.capacity.differs())
        fit.says.push_back(say("{} has {}, {} than planned", log.cell,
                               interval(fit.capacity, "mAh"),
                               with_unit(std::abs(fit.capacity.value - capacity), "mAh") +
                                   (fit.capacity.value < capacity ? " less" : " more")));
    else if (fit.capacity.determined)
        fit.says.push_back(say("{} has the capacity that was planned, {}", log.cell,
                               interval(fit.capacity, "mAh")));
    else
        fit.says.push_back(say("The log took {} and says nothing of the capacity: go on until it "
                               "is nearly empty",
                               with_unit(taken, "mAh")));
    if (fit.resistance.differs())
        fit.says.push_back(say("{} has {} of its own, {} than planned", log.cell,
                               interval(fit.resistance, "Ohm"),
                               with_unit(std::abs(fit.resistance.value - ohms), "Ohm") +
                                   (fit.resistance.value < ohms ? " less" : " more")));
    if (at_board && fit.path.differs())
        fit.says.push_back(say("{} {} than planned between cell and board",
                               with_unit(std::abs(fit.path.value - path), "Ohm"),
                               fit.path.value < path ? Message("less") : Message("more")));
    else if (at_board && fit.path.determined)
        fit.says.push_back(
            say("Between cell and board it is as planned, {}", interval(fit.path, "Ohm")));
    if (fit.residual_mV > 60)
        fit.says.push_back(say("The curve is {} off the model: something changed while it was "
                               "logged",
                               with_unit(fit.residual_mV / 1000, "V")));
    return fit;
}

job::Edit take_discharge(const job::DischargeLog& log, const DischargeFit& fit) {
    return [cell = log.cell, fit](job::Job& job) -> Result<void> {
        job::Part* part = job::find_ref(job.parts, cell);
        if (!part) return problem(cell, "there is no such cell any more", "Fit the cell again");
        if (fit.capacity.determined) part->measured.capacity = MilliAmpereHour(fit.capacity.value);
        if (fit.resistance.determined) part->measured.resistance = Ohm(fit.resistance.value);
        return {};
    };
}

std::vector<job::DischargePoint> thinned(std::vector<job::DischargePoint> points,
                                         std::size_t most) {
    if (points.size() <= most || most < 2) return points;
    std::vector<job::DischargePoint> kept;
    for (std::size_t i = 0; i < most; ++i)
        kept.push_back(points[i * (points.size() - 1) / (most - 1)]);
    return kept;
}

job::Edit keep_discharge(job::DischargeLog log) {
    return [log = std::move(log)](job::Job& job) {
        for (job::DischargeLog& one : job.bench.discharges)
            if (one.name == log.name && one.cell == log.cell) {
                one = log;
                return;
            }
        job.bench.discharges.push_back(log);
    };
}

job::Edit drop_discharge(std::size_t index) {
    return [index](job::Job& job) {
        auto& all = job.bench.discharges;
        if (index < all.size()) all.erase(all.begin() + static_cast<std::ptrdiff_t>(index));
    };
}

} // namespace conductus::bench
