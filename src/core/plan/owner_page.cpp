// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/owner_page.h"

#include <algorithm>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/harness/plugs.h"
#include "core/job/lookup.h"
#include "core/job/mating.h"
#include "core/job/preset_changes.h"
#include "core/job/words.h"
#include "core/plan/handled.h"

namespace conductus::plan {
namespace {

using job::Bargain;
using job::Job;
using Mark = OwnerLine::Mark;

OwnerSection use_of(const Job& job) {
    OwnerSection s{"How it will be used", {}};
    auto add = [&](const char* what, const std::string& figure) {
        s.lines.push_back({Mark::none, what, figure});
    };
    if (job.brief.occasion != job::Occasion::unsaid)
        add("Use", std::string(job::word(job.brief.occasion)));
    if (job.use.clean > Minute(0)) add("Clean runtime wanted", duration(job.use.clean));
    if (job.use.ignited > Minute(0)) add("Lit on a day", duration(job.use.ignited));
    for (const auto& b : job.brief.blades)
        add("Blade wanted", fmt::format("{} long, {} wide", text(b.length), text(b.outer)));
    if (job.brief.swap != job::Swap::unsaid)
        add("Change of cells during the day", std::string(job::word(job.brief.swap)));
    if (job.brief.budget)
        add("Budget", fmt::format("{:.2f} {}", *job.brief.budget, job.brief.currency));
    return s;
}

OwnerSection wishes_of(const Plan& plan) {
    OwnerSection s{"Wishes", {}};
    for (std::size_t i = 0; i < plan.brief.wishes.size(); ++i) {
        const bool done = plan.brief.wishes[i].done;
        s.lines.push_back({done ? Mark::holds : Mark::open, plan.job->brief.wishes[i].text,
                           done ? "in the plan" : "open"});
    }
    return s;
}

OwnerSection bargains_of(const Plan& plan, Bargain kind, const char* heading) {
    OwnerSection s{heading, {}};
    for (std::size_t i = 0; i < plan.brief.agreements.size(); ++i) {
        const job::Agreement& a = plan.job->brief.agreements[i];
        const AgreementState& state = plan.brief.agreements[i];
        if (a.kind != kind) continue;
        const Mark mark = !state.agreed ? Mark::open : state.holds ? Mark::holds : Mark::broken;
        s.lines.push_back({mark, a.text.empty() ? state.now.label : a.text,
                           state.agreed ? fmt::format("{} ({})", state.says.english(), a.on)
                                        : state.says.english()});
    }
    return s;
}

OwnerSection planned(const Plan& plan) {
    OwnerSection s{"As planned", {}};
    for (const Measure& m : measures(plan))
        if ((m.id == "cell" || m.id == "board" || m.id == "speaker" || m.id == "kill" ||
             m.id == "first-crackle" || m.id == "cells-per-day") &&
            !m.shown.empty()) {
            std::string label = m.label;
            label[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(label[0])));
            s.lines.push_back({Mark::none, label, m.shown});
        }
    return s;
}

/// How blades go in, what the plugs do, what nobody counted.
OwnerSection handled(const Plan& plan) {
    OwnerSection s{"Blades and plugs", {}};
    const Job& job = *plan.whole;
    for (const std::string& socket : job::sockets_of(job)) {
        const job::Part* part = job::find_ref(job.parts, socket);
        const auto* c = part ? plan.parts->find_as<catalogue::Connector>(part->type) : nullptr;
        if (c && !c->insertion.empty())
            s.lines.push_back({Mark::none, "Into " + socket, c->insertion});
        else if (c && c->keyed)
            s.lines.push_back({Mark::none, "Into " + socket,
                               "It goes in one way round. Turning it in its socket destroys it."});
    }
    for (const job::Blade& blade : job.blades)
        if (blade.count == job::PixelCount::assumed)
            s.lines.push_back(
                {Mark::open, blade.ref, "its pixels are assumed, nobody counted them"});
    for (const job::Plug& plug : job.plugs) {
        std::string says(job::word(plug.use));
        if (!plug.jack.empty()) says += " for " + plug.jack;
        if (!plug.mark.empty()) says += ", " + plug.mark;
        const bool kills = plug.use == job::PlugUse::kill;
        const bool proved = harness::proved(plug) == harness::Proved::off;
        if (kills)
            says += proved ? ", proved on " + plug.proved_on : std::string(", not proved yet");
        s.lines.push_back({!kills   ? Mark::none
                           : proved ? Mark::holds
                                    : Mark::open,
                           plug.ref, says});
    }
    return s;
}

/// Every command, state by state; what was not tried is said as untried.
OwnerSection commands(const Plan& plan) {
    OwnerSection s{"Commands", {}};
    const job::Handling& map = plan.whole->handling;
    const auto buttons = handling::hand_buttons(*plan.whole, *plan.parts);
    if (!map.commands.empty() && buttons.size() > 1)
        for (const handling::HandButton& b : buttons)
            s.lines.push_back({Mark::none, "Button " + b.letter, b.place.english()});
    for (const job::HandState& state : map.states)
        for (const job::Command& c : map.commands) {
            if (c.state != state.name) continue;
            std::string says = c.name;
            if (!c.preset.empty()) says += ", only with " + c.preset;
            if (c.blade != job::BladeThere::any)
                says += fmt::format(", with the blade {}", job::word(c.blade));
            if (c.tried_on.empty()) says += " (untried)";
            s.lines.push_back(
                {c.tried_on.empty() ? Mark::open : Mark::holds,
                 fmt::format("While {}: {}", state.name, told_trigger(c.trigger, buttons)), says});
        }
    return s;
}

/// What became of the presets that were found.
OwnerSection presets_of(const Job& job) {
    OwnerSection s{"Presets: what was changed", {}};
    if (job.presets_found.empty()) return s;
    for (const job::PresetChange& c : job::preset_changes(job)) {
        std::vector<std::string> all{job::label(c).english()};
        for (const Message& line : c.lines)
            all.push_back(line.english());
        for (const std::string& wish : c.wishes)
            all.push_back("asked: " + wish);
        s.lines.push_back({Mark::none, c.now > 0 ? fmt::format("{}. {}", c.now, c.name) : c.name,
                           joined(all, "; ")});
    }
    for (const job::NotAsAsked& n : job::not_as_asked(job))
        s.lines.push_back({Mark::open, "Not as asked", n.text.english()});
    return s;
}

/// What was tried, and what was not.
OwnerSection tried(const Job& job) {
    OwnerSection s{"Tried on the bench", {}};
    const job::Bench& bench = job.bench;
    for (const job::BenchMend& m : bench.mends)
        s.lines.push_back({m.proof.empty() ? Mark::open : Mark::holds, "Mended: " + m.says,
                           m.proof.empty() ? "not proved yet" : m.proof});
    if (bench.signed_on.empty()) {
        if (!bench.tried.empty())
            s.lines.push_back({Mark::open, fmt::format("{} steps tried", bench.tried.size()),
                               "the test plan is not signed off"});
        return s;
    }
    s.lines.push_back(
        {bench.untried.empty() ? Mark::holds : Mark::open,
         fmt::format("Test plan of {} steps, signed off on {}", bench.steps, bench.signed_on),
         bench.untried.empty() ? "everything was tried" : "not tried: " + bench.untried});
    return s;
}

OwnerSection accepted(const Plan& plan) {
    OwnerSection s{"Accepted as it is", {}};
    for (const findings::Finding& f : plan.answered)
        s.lines.push_back(
            {Mark::holds, f.text.english(),
             fmt::format("{} ({}, {})", f.answer->why, job::word(f.answer->how), f.answer->on)});
    for (const findings::Finding& f : plan.findings)
        if (f.answer)
            s.lines.push_back(
                {f.answer->back ? Mark::broken : Mark::open, f.text.english(),
                 fmt::format("{} ({}, {})",
                             f.answer->back ? "worse than it was accepted" : f.answer->why,
                             job::word(f.answer->how), f.answer->on)});
    return s;
}

OwnerSection fates(const Job& job) {
    OwnerSection s{"As received: kept and replaced", {}};
    for (const job::Inspected& i : job.inspection)
        if (i.fate != job::Fate::undecided)
            s.lines.push_back({Mark::none, i.item,
                               i.why.empty() ? std::string(job::word(i.fate))
                                             : fmt::format("{}: {}", job::word(i.fate), i.why)});
    return s;
}

/// Letters, not bytes, so that columns line up.
std::size_t letters(std::string_view text) {
    return static_cast<std::size_t>(std::count_if(text.begin(), text.end(), [](char c) {
        return (static_cast<unsigned char>(c) & 0xc0) != 0x80;
    }));
}

void wrap(std::string& out, std::string_view text, std::size_t first, std::size_t indent) {
    constexpr std::size_t width = 78;
    std::size_t column = first;
    bool fresh = true;
    while (!text.empty()) {
        const auto space = text.find(' ');
        const std::string_view word = text.substr(0, space);
        text.remove_prefix(space == std::string_view::npos ? text.size() : space + 1);
        const std::size_t size = letters(word);
        if (!fresh && column + 1 + size > width) {
            out += fmt::format("\n{:{}}", "", indent);
            column = indent;
            fresh = true;
        }
        if (!fresh) out += ' ', ++column;
        out += word;
        column += size;
        fresh = false;
    }
    out += '\n';
}

} // namespace

