// SPDX-License-Identifier: GPL-3.0-or-later
// Catalogue files.
#include "fuzz.h"

using namespace conductus;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static const auto folder = [] {
        const auto made = fuzz::folder() / "catalogue";
        std::filesystem::create_directories(made);
        return made;
    }();
    fuzz::write(folder / "parts.json", data, size);
    const auto parts = files::read_catalogue(folder);
    fuzz::promise(parts || !parts.error().what.empty(), "a refusal says why");
    return 0;
}
