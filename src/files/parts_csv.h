// SPDX-License-Identifier: GPL-3.0-or-later
// Parts of the catalogue as a table. docs/job-format.md, "Own parts".
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/base/problem.h"
#include "core/catalogue/part_type.h"

namespace conductus::files {

/// A part a line: kind, id, and then every value of any of them under its place in the catalogue's
/// files, "board/pad_rating_A", in the unit that it names; what a kind has not stays empty.
std::string parts_csv(const std::vector<catalogue::PartType>& types);

/// The same read back, with the columns in any order; a value may have a unit of its own, and what
/// is left empty is the usual one. Errors, with line and column: an unknown kind or column, a value
/// that can not be, one that is missing and has no usual one.
Result<std::vector<catalogue::PartType>> read_parts_csv(std::string_view text,
                                                        const std::string& name);

} // namespace conductus::files
