// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/section_drawing.h"

#include <QCoreApplication>
#include <QFontMetricsF>
#include <algorithm>

#include "app/drawing/blade_drawing.h"
#include "app/drawing/marks.h"
#include "core/base/format.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

struct Section {
    Q_DECLARE_TR_FUNCTIONS(Section)
};

/// Millimetres to pixels: the same scale both ways, the hilt's axis on one line.
struct Scale {
    double x0 = 0, axis = 0, per_mm = 1;
    [[nodiscard]] double x(Millimetre mm) const { return x0 + mm.value() * per_mm; }
    [[nodiscard]] double y(double mm_up) const { return axis - mm_up * per_mm; }
    [[nodiscard]] double px(Millimetre mm) const { return mm.value() * per_mm; }
};

Millimetre hilt_length(const job::Hilt& hilt) {
    return hilt.sections.empty() ? Millimetre(200) : hilt.sections.back().to;
}

double widest(const job::Job& job) {
    double mm = 20;
    for (const job::Section& s : job.hilt.sections)
        mm = std::max(mm, s.outer.value());
    for (const job::Blade& b : job.blades)
        mm = std::max(mm, b.outer.value());
    return mm;
}

/// Where a blade's foot stands: on its connector, else at the mouth of the hilt.
Millimetre foot_of(const job::Blade& blade, const plan::Plan& plan) {
    for (const auto& body : plan.fit.bodies)
        if (body.ref == blade.connector) return body.to;
    return hilt_length(plan.job->hilt);
}

QColor fill_of(const plan::Plan& plan, const std::string& ref, const Inks& inks) {
    const job::Part* part = job::find_ref(plan.job->parts, ref);
    const auto* type = part ? plan.parts->find(part->type) : nullptr;
    if (!type) return inks.paper;
    const auto& f = type->figures;
    if (std::holds_alternative<catalogue::Cell>(f)) return inks.cell;
    if (std::holds_alternative<catalogue::Board>(f)) return inks.board;
    if (std::holds_alternative<catalogue::Speaker>(f)) return inks.speaker;
    if (std::holds_alternative<catalogue::Connector>(f)) return inks.connector;
    return inks.switches;
}

/// What a body may be called inside its outline, the longest first.
QStringList names_of(const plan::Plan& plan, const std::string& ref) {
    const job::Part* part = job::find_ref(plan.job->parts, ref);
    const auto* type = part ? plan.parts->find(part->type) : nullptr;
    if (!type) return {};
    const auto& f = type->figures;
    if (const auto* cell = std::get_if<catalogue::Cell>(&f)) {
        const QString size = QString::fromStdString(cell->size);
        const QString capacity =
            size +
            QString(" · %1 mAh").arg(part->measured.capacity.value_or(cell->capacity).value());
        if (part->protection) return {capacity + Section::tr(" protected"), capacity, size};
        return {capacity, size};
    }
    if (std::holds_alternative<catalogue::Board>(f))
        return {Section::tr("sound board"), Section::tr("board")};
    if (std::holds_alternative<catalogue::Speaker>(f))
        return {Section::tr("speaker %1 mm").arg(type->body.diameter.value())};
    if (const auto* kill = std::get_if<catalogue::Kill>(&f))
        return {kill->method == catalogue::Kill::Method::plug ? Section::tr("kill plug")
                                                              : Section::tr("kill")};
    if (std::holds_alternative<catalogue::Connector>(f)) return {Section::tr("pins")};
    if (std::holds_alternative<catalogue::Button>(f)) return {Section::tr("button")};
    return {};
}

