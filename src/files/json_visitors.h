// SPDX-License-Identifier: GPL-3.0-or-later
// One description of a struct serves reading, writing and the JSON Schema: each visitor below has
// the same calls, and core/job/fields.h makes them for every struct of the job.
#pragma once

#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "core/base/nearest.h"
#include "core/base/problem.h"
#include "core/base/quantity.h"
#include "core/job/limits.h"
#include "core/job/words.h"
#include "files/json_text.h"

namespace conductus::files {

using job::limits::Range;

/// The first problem met in a document, with JSON pointers.
struct ReadContext {
    std::string name; ///< the file's
    std::optional<Problem> first;
    void refuse(const std::string& pointer, std::string what, std::string mend) {
        if (!first)
            first = Problem{name + " " + (pointer.empty() ? "/" : pointer), std::move(what),
                            std::move(mend)};
    }
};

inline const char* kind_of(const Json& j) {
    if (j.is_object()) return "an object";
    if (j.is_array()) return "a list";
    if (j.is_string()) return "a text";
    if (j.is_number()) return "a number";
    if (j.is_boolean()) return "true or false";
    return "null";
}

/// "length_mm" -> "length", "mm"; no unit: the whole key and "".
inline std::pair<std::string, std::string> stem_and_unit(const std::string& key) {
    const auto bar = key.find('_');
    if (bar == std::string::npos) return {key, ""};
    return {key.substr(0, bar), key.substr(bar + 1)};
}

/// Where a reader is in the document: written out as a JSON pointer only where something is wrong.
struct JsonPlace {
    const JsonPlace* above = nullptr;
    const char* key = nullptr;
    std::size_t index = none; ///< in the list under that key
    static constexpr std::size_t none = static_cast<std::size_t>(-1);
    [[nodiscard]] std::string pointer() const {
        std::string text = above ? above->pointer() : std::string();
        if (key) text += std::string("/") + key;
        if (index != none) text += fmt::format("/{}", index);
        return text;
    }
};

class JsonReader {
public:
    static constexpr bool makes = true; ///< what it reads is there only then
    JsonReader(const Json& json, ReadContext& context, const JsonPlace& spot = {})
        : json_(json), spot_(spot), context_(context) {}

