// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/ribbons_drawing.h"

#include <QCoreApplication>
#include <QFontMetricsF>
#include <algorithm>
#include <cmath>

#include "app/drawing/marks.h"
#include "app/session/words.h"
#include "core/base/format.h"

namespace conductus::app {
namespace {

struct Ribbons {
    Q_DECLARE_TR_FUNCTIONS(Ribbons)
};

double tick_minutes(double longest) {
    for (const double step : {10.0, 15.0, 30.0, 60.0, 120.0, 240.0})
        if (longest / step <= 7) return step;
    return 480;
}

double x_of(const QRectF& box, const RibbonLayout& layout, double minutes) {
    return box.left() + layout.names +
           (box.width() - layout.names - 64) * minutes / layout.longest_min;
}

QString clock(double minutes) {
    const int whole = static_cast<int>(std::lround(minutes));
    return QString("%1:%2").arg(whole / 60).arg(whole % 60, 2, 10, QChar('0'));
}

} // namespace

double longest_minutes(const std::vector<plan::CellOption>& options) {
    double longest = 30;
    for (const auto& o : options)
        longest = std::max(longest, o.off.value());
    const double step = tick_minutes(longest);
    return std::ceil(longest / step) * step;
}

void paint_ribbon(QPainter& p, const QRectF& box, const plan::CellOption& o,
                  const RibbonLayout& layout, const Inks& inks) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const QFont name_font = page_font(layout.lettering, o.fitted);
    const QFont small = page_font(layout.lettering * 0.86);
    const QFontMetricsF name_metrics(name_font), small_metrics(small);
    const double text_height = name_metrics.height() + small_metrics.height();
    const double top = box.center().y() - text_height / 2;
    const double text_x = box.left() + 10, text_w = layout.names - 22;
    if (o.fitted) p.fillRect(QRectF(box.left(), box.top() + 3, 3, box.height() - 6), inks.petrol);

    p.setPen(inks.ink);
    p.setFont(name_font);
    p.drawText(QRectF(text_x, top, text_w, name_metrics.height()), Qt::AlignVCenter,
               name_metrics.elidedText(QString::fromStdString(o.name), Qt::ElideRight, text_w));
    const bool bad = !o.fits;
    const bool careful = o.fits && (o.trips || o.overloaded);
    p.setPen(bad ? inks.stop : careful ? inks.warn : inks.second);
    p.setFont(small);
    double remark_x = text_x;
    if (bad || careful) {
        const double m = small_metrics.ascent();
        paint_mark(p, QRectF(remark_x, top + name_metrics.height() + 2, m, m),
                   bad ? findings::Severity::stop : findings::Severity::warn, inks);
        remark_x += m + 5;
    }
    p.drawText(
        QRectF(remark_x, top + name_metrics.height(), text_x + text_w - remark_x,
               small_metrics.height()),
        Qt::AlignVCenter,
        small_metrics.elidedText(words(o.remark), Qt::ElideRight, text_x + text_w - remark_x));

    const double h = std::min(box.height() * 0.36, 13.0);
    const QRectF sound(x_of(box, layout, 0), box.center().y() - h - 0.5, 0, h);
    const QRectF light(x_of(box, layout, 0), box.center().y() + 1.5, 0, h * 0.62);
    auto bar = [&](const QRectF& lane, double from, double to, const QColor& fill) {
        const double x0 = x_of(box, layout, from), x1 = x_of(box, layout, to);
        if (x1 > x0) p.fillRect(QRectF(x0, lane.top(), x1 - x0, lane.height()), fill);
    };
    const double clean = o.clean.value(), bright = o.bright.value(), off = o.off.value();
    p.setOpacity(o.fits ? 1.0 : 0.45);
    bar(sound, 0, clean, o.fitted ? inks.clean : inks.clean_pale);
    bar(sound, clean, off, inks.crackle);
    bar(light, 0, bright, o.fitted ? inks.clean : inks.clean_pale);
    bar(light, bright, off, inks.dim);
    p.setOpacity(1);
    if (!o.fits) { // struck out: it can not be had in this hilt
        p.setPen(QPen(inks.stop, 1.4));
        p.drawLine(QPointF(x_of(box, layout, 0), light.bottom()),
                   QPointF(x_of(box, layout, off), sound.top()));
    }
    p.setPen(QPen(inks.ink, 1.6));
    const double mark = x_of(box, layout, clean);
    p.drawLine(QPointF(mark, sound.top() - 2), QPointF(mark, sound.bottom() + 1));
    p.setFont(page_font(layout.lettering * 0.92, true));
    p.setPen(o.fits ? inks.ink : inks.second);
    p.drawText(QRectF(x_of(box, layout, off) + 6, box.top(), 70, box.height()), Qt::AlignVCenter,
               QString::fromStdString(duration(o.clean)));
    p.restore();
}

