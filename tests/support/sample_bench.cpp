// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/sample_bench.h"

#include <cmath>
#include <cstdlib>

#include "core/base/random.h"
#include "core/job/lookup.h"
#include "core/power/cell_model.h"

namespace conductus::test {

std::size_t fault_named(const diagnose::Finder& finder, const std::string& id) {
    for (std::size_t f = 0; f < finder.faults().size(); ++f)
        if (finder.faults()[f].id == id) return f;
    std::abort();
}

job::DischargeLog logged_discharge(const job::Job& job, const catalogue::Catalogue& parts,
                                   double capacity_mAh, double cell_ohms, double path, double amps,
                                   std::uint64_t seed) {
    const auto cell = job::first_of<catalogue::Cell>(job, parts);
    power::CellFigures figures = power::figures_of(*cell.part, *cell.figures);
    figures.capacity = MilliAmpereHour(capacity_mAh), figures.resistance = Ohm(cell_ohms);
    Random random(seed);
    job::DischargeLog log;
    log.cell = cell.part->ref, log.name = "evening.csv", log.on = "2026-11-20";
    log.at = path > 0 ? job::DischargeAt::board : job::DischargeAt::cell;
    power::CellNow now;
    now.temperature = job.use.temperature;
    const auto note = [&](int s, double drawn) {
        log.points.push_back({double(s),
                              now.emf(figures).value() -
                                  drawn * (now.resistance(figures).value() + path) + 0.004 * random.bell(),
                              drawn});
    };
    double before = 0.05;
    for (int s = 0; s < 36000 && now.charge > 0.02; ++s) {
        // A pause now and again, as a hilt is lit: that is what parts one resistance from another.
        // Where the current changes there are two rows at one time.
        const double drawn = s < 5 || s % 1500 > 1440 ? 0.05 : amps;
        if (drawn != before) note(s, before);
        if (drawn != before || s % 20 == 0) note(s, drawn);
        before = drawn;
        now.lag.advance(Ampere(drawn), now.resistance(figures), Second(1), figures.lag);
        now.charge -= drawn / 3.6 / capacity_mAh;
    }
    return log;
}

} // namespace conductus::test
