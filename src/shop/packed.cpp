// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/packed.h"

#include <zstd.h>

namespace conductus::shop {

void Packer::Free::operator()(ZSTD_CCtx_s* c) const { ZSTD_freeCCtx(c); }
void Packer::Free::operator()(ZSTD_DCtx_s* d) const { ZSTD_freeDCtx(d); }

Packer::Packer() : in_(ZSTD_createCCtx()), out_(ZSTD_createDCtx()) {
    if (!in_ || !out_) throw std::bad_alloc();
    ZSTD_CCtx_setParameter(in_.get(), ZSTD_c_compressionLevel, 3);
    // Documents are told apart by a hash of their own.
    ZSTD_CCtx_setParameter(in_.get(), ZSTD_c_checksumFlag, 0);
}
Packer::~Packer() = default;
Packer::Packer(Packer&&) noexcept = default;
Packer& Packer::operator=(Packer&&) noexcept = default;

std::string Packer::pack(std::string_view document, std::string_view base) {
    std::string packed(ZSTD_compressBound(document.size()), '\0');
    if (!base.empty()) ZSTD_CCtx_refPrefix(in_.get(), base.data(), base.size());
    const std::size_t size =
        ZSTD_compress2(in_.get(), packed.data(), packed.size(), document.data(), document.size());
    if (ZSTD_isError(size)) throw std::bad_alloc(); // the bound is enough: only memory can lack
    packed.resize(size);
    return packed;
}

std::optional<std::string> Packer::unpack(std::string_view packed, std::string_view base) {
    const auto size = ZSTD_getFrameContentSize(packed.data(), packed.size());
    if (size == ZSTD_CONTENTSIZE_ERROR || size == ZSTD_CONTENTSIZE_UNKNOWN ||
        size > largest_document)
        return std::nullopt;
    std::string document(static_cast<std::size_t>(size), '\0');
    if (!base.empty()) ZSTD_DCtx_refPrefix(out_.get(), base.data(), base.size());
    const std::size_t got = ZSTD_decompressDCtx(out_.get(), document.data(), document.size(),
                                                packed.data(), packed.size());
    if (ZSTD_isError(got) || got != document.size()) {
        ZSTD_DCtx_reset(out_.get(), ZSTD_reset_session_only);
        ZSTD_DCtx_refPrefix(out_.get(), nullptr, 0);
        return std::nullopt;
    }
    return document;
}

std::string pack_attachment(std::string_view bytes) {
    std::string packed = Packer().pack(bytes, {});
    return packed.size() < bytes.size() ? packed : std::string(bytes);
}

std::optional<std::string> unpack_attachment(std::string packed) {
    // Neither a document nor a picture begins as a frame does.
    if (!packed.starts_with("\x28\xb5\x2f\xfd")) return packed;
    return Packer().unpack(packed, {});
}

} // namespace conductus::shop
