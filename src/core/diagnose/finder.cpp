// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/diagnose/finder.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <numeric>

#include "core/base/random.h"

namespace conductus::diagnose {
namespace {

constexpr double open_from = 5e4; ///< ohms that are shown as open
constexpr std::size_t pairs_solved = 150, pairs_weighed = 400;
constexpr double pair_prior = 0.006; ///< of two faults against the product of their own
constexpr double told_there = 0.92, told_absent = 0.01, untold_there = 0.35;
const double log_told_absent = std::log(told_absent);
constexpr double unknown_prior = 0.002, unknown_shows = 0.2;
/// Pairs that are solved together to choose a reading by.
constexpr double solved_from = 0.001;
constexpr int pairs_solved_next = 4;
constexpr double burns_from = 0.08; ///< how likely it may be that the cell burns something
constexpr double limited_minutes = 1;
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

/// What a reading may lie between: V, A, pixels, or powers of ten of ohms.
double range_of(Quantity what) {
    return what == Quantity::pixels ? 150 : what == Quantity::amps ? 10 : 8;
}

/// Ohms are judged by how many times more or less they are.
double scaled(Quantity what, double value) {
    if (what != Quantity::ohms) return value;
    return std::log10(std::min(std::max(value, 0.0), 1e6) + 0.03);
}

} // namespace

double instrument_sigma(Quantity quantity, double value) {
    switch (quantity) {
    case Quantity::volts:
        return 0.004 * std::abs(value) + 0.003;
    case Quantity::amps:
        // A small current is read in a small range.
        return 0.01 * std::abs(value) + std::min(0.0005, 2e-5 + 0.02 * std::abs(value));
    case Quantity::ohms:
        return 0.01 * std::abs(value) + 0.02;
    case Quantity::pixels:
        return 0.02 * std::abs(value) + 0.5;
    case Quantity::decibels:
        return 1.5;
    case Quantity::seen:
        break;
    }
    return 0;
}

Draw drawn(World& world, unsigned long long seed) {
    Random random(seed * 7919 + 17);
    Draw draw;
    const circuit::Network* lit = world.network(world.lit());
    if (!lit) return draw;
    const auto times = [&](double sigma) { return std::max(0.2, 1 + sigma * random.bell()); };
    for (const circuit::Resistor& r : lit->resistors)
        if (const double off = tolerance_of(r.part); off > 0) draw.ohms[r.name] = times(off);
    draw.cell_ohms = times(cell_ohms_off);
    draw.cell_volts = cell_volts_off * random.bell();
    draw.pixels = times(pixels_off);
    draw.board = times(board_current_off);
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
    // In small letters, without commas; as people say it, the longest first.
    std::string said;
    for (const char c : words)
        if (c != ',' && c != ';')
            said += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    struct Saying {
        std::string_view words;
        Symptom symptom;
    };
    static constexpr Saying sayings[] = {{"kill does not kill", Symptom::does_not_kill},
                                         {"does not kill", Symptom::does_not_kill},
                                         {"does not switch off", Symptom::does_not_kill},
                                         {"flickers when turned", Symptom::flickers_turned},
                                         {"flicker when turned", Symptom::flickers_turned},
                                         {"flickers", Symptom::flickers_turned},
                                         {"flicker", Symptom::flickers_turned},
                                         {"nothing at all", Symptom::nothing_at_all},
                                         {"nothing", Symptom::nothing_at_all},
                                         {"boots no blade", Symptom::no_blade},
                                         {"no blade", Symptom::no_blade},
                                         {"dead after a pixel", Symptom::dead_after_pixel},
                                         {"dead after pixel", Symptom::dead_after_pixel},
                                         {"wrong colours", Symptom::wrong_colours},
                                         {"wrong colour", Symptom::wrong_colours},
                                         {"crackles early", Symptom::crackles_early},
                                         {"crackle early", Symptom::crackles_early},
                                         {"crackles", Symptom::crackles_early},
                                         {"crackle", Symptom::crackles_early},
                                         {"one button dead or swapped", Symptom::button_dead},
                                         {"one button dead", Symptom::button_dead},
                                         {"button dead", Symptom::button_dead},
                                         {"dead button", Symptom::button_dead},
                                         {"buttons swapped", Symptom::buttons_swapped},
                                         {"button swapped", Symptom::buttons_swapped},
                                         {"swapped", Symptom::buttons_swapped},
                                         {"lit while off", Symptom::lit_while_off},
                                         {"resets at clash", Symptom::resets_at_clash},
                                         {"reset at clash", Symptom::resets_at_clash},
                                         {"resets", Symptom::resets_at_clash},
                                         {"silent", Symptom::silent},
                                         {"no sound", Symptom::silent},
                                         {"dark", Symptom::dark},
                                         {"dim", Symptom::dim},
                                         {"hot", Symptom::hot}};
    for (const Saying& one : sayings) {
        if (!said.starts_with(one.words)) continue;
        if (said.size() == one.words.size()) return Sight{one.symptom, {}};
        if (said[one.words.size()] != ' ') continue;
        // What follows is of what it is: a ref keeps its letters. The number of a pixel is not
        // needed.
        std::string where(words.substr(words.size() - (said.size() - one.words.size() - 1)));
        if (!where.empty() && where.find_first_not_of("0123456789") == std::string::npos)
            where.clear();
        if (where.find(' ') == std::string::npos) return Sight{one.symptom, where};
    }
    return std::nullopt;
}

Finder::Finder(const job::Job& job, const catalogue::Catalogue& parts, double charge)
    : world_(job, parts, charge), faults_(faults_of(world_)), candidates_(candidates_of(world_)) {
    sights_ = world_.sights();
    for (const Candidate& c : candidates_)
        columns_.push_back(column(c.measure, c.turned));
    const auto symptoms_of = [&](const std::vector<const Fault*>& faults) {
        std::vector<double> all;
        for (const Sight& s : sights_)
            all.push_back(world_.likely_seen(s, faults));
        return all;
    };
    seen_.push_back(symptoms_of({}));
    for (const Fault& f : faults_)
        seen_.push_back(symptoms_of({&f}));
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
        c.spread = world_.spread(measure);
        if (measure.what == Quantity::ohms) // of its logarithm
            c.spread /= (std::min(*c.values[0], 1e6) + 0.03) * std::log(10.0);
    }
    return c;
}

