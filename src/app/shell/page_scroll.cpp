// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/page_scroll.h"

#include <QApplication>
#include <QBoxLayout>
#include <QFontInfo>
#include <QVariant>

#include "app/table/table.h"

namespace conductus::app {
namespace {

constexpr const char* yields_below = "yieldsBelow";
constexpr const char* least_height_key = "leastHeight";
constexpr const char* whole_height_key = "wholeHeight";

/// Lists of the page in scroll areas of their own.
void show_lists(QWidget* page, bool whole) {
    for (auto* list : page->findChildren<QScrollArea*>())
        if (const QVariant height = list->property(whole ? whole_height_key : least_height_key);
            height.isValid())
            list->setMinimumHeight(height.toInt());
}

} // namespace

void keep_height_in_page(QScrollArea* list, int least, int whole) {
    if (list->property(least_height_key) == least && list->property(whole_height_key) == whole)
        return;
    list->setProperty(least_height_key, least);
    list->setProperty(whole_height_key, whole);
    list->setMinimumHeight(least);
}

void make_yield(QWidget* picture, double below_letters) {
    picture->setProperty(yields_below, below_letters);
}

PageScroll::PageScroll(QWidget* page, QWidget* parent) : QScrollArea(parent) {
    setObjectName("pageScroll");
    setFrameShape(QFrame::NoFrame);
    setFocusPolicy(Qt::NoFocus);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setWidget(page);
    page->installEventFilter(this);
}

void PageScroll::resizeEvent(QResizeEvent* event) {
    QScrollArea::resizeEvent(event);
    fit();
}

void PageScroll::showEvent(QShowEvent* event) {
    QScrollArea::showEvent(event);
    fit();
}

bool PageScroll::eventFilter(QObject* object, QEvent* event) {
    if (event->type() == QEvent::LayoutRequest) fit();
    return QScrollArea::eventFilter(object, event);
}

int PageScroll::least_height(int width) const {
    // A layout knows what changed in it, and those around it only after their next events.
    for (QLayout* inner : widget()->findChildren<QLayout*>())
        inner->invalidate();
    const int least = widget()->layout() ? widget()->layout()->minimumHeightForWidth(width) : 0;
    return least > 0 ? least : widget()->minimumSizeHint().height();
}

void PageScroll::fit() {
    // A page out of sight is fitted when it comes into it: of eight pages one is in sight.
    if (fitting_ || !isVisible()) return; // what it changes asks for a layout of its own
    fitting_ = true;
    const int w = viewport()->width(), h = viewport()->height();
    const double letter = QFontInfo(widget()->font()).pixelSize();
    for (QWidget* picture : widget()->findChildren<QWidget*>()) {
        const QVariant below = picture->property(yields_below);
        if (below.isValid()) picture->setVisible(h >= below.toDouble() * letter);
    }
    const auto tables = widget()->findChildren<Table*>();
    // Whether the page scrolls with tables as low as may be is found out anew only where something
    // changed that decides it: finding out asks for a layout itself.
    QVector<int> decides{w, h, qRound(letter)};
    for (Table* table : tables)
        decides << table->model()->rowCount() << table->rows_in_sight() << table->isHidden();
    // Papers side by side in a wide view stand under each other in a narrow one.
    if (const auto* papers = qobject_cast<QBoxLayout*>(widget()->layout()))
        decides << papers->direction();
    for (auto* list : widget()->findChildren<QScrollArea*>())
        decides << list->property(least_height_key).toInt()
                << list->property(whole_height_key).toInt();
    if (decides != decided_) {
        decided_ = decides;
        for (Table* table : tables)
            table->show_whole(false);
        show_lists(widget(), false);
        const bool scrolls = least_height(w) > h;
        show_lists(widget(), scrolls);
        for (Table* table : tables)
            table->show_whole(scrolls);
    }
    const int least = least_height(w);
    widget()->resize(w, std::max(h, least));
    fitting_ = false;
}

} // namespace conductus::app
