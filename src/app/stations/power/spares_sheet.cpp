// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/spares_sheet.h"

#include <QCheckBox>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>
#include <algorithm>
#include <atomic>

#include "app/drawing/days_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "core/base/format.h"

namespace conductus::app {
SparesSheet::SparesSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [bring, bring_column] = paper(tr("Spares to bring"), {}, this);
    days_ = new QSpinBox(bring);
    days_->setObjectName("spareDays");
    days_->setAccessibleName(tr("Days in a row"));
    days_->setRange(1, 60);
    days_->setValue(2);
    bays_ = new QSpinBox(bring);
    bays_->setObjectName("spareBays");
    bays_->setAccessibleName(tr("Sets charged at a time"));
    bays_->setRange(1, 12);
    for (QSpinBox* box : {days_, bays_}) {
        box->setButtonSymbols(QAbstractSpinBox::NoButtons);
        keep_width(box, context.appearance, 3.4);
    }
    overnight_ = new QCheckBox(tr("charged again each night"), bring);
    overnight_->setObjectName("spareNights");
    overnight_->setChecked(true);
    auto* rows = new QHBoxLayout;
    rows->setSpacing(14);
    rows->addWidget(grouped(tr("for"), days_, tr("days"), bring));
    rows->addWidget(overnight_);
    rows->addWidget(grouped({}, bays_, tr("sets at a time"), bring));
    rows->addStretch();
    spares_ = label({}, "second", bring);
    spares_->setObjectName("sparesSaid");
    spares_->setWordWrap(true);
    bring_column->addLayout(rows);
    bring_column->addWidget(spares_);

    auto [many, many_column] = paper(tr("Many such days"), {}, this);
    live_ = new QPushButton(tr("Live 1000 days"), many);
    live_->setObjectName("liveDays");
    progress_ = new QProgressBar(many);
    progress_->setObjectName("daysProgress");
    progress_->setRange(0, 1000);
    progress_->setTextVisible(false);
    progress_->setMaximumHeight(qRound(context.appearance.text() * 0.7));
    progress_->hide();
    events_ = label({}, "second", many);
    events_->setObjectName("daysSaid");
    events_->setWordWrap(true);
    picture_ = new DrawingView(
        "daysPicture", tr("Clean minutes of many days"), context.appearance,
        [this]() -> DrawingPtr { return std::make_shared<const DaysDrawing>(days_lived_); }, many);
    picture_->setMinimumHeight(qRound(context.appearance.text() * 7));
    picture_->redraw();
    auto* head = new QHBoxLayout;
    head->addWidget(live_);
    head->addWidget(progress_, 1);
    head->addStretch();
    many_column->addLayout(head);
    many_column->addWidget(picture_, 1);
    many_column->addWidget(events_);

    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(8);
    all->addWidget(bring);
    all->addWidget(many, 1);

    connect(days_, &QSpinBox::valueChanged, this, &SparesSheet::show_spares);
    connect(bays_, &QSpinBox::valueChanged, this, &SparesSheet::show_spares);
    connect(overnight_, &QCheckBox::toggled, this, &SparesSheet::show_spares);
    connect(live_, &QPushButton::clicked, this, &SparesSheet::live_days);
}

void SparesSheet::show_plan(const PlanPtr& plan) {
    if (plan_ && plan->whole != plan_->whole) { // those were days of another use
        context_.session.asking().forget<plan::ManyDays>(this);
        days_are_lived(false);
        days_lived_.reset();
        picture_->redraw();
        events_->clear();
    }
    plan_ = plan;
    context_.session.ask(plan::UseLivedThrough{}, this,
                         [this](const StudyPtr& study) { show_study(study); });
}

void SparesSheet::show_study(const StudyPtr& study) {
    study_ = study;
    if (!*study)
        spares_->setText(words(study->error()));
    else
        show_spares();
}

void SparesSheet::show_spares() {
    if (!study_ || !*study_) return;
    const plan::Spares s =
        plan::spares_for(**study_, days_->value(), overnight_->isChecked(), bays_->value());
    bays_->setEnabled(overnight_->isChecked());
    if (!s.covers) {
        spares_->setText(tr("A fresh cell is not clean: no number of spares helps."));
        return;
    }
    const std::size_t cells = (*study_)->loads->sets.front()->cells.size();
    QString text = counted(s.sets, tr("Bring %1 set"), tr("Bring %1 sets"));
    if (cells > 1) text += tr(" of %1 cells").arg(cells);
    text += s.sets > 1
                ? tr(": one in the hilt, %1 spare, each in a case of its own.").arg(s.sets - 1)
                : tr(": the one in the hilt lasts.");
    if (overnight_->isChecked()) {
        if (s.charging > Minute(0))
            text += " " + tr("%1 to charge one, %2 for a day's, attended.")
                              .arg(words(duration(s.charging)), words(duration(s.overnight)));
        else
            text += " " + tr("Choose the charger under Charging to see whether a night is enough.");
    }
    spares_->setText(text);
}

void SparesSheet::days_are_lived(bool now) {
    live_->setText(now ? tr("Stop") : tr("Live 1000 days"));
    progress_->setVisible(now);
    progress_->setValue(0);
}

void SparesSheet::live_days() {
    if (context_.session.asking().is_waiting<plan::ManyDays>(this)) { // it says Stop now
        context_.session.asking().stop<plan::ManyDays>(this);
        return;
    }
    if (!study_ || !*study_) return;
    days_are_lived(true);
    events_->clear();
    context_.session.ask(
        plan::ManyDays{(*study_)->loads}, this,
        [this](const plan::AnswerPtr<plan::ManyDays>& made) {
            days_are_lived(false);
            if (!*made || (*made)->days == 0) return;
            days_lived_ = {made, &**made};
            picture_->redraw();
            QStringList events;
            for (const auto& [event, count] : (*made)->events)
                events << tr("%1 in %2 of them").arg(words(event)).arg(count);
            events_->setText(tr("%1 days from full cells. What ended the clean time: %2.")
                                 .arg((*made)->days)
                                 .arg(events.join(", ")));
        },
        [this](std::size_t done, std::size_t all) {
            progress_->setRange(0, static_cast<int>(all));
            progress_->setValue(static_cast<int>(done));
        });
}

} // namespace conductus::app
