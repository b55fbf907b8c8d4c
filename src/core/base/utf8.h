// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <string_view>

namespace conductus {

/// Bytes of the UTF-8 character at the front of `text` (RFC 3629: no overlong forms, no
/// surrogates); 0 where there is none.
std::size_t utf8_length(std::string_view text);

/// How many characters a text in UTF-8 has.
std::size_t utf8_letters(std::string_view text);

/// Where `text` stops being UTF-8; npos where all of it is.
std::size_t first_not_utf8(std::string_view text);

} // namespace conductus
