// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>

#include "app/stations/power/day_sheet.h"

namespace conductus::app {
namespace {

constexpr double a_day = DayDrawing::a_day;

double length_of(const job::Phase& p) {
    return p.lasts.value() * p.times + p.pause.value() * (p.times - 1);
}

} // namespace

DayLine::DayLine(const PageContext& context, QWidget* parent)
    : DrawingView(
          "dayLine", tr("The day on a line of 24 hours"), context.appearance,
          [this]() -> DrawingPtr {
              const bool dragging = !dragged_.empty();
              return std::make_shared<const DayDrawing>(
                  dragging ? dragged_ : power::phases_of(context_.session.job().use),
                  dragging ? nullptr : study_);
          },
          parent),
      context_(context) {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    keep_height();
    setToolTip(tr("Drag the end of a phase; drag in what is left to light it then"));
    connect(this, &DrawingView::pressed, this, [this](QPointF at) { take_hold(at.x()); });
    connect(this, &DrawingView::dragged, this, [this](QPointF at) {
        if (edge_ >= 0 && !dragged_.empty()) drag_to(minute_at(at.x()));
    });
    connect(this, &DrawingView::hovered, this, [this](QPointF at) {
        setCursor(edge_at(at.x()) >= 0 ? Qt::SplitHCursor : Qt::ArrowCursor);
    });
    connect(this, &DrawingView::released, this, &DayLine::let_go);
    redraw();
}

void DayLine::show_study(StudyPtr study) {
    study_ = std::move(study);
    redraw();
}

double DayLine::minute_at(double x) const {
    const QRectF band = DayDrawing::band(frame(), lettering());
    return (x - band.left()) / band.width() * a_day;
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

void DayLine::take_hold(double x) {
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
    from_ = std::round(minute_at(x) / 5) * 5;
    if (from_ < end || from_ >= a_day) { // on a phase: nothing to draw
        dragged_.clear();
        return;
    }
    if (from_ > end)
        dragged_.push_back({job::PhaseKind::stored, Minute(from_ - end), 1, {}, {}, {}, {}});
    dragged_.push_back(
        {job::PhaseKind::ignited, Minute(5), 1, {}, {{job::EffectKind::flash, 1}}, {}, {}});
    edge_ = static_cast<int>(dragged_.size()) - 1;
    redraw();
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
    redraw();
}

void DayLine::let_go() {
    if (edge_ < 0) return;
    edge_ = -1;
    const auto day = std::exchange(dragged_, {});
    emit drawn(day);
    redraw();
}

} // namespace conductus::app
