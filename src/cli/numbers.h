// SPDX-License-Identifier: GPL-3.0-or-later
// One reader of numbers for every option: all of the text is the number, it is one that can be
// reckoned with, and it lies in the range that the message names.
#pragma once

#include <CLI/CLI.hpp>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <string>

#include "core/base/problem.h"

namespace conductus::cli {

/// Adds `--name NUMBER`; `what`: what the number is, for the help.
template <class T>
CLI::Option* add_number(CLI::App& command, const std::string& name, T& value, T least, T most,
                        const std::string& what) {
    const auto read = [name, least, most, &value](const std::string& text) {
        const auto refused = [&](const std::string& why) {
            throw CLI::ValidationError(name, fmt::format("'{}' {}. It lies between {} and {}",
                                                         shown(text, 60), why, least, most));
        };
        T number{};
        const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), number);
        const bool digits =
            !text.empty() && text.find_first_not_of("+-0123456789.eE") == std::string::npos;
        if (error == std::errc::result_out_of_range) refused("is out of range");
        if (error != std::errc() || end != text.data() + text.size() || !digits)
            refused(std::is_integral_v<T> ? "is not a whole number" : "is not a number");
        if (number < least || number > most) refused("is out of range");
        value = number;
    };
    return command.add_option_function<std::string>(name, read, what)->type_name("NUMBER");
}

} // namespace conductus::cli
