// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/sound_drawing.h"

#include <QObject>
#include <algorithm>
#include <cmath>

#include "app/drawing/plot.h"
#include "app/session/words.h"
#include "core/base/format.h"

namespace conductus::app {
namespace {

constexpr double softest = -50; // LUFS at the left end

QString decibels_text(double value, const char* unit) {
    return QStringLiteral("%1 %2").arg(words(decimals(value, 1)), QString::fromLatin1(unit));
}

class LoudnessDrawing : public Drawing {
public:
    explicit LoudnessDrawing(std::vector<card::Loudness> all) : all_(std::move(all)) {}

    [[nodiscard]] QSizeF size(double lettering) const override {
        return {lettering * 46,
                row(lettering) *
                    (static_cast<double>(std::max<std::size_t>(2, all_.size())) + 2.4)};
    }

    std::vector<HitBox> paint(const Surface& on) const override {
        const InFrame frame(on);
        QPainter& p = on.p;
        p.setRenderHint(QPainter::Antialiasing);
        const double l = on.lettering, h = row(l), names = l * 11, figures = l * 12;
        const double count = static_cast<double>(std::max<std::size_t>(2, all_.size()));
        const QRectF box(names, h * 0.4, std::max(10.0, on.frame.width() - names - figures),
                         h * count);
        const auto x = [&](double value) {
            return box.left() + box.width() * std::clamp((value - softest) / -softest, 0.0, 1.0);
        };
        paint_foot_axis(p, box, {softest, 0, QString(), false}, l * 0.85, on.inks);
        if (all_.empty()) {
            p.setFont(page_font(l));
            p.setPen(on.inks.second);
            p.drawText(box, Qt::AlignCenter,
                       QObject::tr("The sounds of a card were not measured yet."));
        }
        std::vector<HitBox> spots;
        for (std::size_t i = 0; i < all_.size(); ++i) {
            const card::Loudness& one = all_[i];
            const QRectF all(0, box.top() + h * static_cast<double>(i), on.frame.width(), h);
            p.setFont(page_font(l));
            p.setPen(on.inks.ink);
            const QString name =
                one.track ? QObject::tr("track %1").arg(words(one.name)) : words(one.name);
            p.drawText(QRectF(2, all.top(), names - 8, h), Qt::AlignVCenter,
                       QFontMetricsF(p.font()).elidedText(name, Qt::ElideRight, names - 8));
            spots.push_back({words(one.name), all.translated(on.frame.topLeft())});
            p.setFont(page_font(l * 0.85));
            if (!one.lufs) {
                p.setPen(on.inks.warn);
                p.drawText(QRectF(box.left() + 4, all.top(), box.width(), h), Qt::AlignVCenter,
                           QObject::tr("silent"));
                continue;
            }
            p.setPen(QPen(on.inks.ink, 1));
            p.setBrush(one.track ? on.inks.connector : on.inks.board);
            p.drawRect(
                QRectF(box.left(), all.top() + h * 0.22, x(*one.lufs) - box.left(), h * 0.56));
            // Its largest sample.
            p.setPen(QPen(one.peak_dBFS > -0.1 ? on.inks.stop : on.inks.ink, 2));
            p.drawLine(QPointF(x(one.peak_dBFS), all.top() + h * 0.22),
                       QPointF(x(one.peak_dBFS), all.top() + h * 0.78));
            // Where its gain would bring it.
            if (one.gain && std::abs(*one.gain) >= 0.05) {
                p.setPen(QPen(on.inks.petrol, 1.4, Qt::DashLine));
                const double to = x(*one.lufs + *one.gain);
                p.drawLine(QPointF(to, all.top() + h * 0.1), QPointF(to, all.bottom() - h * 0.1));
            }
            p.setPen(on.inks.ink);
            p.drawText(QRectF(box.right() + l * 0.6, all.top(), figures * 0.52, h),
                       Qt::AlignVCenter, decibels_text(*one.lufs, "LUFS"));
            if (one.gain) {
                p.setPen(std::abs(*one.gain) > card::uneven_LU ? on.inks.warn : on.inks.second);
                p.drawText(QRectF(box.right() + figures * 0.54, all.top(), figures * 0.46 - 2, h),
                           Qt::AlignVCenter | Qt::AlignRight,
                           std::abs(*one.gain) < 0.05
                               ? QObject::tr("as it is")
                               : (*one.gain > 0 ? QStringLiteral("+") : QString()) +
                                     decibels_text(*one.gain, "dB"));
            }
        }
        p.setFont(page_font(l * 0.85));
        p.setPen(on.inks.second);
        p.drawText(
            QRectF(2, box.bottom() + h * 1.0, on.frame.width() - 4, h), Qt::AlignVCenter,
            QObject::tr("bar: loudness · stroke: largest sample · dashed: evened by the gain "
                        "at the right, without clipping"));
        return spots;
    }

