// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/found.h"

#include <algorithm>
#include <fmt/format.h>

namespace conductus::job {
namespace {

bool same(const Wire& planned, const FoundWire& found) {
    return (planned.from == found.from && planned.to == found.to) ||
           (planned.from == found.to && planned.to == found.from);
}

} // namespace

bool is_planned(const Job& job, const FoundWire& wire) {
    return std::any_of(job.wires.begin(), job.wires.end(),
                       [&](const Wire& w) { return same(w, wire); });
}

std::vector<std::string> not_found(const Job& job) {
    std::vector<std::string> list;
    for (const Wire& w : job.wires)
        if (std::none_of(job.as_found.wires.begin(), job.as_found.wires.end(),
                         [&](const FoundWire& f) { return same(w, f); }))
            list.push_back(fmt::format("{} {} – {}", w.ref, w.from, w.to));
    return list;
}

void find_as_planned(Job& job) {
    for (const Wire& w : job.wires)
        if (std::none_of(job.as_found.wires.begin(), job.as_found.wires.end(),
                         [&](const FoundWire& f) { return same(w, f); }))
            job.as_found.wires.push_back({w.from, w.to, "", ""});
}

Edit date_snapshot(std::string day) {
    return [day = std::move(day)](Job& job) {
        if (job.as_found.on.empty()) job.as_found.on = day;
    };
}

} // namespace conductus::job
