// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/discharge_sheet.h"

#include <QCheckBox>
#include <QLabel>
#include <QSlider>
#include <QVBoxLayout>
#include <algorithm>

#include "app/drawing/discharge_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/stations/power/ribbon_list.h"
#include "core/base/format.h"
#include "core/job/lookup.h"

namespace conductus::app {
DischargeSheet::DischargeSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [sheet, column] =
        paper(tr("Discharge"), tr("the use, day after day, until it is off"), this);
    clock_ = new QCheckBox(tr("by the clock"), sheet);
    clock_->setObjectName("dischargeClock");
    clock_->setToolTip(tr("With all the time it is stored and idle, not the minutes lit alone"));
    time_ = new QSlider(Qt::Horizontal, sheet);
    time_->setObjectName("dischargeTime");
    time_->setAccessibleName(tr("Moment of the discharge"));
    said_ = label({}, "second", sheet);
    said_->setObjectName("dischargeFigures");
    said_->setWordWrap(true);
    marks_ = label({}, "second", sheet);
    marks_->setObjectName("dischargeMarks");
    marks_->setWordWrap(true);
    view_ = new DrawingView(
        "dischargeCurve", tr("Volts over the use"), context.appearance,
        [this]() -> DrawingPtr {
            if (!plan_) return nullptr;
            return std::make_shared<const DischargeDrawing>(
                *plan_, study_, clock_->isChecked(), static_cast<std::size_t>(time_->value()));
        },
        sheet);
    view_->setMinimumHeight(qRound(context.appearance.text() * 13));
    auto* row = new QHBoxLayout;
    row->setSpacing(10);
    row->addWidget(clock_);
    row->addWidget(time_, 1);
    auto* left = new QVBoxLayout;
    left->addWidget(view_, 1);
    left->addLayout(row);
    auto* right = new QVBoxLayout;
    right->setSpacing(8);
    right->addWidget(said_);
    right->addWidget(marks_);
    right->addStretch();
    auto* middle = new QHBoxLayout;
    middle->setSpacing(12);
    middle->addLayout(left, 7);
    middle->addLayout(right, 3);
    column->addLayout(middle, 1);

    steps_ = new StepsView("dischargeSteps", context, sheet);
    steps_->setMinimumHeight(qRound(context.appearance.text() * 6));
    steps_->setMaximumHeight(qRound(context.appearance.text() * 8));
    column->addWidget(label(tr("Where the volts go at that moment"), "heading", sheet));
    column->addWidget(steps_);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet, 1);

    connect(clock_, &QCheckBox::toggled, view_, &DrawingView::redraw);
    const auto go = [this](QPointF at) {
        const auto* drawn = dynamic_cast<const DischargeDrawing*>(view_->drawing().get());
        if (!drawn) return;
        if (const auto i = drawn->sample_at(at, view_->frame(), view_->lettering()))
            time_->setValue(static_cast<int>(*i));
    };
    connect(view_, &DrawingView::pressed, this, go);
    connect(view_, &DrawingView::dragged, this, go);
    connect(view_, &DrawingView::stepped, this,
            [this](int step) { time_->setValue(time_->value() + step); });
    connect(time_, &QSlider::valueChanged, this, &DischargeSheet::show_moment);
}

void DischargeSheet::hideEvent(QHideEvent* event) {
    context_.selection.show_moment(nullptr, {});
    StationPage::hideEvent(event);
}

void DischargeSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    steps_->show_plan(plan);
    context_.session.ask(plan::UseLivedThrough{}, this,
                         [this](const StudyPtr& study) { show_study(study); });
}

void DischargeSheet::show_study(const StudyPtr& study) {
    study_ = study;
    if (!*study) {
        said_->setText(words(study->error()));
        marks_->clear();
        view_->redraw();
        return;
    }
    const power::Day& day = (*study)->day;
    QStringList marks, whys;
    for (const power::DayMark& m : day.marks) {
        const QString after = QString::fromStdString(duration(m.ignited));
        marks << tr("%1 after %2: %3")
                     .arg(term(power::word(m.kind)), after, QString::fromStdString(m.event));
        whys << tr("%1 after %2 lit: %3").arg(term(power::word(m.kind)), after, words(m.why));
    }
    marks_->setText(marks.join("\n"));
    marks_->setToolTip(whys.join("\n"));
    const QSignalBlocker quiet(time_);
    time_->setRange(0, static_cast<int>(day.samples.size()) - 1);
    time_->setValue(std::min(time_->value(), time_->maximum()));
    show_moment(time_->value());
}

void DischargeSheet::show_moment(int sample) {
    if (!study_ || !*study_ || (*study_)->day.samples.empty()) return;
    const plan::UseStudy& study = **study_;
    const auto i = std::min(static_cast<std::size_t>(sample), study.day.samples.size() - 1);
    const power::DaySample& s = study.day.samples[i];
    view_->redraw();
    auto t = [](auto value) { return QString::fromStdString(text(value)); };
    const QString when =
        tr("%1 lit, %2 on the clock: %3")
            .arg(QString::fromStdString(duration(s.ignited)),
                 QString::fromStdString(duration(Minute(s.at.value() / 60))), words(s.shows));
    said_->setText(
        tr("%1.\nCharge %2 %, %3\nCell %4 at rest, %5 in use\nBoard %6, in a sound peak %7\nLast "
           "pixel %8\nCell at %9")
            .arg(when)
            .arg(s.charge * 100, 0, 'f', 0)
            .arg(t(s.amps), t(s.open), t(s.cell), t(s.board), t(s.audio),
                 s.pixel > Volt(0) ? t(s.pixel) : tr("dark"), t(s.warmth)));
    if (!isVisible()) return;
    // The section follows: flags, blade and overlays of this very moment.
    context_.session.ask(plan::MomentOf{study_, i}, this,
                         [this, when](const plan::AnswerPtr<plan::MomentOf>& view) {
                             if (*view && isVisible())
                                 context_.selection.show_moment({view, &**view}, when);
                         });
}

} // namespace conductus::app
