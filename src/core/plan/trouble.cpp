// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/trouble.h"

#include <cctype>

#include "core/job/lookup.h"
#include "core/job/terminals.h"
#include "core/plan/start.h"

namespace conductus::plan {
namespace {

/// What a job lacks before anything electrical can be solved: what it is, and what to do about it.
struct Lacking {
    std::vector<Message> what, mend;
    findings::Station station = findings::Station::hilt;
};
Lacking lacking(const job::Job& job, const catalogue::Catalogue& parts) {
    Lacking l;
    const auto lacks = [&](Message what, Message mend, findings::Station station) {
        if (l.what.empty()) l.station = station;
        l.what.push_back(std::move(what)), l.mend.push_back(std::move(mend));
    };
    if (!job::first_of<catalogue::Cell>(job, parts))
        lacks("no cell", "fit a cell at Hilt, Parts", findings::Station::hilt);
    if (!job::first_of<catalogue::Board>(job, parts) && job.wires.empty())
        lacks("no board", "fit a board at Hilt, Parts", findings::Station::hilt);
    if (job.wires.empty() && l.what.empty())
        lacks("no wire", "wire what is missing at Hilt, Parts", findings::Station::harness);
    if (job.looks.empty())
        lacks("no look", "add a look at Lights, Looks", findings::Station::lights);
    return l;
}

/// Of a job that is not whole yet: no mistake was made.
findings::Finding incomplete_finding(const Plan& plan) {
    const Lacking l = lacking(*plan.job, *plan.parts);
    const bool blank = is_blank(*plan.job);
    return {.id = "supply.not-solved",
            .severity = blank ? findings::Severity::note : findings::Severity::stop,
            .station = l.station,
            .text = blank ? Message("Nothing is fitted yet")
                          : say("Not whole yet: there is {}", joined(l.what, ", ")),
            .detail = blank ? Message("Begin on the start sheet: a few readings and choices make a "
                                      "whole job. Or fit parts by hand at Hilt, Parts")
                            : say("To get figures: {}", joined(l.mend, "; ")),
            .fix = {}};
}

} // namespace

std::string in_words(const job::Job& job, const catalogue::Catalogue& parts,
                     const std::string& name) {
    const auto lower = [](std::string text) {
        for (char& c : text)
            c = c == '.' ? '_' : static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        return text;
    };
    std::string ref;
    for (const auto& [owner, names] : job::terminals_of(job, parts)) {
        for (const std::string& terminal : names)
            if (lower(owner + "." + terminal) == name) return owner + "." + terminal;
        if (lower(owner) == name || name.starts_with(lower(owner) + "_")) ref = owner;
    }
    for (const job::Wire& wire : job.wires)
        if (lower(wire.ref) == name || name.starts_with(lower(wire.ref) + "_")) ref = wire.ref;
    for (const job::Blade& blade : job.blades)
        for (const job::LedString& string : blade.strings)
            if (lower(string.ref) == name || name.starts_with(lower(string.ref) + "_"))
                ref = string.ref;
    return ref.empty() ? name : ref;
}

findings::Finding trouble_finding(const Plan& plan, const Problem& p, std::size_t solved,
                                  std::size_t looks) {
    if (p.where.starts_with('/') && !lacking(*plan.job, *plan.parts).what.empty())
        return incomplete_finding(plan);
    // A place in the document is for programs; people are led to the station.
    const bool in_document = p.where.starts_with('/');
    // As the first words of a sentence where no place stands before them.
    std::string said = p.what.english();
    if (in_document && !said.empty())
        said[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(said[0])));
    const Message text = in_document ? Message(said) : say("{} {}", p.where, p.what);
    return {.id = "supply.not-solved",
            .severity = findings::Severity::stop,
            .station = p.where == "/looks"   ? findings::Station::lights
                       : p.where == "/parts" ? findings::Station::hilt
                                             : findings::Station::power,
            .where =
                in_document
                    ? std::vector<std::string>{}
                    : std::vector<std::string>{std::string(job::split_terminal(p.where).first)},
            .text = text,
            .detail = p.mend,
            .evidence = {{"looks solved", static_cast<double>(solved), ""},
                         {"looks", static_cast<double>(looks), ""}},
            .fix = {}};
}

} // namespace conductus::plan
