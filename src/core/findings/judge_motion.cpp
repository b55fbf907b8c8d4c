// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of motion: what usual movements are taken for at the thresholds that are set, and what the
// test sheet says.
#include <algorithm>
#include <fmt/format.h>
#include <set>

#include "core/base/format.h"
#include "core/findings/facts.h"
#include "core/findings/rule_tools.h"
#include "core/job/words.h"
#include "core/motion/felt.h"

namespace conductus::findings {
namespace {

using job::Felt;

std::string with_felt_unit(double value, Felt what) {
    const bool blow = what == Felt::thrust || what == Felt::tap || what == Felt::clash;
    return fmt::format("{} {}", decimals(value, blow ? 1 : 0), motion::unit_of(what));
}

Felt felt_as(job::Motion motion) {
    switch (motion) {
    case job::Motion::twist:
        return Felt::twist;
    case job::Motion::swing:
        return Felt::swing;
    case job::Motion::thrust:
        return Felt::thrust;
    case job::Motion::tap:
        return Felt::tap;
    case job::Motion::roll:
        return Felt::roll;
    case job::Motion::none:
        break;
    }
    return Felt::nothing;
}

/// The usual movements of a board that sits firmly.
const std::vector<motion::Trace>& firm_set() {
    static const std::vector<motion::Trace> set = [] {
        std::vector<motion::Trace> all = motion::made_up_set();
        std::erase_if(all, [](const motion::Trace& t) {
            return t.name == motion::word(motion::Movement::loose_board);
        });
        return all;
    }();
    return set;
}

/// The middle between what is meant and what is not; empty: no threshold parts them.
std::optional<double> parting_of(const job::MotionSettings& settings, Felt what) {
    for (const motion::Parting& p : motion::partings(firm_set(), settings))
        if (p.what == what && p.parts()) return (p.lively() + p.calm()) / 2;
    return std::nullopt;
}

void propose_threshold(Finding& finding, const job::MotionSettings& settings, Felt what) {
    const auto middle = parting_of(settings, what);
    if (!middle) return;
    // As it is typed: two figures that count.
    const double step = *middle >= 20 ? 5 : 0.1;
    const double value = std::round(*middle / step) * step;
    finding.proposed.push_back(
        {say("set {} from {} on", job::word(what), with_felt_unit(value, what)),
         [what, value](job::Job& job) { motion::threshold_of(job.config.motion, what) = value; }});
}

void as_set(const Facts& f, std::vector<Finding>& out) {
    const job::MotionSettings& settings = f.job->config.motion;
    if (settings == job::MotionSettings{}) return;
    std::map<Felt, std::pair<std::set<std::string>, double>> wrongly, missed;
    for (const motion::Trace& trace : firm_set()) {
        const motion::Understood u = motion::understood(trace, settings);
        for (const motion::Event& e : u.events)
            if (!e.meant) {
                auto& [names, most] = wrongly[e.what];
                names.insert(trace.name);
                most = std::max(most, e.most);
            }
        for (const motion::Meant& m : u.missed) {
            auto& [names, most] = missed[m.what];
            names.insert(trace.name);
            for (const double v : motion::values_of(trace, m.what))
                most = std::max(most, v);
        }
    }
    for (const auto& [what, all] : wrongly) {
        const std::vector<std::string> names(all.first.begin(), all.first.end());
        Finding finding = raise(
            "motion.false", Severity::warn, Station::handling, {std::string(job::word(what))},
            say("{} counts as a {} from {} on", conductus::joined(names, ", "), job::word(what),
                with_felt_unit(motion::threshold_of(settings, what), what)),
            "Of the usual movements. Where it happens at the bench, look for a loose board or "
            "speaker before the threshold is changed.",
            {{"goes to", all.second, motion::unit_of(what)},
             {"begins at", motion::threshold_of(settings, what), motion::unit_of(what)}});
        propose_threshold(finding, settings, what);
        out.push_back(std::move(finding));
    }
    for (const auto& [what, all] : missed) {
        const std::vector<std::string> names(all.first.begin(), all.first.end());
        Finding finding = raise(
            "motion.missed", Severity::warn, Station::handling, {std::string(job::word(what))},
            say("A usual {} is not felt: it begins at {}", conductus::joined(names, ", "),
                with_felt_unit(motion::threshold_of(settings, what), what)),
            "The person has to be livelier than people are.",
            {{"comes to", all.second, motion::unit_of(what)},
             {"begins at", motion::threshold_of(settings, what), motion::unit_of(what)}});
        propose_threshold(finding, settings, what);
        out.push_back(std::move(finding));
    }
    std::set<Felt> asked;
    for (const job::Command& c : f.job->handling.commands) {
        const Felt what = felt_as(c.trigger.motion);
        if (what == Felt::nothing || motion::threshold_of(settings, what) > 0 ||
            !asked.insert(what).second)
            continue;
        Finding finding = raise("motion.not-listened", Severity::warn, Station::handling, {c.name},
                                say("{} is by {}, and the board does not listen for that", c.name,
                                    job::word(c.trigger.motion)),
                                "No threshold is entered for it.", {});
        propose_threshold(finding, settings, what);
        out.push_back(std::move(finding));
    }
}

/// What the test sheet says.
void as_tried(const Facts& f, std::vector<Finding>& out) {
    for (const job::MotionTest& t : f.job->motion_tests) {
        if (t.on.empty() || t.observed == t.wanted) continue;
        const bool wrongly = t.observed != Felt::nothing;
        out.push_back(raise(
            "motion.not-as-wanted", Severity::warn, Station::handling, {t.movement},
            t.wanted == Felt::nothing
                ? say("{} was taken for a {}", t.movement, job::word(t.observed))
            : wrongly ? say("{} was taken for a {}, not for a {}", t.movement,
                            job::word(t.observed), job::word(t.wanted))
                      : say("{} was not felt as a {}", t.movement, job::word(t.wanted)),
            wrongly
                ? Message("Look for a loose board or speaker first: shake the hilt at your ear. "
                          "Change a threshold only when nothing is loose.")
                : Message("Make the movement as it is on the sheet. Then lower the threshold."),
            {}));
    }
}

} // namespace

void judge_motion(const Facts& f, std::vector<Finding>& out) {
    as_set(f, out);
    as_tried(f, out);
}

} // namespace conductus::findings
