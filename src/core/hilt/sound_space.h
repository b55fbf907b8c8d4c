// SPDX-License-Identifier: GPL-3.0-or-later
// The air round the speaker: cavity behind the cone, vents, and room before it.
#pragma once

#include <optional>
#include <string>

#include "core/hilt/fit.h"

namespace conductus::hilt {

struct SoundSpace {
    std::string speaker;
    bool faces_pommel = true;           ///< the end of the hilt it is nearer to
    Millimetre from, to;                ///< of the cavity behind the cone
    std::string closed_by;              ///< ref of what closes it; empty: the other end of the hilt
    bool sealed = false;                ///< by a spacer
    double cavity_ml = 0;               ///< bore less bodies
    double without_spacer_ml = 0;       ///< the same without the spacer that is fitted
    double with_spacer_ml = 0;          ///< with one against the next body behind
    double cone_mm2 = 0;                ///< 70 % of the frame's area
    double vents_mm2 = 0;               ///< all vents
    std::optional<double> resonance_hz; ///< of the cavity on its vents; else of the air before it
    bool before_cone = false;           ///< the resonance is that of the air before the cone
    std::optional<Millimetre> cone_room; ///< from the frame to a closed end or a body before it
    std::string before;                  ///< ref of that body; empty: the end
};

/// Of the first speaker; empty where there is none, or no survey.
/// Helmholtz: f = c/2π·√(Σ A/(t + 1.7 r) / V), every vent with its wall t and the radius r of a
/// circle of its area; both its mouths flanged.
std::optional<SoundSpace> sound_space(const job::Job& job, const catalogue::Catalogue& parts,
                                      const std::vector<PlacedBody>& bodies);

/// What the room adds to the loudness of a speaker that was measured enclosed, dB, never above 0:
/// where nothing closes the back, the waves of both sides meet and cancel (−6, half of that where a
/// body closes most of the bore); where vents are less than 30 % of the cone, what comes out is
/// less in their proportion, down to −12. Practice of the trade, good to about 3 dB.
double cavity_gain(const SoundSpace& space);

/// Area of an opening: a slot with round ends, a circle where it is as long as wide.
double area_mm2(const job::Opening& opening);

} // namespace conductus::hilt
