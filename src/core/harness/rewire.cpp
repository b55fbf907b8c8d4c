// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/rewire.h"

#include <algorithm>

#include "core/harness/derive.h"
#include "core/job/lookup.h"
#include "core/job/names.h"

namespace conductus::harness {

job::Edit double_wire(std::string ref) {
    return [ref = std::move(ref)](job::Job& job) {
        const auto* wire = job::find_ref(job.wires, ref);
        if (!wire) return;
        job::Wire second = *wire;
        second.ref = job::free_ref(job, "W");
        second.resistance.reset(); // what was measured is of the one that is there
        const auto at = wire - job.wires.data();
        job.wires.insert(job.wires.begin() + at + 1, std::move(second));
    };
}

std::vector<InARow> ways_through(const job::Job& job, const catalogue::Catalogue& parts,
                                 const job::Wire& wire) {
    std::vector<InARow> ways;
    const job::Wiring wiring(job, parts);
    const bool data = wire.role == job::Role::data;
    if (!data && wire.role != job::Role::supply && wire.role != job::Role::return_path) return ways;
    for (const job::Part& part : job.parts) {
        auto through = in_row(part, parts);
        if (!through || !wiring.is_loose(part)) continue;
        const bool either = parts.find_as<catalogue::Resistor>(part.type) != nullptr;
        const bool shifts = parts.find_as<catalogue::Shifter>(part.type) != nullptr;
        if (either || shifts == data) ways.push_back(std::move(*through));
    }
    return ways;
}

job::Edit split_wire(std::string ref, InARow through) {
    return [ref = std::move(ref), through = std::move(through)](job::Job& job) {
        auto* wire = job::find_ref(job.wires, ref);
        if (!wire) return;
        job::Wire second = *wire;
        second.ref = job::free_ref(job, "W");
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
