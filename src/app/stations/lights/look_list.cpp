// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/look_list.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QPaintEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>
#include <numeric>

#include "app/drawing/blade_drawing.h"
#include "app/shell/picture_menu.h"
#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/job/words.h"
#include "core/plan/pixel_seen.h"
#include "core/power/runtime.h"

namespace conductus::app {

LookList::LookList(const PageContext& context, QWidget* parent)
    : QWidget(parent), context_(context) {
    setObjectName("looks");
    setAccessibleName(tr("Looks"));
    setFocusPolicy(Qt::StrongFocus);
    offer_picture(this, context.appearance);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(&context.selection, &Selection::changed, this, [this] {
        update();
        if (const int row = chosen_row(); row >= 0) emit row_moved(row_box(row));
    });
    connect(&context.appearance, &Appearance::changed, this, [this] {
        updateGeometry();
        update();
    });
}

QSize LookList::sizeHint() const {
    const auto rows = plan_ ? static_cast<double>(plan_->looks.size()) : 1.0;
    return {qRound(context_.appearance.text() * 28), qRound(head_height() + rows * row_height())};
}

LookList::Columns LookList::columns() const {
    const double text = context_.appearance.text();
    Columns c{};
    c.blade = std::max(text * 8.4, std::min(text * 10.5, width() * 0.2));
    c.end = width() - 6;
    c.bars = c.end - std::max(text * 9.5, width() * 0.24);
    c.tip = c.bars - text * 4.6;
    c.blade_end = c.tip - text * 0.8;
    return c;
}

QRectF LookList::box_of(const BladePlace& place, double top, double height) const {
    const Columns c = columns();
    const double width = c.blade_end - c.blade;
    return {c.blade + place.from * width, top, (place.to - place.from) * width, height};
}

void LookList::sort() {
    std::vector<std::string> shown;
    for (std::size_t i = 0; plan_ && i < plan_->looks.size(); ++i)
        if (const auto& blades = plan_->looks[i].views[plan::full].blades;
            blades.size() > shown.size()) {
            shown.clear();
            for (const plan::BladeView& blade : blades)
                shown.push_back(blade.ref);
        }
    places_ = plan_ ? place_blades(*plan_->job, shown) : std::vector<BladePlace>{};
    lines_ = std::max<std::size_t>(1, lines_of(places_));
    order_.resize(plan_ ? plan_->looks.size() : 0);
    std::iota(order_.begin(), order_.end(), std::size_t{0});
    if (ranked_)
        std::stable_sort(order_.begin(), order_.end(), [&](std::size_t a, std::size_t b) {
            return plan_->looks[a].mean > plan_->looks[b].mean;
        });
}

void LookList::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    sort();
    updateGeometry();
    update();
}

void LookList::show_preview(const PlanPtr& plan) {
    const PlanPtr was = plan_;
    plan_ = plan;
    if (order_.size() != plan_->looks.size()) sort();
    if (!was || was->looks.size() != plan->looks.size() || largest(*was) != largest(*plan))
        return update();
    // What was not solved anew looks as it did.
    for (int row = 0; row < static_cast<int>(order_.size()); ++row) {
        const std::size_t i = order_[static_cast<std::size_t>(row)];
        if (was->looks[i].fresh != plan->looks[i].fresh)
            update(QRectF(0, head_height() + row * row_height(), width(), row_height() + 1)
                       .toAlignedRect());
    }
}

double LookList::largest(const plan::Plan& plan) {
    double most = 0.1;
    for (const auto& look : plan.looks)
        most = std::max(most, look.peak.value());
    return most;
}

void LookList::rank(bool by_demand) {
    ranked_ = by_demand;
    sort();
    update();
}

double LookList::row_height() const {
    const double text = context_.appearance.text();
    return std::max(text * 3.0, lane(plan::low, lines_ - 1).top + text * 1.1);
}

LookList::Lane LookList::lane(plan::Charge charge, std::size_t line) const {
    const double text = context_.appearance.text();
    const auto n = static_cast<double>(lines_);
    const double h = n > 1 ? text * 0.72 : text * 1.1;
    const double gap = n > 1 ? 1 : 3, all = n * (h + gap);
    const double edge = n > 1 ? text * 0.45 : (text * 3.0 - 2 * all + gap) / 2;
    return {edge + (charge == plan::full ? 0 : all + (n > 1 ? 3 : 0)) +
                static_cast<double>(line) * (h + gap),
            h};
}

