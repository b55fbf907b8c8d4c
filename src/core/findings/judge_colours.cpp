// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of colours as they are seen: too near to tell apart, called by another's name, wanted and
// not there.
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/findings/facts.h"
#include "core/findings/rule_tools.h"
#include "core/job/lookup.h"
#include "core/lights/colour_names.h"

namespace conductus::findings {
namespace {

/// A person sees two lights side by side as different from here on. Source: docs/models.md,
/// "Colour".
constexpr double told_apart = 0.02;

std::optional<double> apart(const std::optional<lights::Uv>& a,
                            const std::optional<lights::Uv>& b) {
    if (!a || !b) return std::nullopt;
    return std::hypot(a->u - b->u, a->v - b->v);
}

bool is_near(const std::optional<double>& distance) { return distance && *distance < told_apart; }

/// Looks of the same style that are alike at the foot, or that become alike at the tip. Each is
/// named with the nearest of those before it.
void too_near(const Facts& f, std::vector<Finding>& out) {
    for (std::size_t i = 0; i < f.seen.size(); ++i) {
        const SeenLook& look = f.seen[i];
        const SeenLook* nearest = nullptr;
        double least = told_apart;
        bool foot = false;
        for (std::size_t k = 0; k < i; ++k) {
            const SeenLook& other = f.seen[k];
            if (other.style != look.style) continue;
            const auto at_foot = apart(look.foot, other.foot), at_tip = apart(look.tip, other.tip);
            // Two colours along a blade are told apart by either of them.
            const bool two = look.style == job::Style::two || look.style == job::Style::flame;
            const bool alike = two ? is_near(at_foot) && is_near(at_tip)
                                   : is_near(at_foot) || is_near(at_tip);
            if (!alike) continue;
            const double d = std::min(at_foot.value_or(1), at_tip.value_or(1));
            if (nearest && d >= least) continue;
            nearest = &other, least = d, foot = is_near(at_foot);
        }
        if (!nearest) continue;
        out.push_back(raise(
            "look.too-near", Severity::note, Station::lights, {look.look, nearest->look},
            foot ? say("{} and {} look the same", look.look, nearest->look)
                 : say("{} and {} look the same at the tip", look.look, nearest->look),
            say("They are {} apart in u′v′; a person sees 0.02. Tell the owner, or part the two.",
                decimals(least, 3)),
            {{"apart in u′v′", least, ""}}));
    }
}

/// A look whose name promises a colour that is not seen.
void misleading(const Facts& f, std::vector<Finding>& out) {
    for (const SeenLook& look : f.seen) {
        const std::string word = lights::colour_word_in(look.look);
        if (word.empty() || !look.family) continue;
        const lights::Family promised = *lights::family_named(word);
        if (lights::near_enough(promised, *look.family)) continue;
        const job::Look* of = job::find_name(f.job->looks, look.look);
        // A second colour along the blade may be the one that it is called by.
        if (of && (look.style == job::Style::two || look.style == job::Style::flame) && look.tip &&
            lights::near_enough(promised, lights::family_of(*look.tip)))
            continue;
        if (of && look.style == job::Style::cycle) continue;
        out.push_back(raise("look.name-misleads", Severity::warn, Station::lights, {look.look},
                            say("{} is seen as {}", look.look, lights::word(*look.family)),
                            say("Its name promises {}. Rename it, or mix another colour.", word),
                            {{"families apart",
                              static_cast<double>(std::abs(static_cast<int>(promised) -
                                                           static_cast<int>(*look.family))),
                              ""}}));
    }
}

/// A colour that a wish names, not fulfilled yet, and that no look is seen in.
void missing(const Facts& f, std::vector<Finding>& out) {
    if (f.seen.empty()) return;
    for (const job::Wish& wish : f.job->brief.wishes) {
        if (wish.by != job::Proof::hand || wish.done) continue;
        const std::string word = lights::colour_word_in(wish.text);
        if (word.empty()) continue;
        const lights::Family wanted = *lights::family_named(word);
        const auto shows = [&](const SeenLook& l) {
            return l.family && lights::near_enough(*l.family, wanted);
        };
        if (std::any_of(f.seen.begin(), f.seen.end(), shows)) continue;
        out.push_back(raise("look.colour-missing", Severity::note, Station::lights, {wish.text},
                            say("No look is {}, and a wish asks for it", word),
                            say("“{}”. Add a look of that colour, or tick the wish if it means "
                                "something else.",
                                wish.text),
                            {{"looks", static_cast<double>(f.seen.size()), ""}}));
    }
}

} // namespace

void judge_colours(const Facts& facts, std::vector<Finding>& out) {
    too_near(facts, out);
    misleading(facts, out);
    missing(facts, out);
}

} // namespace conductus::findings
