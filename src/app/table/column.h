// SPDX-License-Identifier: GPL-3.0-or-later
// What a table is made of: columns that show, and may be typed in, and rows that come from the job
// or from the plan.
#pragma once

#include <QString>
#include <QStringList>
#include <QVariant>
#include <functional>
#include <string>

#include "core/job/edits.h"

class QPainter;
class QRectF;

namespace conductus::app {

class Session;

/// The inks a cell can be lettered in.
enum class CellInk { ink, second, petrol, fine, warn, stop };

/// A cell as it is shown.
struct CellText {
    QString text;
    QString tip = {}; ///< empty: the text itself
    CellInk ink = CellInk::ink;
    QVariant value = {}; ///< for a delegate that draws it; ticks: true or false
    CellText(QString shown = {}) : text(std::move(shown)) {}
    CellText(QString shown, CellInk in) : text(std::move(shown)), ink(in) {}
    CellText(QString shown, QString help, CellInk in = CellInk::ink)
        : text(std::move(shown)), tip(std::move(help)), ink(in) {}
};

/// One column. Rows are counted as TableRows counts them, whatever order they are shown in.
struct Column {
    QString title;
    QString unit = {}; ///< written after the title; figures stand at the right
    bool figures = false;
    /// Draws into the cell in the place of its words: `box` is the cell without its edges.
    std::function<void(QPainter& p, const QRectF& box, int row)> picture = {};
    /// Draws over the title in the header, which stands for who does not see it.
    std::function<void(QPainter& p, const QRectF& box)> head = {};
    bool tick = false; ///< shows CellText::value as a box to tick
    std::function<CellText(int row)> show;
    /// Makes the edit that writes what was typed. Empty: the column is only read.
    std::function<job::Edit(int row, const std::string& typed)> edit = {};
    /// What stands in the field when it is opened, to the last digit. Empty: what is shown.
    std::function<QString(int row)> typed = {};
    /// What may be chosen there; anything may be typed all the same.
    std::function<QStringList(int row)> choices = {};
    std::function<bool(int row)> fixed = {};     ///< rows where it is only read
    std::function<double(int row)> sort_by = {}; ///< empty: by the text
};

struct TableRows {
    std::function<int()> count;
    std::function<QString(int row)> name;            ///< what a row is called
    std::function<job::Edit()> add = {};             ///< empty: rows can not be added
    std::function<job::Edit(int row)> take_out = {}; ///< empty: rows can not be taken out
};

/// A column that only reads: `show` gives its text.
Column reading(const QString& title, std::function<CellText(int row)> show);
/// The same with figures, at the right.
Column figures(const QString& title, std::function<CellText(int row)> show);

/// A column over one field of the elements of a list of the job: "/wires", "length_mm". Lengths,
/// numbers and words show what stands there to the last digit; `unit` as of job::typed_at.
Column value_column(const Session& session, const QString& title, const std::string& list,
                    const std::string& key, const QString& unit = {});

/// The same over a value that stands elsewhere for every row; an empty place: there is none, and
/// the cell is only read. `key`: its name, which tells how it is typed.
Column placed_column(const Session& session, const QString& title, const std::string& key,
                     std::function<std::string(int row)> at, const QString& unit = {});

/// The rows of a list of the job; `key` is the field that names them, empty: they have none.
TableRows list_rows(const Session& session, const std::string& list, const std::string& key);

} // namespace conductus::app
