// SPDX-License-Identifier: GPL-3.0-or-later
// A plug in a jack: whether it goes in, and what it opens there.
#pragma once

#include <optional>
#include <string>

#include "core/catalogue/catalogue.h"
#include "core/catalogue/kinds.h"
#include "core/job/job.h"

namespace conductus::harness {

/// A plug goes into a hole that is made for so much more or less.
inline constexpr Millimetre plug_slack{0.15};

/// The hole of a jack, port or kill; nothing: that part takes no plug.
std::optional<catalogue::PlugHole> hole_of(const job::Job& job, const catalogue::Catalogue& parts,
                                           const std::string& ref);

enum class InHole { not_known, too_thick, too_thin, goes_in };
InHole in_hole(const job::Plug& plug, const catalogue::PlugHole& hole);

enum class Opens { not_known, no_contact, too_short, opens };
/// Whether a plug that goes in opens the contact of that hole.
Opens opens_contact(const job::Plug& plug, const catalogue::PlugHole& hole);

enum class Proved { not_read, still_on, off };
/// What was read at the board with the plug out and in; a tenth may be left.
Proved proved(const job::Plug& plug);

} // namespace conductus::harness
