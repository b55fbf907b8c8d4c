// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTableView>
#include <functional>
#include <memory>
#include <vector>

#include "app/session/appearance.h"
#include "app/table/table_model.h"

class QLabel;
class QMenu;

namespace conductus::app {

/// The one table of the program. Typing replaces a cell, F2 or Enter opens it; Tab and Enter walk
/// on, past the last row into the next one; Esc gives back; Delete clears, or takes a row out where
/// it stands in its name; blocks of cells are copied, cut and pasted as a spreadsheet does; Ctrl+D
/// fills down. docs/guide.md, "Tables".
class Table : public QTableView {
    Q_OBJECT
public:
    struct Setup {
        QString object, name;        ///< object name; accessible name
        QString what = {};           ///< a row in the undo list: "Wire"
        std::vector<Column> columns; ///< as they are shown
        TableRows rows;
        int wide = -1;              ///< the column that takes what room is left; -1: all alike
        bool dense = false;         ///< narrow cells, for many columns
        bool sortable = false;      ///< a click on a header orders the rows
        bool wrap = false;          ///< rows as high as their words ask
        double least_rows = 0;      ///< so many rows are in sight at least; 0: as the page gives
        bool main = false;          ///< the page's main table: Appearance::rows() are in sight
        QString empty = {};         ///< what an empty table says: what belongs there, how to begin
        bool live = false;          ///< what is typed is shown in the drawings letter by letter
        Session* session = nullptr; ///< what is typed goes into its job; null: nothing is typed
        TableWriter* writer = nullptr; ///< where it goes instead, where that is no job
    };
    Table(Setup setup, const Appearance& appearance, QWidget* parent);

    /// Shows what the job and the plan say now; the row that was chosen stays so.
    void refresh();
    [[nodiscard]] TableModel& rows() const { return *model_; }
    /// Why cells were refused, hidden where none was: for the page to put under the table.
    [[nodiscard]] QLabel* refusal() const { return refusal_; }
    /// The chosen row as TableRows counts it; -1: none.
    [[nodiscard]] int chosen() const;
    /// Chooses a row without telling it.
    void choose(int source_row, int column = 0);
    [[nodiscard]] QString text(int shown_row, int column) const;
    /// More for the menu of a row.
    void offer(std::function<void(QMenu&, int source_row)> more) { more_ = std::move(more); }
    /// Letters that do something to a row where its cell is not typed in: true where one did.
    void on_letter(std::function<bool(int source_row, int key)> letter) {
        letter_ = std::move(letter);
    }
    /// As high as its rows, up to `most`, so that it does not scroll in a page that scrolls.
    void as_high_as_its_rows(int most);
    /// All its rows, whatever the page gives: in a page that scrolls a table does not scroll.
    void show_whole(bool whole);
    /// So many rows it keeps in sight, if it is its page's main table.
    [[nodiscard]] int rows_in_sight() const { return main_ ? appearance_.rows() : 0; }

signals:
    void row_chosen(int source_row);    ///< by mouse or keyboard
    void row_activated(int source_row); ///< by Enter or a double click where nothing is typed

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void currentChanged(const QModelIndex& now, const QModelIndex& before) override;
    bool focusNextPrevChild(bool next) override;
    void closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    [[nodiscard]] QModelIndex beside(const QModelIndex& from, bool next) const;
    [[nodiscard]] QModelIndex below(const QModelIndex& from) const;
    void walk_to(const QModelIndex& index);
    void say_refusal();
    void show_choices(const QModelIndex& index);
    void copy() const;
    void clear();
    void paste();
    void fill_down();
    void take_out();
    [[nodiscard]] std::vector<int> selected_rows() const;
    [[nodiscard]] std::vector<int> columns_in_sight(int left, int right) const;
    std::unique_ptr<TableWriter> of_session_;
    TableModel* model_;
    const Appearance& appearance_;
    QLabel* refusal_;
    QString empty_;
    std::function<void(QMenu&, int)> more_;
    std::function<bool(int, int)> letter_;
    int begun_ = -1; ///< the column a run of Tabs began in, for Enter to go back to
    void keep_rows_in_sight();
    [[nodiscard]] int height_of(int rows) const;
    int fit_most_ = 0, least_ = 0; ///< least_: pixels of Setup::least_rows
    bool main_ = false, whole_ = false;
    bool quiet_ = false;
};

} // namespace conductus::app
