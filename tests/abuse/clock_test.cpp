// SPDX-License-Identifier: GPL-3.0-or-later
// Clocks that are wrong: set back, set far ahead, standing still.
#include "abuse/abuse.h"

namespace conductus::shop {
namespace {

using namespace test;

TEST(Clocks, OrderIsWhatWasDoneAndNotWhatTheClockSaid) {
    TemporaryFolder folder;
    const fs::path book = folder / "shop.book";
    // Seconds since 1970: in 2030, in 1999, before 1970, in 2500, and in 2030 again.
    const std::vector<std::int64_t> clocks{1893456000, 915148800, -86400, 16725225600, 1893456000};
    int n = 0;
    for (const std::int64_t clock : clocks) {
        job::Job job = files::bare(demo("dunlin"));
        job.name = fmt::format("Dunlin {}", ++n);
        write_file(folder / "job.json", files::job_text(job));
        const std::string at = fmt::format("LD_PRELOAD={} CONDUCTUS_TEST_CLOCK={} ",
                                           (bin_dir() / "libtest_clock.so").string(), clock);
        for (const std::string& action :
             {"import " + (folder / "job.json").string(), std::string("list"),
              std::string("verify"), "backup " + (folder / "copy.book").string()}) {
            const Ran ran = run(at + program() + " shop " + book.string() + " " + action);
            ASSERT_EQ(ran.code, 0) << clock << " " << action << ": " << ran.err;
        }
    }
    auto open = Book::open(book, Access::read_only);
    const auto entries = open->entries();
    ASSERT_EQ(entries->size(), clocks.size());
    EXPECT_EQ((*entries)[0].changed, "2030-01-01T00:00:00Z") << "the clock is the one that was set";
    EXPECT_EQ((*entries)[1].changed, "1999-01-01T00:00:00Z");
    for (std::size_t i = 0; i < entries->size(); ++i)
        EXPECT_EQ((*entries)[i].name, fmt::format("Dunlin {}", i + 1));
    // Copies by days that run backwards: none replaces another, and the newest is the last made.
    for (const char* day : {"2030-01-02", "1999-12-31", "2500-01-01", "2000-01-01"}) {
        Book writes = fresh(book);
        job::Job job = files::bare(demo("heron"));
        job.name = day;
        ASSERT_TRUE(writes.add(job, "new"));
        EXPECT_TRUE(*back_up_daily(book, day));
    }
    const auto copies = backups_of(book);
    ASSERT_EQ(copies.size(), 4u);
    EXPECT_EQ(copies.back().about, "2000-01-01");
    EXPECT_EQ(names_in(copies.back().path).size(), clocks.size() + 4);
    EXPECT_TRUE(open->verify());
}

} // namespace
} // namespace conductus::shop
