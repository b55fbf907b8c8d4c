// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/received_sheet.h"

#include <QPushButton>

#include "app/shell/fields.h"
#include "app/stations/brief/inspection_table.h"
#include "app/stations/brief/item_panel.h"
#include "core/job/checklist.h"

namespace conductus::app {

ReceivedSheet::ReceivedSheet(const Bench& bench, QWidget* parent) : StationPage(bench, parent) {
    setObjectName("benchPage");
    auto* left = new QFrame(this);
    left->setObjectName("paper");
    auto* column = new QVBoxLayout(left);
    column->setContentsMargins(14, 8, 14, 10);
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Inspection"), "title", left));
    head->addStretch();
    count_ = label({}, "second", left);
    count_->setObjectName("inspectionCount");
    head->addWidget(count_);
    column->addLayout(head);
    table_ = new InspectionTable(bench, left);
    column->addWidget(table_, 1);
    auto* hint =
        label(tr("F fine · W worn · B broken · M missing · U unknown · K kept · R replaced"),
              "second", left);
    hint->setWordWrap(true);
    column->addWidget(hint);
    begin_ = new QPushButton(tr("Lay out the checklist"), left);
    begin_->setObjectName("beginInspection");
    column->addWidget(begin_);
    add_ = new Field(
        tr("Add an item to inspect"),
        [this](const QString& typed) -> Result<void> {
            if (typed.trimmed().isEmpty()) return {};
            return bench_.session.edit(tr("Add an item to inspect"), [&](job::Job& job) {
                job::Inspected item;
                const int row = table_->item_index();
                if (row >= 0) item.area = job.inspection[static_cast<std::size_t>(row)].area;
                item.item = typed.trimmed().toStdString();
                job.inspection.push_back(std::move(item));
            });
        },
        left);
    add_->line()->setObjectName("addInspected");
    add_->line()->setPlaceholderText(tr("Add an item, and press Enter"));
    column->addWidget(add_);

    panel_ = new ItemPanel(bench, this);
    row_ = new QBoxLayout(QBoxLayout::LeftToRight, this);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(10);
    row_->addWidget(left, 13);
    row_->addWidget(panel_, 8);
    connect(table_, &InspectionTable::item_chosen, panel_, &ItemPanel::show_item);
    connect(begin_, &QPushButton::clicked, this, [this] {
        (void)bench_.session.edit(tr("Lay out the checklist"), job::follow_checklist);
        table_->setFocus();
    });
    show_job();
}

void ReceivedSheet::resizeEvent(QResizeEvent* event) {
    StationPage::resizeEvent(event);
    // Side by side while both have room to be read.
    const bool narrow = width() < bench_.appearance.text() * 50;
    row_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

void ReceivedSheet::show_job() {
    const auto& items = bench_.session.job().inspection;
    table_->show_items();
    panel_->show_item(table_->item_index());
    const auto done = std::count_if(items.begin(), items.end(), [](const job::Inspected& i) {
        return i.condition != job::Condition::unknown;
    });
    count_->setText(tr("%1 of %2 looked at").arg(done).arg(items.size()));
    begin_->setVisible(items.empty());
    table_->setVisible(!items.empty());
}

void ReceivedSheet::show_plan(const PlanPtr&) { panel_->show_item(table_->item_index()); }

} // namespace conductus::app
