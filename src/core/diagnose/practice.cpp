// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/diagnose/practice.h"

#include <algorithm>
#include <cmath>

namespace conductus::diagnose {
namespace {

constexpr double sure = 0.9;
constexpr int most_readings = 8; // for one fault
constexpr double mend_minutes = 3;

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
        if ((level > 1 || !all[k].turned) && is_seen(k)) may.push_back(k);
    // Two that are there only while something is turned, where there are two.
    if (level > 3) {
        std::vector<std::size_t> turned;
        for (const std::size_t k : may)
            if (all[k].turned) turned.push_back(k);
        const bool two = std::any_of(turned.begin(), turned.end(), [&](std::size_t k) {
            return all[k].where != all[turned.front()].where;
        });
        if (two) may = turned;
    }
    for (const std::size_t k : may)
        sum += all[k].prior;
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
    return *value + instrument_sigma(measure.what, *value) * noise_.bell();
}

std::optional<double> Case::read_limited(const Measure& measure, bool turned, double amps) {
    const auto value = read_on_supply(finder_.world(), measure, left(), draw_, turned, {4.1, amps});
    if (!value) return std::nullopt;
    return *value + instrument_sigma(measure.what, *value) * noise_.bell();
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

namespace {

/// Candidates in the order of a policy that does not look at what was read.
std::vector<std::size_t> fixed_order(const Finder& finder, const std::string& lit, Policy policy) {
    std::vector<std::size_t> order, path;
    const auto& all = finder.candidates();
    for (std::size_t k = 0; k < all.size(); ++k)
        if (policy == Policy::halving && all[k].measure.what == Quantity::volts &&
            all[k].measure.state == lit && !all[k].turned)
            path.push_back(k);
    // The middle of the longest stretch that was not looked into, again and again.
    std::vector<std::pair<std::size_t, std::size_t>> stretches{{0, path.size()}};
    for (std::size_t i = 0; i < stretches.size(); ++i) {
        const auto [from, to] = stretches[i];
        if (from >= to) continue;
        const std::size_t middle = (from + to) / 2;
        order.push_back(path[middle]);
        stretches.emplace_back(from, middle);
        stretches.emplace_back(middle + 1, to);
    }
    for (std::size_t k = 0; k < all.size(); ++k)
        if (std::find(order.begin(), order.end(), k) == order.end()) order.push_back(k);
    return order;
}

double entropy_of(const Finder& finder) {
    double bits = 0;
    for (const Hypothesis& h : finder.hypotheses())
        if (h.p > 0) bits -= h.p * std::log2(h.p);
    return bits;
}

constexpr double usual_minutes = 2.5, supply_minutes = 1, stopped_minutes = 5;
constexpr double practice_limit = 0.5; ///< A

} // namespace

Exercise::Exercise(const Finder& fresh, int level, unsigned long long seed)
    : hilt_(fresh), fresh_(fresh), mind_(fresh), case_(hilt_, level, seed) {
    mind_.take(case_.seen(), {});
}

const Exercise::Taken& Exercise::measure(const Measure& m, bool turned, bool limited) {
    Taken t;
    t.measure = m, t.turned = turned, t.limited = limited;
    t.minutes = usual_minutes;
    for (const Candidate& c : hilt_.candidates())
        if (c.measure == m && c.turned == turned) t.minutes = c.minutes;
    if (taken_.empty() || taken_.back().measure.state != m.state)
        t.minutes += minutes_into(m.state);
    if (limited && (taken_.empty() || !taken_.back().limited)) t.minutes += supply_minutes;
    const bool powered = m.state != cell_out && m.state != kill_open;
    if (m.what == Quantity::ohms && powered) {
        t.stopped = "Ohms are read with the cell out: on a hilt that is live the meter shows "
                    "nothing that is true, and may be damaged";
    } else if (powered && !limited && case_.burns(m.state)) {
        t.stopped = "With the cell in, far more would flow than anything here can carry: the board "
                    "would have burnt. Read ohms with the cell out, or feed it from a supply that "
                    "limits its current";
        wrongly_ = true;
    }
    if (!t.stopped.empty()) {
        t.minutes += stopped_minutes;
    } else {
        t.value = powered && limited ? case_.read_limited(m, turned, practice_limit)
                                     : case_.read(m, turned);
        // A limited supply shows other volts than the cell does: only what it says of ohms counts.
        if (t.value && !(powered && limited)) {
            const double before = entropy_of(mind_);
            mind_.read({m, *t.value, turned});
            t.bits = before - entropy_of(mind_);
        }
    }
    minutes_ += t.minutes;
    taken_.push_back(std::move(t));
    return taken_.back();
}

bool Exercise::mend(std::size_t fault) {
    named_.push_back(fault);
    minutes_ += mend_minutes;
    const bool there = case_.mend(fault);
    if (!there) {
        wrongly_ = true;
        return false;
    }
    mind_ = fresh_;
    mind_.take(case_.seen(), {});
    return true;
}

job::Edit keep_practised(job::Practised practised) {
    return [practised = std::move(practised)](job::Job& job) {
        auto& all = job.bench.practised;
        if (all.size() >= 1000) all.erase(all.begin());
        all.push_back(practised);
    };
}

bool Exercise::right() const { return case_.mended() && !wrongly_; }

Played play(const Finder& fresh, int level, unsigned long long seed, Policy policy) {
    Finder hilt = fresh; // whose world the case lives in
    Case hidden(hilt, level, seed);
    Played p;
    p.faults = hidden.faults();
    bool wrongly = false;
    for (std::size_t round = 0; round < 3; ++round) {
        const auto seen = hidden.seen();
        if (seen.empty()) break; // it works
        Finder finder = fresh;
        finder.take(seen, {});
        const auto order = policy == Policy::finder
                               ? std::vector<std::size_t>()
                               : fixed_order(finder, finder.world().lit(), policy);
        const int most =
            policy == Policy::finder ? most_readings : static_cast<int>(finder.candidates().size());
        std::string state;
        for (int k = 0; k < most && finder.hypotheses()[0].p < sure; ++k) {
            std::size_t which = 0;
            double minutes = 0;
            if (policy == Policy::finder) {
                const auto next = finder.next(1);
                if (next.empty()) break;
                which = next[0].candidate, minutes = next[0].minutes;
            } else {
                which = order[static_cast<std::size_t>(k)];
                const Candidate& c = finder.candidates()[which];
                minutes =
                    c.minutes + (c.measure.state != state ? minutes_into(c.measure.state) : 0);
            }
            const Candidate& c = finder.candidates()[which];
            state = c.measure.state;
            const auto value = hidden.read(c.measure, c.turned);
            p.minutes += minutes;
            if (!value) {
                if (policy == Policy::finder) break;
                continue;
            }
            p.readings.push_back({c.measure, *value, c.turned});
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
