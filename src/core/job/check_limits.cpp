// SPDX-License-Identifier: GPL-3.0-or-later
// Every single field of a job against its limits, for jobs that come from the screen or a table and
// not through the reader of a file: what the program writes, it can read.
#include <cmath>

#include "core/base/quantity.h"
#include "core/base/utf8.h"
#include "core/job/fields.h"
#include "core/job/limits_visitor.h"
#include "core/job/validate.h"
#include "core/job/validate_rules.h"

namespace conductus::job {

std::string refusal_of_text(std::string_view text) {
    if (text.size() > limits::text_length)
        return fmt::format("the text has {} letters, and {} are the most", text.size(),
                           limits::text_length);
    if (const auto at = first_not_utf8(text); at != std::string_view::npos)
        return fmt::format("letter {} of the text is not UTF-8", at + 1);
    for (std::size_t i = 0; i < text.size(); ++i) {
        const auto c = static_cast<unsigned char>(text[i]);
        // Those of two bytes in UTF-8 are C2 80 to C2 9F.
        const auto next = i + 1 < text.size() ? static_cast<unsigned char>(text[i + 1]) : 0xFFu;
        if ((c < 0x20 && c != '\n' && c != '\t' && c != '\r') || c == 0x7F ||
            (c == 0xC2 && next < 0xA0))
            return fmt::format("letter {} of the text is a control character", i + 1);
    }
    return {};
}

Result<void> check_limits(const Job& job) {
    std::optional<Problem> first;
    LimitsVisitor visitor(first);
    describe(visitor, job);
    if (first) return tl::unexpected(*first);
    return {};
}

} // namespace conductus::job
