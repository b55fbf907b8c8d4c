// SPDX-License-Identifier: GPL-3.0-or-later
// Words on the long section: what bodies are called, and flags with a leader.
#pragma once

#include <QPainter>
#include <QStringList>
#include <string>
#include <vector>

#include "app/drawing/inks.h"
#include "core/plan/plan.h"

namespace conductus::app {

/// What a body may be called inside its outline, the longest first.
QStringList names_of(const plan::Plan& plan, const std::string& ref);

/// Where something is lettered already: nothing is lettered on it.
class Taken {
public:
    void take(const QRectF& box) { boxes_.push_back(box); }
    [[nodiscard]] bool is_free(const QRectF& box) const;

private:
    std::vector<QRectF> boxes_;
};

/// Reference and the longest name that fits; upright where the body is too narrow to lie, beside or
/// under it where it is too small to letter, with a leader where that is further off. Where there
/// is no room at all it goes without. Within `frame`.
void letter_body(QPainter& p, const QRectF& box, const QString& ref, const QStringList& names,
                 const QRectF& frame, const Inks& inks, Taken& taken);

/// A value above the drawing, with a leader to what it is of.
struct Flag {
    double x = 0, tip_y = 0; ///< end of the leader
    QString text;
    QColor colour;
    double placed = 0; ///< x after making room
};

/// Paints flags in a row at `y`, pushed apart so that none overlap, within the frame.
void paint_flags(QPainter& p, std::vector<Flag> flags, const QRectF& frame, double y,
                 const QFont& font, const Inks& inks);

} // namespace conductus::app
