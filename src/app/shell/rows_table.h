// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTableWidget>
#include <functional>
#include <vector>

#include "app/session/appearance.h"

namespace conductus::app {

/// A table of texts with an empty last row to type the next one in. Cells go in and out through
/// the clipboard as a spreadsheet gives them; Delete takes the row out.
class RowsTable : public QTableWidget {
    Q_OBJECT
public:
    using Rows = std::vector<QStringList>;
    using Commit = std::function<void(const Rows&)>;
    /// Columns after `typed` are shown, not typed.
    RowsTable(const QStringList& columns, int typed, const Appearance& appearance, Commit commit,
              QWidget* parent);
    void show_rows(const Rows& rows);

protected:
    void keyPressEvent(QKeyEvent*) override;

private:
    [[nodiscard]] Rows typed_rows() const;
    void paste();
    void copy() const;
    Commit commit_;
    int typed_;
    bool showing_ = false;
};

} // namespace conductus::app
