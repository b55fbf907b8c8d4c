// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/section_drawing.h"

#include <QCoreApplication>
#include <QFontMetricsF>
#include <QPainterPath>
#include <QPicture>
#include <algorithm>
#include <cmath>

#include "app/drawing/blade_drawing.h"
#include "app/drawing/marks.h"
#include "app/drawing/section_blade.h"
#include "app/drawing/section_electric.h"
#include "app/drawing/section_lettering.h"
#include "app/drawing/section_parts.h"
#include "app/drawing/section_plugs.h"
#include "app/drawing/section_probes.h"
#include "app/drawing/section_wires.h"
#include "core/base/format.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

struct Section {
    Q_DECLARE_TR_FUNCTIONS(Section)
};

double widest(const job::Job& job) {
    double mm = 20;
    for (const job::BoreSection& s : job.hilt.sections)
        mm = std::max(mm, s.outer.value());
    for (const job::Blade& b : job.blades)
        mm = std::max(mm, b.outer.value());
    return mm;
}

void paint_walls(QPainter& p, const job::Hilt& hilt, const Scale& s, const Inks& inks,
                 double hatch) {
    for (const job::BoreSection& section : hilt.sections) {
        const double x0 = s.x(section.from), x1 = s.x(section.to);
        const double outer = section.outer.value() / 2, bore = section.bore.value() / 2;
        const double outer_end = hilt::outer_at(section, section.to).value() / 2;
        const double bore_end = hilt::bore_at(section, section.to).value() / 2;
        for (const double side : {1.0, -1.0}) {
            const QPolygonF wall{
                {QPointF(x0, s.y(side * outer)), QPointF(x1, s.y(side * outer_end)),
                 QPointF(x1, s.y(side * bore_end)), QPointF(x0, s.y(side * bore))}};
            p.setPen(QPen(inks.second, 0.7));
            if (section.bore_end || section.outer_end) {
                paint_hatch(p, wall, hatch);
            } else {
                paint_hatch(p, wall.boundingRect(), hatch);
            }
            p.setPen(QPen(inks.ink, 1.3));
            p.setBrush(Qt::NoBrush);
            p.drawPolygon(wall);
        }
    }
}

void paint_centre_line(QPainter& p, const Scale& s, double x0, double x1, const Inks& inks) {
    p.setPen(QPen(inks.second, 0.8, Qt::CustomDashLine));
    QPen pen = p.pen();
    pen.setDashPattern({16, 4, 3, 4});
    p.setPen(pen);
    p.drawLine(QPointF(x0, s.axis), QPointF(x1, s.axis));
}

/// One painting of one section: what all its steps need.
class SectionPainter {
public:
    SectionPainter(QPainter& p, const QRectF& frame, const plan::Plan& plan,
                   const LongSectionOptions& options, const Inks& inks)
        : p_(p), frame_(frame), plan_(plan), job_(*plan.job), options_(options), inks_(inks),
          lettering_(drawing_font(options.lettering)), metrics_(lettering_),
          line_(metrics_.height()) {
        // Room above for flags, below for dimensions; then the one scale that fits both ways.
        above_ = line_ * 1.8;
        const double below = line_ * 2.9;
        // The blade ahead is drawn along the hilt; the others where they stand, at their angles.
        for (const job::Blade& b : job_.blades)
            if (!ahead_ && !stands_out(b)) ahead_ = &b;
        if (ahead_) blade_ = extent_of(*ahead_, plan);
        drawn_ = std::max(hilt_length(job_.hilt), blade_ ? blade_->end : Millimetre(0));
        for (const hilt::Passing& pass : plan.fit.passes)
            if (!options.sliding.isEmpty() && pass.carrier == options.sliding.toStdString() &&
                pass.reason.empty())
                way_ = &pass;
        // A carrier on its way in stands outside first.
        const double outside = way_ && way_->from_pommel ? (way_->to - way_->from).value() : 0;
        const double whole = drawn_.value() + outside;
        up_ = down_ = widest(job_) / 2;
        const double by_width = (frame.width() - 48) / whole;
        const double high = frame.height() - above_ - below;
        place_across(Millimetre(std::clamp(high / by_width / 2 - up_, 13.0, 90.0)));
        s_.per_mm = std::min(by_width, high / (up_ + down_));
        s_.x0 = frame.left() + (frame.width() - whole * s_.per_mm) / 2 + outside * s_.per_mm;
        s_.axis = frame.top() + above_ + up_ * s_.per_mm + (high - (up_ + down_) * s_.per_mm) / 2;
        const plan::LookPlan* look = plan.look(options.look.toStdString());
        if (!look && !plan.looks.empty()) look = &plan.looks.front();
        look_ = look;
        if (look) view_ = &look->views[options.charge];
        if (options.moment) view_ = options.moment.get();
        wires_ = wires_of(plan, options.lit + QStringList{options.chosen});
        ends_ = ends_of(wires_);
    }

