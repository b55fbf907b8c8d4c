// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QLabel>
#include <QVBoxLayout>

#include "app/session/asking.h"
#include "app/stations/station_page.h"

namespace conductus::app {

/// The best arrangements of what is to go in, each to scale, and the one click that takes it.
class ArrangeSheet : public StationPage {
    Q_OBJECT
public:
    ArrangeSheet(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

private:
    void show_found(const plan::OrdersInTheBore::Answer& found);
    JobPtr of_; ///< the job the rows in sight are for
    QLabel* says_;
    QVBoxLayout* rows_;
    QWidget* list_ = nullptr;
};

} // namespace conductus::app
