// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>
#include <map>

#include "core/job/validate.h"
#include "core/job/validate_rules.h"

namespace conductus::job {

Result<void> check_survey(const Hilt& hilt) {
    if (auto ok = names_unique(hilt.joints, "/hilt/joints"); !ok) return ok;
    if (auto ok = names_unique(hilt.fasteners, "/hilt/fasteners"); !ok) return ok;
    if (auto ok = names_unique(hilt.openings, "/hilt/openings"); !ok) return ok;
    for (std::size_t i = 0; i < hilt.joints.size(); ++i) {
        const Joint& j = hilt.joints[i];
        if (hilt.sections.empty() || (j.at > Millimetre(0) && j.at < hilt.sections.back().to))
            continue;
        return problem(
            fmt::format("/hilt/joints/{}/at_mm", i),
            say("the joint '{}' at {} mm is not between two sections", j.name, j.at.value()),
            "Give the place where they meet");
    }
    Millimetre depth{0};
    for (std::size_t i = 0; i < hilt.socket.bores.size(); ++i) {
        if (hilt.socket.bores[i].depth <= depth)
            return problem(fmt::format("/hilt/socket/bores/{}/depth_mm", i),
                           "this bore ends before it begins",
                           "Measure from the mouth inward, each deeper than the last");
        depth = hilt.socket.bores[i].depth;
    }
    std::map<std::string, Millimetre> deepest;
    for (std::size_t i = 0; i < hilt.side_bores.size(); ++i) {
        const SideBore& b = hilt.side_bores[i];
        const std::string at = fmt::format("/hilt/side_bores/{}", i);
        if (b.socket.empty())
            return problem(at + "/socket", "this bore is of no socket",
                           "Name the hilt connector or LED at the bottom of its socket");
        if (b.depth <= deepest[b.socket])
            return problem(at + "/depth_mm", say("this bore of {} ends before it begins", b.socket),
                           "Measure from the mouth of that socket inward, each deeper than the "
                           "last");
        deepest[b.socket] = b.depth;
    }
    return {};
}

Result<void> validate_sections(const std::vector<BoreSection>& sections) {
    Millimetre end{0};
    for (std::size_t i = 0; i < sections.size(); ++i) {
        const BoreSection& s = sections[i];
        const std::string at = fmt::format("/hilt/sections/{}", i);
        if (s.to <= s.from)
            return problem(at + "/to_mm",
                           say("'{}' ends at {} mm, not after its start at {} mm", s.name,
                               s.to.value(), s.from.value()),
                           "Measure both from the pommel end");
        if (std::abs((s.from - end).value()) > 1e-9)
            return problem(at + "/from_mm",
                           say("'{}' starts at {} mm, but what is before it ends at {} mm", s.name,
                               s.from.value(), end.value()),
                           s.from > end ? "There is a gap: measure the part between"
                                        : "They overlap: one of the two readings is wrong");
        if (s.bore >= s.outer)
            return problem(at + "/bore_mm",
                           say("the bore of '{}', {} mm, leaves no wall in {} mm", s.name,
                               s.bore.value(), s.outer.value()),
                           "Both are diameters; the bore is the smaller");
        const Millimetre bore = s.bore_end.value_or(s.bore), outer = s.outer_end.value_or(s.outer);
        if (bore >= outer)
            return problem(at + (s.bore_end ? "/bore_end_mm" : "/outer_end_mm"),
                           say("at its far end the bore of '{}', {} mm, leaves no wall in "
                               "{} mm",
                               s.name, bore.value(), outer.value()),
                           "Both are diameters; the bore is the smaller");
        end = s.to;
    }
    return {};
}

} // namespace conductus::job
