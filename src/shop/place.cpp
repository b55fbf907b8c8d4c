// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/place.h"

#include <cerrno>
#include <cstdlib>
#include <fmt/format.h>
#include <fstream>
#include <sqlite3.h>
#include <unistd.h>
#include <vector>

#include "files/disk.h"
#include "files/process.h"

namespace conductus::shop {

namespace fs = std::filesystem;

std::optional<Fingerprint> fingerprint_of(const fs::path& path) {
    struct stat s {};
    if (::stat(path.c_str(), &s) != 0) return std::nullopt;
    return Fingerprint{s.st_dev, s.st_ino, s.st_size, s.st_mtim, s.st_ctim};
}

namespace {

/// A file opened as SQLite opens a database, for reading alone.
class OpenFile {
public:
    explicit OpenFile(const fs::path& path) : vfs_(sqlite3_vfs_find(nullptr)) {
        std::error_code error;
        name_ = sqlite3_create_filename(fs::absolute(path, error).c_str(), "", "", 0, nullptr);
        file_.resize(static_cast<std::size_t>(vfs_->szOsFile));
        int flags = 0;
        code_ = name_ ? vfs_->xOpen(vfs_, name_, file(), SQLITE_OPEN_MAIN_DB | SQLITE_OPEN_READONLY,
                                    &flags)
                      : SQLITE_NOMEM;
    }
    ~OpenFile() {
        if (file()->pMethods) file()->pMethods->xClose(file());
        sqlite3_free_filename(const_cast<char*>(name_));
    }
    OpenFile(const OpenFile&) = delete;
    OpenFile& operator=(const OpenFile&) = delete;
    [[nodiscard]] bool good() const { return code_ == SQLITE_OK; }
    /// Fills what lies beyond the end with zeros.
    bool read(char* into, int count, std::int64_t from) {
        const int code = file()->pMethods->xRead(file(), into, count, from);
        return code == SQLITE_OK || code == SQLITE_IOERR_SHORT_READ;
    }
    std::int64_t size() {
        sqlite3_int64 bytes = 0;
        file()->pMethods->xFileSize(file(), &bytes);
        return bytes;
    }

private:
    sqlite3_file* file() { return reinterpret_cast<sqlite3_file*>(file_.data()); }
    sqlite3_vfs* vfs_;
    const char* name_ = nullptr;
    std::vector<char> file_;
    int code_ = SQLITE_OK;
};

tl::unexpected<Problem> unreadable(const fs::path& path) {
    return problem(files::path_text(path), "the shop book can not be read",
                   "Check its permissions and those of its folder", Cause::unreadable);
}

} // namespace

Result<Head> head_of(const fs::path& path) {
    OpenFile file(path);
    char bytes[100]{};
    if (!file.good() || !file.read(bytes, sizeof bytes, 0)) return unreadable(path);
    const auto number = [&](int at) {
        unsigned value = 0;
        for (int i = 0; i < 4; ++i)
            value = value << 8 | static_cast<unsigned char>(bytes[at + i]);
        return static_cast<int>(value);
    };
    Head head;
    const std::string_view all(bytes, sizeof bytes);
    head.database = all.starts_with(std::string_view("SQLite format 3\0", 16));
    head.zeroed = all.find_first_not_of('\0') == std::string_view::npos;
    head.write_ahead = bytes[18] == 2 || bytes[19] == 2;
    head.application = number(68);
    head.version = number(60);
    return head;
}

Result<fs::path> copy_with_journals(const fs::path& path, const fs::path& folder) {
    const fs::path copy = folder / "copy.book";
    std::error_code error;
    {
        OpenFile file(path);
        if (!file.good()) return unreadable(path);
        std::ofstream out(copy, std::ios::binary);
        std::vector<char> block(1 << 20);
        const std::int64_t size = file.size();
        for (std::int64_t at = 0; at < size; at += static_cast<std::int64_t>(block.size())) {
            const auto n =
                std::min<std::int64_t>(static_cast<std::int64_t>(block.size()), size - at);
            if (!file.read(block.data(), static_cast<int>(n), at)) return unreadable(path);
            out.write(block.data(), n);
        }
        out.flush();
        if (!out)
            return problem(files::path_text(copy), "there is no room for a copy to read from",
                           "Make room in the folder for temporary files", Cause::no_room);
    }
    for (const char* tail : {"-wal", "-journal"})
        if (fs::exists(path.string() + tail, error))
            fs::copy_file(path.string() + tail, copy.string() + tail, error);
    return copy;
}

Result<void> set_journals_aside(const fs::path& path) {
    std::error_code error;
    for (const char* tail : {"-journal", "-wal", "-shm"}) {
        const std::string journal = path.string() + tail;
        if (!fs::exists(fs::symlink_status(journal, error))) continue;
        std::string aside;
        for (int n = 1; aside.empty() || fs::exists(fs::symlink_status(aside, error)); ++n)
            aside = fmt::format("{}.set-aside-{}", journal, n);
        if (std::rename(journal.c_str(), aside.c_str()) != 0)
            return files::system_problem(journal, "an old journal can not be moved out of the way",
                                         errno);
    }
    return {};
}

namespace {

constexpr std::string_view private_name = "conductus-copy-";

/// Folders of this user's programs that were killed.
void forget_private_folders(const fs::path& place) {
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(place, error)) {
        const std::string name = entry.path().filename().string();
        if (!name.starts_with(private_name)) continue;
        const std::string maker =
            name.substr(private_name.size(), name.rfind('-') - private_name.size());
        struct stat s {};
        if (maker.empty() || files::may_run(maker) || ::lstat(entry.path().c_str(), &s) != 0 ||
            s.st_uid != ::geteuid() || !S_ISDIR(s.st_mode))
            continue;
        fs::remove_all(entry.path(), error);
    }
}

} // namespace

Result<PrivateFolder> PrivateFolder::make() {
    std::error_code error;
    const fs::path place = fs::temp_directory_path(error);
    std::string name =
        (place / fmt::format("{}{}-XXXXXX", private_name, files::process_mark())).string();
    if (!error) forget_private_folders(place);
    if (error || !::mkdtemp(name.data()))
        return files::system_problem(name, "a folder for a moment can not be made", errno);
    return PrivateFolder(name);
}

PrivateFolder::~PrivateFolder() {
    std::error_code error;
    if (!path_.empty()) fs::remove_all(path_, error);
}

} // namespace conductus::shop
