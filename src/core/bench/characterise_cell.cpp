// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/bench/specimens.h"
#include "core/power/cell_model.h"

namespace conductus::bench {
namespace {

/// Charge at which that voltage rests; 0 or 1 beyond the ends.
double charge_at(double volts) {
    double low = 0, high = 1;
    for (int i = 0; i < 50; ++i) {
        const double middle = (low + high) / 2;
        (power::open_circuit(middle).value() < volts ? low : high) = middle;
    }
    return (low + high) / 2;
}

std::string percent(double charge) { return fmt::format("{:.0f} %", charge * 100); }

/// Rest and loaded volts: one line a charge, its slope the resistance.
Result<Characterised> at_rest_and_loaded(const Readings& readings, const catalogue::Cell& like) {
    Asked asked;
    std::vector<double> charges; // of each group; below 0: not said
    std::vector<std::size_t> of;
    for (std::size_t i = 0; i < readings.rows.size(); ++i) {
        const Reading& r = readings.rows[i];
        if (!r.volts || !r.amps)
            return problem(where_read(r, i).english(), "the volts or the amps are missing",
                           "At rest the amps are 0");
        const double charge = r.charge.value_or(-1);
        auto at = std::find_if(charges.begin(), charges.end(),
                               [&](double c) { return std::abs(c - charge) < 0.005; });
        if (at == charges.end()) at = charges.insert(charges.end(), charge);
        of.push_back(static_cast<std::size_t>(at - charges.begin()));
    }
    std::vector<double> least(charges.size(), INFINITY), most(charges.size(), 0);
    for (std::size_t i = 0; i < of.size(); ++i) {
        least[of[i]] = std::min(least[of[i]], *readings.rows[i].amps);
        most[of[i]] = std::max(most[of[i]], *readings.rows[i].amps);
    }
    if (*std::max_element(most.begin(), most.end()) < 0.02)
        return problem("", "the cell was not loaded in any reading",
                       "Read its volts at rest and at two loads at least");
    const double ohms = like.resistance.value();
    power::CellFigures of_class;
    of_class.by_charge = like.by_charge;
    // One resistance above 30 %, and one for each charge below it.
    std::vector<std::size_t> ohms_of(charges.size(), 0);
    asked.unknowns.push_back(
        {{.start = ohms, .scale = ohms, .least = -10, .most = 100, .widest = 0.8},
         "resistance",
         "Ohm"});
    bool any_high = false;
    for (std::size_t g = 0; g < charges.size(); ++g) {
        if (charges[g] < 0 || charges[g] >= 0.295) {
            any_high = true;
            continue;
        }
        ohms_of[g] = asked.unknowns.size();
        const double times = of_class.by(charges[g]);
        asked.unknowns.push_back({{.start = ohms * times,
                                   .scale = ohms * times,
                                   .least = -10,
                                   .most = 100,
                                   .widest = 0.8},
                                  "resistance at " + percent(charges[g]),
                                  "Ohm"});
    }
    asked.unknowns[0].unknown.fixed = !any_high;
    const std::size_t first_rest = asked.unknowns.size();
    for (std::size_t g = 0; g < charges.size(); ++g)
        asked.unknowns.push_back(
            {{.start = 3.7 * like.series, .scale = 1, .least = 0, .most = 60, .widest = 0.5},
             charges[g] < 0 ? "rest voltage" : "rest voltage at " + percent(charges[g]),
             "V"});
    for (std::size_t i = 0; i < of.size(); ++i) {
        asked.sigma.push_back(volts_sigma(*readings.rows[i].volts));
        asked.millivolts.push_back(1e3);
        asked.whole.push_back(*readings.rows[i].volts);
        asked.line.push_back(i);
        asked.group.push_back(0);
    }
    const auto volts = [&](const std::vector<double>& v, std::size_t g, double amps) {
        return v[first_rest + g] - amps * v[ohms_of[g]];
    };
    asked.residuals = [&](const std::vector<double>& v, std::vector<double>& out) {
        for (std::size_t i = 0; i < out.size(); ++i)
            out[i] = *readings.rows[i].volts - volts(v, of[i], *readings.rows[i].amps);
    };
    std::vector<double> values;
    auto found = solved(Specimen::cell, asked, values);
    if (!found) return found;
    for (const Found& f : found->parameters)
        if (f.unit == "Ohm" && f.determined && f.value <= 0)
            return problem("",
                           "the readings contradict each other: the volts rise as the load does",
                           "Read rest and load again; amps out of the cell count up");
    found->parameters.push_back({"capacity", like.capacity.value(), "mAh", false, 0, 0});
    found->notes.push_back("capacity could not be determined from these readings: that of the "
                           "class stays");
    found->overlay = {"amps", "volts", {}};
    for (std::size_t g = 0; g < charges.size(); ++g) {
        Series line{charges[g] < 0 ? "cell" : percent(charges[g]), {}, {}};
        for (std::size_t i = 0; i < of.size(); ++i)
            if (of[i] == g)
                line.measured.push_back({*readings.rows[i].amps, *readings.rows[i].volts});
        line.model = {{0, volts(values, g, 0)}, {most[g], volts(values, g, most[g])}};
        found->overlay.series.push_back(std::move(line));
    }
    return found;
}

/// Which amps flowed between two readings.
enum class Held { mean, before, after };

struct CellValues {
    double capacity, ohms, at_10, at_0, share1, share2, tau1, tau2, start;
};

/// Volts at each reading of a table.
void discharge(const std::vector<Reading>& rows, Held held, const CellValues& v, int series,
               std::vector<double>& volts) {
    double charge = v.start, u1 = 0, u2 = 0;
    const auto ohms_at = [&](double s) {
        s = std::max(s, 0.0);
        if (s >= 0.3) return v.ohms;
        if (s >= 0.1) return v.ohms + (v.at_10 - v.ohms) * (0.3 - s) / 0.2;
        return v.at_10 + (v.at_0 - v.at_10) * (0.1 - s) / 0.1;
    };
    for (std::size_t i = 0; i < rows.size(); ++i) {
        if (i > 0) {
            const double a = *rows[i - 1].amps, b = *rows[i].amps;
            const double amps = held == Held::mean ? (a + b) / 2 : held == Held::before ? a : b;
            const double dt = *rows[i].seconds - *rows[i - 1].seconds;
            const double ohms = ohms_at(charge - amps * dt / 2 / (3.6 * v.capacity));
            const double s1 = amps * ohms * v.share1, s2 = amps * ohms * v.share2;
            u1 = s1 + (u1 - s1) * std::exp(-dt / v.tau1);
            u2 = s2 + (u2 - s2) * std::exp(-dt / v.tau2);
            charge -= amps * dt / (3.6 * v.capacity);
        }
        // Beyond the ends the curve goes on as it was, so that the search finds its way back.
        double rest = power::open_circuit(charge).value();
        if (charge < 0) rest += 6 * charge;
        if (charge > 1) rest += charge - 1;
        volts[i] = series * rest - u1 - u2 - *rows[i].amps * ohms_at(charge);
    }
}

Result<Characterised> of_table(const Readings& readings, const catalogue::Cell& like) {
    const auto& rows = readings.rows;
    if (rows.size() < 8)
        return problem("", say("a discharge of {} readings tells too little", rows.size()),
                       "Log one every few seconds");
    double taken = 0;
    for (std::size_t i = 0; i < rows.size(); ++i) {
        if (!rows[i].volts || !rows[i].amps || !rows[i].seconds)
            return problem(where_read(rows[i], i).english(), "time, volts or amps are missing",
                           "Each line of a discharge has all three");
        if (i == 0) continue;
        if (*rows[i].seconds <= *rows[i - 1].seconds)
            return problem(where_read(rows[i], i).english(), "the time does not go on",
                           "Write the lines in the order they were read");
        taken += (*rows[i].amps + *rows[i - 1].amps) / 2 *
                 (*rows[i].seconds - *rows[i - 1].seconds) / 3.6;
    }
    if (taken <= 0)
        return problem("", "nothing was taken out of the cell",
                       "Amps out of the cell count up: turn their sign");
    const int series = like.series;
    const double first = *rows[0].volts / series;
    const bool rests = std::abs(*rows[0].amps) < 0.02;
    const bool full = rests && first > power::open_circuit(1).value() - 0.012;
    const double ohms = like.resistance.value();
    const double start = full ? 1 : charge_at(first + *rows[0].amps * ohms / series);
    const double last = charge_at((*rows.back().volts + *rows.back().amps * ohms * 2) / series);
    // What was taken out between two known charges says the capacity.
    const double capacity = start - last > 0.15 ? taken / (start - last) : like.capacity.value();

    Asked asked;
    const double r1 = like.lag.quick_share, r2 = like.lag.slow_share;
    power::CellFigures of_class;
    of_class.by_charge = like.by_charge;
    const double at_10 = of_class.by(0.1), at_0 = of_class.by(0);
    asked.unknowns = {
        {{.start = capacity,
          .scale = like.capacity.value(),
          .least = 5,
          .most = 1e6,
          .widest = 0.3},
         "capacity",
         "mAh"},
        {{.start = ohms, .scale = ohms, .least = 1e-4, .most = 10, .widest = 0.8},
         "resistance",
         "Ohm"},
        {{.start = ohms * at_10,
          .scale = ohms,
          .least = 1e-4,
          .most = 30,
          .widest = 1.5,
          .follows = 1,
          .share = at_10},
         "resistance at 10 %",
         "Ohm"},
        {{.start = ohms * at_0,
          .scale = ohms,
          .least = 1e-4,
          .most = 50,
          .widest = 2,
          .follows = 1,
          .share = at_0},
         "resistance at 0 %",
         "Ohm"},
        {{.start = r1, .scale = std::max(r1, 0.05), .least = 0, .most = 10, .widest = 1},
         "quick lag, share of the resistance",
         ""},
        {{.start = r2, .scale = std::max(r2, 0.05), .least = 0, .most = 10, .widest = 1},
         "slow lag, share of the resistance",
         ""},
        {{.start = like.lag.quick.value(),
          .scale = like.lag.quick.value(),
          .least = 0.05,
          .most = 2000,
          .widest = 0.8},
         "quick time constant",
         "s"},
        {{.start = like.lag.slow.value(),
          .scale = like.lag.slow.value(),
          .least = 1,
          .most = 20000,
          .widest = 0.8},
         "slow time constant",
         "s"},
        {{.start = start, .scale = 1, .least = 0, .most = 1.05, .fixed = full, .widest = 0.2},
         "charge at the start",
         "",
         full}};
    if (start - last <= 0.15) asked.unknowns[0].unknown.start = like.capacity.value();
    for (std::size_t i = 0; i < rows.size(); ++i) {
        asked.sigma.push_back(volts_sigma(*rows[i].volts));
        asked.millivolts.push_back(1e3);
        asked.whole.push_back(*rows[i].volts);
        asked.line.push_back(i);
        asked.group.push_back(0);
    }
    const auto values_of = [](const std::vector<double>& v) {
        return CellValues{v[0], v[1], v[2], v[3], v[4], v[5], v[6], v[7], v[8]};
    };
    std::optional<Result<Characterised>> best;
    std::vector<double> best_values;
    Held best_held = Held::mean;
    // Tables differ in which amps a line tells: those since the last one or those from now on.
    for (const Held held : {Held::mean, Held::before, Held::after}) {
        asked.residuals = [&, held](const std::vector<double>& v, std::vector<double>& out) {
            discharge(rows, held, values_of(v), series, out);
            for (std::size_t i = 0; i < out.size(); ++i)
                out[i] = *rows[i].volts - out[i];
        };
        std::vector<double> values;
        auto found = solved(Specimen::cell, asked, values);
        if (best && best->has_value() && (!found || found->residual_mV >= (*best)->residual_mV))
            continue;
        best = std::move(found), best_values = values, best_held = held;
    }
    if (!*best) return *best;
    Characterised found = std::move(**best);
    if (full)
        found.notes.push_back(say("It began full: {} V at rest", decimals(*rows[0].volts, 3)));
    found.overlay = {"time, s", "volts", {{"discharge", {}, {}}}};
    std::vector<double> volts(rows.size());
    discharge(rows, best_held, values_of(best_values), series, volts);
    const std::size_t every = 1 + rows.size() / 2000;
    for (std::size_t i = 0; i < rows.size(); i += every) {
        found.overlay.series[0].measured.push_back({*rows[i].seconds, *rows[i].volts});
        found.overlay.series[0].model.push_back({*rows[i].seconds, volts[i]});
    }
    return found;
}

} // namespace

Result<Characterised> of_cell(const Readings& readings, const catalogue::Cell& like) {
    const bool table = std::any_of(readings.rows.begin(), readings.rows.end(),
                                   [](const Reading& r) { return r.seconds.has_value(); });
    return table ? of_table(readings, like) : at_rest_and_loaded(readings, like);
}

} // namespace conductus::bench
