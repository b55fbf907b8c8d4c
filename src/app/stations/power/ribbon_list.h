// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/drawing/ribbons_drawing.h"
#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"

namespace conductus::app {

/// Runtime ribbons, a row a cell. Up and Down choose a row, Enter or a double click fits it.
class RibbonList : public DrawingView {
    Q_OBJECT
public:
    RibbonList(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan);
    [[nodiscard]] std::size_t row() const { return row_; }
    /// What a person reads in that row.
    [[nodiscard]] QString row_words(std::size_t row) const;
    [[nodiscard]] RibbonLayout layout_now() const;

signals:
    void fit_wanted(std::size_t row);
    void row_moved(QRect box);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;

private:
    [[nodiscard]] QRectF row_box(std::size_t row) const;
    void choose(std::size_t row);
    PlanPtr plan_;
    std::size_t row_ = 0;
};

/// The time axis and the words for the colours, under the list.
class RibbonAxis : public QWidget {
    Q_OBJECT
public:
    RibbonAxis(const PageContext& context, const RibbonList& list, QWidget* parent);
    [[nodiscard]] QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    PageContext context_;
    const RibbonList& list_;
};

/// The staircase of volts for the look and charge of the section.
class StepsView : public DrawingView {
    Q_OBJECT
public:
    StepsView(const char* object, const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan);

private:
    [[nodiscard]] DrawingPtr drawn() const;
    PageContext context_;
    PlanPtr plan_;
};

} // namespace conductus::app
