// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cmath>

#include "core/base/quantity.h"

namespace conductus::catalogue {

/// Pixels on a strip of that length: the nearest whole number, since strips are cut at a pixel.
inline int pixels_on(Millimetre length, PerMetre density) {
    return static_cast<int>(std::lround(length.value() * 1e-3 * density.value()));
}

} // namespace conductus::catalogue
