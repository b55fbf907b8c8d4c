// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QLabel>
#include <QThreadPool>
#include <QVBoxLayout>

#include "app/stations/station_page.h"
#include "core/hilt/arrange.h"

namespace conductus::app {

/// The best arrangements of what is to go in, each to scale, and the one click that takes it.
class ArrangeSheet : public StationPage {
    Q_OBJECT
public:
    ArrangeSheet(const PageContext& context, QWidget* parent);
    ~ArrangeSheet() override;
    void show_plan(const PlanPtr& plan) override;

private:
    void show_found(const JobPtr& job, const hilt::Arranged& found);
    QThreadPool pool_;
    int asked_ = 0;
    JobPtr of_; ///< the job the rows in sight are for
    QLabel* says_;
    QVBoxLayout* rows_;
    QWidget* list_ = nullptr;
};

} // namespace conductus::app
