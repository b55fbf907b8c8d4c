// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/brief_page.h"

#include <QShortcut>
#include <QVBoxLayout>

#include "app/stations/brief/agreement_list.h"
#include "app/stations/brief/asked_sheet.h"
#include "app/stations/brief/found_sheet.h"
#include "app/stations/brief/owner_sheet.h"
#include "app/stations/brief/past_sheet.h"
#include "app/stations/brief/received_sheet.h"

namespace conductus::app {

BriefPage::BriefPage(const Bench& bench, QWidget* parent) : StationPage(bench, parent) {
    setObjectName("benchPage");
    tabs_ = new QTabBar(this);
    tabs_->setObjectName("briefSheets");
    tabs_->setAccessibleName(tr("Sheets of the brief"));
    tabs_->setDrawBase(false);
    tabs_->setExpanding(false);
    for (const QString& name : {tr("Asked"), tr("Agreed"), tr("As received"), tr("As found"),
                                tr("Milestones"), tr("Owner's page")})
        tabs_->addTab(name);
    pages_ = {new AskedSheet(bench, this),    new AgreementList(bench, this),
              new ReceivedSheet(bench, this), new FoundSheet(bench, this),
              new PastSheet(bench, this),     new OwnerSheet(bench, this)};
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(tabs_);
    // Only the sheet in sight takes room.
    for (StationPage* page : pages_)
        column->addWidget(page, 1);
    for (const auto& [keys, step] : {std::pair{Qt::Key_PageDown, 1}, {Qt::Key_PageUp, -1}}) {
        auto* turn = new QShortcut(QKeySequence(Qt::CTRL | keys), this);
        turn->setContext(Qt::WindowShortcut);
        connect(turn, &QShortcut::activated, this, [this, step] {
            if (isVisible())
                tabs_->setCurrentIndex((tabs_->currentIndex() + step + tabs_->count()) %
                                       tabs_->count());
        });
    }
    tabs_->setToolTip(tr("Ctrl+Page Down and Ctrl+Page Up turn the sheets"));
    connect(tabs_, &QTabBar::currentChanged, this, &BriefPage::turn_to);
    turn_to(0);
}

void BriefPage::turn_to(int sheet) {
    const auto i = static_cast<std::size_t>(sheet);
    if (stale_[i]) pages_[i]->show_job();
    stale_[i] = false;
    if (plan_) pages_[i]->show_plan(plan_);
    for (std::size_t k = 0; k < sheets; ++k)
        pages_[k]->setVisible(k == i);
}

void BriefPage::show_job() {
    stale_.fill(true);
    const auto i = static_cast<std::size_t>(tabs_->currentIndex());
    pages_[i]->show_job();
    stale_[i] = false;
}

void BriefPage::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    pages_[static_cast<std::size_t>(tabs_->currentIndex())]->show_plan(plan);
}

} // namespace conductus::app
