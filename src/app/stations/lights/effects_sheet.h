// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTimer>
#include <optional>

#include "app/drawing/blade_drawing.h"
#include "app/session/newest.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/plan/film.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;
class QSlider;

namespace conductus::app {

class RowsTable;
using FilmPtr = std::shared_ptr<const plan::Film>;

/// One frame of a film: the blades above, the cell's current under them with a cursor.
class FilmView : public QWidget {
    Q_OBJECT
public:
    FilmView(const PageContext& context, QWidget* parent);
    void show_film(std::shared_ptr<const plan::Film> film);
    void go_to(int frame);
    [[nodiscard]] int frame() const { return frame_; }

signals:
    void wanted(int frame); ///< the trace was clicked

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

private:
    [[nodiscard]] QRectF trace() const;
    [[nodiscard]] std::vector<BladePlace> places() const;
    [[nodiscard]] std::size_t lines() const { return lines_of(places()); }
    PageContext context_;
    std::shared_ptr<const plan::Film> film_;
    int frame_ = 0;
};

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
    FilmView* view_;
    Table* effects_;
    QTimer* clock_;
    PlanPtr plan_;
    FilmPtr film_;
    double ahead_ = 0; ///< frames due
    Newest<FilmPtr> films_;
};

} // namespace conductus::app
