// SPDX-License-Identifier: GPL-3.0-or-later
// Single values of a job by their place in its document, written and read as a person types them,
// and rows of its lists. A place is a JSON pointer of docs/job-format.md: "/wires/3/length_mm".
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/job/edits.h"
#include "core/job/limits.h"

namespace conductus::job {

/// What stands there, to the last digit, without its unit; empty where nothing is set. `unit` is
/// the one people type there where it is not that of the key: "%" for shares, "mΩ" for ohms.
/// Nothing: there is no such value.
std::optional<std::string> typed_at(const Job& job, std::string_view at,
                                    std::string_view unit = {});

/// The words a value can be, for those that are words; empty for the others.
std::vector<std::string_view> words_at(const Job& job, std::string_view at);

/// Writes what was typed there: a number with or without its unit, a length also in inches, the
/// beginning of a word. Nothing typed: the value is not set, or the usual one. A name is changed
/// with everything that names it, a boundary of the survey with the section beside it, a blade that
/// is made shorter with the strips in it. What is
/// typed as it stands there changes nothing. Refused: what can not be read, or is out of range.
Edit write_at(std::string at, std::string typed, std::string unit = {});

/// A number as it is typed with or without its unit, lengths also in inches. Error: it can not be
/// read, or lies out of the range.
Result<double> number_typed(const std::string& typed, std::string_view unit, limits::Range range);

/// Sets a tick.
Edit tick_at(std::string at, bool on);

/// How many elements the list at that place has.
std::size_t count_at(const Job& job, std::string_view list);

/// Adds an element at the end of a list, with the next free name and the usual values.
Edit add_at(std::string list);

/// Takes an element out, with what hung on it: "/wires/3".
Edit take_out_at(std::string element);

/// A place in words: "wire W4, length". Places that are not there come back as they are.
std::string said_place(const Job& job, std::string_view at);

} // namespace conductus::job
