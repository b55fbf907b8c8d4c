// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <memory>

#include "app/stations/station_page.h"
#include "core/plan/choices.h"

namespace conductus::app {

using ChoicesPtr = std::shared_ptr<const plan::Choices>;

/// A figure of a choice as it is shown, with its unit.
QString shown_text(const plan::Choice& choice, plan::Axis axis);
/// What it changes, in one line.
QString changes_of(const plan::Choice& choice);

/// Every choice as a point on two axes; what is best is filled, what is built has a ring.
class ChoicesPicture : public QWidget {
    Q_OBJECT
public:
    ChoicesPicture(const PageContext& context, QWidget* parent);
    void show_choices(ChoicesPtr choices, std::vector<std::size_t> shown);
    void on_axes(plan::Axis across, plan::Axis up);
    void choose(std::size_t choice);
    /// Where that choice is drawn.
    [[nodiscard]] QPointF point_of(std::size_t choice) const;

signals:
    void chosen(std::size_t choice);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    bool event(QEvent* event) override;

private:
    [[nodiscard]] QRectF box() const;
    [[nodiscard]] int nearest(QPointF at) const; ///< place among the shown; -1: none near
    PageContext context_;
    ChoicesPtr choices_;
    std::vector<std::size_t> shown_;
    plan::Axis across_ = plan::Axis::clean, up_ = plan::Axis::light;
    std::size_t chosen_ = 0;
};

} // namespace conductus::app
