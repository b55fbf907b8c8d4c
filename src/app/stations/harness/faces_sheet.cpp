// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/harness/faces_sheet.h"

#include <QHeaderView>
#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>
#include <fmt/format.h>

#include "app/drawing/connectors_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/base/format.h"
#include "core/job/places.h"

namespace conductus::app {

FacesSheet::FacesSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [sheet, column] = paper(tr("Connector faces"), tr("in the worst look or effect"), this);
    faces_ = new DrawingView(
        "faces", tr("Connector faces"), context.appearance,
        [this]() -> DrawingPtr {
            return plan_ ? connectors_drawing(plan_, context_.selection.options().chosen) : nullptr;
        },
        sheet);
    faces_->keep_height();
    connect(&context.selection, &Selection::changed, faces_, &DrawingView::redraw);
    auto* scroll = new QScrollArea(sheet);
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(faces_);
    column->addWidget(scroll, 1);
    auto [below, below_column] =
        paper(tr("Pins measured by themselves"), tr("the others as the catalogue says"), this);
    Column ohms = figures(tr("measured"), [this](int row) {
        const Pin& pin = pins_of_[static_cast<std::size_t>(row)];
        return pin.measured ? CellText(QString::number(pin.measured->value() * 1e3, 'g', 10))
                            : CellText(QString());
    });
    ohms.unit = tr("mΩ");
    ohms.edit = [this](int row, const std::string& typed) -> job::Edit {
        const Pin pin = pins_of_[static_cast<std::size_t>(row)];
        return job::measure_pin(pin.ref, pin.name, typed);
    };
    pins_ = new Table(
        {.object = "measuredPins",
         .name = tr("Pins measured by themselves"),
         .what = tr("Measure"),
         .columns = {reading(tr("connector"),
                             [this](int row) {
                                 return words(pins_of_[static_cast<std::size_t>(row)].ref);
                             }),
                     reading(tr("pin"),
                             [this](int row) {
                                 return words(pins_of_[static_cast<std::size_t>(row)].name);
                             }),
                     figures(tr("catalogue, mΩ"),
                             [this](int row) {
                                 const Pin& pin = pins_of_[static_cast<std::size_t>(row)];
                                 return CellText(QString::number(pin.usual.value() * 1e3, 'g', 4),
                                                 CellInk::second);
                             }),
                     ohms},
         .rows = {[this] { return static_cast<int>(pins_of_.size()); },
                  [this](int row) {
                      const Pin& pin = pins_of_[static_cast<std::size_t>(row)];
                      return words(pin.ref + "." + pin.name);
                  }},
         .main = true,
         .empty = tr("No connector is fitted."),
         .session = &context.session},
        context.appearance, below);
    pins_->setToolTip(tr("Spring pins that barely touch share unevenly: measure each alone"));
    below_column->addWidget(pins_, 1);
    below_column->addWidget(pins_->refusal());
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(8);
    all->addWidget(sheet, 5);
    all->addWidget(below, 2);
}

void FacesSheet::show_job() {
    pins_of_.clear();
    for (const job::Part& part : context_.session.job().parts) {
        const auto* c = context_.session.parts().find_as<catalogue::Connector>(part.type);
        if (!c) continue;
        const auto add = [&](const char* pole, int n) {
            for (int i = 1; i <= n; ++i) {
                Pin pin{part.ref,
                        fmt::format("{}{}", pole, i),
                        part.measured.resistance.value_or(c->pin_resistance),
                        {}};
                for (const job::MeasuredPin& measured : part.measured.pins)
                    if (measured.pin == pin.name) pin.measured = measured.resistance;
                pins_of_.push_back(std::move(pin));
            }
        };
        add("plus", c->plus_pins);
        add("minus", c->minus_pins);
    }
    pins_->refresh();
}

void FacesSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    faces_->redraw();
}

} // namespace conductus::app