std::optional<double> Finder::predicted(const Column& column,
                                        const std::vector<std::size_t>& faults) {
    if (faults.empty()) return column.values[0];
    const auto& one = column.values[faults.front() + 1];
    if (faults.size() == 1) return one;
    // To choose a reading by, what both add is enough for pairs that are not the likeliest.
    const auto &two = column.values[faults.back() + 1], &base = column.values[0];
    if (!one || !two || !base) return std::nullopt;
    const double sum = *one + *two - *base;
    return column.measure.what == Quantity::volts ? sum : std::max(sum, 0.0);
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
    return std::log(p + mistaken / range_of(what)) + std::log(sigma);
}

double Finder::likelihood(const Column& column, double value,
                          const std::optional<double>& predicted) const {
    if (!predicted) return std::log(mistaken);
    return score(column, value, *predicted) - std::log(sigma_of(column, *predicted));
}

bool Finder::shows(std::size_t fault, const Sight& sight) const {
    const auto it = std::find(sights_.begin(), sights_.end(), sight);
    return it != sights_.end() &&
           seen_[fault + 1][static_cast<std::size_t>(it - sights_.begin())] >= 1;
}

bool Finder::burns(std::size_t fault, const std::string& state) {
    // Only what joins, reverses or shorts lets more flow.
    using Kind = Alteration::Kind;
    const Fault& f = faults_[fault];
    const bool may = std::any_of(f.does.begin(), f.does.end(), [](const Alteration& a) {
        return a.kind == Kind::bridge || (a.kind == Kind::emf && a.value < 0) ||
               (a.kind == Kind::ohms && a.value < 1);
    });
    if (!may) return false;
    const auto [it, fresh] = burns_.try_emplace({fault, state}, false);
    if (fresh) it->second = world_.burns(state, {&f});
    return it->second;
}

double Finder::of_symptoms(const std::vector<double>& one, const std::vector<double>* two) const {
    double log_p = 0;
    for (std::size_t k = 0; k < sights_.size(); ++k) {
        const double there = two ? 1 - (1 - one[k]) * (1 - (*two)[k]) : one[k];
        if (is_told_[k])
            log_p += there <= 0 ? log_told_absent
                                : std::log(told_absent + (told_there - told_absent) * there);
        else if (there > 0 && !told_.empty() && !is_implied_[k])
            log_p += std::log(1 - (1 - untold_there) * there);
    }
    return log_p;
}

void Finder::mark_implied() {
    const auto is_told = [&](Symptom symptom) {
        return std::any_of(told_.begin(), told_.end(),
                           [&](const Sight& s) { return s.symptom == symptom; });
    };
    const auto of_light = [&](const Sight& s) {
        return !s.where.empty() && world_.is_of_blade(s.where) &&
               (s.symptom == Symptom::dark || s.symptom == Symptom::dim ||
                s.symptom == Symptom::dead_after_pixel);
    };
    bool all_dark = false; // each light of the blades was told by itself
    for (std::size_t k = 0; k < sights_.size(); ++k)
        if (sights_[k].symptom == Symptom::dark && world_.is_of_blade(sights_[k].where)) {
            if (!is_told_[k]) {
                all_dark = false;
                break;
            }
            all_dark = true;
        }
    is_implied_.assign(sights_.size(), 0);
    for (std::size_t k = 0; k < sights_.size(); ++k) {
        const Sight& s = sights_[k];
        const bool same = std::any_of(told_.begin(), told_.end(), [&](const Sight& t) {
            return t.symptom == s.symptom && (t.where.empty() || s.where.empty());
        });
        is_implied_[k] = same || is_told(Symptom::nothing_at_all) ||
                         (is_told(Symptom::no_blade) && of_light(s)) ||
                         (all_dark && s.symptom == Symptom::no_blade);
    }
}

