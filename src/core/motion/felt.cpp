// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/felt.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <set>

namespace conductus::motion {
namespace {

using job::Felt;
using job::MotionSettings;

constexpr std::array kinds{Felt::swing,  Felt::twist, Felt::roll,
                           Felt::thrust, Felt::tap,   Felt::clash};

constexpr double slow_s = 0.25;  // gravity follows the hilt with this time constant
constexpr double again_s = 0.35; // one movement is felt once
constexpr double rest = 60;      // degrees per second: below that the hilt is at rest
constexpr double turning = 20;   // degrees per second: above that it turns
constexpr double spread_s = 0.1; // a movement is felt a little before or after it is meant

/// How long a value has to stay above its threshold, seconds. A blow need not stay at all.
double stays(Felt what) {
    switch (what) {
    case Felt::swing:
        return 0.06;
    case Felt::twist:
    case Felt::thrust:
        return 0.03;
    default:
        return 0;
    }
}

/// What the board works out of its samples.
struct Signals {
    std::vector<double> across, about, turned, along, blow;
};

Signals signals_of(const Trace& trace) {
    Signals s;
    double lx = 0, ly = 0, lz = 0, turned = 0;
    for (std::size_t i = 0; i < trace.samples.size(); ++i) {
        const Sample& now = trace.samples[i];
        if (i == 0) {
            lx = now.ax, ly = now.ay, lz = now.az;
        } else {
            const double dt = std::max(0.0, now.t - trace.samples[i - 1].t);
            const double k = 1 - std::exp(-dt / slow_s);
            lx += (now.ax - lx) * k, ly += (now.ay - ly) * k, lz += (now.az - lz) * k;
            turned = std::abs(now.gx) > turning ? turned + now.gx * dt : 0;
        }
        s.across.push_back(std::hypot(now.gy, now.gz));
        s.about.push_back(std::abs(now.gx));
        s.turned.push_back(std::abs(turned));
        s.along.push_back(now.ax - lx);
        // A blow comes from the side: along the blade it is a thrust.
        s.blow.push_back(std::hypot(now.ay - ly, now.az - lz));
    }
    return s;
}

const std::vector<double>& values_in(const Signals& s, Felt what) {
    switch (what) {
    case Felt::twist:
        return s.about;
    case Felt::roll:
        return s.turned;
    case Felt::thrust:
        return s.along;
    case Felt::tap:
    case Felt::clash:
        return s.blow;
    default:
        return s.across;
    }
}

/// The largest of a value in the tenth of a second before that sample.
double just_before(const Trace& trace, const std::vector<double>& values, std::size_t i) {
    double most = 0;
    for (std::size_t k = i; k-- > 0 && trace.samples[i].t - trace.samples[k].t < 0.1;)
        most = std::max(most, values[k]);
    return most;
}

/// Four blows within half a second, none of them while the hilt is swung. A blow rises by half a g
/// from what was before it; its own ringing is no other one.
bool rattles(const Trace& trace, const Signals& s) {
    std::vector<double> blows;
    double low = 1e9; // since the latest blow
    for (std::size_t i = 1; i + 1 < s.blow.size(); ++i) {
        low = std::min(low, s.blow[i - 1]);
        const bool top = s.blow[i] >= s.blow[i - 1] && s.blow[i] > s.blow[i + 1];
        if (!top || s.blow[i] - low < 0.5 || s.across[i] > rest) continue;
        const double t = trace.samples[i].t;
        low = s.blow[i];
        if (!blows.empty() && t - blows.back() < 0.045) continue; // the same one, ringing
        blows.push_back(t);
    }
    for (std::size_t i = 3; i < blows.size(); ++i)
        if (blows[i] - blows[i - 3] < 0.5) return true;
    return false;
}

class Listener {
public:
    Listener(const Trace& trace, const Signals& signals, const MotionSettings& settings)
        : trace_(trace), settings_(settings), signals_(signals) {}

