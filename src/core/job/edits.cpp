// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/edits.h"

#include "core/job/lookup.h"

namespace conductus::job {

Edit fit_type(std::string ref, std::string type) {
    return [ref = std::move(ref), type = std::move(type)](Job& job) {
        if (Part* part = find_ref(job.parts, ref)) {
            part->type = type;
            part->measured = {};
        }
    };
}

Edit fit_strips(std::string type) {
    return [type = std::move(type)](Job& job) {
        for (Blade& blade : job.blades)
            for (Strip& strip : blade.strips) {
                strip.type = type;
                strip.rail.reset();
            }
    };
}

Edit set_look(std::size_t index, Look look) {
    return [index, look = std::move(look)](Job& job) {
        if (index >= job.looks.size()) return;
        if (job.use.look == job.looks[index].name) job.use.look = look.name;
        job.looks[index] = look;
    };
}

void move_boundary(Hilt& hilt, std::size_t index, Millimetre to) {
    hilt.sections[index].to = to;
    if (index + 1 < hilt.sections.size()) hilt.sections[index + 1].from = to;
}

void add_section(Hilt& hilt) {
    if (hilt.sections.empty()) {
        hilt.sections.push_back(
            {"section", Millimetre(0), Millimetre(50), Millimetre(28), Millimetre(35)});
        return;
    }
    Section next = hilt.sections.back();
    const Millimetre length = next.to - next.from;
    next.name = "section";
    next.from = next.to;
    next.to = next.from + length;
    hilt.sections.push_back(next);
}

void remove_section(Hilt& hilt, std::size_t index) {
    if (index >= hilt.sections.size()) return;
    const Millimetre gone = hilt.sections[index].to - hilt.sections[index].from;
    hilt.sections.erase(hilt.sections.begin() + static_cast<std::ptrdiff_t>(index));
    for (std::size_t i = index; i < hilt.sections.size(); ++i) {
        hilt.sections[i].from -= gone;
        hilt.sections[i].to -= gone;
    }
}

} // namespace conductus::job
