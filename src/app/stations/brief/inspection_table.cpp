// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/inspection_table.h"

#include <QHeaderView>
#include <QKeyEvent>

#include "app/shell/fields.h"
#include "core/base/format.h"
#include "core/job/edits.h"

namespace conductus::app {
namespace {

using job::Condition;
using job::Fate;

enum Column { name, found, reading, fate, columns };

QColor ink_of(Condition condition, const Inks& inks) {
    switch (condition) {
    case Condition::fine:
        return inks.fine;
    case Condition::worn:
        return inks.warn;
    case Condition::broken:
    case Condition::missing:
        return inks.stop;
    default:
        return inks.second;
    }
}

} // namespace

QString reading_text(const job::Inspected& item) {
    if (!item.reading) return {};
    const auto unit = job::word(item.unit);
    // Milliohms stay what they were read as.
    if (unit == "mOhm")
        return QString::fromStdString(three_figures(*item.reading)) + QString::fromUtf8("\u202fmΩ");
    return QString::fromStdString(with_unit(*item.reading, unit));
}

InspectionTable::InspectionTable(const Bench& bench, QWidget* parent)
    : QTableWidget(0, columns, parent), bench_(bench) {
    setObjectName("inspection");
    setAccessibleName(tr("Inspection"));
    setHorizontalHeaderLabels({tr("item"), tr("found"), tr("reading"), tr("then")});
    verticalHeader()->hide();
    horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    horizontalHeader()->setSectionResizeMode(name, QHeaderView::Stretch);
    horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    setShowGrid(false);
    keep_row_height(this, bench.appearance);
    setTabKeyNavigation(false);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setSelectionBehavior(QAbstractItemView::SelectRows);
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    setMinimumHeight(qRound(bench.appearance.text() * 17));
    connect(this, &QTableWidget::currentCellChanged, this, [this] {
        if (showing_) return;
        const int index = item_index();
        if (index < 0) return;
        const auto& item = bench_.session.job().inspection[static_cast<std::size_t>(index)];
        if (!item.part.empty()) bench_.selection.choose(QString::fromStdString(item.part));
        emit item_chosen(index);
    });
}

int InspectionTable::item_index() const {
    const int row = currentRow();
    return row >= 0 && row < static_cast<int>(index_.size()) ? index_[static_cast<std::size_t>(row)]
                                                             : -1;
}

void InspectionTable::show_items() {
    showing_ = true;
    const int was = item_index();
    const auto& items = bench_.session.job().inspection;
    const Inks& inks = bench_.appearance.inks();
    index_.clear();
    int current = -1;
    for (const auto& [area, word] : job::Words<job::Area>::table) {
        bool first = true;
        for (std::size_t i = 0; i < items.size(); ++i) {
            if (items[i].area != area) continue;
            if (first) index_.push_back(-1 - static_cast<int>(area));
            first = false;
            if (static_cast<int>(i) == was || (was < 0 && current < 0))
                current = static_cast<int>(index_.size());
            index_.push_back(static_cast<int>(i));
        }
    }
    clearSpans();
    setRowCount(static_cast<int>(index_.size()));
    for (int row = 0; row < rowCount(); ++row) {
        for (int column = 0; column < columns; ++column)
            if (!item(row, column)) setItem(row, column, new QTableWidgetItem);
        const int index = index_[static_cast<std::size_t>(row)];
        QFont font = page_font(bench_.appearance.text(), index < 0);
        for (int column = 0; column < columns; ++column) {
            item(row, column)->setText({});
            item(row, column)->setFont(font);
            item(row, column)
                ->setFlags(index < 0 ? Qt::NoItemFlags : Qt::ItemIsEnabled | Qt::ItemIsSelectable);
            item(row, column)->setForeground(inks.ink);
        }
        if (index < 0) {
            const auto area = static_cast<job::Area>(-1 - index);
            item(row, name)->setText(QString::fromUtf8(job::word(area).data()));
            setSpan(row, 0, 1, columns);
            continue;
        }
        const job::Inspected& i = items[static_cast<std::size_t>(index)];
        item(row, name)->setText("  " + QString::fromStdString(i.item));
        item(row, name)->setToolTip(
            QString::fromStdString(i.item + (i.note.empty() ? "" : "\n" + i.note)));
        item(row, found)->setText(QString::fromUtf8(job::word(i.condition).data()));
        item(row, found)->setForeground(ink_of(i.condition, inks));
        item(row, reading)->setText(reading_text(i));
        item(row, reading)->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        item(row, fate)->setText(
            i.fate == Fate::undecided ? QString() : QString::fromUtf8(job::word(i.fate).data()));
    }
    if (current >= 0) setCurrentCell(current, name);
    showing_ = false;
}

void InspectionTable::keyPressEvent(QKeyEvent* event) {
    const int index = item_index();
    const auto plain = event->modifiers() == Qt::NoModifier;
    if (index < 0 || !plain) return QTableWidget::keyPressEvent(event);
    job::Inspected next = bench_.session.job().inspection[static_cast<std::size_t>(index)];
    switch (event->key()) {
    case Qt::Key_F:
        next.condition = Condition::fine;
        break;
    case Qt::Key_W:
        next.condition = Condition::worn;
        break;
    case Qt::Key_B:
        next.condition = Condition::broken;
        break;
    case Qt::Key_M:
        next.condition = Condition::missing;
        break;
    case Qt::Key_U:
        next.condition = Condition::unknown;
        break;
    case Qt::Key_K:
        next.fate = next.fate == Fate::kept ? Fate::undecided : Fate::kept;
        break;
    case Qt::Key_R:
        next.fate = next.fate == Fate::replaced ? Fate::undecided : Fate::replaced;
        break;
    default:
        return QTableWidget::keyPressEvent(event);
    }
    const QString label = tr("Inspect %1").arg(QString::fromStdString(next.item));
    (void)bench_.session.edit(label, job::inspect(static_cast<std::size_t>(index), next));
}

} // namespace conductus::app
