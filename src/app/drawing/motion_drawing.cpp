// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/motion_drawing.h"

#include <QObject>
#include <algorithm>
#include <cmath>

#include "app/drawing/plot.h"
#include "app/session/words.h"
#include "core/base/format.h"
#include "core/job/words.h"

namespace conductus::app {
namespace {

using job::Felt;

constexpr Felt lanes[] = {Felt::swing,  Felt::twist, Felt::roll,
                          Felt::thrust, Felt::tap,   Felt::clash};

QString figure(double value, Felt what) {
    const bool large = what == Felt::swing || what == Felt::twist || what == Felt::roll;
    return words(decimals(value, large ? 0 : 1)) + QStringLiteral(" ") +
           QString::fromUtf8(motion::unit_of(what));
}

class ThresholdsDrawing : public Drawing {
public:
    explicit ThresholdsDrawing(std::shared_ptr<const MotionStudy> study)
        : study_(std::move(study)) {}

    [[nodiscard]] QSizeF size(double lettering) const override {
        return {lettering * 52, lane(lettering) * 6 + lettering * 2};
    }

    std::vector<HitBox> paint(const Surface& on) const override {
        const InFrame frame(on);
        QPainter& p = on.p;
        p.setRenderHint(QPainter::Antialiasing);
        const double l = on.lettering;
        const double h = std::clamp((on.frame.height() - l * 1.6) / 6, l * 1.8, l * 4);
        const double names = l * 5, says = l * 17;
        const double width = std::max(20.0, on.frame.width() - names - says);
        std::vector<HitBox> spots;
        double top = 0;
        for (const Felt what : lanes) {
            const QRectF box(names, top, width, h);
            paint_lane(on, box, what, says);
            spots.push_back({words(job::word(what)),
                             QRectF(0, top, on.frame.width(), h).translated(on.frame.topLeft())});
            top += h;
        }
        p.setFont(page_font(l * 0.85));
        p.setPen(on.inks.second);
        p.drawText(QRectF(2, top, on.frame.width() - 4, l * 1.5), Qt::AlignVCenter,
                   QObject::tr("dot: meant · ring: not meant · cross: a board that rattles · band: "
                               "lively to calm · stroke: as set"));
        return spots;
    }

    [[nodiscard]] QString description() const override {
        QStringList all;
        for (const motion::Parting& p : study_->partings)
            all << says(p);
        return all.join(QStringLiteral("; "));
    }

private:
    static double lane(double lettering) { return lettering * 2.6; }

    [[nodiscard]] QString says(const motion::Parting& p) const {
        if (p.parts())
            return QObject::tr("lively %1, calm %2")
                .arg(figure(p.lively(), p.what), figure(p.calm(), p.what));
        if (p.loose) return QObject::tr("none parts them: the board is loose");
        return QObject::tr("none parts %1 from %2").arg(words(p.lowest), words(p.highest));
    }

    void paint_lane(const Surface& on, const QRectF& box, Felt what, double room) const {
        QPainter& p = on.p;
        const double l = on.lettering, y = box.center().y();
        double most = motion::threshold_of(study_->settings, what);
        for (const motion::Reach& r : study_->reached)
            if (r.what == what) most = std::max(most, r.value);
        most = most > 0 ? most * 1.08 : 1;
        const auto x = [&](double v) { return box.left() + box.width() * v / most; };
        p.setFont(page_font(l, true));
        p.setPen(on.inks.ink);
        p.drawText(QRectF(2, box.top(), box.left() - 6, box.height()), Qt::AlignVCenter,
                   term(job::word(what)));
        const motion::Parting* parting = nullptr;
        for (const motion::Parting& one : study_->partings)
            if (one.what == what) parting = &one;
        if (parting && parting->parts())
            p.fillRect(QRectF(x(parting->lively()), box.top() + 3,
                              x(parting->calm()) - x(parting->lively()), box.height() - 6),
                       on.inks.chosen);
        p.setPen(QPen(on.inks.hair, 1));
        p.drawLine(QPointF(box.left(), y), QPointF(box.right(), y));
        for (const motion::Reach& r : study_->reached) {
            if (r.what != what) continue;
            const QPointF at(x(r.value), y + (r.meant ? -l * 0.32 : l * 0.32));
            const double size = l * 0.24;
            if (r.meant) {
                p.setPen(QPen(on.inks.petrol, 1));
                p.setBrush(on.inks.petrol);
                p.drawEllipse(at, size, size);
            } else if (r.loose) {
                p.setPen(QPen(on.inks.stop, 1.6));
                p.drawLine(at + QPointF(-size, -size), at + QPointF(size, size));
                p.drawLine(at + QPointF(-size, size), at + QPointF(size, -size));
            } else {
                p.setPen(QPen(on.inks.warn, 1.3));
                p.setBrush(on.inks.paper);
                p.drawEllipse(at, size, size);
            }
        }
        if (const double set = motion::threshold_of(study_->settings, what); set > 0) {
            p.setPen(QPen(on.inks.ink, 2));
            p.drawLine(QPointF(x(set), box.top() + 2), QPointF(x(set), box.bottom() - 2));
        }
        p.setFont(page_font(l * 0.85));
        const double set = motion::threshold_of(study_->settings, what);
        const QRectF right(box.right() + l * 0.8, box.top(), room - l * 0.9, box.height());
        p.setPen(on.inks.ink);
        p.drawText(
            QRectF(right.left(), right.top(), right.width(), right.height() / 2), Qt::AlignBottom,
            set > 0 ? QObject::tr("set at %1").arg(figure(set, what)) : QObject::tr("not entered"));
        if (parting) {
            p.setPen(parting->parts() ? on.inks.second : on.inks.warn);
            p.drawText(
                QRectF(right.left(), right.center().y(), right.width(), right.height() / 2),
                Qt::AlignTop,
                QFontMetricsF(p.font()).elidedText(says(*parting), Qt::ElideRight, right.width()));
        }
    }