void paint_ribbon_grid(QPainter& p, const QRectF& box, const RibbonLayout& layout,
                       const Inks& inks) {
    p.setPen(QPen(inks.hair, 1));
    const double step = tick_minutes(layout.longest_min);
    for (double t = 0; t <= layout.longest_min + 0.1; t += step) {
        const double x = x_of(box, layout, t);
        p.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()));
    }
}

void paint_ribbon_axis(QPainter& p, const QRectF& box, const RibbonLayout& layout,
                       const Inks& inks) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const QFont font = page_font(layout.lettering * 0.86);
    const QFontMetricsF metrics(font);
    p.setFont(font);
    p.setPen(inks.second);
    const double step = tick_minutes(layout.longest_min);
    for (double t = 0; t <= layout.longest_min + 0.1; t += step)
        p.drawText(QRectF(x_of(box, layout, t) - 40, box.top(), 80, metrics.height()),
                   Qt::AlignHCenter, clock(t));
    const std::pair<QColor, QString> words[] = {{inks.clean, Ribbons::tr("above: sound clean")},
                                                {inks.crackle, Ribbons::tr("crackle, until off")},
                                                {inks.clean, Ribbons::tr("below: blade bright")},
                                                {inks.dim, Ribbons::tr("dim, until off")}};
    double needed = 0;
    for (const auto& entry : words)
        needed += metrics.horizontalAdvance(entry.second) + 36;
    double x = std::max(box.left() + 10, std::min(x_of(box, layout, 0), box.right() - needed));
    const double y = box.top() + metrics.height() + 3;
    for (const auto& [fill, word] : words) {
        p.fillRect(QRectF(x, y + metrics.height() / 2 - 4, 14, 8), fill);
        p.setPen(inks.ink);
        p.drawText(QRectF(x + 19, y, 400, metrics.height()), Qt::AlignVCenter, word);
        x += metrics.horizontalAdvance(word) + 36;
    }
    p.restore();
}

RibbonLayout ribbons_layout(const plan::Plan* plan, double width, double lettering) {
    RibbonLayout l;
    l.lettering = lettering;
    l.row = lettering * 2.5;
    l.names = std::min(lettering * 19, width * 0.42);
    l.longest_min = plan ? longest_minutes(plan->options) : 60;
    return l;
}

DrawingPtr ribbons_drawing(std::shared_ptr<const plan::Plan> plan, bool with_axis) {
    return make_drawing(
        [plan, with_axis](double lettering) {
            const auto rows = static_cast<double>(std::max<std::size_t>(1, plan->options.size()));
            return QSizeF(lettering * 86, lettering * (2.5 * rows + (with_axis ? 3 : 0)));
        },
        [plan, with_axis](const Surface& on) -> std::vector<HitBox> {
            if (plan->trouble || plan->options.empty()) {
                paint_words(on, plan->trouble
                                    ? words(*plan->trouble)
                                    : QCoreApplication::translate(
                                          "RibbonsDrawing", "Fit a cell to see how long it runs."));
                return {};
            }
            const RibbonLayout layout = ribbons_layout(plan.get(), on.frame.width(), on.lettering);
            const double foot = with_axis ? on.lettering * 2.4 : 0;
            const double rows = layout.row * static_cast<double>(plan->options.size());
            QRectF row(on.frame.left(), on.frame.top(), on.frame.width(), layout.row);
            paint_ribbon_grid(
                on.p,
                QRectF(row.topLeft(),
                       QSizeF(on.frame.width(), with_axis ? on.frame.height() - foot : rows)),
                layout, on.inks);
            for (const plan::CellOption& option : plan->options) {
                paint_ribbon(on.p, row, option, layout, on.inks);
                row.translate(0, layout.row);
            }
            if (with_axis)
                paint_ribbon_axis(
                    on.p, QRectF(on.frame.left(), on.frame.bottom() - foot, on.frame.width(), foot),
                    layout, on.inks);
            return {};
        },
        [plan] {
            QStringList said;
            for (const plan::CellOption& o : plan->options)
                said << QCoreApplication::translate("RibbonsDrawing",
                                                    "%1, clean %2, bright %3, off %4, %5")
                            .arg(words(o.name), words(duration(o.clean)), words(duration(o.bright)),
                                 words(duration(o.off)), words(o.remark));
            return said.join("; ");
        });
}

} // namespace conductus::app
