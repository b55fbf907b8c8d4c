// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/parse.h"

#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <string>

namespace conductus {
namespace {

constexpr double mm_per_inch = 25.4;

std::string_view trimmed(std::string_view s) {
    constexpr std::string_view space = " \t\r\n\u00a0";
    const auto first = s.find_first_not_of(space);
    if (first == std::string_view::npos) return {};
    return s.substr(first, s.find_last_not_of(space) - first + 1);
}

/// The number at the front; what is behind it is left in `s`. NaN where there is none.
double take_number(std::string_view& s) {
    std::string digits;
    std::size_t used = 0;
    // A comma is a decimal sign: a hilt has no thousands.
    for (;
         used < s.size() && (std::isdigit(static_cast<unsigned char>(s[used])) || s[used] == '.' ||
                             s[used] == ',' || (used == 0 && (s[used] == '-' || s[used] == '+')));
         ++used)
        if (s[used] != '+') digits += s[used] == ',' ? '.' : s[used];
    // "5e-05", as programs write it.
    if (used > 0 && used + 1 < s.size() && (s[used] == 'e' || s[used] == 'E')) {
        const std::size_t sign = s[used + 1] == '-' || s[used + 1] == '+' ? 1 : 0;
        std::size_t end = used + 1 + sign;
        while (end < s.size() && std::isdigit(static_cast<unsigned char>(s[end])))
            ++end;
        if (end > used + 1 + sign) {
            digits += s.substr(used, end - used);
            used = end;
        }
    }
    double value = NAN;
    const auto [end, error] = std::from_chars(digits.data(), digits.data() + digits.size(), value);
    if (error != std::errc() || end != digits.data() + digits.size()) return NAN;
    s = trimmed(s.substr(used));
    return value;
}

tl::unexpected<Problem> not_a_number(std::string_view text, const char* example) {
    const std::string_view typed = trimmed(text);
    return problem("",
                   typed.empty() ? "nothing is written here"
                                 : say("'{}' is not a number", shown(typed, 60)),
                   say("Write {}", example));
}

} // namespace

Result<double> parse_number(std::string_view text, std::string_view unit) {
    std::string_view rest = trimmed(text);
    const double value = take_number(rest);
    if (std::isnan(value)) return not_a_number(text, "a number like 28.1");
    if (!rest.empty() && rest != unit)
        return problem("", say("'{}' is not a unit here", shown(rest, 60)),
                       unit.empty() ? "Write only the number" : say("Write it in {}", unit));
    return value;
}

Result<Millimetre> parse_length(std::string_view text) {
    std::string_view rest = trimmed(text);
    double value = take_number(rest);
    if (std::isnan(value)) return not_a_number(text, "a length like 28.1 or 7/8 in");
    bool fraction = false;
    auto denominator = [&](double numerator) {
        rest = trimmed(rest.substr(1));
        fraction = true;
        return numerator / take_number(rest);
    };
    if (!rest.empty() && rest[0] == '/') {
        value = denominator(value);
    } else if (!rest.empty() && std::isdigit(static_cast<unsigned char>(rest[0]))) { // "1 1/8"
        const double numerator = take_number(rest);
        if (rest.empty() || rest[0] != '/') return not_a_number(text, "a length like 1 1/8 in");
        value += denominator(numerator);
    }
    if (!std::isfinite(value)) return not_a_number(text, "a length like 7/8 in");
    const bool inches = rest == "in" || rest == "\"" || rest == "″" || rest == "inch";
    if (inches) return Millimetre(value * mm_per_inch);
    if (rest == "cm") return Millimetre(value * 10);
    if (!rest.empty() && rest != "mm")
        return problem("", say("'{}' is not a unit of length here", shown(rest, 60)),
                       "Write mm or in");
    if (fraction)
        return problem("", "a fraction without its unit", "Write it in inches, like 7/8 in");
    return Millimetre(value);
}

} // namespace conductus
