// SPDX-License-Identifier: GPL-3.0-or-later
// Shop books as files: opened for reading, verified, imported from.
#include "fuzz.h"
#include "shop/rescue.h"

using namespace conductus;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto path = fuzz::folder() / "fuzzed.book";
    for (const char* tail : {"-wal", "-shm", "-journal"})
        std::filesystem::remove(path.string() + tail);
    fuzz::write(path, data, size);
    if (auto book = shop::Book::open(path, shop::Access::read_only)) {
        (void)book->verify(fuzz::parts());
        (void)book->entries();
        (void)book->find("lantern");
    }
    // What is saved of a damaged book is a sound book.
    const auto saved = fuzz::folder() / "saved.book";
    std::filesystem::remove(saved);
    if (shop::rescue(path, saved)) {
        auto book = shop::Book::open(saved, shop::Access::read_only);
        fuzz::promise(book && book->verify(), "a rescued book is sound");
    }
    fuzz::import(path);
    return 0;
}
