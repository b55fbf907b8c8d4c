// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/start_places.h"

#include <algorithm>
#include <cmath>

#include "core/job/lookup.h"

namespace conductus::hilt {
namespace {

constexpr double no_gap = 1e-6;

/// Whether a block that starts at `at` has the room it needs, in place and on one of its ways.
class Test {
public:
    Test(const job::Hilt& hilt, const Block& block)
        : hilt_(hilt), block_(block), pieces_(pieces(hilt)) {
        const auto carriers = carriers_of(hilt);
        const PlacedBody& first = *block.bodies.front();
        if (first.on_chassis) {
            const job::Carrier* c = job::find_ref(carriers, first.carrier);
            left_ = c->goes_in != job::End::emitter;
            right_ = c->goes_in != job::End::pommel;
        } else {
            pieces_.back().open_right = true;
        }
    }

    [[nodiscard]] bool operator()(double at) const {
        const double end = hilt_.sections.back().to.value();
        if (at < -no_gap || at + block_.length > end + no_gap) return false;
        for (const Block::Slice& s : block_.slices)
            if (bore(at + s.from, at + s.to) < s.need + hilt_.clearance.value() - no_gap)
                return false;
        const std::size_t base = piece_of(pieces_, Millimetre(at), Millimetre(at + block_.length));
        const Piece& p = pieces_[base];
        return (left_ && p.open_left && passes(at, base, true)) ||
               (right_ && p.open_right && passes(at, base, false));
    }

private:
    [[nodiscard]] double bore(double from, double to) const {
        return narrowest(hilt_.sections, Millimetre(from), Millimetre(to)).bore.value();
    }
    [[nodiscard]] bool passes(double at, std::size_t base, bool left) const {
        for (const Block::Slice& s : block_.slices)
            for (std::size_t i = 0; i < pieces_.size(); ++i) {
                const double from = pieces_[i].from.value(), to = pieces_[i].to.value();
                const bool by_left = i == base ? left : i > base;
                const double a = by_left ? from : std::max(at + s.to, from);
                const double b = by_left ? std::min(at + s.from, to) : to;
                const bool goes = by_left ? at + s.to > from : at + s.from < to;
                if (goes && b - a > no_gap && bore(a, b) < s.need - no_gap) return false;
            }
        return true;
    }
    const job::Hilt& hilt_;
    const Block& block_;
    std::vector<Piece> pieces_;
    bool left_ = true, right_ = true;
};

} // namespace

void describe(Block& block) {
    std::vector<double> at{block.start, block.start + block.length};
    for (const PlacedBody* b : block.bodies)
        for (const Solid& s : b->solids)
            for (const Millimetre end : {s.from, s.to})
                at.push_back(end.value());
    std::sort(at.begin(), at.end());
    block.slices.clear();
    std::vector<Disc> discs;
    for (std::size_t i = 0; i + 1 < at.size(); ++i) {
        if (at[i + 1] - at[i] <= no_gap) continue;
        discs.clear();
        for (const PlacedBody* b : block.bodies)
            for (const Solid& s : b->solids)
                if (s.from.value() < at[i + 1] - no_gap && s.to.value() > at[i] + no_gap)
                    outline(s, b->wall.value(), discs);
        if (!discs.empty())
            block.slices.push_back(
                {at[i] - block.start, at[i + 1] - block.start, 2 * smallest_circle(discs).r});
    }
}

StartPlaces::StartPlaces(const job::Hilt& hilt, const Block& block,
                         const std::vector<std::pair<double, double>>& taken) {
    const Test fits(hilt, block);
    const double end = hilt.sections.back().to.value();
    // Between these the answer changes at most once, and only along a taper.
    std::vector<double> stations{0, end - block.length};
    std::vector<double> edges{0, end};
    for (const job::BoreSection& s : hilt.sections)
        edges.push_back(s.from.value());
    for (const job::Joint& j : hilt.joints)
        edges.push_back(j.at.value()), stations.push_back(j.at.value() - block.length / 2);
    for (const double e : edges)
        for (const Block::Slice& s : block.slices)
            stations.push_back(e - s.from), stations.push_back(e - s.to);
    std::erase_if(stations, [&](double x) { return x < 0 || x > end - block.length; });
    std::sort(stations.begin(), stations.end());
    const auto turn = [&](double good, double bad) {
        for (int i = 0; i < 60; ++i)
            (fits((good + bad) / 2) ? good : bad) = (good + bad) / 2;
        return good;
    };
    const auto add = [&](double a, double b) {
        if (!intervals_.empty() && a <= intervals_.back().second + no_gap) {
            intervals_.back().second = std::max(intervals_.back().second, b);
        } else {
            intervals_.emplace_back(a, b);
        }
    };
    for (std::size_t i = 0; i < stations.size(); ++i) {
        if (fits(stations[i])) add(stations[i], stations[i]);
        if (i + 1 == stations.size() || stations[i + 1] - stations[i] <= 4 * no_gap) continue;
        const double a = stations[i] + 2 * no_gap, b = stations[i + 1] - 2 * no_gap;
        const bool at_a = fits(a), at_b = fits(b), between = fits((a + b) / 2);
        if (at_a && at_b) {
            add(a, b);
        } else if (at_a) {
            add(a, turn(a, b));
        } else if (at_b) {
            add(turn(b, a), b);
        } else if (between) {
            add(turn((a + b) / 2, a), turn((a + b) / 2, b));
        }
    }
    // Out of the way of what stays.
    for (const auto& [from, to] : taken) {
        std::vector<std::pair<double, double>> rest;
        for (const auto& [a, b] : intervals_) {
            if (const double upto = from - block.length; a <= upto + no_gap)
                rest.emplace_back(a, std::min(b, upto));
            if (b >= to - no_gap) rest.emplace_back(std::max(a, to), b);
        }
        std::erase_if(rest, [](const auto& r) { return r.second < r.first - 2 * no_gap; });
        std::sort(rest.begin(), rest.end());
        intervals_ = std::move(rest);
    }
}

bool StartPlaces::may_start(double at) const {
    return std::any_of(intervals_.begin(), intervals_.end(), [&](const auto& i) {
        return at >= i.first - no_gap && at <= i.second + no_gap;
    });
}

double StartPlaces::earliest(double at) const {
    for (const auto& [a, b] : intervals_)
        if (b >= at - no_gap) return std::max(a, std::min(at, b));
    return INFINITY;
}

double StartPlaces::latest(double at) const {
    for (auto i = intervals_.rbegin(); i != intervals_.rend(); ++i)
        if (i->first <= at + no_gap) return std::min(i->second, std::max(at, i->first));
    return -INFINITY;
}

double StartPlaces::nearest(double wish, double from, double to) const {
    const double w = std::clamp(wish, from, std::max(from, to));
    const double up = earliest(w), down = latest(w);
    const bool up_ok = up <= to + no_gap, down_ok = down >= from - no_gap;
    if (up_ok && (!down_ok || up - w <= w - down)) return up;
    return down_ok ? down : earliest(from);
}

} // namespace conductus::hilt
