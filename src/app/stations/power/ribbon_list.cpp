// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/ribbon_list.h"

#include <QKeyEvent>
#include <QPainter>

#include "app/drawing/steps_drawing.h"
#include "app/session/words.h"
#include "core/base/format.h"

namespace conductus::app {

RibbonList::RibbonList(const PageContext& context, QWidget* parent)
    : DrawingView(
          "ribbons", tr("How long each cell runs"), context.appearance,
          [this]() -> DrawingPtr {
              if (!plan_) return nullptr;
              const DrawingPtr rows = ribbons_drawing(plan_, false);
              return make_drawing([rows](double lettering) { return rows->size(lettering); },
                                  [this, rows](const Surface& on) {
                                      const bool row = hasFocus() && row_ < plan_->options.size();
                                      if (row) on.p.fillRect(row_box(row_), on.inks.chosen);
                                      auto boxes = rows->paint(on);
                                      if (!row) return boxes;
                                      on.p.setPen(QPen(on.inks.petrol, 1.5));
                                      on.p.setBrush(Qt::NoBrush);
                                      on.p.drawRect(row_box(row_).adjusted(1, 1, -1, -1));
                                      return boxes;
                                  },
                                  [this] { return row_words(row_); });
          },
          parent) {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    keep_height();
    setToolTip(tr("Up and Down choose a cell, Enter fits it"));
    connect(this, &DrawingView::stepped, this, [this](int step) {
        const std::size_t rows = plan_ ? plan_->options.size() : 0;
        if (step > 0 ? row_ + 1 < rows : row_ > 0) choose(step > 0 ? row_ + 1 : row_ - 1);
    });
    connect(this, &DrawingView::pressed, this, [this](QPointF at) {
        const auto row = static_cast<std::size_t>(std::max(0.0, at.y() / layout_now().row));
        if (plan_ && row < plan_->options.size()) choose(row);
    });
}

RibbonLayout RibbonList::layout_now() const {
    return ribbons_layout(plan_.get(), width(), lettering());
}

QRectF RibbonList::row_box(std::size_t row) const {
    const double h = layout_now().row;
    return {0, h * static_cast<double>(row), static_cast<double>(width()), h};
}

QString RibbonList::row_words(std::size_t row) const {
    if (!plan_ || row >= plan_->options.size()) return {};
    const plan::CellOption& o = plan_->options[row];
    return tr("%1, clean %2, bright %3, off %4, %5")
        .arg(QString::fromStdString(o.name), QString::fromStdString(duration(o.clean)),
             QString::fromStdString(duration(o.bright)), QString::fromStdString(duration(o.off)),
             words(o.remark));
}

void RibbonList::show_plan(const PlanPtr& plan) {
    // The chosen row follows its cell, not its place in the list.
    const std::string chosen =
        plan_ && row_ < plan_->options.size() ? plan_->options[row_].type : "";
    plan_ = plan;
    row_ = 0;
    for (std::size_t i = 0; i < plan->options.size(); ++i)
        if (plan->options[i].type == chosen) row_ = i;
    redraw();
}

void RibbonList::choose(std::size_t row) {
    row_ = row;
    redraw();
    emit row_moved(row_box(row_).toRect());
}

void RibbonList::keyPressEvent(QKeyEvent* event) {
    const bool enter = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
    if (enter && plan_ && row_ < plan_->options.size())
        emit fit_wanted(row_);
    else
        DrawingView::keyPressEvent(event);
}

void RibbonList::mouseDoubleClickEvent(QMouseEvent*) {
    if (plan_ && row_ < plan_->options.size()) emit fit_wanted(row_);
}

RibbonAxis::RibbonAxis(const PageContext& context, const RibbonList& list, QWidget* parent)
    : QWidget(parent), context_(context), list_(list) {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setAccessibleName(tr("Time axis"));
    connect(&context.appearance, &Appearance::changed, this, [this] { updateGeometry(); });
}

QSize RibbonAxis::sizeHint() const { return {100, qRound(context_.appearance.text() * 2.9)}; }

void RibbonAxis::paintEvent(QPaintEvent*) {
    QPainter p(this);
    // As wide as the list, which may have a scroll bar beside it.
    paint_ribbon_axis(p, QRectF(0, 0, list_.width(), height()), list_.layout_now(),
                      context_.appearance.inks());
}

StepsView::StepsView(const char* object, const PageContext& context, QWidget* parent)
    : DrawingView(
          object, tr("Where the volts go"), context.appearance, [this] { return drawn(); }, parent),
      context_(context) {
    connect(&context.selection, &Selection::changed, this, &DrawingView::redraw);
    connect(this, &DrawingView::pressed, this, [this](QPointF at) {
        if (const QString ref = ref_at(at); !ref.isEmpty()) context_.selection.choose(ref);
    });
}

void StepsView::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    redraw();
}

DrawingPtr StepsView::drawn() const {
    if (!plan_) return nullptr;
    const LongSectionOptions& o = context_.selection.options();
    if (o.moment) return steps_drawing(o.moment, o.chosen);
    const plan::LookPlan* look = plan_->look(o.look.toStdString());
    if (!look) return nullptr;
    return steps_drawing({plan_, &look->views[o.charge]}, o.chosen);
}

} // namespace conductus::app
