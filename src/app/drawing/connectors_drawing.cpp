// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/connectors_drawing.h"

#include <QCoreApplication>
#include <QFontMetricsF>
#include <algorithm>
#include <cmath>

#include "app/drawing/lanes_drawing.h"
#include "app/session/words.h"
#include "core/base/format.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

struct FaceWords {
    Q_DECLARE_TR_FUNCTIONS(FaceWords)
};

double faces_height(double lettering) { return lettering * 16; }

const harness::PinLoad* load_of(const plan::Plan& plan, const std::string& ref,
                                const std::string& pin) {
    for (const harness::PinLoad& l : plan.harness.pins)
        if (l.ref == ref && l.pin == pin) return &l;
    return nullptr;
}

/// What a contact carries; nothing: none of a docking board's wires.
std::optional<job::Role> role_of(const std::string& pin, const harness::Carries& carries) {
    if (!carries.empty()) {
        const auto own = carries.find(pin);
        return own == carries.end() ? std::nullopt : std::optional(own->second.role);
    }
    return pin.starts_with("plus")    ? job::Role::supply
           : pin.starts_with("minus") ? job::Role::return_path
                                      : job::Role::data;
}

QString sign_of(std::optional<job::Role> role) {
    if (!role) return {};
    switch (*role) {
    case job::Role::supply:
        return "+";
    case job::Role::return_path:
        return QChar(0x2212);
    case job::Role::data:
        return "D";
    case job::Role::button:
        return "B";
    case job::Role::sound:
        return "S";
    }
    return {};
}

/// One face: outline, contacts with their sign, rings where the mate has them.
void paint_face(QPainter& p, QPointF middle, double per_mm, const harness::Face& face,
                const harness::Carries& carries, bool mate, double lettering, const Inks& inks) {
    p.setPen(QPen(inks.ink, 1.4));
    p.setBrush(mate ? inks.blade : inks.connector);
    p.drawEllipse(middle, face.radius * per_mm, face.radius * per_mm);
    const bool rings = mate && face.layout == harness::Face::Layout::rings;
    std::vector<double> drawn;
    p.setFont(drawing_font(lettering));
    const QFontMetricsF metrics(p.font());
    for (const harness::Contact& c : face.contacts) {
        const double r = std::hypot(c.x, c.y);
        const auto role = role_of(c.pin, carries);
        const QColor ink = role ? role_ink(*role, inks) : inks.second;
        if (rings &&
            r > 0.5) { // a track all round: any way the blade is turned, the pin bears on it
            if (std::any_of(drawn.begin(), drawn.end(),
                            [&](double d) { return std::abs(d - r) < 0.1; }))
                continue;
            drawn.push_back(r);
            p.setBrush(Qt::NoBrush);
            p.setPen(QPen(ink, 1.8 * per_mm * 0.9));
            p.drawEllipse(middle, r * per_mm, r * per_mm);
            p.setPen(inks.paper);
            p.drawText(QRectF(middle.x() - 20, middle.y() - r * per_mm - 12, 40, 24),
                       Qt::AlignCenter, sign_of(role));
            continue;
        }
        const QPointF at(middle.x() + c.x * per_mm, middle.y() - c.y * per_mm);
        const double dot = std::max(1.0 * per_mm, metrics.height() * 0.56);
        p.setPen(QPen(ink, 1.6));
        p.setBrush(inks.paper);
        p.drawEllipse(at, dot, dot);
        p.setPen(ink);
        p.drawText(QRectF(at.x() - 20, at.y() - 12, 40, 24), Qt::AlignCenter, sign_of(role));
    }
}

} // namespace

namespace {

/// The connector a probe is on, itself or by the blade that stands on it; null: none.
const job::Part* connector_of(const plan::Plan& plan, const Probe& probe, bool& on_blade) {
    const std::string ref = probe.terminal.section('.', 0, 0).toStdString();
    on_blade = false;
    std::string connector = ref;
    if (const job::Blade* blade = job::find_ref(plan.job->blades, ref))
        connector = blade->connector, on_blade = true;
    const job::Part* part = job::find_ref(plan.job->parts, connector);
    return part && plan.parts->find_as<catalogue::Connector>(part->type) ? part : nullptr;
}

} // namespace