std::vector<Finder::Pair> Finder::pairs(double sum_priors) const {
    // What both change together, as if each changed it alone: by what each adds. Where only one
    // changes a reading that is exact.
    struct Change {
        double value, log_p;
    };
    std::vector<std::vector<Change>> changed(taken_.size()); // of each fault, by reading
    std::vector<double> alone(taken_.size());
    for (std::size_t k = 0; k < taken_.size(); ++k) {
        const auto& [column, value] = taken_[k];
        alone[k] = likelihood(column, value, column.values[0]);
        for (std::size_t f = 0; f < faults_.size(); ++f) {
            const auto& v = column.values[f + 1];
            changed[k].push_back({v.value_or(NAN), likelihood(column, value, v)});
        }
    }
    std::vector<Pair> all;
    for (std::size_t a = 0; a < faults_.size(); ++a)
        for (std::size_t b = a + 1; b < faults_.size(); ++b) {
            const Fault &one = faults_[a], &two = faults_[b];
            if (one.where == two.where) continue;
            double log_p = std::log(pair_prior * one.prior / sum_priors * two.prior / sum_priors *
                                    static_cast<double>(faults_.size()));
            log_p += of_symptoms(seen_[a + 1], &seen_[b + 1]);
            for (std::size_t k = 0; k < taken_.size(); ++k) {
                const Column& column = taken_[k].first;
                if (!column.values[0]) continue;
                const double base = *column.values[0];
                const Change &x = changed[k][a], &y = changed[k][b];
                const double small = 1e-6 + 1e-4 * std::abs(base);
                if (std::abs(y.value - base) < small)
                    log_p += x.log_p;
                else if (std::abs(x.value - base) < small)
                    log_p += y.log_p;
                else if (std::isnan(x.value) || std::isnan(y.value))
                    log_p += std::min(x.log_p, y.log_p);
                else
                    log_p +=
                        likelihood(column, taken_[k].second,
                                   std::max(column.measure.what == Quantity::volts ? -20.0 : 0.0,
                                            x.value + y.value - base));
            }
            all.push_back({a, b, log_p});
        }
    std::sort(all.begin(), all.end(), [](const Pair& x, const Pair& y) {
        return std::tuple(-x.log_p, x.one, x.two) < std::tuple(-y.log_p, y.one, y.two);
    });
    return all;
}

