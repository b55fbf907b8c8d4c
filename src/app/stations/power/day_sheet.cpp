// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/day_sheet.h"

#include <QComboBox>
#include <QHeaderView>
#include <QInputDialog>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/row_reader.h"
#include "core/base/format.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

using job::EffectKind;

/// Kinds that have a column for their rate.
constexpr EffectKind rated[] = {EffectKind::flash, EffectKind::mark, EffectKind::lock_up,
                                EffectKind::drag, EffectKind::melt};

Result<void> read_phases(const RowsTable::Rows& rows, const QStringList& columns,
                         std::vector<job::Phase>& day) {
    return read_rows(rows, columns, day, [](RowReader& r, std::size_t) {
        job::Phase p;
        p.kind = r.choice(job::PhaseKind::ignited);
        p.lasts = Minute(r.number(job::limits::minutes, "min", 10));
        p.times = r.whole(job::limits::times, 1);
        p.pause = Minute(r.number(job::limits::minutes, "min", 0));
        for (const EffectKind kind : rated)
            if (const double rate = r.number(job::limits::per_minute, "", 0); rate > 0)
                p.rates.push_back({kind, rate});
        constexpr double not_said = 1e9;
        const double celsius = r.number({-20, 50}, "°C", not_said);
        if (celsius != not_said) p.temperature = Celsius(celsius);
        const double loud = r.number({0, 100}, "%", not_said);
        if (loud != not_said) p.volume = loud / 100;
        return p;
    });
}

QString number(double v) { return QString::number(v, 'g', 6); }

} // namespace

DaySheet::DaySheet(const Bench& bench, QWidget* parent) : StationPage(bench, parent) {
    setObjectName("benchPage");
    auto [sheet, column] =
        paper(tr("The day"), tr("effects a minute while lit; empty: as the use says"), this);
    use_ = new QComboBox(sheet);
    use_->setObjectName("usualDay");
    use_->setAccessibleName(tr("Day to take over"));
    keep_least_width(use_, bench.appearance, 12);
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
    const QStringList columns{tr("what"),  tr("min each"), tr("times"),   tr("idle, min"),
                              tr("clash"), tr("blast"),    tr("lock-up"), tr("drag"),
                              tr("melt"),  tr("at °C"),    tr("loud %")};
    phases_ = new RowsTable(
        columns, 11, "phases", tr("Phases of the day"), bench.appearance,
        [this, columns](const RowsTable::Rows& rows) -> Result<void> {
            std::vector<job::Phase> day;
            if (auto ok = read_phases(rows, columns, day); !ok) return ok;
            return bench_.session.edit(tr("Day of use"),
                                       [&](job::Job& job) { power::set_day(job.use, day); });
        },
        sheet);
    phases_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    connect(phases_, &RowsTable::taken, this, &DaySheet::show_job);
    line_ = new DayLine(bench, sheet);
    said_ = label({}, "second", sheet);
    said_->setObjectName("dayFigures");
    said_->setWordWrap(true);
    column->addLayout(top);
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
        if (auto ok = bench_.session.edit(tr("Draw the day"),
                                          [&](job::Job& job) { power::set_day(job.use, day); });
            !ok)
            said_->setText(words(ok.error().text()));
    });
}

void DaySheet::show_job() {
    const job::Job& job = bench_.session.job();
    const QString was = use_->currentText();
    use_->clear();
    for (const job::Use& u : job.uses)
        use_->addItem(words(u.name));
    for (const job::Use& u : power::usual_days())
        if (!job::find_name(job.uses, u.name)) use_->addItem(words(u.name));
    if (const int i = use_->findText(was); i >= 0) use_->setCurrentIndex(i);
    RowsTable::Rows rows;
    for (const job::Phase& p : job.use.day) {
        QStringList row{said(p.kind), number(p.lasts.value()), QString::number(p.times),
                        p.pause > Minute(0) ? number(p.pause.value()) : QString()};
        for (const EffectKind kind : rated) {
            const auto it = std::find_if(p.rates.begin(), p.rates.end(),
                                         [&](const job::Rate& r) { return r.kind == kind; });
            row << (it != p.rates.end() ? number(it->per_minute) : QString());
        }
        row << (p.temperature ? number(p.temperature->value()) : QString())
            << (p.volume ? number(*p.volume * 100) : QString());
        rows.push_back(row);
    }
    phases_->show_rows(rows);
    line_->update();
}

void DaySheet::show_plan(const PlanPtr& plan) {
    studies_.ask(plan, {}, [this](StudyPtr s) { show_study(s); });
}

void DaySheet::show_study(const StudyPtr& study) {
    line_->show_study(study);
    if (!*study) {
        said_->setText(words(study->error().text()));
        return;
    }
    const power::Day &day = (*study)->day, &swapped = (*study)->swapped;
    const auto minutes = power::minutes_of((*study)->loads->phases);
    QString text = tr("%1 lit, %2 idle, the rest stored. ")
                       .arg(words(duration(minutes.ignited)), words(duration(minutes.idle)));
    if (bench_.session.job().use.day.empty())
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
    const auto use = power::use_named(bench_.session.job(), use_->currentText().toStdString());
    if (!use) return;
    (void)bench_.session.edit(tr("Use: %1").arg(use_->currentText()), [&](job::Job& job) {
        std::erase_if(job.uses, [&](const job::Use& u) { return u.name == use->name; });
        // What it was is kept, where it would be lost.
        const bool usual = job::find_name(power::usual_days(), job.use.name) != nullptr;
        if (!usual && job.use.name != use->name && !job.use.name.empty())
            job.uses.push_back(job.use);
        job.use = *use;
    });
}

void DaySheet::keep_use() {
    bool given = false;
    const QString name =
        QInputDialog::getText(this, tr("Keep this day"), tr("Name"), QLineEdit::Normal, {}, &given);
    if (!given || name.trimmed().isEmpty()) return;
    if (auto ok = bench_.session.edit(tr("Keep the day %1").arg(name.trimmed()),
                                      [&](job::Job& job) {
                                          job::Use kept = job.use;
                                          kept.name = name.trimmed().toStdString();
                                          std::erase_if(job.uses, [&](const job::Use& u) {
                                              return u.name == kept.name;
                                          });
                                          job.uses.push_back(std::move(kept));
                                      });
        !ok)
        said_->setText(words(ok.error().text()));
}

} // namespace conductus::app
