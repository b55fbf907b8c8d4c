// SPDX-License-Identifier: GPL-3.0-or-later
// Every single field of a document against its limits, for what comes from the screen or a table
// and not through the reader of a file: what the program writes, it can read.
#pragma once

#include <concepts>
#include <fmt/format.h>
#include <optional>
#include <string>
#include <type_traits>
#include <vector>

#include "core/base/problem.h"
#include "core/base/quantity.h"
#include "core/job/limits.h"
#include "core/job/validate.h"

namespace conductus::job {

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
    void number(const char* key, double value, limits::Range range) {
        if (first_ || range.holds(value)) return;
        refuse(key, fmt::format("{} is out of range", value),
               fmt::format("It lies between {} and {}", range.least, range.most));
    }
    template <class Unit>
    void number(const char* key, Quantity<Unit> value, limits::Range range) {
        number(key, value.value(), range);
    }
    template <class N>
    void optional_number(const char* key, const std::optional<N>& value, limits::Range range) {
        if (value) number(key, *value, range);
    }
    template <class N>
    void usual_number(const char* key, const N& value, limits::Range range) {
        number(key, value, range);
    }
    void integer(const char* key, int value, limits::Range range) {
        number(key, static_cast<double>(value), range);
    }
    void usual_integer(const char* key, int value, limits::Range range) {
        integer(key, value, range);
    }
    void flag(const char*, bool) {}
    void usual_flag(const char*, bool) {}
    template <class T>
    void maybe_object(const char* key, const std::optional<T>& value) {
        if (value) object(key, *value);
    }
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
        // What is not there has no limits, where that can be told.
        if constexpr (std::equality_comparable<T>)
            if (value == T{}) return;
        object(key, value);
    }
    template <class T>
    void list(const char* key, const std::vector<T>& values) {
        if (first_) return;
        if (values.size() > limits::longest<T>)
            return refuse(key, fmt::format("the list has {} entries", values.size()),
                          fmt::format("Keep it under {}", limits::longest<T>));
        for (std::size_t i = 0; i < values.size() && !first_; ++i) {
            LimitsVisitor inner(first_, this, key, i);
            if constexpr (std::is_same_v<T, std::string>)
                inner.text("", values[i]);
            else
                describe(inner, values[i]);
        }
    }
    template <class T>
    void optional_list(const char* key, const std::vector<T>& values) {
        list(key, values);
    }

    /// What a description finds wrong with values that belong together.
    template <class What, class Mend>
    void invalid(const char* key, const What& what, const Mend& mend) {
        if (!first_) refuse(key, what, mend);
    }

private:
    void refuse(const char* key, Message what, Message mend) {
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

} // namespace conductus::job
