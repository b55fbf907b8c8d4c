// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shelf/card_grid.h"

#include <QKeyEvent>
#include <algorithm>
#include <unordered_set>

namespace conductus::app {

namespace {
constexpr int gap = 12;
}

CardGrid::CardGrid(const Appearance& appearance, QWidget* parent)
    : QWidget(parent), appearance_(appearance) {
    setObjectName("backdrop");
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(&appearance, &Appearance::changed, this, &CardGrid::place);
}

int CardGrid::columns() const {
    return std::clamp(static_cast<int>(width() / (appearance_.text() * 34)), 1, 6);
}

void CardGrid::show_cards(std::vector<JobCard*> cards) {
    const std::unordered_set<JobCard*> wanted(cards.begin(), cards.end());
    for (JobCard* card : cards_)
        if (!wanted.contains(card)) {
            card->hide();
            card->removeEventFilter(this);
        }
    cards_ = std::move(cards);
    place();
    QWidget* before = nullptr;
    for (JobCard* card : cards_) {
        card->installEventFilter(this);
        card->show();
        if (before) setTabOrder(before, card);
        before = card;
    }
}

void CardGrid::place() {
    const int n = columns(), high = JobCard::height_for(appearance_.text());
    const int wide = (width() - gap * (n - 1)) / n;
    for (std::size_t i = 0; i < cards_.size(); ++i) {
        const int row = static_cast<int>(i) / n, column = static_cast<int>(i) % n;
        cards_[i]->setGeometry(column * (wide + gap), row * (high + gap), wide, high);
    }
    const int rows = (static_cast<int>(cards_.size()) + n - 1) / n;
    setFixedHeight(std::max(1, rows * (high + gap)));
}

void CardGrid::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    if (event->oldSize().width() != width()) place();
}

bool CardGrid::eventFilter(QObject* object, QEvent* event) {
    if (event->type() != QEvent::KeyPress) return QWidget::eventFilter(object, event);
    const auto it = std::find(cards_.begin(), cards_.end(), object);
    if (it == cards_.end()) return QWidget::eventFilter(object, event);
    int to = static_cast<int>(it - cards_.begin());
    switch (static_cast<QKeyEvent*>(event)->key()) {
    case Qt::Key_Left:
        to -= 1;
        break;
    case Qt::Key_Right:
        to += 1;
        break;
    case Qt::Key_Up:
        to -= columns();
        break;
    case Qt::Key_Down:
        to += columns();
        break;
    default:
        return QWidget::eventFilter(object, event);
    }
    if (to >= 0 && to < static_cast<int>(cards_.size()))
        cards_[static_cast<std::size_t>(to)]->setFocus(Qt::TabFocusReason);
    return true;
}

} // namespace conductus::app
