// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/findings/answered.h"

#include <algorithm>
#include <cmath>
#include <iterator>

#include "core/base/format.h"
#include "core/job/words.h"

namespace conductus::findings {
namespace {

/// How a figure of a rule's evidence is bad.
struct Judged {
    std::string_view label;
    enum class Bad { higher, lower, beside } bad;
    std::string_view limit = {}; ///< label of what it is held against
};
using Bad = Judged::Bad;

constexpr Judged judged_labels[] = {
    {"after", Bad::lower},
    {"agreed", Bad::beside},
    {"alike", Bad::higher},
    {"apart in u′v′", Bad::lower},
    {"apart", Bad::higher},
    {"aside", Bad::higher, "pitch"},
    {"asked for", Bad::beside},
    {"at", Bad::beside},
    {"away", Bad::higher},
    {"blade", Bad::beside},
    {"board holds", Bad::beside},
    {"bright", Bad::lower, "asked for"},
    {"budget", Bad::beside},
    {"burns", Bad::higher, "rated"},
    {"buttons", Bad::higher},
    {"cap", Bad::beside},
    {"capacities apart", Bad::higher},
    {"carries then", Bad::higher, "trips at"},
    {"carries", Bad::higher, "holds"},
    {"carries", Bad::higher, "limit"},
    {"carries", Bad::higher, "rated"},
    {"carries", Bad::higher, "usually given"},
    {"cells", Bad::beside},
    {"charges with", Bad::higher},
    {"clean on one cell", Bad::lower},
    {"clean", Bad::lower, "asked for"},
    {"colours asked", Bad::higher, "colours driven"},
    {"colours driven", Bad::beside},
    {"colours of the other", Bad::beside},
    {"colours", Bad::beside},
    {"cone", Bad::beside},
    {"contacts", Bad::lower, "wires"},
    {"dark", Bad::higher},
    {"data", Bad::lower, "needed"},
    {"deep sleep", Bad::higher},
    {"depth", Bad::beside},
    {"die", Bad::higher, "stands"},
    {"draws", Bad::higher},
    {"driven", Bad::beside},
    {"each pin", Bad::higher, "rated"},
    {"ends at", Bad::higher, "blade"},
    {"ends", Bad::lower},
    {"families apart", Bad::higher},
    {"feels it", Bad::lower},
    {"first pixel", Bad::beside},
    {"flat after", Bad::lower},
    {"follow from it", Bad::higher},
    {"foot", Bad::beside},
    {"from length", Bad::beside},
    {"full short", Bad::higher},
    {"gets", Bad::higher, "stands"},
    {"gives", Bad::lower, "should give"},
    {"goes in", Bad::lower, "opens at"},
    {"ground shift", Bad::beside},
    {"has", Bad::beside},
    {"held for ever", Bad::beside},
    {"held", Bad::higher, "rated"},
    {"hidden", Bad::higher},
    {"holds", Bad::beside},
    {"hole", Bad::lower, "takes"},
    {"ignited a day", Bad::higher},
    {"in the socket", Bad::higher},
    {"inside", Bad::beside},
    {"is", Bad::higher, "may be"},
    {"jack takes", Bad::beside},
    {"key", Bad::beside},
    {"lean", Bad::higher},
    {"length", Bad::lower, "takes"},
    {"letters read", Bad::beside},
    {"letters", Bad::higher, "letters read"},
    {"lights", Bad::higher, "driven"},
    {"limit", Bad::beside},
    {"looks solved", Bad::lower},
    {"looks", Bad::beside},
    {"made for", Bad::beside},
    {"makes at first", Bad::higher},
    {"makes", Bad::higher},
    {"may be", Bad::beside},
    {"measured", Bad::higher, "nominal"},
    {"measured", Bad::higher, "usual"},
    {"meets at", Bad::higher},
    {"mend", Bad::higher},
    {"missing", Bad::higher},
    {"named", Bad::higher},
    {"needed", Bad::beside},
    {"needs", Bad::higher, "has"},
    {"nominal", Bad::beside},
    {"not planned", Bad::higher},
    {"now", Bad::higher, "agreed"},
    {"on the line", Bad::higher, "driven"},
    {"on the pad", Bad::higher},
    {"open", Bad::higher},
    {"openings", Bad::beside},
    {"opens at", Bad::beside},
    {"opens", Bad::lower},
    {"out of reach", Bad::higher},
    {"out of turn", Bad::higher},
    {"outside", Bad::beside},
    {"over", Bad::higher},
    {"pads", Bad::beside},
    {"parts", Bad::higher, "budget"},
    {"peak", Bad::higher, "trips at"},
    {"pitch", Bad::beside},
    {"pixels", Bad::higher, "driven"},
    {"plug in", Bad::higher},
    {"plug out", Bad::beside},
    {"plug", Bad::higher, "jack takes"},
    {"poles", Bad::beside},
    {"presets", Bad::higher, "board holds"},
    {"pressure", Bad::higher},
    {"protected", Bad::beside},
    {"rated", Bad::beside},
    {"reaches", Bad::higher},
    {"readings", Bad::lower},
    {"resistor", Bad::higher, "usual"},
    {"rise", Bad::higher},
    {"runs at", Bad::higher, "stands"},
    {"runs at", Bad::higher, "stated"},
    {"runs at", Bad::lower, "made for"},
    {"screws", Bad::higher},
    {"seats", Bad::lower},
    {"begins at", Bad::beside},
    {"comes to", Bad::lower, "begins at"},
    {"goes to", Bad::higher, "begins at"},
    {"answers late", Bad::higher},
    {"commands", Bad::beside},
    {"meanings", Bad::beside},
    {"presets out of reach", Bad::higher},
    {"slips", Bad::beside},
    {"ways in", Bad::beside},
    {"ways out", Bad::beside},
    {"segment", Bad::beside},
    {"segments", Bad::higher},
    {"set alike", Bad::higher},
    {"set", Bad::higher, "from length"},
    {"set", Bad::higher, "limit"},
    {"set", Bad::higher, "wired"},
    {"shorter by", Bad::higher},
    {"should give", Bad::beside},
    {"sinks", Bad::higher, "rated"},
    {"spare", Bad::lower, "wanted"},
    {"stands", Bad::beside},
    {"stated", Bad::beside},
    {"still to go", Bad::higher},
    {"string", Bad::higher, "blade"},
    {"taken", Bad::higher},
    {"takes across", Bad::higher, "inside"},
    {"takes", Bad::beside},
    {"things", Bad::beside},
    {"tip against foot", Bad::lower, "wanted"},
    {"tip swings", Bad::higher},
    {"told apart", Bad::beside},
    {"trips at", Bad::beside},
    {"turned", Bad::beside},
    {"turns", Bad::higher},
    {"usual", Bad::beside},
    {"usually given", Bad::beside},
    {"vents", Bad::lower, "cone"},
    {"volts of the row", Bad::beside},
    {"volts, in cells", Bad::beside},
    {"wanted", Bad::beside},
    {"wants", Bad::higher, "has"},
    {"ways to the cell", Bad::lower},
    {"wide", Bad::higher, "inside"},
    {"wired", Bad::beside},
    {"wires past it", Bad::higher},
    {"wires", Bad::higher},
    {"wrong way round", Bad::higher},
};

/// Rules that guard a cell, or a person from one.
constexpr std::string_view lithium_rules[] = {
    "cell.shorted",          "cell.reversed",      "supply.reversed",     "fuse.bypassed",
    "cell.over-continuous",  "cell.hot",           "cell.mixed-pack",     "cell.unprotected-beside",
    "cell.lithium-cautions", "charge.behind-kill", "charge.bare-in-hilt", "charge.too-fast",
    "charge.cells",          "charge.no-balance",  "charge.timer",        "charge.port-rating",
    "charge.not-this-cell"};

using Figures = std::vector<job::AnsweredFigure>;

Figures told_figures(const Finding& f) {
    Figures all;
    // What is endless or beyond all measure is told as the most that a job holds.
    constexpr double most = 1e9;
    for (const Evidence& e : f.evidence)
        all.push_back({e.label.english(),
                       std::isnan(e.value) ? 0 : std::clamp(e.value, -most, most), e.unit});
    if (f.evidence.empty()) all.push_back({"named", static_cast<double>(f.where.size()), ""});
    all.push_back({"follow from it", static_cast<double>(f.follows.size()), ""});
    return all;
}

const job::AnsweredFigure* figure(const Figures& all, std::string_view label) {
    const auto it = std::find_if(all.begin(), all.end(), [&](auto& f) { return f.label == label; });
    return it == all.end() ? nullptr : &*it;
}

/// Half of what the third digit of a figure counts.
double unseen(double value) {
    return value == 0 ? 0 : 0.5 * std::pow(10, std::floor(std::log10(std::abs(value))) - 2);
}

/// How bad a figure is: the larger, the worse. Empty: it is told beside.
std::optional<double> badness(const Figures& all, const job::AnsweredFigure& one) {
    const Judged* alone = nullptr;
    for (const Judged& j : judged_labels) {
        if (j.label != one.label) continue;
        if (j.bad == Bad::beside) return std::nullopt;
        alone = &j;
        if (const auto* limit = figure(all, j.limit); limit && limit->unit == one.unit)
            return std::abs(one.value - limit->value);
    }
    return alone && alone->bad == Bad::lower ? -one.value : one.value;
}

int gravity_rank(const Finding& f) {
    return static_cast<int>(f.severity);
} // the graver the smaller

int gravest(const Finding& f) {
    int all = gravity_rank(f);
    for (const Finding& then : f.follows)
        all = std::min(all, gravity_rank(then));
    return all;
}

/// "carries 5.3 A": what of it is worse.
Message grown(const job::Answered& then, const Finding& now) {
    const Figures figures = told_figures(now);
    for (const job::AnsweredFigure& was : then.figures) {
        const auto* is = figure(figures, was.label);
        if (!is || !badness(figures, *is) || is->value == was.value) continue;
        return say("then: {} {}", was.label, with_unit(was.value, was.unit));
    }
    return say("then: {}", job::word(then.gravity));
}

} // namespace

bool about_lithium(std::string_view id) {
    return std::find(std::begin(lithium_rules), std::end(lithium_rules), id) !=
           std::end(lithium_rules);
}

std::string about(const Finding& finding) {
    if (!finding.where.empty()) return finding.where.front();
    // Each is about a measure of its own, which its text begins with.
    if (finding.id == "agreement.broken" && !finding.text.arguments().empty())
        return finding.text.arguments().front().english();
    return {};
}

std::string measure_of(const Finding& finding) {
    const std::string what = about(finding);
    return job::finding_measure + finding.id + (what.empty() ? "" : " " + what);
}

job::Bound bound_of(const Finding& finding) {
    const Figures figures = told_figures(finding);
    const job::AnsweredFigure& first = figures.front();
    for (const Judged& j : judged_labels)
        if (j.label == first.label)
            return j.bad == Bad::lower ? job::Bound::at_least : job::Bound::at_most;
    return job::Bound::at_most;
}

Result<job::Edit> answer(const Finding& finding, job::Answer how, std::string why, std::string on) {
    const bool acknowledged = how == job::Answer::acknowledged;
    if (about_lithium(finding.id) && !acknowledged)
        return problem(finding.id, "is about a lithium cell and can not be silenced",
                       "Acknowledge it: it goes on to count");
    if (acknowledged && !about_lithium(finding.id))
        return problem(finding.id, "is not about a lithium cell",
                       "Accept it, or agree it with the owner");
    if (why.find_first_not_of(" \t\r\n") == std::string::npos)
        return problem(finding.id, "is answered without a reason", "Say why");
    job::Answered a;
    a.finding = finding.id;
    a.about = about(finding);
    a.how = how;
    a.why = std::move(why);
    a.on = std::move(on);
    a.gravity = static_cast<job::Gravity>(gravest(finding));
    a.figures = told_figures(finding);
    job::Agreement agreement;
    agreement.text = a.why;
    agreement.kind = job::Bargain::trade_off;
    agreement.measure = measure_of(finding);
    agreement.bound = bound_of(finding);
    agreement.value = agreement.that_day = a.figures.front().value;
    agreement.on = a.on;
    return job::Edit([a, agreement, forget = take_back(finding)](job::Job& job) mutable {
        (void)forget(job);
        job.answered.push_back(a);
        if (a.how == job::Answer::agreed) job.brief.agreements.push_back(agreement);
    });
}

job::Edit take_back(const Finding& finding) {
    return [id = finding.id, what = about(finding), measure = measure_of(finding)](job::Job& job) {
        std::erase_if(job.answered,
                      [&](const job::Answered& a) { return a.finding == id && a.about == what; });
        std::erase_if(job.brief.agreements,
                      [&](const job::Agreement& a) { return a.measure == measure; });
    };
}

bool worse_than(const job::Answered& then, const Finding& now) {
    if (gravest(now) < static_cast<int>(then.gravity)) return true;
    const Figures figures = told_figures(now);
    return std::any_of(figures.begin(), figures.end(), [&](const job::AnsweredFigure& is) {
        const auto bad = badness(figures, is);
        if (!bad) return false;
        const auto* was = figure(then.figures, is.label);
        const auto bad_then = was ? badness(then.figures, *was) : std::nullopt;
        // A figure that nobody saw that day, or that was on the other side of its limit.
        if (!bad_then) return true;
        return *bad - *bad_then > unseen(std::max(std::abs(is.value), std::abs(was->value)));
    });
}

std::vector<Finding> take_answered(std::vector<Finding>& findings,
                                   const std::vector<job::Answered>& answers) {
    std::vector<Finding> taken;
    std::vector<Finding> open;
    for (Finding& f : findings) {
        const auto it = std::find_if(answers.begin(), answers.end(), [&](const job::Answered& a) {
            return a.finding == f.id && a.about == about(f);
        });
        if (it == answers.end()) {
            open.push_back(std::move(f));
            continue;
        }
        const bool back = worse_than(*it, f);
        f.answer = AnswerGiven{it->how, it->why, it->on, back};
        if (about_lithium(f.id)) f.answer->how = job::Answer::acknowledged;
        if (back)
            f.detail = say("{} It is worse than when it was {} on {} ({}); {}.", f.detail,
                           job::word(f.answer->how), it->on, it->why, grown(*it, f));
        const bool silent = !back && f.answer->how != job::Answer::acknowledged;
        (silent ? taken : open).push_back(std::move(f));
    }
    findings = std::move(open);
    return taken;
}

bool known_label(std::string_view label) {
    return std::any_of(std::begin(judged_labels), std::end(judged_labels),
                       [&](const Judged& j) { return j.label == label; });
}

} // namespace conductus::findings
