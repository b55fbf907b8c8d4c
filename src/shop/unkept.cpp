// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/unkept.h"

#include <algorithm>
#include <cctype>
#include <cstdlib>
#include <fmt/format.h>

#include "files/disk.h"
#include "files/process.h"

namespace conductus::shop {
namespace {

namespace fs = std::filesystem;

/// Beside the book first; then where the user's own data are.
std::vector<fs::path> folders_of(const fs::path& book) {
    std::vector<fs::path> folders{book.string() + ".unkept"};
    const char* data = std::getenv("XDG_DATA_HOME");
    const char* home = std::getenv("HOME");
    const fs::path own = data && *data   ? fs::path(data)
                         : home && *home ? fs::path(home) / ".local/share"
                                         : fs::path();
    std::error_code error;
    if (!own.empty())
        folders.push_back(own / "conductus/unkept" /
                          files::content_id(fs::absolute(book, error).string()).substr(0, 16));
    return folders;
}

/// How names of what this process writes of a job end.
std::string tail_of(const std::string& uid) {
    return fmt::format(".{}.{}.json", uid.substr(0, 16), files::process_mark());
}

std::string plain(const std::string& name) {
    std::string safe;
    for (const char c : name.substr(0, 40))
        safe += std::isalnum(static_cast<unsigned char>(c)) ? c : '-';
    return safe;
}

} // namespace

Result<fs::path> keep_aside(const fs::path& book, const std::string& uid, const files::JobFile& job,
                            const catalogue::Catalogue& parts) {
    auto text = files::job_file_text(job, parts);
    if (!text) text = files::job_file_text({files::bare(job.job), job.attachments}, parts);
    if (!text) return tl::unexpected(text.error());
    std::optional<Problem> first;
    for (const fs::path& folder : folders_of(book)) {
        const fs::path file = folder / (plain(job.job.name) + tail_of(uid));
        auto ok = files::make_folder(folder);
        if (ok) ok = files::write_own(file, *text);
        if (ok) {
            // The job may have had another name when it was written last.
            std::error_code error;
            for (const auto& entry : fs::directory_iterator(folder, error))
                if (entry.path() != file &&
                    entry.path().filename().string().ends_with(tail_of(uid)))
                    fs::remove(entry.path(), error);
            return file;
        }
        if (!first) first = ok.error();
    }
    return tl::unexpected(*first);
}

void forget_aside(const fs::path& book, const std::string& uid) {
    std::error_code error;
    for (const fs::path& folder : folders_of(book)) {
        std::vector<fs::path> ours;
        for (const auto& entry : fs::directory_iterator(folder, error))
            if (entry.path().filename().string().ends_with(tail_of(uid)))
                ours.push_back(entry.path());
        for (const fs::path& file : ours)
            fs::remove(file, error);
        fs::remove(folder, error); // where it is empty
    }
}

std::vector<fs::path> left_aside(const fs::path& book) {
    std::vector<fs::path> left;
    std::error_code error;
    for (const fs::path& folder : folders_of(book))
        for (const auto& entry : fs::directory_iterator(folder, error)) {
            const std::string name = entry.path().filename().string();
            if (!name.ends_with(".json")) continue;
            const std::string stem = name.substr(0, name.size() - 5);
            const auto dot = stem.rfind('.');
            if (dot == std::string::npos) continue;
            // A living process, this one among them, still tries to keep it in the book.
            if (!files::may_run(stem.substr(dot + 1))) left.push_back(entry.path());
        }
    std::sort(left.begin(), left.end());
    return left;
}

} // namespace conductus::shop
