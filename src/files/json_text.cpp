// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/json_text.h"

#include <cerrno>
#include <cmath>
#include <cstring>
#include <fcntl.h>
#include <fmt/format.h>
#include <fstream>
#include <set>
#include <unistd.h>

namespace conductus::files {
namespace {

constexpr int deepest = 64;

std::string place(std::string_view text, std::size_t byte, const std::string& name) {
    byte = std::min(byte, text.size());
    std::size_t line = 1, column = 1;
    for (std::size_t i = 0; i + 1 < byte; ++i) {
        ++column;
        if (text[i] == '\n') ++line, column = 1;
    }
    return fmt::format("{}, line {}, column {}", name, line, column);
}

/// Why a parser stopped, without the library's own prefix.
std::string reason(const nlohmann::json::parse_error& e) {
    const std::string_view what = e.what();
    const auto colon = what.find(": ");
    std::string tail(colon == std::string_view::npos ? what : what.substr(colon + 2));
    if (const auto last = tail.find("; last read"); last != std::string::npos) tail.resize(last);
    return tail;
}

} // namespace

Result<std::string> read_text(const std::filesystem::path& path) {
    std::error_code error;
    const auto status = std::filesystem::status(path, error);
    const std::string name = path.string();
    if (!std::filesystem::exists(status))
        return problem(name, "there is no such file", "Check the name");
    if (!std::filesystem::is_regular_file(status))
        return problem(name, "this is not a file", "Name a file, not a folder");
    const auto size = std::filesystem::file_size(path, error);
    if (error) return problem(name, "can not be read: " + error.message(), "Check its permissions");
    if (size > largest_file)
        return problem(name,
                       fmt::format("the file has {} MB; nothing Conductus reads is over {} MB",
                                   size >> 20, largest_file >> 20),
                       "This is hardly a job: check which file you meant");
    std::ifstream in(path, std::ios::binary);
    std::string text(static_cast<std::size_t>(size), '\0');
    in.read(text.data(), static_cast<std::streamsize>(size));
    if (!in) return problem(name, "can not be read", "Check its permissions");
    return text;
}

Result<void> write_text(const std::filesystem::path& path, std::string_view text) {
    const std::string partial = fmt::format("{}.{}.part", path.string(), ::getpid());
    auto failed = [&](const char* what) {
        const std::string why = std::strerror(errno);
        ::unlink(partial.c_str());
        return problem(path.string(), fmt::format("{}: {}", what, why),
                       "Make room or choose another folder; what was there before is untouched");
    };
    const int fd = ::open(partial.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
    if (fd < 0) return failed("can not be written");
    for (std::size_t done = 0; done < text.size();) {
        const auto n = ::write(fd, text.data() + done, text.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) {
            auto refused = failed("can not be written");
            ::close(fd);
            return refused;
        }
        done += static_cast<std::size_t>(n);
    }
    const bool kept = ::fsync(fd) == 0;
    if (::close(fd) != 0 || !kept) return failed("can not be kept");
    if (::rename(partial.c_str(), path.c_str()) != 0) return failed("can not be put in place");
    return {};
}

Result<Json> parse_json(std::string_view text, const std::string& name) {
    if (text.find_first_not_of(" \t\r\n") == std::string_view::npos)
        return problem(name, "the file is empty", "Export the job again, or start a new one");
    std::vector<std::set<std::string>> keys;
    std::string twice;
    bool too_deep = false;
    auto watch = [&](int depth, Json::parse_event_t event, Json& parsed) {
        if (depth > deepest) too_deep = true;
        if (event == Json::parse_event_t::object_start) keys.emplace_back();
        if (event == Json::parse_event_t::object_end && !keys.empty()) keys.pop_back();
        if (event == Json::parse_event_t::key && !keys.empty()) {
            const auto key = parsed.get<std::string>();
            if (!keys.back().insert(key).second && twice.empty()) twice = key;
        }
        return depth <= deepest;
    };
    try {
        Json json = Json::parse(text, watch);
        if (too_deep)
            return problem(name, fmt::format("it is nested deeper than {} levels", deepest),
                           "This is not a Conductus file");
        if (!twice.empty())
            return problem(name, fmt::format("the key '{}' is there twice in one object", twice),
                           "Keep one of them");
        return json;
    } catch (const nlohmann::json::parse_error& e) {
        return problem(place(text, e.byte, name), reason(e), "The file is cut off or not JSON");
    } catch (const nlohmann::json::exception& e) {
        return problem(name, std::string("is not readable JSON: ") + e.what(), "Check its numbers");
    }
}

Json json_number(double value) {
    if (std::abs(value) < 1e15 && value == std::floor(value) && !std::signbit(value))
        return static_cast<std::int64_t>(value);
    return value;
}

} // namespace conductus::files
