// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/section_wires.h"

#include <cmath>
#include <numbers>

#include "app/session/words.h"
#include "core/job/lookup.h"

namespace conductus::app {

std::vector<const harness::WireRow*> wires_of(const plan::Plan& plan, const QStringList& refs) {
    std::vector<const harness::WireRow*> wires;
    for (const harness::WireRow& w : plan.harness.wires)
        if (refs.contains(words(w.ref))) wires.push_back(&w);
    return wires;
}

QStringList ends_of(const std::vector<const harness::WireRow*>& wires) {
    QStringList ends;
    for (const harness::WireRow* w : wires)
        for (const std::string& terminal : {w->from, w->to})
            ends << words(std::string(job::split_terminal(terminal).first));
    ends.removeDuplicates();
    return ends;
}

void paint_wires(QPainter& p, const std::vector<const harness::WireRow*>& wires, const Scale& s,
                 const Inks& inks) {
    p.save();
    p.setBrush(Qt::NoBrush);
    for (const harness::WireRow* w : wires) {
        QPolygonF line;
        for (const hilt::Bend& bend : w->route.line)
            line << QPointF(s.x(bend.at), s.y(bend.up.value()));
        // What runs along the near or the far side shows over what it passes: thin and dashed.
        const double up = std::abs(std::cos(w->route.turn.value() * std::numbers::pi / 180));
        if (!w->route.straight && up < 0.5) {
            p.setPen(QPen(inks.petrol, 1.2, Qt::DashLine));
            p.drawPolyline(line);
            p.setPen(QPen(inks.petrol, 1.6));
        } else {
            for (const QPen& pen : {QPen(inks.paper, 4.5), QPen(inks.petrol, 2)}) {
                p.setPen(pen);
                p.drawPolyline(line);
            }
        }
        p.setBrush(inks.paper);
        for (const QPointF& end : {line.value(0), line.value(line.size() - 1)})
            if (!line.isEmpty()) p.drawEllipse(end, 3, 3);
        p.setBrush(Qt::NoBrush);
    }
    p.restore();
}

} // namespace conductus::app