    [[nodiscard]] const Scale& scale() const { return s_; }

    std::vector<HitBox> run() {
        p_.setRenderHint(QPainter::Antialiasing);
        p_.setFont(lettering_);
        paint_walls(p_, job_.hilt, s_, inks_, std::max(5.0, options_.lettering * 0.55));
        paint_centre_line(p_, s_, s_.x0 - 8, s_.x(drawn_) + 8, inks_);
        if (blade_) blade(*ahead_);
        for (const auto& [b, extent] : across_)
            blade_across(*b, extent);
        if (!small_survey()) paint_survey(p_, job_.hilt, s_, inks_);
        if (options_.overlay == Overlay::sound) sound_space();
        for (const hilt::PlacedBody& b : plan_.fit.bodies)
            body(b);
        if (!way_) paint_wires(p_, wires_, s_, inks_);
        slide_marks();
        // What stands below comes first: bodies are lettered where that leaves room, small ones
        // before large ones, which have more names to choose from.
        const double y = s_.y(-down_) + 4;
        names_and_bores(y);
        const double flags_y = s_.y(up_) - above_ * 0.55;
        taken_.take(QRectF(frame_.left(), flags_y - line_ * 0.7, frame_.width(), line_ * 1.4));
        letter_across();
        paint_plugs(p_, plugs_, s_, frame_, inks_, taken_);
        std::vector<HitBox> small_first = spots_;
        std::erase_if(small_first, [this](const HitBox& b) {
            return job::find_ref(job_.blades, b.ref.toStdString());
        });
        std::stable_sort(small_first.begin(), small_first.end(),
                         [](const HitBox& a, const HitBox& b) {
                             return a.box.width() * a.box.height() < b.box.width() * b.box.height();
                         });
        for (const HitBox& b : small_first)
            letter_body(p_, b.box, b.ref, names_of(plan_, b.ref.toStdString()), frame_, inks_,
                        taken_);
        const double top = s_.y(up_);
        paint_flags(p_,
                    options_.overlay == Overlay::volts   ? volt_flags(electric())
                    : options_.overlay == Overlay::amps  ? amp_flags(electric())
                    : options_.overlay == Overlay::heat  ? heat_flags(electric())
                    : options_.overlay == Overlay::sound ? sound_flags()
                    : way_                               ? way_flags()
                                                         : clearance_flags(),
                    frame_, top - above_ * 0.55, lettering_, inks_);
        ruler(y + line_ + 4);
        return std::move(spots_);
    }

private:
    /// Outline of what is chosen, or pointed at by a finding; else as given.
    [[nodiscard]] QPen outline(bool marked, double plain) const {
        return marked ? QPen(inks_.petrol, 2.4) : QPen(inks_.ink, plain);
    }
    [[nodiscard]] bool marked(const std::string& ref) const {
        const QString r = QString::fromStdString(ref);
        return r == options_.chosen || options_.lit.contains(r) || ends_.contains(r);
    }

    void blade(const job::Blade& b) {
        bool mark = marked(b.ref);
        for (const auto& strip : b.strips)
            mark |= marked(strip.ref);
        const QRectF box = paint_section_blade(
            p_, s_, b, *blade_, view_ ? job::find_ref(view_->blades, b.ref) : nullptr,
            outline(mark, 1.3), inks_);
        spots_.push_back({QString::fromStdString(b.ref), box});
    }

    /// What stands across the hilt, each as far out as there is room.
    void place_across(Millimetre room) {
        for (const job::Blade& b : job_.blades) {
            // One more that is straight on lies behind the first.
            if (&b == ahead_ || !stands_out(b)) continue;
            across_.emplace_back(&b, extent_across(b, job_.hilt, room));
            const auto [up, down] = reach_of(b, across_.back().second);
            up_ = std::max(up_, up), down_ = std::max(down_, down);
        }
        // What is plugged into a port of the wall stands out as well.
        plugs_ = plugs_of(plan_);
        for (const Plug& plug : plugs_) {
            if (plug.up > 0) up_ = std::max(up_, plug.out);
            if (plug.up < 0) down_ = std::max(down_, plug.out);
        }
    }

