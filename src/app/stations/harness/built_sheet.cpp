// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/harness/built_sheet.h"

#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/stations/harness/wire_columns.h"
#include "core/harness/built.h"

namespace conductus::app {

BuiltSheet::BuiltSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [sheet, column] = paper(tr("Planned"), {}, this);
    auto planned = wire_columns(context.session, "/wires");
    for (Column& c : planned)
        c.edit = {};
    TableRows planned_rows = list_rows(context.session, "/wires", "ref");
    planned_rows.add = {};
    planned_rows.take_out = {};
    planned_ = new Table({.object = "plannedWires",
                          .name = tr("Wires as planned"),
                          .columns = std::move(planned),
                          .rows = std::move(planned_rows),
                          .wide = wire_to,
                          .dense = true,
                          .main = true,
                          .empty = tr("Nothing is planned yet.")},
                         context.appearance, sheet);
    column->addWidget(planned_, 1);
    auto [below, below_column] = paper(tr("As built"), tr("what was soldered"), this);
    record_ = new QPushButton(tr("Record it as planned"), below);
    record_->setObjectName("recordBuilt");
    plan_it_ = new QPushButton(tr("Plan it as built"), below);
    plan_it_->setObjectName("planAsBuilt");
    auto* top = new QHBoxLayout;
    top->setSpacing(8);
    top->addWidget(record_);
    top->addWidget(plan_it_);
    top->addStretch();
    built_ = new Table({.object = "builtWires",
                        .name = tr("Wires as built"),
                        .what = tr("Built wire"),
                        .columns = wire_columns(context.session, "/built"),
                        .rows = list_rows(context.session, "/built", "ref"),
                        .wide = wire_to,
                        .dense = true,
                        .empty = tr("Nothing is recorded yet. Take the plan as built and change "
                                    "what was built otherwise, or type the first wire: its name, "
                                    "then Tab to where it begins and ends."),
                        .session = &context.session},
                       context.appearance, below);
    below_column->addLayout(top);
    below_column->addWidget(built_, 1);
    below_column->addWidget(built_->refusal());
    auto [apart, apart_column] = paper(tr("What differs"), tr("solved anew"), this);
    said_ = label({}, "second", apart);
    said_->setObjectName("builtSaid");
    said_->setWordWrap(true);
    said_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    auto* scroll = new QScrollArea(apart);
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(said_);
    apart_column->addWidget(scroll, 1);
    auto* tables = new QVBoxLayout;
    tables->setSpacing(8);
    tables->addWidget(sheet, 1);
    tables->addWidget(below, 1);
    auto* all = new QHBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(8);
    all->addLayout(tables, 5);
    all->addWidget(apart, 2);
    connect(record_, &QPushButton::clicked, this,
            [this] { context_.session.change(tr("Built as planned"), job::record_built()); });
    connect(plan_it_, &QPushButton::clicked, this, [this] {
        context_.session.change(tr("Planned as built"),
                                harness::plan_as_built(context_.session.parts()));
    });
}

void BuiltSheet::show_job() {
    const job::Job& job = context_.session.job();
    built_->refresh();
    planned_->refresh();
    record_->setText(job.built.empty() ? tr("Record it as planned")
                                       : tr("Record it anew, as planned"));
    plan_it_->setEnabled(!job.built.empty() && job.built != job.wires);
}

void BuiltSheet::show_plan(const PlanPtr&) {
    context_.session.ask(
        plan::BuiltAgainstPlanned{}, this,
        [this](const plan::AnswerPtr<plan::BuiltAgainstPlanned>& made) {
            if (!*made) return said_->setText(words(made->error()));
            const plan::BuiltAgainstPlanned::Answer& built = **made;
            QStringList lines;
            for (const Message& line : built.lines)
                lines << words(line);
            said_->setText(
                !built.recorded
                    ? tr("Nothing is recorded yet. Record it as planned, then change what came "
                         "out differently: pad, gauge, length.")
                : built.same ? tr("It was built as it was planned.")
                             : lines.join("\n"));
        });
}

} // namespace conductus::app
