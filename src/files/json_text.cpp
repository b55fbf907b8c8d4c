// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/json_text.h"

#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <unordered_set>

namespace conductus::files {
namespace {

constexpr std::size_t deepest = 64;
constexpr std::size_t between_asking = 1 << 14; ///< values

/// Why a parser stopped, in words of our own: the library's lists what it would have taken instead.
std::string reason(const nlohmann::json::exception& e, const std::string& token) {
    const std::string_view what = e.what();
    if (what.find("invalid UTF-8") != std::string_view::npos) return "this is not UTF-8 text";
    if (what.find("unexpected end of input") != std::string_view::npos ||
        what.find("missing closing quote") != std::string_view::npos)
        return "the text ends in the middle of a value";
    if (what.find("number overflow") != std::string_view::npos)
        return fmt::format("the number {} is too large", shown(token, 40));
    if (what.find("control character") != std::string_view::npos)
        return "a control character stands in a text";
    return token.empty() ? std::string("this is not JSON")
                         : fmt::format("'{}' is not expected here", shown(token, 40));
}

/// Builds the value. The library's own builder searches every object for every key it adds, which
/// takes an hour for an object with a million keys.
class Builder {
public:
    Builder(std::size_t size, const GoOn& go_on) : size_(size), go_on_(go_on) {}

    Json root;
    std::string refusal, mend;
    std::size_t error_at = 0;
    bool stopped = false;

    bool null() { return add(nullptr); }
    bool boolean(bool value) { return add(value); }
    bool number_integer(Json::number_integer_t value) { return add(value); }
    bool number_unsigned(Json::number_unsigned_t value) { return add(value); }
    bool number_float(Json::number_float_t value, const std::string&) { return add(value); }
    bool string(std::string& value) { return add(std::move(value)); }
    bool binary(Json::binary_t&) { return false; }
    bool start_object(std::size_t) { return open(Json::object()); }
    bool start_array(std::size_t) { return open(Json::array()); }
    bool end_object() { return close(); }
    bool end_array() { return close(); }
    bool key(std::string& name) {
        auto& keys = keys_[open_.size() - 1];
        auto& object = open_.back()->get_ref<Json::object_t&>();
        // Few keys are compared quicker than hashed.
        constexpr std::size_t few = 24;
        bool twice = false;
        if (object.size() < few) {
            for (const auto& [known, value] : object)
                twice = twice || known == name;
        } else {
            if (object.size() == few) {
                keys.clear();
                for (const auto& [known, value] : object)
                    keys.insert(known);
            }
            twice = !keys.insert(name).second;
        }
        if (twice)
            return refuse(fmt::format("the key '{}' is there twice in one object", shown(name, 60)),
                          "Keep one of them");
        // To grow, the library's map copies all that is in it; the outermost have most in them.
        constexpr std::size_t outer = 3, usual = 32;
        if (object.empty() && open_.size() <= outer) object.reserve(usual);
        object.emplace_back(std::move(name), nullptr);
        return true;
    }
    bool parse_error(std::size_t position, const std::string& token,
                     const nlohmann::json::exception& e) {
        error_at = position;
        refusal = reason(e, token);
        mend = "The file is cut off, or it is not JSON";
        return false;
    }

private:
    bool refuse(std::string what, std::string how) {
        refusal = std::move(what);
        mend = std::move(how);
        return false;
    }
    Json* place() {
        if (open_.empty()) return &root;
        Json& parent = *open_.back();
        if (parent.is_array()) return &parent.get_ref<Json::array_t&>().emplace_back();
        return &parent.get_ref<Json::object_t&>().back().second;
    }
    template <class T>
    bool add(T&& value) {
        if (++count_ > most_values)
            return refuse(fmt::format("it has more than {} values", most_values),
                          "This is hardly a job: check which file you meant");
        if (go_on_ && count_ % between_asking == 0 &&
            !go_on_(std::min(1.0, static_cast<double>(count_) * 12 / static_cast<double>(size_)))) {
            stopped = true;
            return refuse("the reading was stopped", "Read it again");
        }
        *place() = std::forward<T>(value);
        return true;
    }
    bool open(Json&& container) {
        if (open_.size() >= deepest)
            return refuse(fmt::format("it is nested deeper than {} levels", deepest),
                          "This is not a Conductus file");
        if (!add(nullptr)) return false;
        Json* here = open_.empty() ? &root
                     : open_.back()->is_array()
                         ? &open_.back()->get_ref<Json::array_t&>().back()
                         : &open_.back()->get_ref<Json::object_t&>().back().second;
        *here = std::move(container);
        open_.push_back(here);
        if (keys_.size() < open_.size()) keys_.emplace_back();
        return true;
    }
    bool close() {
        open_.pop_back();
        return true;
    }

