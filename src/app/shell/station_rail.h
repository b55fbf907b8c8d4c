// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractButton>
#include <QWidget>
#include <array>
#include <optional>

#include "app/session/appearance.h"
#include "app/stations/stations.h"
#include "core/plan/plan.h"

namespace conductus::app {

/// One station in the rail: number, name, its worst finding and how many there are of it.
class RailButton : public QAbstractButton {
    Q_OBJECT
public:
    RailButton(const QString& number, const QString& name, const Appearance& appearance,
               QWidget* parent);
    /// A figure at the end of the line, in place of a mark.
    void set_tail(const QString& tail);
    /// The worst finding and how many there are of it; else a tick where it was judged and is fine,
    /// a dash where there is nothing to judge yet.
    void set_mark(std::optional<findings::Severity> worst, int count, bool judged);
    [[nodiscard]] QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    QString number_, tail_;
    const Appearance& appearance_;
    std::optional<findings::Severity> worst_;
    int count_ = 0;
    bool fine_ = false, nothing_ = false;
};

/// The stations in the order of the work, and the way back to the shelf.
class StationRail : public QWidget {
    Q_OBJECT
public:
    explicit StationRail(const Appearance& appearance, QWidget* parent = nullptr);
    void show_plan(const plan::Plan& plan);
    void set_station(std::size_t station);
    /// The sheet a job is begun on stands above the stations while the job is blank.
    void offer_start(bool blank);
    void set_start();

signals:
    void start_chosen();
    void station_chosen(std::size_t station);
    void shelf_chosen();

private:
    std::array<RailButton*, station_count> buttons_{};
    RailButton* start_;
};

} // namespace conductus::app
