// SPDX-License-Identifier: GPL-3.0-or-later
// What happens to the machine under a book: kills, full disks, failing writes.
#include <csignal>
#include <fstream>
#include <sched.h>
#include <sys/mount.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include "shop/backup.h"
#include "shop/book.h"
#include "shop/books.h"
#include "support/fixtures.h"

namespace conductus::shop {
namespace {

using namespace test;

/// Heron without anything kept beside it.
job::Job plain_heron() { return files::bare(demo("heron")); }

/// In a child whose files may grow no further than `bytes`: the exit code of `work`.
template <class Work>
int with_little_room(rlim_t bytes, Work&& work) {
    const pid_t child = ::fork();
    if (child == 0) {
        ::signal(SIGXFSZ, SIG_IGN);
        const rlimit limit{bytes, bytes};
        ::setrlimit(RLIMIT_FSIZE, &limit);
        ::_exit(work());
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    return WIFEXITED(status) ? WEXITSTATUS(status) : -1;
}

TEST(Book, AFullDiskIsSaidAndLosesNothing) {
    TemporaryFolder folder;
    JobId id = 0;
    {
        Book book = fresh(folder / "b");
        id = *book.add(plain_heron(), "new");
    }
    const int code = with_little_room(96 << 10, [&] {
        auto book = Book::open(folder / "b", Access::read_write);
        if (!book) return 2;
        job::Job job = plain_heron();
        for (std::int64_t seq = 0; seq < 100; ++seq) {
            job.notes = std::to_string(seq) + std::string(3000, 'n');
            const auto r = book->commit(id, seq, job, "note");
            if (r) continue;
            // The failed edit is not there, the one before is.
            const auto last = book->load(id, parts());
            return !r.error().mend.empty() && last && last->at.seq == seq && seq > 0 ? 0 : 3;
        }
        return 4;
    });
    EXPECT_EQ(code, 0);
    Book book = fresh(folder / "b");
    EXPECT_TRUE(book.verify());
    EXPECT_GT(book.load(id, parts())->at.seq, 0);
    // With room again, work goes on.
    const auto opened = book.load(id, parts());
    job::Job job = opened->job;
    job.notes = "room";
    EXPECT_TRUE(book.commit(id, opened->at, job, "note"));
}

TEST(DemoShop, LeavesNothingHalfMadeOnAFullDisk) {
    TemporaryFolder folder;
    const int code = with_little_room(8 << 10, [&] {
        const auto made = make_demo_book(folder / "shop.book", source_dir() / "data/demo", parts());
        return !made && !made.error().text().empty() ? 0 : 1;
    });
    EXPECT_EQ(code, 0);
    EXPECT_FALSE(std::filesystem::exists(folder / "shop.book"));
    EXPECT_TRUE(*make_demo_book(folder / "shop.book", source_dir() / "data/demo", parts()));
}

/// Edits until the disk is full, in a book that has one job; then what must still be true.
int fill(const std::filesystem::path& path, JobId id) {
    auto book = Book::open(path, Access::read_write);
    if (!book) return 2;
    job::Job job = plain_heron();
    for (std::int64_t seq = 0; seq < 400; ++seq) {
        job.notes = std::to_string(seq) + std::string(3000, 'n');
        const auto r = book->commit(id, seq, job, "note");
        if (r) continue;
        if (r.error().what.english().find("disk") == std::string::npos || r.error().mend.empty())
            return 3;
        const auto last = book->load(id, parts());
        if (!last || last->at.seq != seq || seq == 0) return 4;
        // A backup that has no room says so and leaves nothing half made.
        if (back_up_daily(path, "2027-01-02")) return 5;
        for (const auto& e : std::filesystem::directory_iterator(path.string() + ".backups"))
            if (e.path().extension() == ".part") return 6;
        return book->verify() ? 0 : 7;
    }
    return 8;
}

TEST(Book, AFullTmpfsIsSaidAndLosesNothing) {
    TemporaryFolder folder;
    std::filesystem::create_directory(folder / "small");
    const pid_t child = ::fork();
    if (child == 0) {
        // A file system of this process alone, half a megabyte large.
        if (::unshare(CLONE_NEWNS) != 0 ||
            ::mount(nullptr, "/", nullptr, MS_REC | MS_PRIVATE, nullptr) != 0 ||
            ::mount("tmpfs", (folder / "small").c_str(), "tmpfs", 0, "size=512k") != 0)
            ::_exit(77);
        const auto path = folder / "small" / "b";
        JobId id = 0;
        {
            Book book = fresh(path);
            id = *book.add(plain_heron(), "new");
        }
        int code = fill(path, id);
        std::int64_t last = -1;
        if (code == 0) {
            Book book = fresh(path);
            last = book.load(id, parts())->at.seq;
            if (!book.verify() || last < 1) code = 9;
        }
        ::_exit(code);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    ASSERT_TRUE(WIFEXITED(status));
    if (WEXITSTATUS(status) == 77) GTEST_SKIP() << "no file system may be mounted here";
    EXPECT_EQ(WEXITSTATUS(status), 0);
}

TEST(Book, EveryCommittedEditSurvivesTwoHundredKills) {
    TemporaryFolder folder;
    std::mt19937 random(29);
    JobId id = 0;
    {
        Book book = fresh(folder / "b");
        id = *book.add(plain_heron(), "new");
    }
    // One book through all of it: what one kill leaves behind, the next finds.
    for (int round = 0; round < 200; ++round) {
        const std::int64_t start = fresh(folder / "b").current(id)->seq;
        int pipe_ends[2];
        ASSERT_EQ(::pipe(pipe_ends), 0);
        const pid_t child = ::fork();
        if (child == 0) {
            auto book = Book::open(folder / "b", Access::read_write);
            job::Job job = plain_heron();
            for (std::int64_t seq = start;; ++seq) {
                job.notes = std::to_string(seq + 1);
                files::Attachments more;
                if (seq % 3 == 0) {
                    std::string document = files::kept_text(job);
                    const std::string key = files::content_id(document);
                    job.milestones.assign(1, {job::Mark::agreed, "2027-01-02", "", key});
                    more[key] = {"job", std::move(document)};
                }
                if (!book || !book->commit(id, seq, job, "edit", more)) ::_exit(1);
                const std::int64_t told = seq + 1;
                if (::write(pipe_ends[1], &told, sizeof told) != sizeof told) ::_exit(2);
            }
        }
        ::close(pipe_ends[1]);
        ::usleep(std::uniform_int_distribution<useconds_t>(500, 30000)(random));
        ::kill(child, SIGKILL);
        ::waitpid(child, nullptr, 0);
        std::int64_t told = 0, last = start;
        while (::read(pipe_ends[0], &told, sizeof told) == sizeof told)
            last = told;
        ::close(pipe_ends[0]);
        Book book = fresh(folder / "b");
        ASSERT_TRUE(book.verify()) << "round " << round;
        const auto opened = book.load(id, parts());
        ASSERT_TRUE(opened);
        ASSERT_GE(opened->at.seq, last) << "round " << round;
        ASSERT_LE(opened->at.seq, last + 1) << "at most the edit it was killed in is ahead";
        if (opened->at.seq > 0) {
            ASSERT_EQ(opened->job.notes, std::to_string(opened->at.seq));
        }
    }
    Book book = fresh(folder / "b");
    // How many edits come between two kills is the machine's speed; that some do is the test's
    // point.
    EXPECT_GT(book.current(id)->seq, 20);
    EXPECT_TRUE(book.verify(parts())) << book.verify(parts()).error().text();
}

} // namespace
} // namespace conductus::shop
