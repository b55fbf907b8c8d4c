// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>

#include "app/stations/station_page.h"
#include "app/table/table.h"

class QComboBox;
class QLabel;
class QVBoxLayout;

namespace conductus::app {

/// Pad to lights as soldered, beside what the board is set to; where they disagree, both ways to
/// mend it.
class DataSheet : public StationPage {
    Q_OBJECT
public:
    DataSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    static QStringList lights_of(const harness::DataLine& line);
    void show_mismatches();
    [[nodiscard]] QStringList pads_beginning(const char* letter) const;
    Table *wired_, *lines_, *buttons_;
    std::vector<std::array<CellText, 4>> wired_rows_;
    QComboBox* mode_;
    QComboBox* blade_out_; ///< what the board does without a blade
    QComboBox* sense_pad_;
    QWidget* mismatches_;
    PlanPtr plan_;
};

} // namespace conductus::app
