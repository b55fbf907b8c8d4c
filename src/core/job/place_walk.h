// SPDX-License-Identifier: GPL-3.0-or-later
// Going down to one value or list of a job by its place: what core/job/places.cpp and rows.cpp have
// in common.
#pragma once

#include <charconv>
#include <optional>
#include <string>
#include <string_view>
#include <type_traits>
#include <utility>

#include "core/base/problem.h"
#include "core/job/fields.h"

namespace conductus::job {

/// The first name of a place and what comes behind it: "/wires/3" is "wires" and "/3".
inline std::pair<std::string_view, std::string_view> first_name(std::string_view at) {
    if (at.starts_with('/')) at.remove_prefix(1);
    const auto end = at.find('/');
    if (end == std::string_view::npos) return {at, {}};
    return {at.substr(0, end), at.substr(end)};
}

inline std::optional<std::size_t> index_of(std::string_view name) {
    std::size_t index = 0;
    const auto [end, error] = std::from_chars(name.data(), name.data() + name.size(), index);
    if (name.empty() || error != std::errc() || end != name.data() + name.size())
        return std::nullopt;
    return index;
}

/// "/wires/3" is "/wires" and 3; no index: it is no element of a list.
inline std::pair<std::string_view, std::optional<std::size_t>> split_element(std::string_view at) {
    const auto slash = at.rfind('/');
    if (slash == std::string_view::npos) return {at, std::nullopt};
    return {at.substr(0, slash), index_of(at.substr(slash + 1))};
}

inline tl::unexpected<Problem> nowhere(std::string_view at) {
    return problem(std::string(at), "there is no such place in the job",
                   "It may have been taken out meanwhile");
}

/// Goes down to one value or list and gives it to `Found`. A visitor of describe().
template <class Found>
class Walk {
public:
    Walk(std::string_view at, Found& found) : at_(at), found_(found) {}

    template <class T>
    void text(const char* key, T& v) {
        if (is(key)) found_.text(v);
    }
    template <class T>
    void usual_text(const char* key, T& v) {
        text(key, v);
    }
    template <class T>
    void optional_text(const char* key, T& v) {
        if (is(key)) found_.optional_text(v);
    }
    template <class T>
    void number(const char* key, T& v, limits::Range range) {
        if (is(key)) found_.number(key, v, range);
    }
    template <class T>
    void usual_number(const char* key, T& v, limits::Range range) {
        number(key, v, range);
    }
    template <class T>
    void optional_number(const char* key, T& v, limits::Range range) {
        if (is(key)) found_.optional_number(key, v, range);
    }
    template <class T>
    void integer(const char* key, T& v, limits::Range range) {
        if (is(key)) found_.integer(key, v, range);
    }
    template <class T>
    void usual_integer(const char* key, T& v, limits::Range range) {
        integer(key, v, range);
    }
    template <class T>
    void flag(const char* key, T& v) {
        if (is(key)) found_.flag(v);
    }
    template <class T>
    void usual_flag(const char* key, T& v) {
        flag(key, v);
    }
    template <class T>
    void maybe_object(const char* key, T& v) {
        if (v) object(key, *v);
    }
    template <class T>
    void word(const char* key, T& v) {
        if (is(key)) found_.word(v);
    }
    template <class T>
    void usual_word(const char* key, T& v) {
        word(key, v);
    }
    template <class T>
    void object(const char* key, T& v) {
        const auto [name, rest] = first_name(at_);
        if (name != key || rest.empty()) return;
        Walk inner(rest, found_);
        describe(inner, v);
    }
    template <class T>
    void optional_object(const char* key, T& v) {
        object(key, v);
    }
    template <class T>
    void list(const char* key, T& v) {
        const auto [name, rest] = first_name(at_);
        if (name != key) return;
        if (rest.empty()) return found_.list(v);
        const auto [number, deeper] = first_name(rest);
        const auto index = index_of(number);
        if (!index || *index >= v.size()) return;
        if constexpr (std::is_same_v<std::remove_cvref_t<decltype(v[*index])>, std::string>) {
            if (deeper.empty()) found_.text(v[*index]);
        } else if (!deeper.empty()) {
            Walk inner(deeper, found_);
            describe(inner, v[*index]);
        }
    }
    template <class T>
    void optional_list(const char* key, T& v) {
        list(key, v);
    }
    /// What is wrong with values is looked for elsewhere.
    template <class What, class Mend>
    void invalid(const char*, const What&, const Mend&) {}

private:
    [[nodiscard]] bool is(std::string_view key) const {
        const auto [name, rest] = first_name(at_);
        return name == key && rest.empty();
    }
    std::string_view at_;
    Found& found_;
};

/// A visitor of Walk that passes over everything: what it is after it says anew.
struct PassesOver {
    template <class T>
    void text(const T&) {}
    template <class T>
    void optional_text(const T&) {}
    template <class T>
    void number(std::string_view, const T&, limits::Range) {}
    template <class T>
    void optional_number(std::string_view, const T&, limits::Range) {}
    void integer(std::string_view, int, limits::Range) {}
    void flag(bool) {}
    template <class E>
    void word(const E&) {}
    template <class T>
    void list(const T&) {}
};

} // namespace conductus::job
