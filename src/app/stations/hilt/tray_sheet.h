// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <vector>

#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/hilt/part_edits.h"

class QBoxLayout;
class QLabel;
class QPushButton;

namespace conductus::app {

class PartSearch;

/// Every part of the catalogue, to be fitted: found by words and figures, each with the figures
/// that decide and where it would go; put in, in place of the part that is chosen, or beside it.
class TraySheet : public StationPage {
    Q_OBJECT
public:
    TraySheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

protected:
    void resizeEvent(QResizeEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void find();
    void follow();
    void fit(int row);
    void replace();
    [[nodiscard]] const catalogue::PartType* type_in(int row) const; ///< null: no such row
    [[nodiscard]] const catalogue::PartType* chosen_type() const;    ///< null: none
    [[nodiscard]] const job::Part* chosen_part() const;              ///< of the hilt; null: none
    /// The blade that is chosen, or that a chosen strip or string is in; null: none.
    [[nodiscard]] const job::Blade* chosen_blade() const;
    [[nodiscard]] const hilt::NewPlace& place_of(const catalogue::PartType& type) const;
    QBoxLayout* row_;
    QPoint pressed_; ///< where a drag of a row would begin
    PartSearch* search_;
    Table* table_;
    DrawingView* drawing_;
    QLabel *chosen_, *said_;
    QPushButton *fit_, *into_, *lit_, *replace_, *again_, *remove_, *wire_;
    std::vector<const catalogue::PartType*> found_;
    mutable std::map<std::string, hilt::NewPlace> places_; ///< of the job as it stands
};

} // namespace conductus::app
