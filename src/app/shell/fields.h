// SPDX-License-Identifier: GPL-3.0-or-later
// Fields that refuse bad input beside themselves, in words, with what was typed kept.
#pragma once

#include <QAbstractButton>
#include <QComboBox>
#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QVBoxLayout>
#include <functional>

#include "app/session/appearance.h"
#include "app/session/words.h"
#include "core/base/problem.h"
#include "core/job/words.h"

class QTableView;

namespace conductus::app {

/// A line to type in. On Enter or on leaving it, `commit` is given the text; what it refuses is
/// said under the line until it is mended.
class EntryField : public QWidget {
    Q_OBJECT
public:
    using Commit = std::function<Result<void>(const QString&)>;

    EntryField(const QString& name, Commit commit, QWidget* parent = nullptr);
    /// A line that loses the focus by going away commits nothing.
    ~EntryField() override { line_->disconnect(this); }

    /// Shows the value of the job; not while something refused or half typed stands here.
    void show_value(const QString& text);
    [[nodiscard]] QLineEdit* line() const { return line_; }
    [[nodiscard]] QString refusal() const { return note_->isHidden() ? QString() : note_->text(); }

private:
    void commit();
    QLineEdit* line_;
    QLabel* note_;
    Commit commit_;
    QString shown_;
};

/// A button that reads as a link and wraps.
class LinkButton : public QAbstractButton {
    Q_OBJECT
public:
    LinkButton(const QString& text, const Appearance& appearance, QWidget* parent);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] int heightForWidth(int width) const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    [[nodiscard]] QFont lettering() const;
    const Appearance& appearance_;
};

/// Keeps a widget's least width, or its only width, at so many letter heights at any text size.
void keep_least_width(QWidget* widget, const Appearance& appearance, double letters);
void keep_width(QWidget* widget, const Appearance& appearance, double letters);

/// Keeps a table's rows at a height that suits the text size.
void keep_row_height(QTableView* table, const Appearance& appearance);

/// Keeps a column of a table at so many letter heights, whatever stands in it.
void keep_column(QTableView* table, const Appearance& appearance, int column, double letters);

/// Does something now and again whenever the text size changes, while the widget lives.
void with_text_size(QWidget* widget, const Appearance& appearance, std::function<void()> size);

/// A combo with the words of an enumeration, in its order: the index is the value.
template <class E>
QComboBox* word_combo(QWidget* parent, const QString& object, const QString& name) {
    auto* combo = new QComboBox(parent);
    combo->setObjectName(object);
    combo->setAccessibleName(name);
    for (const auto& [value, word] : job::Words<E>::table)
        combo->addItem(term(word));
    return combo;
}

/// "1 job", "3 jobs".
inline QString counted(int n, const QString& one, const QString& many) {
    return (n == 1 ? one : many).arg(n);
}

/// A label in one of the theme's roles: "title", "heading", "second", "refused".
QLabel* label(const QString& text, const char* role, QWidget* parent = nullptr);

/// A sheet of paper with its title and, at the right, a remark; more goes into the column.
std::pair<QFrame*, QVBoxLayout*> paper(const QString& title, const QString& remark,
                                       QWidget* parent);

} // namespace conductus::app
