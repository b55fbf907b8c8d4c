// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/notice_bar.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QStyle>
#include <QToolButton>

#include "app/session/words.h"

namespace conductus::app {

NoticeBar::NoticeBar(QWidget* parent) : QWidget(parent) {
    setObjectName("notice");
    setAttribute(Qt::WA_StyledBackground);
    row_ = new QHBoxLayout(this);
    row_->setContentsMargins(16, 6, 16, 6);
    text_ = new QLabel(this);
    text_->setObjectName("noticeText");
    text_->setWordWrap(true);
    text_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    seen_ = new QToolButton(this);
    seen_->setText(tr("Seen"));
    seen_->setObjectName("noticeSeen");
    row_->addWidget(text_, 1);
    row_->addWidget(seen_);
    connect(seen_, &QToolButton::clicked, this, &NoticeBar::be_quiet);
    hide();
}

void NoticeBar::show_text(const QString& text, bool trouble) {
    setProperty("trouble", trouble);
    style()->unpolish(this);
    style()->polish(this);
    text_->setText(text);
    setAccessibleName(text);
    show();
}

void NoticeBar::set_offers(std::vector<Offer> offers) {
    for (auto* b : offers_)
        b->deleteLater();
    offers_.clear();
    for (Offer& offer : offers) {
        auto* b = new QToolButton(this);
        b->setText(offer.text);
        b->setObjectName(offer.object);
        row_->insertWidget(row_->count() - 1, b);
        // After the click is over, for what it does may end this notice.
        connect(b, &QToolButton::clicked, this, std::move(offer.act), Qt::QueuedConnection);
        offers_.push_back(b);
    }
    seen_->show();
}

void NoticeBar::say(const Problem& problem, std::vector<Offer> offers) {
    set_offers(std::move(offers));
    show_text(words(problem), true);
}

void NoticeBar::going_on(const QString& work, Offer stop) {
    const bool said = isVisible() && offers_.size() == 1 && seen_->isHidden() &&
                      offers_.front()->objectName() == stop.object;
    if (!said) {
        set_offers({std::move(stop)});
        seen_->hide();
    }
    show_text(work, false);
}

void NoticeBar::tell(const QString& news) {
    set_offers({});
    show_text(news, false);
}

} // namespace conductus::app
