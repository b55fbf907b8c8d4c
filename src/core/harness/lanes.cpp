// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/lanes.h"

#include <algorithm>
#include <numeric>

namespace conductus::harness {
namespace {

constexpr double hair = 1e-6; // mm: ends on one place do not cross

/// Ends of `below` that come down strictly within `above`.
int through(const Lane& above, const Lane& below) {
    int n = 0;
    for (const double end : {below.from, below.to})
        n += end > above.from + hair && end < above.to - hair;
    return n;
}

} // namespace

int crossings(const std::vector<Lane>& lanes) {
    int n = 0;
    for (const Lane& above : lanes)
        for (const Lane& below : lanes)
            if (above.level < below.level) n += through(above, below);
    return n;
}

void lay_lanes(std::vector<Lane>& lanes, double apart) {
    // For two lanes the order that crosses less puts the inner above the outer. Shorter before
    // longer does so for every pair at once: what lies within another is never the longer one.
    std::vector<std::size_t> order(lanes.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
        return lanes[a].to - lanes[a].from < lanes[b].to - lanes[b].from - hair;
    });
    std::vector<std::size_t> laid;
    for (const std::size_t i : order) {
        Lane& lane = lanes[i];
        lane.level = 0;
        // Below everything it would cross or touch; the rest may share its level.
        for (const std::size_t k : laid)
            if (lanes[k].from < lane.to + apart && lane.from < lanes[k].to + apart)
                lane.level = std::max(lane.level, lanes[k].level + 1);
        laid.push_back(i);
    }
}

} // namespace conductus::harness
