// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/diagnose/diagnosis.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/diagnose/words.h"
#include "core/job/lookup.h"
#include "core/job/words.h"
#include "core/power/cell_model.h"

namespace conductus::diagnose {
namespace {

constexpr double told_from = 0.001, empty_below = 0.15, named_from = 0.9;
/// Volts that a cell at rest may lack and be a full one.
constexpr double full_to = 0.06;

Reading reading_of(const job::BenchReading& r) {
    return {{r.what, r.state, r.from, r.to}, r.value, r.turned};
}

/// Whether the finder can weigh it.
bool weighs(const job::BenchReading& r) {
    return r.what != Quantity::decibels && r.what != Quantity::seen && r.state != by_itself;
}

Diagnosis::Then then_of(Finder& finder, const Measure& measure, bool turned) {
    Diagnosis::Then t;
    t.measure = measure, t.turned = turned;
    t.words = words_of(finder.world().job(), measure, turned);
    t.state = state_words(finder.world(), measure.state);
    if (const auto band = band_of(finder, measure, turned)) static_cast<Band&>(t) = *band;
    return t;
}

/// What each outcome of a reading would mean: hypotheses that would read alike stand together.
std::vector<Diagnosis::Outcome> outcomes_of(Finder& finder, const Measure& measure, bool turned) {
    struct Group {
        double value, sigma, p;
        Message says;
        double best;
    };
    std::vector<Group> groups;
    int looked_at = 0;
    for (const Hypothesis& h : finder.hypotheses()) {
        if (++looked_at > 14 || h.p < 0.01) break;
        if (h.unknown) continue;
        const auto e = finder.expected(measure, h, turned);
        if (!e) continue;
        Group* near = nullptr;
        for (Group& g : groups)
            if (std::abs(g.value - e->value) < 2 * std::hypot(g.sigma, e->sigma) ||
                (measure.what == Quantity::ohms && g.value > 5e4 && e->value > 5e4))
                near = &g;
        if (!near)
            groups.push_back({e->value, e->sigma, h.p, finder.says(h), h.p});
        else {
            near->p += h.p;
            if (h.p > near->best) near->best = h.p, near->says = finder.says(h);
        }
    }
    std::stable_sort(groups.begin(), groups.end(),
                     [](const Group& a, const Group& b) { return a.p > b.p; });
    std::vector<Diagnosis::Outcome> all;
    for (const Group& g : groups) {
        if (all.size() == 3) break;
        Diagnosis::Outcome o;
        o.when = say("about {}", value_words(measure.what, g.value));
        o.means = g.says, o.p = g.p;
        // And then: as if that had been read.
        Finder then = finder;
        then.read({measure, g.value, turned});
        if (then.hypotheses().front().p < named_from)
            if (const auto next = then.next(1); !next.empty()) {
                const Measure& m = then.candidates()[next.front().candidate].measure;
                o.then = words_of(finder.world().job(), m, next.front().turned);
                if (m.state != measure.state)
                    o.then = say("{}, {}", o.then, state_words(finder.world(), m.state));
            }
        all.push_back(std::move(o));
    }
    return all;
}

} // namespace

double charge_told(const job::Job& job, const catalogue::Catalogue& parts) {
    const auto cell = job::first_of<catalogue::Cell>(job, parts);
    if (!cell) return 1;
    const double in_row = std::max(1, cell.figures->series);
    const auto of_volts = [&](double volts) {
        const double charge = power::charge_at(Volt(volts / in_row));
        return charge < empty_below ? 1 : charge;
    };
    const auto readings = readings_of_charge(job.bench);
    if (readings.empty()) return 1;
    for (auto r = readings.rbegin(); r != readings.rend(); ++r)
        if (r->state == by_itself) return of_volts(r->value);
    // At rest a cell shows the same at the board: next to nothing is drawn.
    const double full = power::open_circuit(1).value() * in_row;
    World world(job, parts);
    for (auto r = readings.rbegin(); r != readings.rend(); ++r) {
        const auto sound = world.read({r->what, r->state, r->from, r->to}, {});
        if (!sound || *sound < 0.9 * full) continue;
        return r->value < *sound - full_to * in_row ? of_volts(r->value + full - *sound) : 1;
    }
    return 1;
}

std::vector<job::BenchReading> readings_of_charge(const job::Bench& bench) {
    const int now = static_cast<int>(bench.mends.size());
    std::vector<job::BenchReading> all;
    for (const job::BenchReading& r : bench.readings) {
        const bool rests = r.state == job::word(job::StateKind::idle) ||
                           r.state == job::word(job::StateKind::asleep);
        if (r.what == Quantity::volts &&
            (r.state == by_itself || (rests && !r.turned && r.mends == now)))
            all.push_back(r);
    }
    return all;
}

double path_ohms(World& world) {
    const auto cell = job::first_of<catalogue::Cell>(world.job(), world.parts());
    const auto board = job::first_of<catalogue::Board>(world.job(), world.parts());
    if (!cell || !board) return 0;
    const auto between = [&](const std::string& from, const std::string& to) {
        const auto ohms = world.read({Quantity::ohms, cell_out, from, to}, {});
        return ohms && *ohms < 100 ? ohms : std::nullopt;
    };
    const std::string &b = board.part->ref, &c = cell.part->ref;
    const auto there = between(c + ".bay", b + ".bat");
    return there.value_or(between(c + ".plus", b + ".bat").value_or(0)) +
           between(b + ".gnd", c + ".minus").value_or(0);
}

Diagnosis diagnosed(const Finder& fresh, const job::Bench& bench) {
    Finder finder = fresh;
    Diagnosis d;
    d.sights = finder.sights();
    d.charge = finder.world().charge();
    d.charge_words = d.charge > 0.995 ? Message("with a full cell")
                                      : say("with the cell at {} %", decimals(d.charge * 100, 0));
    const int now = static_cast<int>(bench.mends.size());
    for (const job::BenchSymptom& s : bench.symptoms)
        if (s.mends == now) {
            auto sight = sight_named(s.symptom);
            if (!sight) continue;
            if (!s.where.empty()) sight->where = s.where;
            d.told.push_back(*sight);
        }
    std::vector<Reading> readings;
    for (const job::BenchReading& r : bench.readings)
        if (r.mends == now && weighs(r)) readings.push_back(reading_of(r));
    d.anything = !d.told.empty() || !readings.empty();
    std::vector<Hypothesis> before;
    if (!readings.empty()) {
        const Reading last = readings.back();
        readings.pop_back();
        finder.take(d.told, readings);
        before = finder.hypotheses();
        finder.read(last);
        readings.push_back(last);
    } else
        finder.take(d.told, {}), before = finder.hypotheses();
    for (const Hypothesis& h : finder.hypotheses()) {
        if (h.p < told_from || d.may.size() >= 12) break;
        Diagnosis::May m;
        m.says = finder.says(h), m.p = h.p, m.unknown = h.unknown, m.faults = h.faults;
        for (const Hypothesis& b : before)
            if (b.faults == h.faults && b.unknown == h.unknown) m.before = b.p;
        for (const std::size_t f : h.faults) {
            const Fault& fault = finder.faults()[f];
            if (!m.id.empty()) m.id += and_fault;
            m.id += fault.id;
            m.where += (m.where.empty() ? "" : ", ") + fault.where;
            m.mend = m.mend.empty() ? mend_words(fault) : say("{}; {}", m.mend, mend_words(fault));
        }
        d.may.push_back(std::move(m));
    }
    for (std::size_t i = 0; i < bench.readings.size(); ++i) {
        const job::BenchReading& r = bench.readings[i];
        const Reading reading = reading_of(r);
        Diagnosis::Row row;
        row.reading = i, row.read = r.value;
        row.words = words_of(finder.world().job(), reading.measure, r.turned);
        row.state = r.state == by_itself ? Message("the cell by itself")
                                         : state_words(finder.world(), r.state);
        row.value = value_words(r.what, r.value);
        row.earlier = r.mends != now;
        if (const auto band =
                weighs(r) ? band_of(finder, reading.measure, r.turned) : std::nullopt) {
            static_cast<Band&>(row) = *band;
            row.verdict = row.judge(r.value);
        }
        d.rows.push_back(std::move(row));
    }
    for (const Next& n : finder.next(5)) {
        const Candidate& c = finder.candidates()[n.candidate];
        Diagnosis::Then t = then_of(finder, c.measure, n.turned);
        t.limited = n.limited, t.minutes = n.minutes, t.bits = n.bits;
        if (d.next.empty()) t.outcomes = outcomes_of(finder, c.measure, n.turned);
        d.next.push_back(std::move(t));
    }
    if (!bench.mends.empty() && bench.mends.back().proof.empty()) {
        // What the fault moved furthest out of its band for a minute of work.
        double best = 0;
        const Candidate* proves = nullptr;
        for (std::size_t f = 0; f < finder.faults().size(); ++f) {
            if (!is_among(finder.faults()[f].id, bench.mends.back().fault)) continue;
            for (std::size_t k = 0; k < finder.candidates().size(); ++k) {
                const Candidate& c = finder.candidates()[k];
                const auto& values = finder.column_of(k).values;
                if (!values[0] || !values[f + 1] || (finder.faults()[f].turned && !c.turned))
                    continue;
                const double off = std::abs(std::log10(std::abs(*values[f + 1]) + 0.03) -
                                            std::log10(std::abs(*values[0]) + 0.03));
                if (off > 0.1 && off / c.minutes > best) best = off / c.minutes, proves = &c;
            }
        }
        if (proves) {
            d.proof = then_of(finder, proves->measure, proves->turned);
            d.proof->minutes = proves->minutes;
        }
    }
    return d;
}

job::Edit tell_symptom(const Sight& sight) {
    return [sight](job::Job& job) {
        job::Bench& b = job.bench;
        const job::BenchSymptom one{std::string(word(sight.symptom)), sight.where,
                                    static_cast<int>(b.mends.size())};
        if (std::find(b.symptoms.begin(), b.symptoms.end(), one) == b.symptoms.end())
            b.symptoms.push_back(one);
    };
}

job::Edit untell_symptom(const Sight& sight) {
    return [sight](job::Job& job) {
        job::Bench& b = job.bench;
        std::erase(b.symptoms, job::BenchSymptom{std::string(word(sight.symptom)), sight.where,
                                                 static_cast<int>(b.mends.size())});
    };
}

job::Edit add_reading(job::BenchReading reading) {
    return [reading = std::move(reading)](job::Job& job) mutable -> Result<void> {
        if (!std::isfinite(reading.value))
            return problem("the reading", "it is no number", "Type it as 3.71 V or 120 mOhm");
        if (reading.state.empty())
            return problem("the reading", "the state is missing",
                           "Choose what the hilt was doing when it was read");
        if (reading.from.empty())
            return problem("the reading", "the point is missing", "Choose where the probe was");
        reading.mends = static_cast<int>(job.bench.mends.size());
        job.bench.readings.push_back(reading);
        return {};
    };
}

job::Edit drop_reading(std::size_t index) {
    return [index](job::Job& job) {
        if (index < job.bench.readings.size())
            job.bench.readings.erase(job.bench.readings.begin() +
                                     static_cast<std::ptrdiff_t>(index));
    };
}

job::Edit mend(const Diagnosis::May& found, std::string on) {
    return [id = found.id, says = found.says.english(), where = found.where,
            on = std::move(on)](job::Job& job) -> Result<void> {
        if (id.empty()) return problem("the fault", "nothing was named", "Choose what it is first");
        job.bench.mends.push_back({id, says, where, on, {}});
        return {};
    };
}

job::Edit prove(std::string words) {
    return [words = std::move(words)](job::Job& job) {
        if (!job.bench.mends.empty()) job.bench.mends.back().proof = words;
    };
}

job::Edit clear_bench() {
    return [](job::Job& job) {
        const int now = static_cast<int>(job.bench.mends.size());
        std::erase_if(job.bench.symptoms, [&](const auto& s) { return s.mends == now; });
        std::erase_if(job.bench.readings, [&](const auto& r) { return r.mends == now; });
    };
}

std::optional<Found> found_by(const Finder& fresh, const job::BenchReading& r) {
    if (r.turned || (r.what != Quantity::ohms && r.what != Quantity::volts)) return std::nullopt;
    Finder finder = fresh;
    const job::Job& job = finder.world().job();
    const Measure m{r.what, r.state, r.from, r.to};
    const auto expected = finder.world().read(m, {});
    // What is open has no ohms, and what is read against nothing says nothing.
    if (!expected || std::abs(*expected) < 1e-5 || r.value <= 0 || r.value > 1e3 ||
        *expected > 1e3 || instrument_sigma(r.what, r.value) > 0.3 * r.value)
        return std::nullopt;
    const double times = r.value / std::abs(*expected);
    const auto [from, pin] = job::split_terminal(r.from);
    const auto [to, to_pin] = job::split_terminal(r.to);
    const auto words = [&](const std::string& what, double ohms) {
        return say("{} has {}", what, with_unit(ohms, "Ohm"));
    };
    for (const job::Wire& w : job.wires)
        if ((w.from == r.from && w.to == r.to) || (w.from == r.to && w.to == r.from)) {
            const circuit::Network* n = finder.world().network(cell_out);
            double copper = 0;
            if (n)
                for (const circuit::Resistor& one : n->resistors)
                    if (one.ref == w.ref) copper += one.ohms;
            if (copper <= 0) return std::nullopt;
            const double ohms = copper * times;
            return Found{w.ref, words(w.ref, ohms), [ref = w.ref, ohms](job::Job& j) {
                             for (job::Wire& wire : j.wires)
                                 if (wire.ref == ref) wire.resistance = Ohm(ohms);
                         }};
        }
    const catalogue::Catalogue& parts = finder.world().parts();
    const job::Part* part = job::find_ref(job.parts, std::string(from));
    if (part && from == to && parts.find_as<catalogue::Kill>(part->type)) {
        const circuit::Network* n = finder.world().network(cell_out);
        double contact = 0;
        if (n)
            for (const circuit::Resistor& one : n->resistors)
                if (one.ref == part->ref && one.part == circuit::Part::kill) contact = one.ohms;
        if (contact <= 0) return std::nullopt;
        const double ohms = contact * times;
        return Found{part->ref, words(part->ref, ohms), [ref = part->ref, ohms](job::Job& j) {
                         if (job::Part* p = job::find_ref(j.parts, ref))
                             p->measured.resistance = Ohm(ohms);
                     }};
    }
    // A pole of a connector against the blade that stands on it: each of its pins alike.
    for (const auto& [connector, pole] : {std::pair{std::string(from), std::string(pin)},
                                          std::pair{std::string(to), std::string(to_pin)}}) {
        const job::Part* c = job::find_ref(job.parts, connector);
        const auto* figures = c ? parts.find_as<catalogue::Connector>(c->type) : nullptr;
        const std::string other(connector == from ? to : from);
        if (!figures || !job::find_ref(job.blades, other) || (pole != "plus" && pole != "minus"))
            continue;
        const int pins = pole == "plus" ? figures->plus_pins : figures->minus_pins;
        const double each =
            c->measured.resistance.value_or(figures->pin_resistance).value() * times;
        return Found{connector, words(connector + "." + pole, each / pins),
                     [connector = connector, pole = pole, pins, each](job::Job& j) {
                         job::Part* p = job::find_ref(j.parts, connector);
                         if (!p) return;
                         std::erase_if(p->measured.pins, [&](const job::MeasuredPin& one) {
                             return one.pin.starts_with(pole);
                         });
                         for (int i = 1; i <= pins; ++i)
                             p->measured.pins.push_back({fmt::format("{}{}", pole, i), Ohm(each)});
                     }};
    }
    return std::nullopt;
}

} // namespace conductus::diagnose
