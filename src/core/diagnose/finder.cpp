// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/diagnose/finder.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

#include "core/base/random.h"

namespace conductus::diagnose {
namespace {

constexpr double open_from = 5e4; ///< ohms that are shown as open
constexpr int draws = 24;
constexpr std::size_t pairs_of = 40;
constexpr double pair_prior = 0.012; ///< of two faults against the product of their own
constexpr double told_there = 0.92, told_absent = 0.01, untold_there = 0.35;
constexpr double mistaken = 0.004; ///< a reading that is nothing but a mistake

constexpr std::array<std::pair<Symptom, std::string_view>, 15> symptom_words{
    {{Symptom::nothing_at_all, "nothing at all"},
     {Symptom::no_blade, "boots, no blade"},
     {Symptom::dead_after_pixel, "dead after a pixel"},
     {Symptom::flickers_turned, "flickers when turned"},
     {Symptom::wrong_colours, "wrong colours"},
     {Symptom::crackles_early, "crackles early"},
     {Symptom::button_dead, "one button dead"},
     {Symptom::buttons_swapped, "buttons swapped"},
     {Symptom::lit_while_off, "lit while off"},
     {Symptom::hot, "hot"},
     {Symptom::resets_at_clash, "resets at clash"},
     {Symptom::does_not_kill, "does not kill"},
     {Symptom::silent, "silent"},
     {Symptom::dark, "dark"},
     {Symptom::dim, "dim"}}};

/// Ohms are judged by how many times more or less they are.
double scaled(Quantity what, double value) {
    if (what != Quantity::ohms) return value;
    return std::log10(std::min(std::max(value, 0.0), 1e6) + 0.03);
}

double gauss(Random& random) {
    double sum = 0;
    for (int i = 0; i < 12; ++i)
        sum += random.uniform();
    return sum - 6;
}

} // namespace

double instrument_sigma(Quantity quantity, double value) {
    switch (quantity) {
    case Quantity::volts:
        return 0.004 * std::abs(value) + 0.003;
    case Quantity::amps:
        return 0.01 * std::abs(value) + 0.0005;
    case Quantity::ohms:
        return 0.01 * std::abs(value) + 0.02;
    case Quantity::pixels:
        return 0.02 * std::abs(value) + 0.5;
    }
    return 0;
}

Draw drawn(World& world, unsigned long long seed) {
    Random random(seed * 7919 + 17);
    Draw draw;
    const circuit::Network* lit = world.network(world.lit());
    if (!lit) return draw;
    const auto times = [&](double sigma) { return std::max(0.2, 1 + sigma * gauss(random)); };
    for (const circuit::Resistor& r : lit->resistors) {
        using circuit::Part;
        double sigma = 0;
        switch (r.part) {
        case Part::wire:
            sigma = 0.08;
            break;
        case Part::pins:
        case Part::kill:
        case Part::bay:
            sigma = 0.25;
            break;
        case Part::board:
        case Part::protection:
        case Part::fuse:
            sigma = 0.15;
            break;
        case Part::resistor:
            sigma = 0.03;
            break;
        default:
            break;
        }
        if (sigma > 0) draw.ohms[r.name] = times(sigma);
    }
    draw.cell_ohms = times(0.15);
    draw.cell_volts = 0.015 * gauss(random);
    draw.pixels = times(0.05);
    draw.board = times(0.08);
    return draw;
}

std::string_view word(Symptom symptom) {
    for (const auto& [s, words] : symptom_words)
        if (s == symptom) return words;
    return {};
}

std::string told(const Sight& sight) {
    std::string all(word(sight.symptom));
    if (!sight.where.empty()) all += " " + sight.where;
    return all;
}

std::optional<Sight> sight_named(std::string_view words) {
    for (const auto& [s, known] : symptom_words) {
        if (known == words) return Sight{s, {}};
        if (words.starts_with(known) && words.size() > known.size() + 1 &&
            words[known.size()] == ' ')
            return Sight{s, std::string(words.substr(known.size() + 1))};
    }
    return std::nullopt;
}

Finder::Finder(const job::Job& job, const catalogue::Catalogue& parts)
    : world_(job, parts), faults_(faults_of(world_)), candidates_(candidates_of(world_)) {
    sights_ = world_.sights();
    for (const Candidate& c : candidates_)
        columns_.push_back(column(c.measure, c.turned));
    const auto symptoms_of = [&](const std::vector<const Fault*>& faults) {
        std::vector<char> all;
        for (const Sight& s : sights_)
            all.push_back(world_.shows(s, faults) ? 1 : 0);
        return all;
    };
    shows_.push_back(symptoms_of({}));
    for (const Fault& f : faults_)
        shows_.push_back(symptoms_of({&f}));
    weigh();
}

Finder::Column Finder::column(const Measure& measure, bool turned) {
    Column c;
    c.measure = measure;
    c.turned = turned;
    c.values.push_back(world_.read(measure, {}, {}, turned));
    for (const Fault& f : faults_)
        c.values.push_back(world_.read(measure, {&f}, {}, turned));
    // How far sound builds are apart.
    if (c.values[0]) {
        double sum = 0;
        int count = 0;
        for (int i = 1; i <= draws; ++i)
            if (const auto v = world_.read(measure, {}, drawn(world_, static_cast<unsigned>(i)))) {
                const double off = scaled(measure.what, *v) - scaled(measure.what, *c.values[0]);
                sum += off * off;
                ++count;
            }
        c.spread = count > 0 ? std::sqrt(sum / count) : 0;
    }
    return c;
}

std::optional<double> Finder::predicted(const Column& column,
                                        const std::vector<std::size_t>& faults) {
    if (faults.empty()) return column.values[0];
    if (faults.size() == 1) return column.values[faults.front() + 1];
    const auto key =
        std::tuple(static_cast<std::size_t>(&column - columns_.data()), faults[0], faults[1]);
    const auto it = pair_columns_.find(key);
    if (it != pair_columns_.end()) return it->second;
    return pair_columns_[key] = world_.read(
               column.measure, {&faults_[faults[0]], &faults_[faults[1]]}, {}, column.turned);
}

double Finder::sigma_of(const Column& column, double predicted) const {
    const Quantity what = column.measure.what;
    double sigma = instrument_sigma(what, predicted);
    if (what == Quantity::ohms) // of its logarithm
        sigma /= (std::min(predicted, 1e6) + 0.03) * std::log(10.0);
    // What a fault changes is known less well than what is sound.
    const double should = scaled(what, predicted);
    const double base = column.values[0] ? scaled(what, *column.values[0]) : should;
    return std::hypot(sigma, column.spread, 0.12 * std::abs(should - base));
}

double Finder::score(const Column& column, double value, double predicted) const {
    const Quantity what = column.measure.what;
    if (what == Quantity::ohms && value >= open_from && predicted >= open_from) return 0;
    const double sigma = sigma_of(column, predicted);
    const double off = (scaled(what, value) - scaled(what, predicted)) / sigma;
    const double p = std::exp(-0.5 * off * off) / sigma * (1 - mistaken);
    // A mistake may be anything between what could be.
    const double range = what == Quantity::pixels ? 150 : what == Quantity::amps ? 10 : 8;
    return std::log(p + mistaken / range) + std::log(sigma);
}

double Finder::likelihood(const Column& column, double value,
                          const std::optional<double>& predicted) const {
    if (!predicted) return std::log(mistaken);
    return score(column, value, *predicted) - std::log(sigma_of(column, *predicted));
}

void Finder::weigh() {
    double sum_priors = 0;
    for (const Fault& f : faults_)
        sum_priors += f.prior;
    const auto of_symptoms = [&](const std::vector<char>& shows) {
        double log_p = 0;
        for (std::size_t k = 0; k < sights_.size(); ++k) {
            const bool told = std::find(told_.begin(), told_.end(), sights_[k]) != told_.end();
            const bool there = shows[k] != 0;
            if (told)
                log_p += std::log(there ? told_there : told_absent);
            else if (there && !told_.empty())
                log_p += std::log(untold_there);
        }
        return log_p;
    };
    const auto of_readings = [&](std::size_t h) {
        double log_p = 0;
        for (const auto& [column, value] : taken_)
            log_p += likelihood(column, value, column.values[h]);
        return log_p;
    };
    std::vector<double> single(faults_.size() + 1);
    hypotheses_.clear();
    // Something is wrong, or nobody would look: no fault is rarer than any.
    single[0] = std::log(0.3 / (sum_priors + 0.3)) + of_symptoms(shows_[0]) + of_readings(0);
    hypotheses_.push_back({{}, single[0]});
    for (std::size_t i = 0; i < faults_.size(); ++i) {
        single[i + 1] = std::log(faults_[i].prior / (sum_priors + 0.3)) +
                        of_symptoms(shows_[i + 1]) + of_readings(i + 1);
        hypotheses_.push_back({{i}, single[i + 1]});
    }
    // Pairs: of those that explain most by themselves, and of those with what changes any reading.
    std::vector<std::size_t> best(faults_.size());
    std::iota(best.begin(), best.end(), 0);
    std::sort(best.begin(), best.end(),
              [&](std::size_t a, std::size_t b) { return single[a + 1] > single[b + 1]; });
    if (best.size() > pairs_of) best.resize(pairs_of);
    if (!taken_.empty() || told_.size() > 1) {
        // In the order of the list, so that a pair is known by one name.
        std::sort(best.begin(), best.end());
        for (std::size_t a = 0; a < best.size(); ++a)
            for (std::size_t b = a + 1; b < best.size(); ++b) {
                const Fault &one = faults_[best[a]], &two = faults_[best[b]];
                if (one.where == two.where) continue;
                double log_p = std::log(pair_prior * one.prior / (sum_priors + 0.3) * two.prior /
                                        (sum_priors + 0.3) * static_cast<double>(faults_.size()));
                std::vector<char> both = shows_[best[a] + 1];
                for (std::size_t k = 0; k < both.size(); ++k)
                    both[k] = both[k] || shows_[best[b] + 1][k];
                log_p += of_symptoms(both);
                auto& known = pair_values_[{best[a], best[b]}];
                for (std::size_t k = 0; k < taken_.size(); ++k) {
                    const auto& [column, value] = taken_[k];
                    // What was solved for an earlier reading is not solved again.
                    while (known.size() <= k)
                        known.push_back(world_.read(taken_[known.size()].first.measure,
                                                    {&one, &two}, {},
                                                    taken_[known.size()].first.turned));
                    log_p += likelihood(column, value, known[k]);
                }
                hypotheses_.push_back({{best[a], best[b]}, log_p});
            }
    }
    double most = -1e300;
    for (const Hypothesis& h : hypotheses_)
        most = std::max(most, h.p);
    double sum = 0;
    for (Hypothesis& h : hypotheses_)
        sum += h.p = std::exp(h.p - most);
    for (Hypothesis& h : hypotheses_)
        h.p /= sum;
    std::stable_sort(hypotheses_.begin(), hypotheses_.end(),
                     [](const Hypothesis& a, const Hypothesis& b) { return a.p > b.p; });
}

void Finder::tell(const Sight& sight) {
    if (std::find(told_.begin(), told_.end(), sight) != told_.end()) return;
    told_.push_back(sight);
    weigh();
}

void Finder::read(const Reading& reading) {
    for (const Column& c : columns_)
        if (c.measure == reading.measure && c.turned == reading.turned) {
            taken_.emplace_back(c, reading.value);
            return weigh();
        }
    taken_.emplace_back(column(reading.measure, reading.turned), reading.value);
    weigh();
}

std::vector<Next> Finder::next(std::size_t most) {
    // Those that are worth telling apart.
    std::vector<const Hypothesis*> likely;
    double sum = 0;
    int pairs = 0;
    for (const Hypothesis& h : hypotheses_) {
        if (h.faults.size() > 1 && pairs >= 12) continue;
        pairs += h.faults.size() > 1;
        if (likely.size() >= 60 || (sum > 0.995 && likely.size() > 1)) break;
        likely.push_back(&h);
        sum += h.p;
    }
    double before = 0;
    for (const Hypothesis* h : likely)
        if (h->p > 0) before -= h->p / sum * std::log2(h->p / sum);
    std::vector<Next> all;
    const std::string state_now =
        taken_.empty() ? std::string() : taken_.back().first.measure.state;
    for (std::size_t k = 0; k < columns_.size(); ++k) {
        const Column& c = columns_[k];
        if (std::any_of(taken_.begin(), taken_.end(), [&](const auto& t) {
                return t.first.measure == c.measure && t.first.turned == c.turned;
            }))
            continue;
        std::vector<std::optional<double>> values;
        for (const Hypothesis* h : likely)
            values.push_back(predicted(c, h->faults));
        // Of each outcome that some hypothesis has: how sure one would be then.
        double expected = 0;
        for (std::size_t w = 0; w < likely.size(); ++w) {
            const Hypothesis* would = likely[w];
            const auto value = values[w];
            if (!value || would->p <= 0) {
                expected += would->p / sum * before;
                continue;
            }
            double total = 0;
            std::vector<double> then;
            then.reserve(likely.size());
            for (std::size_t l = 0; l < likely.size(); ++l) {
                const Hypothesis* h = likely[l];
                const auto p = values[l];
                const double like = p ? std::exp(std::max(-40.0, score(c, *value, *p))) : mistaken;
                then.push_back(h->p * like);
                total += then.back();
            }
            double entropy = 0;
            for (const double t : then)
                if (t > 0) entropy -= t / total * std::log2(t / total);
            expected += would->p / sum * entropy;
        }
        const double bits = before - expected;
        if (bits < 0.005) continue;
        double minutes = candidates_[k].minutes;
        if (c.measure.state != state_now) minutes += minutes_into(c.measure.state);
        all.push_back({k, c.turned, minutes, bits});
    }
    std::stable_sort(all.begin(), all.end(), [](const Next& a, const Next& b) {
        return a.bits / a.minutes > b.bits / b.minutes;
    });
    if (all.size() > most) all.resize(most);
    return all;
}

Message Finder::says(const Hypothesis& h) const {
    if (h.faults.empty()) return "nothing is wrong";
    if (h.faults.size() == 1) return faults_[h.faults[0]].says;
    return say("{}, and {}", faults_[h.faults[0]].says, faults_[h.faults[1]].says);
}

std::optional<Finder::Expected> Finder::expected(const Measure& measure, const Hypothesis& h,
                                                 bool turned) {
    std::vector<const Fault*> faults;
    for (const std::size_t f : h.faults)
        faults.push_back(&faults_[f]);
    const auto value = world_.read(measure, faults, {}, turned);
    if (!value) return std::nullopt;
    double sum = 0;
    int count = 0;
    for (int i = 1; i <= draws; ++i)
        if (const auto v =
                world_.read(measure, faults, drawn(world_, static_cast<unsigned>(i)), turned)) {
            sum += (*v - *value) * (*v - *value);
            ++count;
        }
    const double spread = count > 0 ? std::sqrt(sum / count) : 0;
    return Expected{*value, std::hypot(spread, instrument_sigma(measure.what, *value))};
}

} // namespace conductus::diagnose
