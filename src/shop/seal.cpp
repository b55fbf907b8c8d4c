// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/seal.h"

#include <array>
#include <cstdint>
#include <fmt/format.h>
#include <random>
#include <sys/random.h>

#include "files/attachment.h"

namespace conductus::shop {

std::string random_id() {
    std::array<std::uint64_t, 2> bits{};
    if (::getrandom(bits.data(), sizeof bits, 0) != static_cast<ssize_t>(sizeof bits)) {
        std::random_device device;
        for (auto& b : bits)
            b = static_cast<std::uint64_t>(device()) << 32 | device();
    }
    return fmt::format("{:016x}{:016x}", bits[0], bits[1]);
}

std::string seal_of(std::initializer_list<std::string_view> fields) {
    std::string all;
    for (const std::string_view field : fields) {
        all += fmt::format("{}:", field.size());
        all += field;
    }
    return files::content_id(all);
}

} // namespace conductus::shop
