// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/days_drawing.h"

#include <algorithm>
#include <array>

#include "app/drawing/plot.h"
#include "app/session/words.h"
#include "core/base/format.h"

namespace conductus::app {

QSizeF DaysDrawing::size(double lettering) const { return {lettering * 60, lettering * 14}; }

std::vector<HitBox> DaysDrawing::paint(const Surface& on) const {
    if (!days_ || days_->clean.empty()) {
        paint_words(on, tr("No two days are alike. Live a thousand at random to see how long it "
                           "stays clean on a bad day, a usual one and a good one."));
        return {};
    }
    const InFrame corner(on);
    QPainter& p = on.p;
    const Inks& inks = on.inks;
    const double text = on.lettering, width = on.frame.width(), height = on.frame.height();
    const auto& clean = days_->clean;
    const QRectF area(text * 2.6, text * 1.6, width - text * 5.2, height - text * 3.6);
    const PlotAxis axis = roomy(clean.front(), clean.back(), 1, "min");
    paint_foot_axis(p, area, axis, text, inks);
    constexpr int bins = 30;
    std::array<int, bins> count{};
    for (const double m : clean)
        ++count[static_cast<std::size_t>(
            std::clamp(static_cast<int>(axis.share(m) * bins), 0, bins - 1))];
    const int most = *std::max_element(count.begin(), count.end());
    for (int i = 0; i < bins; ++i) {
        const double h = area.height() * count[static_cast<std::size_t>(i)] / most;
        p.fillRect(QRectF(area.left() + area.width() * i / bins + 0.5, area.bottom() - h,
                          area.width() / bins - 1, h),
                   inks.clean_pale);
    }
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(page_font(text * 0.86));
    double free_from = 0;
    for (const auto& [minutes, word] : {std::pair{days_->p10, tr("1 in 10 less: %1")},
                                        {days_->p50, tr("half less: %1")},
                                        {days_->p90, tr("9 in 10 less: %1")}}) {
        const double x = area.left() + axis.share(minutes.value()) * area.width();
        p.setPen(QPen(inks.petrol, 1.6));
        p.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
        const QString said = word.arg(words(duration(minutes)));
        const double w = QFontMetricsF(p.font()).horizontalAdvance(said) + 10;
        const double left = std::max(free_from, std::min(x - w / 2, width - w));
        p.setPen(inks.ink);
        p.drawText(QRectF(left, 0, w, text * 1.5), Qt::AlignCenter, said);
        free_from = left + w;
    }
    return {};
}

QString DaysDrawing::description() const {
    if (!days_ || days_->clean.empty()) return {};
    return tr("of %1 days, one in ten is clean for less than %2, half for less than %3, nine in "
              "ten for less than %4")
        .arg(days_->days)
        .arg(words(duration(days_->p10)), words(duration(days_->p50)), words(duration(days_->p90)));
}

} // namespace conductus::app
