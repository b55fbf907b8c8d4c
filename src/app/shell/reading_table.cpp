// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/reading_table.h"

#include <QHeaderView>

#include "app/shell/fields.h"

namespace conductus::app {

QTableWidget* reading_table(const QStringList& columns, int wide, const QString& object,
                            const QString& name, const Appearance& appearance, QWidget* parent) {
    auto* t = new QTableWidget(0, static_cast<int>(columns.size()), parent);
    t->setObjectName(object);
    t->setAccessibleName(name);
    t->setHorizontalHeaderLabels(columns);
    t->verticalHeader()->hide();
    t->setShowGrid(false);
    t->setTabKeyNavigation(false);
    t->setSelectionMode(QAbstractItemView::SingleSelection);
    t->setSelectionBehavior(QAbstractItemView::SelectRows);
    t->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* header = t->horizontalHeader();
    header->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    header->setSectionResizeMode(wide < 0 ? QHeaderView::Stretch : QHeaderView::ResizeToContents);
    if (wide >= 0) header->setSectionResizeMode(wide, QHeaderView::Stretch);
    keep_row_height(t, appearance);
    return t;
}

QTableWidgetItem* set_cell(QTableWidget* table, int row, int column, const QString& text) {
    QTableWidgetItem* item = table->item(row, column);
    if (!item) table->setItem(row, column, item = new QTableWidgetItem);
    item->setText(text);
    item->setFlags(item->flags() & ~Qt::ItemIsEditable);
    return item;
}

} // namespace conductus::app
