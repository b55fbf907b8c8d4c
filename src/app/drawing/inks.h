// SPDX-License-Identifier: GPL-3.0-or-later
// Paper, inks and lettering of every drawing and page.
#pragma once

#include <QColor>
#include <QFont>
#include <QRectF>
#include <QString>

#include "core/findings/finding.h"
#include "core/lights/colour.h"

namespace conductus::app {

struct Inks {
    QColor paper, backdrop, ink, second, hair, petrol, strip, on_strip, on_strip_second;
    QColor stop, warn, note, fine;
    QColor chosen;                                           ///< fill behind what is chosen
    QColor cell, board, switches, speaker, connector, blade; ///< fills of bodies
    QColor clean, clean_pale, crackle, dim;                  ///< fills of runtime ribbons
    bool night = false;

    static Inks day();
    static Inks night_variant();

    [[nodiscard]] QColor of(findings::Severity s) const;
};

/// Where a part or wire was drawn, for the mouse.
struct HitBox {
    QString ref;
    QRectF box;
};

inline QColor colour(const lights::Rgb& c) {
    return QColor::fromRgbF(float(c.r), float(c.g), float(c.b));
}

/// Interface lettering (B612) and drawing lettering (osifont) at a size in pixels.
QFont page_font(double pixels, bool bold = false);
QFont drawing_font(double pixels);

/// Before the application object is made: keeps the machine's fonts from standing in for ours.
void prepare_fonts(const QString& folder);

/// Registers the shipped fonts from `folder`; false where one is missing.
bool register_fonts(const QString& folder);

} // namespace conductus::app
