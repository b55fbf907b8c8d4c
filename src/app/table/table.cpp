// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/table/table.h"

#include <QApplication>
#include <QClipboard>
#include <QContextMenuEvent>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QRegularExpression>
#include <QScrollBar>
#include <algorithm>
#include <set>

#include "app/session/session.h"
#include "app/shell/fields.h"
#include "app/table/cell_delegate.h"

namespace conductus::app {
namespace {

/// The open job as a table writes it.
class SessionWriter : public TableWriter {
public:
    explicit SessionWriter(Session& session) : session_(session) {}
    Result<void> tried(const job::Edit& change) override {
        return session_.tried(change).map([](const job::Job&) {});
    }
    Result<void> edit(const QString& label, const job::Edit& change) override {
        return session_.edit(label, change);
    }
    void change(const QString& label, const job::Edit& change) override {
        session_.change(label, change);
    }

private:
    Session& session_;
};

} // namespace

namespace {

/// Titles, or what a column draws in their place.
class Header : public QHeaderView {
public:
    Header(const TableModel& model, QWidget* parent)
        : QHeaderView(Qt::Horizontal, parent), model_(model) {
        setSectionsClickable(true); // a click chooses the column, as in every table
    }

protected:
    void paintSection(QPainter* painter, const QRect& box, int column) const override {
        const auto& head = model_.column(column).head;
        if (!head) return QHeaderView::paintSection(painter, box, column);
        painter->save();
        // As the pictures of its cells, which stand off from the edges.
        head(*painter, QRectF(box).adjusted(2, 0, -2, -1));
        painter->restore();
    }

private:
    const TableModel& model_;
};

} // namespace

Table::Table(Setup setup, const Appearance& appearance, QWidget* parent)
    : QTableView(parent),
      of_session_(setup.session ? std::make_unique<SessionWriter>(*setup.session) : nullptr),
      model_(new TableModel(setup.what.isEmpty() ? setup.name : setup.what,
                            std::move(setup.columns), std::move(setup.rows),
                            setup.writer ? setup.writer : of_session_.get(), appearance, this)),
      appearance_(appearance), refusal_(label({}, "refused", parent)), empty_(setup.empty) {
    setObjectName(setup.object);
    setAccessibleName(setup.name);
    refusal_->setObjectName(setup.object + "Refusal");
    refusal_->setWordWrap(true);
    refusal_->hide();
    setModel(model_);
    auto* delegate = new CellDelegate(appearance, setup.dense, this);
    connect(delegate, &CellDelegate::choices_wanted, this, &Table::show_choices);
    setItemDelegate(delegate);
    if (setup.live && setup.session) {
        // Half a number may be none, or one that can not be: the drawing waits for the next letter.
        connect(delegate, &CellDelegate::typing, this,
                [this, session = setup.session](const QModelIndex& index, const QString& text) {
                    if (model_->column(index.column()).edit && !text.trimmed().isEmpty())
                        (void)session->preview(model_->edit_for(index, text.trimmed()));
                });
        connect(delegate, &QAbstractItemDelegate::closeEditor, this,
                [session = setup.session] { session->end_preview(); });
    }
    setShowGrid(false);
    setWordWrap(setup.wrap);
    setTabKeyNavigation(false);
    setProperty("dense", setup.dense);
    const bool typed = setup.session || setup.writer;
    setSelectionMode(QAbstractItemView::ContiguousSelection);
    setSelectionBehavior(typed ? QAbstractItemView::SelectItems : QAbstractItemView::SelectRows);
    setEditTriggers(QAbstractItemView::AnyKeyPressed | QAbstractItemView::DoubleClicked |
                    QAbstractItemView::EditKeyPressed);
    verticalHeader()->hide();
    keep_row_height(this, appearance);
    if (setup.wrap) verticalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    for (int c = 0; c < model_->columnCount(); ++c)
        if (model_->column(c).head && !dynamic_cast<Header*>(horizontalHeader()))
            setHorizontalHeader(new Header(*model_, this));
    auto* header = horizontalHeader();
    header->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    header->setHighlightSections(false);
    header->setMinimumSectionSize(qRound(appearance.text() * (setup.dense ? 2.2 : 3)));
    header->setSectionResizeMode(setup.wide < 0 ? QHeaderView::Stretch
                                                : QHeaderView::ResizeToContents);
    if (setup.wide >= 0) header->setSectionResizeMode(setup.wide, QHeaderView::Stretch);
    main_ = setup.main;
    with_text_size(this, appearance, [this, &appearance, n = setup.least_rows] {
        // Headers have a font of their class, which another style sheet gives back to them.
        horizontalHeader()->setFont(page_font(appearance.text()));
        least_ = n > 0 ? qRound(appearance.text() * 1.85 * (n + 1.3)) : 0;
        keep_rows_in_sight();
    });
    connect(&appearance, &Appearance::rows_changed, this, &Table::keep_rows_in_sight);
    connect(model_, &TableModel::refused_or_mended, this, &Table::say_refusal);
    connect(this, &QTableView::doubleClicked, this, [this](const QModelIndex& index) {
        if (!model_->is_typed(index)) emit row_activated(model_->source_row(index.row()));
    });
    if (setup.sortable) {
        header->setSectionsClickable(true);
        connect(header, &QHeaderView::sectionClicked, this, [this](int column) {
            const auto [was, descending] = model_->ordered_by();
            // Up, down, and as they come.
            if (was != column)
                model_->order_by(column, false);
            else
                model_->order_by(descending ? -1 : column, true);
        });
    }
}

void Table::refresh() {
    const int row = currentIndex().isValid() ? chosen() : -1;
    const int column = currentIndex().column();
    const QString name = row >= 0 ? model_->row_name(row) : QString();
    const int shown = currentIndex().row();
    model_->refresh();
    if (shown >= 0) {
        // The same thing stays chosen, wherever it is now.
        int to = -1;
        for (int r = 0; !name.isEmpty() && r < model_->source_count() && to < 0; ++r)
            if (model_->row_name(r) == name) to = model_->shown_row(r);
        if (to < 0) to = std::min(shown, model_->rowCount() - 1);
        const QModelIndex now = model_->index(to, column);
        if (now != currentIndex() && now.isValid()) {
            quiet_ = true;
            setCurrentIndex(now);
            quiet_ = false;
        }
    }
    keep_rows_in_sight();
    say_refusal();
    viewport()->update();
}

int Table::height_of(int rows) const {
    const int all = model_->rowCount();
    // Rows that wrap are as high as their words ask.
    const int high = rows < all ? rows * verticalHeader()->defaultSectionSize()
                                : std::max(verticalHeader()->length(),
                                           rows * verticalHeader()->defaultSectionSize());
    // Columns may turn out too wide later: their scroll bar has its room.
    const int below = whole_ || horizontalScrollBar()->maximum() > 0
                          ? horizontalScrollBar()->sizeHint().height()
                          : 0;
    return horizontalHeader()->sizeHint().height() + 8 + high + below;
}

void Table::keep_rows_in_sight() {
    const int all = model_->rowCount();
    int least = least_;
    if (main_) least = std::max(least, height_of(std::min(all, appearance_.rows())));
    if (whole_) least = std::max(least, height_of(std::max(all, 1)));
    if (fit_most_ > 0 && !whole_) return as_high_as_its_rows(fit_most_);
    if (fit_most_ > 0) least = std::max(least, minimumHeight());
    if (least != minimumHeight()) setMinimumHeight(least);
    if (fit_most_ > 0 && maximumHeight() != least) setMaximumHeight(least);
}

void Table::show_whole(bool whole) {
    if (whole == whole_) return;
    whole_ = whole;
    keep_rows_in_sight();
}

void Table::as_high_as_its_rows(int most) {
    fit_most_ = most;
    int rows = std::min(model_->rowCount(), most);
    if (model_->source_count() == 0 && !empty_.isEmpty()) rows += 3; // what it says of itself
    setFixedHeight(horizontalHeader()->sizeHint().height() + 8 +
                   rows * verticalHeader()->defaultSectionSize());
}

void Table::say_refusal() {
    const QString said = model_->refusal();
    refusal_->setText(said);
    refusal_->setVisible(!said.isEmpty());
}

int Table::chosen() const {
    if (!currentIndex().isValid()) return -1;
    const int row = model_->source_row(currentIndex().row());
    return row < model_->source_count() ? row : -1;
}

void Table::choose(int source_row, int column) {
    const int shown = source_row < 0 ? -1 : model_->shown_row(source_row);
    quiet_ = true;
    setCurrentIndex(shown < 0 ? QModelIndex() : model_->index(shown, column));
    quiet_ = false;
}

QString Table::text(int shown_row, int column) const {
    return model_->index(shown_row, column).data().toString();
}

void Table::currentChanged(const QModelIndex& now, const QModelIndex& before) {
    QTableView::currentChanged(now, before);
    if (quiet_ || !now.isValid() || (before.isValid() && now.row() == before.row())) return;
    if (const int row = chosen(); row >= 0) emit row_chosen(row);
}

std::vector<int> Table::selected_rows() const {
    std::set<int> rows;
    for (const QModelIndex& index : selectedIndexes())
        rows.insert(index.row());
    if (rows.empty() && currentIndex().isValid()) rows.insert(currentIndex().row());
    return {rows.begin(), rows.end()};
}

std::vector<int> Table::columns_in_sight(int left, int right) const {
    std::vector<int> columns;
    for (int column = left; column <= right; ++column)
        if (!isColumnHidden(column)) columns.push_back(column);
    return columns;
}

void Table::copy() const {
    const QModelIndexList cells = selectedIndexes();
    if (cells.isEmpty()) return;
    int top = INT_MAX, bottom = 0, left = INT_MAX, right = 0;
    for (const QModelIndex& cell : cells) {
        top = std::min(top, cell.row());
        bottom = std::max(bottom, cell.row());
        left = std::min(left, cell.column());
        right = std::max(right, cell.column());
    }
    QStringList lines;
    for (int row = top; row <= bottom; ++row) {
        QStringList line;
        for (const int column : columns_in_sight(left, right))
            line << model_->typed_text(model_->index(row, column)).simplified();
        lines << line.join('\t');
    }
    QApplication::clipboard()->setText(lines.join('\n'));
}

void Table::clear() {
    std::vector<TableModel::Typed> cells;
    for (const QModelIndex& cell : selectedIndexes())
        if (model_->is_typed(cell)) cells.push_back({cell.row(), cell.column(), {}});
    model_->write(cells);
}

void Table::take_out() { model_->take_out(selected_rows()); }

void Table::paste() {
    QString text = QApplication::clipboard()->text();
    while (text.endsWith('\n') || text.endsWith('\r'))
        text.chop(1);
    if (text.isEmpty() || !currentIndex().isValid()) {
        if (text.isEmpty() || model_->rowCount() == 0) return;
        setCurrentIndex(beside({}, true));
    }
    const QStringList lines = text.split(QRegularExpression("\r?\n"));
    std::vector<TableModel::Typed> cells;
    if (lines.size() == 1 && !lines[0].contains('\t') && selectedIndexes().size() > 1) {
        for (const QModelIndex& cell : selectedIndexes())
            cells.push_back({cell.row(), cell.column(), lines[0]});
    } else {
        const std::vector<int> rows = selected_rows();
        const int top = rows.empty() ? currentIndex().row() : rows.front();
        int left = currentIndex().column();
        for (const QModelIndex& cell : selectedIndexes())
            left = std::min(left, cell.column());
        const std::vector<int> columns = columns_in_sight(left, model_->columnCount() - 1);
        for (int i = 0; i < lines.size(); ++i) {
            // Rows that are not there yet are added, where they can be.
            if (top + i >= model_->rowCount() && !model_->can_add()) break;
            const QStringList texts = lines[i].split('\t');
            for (std::size_t k = 0; k < columns.size() && qsizetype(k) < texts.size(); ++k)
                cells.push_back({top + i, columns[k], texts[qsizetype(k)]});
        }
    }
    model_->write(cells);
}

void Table::fill_down() {
    const QModelIndexList selected = selectedIndexes();
    std::map<int, std::vector<int>> columns;
    for (const QModelIndex& cell : selected)
        columns[cell.column()].push_back(cell.row());
    std::vector<TableModel::Typed> cells;
    for (auto& [column, rows] : columns) {
        std::sort(rows.begin(), rows.end());
        // One cell alone takes what stands above it.
        const int from = rows.size() == 1 ? rows[0] - 1 : rows[0];
        if (from < 0) continue;
        const QString text = model_->typed_text(model_->index(from, column));
        for (const int row : rows)
            if (row != from) cells.push_back({row, column, text});
    }
    model_->write(cells);
}

void Table::keyPressEvent(QKeyEvent* event) {
    // What is typed is the field's; it gives back the Enter that ends it.
    if (state() == EditingState) return event->ignore();
    const QModelIndex now = currentIndex();
    const bool plain = !(event->modifiers() & ~(Qt::ShiftModifier | Qt::KeypadModifier));
    if (event->key() >= Qt::Key_Home && event->key() <= Qt::Key_PageDown) begun_ = -1;
    if (event->matches(QKeySequence::Copy)) return copy();
    if (event->matches(QKeySequence::Cut)) {
        copy();
        return clear();
    }
    if (event->matches(QKeySequence::Paste)) return paste();
    if (event->modifiers() == Qt::ControlModifier && event->key() == Qt::Key_D) return fill_down();
    if (letter_ && plain && now.isValid() && !model_->is_typed(now) && chosen() >= 0 &&
        letter_(chosen(), event->key()))
        return;
    if (event->key() == Qt::Key_Delete && model_->can_take_out() &&
        (event->modifiers() == Qt::ControlModifier ||
         (plain && now.isValid() && now.column() == 0)))
        return take_out();
    if (event->key() == Qt::Key_Delete && plain) return clear();
    if (event->key() == Qt::Key_Escape && plain && now.isValid() && model_->give_back(now)) return;
    // Out of a long table without walking through it.
    if (event->key() == Qt::Key_Tab && event->modifiers() == Qt::ControlModifier) {
        QTableView::focusNextPrevChild(true);
        return;
    }
    if (event->key() == Qt::Key_Down && event->modifiers() == Qt::AltModifier)
        return show_choices(now);
    if (event->key() == Qt::Key_Insert && plain && model_->can_add()) {
        setCurrentIndex(model_->index(model_->rowCount() - 1, 0));
        return;
    }
    if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) && plain) {
        if (!now.isValid()) return QTableView::keyPressEvent(event);
        if (model_->is_typed(now)) return edit(now);
        if (now.flags().testFlag(Qt::ItemIsUserCheckable)) {
            model_->setData(now, now.data(Qt::CheckStateRole).toInt() ? Qt::Unchecked : Qt::Checked,
                            Qt::CheckStateRole);
            return;
        }
        if (const int row = chosen(); row >= 0) emit row_activated(row);
        return;
    }
    // Who types where nothing is chosen yet types into the first cell there is.
    if (!now.isValid() && plain && !event->text().isEmpty() && event->text()[0].isPrint())
        setCurrentIndex(beside({}, true));
    QTableView::keyPressEvent(event);
}

