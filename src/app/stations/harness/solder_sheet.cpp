// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/harness/solder_sheet.h"

#include <QLabel>
#include <QVBoxLayout>
#include <algorithm>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/base/format.h"

namespace conductus::app {

SolderSheet::SolderSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [sheet, column] =
        paper(tr("Soldering order"), tr("what is reachable when; tick what is done"), this);
    said_ = label({}, "second", sheet);
    said_->setObjectName("solderSaid");
    said_->setWordWrap(true);
    const auto step = [this](int row) -> const harness::SolderStep& {
        return steps_[static_cast<std::size_t>(row)];
    };
    const auto wire = [this, step](int row) -> const harness::WireRow& {
        return *plan_->harness.wire(step(row).wire);
    };
    Column done = reading(tr("done"), [step](int row) {
        CellText cell;
        cell.value = step(row).done;
        cell.tip = step(row).done ? tr("soldered") : tr("not soldered");
        return cell;
    });
    done.tick = true;
    done.edit = [step](int row, const std::string& typed) {
        return job::set_soldered(step(row).wire, typed == "yes");
    };
    table_ = new Table(
        {.object = "solderOrder",
         .name = tr("Soldering order"),
         .what = tr("Soldered"),
         .columns = {done, reading(tr("wire"), [step](int row) { return words(step(row).wire); }),
                     reading(tr("from"), [wire](int row) { return words(wire(row).from); }),
                     reading(tr("to"), [wire](int row) { return words(wire(row).to); }),
                     figures(tr("cut to"), [wire](int row) { return words(wire(row).length); }),
                     reading(tr("where"), [step](int row) { return words(step(row).where); }),
                     reading(tr("why"),
                             [step, wire](int row) {
                                 QStringList why{words(step(row).why)};
                                 for (const Message& advice : wire(row).advice)
                                     why << words(advice);
                                 return CellText(why.join("; "), why.join("\n"));
                             })},
         .rows = {[this] { return static_cast<int>(steps_.size()); },
                  [step](int row) { return words(step(row).wire); }},
         .wide = 6,
         .main = true,
         .empty = tr("Nothing is wired yet."),
         .session = &context.session},
        context.appearance, sheet);
    auto* caution = label(tr("Fumes and a hot iron: air the room, protect your eyes, and never "
                             "solder onto a cell."),
                          "second", sheet);
    caution->setWordWrap(true);
    column->addWidget(said_);
    column->addWidget(table_, 1);
    column->addWidget(caution);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);
    connect(table_, &Table::row_chosen, this,
            [this, step](int row) { context_.selection.choose(words(step(row).wire)); });
}

void SolderSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    steps_ = harness::solder_order(*plan->job, *plan->parts, plan->harness);
    table_->refresh();
    const auto done = std::count_if(steps_.begin(), steps_.end(), [](auto& s) { return s.done; });
    said_->setText(steps_.empty() ? tr("Nothing is wired yet.")
                                  : tr("%1 of %2 soldered.").arg(done).arg(steps_.size()));
}

} // namespace conductus::app
