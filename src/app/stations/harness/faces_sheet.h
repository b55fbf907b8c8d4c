// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"

namespace conductus::app {

/// The faces, and pins that were measured by themselves.
class FacesSheet : public StationPage {
    Q_OBJECT
public:
    FacesSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    DrawingView* faces_;
    PlanPtr plan_;
    struct Pin {
        std::string ref, name; ///< "P1", "plus2"
        Ohm usual;
        std::optional<Ohm> measured;
    };
    Table* pins_;
    std::vector<Pin> pins_of_;
};

} // namespace conductus::app
