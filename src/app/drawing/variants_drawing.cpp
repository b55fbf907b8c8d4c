// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/variants_drawing.h"

#include <algorithm>

#include "app/drawing/blade_drawing.h"
#include "app/session/words.h"
#include "core/base/format.h"

namespace conductus::app {

std::vector<std::string> VariantsDrawing::names() const {
    std::vector<std::string> all;
    for (const PlanPtr& plan : {now_, other_})
        for (std::size_t i = 0; plan && i < plan->looks.size(); ++i)
            if (std::find(all.begin(), all.end(), plan->looks[i].name) == all.end())
                all.push_back(plan->looks[i].name);
    return all;
}

QSizeF VariantsDrawing::size(double lettering) const {
    return {lettering * 60, lettering * (1.8 + 3.4 * static_cast<double>(names().size()))};
}

std::vector<HitBox> VariantsDrawing::paint(const Surface& on) const {
    const InFrame corner(on);
    QPainter& p = on.p;
    const Inks& inks = on.inks;
    const double text = on.lettering, width = on.frame.width();
    p.setRenderHint(QPainter::Antialiasing);
    const double label = text * 8, right = text * 5.2;
    const double blade = (width - label - right - text) * 0.62;
    const double bars = width - label - right - text - blade - text;
    double most = 0.1;
    for (const PlanPtr& plan : {now_, other_})
        for (std::size_t i = 0; plan && i < plan->looks.size(); ++i)
            most = std::max(most, plan->looks[i].mean.value());
    p.setFont(page_font(text * 0.86));
    p.setPen(inks.second);
    p.drawText(QRectF(label, 0, blade, text * 1.6), Qt::AlignVCenter,
               QFontMetricsF(p.font()).elidedText(tr("now, the other"), Qt::ElideRight, blade));
    p.drawText(QRectF(label + blade + text, 0, bars + right, text * 1.6), Qt::AlignVCenter,
               tr("mean amps"));
    double y = text * 1.8;
    for (const std::string& name : names()) {
        p.setFont(page_font(text));
        p.setPen(inks.ink);
        p.drawText(QRectF(0, y, label - 6, text * 2.9), Qt::AlignVCenter | Qt::TextWordWrap,
                   words(name));
        double top = y;
        for (const PlanPtr& plan : {now_, other_}) {
            const plan::LookPlan* look = plan ? plan->look(name) : nullptr;
            const QRectF tube = QRectF(label, top, blade, text * 1.2).toRect();
            if (look && !look->views[plan::full].paint.empty()) {
                paint_blade(p, tube, look->views[plan::full].paint, inks);
            } else {
                p.setFont(page_font(text * 0.86));
                p.setPen(inks.second);
                p.drawText(tube, Qt::AlignVCenter,
                           look ? tr("no blade lights up") : tr("not kept"));
            }
            if (look) {
                const double w = bars * look->mean.value() / most;
                p.fillRect(QRectF(label + blade + text, top + text * 0.2, w, text * 0.8),
                           plan == now_ ? inks.clean : inks.clean_pale);
                p.setFont(page_font(text * 0.92, plan == now_));
                p.setPen(inks.ink);
                p.drawText(QRectF(label + blade + text + w + 5, top, right, text * 1.2),
                           Qt::AlignVCenter, words(conductus::text(look->mean)));
            }
            top += text * 1.45;
        }
        y += text * 3.4;
    }
    return {};
}

QString VariantsDrawing::description() const {
    QStringList said;
    for (const std::string& name : names()) {
        const auto amps = [&](const PlanPtr& plan) {
            const plan::LookPlan* look = plan ? plan->look(name) : nullptr;
            return look ? words(text(look->mean)) : tr("not kept");
        };
        said << tr("%1: now %2, the other %3").arg(words(name), amps(now_), amps(other_));
    }
    return said.join("; ");
}

} // namespace conductus::app
