// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/diagnose/practice.h"

#include <algorithm>

namespace conductus::diagnose {
namespace {

constexpr double sure = 0.9;
constexpr int most_readings = 8; // for one fault
constexpr double mend_minutes = 3;

double bell(Random& random) {
    double sum = 0;
    for (int i = 0; i < 12; ++i)
        sum += random.uniform();
    return sum - 6;
}

} // namespace

Case::Case(Finder& finder, int level, unsigned long long seed)
    : finder_(finder), noise_(seed * 977 + static_cast<unsigned>(level)) {
    const auto& all = finder.faults();
    const auto is_seen = [&](std::size_t k) {
        return std::any_of(finder.sights().begin(), finder.sights().end(),
                           [&](const Sight& s) { return finder.shows(k, s); });
    };
    std::vector<std::size_t> may;
    double sum = 0;
    for (std::size_t k = 0; k < all.size(); ++k)
        if ((level > 1 || !all[k].turned) && is_seen(k)) may.push_back(k), sum += all[k].prior;
    for (int want = level > 2 ? 2 : 1; want > 0 && !may.empty(); --want) {
        double at = noise_.uniform() * sum;
        std::size_t taken = may.back();
        for (const std::size_t k : may)
            if ((at -= all[k].prior) <= 0) {
                taken = k;
                break;
            }
        faults_.push_back(taken);
        sum = 0;
        std::erase_if(may, [&](std::size_t k) { return all[k].where == all[taken].where; });
        for (const std::size_t k : may)
            sum += all[k].prior;
    }
    left_ = faults_;
    draw_ = drawn(finder.world(), seed + 100000);
}

std::vector<const Fault*> Case::left() const {
    std::vector<const Fault*> all;
    for (const std::size_t k : left_)
        all.push_back(&finder_.faults()[k]);
    return all;
}

std::vector<Sight> Case::seen() {
    std::vector<Sight> all;
    for (const Sight& s : finder_.sights())
        if (finder_.world().shows(s, left())) all.push_back(s);
    return all;
}

std::optional<double> Case::read(const Measure& measure, bool turned) {
    const auto value = finder_.world().read(measure, left(), draw_, turned);
    if (!value) return std::nullopt;
    return *value + instrument_sigma(measure.what, *value) * bell(noise_);
}

bool Case::mend(std::size_t fault) { return std::erase(left_, fault) > 0; }

std::optional<double> read_on_supply(World& world, const Measure& measure,
                                     const std::vector<const Fault*>& faults, const Draw& draw,
                                     bool turned, LimitedSupply supply) {
    if (measure.what == Quantity::ohms) return world.read(measure, faults, draw, turned);
    const circuit::Network* network = world.network(measure.state);
    if (!network || network->sources.empty()) return std::nullopt;
    Fault fed;
    const auto at = [&](double volts) {
        fed.does.clear();
        for (const circuit::Source& s : network->sources) {
            // A supply has no springs and is the right way round, whatever the cell is.
            fed.does.push_back({Alteration::Kind::emf,
                                s.name,
                                {},
                                volts / static_cast<double>(network->sources.size()) / s.emf});
            fed.does.push_back({Alteration::Kind::source_ohms, s.name, {}, 0.02 / s.ohms});
        }
        std::vector<const Fault*> all;
        for (const Fault* f : faults)
            if (std::none_of(f->does.begin(), f->does.end(), [](const Alteration& a) {
                    return a.kind == Alteration::Kind::emf ||
                           a.kind == Alteration::Kind::source_ohms;
                }))
                all.push_back(f);
        all.push_back(&fed);
        return all;
    };
    const Measure amps{Quantity::amps, measure.state, measure.from, {}};
    double low = 0, high = supply.volts;
    const auto most = world.read(amps, at(high), draw, turned);
    if (most && std::abs(*most) > supply.limit)
        for (int i = 0; i < 24; ++i) {
            const double middle = (low + high) / 2;
            const auto now = world.read(amps, at(middle), draw, turned);
            (!now || std::abs(*now) > supply.limit ? high : low) = middle;
        }
    return world.read(measure, at(high), draw, turned);
}

Played play(const Finder& fresh, int level, unsigned long long seed) {
    Finder hilt = fresh; // whose world the case lives in
    Case hidden(hilt, level, seed);
    Played p;
    p.faults = hidden.faults();
    bool wrongly = false;
    for (std::size_t round = 0; round < 3; ++round) {
        const auto seen = hidden.seen();
        if (seen.empty()) break; // it works
        Finder finder = fresh;
        for (const Sight& s : seen)
            finder.tell(s);
        for (int k = 0; k < most_readings && finder.hypotheses()[0].p < sure; ++k) {
            const auto next = finder.next(1);
            if (next.empty()) break;
            const Measure& m = finder.candidates()[next[0].candidate].measure;
            const auto value = hidden.read(m, next[0].turned);
            p.minutes += next[0].minutes;
            if (!value) break;
            p.readings.push_back({m, *value, next[0].turned});
            finder.read(p.readings.back());
        }
        const auto named = finder.hypotheses()[0].faults;
        if (named.empty()) break;
        for (const std::size_t fault : named) {
            p.named.push_back(fault);
            p.minutes += mend_minutes;
            if (!hidden.mend(fault)) wrongly = true;
        }
        if (wrongly) break;
    }
    p.right = !wrongly && p.named.size() == p.faults.size();
    return p;
}

} // namespace conductus::diagnose
