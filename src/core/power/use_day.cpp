// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/use_day.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <map>

#include "core/base/random.h"
#include "core/job/lookup.h"

namespace conductus::power {
namespace {

using job::EffectKind;
using job::Phase;
using job::PhaseKind;
using job::Rate;

constexpr double a_day = 24 * 60; // min

Phase lit(double minutes, int times, double pause, std::vector<Rate> rates) {
    return {PhaseKind::ignited, Minute(minutes), times, Minute(pause), std::move(rates), {}, {}};
}
Phase resting(PhaseKind kind, double minutes) {
    return {kind, Minute(minutes), 1, Minute(0), {}, {}, {}};
}

job::Use use(const char* name, double celsius, double volume, std::vector<Phase> day) {
    job::Use u;
    u.name = name;
    u.temperature = Celsius(celsius);
    u.volume = volume;
    set_day(u, std::move(day));
    return u;
}

} // namespace

const std::vector<job::Use>& usual_days() {
    static const std::vector<job::Use> days{
        use("shelf piece", 21, 0.3, {lit(2.5, 2, 5, {})}),
        use("festival day", 10, 0.7,
            {lit(1.5, 40, 10.5, {{EffectKind::flash, 2}, {EffectKind::mark, 1}})}),
        use("rehearsal", 18, 0.5,
            {lit(12, 5, 18, {{EffectKind::flash, 3}, {EffectKind::mark, 1}})}),
        use("stage run", 20, 0.7,
            {lit(15, 3, 40,
                 {{EffectKind::flash, 4}, {EffectKind::mark, 1}, {EffectKind::lock_up, 0.5}})}),
        use("bout evening", 16, 0.8,
            {lit(3, 12, 8,
                 {{EffectKind::flash, 15}, {EffectKind::lock_up, 1.5}, {EffectKind::drag, 0.5}})}),
    };
    return days;
}

Result<job::Use> use_named(const job::Job& job, std::string_view name) {
    if (name.empty() || name == job.use.name) return job.use;
    auto in_job = [&](job::Use u) {
        if (u.look.empty()) u.look = job.use.look;
        return u;
    };
    if (const job::Use* kept = job::find_name(job.uses, name)) return in_job(*kept);
    if (const job::Use* usual = job::find_name(usual_days(), name)) {
        job::Use u = in_job(*usual);
        u.clean = job.use.clean;
        return u;
    }
    std::vector<std::string> names{job.use.name};
    for (const auto& u : job.uses)
        names.push_back(u.name);
    for (const auto& u : usual_days())
        if (std::find(names.begin(), names.end(), u.name) == names.end()) names.push_back(u.name);
    return problem("use", say("there is no use '{}'", name),
                   say("There are: {}", conductus::joined(names, ", ")));
}

std::vector<Phase> phases_of(const job::Use& use) {
    std::vector<Phase> phases = use.day;
    if (phases.empty()) {
        const double ignited = use.ignited.value(), idle = use.idle.value();
        const int spells = std::max(1, static_cast<int>(std::lround(ignited / 5)));
        if (ignited > 0)
            phases.push_back(lit(ignited / spells, spells, spells > 1 ? idle / spells : 0,
                                 {{EffectKind::flash, 1}}));
        const double after = ignited > 0 && spells > 1 ? idle / spells : idle;
        if (after > 0) phases.push_back(resting(PhaseKind::idle, after));
    }
    const Minutes sum = minutes_of(phases);
    const double left = a_day - (sum.ignited + sum.idle + sum.stored).value();
    if (left > 1e-6) phases.push_back(resting(PhaseKind::stored, left));
    return phases;
}

Minutes minutes_of(const std::vector<Phase>& phases, Second sleep_after) {
    Minutes sum;
    const auto dozes = [&](Minute idle) {
        const Minute awake(sleep_after.value() / 60);
        return sleep_after > Second(0) && idle > awake ? idle - awake : Minute(0);
    };
    for (const Phase& p : phases) {
        const Minute lasts = p.lasts * p.times;
        sum.idle += p.pause * (p.times - 1);
        sum.dozing += dozes(p.pause) * (p.times - 1);
        if (p.kind == PhaseKind::idle) sum.dozing += dozes(p.lasts) * p.times;
        switch (p.kind) {
        case PhaseKind::ignited:
            sum.ignited += lasts;
            break;
        case PhaseKind::idle:
            sum.idle += lasts;
            break;
        case PhaseKind::stored:
            sum.stored += lasts;
            break;
        }
    }
    return sum;
}

void set_day(job::Use& use, std::vector<Phase> day) {
    use.day = std::move(day);
    if (use.day.empty()) return;
    const Minutes sum = minutes_of(use.day);
    use.ignited = sum.ignited;
    use.idle = sum.idle;
}

job::Edit take_day(std::vector<Phase> day) {
    return [day = std::move(day)](job::Job& job) { set_day(job.use, day); };
}

job::Edit count_day() {
    return [](job::Job& job) { set_day(job.use, job.use.day); };
}

job::Edit follow_minutes() {
    return [](job::Job& job) { stretch_day(job.use); };
}

job::Edit take_use(job::Use use) {
    return [use = std::move(use)](job::Job& job) {
        std::erase_if(job.uses, [&](const job::Use& u) { return u.name == use.name; });
        const bool usual = job::find_name(usual_days(), job.use.name) != nullptr;
        if (!usual && job.use.name != use.name && !job.use.name.empty())
            job.uses.push_back(job.use);
        job.use = use;
    };
}

job::Edit keep_use(std::string name) {
    return [name = std::move(name)](job::Job& job) {
        job::Use kept = job.use;
        kept.name = name;
        std::erase_if(job.uses, [&](const job::Use& u) { return u.name == name; });
        job.uses.push_back(std::move(kept));
    };
}

void stretch_day(job::Use& use) {
    if (use.day.empty()) return;
    const Minutes sum = minutes_of(use.day);
    const bool lit = sum.ignited > Minute(0) ? use.ignited > Minute(0) : !(use.ignited > Minute(0));
    const bool idle = sum.idle > Minute(0) || !(use.idle > Minute(0));
    if (!lit || !idle) {
        use.day.clear();
        return;
    }
    const double longer = sum.ignited > Minute(0) ? use.ignited / sum.ignited : 1;
    const double idler = sum.idle > Minute(0) ? use.idle / sum.idle : 1;
    for (Phase& p : use.day) {
        if (p.kind == PhaseKind::ignited) p.lasts = p.lasts * longer;
        if (p.kind == PhaseKind::idle) p.lasts = p.lasts * idler;
        p.pause = p.pause * idler;
    }
    std::erase_if(use.day, [](const Phase& p) { return !(p.lasts > Minute(0)); });
    const Minutes now = minutes_of(use.day);
    double over = (now.ignited + now.idle + now.stored).value() - a_day;
    for (Phase& p : use.day) // what is stored gives way
        if (p.kind == PhaseKind::stored && over > 0) {
            const double less = std::min(over, p.lasts.value() * p.times);
            p.lasts = p.lasts - Minute(less / p.times);
            over -= less;
        }
    std::erase_if(use.day, [](const Phase& p) { return !(p.lasts > Minute(1e-9)); });
}

std::vector<Rate> mean_rates(const std::vector<Phase>& phases) {
    std::map<EffectKind, double> often; // events a day
    double minutes = 0;
    for (const Phase& p : phases) {
        if (p.kind != PhaseKind::ignited) continue;
        minutes += p.lasts.value() * p.times;
        for (const Rate& r : p.rates)
            often[r.kind] += r.per_minute * p.lasts.value() * p.times;
    }
    std::vector<Rate> rates;
    for (const auto& [kind, events] : often)
        if (events > 0) rates.push_back({kind, events / minutes});
    return rates;
}

namespace {

/// Lays a day out.
class Layout {
public:
    Layout(const std::vector<job::Effect>& effects, std::optional<std::uint64_t> seed,
           Second sleep_after)
        : effects_(effects), random_(seed.value_or(0)), at_random_(seed.has_value()),
          sleep_after_(sleep_after.value()) {
        for (std::size_t i = 0; i < effects.size(); ++i)
            of_kind_[effects[i].kind].push_back(static_cast<int>(i));
    }

