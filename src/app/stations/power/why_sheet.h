// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"
#include "app/table/explained_table.h"

class QComboBox;
class QLabel;

namespace conductus::app {

using WhyPtr = plan::AnswerPtr<plan::WhyOf>;

/// A figure opened: its parts with formula and sources, and what would change it most.
class WhySheet : public StationPage {
    Q_OBJECT
public:
    WhySheet(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

private:
    void ask();
    void show_why(const WhyPtr& why);
    QComboBox* figure_;
    QLabel *title_, *formula_;
    ExplainedTable* parts_;
    DrawingView* tenths_;
    WhyPtr why_;
    PlanPtr plan_;
};

} // namespace conductus::app
