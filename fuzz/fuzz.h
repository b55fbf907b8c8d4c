// SPDX-License-Identifier: GPL-3.0-or-later
// What the targets share. A target returns where all is well, and traps where a promise is broken.
#pragma once

#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <string>
#include <unistd.h>

#include "files/catalogue_json.h"
#include "shop/transfer.h"

namespace conductus::fuzz {

inline void promise(bool kept, const char* what) {
    if (kept) return;
    std::fprintf(stderr, "broken promise: %s\n", what);
    std::abort();
}

inline const catalogue::Catalogue& parts() {
    static const auto read =
        files::read_catalogue(std::filesystem::path(CONDUCTUS_SOURCE_DIR) / "data/catalogue");
    promise(read.has_value(), "the catalogue reads");
    return *read;
}

/// A folder of this process, in memory where there is such a place.
inline const std::filesystem::path& folder() {
    static const auto made = [] {
        namespace fs = std::filesystem;
        const fs::path base = fs::exists("/dev/shm") ? "/dev/shm" : fs::temp_directory_path();
        fs::path path = base / ("conductus-fuzz-" + std::to_string(::getpid()));
        fs::create_directories(path);
        std::atexit([] { fs::remove_all(folder()); });
        return path;
    }();
    return made;
}

inline void write(const std::filesystem::path& path, const std::uint8_t* data, std::size_t size) {
    std::ofstream(path, std::ios::binary | std::ios::trunc)
        .write(reinterpret_cast<const char*>(data), static_cast<std::streamsize>(size));
}

/// A book with one job, opened once, and all that it says.
inline shop::Book& book() {
    static shop::Book kept = [] {
        auto made = shop::Book::open(folder() / "shop.book", shop::Access::read_write);
        promise(made.has_value(), "a book can be made");
        auto job = files::read_job(
            std::filesystem::path(CONDUCTUS_SOURCE_DIR) / "data/demo/dunlin.json", parts());
        promise(job && made->add(files::bare(*job), "new"), "a job can be added");
        return std::move(*made);
    }();
    return kept;
}

/// Imports `path`; a refusal changes nothing, and what comes in can be read again.
inline void import(const std::filesystem::path& path) {
    const auto before = book().last_change();
    const auto entries = book().entries();
    const auto names = shop::import_into(book(), path, parts());
    if (!names) {
        promise(!names.error().what.empty(), "a refusal says why");
        promise(book().last_change() == before && book().entries() == entries,
                "a refusal changes nothing");
        return;
    }
    for (const auto& name : names->names) {
        const auto loaded = book().load(name, parts());
        promise(loaded || !names->as_they_are.empty(),
                "what came in is readable, or was said to be kept as it is");
    }
    // The book stays as small as it was.
    static const auto one = *book().whole(1, parts());
    (void)one;
    std::filesystem::remove(folder() / "next.book");
    book() = [&] {
        auto fresh = shop::Book::open(folder() / "next.book", shop::Access::read_write);
        promise(fresh.has_value(), "a book can be made");
        std::vector<shop::Whole> jobs{one};
        promise(fresh->add_whole(std::move(jobs)).has_value(), "a job can be added");
        return std::move(*fresh);
    }();
}

} // namespace conductus::fuzz