    [[nodiscard]] QString description() const override {
        QStringList all;
        for (const card::Loudness& one : all_)
            all << QObject::tr("%1: %2").arg(words(one.name), one.lufs
                                                                  ? decibels_text(*one.lufs, "LUFS")
                                                                  : QObject::tr("silent"));
        return all.join(QStringLiteral("; "));
    }

private:
    static double row(double lettering) { return lettering * 1.8; }
    std::vector<card::Loudness> all_;
};

class WaveDrawing : public Drawing {
public:
    WaveDrawing(QString name, std::optional<card::Sound> sound)
        : name_(std::move(name)), sound_(std::move(sound)) {}

    [[nodiscard]] QSizeF size(double lettering) const override {
        return {lettering * 46, lettering * 9};
    }

    std::vector<HitBox> paint(const Surface& on) const override {
        if (!sound_ || !sound_->trouble.empty()) {
            paint_words(on, sound_ ? QObject::tr("%1: %2").arg(name_, words(sound_->trouble))
                                   : QObject::tr("Choose a sound to see its course."));
            return {};
        }
        const InFrame frame(on);
        QPainter& p = on.p;
        p.setRenderHint(QPainter::Antialiasing);
        const double l = on.lettering;
        const QRectF box(l * 3.4, l * 1.6, std::max(10.0, on.frame.width() - l * 4.4),
                         std::max(10.0, on.frame.height() - l * 4));
        p.setFont(page_font(l * 0.9));
        p.setPen(on.inks.ink);
        const QString channels = sound_->channels == 1
                                     ? QObject::tr("one channel")
                                     : QObject::tr("%1 channels").arg(sound_->channels);
        p.drawText(QRectF(box.left(), 0, box.width(), l * 1.4), Qt::AlignVCenter,
                   QObject::tr("%1 · %2, %3 Hz, %4")
                       .arg(name_, words(sound_->format))
                       .arg(sound_->rate)
                       .arg(channels));
        paint_foot_axis(p, box, {0, std::max(1e-3, sound_->seconds), QStringLiteral("s"), false},
                        l * 0.85, on.inks);
        paint_side_axis(p, box, {-100, 100, QStringLiteral("%"), false}, l * 0.85, on.inks);
        const double middle = box.center().y(), half = box.height() / 2;
        p.setPen(QPen(on.inks.hair, 1));
        p.drawLine(QPointF(box.left(), middle), QPointF(box.right(), middle));
        const auto& e = sound_->envelope;
        QPolygonF outline;
        const double step = box.width() / static_cast<double>(std::max<std::size_t>(1, e.size()));
        for (std::size_t i = 0; i < e.size(); ++i)
            outline << QPointF(box.left() + step * (static_cast<double>(i) + 0.5),
                               middle - half * std::min(1.0F, e[i]));
        for (std::size_t i = e.size(); i-- > 0;)
            outline << QPointF(box.left() + step * (static_cast<double>(i) + 0.5),
                               middle + half * std::min(1.0F, e[i]));
        p.setPen(QPen(on.inks.petrol, 1));
        p.setBrush(on.inks.board);
        p.drawPolygon(outline);
        if (sound_->clipped > 0) {
            p.setPen(QPen(on.inks.stop, 2));
            for (std::size_t i = 0; i < e.size(); ++i)
                if (e[i] >= 0.9999F)
                    for (const double y : {box.top(), box.bottom()})
                        p.drawLine(QPointF(box.left() + step * static_cast<double>(i), y),
                                   QPointF(box.left() + step * static_cast<double>(i + 1), y));
            p.drawText(QRectF(box.left(), 0, box.width(), l * 1.4),
                       Qt::AlignVCenter | Qt::AlignRight, QObject::tr("clipped"));
        }
        return {};
    }

    [[nodiscard]] QString description() const override { return name_; }

private:
    QString name_;
    std::optional<card::Sound> sound_;
};

} // namespace

DrawingPtr loudness_drawing(std::vector<card::Loudness> all) {
    return std::make_shared<const LoudnessDrawing>(std::move(all));
}

DrawingPtr loudness_drawing(PlanPtr plan) {
    std::vector<card::Loudness> all;
    for (const job::FontSound& f : plan->whole->card.fonts) {
        card::Loudness one;
        one.name = f.font;
        if (f.loudness > -70) one.lufs = f.loudness;
        one.peak_dBFS = f.peak > 0 ? 20 * std::log10(f.peak) : -200;
        all.push_back(std::move(one));
    }
    card::even_out(all);
    return loudness_drawing(std::move(all));
}

DrawingPtr wave_drawing(QString name, std::optional<card::Sound> sound) {
    return std::make_shared<const WaveDrawing>(std::move(name), std::move(sound));
}

} // namespace conductus::app
