// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/harness/sizing_sheet.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/base/format.h"
#include "core/base/parse.h"

namespace conductus::app {

SizingSheet::SizingSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [sheet, column] =
        paper(tr("Gauges"), tr("least copper that loses no more than is allowed"), this);
    field_ = new EntryField(
        tr("All wires together may lose, mV"),
        [this](const QString& typed) -> Result<void> {
            const auto v = parse_number(typed.toStdString(), "mV");
            if (!v) return tl::unexpected(v.error());
            if (!(*v > 0) || *v > 2000)
                return problem("", "this is out of range", "It lies between 1 and 2000 mV");
            budget_ = *v;
            work();
            return {};
        },
        sheet);
    field_->line()->setObjectName("wireBudget");
    keep_width(field_, context.appearance, 10);
    make_ = new QPushButton(tr("Make them so"), sheet);
    make_->setObjectName("takeGauges");
    said_ = label({}, "second", sheet);
    said_->setObjectName("gaugesSaid");
    said_->setWordWrap(true);
    auto* top = new QHBoxLayout;
    top->setSpacing(8);
    top->addWidget(label(tr("all wires together may lose"), "second", sheet));
    top->addWidget(field_);
    top->addWidget(label(tr("mV"), "second", sheet));
    top->addStretch();
    top->addWidget(make_);
    const auto sized = [this](int row) -> const plan::SizedWire& {
        return sized_->wires[static_cast<std::size_t>(row)];
    };
    const auto wire = [this, sized](int row) { return plan_->harness.wire(sized(row).ref); };
    const auto awg = [](int gauge) { return tr("%1 AWG").arg(gauge); };
    table_ = new Table(
        {.object = "gaugesTable",
         .name = tr("Gauges wanted"),
         .columns =
             {reading(tr("wire"), [sized](int row) { return words(sized(row).ref); }),
              reading(tr("from"),
                      [wire](int row) { return wire(row) ? words(wire(row)->from) : QString(); }),
              reading(tr("to"),
                      [wire](int row) { return wire(row) ? words(wire(row)->to) : QString(); }),
              figures(tr("now"), [=](int row) { return awg(sized(row).now); }),
              reading(tr("wanted"),
                      [=](int row) {
                          const int now = sized(row).now, wanted = sized(row).wanted;
                          if (now == wanted) return CellText(awg(wanted));
                          return CellText(
                              (wanted < now ? tr("%1, thicker") : tr("%1, finer")).arg(awg(wanted)),
                              CellInk::petrol);
                      }),
              figures(tr("amps, as wanted"),
                      [sized](int row) { return words(text(sized(row).amps)); }),
              figures(tr("lost, as wanted"),
                      [sized](int row) { return words(text(sized(row).drop)); }),
              figures(
                  tr("alone it wants"),
                  [=](int row) { return wire(row) ? awg(wire(row)->gauge_wanted) : QString(); })},
         .rows = {[this] { return sized_ ? static_cast<int>(sized_->wires.size()) : 0; },
                  [sized](int row) { return words(sized(row).ref); }},
         .wide = 1,
         .sortable = true,
         .main = true,
         .empty = tr("Nothing is wired yet.")},
        context.appearance, sheet);
    column->addLayout(top);
    column->addWidget(table_, 1);
    column->addWidget(said_);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);
    connect(make_, &QPushButton::clicked, this, [this] {
        if (sized_) context_.session.change(tr("Gauges for %1 mV").arg(budget_), sized_->edit);
    });
    connect(table_, &Table::row_chosen, this,
            [this, sized](int row) { context_.selection.choose(words(sized(row).ref)); });
}

void SizingSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    field_->show_value(QString::number(budget_));
    work();
}

void SizingSheet::work() {
    if (!plan_) return;
    make_->setEnabled(false); // until it is worked out
    context_.session.ask(plan::GaugesUnder{Volt(budget_ / 1e3)}, this,
                         [this](const plan::AnswerPtr<plan::GaugesUnder>& sized) {
                             sized_ = *sized;
                             show_sized();
                         });
}

void SizingSheet::show_sized() {
    table_->refresh();
    if (!sized_) {
        said_->setText(words(sized_.error()));
        make_->setEnabled(false);
        return;
    }
    const bool same = std::all_of(sized_->wires.begin(), sized_->wires.end(),
                                  [](const plan::SizedWire& w) { return w.now == w.wanted; });
    said_->setText(
        (sized_->reached ? QString() : tr("Not reached: even the thickest lose more. ")) +
        tr("%1 now, %2 as wanted, in %3; copper %4 mm³, now %5 mm³.")
            .arg(words(text(sized_->now)), words(text(sized_->drop)), words(sized_->state))
            .arg(sized_->copper, 0, 'f', 0)
            .arg(sized_->copper_now, 0, 'f', 0));
    make_->setEnabled(!same);
}

} // namespace conductus::app
