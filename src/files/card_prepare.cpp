// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/card_prepare.h"

#include <algorithm>
#include <cerrno>
#include <fcntl.h>
#include <fmt/format.h>
#include <map>
#include <set>
#include <sys/stat.h>
#include <unistd.h>
#include <vector>

#include "core/base/format.h"
#include "files/disk.h"

namespace conductus::files {
namespace {

namespace fs = std::filesystem;
using card::Trouble;
using job::Gravity;

constexpr std::string_view mark_text =
    "This card is being prepared and is not finished. Prepare it again: what is there already is "
    "not copied twice. This file goes away by itself when the card is whole.\n";

/// A descriptor that is closed.
class Open {
public:
    Open(const fs::path& path, int flags, mode_t mode = 0)
        : fd_(::open(path.c_str(), flags, mode)) {}
    ~Open() {
        if (fd_ >= 0) ::close(fd_);
    }
    Open(const Open&) = delete;
    Open& operator=(const Open&) = delete;
    Open(Open&&) = delete;
    Open& operator=(Open&&) = delete;
    [[nodiscard]] int get() const { return fd_; }
    explicit operator bool() const { return fd_ >= 0; }
    /// Whether closing it went well: some file systems tell only then that they are full.
    bool close() {
        const int fd = fd_;
        fd_ = -1;
        return ::close(fd) == 0;
    }

private:
    int fd_;
};

bool within(const fs::path& inner, const fs::path& outer) {
    const fs::path relative = inner.lexically_relative(outer);
    return !relative.empty() && *relative.begin() != "..";
}

class Planner {
public:
    Planner(const job::Job& job, const catalogue::Catalogue& parts, const fs::path& from,
            const fs::path& to)
        : job_(job), layout_(card::layout_of(job, parts)), from_(from), to_(to) {}

    Result<CardPlan> run() {
        std::error_code error;
        if (!fs::is_directory(from_, error))
            return problem(path_text(from_), "there is no such folder",
                           "Name the folder that has the fonts and tracks", Cause::missing);
        if (fs::exists(to_, error) && !fs::is_directory(to_, error))
            return problem(path_text(to_), "it is no folder",
                           "Name a folder, or where one is to be");
        const fs::path source = fs::weakly_canonical(from_, error),
                       card = fs::weakly_canonical(to_, error);
        if (within(card, source) || within(source, card))
            return problem(path_text(to_), "source and card lie within each other",
                           "Take a copy of the source elsewhere");
        if (job_.presets.empty())
            plan_.troubles.push_back({"card.no-presets", Gravity::stop, "presets",
                                      "the job has no presets", "Enter them first"});
        for (const job::Preset& p : job_.presets) {
            font(p);
            for (const job::Track& t : p.tracks)
                track(p, t.name);
        }
        compare();
        return std::move(plan_);
    }

private:
    void lacks(const char* id, const std::string& where, Message what, Message mend) {
        if (told_.insert(where).second)
            plan_.troubles.push_back({id, Gravity::stop, where, std::move(what), std::move(mend)});
    }

    /// Where the source has that, of several places; empty: nowhere.
    [[nodiscard]] std::string found(const std::vector<std::string>& places, bool folder) const {
        std::error_code error;
        for (const std::string& place : places)
            if (!place.empty() && (folder ? fs::is_directory(from_ / place, error)
                                          : fs::is_regular_file(from_ / place, error)))
                return place;
        return {};
    }

    void font(const job::Preset& p) {
        if (p.font.empty()) return;
        if (!fonts_.insert(p.font).second) return;
        const std::string folder = card::font_folder(layout_, p.font);
        const std::string source = found({folder, p.font}, true);
        if (source.empty())
            return lacks("card.font-missing", folder,
                         say("font {} of preset {} is not in the source", p.font, p.name),
                         "Copy its folder into the source, or name another font");
        std::size_t sounds = 0;
        std::error_code error;
        fs::recursive_directory_iterator it(from_ / source, error), end;
        for (; !error && it != end; it.increment(error)) {
            std::error_code code;
            if (it->path().filename().string().starts_with(".") || it->is_symlink(code)) {
                it.disable_recursion_pending();
                continue;
            }
            if (!it->is_regular_file(code)) continue;
            const std::string inside =
                it->path().lexically_relative(from_ / source).generic_string();
            copy(source + "/" + inside, folder + "/" + inside, it->file_size(code));
            sounds += card::is_sound(inside);
        }
        if (sounds == 0)
            lacks("card.font-empty", folder, say("font {} has no sound in the source", p.font),
                  "Copy the sounds of the font into it");
    }

