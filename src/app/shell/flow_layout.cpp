// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/flow_layout.h"

#include <QHBoxLayout>
#include <algorithm>
#include <iterator>

#include "app/shell/fields.h"

namespace conductus::app {

FlowLayout::~FlowLayout() { qDeleteAll(items_); }

QLayoutItem* FlowLayout::itemAt(int i) const {
    return i >= 0 && i < count() ? items_[static_cast<std::size_t>(i)] : nullptr;
}

QLayoutItem* FlowLayout::takeAt(int i) {
    QLayoutItem* item = itemAt(i);
    if (item) items_.erase(items_.begin() + i);
    return item;
}

QSize FlowLayout::sizeHint() const {
    QSize size;
    for (auto* item : items_) {
        size.rwidth() += item->sizeHint().width() + across_;
        size.setHeight(std::max(size.height(), item->sizeHint().height()));
    }
    return size;
}

QSize FlowLayout::minimumSize() const {
    QSize size;
    for (auto* item : items_)
        size = size.expandedTo(item->minimumSize());
    return size;
}

void FlowLayout::setGeometry(const QRect& box) {
    QLayout::setGeometry(box);
    place(box, true);
}

int FlowLayout::place(const QRect& box, bool really) const {
    std::vector<QLayoutItem*> shown;
    std::copy_if(items_.begin(), items_.end(), std::back_inserter(shown),
                 [](QLayoutItem* item) { return !item->isEmpty(); });
    const auto width_of = [&](QLayoutItem* item) {
        return std::min(item->sizeHint().width(), box.width());
    };
    int y = box.y();
    for (std::size_t first = 0; first < shown.size();) {
        int used = 0, height = 0, expanding = 0;
        std::size_t last = first;
        for (; last < shown.size(); ++last) {
            QLayoutItem* item = shown[last];
            const int wider = used + width_of(item) + (last > first ? across_ : 0);
            if (last > first && wider > box.width()) break;
            used = wider;
            height =
                std::max(height, item->hasHeightForWidth() ? item->heightForWidth(width_of(item))
                                                           : item->sizeHint().height());
            expanding += item->expandingDirections().testFlag(Qt::Horizontal);
        }
        int spare = std::max(0, box.width() - used), x = box.x();
        for (std::size_t i = first; i < last && really; ++i) {
            int width = width_of(shown[i]);
            if (shown[i]->expandingDirections().testFlag(Qt::Horizontal)) {
                const int share = spare / expanding--;
                width += share;
                spare -= share;
            }
            shown[i]->setGeometry({x, y, width, height});
            x += width + across_;
        }
        y += height + down_;
        first = last;
    }
    return shown.empty() ? 0 : y - down_ - box.y();
}

FlowText::FlowText(QWidget* parent) : QLabel(parent) {
    setProperty("role", "second");
    setWordWrap(true);
    QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Preferred);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

QSize FlowText::sizeHint() const {
    const QMargins m = contentsMargins();
    const int width = fontMetrics().horizontalAdvance(text()) + m.left() + m.right() + 2;
    return {width, QLabel::heightForWidth(width)};
}

QWidget* grouped(const QString& caption, QWidget* field, const QString& unit, QWidget* parent) {
    auto* group = new QWidget(parent);
    auto* row = new QHBoxLayout(group);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(5);
    // On the line of what is typed; a refusal may stand under that.
    auto add_label = [&](const QString& text) {
        if (text.isEmpty()) return;
        auto* words = label(text, "second", group);
        words->setContentsMargins(0, 4, 0, 0);
        row->addWidget(words, 0, Qt::AlignTop);
    };
    add_label(caption);
    row->addWidget(field, 1, Qt::AlignTop);
    add_label(unit);
    // A field of fixed width gains nothing from spare room.
    if (field->minimumWidth() == field->maximumWidth())
        group->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Preferred);
    return group;
}

} // namespace conductus::app
