// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/found_sheet.h"

#include <QDate>
#include <QPushButton>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/rows_table.h"
#include "core/base/date.h"
#include "core/job/found.h"

namespace conductus::app {
namespace {

/// The day of the snapshot is the day it was begun.
void dated(job::Job& job) {
    if (job.as_found.on.empty())
        job.as_found.on = QDate::currentDate().toString(Qt::ISODate).toStdString();
}

} // namespace

FoundSheet::FoundSheet(const Bench& bench, QWidget* parent) : StationPage(bench, parent) {
    setObjectName("benchPage");
    auto [left, left_column] = paper(tr("Wiring as found"), tr("before anything is cut"), this);
    wires_ = new RowsTable(
        {tr("from"), tr("to"), tr("colour"), tr("note"), tr("in the plan")}, 4, "foundWires",
        tr("Wiring as found"), bench.appearance,
        [this](const RowsTable::Rows& rows) {
            return bench_.session.edit(tr("Wiring as found"), [&](job::Job& job) {
                job.as_found.wires.clear();
                for (const QStringList& r : rows)
                    job.as_found.wires.push_back(
                        {r.value(0).toStdString(), r.value(1).toStdString(),
                         r.value(2).toStdString(), r.value(3).toStdString()});
                dated(job);
            });
        },
        left);
    connect(wires_, &RowsTable::taken, this, &FoundSheet::show_job);
    wires_->setMinimumHeight(qRound(bench.appearance.text() * 16));
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
        (void)bench_.session.edit(tr("Wired as planned"), [](job::Job& job) {
            job::find_as_planned(job);
            dated(job);
        });
    });

    auto [right, right_column] = paper(tr("Configuration as found"), tr("type or paste"), this);
    settings_ = new RowsTable(
        {tr("setting"), tr("value")}, 2, "foundSettings", tr("Configuration as found"),
        bench.appearance,
        [this](const RowsTable::Rows& rows) {
            return bench_.session.edit(tr("Configuration as found"), [&](job::Job& job) {
                job.as_found.settings.clear();
                for (const QStringList& r : rows)
                    job.as_found.settings.push_back(
                        {r.value(0).toStdString(), r.value(1).toStdString()});
                dated(job);
            });
        },
        right);
    connect(settings_, &RowsTable::taken, this, &FoundSheet::show_job);
    right_column->addWidget(settings_, 1);
    right_column->addWidget(settings_->refusal());
    on_ = new Field(
        tr("Day of the snapshot"),
        [this](const QString& typed) -> Result<void> {
            const std::string day = typed.trimmed().toStdString();
            if (!day.empty() && !is_date(day))
                return problem("", "this is no date", "Write it like 2027-03-12");
            return bench_.session.edit(tr("Day of the snapshot"),
                                       [&](job::Job& job) { job.as_found.on = day; });
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
    const job::Job& job = bench_.session.job();
    RowsTable::Rows wires, settings;
    for (const auto& w : job.as_found.wires)
        wires.push_back({words(w.from), words(w.to), words(w.colour), words(w.note),
                         job::is_planned(job, w) ? tr("the same") : tr("not so")});
    for (const auto& s : job.as_found.settings)
        settings.push_back({words(s.name), words(s.value)});
    wires_->show_rows(wires);
    settings_->show_rows(settings);
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
