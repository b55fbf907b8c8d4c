// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string_view>

namespace conductus {

/// True for a day that exists, written "2027-03-12".
bool is_date(std::string_view text);

} // namespace conductus