    void blade_across(const job::Blade& b, const BladeExtent& extent) {
        bool mark = marked(b.ref);
        for (const auto& strip : b.strips)
            mark |= marked(strip.ref);
        const QTransform to = axis_of(s_, b, plan_);
        p_.save();
        p_.setTransform(to, true);
        const QRectF box = paint_section_blade(
            p_, Scale{0, 0, s_.per_mm}, b, extent,
            view_ ? job::find_ref(view_->blades, b.ref) : nullptr, outline(mark, 1.3), inks_);
        p_.restore();
        spots_.push_back({QString::fromStdString(b.ref), to.mapRect(box)});
    }

    /// Their names and lengths, beside them.
    void letter_across() {
        for (const auto& [b, extent] : across_) {
            const auto spot =
                std::find_if(spots_.begin(), spots_.end(), [&, b = b](const HitBox& s) {
                    return s.ref == QString::fromStdString(b->ref);
                });
            if (spot == spots_.end()) continue;
            const QString words = Section::tr("%1 ø %2, %3 mm")
                                      .arg(spot->ref)
                                      .arg(b->outer.value())
                                      .arg(b->length.value());
            const double w = metrics_.horizontalAdvance(words) + 4, h = line_ * 0.9;
            const bool up = b->angle.value() > 0;
            const double y = up ? spot->box.top() + 2 : spot->box.bottom() - h - 2;
            for (const double x : {spot->box.right() + 6, spot->box.left() - 6 - w}) {
                const QRectF at(x, y, w, h);
                if (!taken_.is_free(at) || !frame_.contains(at)) continue;
                taken_.take(at);
                p_.setPen(inks_.second);
                p_.drawText(at.adjusted(0, -line_, 0, line_), Qt::AlignCenter, words);
                break;
            }
        }
    }

    [[nodiscard]] bool small_survey() const {
        return job_.hilt.joints.empty() && job_.hilt.openings.empty() &&
               job_.hilt.fasteners.empty();
    }

    /// How far along the drawing a body stands from its place.
    [[nodiscard]] Millimetre shift_of(const hilt::PlacedBody& b) const {
        if (!way_ || !b.in_bore || b.carrier != way_->carrier) return Millimetre(0);
        return way_->from_pommel ? Millimetre(-options_.to_go) : Millimetre(options_.to_go);
    }

    void body(const hilt::PlacedBody& b) {
        const QString ref = QString::fromStdString(b.ref);
        const hilt::Clearance* room = plan_.fit.of(b.ref);
        p_.setBrush(options_.lit.contains(ref) ? inks_.chosen : fill_of(plan_, b.ref, inks_));
        p_.setPen(room && room->spare < Millimetre(0) ? QPen(inks_.stop, 2.4)
                                                      : outline(marked(b.ref), 1.1));
        QRectF all;
        for (const hilt::Solid& s : b.solids) {
            // The height of a turned box as the section sees it.
            const double up = s.round ? s.half_h
                                      : std::abs(s.half_w * std::sin(s.turn)) +
                                            std::abs(s.half_h * std::cos(s.turn));
            const QRectF box(QPointF(s_.x(s.from + shift_of(b)), s_.y(s.y + up)),
                             QPointF(s_.x(s.to + shift_of(b)), s_.y(s.y - up)));
            p_.drawRect(box);
            all = all.isNull() ? box : all.united(box);
        }
        spots_.push_back({ref, all});
    }

    /// The carrier on its way: its outline, which way it goes, and where it has least room.
    void slide_marks() {
        if (!way_) return;
        const Millimetre shift(way_->from_pommel ? -options_.to_go : options_.to_go);
        const double left = s_.x(way_->from + shift), right = s_.x(way_->to + shift);
        const double half = way_->width.value() / 2;
        const bool binds = !way_->ok;
        p_.setBrush(Qt::NoBrush);
        p_.setPen(QPen(binds ? inks_.warn : inks_.petrol, 1.4, Qt::DashLine));
        p_.drawRect(QRectF(QPointF(left, s_.y(half)), QPointF(right, s_.y(-half))));
        const double x = s_.x(way_->at), tip = 7;
        for (const job::BoreSection& section : job_.hilt.sections) {
            if (section.name != way_->section) continue;
            const double bore = hilt::bore_at(section, way_->at).value() / 2;
            p_.setPen(Qt::NoPen);
            p_.setBrush(binds ? inks_.stop : inks_.petrol);
            for (const double sign : {1.0, -1.0}) {
                const QPointF at(x, s_.y(sign * bore));
                p_.drawPolygon(QPolygonF{at, at + QPointF(-tip * 0.7, -sign * tip),
                                         at + QPointF(tip * 0.7, -sign * tip)});
            }
            break;
        }
    }

