// SPDX-License-Identifier: GPL-3.0-or-later
// Seals and stamps: what makes a changed bit, and a state of another program, be noticed.
#pragma once

#include <initializer_list>
#include <string>
#include <string_view>

namespace conductus::shop {

/// 128 random bits of the operating system as 32 hexadecimal digits.
std::string random_id();

/// 128 bits of XXH3 over the fields of a row, each with its length in front. It finds accidents; it
/// is no signature.
std::string seal_of(std::initializer_list<std::string_view> fields);

} // namespace conductus::shop
