// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/pages.h"

#include <algorithm>
#include <optional>

namespace conductus::shop {
namespace {

constexpr std::size_t usual_page = 4096, most_columns = 32;
constexpr std::uint64_t largest_row = 256u << 20;

class Pages {
public:
    explicit Pages(std::string_view file) : file_(file) {
        const std::size_t said = file.size() > 17 ? number(16, 2) : 0;
        const std::size_t size = said == 1 ? 65536 : said;
        const bool good = size >= 512 && size <= 65536 && (size & (size - 1)) == 0;
        // Of a head that is broken nothing is believed; our books have pages of the usual size.
        size_ = good && file.starts_with("SQLite format 3") ? size : usual_page;
    }

    void each(const std::function<void(std::int64_t, const std::vector<Value>&)>& row) {
        constexpr unsigned char leaf_of_a_table = 0x0D;
        for (std::size_t page = 0; page * size_ + 8 <= file_.size(); ++page) {
            const std::size_t start = page * size_, head = start + (page == 0 ? 100 : 0);
            if (head + 8 > file_.size() || byte(head) != leaf_of_a_table) continue;
            const std::size_t cells = number(head + 3, 2);
            for (std::size_t i = 0; i < cells && head + 10 + 2 * i <= file_.size(); ++i) {
                const std::size_t cell = start + number(head + 8 + 2 * i, 2);
                if (cell >= start + size_ || cell >= file_.size()) continue;
                if (auto found = read(cell, start + size_)) row(found->first, found->second);
            }
        }
    }

private:
    [[nodiscard]] unsigned char byte(std::size_t at) const {
        return at < file_.size() ? static_cast<unsigned char>(file_[at]) : 0;
    }
    [[nodiscard]] std::size_t number(std::size_t at, int bytes) const {
        std::size_t value = 0;
        for (int i = 0; i < bytes; ++i)
            value = value << 8 | byte(at + static_cast<std::size_t>(i));
        return value;
    }

    /// SQLite's numbers of one to nine bytes; moves `at` behind it.
    static std::optional<std::uint64_t> varint(std::string_view from, std::size_t& at) {
        std::uint64_t value = 0;
        for (int i = 0; i < 9; ++i) {
            if (at >= from.size()) return std::nullopt;
            const auto b = static_cast<unsigned char>(from[at++]);
            if (i == 8) return value << 8 | b;
            value = value << 7 | (b & 0x7F);
            if ((b & 0x80) == 0) return value;
        }
        return value;
    }

    std::optional<std::pair<std::int64_t, std::vector<Value>>> read(std::size_t cell,
                                                                    std::size_t page_end) {
        std::size_t at = cell;
        const auto size = varint(file_, at);
        const auto row = varint(file_, at);
        if (!size || !row || *size == 0 ||
            *size > std::min<std::uint64_t>(largest_row, file_.size()))
            return std::nullopt;
        const auto payload = gather(at, static_cast<std::size_t>(*size), page_end);
        if (!payload) return std::nullopt;
        auto values = decode(*payload);
        if (!values) return std::nullopt;
        return std::pair(static_cast<std::int64_t>(*row), std::move(*values));
    }

    /// The bytes of a row: what is on its page, and then what is on the pages it goes on in.
    std::optional<std::string> gather(std::size_t at, std::size_t size, std::size_t page_end) {
        const std::size_t most = size_ - 35, least = (size_ - 12) * 32 / 255 - 23;
        std::size_t local = size;
        if (size > most) {
            const std::size_t k = least + (size - least) % (size_ - 4);
            local = k <= most ? k : least;
        }
        if (at + local > std::min(page_end, file_.size())) return std::nullopt;
        std::string bytes(file_.substr(at, local));
        std::size_t next = size > local ? number(at + local, 4) : 0;
        while (bytes.size() < size) {
            if (next == 0 || next * size_ > file_.size()) return std::nullopt;
            const std::size_t start = (next - 1) * size_;
            const std::size_t take = std::min(size - bytes.size(), size_ - 4);
            bytes += file_.substr(start + 4, take);
            next = number(start, 4);
            if (bytes.size() < size && next == 0) return std::nullopt;
        }
        return bytes;
    }

    static std::optional<std::vector<Value>> decode(std::string_view row) {
        std::size_t at = 0;
        const auto head = varint(row, at);
        if (!head || *head > row.size() || *head < at) return std::nullopt;
        std::vector<std::uint64_t> types;
        while (at < *head) {
            const auto type = varint(row, at);
            if (!type || types.size() == most_columns) return std::nullopt;
            types.push_back(*type);
        }
        at = static_cast<std::size_t>(*head);
        std::vector<Value> values;
        for (const std::uint64_t type : types) {
            constexpr std::size_t lengths[] = {0, 1, 2, 3, 4, 6, 8};
            if (type == 0) {
                values.emplace_back();
            } else if (type == 8 || type == 9) {
                values.emplace_back(static_cast<std::int64_t>(type - 8));
            } else if (type < 7) {
                const std::size_t length = lengths[type];
                if (at + length > row.size()) return std::nullopt;
                const bool negative = (static_cast<unsigned char>(row[at]) & 0x80) != 0;
                std::uint64_t value = negative ? ~std::uint64_t{0} : 0;
                for (std::size_t i = 0; i < length; ++i)
                    value = value << 8 | static_cast<unsigned char>(row[at++]);
                values.emplace_back(static_cast<std::int64_t>(value));
            } else if (type >= 12) {
                const std::uint64_t length = (type - 12) / 2;
                if (length > row.size() - at) return std::nullopt;
                std::string bytes(row.substr(at, static_cast<std::size_t>(length)));
                at += static_cast<std::size_t>(length);
                if (type % 2 == 1)
                    values.emplace_back(std::move(bytes));
                else
                    values.emplace_back(Bytes{std::move(bytes)});
            } else {
                return std::nullopt;
            }
        }
        return at == row.size() ? std::optional(std::move(values)) : std::nullopt;
    }

    std::string_view file_;
    std::size_t size_;
};

} // namespace

void each_row(std::string_view file,
              const std::function<void(std::int64_t, const std::vector<Value>&)>& row) {
    Pages(file).each(row);
}

} // namespace conductus::shop
