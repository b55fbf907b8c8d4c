// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/meter/pretend.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <tuple>
#include <utility>

#include "core/meter/talk.h"

namespace conductus::meter {
namespace {

constexpr std::array<double, 4> volt_ranges{0.2, 2, 20, 200};
constexpr std::array<double, 4> amp_ranges{0.002, 0.02, 0.2, 10};
constexpr std::array<double, 5> ohm_ranges{200, 2e3, 2e4, 2e5, 4e5};
constexpr const char* identity = "PRETEND,BENCH METER,0,1";

/// What is between quotation marks, or between commas without them.
std::vector<std::string> fields(std::string_view text) {
    std::vector<std::string> all(1);
    bool quoted = false;
    for (const char c : text) {
        if (c == '"')
            quoted = !quoted;
        else if (c == ',' && !quoted)
            all.emplace_back();
        else if (c != ' ' || quoted)
            all.back() += c;
    }
    return all;
}

/// A command as it is compared: capitals, words in their short form (four letters, three where the
/// fourth is a vowel), no colon before it, and no DC after it, which is all that is read here.
std::string short_form(std::string_view command) {
    std::string all, word;
    const auto end_word = [&] {
        if (word.size() > 4)
            word.resize(std::string_view("AEIOU").find(word[3]) == std::string_view::npos ? 4 : 3);
        all += word;
        word.clear();
    };
    const std::size_t space = std::min(command.find(' '), command.size());
    for (const char c : command.substr(0, space)) {
        const char capital = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
        if (capital >= 'A' && capital <= 'Z') {
            word += capital;
            continue;
        }
        end_word();
        if (c != ':' || !all.empty()) all += c;
    }
    end_word();
    for (const char* dc : {":DC", ":DC?"})
        if (all.ends_with(dc)) all = all.substr(0, all.rfind(":DC")) + (dc[3] ? "?" : "");
    return all + std::string(command.substr(space));
}

} // namespace

std::string Pretend::value() {
    const auto there = hilt_(reads_, probes_, supply_);
    const std::string over = fmt::format("{:+.8E}", dialect_.overload);
    if (!there) return fmt::format("{:+.6E}", 0.0); // open probes of volts and amps
    const auto range_of = [&](const auto& ranges) {
        if (range_ > 0) return range_;
        for (const double r : ranges)
            if (std::abs(*there) <= r) return r;
        return ranges.back();
    };
    const double range = reads_ == job::Reads::volts  ? range_of(volt_ranges)
                         : reads_ == job::Reads::amps ? range_of(amp_ranges)
                                                      : range_of(ohm_ranges);
    if (std::abs(*there) > range) return over;
    // Part of what is read and part of its range, and of ohms what the probes add.
    const double noise =
        0.0006 * std::abs(*there) + 0.0002 * range + (reads_ == job::Reads::ohms ? 0.004 : 0);
    const double step = range / 20000;
    return fmt::format("{:+.6E}", std::round((*there + random_.bell() * noise) / step) * step);
}

std::string Pretend::hear(std::string_view line) {
    while (!line.empty() && (line.back() == '\r' || line.back() == '\n' || line.back() == ' '))
        line.remove_suffix(1);
    const std::string heard = short_form(line);
    line = heard;
    const auto is = [&](const std::string& command) {
        return !command.empty() && line == short_form(command);
    };
    const auto rest_of = [&](std::string_view command) -> std::optional<std::string_view> {
        if (!line.starts_with(command)) return std::nullopt;
        return line.substr(command.size());
    };
    if (line.empty()) return {};
    if (is(dialect_.identify)) return identity;
    if (is(dialect_.clear)) {
        error_ = "0,\"no error\"";
        return {};
    }
    for (const job::Reads r : {job::Reads::volts, job::Reads::amps, job::Reads::ohms})
        if (is(dialect_.choose(r))) {
            turn_switch(r);
            return {};
        }
    // Chosen and read at once, as the open standard has it.
    for (const auto& [command, r] : {std::pair{"MEAS:VOLT?", job::Reads::volts},
                                     {"MEAS:CURR?", job::Reads::amps},
                                     {"MEAS:RES?", job::Reads::ohms}})
        if (line == command) {
            turn_switch(r);
            return value();
        }
    if (is(dialect_.function)) return "\"" + dialect_.is(reads_) + "\"";
    if (is(dialect_.read)) return value();
    if (line == "SYST:ERR?") return std::exchange(error_, "0,\"no error\"");
    if (line == "SUPP:CURR?" || is(dialect_.amps_beside)) {
        const job::Reads was = reads_;
        reads_ = job::Reads::amps;
        const std::string amps = value();
        reads_ = was;
        return amps;
    }
    if (line == "OUTP ON" || line == "OUTP OFF") {
        supply_.on = line == "OUTP ON";
        return {};
    }
    if (line == "TURN ON" || line == "TURN OFF") {
        probes_.turned = line == "TURN ON";
        return {};
    }
    if (line == "RANG AUTO") {
        range_ = 0;
        return {};
    }
    for (const auto& [command, value, most] :
         {std::tuple{std::string_view("RANG "), &range_, 1e6},
          std::tuple{std::string_view("SOUR:VOLT "), &supply_.volts, 20.0},
          std::tuple{std::string_view("SOUR:CURR "), &supply_.limit, 20.0}})
        if (const auto rest = rest_of(command)) {
            const auto number = number_of(*rest);
            if (!number || *number <= 0 || *number > most) {
                error_ = "-222,\"out of range\"";
                return {};
            }
            *value = *number;
            return {};
        }
    if (const auto rest = rest_of("PROB ")) {
        const auto told = fields(*rest);
        if (told.size() < 2 || told.size() > 3) {
            error_ = "-109,\"a state and one or two points\"";
            return {};
        }
        probes_ = {told[0], told[1], told.size() > 2 ? told[2] : "", probes_.turned};
        return {};
    }
    error_ = "-113,\"undefined header\"";
    return {};
}

} // namespace conductus::meter
