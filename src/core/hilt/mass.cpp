// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/mass.h"
#include "core/base/wire_gauge.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/hilt/route.h"
#include "core/job/lookup.h"

namespace conductus::hilt {
namespace {

constexpr double plastic = 1.2e-3, copper = 8.96e-3; ///< g/mm³

double density(job::Material m) {
    constexpr double g_mm3[] = {2.7e-3, 8.5e-3, 7.9e-3, plastic};
    return g_mm3[static_cast<int>(m)];
}

struct Sum {
    double g = 0, g_mm = 0;
    void add(double mass, double at) { g += mass, g_mm += mass * at; }
    [[nodiscard]] Sum operator-(const Sum& o) const { return {g - o.g, g_mm - o.g_mm}; }
    [[nodiscard]] Balance balance() const { return {Gram(g), Millimetre(g > 0 ? g_mm / g : 0)}; }
};

/// A frustum's volume and the place of its middle of mass.
void add_frustum(Sum& sum, double a, double b, double r, double q, double rho) {
    const double whole = r * r + r * q + q * q;
    const double mass = rho * std::numbers::pi * (b - a) * whole / 3;
    sum.add(mass, a + (b - a) * (r * r + 2 * r * q + 3 * q * q) / (4 * whole));
}

/// Where a blade begins, and how much of its length is along the hilt.
struct Foot {
    double at, out, share;
    [[nodiscard]] double along(double up) const { return at + share * (out + up); }
};

Foot foot_of(const job::Hilt& hilt, const job::Blade& blade, double mouth, double seats) {
    const double angle = blade.angle.value() * std::numbers::pi / 180;
    if (blade.angle == Degree(0)) return {mouth, -seats, 1};
    const double at = blade.stands_at.value_or(Millimetre(mouth)).value();
    // It leaves the hilt where its axis goes through the wall.
    double wall = 0;
    for (const job::BoreSection& s : hilt.sections)
        if (at >= s.from.value() && at <= s.to.value()) wall = s.outer.value() / 2;
    constexpr double steep = 0.3; // no flatter than that is a socket through a wall
    return {at, wall / std::max(std::abs(std::sin(angle)), steep) - seats, std::cos(angle)};
}

} // namespace

Masses masses(const job::Job& job, const catalogue::Catalogue& parts, const Fit& fit,
              const std::vector<SocketFit>& sockets) {
    Sum walls, fitted, cells, carriers, wires, blades;
    const double rho = density(job.hilt.material);
    for (const job::BoreSection& s : job.hilt.sections) {
        const double a = s.from.value(), b = s.to.value();
        add_frustum(walls, a, b, s.outer.value() / 2, outer_at(s, s.to).value() / 2, rho);
        add_frustum(walls, a, b, s.bore.value() / 2, bore_at(s, s.to).value() / 2, -rho);
    }
    for (const job::Part& p : job.parts) {
        const catalogue::PartType* type = parts.find(p.type);
        const PlacedBody* body = job::find_ref(fit.bodies, p.ref);
        if (!type || !body) continue;
        double g = type->mass.value();
        if (p.protection)
            if (const auto* board = parts.find(*p.protection)) g += board->mass.value();
        if (p.adapter)
            if (const auto* adapter = parts.find(*p.adapter)) g += adapter->mass.value();
        Sum& sum = std::holds_alternative<catalogue::Cell>(type->figures) ? cells : fitted;
        sum.add(g, (body->from + body->to).value() / 2);
    }
    for (const Slice& s : fit.slices) {
        double wall = 0;
        for (const std::string& ref : s.refs)
            if (const auto* b = job::find_ref(fit.bodies, ref))
                wall = std::max(wall, b->wall.value());
        const double r = s.need.value() / 2, in = std::max(r - wall, 0.0);
        carriers.add(plastic * std::numbers::pi * (r * r - in * in) * (s.to - s.from).value(),
                     (s.from + s.to).value() / 2);
    }
    const Lengths lengths = runs_of(job, parts).lengths;
    for (const job::Wire& w : job.wires) {
        const auto* a = job::find_ref(fit.bodies, job::split_terminal(w.from).first);
        const auto* b = job::find_ref(fit.bodies, job::split_terminal(w.to).first);
        if (!a || !b) continue;
        const double d = wire_diameter(w.gauge).value();
        // Insulation adds about a third to fine copper.
        wires.add(1.33 * copper * std::numbers::pi / 4 * d * d *
                      lengths.find(w.ref)->second.value(),
                  (a->from + a->to + b->from + b->to).value() / 4);
    }
    const double mouth = job.hilt.sections.empty() ? 0 : job.hilt.sections.back().to.value();
    for (const job::Blade& blade : job.blades) {
        const auto socket = std::find_if(sockets.begin(), sockets.end(),
                                         [&](const SocketFit& s) { return s.blade == blade.ref; });
        const double seats = socket == sockets.end() ? 0 : socket->seats.value();
        const double length = blade.length.value();
        const Foot foot = foot_of(job.hilt, blade, mouth, seats);
        const double r = blade.outer.value() / 2;
        const double in = blade.tube.bore > Millimetre(0) ? std::min(r, blade.tube.bore.value() / 2)
                                                          : std::max(r - 2, 0.0);
        blades.add(plastic * std::numbers::pi * (r * r - in * in) * length, foot.along(length / 2));
        for (const job::Strip& strip : blade.strips)
            if (const auto* type = parts.find(strip.type))
                blades.add(type->mass.value() * strip.length.value() /
                               std::max(type->body.length.value(), 1.0),
                           foot.along(strip.length.value() / 2));
    }
    Sum all;
    for (const Sum& s : {walls, fitted, cells, carriers, wires, blades})
        all.g += s.g, all.g_mm += s.g_mm;
    return {Gram(walls.g),
            Gram(fitted.g + cells.g),
            Gram(carriers.g),
            Gram(wires.g),
            Gram(blades.g),
            all.balance(),
            (all - blades).balance(),
            (all - cells).balance(),
            (all - blades - cells).balance()};
}

} // namespace conductus::hilt
