// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/table/cell_delegate.h"

#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include "app/table/table_model.h"

namespace conductus::app {
namespace {

QStringList choices_of(const QModelIndex& index) {
    const auto* model = qobject_cast<const TableModel*>(index.model());
    if (!model || !model->is_typed(index)) return {};
    const Column& column = model->column(index.column());
    return column.choices ? column.choices(model->source_row(index.row())) : QStringList();
}

/// What is typed and refused stands in words; all else of a column with a picture is drawn.
bool is_drawn(const QModelIndex& index) {
    const auto* model = qobject_cast<const TableModel*>(index.model());
    if (!model) return false;
    const Column& column = model->column(index.column());
    const int row = model->source_row(index.row());
    return column.picture && row < model->source_count() &&
           index.data().toString() == column.show(row).text;
}

} // namespace

QWidget* CellDelegate::createEditor(QWidget* parent, const QStyleOptionViewItem&,
                                    const QModelIndex& index) const {
    auto* line = new QLineEdit(parent);
    line->setFrame(false);
    if (const auto* model = qobject_cast<const TableModel*>(index.model())) {
        line->setAccessibleName(
            model->headerData(index.column(), Qt::Horizontal, Qt::DisplayRole).toString());
        if (model->column(index.column()).figures) line->setAlignment(Qt::AlignRight);
    }
    connect(
        line, &QLineEdit::textEdited, this,
        [this, at = QPersistentModelIndex(index)](const QString& text) { emit typing(at, text); });
    return line;
}

void CellDelegate::setEditorData(QWidget* editor, const QModelIndex& index) const {
    auto* line = static_cast<QLineEdit*>(editor);
    // An answer that comes while a person types shows other cells afresh, not this one.
    if (line->isModified()) return;
    line->setText(index.data(Qt::EditRole).toString());
    line->selectAll();
}

void CellDelegate::setModelData(QWidget* editor, QAbstractItemModel* model,
                                const QModelIndex& index) const {
    model->setData(index, static_cast<QLineEdit*>(editor)->text(), Qt::EditRole);
}

void CellDelegate::initStyleOption(QStyleOptionViewItem* option, const QModelIndex& index) const {
    QStyledItemDelegate::initStyleOption(option, index);
    if (is_drawn(index)) option->text.clear();
}

QSize CellDelegate::sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const {
    QSize size = QStyledItemDelegate::sizeHint(option, index);
    if (!dense_) size.rwidth() += 6;
    if (!dense_ && !choices_of(index).isEmpty()) size.rwidth() += qRound(appearance_.text());
    return size;
}

void CellDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option,
                         const QModelIndex& index) const {
    const Inks& inks = appearance_.inks();
    const bool chosen = option.state.testFlag(QStyle::State_Selected);
    if (chosen) painter->fillRect(option.rect, inks.chosen);
    // Figures stand off from the words beside them.
    QStyleOptionViewItem inner = option;
    const int pad = dense_ ? 0 : 3;
    inner.rect.adjust(pad, 0, -pad, 0);
    QStyledItemDelegate::paint(painter, inner, index);
    const auto* model = qobject_cast<const TableModel*>(index.model());
    if (model && index.column() == 0 && index.row() == model->rowCount() - 1 && model->can_add() &&
        index.data().toString().isEmpty()) {
        painter->setPen(inks.second); // the row to type the next one in
        painter->drawText(inner.rect.adjusted(3, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter, "+");
    }
    if (model) {
        if (is_drawn(index)) {
            painter->save();
            painter->setRenderHint(QPainter::Antialiasing);
            model->column(index.column())
                .picture(*painter, QRectF(option.rect).adjusted(2, 2, -2, -2),
                         model->source_row(index.row()));
            painter->restore();
        }
    }
    const bool over = option.state.testFlag(QStyle::State_MouseOver);
    if (!(chosen || over) || choices_of(index).isEmpty()) return;
    const int wide = qRound(appearance_.text());
    const QRectF box(option.rect.right() - wide, option.rect.top() + 2, wide,
                     option.rect.height() - 4);
    const double h = appearance_.text() * 0.18;
    painter->save();
    painter->setRenderHint(QPainter::Antialiasing);
    painter->fillRect(box, inks.chosen);
    painter->setPen(QPen(inks.petrol, 1.4));
    QPainterPath arrow(box.center() + QPointF(-h * 1.6, -h));
    arrow.lineTo(box.center() + QPointF(0, h));
    arrow.lineTo(box.center() + QPointF(h * 1.6, -h));
    painter->drawPath(arrow);
    painter->restore();
}

bool CellDelegate::editorEvent(QEvent* event, QAbstractItemModel* model,
                               const QStyleOptionViewItem& option, const QModelIndex& index) {
    if (event->type() == QEvent::MouseButtonRelease && !choices_of(index).isEmpty()) {
        const auto* mouse = static_cast<QMouseEvent*>(event);
        if (mouse->position().x() > option.rect.right() - appearance_.text() * 1.2) {
            emit choices_wanted(index);
            return true;
        }
    }
    return QStyledItemDelegate::editorEvent(event, model, option, index);
}

} // namespace conductus::app
