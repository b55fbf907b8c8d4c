// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/gauge.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/circuit/copper.h"

namespace conductus::harness {
namespace {

double area(int gauge) {
    const double d = circuit::wire_diameter(gauge).value();
    return std::numbers::pi / 4 * d * d;
}

double ohms(int gauge, double length_mm) {
    return circuit::wire_resistance(gauge).value() * length_mm * 1e-3;
}

/// One more step of copper for a wire: what it costs and saves.
struct Upgrade {
    double copper = 0, saves = 0;
    std::size_t wire = 0;
};

/// A way to make the first wires.
struct State {
    double drop = 0, copper = 0;
    int from = -1;        ///< state of the wires before
    signed char pick = 0; ///< of the last wire, among its options
};

/// The options of a wire, fine to thick.
struct Options {
    std::vector<int> gauge;
    std::vector<double> drop, copper;
};

class Search {
public:
    Search(const std::vector<WireLoad>& wires, double pack_amps, double budget)
        : wires_(wires), budget_(budget) {
        for (const WireLoad& w : wires) {
            Options o;
            for (auto g = gauges.rbegin(); g != gauges.rend(); ++g) {
                if (*g > w.finest && *g != gauges.front()) continue;
                o.gauge.push_back(*g);
                o.drop.push_back(w.amps * w.amps * ohms(*g, w.length) / pack_amps);
                o.copper.push_back(area(*g) * w.length);
                if (!(w.amps > 0)) break; // thicker would buy nothing
            }
            options_.push_back(std::move(o));
        }
        // Largest savings first: what is left over is small, and bounds are close.
        order_.resize(wires.size());
        for (std::size_t i = 0; i < order_.size(); ++i)
            order_[i] = i;
        std::stable_sort(order_.begin(), order_.end(), [&](std::size_t a, std::size_t b) {
            return options_[a].drop.front() > options_[b].drop.front();
        });
        bounds();
    }

