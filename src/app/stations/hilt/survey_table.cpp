// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/hilt/survey_table.h"

#include <QApplication>
#include <QClipboard>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QRegularExpression>

#include "app/shell/fields.h"
#include "core/base/parse.h"
#include "core/job/edits.h"
#include "core/job/limits.h"

namespace conductus::app {
namespace {

/// "28.4", or "28.4 > 27" for a taper.
QString diameters(Millimetre near, const std::optional<Millimetre>& far) {
    const QString text = QString::number(near.value());
    return far ? text + " > " + QString::number(far->value()) : text;
}

} // namespace

SurveyTable::SurveyTable(const Bench& bench, QLabel* refusal, QWidget* parent)
    : QTableWidget(0, 5, parent), bench_(bench), refusal_(refusal) {
    setObjectName("survey");
    setAccessibleName(tr("Survey: caliper readings"));
    setHorizontalHeaderLabels({tr("section"), tr("from"), tr("to"), tr("bore ø"), tr("outer ø")});
    verticalHeader()->hide();
    horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    horizontalHeader()->setDefaultAlignment(Qt::AlignRight | Qt::AlignVCenter);
    horizontalHeaderItem(name)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    setShowGrid(false);
    keep_row_height(this, bench.appearance);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setTabKeyNavigation(false);
    setEditTriggers(QAbstractItemView::AnyKeyPressed | QAbstractItemView::DoubleClicked |
                    QAbstractItemView::EditKeyPressed);
    refusal_->setWordWrap(true);
    refusal_->hide();
    connect(this, &QTableWidget::cellChanged, this, [this](int row, int column) {
        if (!showing_) take(row, column);
    });
}

void SurveyTable::show_sections() {
    showing_ = true;
    const auto& sections = bench_.session.job().hilt.sections;
    const Inks& inks = bench_.appearance.inks();
    setRowCount(static_cast<int>(sections.size()));
    for (int row = 0; row < rowCount(); ++row) {
        const job::Section& s = sections[static_cast<std::size_t>(row)];
        const QString texts[] = {QString::fromStdString(s.name), QString::number(s.from.value()),
                                 QString::number(s.to.value()), diameters(s.bore, s.bore_end),
                                 diameters(s.outer, s.outer_end)};
        for (int column = 0; column < 5; ++column) {
            auto* cell = item(row, column);
            if (!cell) setItem(row, column, cell = new QTableWidgetItem);
            const auto refused = refused_.find({row, column});
            const bool bad = refused != refused_.end();
            cell->setText(bad ? refused->second.first : texts[column]);
            cell->setToolTip(bad ? QString::fromStdString(refused->second.second.text())
                             : column >= bore ? tr("wall %1 mm").arg((s.outer - s.bore).value() / 2)
                                              : QString());
            cell->setBackground(bad ? QBrush(inks.dim) : QBrush());
            if (column > 0) cell->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            // The first section starts at the pommel end.
            if (row == 0 && column == from)
                cell->setFlags(Qt::ItemIsSelectable | Qt::ItemIsEnabled);
        }
    }
    refusal_->setVisible(!refused_.empty());
    if (!refused_.empty()) {
        const auto& [at, what] = *refused_.begin();
        refusal_->setText(tr("%1, %2: %3")
                              .arg(item(at.first, name) ? item(at.first, name)->text() : QString(),
                                   horizontalHeaderItem(at.second)->text(),
                                   QString::fromStdString(what.second.text())));
    }
    showing_ = false;
}

void SurveyTable::take(int row, int column) {
    const QString text = item(row, column)->text();
    const auto ok = apply(static_cast<std::size_t>(row), column, text);
    if (ok) {
        refused_.erase({row, column});
    } else {
        Problem problem = ok.error();
        problem.where.clear();
        refused_[{row, column}] = {text, problem};
    }
    show_sections();
}

Result<void> SurveyTable::apply(std::size_t row, int column, const QString& text) {
    const std::string was = bench_.session.job().hilt.sections[row].name;
    if (column == name)
        return bench_.session.edit(tr("Name the section %1").arg(text), [&](job::Job& job) {
            job.hilt.sections[row].name = text.trimmed().toStdString();
        });
    const auto range = column <= to ? job::limits::place_mm : job::limits::diameter_mm;
    const auto read = [&](const QString& typed) -> Result<Millimetre> {
        const auto length = parse_length(typed.toStdString());
        if (!length || range.holds(length->value())) return length;
        return problem(
            "", "this is out of range",
            QString("It lies between %1 and %2 mm").arg(range.least).arg(range.most).toStdString());
    };
    // A taper: the diameter at its start and at its end.
    const qsizetype mark = column >= bore ? text.indexOf('>') : -1;
    const auto length = read(mark < 0 ? text : text.left(mark));
    if (!length) return tl::unexpected(length.error());
    std::optional<Millimetre> far;
    if (mark >= 0) {
        const auto end = read(text.mid(mark + 1));
        if (!end) return tl::unexpected(end.error());
        if (*end != *length) far = *end;
    }
    const QString what = QString::fromStdString(was) + " " + horizontalHeaderItem(column)->text();
    return bench_.session.edit(tr("Measure %1").arg(what), [&](job::Job& job) {
        job::Section& s = job.hilt.sections[row];
        if (column == from) job::move_boundary(job.hilt, row - 1, *length);
        if (column == to) job::move_boundary(job.hilt, row, *length);
        if (column == bore) s.bore = *length, s.bore_end = far;
        if (column == outer) s.outer = *length, s.outer_end = far;
    });
}

void SurveyTable::add_row() {
    (void)bench_.session.edit(tr("Add a section"),
                              [](job::Job& job) { job::add_section(job.hilt); });
    setCurrentCell(rowCount() - 1, name);
    setFocus();
}

void SurveyTable::remove_row() {
    const int row = currentRow();
    if (row < 0) return;
    refused_.clear(); // rows move up; what was refused belonged to other rows
    (void)bench_.session.edit(
        tr("Remove the section %1").arg(item(row, name)->text()),
        [row](job::Job& job) { job::remove_section(job.hilt, static_cast<std::size_t>(row)); });
}

void SurveyTable::paste() {
    const QStringList lines =
        QApplication::clipboard()->text().split(QRegularExpression("\r?\n"), Qt::SkipEmptyParts);
    if (lines.isEmpty()) return;
    const int top = std::max(0, currentRow()), left = std::max(0, currentColumn());
    const auto wanted = static_cast<std::size_t>(top + lines.size());
    if (bench_.session.job().hilt.sections.size() < wanted)
        (void)bench_.session.edit(tr("Add sections"), [wanted](job::Job& job) {
            while (job.hilt.sections.size() < wanted)
                job::add_section(job.hilt);
        });
    show_sections();
    // From the far end back, and each row's outer before its bore: on the way no reading is
    // impossible that is right in the end. What still is stays in its cell, with the reason.
    for (int pass = 0; pass < 2; ++pass)
        for (int i = static_cast<int>(lines.size()) - 1; i >= 0; --i) {
            const QStringList cells = lines[i].split('\t');
            for (int k = static_cast<int>(cells.size()) - 1; k >= 0; --k) {
                const int row = top + i, column = left + k;
                if (column > outer || (row == 0 && column == from)) continue;
                if (pass == 1 && !refused_.contains({row, column})) continue;
                showing_ = true;
                item(row, column)->setText(cells[k].trimmed());
                showing_ = false;
                take(row, column);
            }
        }
}

void SurveyTable::copy() const {
    QStringList lines;
    for (int row = 0; row < rowCount(); ++row) {
        QStringList cells;
        for (int column = 0; column < columnCount(); ++column)
            cells << item(row, column)->text();
        lines << cells.join('\t');
    }
    QApplication::clipboard()->setText(lines.join('\n'));
}

void SurveyTable::keyPressEvent(QKeyEvent* event) {
    if (event->matches(QKeySequence::Paste)) return paste();
    if (event->matches(QKeySequence::Copy)) return copy();
    if (event->key() == Qt::Key_Delete && event->modifiers() == Qt::NoModifier) return remove_row();
    if (event->key() == Qt::Key_Insert) return add_row();
    // Who types into an empty table measures the first section.
    if (rowCount() == 0 && !event->text().isEmpty() && event->text()[0].isPrint()) add_row();
    QTableWidget::keyPressEvent(event);
}

void SurveyTable::paintEvent(QPaintEvent* event) {
    QTableWidget::paintEvent(event);
    if (rowCount() > 0) return;
    QPainter p(viewport());
    p.setPen(bench_.appearance.inks().second);
    p.drawText(
        viewport()->rect().adjusted(6, 6, -6, -6), Qt::AlignTop | Qt::TextWordWrap,
        tr("Type the name of the section at the pommel, then Tab from reading to reading. Tab "
           "after the last one begins the next section."));
}

QModelIndex SurveyTable::beside(const QModelIndex& cell_of, bool next) const {
    const int cells = rowCount() * columnCount(), step = next ? 1 : -1;
    const int first =
        cell_of.isValid() ? cell_of.row() * columnCount() + cell_of.column() + step : 0;
    for (int cell = first; cell >= 0 && cell < cells; cell += step) {
        const QModelIndex index = model()->index(cell / columnCount(), cell % columnCount());
        if (index.flags() & Qt::ItemIsEditable) return index;
    }
    return {};
}

bool SurveyTable::focusNextPrevChild(bool next) {
    const QModelIndex target = hasFocus() ? beside(currentIndex(), next) : QModelIndex();
    if (!target.isValid()) return QTableWidget::focusNextPrevChild(next);
    setCurrentIndex(target);
    return true;
}

QModelIndex SurveyTable::moveCursor(CursorAction action, Qt::KeyboardModifiers modifiers) {
    if (action == MoveNext || action == MovePrevious)
        return beside(currentIndex(), action == MoveNext);
    return QTableWidget::moveCursor(action, modifiers);
}

void SurveyTable::closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) {
    const bool beyond =
        hint == QAbstractItemDelegate::EditNextItem && !beside(currentIndex(), true).isValid();
    QTableWidget::closeEditor(editor, beyond ? QAbstractItemDelegate::NoHint : hint);
    if (!beyond) return;
    add_row();
    edit(currentIndex());
}

} // namespace conductus::app
