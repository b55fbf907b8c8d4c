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
    /// Work that goes on, with a way to stop it. Said again as it goes on, the button stays the one
    /// that it is: a click is not lost.
    void going_on(const QString& work, Offer stop);
    void be_quiet() { hide(); }

private:
    void show_text(const QString& text, bool trouble);
    void set_offers(std::vector<Offer> offers);
    QHBoxLayout* row_;
    QLabel* text_;
    QToolButton* seen_;
    std::vector<QToolButton*> offers_;
};

} // namespace conductus::app