void paint_walls(QPainter& p, const job::Hilt& hilt, const Scale& s, const Inks& inks,
                 double hatch) {
    for (const job::Section& section : hilt.sections) {
        const double x0 = s.x(section.from), x1 = s.x(section.to);
        const double outer = section.outer.value() / 2, bore = section.bore.value() / 2;
        const QRectF top(QPointF(x0, s.y(outer)), QPointF(x1, s.y(bore)));
        const QRectF bottom(QPointF(x0, s.y(-bore)), QPointF(x1, s.y(-outer)));
        p.setPen(QPen(inks.second, 0.7));
        paint_hatch(p, top, hatch);
        paint_hatch(p, bottom, hatch);
        p.setPen(QPen(inks.ink, 1.3));
        p.setBrush(Qt::NoBrush);
        p.drawRect(top);
        p.drawRect(bottom);
    }
}

void paint_centre_line(QPainter& p, const Scale& s, double x0, double x1, const Inks& inks) {
    p.setPen(QPen(inks.second, 0.8, Qt::CustomDashLine));
    QPen pen = p.pen();
    pen.setDashPattern({16, 4, 3, 4});
    p.setPen(pen);
    p.drawLine(QPointF(x0, s.axis), QPointF(x1, s.axis));
}

/// The two free-hand break lines where a length is left out.
void paint_break(QPainter& p, double x, double top, double bottom, const Inks& inks) {
    const double h = bottom - top, w = h * 0.12;
    QPainterPath path(QPointF(x, top));
    path.cubicTo(QPointF(x + w, top + h * 0.3), QPointF(x - w, top + h * 0.7), QPointF(x, bottom));
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(inks.ink, 1.1));
    p.drawPath(path);
}

/// Reference and the longest name that fits; upright where the body is too narrow to lie.
void letter_body(QPainter& p, const QRectF& box, const QString& ref, const QStringList& names,
                 const Inks& inks) {
    const QFontMetricsF m(p.font());
    const double line = m.height();
    auto fits = [&](const QString& s, double room) { return m.horizontalAdvance(s) < room - 8; };
    for (const QString& name : names) {
        if (box.height() > line * 3.1 && fits(name, box.width())) {
            p.setPen(inks.ink);
            p.drawText(box, Qt::AlignCenter, name);
            p.setPen(inks.second);
            p.drawText(box.adjusted(4, 2, 0, 0), Qt::AlignLeft | Qt::AlignTop, ref);
            return;
        }
        if (box.height() > line * 0.9 && fits(ref + "  " + name, box.width())) {
            p.setPen(inks.ink);
            p.drawText(box, Qt::AlignCenter, ref + "  " + name);
            return;
        }
    }
    p.setPen(inks.ink);
    if (box.height() > line * 0.9 && fits(ref, box.width() + 6)) {
        p.drawText(box, Qt::AlignCenter, ref);
        return;
    }
    QStringList upright;
    for (const QString& name : names)
        upright << ref + "  " + name;
    // Upright, smaller if need be.
    QFont small = p.font();
    small.setPixelSize(std::min(small.pixelSize(), static_cast<int>(box.width())));
    const QFontMetricsF sm(small);
    for (const QString& words : upright << ref)
        if (small.pixelSize() >= 8 && sm.horizontalAdvance(words) < box.height() - 4) {
            p.save();
            p.setFont(small);
            p.translate(box.center());
            p.rotate(-90);
            p.drawText(QRectF(-box.height() / 2, -line / 2, box.height(), line), Qt::AlignCenter,
                       words);
            p.restore();
            return;
        }
    // Too small to letter: beside a tall body, under a flat one.
    if (box.height() > line * 2) {
        p.drawText(QRectF(box.right() + 3, box.center().y() - line * 1.1, 80, line), Qt::AlignLeft,
                   ref);
    } else {
        p.drawText(QRectF(box.center().x() - 40, box.bottom() + 1, 80, line), Qt::AlignHCenter,
                   ref);
    }
}

struct Flag {
    double x = 0, tip_y = 0;
    QString text;
    QColor colour;
    double placed = 0; ///< x after making room
};

