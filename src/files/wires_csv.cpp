// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/wires_csv.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <set>

#include "core/base/format.h"
#include "core/base/nearest.h"
#include "core/base/parse.h"
#include "core/job/limits.h"
#include "core/job/lookup.h"
#include "core/job/terminals.h"
#include "core/job/validate.h"
#include "core/job/words.h"
#include "files/csv.h"
#include "files/disk.h"

namespace conductus::files {
namespace {

using Field = CsvCell;

std::string trimmed(std::string_view text) {
    const auto first = text.find_first_not_of(" \t");
    if (first == std::string_view::npos) return {};
    return std::string(text.substr(first, text.find_last_not_of(" \t") - first + 1));
}

class WireReader {
public:
    WireReader(const job::Job& job, const catalogue::Catalogue& parts, std::string name)
        : job_(job), terminals_(job::terminals_of(job, parts)), name_(std::move(name)) {
        for (const auto& p : job.parts)
            taken_.insert(p.ref);
        for (const auto& b : job.blades) {
            taken_.insert(b.ref);
            for (const auto& s : b.strips)
                taken_.insert(s.ref);
        }
    }

    ReadWires run(std::string_view text) {
        const auto utf8 = as_utf8(std::string(text), name_);
        if (!utf8) {
            read_.problems.push_back(utf8.error());
            return std::move(read_);
        }
        if (const auto nul = utf8->find('\0'); nul != std::string::npos) {
            read_.problems.push_back(
                {place_in(*utf8, nul, name_), "this is not text", "Save the table as CSV"});
            return std::move(read_);
        }
        // A cut wire has a row a piece, and the names of the columns one more.
        CsvTable table = read_csv(*utf8, name_, 4 * job::limits::list_length);
        read_.problems = std::move(table.problems);
        if (!read_.problems.empty()) return std::move(read_);
        const auto& rows = table.records;
        if (rows.empty()) {
            read_.problems.push_back(
                {name_, "the file is empty", "Write the columns' names in the first row"});
            return std::move(read_);
        }
        if (!columns(rows.front())) return std::move(read_);
        width_ = rows.front().size();
        for (std::size_t i = 1; i < rows.size();) {
            // Pieces of a wire that docks cut, as a cut list has them: "W3.1", "W3.2".
            const auto [stem, first] = piece(rows[i]);
            std::size_t end = i + 1;
            if (first == 1)
                while (end < rows.size() &&
                       piece(rows[end]) == std::pair(stem, static_cast<int>(end - i) + 1))
                    ++end;
            const bool cut = end - i > 1;
            row({rows.begin() + static_cast<std::ptrdiff_t>(i),
                 rows.begin() + static_cast<std::ptrdiff_t>(end)},
                cut ? stem : std::string());
            i = end;
        }
        if (read_.wires.size() > job::limits::list_length)
            read_.problems.push_back(
                {name_, fmt::format("these are {} wires", read_.wires.size()),
                 fmt::format("A job has {} at most", job::limits::list_length)});
        if (!read_.problems.empty()) read_.wires.clear();
        return std::move(read_);
    }

private:
    static constexpr std::array<const char*, 7> known{"ref",       "from",      "to",    "role",
                                                      "gauge_awg", "length_mm", "colour"};
    static constexpr std::size_t most_told = 100;
    void complain(const Field& at, std::string what, std::string mend) {
        if (read_.problems.size() == most_told)
            read_.problems.push_back({name_, "there is more that is wrong after this",
                                      "Mend these first, and read the table again"});
        if (read_.problems.size() > most_told) return;
        read_.problems.push_back({fmt::format("{}: line {}, column {}", name_, at.line, at.column),
                                  std::move(what), std::move(mend)});
    }
    bool columns(const std::vector<Field>& head) {
        for (std::size_t i = 0; i < head.size(); ++i) {
            const std::string name = trimmed(head[i].text);
            const auto it = std::find(known.begin(), known.end(), name);
            // What a cut list says beside is nothing to read.
            static const std::set<std::string> ours{"strip_mm", "amps", "drop_mV", "note"};
            if (it == known.end()) {
                if (ours.contains(name)) continue;
                const std::string near = nearest_word(name, known);
                complain(head[i], fmt::format("'{}' is no column of wires", shown(name, 60)),
                         near.empty() ? "Columns: ref, from, to, role, gauge_awg, length_mm, colour"
                                      : fmt::format("Did you mean '{}'?", near));
                continue;
            }
            const auto k = static_cast<std::size_t>(it - known.begin());
            if (at_[k] >= 0)
                complain(head[i], fmt::format("'{}' is there twice", name), "Leave one");
            at_[k] = static_cast<int>(i);
        }
        for (const std::size_t k : {std::size_t{1}, std::size_t{2}})
            if (at_[k] < 0)
                complain(head.front(), fmt::format("there is no column '{}'", known[k]),
                         "Name the columns in the first row");
        return read_.problems.empty();
    }
    const Field* cell(const std::vector<Field>& row, std::size_t k) const {
        if (at_[k] < 0 || static_cast<std::size_t>(at_[k]) >= row.size()) return nullptr;
        const Field& f = row[static_cast<std::size_t>(at_[k])];
        return trimmed(f.text).empty() ? nullptr : &f;
    }
    void end(const std::vector<Field>& row, std::size_t k, std::string& into) {
        const Field* f = cell(row, k);
        if (!f)
            return complain(row.front(), fmt::format("the wire has no '{}'", known[k]),
                            "Write a terminal like U1.bat");
        into = trimmed(f->text);
        const auto [ref, terminal] = job::split_terminal(into);
        const auto owner = terminals_.find(ref);
        if (owner == terminals_.end()) {
            std::vector<std::string> refs;
            for (const auto& [r, t] : terminals_)
                refs.push_back(r);
            const std::string near = nearest_word(ref, refs);
            return complain(*f, fmt::format("there is no '{}' in this job", shown(ref, 60)),
                            near.empty() ? "Write a terminal like U1.bat"
                                         : fmt::format("Did you mean {}?", near));
        }
        if (std::find(owner->second.begin(), owner->second.end(), terminal) == owner->second.end())
            complain(*f, fmt::format("{} has no terminal '{}'", ref, shown(terminal, 60)),
                     fmt::format("It has {}", fmt::join(owner->second, ", ")));
    }
    /// "W3" and 2 of "W3.2"; 0: it is no piece.
    std::pair<std::string, int> piece(const std::vector<Field>& row) const {
        const Field* f = cell(row, 0);
        const std::string ref = f ? trimmed(f->text) : std::string();
        const auto dot = ref.rfind('.');
        if (dot == std::string::npos || dot + 2 != ref.size() || ref.back() < '1' ||
            ref.back() > '9')
            return {ref, 0};
        return {ref.substr(0, dot), ref.back() - '0'};
    }
    /// A wire in one row, or in one for each piece, then called `stem`. What a wire of that ref has
    /// beside the columns it keeps.
    void row(const std::vector<std::vector<Field>>& pieces, const std::string& stem) {
        const std::vector<Field>& row = pieces.front();
        for (const auto& one : pieces)
            if (one.size() > width_)
                complain(one[width_], "there are more cells here than columns",
                         fmt::format("The table has {} columns; put a text with a separator in "
                                     "quotes",
                                     width_));
        const Field* ref = cell(row, 0);
        const std::string called = !stem.empty() ? stem : ref ? trimmed(ref->text) : std::string();
        job::Wire w;
        if (const auto* was = job::find_ref(job_.wires, called)) w = *was;
        end(row, 1, w.from);
        end(pieces.back(), 2, w.to);
        if (!w.from.empty() && w.from == w.to)
            complain(*cell(pieces.back(), 2), fmt::format("the wire leads from {} to itself", w.to),
                     "Name the terminal at its other end");
        if (const Field* f = cell(row, 3)) {
            if (const auto role = job::from_word<job::Role>(trimmed(f->text)))
                w.role = *role;
            else
                complain(*f, fmt::format("'{}' is no role", shown(trimmed(f->text), 60)),
                         "supply, return, data, button or sound");
        }
        if (const auto gauge = number(row, 4, job::limits::gauge_awg)) {
            w.gauge = static_cast<int>(std::lround(*gauge));
            if (std::abs(*gauge - w.gauge) > 1e-9)
                complain(*cell(row, 4), "a gauge is a whole number", "Write it like 22");
        }
        if (at_[5] >= 0) w.length.reset();
        for (const auto& one : pieces)
            if (const auto length = number(one, 5, job::limits::length_mm))
                w.length = w.length.value_or(Millimetre(0)) + Millimetre(*length);
        if (at_[6] >= 0) w.colour.clear();
        if (const Field* f = cell(row, 6)) {
            w.colour = trimmed(f->text);
            if (std::string refusal = job::refusal_of_text(w.colour); !refusal.empty())
                complain(*f, std::move(refusal), "Write the colour as a word");
        }
        w.ref = called;
        if (ref) {
            const bool letters =
                std::all_of(w.ref.begin(), w.ref.end(),
                            [](unsigned char c) { return std::isalnum(c) != 0; }) &&
                std::isalpha(static_cast<unsigned char>(w.ref[0])) != 0;
            if (!letters)
                complain(*ref, fmt::format("'{}' is no reference", shown(w.ref, 60)),
                         "Letters and digits, like W3");
            else if (!taken_.insert(w.ref).second)
                complain(*ref, fmt::format("'{}' is used twice", w.ref),
                         "Give every wire a reference of its own");
        }
        read_.wires.push_back(std::move(w));
        if (ref) return;
        std::string& free = read_.wires.back().ref;
        for (std::size_t n = 1; free.empty(); ++n)
            if (const std::string name = fmt::format("W{}", n); taken_.insert(name).second)
                free = name;
    }
    std::optional<double> number(const std::vector<Field>& row, std::size_t k,
                                 job::limits::Range range) {
        const Field* f = cell(row, k);
        if (!f) return std::nullopt;
        const auto value = parse_number(trimmed(f->text), k == 5 ? "mm" : "AWG");
        if (!value) {
            complain(*f, value.error().what.english(), value.error().mend.english());
        } else if (!range.holds(*value)) {
            complain(*f, fmt::format("{} is out of range", shown(trimmed(f->text), 40)),
                     fmt::format("It lies between {} and {}", range.least, range.most));
        } else {
            return *value;
        }
        return std::nullopt;
    }

    const job::Job& job_;
    job::TerminalsByOwner terminals_;
    std::string name_;
    std::set<std::string> taken_;
    std::size_t width_ = 0; ///< columns of the table
    std::array<int, 7> at_{-1, -1, -1, -1, -1, -1, -1};
    ReadWires read_;
};

} // namespace

ReadWires read_wires_csv(std::string_view text, const job::Job& job,
                         const catalogue::Catalogue& parts, const std::string& name) {
    return WireReader(job, parts, name).run(text);
}

} // namespace conductus::files