    void track(const job::Preset& p, const std::string& name) {
        if (name.empty()) return;
        const std::string inside = card::font_folder(layout_, p.font) + "/" + name;
        const std::string to = !layout_.tracks_in.empty()       ? layout_.tracks_in + "/" + name
                               : found({inside}, false).empty() ? name
                                                                : inside;
        const std::string source = found({to, inside, p.font + "/" + name, name}, false);
        if (source.empty())
            return lacks("card.track-missing", to,
                         say("track {} of preset {} is not in the source", name, p.name),
                         "Copy it into the source, or take it out of the preset");
        std::error_code error;
        copy(source, to, fs::file_size(from_ / source, error));
    }

    void copy(const std::string& from, const std::string& to, std::uint64_t bytes) {
        needed_[to] = {from, to, bytes, false};
    }

    void compare() {
        std::error_code error;
        for (auto& [to, file] : needed_) {
            const fs::path target = to_ / to;
            if (fs::exists(fs::symlink_status(target, error))) {
                const bool alike = fs::is_regular_file(target, error) &&
                                   fs::file_size(target, error) == file.bytes &&
                                   same(from_ / file.from, target);
                if (!alike)
                    lacks("card.in-the-way", to, say("{} is on the card with another content", to),
                          "Empty the card, or choose another: nothing on it is written over");
                file.there = alike;
            }
            if (!file.there) plan_.to_copy += file.bytes;
            plan_.files.push_back(file);
        }
        std::size_t there = 0;
        fs::recursive_directory_iterator it(to_, error), end;
        for (; !error && it != end; it.increment(error)) {
            std::error_code code;
            const std::string path = it->path().lexically_relative(to_).generic_string();
            if (it->is_regular_file(code) && !needed_.contains(path) &&
                path != card::unfinished_mark && !path.ends_with(card::part_ending))
                ++there;
        }
        plan_.others = there;
        fs::path on = to_;
        while (!fs::exists(on, error) && on.has_parent_path() && on.parent_path() != on)
            on = on.parent_path();
        const fs::space_info space = fs::space(on, error);
        plan_.free = error ? 0 : space.available;
        if (!error && plan_.to_copy > plan_.free)
            plan_.troubles.push_back({"card.too-full", Gravity::stop, path_text(to_),
                                      say("{} are to be copied, {} are free",
                                          megabytes(plan_.to_copy), megabytes(plan_.free)),
                                      "Take a larger card, or fewer presets"});
    }
    static std::string megabytes(std::uint64_t bytes) {
        return fmt::format("{:.1f} MB", static_cast<double>(bytes) / 1e6);
    }
    static bool same(const fs::path& one, const fs::path& other) {
        const auto a = hash_of_file(one), b = hash_of_file(other);
        return a && b && *a == *b;
    }

    const job::Job& job_;
    card::Layout layout_;
    const fs::path &from_, &to_;
    std::set<std::string> fonts_, told_;
    std::map<std::string, CardCopy> needed_; ///< by the path on the card
    CardPlan plan_;
};

class Copier {
public:
    Copier(const CardPlan& plan, const fs::path& from, const fs::path& to, const CardWatch& watch)
        : plan_(plan), from_(from), to_(to), watch_(watch) {}

    Result<std::size_t> run() {
        if (!plan_.troubles.empty()) {
            const Trouble& t = plan_.troubles.front();
            return problem(t.where, t.what, t.mend);
        }
        std::error_code error;
        fs::create_directories(to_, error);
        if (error) return failed(to_, error.value());
        if (auto ok = set_mark(); !ok) return tl::unexpected(ok.error());
        std::size_t copied = 0, files = 0;
        std::uint64_t bytes = 0;
        for (const CardCopy& file : plan_.files) {
            if (!file.there) {
                if (auto ok = copy(file); !ok) return tl::unexpected(ok.error());
                ++copied;
                bytes += file.bytes;
            }
            ++files;
            if (watch_ && !watch_({files, plan_.files.size(), bytes, plan_.to_copy}))
                return stopped();
        }
        if (!fs::remove(to_ / card::unfinished_mark, error) || error)
            return failed(to_ / card::unfinished_mark, error.value());
        sync_folder(to_);
        return copied;
    }

private:
    tl::unexpected<Problem> stopped() const {
        return problem(path_text(to_), "preparing the card was stopped: it is not finished",
                       "Prepare it again to go on: what is there already is not copied twice",
                       Cause::stopped);
    }
    [[nodiscard]] tl::unexpected<Problem> failed(const fs::path& at, int error) const {
        std::error_code code;
        if (error == ENOSPC || error == EDQUOT || error == EFBIG)
            return problem(path_text(at), "the card is full: it is not finished",
                           "Take a larger card, or make room and prepare it again", Cause::no_room);
        if (!fs::is_directory(to_, code) || error == EIO || error == ENODEV || error == ENXIO)
            return problem(path_text(to_), "the card went away: it is not finished",
                           "Put it in again and prepare it again", Cause::missing);
        return system_problem(at, "writing it fails", error);
    }

