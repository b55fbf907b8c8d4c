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
    void set_mark(std::optional<findings::Severity> worst, int count, bool checked_fine);
    [[nodiscard]] QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    QString number_, tail_;
    const Appearance& appearance_;
    std::optional<findings::Severity> worst_;
    int count_ = 0;
    bool fine_ = false;
};

/// The stations in the order of the work, and the way back to the shelf.
class StationRail : public QWidget {
    Q_OBJECT
public:
    explicit StationRail(const Appearance& appearance, QWidget* parent = nullptr);
    void show_plan(const plan::Plan& plan);
    void set_station(std::size_t station);

signals:
    void station_chosen(std::size_t station);
    void shelf_chosen();

private:
    std::array<RailButton*, station_count> buttons_{};
};

} // namespace conductus::app
