// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/spares_sheet.h"

#include <QCheckBox>
#include <QLabel>
#include <QPainter>
#include <QProgressBar>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>
#include <algorithm>
#include <atomic>

#include "app/drawing/plot.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "app/shell/picture_menu.h"
#include "core/base/format.h"

namespace conductus::app {
DaysPicture::DaysPicture(const PageContext& context, QWidget* parent)
    : QWidget(parent), context_(context) {
    setObjectName("daysPicture");
    setAccessibleName(tr("Clean minutes of many days"));
    offer_picture(this, context.appearance);
    setMinimumHeight(qRound(context.appearance.text() * 7));
    connect(&context.appearance, &Appearance::changed, this, qOverload<>(&QWidget::update));
}

void DaysPicture::show_days(std::shared_ptr<const power::Percentiles> days) {
    days_ = std::move(days);
    update();
}

void DaysPicture::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Inks& inks = context_.appearance.inks();
    const double text = context_.appearance.text();
    p.fillRect(rect(), inks.paper);
    if (!days_ || days_->clean.empty()) {
        p.setPen(inks.second);
        p.setFont(page_font(text));
        p.drawText(QRectF(rect()).adjusted(10, 4, -10, 0), Qt::TextWordWrap,
                   tr("No two days are alike. Live a thousand at random to see how long it stays "
                      "clean on a bad day, a usual one and a good one."));
        return;
    }
    const auto& clean = days_->clean;
    const QRectF area(text * 2.6, text * 1.6, width() - text * 5.2, height() - text * 3.6);
    const PlotAxis axis = roomy(clean.front(), clean.back(), 1, "min");
    paint_foot_axis(p, area, axis, text, inks);
    constexpr int bins = 30;
    std::array<int, bins> count{};
    for (const double m : clean)
        ++count[static_cast<std::size_t>(
            std::clamp(static_cast<int>(axis.share(m) * bins), 0, bins - 1))];
    const int most = *std::max_element(count.begin(), count.end());
    for (int i = 0; i < bins; ++i) {
        const double h = area.height() * count[static_cast<std::size_t>(i)] / most;
        p.fillRect(QRectF(area.left() + area.width() * i / bins + 0.5, area.bottom() - h,
                          area.width() / bins - 1, h),
                   inks.clean_pale);
    }
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(page_font(text * 0.86));
    double free_from = 0;
    for (const auto& [minutes, word] : {std::pair{days_->p10, tr("1 in 10 less: %1")},
                                        {days_->p50, tr("half less: %1")},
                                        {days_->p90, tr("9 in 10 less: %1")}}) {
        const double x = area.left() + axis.share(minutes.value()) * area.width();
        p.setPen(QPen(inks.petrol, 1.6));
        p.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
        const QString said = word.arg(words(duration(minutes)));
        const double w = QFontMetricsF(p.font()).horizontalAdvance(said) + 10;
        const double left = std::max(free_from, std::min(x - w / 2, width() - w));
        p.setPen(inks.ink);
        p.drawText(QRectF(left, 0, w, text * 1.5), Qt::AlignCenter, said);
        free_from = left + w;
    }
}

SparesSheet::SparesSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent), worker_(new Worker(this)) {
    setObjectName("benchPage");
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
    picture_ = new DaysPicture(context, many);
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
    connect(worker_, &Worker::progressed, progress_,
            [this](int done, int) { progress_->setValue(done); });
}

void SparesSheet::show_plan(const PlanPtr& plan) {
    if (plan_ && plan->job != plan_->job) { // those were days of another use
        worker_->stop();
        picture_->show_days(nullptr);
        events_->clear();
    }
    plan_ = plan;
    studies_.ask(plan, {}, [this](StudyPtr s) { show_study(s); });
}

void SparesSheet::show_study(const StudyPtr& study) {
    study_ = study;
    if (!*study)
        spares_->setText(words(study->error().text()));
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

void SparesSheet::live_days() {
    if (worker_->working()) { // it says Stop now
        worker_->stop();
        return;
    }
    if (!study_ || !*study_) return;
    live_->setText(tr("Stop"));
    progress_->setValue(0);
    progress_->show();
    events_->clear();
    constexpr std::size_t wanted = 1000;
    auto made = std::make_shared<power::Percentiles>();
    worker_->start(
        [worker = worker_, loads = (*study_)->loads, made] {
            std::atomic<std::size_t> done{0};
            *made = power::many_days(
                *loads, wanted, 1, side_by_side, [worker] { return worker->stopped(); },
                [&](std::size_t more) { worker->tell(done += more, wanted); });
        },
        [this, made, loads = (*study_)->loads] {
            live_->setText(tr("Live 1000 days"));
            progress_->hide();
            // Days of a use that is no more are not shown.
            if (!study_ || !*study_ || (*study_)->loads != loads || made->days == 0) return;
            picture_->show_days(made);
            QStringList events;
            for (const auto& [event, count] : made->events)
                events << tr("%1 in %2 of them").arg(words(event)).arg(count);
            events_->setText(tr("%1 days from full cells. What ended the clean time: %2.")
                                 .arg(made->days)
                                 .arg(events.join(", ")));
        });
}

} // namespace conductus::app
