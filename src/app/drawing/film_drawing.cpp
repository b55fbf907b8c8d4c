// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/film_drawing.h"

#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/drawing/plot.h"
#include "app/session/words.h"
#include "core/base/format.h"

namespace conductus::app {
FilmDrawing::FilmDrawing(std::shared_ptr<const job::Job> job,
                         std::shared_ptr<const plan::Film> film, std::size_t now)
    : job_(std::move(job)), film_(std::move(film)), now_(now) {
    if (!film_ || film_->frames.empty()) return;
    now_ = std::min(now_, film_->frames.size() - 1);
    std::vector<std::string> shown;
    for (std::size_t i = 0; i < film_->frames[0].blades.size(); ++i)
        shown.push_back(i < job_->blades.size() ? job_->blades[i].ref : std::string());
    places_ = place_blades(*job_, shown);
    lines_ = std::max<std::size_t>(1, lines_of(places_));
}

QSizeF FilmDrawing::size(double lettering) const {
    return {lettering * 60, lettering * (16 + 1.9 * static_cast<double>(lines_))};
}

QRectF FilmDrawing::trace(const QRectF& frame, double text) const {
    const double blades = text * 1.9 * static_cast<double>(lines_);
    return {frame.left() + text * 4.6, frame.top() + blades + text * 1.2,
            frame.width() - text * 6.2, std::max(20.0, frame.height() - blades - text * 3.6)};
}

std::vector<HitBox> FilmDrawing::paint(const Surface& on) const {
    if (!film_ || film_->frames.empty()) return {};
    QPainter& p = on.p;
    const Inks& inks = on.inks;
    const double text = on.lettering;
    const plan::Frame& now = film_->frames[now_];
    const QRectF box = trace(on.frame, text);
    std::vector<HitBox> boxes;
    p.setFont(page_font(text * 0.86));
    std::vector<QStringList> names(lines_);
    const double top = on.frame.top(), left = on.frame.left();
    for (std::size_t i = 0; i < std::min(now.blades.size(), places_.size()); ++i) {
        const BladePlace& place = places_[i];
        const double y = top + text * (0.3 + 1.9 * static_cast<double>(place.line));
        // On whole pixels of the screen, so that no edge is painted over.
        const QRect tube = QRectF(box.left() + place.from * box.width(), y,
                                  box.width() * (place.to - place.from), text * 1.4)
                               .toRect();
        paint_blade(p, QRectF(tube), now.blades[i], inks);
        if (i >= job_->blades.size()) continue;
        names[place.line] << words(job_->blades[i].ref);
        boxes.push_back({words(job_->blades[i].ref), QRectF(tube)});
    }
    p.setPen(inks.second);
    const double room = box.left() - left - 6;
    for (std::size_t line = 0; line < names.size(); ++line)
        p.drawText(
            QRectF(left, top + text * (0.3 + 1.9 * static_cast<double>(line)), room, text * 1.4),
            Qt::AlignRight | Qt::AlignVCenter,
            QFontMetricsF(p.font()).elidedText(names[line].join(" "), Qt::ElideRight, room));
    p.setRenderHint(QPainter::Antialiasing);
    const double most = film_->peak.value() * 1.08, last = film_->frames.back().seconds;
    auto at = [&](double seconds, double amps) {
        return QPointF(box.left() + seconds / last * box.width(),
                       box.bottom() - amps / most * box.height());
    };
    const double step = round_step(most, 6);
    for (double a = 0; a <= most; a += step) {
        p.setPen(QPen(inks.hair, 1));
        p.drawLine(at(0, a), at(last, a));
        p.setPen(inks.second);
        p.drawText(QRectF(left, at(0, a).y() - text * 0.7, room, text * 1.4),
                   Qt::AlignRight | Qt::AlignVCenter,
                   QString("%1").arg(a, 0, 'g', 3) + QChar(0x202f) + "A");
    }
    const double tick = round_step(last, 6);
    for (double t = 0; t <= last; t += tick) {
        p.setPen(QPen(inks.ink, 1));
        p.drawLine(at(t, 0), at(t, 0) + QPointF(0, 4));
        p.setPen(inks.second);
        p.drawText(QRectF(at(t, 0).x() - text * 3, box.bottom() + 5, text * 6, text * 1.4),
                   Qt::AlignHCenter, QString("%1").arg(t, 0, 'g', 3) + QChar(0x202f) + "s");
    }
    QPainterPath path;
    for (std::size_t i = 0; i < film_->frames.size(); ++i) {
        const QPointF point = at(film_->frames[i].seconds, film_->frames[i].amps.value());
        i == 0 ? path.moveTo(point) : path.lineTo(point);
    }
    p.setPen(QPen(inks.petrol, 1.8));
    p.setBrush(Qt::NoBrush);
    p.drawPath(path);
    p.setPen(QPen(inks.second, 1, Qt::DashLine));
    p.drawLine(at(0, film_->mean.value()), at(last, film_->mean.value()));
    p.setPen(QPen(inks.ink, 1.2));
    const QPointF cursor = at(now.seconds, now.amps.value());
    p.drawLine(QPointF(cursor.x(), box.top()), QPointF(cursor.x(), box.bottom()));
    p.setBrush(inks.petrol);
    p.drawEllipse(cursor, 3.5, 3.5);
    return boxes;
}

QString FilmDrawing::description() const {
    if (!film_ || film_->frames.empty()) return {};
    const plan::Frame& now = film_->frames[now_];
    return tr("after %1 s the cell gives %2; mean %3, peak %4")
        .arg(now.seconds, 0, 'f', 2)
        .arg(words(text(now.amps)), words(text(film_->mean)), words(text(film_->peak)));
}

std::size_t FilmDrawing::frame_at(QPointF at, const QRectF& frame, double lettering) const {
    if (!film_ || film_->frames.empty()) return 0;
    const QRectF box = trace(frame, lettering);
    const int n = static_cast<int>(film_->frames.size());
    const double share = (at.x() - box.left()) / box.width();
    return static_cast<std::size_t>(std::clamp(static_cast<int>(share * n), 0, n - 1));
}

std::size_t FilmDrawing::frame_after(const plan::Film& film, double seconds) {
    std::size_t at = 0;
    while (at + 1 < film.frames.size() && film.frames[at + 1].seconds <= seconds)
        ++at;
    return at;
}

} // namespace conductus::app
