// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/bench/probed_faces_view.h"

#include "app/drawing/connectors_drawing.h"

namespace conductus::app {

ProbedFacesView::ProbedFacesView(const char* object, const PageContext& context, QWidget* parent)
    : DrawingView(
          object, tr("Where the probes go on the connector"), context.appearance,
          [this, &selection = context.selection]() -> DrawingPtr {
              return plan_ ? probed_faces_drawing(plan_, selection.options().probes) : nullptr;
          },
          parent) {
    setFixedSize(qRound(lettering() * 14.5), qRound(lettering() * 7));
    hide();
    connect(&context.selection, &Selection::changed, this, &ProbedFacesView::follow);
}

void ProbedFacesView::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    follow();
}

void ProbedFacesView::follow() {
    if (!parentWidget()->isVisible()) return;
    redraw();
    setVisible(drawing() != nullptr);
}

} // namespace conductus::app