    std::vector<Stretch> run(const std::vector<Phase>& phases) {
        for (std::size_t i = 0; i < phases.size(); ++i) {
            const Phase& p = phases[i];
            phase_ = i;
            for (int t = 0; t < p.times; ++t) {
                if (t > 0) idle(some(p.pause.value() * 60));
                switch (p.kind) {
                case PhaseKind::stored: // the night is as long as it is
                    add(Stretch::Shows::stored, p.lasts.value() * 60);
                    break;
                case PhaseKind::idle:
                    idle(some(p.lasts.value() * 60));
                    break;
                case PhaseKind::ignited:
                    ignited(some(p.lasts.value() * 60), p.rates);
                    break;
                }
            }
        }
        return std::move(day_);
    }

private:
    double some(double seconds) {
        return at_random_ ? seconds * random_.uniform(0.75, 1.25) : seconds;
    }
    void add(Stretch::Shows shows, double seconds, int effect = -1) {
        if (seconds > 0) day_.push_back({shows, effect, Second(seconds), phase_});
    }
    /// Awake until the board falls asleep.
    void idle(double seconds) {
        const double awake = sleep_after_ > 0 ? std::min(seconds, sleep_after_) : seconds;
        add(Stretch::Shows::idle, awake);
        add(Stretch::Shows::dozing, seconds - awake);
    }
    /// The next of a kind, in turns; -1 where the job has none.
    int next_of(EffectKind kind) {
        const auto it = of_kind_.find(kind);
        if (it == of_kind_.end()) return -1;
        return it->second[turn_[kind]++ % it->second.size()];
    }
    [[nodiscard]] double lasts(int effect) const {
        return effects_[static_cast<std::size_t>(effect)].lasts.value();
    }

