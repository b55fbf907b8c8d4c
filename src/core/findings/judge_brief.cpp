// SPDX-License-Identifier: GPL-3.0-or-later
// What was asked for against what is planned, and what was found and not decided.
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/base/format.h"
#include "core/findings/facts.h"
#include "core/job/lookup.h"

namespace conductus::findings {
namespace {

using job::Inspected;

/// Blades are cut to length; a person does not see less.
constexpr double same_blade_mm = 2;

void blades_wanted(const Facts& f, std::vector<Finding>& out) {
    const auto& wanted = f.job->brief.blades;
    if (wanted.empty() || f.job->parts.empty()) return; // nothing is planned yet
    std::vector<bool> taken(f.whole->blades.size(), false);
    std::vector<Message> missing;
    for (const job::WantedBlade& w : wanted) {
        bool there = false;
        for (std::size_t i = 0; i < taken.size() && !there; ++i) {
            const job::Blade& b = f.whole->blades[i];
            there = !taken[i] && std::abs((b.length - w.length).value()) <= same_blade_mm &&
                    std::abs((b.outer - w.outer).value()) <= 0.5;
            if (there) taken[i] = true;
        }
        if (!there) missing.push_back(say("{} × {}", text(w.length), text(w.outer)));
    }
    if (missing.empty()) return;
    std::vector<Message> planned;
    std::vector<std::string> refs;
    for (const job::Blade& b : f.whole->blades) {
        planned.push_back(say("{} × {}", text(b.length), text(b.outer)));
        refs.push_back(b.ref);
    }
    out.push_back({.id = "brief.blade-differs",
                   .severity = Severity::warn,
                   .station = Station::brief,
                   .where = refs,
                   .text = planned.empty()
                               ? say("Blade wanted {}, none is planned", joined(missing, " and "))
                               : say("Blade wanted {}, planned {}", joined(missing, " and "),
                                     joined(planned, " and ")),
                   .detail = "Plan the blade that was asked for, or agree the other one.",
                   .evidence = {{"wanted", static_cast<double>(wanted.size()), "blades"},
                                {"not planned", static_cast<double>(missing.size()), "blades"}},
                   .fix = {}});
}

void swap_refused(const Facts& f, std::vector<Finding>& out) {
    if (f.job->brief.swap != job::Swap::refused || !f.run) return;
    const Minute clean = f.run->clean();
    if (f.job->use.ignited <= clean) return;
    const auto cell = job::first_of<catalogue::Cell>(*f.job, *f.parts);
    out.push_back({.id = "brief.needs-swap",
                   .severity = Severity::warn,
                   .station = Station::brief,
                   .where = {cell ? cell.part->ref : std::string()},
                   .text = say("Lit {} a day, clean for {}: cells must be changed",
                               duration(f.job->use.ignited), duration(clean)),
                   .detail = "The owner does not accept a change of cells during the day. A larger "
                             "cell, a dimmer look, or another agreement.",
                   .evidence = {{"ignited a day", f.job->use.ignited.value(), "min"},
                                {"clean on one cell", clean.value(), "min"}},
                   .fix = {}});
}

void inspected(const Facts& f, std::vector<Finding>& out) {
    for (const Inspected& i : f.job->inspection) {
        const bool bad =
            i.condition == job::Condition::broken || i.condition == job::Condition::missing;
        if (!bad || i.fate == job::Fate::replaced) continue;
        const bool stays = i.fate == job::Fate::kept;
        const char* found = i.condition == job::Condition::broken ? "broken" : "missing";
        out.push_back({.id = stays ? "inspection.kept-broken" : "inspection.undecided",
                       .severity = stays ? Severity::warn : Severity::note,
                       .station = Station::brief,
                       .where = i.part.empty() ? std::vector<std::string>{} : std::vector{i.part},
                       .text = say("Arrived {}, {}: {}", found,
                                   stays ? "and is to be kept" : "not decided", i.item),
                       .detail = stays ? "Say what makes it work again, or replace it."
                                       : "Decide whether it is kept or replaced, and why.",
                       .evidence = {},
                       .fix = {}});
    }
}

/// Typical prices of what is fitted, as far as they are known.
double price_of(const Facts& f) {
    const auto price = [&](const std::string& id) {
        const auto* type = f.parts->find(id);
        return type ? type->price : 0.0;
    };
    double sum = 0;
    for (const job::Part& part : f.job->parts) {
        sum += price(part.type);
        if (part.protection) sum += price(*part.protection);
        if (part.adapter) sum += price(*part.adapter);
    }
    for (const job::Blade& blade : f.job->blades) {
        for (const job::Strip& strip : blade.strips)
            sum += price(strip.type) * strip.length.value() / 1000;
        for (const job::LedString& string : blade.strings)
            sum += price(string.type);
    }
    return sum;
}

void over_budget(const Facts& f, std::vector<Finding>& out) {
    const auto& brief = f.job->brief;
    // Prices of the catalogue are in EUR; another currency is not guessed at.
    if (!brief.budget || !(brief.currency.empty() || brief.currency == "EUR")) return;
    const double sum = price_of(f);
    if (sum <= *brief.budget) return;
    out.push_back({.id = "brief.over-budget",
                   .severity = Severity::note,
                   .station = Station::brief,
                   .where = {},
                   .text = say("Parts of {} EUR against a budget of {}", decimals(sum, 0),
                               decimals(*brief.budget, 0)),
                   .detail = "Typical prices, without work. Put it to the owner, or choose "
                             "cheaper parts.",
                   .evidence = {{"parts", sum, "EUR"}, {"budget", *brief.budget, "EUR"}},
                   .fix = {}});
}

/// What was recorded at the bench against what the plan says now.
void built(const Facts& f, std::vector<Finding>& out) {
    if (f.job->built.empty()) return;
    std::vector<std::string> other;
    const auto ends = [](const job::Wire& a, const job::Wire& b) {
        return (a.from == b.from && a.to == b.to) || (a.from == b.to && a.to == b.from);
    };
    for (const job::Wire& w : f.job->built) {
        const job::Wire* plan = job::find_ref(f.job->wires, w.ref);
        if (!plan || !ends(*plan, w) || plan->gauge != w.gauge) other.push_back(w.ref);
    }
    for (const job::Wire& w : f.job->wires)
        if (!job::find_ref(f.job->built, w.ref)) other.push_back(w.ref);
    if (other.empty()) return;
    out.push_back({.id = "built.differs",
                   .severity = Severity::note,
                   .station = Station::harness,
                   .where = other,
                   .text = other.size() == 1
                               ? say("{} was built in another way", other[0])
                               : say("{} wires were built in another way", other.size()),
                   .detail = say("{}: ends or gauge are not what the plan says. Take one over from "
                                 "the other before somebody relies on it.",
                                 conductus::joined(other, ", ")),
                   .evidence = {{"wires", static_cast<double>(other.size()), ""}},
                   .fix = {}});
}

} // namespace

void judge_brief(const Facts& facts, std::vector<Finding>& out) {
    blades_wanted(facts, out);
    swap_refused(facts, out);
    inspected(facts, out);
    over_budget(facts, out);
    built(facts, out);
}

} // namespace conductus::findings
