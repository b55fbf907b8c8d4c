// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of plugs: which jack each fits, what it opens, which can be taken for another, and whether
// a kill was proved with a reading.
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/catalogue/kinds.h"
#include "core/findings/facts.h"
#include "core/findings/rule_tools.h"
#include "core/harness/plugs.h"
#include "core/job/lookup.h"
#include "core/job/words.h"

namespace conductus::findings {
namespace {

using harness::InHole;
using harness::Opens;

bool goes_in(const job::Plug& plug, const catalogue::PlugHole& hole) {
    return harness::in_hole(plug, hole) == InHole::goes_in;
}

/// Another plug in its place is not proved yet.
job::Edit replace_plug(const std::string& ref, Millimetre diameter, Millimetre length) {
    return [=](job::Job& job) {
        auto* plug = job::find_ref(job.plugs, ref);
        if (!plug) return;
        plug->diameter = diameter, plug->length = length;
        plug->proved_on.clear();
        plug->volts_in.reset(), plug->volts_out.reset();
    };
}

/// The plug in the jack that it is for.
void in_its_jack(const Facts& f, std::vector<Finding>& out) {
    for (const job::Plug& plug : f.job->plugs) {
        const auto hole = harness::hole_of(*f.job, *f.parts, plug.jack);
        if (!hole) continue;
        const InHole in = harness::in_hole(plug, *hole);
        const bool kills = plug.use == job::PlugUse::kill;
        if (in == InHole::too_thick || in == InHole::too_thin) {
            Finding finding = raise(
                "plug.wrong-size", kills ? Severity::stop : Severity::warn, Station::power,
                {plug.ref, plug.jack},
                say("{} is {}, {} takes {}", plug.ref, text(plug.diameter), plug.jack,
                    text(hole->takes)),
                in == InHole::too_thick ? "It does not go in, or forces the contact open for "
                                          "good."
                                        : "It wobbles, and does not lift the contact surely.",
                {{"plug", plug.diameter.value(), "mm"}, {"jack takes", hole->takes.value(), "mm"}});
            finding.proposed.push_back({say("use a plug of {}", text(hole->takes)),
                                        replace_plug(plug.ref, hole->takes, plug.length)});
            out.push_back(std::move(finding));
            continue;
        }
        if (!kills) continue;
        const Opens opens_it = harness::opens_contact(plug, *hole);
        if (opens_it == Opens::no_contact) {
            out.push_back(
                raise("plug.opens-nothing", Severity::stop, Station::power, {plug.ref, plug.jack},
                      say("{} is for {}, which has no contact to open", plug.ref, plug.jack),
                      "Nothing is switched off by it. Fit a jack with a contact, or a "
                      "kill switch.",
                      {{"opens", 0, ""}}));
            continue;
        }
        if (opens_it == Opens::too_short) {
            Finding finding = raise(
                "plug.too-short", Severity::stop, Station::power, {plug.ref, plug.jack},
                say("{} goes in {}, {} opens at {}", plug.ref, text(plug.length), plug.jack,
                    text(hole->opens)),
                "The contact stays closed: nothing is switched off.",
                {{"goes in", plug.length.value(), "mm"}, {"opens at", hole->opens.value(), "mm"}});
            const Millimetre opens_surely = hole->opens + Millimetre(1);
            finding.proposed.push_back({say("use a plug that goes in {}", text(opens_surely)),
                                        replace_plug(plug.ref, plug.diameter, opens_surely)});
            out.push_back(std::move(finding));
            continue;
        }
        const harness::Proved proof = harness::proved(plug);
        if (proof == harness::Proved::still_on) {
            out.push_back(raise(
                "plug.proved-wrong", Severity::stop, Station::power, {plug.ref, plug.jack},
                say("With {} in, the board still has {}", plug.ref, text(*plug.volts_in)),
                say("Without it {}. The plug opens nothing: too thick, too short, or the wrong "
                    "jack.",
                    text(*plug.volts_out)),
                {{"plug in", plug.volts_in->value(), "V"},
                 {"plug out", plug.volts_out->value(), "V"}}));
        } else if (proof == harness::Proved::not_read || plug.proved_on.empty()) {
            // Until it is built there is nothing to read.
            const bool built = f.job->stage >= job::Stage::bench;
            out.push_back(raise(
                "plug.not-proved", built ? Severity::warn : Severity::note, Station::power,
                {plug.ref, plug.jack}, say("{} is not proved yet", plug.ref),
                "A plug that opens nothing looks the same. Read the volts at the board with the "
                "plug out and with it in.",
                {{"readings",
                  static_cast<double>(plug.volts_in.has_value()) +
                      static_cast<double>(plug.volts_out.has_value()),
                  ""}}));
        }
    }
}

/// What happens where a plug goes into a jack that it is not for.
std::optional<Message> harm_of(const job::Plug& plug, const catalogue::PlugHole& hole) {
    if (plug.use == job::PlugUse::kill && !hole.kills)
        return Message("nothing is switched off there");
    if (plug.use == job::PlugUse::charge && hole.configures)
        return Message("the charger's volts are on the board's configuration port");
    if (plug.use == job::PlugUse::configure && (hole.charges || hole.kills))
        return Message("the configuration lead is on the cell");
    if (plug.use == job::PlugUse::blank && hole.kills)
        return Message("it closes the jack that switches off, and opens it half");
    return std::nullopt;
}

/// A plug that fits another jack as well, or that looks like another plug.
void look_alikes(const Facts& f, std::vector<Finding>& out) {
    for (const job::Plug& plug : f.job->plugs) {
        if (!plug.mark.empty()) continue;
        for (const job::Part& part : f.job->parts) {
            if (part.ref == plug.jack) continue;
            const auto hole = harness::hole_of(*f.job, *f.parts, part.ref);
            if (!hole || !goes_in(plug, *hole)) continue;
            const auto harm = harm_of(plug, *hole);
            if (!harm) continue;
            Finding finding = raise(
                "plug.wrong-jack", Severity::warn, Station::power, {plug.ref, part.ref},
                say("{} goes into {} as well", plug.ref, part.ref),
                say("There {}. Mark the plug and its jack, close the other one with a blank, "
                    "or use another size.",
                    *harm),
                {{"plug", plug.diameter.value(), "mm"}, {"jack takes", hole->takes.value(), "mm"}});
            finding.proposed.push_back({say("mark {} with a red ring, and its jack", plug.ref),
                                        [ref = plug.ref](job::Job& job) {
                                            if (auto* p = job::find_ref(job.plugs, ref))
                                                p->mark = "red ring, as on its jack";
                                        }});
            out.push_back(std::move(finding));
            break;
        }
        for (const job::Plug& other : f.job->plugs) {
            const bool one_kills =
                (plug.use == job::PlugUse::kill) != (other.use == job::PlugUse::kill);
            if (&other <= &plug || !one_kills || !other.mark.empty()) continue;
            if (plug.diameter <= Millimetre(0) || plug.diameter != other.diameter) continue;
            const job::Plug& kill = plug.use == job::PlugUse::kill ? plug : other;
            const job::Plug& looks = plug.use == job::PlugUse::kill ? other : plug;
            // What is taken for the kill and opens nothing.
            if (looks.use != job::PlugUse::blank) continue;
            Finding finding =
                raise("plug.look-alike", Severity::warn, Station::power, {looks.ref, kill.ref},
                      say("{} looks like {}, and switches nothing off", looks.ref, kill.ref),
                      "The owner takes one for the other. Mark the one that kills, or replace the "
                      "other.",
                      {{"alike", 2, ""}});
            finding.proposed.push_back(
                {say("mark {} with a red ring", kill.ref), [ref = kill.ref](job::Job& job) {
                     if (auto* p = job::find_ref(job.plugs, ref)) p->mark = "red ring";
                 }});
            finding.proposed.push_back(
                {say("do without {}", looks.ref), [ref = looks.ref](job::Job& job) {
                     std::erase_if(job.plugs, [&](const job::Plug& p) { return p.ref == ref; });
                 }});
            out.push_back(std::move(finding));
        }
    }
}

/// Packs of several cells say how they are kept alike.
void balancing(const Facts& f, std::vector<Finding>& out) {
    using Balancing = catalogue::Cell::Balancing;
    for (const job::Part* part : parts_of<catalogue::Cell>(f)) {
        const auto* cell = f.parts->find_as<catalogue::Cell>(part->type);
        if (cell->series < 2) continue;
        const auto* charger =
            f.job->charger.empty() ? nullptr : f.parts->find_as<catalogue::Charger>(f.job->charger);
        if (cell->balancing == Balancing::unsaid)
            out.push_back(raise("pack.balancing-unsaid", Severity::note, Station::power,
                                {part->ref},
                                say("{} does not say how its cells are kept alike", part->ref),
                                "Say it in the part: a lead for the charger, inside, or not at "
                                "all.",
                                {{"cells", static_cast<double>(cell->series), ""}}));
        else if (cell->balancing == Balancing::lead && charger && !charger->balances)
            out.push_back(
                raise("pack.lead-unused", Severity::warn, Station::power, {part->ref},
                      say("The balancing lead of {} is not used by its charger", part->ref),
                      "Its cells drift apart. Use a charger that balances.",
                      {{"cells", static_cast<double>(cell->series), ""}}));
    }
}

} // namespace

void judge_plugs(const Facts& facts, std::vector<Finding>& out) {
    in_its_jack(facts, out);
    look_alikes(facts, out);
    balancing(facts, out);
}

} // namespace conductus::findings