void Table::show_choices(const QModelIndex& index) {
    const Column& column = model_->column(index.column());
    const int row = model_->source_row(index.row());
    if (!model_->is_typed(index) || !column.choices) return;
    auto* menu = new QMenu(this);
    menu->setObjectName(objectName() + "Choices");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const QString now = model_->typed_text(index);
    for (const QString& choice : column.choices(row)) {
        QAction* action =
            menu->addAction(choice, this, [this, index = QPersistentModelIndex(index), choice] {
                if (index.isValid()) model_->setData(index, choice, Qt::EditRole);
            });
        action->setCheckable(true);
        action->setChecked(choice == now);
        if (choice == now) menu->setActiveAction(action);
    }
    menu->popup(viewport()->mapToGlobal(visualRect(index).bottomLeft()));
}

QModelIndex Table::beside(const QModelIndex& from, bool next) const {
    const int wide = model_->columnCount(), cells = model_->rowCount() * wide;
    const int step = next ? 1 : -1;
    const int first = from.isValid() ? from.row() * wide + from.column() + step : 0;
    for (int cell = first; cell >= 0 && cell < cells; cell += step) {
        const QModelIndex index = model_->index(cell / wide, cell % wide);
        if (model_->is_typed(index) && !isColumnHidden(index.column())) return index;
    }
    return {};
}

