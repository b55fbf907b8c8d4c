// SPDX-License-Identifier: GPL-3.0-or-later
// Words of the core as the interface's strings.
#pragma once

#include <QString>
#include <string_view>

namespace conductus::app {

inline QString words(std::string_view s) {
    return QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size()));
}

} // namespace conductus::app
