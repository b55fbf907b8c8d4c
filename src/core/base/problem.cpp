// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/problem.h"

#include <fmt/format.h>

#include "core/base/utf8.h"

namespace conductus {

std::string shown(std::string_view text, std::size_t most) {
    std::string line;
    for (std::size_t i = 0; i < text.size();) {
        const std::size_t length = utf8_length(text.substr(i));
        if (line.size() + std::max<std::size_t>(length, 4) > most && i + length < text.size())
            return line + "…";
        const auto byte = static_cast<unsigned char>(text[i]);
        // C1 controls are two bytes in UTF-8: C2 80 to C2 9F.
        const bool control =
            byte < 0x20 || byte == 0x7F ||
            (byte == 0xC2 && length == 2 && static_cast<unsigned char>(text[i + 1]) < 0xA0);
        if (byte == '\n' || byte == '\t' || byte == '\r') {
            line += byte == '\n' ? "\\n" : byte == '\t' ? "\\t" : "\\r";
            ++i;
        } else if (length == 0 || control) {
            line += fmt::format("\\x{:02X}",
                                length == 2 ? static_cast<unsigned char>(text[i + 1]) : byte);
            i += std::max<std::size_t>(length, 1);
        } else {
            line += text.substr(i, length);
            i += length;
        }
    }
    return line;
}

std::string Problem::text() const {
    const std::string said = shown(what.english(), 600);
    std::string line = where.empty() ? said : shown(where) + ": " + said;
    if (!mend.empty()) line += ". " + shown(mend.english(), 600);
    return line;
}

} // namespace conductus
