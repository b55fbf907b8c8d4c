// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/hilt/passing_sheet.h"

#include <QHBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/drawing/slice_drawing.h"
#include "app/session/words.h"
#include "core/base/format.h"
#include "core/base/parse.h"
#include "core/job/limits.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

constexpr int steps_per_mm = 2;

} // namespace

PassingSheet::PassingSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [left, left_column] =
        paper(tr("What passes"), tr("each as it goes in, in one piece"), this);
    list_ = label({}, "", left);
    list_->setObjectName("passes");
    list_->setTextFormat(Qt::RichText);
    list_->setWordWrap(true);
    left_column->addWidget(list_);
    left_column->addSpacing(8);
    auto* slide_row = new QHBoxLayout;
    slide_row->addWidget(label(tr("slide"), "second", left));
    carrier_ = new QComboBox(left);
    carrier_->setObjectName("slideCarrier");
    carrier_->setAccessibleName(tr("What is slid"));
    slide_row->addWidget(carrier_);
    way_ = new QSlider(Qt::Horizontal, left);
    way_->setObjectName("slideWay");
    way_->setAccessibleName(tr("How far it is in"));
    way_->setRange(0, 1);
    way_->setValue(1); // in its place
    slide_row->addWidget(way_, 1);
    left_column->addLayout(slide_row);
    words_ = label({}, "second", left);
    words_->setObjectName("slideWords");
    words_->setWordWrap(true);
    left_column->addWidget(words_);
    left_column->addSpacing(6);
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Where each part lies"), "heading", left));
    head->addStretch();
    head->addWidget(label(tr("mm from the pommel, up, to the side; degrees"), "second", left));
    left_column->addLayout(head);
    Session& session = context.session;
    Column ref = value_column(session, tr("part"), "/parts", "ref");
    ref.edit = {}; // its place is typed here, not its name
    TableRows fitted = list_rows(session, "/parts", "ref");
    fitted.add = {};
    fitted.take_out = {};
    places_ = new Table({.object = "places",
                         .name = tr("Where each part lies"),
                         .what = tr("Place"),
                         .columns = {ref, value_column(session, tr("starts at"), "/parts", "at_mm"),
                                     value_column(session, tr("up"), "/parts", "off_axis_mm"),
                                     value_column(session, tr("side"), "/parts", "side_mm"),
                                     value_column(session, tr("turn"), "/parts", "turn_deg")},
                         .rows = std::move(fitted),
                         .main = true,
                         .empty = tr("Nothing is fitted yet."),
                         .session = &session},
                        context.appearance, left);
    connect(places_, &Table::row_chosen, this,
            [this](int row) { context_.selection.choose(places_->rows().row_name(row)); });
    left_column->addWidget(places_, 1);
    left_column->addWidget(places_->refusal());

    auto [right, right_column] = paper(tr("Slice"), tr("to scale, seen from the pommel"), this);
    view_ = new DrawingView(
        "slice", tr("Slice across the hilt"), context.appearance,
        [this]() -> DrawingPtr {
            if (!plan_) return nullptr;
            return slice_drawing(plan_,
                                 Millimetre(static_cast<double>(at_->value()) / steps_per_mm));
        },
        right);
    view_->setMinimumHeight(qRound(context.appearance.text() * 17));
    right_column->addWidget(view_, 1);
    auto* at_row = new QHBoxLayout;
    at_row->addWidget(label(tr("at"), "second", right));
    at_ = new QSlider(Qt::Horizontal, right);
    at_->setObjectName("sliceAt");
    at_->setAccessibleName(tr("Place of the slice"));
    at_row->addWidget(at_, 1);
    at_field_ = new EntryField(
        tr("Place of the slice"),
        [this](const QString& typed) -> Result<void> {
            const auto v = parse_length(typed.toStdString());
            if (!v) return tl::unexpected(v.error());
            if (v->value() < 0 || v->value() * steps_per_mm > at_->maximum())
                return problem("", "this is not on the hilt", "Write a place along it");
            at_->setValue(qRound(v->value() * steps_per_mm));
            return {};
        },
        right);
    at_field_->line()->setObjectName("sliceField");
    keep_width(at_field_, context.appearance, 5);
    at_row->addWidget(at_field_);
    at_row->addWidget(label(tr("mm"), "second", right));
    right_column->addLayout(at_row);

    auto* both = new QHBoxLayout(this);
    both->setContentsMargins(0, 0, 0, 0);
    both->setSpacing(10);
    both->addWidget(left, 11);
    both->addWidget(right, 9);
    connect(carrier_, &QComboBox::activated, this, [this] {
        way_->setValue(way_->maximum());
        slide();
    });
    connect(way_, &QSlider::valueChanged, this, &PassingSheet::slide);
    connect(at_, &QSlider::valueChanged, this, &PassingSheet::slice);
    show_job();
}