    Understood run() {
        for (const Felt what : kinds)
            if (threshold_of(settings_, what) > 0) listen_for(what);
        std::stable_sort(out_.events.begin(), out_.events.end(),
                         [](const Event& a, const Event& b) { return a.at < b.at; });
        one_blow_is_one();
        tell_meant();
        return std::move(out_);
    }

private:
    /// Whether the rest of the movement is such as that kind asks for.
    [[nodiscard]] bool allows(Felt what, std::size_t i) const {
        switch (what) {
        case Felt::swing:
            return signals_.across[i] > signals_.about[i];
        case Felt::twist:
            return signals_.about[i] > signals_.across[i];
        case Felt::roll:
            return signals_.about[i] > signals_.across[i] &&
                   !(settings_.twist > 0 && signals_.about[i] >= settings_.twist);
        case Felt::thrust:
            return signals_.across[i] < (settings_.swing > 0 ? settings_.swing : 2 * rest);
        case Felt::tap:
            return just_before(trace_, signals_.across, i) < rest;
        default:
            return true;
        }
    }

    void listen_for(Felt what) {
        const double threshold = threshold_of(settings_, what);
        const auto& values = values_in(signals_, what);
        double since = -1, quiet_until = -1e9;
        for (std::size_t i = 0; i < values.size(); ++i) {
            const double t = trace_.samples[i].t;
            if (values[i] < threshold || !allows(what, i)) {
                since = -1;
                continue;
            }
            if (since < 0) since = t;
            if (t - since + 1e-9 < stays(what)) continue;
            if (t < quiet_until) {
                quiet_until = t + again_s;
                out_.events.back().most = std::max(out_.events.back().most, values[i]);
                continue;
            }
            out_.events.push_back({t, what, values[i], false});
            quiet_until = t + again_s;
        }
    }

    /// A blow that is a clash is no tap, and the other way round: of two at the same time the one
    /// with the higher threshold is felt.
    void one_blow_is_one() {
        const Felt weaker = settings_.tap > settings_.clash ? Felt::clash : Felt::tap;
        const Felt stronger = weaker == Felt::tap ? Felt::clash : Felt::tap;
        std::erase_if(out_.events, [&](const Event& e) {
            return e.what == weaker &&
                   std::any_of(out_.events.begin(), out_.events.end(), [&](const Event& other) {
                       return other.what == stronger && std::abs(other.at - e.at) < again_s;
                   });
        });
    }

    void tell_meant() {
        std::set<const Meant*> felt;
        for (Event& e : out_.events)
            for (const Meant& m : trace_.meant)
                if (m.what == e.what && e.at >= m.from - spread_s && e.at <= m.to + spread_s) {
                    e.meant = true;
                    felt.insert(&m);
                }
        for (const Meant& m : trace_.meant) {
            if (felt.contains(&m) || !(threshold_of(settings_, m.what) > 0)) continue;
            const bool ends_in_a_blow =
                m.what == Felt::swing &&
                std::any_of(trace_.meant.begin(), trace_.meant.end(), [&](const Meant& other) {
                    return other.what == Felt::clash && other.from >= m.from && other.to <= m.to;
                });
            if (!ends_in_a_blow) out_.missed.push_back(m);
        }
    }