    [[nodiscard]] std::vector<Flag> way_flags() const {
        const QString carrier = QString::fromStdString(way_->carrier);
        const QString words = way_->ok
                                  ? Section::tr("%1 passes with %2")
                                        .arg(carrier, QString::fromStdString(text(way_->room)))
                                  : Section::tr("%1 binds by %2")
                                        .arg(carrier, QString::fromStdString(text(-way_->room)));
        return {{s_.x(way_->at), s_.y(widest(job_) / 2), words,
                 way_->ok ? inks_.petrol : inks_.stop, 0}};
    }

    /// The air behind the cone, and the vents.
    void sound_space() {
        if (!plan_.hilt_report.sound) return;
        const hilt::SoundSpace& sound = *plan_.hilt_report.sound;
        QColor air = inks_.speaker;
        air.setAlphaF(0.45f);
        p_.setPen(Qt::NoPen);
        p_.setBrush(air);
        for (const job::BoreSection& section : job_.hilt.sections) {
            const Millimetre a = std::max(section.from, sound.from);
            const Millimetre b = std::min(section.to, sound.to);
            if (b <= a) continue;
            const double h = hilt::bore_at(section, a).value() / 2;
            const double k = hilt::bore_at(section, b).value() / 2;
            p_.drawPolygon(QPolygonF{QPointF(s_.x(a), s_.y(h)), QPointF(s_.x(b), s_.y(k)),
                                     QPointF(s_.x(b), s_.y(-k)), QPointF(s_.x(a), s_.y(-h))});
        }
    }

    [[nodiscard]] std::vector<Flag> sound_flags() const {
        std::vector<Flag> flags;
        if (!plan_.hilt_report.sound) return flags;
        const hilt::SoundSpace& sound = *plan_.hilt_report.sound;
        QString cavity =
            Section::tr("cavity %1 ml").arg(QString::fromStdString(three_figures(sound.cavity_ml)));
        if (sound.resonance_hz && !sound.before_cone)
            cavity += Section::tr(", %1 Hz").arg(
                QString::fromStdString(three_figures(std::round(*sound.resonance_hz / 10) * 10)));
        flags.push_back(
            {s_.x((sound.from + sound.to) / 2), s_.y(widest(job_) / 4), cavity, inks_.petrol, 0});
        for (const job::Opening& o : job_.hilt.openings) {
            if (o.use != job::OpeningUse::vent) continue;
            flags.push_back({s_.x(o.at), s_.y(widest(job_) / 2),
                             Section::tr("vents %1 % of the cone")
                                 .arg(QString::fromStdString(
                                     three_figures(100 * sound.vents_mm2 / sound.cone_mm2))),
                             inks_.petrol, 0});
            break;
        }
        return flags;
    }

    [[nodiscard]] ElectricGround electric() const {
        ElectricGround g{plan_, look_, view_, s_, inks_, blade_.has_value(), 0, 0, 0};
        if (!blade_) return g;
        g.foot_x = s_.x(std::max(blade_->foot, hilt_length(job_.hilt))) + 14;
        g.tip_x = s_.x(blade_->end) - 14;
        g.blade_y = s_.y(ahead_->outer.value() / 4);
        return g;
    }

    /// The tightest place, and every one that is too tight.
    [[nodiscard]] std::vector<Flag> clearance_flags() const {
        std::vector<Flag> flags;
        const hilt::Clearance* tightest = plan_.fit.tightest();
        for (const hilt::Clearance& c : plan_.fit.clearances) {
            const bool binds = c.spare < Millimetre(0), close = c.spare < job_.hilt.clearance;
            if (!close && &c != tightest) continue;
            const QString words =
                (binds ? Section::tr("%1 binds by %2") : Section::tr("%1 spare %2"))
                    .arg(QString::fromStdString(c.ref),
                         QString::fromStdString(text(binds ? -c.spare : c.spare)));
            flags.push_back({s_.x(c.at), s_.y(widest(job_) / 2), words,
                             binds   ? inks_.stop
                             : close ? inks_.warn
                                     : inks_.petrol,
                             0});
        }
        return flags;
    }

