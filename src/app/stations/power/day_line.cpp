// SPDX-License-Identifier: GPL-3.0-or-later
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/drawing/plot.h"
#include "app/shell/picture_menu.h"
#include "app/stations/power/day_sheet.h"
#include "core/base/format.h"

namespace conductus::app {
namespace {

constexpr double a_day = 1440; // min

double length_of(const job::Phase& p) {
    return p.lasts.value() * p.times + p.pause.value() * (p.times - 1);
}

} // namespace

DayLine::DayLine(const PageContext& context, QWidget* parent) : QWidget(parent), context_(context) {
    setObjectName("dayLine");
    setAccessibleName(tr("The day on a line of 24 hours"));
    offer_picture(this, context.appearance);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setMouseTracking(true);
    setToolTip(tr("Drag the end of a phase; drag in what is left to light it then"));
    connect(&context.appearance, &Appearance::changed, this, [this] {
        updateGeometry();
        update();
    });
}

QSize DayLine::sizeHint() const { return {300, qRound(context_.appearance.text() * 6.8)}; }

QRectF DayLine::band() const {
    const double text = context_.appearance.text();
    return {text * 1.6, text * 1.7, width() - text * 3.2, text * 1.7};
}

double DayLine::x_of(double m) const { return band().left() + m / a_day * band().width(); }

void DayLine::show_study(StudyPtr study) {
    study_ = std::move(study);
    update();
}

void DayLine::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Inks& inks = context_.appearance.inks();
    const double text = context_.appearance.text();
    p.fillRect(rect(), inks.paper);
    const QRectF area = band();
    p.fillRect(area, inks.bench);
    const auto phases = power::phases_of(context_.session.job().use);
    const auto& shown = edge_ >= 0 || !dragged_.empty() ? dragged_ : phases;
    double now = 0;
    for (const job::Phase& phase : shown) {
        for (int t = 0; t < phase.times; ++t) {
            const double from = x_of(now), to = x_of(now + phase.lasts.value());
            const QColor fill = phase.kind == job::PhaseKind::ignited ? inks.petrol
                                : phase.kind == job::PhaseKind::idle  ? inks.clean_pale
                                                                      : inks.bench;
            p.fillRect(QRectF(from, area.top(), std::max(1.0, to - from), area.height()), fill);
            now += phase.lasts.value();
            if (t + 1 < phase.times) {
                p.fillRect(
                    QRectF(to, area.top(), x_of(now + phase.pause.value()) - to, area.height()),
                    inks.clean_pale);
                now += phase.pause.value();
            }
        }
        p.setPen(QPen(inks.ink, 1.4)); // its end, to be dragged
        p.drawLine(QPointF(x_of(now), area.top() - 3), QPointF(x_of(now), area.bottom() + 3));
    }
    p.setPen(QPen(inks.ink, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(area);
    p.setRenderHint(QPainter::Antialiasing);
    if (study_ && *study_ && dragged_.empty())
        for (const power::DayMark& m : (*study_)->swapped.marks) {
            if (m.kind != power::DayMark::Kind::swap) continue;
            const double x = x_of(m.at.value() / 60);
            p.setBrush(inks.warn);
            p.setPen(Qt::NoPen);
            const double h = text * 0.75;
            const QPointF arrow[] = {
                {x - h / 2, area.top() - h}, {x + h / 2, area.top() - h}, {x, area.top() - 1}};
            p.drawPolygon(arrow, 3);
        }
    paint_foot_axis(p, area, {0, a_day, "min", false}, text, inks);
    const std::pair<QColor, QString> keys[] = {{inks.petrol, tr("lit")},
                                               {inks.clean_pale, tr("idle")},
                                               {inks.bench, tr("stored")},
                                               {inks.warn, tr("cells changed")}};
    double x = area.left();
    const double y = height() - text * 0.9;
    p.setFont(page_font(text * 0.86));
    for (const auto& [fill, word] : keys) {
        p.setPen(QPen(inks.second, 1));
        p.setBrush(fill);
        p.drawRect(QRectF(x, y - 4, 14, 8));
        p.setPen(inks.ink);
        p.drawText(QRectF(x + 19, y - text * 0.7, 200, text * 1.4), Qt::AlignVCenter, word);
        x += QFontMetricsF(p.font()).horizontalAdvance(word) + 38;
    }
}

int DayLine::edge_at(double x) const {
    double now = 0;
    const auto& day = context_.session.job().use.day;
    for (std::size_t i = 0; i < day.size(); ++i) {
        now += length_of(day[i]);
        if (std::abs(x_of(now) - x) < 5) return static_cast<int>(i);
    }
    return -1;
}

void DayLine::mousePressEvent(QMouseEvent* event) {
    const double x = event->position().x();
    dragged_ = context_.session.job().use.day;
    if (dragged_.empty()) { // so far only minutes are told: from here on they are phases
        dragged_ = power::phases_of(context_.session.job().use);
        std::erase_if(dragged_,
                      [](const job::Phase& p) { return p.kind == job::PhaseKind::stored; });
    }
    edge_ = edge_at(x);
    if (edge_ >= 0) return;
    double end = 0;
    for (const job::Phase& p : dragged_)
        end += length_of(p);
    from_ = std::round((x - band().left()) / band().width() * a_day / 5) * 5;
    if (from_ < end || from_ >= a_day) { // on a phase: nothing to draw
        dragged_.clear();
        return;
    }
    if (from_ > end)
        dragged_.push_back({job::PhaseKind::stored, Minute(from_ - end), 1, {}, {}, {}, {}});
    dragged_.push_back(
        {job::PhaseKind::ignited, Minute(5), 1, {}, {{job::EffectKind::flash, 1}}, {}, {}});
    edge_ = static_cast<int>(dragged_.size()) - 1;
    update();
}

void DayLine::drag_to(double minute) {
    double before = 0, after = 0;
    for (std::size_t i = 0; i < dragged_.size(); ++i)
        (static_cast<int>(i) < edge_ ? before : after) += length_of(dragged_[i]);
    job::Phase& p = dragged_[static_cast<std::size_t>(edge_)];
    after -= length_of(p);
    const double most = a_day - before - after;
    const double wanted = std::clamp(std::round(minute - before), 1.0, most);
    // Times and pauses stay; what each lasts follows.
    const double pauses = p.pause.value() * (p.times - 1);
    p.lasts = Minute(std::max(0.1, (wanted - pauses) / p.times));
    update();
}

void DayLine::mouseMoveEvent(QMouseEvent* event) {
    const double x = event->position().x();
    if (edge_ < 0 || dragged_.empty()) {
        setCursor(edge_at(x) >= 0 ? Qt::SplitHCursor : Qt::ArrowCursor);
        return;
    }
    drag_to((x - band().left()) / band().width() * a_day);
}

void DayLine::mouseReleaseEvent(QMouseEvent*) {
    if (edge_ < 0) return;
    edge_ = -1;
    const auto day = std::exchange(dragged_, {});
    emit drawn(day);
    update();
}

} // namespace conductus::app
