// SPDX-License-Identifier: GPL-3.0-or-later
// Errors as values. No exception crosses a module.
#pragma once

#include <string>
#include <string_view>
#include <tl/expected.hpp>

#include "core/base/message.h"

namespace conductus {

/// What kind of trouble it is, for code that offers a way out of it. The words are for people.
enum class Cause {
    other,
    missing,      ///< the file, the job or the state is not there
    unreadable,   ///< the permissions of the file do not allow reading it
    foreign,      ///< the file is something else than what was asked for
    newer,        ///< a newer Conductus wrote it
    damaged,      ///< it was sound once, and is not any more
    locked,       ///< another program is writing
    read_only,    ///< it may be read and not written
    no_room,      ///< the disk is full
    moved,        ///< the book that was opened is no longer the file at its path
    overtaken,    ///< another program changed the job in the meantime
    unknown_part, ///< it names a part type that no catalogue here has
    stopped,      ///< a person stopped it
};

/// What went wrong, for a person: where it is, what is wrong, and what would mend it.
struct Problem {
    std::string where; ///< a file with line, a JSON pointer, a part; may be empty
    Message what;
    Message mend; ///< may be empty where nothing can be advised
    Cause cause = Cause::other;

    /// What kind of mistake it is, whatever it was made with: the id of what is wrong.
    [[nodiscard]] std::string_view code() const { return what.id(); }

    /// One line: "where: what. mend". Each of the three is clipped, so that a message that quotes
    /// a whole file stays readable and the remedy stays in sight.
    [[nodiscard]] std::string text() const;
    bool operator==(const Problem&) const = default;
};

/// The text as one line that a terminal or a label can show: control characters and bytes that are
/// not UTF-8 are written as \n, \t, \r or \xNN, and what is longer than `most` bytes ends in "…".
std::string shown(std::string_view text, std::size_t most = 300);

template <class T>
using Result = tl::expected<T, Problem>;

inline tl::unexpected<Problem> problem(std::string where, Message what, Message mend = {},
                                       Cause cause = Cause::other) {
    return tl::unexpected<Problem>(
        Problem{std::move(where), std::move(what), std::move(mend), cause});
}

} // namespace conductus
