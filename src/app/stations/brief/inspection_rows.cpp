// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/inspection_rows.h"

#include <QCoreApplication>
#include <fmt/format.h>

#include "app/session/words.h"
#include "core/base/format.h"
#include "core/job/places.h"
#include "core/job/words.h"

namespace conductus::app {
namespace {

using job::Condition;
using job::Fate;

struct InspectionWords {
    Q_DECLARE_TR_FUNCTIONS(InspectionWords)
};

CellInk ink_of(Condition condition) {
    switch (condition) {
    case Condition::fine:
        return CellInk::fine;
    case Condition::worn:
        return CellInk::warn;
    case Condition::broken:
    case Condition::missing:
        return CellInk::stop;
    case Condition::unknown:
        break;
    }
    return CellInk::second;
}

} // namespace

QString reading_text(const job::Inspected& item) {
    if (!item.reading) return {};
    const auto unit = job::word(item.unit);
    // Milliohms stay what they were read as.
    if (unit == "mOhm") return words(three_figures(*item.reading)) + QString::fromUtf8("\u202fmΩ");
    return words(with_unit(*item.reading, unit));
}

std::vector<int> order_inspection(const job::Job& job) {
    std::vector<int> order;
    for (const auto& [area, word] : job::Words<job::Area>::table)
        for (std::size_t i = 0; i < job.inspection.size(); ++i)
            if (job.inspection[i].area == area) order.push_back(static_cast<int>(i));
    return order;
}

Table::Setup inspection_setup(Session& session, const std::vector<int>& order) {
    const auto index = [&order](int row) { return order[static_cast<std::size_t>(row)]; };
    const auto item = [&session, index](int row) -> const job::Inspected& {
        return session.job().inspection[static_cast<std::size_t>(index(row))];
    };
    const auto word_column = [&session, index](const QString& title, const char* key) {
        Column c = value_column(session, title, "/inspection", key);
        c.typed = [typed = c.typed, index](int row) { return typed(index(row)); };
        c.edit = [edit = c.edit, index](int row, const std::string& text) {
            return edit(index(row), text);
        };
        c.choices = [choices = c.choices, index](int row) { return choices(index(row)); };
        return c;
    };
    // The area stands where it begins.
    Column where = reading(InspectionWords::tr("where"), [=](int row) {
        const bool first = row == 0 || item(row - 1).area != item(row).area;
        return CellText(first ? term(job::word(item(row).area)) : QString(),
                        term(job::word(item(row).area)), CellInk::second);
    });
    Column name = reading(InspectionWords::tr("item"), [item](int row) {
        const job::Inspected& i = item(row);
        return CellText(words(i.item), words(i.item + (i.note.empty() ? "" : "\n" + i.note)));
    });
    Column found = word_column(InspectionWords::tr("found"), "condition");
    found.show = [item](int row) {
        return CellText(term(job::word(item(row).condition)), ink_of(item(row).condition));
    };
    Column read = figures(InspectionWords::tr("reading"),
                          [item](int row) { return CellText(reading_text(item(row))); });
    read.typed = [item](int row) {
        const job::Inspected& i = item(row);
        if (!i.reading) return QString();
        return QString("%1 %2").arg(*i.reading, 0, 'g', 10).arg(term(job::word(i.unit))).trimmed();
    };
    read.edit = [index](int row, const std::string& typed) {
        return job::take_reading(static_cast<std::size_t>(index(row)), typed);
    };
    Column then = word_column(InspectionWords::tr("then"), "fate");
    then.show = [item](int row) {
        return item(row).fate == Fate::undecided ? CellText()
                                                 : CellText(term(job::word(item(row).fate)));
    };
    Table::Setup setup{.object = "inspection",
                       .name = InspectionWords::tr("Inspection"),
                       .what = InspectionWords::tr("Inspect"),
                       .columns = {where, name, found, read, then},
                       .rows = {[&order] { return static_cast<int>(order.size()); },
                                [item](int row) { return words(item(row).item); }},
                       .wide = 1,
                       .dense = true,
                       .main = true,
                       .session = &session};
    setup.rows.take_out = [index](int row) {
        return job::take_out_at(fmt::format("/inspection/{}", index(row)));
    };
    return setup;
}

job::Edit inspected_by_letter(const job::Job& job, int item, int key) {
    const job::Inspected& now = job.inspection[static_cast<std::size_t>(item)];
    const auto write = [item](const char* field, std::string_view word) {
        return job::write_at(fmt::format("/inspection/{}/{}", item, field), std::string(word));
    };
    const auto decide = [&](Fate fate) {
        return write("fate", job::word(now.fate == fate ? Fate::undecided : fate));
    };
    switch (key) {
    case Qt::Key_F:
        return write("condition", job::word(Condition::fine));
    case Qt::Key_W:
        return write("condition", job::word(Condition::worn));
    case Qt::Key_B:
        return write("condition", job::word(Condition::broken));
    case Qt::Key_M:
        return write("condition", job::word(Condition::missing));
    case Qt::Key_U:
        return write("condition", job::word(Condition::unknown));
    case Qt::Key_K:
        return decide(Fate::kept);
    case Qt::Key_R:
        return decide(Fate::replaced);
    default:
        return {};
    }
}

} // namespace conductus::app