const plan::LookPlan* LookList::look_in(int row) const {
    if (!plan_ || row < 0 || row >= static_cast<int>(order_.size())) return nullptr;
    return &plan_->looks[order_[static_cast<std::size_t>(row)]];
}

int LookList::chosen_row() const {
    const std::string chosen = context_.selection.options().look.toStdString();
    for (int row = 0; row < static_cast<int>(order_.size()); ++row)
        if (look_in(row)->name == chosen) return row;
    return -1;
}

QRect LookList::row_box(int row) const {
    return QRectF(0, head_height() + row * row_height(), width(), row_height()).toRect();
}

void LookList::choose(int row) {
    const plan::LookPlan* chosen = look_in(row);
    if (!chosen) return;
    const plan::LookPlan& look = *chosen;
    context_.selection.look_at(QString::fromStdString(look.name));
    setAccessibleDescription(
        tr("%1, tip %2 % full, %3 % nearly empty, mean %4, peak %5")
            .arg(QString::fromStdString(look.name))
            .arg(qRound(look.views[plan::full].tip * 100))
            .arg(qRound(look.views[plan::low].tip * 100))
            .arg(QString::fromStdString(text(look.mean)), QString::fromStdString(text(look.peak))));
}

void LookList::paint_row(QPainter& p, const plan::LookPlan& look, double y, double most,
                         bool chosen) const {
    const Inks& inks = context_.appearance.inks();
    const double text = context_.appearance.text(), row = row_height();
    const Columns c = columns();
    if (chosen) {
        p.fillRect(QRectF(0, y + 2, width(), row - 4), inks.chosen);
        p.fillRect(QRectF(0, y + 2, 3, row - 4), inks.petrol);
    }
    const double r = text * 0.62;
    p.setPen(QPen(inks.ink, 1.2));
    p.setBrush(colour(look.swatch));
    p.drawEllipse(QPointF(text * 1.2, y + row / 2), r, r);
    p.setPen(inks.ink);
    const QRectF words(text * 2.4, y + row / 2 - text * 1.35, c.blade - text * 2.9, text * 1.4);
    p.setFont(page_font(text, chosen));
    p.drawText(words, Qt::AlignVCenter,
               QFontMetricsF(p.font()).elidedText(QString::fromStdString(look.name), Qt::ElideRight,
                                                  words.width()));
    p.setFont(page_font(text * 0.86));
    p.setPen(inks.second);
    p.drawText(words.translated(0, text * 1.35), Qt::AlignVCenter,
               QString::fromUtf8(job::word(look.style).data()));

    for (const plan::Charge charge : {plan::full, plan::low}) {
        const plan::View& view = look.views[charge];
        for (std::size_t i = 0; i < std::min(view.blades.size(), places_.size()); ++i) {
            const Lane at = lane(charge, places_[i].line);
            paint_blade(p, box_of(places_[i], y + at.top, at.height).toRect(), view.blades[i].paint,
                        inks);
        }
        // Only a strip's tip is solved: how a string or a tube carries light is not.
        const bool solved = !view.pixel_volts.empty();
        const double top = y + lane(charge, 0).top,
                     bottom = y + lane(charge, lines_ - 1).top + lane(charge, 0).height;
        p.setFont(page_font(text * 0.92));
        p.setPen(solved && view.tip < power::dim_share ? inks.warn : inks.ink);
        p.drawText(QRectF(c.tip, top, text * 3.4, bottom - top), Qt::AlignRight | Qt::AlignVCenter,
                   solved ? QString("%1").arg(qRound(view.tip * 100)) + QChar(0x202f) + "%"
                          : QString(QChar(0x2013)));
    }
    const double room = c.end - c.bars - text * 4.6, h = text * 1.1;
    auto bar = [&](double top, double height, double amps, const QColor& fill, bool bold) {
        p.fillRect(QRectF(c.bars, top + (h - height) / 2, room * amps / most, height), fill);
        p.setFont(page_font(text * 0.92, bold));
        p.setPen(bold ? inks.ink : inks.second);
        p.drawText(QRectF(c.bars + room * amps / most + 6, top, text * 4.6, h), Qt::AlignVCenter,
                   QString::fromStdString(conductus::text(Ampere(amps))));
    };
    bar(y + row / 2 - h - 1.5, h * 0.8, look.mean.value(), inks.clean, true);
    bar(y + row / 2 + 1.5, h * 0.55, look.peak.value(), inks.clean_pale, false);
}

