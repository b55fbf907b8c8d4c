// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/table/table_model.h"

#include <QBrush>
#include <QFont>
#include <algorithm>
#include <functional>
#include <set>

#include "app/session/words.h"
#include "core/job/places.h"

namespace conductus::app {
namespace {

QColor of(CellInk ink, const Inks& inks) {
    switch (ink) {
    case CellInk::second:
        return inks.second;
    case CellInk::petrol:
        return inks.petrol;
    case CellInk::fine:
        return inks.fine;
    case CellInk::warn:
        return inks.warn;
    case CellInk::stop:
        return inks.stop;
    case CellInk::ink:
        break;
    }
    return inks.ink;
}

} // namespace

TableModel::TableModel(QString what, std::vector<Column> columns, TableRows rows,
                       TableWriter* writer, const Appearance& appearance, QObject* parent)
    : QAbstractTableModel(parent), what_(std::move(what)), columns_(std::move(columns)),
      rows_(std::move(rows)), writer_(writer), appearance_(appearance) {
    refresh();
}

int TableModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(order_.size()) + spare_;
}

int TableModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(columns_.size());
}

int TableModel::source_row(int shown) const {
    const int n = static_cast<int>(order_.size());
    return shown < n ? order_[static_cast<std::size_t>(shown)] : count_ + shown - n;
}

int TableModel::shown_row(int source) const {
    if (source >= count_) return static_cast<int>(order_.size()) + source - count_;
    const auto it = std::find(order_.begin(), order_.end(), source);
    return it == order_.end() ? -1 : static_cast<int>(it - order_.begin());
}

QString TableModel::row_name(int source) const {
    return source < static_cast<int>(names_.size()) ? names_[static_cast<std::size_t>(source)]
                                                    : QString();
}

QString TableModel::cell_name(const Cell& cell) const {
    QString row = row_name(cell.first);
    if (cell.first >= count_) row = tr("the new row");
    const QString& title = column(cell.second).title;
    return row.isEmpty() ? title : row + ", " + title;
}

QVariant TableModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid()) return {};
    const Column& c = column(index.column());
    const int row = source_row(index.row());
    const auto draft = drafts_.find({row, index.column()});
    static const CellText none;
    const CellText& cell =
        row < count_
            ? cells_[static_cast<std::size_t>(row)][static_cast<std::size_t>(index.column())]
            : none;
    switch (role) {
    case Qt::DisplayRole:
        return draft != drafts_.end() ? draft->second.text : cell.text;
    case Qt::EditRole:
        return typed_text(index);
    case Qt::ToolTipRole:
    case Qt::AccessibleDescriptionRole:
        if (draft != drafts_.end()) return words(draft->second.why.text());
        return cell.tip.isEmpty() && role == Qt::ToolTipRole ? cell.text : cell.tip;
    case Qt::ForegroundRole:
        return of(draft != drafts_.end() ? CellInk::stop : cell.ink, appearance_.inks());
    case Qt::BackgroundRole:
        return draft != drafts_.end() ? QVariant(QBrush(appearance_.inks().dim)) : QVariant();
    case Qt::TextAlignmentRole:
        return int((c.figures ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    case Qt::CheckStateRole:
        if (c.tick && row < count_) return cell.value.toBool() ? Qt::Checked : Qt::Unchecked;
        return {};
    case Qt::UserRole:
        return cell.value;
    default:
        return {};
    }
}

QVariant TableModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal) return {};
    const Column& c = column(section);
    if (role == Qt::DisplayRole) {
        QString title = c.unit.isEmpty() ? c.title : c.title + ", " + c.unit;
        if (section == order_column_) title += descending_ ? QStringLiteral(" ↓") : " ↑";
        return title;
    }
    if (role == Qt::TextAlignmentRole)
        return int((c.figures ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    return {};
}

Qt::ItemFlags TableModel::flags(const QModelIndex& index) const {
    if (!index.isValid()) return {};
    Qt::ItemFlags flags = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
    const Column& c = column(index.column());
    const int row = source_row(index.row());
    if (!writer_ || !c.edit) return flags;
    if (row < count_ ? c.fixed && c.fixed(row) : !rows_.add) return flags;
    if (c.tick) return row < count_ ? flags | Qt::ItemIsUserCheckable : flags;
    return flags | Qt::ItemIsEditable;
}

QString TableModel::typed_text(const QModelIndex& index) const {
    const int row = source_row(index.row());
    if (const auto draft = drafts_.find({row, index.column()}); draft != drafts_.end())
        return draft->second.text;
    if (row >= count_) return {};
    const Column& c = column(index.column());
    if (writer_ && c.edit && c.typed) return c.typed(row);
    return cells_[static_cast<std::size_t>(row)][static_cast<std::size_t>(index.column())].text;
}

bool TableModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role == Qt::CheckStateRole) {
        write({{index.row(), index.column(),
                value.toInt() == Qt::Checked ? QStringLiteral("yes") : QStringLiteral("no")}});
        return true;
    }
    if (role != Qt::EditRole) return false;
    write({{index.row(), index.column(), value.toString()}});
    return true;
}

