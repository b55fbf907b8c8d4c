// SPDX-License-Identifier: GPL-3.0-or-later
// How loud fonts and tracks are beside each other, and the course of one sound.
#pragma once

#include <optional>
#include <vector>

#include "app/drawing/drawing.h"
#include "app/session/session.h"
#include "core/card/check.h"

namespace conductus::app {

/// Bars of loudness, the largest sample as a mark, and where the gains would bring each.
DrawingPtr loudness_drawing(std::vector<card::Loudness> all);
/// Of the fonts as the job keeps them of the card that was read last.
DrawingPtr loudness_drawing(PlanPtr plan);

/// The largest samples of a sound along its time.
DrawingPtr wave_drawing(QString name, std::optional<card::Sound> sound);

} // namespace conductus::app
