// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/fields.h"

#include <QApplication>
#include <QFontInfo>
#include <QHeaderView>
#include <QKeyEvent>
#include <QPainter>
#include <QStyle>
#include <QTableView>
#include <algorithm>
#include <string_view>

namespace conductus::app {

EntryField::EntryField(const QString& name, Commit commit, QWidget* parent)
    : QWidget(parent), line_(new QLineEdit(this)), note_(label({}, "refused", this)),
      commit_(std::move(commit)) {
    line_->setAccessibleName(name);
    note_->setWordWrap(true);
    note_->hide();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(1);
    column->addWidget(line_);
    column->addWidget(note_);
    setFocusProxy(line_);
    connect(line_, &QLineEdit::editingFinished, this, &EntryField::commit);
}

void EntryField::show_value(const QString& text) {
    shown_ = text;
    if (!note_->isHidden() || line_->isModified()) return;
    if (line_->text() != text) line_->setText(text);
}

void EntryField::commit() {
    if (!line_->isModified() && note_->isHidden()) return;
    const auto ok = commit_(line_->text());
    const bool refused = !ok;
    line_->setProperty("refused", refused);
    line_->style()->unpolish(line_);
    line_->style()->polish(line_);
    note_->setVisible(refused);
    if (refused) {
        // Where it is, the person sees.
        Problem p = ok.error();
        p.where.clear();
        note_->setText(QString::fromStdString(p.text()));
        line_->setAccessibleDescription(note_->text());
        return;
    }
    line_->setModified(false);
    line_->setAccessibleDescription({});
    line_->setText(shown_);
}

LinkButton::LinkButton(const QString& text, const Appearance& appearance, QWidget* parent)
    : QAbstractButton(parent), appearance_(appearance) {
    setText(text);
    setAccessibleName(text);
    setCursor(Qt::PointingHandCursor);
    setFocusPolicy(Qt::StrongFocus);
    QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Preferred);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

QFont LinkButton::lettering() const {
    QFont font = page_font(appearance_.text() * 0.95, true);
    font.setUnderline(true);
    return font;
}

int LinkButton::heightForWidth(int width) const {
    return QFontMetrics(lettering())
               .boundingRect(QRect(0, 0, width - 4, 1000), Qt::TextWordWrap, text())
               .height() +
           4;
}

QSize LinkButton::sizeHint() const {
    // As wide as its words, which wrap where they are long.
    const int words = QFontMetrics(lettering()).horizontalAdvance(text()) + 6;
    const int width = std::min(words, qRound(appearance_.text() * 12));
    return {width, heightForWidth(width)};
}

void LinkButton::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setFont(lettering());
    p.setPen(appearance_.inks().petrol);
    p.drawText(rect().adjusted(2, 2, -2, -2), Qt::TextWordWrap, text());
    if (hasFocus()) {
        p.setPen(appearance_.inks().petrol);
        p.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void with_text_size(QWidget* widget, const Appearance& appearance, std::function<void()> size) {
    size();
    QObject::connect(&appearance, &Appearance::changed, widget, std::move(size));
}

void keep_least_width(QWidget* widget, const Appearance& appearance, double letters) {
    with_text_size(widget, appearance, [widget, &appearance, letters] {
        widget->setMinimumWidth(qRound(appearance.text() * letters));
    });
}

void keep_width(QWidget* widget, const Appearance& appearance, double letters) {
    with_text_size(widget, appearance, [widget, &appearance, letters] {
        widget->setFixedWidth(qRound(appearance.text() * letters));
    });
}

void keep_column(QTableView* table, const Appearance& appearance, int column, double letters) {
    table->horizontalHeader()->setSectionResizeMode(column, QHeaderView::Interactive);
    with_text_size(table, appearance, [table, &appearance, column, letters] {
        table->horizontalHeader()->resizeSection(column, qRound(appearance.text() * letters));
    });
}

void keep_row_height(QTableView* table, const Appearance& appearance) {
    table->verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
    table->verticalHeader()->setMinimumSectionSize(10);
    with_text_size(table, appearance, [table, &appearance] {
        table->verticalHeader()->setDefaultSectionSize(qRound(appearance.text() * 1.85));
    });
}

namespace {

/// Larger than running text. Its own font is that of running text, so that a change of text size
/// comes down to it as to all others.
class TitleLabel : public QLabel {
public:
    using QLabel::QLabel;
    [[nodiscard]] QSize sizeHint() const override {
        const QFontMetrics m(larger());
        const int whole = m.horizontalAdvance(text()) + 2;
        if (!wordWrap()) return {whole, m.height()};
        const int width = std::min(whole, m.averageCharWidth() * 30);
        return {width, heightForWidth(width)};
    }
    [[nodiscard]] QSize minimumSizeHint() const override {
        return wordWrap() ? QSize(QFontMetrics(larger()).averageCharWidth() * 8,
                                  QFontMetrics(larger()).height())
                          : sizeHint();
    }
    [[nodiscard]] int heightForWidth(int width) const override {
        return QFontMetrics(larger())
            .boundingRect(QRect(0, 0, std::max(1, width), 10000), Qt::TextWordWrap, text())
            .height();
    }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter p(this);
        p.setFont(larger());
        p.setPen(palette().color(foregroundRole()));
        p.drawText(contentsRect(), int(alignment()) | (wordWrap() ? Qt::TextWordWrap : 0), text());
    }

private:
    [[nodiscard]] QFont larger() const {
        QFont f = font();
        f.setPixelSize(qRound(QFontInfo(f).pixelSize() * 1.3));
        f.setBold(true);
        return f;
    }
};

} // namespace

QLabel* label(const QString& text, const char* role, QWidget* parent) {
    auto* l =
        std::string_view(role) == "title" ? new TitleLabel(text, parent) : new QLabel(text, parent);
    l->setProperty("role", role);
    return l;
}

std::pair<QFrame*, QVBoxLayout*> paper(const QString& title, const QString& remark,
                                       QWidget* parent) {
    auto* frame = new QFrame(parent);
    frame->setObjectName("paper");
    auto* column = new QVBoxLayout(frame);
    column->setContentsMargins(14, 8, 14, 10);
    auto* head = new QHBoxLayout;
    head->addWidget(label(title, "title", frame));
    head->addStretch();
    head->addWidget(label(remark, "second", frame));
    column->addLayout(head);
    return {frame, column};
}

} // namespace conductus::app
