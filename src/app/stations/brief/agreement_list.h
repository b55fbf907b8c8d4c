// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPushButton>

#include "app/shell/fields.h"
#include "app/shell/state_mark.h"
#include "app/stations/station_page.h"

namespace conductus::app {

/// A must-have or trade-off: what it is about, what was promised, and whether that holds.
class AgreementRow : public QFrame {
    Q_OBJECT
public:
    AgreementRow(const PageContext& context, std::size_t index, QWidget* parent);
    void show_job();
    void show_plan(const PlanPtr& plan);

private:
    [[nodiscard]] const job::Agreement& agreement() const;
    [[nodiscard]] std::string at(const char* key) const; ///< the place of one of its values
    Result<void> promise(const QString& typed);
    void agree();
    PageContext context_;
    std::size_t index_;
    PlanPtr plan_;
    StateMark* state_;
    EntryField *text_, *value_;
    QComboBox *kind_, *bound_;
    QLabel *about_, *now_;
    QPushButton* agree_;
};

class AgreementList : public StationPage {
    Q_OBJECT
public:
    AgreementList(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    void add();
    QVBoxLayout* rows_layout_;
    std::vector<AgreementRow*> rows_;
    QLabel* count_;
    QComboBox* measure_;
};

} // namespace conductus::app