    void text(const char* key, std::string& value) {
        if (const Json* j = need(key, &Json::is_string, "a text")) {
            const auto& got = j->get_ref<const std::string&>();
            if (got.size() > job::limits::text_length)
                return refuse(key, fmt::format("the text has {} letters", got.size()),
                              fmt::format("Keep it under {}", job::limits::text_length));
            value = got;
        }
    }
    void optional_text(const char* key, std::optional<std::string>& value) {
        if (!has(key)) return;
        text(key, value.emplace());
    }
    void number(const char* key, double& value, Range range) {
        if (const Json* j = need(key, &Json::is_number, "a number")) {
            const double got = j->get<double>();
            if (!range.holds(got))
                return refuse(key, fmt::format("{} is out of range", got),
                              fmt::format("It lies between {} and {}", range.least, range.most));
            value = got;
        }
    }
    template <class Unit>
    void number(const char* key, Quantity<Unit>& value, Range range) {
        double v = value.value();
        number(key, v, range);
        value = Quantity<Unit>(v);
    }
    template <class Unit>
    void optional_number(const char* key, std::optional<Quantity<Unit>>& value, Range range) {
        if (!has(key)) return;
        number(key, value.emplace(), range);
    }
    void optional_number(const char* key, std::optional<double>& value, Range range) {
        if (!has(key)) return;
        number(key, value.emplace(), range);
    }
    // Usual values need not be written.
    void usual_text(const char* key, std::string& value) {
        if (has(key)) text(key, value);
    }
    template <class Unit>
    void usual_number(const char* key, Quantity<Unit>& value, Range range) {
        if (has(key)) number(key, value, range);
    }
    void usual_number(const char* key, double& value, Range range) {
        if (has(key)) number(key, value, range);
    }
    template <class E>
    void usual_word(const char* key, E& value) {
        if (has(key)) word(key, value);
    }
    void usual_integer(const char* key, int& value, Range range) {
        if (has(key)) integer(key, value, range);
    }
    void integer(const char* key, int& value, Range range) {
        double v = value;
        number(key, v, range);
        if (v != std::floor(v))
            return refuse(key, fmt::format("{} is not a whole number", v), "Write a whole number");
        value = static_cast<int>(v);
    }
    void flag(const char* key, bool& value) {
        if (const Json* j = need(key, &Json::is_boolean, "true or false")) value = j->get<bool>();
    }
    void usual_flag(const char* key, bool& value) {
        if (has(key)) flag(key, value);
    }
    template <class T>
    void maybe_object(const char* key, std::optional<T>& value) {
        if (has(key)) object(key, value.emplace());
    }
    template <class E>
    void word(const char* key, E& value) {
        if (const Json* j = need(key, &Json::is_string, "a word")) {
            const auto& got = j->get_ref<const std::string&>();
            if (const auto e = job::from_word<E>(got)) {
                value = *e;
                return;
            }
            std::vector<std::string_view> words;
            for (const auto& entry : job::Words<E>::table)
                words.push_back(entry.second);
            refuse(key, fmt::format("'{}' is not known here", shown(got, 60)),
                   fmt::format("Write one of: {}", fmt::join(words, ", ")));
        }
    }
    template <class T>
    void object(const char* key, T& value) {
        if (const Json* j = need(key, &Json::is_object, "an object"))
            read(*j, {&spot_, key}, value);
    }
    template <class T>
    void optional_object(const char* key, T& value) {
        if (has(key)) object(key, value);
    }
    template <class T>
    void optional_list(const char* key, std::vector<T>& values) {
        if (has(key)) list(key, values);
    }
    template <class T>
    void list(const char* key, std::vector<T>& values) {
        const Json* j = need(key, &Json::is_array, "a list");
        if (!j) return;
        if (j->size() > job::limits::longest<T>)
            return refuse(key, fmt::format("the list has {} entries", j->size()),
                          fmt::format("Keep it under {}", job::limits::longest<T>));
        values.clear();
        for (std::size_t i = 0; i < j->size(); ++i) {
            const JsonPlace here{&spot_, key, i};
            if constexpr (std::is_same_v<T, std::string>) {
                if (!(*j)[i].is_string())
                    return context_.refuse(here.pointer(),
                                           fmt::format("this is {}, not a text", kind_of((*j)[i])),
                                           "Write it in quotes");
                values.push_back((*j)[i].template get<std::string>());
            } else if (!(*j)[i].is_object()) {
                return context_.refuse(here.pointer(),
                                       fmt::format("this is {}, not an object", kind_of((*j)[i])),
                                       "Write it in { }");
            } else {
                read((*j)[i], here, values.emplace_back());
            }
        }
    }

    /// Keys that are somebody else's to read.
    void leave_out(std::initializer_list<const char*> keys) {
        for (const char* key : keys)
            (void)has(key);
    }

    /// For what a caller finds wrong with a value it read.
    void invalid(const char* key, std::string what, std::string mend) {
        context_.refuse(at(key), std::move(what), std::move(mend));
    }