QModelIndex Table::below(const QModelIndex& from) const {
    const int column = begun_ >= 0 ? begun_ : from.column();
    for (int row = from.row() + 1; row < model_->rowCount(); ++row)
        if (const QModelIndex index = model_->index(row, column); model_->is_typed(index))
            return index;
    return {};
}

void Table::walk_to(const QModelIndex& index) {
    if (!index.isValid()) return;
    setCurrentIndex(index);
    scrollTo(index);
}

bool Table::focusNextPrevChild(bool next) {
    const QModelIndex target = hasFocus() ? beside(currentIndex(), next) : QModelIndex();
    if (!target.isValid()) return QTableView::focusNextPrevChild(next);
    if (begun_ < 0 && currentIndex().isValid()) begun_ = currentIndex().column();
    walk_to(target);
    return true;
}

void Table::closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) {
    using Hint = QAbstractItemDelegate::EndEditHint;
    const QModelIndex at = currentIndex();
    QTableView::closeEditor(editor, Hint::NoHint);
    if (hint == Hint::EditNextItem || hint == Hint::EditPreviousItem) {
        if (begun_ < 0) begun_ = at.column();
        const QModelIndex target = beside(at, hint == Hint::EditNextItem);
        target.isValid() ? walk_to(target) : void(QTableView::focusNextPrevChild(true));
    } else if (hint == Hint::SubmitModelCache) {
        walk_to(below(at));
        begun_ = -1;
    }
}

