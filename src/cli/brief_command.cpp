// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>

#include "cli/commands.h"
#include "core/plan/compare.h"
#include "files/json_text.h"

namespace conductus::cli {
namespace {

using files::Json;

/// A number, a word or nothing.
Json value_json(const std::optional<double>& value, const std::string& word) {
    if (value) return *value;
    return word.empty() ? Json() : Json(word);
}

Json agreement_json(const job::Agreement& a, const plan::AgreementState& s) {
    return {{"text", a.text},
            {"agreed_value", s.now.words ? value_json({}, s.promised) : value_json(a.value, "")},
            {"now", value_json(s.now.value, s.now.shown)},
            {"holds", s.holds},
            {"agreed", s.agreed},
            {"measure", a.measure},
            {"unit", s.now.unit},
            {"on", a.on},
            {"says", s.says}};
}

} // namespace

int brief(const catalogue::Catalogue& parts, const std::string& name, bool json) {
    const auto plan = analysed(parts, name);
    if (!plan) return refuse(plan.error());
    const job::Brief& asked = plan->job->brief;
    if (json) {
        Json wishes = Json::array(), agreements = Json::array();
        for (std::size_t i = 0; i < asked.wishes.size(); ++i) {
            const plan::WishState& s = plan->brief.wishes[i];
            Json one{
                {"text", asked.wishes[i].text}, {"state", s.done ? "done" : "open"}, {"by", s.by}};
            if (!s.done) one["reason"] = s.reason;
            wishes.push_back(std::move(one));
        }
        for (std::size_t i = 0; i < asked.agreements.size(); ++i)
            agreements.push_back(agreement_json(asked.agreements[i], plan->brief.agreements[i]));
        fmt::print("{}\n", Json{{"wishes", wishes}, {"agreements", agreements}}.dump(2));
        return fine;
    }
    for (std::size_t i = 0; i < asked.wishes.size(); ++i) {
        const plan::WishState& s = plan->brief.wishes[i];
        fmt::print("{} {}  [{}]{}\n", s.done ? "done" : "open", asked.wishes[i].text, s.by,
                   s.done ? "" : "  " + s.reason.english());
    }
    for (std::size_t i = 0; i < asked.agreements.size(); ++i) {
        const plan::AgreementState& s = plan->brief.agreements[i];
        fmt::print("{} {}: {}\n",
                   !s.agreed ? "open   "
                   : s.holds ? "holds  "
                             : "broken ",
                   asked.agreements[i].text, s.says);
    }
    return fine;
}

int diff(const catalogue::Catalogue& parts, const std::string& before, const std::string& after,
         bool json) {
    const auto a = analysed(parts, before);
    if (!a) return refuse(a.error());
    const auto b = analysed(parts, after);
    if (!b) return refuse(b.error());
    const plan::Comparison c = plan::compare(*a, *b);
    if (json) {
        Json changes = Json::array(), figures = Json::array(), agreements = Json::array();
        for (const job::Change& change : c.changes)
            changes.push_back({{"kind", job::word(change.kind)},
                               {"path", change.path},
                               {"before", change.before},
                               {"after", change.after},
                               {"text", change.text}});
        for (const plan::FigureChange& f : c.figures)
            figures.push_back({{"id", f.id},
                               {"unit", f.unit},
                               {"before", value_json(f.before, "")},
                               {"after", value_json(f.after, "")},
                               {"text", f.text}});
        for (const plan::AgreementChange& change : c.agreements)
            agreements.push_back(change.text);
        const Json all{{"changes", changes},
                       {"figures", figures},
                       {"agreements", agreements},
                       {"findings", c.findings}};
        fmt::print("{}\n", all.dump(2));
        return fine;
    }
    if (c.empty()) fmt::print("no difference\n");
    for (const Message& line : c.lines())
        fmt::print("{}\n", line);
    return fine;
}

} // namespace conductus::cli
