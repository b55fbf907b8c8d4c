// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractTableModel>
#include <map>
#include <optional>
#include <utility>
#include <vector>

#include "app/session/appearance.h"
#include "app/table/column.h"
#include "app/table/writer.h"

namespace conductus::app {

/// Rows and columns as a view shows them: in an order, filtered, with an empty row at the end to
/// type the next one in. Each cell that is typed commits that cell alone; what is refused stays in
/// its cell with the reason, and is tried again together with the next cell of its row.
class TableModel : public QAbstractTableModel {
    Q_OBJECT
public:
    /// `what` names a row in the undo list: "Wire". A null writer: nothing is typed.
    TableModel(QString what, std::vector<Column> columns, TableRows rows, TableWriter* writer,
               const Appearance& appearance, QObject* parent);

    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section, Qt::Orientation, int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

    /// Shows what the job and the plan say now.
    void refresh();
    /// Descending or ascending by a column; -1: as they come.
    void order_by(int column, bool descending);
    [[nodiscard]] std::pair<int, bool> ordered_by() const { return {order_column_, descending_}; }
    /// Only rows that hold the text.
    void filter(const QString& text);

    /// A cell that was typed: the row as it is shown.
    struct Typed {
        int row, column;
        QString text;
    };
    /// Writes the cells as one edit; those that are refused stay as they were typed.
    void write(const std::vector<Typed>& cells, const QString& label = {});
    /// The edit that would write a cell.
    [[nodiscard]] job::Edit edit_for(const QModelIndex& index, const QString& text) const {
        return edit_of({{{source_row(index.row()), index.column()}, text}});
    }
    /// Takes the rows out that are shown there.
    void take_out(std::vector<int> rows);
    /// Gives back what the job says in place of what was refused.
    bool give_back(const QModelIndex& index);

    /// The row as TableRows counts it; its count where it is the empty one or a draft.
    [[nodiscard]] int source_row(int shown) const;
    /// Where a row is shown; -1: it is filtered out.
    [[nodiscard]] int shown_row(int source) const;
    [[nodiscard]] int source_count() const { return count_; }
    [[nodiscard]] bool can_add() const { return writer_ && rows_.add; }
    [[nodiscard]] bool can_take_out() const { return writer_ && rows_.take_out; }
    [[nodiscard]] const Column& column(int c) const {
        return columns_[static_cast<std::size_t>(c)];
    }
    [[nodiscard]] QString row_name(int source) const;
    /// What stands in a cell to be copied or edited.
    [[nodiscard]] QString typed_text(const QModelIndex& index) const;
    [[nodiscard]] bool is_typed(const QModelIndex& index) const {
        return flags(index).testFlag(Qt::ItemIsEditable);
    }
    /// "W4, from: 'B9.plus' leads to no part of this job"; empty: nothing was refused.
    [[nodiscard]] QString refusal() const;

signals:
    void refused_or_mended();

private:
    using Cell = std::pair<int, int>; ///< source row, column
    struct Draft {
        QString text;
        Problem why;
        QString row; ///< what its row was called
    };
    [[nodiscard]] job::Edit edit_of(const std::map<Cell, QString>& cells) const;
    /// As many of the cells as can be written together; the others with the reason. `whole` is why
    /// all together can not be.
    [[nodiscard]] std::map<Cell, QString> as_many_as_can_be(const std::map<Cell, QString>& cells,
                                                            std::map<Cell, Draft>& refused,
                                                            const Problem& whole) const;
    [[nodiscard]] bool stands(const Cell& cell, const QString& text) const;
    [[nodiscard]] QString cell_name(const Cell& cell) const;
    void sort_rows();
    void follow_rows(int counted);
    QString what_;
    std::vector<Column> columns_;
    TableRows rows_;
    TableWriter* writer_;
    const Appearance& appearance_;
    std::vector<std::vector<CellText>> cells_; ///< of every source row
    std::vector<QString> names_;               ///< of them, as they were shown
    std::vector<int> order_;                   ///< source rows in the order they are shown
    std::map<Cell, Draft> drafts_;
    int count_ = 0, spare_ = 0; ///< rows of the source, and those to be typed in behind them
    int order_column_ = -1;
    bool descending_ = false, writing_ = false;
    QString filter_;
};

} // namespace conductus::app