    std::shared_ptr<const MotionStudy> study_;
};

class TraceDrawing : public Drawing {
public:
    TraceDrawing(motion::Trace trace, const job::MotionSettings& settings)
        : trace_(std::move(trace)), settings_(settings),
          understood_(motion::understood(trace_, settings)) {}

    [[nodiscard]] QSizeF size(double lettering) const override {
        return {lettering * 52, lettering * 18};
    }

    std::vector<HitBox> paint(const Surface& on) const override {
        if (trace_.samples.size() < 2) {
            paint_words(on, QObject::tr("There is no movement."));
            return {};
        }
        const InFrame frame(on);
        QPainter& p = on.p;
        p.setRenderHint(QPainter::Antialiasing);
        const double l = on.lettering, left = l * 4.2, right = l * 8.5, foot = l * 1.8;
        const double width = std::max(20.0, on.frame.width() - left - right);
        const double flags = l * 1.7;
        const double each = std::max(l * 3, (on.frame.height() - foot - flags) / 2 - l * 0.4);
        const QRectF turning(left, flags, width, each),
            blows(left, flags + each + l * 0.6, width, each);
        const double begin = trace_.samples.front().t, end = trace_.samples.back().t;
        const auto x = [&](double t) { return left + width * (t - begin) / (end - begin); };
        // What is meant, across both.
        for (const motion::Meant& m : trace_.meant) {
            p.fillRect(QRectF(QPointF(x(m.from), flags), QPointF(x(m.to), blows.bottom())),
                       on.inks.chosen);
        }
        paint_curves(on, turning, x, {Felt::swing, Felt::twist}, "°/s",
                     QObject::tr("turning: across the blade, about it"));
        paint_curves(on, blows, x, {Felt::thrust, Felt::clash, Felt::tap}, "g",
                     QObject::tr("acceleration: along the blade, and blows across it"));
        paint_foot_axis(p, blows, {begin, end, QStringLiteral("s"), false}, l * 0.85, on.inks);
        p.setFont(page_font(l * 0.85));
        double taken = -1e9;
        for (const motion::Event& e : understood_.events) {
            const QColor ink = e.meant ? on.inks.petrol : on.inks.stop;
            p.setPen(QPen(ink, 1.6));
            p.drawLine(QPointF(x(e.at), flags - l * 0.2), QPointF(x(e.at), blows.bottom()));
            const QString says = e.meant
                                     ? term(job::word(e.what))
                                     : QObject::tr("%1, not meant").arg(term(job::word(e.what)));
            const double wide = QFontMetricsF(p.font()).horizontalAdvance(says);
            const double at = std::clamp(std::max(x(e.at) - wide / 2, taken + l * 0.6), left,
                                         on.frame.width() - wide - 2);
            p.drawText(QRectF(at, 0, wide + 2, flags - l * 0.2), Qt::AlignVCenter, says);
            taken = at + wide;
        }
        if (understood_.events.empty() || !understood_.missed.empty()) {
            QStringList missed;
            for (const motion::Meant& m : understood_.missed)
                missed << term(job::word(m.what));
            p.setPen(missed.isEmpty() ? on.inks.second : on.inks.warn);
            const QString says = missed.isEmpty()
                                     ? QObject::tr("taken for nothing")
                                     : QObject::tr("missed: %1").arg(missed.join(", "));
            p.drawText(QRectF(std::max(left, taken + l), 0, width, flags - l * 0.2),
                       Qt::AlignVCenter, says);
        }
        return {};
    }

