// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/discharge_sheet.h"

#include <QCheckBox>
#include <QKeyEvent>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QSlider>
#include <QVBoxLayout>
#include <algorithm>

#include "app/drawing/plot.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/picture_menu.h"
#include "app/stations/power/ribbon_list.h"
#include "core/base/format.h"
#include "core/job/lookup.h"

namespace conductus::app {
DischargeView::DischargeView(const PageContext& context, QWidget* parent)
    : QWidget(parent), context_(context) {
    setObjectName("dischargeCurve");
    setAccessibleName(tr("Volts over the use"));
    setFocusPolicy(Qt::StrongFocus);
    offer_picture(this, context.appearance);
    setMinimumHeight(qRound(context.appearance.text() * 13));
    setToolTip(tr("Left and Right move the cursor"));
    connect(&context.appearance, &Appearance::changed, this, qOverload<>(&QWidget::update));
}

const power::Day* DischargeView::day() const {
    return study_ && *study_ && !(*study_)->day.samples.empty() ? &(*study_)->day : nullptr;
}

double DischargeView::minutes_of(const power::DaySample& s) const {
    return clock_ ? s.at.value() / 60 : s.ignited.value();
}

QRectF DischargeView::box() const {
    const double text = context_.appearance.text();
    return {text * 4.6, text * 3.1, width() - text * 6.4, std::max(30.0, height() - text * 6.6)};
}

void DischargeView::show_study(StudyPtr study, Volt need, Volt cut_off) {
    study_ = std::move(study);
    need_ = need;
    cut_off_ = cut_off;
    at_ = day() ? std::min(at_, day()->samples.size() - 1) : 0;
    update();
}

void DischargeView::by_clock(bool on) {
    clock_ = on;
    update();
}

void DischargeView::go_to(std::size_t sample) {
    at_ = sample;
    update();
}

void DischargeView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Inks& inks = context_.appearance.inks();
    const double text = context_.appearance.text();
    p.fillRect(rect(), inks.paper);
    const power::Day* d = day();
    if (!d) {
        p.setPen(inks.second);
        p.setFont(page_font(text));
        p.drawText(QRectF(rect()).adjusted(10, 6, -10, 0), Qt::TextWordWrap,
                   study_ && !*study_ ? QString::fromStdString(study_->error().text())
                                      : tr("The use is being lived through …"));
        return;
    }
    const QRectF area = box();
    double low = 1e9, high = 0;
    for (const power::DaySample& s : d->samples) {
        low = std::min({low, s.audio.value(), s.board.value()});
        high = std::max(high, s.open.value());
    }
    if (need_ > Volt(0)) low = std::min(low, need_.value() - 0.05);
    if (cut_off_ > Volt(0)) low = std::min(low, cut_off_.value() - 0.15); // room for its words
    const PlotAxis volts = roomy(low, high, 0.1, "V");
    const PlotAxis minutes{0, std::max(1.0, minutes_of(d->samples.back())), "min", false};
    paint_side_axis(p, area, volts, text, inks);
    paint_foot_axis(p, area, minutes, text, inks);
    p.setRenderHint(QPainter::Antialiasing);
    auto at = [&](double m, double v) {
        return QPointF(area.left() + minutes.share(m) * area.width(),
                       area.bottom() - volts.share(v) * area.height());
    };
    // What the sound needs, and what the board stands, as lines to fall below.
    p.setFont(page_font(text * 0.86));
    auto limit = [&](Volt v, const QColor& ink, const QString& what, double above) {
        if (!(v > Volt(0)) || v.value() < volts.from) return;
        const double y = at(0, v.value()).y();
        p.setPen(QPen(ink, 1.2, Qt::DashLine));
        p.drawLine(QPointF(area.left(), y), QPointF(area.right(), y));
        p.drawText(QRectF(area.left() + 4, y - above, area.width() - 8, text * 1.3),
                   Qt::AlignLeft | Qt::AlignVCenter, what);
    };
    limit(need_, inks.warn,
          tr("sound needs %1").arg(QString::fromStdString(conductus::text(need_))), text * 1.35);
    limit(cut_off_, inks.stop,
          tr("board cuts off at %1").arg(QString::fromStdString(conductus::text(cut_off_))), 0);
    p.setClipRect(area.adjusted(-2, -2, 2, 2));
    auto curve = [&](Volt power::DaySample::*what, const QColor& ink, double width) {
        QPainterPath path;
        bool first = true;
        for (const power::DaySample& s : d->samples) {
            const QPointF point = at(minutes_of(s), (s.*what).value());
            first ? path.moveTo(point) : path.lineTo(point);
            first = false;
        }
        p.setPen(QPen(ink, width));
        p.setBrush(Qt::NoBrush);
        p.drawPath(path);
    };
    curve(&power::DaySample::audio, inks.crackle.darker(115), 1);
    curve(&power::DaySample::board, inks.petrol, 1.4);
    curve(&power::DaySample::open, inks.second, 1.2);
    p.setClipping(false);
    // Marks above the curve, each with its word, in two rows where they stand close.
    double free_from[2] = {0, 0};
    for (const power::DayMark& m : d->marks) {
        const double x = at(clock_ ? m.at.value() / 60 : m.ignited.value(), volts.from).x();
        const QColor ink =
            m.kind == power::DayMark::Kind::dim ? inks.note
            : m.kind == power::DayMark::Kind::off || m.kind == power::DayMark::Kind::trip
                ? inks.stop
                : inks.warn;
        p.setPen(QPen(ink, 1.2));
        p.drawLine(QPointF(x, area.top() - 3), QPointF(x, area.bottom()));
        const QString word = words(power::word(m.kind));
        const double w = QFontMetricsF(p.font()).horizontalAdvance(word) + 8;
        const double left = std::clamp(x - w / 2, area.left() - text * 3, area.right() + text - w);
        const int row = left >= free_from[0] ? 0 : left >= free_from[1] ? 1 : -1;
        if (row < 0) continue;
        p.drawText(QRectF(left, area.top() - text * (row == 0 ? 1.6 : 2.9), w, text * 1.3),
                   Qt::AlignCenter, word);
        free_from[row] = left + w;
    }
    const power::DaySample& now = d->samples[at_];
    p.setPen(QPen(inks.ink, 1.4));
    const double x = at(minutes_of(now), volts.from).x();
    p.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
    p.setBrush(inks.petrol);
    p.drawEllipse(at(minutes_of(now), now.board.value()), 3.5, 3.5);
    // What the lines are.
    const std::pair<QColor, QString> keys[] = {
        {inks.second, tr("resting cell")},
        {inks.petrol, tr("board")},
        {inks.crackle.darker(115), tr("board in a sound peak")}};
    double key_x = area.left();
    const double y = height() - text * 1.0;
    for (const auto& [ink, word] : keys) {
        p.setPen(QPen(ink, 2.2));
        p.drawLine(QPointF(key_x, y), QPointF(key_x + 16, y));
        p.setPen(inks.ink);
        p.drawText(QRectF(key_x + 21, y - text * 0.7, text * 20, text * 1.4),
                   Qt::AlignLeft | Qt::AlignVCenter, word);
        key_x += QFontMetricsF(p.font()).horizontalAdvance(word) + 40;
    }
    p.setPen(inks.second);
    p.drawText(QRectF(area.left(), y - text * 0.7, area.width() + text, text * 1.4),
               Qt::AlignRight | Qt::AlignVCenter,
               clock_ ? tr("hours and minutes of the clock") : tr("hours and minutes lit"));
}

