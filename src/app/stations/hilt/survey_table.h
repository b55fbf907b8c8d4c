// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTableWidget>
#include <map>

#include "app/stations/station_page.h"

class QLabel;

namespace conductus::app {

/// Caliper readings, a row a section. What is impossible is marked in its cell and kept as typed.
class SurveyTable : public QTableWidget {
    Q_OBJECT
public:
    SurveyTable(const Bench& bench, QLabel* refusal, QWidget* parent);
    void show_sections();
    void add_row();
    void remove_row();

protected:
    void keyPressEvent(QKeyEvent* event) override;
    /// An empty table says how the survey begins.
    void paintEvent(QPaintEvent* event) override;
    /// Tab walks from cell to cell, and leaves the table at its end.
    bool focusNextPrevChild(bool next) override;
    QModelIndex moveCursor(CursorAction action, Qt::KeyboardModifiers modifiers) override;
    /// Tab out of the last cell that was typed in begins the next section.
    void closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) override;

private:
    enum Column { name, from, to, bore, outer };
    void take(int row, int column);
    /// The next cell that may be typed in, or the one before; none at the end.
    [[nodiscard]] QModelIndex beside(const QModelIndex& cell_of, bool next) const;
    /// Cells as a spreadsheet copies them, from the current one on; rows that are missing are
    /// added.
    void paste();
    void copy() const;
    [[nodiscard]] Result<void> apply(std::size_t row, int column, const QString& text);

    Bench bench_;
    QLabel* refusal_;
    bool showing_ = false;
    std::map<std::pair<int, int>, std::pair<QString, Problem>> refused_; ///< as typed, by cell
};

} // namespace conductus::app
