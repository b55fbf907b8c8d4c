// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/hilt/parts_table.h"

#include <QComboBox>
#include <QHeaderView>

#include "app/shell/fields.h"
#include "core/base/format.h"
#include "core/base/parse.h"
#include "core/job/limits.h"
#include "core/job/lookup.h"

namespace conductus::app {

PartsTable::PartsTable(const Bench& bench, QWidget* parent)
    : QTableWidget(0, 4, parent), bench_(bench) {
    setObjectName("parts");
    setAccessibleName(tr("Parts in the hilt"));
    setHorizontalHeaderLabels({tr("part"), tr("what"), tr("starts at"), tr("spare")});
    verticalHeader()->hide();
    horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    horizontalHeader()->setSectionResizeMode(1, QHeaderView::Stretch);
    horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    setShowGrid(false);
    keep_row_height(this, bench.appearance);
    setTabKeyNavigation(false);
    setSelectionMode(QAbstractItemView::SingleSelection);
    connect(this, &QTableWidget::cellChanged, this, [this](int row, int column) {
        if (!showing_ && column == 2) take_place(row);
    });
    connect(this, &QTableWidget::currentCellChanged, this, [this](int row, int, int, int) {
        if (!showing_ && row >= 0 && item(row, 0)) bench_.selection.choose(item(row, 0)->text());
    });
}

void PartsTable::show_parts() {
    showing_ = true;
    const job::Job& job = bench_.session.job();
    const catalogue::Catalogue& parts = bench_.session.parts();
    setRowCount(static_cast<int>(job.parts.size()));
    for (int row = 0; row < rowCount(); ++row) {
        const job::Part& part = job.parts[static_cast<std::size_t>(row)];
        const QString ref = QString::fromStdString(part.ref);
        for (int column : {0, 2, 3})
            if (!item(row, column)) setItem(row, column, new QTableWidgetItem);
        item(row, 0)->setText(ref);
        item(row, 0)->setFlags(Qt::ItemIsSelectable | Qt::ItemIsEnabled);
        const auto refused = refused_.find(part.ref);
        const bool bad = refused != refused_.end();
        item(row, 2)->setText(bad ? refused->second : QString::number(part.at.value()));
        item(row, 2)->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        item(row, 2)->setBackground(bad ? QBrush(bench_.appearance.inks().dim) : QBrush());
        if (!bad) item(row, 2)->setToolTip(tr("Millimetres from the pommel end"));
        item(row, 3)->setFlags(Qt::ItemIsSelectable | Qt::ItemIsEnabled);
        item(row, 3)->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);

        auto* types = qobject_cast<QComboBox*>(cellWidget(row, 1));
        if (!types || types->property("ref") != ref) {
            types = new QComboBox;
            types->setProperty("ref", ref);
            types->setObjectName("type:" + ref);
            types->setAccessibleName(tr("Type of %1").arg(ref));
            types->setProperty("role", "cell");
            types->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
            types->setMinimumContentsLength(10);
            const std::size_t kind = parts.find(part.type)->figures.index();
            for (const std::string& id : parts.ids())
                if (parts.find(id)->figures.index() == kind)
                    types->addItem(QString::fromStdString(parts.find(id)->name),
                                   QString::fromStdString(id));
            connect(types, &QComboBox::activated, this, [this, types, ref](int i) {
                fit_type(ref.toStdString(), types->itemData(i).toString().toStdString());
            });
            setCellWidget(row, 1, types);
        }
        types->setCurrentIndex(types->findData(QString::fromStdString(part.type)));
        types->setToolTip(types->currentText());
    }
    showing_ = false;
}

void PartsTable::show_plan(const PlanPtr& plan) {
    showing_ = true;
    for (int row = 0; row < rowCount(); ++row) {
        const auto* c = plan->fit.of(item(row, 0)->text().toStdString());
        item(row, 3)->setText(c ? QString::fromStdString(text(c->spare)) : tr("in the wall"));
        const bool bad = c && c->spare < Millimetre(0);
        item(row, 3)->setForeground(bad ? bench_.appearance.inks().stop
                                        : bench_.appearance.inks().ink);
        item(row, 3)->setToolTip(
            c ? tr("in %1 at %2")
                    .arg(QString::fromStdString(c->against), QString::fromStdString(text(c->at)))
              : QString());
    }
    showing_ = false;
}

void PartsTable::fit_type(const std::string& ref, const std::string& type) {
    const QString name = QString::fromStdString(bench_.session.parts().find(type)->name);
    job::Edit edit = job::fit_type(ref, type);
    // A cell is moved to where it fits best, if the plan knows.
    if (const PlanPtr plan = bench_.session.plan())
        for (const auto& option : plan->options)
            if (option.type == type) {
                const auto cell =
                    job::first_of<catalogue::Cell>(bench_.session.job(), bench_.session.parts());
                if (cell && cell.part->ref == ref)
                    edit = plan::fit_option(bench_.session.parts(), option);
            }
    (void)bench_.session.edit(tr("Fit %1 as %2").arg(name, QString::fromStdString(ref)), edit);
}

void PartsTable::take_place(int row) {
    const std::string ref = item(row, 0)->text().toStdString();
    const auto at = parse_length(item(row, 2)->text().toStdString());
    if (!at || !job::limits::place_mm.holds(at->value())) {
        refused_[ref] = item(row, 2)->text();
        const Problem p =
            at ? Problem{"", "this is not on the hilt", "Write 0 to 2000 mm"} : at.error();
        show_parts();
        item(row, 2)->setToolTip(QString::fromStdString(p.text()));
        return;
    }
    refused_.erase(ref);
    (void)bench_.session.edit(tr("Move %1").arg(QString::fromStdString(ref)),
                              [&](job::Job& job) { job::find_ref(job.parts, ref)->at = *at; });
    show_parts();
}

} // namespace conductus::app
