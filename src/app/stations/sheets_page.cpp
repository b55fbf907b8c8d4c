// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/sheets_page.h"

#include <QShortcut>
#include <QVBoxLayout>

namespace conductus::app {

SheetsPage::SheetsPage(const PageContext& context, const QString& object, const QString& name,
                       QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    tabs_ = new QTabBar(this);
    tabs_->setObjectName(object);
    tabs_->setAccessibleName(name);
    tabs_->setDrawBase(false);
    tabs_->setExpanding(false);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(tabs_);
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
    connect(tabs_, &QTabBar::currentChanged, this, &SheetsPage::turn_to);
}

void SheetsPage::add_sheet(const QString& title, StationPage* sheet) {
    sheets_.push_back({sheet});
    // Only the sheet in sight takes room.
    layout()->addWidget(sheet);
    static_cast<QVBoxLayout*>(layout())->setStretchFactor(sheet, 1);
    sheet->setVisible(sheets_.size() == 1);
    tabs_->addTab(title);
    connect(sheet, &StationPage::start_wanted, this, &StationPage::start_wanted);
}

void SheetsPage::turn_to(int sheet) {
    if (sheet < 0 || sheet >= static_cast<int>(sheets_.size())) return;
    Sheet& now = sheets_[static_cast<std::size_t>(sheet)];
    if (now.stale) now.page->show_job();
    now.stale = false;
    if (plan_) now.page->show_plan(plan_);
    for (const Sheet& other : sheets_)
        other.page->setVisible(other.page == now.page);
}

void SheetsPage::show_job() {
    for (Sheet& sheet : sheets_)
        sheet.stale = true;
    Sheet& now = sheets_[static_cast<std::size_t>(tabs_->currentIndex())];
    now.page->show_job();
    now.stale = false;
}

void SheetsPage::show_preview(const PlanPtr& plan) {
    sheets_[static_cast<std::size_t>(tabs_->currentIndex())].page->show_preview(plan);
}

void SheetsPage::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    sheets_[static_cast<std::size_t>(tabs_->currentIndex())].page->show_plan(plan);
}

} // namespace conductus::app
