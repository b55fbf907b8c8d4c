// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/rewire.h"

#include <algorithm>

#include "core/harness/derive.h"
#include "core/job/lookup.h"

namespace conductus::harness {

job::Edit double_wire(std::string ref) {
    return [ref = std::move(ref)](job::Job& job) {
        const auto* wire = job::find_ref(job.wires, ref);
        if (!wire) return;
        job::Wire second = *wire;
        second.ref = next_wire_ref(job);
        second.resistance.reset(); // what was measured is of the one that is there
        const auto at = wire - job.wires.data();
        job.wires.insert(job.wires.begin() + at + 1, std::move(second));
    };
}

std::vector<Through> ways_through(const job::Job& job, const catalogue::Catalogue& parts,
                                  const job::Wire& wire) {
    std::vector<Through> ways;
    auto bare = [&](const std::string& terminal) {
        return std::none_of(job.wires.begin(), job.wires.end(), [&](const job::Wire& w) {
            return w.from == terminal || w.to == terminal;
        });
    };
    const bool data = wire.role == job::Role::data;
    const bool power = wire.role == job::Role::supply || wire.role == job::Role::ground;
    for (const job::Part& part : job.parts) {
        const auto& f = parts.find(part.type)->figures;
        const bool resistor = std::holds_alternative<catalogue::Resistor>(f);
        const bool linear =
            std::holds_alternative<catalogue::Driver>(f) &&
            std::get<catalogue::Driver>(f).method == catalogue::Driver::Method::linear;
        const bool ends = power && (std::holds_alternative<catalogue::Fuse>(f)),
                   flow = (power && (std::holds_alternative<catalogue::Kill>(f) || linear)) ||
                          (data && std::holds_alternative<catalogue::Shifter>(f));
        if (!flow && !ends && !(resistor && (power || data))) continue;
        Through t{part.ref, part.ref + (flow ? ".in" : ".a"), part.ref + (flow ? ".out" : ".b")};
        if (bare(t.in) && bare(t.out)) ways.push_back(std::move(t));
    }
    return ways;
}

job::Edit split_wire(std::string ref, Through through) {
    return [ref = std::move(ref), through = std::move(through)](job::Job& job) {
        auto* wire = job::find_ref(job.wires, ref);
        if (!wire) return;
        job::Wire second = *wire;
        second.ref = next_wire_ref(job);
        second.from = through.out;
        for (job::Wire* w : {wire, &second}) {
            w->length.reset(); // each goes another way now
            w->resistance.reset();
        }
        wire->to = through.in;
        const auto at = wire - job.wires.data();
        job.wires.insert(job.wires.begin() + at + 1, std::move(second));
    };
}

} // namespace conductus::harness
