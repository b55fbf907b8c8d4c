// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTableWidget>

#include "app/stations/station_page.h"

namespace conductus::app {

/// Items by area; a letter says how the one in focus was found.
class InspectionTable : public QTableWidget {
    Q_OBJECT
public:
    InspectionTable(const Bench& bench, QWidget* parent);
    void show_items();
    /// Index in the job of the item in focus; -1 where there is none.
    [[nodiscard]] int item_index() const;

signals:
    void item_chosen(int index);

protected:
    void keyPressEvent(QKeyEvent*) override;

private:
    Bench bench_;
    std::vector<int> index_; ///< of each row; -1 for the heading of an area
    bool showing_ = false;
};

/// A reading as a person reads it: "58 mΩ".
QString reading_text(const job::Inspected& item);

} // namespace conductus::app
