// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/found_sheet.h"

#include <QPushButton>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/base/date.h"
#include "core/job/found.h"
#include "core/job/places.h"

namespace conductus::app {
FoundSheet::FoundSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [left, left_column] = paper(tr("Wiring as found"), tr("before anything is cut"), this);
    Session& session = context.session;
    const auto found_field = [&](const QString& title, const std::string& list, const char* key) {
        Column c = value_column(session, title, list, key);
        // The day of the snapshot is the day it was begun.
        c.edit = [edit = c.edit](int row, const std::string& typed) {
            return job::all_of({edit(row, typed), job::date_snapshot(today())});
        };
        return c;
    };
    const std::string list = "/as_found/wires";
    TableRows found = list_rows(session, list, "");
    found.name = [&session](int row) {
        const auto& w = session.job().as_found.wires[static_cast<std::size_t>(row)];
        return words(w.from) + QString::fromUtf8(" – ") + words(w.to);
    };
    wires_ = new Table(
        {.object = "foundWires",
         .name = tr("Wiring as found"),
         .what = tr("Found wire"),
         .columns = {found_field(tr("from"), list, "from"), found_field(tr("to"), list, "to"),
                     found_field(tr("colour"), list, "colour"),
                     found_field(tr("note"), list, "note"),
                     reading(tr("in the plan"),
                             [&session](int row) {
                                 const job::Job& job = session.job();
                                 const auto& w = job.as_found.wires[static_cast<std::size_t>(row)];
                                 return job::is_planned(job, w) ? tr("the same") : tr("not so");
                             })},
         .rows = std::move(found),
         .wide = 3,
         .main = true,
         .empty = tr("Type where each wire begins and ends, before anything is cut."),
         .session = &session},
        context.appearance, left);
    left_column->addWidget(wires_, 1);
    left_column->addWidget(wires_->refusal());
    new_ = label({}, "second", left);
    new_->setObjectName("notFound");
    new_->setWordWrap(true);
    left_column->addWidget(new_);
    auto* take = new QPushButton(tr("It is wired as planned"), left);
    take->setObjectName("foundAsPlanned");
    take->setToolTip(tr("Takes the wires of the plan into the snapshot"));
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(take);
    buttons->addStretch();
    left_column->addLayout(buttons);
    connect(take, &QPushButton::clicked, this, [this] {
        context_.session.change(tr("Wired as planned"),
                                job::all_of({job::find_as_planned, job::date_snapshot(today())}));
    });

    auto [right, right_column] = paper(tr("Configuration as found"), tr("type or paste"), this);
    settings_ = new Table({.object = "foundSettings",
                           .name = tr("Configuration as found"),
                           .what = tr("Found setting"),
                           .columns = {found_field(tr("setting"), "/as_found/settings", "name"),
                                       found_field(tr("value"), "/as_found/settings", "value")},
                           .rows = list_rows(session, "/as_found/settings", "name"),
                           .empty = tr("Type or paste what the board was set to."),
                           .session = &session},
                          context.appearance, right);
    right_column->addWidget(settings_, 1);
    right_column->addWidget(settings_->refusal());
    on_ = new EntryField(
        tr("Day of the snapshot"),
        [this](const QString& typed) -> Result<void> {
            const std::string day = typed.trimmed().toStdString();
            if (!day.empty() && !is_date(day))
                return problem("", "this is no date", "Write it like 2027-03-12");
            return context_.session.edit(tr("Day of the snapshot"),
                                         job::write_at("/as_found/on", day));
        },
        right);
    on_->line()->setObjectName("foundOn");
    auto* day = new QHBoxLayout;
    day->addWidget(label(tr("found on"), "second", right));
    day->addWidget(on_, 1);
    right_column->addLayout(day);

    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(10);
    row->addWidget(left, 13);
    row->addWidget(right, 7);
    show_job();
}

void FoundSheet::show_job() {
    const job::Job& job = context_.session.job();
    wires_->refresh();
    settings_->refresh();
    on_->show_value(words(job.as_found.on));
    QStringList fresh;
    for (const std::string& wire : job::not_found(job))
        fresh << words(wire);
    new_->setVisible(!job.as_found.wires.empty());
    new_->setText(fresh.isEmpty()
                      ? tr("Every wire of the plan was found.")
                      : tr("New in the plan: %1").arg(fresh.join(QString::fromUtf8(" · "))));
}

} // namespace conductus::app