void Table::contextMenuEvent(QContextMenuEvent* event) {
    QModelIndex at =
        event->reason() == QContextMenuEvent::Mouse ? indexAt(event->pos()) : currentIndex();
    if (!at.isValid()) return;
    if (!selectionModel()->isSelected(at)) setCurrentIndex(at);
    auto* menu = new QMenu(this);
    menu->setObjectName(objectName() + "Menu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const int row = model_->source_row(at.row());
    if (more_ && row < model_->source_count()) {
        more_(*menu, row);
        if (!menu->isEmpty()) menu->addSeparator();
    }
    const auto entry = [&](const QString& name, const QKeySequence& key, void (Table::*done)()) {
        auto* action = menu->addAction(name, this, done);
        action->setShortcut(key);
        action->setShortcutContext(Qt::WidgetShortcut);
    };
    menu->addAction(tr("Copy"), this, [this] { copy(); })->setShortcut(QKeySequence::Copy);
    if (model_->is_typed(at)) {
        entry(tr("Paste"), QKeySequence::Paste, &Table::paste);
        entry(tr("Fill down"), QKeySequence("Ctrl+D"), &Table::fill_down);
        entry(tr("Clear"), QKeySequence::Delete, &Table::clear);
    }
    if (model_->can_take_out())
        entry(tr("Take the row out"), QKeySequence("Ctrl+Del"), &Table::take_out);
    menu->popup(event->reason() == QContextMenuEvent::Mouse
                    ? event->globalPos()
                    : viewport()->mapToGlobal(visualRect(at).bottomLeft()));
}

void Table::mousePressEvent(QMouseEvent* event) {
    begun_ = -1;
    QTableView::mousePressEvent(event);
}

void Table::paintEvent(QPaintEvent* event) {
    QTableView::paintEvent(event);
    if (model_->source_count() > 0 || empty_.isEmpty()) return;
    QPainter p(viewport());
    p.setPen(appearance_.inks().second);
    const int top = model_->rowCount() * verticalHeader()->defaultSectionSize();
    p.drawText(viewport()->rect().adjusted(6, 6 + top, -6, -6), Qt::AlignTop | Qt::TextWordWrap,
               empty_);
}

} // namespace conductus::app
