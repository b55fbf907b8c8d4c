// SPDX-License-Identifier: GPL-3.0-or-later
// Numbers as a person types them.
#pragma once

#include <string_view>

#include "core/base/problem.h"
#include "core/base/quantity.h"

namespace conductus {

/// A decimal number with point or comma, optionally followed by `unit` ("min", "%", "V" ...).
/// Error: nothing typed, not a number, another unit.
Result<double> parse_number(std::string_view text, std::string_view unit = {});

/// A length: "28.1", "28,1 mm", "7/8 in", "1.102\"", "1 1/8 in". Without a unit: millimetres.
Result<Millimetre> parse_length(std::string_view text);

} // namespace conductus
