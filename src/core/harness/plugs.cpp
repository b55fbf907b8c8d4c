// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/plugs.h"

#include <cmath>

#include "core/catalogue/catalogue.h"
#include "core/job/lookup.h"

namespace conductus::harness {

std::optional<catalogue::PlugHole> hole_of(const job::Job& job, const catalogue::Catalogue& parts,
                                           const std::string& ref) {
    const job::Part* part = job::find_ref(job.parts, ref);
    const auto* type = part ? parts.find(part->type) : nullptr;
    return type ? catalogue::plug_hole(type->figures) : std::nullopt;
}

InHole in_hole(const job::Plug& plug, const catalogue::PlugHole& hole) {
    if (plug.diameter <= Millimetre(0) || hole.takes <= Millimetre(0)) return InHole::not_known;
    const double over = (plug.diameter - hole.takes).value();
    if (std::abs(over) <= plug_slack.value() + 1e-9) return InHole::goes_in;
    return over > 0 ? InHole::too_thick : InHole::too_thin;
}

Opens opens_contact(const job::Plug& plug, const catalogue::PlugHole& hole) {
    if (!hole.kills) return Opens::no_contact;
    if (plug.length <= Millimetre(0) || hole.opens <= Millimetre(0)) return Opens::not_known;
    return plug.length < hole.opens ? Opens::too_short : Opens::opens;
}

Proved proved(const job::Plug& plug) {
    constexpr double is_off = 0.1, there = 0.5; // share, V
    if (!plug.volts_in || !plug.volts_out || plug.volts_out->value() <= there)
        return Proved::not_read;
    return plug.volts_in->value() > is_off * plug.volts_out->value() ? Proved::still_on
                                                                    : Proved::off;
}

} // namespace conductus::harness
