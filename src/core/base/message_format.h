// SPDX-License-Identifier: GPL-3.0-or-later
// Messages as arguments of fmt: their English words.
#pragma once

#include <fmt/format.h>

#include "core/base/message.h"

template <>
struct fmt::formatter<conductus::Message> : fmt::formatter<std::string> {
    auto format(const conductus::Message& message, fmt::format_context& context) const {
        return fmt::formatter<std::string>::format(message.english(), context);
    }
};
