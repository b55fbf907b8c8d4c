// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QComboBox>
#include <QLabel>
#include <QSlider>

#include "app/shell/drawing_view.h"
#include "app/shell/fields.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"

namespace conductus::app {

/// Slides a carrier along its way in, drawn in the long section above; beside it a slice.
class PassingSheet : public StationPage {
    Q_OBJECT
public:
    PassingSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

protected:
    void hideEvent(QHideEvent*) override;

private:
    void slide();
    void slice();
    [[nodiscard]] const hilt::Passing* chosen() const;
    PlanPtr plan_;
    QLabel *list_, *words_;
    Table* places_;
    QComboBox* carrier_;
    QSlider *way_, *at_;
    EntryField* at_field_;
    DrawingView* view_;
};

} // namespace conductus::app
