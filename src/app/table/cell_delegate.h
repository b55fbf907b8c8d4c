// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QStyledItemDelegate>

#include "app/session/appearance.h"

namespace conductus::app {

/// Fields of a table's cells: a line to type in, with the words there are to choose from behind an
/// arrow.
class CellDelegate : public QStyledItemDelegate {
    Q_OBJECT
public:
    CellDelegate(const Appearance& appearance, bool dense, QObject* parent)
        : QStyledItemDelegate(parent), appearance_(appearance), dense_(dense) {}
    QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem& option,
                          const QModelIndex& index) const override;
    void setEditorData(QWidget* editor, const QModelIndex& index) const override;
    void setModelData(QWidget* editor, QAbstractItemModel* model,
                      const QModelIndex& index) const override;
    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override;
    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem& option,
                                 const QModelIndex& index) const override;
    bool editorEvent(QEvent* event, QAbstractItemModel* model, const QStyleOptionViewItem& option,
                     const QModelIndex& index) override;

protected:
    void initStyleOption(QStyleOptionViewItem* option, const QModelIndex& index) const override;

signals:
    void choices_wanted(const QModelIndex& index); ///< the arrow was clicked
    /// What stands in a cell's field now, letter by letter; it is not committed yet.
    void typing(const QModelIndex& index, const QString& text) const;

private:
    const Appearance& appearance_;
    bool dense_; ///< no room beside the text
};

} // namespace conductus::app
