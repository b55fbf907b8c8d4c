// SPDX-License-Identifier: GPL-3.0-or-later
// Every single field of a job against its limits, for jobs that come from the screen or a table and
// not through the reader of a file: what the program writes, it can read.
#include <cmath>

#include "core/base/quantity.h"
#include "core/base/utf8.h"
#include "core/job/fields.h"
#include "core/job/limits.h"
#include "core/job/validate.h"
#include "core/job/validate_rules.h"

namespace conductus::job {

std::string refusal_of_text(std::string_view text) {
    if (text.size() > limits::text_length)
        return fmt::format("the text has {} letters, and {} are the most", text.size(),
                           limits::text_length);
    if (const auto at = first_not_utf8(text); at != std::string_view::npos)
        return fmt::format("letter {} of the text is not UTF-8", at + 1);
    for (std::size_t i = 0; i < text.size(); ++i) {
        const auto c = static_cast<unsigned char>(text[i]);
        // Those of two bytes in UTF-8 are C2 80 to C2 9F.
        const auto next = i + 1 < text.size() ? static_cast<unsigned char>(text[i + 1]) : 0xFFu;
        if ((c < 0x20 && c != '\n' && c != '\t' && c != '\r') || c == 0x7F ||
            (c == 0xC2 && next < 0xA0))
            return fmt::format("letter {} of the text is a control character", i + 1);
    }
    return {};
}

namespace {

using limits::Range;

/// Visits a struct as a writer does, and keeps the first field that no file could hold.
class LimitsVisitor {
public:
    /// `above` stands under `key` of what is above it; the pointer is written out only where
    /// something is wrong.
    LimitsVisitor(std::optional<Problem>& first, const LimitsVisitor* above = nullptr,
                  const char* key = nullptr, std::size_t index = none)
        : first_(first), above_(above), key_(key), index_(index) {}

    void text(const char* key, const std::string& value) {
        if (first_) return;
        if (std::string refusal = refusal_of_text(value); !refusal.empty())
            refuse(key, std::move(refusal), "Shorten the text, or take that character out");
    }
    void optional_text(const char* key, const std::optional<std::string>& value) {
        if (value) text(key, *value);
    }
    void usual_text(const char* key, const std::string& value) { text(key, value); }
    void number(const char* key, double value, Range range) {
        if (first_ || range.holds(value)) return;
        refuse(key, fmt::format("{} is out of range", value),
               fmt::format("It lies between {} and {}", range.least, range.most));
    }
    template <class Unit>
    void number(const char* key, Quantity<Unit> value, Range range) {
        number(key, value.value(), range);
    }
    template <class N>
    void optional_number(const char* key, const std::optional<N>& value, Range range) {
        if (value) number(key, *value, range);
    }
    template <class N>
    void usual_number(const char* key, const N& value, Range range) {
        number(key, value, range);
    }
    void integer(const char* key, int value, Range range) {
        number(key, static_cast<double>(value), range);
    }
    void flag(const char*, bool) {}
    template <class E>
    void word(const char*, E) {}
    template <class E>
    void usual_word(const char*, E) {}
    template <class T>
    void object(const char* key, const T& value) {
        if (first_) return;
        LimitsVisitor inner(first_, this, key);
        describe(inner, value);
    }
    template <class T>
    void optional_object(const char* key, const T& value) {
        object(key, value);
    }
    template <class T>
    void list(const char* key, const std::vector<T>& values) {
        if (first_) return;
        if (values.size() > limits::list_length)
            return refuse(key, fmt::format("the list has {} entries", values.size()),
                          fmt::format("Keep it under {}", limits::list_length));
        for (std::size_t i = 0; i < values.size() && !first_; ++i) {
            LimitsVisitor inner(first_, this, key, i);
            describe(inner, values[i]);
        }
    }
    template <class T>
    void optional_list(const char* key, const std::vector<T>& values) {
        list(key, values);
    }

private:
    void refuse(const char* key, std::string what, std::string mend) {
        first_ = Problem{pointer() + "/" + key, std::move(what), std::move(mend)};
    }
    [[nodiscard]] std::string pointer() const {
        std::string text = above_ ? above_->pointer() : std::string();
        if (key_) text += std::string("/") + key_;
        if (index_ != none) text += fmt::format("/{}", index_);
        return text;
    }
    static constexpr std::size_t none = static_cast<std::size_t>(-1);
    std::optional<Problem>& first_;
    const LimitsVisitor* above_;
    const char* key_;
    std::size_t index_;
};

} // namespace

Result<void> check_limits(const Job& job) {
    std::optional<Problem> first;
    LimitsVisitor visitor(first);
    describe(visitor, job);
    if (first) return tl::unexpected(*first);
    return {};
}

} // namespace conductus::job
