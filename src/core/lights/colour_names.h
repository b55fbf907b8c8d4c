// SPDX-License-Identifier: GPL-3.0-or-later
// What colour a person would call a light, and which words of a name promise a colour.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/lights/colour.h"

namespace conductus::lights {

/// Families of hue round the CIE 1976 u'v' diagram, in that order, and white in its middle.
enum class Family { red, amber, yellow, green, cyan, blue, violet, magenta, white };

/// Nearer to D65 than 0.06 in u'v' it is white, else what its direction from there says. Source:
/// directions of 622, 522 and 468 nm and of their mixtures, docs/models.md "Colour".
Family family_of(const Uv& tint);

/// Neighbours round the diagram, which people call by each other's names; white has pale cyan and
/// amber beside it.
bool near_enough(Family a, Family b);

/// "red", "amber" ...
std::string_view word(Family family);
std::vector<std::string> family_words();

/// The family that a word for a colour stands for: "orange", "teal"; nothing: it is no such word.
std::optional<Family> family_named(std::string_view word);

/// The first word of a text that stands for a colour, as it is written; empty: there is none.
std::string colour_word_in(std::string_view text);

} // namespace conductus::lights
