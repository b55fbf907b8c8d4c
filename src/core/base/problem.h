// SPDX-License-Identifier: GPL-3.0-or-later
// Errors as values. No exception crosses a module.
#pragma once

#include <string>
#include <tl/expected.hpp>

namespace conductus {

/// What went wrong, for a person: where it is, what is wrong, and what would mend it.
struct Problem {
    std::string where; ///< a file with line, a JSON pointer, a part; may be empty
    std::string what;
    std::string mend; ///< may be empty where nothing can be advised

    /// One line: "where: what. mend"
    [[nodiscard]] std::string text() const {
        std::string line = where.empty() ? what : where + ": " + what;
        if (!mend.empty()) line += ". " + mend;
        return line;
    }
    bool operator==(const Problem&) const = default;
};

template <class T>
using Result = tl::expected<T, Problem>;

inline tl::unexpected<Problem> problem(std::string where, std::string what, std::string mend = {}) {
    return tl::unexpected<Problem>(Problem{std::move(where), std::move(what), std::move(mend)});
}

} // namespace conductus