    /// After all fields: unknown keys first, since a misspelt key is also a missing one.
    void finish() {
        if (found_ != json_.size()) refuse_unknown();
        if (!missing_.empty())
            context_.refuse(spot_.pointer(), fmt::format("the key '{}' is missing", missing_),
                            "Add it");
        if (pending_ && !context_.first) context_.first = pending_;
    }

private:
    void refuse_unknown() {
        const std::set<std::string> known(known_.begin(), known_.end());
        for (const auto& [key, value] : json_.items()) {
            if (known.contains(key)) continue;
            return context_.refuse(at(key),
                                   fmt::format("the key '{}' is not known here", shown(key, 60)),
                                   advice(key, known));
        }
    }
    template <class T>
    void read(const Json& j, const JsonPlace& spot, T& value) {
        JsonReader inner(j, context_, spot);
        describe(inner, value);
        inner.finish();
    }
    [[nodiscard]] std::string at(const std::string& key) const {
        std::string escaped;
        for (const char c : key)
            escaped += c == '~' ? "~0" : c == '/' ? "~1" : std::string(1, c);
        return spot_.pointer() + "/" + escaped;
    }
    bool has(const char* key) {
        // Asked for twice where it may be left out: once as whether it is there.
        if (key == last_key_) return last_ != nullptr;
        known_.push_back(key);
        last_key_ = key;
        last_ = find(key);
        if (last_) ++found_;
        return last_ != nullptr;
    }
    /// Keys mostly come in the order in which they are asked for.
    const Json* find(const char* key) {
        const auto& object = json_.get_ref<const Json::object_t&>();
        const std::size_t count = object.size();
        const auto* entries = object.data();
        for (std::size_t i = 0; i < count; ++i) {
            const std::size_t at = next_ + i < count ? next_ + i : next_ + i - count;
            if (entries[at].first == key) {
                next_ = at + 1 < count ? at + 1 : 0;
                return &entries[at].second;
            }
        }
        return nullptr;
    }
    const Json* need(const char* key, bool (Json::*is)() const noexcept, const char* wanted) {
        if (!has(key)) {
            if (missing_.empty()) missing_ = key;
            return nullptr;
        }
        const Json& j = *last_;
        if ((j.*is)()) return &j;
        refuse(key, fmt::format("this is {}, not {}", kind_of(j), wanted),
               fmt::format("Write {}", wanted));
        return nullptr;
    }
    void refuse(const char* key, std::string what, std::string mend) {
        if (!pending_)
            pending_ = Problem{context_.name + " " + at(key), std::move(what), std::move(mend)};
    }
    [[nodiscard]] static std::string advice(const std::string& key,
                                            const std::set<std::string>& known) {
        const auto [stem, unit] = stem_and_unit(key);
        for (const std::string& k : known)
            if (const auto [s, u] = stem_and_unit(k); s == stem && !u.empty() && u != unit)
                return fmt::format("Give it in the unit '{}', as '{}'", u, k);
        // Some of the known keys are not this object's: what is said is what is near.
        const std::string near = key.size() > 60 ? std::string() : nearest_word(key, known);
        if (!near.empty()) return fmt::format("Did you mean '{}'?", near);
        return fmt::format("Known here: {}", fmt::join(known, ", "));
    }

    const Json& json_;
    JsonPlace spot_;
    ReadContext& context_;
    std::vector<const char*> known_;
    const char* last_key_ = nullptr;
    const Json* last_ = nullptr;
    std::size_t next_ = 0, found_ = 0;
    std::string missing_;
    std::optional<Problem> pending_;
};

class JsonWriter {
public:
    /// `all`: usual values are written too.
    explicit JsonWriter(bool all = false) : all_(all) {}
    Json json = Json::object();

