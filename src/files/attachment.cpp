// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/attachment.h"

#include <array>
#include <fmt/format.h>
#define XXH_INLINE_ALL
#include <xxhash.h>

namespace conductus::files {
namespace {

constexpr std::string_view alphabet =
    "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";

} // namespace

std::string content_id(std::string_view bytes) {
    const XXH128_hash_t hash = XXH3_128bits(bytes.data(), bytes.size());
    return fmt::format("{:016x}{:016x}", hash.high64, hash.low64);
}

bool is_content_id(std::string_view text) {
    return text.size() == 32 &&
           text.find_first_not_of("0123456789abcdef") == std::string_view::npos;
}

std::optional<std::string> picture_type(std::string_view bytes) {
    if (bytes.starts_with("\x89PNG\r\n\x1a\n")) return "image/png";
    if (bytes.starts_with("\xff\xd8\xff")) return "image/jpeg";
    return std::nullopt;
}

std::string to_base64(std::string_view bytes) {
    std::string out;
    out.reserve((bytes.size() + 2) / 3 * 4);
    for (std::size_t i = 0; i < bytes.size(); i += 3) {
        unsigned block = 0;
        for (std::size_t k = 0; k < 3; ++k)
            block =
                block << 8 | (i + k < bytes.size() ? static_cast<unsigned char>(bytes[i + k]) : 0u);
        for (std::size_t k = 0; k < 4; ++k)
            out += i + k <= bytes.size() ? alphabet[block >> (18 - 6 * k) & 63] : '=';
    }
    return out;
}

std::optional<std::string> from_base64(std::string_view text) {
    static const auto digits = [] {
        std::array<int, 256> d{};
        d.fill(-1);
        for (std::size_t i = 0; i < alphabet.size(); ++i)
            d[static_cast<unsigned char>(alphabet[i])] = static_cast<int>(i);
        return d;
    }();
    if (text.size() % 4 != 0) return std::nullopt;
    std::size_t padding = 0;
    while (padding < 2 && !text.empty() && text.back() == '=') {
        text.remove_suffix(1);
        ++padding;
    }
    std::string out;
    out.reserve(text.size() / 4 * 3 + 3);
    unsigned block = 0;
    int bits = 0;
    for (const char c : text) {
        const int digit = digits[static_cast<unsigned char>(c)];
        if (digit < 0) return std::nullopt;
        block = block << 6 | static_cast<unsigned>(digit);
        bits += 6;
        if (bits >= 8) {
            bits -= 8;
            out += static_cast<char>(block >> bits & 255);
        }
    }
    return out;
}

std::vector<std::string> pictures_of(const job::Job& job) {
    std::vector<std::string> ids;
    for (const auto& item : job.inspection)
        for (const auto& picture : item.pictures)
            ids.push_back(picture.id);
    return ids;
}

std::vector<std::string> kept_of(const job::Job& job) {
    std::vector<std::string> ids;
    for (const auto& milestone : job.milestones)
        ids.push_back(milestone.kept);
    return ids;
}

} // namespace conductus::files
