// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/brief.h"

#include "core/plan/build_marks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

#include "core/base/format.h"
#include "core/findings/answered.h"
#include "core/findings/rules.h"
#include "core/job/lookup.h"
#include "core/job/mating.h"
#include "core/job/words.h"
#include "core/lights/colour_names.h"
#include "core/plan/plan.h"

namespace conductus::plan {
namespace {

using job::Bound;

/// A change below the third figure is not seen by anybody and breaks no promise.
constexpr double unseen = 0.005;

/// How a person asks for a figure, and which way is worse.
struct Asked {
    const char *id, *label;
    Bound usual;
};
constexpr Asked figures_asked[] = {
    {"first-crackle", "clean runtime", Bound::at_least},
    {"dim", "bright runtime", Bound::at_least},
    {"cells-per-day", "cells a day", Bound::at_most},
    {"tip-brightness", "tip brightness", Bound::at_least},
    {"peak-current", "peak current", Bound::at_most},
    {"board-sag", "sag at the board", Bound::at_most},
    {"tightest-fit", "tightest fit", Bound::at_least},
    {"hottest-part", "hottest part", Bound::at_most},
};

template <class T>
Measure part_measure(const Plan& plan, const char* id, const char* label) {
    Measure m{id, label, "", Bound::same, true, {}, {}, {}, {}};
    if (const auto part = job::first_of<T>(*plan.job, *plan.parts)) {
        m.word = part.part->type;
        m.shown = part.type->name;
    } else {
        m.reason = say("no {} is fitted", label);
    }
    return m;
}

Measure word_measure(const char* id, const char* label, std::string_view word) {
    return {id, label, "", Bound::same, true, {}, std::string(word), std::string(word), {}};
}

Measure number_measure(const std::string& id, const std::string& label, const char* unit,
                       Bound usual, std::optional<double> value, const char* reason = "") {
    Measure m{id, label, unit, usual, false, value, {}, {}, value ? "" : reason};
    if (value) m.shown = measured_text(*value, unit);
    return m;
}

int pixels_of(const job::Job& job) {
    int pixels = 0;
    for (const job::Blade& blade : job.blades)
        for (const job::Strip& strip : blade.strips)
            pixels += strip.pixels;
    return pixels;
}

template <class T>
std::optional<double> count_of(const Plan& plan) {
    return static_cast<double>(
        std::count_if(plan.job->parts.begin(), plan.job->parts.end(), [&](const job::Part& p) {
            return plan.parts->find_as<T>(p.type) != nullptr;
        }));
}

/// A part, blade or strip with that ref, or of that type.
bool is_there(const job::Job& job, const std::string& target) {
    auto is = [&](const auto& e) { return e.ref == target || e.type == target; };
    return std::any_of(job.parts.begin(), job.parts.end(), is) ||
           std::any_of(job.blades.begin(), job.blades.end(), [&](const job::Blade& b) {
               return b.ref == target || std::any_of(b.strips.begin(), b.strips.end(), is);
           });
}

WishState wish_state(const Plan& plan, const job::Wish& wish) {
    WishState s;
    s.known = wish.by != job::Proof::hand;
    s.by = s.known ? fmt::format("{} {}", job::word(wish.by), wish.target) : "by hand";
    switch (wish.by) {
    case job::Proof::hand:
        s.done = wish.done;
        if (!s.done) s.reason = "not ticked yet";
        break;
    case job::Proof::look:
        s.done = plan.look(wish.target) != nullptr;
        if (!s.done)
            s.reason = job::find_name(plan.job->looks, wish.target)
                           ? say("the look {} can not be solved yet", wish.target)
                           : say("there is no look {}", wish.target);
        break;
    case job::Proof::colour: {
        const auto family = lights::family_named(wish.target);
        const bool seen = family && std::any_of(plan.seen.begin(), plan.seen.end(),
                                                [&](const auto& look) {
                                                    return look.family == *family;
                                                });
        s.done = seen;
        if (!family)
            s.reason = say("'{}' is no colour that is known here; {} are", wish.target,
                           conductus::joined(lights::family_words(), ", "));
        else if (!s.done)
            s.reason = say("no look is seen as {}", wish.target);
        break;
    }
    case job::Proof::part:
        s.done = is_there(*plan.whole, wish.target);
        if (const auto* type = plan.parts->find(wish.target)) s.by = "part " + type->name;
        if (!s.done) s.reason = say("{} is not fitted", s.by.substr(5));
        break;
    case job::Proof::finding: {
        s.by = fmt::format("finding {} closed", wish.target);
        const findings::Finding* open = findings::finding_of(plan.findings, wish.target);
        const bool known = findings::rule(wish.target) != nullptr;
        s.done = known && !open && !plan.trouble;
        if (!known)
            s.reason = say("no rule is called '{}'", wish.target);
        else if (!s.done)
            s.reason = plan.trouble ? Message("the plan can not be solved yet") : open->text;
        break;
    }
    }
    return s;
}

bool kept(const job::Agreement& a, const Measure& now) {
    if (now.words) return !a.word.empty() && a.word == now.word;
    if (!now.value || !a.value) return false;
    const double slack = std::abs(*a.value) * unseen + 1e-9;
    if (a.bound != Bound::at_most && *now.value < *a.value - slack) return false;
    return a.bound == Bound::at_least || *now.value <= *a.value + slack;
}

AgreementState agreement_state(const Plan& plan, const job::Agreement& a,
                               const std::vector<Measure>& all) {
    AgreementState s;
    s.agreed = !a.on.empty();
    const auto it =
        std::find_if(all.begin(), all.end(), [&](auto& m) { return m.id == a.measure; });
    if (it == all.end()) {
        s.now = {
            a.measure, a.measure, "", a.bound, false, {}, {}, {}, "the plan has no such figure"};
        s.says = say("the plan has no figure '{}'", a.measure);
        return s;
    }
    s.now = *it;
    if (s.now.words) {
        const auto* type = plan.parts->find(a.word);
        s.promised = type ? type->name : a.word;
    } else if (a.value) {
        s.promised = measured_text(*a.value, s.now.unit);
    }
    const bool open = s.promised.empty();
    // A proposal without a value promises what the plan says when it is agreed.
    s.holds = open ? !s.agreed && (s.now.value || !s.now.word.empty()) : kept(a, s.now);
    const Message now =
        s.now.shown.empty() ? say("not known: {}", s.now.reason) : Message(s.now.shown);
    if (open) {
        s.says = say("{}: {}now {}", s.now.label, s.agreed ? "agreed without a figure, " : "", now);
    } else {
        const std::string bound = s.now.words || a.bound == Bound::same
                                      ? std::string()
                                      : std::string(job::word(a.bound)) + " ";
        s.says = say("{} {} {}{}, now {}", s.now.label, s.agreed ? "agreed" : "proposed", bound,
                     s.promised, now);
    }
    return s;
}

} // namespace

namespace {

/// What a finding that was agreed with the owner says now.
Measure finding_measure(const Plan& plan, const job::Agreement& a) {
    const findings::Finding* now = nullptr;
    for (const auto* list : {&plan.findings, &plan.answered})
        for (const findings::Finding& f : *list)
            if (findings::measure_of(f) == a.measure) now = &f;
    if (!now) {
        Measure m = number_measure(a.measure, a.measure.substr(job::finding_measure.size()), "",
                                   a.bound, a.value);
        m.shown = "not found any more";
        return m;
    }
    if (now->evidence.empty()) {
        Measure m = number_measure(a.measure, now->text.english(), "", a.bound,
                                   static_cast<double>(now->where.size()));
        m.shown = "as it was";
        return m;
    }
    const findings::Evidence& e = now->evidence.front();
    Measure m =
        number_measure(a.measure, fmt::format("{} {}", findings::about(*now), e.label.english()),
                       e.unit.c_str(), a.bound, e.value);
    m.shown = measured_text(e.value, e.unit);
    return m;
}

} // namespace

std::string measured_text(double value, const std::string& unit) {
    return unit == "min" ? duration(Minute(value)) : with_unit(value, unit);
}

int BriefState::open_wishes() const {
    return static_cast<int>(
        std::count_if(wishes.begin(), wishes.end(), [](auto& w) { return !w.done; }));
}

int BriefState::broken() const {
    return static_cast<int>(std::count_if(agreements.begin(), agreements.end(),
                                          [](auto& a) { return a.agreed && !a.holds; }));
}

std::vector<Measure> measures(const Plan& plan) {
    std::vector<Measure> all;
    for (const Asked& asked : figures_asked) {
        const Explained* figure = plan.figure(asked.id);
        Measure m = number_measure(asked.id, asked.label, figure ? figure->unit.c_str() : "",
                                   asked.usual, figure ? figure->value : std::nullopt);
        if (!m.value) m.reason = figure ? figure->reason : "it is not computed";
        if (m.unit == "cells") m.unit.clear(); // the label says it
        if (m.value) m.shown = measured_text(*m.value, m.unit);
        all.push_back(std::move(m));
    }
    all.push_back(part_measure<catalogue::Cell>(plan, "cell", "cell"));
    all.push_back(part_measure<catalogue::Board>(plan, "board", "board"));
    all.push_back(part_measure<catalogue::Speaker>(plan, "speaker", "speaker"));
    all.push_back(part_measure<catalogue::Kill>(plan, "kill", "kill"));
    all.push_back(part_measure<catalogue::Connector>(plan, "connector", "connector"));
    all.push_back(word_measure("chassis", "chassis", job::word(chassis_of(plan.job->hilt))));
    all.push_back(
        number_measure("buttons", "buttons", "", Bound::same, count_of<catalogue::Button>(plan)));
    // Of the blades whose own a socket is: those that go in beside them change no promise.
    job::Job usual = *plan.whole;
    usual.mated.clear();
    usual = job::as_it_stands(usual);
    std::erase_if(usual.blades, [](const job::Blade& b) { return b.form == job::BladeForm::plug; });
    all.push_back(number_measure("blades", "blades", "", Bound::same,
                                 static_cast<double>(usual.blades.size())));
    std::optional<double> longest;
    for (const job::Blade& b : usual.blades)
        longest = std::max(longest.value_or(0), b.length.value());
    all.push_back(number_measure("blade-length", "longest blade", "mm", Bound::same, longest,
                                 "there is no blade"));
    all.push_back(
        number_measure("pixels", "pixels", "", Bound::same, static_cast<double>(pixels_of(usual))));
    all.push_back(number_measure("looks", "looks", "", Bound::at_least,
                                 static_cast<double>(plan.job->looks.size())));
    for (const job::Look& look : plan.job->looks) {
        const power::Percent* percent = nullptr;
        for (const power::Percent& p : plan.percents)
            if (p.look == look.name) percent = &p;
        std::optional<double> below;
        if (percent && percent->crackle) below = percent->change_below();
        all.push_back(number_measure(
            job::percent_measure + look.name, "change the cell below, with " + look.name, "%",
            Bound::at_most, below,
            percent ? "it does not crackle before it is off" : "it is not worked out yet"));
    }
    all.push_back(
        number_measure("loudness", "loudness", "%", Bound::at_least, plan.job->use.volume * 100));
    for (const job::Agreement& a : plan.job->brief.agreements)
        if (a.measure.starts_with(job::finding_measure)) all.push_back(finding_measure(plan, a));
    return all;
}

BriefState brief_of(const Plan& plan) {
    BriefState state;
    for (const job::Wish& wish : plan.job->brief.wishes)
        state.wishes.push_back(wish_state(plan, wish));
    if (plan.job->brief.agreements.empty()) return state;
    const auto all = measures(plan);
    for (const job::Agreement& agreement : plan.job->brief.agreements)
        state.agreements.push_back(agreement_state(plan, agreement, all));
    return state;
}

std::vector<findings::Finding> broken_agreements(const job::Job& job, const BriefState& state,
                                                 bool solved) {
    std::vector<findings::Finding> found;
    for (std::size_t i = 0; i < state.agreements.size(); ++i) {
        const AgreementState& s = state.agreements[i];
        if (!s.agreed || s.holds) continue;
        // The finding that was agreed counts again by itself.
        if (job.brief.agreements[i].measure.starts_with(job::finding_measure)) continue;
        // Where nothing is solved, one finding says so for all figures.
        if (!solved && !s.now.words && !s.now.value) continue;
        const job::Agreement& a = job.brief.agreements[i];
        findings::Finding f;
        f.id = "agreement.broken";
        f.severity = findings::Severity::warn;
        f.station = findings::Station::brief;
        f.text = s.says;
        f.detail = say("{}Agreed on {}. Plan it so that it holds again, or put the new "
                       "figure to the owner and agree it anew.",
                       a.text.empty() ? "" : "“" + a.text + "”. ", a.on);
        if (a.value) f.evidence.push_back({"agreed", *a.value, s.now.unit});
        if (s.now.value) f.evidence.push_back({"now", *s.now.value, s.now.unit});
        found.push_back(std::move(f));
    }
    return found;
}

std::vector<findings::Finding> open_wishes(const job::Job& job, const BriefState& state) {
    std::vector<findings::Finding> found;
    if (job.stage != job::Stage::handed_over) return found;
    std::vector<std::string> open;
    for (std::size_t i = 0; i < state.wishes.size(); ++i)
        if (!state.wishes[i].done) open.push_back("“" + job.brief.wishes[i].text + "”");
    if (open.empty()) return found;
    const std::size_t many = open.size();
    if (many > 3) open.resize(3), open.push_back("…");
    findings::Finding f;
    f.id = "brief.wish-open";
    f.severity = findings::Severity::note;
    f.station = findings::Station::brief;
    f.text = many == 1 ? Message("Handed over, and a wish is open")
                       : say("Handed over, and {} wishes are open", many);
    f.detail = say("{}. Fulfil it, or tell the owner and note what was said.",
                   conductus::joined(open, ", "));
    f.evidence.push_back({"open", static_cast<double>(many), "wishes"});
    found.push_back(std::move(f));
    return found;
}

} // namespace conductus::plan