DrawingPtr probed_faces_drawing(std::shared_ptr<const plan::Plan> plan, std::vector<Probe> probes) {
    bool on_blade = false;
    const job::Part* part = nullptr;
    for (const Probe& probe : probes)
        if (!part) part = connector_of(*plan, probe, on_blade);
    if (!part) return nullptr;
    return make_drawing(
        [](double l) { return QSizeF(l * 20, l * 9.5); },
        [plan, probes, part](const Surface& on) {
            const InFrame frame(on);
            QPainter& p = on.p;
            p.setRenderHint(QPainter::Antialiasing);
            const double l = on.lettering;
            const harness::Face face = harness::face_of(*plan->parts->find(part->type));
            const auto carries = harness::carries_of(plan->harness.rails, *plan->job, part->ref);
            const double room =
                std::min(on.frame.height() - l * 1.8, (on.frame.width() - l * 4) / 2);
            const double per_mm = room / (2 * face.radius);
            const QPointF hilt(l + room / 2, room / 2 + 2),
                blade(hilt.x() + room + l * 2.5, room / 2 + 2);
            paint_face(p, hilt, per_mm, face, carries, false, l * 0.9, on.inks);
            paint_face(p, blade, per_mm, harness::mirrored(face), carries, true, l * 0.9, on.inks);
            p.setFont(page_font(l * 0.86));
            p.setPen(on.inks.second);
            p.drawText(QRectF(hilt.x() - room, room + 4, 2 * room, l * 1.4), Qt::AlignCenter,
                       words(part->ref));
            p.drawText(QRectF(blade.x() - room, room + 4, 2 * room, l * 1.4), Qt::AlignCenter,
                       FaceWords::tr("its mate"));
            for (const Probe& probe : probes) {
                bool mate = false;
                if (connector_of(*plan, probe, mate) != part) continue;
                const std::string pole = probe.terminal.section('.', 1).toStdString();
                const harness::Face shown = mate ? harness::mirrored(face) : face;
                for (const harness::Contact& c : shown.contacts) {
                    if (!c.pin.starts_with(pole)) continue;
                    const QPointF at((mate ? blade : hilt) + QPointF(c.x, -c.y) * per_mm);
                    const QColor ink = probe.number == 1 ? on.inks.stop : on.inks.ink;
                    const QPointF ring = at + QPointF(l * 1.1, -l * 0.9);
                    p.setPen(QPen(ink, 2));
                    p.drawLine(at, ring);
                    p.setBrush(on.inks.paper);
                    p.drawEllipse(ring, l * 0.62, l * 0.62);
                    p.setFont(drawing_font(l * 0.9));
                    p.drawText(QRectF(ring.x() - l, ring.y() - l, 2 * l, 2 * l), Qt::AlignCenter,
                               QString::number(probe.number));
                    break;
                }
            }
            return std::vector<HitBox>{};
        },
        [probes] {
            QStringList all;
            for (const Probe& probe : probes)
                all << FaceWords::tr("probe %1 on %2").arg(probe.number).arg(probe.terminal);
            return all.join(QStringLiteral(", "));
        });
}

double connectors_height(const plan::Plan& plan, double lettering) {
    int rows = 0;
    for (const job::Part& part : plan.job->parts)
        rows += plan.parts->find_as<catalogue::Connector>(part.type) != nullptr;
    return std::max(1, rows) * faces_height(lettering);
}