/// Pushes flags apart until none overlap, keeping their order, within [left, right].
void make_room(std::vector<Flag>& flags, const QFontMetricsF& metrics, double left, double right) {
    std::stable_sort(flags.begin(), flags.end(), [](auto& a, auto& b) { return a.x < b.x; });
    auto half = [&](const Flag& f) { return metrics.horizontalAdvance(f.text) / 2 + 8; };
    double edge = left;
    for (Flag& f : flags) {
        f.placed = std::max(f.x, edge + half(f));
        edge = f.placed + half(f) + 3;
    }
    edge = right;
    for (auto f = flags.rbegin(); f != flags.rend(); ++f) {
        f->placed = std::min(f->placed, edge - half(*f));
        edge = f->placed - half(*f) - 3;
    }
}

void paint_flags(QPainter& p, std::vector<Flag> flags, const QRectF& frame, double y,
                 const QFont& font, const Inks& inks) {
    const QFontMetricsF metrics(font);
    make_room(flags, metrics, frame.left(), frame.right());
    p.setFont(font);
    for (const Flag& f : flags) {
        const double w = metrics.horizontalAdvance(f.text) + 14, h = metrics.height() + 3;
        const QRectF pill(f.placed - w / 2, y - h / 2, w, h);
        p.setPen(QPen(f.colour, 0.9, Qt::DotLine));
        p.drawLine(QPointF(f.placed, pill.bottom()), QPointF(f.x, f.tip_y));
        p.setPen(QPen(f.colour, 1.2));
        p.setBrush(inks.paper);
        p.drawRect(pill);
        p.drawText(pill, Qt::AlignCenter, f.text);
    }
}

QString volts_text(Volt v) {
    return QString("%1 V").arg(v.value(), 0, 'f', 2).replace(' ', QChar(0x2009));
}

} // namespace

