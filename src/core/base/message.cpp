// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/message.h"

#include <cctype>
#include <fmt/format.h>
#include <ostream>

namespace conductus {

Message::Message(std::string written) : written_(std::move(written)) {
    if (!written_.empty()) id_ = "{}";
}

Message detail::argument(double x) { return fmt::format("{}", x); }

std::string Message::in(const Translate& translate) const {
    if (id_ == "{}" && arguments_.empty()) return written_;
    const std::string translated = translate && !id_.empty() ? translate(id_) : std::string();
    const std::string_view text = translated.empty() ? id_ : std::string_view(translated);
    std::string said;
    std::size_t next = 0;
    for (std::size_t i = 0; i < text.size(); ++i) {
        // {} is the next argument, {2} the third.
        const bool numbered = i + 2 < text.size() && text[i] == '{' &&
                              std::isdigit(static_cast<unsigned char>(text[i + 1])) &&
                              text[i + 2] == '}';
        const bool in_order = i + 1 < text.size() && text[i] == '{' && text[i + 1] == '}';
        if (!numbered && !in_order) {
            said += text[i];
            continue;
        }
        const std::size_t which = numbered ? static_cast<std::size_t>(text[i + 1] - '0') : next++;
        if (which < arguments_.size()) said += arguments_[which].in(translate);
        i += numbered ? 2 : 1;
    }
    return said;
}

std::ostream& operator<<(std::ostream& stream, const Message& message) {
    return stream << message.english();
}

Message joined(const std::vector<Message>& messages, std::string_view between) {
    Message all;
    for (const Message& m : messages)
        all = all.empty() ? m : say("{}{}{}", all, between, m);
    return all;
}

} // namespace conductus
