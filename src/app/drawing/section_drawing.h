// SPDX-License-Identifier: GPL-3.0-or-later
// The hilt as an engineering long section, to scale: one code for screen, PNG, SVG and PDF.
#pragma once

#include <QPainter>
#include <QRectF>
#include <QString>
#include <QStringList>
#include <functional>
#include <memory>
#include <vector>

#include "app/drawing/drawing.h"
#include "app/drawing/section_parts.h"
#include "core/plan/plan.h"

namespace conductus::app {

enum class Overlay { body, amps, volts, heat, sound };

/// Where a probe of the meter goes.
struct Probe {
    QString terminal; ///< "U1.bat"
    int number = 1;   ///< 1 is the red one, 2 the black
    bool operator==(const Probe&) const = default;
};

struct LongSectionOptions {
    Overlay overlay = Overlay::body;
    QString look; ///< empty: the first
    plan::Charge charge = plan::full;
    std::shared_ptr<const plan::View> moment; ///< shown instead of look and charge; null: those
    QString moment_words;                     ///< which moment that is
    QString chosen;                           ///< ref drawn as chosen
    QStringList lit;                          ///< refs a finding points at
    double lettering = 12;                    ///< pixels
    QString sliding;                          ///< carrier drawn on its way in; empty: all in place
    double to_go = 0;                         ///< mm before its place
    std::vector<Probe> probes;                ///< drawn at their parts, with number and terminal
};

class LongSectionDrawing {
public:
    LongSectionDrawing(std::shared_ptr<const plan::Plan> plan, LongSectionOptions options)
        : plan_(std::move(plan)), options_(std::move(options)) {}

    /// Where the hilt's axis would lie in `frame`.
    [[nodiscard]] Scale scale(const QRectF& frame, const Inks& inks) const;
    /// Paints into `frame`; returns where the parts are.
    std::vector<HitBox> paint(QPainter& p, const QRectF& frame, const Inks& inks) const;

    /// A small one without lettering, for the shelf.
    void paint_small(QPainter& p, const QRectF& frame, const Inks& inks) const;

private:
    std::shared_ptr<const plan::Plan> plan_;
    LongSectionOptions options_;
};

/// The section as a drawing, and where the hilt's axis lies in it.
DrawingPtr section_drawing(std::shared_ptr<const plan::Plan> plan, LongSectionOptions options);
Scale section_scale(std::shared_ptr<const plan::Plan> plan, LongSectionOptions options,
                    const QRectF& frame, double lettering, const Inks& inks);

/// The small one as a drawing.
DrawingPtr small_section_drawing(std::shared_ptr<const plan::Plan> plan);

/// Writes a drawing to a file; its ending says how: svg, png or pdf. Size in pixels. `paint` is
/// given the painter and the frame.
Result<void> write_picture(const std::function<void(QPainter&, const QRectF&)>& paint,
                           const QString& title, const QString& path, QSize size, const Inks& inks);

} // namespace conductus::app