void DischargeView::mousePressEvent(QMouseEvent* event) {
    const power::Day* d = day();
    if (!d) return;
    setFocus();
    const double share =
        std::clamp((event->position().x() - box().left()) / box().width(), 0.0, 1.0);
    const double wanted_minutes = share * minutes_of(d->samples.back());
    const auto it =
        std::lower_bound(d->samples.begin(), d->samples.end(), wanted_minutes,
                         [this](const power::DaySample& s, double m) { return minutes_of(s) < m; });
    const auto i = it == d->samples.end() ? d->samples.size() - 1
                                          : static_cast<std::size_t>(it - d->samples.begin());
    emit wanted(static_cast<int>(i));
}

void DischargeView::mouseMoveEvent(QMouseEvent* event) { mousePressEvent(event); }

void DischargeView::keyPressEvent(QKeyEvent* event) {
    const power::Day* d = day();
    const int step = event->key() == Qt::Key_Right ? 1 : event->key() == Qt::Key_Left ? -1 : 0;
    if (!d || step == 0) return QWidget::keyPressEvent(event);
    emit wanted(
        std::clamp(static_cast<int>(at_) + step, 0, static_cast<int>(d->samples.size()) - 1));
}

DischargeSheet::DischargeSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("benchPage");
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
    view_ = new DischargeView(context, sheet);
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

    steps_ = new StepsView(context, sheet);
    steps_->setMinimumHeight(qRound(context.appearance.text() * 6));
    steps_->setMaximumHeight(qRound(context.appearance.text() * 8));
    steps_->setObjectName("dischargeSteps");
    column->addWidget(label(tr("Where the volts go at that moment"), "heading", sheet));
    column->addWidget(steps_);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet, 1);

    connect(clock_, &QCheckBox::toggled, view_, &DischargeView::by_clock);
    connect(view_, &DischargeView::wanted, time_, &QSlider::setValue);
    connect(time_, &QSlider::valueChanged, this, &DischargeSheet::show_moment);
}

void DischargeSheet::hideEvent(QHideEvent* event) {
    context_.selection.show_moment(nullptr, {});
    StationPage::hideEvent(event);
}

void DischargeSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    steps_->show_plan(plan);
    studies_.ask(plan, {}, [this](StudyPtr s) { show_study(s); });
}

void DischargeSheet::show_study(const StudyPtr& study) {
    study_ = study;
    const auto board = job::first_of<catalogue::Board>(*plan_->job, *plan_->parts);
    const Volt need = plan_->run ? plan_->run->need : Volt(0);
    view_->show_study(study, need, board ? board.figures->cut_off : Volt(0));
    if (!*study) {
        said_->setText(QString::fromStdString(study->error().text()));
        marks_->clear();
        return;
    }
    const power::Day& day = (*study)->day;
    QStringList marks, whys;
    for (const power::DayMark& m : day.marks) {
        const QString after = QString::fromStdString(duration(m.ignited));
        marks << tr("%1 after %2: %3")
                     .arg(words(power::word(m.kind)), after, QString::fromStdString(m.event));
        whys << tr("%1 after %2 lit: %3")
                    .arg(words(power::word(m.kind)), after, QString::fromStdString(m.why));
    }
    marks_->setText(marks.join("\n"));
    marks_->setToolTip(whys.join("\n"));
    view_->setAccessibleDescription(whys.join("; "));
    white_y_ = 0;
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
    view_->go_to(i);
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
    if (auto view = plan::moment_of(*plan_, study, s, white_y_))
        context_.selection.show_moment(std::make_shared<const plan::View>(std::move(*view)), when);
}

} // namespace conductus::app
