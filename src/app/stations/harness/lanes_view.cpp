// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/harness/lanes_view.h"

#include <algorithm>

#include "app/session/words.h"
#include "core/base/format.h"

namespace conductus::app {

LanesView::LanesView(const PageContext& context, QWidget* parent)
    : DrawingView(
          "lanes", tr("Wires as lanes"), context.appearance, [this] { return drawn(); }, parent),
      context_(context) {
    keep_height();
    connect(&context.selection, &Selection::changed, this, &DrawingView::redraw);
    connect(this, &DrawingView::pressed, this, [this](QPointF at) {
        if (const QString ref = ref_at(at); !ref.isEmpty()) context_.selection.choose(ref);
    });
    connect(this, &DrawingView::hovered, this, [this](QPointF at) {
        const QString ref = ref_at(at);
        context_.selection.light(ref.isEmpty() ? QStringList() : QStringList{ref});
    });
    connect(this, &DrawingView::left, this, [this] { context_.selection.light({}); });
    connect(this, &DrawingView::stepped, this, &LanesView::step);
    tell([this](QPointF at) { return told_of(ref_at(at)); });
}

void LanesView::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    redraw();
}

DrawingPtr LanesView::drawn() const {
    if (!plan_) return nullptr;
    const LongSectionOptions& o = context_.selection.options();
    LanesOptions shown;
    shown.chosen = o.chosen;
    shown.lit = o.lit;
    for (const job::Soldered& s : plan_->job->soldered)
        shown.done << words(s.wire);
    // Under the section, where the whole hilt is in sight on its scale.
    if (const auto axis = context_.selection.axis()) {
        const double x0 = axis->x0 - mapTo(window(), QPoint(0, 0)).x();
        double end = 0;
        for (const harness::Lane& lane : plan_->harness.lanes)
            end = std::max(end, lane.to);
        if (x0 > 4 && x0 + end * axis->per_mm < width() - lettering() * 0.5)
            shown.axis = Scale{x0, 0, axis->per_mm};
    }
    return lanes_drawing(plan_, shown);
}

void LanesView::step(int by) {
    if (boxes().empty()) return;
    // From top to bottom, as they lie.
    std::vector<const HitBox*> order;
    for (const HitBox& s : boxes())
        order.push_back(&s);
    std::stable_sort(order.begin(), order.end(), [](const HitBox* a, const HitBox* b) {
        return a->box.top() != b->box.top() ? a->box.top() < b->box.top()
                                            : a->box.left() < b->box.left();
    });
    const auto now = std::find_if(order.begin(), order.end(), [&](const HitBox* s) {
        return s->ref == context_.selection.options().chosen;
    });
    const int n = static_cast<int>(order.size());
    const int at = now == order.end() ? (by > 0 ? -1 : n) : static_cast<int>(now - order.begin());
    context_.selection.choose(order[static_cast<std::size_t>((at + by + n) % n)]->ref);
}

QString LanesView::told_of(const QString& wire) const {
    const harness::WireRow* w = plan_ ? plan_->harness.wire(wire.toStdString()) : nullptr;
    if (!w) return {};
    QString said = tr("%1: %2 to %3, %4 AWG %5, %6, %7 lost, %8 warmer")
                       .arg(words(w->ref), words(w->from), words(w->to))
                       .arg(w->gauge)
                       .arg(words(w->colour), words(text(w->amps)), words(text(w->drop)),
                            words(with_unit(w->rise.value(), "K")));
    said += "\n" + tr("%1: %2 along, %3 around, %4 ends, %5 slack (%6)")
                       .arg(words(text(w->route.length())), words(text(w->route.along)),
                            words(text(w->route.around)), words(text(w->route.ends)),
                            words(text(w->route.slack)), words(w->route.why));
    for (const Message& advice : w->advice)
        said += "\n" + words(advice);
    return said;
}

} // namespace conductus::app
