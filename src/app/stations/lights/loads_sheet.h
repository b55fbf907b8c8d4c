// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"

class QComboBox;
class QLabel;
class QPushButton;

namespace conductus::app {

class EntryField;
class LinkButton;

/// Every load with what it draws where it draws most; the chosen one is edited below.
class LoadsSheet : public StationPage {
    Q_OBJECT
public:
    LoadsSheet(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

private:
    [[nodiscard]] const plan::Load* chosen() const;
    void show_chosen();
    void make_editor(QBoxLayout* column);
    void fit(const QString& type);

    PlanPtr plan_;
    Table* table_;
    QLabel* none_;
    QWidget *strip_box_, *led_box_;
    QComboBox *type_, *feed_, *add_what_, *add_how_;
    EntryField *pixels_, *length_, *ohms_;
    QLabel* said_;
    LinkButton* pick_;
    QPushButton* remove_;
};

} // namespace conductus::app
