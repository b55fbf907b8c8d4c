// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/harness/lanes_view.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"

class QComboBox;
class QLineEdit;
class QLabel;
class QMenu;
class QPushButton;

namespace conductus::app {

/// Wires as lanes and as a table: typed, pasted, sorted, filtered; what is missing is wired.
class WiresSheet : public StationPage {
    Q_OBJECT
public:
    WiresSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;
    void show_preview(const PlanPtr& plan) override;

private:
    void write(const QString& what, const QString& filter, const QString& name,
               const std::function<Result<void>(const QString& path)>& to);
    QMenu* out_menu();
    void take_csv();
    LanesView* lanes_;
    Table* table_;
    QLabel* said_;
    QLabel* note_;
    QPushButton* missing_;
    QLineEdit* filter_;
    QComboBox* sort_;
    PlanPtr plan_;
};

} // namespace conductus::app
