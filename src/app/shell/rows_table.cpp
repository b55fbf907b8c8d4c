// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/rows_table.h"

#include <QApplication>
#include <QClipboard>
#include <QHeaderView>
#include <QKeyEvent>

#include "app/shell/fields.h"

namespace conductus::app {

RowsTable::RowsTable(const QStringList& columns, int typed, const QString& object,
                     const QString& name, const Appearance& appearance, Commit commit,
                     QWidget* parent)
    : QTableWidget(1, static_cast<int>(columns.size()), parent), commit_(std::move(commit)),
      refusal_(label({}, "refused", parent)), typed_(typed) {
    setObjectName(object);
    setAccessibleName(name);
    refusal_->setObjectName(object + "Refusal");
    refusal_->setWordWrap(true);
    refusal_->hide();
    setHorizontalHeaderLabels(columns);
    verticalHeader()->hide();
    horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    horizontalHeader()->setSectionResizeMode(typed - 1, QHeaderView::Stretch);
    horizontalHeader()->setMinimumSectionSize(qRound(appearance.text() * 5));
    horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    setShowGrid(false);
    keep_row_height(this, appearance);
    setTabKeyNavigation(false);
    setSelectionMode(QAbstractItemView::ContiguousSelection);
    setEditTriggers(QAbstractItemView::AnyKeyPressed | QAbstractItemView::DoubleClicked |
                    QAbstractItemView::EditKeyPressed);
    connect(this, &QTableWidget::cellChanged, this, [this] {
        if (!showing_) this->commit(typed_rows());
    });
}

void RowsTable::commit(const Rows& rows) {
    const Result<void> ok = commit_(rows);
    refusal_->setVisible(!ok);
    refusal_->setText(ok ? QString() : QString::fromStdString(ok.error().text()));
    if (ok) emit taken();
}

void RowsTable::show_rows(const Rows& rows) {
    if (!refusal_->isHidden()) return;
    showing_ = true;
    setRowCount(static_cast<int>(rows.size()) + 1);
    for (int row = 0; row < rowCount(); ++row)
        for (int column = 0; column < columnCount(); ++column) {
            auto* cell = item(row, column);
            if (!cell) setItem(row, column, cell = new QTableWidgetItem);
            const bool last = row == rowCount() - 1;
            cell->setText(last ? QString() : rows[static_cast<std::size_t>(row)].value(column));
            cell->setToolTip(cell->text());
            if (column >= typed_) cell->setFlags(Qt::ItemIsSelectable | Qt::ItemIsEnabled);
        }
    showing_ = false;
}

RowsTable::Rows RowsTable::typed_rows() const {
    Rows rows;
    for (int row = 0; row < rowCount(); ++row) {
        QStringList cells;
        for (int column = 0; column < typed_; ++column)
            cells << (item(row, column) ? item(row, column)->text().trimmed() : QString());
        if (!cells.join(QString()).isEmpty()) rows.push_back(cells);
    }
    return rows;
}

void RowsTable::paste() {
    const QStringList lines =
        QApplication::clipboard()->text().split(QRegularExpression("\r?\n"), Qt::SkipEmptyParts);
    if (lines.isEmpty()) return;
    showing_ = true;
    const int top = std::max(0, currentRow()), left = std::max(0, currentColumn());
    for (int i = 0; i < lines.size(); ++i) {
        if (top + i >= rowCount()) setRowCount(top + i + 1);
        const QStringList cells = lines[i].split('\t');
        for (int k = 0; k < cells.size() && left + k < typed_; ++k) {
            auto* cell = item(top + i, left + k);
            if (!cell) setItem(top + i, left + k, cell = new QTableWidgetItem);
            cell->setText(cells[k]);
        }
    }
    showing_ = false;
    commit(typed_rows());
}

void RowsTable::copy() const {
    QStringList lines;
    for (const auto& range : selectedRanges())
        for (int row = range.topRow(); row <= range.bottomRow(); ++row) {
            QStringList cells;
            for (int column = range.leftColumn(); column <= range.rightColumn(); ++column)
                cells << (item(row, column) ? item(row, column)->text() : QString());
            lines << cells.join('\t');
        }
    QApplication::clipboard()->setText(lines.join('\n'));
}

void RowsTable::keyPressEvent(QKeyEvent* event) {
    if (event->matches(QKeySequence::Paste)) return paste();
    if (event->matches(QKeySequence::Copy)) return copy();
    if (event->key() == Qt::Key_Delete && event->modifiers() == Qt::NoModifier) {
        Rows rows = typed_rows();
        const auto row = static_cast<std::size_t>(std::max(0, currentRow()));
        if (row >= rows.size()) return;
        rows.erase(rows.begin() + static_cast<std::ptrdiff_t>(row));
        return commit(rows);
    }
    QTableWidget::keyPressEvent(event);
}

} // namespace conductus::app
