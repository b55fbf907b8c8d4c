// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"

class QComboBox;
class QLabel;

namespace conductus::app {

/// What each effect does to each light: as usual, with the blade, in a way of its own, or not at
/// all; of strings which segments go dark and whether the flash row is lit.
class FollowSheet : public StationPage {
    Q_OBJECT
public:
    FollowSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    [[nodiscard]] const job::Effect* effect() const; ///< the chosen one; null: there is none
    [[nodiscard]] std::optional<std::size_t> own_of() const;
    [[nodiscard]] job::EffectLight follows(int row) const;
    [[nodiscard]] job::Edit write(job::EffectLight light) const;
    [[nodiscard]] bool is_string(int row) const;
    QComboBox* effect_;
    Table* lights_;
    QLabel* said_;
    std::vector<std::string> refs_;
};

} // namespace conductus::app
