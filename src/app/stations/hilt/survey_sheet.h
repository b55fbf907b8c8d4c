// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QBoxLayout>

#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"

class QPushButton;

namespace conductus::app {

/// Survey, parts and what goes in.
class SurveySheet : public StationPage {
    Q_OBJECT
public:
    SurveySheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    QBoxLayout* row_;
    PlanPtr plan_;
    Table *survey_, *parts_;
    DrawingView* cells_;
    QPushButton* begin_;
};

} // namespace conductus::app
