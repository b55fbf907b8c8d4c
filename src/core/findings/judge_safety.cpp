// SPDX-License-Identifier: GPL-3.0-or-later
// Cautions that go with every job that has a lithium cell.
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/findings/facts.h"
#include "core/job/lookup.h"

namespace conductus::findings {

void judge_safety(const Facts& f, std::vector<Finding>& out) {
    const auto cell = job::first_of<catalogue::Cell>(*f.job, *f.parts);
    if (!cell) return;
    // What a dead short would draw: the reason for the cautions, in numbers.
    const double ohms = cell.part->measured.resistance.value_or(cell.figures->resistance).value();
    const double amps = ohms > 0 ? 4.18 * cell.figures->series / ohms : 0;
    out.push_back({
        .id = "cell.lithium-cautions",
        .severity = Severity::note,
        .station = Station::power,
        .where = {cell.part->ref},
        .text = "Lithium cell: read the cautions",
        .detail = say("Shorted, a full {} could drive about {}. Never reversed, never "
                      "shorted, never soldered on, never loose in a pocket: each "
                      "spare in a case of its own. Charge attended, on a charger made for the "
                      "chemistry. Stop "
                      "using a dented, swollen "
                      "or hot cell. Cells are shipped by the carrier's and local rules for "
                      "lithium, never loose in a finished hilt. There, with chargers on the "
                      "mains and with venue rules, local codes and licensed people decide, "
                      "not this program.",
                      cell.figures->size, text(Ampere(amps))),
        .evidence = {{"full short", amps, "A"}},
        .fix = {},
    });
}

} // namespace conductus::findings
