// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/drawing/choices_drawing.h"
#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QProgressBar;
class QPushButton;
class QVBoxLayout;

namespace conductus::app {

/// All ways to build it that fit, as a picture and as a table; what the one that is built gives up;
/// ways to the runtime that is wanted.
class OptionsSheet : public StationPage {
    Q_OBJECT
public:
    OptionsSheet(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

private:
    void work();
    void list();
    void fill(QVBoxLayout* into);
    void choose(std::size_t choice);
    [[nodiscard]] std::shared_ptr<const ChoicesDrawing> drawn() const;
    QPushButton *work_, *build_;
    QProgressBar* progress_;
    QComboBox *across_, *up_;
    QCheckBox *best_, *few_;
    QLabel* said_;
    DrawingView* picture_;
    Table* table_;
    QWidget* advice_;
    PlanPtr plan_, worked_; ///< the plan shown; the one the choices are of
    ChoicesPtr choices_;
    std::vector<std::size_t> shown_;
    std::size_t chosen_ = 0;
};

} // namespace conductus::app
