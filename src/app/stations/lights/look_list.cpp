// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/look_list.h"

#include "app/session/words.h"

namespace conductus::app {

LookList::LookList(const PageContext& context, QWidget* parent)
    : DrawingView(
          "looks", tr("Looks"), context.appearance, [this]() -> DrawingPtr { return drawn(); },
          parent),
      context_(context) {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    keep_height();
    connect(&context.selection, &Selection::changed, this, [this] {
        redraw();
        const auto now = drawn();
        if (const int row = now ? now->chosen_row() : -1; row >= 0) emit row_moved(row_box(row));
    });
    connect(this, &DrawingView::pressed, this,
            [this](QPointF at) { choose(drawn() ? drawn()->row_at(at.y(), lettering()) : -1); });
    connect(this, &DrawingView::stepped, this,
            [this](int step) { choose(drawn() ? drawn()->chosen_row() + step : -1); });
    tell([this](QPointF at) { return told_at(at); });
}

std::shared_ptr<const LooksDrawing> LookList::drawn() const {
    if (!plan_) return nullptr;
    return std::make_shared<const LooksDrawing>(plan_, rows_, context_.selection.options().look,
                                                hasFocus());
}

void LookList::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    rows_ = LooksDrawing::rows_of(*plan, ranked_);
    redraw();
}

void LookList::show_preview(const PlanPtr& plan) {
    const PlanPtr was = plan_;
    plan_ = plan;
    if (rows_.order.size() != plan_->looks.size()) rows_ = LooksDrawing::rows_of(*plan, ranked_);
    if (zoom() > 1 || !was || was->looks.size() != plan->looks.size() ||
        LooksDrawing::largest(*was) != LooksDrawing::largest(*plan))
        return update();
    // What was not solved anew looks as it did.
    for (int row = 0; row < static_cast<int>(rows_.order.size()); ++row) {
        const std::size_t i = rows_.order[static_cast<std::size_t>(row)];
        if (was->looks[i].fresh != plan->looks[i].fresh) update(row_box(row));
    }
}

void LookList::rank(bool by_demand) {
    ranked_ = by_demand;
    if (plan_) rows_ = LooksDrawing::rows_of(*plan_, ranked_);
    redraw();
}

int LookList::height_of(int rows) const {
    const auto now = drawn();
    return now ? qCeil(now->row_box(rows, width(), lettering()).top()) + 2 : 0;
}

QRect LookList::row_box(int row) const {
    return drawn()->row_box(row, width(), lettering()).adjusted(0, 0, 0, 1).toAlignedRect();
}

void LookList::choose(int row) {
    if (const plan::LookPlan* look = drawn() ? drawn()->look_in(row) : nullptr)
        context_.selection.look_at(words(look->name));
}

QString LookList::told_at(const QPointF& place) const {
    return plan_ ? drawn()->told_at(place, width(), lettering()) : QString();
}

} // namespace conductus::app
