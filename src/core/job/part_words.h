// SPDX-License-Identifier: GPL-3.0-or-later
// What the figures of a part are called in its form.
#pragma once

#include <string>
#include <string_view>

namespace conductus::job {

/// By the key of catalogue files: "a pad carries" of "pad_rating_A"; where its own letters say it,
/// those without its unit.
std::string field_name(std::string_view key);

/// One of a list, by its place: "die" of "/led/dies".
std::string_view one_of(std::string_view list);

} // namespace conductus::job
