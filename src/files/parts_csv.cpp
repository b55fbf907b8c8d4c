// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/parts_csv.h"

#include <algorithm>
#include <charconv>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <map>

#include "core/catalogue/kinds.h"
#include "core/job/limits.h"
#include "core/job/part_form.h"
#include "core/job/usual_parts.h"
#include "files/csv.h"

namespace conductus::files {
namespace {

using catalogue::PartType;

/// "/led/dies/1/colour" is the column "led/dies/1/colour"; terminals share one.
std::string column_of(const std::string& at) {
    return at.starts_with("/terminals/") ? "terminals" : at.substr(1);
}

/// One record on its way to a part.
struct Row {
    const std::vector<CsvCell>& cells;
    const std::vector<CsvCell>& head;
    const std::string& name;

    [[nodiscard]] std::string text(std::string_view column) const {
        for (std::size_t c = 0; c < head.size() && c < cells.size(); ++c)
            if (head[c].text == column) return cells[c].text;
        return {};
    }
    [[nodiscard]] tl::unexpected<Problem> refuse(const std::string& column, Problem p) const {
        p.where = fmt::format("{}, line {}, {}", name, cells.front().line, column);
        return tl::unexpected(std::move(p));
    }
    /// How many elements of a list its columns speak of.
    [[nodiscard]] std::size_t count(const std::string& list) const {
        std::size_t most = 0;
        for (std::size_t c = 0; c < head.size() && c < cells.size(); ++c) {
            const std::string& column = head[c].text;
            if (cells[c].text.empty() || !column.starts_with(list + "/")) continue;
            std::size_t index = 0;
            const char* begin = column.data() + list.size() + 1;
            if (std::from_chars(begin, column.data() + column.size(), index).ec == std::errc())
                most = std::max(most, index + 1);
        }
        return most;
    }
};

/// As many elements in its lists as the record has.
Result<PartType> with_lists(PartType type, const Row& row) {
    const job::Form form = job::form_of(type, {});
    for (const job::FormList& list : form.lists) {
        if (list.at == "/terminals") continue;
        const std::size_t wanted = row.count(list.at.substr(1));
        for (std::size_t n = list.count; wanted > 0 && n != wanted; n < wanted ? ++n : --n) {
            auto next = n < wanted ? job::with_one_more(type, list.at)
                                   : job::without(type, fmt::format("{}/{}", list.at, n - 1));
            if (!next) return row.refuse(list.at.substr(1), next.error());
            type = std::move(*next);
        }
    }
    return type;
}

Result<PartType> part_of(const Row& row) {
    const std::string kind = row.text("kind");
    const auto* known = catalogue::kind_named(kind);
    if (!known)
        return row.refuse("kind", {"", say("'{}' is not a kind of part", shown(kind, 60)),
                                   "Write the word that catalogue files have for it"});
    PartType type = job::usual_type(static_cast<std::size_t>(known - catalogue::kinds().data()));
    const std::string terminals = row.text("terminals");
    std::vector<std::string> names;
    for (std::size_t at = 0; at < terminals.size();) {
        const auto end = std::min(terminals.find(' ', at), terminals.size());
        if (end > at) names.push_back(terminals.substr(at, end - at));
        at = end + 1;
    }
    // A value may bring the fields that others belong to, and be possible only with them: what is
    // refused is tried again as long as others are taken.
    std::map<std::string, Problem> refused;
    std::map<std::string, bool> taken;
    for (std::size_t before = 0;; before = taken.size()) {
        auto lists = with_lists(type, row);
        if (!lists) return lists;
        type = std::move(*lists);
        refused.clear();
        for (std::size_t c = 0; c < row.head.size() && c < row.cells.size(); ++c) {
            const std::string& column = row.head[c].text;
            const std::string& text = row.cells[c].text;
            if (column == "kind" || column == "terminals" || text.empty() || taken[column])
                continue;
            auto with = job::with_typed(type, "/" + column, text);
            if (!with) {
                refused.emplace(column, with.error());
                continue;
            }
            taken[column] = true;
            type = std::move(*with);
        }
        std::erase_if(taken, [](const auto& t) { return !t.second; });
        if (refused.empty() || taken.size() == before) break;
    }
    if (!refused.empty()) {
        auto [column, why] = *refused.begin();
        return row.refuse(column, why);
    }
    // A light brings terminals of its own: those of the record count.
    type.terminals = std::move(names);
    for (const job::FormField& field : job::form_of(type, {}).fields) {
        const std::string column = column_of(field.at);
        const bool light = column.ends_with("/light");
        if (!field.usual && !light && column != "terminals" && !taken.contains(column))
            return row.refuse(column, {"", "this value is missing", "Write it in its column"});
    }
    if (auto ok = job::check_type(type); !ok) return row.refuse("terminals", ok.error());
    return type;
}

} // namespace

std::string parts_csv(const std::vector<PartType>& types) {
    std::vector<std::string> columns{"kind"};
    std::vector<std::map<std::string, std::string>> rows;
    for (const PartType& type : types) {
        auto& row = rows.emplace_back();
        row["kind"] = std::string(catalogue::kind_of(type.figures).key);
        auto after = columns.begin() + 1;
        for (const job::FormField& field : job::form_of(type, {}).fields) {
            const std::string column = column_of(field.at);
            if (column == "terminals") continue;
            row[column] = job::exact_at(type, field.at);
            // Behind the column before it, so that what belongs together stays so.
            const auto there = std::find(columns.begin(), columns.end(), column);
            after = (there == columns.end() ? columns.insert(after, column) : there) + 1;
        }
        row["terminals"] = fmt::format("{}", fmt::join(type.terminals, " "));
    }
    columns.emplace_back("terminals");
    std::string text = csv_record(columns);
    for (const auto& row : rows) {
        std::vector<std::string> cells;
        for (const std::string& column : columns) {
            const auto it = row.find(column);
            cells.push_back(it == row.end() ? std::string() : it->second);
        }
        text += csv_record(cells);
    }
    return text;
}

Result<std::vector<PartType>> read_parts_csv(std::string_view text, const std::string& name) {
    const CsvTable table = read_csv(text, name, job::limits::list_length);
    if (!table.problems.empty()) return tl::unexpected(table.problems.front());
    if (table.records.empty())
        return problem(name, "there is no line here", "The first line names the columns");
    const auto& head = table.records.front();
    for (const char* needed : {"kind", "id", "name"})
        if (std::none_of(head.begin(), head.end(),
                         [&](const CsvCell& c) { return c.text == needed; }))
            return problem(fmt::format("{}, line {}", name, head.front().line),
                           say("the column '{}' is missing", needed),
                           "The first line names the columns: kind, id, name, body/length_mm …");
    std::vector<PartType> all;
    for (std::size_t i = 1; i < table.records.size(); ++i) {
        auto part = part_of({table.records[i], head, name});
        if (!part) return tl::unexpected(part.error());
        all.push_back(std::move(*part));
    }
    return all;
}

} // namespace conductus::files
