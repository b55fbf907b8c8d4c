// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/chains_drawing.h"
#include "app/session/words.h"

#include <QCoreApplication>
#include <QFontMetricsF>
#include <algorithm>

#include "core/base/format.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

struct ChainWords {
    Q_DECLARE_TR_FUNCTIONS(ChainWords)
};

/// Rows of a line: groups that overlap in pixel numbers go to different rows.
std::vector<int> rows_of(const plan::Plan& plan, const lights::Chain& chain, int& count) {
    std::vector<int> rows, ends;
    for (const std::size_t i : chain.groups) {
        const lights::Group& g = plan.chains.groups[i];
        int row = 0;
        while (row < static_cast<int>(ends.size()) && ends[static_cast<std::size_t>(row)] > g.first)
            ++row;
        if (row == static_cast<int>(ends.size())) ends.push_back(0);
        ends[static_cast<std::size_t>(row)] = g.first + g.pixels;
        rows.push_back(row);
    }
    count = std::max<int>(1, static_cast<int>(ends.size()));
    return rows;
}

/// Whether another group hears this one's output.
bool followed(const plan::Plan& plan, const lights::Chain& chain, const lights::Group& g) {
    return std::any_of(chain.groups.begin(), chain.groups.end(),
                       [&](std::size_t i) { return plan.chains.groups[i].before == g.ref; });
}

double row_height(double lettering) { return lettering * 2.1; }

} // namespace

double chains_height(const plan::Plan& plan, double lettering) {
    double height = lettering * 1.9;
    for (const lights::Chain& chain : plan.chains.chains) {
        int rows = 1;
        rows_of(plan, chain, rows);
        height += rows * row_height(lettering) + lettering * 3.4;
    }
    return height;
}