    void names_and_bores(double y) {
        p_.setPen(inks_.second);
        taken_.take(QRectF(frame_.left(), y, frame_.width(), frame_.bottom() - y));
        for (const job::BoreSection& section : job_.hilt.sections) {
            const QRectF box(QPointF(s_.x(section.from), y), QPointF(s_.x(section.to), y + line_));
            const QString bore = QString::fromUtf8("ø ") + QString::number(section.bore.value());
            const QString full = QString::fromStdString(section.name) + " " + bore;
            if (metrics_.horizontalAdvance(full) < box.width() - 4) {
                p_.drawText(box, Qt::AlignCenter, full);
            } else if (metrics_.horizontalAdvance(bore) < box.width() - 2) {
                p_.drawText(box, Qt::AlignCenter, bore);
            }
        }
        if (!blade_) return;
        const job::Blade& b = *ahead_;
        const bool plug = b.form == job::BladeForm::plug;
        QString words = (plug ? Section::tr("plug ø %1, %2 mm") : Section::tr("blade ø %1, %2 mm"))
                            .arg(b.outer.value())
                            .arg(b.length.value());
        if (plug && b.strips.empty())
            words += Section::tr(", plain");
        else if (!b.strips.empty())
            words += Section::tr(", %1 × %2 px").arg(b.strips.size()).arg(b.strips.front().pixels);
        else if (!b.strings.empty())
            words += Section::tr(", segmented string");
        else
            words += Section::tr(", lit from the hilt");
        if (b.count == job::PixelCount::assumed) words += Section::tr(", count assumed");
        const QRectF box(QPointF(s_.x(hilt_length(job_.hilt)) + 16, y),
                         QPointF(frame_.right(), y + line_));
        p_.drawText(box, Qt::AlignLeft | Qt::AlignVCenter,
                    metrics_.elidedText(words, Qt::ElideRight, box.width()));
    }

    void ruler(double y) {
        const Millimetre end = hilt_length(job_.hilt);
        p_.setPen(QPen(inks_.ink, 1));
        p_.drawLine(QPointF(s_.x(Millimetre(0)), y), QPointF(s_.x(end), y));
        const int every = s_.per_mm * 50 > metrics_.horizontalAdvance("0000") ? 50 : 100;
        for (int mm = 0; mm <= static_cast<int>(end.value()); mm += 10) {
            const double x = s_.x(Millimetre(mm));
            const bool major = mm % every == 0;
            p_.drawLine(QPointF(x, y), QPointF(x, y + (major ? 7 : 4)));
            if (major)
                p_.drawText(QRectF(x - 40, y + 7, 80, line_), Qt::AlignHCenter | Qt::AlignTop,
                            mm == 0 ? QString("0 mm") : QString::number(mm));
        }
    }

    QPainter& p_;
    const QRectF frame_;
    const plan::Plan& plan_;
    const job::Job& job_;
    const LongSectionOptions& options_;
    const Inks& inks_;
    Taken taken_;
    const QFont lettering_;
    const QFontMetricsF metrics_;
    const double line_;
    double above_ = 0;
    const job::Blade* ahead_ = nullptr; ///< the blade drawn along the hilt
    std::optional<BladeExtent> blade_;  ///< of that
    std::vector<std::pair<const job::Blade*, BladeExtent>> across_;
    std::vector<Plug> plugs_;
    double up_ = 0, down_ = 0; ///< mm that the drawing reaches from the axis
    Millimetre drawn_;
    Scale s_;
    const plan::LookPlan* look_ = nullptr;
    const plan::View* view_ = nullptr;
    std::vector<const harness::WireRow*> wires_; ///< chosen or pointed at
    QStringList ends_;                           ///< what they end on
    const hilt::Passing* way_ = nullptr;         ///< of the carrier that is slid
    std::vector<HitBox> spots_;
};

} // namespace

Scale LongSectionDrawing::scale(const QRectF& frame, const Inks& inks) const {
    QPicture nowhere;
    QPainter p(&nowhere);
    return SectionPainter(p, frame, *plan_, options_, inks).scale();
}

