// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/received_sheet.h"

#include <QPushButton>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/stations/brief/inspection_rows.h"
#include "app/stations/brief/item_panel.h"
#include "core/job/checklist.h"

namespace conductus::app {

ReceivedSheet::ReceivedSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
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
    table_ = new Table(inspection_setup(context.session, order_), context.appearance, left);
    table_->on_letter([this](int row, int key) {
        const int item = order_[static_cast<std::size_t>(row)];
        const job::Edit edit = inspected_by_letter(context_.session.job(), item, key);
        if (edit) context_.session.change(tr("Inspect %1").arg(table_->rows().row_name(row)), edit);
        return static_cast<bool>(edit);
    });
    column->addWidget(table_, 1);
    column->addWidget(table_->refusal());
    auto* hint =
        label(tr("F fine · W worn · B broken · M missing · U unknown · K kept · R replaced"),
              "second", left);
    hint->setWordWrap(true);
    column->addWidget(hint);
    begin_ = new QPushButton(tr("Lay out the checklist"), left);
    begin_->setObjectName("beginInspection");
    column->addWidget(begin_);
    add_ = new EntryField(
        tr("Add an item to inspect"),
        [this](const QString& typed) -> Result<void> {
            if (typed.trimmed().isEmpty()) return {};
            const int at = item_index();
            return context_.session.edit(
                tr("Add an item to inspect"),
                job::add_inspected(typed.trimmed().toStdString(),
                                   at < 0 ? std::nullopt : std::optional<std::size_t>(at)));
        },
        left);
    add_->line()->setObjectName("addInspected");
    add_->line()->setPlaceholderText(tr("Add an item, and press Enter"));
    column->addWidget(add_);

    panel_ = new ItemPanel(context, this);
    row_ = new QBoxLayout(QBoxLayout::LeftToRight, this);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(10);
    row_->addWidget(left, 13);
    row_->addWidget(panel_, 8);
    connect(table_, &Table::row_chosen, this, [this] {
        const auto& item =
            context_.session.job().inspection[static_cast<std::size_t>(item_index())];
        if (!item.part.empty()) context_.selection.choose(words(item.part));
        panel_->show_item(item_index());
    });
    connect(begin_, &QPushButton::clicked, this, [this] {
        context_.session.change(tr("Lay out the checklist"), job::follow_checklist);
        table_->setFocus();
    });
    show_job();
}

int ReceivedSheet::item_index() const {
    const int row = table_->chosen();
    return row < 0 ? -1 : order_[static_cast<std::size_t>(row)];
}

void ReceivedSheet::resizeEvent(QResizeEvent* event) {
    StationPage::resizeEvent(event);
    // Side by side while both have room to be read.
    const bool narrow = width() < context_.appearance.text() * 50;
    row_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

void ReceivedSheet::show_job() {
    const auto& items = context_.session.job().inspection;
    order_ = order_inspection(context_.session.job());
    table_->refresh();
    if (table_->chosen() < 0 && !order_.empty()) table_->choose(0);
    panel_->show_item(item_index());
    const auto done = std::count_if(items.begin(), items.end(), [](const job::Inspected& i) {
        return i.condition != job::Condition::unknown;
    });
    count_->setText(tr("%1 of %2 looked at").arg(done).arg(items.size()));
    begin_->setVisible(items.empty());
    table_->setVisible(!items.empty());
}

void ReceivedSheet::show_plan(const PlanPtr&) { panel_->show_item(item_index()); }

} // namespace conductus::app
