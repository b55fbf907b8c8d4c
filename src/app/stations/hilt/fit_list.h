// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/stations/station_page.h"

namespace conductus::app {

/// Every cell of the catalogue to one scale, with whether it goes in.
class FitList : public QWidget {
    Q_OBJECT
public:
    FitList(const Appearance& appearance, QWidget* parent);
    void show_plan(const PlanPtr& plan);
    [[nodiscard]] QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    [[nodiscard]] double row_height() const { return appearance_.text() * 2.75; }
    const Appearance& appearance_;
    PlanPtr plan_;
};

} // namespace conductus::app