bool TableModel::stands(const Cell& cell, const QString& text) const {
    const auto& [row, c] = cell;
    if (row >= count_) return text.isEmpty();
    const Column& col = column(c);
    if (col.tick) return false;
    const CellText& shown = cells_[static_cast<std::size_t>(row)][static_cast<std::size_t>(c)];
    return text == shown.text || (col.typed && text == col.typed(row));
}

job::Edit TableModel::edit_of(const std::map<Cell, QString>& cells) const {
    std::vector<job::Edit> edits;
    std::map<int, int> fresh; // rows that are added, and what they are counted as then
    for (const auto& [cell, text] : cells) {
        int row = cell.first;
        if (row >= count_) {
            if (!fresh.contains(row)) {
                const int next = count_ + static_cast<int>(fresh.size());
                fresh[row] = next;
                edits.push_back(rows_.add());
            }
            row = fresh[row];
            // What is left empty in a new row is the usual.
            if (text.isEmpty()) continue;
        }
        edits.push_back(column(cell.second).edit(row, text.toStdString()));
    }
    return job::all_of(std::move(edits));
}

std::map<TableModel::Cell, QString>
TableModel::as_many_as_can_be(const std::map<Cell, QString>& cells, std::map<Cell, Draft>& refused,
                              const Problem& whole) const {
    using Cells = std::map<Cell, QString>;
    // A new row goes in as a whole, if it can. The last comes first, so that no reading is
    // impossible on the way that is right in the end.
    std::vector<Cells> units;
    for (const auto& [cell, text] : cells) {
        const bool same_new = cell.first >= count_ && !units.empty() &&
                              units.back().begin()->first.first == cell.first;
        if (!same_new) units.emplace_back();
        units.back()[cell] = text;
    }
    std::reverse(units.begin(), units.end());
    Cells accepted;
    std::map<Cell, Problem> why;
    // Many at once where many can be: of a thousand cells with one mistake in them twenty are
    // tried.
    using Unit = std::vector<Cells>::const_iterator;
    const std::function<void(Unit, Unit, std::vector<Cells>&)> take_part =
        [&](Unit begin, Unit end, std::vector<Cells>& left) {
            if (begin == end) return;
            Cells with = accepted;
            for (auto unit = begin; unit != end; ++unit)
                with.insert(unit->begin(), unit->end());
            const auto fits = writer_->tried(edit_of(with));
            if (fits) {
                accepted = std::move(with);
            } else if (end - begin > 1) {
                const auto middle = begin + (end - begin) / 2;
                take_part(begin, middle, left);
                take_part(middle, end, left);
            } else {
                for (const auto& [cell, text] : *begin)
                    why[cell] = fits.error();
                left.push_back(*begin);
            }
        };
    const auto take = [&](std::vector<Cells>& waiting) {
        for (std::size_t before = 0; before != waiting.size() && !waiting.empty();) {
            before = waiting.size();
            std::vector<Cells> left;
            take_part(waiting.begin(), waiting.end(), left);
            waiting = std::move(left);
        }
    };
    if (cells.size() > 1) take(units);
    // Of a new row that can not be, what can: the rest stays in it to be mended.
    std::vector<Cells> single;
    for (const Cells& unit : units)
        for (auto it = unit.rbegin(); unit.size() > 1 && it != unit.rend(); ++it)
            if (!it->second.isEmpty()) single.push_back({*it});
    take(single);
    for (const auto& [cell, text] : cells) {
        if (accepted.contains(cell)) continue;
        const auto said = why.find(cell);
        Problem problem = said == why.end() ? whole : said->second;
        problem.where.clear();
        refused[cell] = {text, std::move(problem), {}};
    }
    return accepted;
}

