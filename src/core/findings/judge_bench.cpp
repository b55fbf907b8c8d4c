// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of the bench: steps that were out, what was never tried, mends that nothing proves.
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/findings/facts.h"
#include "core/findings/rule_tools.h"

namespace conductus::findings {
namespace {

constexpr std::size_t named = 3;

/// "ohms, cell out, B1.plus to U1.bat" for "ohms | cell out | B1.plus | U1.bat".
std::string told_step(const std::string& id) {
    std::vector<std::string> words;
    for (std::size_t at = 0; at <= id.size();) {
        const std::size_t end = std::min(id.find(" | ", at), id.size());
        if (end > at) words.push_back(id.substr(at, end - at));
        at = end + 3;
    }
    if (words.size() < 4) return joined(words, ", ");
    return fmt::format("{}, {}, {} to {}", words[0], words[1], words[2], words[3]);
}

} // namespace

void judge_bench(const Facts& f, std::vector<Finding>& out) {
    const job::Bench& bench = f.job->bench;
    std::vector<std::string> wrong;
    for (const job::BenchTried& t : bench.tried)
        if (!t.fine) wrong.push_back(told_step(t.step));
    if (!wrong.empty()) {
        const std::size_t count = wrong.size();
        if (wrong.size() > named) wrong.resize(named);
        out.push_back(
            raise("bench.out", Severity::warn, Station::bench, {},
                  count == 1 ? Message("A step of the test plan is out of its band")
                             : say("{} steps of the test plan are out", count),
                  say("{}. Find the fault, mend it, and try that step again.", joined(wrong, "; ")),
                  {{"steps out", static_cast<double>(count), ""}}));
    }
    for (const job::BenchMend& m : bench.mends)
        if (m.proof.empty())
            out.push_back(raise("bench.unproved", Severity::note, Station::bench, {m.where},
                                say("Mended, and not proved: {}", m.says),
                                "Take the reading that the bench asks for: it parts the mend from "
                                "the fault.",
                                {}));
    if (f.job->stage != job::Stage::handed_over) return;
    if (bench.signed_on.empty())
        out.push_back(raise("bench.untried", Severity::note, Station::bench, {},
                            "It was handed over, and the test plan is not signed off",
                            bench.tried.empty() ? Message("No step of it was tried.")
                                                : say("{} steps were tried.", bench.tried.size()),
                            {}));
    else if (!bench.untried.empty())
        out.push_back(raise("bench.untried", Severity::note, Station::bench, {},
                            "It was handed over with steps that were not tried",
                            say("Untried on {}: {}.", bench.signed_on, bench.untried), {}));
}

} // namespace conductus::findings
