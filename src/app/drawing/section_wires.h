// SPDX-License-Identifier: GPL-3.0-or-later
// Wires in the long section: drawn where one is chosen or pointed at.
#pragma once

#include <QPainter>
#include <QStringList>

#include "app/drawing/section_parts.h"

namespace conductus::app {

/// Wires among these refs.
std::vector<const harness::WireRow*> wires_of(const plan::Plan& plan, const QStringList& refs);

/// Refs of what they end on.
QStringList ends_of(const std::vector<const harness::WireRow*>& wires);

/// Their ways, where they run along the bore.
void paint_wires(QPainter& p, const std::vector<const harness::WireRow*>& wires, const Scale& scale,
                 const Inks& inks);

} // namespace conductus::app
