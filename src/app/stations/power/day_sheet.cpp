// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/day_sheet.h"

#include <QComboBox>
#include <QInputDialog>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <fmt/format.h>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/page_scroll.h"
#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/job/places.h"

namespace conductus::app {
namespace {

using job::EffectKind;

} // namespace

DaySheet::DaySheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [sheet, column] =
        paper(tr("The day"), tr("effects a minute while lit; empty: as the use says"), this);
    use_ = new QComboBox(sheet);
    use_->setObjectName("usualDay");
    use_->setAccessibleName(tr("Day to take over"));
    keep_least_width(use_, context.appearance, 12);
    auto* keep = new QPushButton(tr("Keep this day as …"), sheet);
    keep->setObjectName("keepUse");
    auto* take = new QPushButton(tr("Take it"), sheet);
    take->setObjectName("takeUse");
    auto* top = new QHBoxLayout;
    top->setSpacing(8);
    top->addWidget(label(tr("Usual or kept day"), "second", sheet));
    top->addWidget(use_);
    top->addWidget(take);
    top->addStretch();
    top->addWidget(keep);
    Session& session = context.session;
    const std::string list = "/use/day";
    const auto day_field = [&](const QString& title, const char* key, const QString& unit = {}) {
        Column c = value_column(session, title, list, key, unit);
        c.unit.clear(); // the titles say it
        c.figures = true;
        // The minutes of the day follow from its phases.
        c.edit = [edit = c.edit](int row, const std::string& typed) {
            return job::all_of({edit(row, typed), power::count_day()});
        };
        return c;
    };
    const auto rate = [&](const QString& title, EffectKind kind) {
        Column c = figures(title, [&session, kind](int row) {
            for (const job::Rate& r : session.job().use.day[static_cast<std::size_t>(row)].rates)
                if (r.kind == kind) return CellText(QString::number(r.per_minute, 'g', 10));
            return CellText();
        });
        c.edit = [kind](int row, const std::string& typed) {
            return job::set_rate(static_cast<std::size_t>(row), kind, typed);
        };
        return c;
    };
    Column what = day_field(tr("what"), "kind");
    what.figures = false;
    TableRows rows = list_rows(session, list, "");
    rows.add = [] { return job::all_of({job::add_at("/use/day"), power::count_day()}); };
    rows.take_out = [](int row) {
        return job::all_of({job::take_out_at(fmt::format("/use/day/{}", row)), power::count_day()});
    };
    phases_ = new Table(
        {.object = "phases",
         .name = tr("Phases of the day"),
         .what = tr("Phase"),
         .columns = {what, day_field(tr("min each"), "lasts_min"), day_field(tr("times"), "times"),
                     day_field(tr("idle, min"), "pause_min"), rate(tr("clash"), EffectKind::flash),
                     rate(tr("blast"), EffectKind::mark), rate(tr("lock-up"), EffectKind::lock_up),
                     rate(tr("drag"), EffectKind::drag), rate(tr("melt"), EffectKind::melt),
                     day_field(tr("at °C"), "temperature_degC"),
                     day_field(tr("loud %"), "volume", "%")},
         .rows = std::move(rows),
         .main = true,
         .empty = tr("Begin with what it does first: stored, idle or ignited, and for how long."),
         .session = &session},
        context.appearance, sheet);
    line_ = new DayLine(context, sheet);
    said_ = label({}, "second", sheet);
    said_->setObjectName("dayFigures");
    said_->setWordWrap(true);
    column->addLayout(top);
    make_yield(line_, 24);
    column->addWidget(line_);
    column->addWidget(phases_, 1);
    column->addWidget(phases_->refusal());
    column->addWidget(said_);

    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);

    connect(take, &QPushButton::clicked, this, &DaySheet::take_use);
    connect(keep, &QPushButton::clicked, this, &DaySheet::keep_use);
    connect(line_, &DayLine::drawn, this, [this](const std::vector<job::Phase>& day) {
        context_.session.change(tr("Draw the day"), power::take_day(day));
    });
}

void DaySheet::show_job() {
    const job::Job& job = context_.session.job();
    const QString was = use_->currentText();
    use_->clear();
    for (const job::Use& u : job.uses)
        use_->addItem(words(u.name));
    for (const job::Use& u : power::usual_days())
        if (!job::find_name(job.uses, u.name)) use_->addItem(words(u.name));
    if (const int i = use_->findText(was); i >= 0) use_->setCurrentIndex(i);
    phases_->refresh();
    line_->redraw();
}

void DaySheet::show_plan(const PlanPtr&) {
    context_.session.ask(plan::UseLivedThrough{}, this,
                         [this](const StudyPtr& study) { show_study(study); });
}

void DaySheet::show_study(const StudyPtr& study) {
    line_->show_study(study);
    if (!*study) {
        said_->setText(words(study->error()));
        return;
    }
    const power::Day &day = (*study)->day, &swapped = (*study)->swapped;
    const Second sleep_after = (*study)->loads->sets.front()->sleep_after;
    const auto minutes = power::minutes_of((*study)->loads->phases, sleep_after);
    QString text = tr("%1 lit, %2 idle, the rest stored. ")
                       .arg(words(duration(minutes.ignited)), words(duration(minutes.idle)));
    if (minutes.dozing > Minute(0))
        text += tr("Idle for %1 the board falls asleep, for %2 in all. ")
                    .arg(words(duration(Minute(sleep_after.value() / 60))),
                         words(duration(minutes.dozing)));
    if (context_.session.job().use.day.empty())
        text += tr("No phases are set: spells of about five minutes with a clash flash a minute. ");
    if (swapped.hopeless)
        text += tr("A fresh cell is not clean: no number of spares helps.");
    else if (swapped.cells == 1)
        text += tr("One set of cells lasts the day; %1 % are left.")
                    .arg(swapped.charge * 100, 0, 'f', 0);
    else
        text +=
            tr("%1 sets of cells, changed at the first crackle or when off.").arg(swapped.cells);
    if (day.clean)
        text += " " + tr("From full cells it is clean for %1 lit, then %2 crackles.")
                          .arg(words(duration(*day.clean)), words(day.first_crackle));
    said_->setText(text);
}

void DaySheet::take_use() {
    const auto use = power::use_named(context_.session.job(), use_->currentText().toStdString());
    if (!use) return;
    context_.session.change(tr("Use: %1").arg(use_->currentText()), power::take_use(*use));
}

void DaySheet::keep_use() {
    bool given = false;
    const QString name =
        QInputDialog::getText(this, tr("Keep this day"), tr("Name"), QLineEdit::Normal, {}, &given);
    if (!given || name.trimmed().isEmpty()) return;
    context_.session.change(tr("Keep the day %1").arg(name.trimmed()),
                            power::keep_use(name.trimmed().toStdString()));
}

} // namespace conductus::app