    Result<void> set_mark() const {
        const fs::path mark = to_ / card::unfinished_mark;
        Open out(mark, O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC | O_NOFOLLOW, 0644);
        if (!out) return failed(mark, errno);
        if (auto ok = write_all(out, mark, mark_text.data(), mark_text.size()); !ok) return ok;
        if (::fsync(out.get()) != 0 || !out.close()) return failed(mark, errno);
        return {};
    }

    Result<void> write_all(const Open& out, const fs::path& path, const char* bytes,
                           std::size_t count) const {
        while (count > 0) {
            const ssize_t n = ::write(out.get(), bytes, count);
            if (n < 0 && errno == EINTR) continue;
            if (n < 0) return failed(path, errno);
            bytes += n;
            count -= static_cast<std::size_t>(n);
        }
        return {};
    }

    Result<void> copy(const CardCopy& file) const {
        const fs::path target = to_ / file.to, part = target.string() + card::part_ending;
        std::error_code error;
        fs::create_directories(target.parent_path(), error);
        if (error) return failed(target.parent_path(), error.value());
        if (auto ok = copy_to(file, part); !ok) {
            const Problem why = ok.error();
            fs::remove(part, error); // our own; if it can not be removed, its name tells what it is
            return tl::unexpected(why);
        }
        // Never over a file that came there in the meantime.
        if (::renameat2(AT_FDCWD, part.c_str(), AT_FDCWD, target.c_str(), RENAME_NOREPLACE) != 0) {
            // File systems of cards may not know that: looked for, then renamed.
            if (errno != EINVAL || fs::exists(fs::symlink_status(target, error)) ||
                ::rename(part.c_str(), target.c_str()) != 0) {
                const int why = errno;
                fs::remove(part, error);
                return failed(target, why);
            }
        }
        sync_folder(target.parent_path());
        return {};
    }

    Result<void> copy_to(const CardCopy& file, const fs::path& part) const {
        const fs::path source = from_ / file.from;
        Open in(source, O_RDONLY | O_CLOEXEC);
        if (!in) return system_problem(source, "reading it fails", errno);
        Open out(part, O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC | O_NOFOLLOW, 0644);
        if (!out) return failed(part, errno);
        std::vector<char> piece(1U << 20U);
        for (;;) {
            const ssize_t n = ::read(in.get(), piece.data(), piece.size());
            if (n < 0 && errno == EINTR) continue;
            if (n < 0) return system_problem(source, "reading it fails", errno);
            if (n == 0) break;
            if (auto ok = write_all(out, part, piece.data(), static_cast<std::size_t>(n)); !ok)
                return ok;
        }
        if (::fsync(out.get()) != 0) return failed(part, errno);
        // What is read back comes from the card and not from memory, where the system can do that.
        (void)::posix_fadvise(out.get(), 0, 0, POSIX_FADV_DONTNEED);
        if (!out.close()) return failed(part, errno);
        const auto wanted = hash_of_file(source), written = hash_of_file(part);
        if (!wanted) return tl::unexpected(wanted.error());
        if (!written) return failed(part, EIO);
        if (*wanted != *written)
            return problem(path_text(to_ / file.to),
                           "the card gives back other bytes than were written",
                           "Take another card: this one is worn out", Cause::damaged);
        return {};
    }

    static void sync_folder(const fs::path& folder) {
        const Open at(folder, O_RDONLY | O_DIRECTORY | O_CLOEXEC);
        if (at) (void)::fsync(at.get());
    }

    const CardPlan& plan_;
    const fs::path &from_, &to_;
    const CardWatch& watch_;
};

} // namespace

Result<CardPlan> plan_card(const job::Job& job, const catalogue::Catalogue& parts,
                           const fs::path& from, const fs::path& to) {
    return Planner(job, parts, from, to).run();
}

Result<std::size_t> prepare_card(const CardPlan& plan, const fs::path& from, const fs::path& to,
                                 const CardWatch& watch) {
    return Copier(plan, from, to, watch).run();
}

} // namespace conductus::files
