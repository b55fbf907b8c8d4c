// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QEvent>
#include <QLayout>
#include <QScrollArea>

namespace conductus::app {

/// Gives its page the whole view, and scrolls only where the page's least height is more. (A plain
/// resizable scroll area would give a page with wrapping rows its preferred height instead.)
class PageScroll : public QScrollArea {
public:
    PageScroll(QWidget* page, QWidget* parent) : QScrollArea(parent) {
        setObjectName("pageScroll");
        setFrameShape(QFrame::NoFrame);
        setFocusPolicy(Qt::NoFocus);
        setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        setWidget(page);
        page->installEventFilter(this);
    }

protected:
    void resizeEvent(QResizeEvent* event) override {
        QScrollArea::resizeEvent(event);
        fit();
    }
    bool eventFilter(QObject* object, QEvent* event) override {
        if (event->type() == QEvent::LayoutRequest) fit();
        return QScrollArea::eventFilter(object, event);
    }

private:
    void fit() {
        const int w = viewport()->width();
        const int least = widget()->layout() ? widget()->layout()->minimumHeightForWidth(w) : 0;
        widget()->resize(w, std::max({viewport()->height(), least,
                                      widget()->minimumSizeHint().height() * (least <= 0)}));
    }
};

} // namespace conductus::app
