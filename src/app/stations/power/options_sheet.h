// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/session/worker.h"
#include "app/stations/station_page.h"
#include "core/plan/choices.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QProgressBar;
class QPushButton;
class QTableWidget;
class QVBoxLayout;

namespace conductus::app {

using ChoicesPtr = std::shared_ptr<const plan::Choices>;

/// Every choice as a point on two axes; what is best is filled, what is built has a ring.
class ChoicesPicture : public QWidget {
    Q_OBJECT
public:
    ChoicesPicture(const Bench& bench, QWidget* parent);
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
    Bench bench_;
    ChoicesPtr choices_;
    std::vector<std::size_t> shown_;
    plan::Axis across_ = plan::Axis::clean, up_ = plan::Axis::light;
    std::size_t chosen_ = 0;
};

/// All ways to build it that fit, as a picture and as a table; what the one that is built gives up;
/// ways to the runtime that is wanted.
class OptionsSheet : public StationPage {
    Q_OBJECT
public:
    OptionsSheet(const Bench& bench, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

private:
    void work();
    void list();
    void fill(QVBoxLayout* into);
    void choose(std::size_t choice);
    QPushButton *work_, *build_;
    QProgressBar* progress_;
    QComboBox *across_, *up_;
    QCheckBox *best_, *few_;
    QLabel* said_;
    ChoicesPicture* picture_;
    QTableWidget* table_;
    QWidget* advice_;
    PlanPtr plan_, worked_; ///< the plan shown; the one the choices are of
    ChoicesPtr choices_;
    std::vector<std::size_t> shown_;
    std::size_t chosen_ = 0;
    Worker* worker_;
};

} // namespace conductus::app