    void ignited(double seconds, const std::vector<Rate>& rates) {
        struct Event {
            double at;
            EffectKind kind;
        };
        std::vector<Event> events;
        for (const Rate& r : rates) {
            if (!(r.per_minute > 0) || !of_kind_.contains(r.kind)) continue;
            const double mean = 60 / r.per_minute;
            if (at_random_) {
                for (double t = random_.exponential(mean); t < seconds;
                     t += random_.exponential(mean))
                    events.push_back({t, r.kind});
            } else {
                // Evenly, carrying what is less than one over to the next spell.
                double& due = due_.try_emplace(r.kind, mean / 2).first->second;
                for (; due < seconds; due += mean)
                    events.push_back({due, r.kind});
                due -= seconds;
            }
        }
        std::stable_sort(events.begin(), events.end(),
                         [](const Event& a, const Event& b) { return a.at < b.at; });
        double now = 0, end = seconds;
        const int lights_up = next_of(EffectKind::ignition);
        if (lights_up >= 0 && lasts(lights_up) < seconds / 2) {
            add(Stretch::Shows::effect, lasts(lights_up), lights_up);
            now += lasts(lights_up);
        }
        const int goes_out = next_of(EffectKind::retraction);
        if (goes_out >= 0 && lasts(goes_out) < seconds / 2) end -= lasts(goes_out);
        for (const Event& e : events) {
            const double at = std::max(e.at, now);
            const int effect = next_of(e.kind);
            if (at + lasts(effect) > end) continue;
            add(Stretch::Shows::look, at - now);
            add(Stretch::Shows::effect, lasts(effect), effect);
            now = at + lasts(effect);
        }
        add(Stretch::Shows::look, end - now);
        if (end < seconds) add(Stretch::Shows::effect, seconds - end, goes_out);
    }

    const std::vector<job::Effect>& effects_;
    Random random_;
    bool at_random_;
    double sleep_after_; ///< s; 0: never
    std::map<EffectKind, std::vector<int>> of_kind_;
    std::map<EffectKind, std::size_t> turn_;
    std::map<EffectKind, double> due_; ///< s into the spell
    std::vector<Stretch> day_;
    std::size_t phase_ = 0;
};

} // namespace

std::vector<Stretch> day_of(const std::vector<Phase>& phases,
                            const std::vector<job::Effect>& effects,
                            std::optional<std::uint64_t> seed, Second sleep_after) {
    return Layout(effects, seed, sleep_after).run(phases);
}

} // namespace conductus::power
