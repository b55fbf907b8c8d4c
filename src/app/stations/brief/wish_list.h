// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QCheckBox>

#include "app/shell/fields.h"
#include "app/shell/state_mark.h"
#include "app/stations/station_page.h"

namespace conductus::app {

/// One wish: ticked by hand, or by what it is linked to.
class WishRow : public QWidget {
    Q_OBJECT
public:
    WishRow(const PageContext& context, std::size_t index, QWidget* parent);
    void show_job();
    void show_state(const plan::WishState& state);

private:
    void fill_proofs();
    void link(int item);
    [[nodiscard]] std::string at(const char* key) const; ///< the place of one of its values
    PageContext context_;
    std::size_t index_;
    QCheckBox* done_;
    EntryField* text_;
    QComboBox* proof_;
    StateMark* state_;
};

class WishList : public StationPage {
    Q_OBJECT
public:
    WishList(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    Result<void> add(const QString& text);
    QVBoxLayout* rows_layout_;
    std::vector<WishRow*> rows_;
    QLabel* count_;
    EntryField* add_;
};

} // namespace conductus::app
