// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/steps_drawing.h"

#include <QFontMetricsF>
#include <algorithm>

#include "app/session/words.h"
#include "core/base/format.h"

namespace conductus::app {

std::vector<HitBox> paint_steps(QPainter& p, const QRectF& box, const plan::View& view,
                                double lettering, const QString& chosen, const Inks& inks) {
    std::vector<HitBox> spots;
    if (view.steps.empty()) return spots;
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const QFont small = page_font(lettering * 0.86), bold = page_font(lettering * 0.9, true);
    const QFontMetricsF metrics(small), bold_metrics(bold);
    double total = 0, largest = 0;
    for (const auto& s : view.steps) {
        total += s.drop.value();
        largest = std::max(largest, s.drop.value());
    }
    const double labels = metrics.height() + 4;
    const double stairs = box.height() - labels - bold_metrics.height() - 4;
    const double per_volt = total > 0 ? stairs / total : 0;
    const double column = box.width() / static_cast<double>(view.steps.size());
    double y = box.top();
    for (std::size_t i = 0; i < view.steps.size(); ++i) {
        const auto& step = view.steps[i];
        const QRectF col(box.left() + column * static_cast<double>(i), box.top(), column,
                         box.height());
        const double h = std::max(1.5, step.drop.value() * per_volt);
        const QRectF bar(col.left() + 6, y, column - 12, h);
        const QString ref = QString::fromStdString(step.ref);
        const bool most = step.drop.value() == largest;
        p.fillRect(bar, ref == chosen ? inks.petrol : most ? inks.dim : inks.clean_pale);
        if (ref == chosen) {
            p.setPen(QPen(inks.petrol, 1.5));
            p.drawRect(col.adjusted(2, 0, -2, 0));
        }
        y += step.drop.value() * per_volt;
        if (i + 1 < view.steps.size()) {
            p.setPen(QPen(inks.second, 1, Qt::DotLine));
            p.drawLine(QPointF(bar.right(), y), QPointF(bar.right() + 12, y));
        }
        p.setPen(inks.ink);
        p.setFont(bold);
        p.drawText(QRectF(col.left(), bar.bottom() + 1, column, bold_metrics.height()),
                   Qt::AlignHCenter, QString::fromStdString("\u2212" + text(step.drop)));
        p.setFont(small);
        p.setPen(inks.second);
        p.drawText(
            QRectF(col.left(), box.bottom() - labels, column, labels), Qt::AlignCenter,
            metrics.elidedText(QString::fromStdString(step.label), Qt::ElideRight, column - 4));
        spots.push_back({ref, col});
    }
    p.restore();
    return spots;
}

DrawingPtr steps_drawing(std::shared_ptr<const plan::View> view, const QString& chosen) {
    return make_drawing([](double lettering) { return QSizeF(lettering * 86, lettering * 15); },
                        [view, chosen](const Surface& on) {
                            return paint_steps(on.p, on.frame, *view, on.lettering, chosen,
                                               on.inks);
                        },
                        [view] {
                            QStringList said;
                            for (const plan::VoltStep& s : view->steps)
                                said << words(s.label) + " " + words(text(s.drop));
                            return said.join(", ");
                        });
}

} // namespace conductus::app
