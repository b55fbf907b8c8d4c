// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QWidget>

#include "app/stations/station_page.h"

namespace conductus::app {

/// Colour by eye: every tint the pixel can mix, as the eye spaces them, with where the look was set
/// and where its tip ends up on a full and on a nearly empty cell. Dragged, it tells duties on the
/// way and at the end; the arrow keys step.
class ColourField : public QWidget {
    Q_OBJECT
public:
    ColourField(const PageContext& context, QWidget* parent);
    /// Luminance of the pixel's channels at full; all 0: there is no pixel, and nothing to choose.
    void show_pixel(const std::array<double, 4>& luminous);
    void show_colour(const job::Colour& colour);
    /// Where the solved blade's tip is at a full and a nearly empty cell; null: not solved.
    void show_tips(const plan::LookPlan* look);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return sizeHint(); }
    /// Where a tint lies in the widget, and the other way round.
    [[nodiscard]] QPointF place_of(const lights::Uv& tint) const;
    [[nodiscard]] lights::Uv tint_at(const QPointF& place) const;

    [[nodiscard]] bool is_dragged() const { return pressed_; }

signals:
    void dragged(const conductus::job::Colour& colour);
    void chosen(const conductus::job::Colour& colour);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    [[nodiscard]] QRectF field() const;
    [[nodiscard]] job::Colour colour_at(const lights::Uv& tint) const;
    void paint_field();
    void take(const QPointF& place);

    PageContext context_;
    std::array<double, 4> luminous_{};
    job::Colour colour_;
    std::optional<lights::Uv> set_, tip_, low_tip_;
    QImage image_;
    bool pressed_ = false;
};

} // namespace conductus::app