OwnerPage owner_page(const Plan& plan) {
    const Job& job = *plan.job;
    OwnerPage page;
    page.title = job.name;
    page.subject =
        fmt::format("{}{}{}", job::word(job.kind), job.purpose.empty() ? "" : " ", job.purpose);
    if (!job.promised.empty()) page.subject += ", promised for " + job.promised;
    for (OwnerSection section :
         {use_of(job), wishes_of(plan), planned(plan), handled(plan), presets_of(job),
          commands(plan), bargains_of(plan, Bargain::must_have, "Must-haves"),
          bargains_of(plan, Bargain::trade_off, "Trade-offs"), tried(job), accepted(plan),
          fates(job)})
        if (!section.lines.empty()) page.sections.push_back(std::move(section));
    page.cautions =
        "Lithium cells: never reversed, never shorted, never loose in a pocket; charged attended, "
        "on a charger made for the chemistry; not used once dented, swollen or hot. Do not stare "
        "into a lit blade. A prop for duels is a blunt instrument. Local codes and licensed people "
        "decide about chargers on the mains, venues and shipping.";
    return page;
}

std::string owner_text(const OwnerPage& page) {
    std::string out = page.title + "\n" + page.subject + "\n";
    for (const OwnerSection& section : page.sections) {
        out += "\n" + section.heading + "\n";
        for (const OwnerLine& line : section.lines) {
            const char* mark = line.mark == Mark::holds    ? "  [x] "
                               : line.mark == Mark::broken ? "  [!] "
                               : line.mark == Mark::open   ? "  [ ] "
                                                           : "  ";
            const std::size_t indent = std::string_view(mark).size();
            out += mark;
            wrap(out, line.figure.empty() ? line.text : line.text + " – " + line.figure, indent,
                 indent);
        }
    }
    out += "\nCautions\n  ";
    wrap(out, page.cautions, 2, 2);
    out += "\nAgreed: ______________________    Date: ____________\n";
    return out;
}

} // namespace conductus::plan
