// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/compare.h"

#include <algorithm>
#include <fmt/format.h>

namespace conductus::plan {
namespace {

std::string shown(const Measure& m) { return m.value ? m.shown : std::string("not known"); }

std::vector<FigureChange> figure_changes(const Plan& before, const Plan& after) {
    std::vector<FigureChange> list;
    const auto a = measures(before), b = measures(after);
    for (std::size_t i = 0; i < a.size(); ++i) {
        if (a[i].words || !after.figure(a[i].id)) continue; // facts are among the changes
        if (shown(a[i]) == shown(b[i])) continue;
        list.push_back({a[i].id, a[i].unit, a[i].value, b[i].value,
                        say("{} {} → {}", a[i].label, shown(a[i]), shown(b[i]))});
    }
    return list;
}

/// By words, since agreements have no other name; a changed one is among the changes.
std::vector<AgreementChange> agreement_changes(const Plan& before, const Plan& after) {
    std::vector<AgreementChange> list;
    const auto& was = before.job->brief.agreements;
    const auto& is = after.job->brief.agreements;
    for (std::size_t i = 0; i < is.size(); ++i) {
        if (is[i].on.empty()) continue;
        const auto it = std::find_if(was.begin(), was.end(), [&](const job::Agreement& a) {
            return a.text == is[i].text && a.measure == is[i].measure;
        });
        const bool now = after.brief.agreements[i].holds;
        if (it == was.end()) {
            if (!now)
                list.push_back({now, say("agreement {} is broken: {}", i + 1,
                                         after.brief.agreements[i].says)});
            continue;
        }
        const auto& then = before.brief.agreements[static_cast<std::size_t>(it - was.begin())];
        // Put to the plan of then, it may have been broken before it was agreed.
        if (then.holds == now) continue;
        list.push_back({now, now ? say("agreement {} now holds", i + 1)
                                 : say("agreement {} is now broken: {}", i + 1,
                                       after.brief.agreements[i].says)});
    }
    return list;
}

std::vector<Message> finding_changes(const Plan& before, const Plan& after) {
    auto same = [](const findings::Finding& f) {
        return [&f](const findings::Finding& g) { return f.id == g.id && f.where == g.where; };
    };
    std::vector<Message> list;
    for (const auto& f : before.findings)
        if (f.id != "agreement.broken" &&
            std::none_of(after.findings.begin(), after.findings.end(), same(f)))
            list.push_back(say("closed: {}", f.text));
    for (const auto& f : after.findings)
        if (f.id != "agreement.broken" &&
            std::none_of(before.findings.begin(), before.findings.end(), same(f)))
            list.push_back(say("new: {}", f.text));
    return list;
}

} // namespace

std::vector<Message> Comparison::lines() const {
    std::vector<Message> all;
    for (const auto& c : changes)
        all.push_back(c.text);
    for (const auto& f : figures)
        all.push_back(f.text);
    for (const auto& a : agreements)
        all.push_back(a.text);
    all.insert(all.end(), findings.begin(), findings.end());
    return all;
}

Comparison compare(const Plan& before, const Plan& after) {
    return {job::changes(*before.job, *after.job, *after.parts), figure_changes(before, after),
            agreement_changes(before, after), finding_changes(before, after)};
}

} // namespace conductus::plan