    const Trace& trace_;
    const MotionSettings& settings_;
    const Signals& signals_;
    Understood out_;
};

/// The highest threshold at which a kind is felt in a trace where it is meant, or is not: looked
/// for from the top down, for at a lower one something else may be felt in its place.
double reach(const Trace& trace, const Signals& signals, MotionSettings settings, Felt what,
             bool meant) {
    const auto felt = [&](double threshold) {
        threshold_of(settings, what) = threshold;
        const Understood u = Listener(trace, signals, settings).run();
        return std::any_of(u.events.begin(), u.events.end(),
                           [&](const Event& e) { return e.what == what && e.meant == meant; });
    };
    double high = 1e-6;
    for (const double v : values_in(signals, what))
        high = std::max(high, v);
    constexpr int steps = 80;
    const auto step = [&](int k) { return high * (1 - static_cast<double>(k) / (steps + 1)); };
    for (int k = 0; k <= steps; ++k) {
        if (!felt(step(k))) continue;
        double low = step(k), up = k == 0 ? high : step(k - 1);
        for (int n = 0; n < 14 && up > low; ++n) {
            const double middle = (low + up) / 2;
            (felt(middle) ? low : up) = middle;
        }
        return low;
    }
    return 0;
}

bool is_meant(const Trace& trace, Felt what) {
    return std::any_of(trace.meant.begin(), trace.meant.end(),
                       [&](const Meant& m) { return m.what == what; });
}
/// A swing that ends in a blow may be felt or not.
bool has_to_be_felt(const Trace& trace, Felt what) {
    return is_meant(trace, what) && !(what == Felt::swing && is_meant(trace, Felt::clash));
}

} // namespace

double& threshold_of(MotionSettings& s, Felt what) {
    switch (what) {
    case Felt::twist:
        return s.twist;
    case Felt::roll:
        return s.roll;
    case Felt::thrust:
        return s.thrust;
    case Felt::tap:
        return s.tap;
    case Felt::clash:
        return s.clash;
    default:
        return s.swing;
    }
}
double threshold_of(const MotionSettings& settings, Felt what) {
    MotionSettings copy = settings;
    return threshold_of(copy, what);
}

const char* unit_of(Felt what) {
    switch (what) {
    case Felt::swing:
    case Felt::twist:
        return "°/s";
    case Felt::roll:
        return "°";
    default:
        return "g";
    }
}

std::vector<double> values_of(const Trace& trace, Felt what) {
    return values_in(signals_of(trace), what);
}

Understood understood(const Trace& trace, const MotionSettings& settings) {
    const Signals signals = signals_of(trace);
    Understood u = Listener(trace, signals, settings).run();
    u.loose = rattles(trace, signals);
    return u;
}

MotionSettings filled_in(MotionSettings settings) {
    const MotionSettings typical{200, 330, 60, 0.9, 1.5, 3.5};
    for (const Felt what : kinds)
        if (!(threshold_of(settings, what) > 0))
            threshold_of(settings, what) = threshold_of(typical, what);
    return settings;
}

std::vector<Reach> reaches(const std::vector<Trace>& traces, const MotionSettings& settings) {
    const MotionSettings beside = filled_in(settings);
    std::vector<Reach> all;
    for (std::size_t t = 0; t < traces.size(); ++t) {
        const Signals signals = signals_of(traces[t]);
        const bool loose = rattles(traces[t], signals);
        for (const Felt what : kinds) {
            if (has_to_be_felt(traces[t], what))
                all.push_back(
                    {t, what, true, loose, reach(traces[t], signals, beside, what, true)});
            if (const double r = reach(traces[t], signals, beside, what, false); r > 0)
                all.push_back({t, what, false, loose, r});
        }
    }
    return all;
}

std::vector<Parting> partings_of(const std::vector<Trace>& traces,
                                 const std::vector<Reach>& reached) {
    std::vector<Parting> all;
    for (const Felt what : kinds) {
        Parting p;
        p.what = what;
        bool meant = false, loose_alone = true;
        double firm = 0; // the highest that a trace without a rattle reaches
        for (const Reach& r : reached) {
            if (r.what != what) continue;
            if (r.meant) {
                if (!meant || r.value < p.below) p.below = r.value, p.lowest = traces[r.trace].name;
                meant = true;
                continue;
            }
            if (!r.loose) firm = std::max(firm, r.value);
            if (r.value > p.above)
                p.above = r.value, p.highest = traces[r.trace].name, loose_alone = r.loose;
        }
        if (!meant) continue;
        p.loose = !p.parts() && loose_alone && p.below > firm;
        all.push_back(std::move(p));
    }
    return all;
}

std::vector<Parting> partings(const std::vector<Trace>& traces, const MotionSettings& settings) {
    return partings_of(traces, reaches(traces, settings));
}

job::Edit set_thresholds(std::vector<std::pair<Felt, double>> set) {
    return [set = std::move(set)](job::Job& job) {
        for (const auto& [what, value] : set)
            threshold_of(job.config.motion, what) = value;
    };
}

job::Edit begin_tests() {
    return [](job::Job& job) {
        for (int m = 0; m < movement_count; ++m) {
            const auto movement = static_cast<Movement>(m);
            const bool there =
                std::any_of(job.motion_tests.begin(), job.motion_tests.end(),
                            [&](const job::MotionTest& t) { return t.movement == word(movement); });
            if (there || movement == Movement::loose_board) continue;
            const Trace trace = make_trace(movement, 1);
            job.motion_tests.push_back(
                {trace.name,
                 trace.meant.empty() ? Felt::nothing : trace.meant.front().what,
                 Felt::nothing,
                 {}});
        }
    };
}

MotionSettings usual_settings() {
    static const MotionSettings usual = [] {
        std::vector<Trace> firm;
        for (Trace& trace : made_up_set())
            if (trace.name != word(Movement::loose_board)) firm.push_back(std::move(trace));
        MotionSettings s;
        for (const Parting& p : partings(firm, MotionSettings{}))
            if (p.parts()) threshold_of(s, p.what) = (p.lively() + p.calm()) / 2;
        return s;
    }();
    return usual;
}

} // namespace conductus::motion
