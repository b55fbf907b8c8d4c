// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"

namespace conductus::app {

/// Connector faces with what each pin carries.
class FacesView : public QWidget {
    Q_OBJECT
public:
    FacesView(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return {200, sizeHint().height()}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    PageContext context_;
    PlanPtr plan_;
};

/// The faces, and pins that were measured by themselves.
class FacesSheet : public StationPage {
    Q_OBJECT
public:
    FacesSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    FacesView* faces_;
    struct Pin {
        std::string ref, name; ///< "P1", "plus2"
        Ohm usual;
        std::optional<Ohm> measured;
    };
    Table* pins_;
    std::vector<Pin> pins_of_;
};

} // namespace conductus::app
