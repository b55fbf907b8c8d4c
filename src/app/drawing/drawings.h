// SPDX-License-Identifier: GPL-3.0-or-later
// Every drawing that can be made of a job, and every overlay of the long section: one list each.
#pragma once

#include <QObject>
#include <QSize>
#include <functional>
#include <memory>
#include <string_view>
#include <vector>

#include "app/drawing/inks.h"
#include "app/drawing/section_drawing.h"

class QPainter;

namespace conductus::app {

/// What the long section shows over the bodies.
struct OverlayEntry {
    Overlay overlay;
    std::string_view id;      ///< "volts"
    const char *title, *help; ///< to be translated in the context "Overlay"
};
const std::vector<OverlayEntry>& overlays();
/// Null: there is none of that id.
const OverlayEntry* overlay_named(std::string_view id);

/// What a drawing is made of.
struct DrawingRequest {
    std::shared_ptr<const plan::Plan> plan; ///< with its options
    Overlay overlay = Overlay::body;
    QString look; ///< empty: that of the use
    Millimetre at;
    double lettering = 13; ///< pixels
};

struct DrawingEntry {
    std::string_view id;                              ///< "lanes"
    const char* title;                                ///< to be translated in the context "Drawing"
    std::vector<std::string_view> takes;              ///< options that say something of it: "--at"
    std::function<QSize(const DrawingRequest&)> size; ///< pixels, as it is best read
    std::function<void(QPainter&, const QRectF& frame, const DrawingRequest&, const Inks&)> paint;
};
const std::vector<DrawingEntry>& drawings();
/// Null: there is none of that id.
const DrawingEntry* drawing_named(std::string_view id);

} // namespace conductus::app