    void text(const char* key, const std::string& value) { put(key, value); }
    void optional_text(const char* key, const std::optional<std::string>& value) {
        if (value) put(key, *value);
    }
    void number(const char* key, double value, Range) { put(key, json_number(value)); }
    template <class Unit>
    void number(const char* key, Quantity<Unit> value, Range) {
        put(key, json_number(value.value()));
    }
    template <class Unit>
    void optional_number(const char* key, const std::optional<Quantity<Unit>>& value, Range) {
        if (value) put(key, json_number(value->value()));
    }
    void optional_number(const char* key, const std::optional<double>& value, Range) {
        if (value) put(key, json_number(*value));
    }
    void usual_text(const char* key, const std::string& value) {
        if (all_ || !value.empty()) text(key, value);
    }
    template <class Unit>
    void usual_number(const char* key, Quantity<Unit> value, Range range) {
        if (all_ || value.value() != 0) number(key, value, range);
    }
    void usual_number(const char* key, double value, Range range) {
        if (all_ || value != 0) number(key, value, range);
    }
    void usual_integer(const char* key, int value, Range range) {
        if (all_ || value != 0) integer(key, value, range);
    }
    template <class E>
    void usual_word(const char* key, E value) {
        if (all_ || value != E{}) word(key, value);
    }
    /// What is wrong with a value its reader finds.
    void invalid(const char*, const std::string&, const char*) {}
    void invalid(const char*, const std::string&, const std::string&) {}
    void integer(const char* key, int value, Range) { put(key, value); }
    void flag(const char* key, bool value) { put(key, value); }
    void usual_flag(const char* key, bool value) {
        if (all_ || value) flag(key, value);
    }
    template <class T>
    void maybe_object(const char* key, const std::optional<T>& value) {
        if (value) object(key, *value);
    }
    template <class E>
    void word(const char* key, E value) {
        put(key, job::word(value));
    }
    template <class T>
    void object(const char* key, const T& value) {
        JsonWriter inner(all_);
        describe(inner, value);
        put(key, std::move(inner.json));
    }
    template <class T>
    void list(const char* key, const std::vector<T>& values) {
        Json array = Json::array();
        for (const T& value : values) {
            if constexpr (std::is_same_v<T, std::string>) {
                array.push_back(value);
            } else {
                JsonWriter inner(all_);
                describe(inner, value);
                array.push_back(std::move(inner.json));
            }
        }
        put(key, std::move(array));
    }
    template <class T>
    void optional_object(const char* key, const T& value) {
        if (value != T{}) object(key, value);
    }
    template <class T>
    void optional_list(const char* key, const std::vector<T>& values) {
        if (!values.empty()) list(key, values);
    }

private:
    /// Each key is described once: there is nothing to look for.
    void put(const char* key, Json value) {
        auto& object = json.get_ref<Json::object_t&>();
        // To grow, the library's map copies all that is in it.
        constexpr std::size_t usual = 32;
        if (object.empty()) object.reserve(usual);
        object.emplace_back(key, std::move(value));
    }
    bool all_;
};

/// JSON Schema (draft 2020-12) of what JsonReader accepts.
class SchemaWriter {
public:
    [[nodiscard]] Json schema() const {
        return {{"type", "object"},
                {"additionalProperties", false},
                {"required", required_},
                {"properties", properties_}};
    }
    void text(const char* key, const std::string&) { add(key, string_schema(), true); }
    void optional_text(const char* key, const std::optional<std::string>&) {
        add(key, string_schema(), false);
    }
    template <class N>
    void number(const char* key, const N&, Range r) {
        add(key, range_schema("number", r), true);
    }
    template <class N>
    void optional_number(const char* key, const N&, Range r) {
        add(key, range_schema("number", r), false);
    }
    void integer(const char* key, int, Range r) { add(key, range_schema("integer", r), true); }
    void usual_integer(const char* key, int, Range r) {
        add(key, range_schema("integer", r), false);
    }
    void flag(const char* key, bool) { add(key, {{"type", "boolean"}}, true); }
    void usual_flag(const char* key, bool) { add(key, {{"type", "boolean"}}, false); }
    template <class T>
    void maybe_object(const char* key, const std::optional<T>&) {
        object(key, T{}, false);
    }
    void usual_text(const char* key, const std::string&) { add(key, string_schema(), false); }
    template <class N>
    void usual_number(const char* key, const N&, Range r) {
        add(key, range_schema("number", r), false);
    }
    template <class E>
    void usual_word(const char* key, const E& value) {
        word(key, value, false);
    }
    template <class E>
    void word(const char* key, const E&, bool required = true) {
        Json words = Json::array();
        for (const auto& entry : job::Words<E>::table)
            words.push_back(entry.second);
        add(key, {{"enum", words}}, required);
    }
    template <class T>
    void object(const char* key, const T& value, bool required = true) {
        SchemaWriter inner;
        describe(inner, value);
        add(key, inner.schema(), required);
    }
    template <class T>
    void optional_object(const char* key, const T& value) {
        object(key, value, false);
    }
    template <class T>
    void list(const char* key, const std::vector<T>&, bool required = true) {
        SchemaWriter inner;
        const T one{};
        describe(inner, one);
        add(key,
            {{"type", "array"}, {"maxItems", job::limits::longest<T>}, {"items", inner.schema()}},
            required);
    }
    template <class T>
    void optional_list(const char* key, const std::vector<T>& values) {
        list(key, values, false);
    }
    void constant(const char* key, const Json& value) { add(key, {{"const", value}}, true); }
    void any_of(const char* key, const Json& values) { add(key, {{"enum", values}}, true); }

private:
    static Json string_schema() {
        return {{"type", "string"}, {"maxLength", job::limits::text_length}};
    }
    static Json range_schema(const char* type, Range r) {
        return {
            {"type", type}, {"minimum", json_number(r.least)}, {"maximum", json_number(r.most)}};
    }
    void add(const char* key, Json schema, bool required) {
        properties_[key] = std::move(schema);
        if (required) required_.push_back(key);
    }
    Json properties_ = Json::object();
    Json required_ = Json::array();
};

} // namespace conductus::files