std::vector<HitBox> paint_chains(QPainter& p, const QRectF& box, const plan::Plan& plan,
                                 double lettering, const QString& chosen, const Inks& inks) {
    std::vector<HitBox> spots;
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const QFont font = drawing_font(lettering), bold = page_font(lettering * 0.92, true);
    const QFontMetricsF metrics(font);
    int most = 1;
    for (const lights::Chain& chain : plan.chains.chains)
        most = std::max({most, chain.longest, chain.programmed.value_or(0)});
    const double pad = lettering * 5.2, right = lettering * 1.5;
    const double per_pixel = (box.width() - pad - right) / most;
    double y = box.top() + lettering * 1.4;
    const double row_h = row_height(lettering), bar_h = lettering * 1.35;
    for (const lights::Chain& chain : plan.chains.chains) {
        int count = 1;
        const std::vector<int> rows = rows_of(plan, chain, count);
        const double x0 = box.left() + pad, mid = y + bar_h / 2;
        p.setFont(bold);
        p.setPen(inks.ink);
        p.drawText(QRectF(box.left(), y, pad - lettering, bar_h), Qt::AlignVCenter,
                   words(chain.pad));
        p.setFont(font);
        for (std::size_t k = 0; k < chain.groups.size(); ++k) {
            const lights::Group& g = plan.chains.groups[chain.groups[k]];
            const double top = y + rows[k] * row_h;
            const QRectF bar(x0 + g.first * per_pixel, top, g.pixels * per_pixel, bar_h);
            // The wire data comes by, from the pad or from the group before.
            p.setPen(QPen(inks.ink, 1.1));
            const double from = g.before.empty() ? box.left() + pad - lettering * 0.8
                                                 : bar.left() - per_pixel * 0.5;
            if (g.before.empty()) {
                p.drawLine(QPointF(from, mid), QPointF(from, top + bar_h / 2));
                p.drawLine(QPointF(from, top + bar_h / 2), QPointF(bar.left(), top + bar_h / 2));
            } else {
                // Out of the group before, down to where this one stands.
                double source = mid;
                for (std::size_t b = 0; b < k; ++b)
                    if (plan.chains.groups[chain.groups[b]].ref == g.before)
                        source = y + rows[b] * row_h + bar_h / 2;
                const double x = bar.left() - std::min(3.0, per_pixel);
                p.drawLine(QPointF(x, source), QPointF(x, top + bar_h / 2));
                p.drawLine(QPointF(x, top + bar_h / 2), QPointF(bar.left(), top + bar_h / 2));
            }
            if (g.series > Ohm(0) && rows[k] == 0) {
                const QRectF r(from + lettering * 0.12, top + bar_h / 2 - lettering * 0.22,
                               lettering * 0.56, lettering * 0.44);
                p.setBrush(inks.paper);
                p.drawRect(r);
            }
            const bool marked = words(g.ref) == chosen;
            p.setPen(QPen(marked ? inks.petrol : inks.ink, marked ? 2.2 : 1));
            p.setBrush(g.kind == lights::Group::Kind::strip    ? inks.blade
                       : g.kind == lights::Group::Kind::accent ? inks.speaker
                                                               : inks.connector);
            p.drawRect(bar);
            const double tick = per_pixel * 10;
            p.setPen(QPen(inks.hair, 0.8));
            for (double x = bar.left() + tick; tick > 3 && x < bar.right() - 1; x += tick)
                p.drawLine(QPointF(x, bar.bottom() - lettering * 0.3), QPointF(x, bar.bottom()));
            p.setPen(inks.ink);
            const QString range = g.pixels == 1
                                      ? ChainWords::tr("%1 · %2").arg(words(g.ref)).arg(g.first + 1)
                                      : ChainWords::tr("%1 · %2 to %3")
                                            .arg(words(g.ref))
                                            .arg(g.first + 1)
                                            .arg(g.first + g.pixels);
            const QRectF inside = bar.adjusted(5, 0, -3, 0);
            if (metrics.horizontalAdvance(range) < inside.width())
                p.drawText(inside, Qt::AlignVCenter, range);
            else if (bar.right() + 4 + metrics.horizontalAdvance(range) < box.right() &&
                     !followed(plan, chain, g))
                p.drawText(QRectF(bar.right() + 4, top, lettering * 14, bar_h), Qt::AlignVCenter,
                           range);
            else // too small, and something follows: above it
                p.drawText(
                    QRectF(bar.left(), top - lettering * 1.25, lettering * 14, lettering * 1.2),
                    Qt::AlignVCenter, range);
            spots.push_back({words(g.ref), bar});
        }
        // What the board is told, against what is there.
        const double bottom = y + count * row_h - (row_h - bar_h);
        if (chain.programmed) {
            const bool differs = *chain.programmed != chain.longest;
            const double x = x0 + *chain.programmed * per_pixel;
            p.setPen(QPen(differs ? inks.warn : inks.petrol, 1.6, Qt::DashLine));
            p.drawLine(QPointF(x, y - lettering * 0.3), QPointF(x, bottom + lettering * 0.5));
        }
        QString said = ChainWords::tr("%1 fitted").arg(chain.longest);
        if (chain.programmed)
            said += *chain.programmed == chain.longest
                        ? ChainWords::tr(", as programmed")
                        : ChainWords::tr(", %1 programmed").arg(*chain.programmed);
        if (chain.mirrored)
            said += ChainWords::tr(" · soldered together: each shows the line's first pixels");
        const lights::Group& first = plan.chains.groups[chain.groups.front()];
        said += first.series > Ohm(0)
                    ? ChainWords::tr(" · first resistor %1").arg(words(text(first.series)))
                    : ChainWords::tr(" · no first resistor: 220 to 470 Ω keep the edges clean");
        p.setPen(inks.second);
        p.drawText(QRectF(x0, bottom + lettering * 0.35, box.right() - x0, lettering * 1.5),
                   Qt::AlignVCenter, metrics.elidedText(said, Qt::ElideRight, box.right() - x0));
        y += count * row_h + lettering * 3.4 - (row_h - bar_h);
    }
    p.restore();
    return spots;
}

DrawingPtr chains_drawing(std::shared_ptr<const plan::Plan> plan, const QString& chosen) {
    return make_drawing(
        [plan](double lettering) {
            return QSizeF(lettering * 86, chains_height(*plan, lettering) + 4);
        },
        [plan, chosen](const Surface& on) -> std::vector<HitBox> {
            if (plan->chains.chains.empty()) {
                paint_words(on, QCoreApplication::translate("ChainsDrawing",
                                                            "No pixels hang on a data line."));
                return {};
            }
            return paint_chains(on.p, on.frame.adjusted(2, 2, -2, -2), *plan, on.lettering, chosen,
                                on.inks);
        },
        [plan] {
            QStringList said;
            for (const lights::Chain& c : plan->chains.chains)
                said << QCoreApplication::translate("ChainsDrawing", "%1: %2 pixels")
                            .arg(words(c.pad))
                            .arg(c.longest);
            return said.join(", ");
        });
}

} // namespace conductus::app