    [[nodiscard]] QString description() const override {
        QStringList all;
        for (const motion::Event& e : understood_.events)
            all << QObject::tr("%1 at %2 s").arg(term(job::word(e.what)), words(decimals(e.at, 2)));
        return QObject::tr("%1: %2").arg(words(trace_.name), all.isEmpty()
                                                                 ? QObject::tr("taken for nothing")
                                                                 : all.join(QStringLiteral(", ")));
    }

private:
    template <class X>
    void paint_curves(const Surface& on, const QRectF& box, X x, const std::vector<Felt>& kinds,
                      const char* unit, const QString& title) const {
        QPainter& p = on.p;
        const double l = on.lettering;
        double least = 0, most = 0;
        std::vector<std::vector<double>> curves;
        for (const Felt what : kinds) {
            curves.push_back(motion::values_of(trace_, what));
            for (const double v : curves.back())
                least = std::min(least, v), most = std::max(most, v);
            most = std::max(most, motion::threshold_of(settings_, what) * 1.05);
        }
        const PlotAxis axis = roomy(least, most, 1, QString::fromUtf8(unit));
        paint_side_axis(p, box, axis, l * 0.85, on.inks);
        const auto y = [&](double v) { return box.bottom() - box.height() * axis.share(v); };
        struct Label {
            double at;
            QString says;
            QColor ink;
        };
        std::vector<Label> labels;
        for (std::size_t k = 0; k < kinds.size(); ++k) {
            const QColor ink = k == 0 ? on.inks.petrol : k == 1 ? on.inks.warn : on.inks.note;
            // A tap and a clash are of the same blow.
            if (kinds[k] != Felt::tap) {
                QPolygonF line;
                for (std::size_t i = 0; i < curves[k].size(); ++i)
                    line << QPointF(x(trace_.samples[i].t), y(curves[k][i]));
                p.setPen(QPen(ink, 1.4));
                p.setBrush(Qt::NoBrush);
                p.drawPolyline(line);
            }
            const double threshold = motion::threshold_of(settings_, kinds[k]);
            if (threshold > 0) {
                p.setPen(QPen(kinds[k] == Felt::tap ? on.inks.note : ink, 1, Qt::DashLine));
                p.drawLine(QPointF(box.left(), y(threshold)), QPointF(box.right(), y(threshold)));
                labels.push_back({y(threshold),
                                  QObject::tr("%1 from %2")
                                      .arg(term(job::word(kinds[k])), figure(threshold, kinds[k])),
                                  kinds[k] == Felt::tap ? on.inks.note : ink});
            }
        }
        p.setFont(page_font(l * 0.8));
        p.setPen(on.inks.second);
        // On paper of its own: a threshold may lie behind it.
        const QRectF words_box(box.left() + 4, box.top() + 2,
                               QFontMetricsF(p.font()).horizontalAdvance(title) + 6, l * 1.1);
        p.fillRect(words_box, on.inks.paper);
        p.drawText(words_box, Qt::AlignCenter, title);
        // Names of the thresholds, none over another, in the inks of their curves.
        std::sort(labels.begin(), labels.end(),
                  [](const Label& a, const Label& b) { return a.at > b.at; });
        double free = 1e9;
        p.setFont(page_font(l * 0.8));
        for (const auto& [at, says, ink] : labels) {
            p.setPen(ink);
            const double bottom = std::min(at + l * 0.6, free);
            p.drawText(QRectF(box.right() + 4, bottom - l * 1.2, l * 8.4, l * 1.2),
                       Qt::AlignVCenter, says);
            free = bottom - l * 1.15;
        }
    }

    motion::Trace trace_;
    job::MotionSettings settings_;
    motion::Understood understood_;
};

} // namespace

MotionStudy motion_study(const job::MotionSettings& settings,
                         const std::vector<motion::Trace>& more) {
    MotionStudy study;
    study.traces = motion::made_up_set();
    study.traces.insert(study.traces.end(), more.begin(), more.end());
    study.settings = settings;
    study.reached = motion::reaches(study.traces, settings);
    // A loose board is told of its own log, not of the made-up one.
    std::vector<motion::Reach> firm;
    for (const motion::Reach& r : study.reached)
        if (study.traces[r.trace].name != motion::word(motion::Movement::loose_board))
            firm.push_back(r);
    study.partings = motion::partings_of(study.traces, firm);
    return study;
}

DrawingPtr thresholds_drawing(std::shared_ptr<const MotionStudy> study) {
    return std::make_shared<const ThresholdsDrawing>(std::move(study));
}

DrawingPtr motion_drawing(const PlanPtr& plan) {
    return thresholds_drawing(
        std::make_shared<const MotionStudy>(motion_study(plan->whole->config.motion)));
}

DrawingPtr trace_drawing(motion::Trace trace, const job::MotionSettings& settings) {
    return std::make_shared<const TraceDrawing>(std::move(trace), settings);
}

} // namespace conductus::app
