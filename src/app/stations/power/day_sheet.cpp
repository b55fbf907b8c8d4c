// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/day_sheet.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHeaderView>
#include <QInputDialog>
#include <QLabel>
#include <QPainter>
#include <QProgressBar>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>
#include <algorithm>
#include <atomic>
#include <cmath>

#include "app/drawing/plot.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "app/shell/row_reader.h"
#include "core/base/format.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

using job::EffectKind;

QString words(const std::string& s) { return QString::fromStdString(s); }

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

DaysPicture::DaysPicture(const Bench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
    setObjectName("daysPicture");
    setAccessibleName(tr("Clean minutes of many days"));
    setMinimumHeight(qRound(bench.appearance.text() * 7));
    connect(&bench.appearance, &Appearance::changed, this, qOverload<>(&QWidget::update));
}

void DaysPicture::show_days(std::shared_ptr<const power::Percentiles> days) {
    days_ = std::move(days);
    update();
}

void DaysPicture::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Inks& inks = bench_.appearance.inks();
    const double text = bench_.appearance.text();
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
    const PlotAxis axis = roomy(clean.front(), clean.back(), 6, "min");
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
    for (const auto& [minutes, word] :
         {std::pair{days_->p10, tr("1 in 10 less: %1")}, {days_->p50, tr("half less: %1")},
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

DaySheet::DaySheet(const Bench& bench, QWidget* parent) : StationPage(bench, parent), worker_(new Worker(this)) {
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
    top->addWidget(label(tr("A usual day, or one that was kept"), "second", sheet));
    top->addWidget(use_);
    top->addWidget(take);
    top->addStretch();
    top->addWidget(keep);
    const QStringList columns{tr("what"),  tr("min each"), tr("times"),   tr("idle between"),
                              tr("clash"), tr("blast"),    tr("lock-up"), tr("drag"),
                              tr("melt"),  tr("at °C"),    tr("loud %")};
    phases_ = new RowsTable(
        columns, 11, "phases", tr("Phases of the day"), bench.appearance,
        [this, columns](const RowsTable::Rows& rows) -> Result<void> {
            std::vector<job::Phase> day;
            if (auto ok = read_phases(rows, columns, day); !ok) return ok;
            return bench_.session.edit(tr("Day of use"), [&](job::Job& job) {
                power::set_day(job.use, day);
            });
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
    overnight_ = new QCheckBox(tr("charged again each night"), bring);
    overnight_->setObjectName("spareNights");
    overnight_->setChecked(true);
    auto* rows = new FlowLayout(9, 4);
    rows->addWidget(grouped(tr("for"), days_, tr("days"), bring));
    rows->addWidget(overnight_);
    rows->addWidget(grouped({}, bays_, tr("sets at a time"), bring));
    spares_ = label({}, "second", bring);
    spares_->setObjectName("sparesSaid");
    spares_->setWordWrap(true);
    bring_column->addLayout(rows);
    bring_column->addWidget(spares_);
    bring_column->addStretch();

    auto [many, many_column] = paper(tr("Many such days"), {}, this);
    live_ = new QPushButton(tr("Live 1000 days"), many);
    live_->setObjectName("liveDays");
    progress_ = new QProgressBar(many);
    progress_->setObjectName("daysProgress");
    progress_->setRange(0, 1000);
    progress_->setTextVisible(false);
    progress_->setMaximumHeight(qRound(bench.appearance.text() * 0.7));
    progress_->hide();
    events_ = label({}, "second", many);
    events_->setObjectName("daysSaid");
    events_->setWordWrap(true);
    picture_ = new DaysPicture(bench, many);
    auto* head = new QHBoxLayout;
    head->addWidget(live_);
    head->addWidget(progress_, 1);
    many_column->addLayout(head);
    many_column->addWidget(picture_, 1);
    many_column->addWidget(events_);

    auto* below = new QHBoxLayout;
    below->setSpacing(8);
    below->addWidget(bring, 5);
    below->addWidget(many, 8);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(8);
    all->addWidget(sheet, 7);
    all->addLayout(below, 5);

    connect(take, &QPushButton::clicked, this, &DaySheet::take_use);
    connect(keep, &QPushButton::clicked, this, &DaySheet::keep_use);
    connect(line_, &DayLine::drawn, this, [this](const std::vector<job::Phase>& day) {
        if (auto ok = bench_.session.edit(
                tr("Draw the day"), [&](job::Job& job) { power::set_day(job.use, day); });
            !ok)
            said_->setText(words(ok.error().text()));
    });
    connect(days_, &QSpinBox::valueChanged, this, &DaySheet::show_spares);
    connect(bays_, &QSpinBox::valueChanged, this, &DaySheet::show_spares);
    connect(overnight_, &QCheckBox::toggled, this, &DaySheet::show_spares);
    connect(live_, &QPushButton::clicked, this, &DaySheet::live_days);
    connect(worker_, &Worker::progressed, progress_,
            [this](int done, int) { progress_->setValue(done); });
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
    if (plan_ && plan->job != plan_->job) { // those were days of another use
        worker_->stop();
        picture_->show_days(nullptr);
        events_->clear();
    }
    plan_ = plan;
    studies_.ask(plan, {}, [this](StudyPtr s) { show_study(s); });
}

void DaySheet::show_study(const StudyPtr& study) {
    study_ = study;
    line_->show_study(study);
    if (!*study) {
        said_->setText(words(study->error().text()));
        spares_->clear();
        return;
    }
    const power::Day &day = (*study)->day, &swapped = (*study)->swapped;
    const auto minutes = power::minutes_of((*study)->loads->phases);
    QString text =
        tr("%1 lit, %2 idle, the rest stored. ")
            .arg(words(duration(minutes.ignited)), words(duration(minutes.idle)));
    if (bench_.session.job().use.day.empty())
        text += tr("No phases are set: spells of about five minutes with a clash flash a minute. ");
    if (swapped.hopeless)
        text += tr("A fresh cell is not clean: no number of spares helps.");
    else if (swapped.cells == 1)
        text += tr("One set of cells lasts the day; %1 % are left.")
                    .arg(swapped.charge * 100, 0, 'f', 0);
    else
        text += tr("%1 sets of cells, changed at the first crackle or when off.").arg(swapped.cells);
    if (day.clean)
        text += " " + tr("From full cells it is clean for %1 lit, then %2 crackles.")
                          .arg(words(duration(*day.clean)), words(day.first_crackle));
    said_->setText(text);
    show_spares();
}

void DaySheet::show_spares() {
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
    text += s.sets > 1 ? tr(": one in the hilt, %1 spare, each in a case of its own.").arg(s.sets - 1)
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
    const QString name = QInputDialog::getText(this, tr("Keep this day"), tr("Name"),
                                               QLineEdit::Normal, {}, &given);
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

void DaySheet::live_days() {
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
            *made = power::many_days(*loads, wanted, 1, side_by_side,
                                     [worker] { return worker->stopped(); },
                                     [&](std::size_t more) {
                                         worker->tell(done += more, wanted);
                                     });
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
