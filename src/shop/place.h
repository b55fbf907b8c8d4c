// SPDX-License-Identifier: GPL-3.0-or-later
// The file of a book and what lies beside it. It is read here through SQLite's own file layer: a
// descriptor of ours that is closed would take away the locks that SQLite holds on the same file in
// this process.
#pragma once

#include <filesystem>
#include <optional>
#include <sys/stat.h>

#include "core/base/problem.h"

namespace conductus::shop {

/// Which file it is, and when it was last written.
struct Fingerprint {
    dev_t device = 0;
    ino_t inode = 0;
    off_t size = 0;
    timespec written{}, changed{};
    [[nodiscard]] bool same_file(const Fingerprint& o) const {
        return device == o.device && inode == o.inode;
    }
    bool operator==(const Fingerprint& o) const {
        return same_file(o) && size == o.size && written.tv_sec == o.written.tv_sec &&
               written.tv_nsec == o.written.tv_nsec && changed.tv_sec == o.changed.tv_sec &&
               changed.tv_nsec == o.changed.tv_nsec;
    }
};
/// Nothing where there is no file.
std::optional<Fingerprint> fingerprint_of(const std::filesystem::path& path);

/// The first 100 bytes of a database file, as far as they say what it is.
struct Head {
    bool database = false;    ///< it begins as every SQLite database does
    bool zeroed = false;      ///< it begins with nothing but zeros
    bool write_ahead = false; ///< its journal is a write-ahead log
    int application = 0, version = 0;
};
Result<Head> head_of(const std::filesystem::path& path);

/// Copies a database file byte by byte, with the journal it may need, into a folder; the new path.
Result<std::filesystem::path> copy_with_journals(const std::filesystem::path& path,
                                                 const std::filesystem::path& folder);

/// Journals that an earlier file of that name left are moved out of the way, for SQLite would take
/// them for the new file's own: "shop.book-wal.set-aside-1".
Result<void> set_journals_aside(const std::filesystem::path& path);

/// A folder of this process in the folder for temporary files, that goes with it.
class PrivateFolder {
public:
    static Result<PrivateFolder> make();
    PrivateFolder(PrivateFolder&& o) noexcept : path_(std::exchange(o.path_, {})) {}
    PrivateFolder& operator=(PrivateFolder&& o) noexcept {
        std::swap(path_, o.path_);
        return *this;
    }
    ~PrivateFolder();
    [[nodiscard]] const std::filesystem::path& path() const { return path_; }

private:
    explicit PrivateFolder(std::filesystem::path path) : path_(std::move(path)) {}
    std::filesystem::path path_;
};

} // namespace conductus::shop
