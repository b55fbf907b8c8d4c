// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/harness/sizing_sheet.h"

#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/reading_table.h"
#include "core/base/format.h"
#include "core/base/parse.h"

namespace conductus::app {

SizingSheet::SizingSheet(const Bench& bench, QWidget* parent) : StationPage(bench, parent) {
    setObjectName("benchPage");
    auto [sheet, column] =
        paper(tr("Gauges"), tr("least copper that loses no more than is allowed"), this);
    field_ = new Field(
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
    keep_width(field_, bench.appearance, 10);
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
    top->addWidget(said_, 1);
    top->addWidget(make_);
    table_ = reading_table({tr("wire"), tr("from"), tr("to"), tr("now"), tr("wanted"), tr("amps"),
                            tr("lost, as wanted"), tr("alone it wants")},
                           1, "gaugesTable", tr("Gauges wanted"), bench.appearance, sheet);
    column->addLayout(top);
    column->addWidget(table_, 1);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);
    connect(make_, &QPushButton::clicked, this, [this] {
        if (sized_) (void)bench_.session.edit(tr("Gauges for %1 mV").arg(budget_), sized_->edit);
    });
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int row, int, int, int) {
        if (row >= 0 && table_->item(row, 0)) bench_.selection.choose(table_->item(row, 0)->text());
    });
}

void SizingSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    field_->show_value(QString::number(budget_));
    work();
}

void SizingSheet::work() {
    if (!plan_) return;
    sized_ = plan::size_wires(*plan_, Volt(budget_ / 1e3));
    const QSignalBlocker quiet(table_);
    if (!sized_) {
        said_->setText(words(sized_.error().text()));
        table_->setRowCount(0);
        make_->setEnabled(false);
        return;
    }
    bool same = true;
    table_->setRowCount(static_cast<int>(sized_->wires.size()));
    for (int row = 0; row < table_->rowCount(); ++row) {
        const plan::SizedWire& w = sized_->wires[static_cast<std::size_t>(row)];
        const harness::WireRow* now = plan_->harness.wire(w.ref);
        same = same && w.now == w.wanted;
        set_cell(table_, row, 0, words(w.ref));
        set_cell(table_, row, 1, now ? words(now->from) : QString());
        set_cell(table_, row, 2, now ? words(now->to) : QString());
        set_cell(table_, row, 3, tr("%1 AWG").arg(w.now));
        auto* wanted = set_cell(table_, row, 4,
                                w.wanted == w.now  ? tr("%1 AWG").arg(w.wanted)
                                : w.wanted < w.now ? tr("%1 AWG, thicker").arg(w.wanted)
                                                   : tr("%1 AWG, finer").arg(w.wanted));
        wanted->setForeground(w.wanted == w.now ? bench_.appearance.inks().ink
                                                : bench_.appearance.inks().petrol);
        set_cell(table_, row, 5, words(text(w.amps)));
        set_cell(table_, row, 6, words(text(w.drop)));
        set_cell(table_, row, 7, now ? tr("%1 AWG").arg(now->gauge_wanted) : QString());
        for (const int c : {3, 5, 6, 7})
            table_->item(row, c)->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    }
    said_->setText(
        (sized_->reached ? QString() : tr("Not reached: even the thickest lose more. ")) +
        tr("%1 now, %2 as wanted, in %3; copper %4 mm³, now %5 mm³.")
            .arg(words(text(sized_->now)), words(text(sized_->drop)), words(sized_->state))
            .arg(sized_->copper, 0, 'f', 0)
            .arg(sized_->copper_now, 0, 'f', 0));
    make_->setEnabled(!same);
}

} // namespace conductus::app
