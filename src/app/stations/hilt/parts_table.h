// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTableWidget>
#include <map>

#include "app/stations/station_page.h"

namespace conductus::app {

/// What is fitted and where: another type of the same kind can be chosen, and the place typed.
class PartsTable : public QTableWidget {
    Q_OBJECT
public:
    PartsTable(const Bench& bench, QWidget* parent);
    void show_parts();
    void show_plan(const PlanPtr& plan);

private:
    void fit_type(const std::string& ref, const std::string& type);
    void take_place(int row);

    Bench bench_;
    bool showing_ = false;
    std::map<std::string, QString> refused_; ///< place as typed, by ref
};

} // namespace conductus::app
