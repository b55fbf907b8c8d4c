// SPDX-License-Identifier: GPL-3.0-or-later
// The words that one meter or supply understands: a small table a person can edit, so that nothing
// is tied to one maker's. Commands are those of the open standard that most instruments follow.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/base/problem.h"
#include "core/job/bench.h"

namespace conductus::meter {

/// What is sent, and what an answer holds. An empty command is one that the meter has not.
struct Dialect {
    std::string name;
    std::string identify = "*IDN?";
    std::string clear = "*CLS"; ///< forgets what it was asked
    std::string volts = "CONF:VOLT:DC", amps = "CONF:CURR:DC", ohms = "CONF:RES"; ///< to choose
    std::string function = "FUNC?";                                   ///< asks what it reads
    std::string volts_is = "VOLT", amps_is = "CURR", ohms_is = "RES"; ///< in the answer
    std::string read = "READ?";
    std::string amps_beside;  ///< reads the current beside the volts; empty: it can not
    double overload = 9.9e37; ///< a number from there on says that the range is too small
    int patience_ms = 1500;   ///< until a missing answer is no answer
    bool operator==(const Dialect&) const = default;

    [[nodiscard]] const std::string& choose(job::Reads what) const;
    [[nodiscard]] const std::string& is(job::Reads what) const;
};

/// Those that ship: one that is asked what it reads, one that has few words, and a supply that
/// reads volts and amps together.
const std::vector<Dialect>& dialects();

/// One line of the table: what it is for, and what is sent.
struct DialectWord {
    std::string what; ///< "choose volts"
    std::string text;
};
std::vector<DialectWord> words_of(const Dialect& dialect);
/// The table read back. Error: the line that is wrong, with its number: a word that is not known,
/// a number that is none, a command longer than 80 characters or with a control character.
Result<Dialect> dialect_of(const std::string& name, const std::vector<DialectWord>& words);

} // namespace conductus::meter
