// SPDX-License-Identifier: GPL-3.0-or-later
// Every rule there is: what it looks at, how grave it is for what, where it comes from, what mends
// it. docs/rules.md is made of this table.
#pragma once

#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/findings/finding.h"
#include "core/job/brief.h"

namespace conductus::findings {

/// What a rule reads. What is read from solved figures is only as good as the wiring: under a
/// wiring mistake it is folded.
enum class Basis { wiring, figures, configuration, hilt, brief };
const char* word(Basis basis);
const char* word(Station station);

/// How the use of the hilt changes the severity of a rule.
enum class ByUse {
    alike,   ///< the same for all
    lighter, ///< on a shelf one step lighter: warn becomes note
    both     ///< lighter on a shelf, and in a bout one step graver: warn becomes stop
};

struct Rule {
    std::string_view id;
    Station station;
    Basis basis;
    Severity usual;
    ByUse by_use;
    std::string_view looks_at; ///< "the current of each contact, held, against its rating"
    std::string_view severity; ///< when it is another than the usual; empty: never
    std::string_view source;   ///< where the limit comes from
    std::string_view remedy;
};

std::span<const Rule> rules();
/// Null: no rule has that id.
const Rule* rule(std::string_view id);
std::vector<std::string_view> rule_ids();

/// What a rule says for a use, of the severity that it found.
Severity severity_for(const Rule& rule, Severity found, job::Occasion occasion);

/// Of a rule: "warn; on a shelf note".
std::string severity_text(const Rule& rule);

} // namespace conductus::findings
