// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/findings/judge_cells.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

#include "core/base/format.h"
#include "core/findings/rule_tools.h"
#include "core/job/lookup.h"
#include "core/power/cell_model.h"
#include "core/power/charging.h"

namespace conductus::findings {
namespace {

void mixed(const Facts& f, std::vector<Finding>& out) {
    const auto cells = parts_of<catalogue::Cell>(f);
    const auto figures = power::cells_of(*f.job, *f.parts);
    for (std::size_t i = 1; i < cells.size(); ++i) {
        const bool types = cells[i]->type != cells[0]->type;
        const double a = figures[0].capacity.value(), b = figures[i].capacity.value();
        const double apart = std::abs(a - b) / std::max(a, b);
        if (!types && apart <= 0.05) continue;
        Finding finding{
            .id = "cell.mixed-pack",
            .severity = types || apart > 0.2 ? Severity::stop : Severity::warn,
            .station = Station::power,
            .where = {cells[0]->ref, cells[i]->ref},
            .text = types ? say("{} and {} are different cells", cells[0]->ref, cells[i]->ref)
                          : say("{} holds {}, {} {}", cells[0]->ref, text(figures[0].capacity),
                                cells[i]->ref, text(figures[i].capacity)),
            .detail =
                "In a row the weaker one is empty first and is then driven below nothing; side "
                "by side one charges the other. Use cells of one kind and age, bought and "
                "measured together.",
            .evidence = {{"capacities apart", apart * 100, "%"}},
            .fix = {}};
        if (types)
            finding.fix = Fix{say("fit two of {}", f.parts->find(cells[0]->type)->name),
                              [ref = cells[i]->ref, like = *cells[0]](job::Job& job) {
                                  auto* part = job::find_ref(job.parts, ref);
                                  if (!part) return;
                                  part->type = like.type;
                                  part->adapter = like.adapter;
                                  part->measured = like.measured;
                              }};
        out.push_back(std::move(finding));
    }
}

/// As hot as the discharge makes it: cells do not hold their full charge for ever.
void hot(const Facts& f, std::vector<Finding>& out) {
    constexpr double warm = 60, dangerous = 80; // °C; a lithium cell stands about 60 held
    if (!f.run) return;
    double t = -273;
    for (const power::Sample& s : f.run->samples)
        t = std::max(t, s.warmth.value());
    if (t <= warm) return;
    // Held over its rating, that it gets hot is the same thing said twice.
    if (std::any_of(out.begin(), out.end(),
                    [](const Finding& o) { return o.id == "cell.over-continuous"; }))
        return;
    const auto cells = parts_of<catalogue::Cell>(f);
    double watts = 0;
    for (const power::PartHeat& h : f.heat)
        if (h.ref == cells[0]->ref) watts = h.power.value();
    out.push_back({.id = "cell.hot",
                   .severity = t > dangerous ? Severity::stop : Severity::warn,
                   .station = Station::power,
                   .where = {cells[0]->ref},
                   .text = say("{} reaches {} before it is empty", cells[0]->ref, text(Celsius(t))),
                   .detail = "A lithium cell is not to be held over 60 °C: it ages in days, and "
                             "far above that it vents. Cap the look, share the load, or choose "
                             "a cell of less resistance.",
                   .evidence = {{"reaches", t, "degC"}, {"makes at first", watts, "W"}},
                   .fix = {}});
}

void charging(const Facts& f, std::vector<Finding>& out) {
    for (const power::ChargeFault& fault : power::charging_of(*f.job, *f.parts).faults) {
        const bool stop = fault.id == "charge.bare-in-hilt" || fault.id == "charge.cells" ||
                          fault.id == "charge.too-fast" || fault.id == "charge.port-rating";
        Finding finding{.id = fault.id,
                        .severity = stop                         ? Severity::stop
                                    : fault.id == "charge.timer" ? Severity::note
                                                                 : Severity::warn,
                        .station = Station::power,
                        .where = {},
                        .text = fault.text,
                        .detail = fault.mend,
                        .evidence = {},
                        .fix = {}};
        if (!fault.ref.empty()) finding.where.push_back(fault.ref);
        if (!fault.unit.empty())
            finding.evidence = {{"is", fault.value, fault.unit},
                                {"may be", fault.limit, fault.unit}};
        else
            finding.evidence = {
                {"charges with", power::charging_of(*f.job, *f.parts).current.value(), "A"}};
        out.push_back(std::move(finding));
    }
}

} // namespace

void judge_cells(const Facts& facts, std::vector<Finding>& out) {
    mixed(facts, out);
    hot(facts, out);
    charging(facts, out);
}

} // namespace conductus::findings
