// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <fmt/format.h>

#include "cli/commands.h"
#include "core/base/format.h"
#include "core/diagnose/diagnosis.h"
#include "core/diagnose/practice.h"
#include "core/diagnose/words.h"
#include "core/plan/answers.h"
#include "files/bench_csv.h"
#include "files/disk.h"
#include "files/json_text.h"

namespace conductus::cli {
namespace {

using files::Json;

std::string points_of(const diagnose::Measure& m) {
    return m.to.empty() ? m.from : m.from + " to " + m.to;
}

Json measure_json(const diagnose::Measure& m, bool turned) {
    Json one{{"measure", fmt::format("{} {}", diagnose::unit_of(m.what), points_of(m))},
             {"state", m.state},
             {"from", m.from},
             {"to", m.to},
             {"unit", diagnose::unit_of(m.what)}};
    if (turned) one["turned"] = true;
    return one;
}

Json then_json(const diagnose::Diagnosis::Then& then) {
    Json one = measure_json(then.measure, then.turned);
    one["minutes"] = then.minutes;
    one["bits"] = then.bits;
    if (then.limited) one["limited"] = true;
    return one;
}

} // namespace

int diagnose(const catalogue::Catalogue& parts, const DiagnoseChoice& choice) {
    const auto plan = analysed(parts, choice.job);
    if (!plan) return refuse(plan.error());
    // What the job's own bench holds counts as it does in the window; what is told here is added.
    job::Job job = *plan->job;
    std::vector<diagnose::Reading> readings;
    if (!choice.readings.empty()) {
        const auto text = files::read_text(choice.readings);
        if (!text) return refuse(text.error());
        auto read = files::read_bench_csv(*text, choice.readings);
        if (!read) return refuse(read.error());
        readings = std::move(*read);
    }
    for (const diagnose::Reading& r : readings)
        if (auto added = diagnose::add_reading({r.measure.what,
                                                r.measure.state,
                                                r.measure.from,
                                                r.measure.to,
                                                r.value,
                                                r.turned,
                                                {},
                                                choice.readings,
                                                0})(job);
            !added)
            return refuse(added.error());
    diagnose::Finder finder(job, *plan->parts, diagnose::charge_told(job, *plan->parts));
    if (finder.faults().empty())
        return refuse({plan->job->name, "there is no network to look for a fault in",
                       "Wire the board to the cell first"});
    for (const diagnose::Reading& r : readings)
        if (r.measure.state != diagnose::by_itself)
            if (auto known = finder.world().check(r.measure); !known) return refuse(known.error());
    // Words of one symptom may come one by one: as many as make one.
    const auto& said = choice.symptoms;
    for (std::size_t at = 0; at < said.size();) {
        std::optional<diagnose::Sight> sight;
        std::size_t used = 0;
        for (std::size_t many = said.size() - at; many > 0 && !sight; --many) {
            std::string words = said[at];
            for (std::size_t k = 1; k < many; ++k)
                words += " " + said[at + k];
            sight = diagnose::sight_named(words);
            used = many;
        }
        const auto& all = finder.sights();
        if (!sight || std::find(all.begin(), all.end(), *sight) == all.end()) {
            std::vector<std::string> names;
            for (const diagnose::Sight& s : all)
                names.push_back(diagnose::told(s));
            return refuse({"--symptom", say("'{}' is no symptom of this hilt", shown(said[at], 40)),
                           say("There are: {}", joined(names, "; "))});
        }
        (void)diagnose::tell_symptom (*sight)(job);
        at += used;
    }
    const diagnose::Diagnosis d = diagnose::diagnosed(finder, job.bench);
    if (choice.json) {
        Json hypotheses = Json::array(), others = Json::array();
        for (const diagnose::Diagnosis::May& m : d.may)
            hypotheses.push_back(
                {{"fault", m.says.english()}, {"p", m.p}, {"where", m.where}, {"id", m.id}});
        for (const diagnose::Diagnosis::Then& n : d.next) {
            others.push_back(then_json(n));
            for (const diagnose::Diagnosis::Outcome& o : n.outcomes)
                others.back()["outcomes"].push_back({{"read", o.when.english()},
                                                     {"means", o.means.english()},
                                                     {"then", o.then.english()},
                                                     {"p", o.p}});
        }
        Json all{{"hypotheses", hypotheses},
                 {"next", others.empty() ? Json(nullptr) : others.front()},
                 {"others", others},
                 {"charge", d.charge}};
        if (d.proof) all["proof"] = then_json(*d.proof);
        fmt::print("{}\n", all.dump(2));
        return fine;
    }
    fmt::print("{}:\n", d.charge_words.english());
    for (const diagnose::Diagnosis::May& m : d.may)
        fmt::print("{:>4.0f} %  {}\n", m.p * 100, m.says.english());
    if (d.next.empty()) fmt::print("no reading tells anything more\n");
    for (const diagnose::Diagnosis::Then& n : d.next)
        fmt::print("{} {}, {}: {:.1f} min, {:.2f} bits\n",
                   &n == &d.next.front() ? "next:" : "  or ", n.words.english(), n.state.english(),
                   n.minutes, n.bits);
    if (d.proof)
        fmt::print("to prove the mend: {}, {}\n", d.proof->words.english(),
                   d.proof->state.english());
    return fine;
}

int tests(const catalogue::Catalogue& parts, const DiagnoseChoice& choice) {
    const auto plan = analysed(parts, choice.job);
    if (!plan) return refuse(plan.error());
    const auto bench = plan::answer(plan::BenchOf{}, *plan);
    if (!bench) return refuse(bench.error());
    const auto& faults = bench->finder->faults();
    Json all = Json::array();
    std::optional<diagnose::TestStage> stage;
    for (const diagnose::TestStep& s : bench->tests.steps) {
        std::vector<std::string> finds;
        for (const std::size_t f : s.finds)
            finds.push_back(faults[f].id);
        const diagnose::Verdict verdict = diagnose::judged(s, plan->job->bench);
        const char* tried = verdict == diagnose::Verdict::untried ? "untried"
                            : verdict == diagnose::Verdict::fine  ? "fine"
                            : verdict == diagnose::Verdict::edge  ? "at the edge"
                                                                  : "out";
        if (!choice.json) {
            if (stage != s.stage) fmt::print("{}:\n", diagnose::words_of(s.stage).english());
            stage = s.stage;
            std::string band = "seen or heard";
            if (s.what != diagnose::Quantity::seen)
                band = s.open() ? "open"
                                : fmt::format("{} to {}", diagnose::value_words(s.what, s.low),
                                              diagnose::value_words(s.what, s.high));
            fmt::print("  {}  [{}; {}]  {}\n", s.words.english(), s.state, band, tried);
            continue;
        }
        all.push_back({{"step", s.words.english()},
                       {"state", s.state},
                       {"from", s.from},
                       {"to", s.to},
                       {"unit", diagnose::unit_of(s.what)},
                       {"low", s.low},
                       {"high", s.high},
                       {"id", s.id},
                       {"stage", diagnose::words_of(s.stage).english()},
                       {"minutes", s.minutes},
                       {"finds", finds},
                       {"for", s.purpose.english()},
                       {"if_less", s.below.english()},
                       {"if_more", s.above.english()},
                       {"tried", tried}});
    }
    if (choice.json)
        fmt::print("{}\n", all.dump(2));
    else
        fmt::print("{} steps, about {:.0f} min\n", bench->tests.steps.size(), bench->tests.minutes);
    return fine;
}

int practice(const catalogue::Catalogue& parts, const DiagnoseChoice& choice) {
    const auto plan = analysed(parts, choice.job);
    if (!plan) return refuse(plan.error());
    const diagnose::Finder finder(*plan->job, *plan->parts,
                                  diagnose::charge_told(*plan->job, *plan->parts));
    if (finder.faults().empty())
        return refuse({plan->job->name, "there is no network to hide a fault in",
                       "Wire the board to the cell first"});
    const diagnose::Played p =
        diagnose::play(finder, choice.level, choice.seed,
                       choice.policy == "halving" ? diagnose::Policy::halving
                       : choice.policy == "habit" ? diagnose::Policy::habit
                                                  : diagnose::Policy::finder);
    const auto names = [&](const std::vector<std::size_t>& faults) {
        std::vector<std::string> all;
        for (const std::size_t f : faults)
            all.push_back(finder.faults()[f].says.english());
        return joined(all, ", and ");
    };
    Json measurements = Json::array();
    for (const diagnose::Reading& r : p.readings) {
        Json one = measure_json(r.measure, r.turned);
        one["value"] = r.value;
        measurements.push_back(std::move(one));
    }
    if (choice.json) {
        fmt::print("{}\n", Json{{"fault", names(p.faults)},
                                {"named", names(p.named)},
                                {"right", p.right},
                                {"minutes", p.minutes},
                                {"measurements", measurements}}
                               .dump(2));
        return fine;
    }
    for (const Json& m : measurements)
        fmt::print("{} in the state {}: {:.3f}\n", m["measure"].get<std::string>(),
                   m["state"].get<std::string>(), m["value"].get<double>());
    fmt::print("named: {}\nit was: {}\n{}, {:.1f} min\n", names(p.named), names(p.faults),
               p.right ? "right" : "wrong", p.minutes);
    return fine;
}

} // namespace conductus::cli
