// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"

class QBoxLayout;
class QPushButton;
class QLabel;

namespace conductus::app {

class EntryField;
class ItemPanel;

/// The inspection: what was looked at and how it was found.
class ReceivedSheet : public StationPage {
    Q_OBJECT
public:
    ReceivedSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    QBoxLayout* row_;
    /// The item in focus by its index in the job; -1: none.
    [[nodiscard]] int item_index() const;
    std::vector<int> order_; ///< items as they are listed
    Table* table_;
    ItemPanel* panel_;
    QLabel* count_;
    QPushButton* begin_;
    EntryField* add_;
};

} // namespace conductus::app
