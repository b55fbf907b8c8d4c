// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/drawings.h"

#include <QPainter>
#include <algorithm>

#include "app/drawing/chains_drawing.h"
#include "app/drawing/connectors_drawing.h"
#include "app/drawing/lanes_drawing.h"
#include "app/drawing/ribbons_drawing.h"
#include "app/drawing/slice_drawing.h"
#include "app/drawing/steps_drawing.h"

namespace conductus::app {
namespace {

constexpr int wide = 1120;

void paint_section(QPainter& p, const QRectF& frame, const DrawingRequest& r, const Inks& inks) {
    SectionOptions options;
    options.overlay = r.overlay;
    options.look = r.look.isEmpty() ? QString::fromStdString(r.plan->job->use.look) : r.look;
    SectionDrawing(r.plan, options).paint(p, frame, inks);
}

RibbonLayout layout_of(const DrawingRequest& r) {
    RibbonLayout layout;
    layout.lettering = r.lettering;
    layout.row = r.lettering * 2.6;
    layout.names = r.lettering * 24;
    layout.longest_min = std::max(30.0, longest_minutes(r.plan->options));
    return layout;
}

QSize ribbons_size(const DrawingRequest& r) {
    const auto rows = static_cast<double>(std::max<std::size_t>(1, r.plan->options.size()));
    return {wide, qRound(layout_of(r).row * rows + r.lettering * 3)};
}

void paint_ribbons(QPainter& p, const QRectF& frame, const DrawingRequest& r, const Inks& inks) {
    const RibbonLayout layout = layout_of(r);
    const auto& options = r.plan->options;
    if (options.empty()) return;
    const double foot = r.lettering * 2.4;
    paint_ribbon_grid(p, frame.adjusted(0, 0, 0, -foot), layout, inks);
    for (std::size_t i = 0; i < options.size(); ++i)
        paint_ribbon(p,
                     QRectF(frame.left(), frame.top() + layout.row * static_cast<double>(i),
                            frame.width(), layout.row),
                     options[i], layout, inks);
    paint_ribbon_axis(p, QRectF(frame.left(), frame.bottom() - foot, frame.width(), foot), layout,
                      inks);
}

/// The look that is asked for, full; null where nothing is solved.
const plan::LookPlan* look_of(const DrawingRequest& r) {
    const std::string name = r.look.isEmpty() ? r.plan->job->use.look : r.look.toStdString();
    if (const auto* look = r.plan->look(name)) return look;
    return r.plan->looks.empty() ? nullptr : &r.plan->looks.front();
}

} // namespace

const std::vector<OverlayEntry>& overlays() {
    static const std::vector<OverlayEntry> all{
        {Overlay::body, "body", QT_TRANSLATE_NOOP("Overlay", "Body"),
         QT_TRANSLATE_NOOP("Overlay", "Bodies, bores and where it is tight")},
        {Overlay::amps, "amps", QT_TRANSLATE_NOOP("Overlay", "Amps"),
         QT_TRANSLATE_NOOP("Overlay", "Solved currents, and where they are over a rating")},
        {Overlay::volts, "volts", QT_TRANSLATE_NOOP("Overlay", "Volts"),
         QT_TRANSLATE_NOOP("Overlay", "Solved voltages for the look and charge at the right")},
        {Overlay::heat, "heat", QT_TRANSLATE_NOOP("Overlay", "Heat"),
         QT_TRANSLATE_NOOP("Overlay", "Temperatures with the look held on, from a full cell")},
        {Overlay::sound, "sound", QT_TRANSLATE_NOOP("Overlay", "Sound"),
         QT_TRANSLATE_NOOP("Overlay", "The air behind the speaker, and its vents")}};
    return all;
}

const OverlayEntry* overlay_named(std::string_view id) {
    for (const OverlayEntry& overlay : overlays())
        if (overlay.id == id) return &overlay;
    return nullptr;
}

const std::vector<DrawingEntry>& drawings() {
    using R = const DrawingRequest&;
    static const std::vector<DrawingEntry> all{
        {"section",
         QT_TRANSLATE_NOOP("Drawing", "Long section"),
         {"--overlay", "--look"},
         [](R) { return QSize(wide, 250); },
         paint_section},
        {"slice",
         QT_TRANSLATE_NOOP("Drawing", "Slice"),
         {"--at"},
         [](R) { return QSize(420, 420); },
         [](QPainter& p, const QRectF& frame, R r, const Inks& inks) {
             SliceDrawing(r.plan, r.at).paint(p, frame, inks);
         }},
        {"lanes",
         QT_TRANSLATE_NOOP("Drawing", "Wires as lanes"),
         {},
         [](R r) { return QSize(wide, qRound(lanes_height(*r.plan, r.lettering)) + 12); },
         [](QPainter& p, const QRectF& frame, R r, const Inks& inks) {
             LanesOptions shown;
             shown.lettering = r.lettering;
             (void)paint_lanes(p, frame, *r.plan, shown, inks);
         }},
        {"connectors",
         QT_TRANSLATE_NOOP("Drawing", "Connector faces"),
         {},
         [](R r) { return QSize(760, qRound(connectors_height(*r.plan, r.lettering)) + 12); },
         [](QPainter& p, const QRectF& frame, R r, const Inks& inks) {
             paint_connectors(p, frame, *r.plan, r.lettering, {}, inks);
         }},
        {"chains",
         QT_TRANSLATE_NOOP("Drawing", "Data lines as chains of pixels"),
         {},
         [](R r) { return QSize(wide, qRound(chains_height(*r.plan, r.lettering)) + 12); },
         [](QPainter& p, const QRectF& frame, R r, const Inks& inks) {
             (void)paint_chains(p, frame, *r.plan, r.lettering, {}, inks);
         }},
        {"runtime",
         QT_TRANSLATE_NOOP("Drawing", "How long it runs"),
         {},
         ribbons_size,
         paint_ribbons},
        {"steps",
         QT_TRANSLATE_NOOP("Drawing", "Where the volts go"),
         {"--look"},
         [](R) { return QSize(wide, 200); },
         [](QPainter& p, const QRectF& frame, R r, const Inks& inks) {
             if (const auto* look = look_of(r))
                 (void)paint_steps(p, frame, look->views[plan::full], r.lettering, {}, inks);
         }}};
    return all;
}

const DrawingEntry* drawing_named(std::string_view id) {
    for (const DrawingEntry& drawing : drawings())
        if (drawing.id == id) return &drawing;
    return nullptr;
}

} // namespace conductus::app
