// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/tenths_drawing.h"

#include <algorithm>
#include <cmath>

#include "app/session/words.h"
#include "core/base/format.h"

namespace conductus::app {
namespace {

double row_height(double lettering) { return lettering * 1.75; }

/// A change of a figure with its sign.
QString signed_text(double change, const std::string& unit) {
    const QString sign = change < 0 ? QChar(0x2212) : QChar('+');
    if (unit == "min" && std::abs(change) >= 1)
        return sign + words(duration(Minute(std::abs(change))));
    if (unit == "min") return sign + words(with_unit(std::abs(change) * 60, "s"));
    return sign + words(with_unit(std::abs(change), unit));
}

} // namespace

QSizeF TenthsDrawing::size(double lettering) const {
    const double rows = why_ && *why_ ? static_cast<double>((*why_)->by.size()) : 3;
    return {lettering * 60, std::max(rows, 2.0) * row_height(lettering) + lettering};
}

std::vector<HitBox> TenthsDrawing::paint(const Surface& on) const {
    if (!why_ || !*why_ || (*why_)->by.empty()) {
        paint_words(on, !why_    ? tr("Being worked out …")
                        : !*why_ ? words(why_->error())
                                 : tr("No input changes it by a tenth more."));
        return {};
    }
    const InFrame corner(on);
    QPainter& p = on.p;
    const Inks& inks = on.inks;
    const double text = on.lettering, width = on.frame.width(), height = on.frame.height(),
                 row = row_height(text);
    std::vector<HitBox> boxes;
    p.setFont(page_font(text * 0.92));
    const auto& by = (*why_)->by;
    const double names = std::min(text * 17, width * 0.36), inputs = text * 6;
    const double room = text * 6.5; // for the number beside a bar
    const QRectF bars(names + inputs + room, 0, width - names - inputs - 2 * room, height);
    const double most = std::abs(by.front().change), middle = bars.center().x();
    const double scale = bars.width() / 2 / most;
    p.setPen(QPen(inks.ink, 1.2));
    p.drawLine(QPointF(middle, 0), QPointF(middle, row * static_cast<double>(by.size())));
    const QFontMetricsF metrics(p.font());
    for (std::size_t i = 0; i < by.size(); ++i) {
        const plan::Sensitivity& s = by[i];
        const QRectF line(0, row * static_cast<double>(i), width, row);
        if (!s.ref.empty()) boxes.push_back({words(s.ref), line.translated(on.frame.topLeft())});
        if (!chosen_.isEmpty() && chosen_ == words(s.ref)) p.fillRect(line, inks.chosen);
        p.setPen(inks.ink);
        p.drawText(QRectF(0, line.top(), names - 6, line.height()), Qt::AlignVCenter,
                   metrics.elidedText(words(s.input), Qt::ElideRight, names - 6));
        p.setPen(inks.second);
        p.drawText(QRectF(names, line.top(), inputs - 4, line.height()),
                   Qt::AlignRight | Qt::AlignVCenter, words(with_unit(s.was, s.unit)));
        const double length = s.change * scale;
        const QRectF bar(std::min(middle, middle + length), line.top() + line.height() * 0.25,
                         std::abs(length), line.height() * 0.5);
        p.fillRect(bar, inks.petrol);
        p.setPen(inks.ink);
        const QString said = signed_text(s.change, (*why_)->figure.unit);
        if (s.change < 0)
            p.drawText(QRectF(bar.left() - room - 5, line.top(), room, line.height()),
                       Qt::AlignRight | Qt::AlignVCenter, said);
        else
            p.drawText(QRectF(bar.right() + 5, line.top(), room, line.height()),
                       Qt::AlignLeft | Qt::AlignVCenter, said);
    }
    return boxes;
}

QString TenthsDrawing::description() const {
    QStringList said;
    if (why_ && *why_)
        for (const plan::Sensitivity& s : (*why_)->by)
            said << words(s.input) + " " + signed_text(s.change, (*why_)->figure.unit);
    return said.join(", ");
}

} // namespace conductus::app
