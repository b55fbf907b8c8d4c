// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/cold_drawing.h"

#include <QPainterPath>
#include <algorithm>

#include "app/drawing/plot.h"
#include "app/drawing/ribbons_drawing.h"
#include "app/session/words.h"
#include "core/base/format.h"

namespace conductus::app {

QSizeF ColdRibbonsDrawing::size(double lettering) const {
    const std::size_t rows = study_ && *study_ ? (*study_)->at.size() : 2;
    return {lettering * 60, lettering * (2.3 * static_cast<double>(rows) + 2.9)};
}

std::vector<HitBox> ColdRibbonsDrawing::paint(const Surface& on) const {
    if (!study_ || !*study_) return {};
    const InFrame corner(on);
    QPainter& p = on.p;
    const Inks& inks = on.inks;
    const double text = on.lettering, width = on.frame.width();
    std::vector<plan::CellOption> rows;
    for (const auto& at : (*study_)->at) {
        plan::CellOption o;
        o.name = tr("at %1").arg(words(conductus::text(at.temperature))).toStdString();
        o.fits = true;
        o.clean = at.run.clean(), o.bright = at.run.bright(), o.off = at.run.off;
        double warmest = at.temperature.value();
        for (const power::Sample& s : at.run.samples)
            warmest = std::max(warmest, s.warmth.value());
        o.remark =
            tr("cell warms to %1").arg(words(conductus::text(Celsius(warmest)))).toStdString();
        rows.push_back(std::move(o));
    }
    RibbonLayout layout;
    layout.lettering = text;
    layout.row = text * 2.3;
    layout.names = text * 11;
    layout.longest_min = longest_minutes(rows);
    const QRectF all(0, 0, width, layout.row * static_cast<double>(rows.size()));
    paint_ribbon_grid(p, all, layout, inks);
    for (std::size_t i = 0; i < rows.size(); ++i)
        paint_ribbon(p, QRectF(0, layout.row * static_cast<double>(i), width, layout.row), rows[i],
                     layout, inks);
    paint_ribbon_axis(p, QRectF(0, all.bottom(), width, text * 2.9), layout, inks);
    return {};
}

QString ColdRibbonsDrawing::description() const {
    QStringList said;
    if (study_ && *study_)
        for (const auto& at : (*study_)->at)
            said << tr("at %1: clean %2, off %3")
                        .arg(words(text(at.temperature)), words(duration(at.run.clean())),
                             words(duration(at.run.off)));
    return said.join("; ");
}

QSizeF ColdCurvesDrawing::size(double lettering) const { return {lettering * 60, lettering * 18}; }

std::vector<HitBox> ColdCurvesDrawing::paint(const Surface& on) const {
    if (!study_ || !*study_ || (*study_)->at.size() < 2) return {};
    const InFrame corner(on);
    QPainter& p = on.p;
    const Inks& inks = on.inks;
    const double text = on.lettering, width = on.frame.width(), height = on.frame.height();
    const auto& at = (*study_)->at;
    double low = 1e9, high = 0, longest = 1;
    for (const auto& one : at)
        for (const power::Sample& s : one.run.samples) {
            low = std::min(low, s.board_peak.value());
            high = std::max(high, s.board_peak.value());
            longest = std::max(longest, s.at.value());
        }
    const double need = at.front().run.need.value();
    const QRectF area(text * 4.6, text * 1.8, width - text * 6.4, height - text * 3.6);
    const PlotAxis volts = roomy(std::min(low, need), std::max(high, need), 0.1, "V");
    const PlotAxis minutes{0, longest, "min", false};
    paint_side_axis(p, area, volts, text, inks);
    paint_foot_axis(p, area, minutes, text, inks);
    p.setRenderHint(QPainter::Antialiasing);
    auto point = [&](double m, double v) {
        return QPointF(area.left() + minutes.share(m) * area.width(),
                       area.bottom() - volts.share(v) * area.height());
    };
    p.setFont(page_font(text * 0.86));
    p.setPen(inks.ink);
    p.drawText(QRectF(2, 0, width, text * 1.5), Qt::AlignLeft | Qt::AlignVCenter,
               tr("board at %1, minutes lit").arg(words(at.front().run.peak_event)));
    if (need > 0) {
        p.setPen(QPen(inks.warn, 1.2, Qt::DashLine));
        p.drawLine(point(0, need), point(longest, need));
        p.drawText(QRectF(area.left() + 4, point(0, need).y(), area.width(), text * 1.3),
                   Qt::AlignLeft | Qt::AlignVCenter,
                   tr("sound needs %1").arg(words(conductus::text(Volt(need)))));
    }
    for (std::size_t k = 0; k < at.size(); ++k) {
        QPainterPath path;
        bool first = true;
        for (const power::Sample& s : at[k].run.samples) {
            const QPointF here = point(s.at.value(), s.board_peak.value());
            first ? path.moveTo(here) : path.lineTo(here);
            first = false;
        }
        // Told apart by the line as well as by the ink, and named where they begin.
        p.setPen(QPen(k == 0 ? inks.note : inks.crackle.darker(115), 1.8,
                      k == 0 ? Qt::SolidLine : Qt::DashDotLine));
        p.setBrush(Qt::NoBrush);
        p.drawPath(path);
        const auto& samples = at[k].run.samples;
        const power::Sample& name_at = samples[samples.size() / 4];
        p.drawText(QRectF(point(name_at.at.value(), name_at.board_peak.value()) +
                              QPointF(0, k == 0 ? 2 : -text * 1.5),
                          QSizeF(text * 8, text * 1.4)),
                   Qt::AlignLeft | Qt::AlignVCenter, words(conductus::text(at[k].temperature)));
    }
    return {};
}

QString ColdCurvesDrawing::description() const {
    QStringList said;
    if (study_ && *study_)
        for (const auto& at : (*study_)->at)
            if (!at.run.samples.empty())
                said << tr("at %1 the board falls from %2 to %3 at %4")
                            .arg(words(text(at.temperature)),
                                 words(text(at.run.samples.front().board_peak)),
                                 words(text(at.run.samples.back().board_peak)),
                                 words(at.run.peak_event));
    return said.join("; ");
}

} // namespace conductus::app
