// SPDX-License-Identifier: GPL-3.0-or-later
// Documents of a history, small: each is compressed by itself or against an earlier one of the same
// job, which it is mostly equal to.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <string_view>

struct ZSTD_CCtx_s;
struct ZSTD_DCtx_s;

namespace conductus::shop {

/// Largest document that is ever unpacked.
inline constexpr std::size_t largest_document = 64u << 20;

class Packer {
public:
    Packer();
    ~Packer();
    Packer(Packer&&) noexcept;
    Packer& operator=(Packer&&) noexcept;

    /// A zstd frame. `base`: what the reader will have at hand, empty for nothing.
    [[nodiscard]] std::string pack(std::string_view document, std::string_view base);
    /// The document; nothing where the bytes are no such frame.
    [[nodiscard]] std::optional<std::string> unpack(std::string_view packed, std::string_view base);

private:
    struct Free {
        void operator()(ZSTD_CCtx_s* c) const;
        void operator()(ZSTD_DCtx_s* d) const;
    };
    std::unique_ptr<ZSTD_CCtx_s, Free> in_;
    std::unique_ptr<ZSTD_DCtx_s, Free> out_;
};

/// What lies beside the jobs (pictures, documents), as a book holds it: a zstd frame where that is
/// smaller, or as it is. The two are told apart by their first bytes.
[[nodiscard]] std::string pack_attachment(std::string_view bytes);
/// The bytes again; nothing where a frame is broken.
[[nodiscard]] std::optional<std::string> unpack_attachment(std::string packed);

} // namespace conductus::shop
