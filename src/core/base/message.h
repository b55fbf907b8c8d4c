// SPDX-License-Identifier: GPL-3.0-or-later
// What is said to a person: an id with arguments, put into words in one place, so that it can be
// translated and tested.
#pragma once

#include <concepts>
#include <functional>
#include <iosfwd>
#include <ranges>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/format.h"

namespace conductus {

/// The id of a message with as many arguments: its English text, with {} for each of them.
template <std::size_t arguments>
struct MessageId {
    // NOLINTNEXTLINE: a literal is the id.
    consteval MessageId(const char* id) : text(id) {
        std::size_t found = 0;
        for (const char* c = id; *c; ++c)
            if (c[0] == '{' && c[1] == '}') ++found;
        if (found != arguments) throw "a message has as many {} as it has arguments";
    }
    std::string_view text;
};

class Message {
public:
    /// The text of an id in another language, which may give its arguments in another order: {1}
    /// {0}. Empty: there is none, English stands.
    using Translate = std::function<std::string(std::string_view id)>;

    Message() = default;
    /// A message without arguments: a literal, which lives as long as the program.
    Message(const char* id) : id_(id) {} // NOLINT: a literal is a message
    /// A name, or what somebody wrote: it is said as it is written, in every language.
    Message(std::string written);                                        // NOLINT
    Message(std::string_view written) : Message(std::string(written)) {} // NOLINT

    [[nodiscard]] bool empty() const { return id_.empty(); }
    [[nodiscard]] std::string_view id() const { return id_; }
    [[nodiscard]] const std::vector<Message>& arguments() const { return arguments_; }

    [[nodiscard]] std::string english() const { return in({}); }
    [[nodiscard]] std::string in(const Translate& translate) const;

    bool operator==(const Message&) const = default;
    /// Its English words.
    bool operator==(std::string_view words) const { return english() == words; }
    bool operator==(const char* words) const { return english() == words; }
    bool operator==(const std::string& words) const { return english() == words; }

private:
    template <class... Arguments>
    friend Message say(MessageId<sizeof...(Arguments)> id, Arguments&&... arguments);
    std::string_view id_; ///< lives as long as the program; "{}" of what is as written
    std::string written_; ///< of that
    std::vector<Message> arguments_;
};

namespace detail {
inline Message argument(Message m) { return m; }
inline Message argument(std::string s) { return s; }
inline Message argument(std::string_view s) { return s; }
inline Message argument(const char* s) { return s; }
inline Message argument(std::integral auto n) { return std::to_string(n); }
Message argument(double x); ///< as it is written shortest
} // namespace detail

/// say("Pins carry {} each, rated {}", text(amps), text(rating)). Arguments are words, whole
/// numbers, or messages themselves.
template <class... Arguments>
Message say(MessageId<sizeof...(Arguments)> id, Arguments&&... arguments) {
    Message m;
    m.id_ = id.text;
    m.arguments_.reserve(sizeof...(Arguments));
    (m.arguments_.push_back(detail::argument(std::forward<Arguments>(arguments))), ...);
    return m;
}

/// As the command line writes it.
template <class Json>
void to_json(Json& json, const Message& message) {
    json = message.english();
}

/// Its English words, as a test shows them.
std::ostream& operator<<(std::ostream& stream, const Message& message);

/// Messages one after another, with the same between each two.
Message joined(const std::vector<Message>& messages, std::string_view between);
/// Names in a row.
template <std::ranges::range Names>
requires std::convertible_to<std::ranges::range_reference_t<Names>, std::string_view> std::string
joined(const Names& names, std::string_view between) {
    std::string all;
    for (const std::string_view name : names) {
        if (!all.empty()) all += between;
        all += name;
    }
    return all;
}

} // namespace conductus
