// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/bench_drawing.h"

#include <QCoreApplication>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/drawing/plot.h"
#include "app/session/words.h"
#include "core/base/format.h"

namespace conductus::app {
namespace {

struct Bench {
    Q_DECLARE_TR_FUNCTIONS(Bench)
};

/// Where a value stands on the line of a band: the band is its middle third, far off runs slower.
double place_on(const diagnose::Band& band, double value) {
    const double low = band.low, high = band.high;
    if (band.open()) {
        // Of what should be open: the more it conducts, the further left.
        const double decades = std::log10(std::max(value, 1e-3) / std::max(low, 1e-3));
        return decades >= 0 ? 0.5 + std::min(0.14, decades * 0.04)
                            : std::max(0.02, 0.34 + 0.32 * decades / 6);
    }
    const double half = std::max((high - low) / 2, 1e-9), middle = (low + high) / 2;
    const double off = (value - middle) / half; // -1 to 1 in the band
    if (std::abs(off) <= 1) return 0.5 + off / 6;
    const double beyond = std::log10(std::abs(off)); // ten bands off is a good way out
    return 0.5 + std::copysign(1.0 / 6 + std::min(0.31, beyond * 0.2), off);
}

class BandsDrawing : public Drawing {
public:
    BandsDrawing(DiagnosisPtr diagnosis, int chosen)
        : diagnosis_(std::move(diagnosis)), chosen_(chosen) {}
    [[nodiscard]] QSizeF size(double l) const override {
        return {l * 34, l * (1.5 + 1.75 * std::max(1.0, double(diagnosis_->rows.size())))};
    }
    std::vector<HitBox> paint(const Surface& on) const override {
        const InFrame frame(on);
        QPainter& p = on.p;
        p.setRenderHint(QPainter::Antialiasing);
        const double l = on.lettering, w = on.frame.width();
        const double value = std::min(w * 0.2, l * 6.5), names = std::min(w * 0.46, l * 19);
        const QFont small = page_font(l * 0.9);
        p.setFont(small);
        p.setPen(on.inks.second);
        p.drawText(QRectF(0, 0, names, l * 1.4), Qt::AlignVCenter, Bench::tr("where"));
        const QString whole = Bench::tr("expected band, and what was read");
        const bool roomy = QFontMetricsF(small).horizontalAdvance(whole) < w - names - value;
        p.drawText(QRectF(names, 0, w - names - value, l * 1.4), Qt::AlignVCenter,
                   roomy ? whole : Bench::tr("expected band"));
        p.drawText(QRectF(w - value, 0, value, l * 1.4), Qt::AlignVCenter | Qt::AlignRight,
                   Bench::tr("read"));
        p.setPen(QPen(on.inks.hair, 1));
        p.drawLine(QPointF(0, l * 1.45), QPointF(w, l * 1.45));
        std::vector<HitBox> boxes;
        if (diagnosis_->rows.empty()) {
            p.setPen(on.inks.second);
            p.drawText(QRectF(0, l * 1.6, w, l * 1.6), Qt::AlignVCenter,
                       Bench::tr("Nothing was read yet."));
            return boxes;
        }
        // The latest stay in sight.
        const double line = l * 1.75;
        const auto fits =
            static_cast<std::size_t>(std::max(1.0, (on.frame.height() - l * 1.5) / line));
        const std::size_t count = diagnosis_->rows.size();
        double y = l * 1.55;
        for (std::size_t i = count > fits ? count - fits : 0; i < count; ++i, y += line) {
            const diagnose::Diagnosis::Row& row = diagnosis_->rows[i];
            const QRectF all(0, y, w, line);
            if (static_cast<int>(row.reading) == chosen_) p.fillRect(all, on.inks.chosen);
            p.setFont(small);
            p.setPen(row.earlier ? on.inks.second : on.inks.ink);
            const QString where = words(row.words) + QStringLiteral(" · ") + words(row.state);
            p.drawText(QRectF(2, y, names - 6, line), Qt::AlignVCenter,
                       QFontMetricsF(small).elidedText(where, Qt::ElideRight, names - 8));
            if (row.known())
                paint_band(p, QRectF(names, y, w - names - value - l * 0.6, line), row, row.read,
                           on.inks);
            const bool out = row.verdict == diagnose::Verdict::out && !row.earlier,
                       edge = row.verdict == diagnose::Verdict::edge && !row.earlier;
            p.setFont(page_font(l * 0.9, out));
            p.setPen(row.earlier ? on.inks.second
                     : out       ? on.inks.stop
                     : edge      ? on.inks.warn
                                 : on.inks.ink);
            p.drawText(QRectF(w - value, y, value - 2, line), Qt::AlignVCenter | Qt::AlignRight,
                       words(row.value) + (out    ? QStringLiteral(" ▪")
                                           : edge ? QStringLiteral(" ◆")
                                                  : QString()));
            boxes.push_back({QStringLiteral("reading %1").arg(row.reading),
                             all.translated(on.frame.topLeft())});
        }
        return boxes;
    }
    [[nodiscard]] QString description() const override {
        QStringList all;
        for (const auto& row : diagnosis_->rows)
            all << Bench::tr("%1, %2: %3%4")
                       .arg(words(row.words), words(row.state), words(row.value),
                            row.verdict == diagnose::Verdict::out ? Bench::tr(", out of its band")
                            : row.verdict == diagnose::Verdict::edge ? Bench::tr(", at its edge")
                                                                     : QString());
        return all.join(QStringLiteral("; "));
    }

private:
    DiagnosisPtr diagnosis_;
    int chosen_;
};

class MayDrawing : public Drawing {
public:
    MayDrawing(DiagnosisPtr diagnosis, int chosen)
        : diagnosis_(std::move(diagnosis)), chosen_(chosen) {}
    [[nodiscard]] QSizeF size(double l) const override {
        return {l * 24,
                l * 2.9 * std::max(1.0, double(std::min<std::size_t>(8, diagnosis_->may.size()))) +
                    l * 1.6};
    }
    std::vector<HitBox> paint(const Surface& on) const override {
        const InFrame frame(on);
        QPainter& p = on.p;
        p.setRenderHint(QPainter::Antialiasing);
        const double l = on.lettering, w = on.frame.width();
        const double row = l * 2.9, percent = l * 3.4;
        std::vector<HitBox> boxes;
        double y = 0;
        for (std::size_t i = 0; i < diagnosis_->may.size(); ++i) {
            if (y + row > on.frame.height() - l * 1.4) break;
            const diagnose::Diagnosis::May& m = diagnosis_->may[i];
            const QRectF all(0, y, w, row);
            const bool now = static_cast<int>(i) == chosen_;
            if (now) p.fillRect(all.adjusted(0, 0, 0, -l * 0.2), on.inks.chosen);
            p.setFont(page_font(l, i == 0));
            p.setPen(m.unknown ? on.inks.second : on.inks.ink);
            p.drawText(
                QRectF(4, y, w - 8, l * 1.5), Qt::AlignVCenter,
                QFontMetricsF(p.font()).elidedText(
                    words(m.says), m.faults.size() > 1 ? Qt::ElideLeft : Qt::ElideRight, w - 8));
            const double width = w - percent - 8;
            p.fillRect(QRectF(4, y + l * 1.55, width * m.before, l * 0.28), on.inks.hair);
            p.fillRect(QRectF(4, y + l * 1.85, std::max(1.5, width * m.p), l * 0.6),
                       i == 0 ? on.inks.petrol : on.inks.clean_pale);
            p.setPen(on.inks.ink);
            p.drawText(QRectF(w - percent, y + l * 1.45, percent - 4, l * 1.2),
                       Qt::AlignVCenter | Qt::AlignRight,
                       m.p < 0.01 ? Bench::tr("< 1 %")
                                  : QStringLiteral("%1 %").arg(qRound(m.p * 100)));
            boxes.push_back({QStringLiteral("may %1").arg(i), all.translated(on.frame.topLeft())});
            y += row;
        }
        p.setFont(page_font(l * 0.85));
        p.setPen(on.inks.second);
        p.drawText(QRectF(4, y, w - 8, l * 1.4), Qt::AlignVCenter,
                   Bench::tr("thin: before the last reading"));
        return boxes;
    }
    [[nodiscard]] QString description() const override {
        QStringList all;
        for (const auto& m : diagnosis_->may)
            all << QStringLiteral("%1: %2 %").arg(words(m.says)).arg(qRound(m.p * 100));
        return all.join(QStringLiteral("; "));
    }

private:
    DiagnosisPtr diagnosis_;
    int chosen_;
};

class LogDrawing : public Drawing {
public:
    explicit LogDrawing(std::shared_ptr<const bench::DischargeFit> fit) : fit_(std::move(fit)) {}
    [[nodiscard]] QSizeF size(double l) const override { return {l * 56, l * 20}; }
    std::vector<HitBox> paint(const Surface& on) const override {
        const InFrame frame(on);
        QPainter& p = on.p;
        p.setRenderHint(QPainter::Antialiasing);
        const double l = on.lettering;
        const QRectF area(l * 4.4, l * 1.8, on.frame.width() - l * 5.6,
                          std::max(40.0, on.frame.height() - l * 4.4));
        double low = 1e9, high = -1e9;
        for (const auto* curve : {&fit_->measured, &fit_->fitted, &fit_->planned})
            for (const auto& [s, v] : *curve)
                low = std::min(low, v), high = std::max(high, v);
        const PlotAxis volts = roomy(low, high, 0.1, QStringLiteral("V"));
        const PlotAxis minutes{0, std::max(1.0, fit_->measured.back()[0] / 60),
                               QStringLiteral("min"), false};
        paint_side_axis(p, area, volts, l, on.inks);
        paint_foot_axis(p, area, minutes, l, on.inks);
        const auto at = [&](double s, double v) {
            return QPointF(area.left() + minutes.share(s / 60) * area.width(),
                           area.bottom() - volts.share(v) * area.height());
        };
        const auto line = [&](const auto& curve, const QPen& pen) {
            QPainterPath path;
            for (std::size_t i = 0; i < curve.size(); ++i)
                i ? path.lineTo(at(curve[i][0], curve[i][1]))
                  : path.moveTo(at(curve[i][0], curve[i][1]));
            p.setPen(pen);
            p.setBrush(Qt::NoBrush);
            p.drawPath(path);
        };
        line(fit_->planned, QPen(on.inks.second, 1.4, Qt::DashLine));
        line(fit_->fitted, QPen(on.inks.petrol, 2));
        p.setPen(QPen(on.inks.ink, 1));
        p.setBrush(on.inks.paper);
        const std::size_t every = std::max<std::size_t>(1, fit_->measured.size() / 70);
        for (std::size_t i = 0; i < fit_->measured.size(); i += every)
            p.drawEllipse(at(fit_->measured[i][0], fit_->measured[i][1]), l * 0.2, l * 0.2);
        p.setFont(page_font(l * 0.88));
        double x = area.left();
        const auto key = [&](const QPen& pen, const QString& text, bool dot) {
            p.setPen(pen);
            const double y = l * 0.8;
            if (dot)
                p.drawEllipse(QPointF(x + l, y), l * 0.2, l * 0.2);
            else
                p.drawLine(QPointF(x, y), QPointF(x + l * 2, y));
            x += l * 2.4;
            p.setPen(on.inks.ink);
            const double w = QFontMetricsF(p.font()).horizontalAdvance(text);
            p.drawText(QRectF(x, 0, w + 4, l * 1.6), Qt::AlignVCenter, text);
            x += w + l * 1.6;
        };
        key(QPen(on.inks.ink, 1), Bench::tr("logged"), true);
        key(QPen(on.inks.petrol, 2), Bench::tr("what fits it"), false);
        key(QPen(on.inks.second, 1.4, Qt::DashLine), Bench::tr("as planned, with these currents"),
            false);
        return {};
    }
    [[nodiscard]] QString description() const override {
        QStringList all;
        for (const Message& m : fit_->says)
            all << words(m);
        return all.join(QStringLiteral(". "));
    }

private:
    std::shared_ptr<const bench::DischargeFit> fit_;
};

} // namespace

void paint_band(QPainter& p, const QRectF& box, const diagnose::Band& band,
                std::optional<double> read, const Inks& inks) {
    const double y = box.center().y(), h = box.height() * 0.36;
    const auto x = [&](double share) { return box.left() + box.width() * share; };
    p.setPen(QPen(inks.hair, 1));
    p.drawLine(QPointF(box.left(), y), QPointF(box.right(), y));
    p.fillRect(QRectF(QPointF(x(1.0 / 3), y - h / 2), QPointF(x(2.0 / 3), y + h / 2)),
               inks.clean_pale);
    if (!read) return;
    const double r = std::min(5.0, box.height() * 0.26);
    const QPointF at(x(place_on(band, *read)), y);
    p.setPen(Qt::NoPen);
    // Not by colour alone.
    switch (band.judge(*read)) {
    case diagnose::Verdict::out:
        p.setBrush(inks.stop);
        p.drawRect(QRectF(at.x() - r, y - r, 2 * r, 2 * r));
        break;
    case diagnose::Verdict::edge:
        p.setBrush(inks.warn);
        p.drawPolygon(QPolygonF({at + QPointF(0, -1.3 * r), at + QPointF(1.3 * r, 0),
                                 at + QPointF(0, 1.3 * r), at + QPointF(-1.3 * r, 0)}));
        break;
    default:
        p.setBrush(inks.ink);
        p.drawEllipse(at, r, r);
    }
}

DrawingPtr bands_drawing(DiagnosisPtr diagnosis, int chosen) {
    return std::make_shared<BandsDrawing>(std::move(diagnosis), chosen);
}
DrawingPtr may_drawing(DiagnosisPtr diagnosis, int chosen) {
    return std::make_shared<MayDrawing>(std::move(diagnosis), chosen);
}
DrawingPtr discharge_log_drawing(std::shared_ptr<const bench::DischargeFit> fit) {
    return std::make_shared<LogDrawing>(std::move(fit));
}

} // namespace conductus::app