void LookList::paintEvent(QPaintEvent* event) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Inks& inks = context_.appearance.inks();
    p.fillRect(rect(), inks.paper);
    if (!plan_) return;
    const double text = context_.appearance.text();
    const Columns c = columns();
    p.setFont(page_font(text * 0.86));
    p.setPen(inks.second);
    const double h = head_height();
    p.drawText(QRectF(text * 2.4, 0, c.blade, h), Qt::AlignVCenter, tr("look"));
    p.drawText(QRectF(c.blade, 0, c.blade_end - c.blade, h), Qt::AlignVCenter,
               QFontMetricsF(p.font()).elidedText(tr("foot to tip: full cell above, at 10 % below"),
                                                  Qt::ElideRight, c.blade_end - c.blade));
    p.drawText(QRectF(c.tip, 0, text * 3.4, h), Qt::AlignVCenter | Qt::AlignRight, tr("tip"));
    p.drawText(QRectF(c.bars, 0, c.end - c.bars, h), Qt::AlignVCenter,
               QFontMetricsF(p.font()).elidedText(tr("mean above, peak below"), Qt::ElideRight,
                                                  c.end - c.bars));
    const double most = largest(*plan_);
    const int chosen = chosen_row();
    for (int row = 0; row < static_cast<int>(order_.size()); ++row) {
        const double y = h + row_height() * row;
        if (event->rect().intersects(QRectF(0, y, width(), row_height()).toAlignedRect()))
            paint_row(p, *look_in(row), y, most, row == chosen);
    }
    if (hasFocus() && chosen >= 0) {
        p.setPen(QPen(inks.petrol, 1.5));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(1, h + row_height() * chosen + 2, width() - 2, row_height() - 4));
    }
}

void LookList::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Down) return choose(chosen_row() + 1);
    if (event->key() == Qt::Key_Up) return choose(chosen_row() - 1);
    QWidget::keyPressEvent(event);
}

void LookList::mousePressEvent(QMouseEvent* event) {
    setFocus();
    if (event->position().y() > head_height())
        choose(static_cast<int>((event->position().y() - head_height()) / row_height()));
}

QString LookList::told_at(const QPointF& place) const {
    const double y = place.y() - head_height();
    const int row = static_cast<int>(std::floor(y / row_height()));
    const plan::LookPlan* look = y < 0 ? nullptr : look_in(row);
    if (!look) return {};
    const double in_row = y - row_height() * row;
    const plan::Charge charge = in_row < lane(plan::low, 0).top ? plan::full : plan::low;
    const auto& seen = look->views[charge].blades;
    for (std::size_t i = 0; i < std::min(seen.size(), places_.size()); ++i) {
        const Lane at = lane(charge, places_[i].line);
        const QRectF box = box_of(places_[i], at.top, at.height);
        if (!box.contains(place.x(), in_row)) continue;
        const plan::BladeView& blade = seen[i];
        const double along = (place.x() - box.left()) / box.width();
        const QString cell = charge == plan::full ? tr("full cell") : tr("cell at 10 %");
        const std::size_t count = blade.amps.size();
        const auto k = std::min(static_cast<std::size_t>(along * static_cast<double>(count)),
                                count > 0 ? count - 1 : 0);
        auto words = [](auto quantity) { return QString::fromStdString(text(quantity)); };
        if (const auto pixel = plan::pixel_seen(*plan_, *look, charge, i, k))
            return tr("%1, strip %2, pixel %3 of %4 (%5): %6, %7, %8 % of the foot's brightness, "
                      "tint shift %9")
                .arg(QString::fromStdString(blade.ref), QString::fromStdString(blade.strip))
                .arg(k + 1)
                .arg(count)
                .arg(cell, words(pixel->volts), words(pixel->amps))
                .arg(qRound(pixel->brightness * 100))
                .arg(pixel->tint_shift, 0, 'f', 3);
        if (count > 0)
            return tr("%1, segment %2 of %3: %4 (%5)")
                .arg(QString::fromStdString(blade.ref))
                .arg(k + 1)
                .arg(count)
                .arg(words(Ampere(blade.amps[k])), cell);
        return tr("%1, lit from the hilt (%2)").arg(QString::fromStdString(blade.ref), cell);
    }
    return {};
}

bool LookList::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip || !plan_) return QWidget::event(event);
    auto* help = static_cast<QHelpEvent*>(event);
    const QString told = told_at(help->pos());
    told.isEmpty() ? QToolTip::hideText() : QToolTip::showText(help->globalPos(), told, this);
    return true;
}

} // namespace conductus::app
