// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"

namespace conductus::app {

/// The faces of the connector that a probe is on, as small as they can be read; not there while
/// neither is on one.
class ProbedFacesView : public DrawingView {
    Q_OBJECT
public:
    ProbedFacesView(const char* object, const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan);

private:
    void follow();
    PlanPtr plan_;
};

} // namespace conductus::app