std::vector<Spot> SectionDrawing::paint(QPainter& p, const QRectF& frame, const Inks& inks) const {
    const plan::Plan& plan = *plan_;
    const job::Job& job = *plan.job;
    std::vector<Spot> spots;
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const QFont lettering = drawing_font(options_.lettering);
    const QFontMetricsF metrics(lettering);
    const double line = metrics.height();

    // Room above for flags, below for dimensions; then the one scale that fits both ways.
    const double above = line * 1.8, below = line * 2.9;
    const bool blade = !job.blades.empty();
    const Millimetre foot = blade ? foot_of(job.blades.front(), plan) : Millimetre(0);
    const Millimetre hilt_end = hilt_length(job.hilt);
    constexpr double shown_mm = 96, gap_mm = 8, tip_mm = 52; // of the blade outside the hilt
    const Millimetre drawn = hilt_end + Millimetre(blade ? shown_mm + gap_mm + tip_mm : 0);
    Scale s;
    s.per_mm = std::min((frame.width() - 48) / drawn.value(),
                        (frame.height() - above - below) / widest(job));
    s.x0 = frame.left() + (frame.width() - drawn.value() * s.per_mm) / 2;
    s.axis = frame.top() + above + (frame.height() - above - below) / 2;
    const double top = s.y(widest(job) / 2), bottom = s.y(-widest(job) / 2);

    paint_walls(p, job.hilt, s, inks, std::max(5.0, options_.lettering * 0.55));
    paint_centre_line(p, s, s.x0 - 8, s.x(drawn) + 8, inks);

    const plan::LookPlan* look = plan.look(options_.look.toStdString());
    if (!look && !plan.looks.empty()) look = &plan.looks.front();
    const plan::View* view = look ? &look->views[options_.charge] : nullptr;

    if (blade) {
        const job::Blade& b = job.blades.front();
        const double half = b.outer.value() / 2;
        // To scale up to the first break and from the second on; what is left out is not drawn.
        const Millimetre cut = hilt_end + Millimetre(shown_mm);
        const Millimetre rest = hilt_end + Millimetre(shown_mm + gap_mm);
        const double foot_part = (cut - foot) / b.length;
        const double tip_part = Millimetre(tip_mm) / b.length;
        const QRectF near(QPointF(s.x(foot), s.y(half)), QPointF(s.x(cut), s.y(-half)));
        const QRectF far(QPointF(s.x(rest), s.y(half)), QPointF(s.x(drawn), s.y(-half)));
        p.setPen(Qt::NoPen);
        p.setBrush(inks.blade);
        p.drawRect(near);
        p.drawRect(far);
        const double band = std::min(half * s.per_mm * 0.22, 9.0);
        const auto strips = static_cast<int>(b.strips.size());
        for (int i = 0; view && i < strips; ++i) {
            const double y =
                s.axis + (i - (strips - 1) / 2.0) * std::max(band * 2.2, half * s.per_mm * 0.5);
            paint_pixels(p, QRectF(near.left() + 3, y - band / 2, near.width() - 3, band),
                         view->paint, 0, foot_part);
            paint_pixels(p, QRectF(far.left(), y - band / 2, far.width() - 5, band), view->paint,
                         1 - tip_part, 1);
        }
        const bool chosen = options_.chosen == QString::fromStdString(b.ref);
        bool lit = options_.lit.contains(QString::fromStdString(b.ref));
        for (const auto& strip : b.strips)
            lit |= options_.lit.contains(QString::fromStdString(strip.ref));
        p.setPen(QPen(chosen || lit ? inks.petrol : inks.ink, chosen || lit ? 2.4 : 1.3));
        p.setBrush(Qt::NoBrush);
        p.drawLine(near.topLeft(), near.topRight());
        p.drawLine(near.topLeft(), near.bottomLeft());
        p.drawLine(near.bottomLeft(), near.bottomRight());
        p.drawLine(far.topLeft(), QPointF(far.right() - half * s.per_mm * 0.4, far.top()));
        p.drawLine(far.bottomLeft(), QPointF(far.right() - half * s.per_mm * 0.4, far.bottom()));
        const double r = half * s.per_mm * 0.8;
        p.drawArc(QRectF(far.right() - r, far.top(), r, far.height()), -90 * 16, 180 * 16);
        paint_break(p, near.right(), near.top(), near.bottom(), inks);
        paint_break(p, far.left(), far.top(), far.bottom(), inks);
        spots.push_back({QString::fromStdString(b.ref), near.united(far)});
    }

    for (const hilt::PlacedBody& body : plan.fit.bodies) {
        const double half = body.height.value() / 2, off = body.off_axis.value();
        const QRectF box(QPointF(s.x(body.from), s.y(off + half)),
                         QPointF(s.x(body.to), s.y(off - half)));
        const QString ref = QString::fromStdString(body.ref);
        const hilt::Clearance* room = plan.fit.of(body.ref);
        const bool tight = room && room->spare < Millimetre(0);
        const bool chosen = ref == options_.chosen;
        const bool lit = options_.lit.contains(ref);
        p.setBrush(lit ? inks.chosen : fill_of(plan, body.ref, inks));
        p.setPen(QPen(tight           ? inks.stop
                      : chosen || lit ? inks.petrol
                                      : inks.ink,
                      chosen || lit || tight ? 2.4 : 1.1));
        p.drawRect(box);
        spots.push_back({ref, box});

        p.setFont(lettering);
        letter_body(p, box, ref, names_of(plan, body.ref), inks);
    }

    std::vector<Flag> flags;
    auto centre_of = [&](const std::string& ref) -> std::optional<QPointF> {
        for (const auto& body : plan.fit.bodies)
            if (body.ref == ref)
                return QPointF(s.x(body.from + (body.to - body.from) / 2),
                               s.y(body.off_axis.value() + body.height.value() / 2));
        return std::nullopt;
    };
    if (options_.overlay == Overlay::volts && view) {
        for (const plan::VoltFlag& f : view->flags) {
            if (const auto at = centre_of(f.ref)) {
                flags.push_back({at->x(), at->y(), volts_text(f.volts), inks.petrol, 0});
            } else if (blade) {
                const double half = job.blades.front().outer.value() / 2;
                const bool first = f.label == "first pixel";
                const double x = first ? s.x(hilt_end) + 14 : s.x(drawn) - 14;
                flags.push_back({x, s.y(half * 0.5),
                                 QString::fromStdString(f.label) + " " + volts_text(f.volts),
                                 inks.petrol, 0});
            }
        }
    } else if (options_.overlay == Overlay::body) {
        const hilt::Clearance* tightest = plan.fit.tightest();
        for (const hilt::Clearance& c : plan.fit.clearances) {
            const bool bad = c.spare < job.hilt.clearance;
            if (!bad && &c != tightest) continue;
            const QString text =
                QString("%1 %2 %3")
                    .arg(QString::fromStdString(c.ref))
                    .arg(c.spare < Millimetre(0) ? Section::tr("binds by") : Section::tr("spare"))
                    .arg(QString::fromStdString(
                        conductus::text(c.spare < Millimetre(0) ? -c.spare : c.spare)));
            flags.push_back({s.x(c.at), s.y(widest(job) / 2), text,
                             c.spare < Millimetre(0) ? inks.stop
                             : bad                   ? inks.warn
                                                     : inks.petrol,
                             0});
        }
    }
    paint_flags(p, flags, frame, top - above * 0.55, lettering, inks);

    // Dimensions: every section's name and bore, then the scale.
    p.setFont(lettering);
    double y = bottom + 4;
    for (const job::Section& section : job.hilt.sections) {
        const QRectF box(QPointF(s.x(section.from), y), QPointF(s.x(section.to), y + line));
        const QString bore = QString::fromUtf8("ø ") + QString::number(section.bore.value());
        const QString full = QString::fromStdString(section.name) + " " + bore;
        p.setPen(inks.second);
        if (metrics.horizontalAdvance(full) < box.width() - 4) {
            p.drawText(box, Qt::AlignCenter, full);
        } else if (metrics.horizontalAdvance(bore) < box.width() - 2) {
            p.drawText(box, Qt::AlignCenter, bore);
        }
    }
    if (blade) {
        const job::Blade& b = job.blades.front();
        int pixels = b.strips.empty() ? 0 : b.strips.front().pixels;
        const QString text = Section::tr("blade ø %1, %2 mm, %3 × %4 px")
                                 .arg(b.outer.value())
                                 .arg(b.length.value())
                                 .arg(b.strips.size())
                                 .arg(pixels);
        const QRectF box(QPointF(s.x(hilt_end) + 16, y), QPointF(frame.right(), y + line));
        p.setPen(inks.second);
        p.drawText(box, Qt::AlignLeft | Qt::AlignVCenter, text);
    }
    y += line + 4;
    p.setPen(QPen(inks.ink, 1));
    p.drawLine(QPointF(s.x(Millimetre(0)), y), QPointF(s.x(hilt_end), y));
    const int every = s.per_mm * 50 > metrics.horizontalAdvance("0000") ? 50 : 100;
    for (int mm = 0; mm <= static_cast<int>(hilt_end.value()); mm += 10) {
        const double x = s.x(Millimetre(mm));
        const bool major = mm % every == 0;
        p.drawLine(QPointF(x, y), QPointF(x, y + (major ? 7 : 4)));
        if (major)
            p.drawText(QRectF(x - 40, y + 7, 80, line), Qt::AlignHCenter | Qt::AlignTop,
                       mm == 0 ? QString("0 mm") : QString::number(mm));
    }
    p.restore();
    return spots;
}

void SectionDrawing::paint_small(QPainter& p, const QRectF& frame, const Inks& inks) const {
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

} // namespace conductus::app