void paint_connectors(QPainter& p, const QRectF& frame, const plan::Plan& plan, double lettering,
                      const QString& chosen, const Inks& inks) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    double y = frame.top();
    const double text = lettering;
    bool any = false;
    for (const job::Part& part : plan.job->parts) {
        const auto* c = plan.parts->find_as<catalogue::Connector>(part.type);
        if (!c) continue;
        any = true;
        const auto* type = plan.parts->find(part.type);
        const harness::Face face = harness::face_of(*type);
        const auto carries = harness::carries_of(plan.harness.rails, *plan.job, part.ref);
        p.setFont(page_font(text, true));
        p.setPen(words(part.ref) == chosen ? inks.petrol : inks.ink);
        p.drawText(QRectF(frame.left(), y, frame.width(), text * 1.6), Qt::AlignVCenter,
                   QString("%1  %2").arg(words(part.ref), words(type->name)));
        const double room = faces_height(text) - text * 5;
        const double per_mm = room / (2 * face.radius);
        const double mid = y + text * 2 + room / 2;
        const double first = frame.left() + text + room / 2, second = first + room + text * 3.5;
        paint_face(p, {first, mid}, per_mm, face, carries, false, text, inks);
        paint_face(p, {second, mid}, per_mm, harness::mirrored(face), carries, true, text, inks);
        p.setFont(page_font(text * 0.86));
        p.setPen(inks.second);
        auto under = [&](double x, const QString& said) {
            p.drawText(QRectF(x - room, mid + room / 2 + 2, 2 * room, text * 1.4), Qt::AlignCenter,
                       said);
        };
        const bool blade =
            std::any_of(plan.job->blades.begin(), plan.job->blades.end(),
                        [&](const job::Blade& b) { return b.connector == part.ref; });
        under(first, blade ? FaceWords::tr("hilt, from the blade")
                           : FaceWords::tr("hilt, from the chassis"));
        under(second, blade ? FaceWords::tr("blade, from the hilt")
                            : FaceWords::tr("chassis, from the hilt"));

        // What each carries, against what it may.
        const double left = second + room / 2 + text * 2.5, right = frame.right() - 4;
        double most = c->pin_rating.value();
        for (const harness::PinLoad& l : plan.harness.pins)
            if (l.ref == part.ref) most = std::max(most, l.amps.value());
        const double row =
            std::min(text * 1.5, room / static_cast<double>(face.contacts.size() + 1));
        const double name = text * (carries.empty() ? 4 : 7.5), value = text * 5.4;
        const double bar = std::max(20.0, right - left - name - value);
        double line = y + text * 2;
        for (const harness::Contact& contact : face.contacts) {
            const harness::PinLoad* l = load_of(plan, part.ref, contact.pin);
            const double amps = l ? l->amps.value() : 0;
            const bool over = amps > c->pin_rating.value();
            const auto role = role_of(contact.pin, carries);
            const bool currents = role == job::Role::supply || role == job::Role::return_path;
            p.setPen(inks.ink);
            const auto own = carries.find(contact.pin);
            p.drawText(QRectF(left, line, name, row), Qt::AlignVCenter,
                       carries.empty() ? words(contact.pin)
                       : own == carries.end()
                           ? FaceWords::tr("%1 spare").arg(words(contact.pin))
                           : QString("%1 %2").arg(words(contact.pin), words(own->second.wire)));
            const QRectF box(left + name, line + row * 0.2, bar, row * 0.6);
            p.fillRect(QRectF(box.left(), box.top(), bar * amps / most, box.height()),
                       over ? inks.dim : inks.clean_pale);
            const double limit = box.left() + bar * c->pin_rating.value() / most;
            p.setPen(QPen(inks.ink, 1.4));
            p.drawLine(QPointF(limit, box.top() - 2), QPointF(limit, box.bottom() + 2));
            p.setPen(over ? inks.stop : inks.ink);
            p.drawText(QRectF(left + name + bar, line, value, row),
                       Qt::AlignVCenter | Qt::AlignRight,
                       currents ? words(conductus::text(Ampere(amps))) : QString::fromUtf8("–"));
            line += row;
        }
        p.setPen(inks.second);
        p.drawText(QRectF(left, line, right - left, row * 1.2), Qt::AlignVCenter,
                   FaceWords::tr("rated %1 each").arg(words(conductus::text(c->pin_rating))));
        const auto touches = harness::wrong_way(face, carries);
        QString said;
        if (face.layout == harness::Face::Layout::rings) {
            said = FaceWords::tr("Pins bear on rings: it may be turned any way.");
        } else if (touches.empty()) {
            said = FaceWords::tr("Half round, every contact meets its own kind.");
        } else {
            const auto said_of = [&](const std::string& pin) {
                const auto own = carries.find(pin);
                return words(own == carries.end() ? pin : own->second.wire);
            };
            QStringList pairs;
            for (const harness::Touch& t : touches) // each pair once
                if (t.hilt < t.blade)
                    pairs << FaceWords::tr("%1 meets %2").arg(said_of(t.hilt), said_of(t.blade));
            said = FaceWords::tr("Half round the wrong way: %1. Key it, or mark it.")
                       .arg(pairs.join(", "));
        }
        p.setPen(touches.empty() ? inks.second : inks.stop);
        p.drawText(
            QRectF(left, line + row * 1.2, right - left, y + faces_height(text) - line - row * 1.4),
            Qt::TextWordWrap | Qt::AlignTop, said);
        y += faces_height(text);
    }
    if (!any) {
        p.setFont(page_font(text));
        p.setPen(inks.second);
        p.drawText(frame, Qt::AlignTop | Qt::TextWordWrap,
                   FaceWords::tr("There is no connector: the blade is wired to its pads."));
    }
    p.restore();
}

DrawingPtr connectors_drawing(std::shared_ptr<const plan::Plan> plan, const QString& chosen) {
    return make_drawing(
        [plan](double lettering) {
            return QSizeF(lettering * 58, connectors_height(*plan, lettering) + 4);
        },
        [plan, chosen](const Surface& on) {
            paint_connectors(on.p, on.frame.adjusted(2, 2, -2, -2), *plan, on.lettering, chosen,
                             on.inks);
            return std::vector<HitBox>{};
        },
        [plan] {
            QStringList all;
            for (const harness::PinLoad& l : plan->harness.pins)
                all << QString("%1 %2: %3").arg(words(l.ref), words(l.pin), words(text(l.amps)));
            return all.join(", ");
        });
}

} // namespace conductus::app