void Finder::weigh() {
    double sum_priors = 0.3; // of no fault: something is wrong, or nobody would look
    for (const Fault& f : faults_)
        sum_priors += f.prior;
    const double no_fault = 0.3 / sum_priors;
    is_told_.assign(sights_.size(), 0);
    for (std::size_t k = 0; k < sights_.size(); ++k)
        is_told_[k] = std::find(told_.begin(), told_.end(), sights_[k]) != told_.end();
    mark_implied();
    const auto of_readings = [&](std::size_t h) {
        double log_p = 0;
        for (const auto& [column, value] : taken_)
            log_p += likelihood(column, value, column.values[h]);
        return log_p;
    };
    hypotheses_.clear();
    hypotheses_.push_back({{}, std::log(no_fault) + of_symptoms(seen_[0]) + of_readings(0)});
    for (std::size_t i = 0; i < faults_.size(); ++i)
        hypotheses_.push_back({{i},
                               std::log(faults_[i].prior / sum_priors) + of_symptoms(seen_[i + 1]) +
                                   of_readings(i + 1)});
    // Something that is none of these may show anything and read anything.
    double unknown = std::log(unknown_prior);
    for (const char told : is_told_)
        if (told) unknown += std::log(unknown_shows);
    for (const auto& [column, value] : taken_)
        unknown -= std::log(range_of(column.measure.what));
    hypotheses_.push_back({{}, unknown, true});
    if (!taken_.empty() || told_.size() > 1) {
        const auto likely = pairs(sum_priors);
        for (std::size_t k = 0; k < likely.size() && k < pairs_weighed; ++k) {
            const auto [a, b, by_sum] = likely[k];
            if (k >= pairs_solved) {
                hypotheses_.push_back({{a, b}, by_sum});
                continue;
            }
            const Fault &one = faults_[a], &two = faults_[b];
            double log_p = std::log(pair_prior * one.prior / sum_priors * two.prior / sum_priors *
                                    static_cast<double>(faults_.size())) +
                           of_symptoms(seen_[a + 1], &seen_[b + 1]);
            auto& known = pair_values_[{a, b}];
            for (std::size_t t = 0; t < taken_.size(); ++t) {
                const auto& [column, value] = taken_[t];
                // What was solved for an earlier reading is not solved again.
                while (known.size() <= t)
                    known.push_back(both(taken_[known.size()].first, a, b));
                log_p += likelihood(column, value, known[t]);
            }
            hypotheses_.push_back({{a, b}, log_p});
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

std::optional<double> Finder::both(const Column& column, std::size_t a, std::size_t b) {
    // Where one of them changes nothing there, the other is what is read.
    if (column.values[0]) {
        const double small = 1e-6 + 1e-4 * std::abs(*column.values[0]);
        for (const auto& [still, other] : {std::pair{a, b}, std::pair{b, a}})
            if (column.values[still + 1] &&
                std::abs(*column.values[still + 1] - *column.values[0]) < small)
                return column.values[other + 1];
    }
    return world_.read(column.measure, {&faults_[a], &faults_[b]}, {}, column.turned);
}

void Finder::tell(const Sight& sight) {
    if (std::find(told_.begin(), told_.end(), sight) != told_.end()) return;
    told_.push_back(sight);
    weigh();
}

void Finder::read(const Reading& reading) {
    keep(reading);
    weigh();
}

void Finder::keep(const Reading& reading) {
    for (const Column& c : columns_)
        if (c.measure == reading.measure && c.turned == reading.turned) {
            taken_.emplace_back(c, reading.value);
            return;
        }
    taken_.emplace_back(column(reading.measure, reading.turned), reading.value);
}

void Finder::take(const std::vector<Sight>& told, const std::vector<Reading>& readings) {
    for (const Sight& sight : told)
        if (std::find(told_.begin(), told_.end(), sight) == told_.end()) told_.push_back(sight);
    for (const Reading& r : readings)
        keep(r);
    weigh();
}

std::vector<Next> Finder::next(std::size_t most) {
    // Those that are worth telling apart.
    std::vector<const Hypothesis*> likely;
    double sum = 0;
    int pairs = 0;
    for (const Hypothesis& h : hypotheses_) {
        if (h.unknown || (h.faults.size() > 1 && pairs >= 12)) continue;
        pairs += h.faults.size() > 1;
        if (likely.size() >= 60 || (sum > 0.995 && likely.size() > 1)) break;
        likely.push_back(&h);
        sum += h.p;
    }
    double before = 0;
    for (const Hypothesis* h : likely)
        if (h->p > 0) before -= h->p / sum * std::log2(h->p / sum);
    const auto changes = [](const Column& c, std::size_t fault) {
        const auto& v = c.values[fault + 1];
        return !v || !c.values[0] ||
               std::abs(*v - *c.values[0]) > 1e-6 + 1e-4 * std::abs(*c.values[0]);
    };
    std::map<std::string, bool> risky;
    const auto may_burn = [&](const std::string& state) {
        const auto [it, fresh] = risky.try_emplace(state, false);
        if (fresh) {
            double p = 0;
            for (const Hypothesis* h : likely)
                if (std::any_of(h->faults.begin(), h->faults.end(),
                                [&](std::size_t f) { return burns(f, state); }))
                    p += h->p;
            it->second = p >= burns_from;
        }
        return it->second;
    };
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
        int together = 0;
        for (const Hypothesis* h : likely) {
            const bool solve = h->faults.size() > 1 && h->p > solved_from &&
                               together < pairs_solved_next && changes(c, h->faults[0]) &&
                               changes(c, h->faults[1]);
            together += solve;
            values.push_back(solve ? both(c, h->faults[0], h->faults[1]) : predicted(c, h->faults));
        }
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
        const bool limited = c.measure.what != Quantity::ohms && may_burn(c.measure.state);
        if (limited) minutes += limited_minutes;
        all.push_back({k, c.turned, minutes, bits, limited});
    }
    std::stable_sort(all.begin(), all.end(), [](const Next& a, const Next& b) {
        return a.bits / a.minutes > b.bits / b.minutes;
    });
    if (all.size() > most) all.resize(most);
    return all;
}

Message Finder::says(const Hypothesis& h) const {
    if (h.unknown) return "it is none of these";
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
    double spread = world_.spread(measure);
    // What a fault changes is known less well than what is sound.
    if (!faults.empty())
        if (const auto sound = world_.read(measure, {}, {}, turned))
            spread = std::hypot(spread, 0.12 * (*value - *sound));
    return Expected{*value, std::hypot(spread, instrument_sigma(measure.what, *value))};
}

} // namespace conductus::diagnose
