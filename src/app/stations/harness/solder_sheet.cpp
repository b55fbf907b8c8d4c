// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/harness/solder_sheet.h"

#include <QHeaderView>
#include <QLabel>
#include <QVBoxLayout>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/reading_table.h"
#include "core/base/format.h"

namespace conductus::app {

SolderSheet::SolderSheet(const Bench& bench, QWidget* parent) : StationPage(bench, parent) {
    setObjectName("benchPage");
    auto [sheet, column] =
        paper(tr("Soldering order"), tr("what is reachable when; tick what is done"), this);
    said_ = label({}, "second", sheet);
    said_->setObjectName("solderSaid");
    said_->setWordWrap(true);
    table_ = reading_table(
        {tr("done"), tr("wire"), tr("from"), tr("to"), tr("cut to"), tr("where"), tr("why")}, 6,
        "solderOrder", tr("Soldering order"), bench.appearance, sheet);
    auto* caution = label(tr("Fumes and a hot iron: air the room, protect your eyes, and never "
                             "solder onto a cell."),
                          "second", sheet);
    caution->setWordWrap(true);
    column->addWidget(said_);
    column->addWidget(table_, 1);
    column->addWidget(caution);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);
    connect(table_, &QTableWidget::itemChanged, this, [this](QTableWidgetItem* item) {
        if (item->column() != 0) return;
        const std::string wire = table_->item(item->row(), 1)->text().toStdString();
        const bool done = item->checkState() == Qt::Checked;
        (void)bench_.session.edit(
            done ? tr("%1 is soldered").arg(words(wire))
                 : tr("%1 is not soldered").arg(words(wire)),
            [&](job::Job& job) {
                std::erase_if(job.soldered, [&](const job::Soldered& s) { return s.wire == wire; });
                if (done) job.soldered.push_back({wire});
            });
    });
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int row, int, int, int) {
        if (row >= 0 && table_->item(row, 1)) bench_.selection.choose(table_->item(row, 1)->text());
    });
}

void SolderSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    const auto steps = harness::solder_order(*plan->job, *plan->parts, plan->harness);
    const QSignalBlocker quiet(table_);
    table_->setRowCount(static_cast<int>(steps.size()));
    int done = 0;
    for (int row = 0; row < table_->rowCount(); ++row) {
        const harness::SolderStep& s = steps[static_cast<std::size_t>(row)];
        const harness::WireRow& w = *plan->harness.wire(s.wire);
        done += s.done;
        auto* tick = set_cell(table_, row, 0, {});
        tick->setFlags(tick->flags() | Qt::ItemIsUserCheckable);
        tick->setCheckState(s.done ? Qt::Checked : Qt::Unchecked);
        set_cell(table_, row, 1, words(s.wire));
        set_cell(table_, row, 2, words(w.from));
        set_cell(table_, row, 3, words(w.to));
        set_cell(table_, row, 4, words(text(w.length)))
            ->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        set_cell(table_, row, 5, words(s.where));
        QStringList why{words(s.why)};
        for (const std::string& advice : w.advice)
            why << words(advice);
        set_cell(table_, row, 6, why.join("; "))->setToolTip(why.join("\n"));
    }
    said_->setText(steps.empty() ? tr("Nothing is wired yet.")
                                 : tr("%1 of %2 soldered.").arg(done).arg(steps.size()));
}

} // namespace conductus::app
