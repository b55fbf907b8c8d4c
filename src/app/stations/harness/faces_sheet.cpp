// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/harness/faces_sheet.h"

#include <QHeaderView>
#include <QLabel>
#include <QPainter>
#include <QScrollArea>
#include <QVBoxLayout>

#include "app/drawing/connectors_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/picture_menu.h"
#include "app/shell/row_reader.h"
#include "core/base/format.h"
#include "core/job/lookup.h"

namespace conductus::app {

FacesView::FacesView(const Bench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
    setObjectName("faces");
    setAccessibleName(tr("Connector faces"));
    offer_picture(this, bench.appearance);
    connect(&bench.selection, &Selection::changed, this, qOverload<>(&QWidget::update));
    connect(&bench.appearance, &Appearance::changed, this, [this] {
        updateGeometry();
        update();
    });
}

void FacesView::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    QStringList all;
    for (const harness::PinLoad& l : plan->harness.pins)
        all << tr("%1 %2: %3").arg(words(l.ref), words(l.pin), words(text(l.amps)));
    setAccessibleDescription(all.join(", "));
    updateGeometry();
    update();
}

QSize FacesView::sizeHint() const {
    const double text = bench_.appearance.text();
    return {qRound(text * 40), plan_ ? qRound(connectors_height(*plan_, text)) : qRound(text * 16)};
}

void FacesView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), bench_.appearance.inks().paper);
    if (plan_)
        paint_connectors(p, QRectF(rect()).adjusted(2, 2, -2, -2), *plan_, bench_.appearance.text(),
                         bench_.selection.options().chosen, bench_.appearance.inks());
}

FacesSheet::FacesSheet(const Bench& bench, QWidget* parent) : StationPage(bench, parent) {
    setObjectName("benchPage");
    auto [sheet, column] = paper(tr("Connector faces"), tr("in the worst look or effect"), this);
    faces_ = new FacesView(bench, sheet);
    auto* scroll = new QScrollArea(sheet);
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(faces_);
    column->addWidget(scroll, 1);
    auto [below, below_column] =
        paper(tr("Pins measured by themselves"), tr("the others as the catalogue says"), this);
    const QStringList columns{tr("connector"), tr("pin"), tr("mΩ")};
    pins_ = new RowsTable(
        columns, 3, "measuredPins", tr("Pins measured by themselves"), bench.appearance,
        [this, columns](const RowsTable::Rows& rows) -> Result<void> {
            struct Row {
                std::string ref;
                job::MeasuredPin pin;
            };
            std::vector<Row> read;
            if (auto ok =
                    read_rows(rows, columns, read,
                              [&](RowReader& r, std::size_t) {
                                  Row row;
                                  row.ref = r.words();
                                  row.pin.pin = r.words();
                                  row.pin.resistance = Ohm(r.number({0, 1e6}, "mΩ", 30) / 1e3);
                                  return row;
                              });
                !ok)
                return ok;
            for (const Row& row : read)
                if (!job::find_ref(bench_.session.job().parts, row.ref))
                    return problem(row.ref, "there is no such part",
                                   "Write the connector's reference, like P1");
            return bench_.session.edit(tr("Measured pins"), [&](job::Job& job) {
                for (job::Part& part : job.parts)
                    part.measured.pins.clear();
                for (const Row& row : read)
                    job::find_ref(job.parts, row.ref)->measured.pins.push_back(row.pin);
            });
        },
        below);
    connect(pins_, &RowsTable::taken, this, &FacesSheet::show_job);
    pins_->setToolTip(tr("P1 · plus2 · 80: spring pins that barely touch share unevenly"));
    below_column->addWidget(pins_, 1);
    below_column->addWidget(pins_->refusal());
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(8);
    all->addWidget(sheet, 5);
    all->addWidget(below, 2);
}

void FacesSheet::show_job() {
    RowsTable::Rows rows;
    for (const job::Part& part : bench_.session.job().parts)
        for (const job::MeasuredPin& pin : part.measured.pins)
            rows.push_back({words(part.ref), words(pin.pin),
                            QString::number(std::round(pin.resistance.value() * 1e5) / 100)});
    pins_->show_rows(rows);
}

void FacesSheet::show_plan(const PlanPtr& plan) { faces_->show_plan(plan); }

} // namespace conductus::app
