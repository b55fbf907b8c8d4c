// SPDX-License-Identifier: GPL-3.0-or-later
// All that is worked out of a hilt beside the fit itself.
#pragma once

#include "core/hilt/assembly.h"
#include "core/hilt/docking.h"
#include "core/hilt/mass.h"
#include "core/hilt/socket.h"
#include "core/hilt/sound_space.h"

namespace conductus::hilt {

struct Report {
    std::optional<SocketFit> socket; ///< of the blade at the mouth
    std::vector<SocketFit> sockets;  ///< of every blade that stands in a socket that was measured
    std::optional<SoundSpace> sound;
    Docking docking;
    Masses mass;
    Assembly assembly;
};

inline Report report_on(const job::Job& job, const catalogue::Catalogue& parts, const Fit& fit) {
    Report s;
    s.socket = socket_fit(job, fit.bodies);
    s.sound = sound_space(job, parts, fit.bodies);
    s.docking = docking(job, parts, fit);
    s.sockets = socket_fits(job, fit.bodies);
    s.mass = masses(job, parts, fit, s.sockets);
    s.assembly = assembly(job, parts, fit);
    return s;
}

} // namespace conductus::hilt
