// SPDX-License-Identifier: GPL-3.0-or-later
// The blade in its socket: how far it goes in, and what that is good for.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/hilt/body.h"

namespace conductus::hilt {

/// What a seat is good for, from least to most.
enum class Hold { nothing, show, swing, bout };
const char* word(Hold hold);

/// What the use asks of the seat.
Hold wanted_for(job::Occasion occasion);

struct SocketFit {
    std::string blade;
    std::string socket; ///< ref of the connector or LED of a side socket; empty: at the mouth
    Millimetre outer;   ///< of the blade, or of its thinned foot
    Millimetre depth;   ///< of the socket, down to what stops a blade in the end
    Millimetre seats;   ///< how far the blade goes in
    Millimetre gap;     ///< play on the diameter where it holds, mean of mouth and foot
    double tilt = 0;    ///< degrees it can lean
    Millimetre tip;     ///< how far its tip can swing, either way together
    Millimetre mend;    ///< off the blade's foot, or into the step, so that it seats fully; else 0
    Millimetre step_bore; ///< of the step that stops it, where one does
    bool screwed = false; ///< a screw holds the blade
    Hold holds = Hold::nothing;
    Message why; ///< the limit that keeps it from more
};

/// The blade that stands along the hilt in the socket at its mouth: measured, or the sections from
/// the emitter end to the connector. Empty where there is no such blade or no bore for it. Rule:
/// seat length in diameters and lean decide: show 1 diameter, swing 1.5 and 0.8°, bout 2.5 and
/// 0.4°; swing and bout with a retention screw where screws were surveyed.
std::optional<SocketFit> socket_fit(const job::Job& job, const std::vector<PlacedBody>& bodies);

/// The same of a blade where it stands: at the mouth, or in a side socket of which bores were
/// surveyed. Empty for what is wired across the hilt, or in a side socket that nobody measured.
std::optional<SocketFit> socket_fit(const job::Job& job, const std::vector<PlacedBody>& bodies,
                                    const job::Blade& blade);

/// Every blade of the job, in its order, that has a socket; plugs close theirs on a rim of their
/// own.
std::vector<SocketFit> socket_fits(const job::Job& job, const std::vector<PlacedBody>& bodies);

/// Whether a screw holds what stands where this blade stands.
bool retains(const job::Job& job, const job::Fastener& screw, const job::Blade& blade);

} // namespace conductus::hilt