    std::size_t size_;
    const GoOn& go_on_;
    std::size_t count_ = 0;
    std::vector<Json*> open_; ///< each stays where it is until those after it are closed
    std::vector<std::unordered_set<std::string>> keys_;
};

} // namespace

Result<Json> parse_json(std::string_view text, const std::string& name, const GoOn& go_on) {
    if (text.starts_with("\xFF\xFE") || text.starts_with("\xFE\xFF")) {
        const auto utf8 = as_utf8(std::string(text), name);
        if (!utf8) return tl::unexpected(utf8.error());
        return parse_json(*utf8, name, go_on);
    }
    if (text.find_first_not_of(" \t\r\n\0") == std::string_view::npos)
        return problem(name, "the file is empty", "Export the job again, or start a new one");
    Builder builder(text.size(), go_on);
    if (Json::sax_parse(text, &builder)) return std::move(builder.root);
    if (builder.stopped) return problem(name, builder.refusal, builder.mend, Cause::stopped);
    if (builder.error_at == 0) return problem(name, builder.refusal, builder.mend);
    return problem(place_in(text, builder.error_at - 1, name), builder.refusal, builder.mend);
}

std::size_t line_of(std::string_view text, std::string_view pointer) {
    // A person looks for the line, so the text is known to parse: no syntax is judged here.
    std::size_t at = 0, line = 1;
    const auto step = [&] {
        if (text[at] == '\n') ++line;
        ++at;
    };
    const auto blank = [&] {
        while (at < text.size() &&
               std::string_view(" \t\r\n,:").find(text[at]) != std::string_view::npos)
            step();
    };
    const auto word = [&] { // a text in quotes, without them; escapes left as they are
        std::string got;
        ++at;
        while (at < text.size() && text[at] != '"') {
            if (text[at] == '\\') got += text[at++];
            if (at < text.size()) got += text[at], step();
        }
        ++at;
        return got;
    };
    const auto skip = [&] { // one value
        int depth = 0;
        do {
            blank();
            if (at >= text.size()) return;
            if (text[at] == '"') {
                word();
            } else if (text[at] == '{' || text[at] == '[') {
                ++depth, ++at;
            } else if (text[at] == '}' || text[at] == ']') {
                --depth, ++at;
            } else {
                while (at < text.size() &&
                       std::string_view(" \t\r\n,:{}[]\"").find(text[at]) == std::string_view::npos)
                    ++at;
            }
        } while (depth > 0);
    };
    blank();
    while (!pointer.empty() && pointer != "/") {
        pointer.remove_prefix(1);
        const auto end = std::min(pointer.find('/'), pointer.size());
        std::string wanted;
        for (std::size_t i = 0; i < end; ++i)
            if (pointer[i] == '~' && i + 1 < end)
                wanted += pointer[++i] == '0' ? '~' : '/';
            else
                wanted += pointer[i];
        pointer.remove_prefix(end);
        if (at >= text.size() || (text[at] != '{' && text[at] != '[')) return line;
        const bool object = text[at] == '{';
        const std::size_t here = line;
        ++at;
        for (std::size_t n = 0;; ++n) {
            blank();
            if (at >= text.size() || text[at] == '}' || text[at] == ']') return here;
            const std::string key = object ? word() : std::to_string(n);
            blank();
            if (key == wanted) break;
            skip();
        }
    }
    return line;
}

std::string json_text(const Json& json) {
    return json.dump(2, ' ', false, Json::error_handler_t::replace);
}

Json json_number(double value) {
    if (std::abs(value) < 1e15 && value == std::floor(value) && !std::signbit(value))
        return static_cast<std::int64_t>(value);
    return value;
}

} // namespace conductus::files
