// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>

#include "core/findings/facts.h"
#include "core/findings/judge_cells.h"

namespace conductus::findings {

double Solved::amps_of(std::string_view ref) const {
    double most = 0;
    for (std::size_t i = 0; i < network.resistors.size(); ++i)
        if (network.resistors[i].ref == ref)
            most = std::max(most, std::abs(point.resistor_amps[i]));
    return most;
}

const Solved* Facts::worst_for(std::string_view ref) const {
    const Solved* worst = nullptr;
    for (const SolvedPtr& s : fresh)
        if (!worst || s->amps_of(ref) > worst->amps_of(ref)) worst = s.get();
    return worst;
}

const Solved* Facts::largest() const {
    const Solved* worst = nullptr;
    for (const SolvedPtr& s : fresh)
        if (!worst || s->cell_amps() > worst->cell_amps()) worst = s.get();
    return worst;
}

std::vector<Finding> judge(const Facts& facts) {
    std::vector<Finding> found;
    judge_supply(facts, found);
    judge_lights(facts, found);
    judge_loads(facts, found);
    judge_fit(facts, found);
    judge_hilt(facts, found);
    judge_harness(facts, found);
    judge_safety(facts, found);
    judge_cells(facts, found);
    judge_brief(facts, found);
    judge_parts(facts, found);
    in_order(found);
    return found;
}

std::vector<std::string_view> rule_ids() {
    return {"supply.no-kill",
            "supply.not-solved",
            "pins.over-current",
            "kill.over-current",
            "cell.over-continuous",
            "cell.protection-trips",
            "cell.lithium-cautions",
            "sound.crackle-early",
            "blade.tip-dim",
            "strip.count-mismatch",
            "fit.body-does-not-fit",
            "brief.blade-differs",
            "brief.needs-swap",
            "part.changed",
            "inspection.undecided",
            "inspection.kept-broken",
            "agreement.broken",
            "fit.no-way-in",
            "fit.carrier-binds",
            "fit.off-centre",
            "fit.wires-crowded",
            "assembly.no-order",
            "thread.left-hand",
            "screw.hard-to-turn",
            "screw.confused",
            "socket.does-not-seat",
            "socket.too-weak",
            "sound.vents-small",
            "sound.cone-touches",
            "dock.last-turn",
            "dock.leans",
            "pad.over-current",
            "board.over-current",
            "line.too-many-pixels",
            "line.programmed-differs",
            "line.no-data",
            "harness.missing",
            "harness.not-wired",
            "harness.leads-nowhere",
            "harness.loop",
            "harness.wrong-role",
            "harness.data-joined",
            "harness.button-both",
            "harness.button-on-supply",
            "harness.twist-takes-slack",
            "harness.no-coil-room",
            "wire.too-thin",
            "wire.too-short",
            "dock.too-few-contacts",
            "config.line-elsewhere",
            "config.line-bare",
            "config.line-not-set",
            "config.button-elsewhere",
            "config.button-bare",
            "config.button-not-set",
            "config.button-mode",
            "board.too-many-lights",
            "data.level-low",
            "light.mirrors",
            "led.over-current",
            "resistor.over-power",
            "led.die-too-hot",
            "light.always-on",
            "supply.over-volts",
            "fuse.over-current",
            "regulator.overloaded",
            "cell.shorted",
            "cell.reversed",
            "cell.mixed-pack",
            "cell.hot",
            "charge.no-port",
            "charge.port-rating",
            "charge.bare-in-hilt",
            "charge.too-fast",
            "charge.cells",
            "charge.no-balance",
            "charge.timer"};
}

void in_order(std::vector<Finding>& findings) {
    std::stable_sort(findings.begin(), findings.end(), [](const Finding& a, const Finding& b) {
        return std::tie(a.severity, a.station) < std::tie(b.severity, b.station);
    });
}

} // namespace conductus::findings
