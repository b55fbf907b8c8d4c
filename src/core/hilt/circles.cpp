// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/circles.h"

#include <array>
#include <cmath>
#include <limits>
#include <optional>

namespace conductus::hilt {
namespace {

constexpr double tiny = 1e-10;

double reach(const Disc& circle, const Disc& d) {
    return std::hypot(d.x - circle.x, d.y - circle.y) + d.r;
}

/// Round two discs, touching both.
std::optional<Disc> round_two(const Disc& a, const Disc& b) {
    const double dx = b.x - a.x, dy = b.y - a.y, d = std::hypot(dx, dy);
    if (d <= std::abs(a.r - b.r) + tiny) return std::nullopt; // one holds the other
    const double t = (d + a.r + b.r) / 2, along = (t - a.r) / d;
    return Disc{a.x + dx * along, a.y + dy * along, t};
}

/// Round three discs, touching all: |c − p| = t − r. Taken from the first, two of the equations are
/// linear in c and t; what is left is a quadratic in t.
std::optional<Disc> round_three(const Disc& a, const Disc& b, const Disc& c) {
    const double x1 = b.x - a.x, y1 = b.y - a.y, r1 = b.r - a.r;
    const double x2 = c.x - a.x, y2 = c.y - a.y, r2 = c.r - a.r;
    const double det = x1 * y2 - x2 * y1;
    if (std::abs(det) < 1e-12) return std::nullopt;
    const double h1 = (x1 * x1 + y1 * y1 - r1 * r1) / 2, h2 = (x2 * x2 + y2 * y2 - r2 * r2) / 2;
    // centre = k·u + m, with u = t − a.r
    const double kx = (r1 * y2 - r2 * y1) / det, ky = (x1 * r2 - x2 * r1) / det;
    const double mx = (h1 * y2 - h2 * y1) / det, my = (x1 * h2 - x2 * h1) / det;
    const double qa = kx * kx + ky * ky - 1, qb = kx * mx + ky * my, qc = mx * mx + my * my;
    std::optional<Disc> best;
    auto take = [&](double u) {
        if (!std::isfinite(u) || u < -tiny || u - r1 < -tiny || u - r2 < -tiny) return;
        if (!best || u + a.r < best->r) best = Disc{a.x + kx * u + mx, a.y + ky * u + my, u + a.r};
    };
    if (std::abs(qa) < 1e-14) {
        if (qb != 0) take(-qc / (2 * qb));
        return best;
    }
    const double root = qb * qb - qa * qc;
    if (root < 0) return best;
    take((-qb - std::sqrt(root)) / qa);
    take((-qb + std::sqrt(root)) / qa);
    return best;
}

struct Basis {
    std::array<Disc, 4> discs;
    std::size_t size = 0;
    Disc circle;
};

bool holds(const Disc& circle, const Basis& all) {
    for (std::size_t i = 0; i < all.size; ++i)
        if (reach(circle, all.discs[i]) > circle.r + 1e-9) return false;
    return true;
}

/// The smallest circle of up to four discs, one of which, the last, touches it.
Basis solve(const Basis& all) {
    const Disc& last = all.discs[all.size - 1];
    Basis best;
    best.circle.r = std::numeric_limits<double>::infinity();
    auto offer = [&](const std::optional<Disc>& circle, std::initializer_list<Disc> members) {
        if (!circle || circle->r >= best.circle.r || !holds(*circle, all)) return;
        best.circle = *circle;
        best.size = 0;
        for (const Disc& d : members)
            best.discs[best.size++] = d;
    };
    offer(last, {last});
    for (std::size_t i = 0; i + 1 < all.size; ++i) {
        offer(round_two(all.discs[i], last), {all.discs[i], last});
        for (std::size_t k = i + 1; k + 1 < all.size; ++k)
            offer(round_three(all.discs[i], all.discs[k], last),
                  {all.discs[i], all.discs[k], last});
    }
    return best;
}

} // namespace

Disc smallest_circle(const std::vector<Disc>& discs) {
    if (discs.empty()) return {0, 0, -std::numeric_limits<double>::infinity()};
    Basis basis;
    basis.size = 1;
    basis.discs[0] = discs[0];
    for (const Disc& d : discs)
        if (d.r > basis.discs[0].r) basis.discs[0] = d;
    basis.circle = basis.discs[0];
    // The circle only grows, so no basis comes twice; the count is a guard against rounding.
    for (std::size_t round = 0; round < 20 * discs.size() + 50; ++round) {
        const Disc* farthest = nullptr;
        double out = 1e-9;
        for (const Disc& d : discs)
            if (const double by = reach(basis.circle, d) - basis.circle.r; by > out)
                out = by, farthest = &d;
        if (!farthest) break;
        Basis more = basis;
        more.discs[more.size++] = *farthest;
        const Basis next = solve(more);
        if (!std::isfinite(next.circle.r) || next.circle.r <= basis.circle.r) {
            // Rounding left no basis: a circle that holds all for certain.
            basis.circle.r += out;
            break;
        }
        basis = next;
    }
    return basis.circle;
}

} // namespace conductus::hilt
