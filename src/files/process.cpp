// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/process.h"

#include <cerrno>
#include <charconv>
#include <csignal>
#include <fmt/format.h>
#include <fstream>
#include <iterator>
#include <sstream>
#include <unistd.h>

namespace conductus::files {
namespace {

/// When a process began, in ticks since the system started; 0 where the system does not tell.
unsigned long long began(pid_t pid) {
    std::ifstream file(fmt::format("/proc/{}/stat", pid));
    const std::string all{std::istreambuf_iterator<char>(file), {}};
    // The name in parentheses may hold anything; after it this is the twentieth field.
    const auto name_ends = all.rfind(')');
    if (name_ends == std::string::npos) return 0;
    std::istringstream fields(all.substr(name_ends + 1));
    std::string skipped;
    for (int i = 0; i < 19; ++i)
        fields >> skipped;
    unsigned long long ticks = 0;
    return fields >> ticks ? ticks : 0;
}

} // namespace

std::string process_mark() {
    static const pid_t pid = ::getpid();
    static const std::string mark = fmt::format("{}_{}", pid, began(pid));
    // A forked process has its parent's statics.
    return ::getpid() == pid ? mark : fmt::format("{}_{}", ::getpid(), began(::getpid()));
}

bool may_run(std::string_view mark) {
    pid_t pid = 0;
    unsigned long long ticks = 0;
    const char *first = mark.data(), *last = mark.data() + mark.size();
    const auto [middle, no_pid] = std::from_chars(first, last, pid);
    if (no_pid != std::errc() || pid <= 0 || middle == last || *middle != '_') return false;
    const auto [end, no_ticks] = std::from_chars(middle + 1, last, ticks);
    if (no_ticks != std::errc() || end != last) return false;
    if (::kill(pid, 0) != 0 && errno == ESRCH) return false;
    const auto now = began(pid);
    return now == 0 || ticks == 0 || now == ticks;
}

} // namespace conductus::files
