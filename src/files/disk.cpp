// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/disk.h"

#include <array>
#include <atomic>
#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <fmt/format.h>
#include <sys/stat.h>
#include <unistd.h>

#include "core/base/utf8.h"
#include "files/process.h"

namespace conductus::files {
namespace {

namespace fs = std::filesystem;

constexpr std::string_view sqlite_magic("SQLite format 3\0", 16);
constexpr mode_t permissions = 07777;

/// A descriptor that closes itself.
class Descriptor {
public:
    explicit Descriptor(int fd) : fd_(fd) {}
    ~Descriptor() { close(); }
    Descriptor(const Descriptor&) = delete;
    Descriptor& operator=(const Descriptor&) = delete;
    [[nodiscard]] int get() const { return fd_; }
    /// False where the disk only now says that it could not keep what was written.
    bool close() {
        const int fd = std::exchange(fd_, -1);
        return fd < 0 || ::close(fd) == 0;
    }

private:
    int fd_;
};

const char* not_a_file(mode_t mode) {
    if (S_ISDIR(mode)) return "this is a folder, not a file";
    if (S_ISFIFO(mode)) return "this is a pipe, not a file";
    if (S_ISSOCK(mode)) return "this is a socket, not a file";
    return "this is a device, not a file";
}

bool sync_folder(const fs::path& path) {
    const fs::path folder = path.has_parent_path() ? path.parent_path() : fs::path(".");
    const Descriptor fd(::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
    // Some file systems can not synchronise a folder; their renames are as safe as they get.
    return fd.get() < 0 || ::fsync(fd.get()) == 0 || errno == EINVAL || errno == EROFS;
}

/// 0, or the error.
int write_all(int fd, std::string_view bytes) {
    for (std::size_t done = 0; done < bytes.size();) {
        const auto n = ::write(fd, bytes.data() + done, bytes.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) return errno;
        done += static_cast<std::size_t>(n);
    }
    return 0;
}

/// Whether the file that begins so is a book, or belongs to one: by its neighbours, for a damaged
/// book does not look like one any more.
bool belongs_to_a_book(const fs::path& path) {
    std::error_code error;
    const std::string name = path.string();
    return path.extension() == ".book" || fs::is_directory(name + ".backups", error);
}

/// "shop.book.1234_567-2.part" of "shop.book": the mark of the process that began it; empty where
/// it is no such name.
std::string maker_of(std::string name, const std::string& of) {
    if (name.ends_with("-journal")) name.resize(name.size() - 8);
    if (!name.starts_with(of + ".") || !name.ends_with(".part")) return {};
    name = name.substr(of.size() + 1);
    const auto digits = name.find_first_not_of("0123456789_");
    return name[digits] == '-' ? name.substr(0, digits) : std::string();
}

void forget_dead_parts(const fs::path& path) {
    std::error_code error;
    const fs::path folder = path.has_parent_path() ? path.parent_path() : fs::path(".");
    const std::string name = path.filename().string();
    for (const auto& entry : fs::directory_iterator(folder, error)) {
        const std::string part = entry.path().filename().string();
        const std::string maker = maker_of(part, name);
        if (!maker.empty() && !may_run(maker)) fs::remove(entry.path(), error);
    }
}

} // namespace

bool names_a_journal(const fs::path& path) {
    std::error_code error;
    const std::string name = path.string();
    for (const char* tail : {"-journal", "-wal", "-shm"})
        if (name.ends_with(tail) &&
            fs::exists(name.substr(0, name.size() - std::strlen(tail)), error))
            return true;
    return false;
}

std::string_view word(Content content) {
    switch (content) {
    case Content::empty:
        return "an empty file";
    case Content::book:
        return "a shop book";
    case Content::job:
        return "a job file";
    case Content::ours:
        return "a configuration";
    case Content::pdf:
        return "a PDF document";
    case Content::png:
        return "a PNG picture";
    case Content::jpeg:
        return "a JPEG picture";
    case Content::svg:
        return "an SVG drawing";
    case Content::text:
        return "a text";
    case Content::other:
        break;
    }
    return "a file of another kind";
}

Content content_of(std::string_view bytes) {
    if (bytes.empty()) return Content::empty;
    if (bytes.starts_with(sqlite_magic)) return Content::book;
    if (bytes.starts_with("%PDF")) return Content::pdf;
    if (bytes.starts_with("\x89PNG\r\n\x1a\n")) return Content::png;
    if (bytes.starts_with("\xff\xd8\xff")) return Content::jpeg;
    if (bytes.find('\0') != std::string_view::npos) return Content::other;
    const auto first = bytes.find_first_not_of(" \t\r\n\xEF\xBB\xBF");
    if (first != std::string_view::npos && bytes[first] == '{') {
        if (bytes.find("\"conductus-job\"") != std::string_view::npos) return Content::job;
        if (bytes.find("\"conductus-config\"") != std::string_view::npos) return Content::ours;
        // A catalogue or a history is never what an output says it writes.
        if (bytes.find("\"conductus-") != std::string_view::npos) return Content::other;
    }
    if (bytes.substr(0, 1024).find("<svg") != std::string_view::npos) return Content::svg;
    return first_not_utf8(bytes) == std::string_view::npos ? Content::text : Content::other;
}

std::string path_text(const fs::path& path) { return shown(path.native(), 4096); }

tl::unexpected<Problem> system_problem(const fs::path& path, const char* what, int error) {
    const bool full = error == ENOSPC || error == EDQUOT || error == EFBIG;
    const bool refused = error == EACCES || error == EPERM || error == EROFS;
    return problem(path_text(path), say("{}: {}", what, std::strerror(error)),
                   full      ? "Make room on the disk; what was there before is untouched"
                   : refused ? "Check the permissions of the file and of its folder"
                             : "Choose another folder; what was there before is untouched",
                   full      ? Cause::no_room
                   : refused ? Cause::unreadable
                             : Cause::other);
}

Result<std::string> read_text(const fs::path& path) {
    // Not to block: opening a pipe waits for whoever writes into it.
    Descriptor fd(::open(path.c_str(), O_RDONLY | O_NONBLOCK | O_CLOEXEC));
    if (fd.get() < 0) {
        if (errno == ENOENT || errno == ENOTDIR)
            return problem(path_text(path), "there is no such file", "Check the name",
                           Cause::missing);
        return system_problem(path, "the file can not be read", errno);
    }
    struct stat status {};
    if (::fstat(fd.get(), &status) != 0)
        return system_problem(path, "the file can not be read", errno);
    if (!S_ISREG(status.st_mode))
        return problem(path_text(path), not_a_file(status.st_mode), "Name a file on the disk",
                       Cause::foreign);
    const auto size = static_cast<std::uintmax_t>(status.st_size);
    if (size > largest_file)
        return problem(path_text(path),
                       say("the file has {} MB; nothing Conductus reads is over {} MB", size >> 20,
                           largest_file >> 20),
                       "This is hardly a job: check which file you meant", Cause::foreign);
    // It may grow while it is read, or say 0 and have content, as files under /proc do.
    std::string text;
    text.reserve(static_cast<std::size_t>(size));
    std::array<char, 1 << 16> block;
    for (;;) {
        const auto n = ::read(fd.get(), block.data(), block.size());
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) return system_problem(path, "the file can not be read", errno);
        if (n == 0) return text;
        text.append(block.data(), static_cast<std::size_t>(n));
        if (text.size() > largest_file)
            return problem(path_text(path), "the file does not end", "Name a file on the disk",
                           Cause::foreign);
    }
}

std::string place_in(std::string_view text, std::size_t byte, const std::string& name) {
    byte = std::min(byte, text.size());
    std::size_t line = 1, column = 1;
    for (std::size_t i = 0; i < byte; ++i) {
        ++column;
        if (text[i] == '\n') ++line, column = 1;
    }
    return fmt::format("{}, line {}, column {}", name, line, column);
}

namespace {

void append_utf8(std::string& out, char32_t c) {
    if (c < 0x80) {
        out += static_cast<char>(c);
    } else if (c < 0x800) {
        out += static_cast<char>(0xC0 | (c >> 6));
        out += static_cast<char>(0x80 | (c & 0x3F));
    } else if (c < 0x10000) {
        out += static_cast<char>(0xE0 | (c >> 12));
        out += static_cast<char>(0x80 | ((c >> 6) & 0x3F));
        out += static_cast<char>(0x80 | (c & 0x3F));
    } else {
        out += static_cast<char>(0xF0 | (c >> 18));
        out += static_cast<char>(0x80 | ((c >> 12) & 0x3F));
        out += static_cast<char>(0x80 | ((c >> 6) & 0x3F));
        out += static_cast<char>(0x80 | (c & 0x3F));
    }
}

Result<std::string> from_utf16(std::string_view bytes, bool little, const std::string& name) {
    const auto unit = [&](std::size_t i) {
        const auto a = static_cast<unsigned char>(bytes[i]),
                   b = static_cast<unsigned char>(bytes[i + 1]);
        return static_cast<char32_t>(little ? a | b << 8 : a << 8 | b);
    };
    std::string text;
    for (std::size_t i = 2; i + 1 < bytes.size(); i += 2) {
        char32_t c = unit(i);
        const bool high = c >= 0xD800 && c < 0xDC00, low = c >= 0xDC00 && c < 0xE000;
        const char32_t next = high && i + 3 < bytes.size() ? unit(i + 2) : 0;
        if (low || (high && (next < 0xDC00 || next >= 0xE000)))
            return problem(place_in(text, text.size(), name), "half a UTF-16 character is here",
                           "Save the file as UTF-8");
        if (high) {
            c = 0x10000 + ((c - 0xD800) << 10) + (next - 0xDC00);
            i += 2;
        }
        append_utf8(text, c);
    }
    if (bytes.size() % 2 != 0)
        return problem(place_in(text, text.size(), name), "half a UTF-16 character is here",
                       "Save the file as UTF-8");
    return text;
}

} // namespace

Result<std::string> as_utf8(std::string bytes, const std::string& name) {
    if (bytes.starts_with("\xFF\xFE")) return from_utf16(bytes, true, name);
    if (bytes.starts_with("\xFE\xFF")) return from_utf16(bytes, false, name);
    if (bytes.starts_with("\xEF\xBB\xBF")) bytes.erase(0, 3);
    if (const auto bad = first_not_utf8(bytes); bad != std::string::npos)
        return problem(place_in(bytes, bad, name),
                       fmt::format("the byte {:02X} is not UTF-8 text",
                                   static_cast<unsigned char>(bytes[bad])),
                       "Save the file as UTF-8, or as UTF-16 with a byte order mark");
    return bytes;
}

Result<Target> output_target(const fs::path& path, Content content) {
    Target target{path};
    if (names_a_journal(path))
        return problem(path_text(path), "this name belongs to the journal of a shop book",
                       "Choose another name for the file", Cause::foreign);
    struct stat status {};
    if (::lstat(path.c_str(), &status) != 0) {
        if (errno != ENOENT) return system_problem(path, "the file can not be written", errno);
        if (path.native().empty() || path.native().back() == '/')
            return problem(path_text(path), "this is not the name of a file", "Name a file");
        if (belongs_to_a_book(path) && content != Content::book)
            return problem(path_text(path), "this name belongs to a shop book",
                           "Choose another name for the file", Cause::foreign);
        return target;
    }
    if (S_ISLNK(status.st_mode)) {
        std::error_code error;
        target.path = fs::canonical(path, error);
        if (error || ::stat(target.path.c_str(), &status) != 0)
            return problem(path_text(path), "this is a link that leads nowhere",
                           "Name the file that shall be written", Cause::foreign);
    }
    if (!S_ISREG(status.st_mode))
        return problem(path_text(path), not_a_file(status.st_mode),
                       "Name a file; without -o, where that is allowed, it goes to standard output",
                       Cause::foreign);
    target.there = true;
    target.mode = status.st_mode & permissions;
    if ((status.st_mode & (S_IWUSR | S_IWGRP | S_IWOTH)) == 0 ||
        ::access(target.path.c_str(), W_OK) != 0)
        return problem(path_text(path), "the file that is there is read-only",
                       "Choose another name, or allow writing it", Cause::read_only);
    const auto untouched = [&](std::string what) {
        return problem(path_text(path), std::move(what),
                       "Choose another name; what is there is untouched", Cause::foreign);
    };
    if (content != Content::book && belongs_to_a_book(target.path))
        return untouched("there is a shop book here, and this would not be one");
    if (status.st_size == 0) return target;
    const auto bytes = read_text(target.path);
    const Content there = bytes ? content_of(*bytes) : Content::other;
    if (there != content)
        return untouched(
            fmt::format("there is {} here, and this would be {}", word(there), word(content)));
    return target;
}

Result<fs::path> begin_part(const fs::path& path) {
    static std::atomic<unsigned> count{0};
    forget_dead_parts(path);
    const fs::path part = path.string() + fmt::format(".{}-{}.part", process_mark(), ++count);
    ::unlink(part.c_str());
    Descriptor fd(
        ::open(part.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, file_mode));
    if (fd.get() < 0) return system_problem(path, "the file can not be written", errno);
    return part;
}

Result<void> settle_part(const fs::path& part, const fs::path& path, mode_t mode, bool replace) {
    const auto failed = [&](const char* what) {
        const int error = errno;
        ::unlink(part.c_str());
        return system_problem(path, what, error);
    };
    {
        Descriptor fd(::open(part.c_str(), O_RDONLY | O_CLOEXEC));
        if (fd.get() < 0 || ::fchmod(fd.get(), mode) != 0 || ::fsync(fd.get()) != 0)
            return failed("the file can not be kept");
    }
    if (replace) {
        if (::rename(part.c_str(), path.c_str()) != 0)
            return failed("the file can not be put in place");
    } else if (::renameat2(AT_FDCWD, part.c_str(), AT_FDCWD, path.c_str(), RENAME_NOREPLACE) != 0) {
        // Not every file system knows that call; a link does not replace anything either.
        if (errno != EINVAL && errno != ENOSYS) return failed("the file can not be put in place");
        if (::link(part.c_str(), path.c_str()) != 0)
            return failed("the file can not be put in place");
        ::unlink(part.c_str());
    }
    if (!sync_folder(path)) return system_problem(path, "the folder can not be kept", errno);
    return {};
}

namespace {

Result<void> write_to(const Target& target, std::string_view bytes) {
    const auto part = begin_part(target.path);
    if (!part) return tl::unexpected(part.error());
    Descriptor fd(::open(part->c_str(), O_WRONLY | O_TRUNC | O_CLOEXEC));
    const int error = fd.get() < 0 ? errno : write_all(fd.get(), bytes);
    if (error != 0 || !fd.close()) {
        const int why = error != 0 ? error : errno;
        ::unlink(part->c_str());
        return system_problem(target.path, "the file can not be written", why);
    }
    return settle_part(*part, target.path, target.mode, target.there);
}

} // namespace

Result<void> write_output(const fs::path& path, std::string_view bytes, Content content) {
    const auto target = output_target(path, content);
    if (!target) return tl::unexpected(target.error());
    return write_to(*target, bytes);
}

Result<void> write_own(const fs::path& path, std::string_view bytes) {
    return write_to({path, file_mode, true}, bytes);
}

Result<void> make_folder(const fs::path& folder) {
    std::error_code error;
    if (folder.empty() || fs::is_directory(folder, error)) return {};
    if (folder.has_parent_path() && folder.parent_path() != folder)
        if (auto ok = make_folder(folder.parent_path()); !ok) return ok;
    if (::mkdir(folder.c_str(), folder_mode) != 0 && errno != EEXIST)
        return system_problem(folder, "the folder can not be made", errno);
    // The umask takes away from what was asked for and gives nothing.
    return {};
}

} // namespace conductus::files
