// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lights/colour_names.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <numbers>
#include <utility>

namespace conductus::lights {
namespace {

constexpr std::array<std::string_view, 9> words{"red",  "amber",  "yellow",  "green", "cyan",
                                                "blue", "violet", "magenta", "white"};

/// Other words that are in use. Words for metals are left out: hilts are made of them.
constexpr std::array<std::pair<std::string_view, Family>, 28> others{{
    {"crimson", Family::red},      {"scarlet", Family::red},    {"ruby", Family::red},
    {"orange", Family::amber},     {"gold", Family::yellow},    {"lemon", Family::yellow},
    {"lime", Family::green},       {"emerald", Family::green},  {"olive", Family::green},
    {"jade", Family::green},       {"teal", Family::cyan},      {"turquoise", Family::cyan},
    {"aqua", Family::cyan},        {"aquamarine", Family::cyan}, {"navy", Family::blue},
    {"azure", Family::blue},       {"sapphire", Family::blue},  {"cobalt", Family::blue},
    {"indigo", Family::violet},    {"purple", Family::violet},  {"lilac", Family::violet},
    {"lavender", Family::violet},  {"amethyst", Family::violet}, {"pink", Family::magenta},
    {"rose", Family::magenta},     {"fuchsia", Family::magenta}, {"ivory", Family::white},
    {"cream", Family::white},
}};

/// Where one family ends and the next begins, degrees round D65 from +u' toward +v'. Half-way
/// between the mixtures that are called by their names.
constexpr std::array<std::pair<double, Family>, 8> begins{{
    {13, Family::amber},
    {40, Family::yellow},
    {105, Family::green},
    {178, Family::cyan},
    {232, Family::blue},
    {267, Family::violet},
    {293, Family::magenta},
    {350, Family::red},
}};

constexpr Uv d65{0.1978, 0.4683};
constexpr double white_within = 0.06; // red, green and blue at full are 0.045 from D65

std::string lower(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return out;
}

} // namespace

Family family_of(const Uv& tint) {
    const double du = tint.u - d65.u, dv = tint.v - d65.v;
    if (std::hypot(du, dv) < white_within) return Family::white;
    double at = std::atan2(dv, du) * 180 / std::numbers::pi;
    if (at < 0) at += 360;
    Family family = Family::red;
    for (const auto& [from, of] : begins)
        if (at >= from) family = of;
    return family;
}

bool near_enough(Family a, Family b) {
    if (a == b) return true;
    if (a == Family::white || b == Family::white) {
        const Family other = a == Family::white ? b : a;
        return other == Family::cyan || other == Family::amber || other == Family::yellow;
    }
    const int apart = std::abs(static_cast<int>(a) - static_cast<int>(b));
    return apart == 1 || apart == 7; // eight round the diagram
}

std::string_view word(Family family) { return words[static_cast<std::size_t>(family)]; }

std::vector<std::string> family_words() { return {words.begin(), words.end()}; }

std::optional<Family> family_named(std::string_view named) {
    const std::string is = lower(named);
    for (std::size_t i = 0; i < words.size(); ++i)
        if (words[i] == is) return static_cast<Family>(i);
    for (const auto& [other, family] : others)
        if (other == is) return family;
    return std::nullopt;
}

std::string colour_word_in(std::string_view text) {
    std::string one;
    for (std::size_t i = 0; i <= text.size(); ++i) {
        const char c = i < text.size() ? text[i] : ' ';
        if (std::isalpha(static_cast<unsigned char>(c))) {
            one += c;
            continue;
        }
        if (family_named(one)) return one;
        one.clear();
    }
    return {};
}

} // namespace conductus::lights