    Sizing run() {
        double thickest = 0;
        for (const Options& o : options_)
            thickest += o.drop.back();
        Sizing best;
        if (thickest > budget_ * (1 + 1e-12)) {
            best.reached = false;
            for (const Options& o : options_)
                best.gauge.push_back(o.gauge.back());
            return best;
        }
        best.gauge = greedy();
        double most = copper_of(wires_, best.gauge) * (1 + 1e-12);
        std::vector<std::vector<State>> levels{{State{}}};
        for (std::size_t k = 0; k < order_.size(); ++k) {
            const Options& o = options_[order_[k]];
            std::vector<State> next;
            for (std::size_t s = 0; s < levels[k].size(); ++s)
                for (std::size_t p = 0; p < o.gauge.size(); ++p) {
                    const State& at = levels[k][s];
                    const State to{at.drop + o.drop[p], at.copper + o.copper[p],
                                   static_cast<int>(s), static_cast<signed char>(p)};
                    const double rest = least_rest(k + 1, budget_ * (1 + 1e-12) - to.drop);
                    if (to.copper + rest <= most) next.push_back(to);
                }
            // Who loses more and costs more than another is out of it.
            std::sort(next.begin(), next.end(), [](const State& a, const State& b) {
                return a.drop != b.drop ? a.drop < b.drop : a.copper < b.copper;
            });
            std::vector<State> kept;
            double cheapest = INFINITY;
            for (const State& s : next)
                if (s.copper < cheapest - 1e-12) kept.push_back(s), cheapest = s.copper;
            levels.push_back(std::move(kept));
        }
        const State* end = nullptr;
        for (const State& s : levels.back())
            if (!end || s.copper < end->copper) end = &s;
        if (end && end->copper < most)
            for (std::size_t k = order_.size(); k-- > 0;) {
                best.gauge[order_[k]] =
                    options_[order_[k]].gauge[static_cast<std::size_t>(end->pick)];
                end = &levels[k][static_cast<std::size_t>(end->from)];
            }
        return best;
    }

private:
    /// Of the wires from `k` on, in order: their drop and copper at the finest, and their upgrades,
    /// best bargain first, summed up.
    struct Rest {
        double drop = 0, copper = 0;
        std::vector<double> saved, spent; ///< after each upgrade
    };
    void bounds() {
        rests_.resize(order_.size() + 1);
        std::vector<Upgrade> all;
        for (std::size_t k = order_.size() + 1; k-- > 0;) {
            Rest& r = rests_[k];
            if (k < order_.size()) {
                const std::size_t i = order_[k];
                const Options& o = options_[i];
                r.drop = rests_[k + 1].drop + o.drop.front();
                r.copper = rests_[k + 1].copper + o.copper.front();
                for (std::size_t p = 1; p < o.gauge.size(); ++p)
                    all.push_back({o.copper[p] - o.copper[p - 1], o.drop[p - 1] - o.drop[p], i});
            }
            // A wire's upgrades come in order of their bargain: drop is convex in copper.
            std::stable_sort(all.begin(), all.end(), [](const Upgrade& a, const Upgrade& b) {
                return a.saves * b.copper > b.saves * a.copper;
            });
            double saved = 0, spent = 0;
            for (const Upgrade& u : all) {
                r.saved.push_back(saved += u.saves);
                r.spent.push_back(spent += u.copper);
            }
        }
        upgrades_ = std::move(all);
    }
    /// Least copper of the wires from `k` on that lose no more than `left`, gauges of any size.
    [[nodiscard]] double least_rest(std::size_t k, double left) const {
        const Rest& r = rests_[k];
        const double must = r.drop - left;
        if (must <= 0) return r.copper;
        const auto it = std::lower_bound(r.saved.begin(), r.saved.end(), must);
        if (it == r.saved.end()) return INFINITY;
        const auto i = static_cast<std::size_t>(it - r.saved.begin());
        const double before = i ? r.saved[i - 1] : 0, paid = i ? r.spent[i - 1] : 0;
        return r.copper + paid + (must - before) / (r.saved[i] - before) * (r.spent[i] - paid);
    }
    /// The best bargains until it is enough, then what turns out not to be needed taken back.
    [[nodiscard]] std::vector<int> greedy() const {
        std::vector<std::size_t> at(wires_.size(), 0);
        double drop = rests_[0].drop;
        for (const Upgrade& u : upgrades_) {
            if (drop <= budget_) break;
            drop -= u.saves;
            ++at[u.wire];
        }
        for (auto u = upgrades_.rbegin(); u != upgrades_.rend(); ++u) {
            const Options& o = options_[u->wire];
            const std::size_t p = at[u->wire];
            if (p == 0) continue;
            const double more = o.drop[p - 1] - o.drop[p];
            if (drop + more <= budget_) drop += more, --at[u->wire];
        }
        std::vector<int> gauge;
        for (std::size_t i = 0; i < at.size(); ++i)
            gauge.push_back(options_[i].gauge[at[i]]);
        return gauge;
    }

    const std::vector<WireLoad>& wires_;
    double budget_;
    std::vector<Options> options_;
    std::vector<std::size_t> order_;
    std::vector<Rest> rests_;
    std::vector<Upgrade> upgrades_;
};

} // namespace

int finest_by_heat(Ampere amps) {
    for (auto g = gauges.rbegin(); g != gauges.rend(); ++g)
        if (circuit::wire_rise(*g, amps.value(), Celsius(25)) <= most_rise &&
            circuit::usual_limit(*g) >= amps)
            return *g;
    return gauges.front();
}

int finest_by_drop(Ampere amps, Millimetre length, Volt most) {
    const int cool = finest_by_heat(amps);
    for (auto g = gauges.rbegin(); g != gauges.rend(); ++g)
        if (*g <= cool && amps.value() * ohms(*g, length.value()) <= most.value()) return *g;
    return gauges.front();
}

double effective_drop(const std::vector<WireLoad>& wires, const std::vector<int>& gauge,
                      double pack_amps) {
    double watts = 0;
    for (std::size_t i = 0; i < wires.size(); ++i)
        watts += wires[i].amps * wires[i].amps * ohms(gauge[i], wires[i].length);
    return pack_amps > 0 ? watts / pack_amps : 0;
}

double copper_of(const std::vector<WireLoad>& wires, const std::vector<int>& gauge) {
    double copper = 0;
    for (std::size_t i = 0; i < wires.size(); ++i)
        copper += area(gauge[i]) * wires[i].length;
    return copper;
}

Sizing least_copper(const std::vector<WireLoad>& wires, double pack_amps, double budget) {
    Sizing s = Search(wires, std::max(pack_amps, 1e-9), budget).run();
    s.drop = effective_drop(wires, s.gauge, pack_amps);
    s.copper = copper_of(wires, s.gauge);
    return s;
}

} // namespace conductus::harness
