// SPDX-License-Identifier: GPL-3.0-or-later
// Rows of a table as typed, read into values; what can not be read is said with its row and column.
#pragma once

#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <optional>
#include <string>
#include <vector>

#include "app/shell/rows_table.h"
#include "core/base/parse.h"
#include "core/job/limits.h"
#include "core/job/words.h"

namespace conductus::app {

/// The word of an enumeration's value, to show.
template <class E>
QString said(E e) {
    const auto w = job::word(e);
    return QString::fromUtf8(w.data(), static_cast<qsizetype>(w.size()));
}

/// Reads one row cell by cell; after the first that can not be read nothing more is.
class RowReader {
public:
    RowReader(const QStringList& row, const QStringList& columns, std::size_t n)
        : row_(row), columns_(columns), n_(n) {}

    std::string words() { return row_.value(column_++).trimmed().toStdString(); }

    /// Empty: `usual`.
    Millimetre length(job::limits::Range range, double usual = 0) {
        const QString cell = row_.value(column_++).trimmed();
        if (cell.isEmpty()) return Millimetre(usual);
        const auto v = parse_length(cell.toStdString());
        if (!v) return refuse(v.error()), Millimetre(usual);
        if (!range.holds(v->value()))
            refuse({"", "this is out of range",
                    fmt::format("It lies between {} and {} mm", range.least, range.most)});
        return *v;
    }
    Degree angle() {
        QString cell = row_.value(column_++).trimmed();
        cell.remove(QChar(0xb0));
        if (cell.isEmpty()) return {};
        const auto v = parse_number(cell.toStdString());
        if (!v) return refuse(v.error()), Degree();
        if (!job::limits::angle_deg.holds(*v))
            refuse({"", "this is no angle", "Write degrees, 0 at the top"});
        return Degree(*v);
    }
    /// With or without `unit`; empty: `usual`. Out of `range` it is refused.
    double number(job::limits::Range range, const char* unit, double usual) {
        const QString cell = row_.value(column_++).trimmed();
        if (cell.isEmpty()) return usual;
        const auto v = parse_number(cell.toStdString(), unit);
        if (!v) return refuse(v.error()), usual;
        if (!range.holds(*v)) {
            refuse({"", "this is out of range",
                    fmt::format("It lies between {} and {}{}{}", range.least, range.most,
                                *unit ? " " : "", unit)});
            return usual;
        }
        return *v;
    }
    /// Percent, as a share.
    double share(double usual) { return number({0, 100}, "%", usual * 100) / 100; }
    int whole(job::limits::Range range, int usual) {
        const double v = number(range, "", usual);
        if (v != std::floor(v)) refuse({"", "this is no whole number", "Count in whole pixels"});
        return static_cast<int>(v);
    }
    /// A word or its beginning.
    template <class E>
    E choice(E usual) {
        const QString cell = row_.value(column_++).trimmed();
        if (cell.isEmpty()) return usual;
        std::vector<std::string_view> all;
        for (const auto& [value, known] : job::Words<E>::table) {
            if (said(value).startsWith(cell, Qt::CaseInsensitive)) return value;
            all.push_back(known);
        }
        refuse({"", fmt::format("'{}' is not known here", cell.toStdString()),
                fmt::format("Write one of: {}", fmt::join(all, ", "))});
        return usual;
    }
    /// Whether nothing is written from here on.
    [[nodiscard]] bool rest_is_empty() const {
        for (qsizetype i = column_; i < row_.size(); ++i)
            if (!row_[i].trimmed().isEmpty()) return false;
        return true;
    }
    [[nodiscard]] Result<void> done() const {
        return problem_ ? Result<void>(tl::unexpected(*problem_)) : Result<void>{};
    }

private:
    void refuse(Problem p) {
        if (problem_) return;
        p.where = fmt::format("row {}, {}", n_ + 1, columns_.value(column_ - 1).toStdString());
        problem_ = std::move(p);
    }
    const QStringList& row_;
    const QStringList& columns_;
    std::size_t n_;
    int column_ = 0;
    std::optional<Problem> problem_;
};

/// Reads all rows of a table into a list of the job.
template <class T, class One>
Result<void> read_rows(const RowsTable::Rows& rows, const QStringList& columns,
                       std::vector<T>& into, One one) {
    std::vector<T> list;
    for (std::size_t i = 0; i < rows.size(); ++i) {
        RowReader reader(rows[i], columns, i);
        list.push_back(one(reader, i));
        if (auto ok = reader.done(); !ok) return ok;
    }
    into = std::move(list);
    return {};
}

} // namespace conductus::app