void TableModel::write(const std::vector<Typed>& typed, const QString& label) {
    if (!writer_ || writing_) return;
    std::map<Cell, QString> cells;
    std::set<int> rows;
    for (const Typed& t : typed) {
        const Cell cell{source_row(t.row), t.column};
        if (!column(t.column).edit) continue;
        if (cell.first < count_ && column(t.column).fixed && column(t.column).fixed(cell.first))
            continue;
        const QString text = t.text.trimmed();
        const bool drafted = drafts_.erase(cell) > 0;
        if (stands(cell, text)) {
            if (drafted) rows.insert(cell.first);
            continue;
        }
        cells[cell] = text;
        rows.insert(cell.first);
    }
    // What was refused in these rows may be right with what is typed now.
    for (const auto& [cell, draft] : drafts_)
        if (rows.contains(cell.first)) cells.try_emplace(cell, draft.text);
    // A new row that holds nothing is none.
    std::set<int> written;
    for (const auto& [cell, text] : cells)
        if (!text.isEmpty()) written.insert(cell.first);
    std::erase_if(cells, [&](const auto& c) {
        return c.first.first >= count_ && !written.contains(c.first.first);
    });
    for (const auto& [cell, text] : cells)
        drafts_.erase(cell);
    if (cells.empty()) {
        refresh();
        emit refused_or_mended();
        return;
    }
    writing_ = true;
    const int before = count_;
    const QString name =
        !label.isEmpty()    ? label
        : cells.size() == 1 ? tr("%1 %2").arg(what_, cell_name(cells.begin()->first))
        : rows.size() == 1  ? tr("%1 %2").arg(what_, row_name(cells.begin()->first.first)).trimmed()
                            : what_;
    std::map<Cell, QString> accepted = cells;
    std::map<Cell, Draft> refused;
    if (const auto ok = writer_->edit(name, edit_of(cells)); !ok) {
        accepted = as_many_as_can_be(cells, refused, ok.error());
        // What was accepted was tried: it goes in.
        if (!accepted.empty()) writer_->change(name, edit_of(accepted));
    }
    writing_ = false;
    drafts_.merge(refused);
    // Where new rows went in they are rows now; those that were refused stay behind them.
    std::map<int, int> now;
    for (const auto& [cell, text] : accepted)
        if (cell.first >= before)
            now.try_emplace(cell.first, before + static_cast<int>(now.size()));
    int next = rows_.count();
    std::map<Cell, Draft> stay;
    for (auto& [cell, draft] : drafts_) {
        Cell at = cell;
        if (at.first >= before) {
            const auto [it, fresh] = now.try_emplace(cell.first, next);
            next += fresh;
            at.first = it->second;
        }
        stay[at] = std::move(draft);
    }
    drafts_ = std::move(stay);
    count_ = rows_.count(); // they are told by the rows there are now
    // A name may just have been typed.
    for (auto& [cell, draft] : drafts_)
        draft.row = rows_.name && cell.first < rows_.count() ? rows_.name(cell.first) : QString();
    refresh();
    emit refused_or_mended();
}

void TableModel::follow_rows(int counted) {
    // Rows came, went or moved by another hand: what was refused stays with its row, and goes with
    // it. Where rows have no names, it goes with any of them.
    std::map<Cell, Draft> stay;
    for (auto& [cell, draft] : drafts_) {
        Cell at = cell;
        if (cell.first >= count_) {
            at.first += counted - count_; // a new row, not whole yet
        } else if (!rows_.name || counted == 0) {
            if (counted != count_) continue;
        } else if (cell.first >= counted || rows_.name(cell.first) != draft.row) {
            int found = -1;
            for (int row = 0; row < counted && found < 0; ++row)
                if (rows_.name(row) == draft.row) found = row;
            if (found < 0) continue;
            at.first = found;
        }
        stay[at] = std::move(draft);
    }
    drafts_ = std::move(stay);
}