std::vector<HitBox> LongSectionDrawing::paint(QPainter& p, const QRectF& frame,
                                              const Inks& inks) const {
    p.save();
    auto spots = SectionPainter(p, frame, *plan_, options_, inks).run();
    paint_probes(p, frame, spots, options_.probes, options_.lettering, inks);
    p.restore();
    return spots;
}

void LongSectionDrawing::paint_small(QPainter& p, const QRectF& frame, const Inks& inks) const {
    const plan::Plan& plan = *plan_;
    const job::Job& job = *plan.job;
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const Millimetre hilt_end = hilt_length(job.hilt);
    const bool blade = !job.blades.empty();
    // Two scales would lie: the blade runs on to the edge of the picture and breaks there.
    Scale s;
    s.per_mm = std::min(frame.width() * 0.62 / hilt_end.value(), frame.height() / widest(job));
    s.x0 = frame.left();
    s.axis = frame.center().y();
    paint_walls(p, job.hilt, s, inks, 5);
    if (blade) {
        const job::Blade& b = job.blades.front();
        const double half = b.outer.value() / 2;
        const Millimetre foot = foot_of(b, plan);
        const QRectF box(QPointF(s.x(foot), s.y(half)), QPointF(frame.right() - 3, s.y(-half)));
        p.setPen(Qt::NoPen);
        p.setBrush(inks.blade);
        p.drawRect(box);
        const plan::LookPlan* look = plan.look(job.use.look);
        if (!look && !plan.looks.empty()) look = &plan.looks.front();
        if (look) {
            const double shown = box.width() / s.px(b.length);
            paint_pixels(p, QRectF(box.left() + 2, s.axis - 3, box.width() - 2, 6),
                         look->views[plan::full].paint, 0, std::min(1.0, shown));
        }
        p.setPen(QPen(inks.ink, 1));
        p.setBrush(Qt::NoBrush);
        p.drawLine(box.topLeft(), box.topRight());
        p.drawLine(box.bottomLeft(), box.bottomRight());
        p.drawLine(box.topLeft(), box.bottomLeft());
        paint_break(p, box.right(), box.top(), box.bottom(), inks);
    }
    for (const hilt::PlacedBody& body : plan.fit.bodies) {
        const double half = body.height.value() / 2, off = body.off_axis.value();
        p.setPen(QPen(inks.ink, 0.9));
        p.setBrush(fill_of(plan, body.ref, inks));
        p.drawRect(QRectF(QPointF(s.x(body.from), s.y(off + half)),
                          QPointF(s.x(body.to), s.y(off - half))));
    }
    p.restore();
}

namespace {

/// As the drawing stands in a view: a little inside its frame, in lettering a little smaller than
/// running text.
QRectF inside(const QRectF& frame) { return frame.adjusted(3, 2, -3, -2); }
LongSectionDrawing lettered(std::shared_ptr<const plan::Plan> plan, LongSectionOptions options,
                            double lettering) {
    options.lettering = lettering * 0.98;
    return {std::move(plan), std::move(options)};
}

} // namespace

Scale section_scale(std::shared_ptr<const plan::Plan> plan, LongSectionOptions options,
                    const QRectF& frame, double lettering, const Inks& inks) {
    return lettered(std::move(plan), std::move(options), lettering).scale(inside(frame), inks);
}

DrawingPtr section_drawing(std::shared_ptr<const plan::Plan> plan, LongSectionOptions options) {
    return make_drawing(
        [](double lettering) { return QSizeF(lettering * 86, lettering * 19); },
        [plan, options](const Surface& on) {
            return lettered(plan, options, on.lettering).paint(on.p, inside(on.frame), on.inks);
        },
        [plan] {
            QStringList said;
            for (const hilt::PlacedBody& b : plan->fit.bodies)
                said << Section::tr("%1 from %2 to %3")
                            .arg(QString::fromStdString(b.ref),
                                 QString::fromStdString(text(b.from)),
                                 QString::fromStdString(text(b.to)));
            return said.join(", ");
        });
}

DrawingPtr small_section_drawing(std::shared_ptr<const plan::Plan> plan) {
    const auto describe = section_drawing(plan, {});
    return make_drawing([](double lettering) { return QSizeF(lettering * 34, lettering * 4.2); },
                        [plan](const Surface& on) {
                            LongSectionDrawing(plan, {}).paint_small(
                                on.p, on.frame.adjusted(1, 2, -1, -2), on.inks);
                            return std::vector<HitBox>{};
                        },
                        [describe] { return describe->description(); });
}

} // namespace conductus::app
