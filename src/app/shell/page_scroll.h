// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QEvent>
#include <QLayout>
#include <QScrollArea>

namespace conductus::app {

/// Gives its page the whole view, and scrolls only where the page's least height is more. (A plain
/// resizable scroll area would give a page with wrapping rows its preferred height instead.) In a
/// page that scrolls no table scrolls: each is as high as all its rows. What yields (make_yield())
/// gives its room up where the view is low.
class PageScroll : public QScrollArea {
    Q_OBJECT
public:
    PageScroll(QWidget* page, QWidget* parent);

protected:
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    void fit();
    [[nodiscard]] int least_height(int width) const;
    bool fitting_ = false;
    QVector<int> decided_; ///< what it was last found out for
};

/// A list that keeps `least` pixels, and is `whole` pixels high in a page that scrolls.
void keep_height_in_page(QScrollArea* list, int least, int whole);

/// A picture that is left out where the page's view is lower than so many letter heights.
void make_yield(QWidget* picture, double below_letters);

} // namespace conductus::app
