// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/table/column.h"

#include <fmt/format.h>

#include "app/session/session.h"
#include "app/session/words.h"
#include "core/job/places.h"

namespace conductus::app {

Column reading(const QString& title, std::function<CellText(int row)> show) {
    Column c;
    c.title = title;
    c.show = std::move(show);
    return c;
}

Column figures(const QString& title, std::function<CellText(int row)> show) {
    Column c = reading(title, std::move(show));
    c.figures = true;
    return c;
}

Column value_column(const Session& session, const QString& title, const std::string& list,
                    const std::string& key, const QString& unit) {
    Column c = placed_column(
        session, title, key,
        [list, key](int row) { return fmt::format("{}/{}/{}", list, row, key); }, unit);
    c.fixed = {};
    return c;
}

Column placed_column(const Session& session, const QString& title, const std::string& key,
                     std::function<std::string(int row)> at, const QString& unit) {
    const std::string typed_unit = unit.toStdString();
    Column c;
    c.title = title;
    c.unit = unit == "px" ? QString() : unit; // pixels are counted, and said in the title
    const bool number = !unit.isEmpty() || key.ends_with("_mm") || key.ends_with("_deg") ||
                        key.ends_with("_awg") || key.ends_with("_min") || key.ends_with("_s") ||
                        key.ends_with("_V");
    c.figures = number;
    c.show = [&session, at, typed_unit, angle = key.ends_with("_deg")](int row) {
        const auto text = job::typed_at(session.job(), at(row), typed_unit);
        QString shown = text ? words(*text) : QString();
        if (angle && !shown.isEmpty()) shown += QChar(0xb0);
        return CellText(shown);
    };
    c.typed = [&session, at, typed_unit](int row) {
        return words(job::typed_at(session.job(), at(row), typed_unit).value_or(""));
    };
    c.edit = [at, typed_unit](int row, const std::string& typed) {
        return job::write_at(at(row), typed, typed_unit);
    };
    c.fixed = [at](int row) { return at(row).empty(); };
    if (!number)
        c.choices = [&session, at](int row) {
            QStringList all;
            for (const std::string_view word : job::words_at(session.job(), at(row)))
                all << words(word);
            return all;
        };
    else
        c.sort_by = [&session, at](int row) {
            return words(job::typed_at(session.job(), at(row)).value_or("")).toDouble();
        };
    return c;
}

TableRows list_rows(const Session& session, const std::string& list, const std::string& key) {
    TableRows rows;
    rows.count = [&session, list] { return static_cast<int>(job::count_at(session.job(), list)); };
    rows.name = [&session, list, key](int row) {
        if (key.empty()) return QString::number(row + 1);
        return words(
            job::typed_at(session.job(), fmt::format("{}/{}/{}", list, row, key)).value_or(""));
    };
    rows.add = [list] { return job::add_at(list); };
    rows.take_out = [list](int row) { return job::take_out_at(fmt::format("{}/{}", list, row)); };
    return rows;
}

} // namespace conductus::app
