// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/charging.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/catalogue/kinds.h"
#include "core/job/lookup.h"
#include "core/job/wiring.h"

namespace conductus::power {

std::pair<Minute, Minute> charge_minutes(const CellFigures& cell, Ampere current, double from,
                                         Celsius air) {
    constexpr double full_volts = 4.20, ends_at = 0.05;
    CellNow now;
    now.charge = from;
    now.temperature = air;
    const double top = full_volts * cell.series, capacity = cell.capacity.value() * 3.6;
    double seconds = 0, at_current = 0;
    double amps = current.value();
    // What flows in is negative to the cell.
    for (double dt = 5; now.charge < 1 && seconds < 48 * 3600;) {
        const double ohms = now.resistance(cell).value();
        const double by_volts = (top - now.emf(cell).value()) / ohms;
        amps = std::min(current.value(), by_volts);
        if (by_volts > current.value())
            at_current = seconds;
        else if (amps < ends_at * current.value())
            break;
        now.lag.advance(Ampere(-amps), cell.resistance * resistance_by_temperature(air), Second(dt),
                        cell.lag);
        now.charge += amps * dt / capacity;
        seconds += dt;
    }
    at_current = std::min(at_current, seconds);
    return {Minute(at_current / 60), Minute((seconds - at_current) / 60)};
}

Ampere charge_limit(const CellFigures& figures, const catalogue::Cell& cell) {
    if (cell.charge > Ampere(0)) return cell.charge;
    // Half the capacity in an hour; small cells stand the smallest charger, up to all of it.
    constexpr double smallest = 0.5; // A
    const double hour = figures.capacity.value() / 1000;
    return Ampere(std::max(hour / 2, std::min(hour, smallest)));
}

namespace {

/// Cells that are charged as one: their pluses are joined.
bool side_by_side(const job::Wiring& wiring, const job::Part& a, const job::Part& b) {
    return wiring.reached({a.ref + ".plus"}, job::power_roles, job::Wiring::Through::conductors)
        .contains(b.ref + ".plus");
}

} // namespace

Charging charging_of(const job::Job& job, const catalogue::Catalogue& parts) {
    Charging c;
    const auto* charger = parts.find_as<catalogue::Charger>(job.charger);
    if (!charger) return c;
    c.charger = job.charger;
    c.name = parts.find(job.charger)->name;
    c.in_hilt = charger->in_hilt;
    c.current = charger->current;
    auto fault = [&](const char* id, std::string text, std::string mend, std::string ref,
                     double value = 0, double limit = 0, const char* unit = "") {
        c.faults.push_back(
            {id, std::move(text), std::move(mend), std::move(ref), value, limit, unit});
    };
    struct Inlet {
        const job::Part* part = nullptr;
        Ampere rating;
    } port; // a port, or a jack
    for (const job::Part& part : job.parts) {
        const auto& f = parts.find(part.type)->figures;
        const auto hole = catalogue::plug_hole(f);
        if (hole && hole->charges && !port.part) port = {&part, *catalogue::rating_of(f)};
    }
    if (c.in_hilt && !port.part)
        fault("charge.no-port", "The charger goes in through the hilt, and there is no port",
              "Fit a recharge jack or port, or charge the cell outside.", "");
    if (c.in_hilt && port.part && charger->current > port.rating)
        fault("charge.port-rating",
              fmt::format("{} takes {}, the charger gives {}", port.part->ref, text(port.rating),
                          text(charger->current)),
              "Choose a smaller charger or a port that stands it.", port.part->ref,
              charger->current.value(), port.rating.value(), "A");

    const auto figures = cells_of(job, parts);
    std::vector<const job::Part*> cells;
    int row = 0;
    for (const job::Part& part : job.parts)
        if (const auto* cell = parts.find_as<catalogue::Cell>(part.type)) {
            cells.push_back(&part);
            row += cell->series;
        }
    if (cells.empty()) return c;
    // Side by side they are one cell that stands as much more.
    const job::Wiring wiring(job, parts);
    std::vector<double> shares(cells.size(), 1);
    if (cells.size() > 1 && side_by_side(wiring, *cells[0], *cells[1])) {
        row = 0;
        double all = 0;
        for (std::size_t i = 0; i < cells.size(); ++i) {
            row = std::max(row, parts.find_as<catalogue::Cell>(cells[i]->type)->series);
            all += figures[i].capacity.value();
        }
        for (std::size_t i = 0; i < cells.size(); ++i)
            shares[i] = c.in_hilt ? figures[i].capacity.value() / all : 1;
    }
    for (std::size_t i = 0; i < cells.size(); ++i) {
        const job::Part& part = *cells[i];
        const auto* cell = parts.find_as<catalogue::Cell>(part.type);
        if (c.in_hilt && !part.protection)
            fault(
                "charge.bare-in-hilt",
                fmt::format("{} is bare: it must not be charged in the hilt", part.ref),
                "Nothing stops an over-full or over-empty bare cell. Fit a protected one, or take "
                "the cell out to a charger.",
                part.ref);
        const Ampere limit = charge_limit(figures[i], *cell);
        if (const Ampere amps = charger->current * shares[i]; amps > limit * 1.001)
            fault("charge.too-fast",
                  fmt::format("{} is charged with {}, it may have {}", part.ref, text(amps),
                              text(limit)),
                  "Choose a charger of less current.", part.ref, amps.value(), limit.value(), "A");
        if (c.in_hilt && charger->cells != row && i == 0)
            fault(
                "charge.cells",
                fmt::format("The charger is for {} in a row, the hilt has {}",
                            charger->cells == 1 ? "one cell" : "two cells", row),
                "A charger for another number of cells over-fills them or never fills them: choose "
                "one made for this pack.",
                part.ref, charger->cells, row, "cells");
        if (!c.in_hilt && cell->series > 1 && charger->cells != cell->series)
            fault("charge.cells",
                  fmt::format("{} is a pack of {}, the charger is for {}", part.ref, cell->series,
                              charger->cells == 1 ? "one cell" : "several cells"),
                  "Choose a charger made for this pack.", part.ref, charger->cells, cell->series,
                  "cells");
    }
    const bool inside =
        cells.size() == 1 && parts.find_as<catalogue::Cell>(cells.front()->type)->balancing ==
                                 catalogue::Cell::Balancing::inside;
    if (row > 1 && !charger->balances && !inside && (c.in_hilt || cells.size() == 1))
        fault("charge.no-balance", "Cells in a row are charged and nothing balances them",
              "After some months one is over-full while the other is not: choose a charger that "
              "balances, or charge each cell by itself.",
              cells.front()->ref);
    Minute longest;
    for (const CellFigures& f : figures) {
        const auto [first, then] = charge_minutes(f, c.current, 0.02, Celsius(20));
        if (first + then < longest) continue;
        longest = first + then;
        c.constant_current = first, c.constant_voltage = then;
    }
    c.gives_up = longest.value() * 60 > charger->gives_up.value();
    if (c.gives_up)
        fault("charge.timer",
              fmt::format("The charger gives up after {}, the cell would take {}",
                          duration(Minute(charger->gives_up.value() / 60)), duration(longest)),
              "Choose a charger of more current, or start it twice.", cells.front()->ref,
              longest.value(), charger->gives_up.value() / 60, "min");
    return c;
}

} // namespace conductus::power
