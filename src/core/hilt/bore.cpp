// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/bore.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace conductus::hilt {
namespace {

Millimetre along(const job::BoreSection& s, Millimetre near, const std::optional<Millimetre>& far,
                 Millimetre at) {
    if (!far) return near;
    const double share = std::clamp((at - s.from) / (s.to - s.from), 0.0, 1.0);
    return near + (*far - near) * share;
}

} // namespace

Millimetre bore_at(const job::BoreSection& s, Millimetre at) {
    return along(s, s.bore, s.bore_end, at);
}

Millimetre outer_at(const job::BoreSection& s, Millimetre at) {
    return along(s, s.outer, s.outer_end, at);
}

Narrow narrowest(const std::vector<job::BoreSection>& sections, Millimetre from, Millimetre to) {
    Narrow n{Millimetre(INFINITY), from, 0};
    for (std::size_t i = 0; i < sections.size(); ++i) {
        const job::BoreSection& s = sections[i];
        if (s.from >= to - touching || s.to <= from + touching) continue;
        for (const Millimetre at : {std::max(s.from, from), std::min(s.to, to)})
            if (const Millimetre bore = bore_at(s, at); bore < n.bore) n = {bore, at, i};
    }
    return n;
}

std::vector<Piece> pieces(const job::Hilt& hilt) {
    if (hilt.sections.empty()) return {};
    std::vector<Millimetre> cuts;
    for (const job::Joint& j : hilt.joints)
        if (j.kind != job::JointKind::glued) cuts.push_back(j.at);
    std::sort(cuts.begin(), cuts.end());
    const bool pommel = hilt.opens == job::End::pommel || hilt.opens == job::End::both;
    const bool emitter = hilt.opens == job::End::emitter || hilt.opens == job::End::both;
    std::vector<Piece> list;
    Piece piece{Millimetre(0), hilt.sections.back().to, pommel, emitter};
    for (const Millimetre cut : cuts) {
        if (cut <= piece.from || cut >= hilt.sections.back().to) continue;
        list.push_back({piece.from, cut, piece.open_left, true});
        piece.from = cut;
        piece.open_left = true;
    }
    list.push_back(piece);
    return list;
}

std::size_t piece_of(const std::vector<Piece>& pieces, Millimetre from, Millimetre to) {
    std::size_t best = 0;
    Millimetre most(-INFINITY);
    for (std::size_t i = 0; i < pieces.size(); ++i)
        if (const Millimetre in = std::min(to, pieces[i].to) - std::max(from, pieces[i].from);
            in > most)
            most = in, best = i;
    return best;
}

double bore_volume_ml(const std::vector<job::BoreSection>& sections, Millimetre from,
                      Millimetre to) {
    double mm3 = 0;
    for (const job::BoreSection& s : sections) {
        const Millimetre a = std::max(s.from, from), b = std::min(s.to, to);
        if (b <= a) continue;
        // A frustum; a cylinder where both ends are alike.
        const double r = bore_at(s, a).value() / 2, q = bore_at(s, b).value() / 2;
        mm3 += std::numbers::pi * (b - a).value() * (r * r + r * q + q * q) / 3;
    }
    return mm3 / 1000;
}

} // namespace conductus::hilt