void PassingSheet::show_job() { places_->refresh(); }

const hilt::Passing* PassingSheet::chosen() const {
    if (!plan_) return nullptr;
    for (const hilt::Passing& p : plan_->fit.passes)
        if (words(p.carrier) == carrier_->currentText()) return &p;
    return nullptr;
}

void PassingSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    QStringList names, lines;
    const Inks& inks = context_.appearance.inks();
    for (const hilt::Passing& p : plan->fit.passes) {
        names << words(p.carrier);
        const QString way =
            p.from_pommel ? tr("from the pommel side") : tr("from the emitter side");
        const QString says =
            !p.reason.empty() ? words(p.reason)
            : p.ok            ? tr("%1, %2 to spare at %3 in %4")
                         .arg(way, words(p.room), words(p.at), words(p.section))
                   : tr("%1, binds by %2 at %3 in %4: %5")
                         .arg(way, words(-p.room), words(p.at), words(p.section), words(p.part));
        const QString mark =
            p.ok ? QString("<span style='color:%1'>&#10003; %2</span>")
                       .arg(inks.fine.name(), tr("passes"))
                 : QString("<span style='color:%1'>&#9632; %2</span>")
                       .arg(inks.stop.name(), p.reason.empty() ? tr("binds") : tr("no way"));
        lines << QString("<p style='margin:3px 0'><b>%1</b>&nbsp; %2&nbsp; %3</p>")
                     .arg(words(p.carrier).toHtmlEscaped(), mark, says.toHtmlEscaped());
    }
    list_->setText(lines.isEmpty() ? tr("Survey the hilt and fit parts first.") : lines.join(""));
    QStringList shown;
    for (int i = 0; i < carrier_->count(); ++i)
        shown << carrier_->itemText(i);
    if (names != shown) {
        carrier_->clear();
        carrier_->addItems(names);
    }
    const double end =
        plan->job->hilt.sections.empty() ? 0 : plan->job->hilt.sections.back().to.value();
    at_->setMaximum(static_cast<int>(end * steps_per_mm));
    at_->setSingleStep(1);
    at_->setPageStep(10 * steps_per_mm);
    if (const auto* tightest = plan->fit.tightest(); tightest && at_->value() == 0)
        at_->setValue(qRound((tightest->at.value() + 0.5) * steps_per_mm));
    slide();
    slice();
}

void PassingSheet::slide() {
    const hilt::Passing* p = chosen();
    const bool can = p && p->reason.empty();
    way_->setEnabled(can);
    words_->clear();
    if (!can) return context_.selection.slide({}, 0);
    const int most = std::max(1, static_cast<int>(p->way().value() * steps_per_mm));
    const bool was_home = way_->value() >= way_->maximum();
    const QSignalBlocker quiet(way_);
    way_->setMaximum(most);
    way_->setPageStep(10 * steps_per_mm);
    if (was_home) way_->setValue(most);
    const double to_go = static_cast<double>(most - way_->value()) / steps_per_mm;
    for (const hilt::Rider& rider : hilt::riders(plan_->job->hilt, plan_->fit.bodies)) {
        if (rider.ref != p->carrier) continue;
        const Millimetre room =
            hilt::room_at(plan_->job->hilt, plan_->fit.bodies, rider, *p, Millimetre(to_go));
        const QString where = to_go > 0 ? tr("%1 before its place").arg(words(Millimetre(to_go)))
                                        : tr("in its place");
        words_->setText(!std::isfinite(room.value()) ? tr("%1: outside").arg(where)
                        : room < Millimetre(0)
                            ? tr("%1: it does not go further than where it binds, by %2")
                                  .arg(where, words(-room))
                            : tr("%1: %2 to spare there").arg(where, words(room)));
    }
    if (isVisible())
        context_.selection.slide(to_go > 0 ? carrier_->currentText() : QString(), to_go);
}

void PassingSheet::slice() {
    if (!plan_) return;
    const double at = static_cast<double>(at_->value()) / steps_per_mm;
    at_field_->show_value(QString::number(at));
    view_->redraw();
}

void PassingSheet::hideEvent(QHideEvent* event) {
    StationPage::hideEvent(event);
    context_.selection.slide({}, 0);
}

} // namespace conductus::app