void TableModel::take_out(std::vector<int> shown) {
    if (!can_take_out()) return;
    std::vector<int> rows;
    bool drafts = false;
    for (const int s : shown) {
        const int row = source_row(s);
        if (row < count_)
            rows.push_back(row);
        else
            drafts |=
                std::erase_if(drafts_, [&](const auto& d) { return d.first.first == row; }) > 0;
    }
    if (rows.empty()) {
        if (drafts) refresh();
        emit refused_or_mended();
        return;
    }
    std::sort(rows.rbegin(), rows.rend());
    std::vector<job::Edit> edits;
    for (const int row : rows)
        edits.push_back(rows_.take_out(row));
    drafts_.clear(); // rows move up: what was refused belonged to others
    const QString name = rows.size() == 1 ? row_name(rows[0]) : QString::number(rows.size());
    writer_->change(tr("Take out %1 %2").arg(what_.toLower(), name), job::all_of(std::move(edits)));
    refresh();
    emit refused_or_mended();
}

bool TableModel::give_back(const QModelIndex& index) {
    const int row = source_row(index.row());
    // A new row goes as a whole.
    const auto gone = row >= count_
                          ? std::erase_if(drafts_, [&](auto& d) { return d.first.first == row; })
                          : drafts_.erase({row, index.column()});
    if (!gone) return false;
    refresh();
    emit refused_or_mended();
    return true;
}

QString TableModel::refusal() const {
    if (drafts_.empty()) return {};
    const auto& [cell, draft] = *drafts_.begin();
    QString said = cell.first >= count_
                       ? tr("The new row is not whole yet: %1").arg(words(draft.why.text()))
                       : tr("%1: %2").arg(cell_name(cell), words(draft.why.text()));
    std::set<Cell> all;
    for (const auto& [at, d] : drafts_)
        if (at.first < count_ || at.first != cell.first) all.insert(at);
    if (all.size() > 1) said += " " + tr("(%1 cells are refused.)").arg(drafts_.size());
    return said;
}

void TableModel::refresh() {
    if (writing_) return;
    const int was = rowCount();
    const int counted = rows_.count();
    if (!drafts_.empty()) follow_rows(counted);
    count_ = counted;
    cells_.resize(static_cast<std::size_t>(count_));
    names_.clear();
    for (int row = 0; rows_.name && row < count_; ++row)
        names_.push_back(rows_.name(row));
    for (int row = 0; row < count_; ++row) {
        auto& cells = cells_[static_cast<std::size_t>(row)];
        cells.resize(columns_.size());
        for (std::size_t c = 0; c < columns_.size(); ++c)
            cells[c] = columns_[c].show(row);
    }
    std::set<int> typed;
    for (const auto& [cell, draft] : drafts_)
        if (cell.first >= count_) typed.insert(cell.first);
    const int spare = can_add() ? static_cast<int>(typed.size()) + 1 : 0;
    std::vector<int> before = std::move(order_);
    order_ = before; // rowCount() is asked while rows are announced
    std::vector<int> next;
    for (int row = 0; row < count_; ++row) {
        const auto& cells = cells_[static_cast<std::size_t>(row)];
        const bool there =
            filter_.isEmpty() || std::any_of(cells.begin(), cells.end(), [&](const CellText& c) {
                return c.text.contains(filter_, Qt::CaseInsensitive);
            });
        if (there) next.push_back(row);
    }
    const int now = static_cast<int>(next.size()) + spare;
    if (now > was)
        beginInsertRows({}, was, now - 1);
    else if (now < was)
        beginRemoveRows({}, now, was - 1);
    order_ = std::move(next);
    spare_ = spare;
    sort_rows();
    if (now > was)
        endInsertRows();
    else if (now < was)
        endRemoveRows();
    if (now > 0) emit dataChanged(index(0, 0), index(now - 1, columnCount() - 1));
}

void TableModel::sort_rows() {
    if (order_column_ < 0) return;
    const Column& c = column(order_column_);
    const auto before = [&](int a, int b) {
        if (c.sort_by) return c.sort_by(a) < c.sort_by(b);
        const auto at = static_cast<std::size_t>(order_column_);
        return cells_[static_cast<std::size_t>(a)][at].text.localeAwareCompare(
                   cells_[static_cast<std::size_t>(b)][at].text) < 0;
    };
    std::stable_sort(order_.begin(), order_.end(),
                     [&](int a, int b) { return descending_ ? before(b, a) : before(a, b); });
}

void TableModel::order_by(int column, bool descending) {
    order_column_ = column;
    descending_ = descending;
    refresh();
    emit headerDataChanged(Qt::Horizontal, 0, columnCount() - 1);
}

void TableModel::filter(const QString& text) {
    filter_ = text.trimmed();
    refresh();
}

} // namespace conductus::app
