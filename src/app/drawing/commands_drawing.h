// SPDX-License-Identifier: GPL-3.0-or-later
// Commands as state lines: every state a line downward, every command a row with the signs of its
// trigger, and an arrow from the line of its state to where it leads, or a dot where it stays.
#pragma once

#include "app/drawing/drawing.h"
#include "app/session/session.h"
#include "core/plan/handled.h"

namespace conductus::app {

/// Signs of a trigger: its buttons as letters in boxes, a dot for a press, a bar for a hold, arrows
/// for motions, a wedge for how the blade is held. Returns the width that they took.
double paint_trigger(QPainter& p, const QRectF& box, const job::Trigger& trigger,
                     const std::vector<handling::HandButton>& buttons, const Inks& inks);

/// Where the line of a state stands in a box that has `states` of them.
double line_of_state(const QRectF& box, std::size_t state, std::size_t states);

/// The lines of all states across a row, and the command on them.
void paint_command_lines(QPainter& p, const QRectF& box, const job::Command& command,
                         const std::vector<job::HandState>& states, const Inks& inks);

/// The names of the states over their lines, shortened where they would meet.
void paint_state_names(QPainter& p, const QRectF& box, const std::vector<job::HandState>& states,
                       const Inks& inks);

/// All of it as one drawing, in the order of the map.
DrawingPtr commands_drawing(PlanPtr plan);

} // namespace conductus::app
