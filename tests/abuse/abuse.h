// SPDX-License-Identifier: GPL-3.0-or-later
// What the tests of abuse share. CONDUCTUS_ABUSE=10 makes each of them try ten times as much.
#pragma once

#include <csignal>
#include <cstdlib>
#include <fcntl.h>
#include <fmt/format.h>
#include <random>
#include <set>
#include <sys/wait.h>
#include <unistd.h>

#include "files/job_json.h"
#include "shop/backup.h"
#include "shop/books.h"
#include "shop/rescue.h"
#include "shop/transfer.h"
#include "support/fixtures.h"

namespace conductus::test {

namespace fs = std::filesystem;

inline int times(int usual) {
    const char* wanted = std::getenv("CONDUCTUS_ABUSE");
    return usual * std::max(1, wanted ? std::atoi(wanted) : 1);
}

inline std::string program() { return (bin_dir() / "conductus-cli").string(); }

/// Runs a command line that must end by itself: a minute is far more than any needs, and 4 GB.
inline Ran bounded(const std::string& arguments) {
    return run("ulimit -v 4194304; timeout -s KILL 60 " + program() + " " + arguments);
}

/// Starts a program on its own; what it prints goes into `out`.
inline pid_t start(const std::vector<std::string>& arguments, const fs::path& out,
                   const std::string& which = program()) {
    const pid_t child = ::fork();
    if (child != 0) return child;
    std::vector<std::string> all{which};
    all.insert(all.end(), arguments.begin(), arguments.end());
    std::vector<char*> argv;
    for (std::string& a : all)
        argv.push_back(a.data());
    argv.push_back(nullptr);
    const int fd = ::open(out.c_str(), O_WRONLY | O_CREAT | O_TRUNC, 0600);
    ::dup2(fd, STDOUT_FILENO);
    ::dup2(fd, STDERR_FILENO);
    ::execv(argv[0], argv.data());
    ::_exit(127);
}

/// The exit code; -1 where a signal ended it.
inline int wait_for(pid_t child) {
    int status = 0;
    ::waitpid(child, &status, 0);
    return WIFEXITED(status) ? WEXITSTATUS(status) : -1;
}

/// Names of the jobs of a book.
inline std::set<std::string> names_in(const fs::path& path) {
    std::set<std::string> names;
    auto book = shop::Book::open(path, shop::Access::read_only);
    EXPECT_TRUE(book) << book.error().text();
    if (!book) return names;
    const auto entries = book->entries();
    for (const shop::Entry& e : *entries)
        names.insert(e.name);
    return names;
}

/// Two jobs with histories that were undone and edited on, pictures and kept states beside them.
inline void make_worked_book(const fs::path& path) {
    shop::Book book = fresh(path);
    for (const char* name : {"dunlin", "avocet"}) {
        const auto file = files::read_job_file(
            source_dir() / "data/demo" / (std::string(name) + ".json"), parts());
        const auto id = book.add(file->job, "received", file->attachments);
        job::Job job = file->job;
        shop::At at = 0;
        for (int i = 0; i < 6; ++i) {
            job.notes = fmt::format("note {} of {}", i, name);
            at = *book.commit(*id, at, job, fmt::format("note {}", i));
        }
        at = *book.move(*id, at, 4);
    }
}

} // namespace conductus::test
