// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <functional>
#include <vector>

#include "core/base/problem.h"

class QHBoxLayout;
class QLabel;
class QToolButton;

namespace conductus::app {

/// One line over the pages that says what went wrong, or what happened, until it is seen.
class NoticeBar : public QWidget {
    Q_OBJECT
public:
    struct Offer {
        QString text, object;
        std::function<void()> act;
    };
    explicit NoticeBar(QWidget* parent);
    void say(const Problem& problem, std::vector<Offer> offers = {});
    /// News, not trouble.
    void tell(const QString& news);
    void be_quiet() { hide(); }

private:
    void show_text(const QString& text, bool trouble);
    QHBoxLayout* row_;
    QLabel* text_;
    QToolButton* seen_;
    std::vector<QToolButton*> offers_;
};

} // namespace conductus::app
