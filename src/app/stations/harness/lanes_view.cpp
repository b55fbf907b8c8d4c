// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/harness/lanes_view.h"

#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>

#include "app/drawing/section_drawing.h"
#include "app/session/words.h"
#include "app/shell/picture_menu.h"
#include "core/base/format.h"

namespace conductus::app {

LanesView::LanesView(const PageContext& context, QWidget* parent)
    : QWidget(parent), context_(context) {
    setObjectName("lanes");
    setAccessibleName(tr("Wires as lanes"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    offer_picture(this, context.appearance);
    connect(&context.selection, &Selection::changed, this, qOverload<>(&QWidget::update));
    connect(&context.appearance, &Appearance::changed, this, [this] {
        updateGeometry();
        update();
    });
}

void LanesView::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    QStringList all;
    for (const harness::WireRow& w : plan->harness.wires)
        all << tr("%1 from %2 to %3").arg(words(w.ref), words(w.from), words(w.to));
    setAccessibleDescription(all.join(", "));
    updateGeometry();
    update();
}

QSize LanesView::sizeHint() const {
    const double text = context_.appearance.text();
    return {qRound(text * 40), plan_ ? qRound(lanes_height(*plan_, text)) : qRound(text * 8)};
}

void LanesView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), context_.appearance.inks().paper);
    if (!plan_) return;
    const SectionOptions& o = context_.selection.options();
    LanesOptions shown;
    shown.lettering = context_.appearance.text();
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
        if (x0 > 4 && x0 + end * axis->per_mm < width() - shown.lettering * 0.5)
            shown.axis = Scale{x0, 0, axis->per_mm};
    }
    spots_ = paint_lanes(p, QRectF(rect()).adjusted(2, 2, -2, -2), *plan_, shown,
                         context_.appearance.inks());
}

QString LanesView::wire_at(QPointF at) const {
    QString best;
    double least = 1e9;
    for (const LaneSpot& s : spots_)
        if (s.box.contains(at) && s.box.width() < least) best = s.ref, least = s.box.width();
    return best;
}

void LanesView::mousePressEvent(QMouseEvent* event) {
    if (const QString ref = wire_at(event->position()); !ref.isEmpty())
        context_.selection.choose(ref);
}

void LanesView::mouseMoveEvent(QMouseEvent* event) {
    const QString ref = wire_at(event->position());
    context_.selection.light(ref.isEmpty() ? QStringList() : QStringList{ref});
}

void LanesView::leaveEvent(QEvent*) { context_.selection.light({}); }

void LanesView::keyPressEvent(QKeyEvent* event) {
    const int step = event->key() == Qt::Key_Down || event->key() == Qt::Key_Right ? 1
                     : event->key() == Qt::Key_Up || event->key() == Qt::Key_Left  ? -1
                                                                                   : 0;
    if (!step || spots_.empty()) return QWidget::keyPressEvent(event);
    // From top to bottom, as they lie.
    std::vector<const LaneSpot*> order;
    for (const LaneSpot& s : spots_)
        order.push_back(&s);
    std::stable_sort(order.begin(), order.end(), [](const LaneSpot* a, const LaneSpot* b) {
        return a->box.top() != b->box.top() ? a->box.top() < b->box.top()
                                            : a->box.left() < b->box.left();
    });
    const auto now = std::find_if(order.begin(), order.end(), [&](const LaneSpot* s) {
        return s->ref == context_.selection.options().chosen;
    });
    const int n = static_cast<int>(order.size());
    const int at = now == order.end() ? (step > 0 ? -1 : n) : static_cast<int>(now - order.begin());
    context_.selection.choose(order[static_cast<std::size_t>((at + step + n) % n)]->ref);
}

bool LanesView::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip) return QWidget::event(event);
    const auto* help = static_cast<QHelpEvent*>(event);
    const harness::WireRow* w =
        plan_ ? plan_->harness.wire(wire_at(help->pos()).toStdString()) : nullptr;
    if (!w) {
        QToolTip::hideText();
        return true;
    }
    QString said = tr("%1: %2 to %3, %4 AWG %5, %6, %7 lost, %8 warmer")
                       .arg(words(w->ref), words(w->from), words(w->to))
                       .arg(w->gauge)
                       .arg(words(w->colour), words(text(w->amps)), words(text(w->drop)),
                            words(with_unit(w->rise.value(), "K")));
    said += "\n" + tr("%1: %2 along, %3 around, %4 ends, %5 slack (%6)")
                       .arg(words(text(w->route.length())), words(text(w->route.along)),
                            words(text(w->route.around)), words(text(w->route.ends)),
                            words(text(w->route.slack)), words(w->route.why));
    for (const std::string& advice : w->advice)
        said += "\n" + words(advice);
    QToolTip::showText(help->globalPos(), said, this);
    return true;
}

} // namespace conductus::app
