// SPDX-License-Identifier: GPL-3.0-or-later
// A configuration through a template that a person writes, for whatever file their board reads.
// docs/job-format.md, "Templates".
#pragma once

#include <string>
#include <string_view>

#include "core/base/problem.h"
#include "files/json_text.h"

namespace conductus::files {

/// Fills a template: {{NAME}} is a value, {{#LIST}} … {{/LIST}} is repeated for each entry of a
/// list, names are the keys of `data` in capitals. Each entry has INDEX, from 1, and COUNT. Error,
/// with its line: a name that `data` has nowhere, a list that is not closed, or one in another that
/// it was not opened in.
Result<std::string> filled_template(std::string_view text, const std::string& name,
                                    const Json& data);

} // namespace conductus::files
