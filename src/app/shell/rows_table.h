// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTableWidget>
#include <functional>
#include <vector>

#include "app/session/appearance.h"
#include "core/base/problem.h"

class QLabel;

namespace conductus::app {

/// A table of texts with an empty last row to type the next one in. Cells go in and out through
/// the clipboard as a spreadsheet gives them; Delete takes the row out. What `commit` refuses is
/// said in refusal(), and all stays as typed until it is mended.
class RowsTable : public QTableWidget {
    Q_OBJECT
public:
    using Rows = std::vector<QStringList>;
    using Commit = std::function<Result<void>(const Rows&)>;
    /// Columns after `typed` are shown, not typed. `object` and `name` are its own; the refusal is
    /// called `object` + "Refusal".
    RowsTable(const QStringList& columns, int typed, const QString& object, const QString& name,
              const Appearance& appearance, Commit commit, QWidget* parent);
    /// Not while something refused stands here.
    void show_rows(const Rows& rows);
    /// Why the rows were refused, hidden where they were not: for the page to put under the table.
    [[nodiscard]] QLabel* refusal() const { return refusal_; }

signals:
    void taken(); ///< what was typed is in the job

protected:
    void keyPressEvent(QKeyEvent*) override;

private:
    [[nodiscard]] Rows typed_rows() const;
    void paste();
    void copy() const;
    void commit(const Rows& rows);
    Commit commit_;
    QLabel* refusal_;
    int typed_;
    bool showing_ = false;
};

} // namespace conductus::app
