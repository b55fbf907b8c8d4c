// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTimer>

#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/plan/film.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;
class QSlider;

namespace conductus::app {

using FilmPtr = std::shared_ptr<const plan::Film>;

/// A look or an effect in time, slowly if wanted, with what the cell feels; and the effects, typed
/// into a table.
class EffectsSheet : public StationPage {
    Q_OBJECT
public:
    EffectsSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    void film();
    void play(bool on);
    QComboBox* which_;
    QPushButton* play_;
    QCheckBox* slow_;
    QSlider* time_;
    QLabel* said_;
    DrawingView* view_;
    Table* effects_;
    QTimer* clock_;
    PlanPtr plan_;
    FilmPtr film_;
    double ahead_ = 0; ///< frames due
};

} // namespace conductus::app
