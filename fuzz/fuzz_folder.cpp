// SPDX-License-Identifier: GPL-3.0-or-later
// A book exported as a folder: one of its files is replaced by the input.
#include "fuzz.h"

using namespace conductus;

namespace {

const std::filesystem::path& exported() {
    static const auto made = [] {
        const auto path = fuzz::folder() / "out";
        auto book = shop::Book::open(fuzz::folder() / "whole.book", shop::Access::read_write);
        const auto source = std::filesystem::path(CONDUCTUS_SOURCE_DIR) / "data/demo/avocet.json";
        fuzz::promise(book && shop::import_into(*book, source, fuzz::parts()), "avocet comes in");
        fuzz::promise(shop::export_folder(*book, path, fuzz::parts()).has_value(), "and goes out");
        return path;
    }();
    return made;
}

std::filesystem::path first_in(const char* inner) {
    return std::filesystem::directory_iterator(exported() / inner)->path();
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    if (size == 0) return 0;
    static const std::filesystem::path files[] = {exported() / "book.json", first_in("history"),
                                                  first_in("kept"), first_in("pictures")};
    const auto& file = files[data[0] % 4];
    static std::map<std::string, std::string> good;
    if (!good.contains(file.string())) good[file.string()] = *files::read_text(file);
    fuzz::write(file, data + 1, size - 1);
    fuzz::import(exported());
    const std::string& text = good[file.string()];
    fuzz::write(file, reinterpret_cast<const std::uint8_t*>(text.data()), text.size());
    return 0;
}
