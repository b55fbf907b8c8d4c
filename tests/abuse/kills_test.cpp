// SPDX-License-Identifier: GPL-3.0-or-later
// Programs that are killed at any moment, and many at once.
#include <SQLiteCpp/SQLiteCpp.h>

#include "abuse/abuse.h"

namespace conductus::shop {
namespace {

using namespace test;

class Kills : public testing::Test {
protected:
    /// Kills the program after a while that is as often short as long.
    static void kill_sometime(pid_t child, std::mt19937& random, double most_ms) {
        const double share = std::uniform_real_distribution<>(0, 1)(random);
        ::usleep(static_cast<useconds_t>(1000 * most_ms * share * share));
        ::kill(child, SIGKILL);
    }
    std::string new_job(int n) {
        job::Job job = files::bare(demo("dunlin"));
        job.name = fmt::format("Dunlin {}", n);
        const fs::path file = folder_ / fmt::format("job{}.json", n);
        write_file(file, files::job_text(job));
        return file.string();
    }
    void expect_sound(const fs::path& path, const std::string& what) {
        auto book = Book::open(path, Access::read_only);
        ASSERT_TRUE(book) << what << ": " << book.error().text();
        const auto sound = book->verify();
        ASSERT_TRUE(sound) << what << ": " << sound.error().text();
    }
    TemporaryFolder folder_;
};

TEST_F(Kills, EveryCommandAtAnyMoment) {
    std::mt19937 random(71);
    const fs::path book = folder_ / "shop.book", copy = folder_ / "copy.book",
                   out = folder_ / "said";
    make_worked_book(book);
    std::set<std::string> there{"Dunlin", "Avocet"};
    // Files that commands write: each is there as a whole, or not at all.
    const std::string job = (source_dir() / "data/demo/dunlin.json").string();
    const fs::path written = folder_ / "written";
    const std::vector<std::vector<std::string>> writers{
        {"harness", job, "-o", written.string()},
        {"export", job, "--as", "spice", "-o", written.string()},
        {"export", job, "--as", "cutlist", "-o", written.string()},
        {"discharge", job, "-o", written.string()}};
    std::vector<std::string> whole;
    for (const auto& command : writers) {
        ASSERT_EQ(wait_for(start(command, out)), 0);
        whole.push_back(read_file(written));
        fs::remove(written);
    }
    int finished = 0;
    for (int round = 0; round < times(120); ++round) {
        const std::string exported = (folder_ / fmt::format("out{}", round)).string(),
                          rescued = (folder_ / fmt::format("new{}.book", round)).string();
        const std::vector<std::vector<std::string>> commands{
            {"shop", book.string(), "import", new_job(round)},
            {"shop", book.string(), "backup", copy.string()},
            {"shop", book.string(), "export", exported},
            {"shop", book.string(), "rescue", "-o", rescued},
            {"shop", book.string(), "list"},
            {"shop", book.string(), "find", "note"},
            {"shop", book.string(), "verify"},
        };
        const std::size_t turn =
            static_cast<std::size_t>(round) % (commands.size() + writers.size());
        const bool writes = turn >= commands.size();
        const auto& command = writes ? writers[turn - commands.size()] : commands[turn];
        const std::string& action = writes ? command[0] : command[2];
        const pid_t child = start(command, out);
        kill_sometime(child, random, 60);
        const bool done = wait_for(child) == 0;
        finished += done;
        if (done && action == "import") there.insert(fmt::format("Dunlin {}", round));
        SCOPED_TRACE(fmt::format("round {}: {}{}", round, action, done ? "" : ", killed"));
        if (writes && fs::exists(written)) {
            ASSERT_EQ(read_file(written), whole[turn - commands.size()]);
        }
        fs::remove(written);
        if (writes) continue;
        expect_sound(book, "the book");
        const std::set<std::string> now = names_in(book);
        for (const std::string& name : there)
            ASSERT_TRUE(now.contains(name)) << name << " was acknowledged";
        there = now;
        if (fs::exists(copy)) expect_sound(copy, "the copy");
        for (const Backup& b : backups_of(copy))
            expect_sound(b.path, "what the copy replaced");
        if (fs::exists(rescued)) expect_sound(rescued, "what was rescued");
        if (fs::exists(exported)) {
            ASSERT_TRUE(read_import(exported, parts())) << "a folder that is there is complete";
            fs::remove_all(exported);
        }
        fs::remove(rescued);
        fs::remove(folder_ / fmt::format("job{}.json", round));
    }
    EXPECT_GT(finished, 0);
    // What the killed ones left beside is taken away by the next that writes there.
    ASSERT_EQ(wait_for(start({"shop", book.string(), "backup", copy.string()}, out)), 0);
    for (const auto& e : fs::directory_iterator(folder_.path()))
        EXPECT_FALSE(e.path().filename().string().starts_with("copy.book.") &&
                     e.path().extension() == ".part")
            << e.path();
}

TEST_F(Kills, PicturesAndPagesAtAnyMoment) {
    const std::string window = (bin_dir() / "conductus").string();
    if (!fs::exists(window)) GTEST_SKIP() << "the window is not built";
    std::mt19937 random(74);
    const fs::path out = folder_ / "said";
    const std::string job = (source_dir() / "data/demo/dunlin.json").string();
    struct Case {
        std::vector<std::string> command;
        fs::path written;
        std::string begins, ends;
    };
    const fs::path svg = folder_ / "s.svg", png = folder_ / "s.png", pdf = folder_ / "p.pdf",
                   txt = folder_ / "p.txt";
    const Case cases[]{
        {{"picture", job, "--drawing", "section", "-o", svg.string()}, svg, "<?xml", "</svg>\n"},
        {{"picture", job, "--drawing", "lanes", "-o", png.string()},
         png,
         "\x89PNG",
         "IEND\xae\x42\x60\x82"},
        {{"page", job, "-o", pdf.string()}, pdf, "%PDF", "%%EOF\n"},
        {{"page", job, "-o", txt.string()}, txt, "", "\n"}};
    int finished = 0;
    for (int round = 0; round < times(12); ++round) {
        const Case& c = cases[round % 4];
        const pid_t child = start(c.command, out, window);
        kill_sometime(child, random, 1500);
        finished += wait_for(child) == 0;
        if (!fs::exists(c.written)) continue;
        const std::string now = read_file(c.written);
        EXPECT_TRUE(now.starts_with(c.begins) && now.ends_with(c.ends)) << c.written;
        fs::remove(c.written);
    }
    EXPECT_GT(finished, 0);
}

TEST_F(Kills, GoingBackAtAnyMoment) {
    std::mt19937 random(72);
    const fs::path book = folder_ / "shop.book", old = folder_ / "old.book", out = folder_ / "said";
    make_worked_book(book);
    {
        Book now = fresh(book);
        ASSERT_TRUE(now.copy_to(old));
    }
    for (int round = 0; round < times(40); ++round) {
        const std::string file = new_job(round);
        ASSERT_EQ(wait_for(start({"shop", book.string(), "import", file}, out)), 0);
        const pid_t child = start({"shop", book.string(), "restore", old.string()}, out);
        kill_sometime(child, random, 80);
        const bool done = wait_for(child) == 0;
        SCOPED_TRACE(fmt::format("round {}{}", round, done ? "" : ", killed"));
        expect_sound(book, "the book");
        // Either it is what it was, with the job, or what the copy is, and the job is in a copy.
        const std::string name = fmt::format("Dunlin {}", round);
        const auto has = [&](const fs::path& path) {
            auto b = Book::open(path, Access::read_only);
            return b && b->load(name, parts()).has_value();
        };
        bool kept = has(book);
        for (const Backup& b : backups_of(book)) {
            expect_sound(b.path, "a copy");
            kept = kept || has(b.path);
        }
        ASSERT_TRUE(kept);
    }
}

TEST_F(Kills, ABeginningThatIsInterruptedBlocksNothing) {
    std::mt19937 random(73);
    const fs::path out = folder_ / "said";
    const std::string file = new_job(0);
    for (int round = 0; round < times(40); ++round) {
        const fs::path book = folder_ / fmt::format("new{}.book", round);
        // Some begin in an empty file, as an earlier start on a full disk left it.
        if (round % 4 == 0) write_file(book, "");
        const pid_t child = start({"shop", book.string(), "import", file}, out);
        kill_sometime(child, random, 40);
        wait_for(child);
        const int code = wait_for(start({"shop", book.string(), "import", file}, out));
        ASSERT_EQ(code, 0) << "round " << round << ": " << read_file(out);
        expect_sound(book, "the book");
    }
}

TEST_F(Kills, ABookIsWrittenAgainAfterOneInTheMiddleOfItsWriting) {
    // The file has grown already, and shrinks again when the journal is played back: nobody cut it.
    const fs::path book = folder_ / "shop.book";
    make_worked_book(book);
    const auto before = fs::file_size(book);
    int ends[2];
    ASSERT_EQ(::pipe(ends), 0);
    const pid_t child = ::fork();
    if (child == 0) {
        SQLite::Database db(book.string(), SQLite::OPEN_READWRITE);
        db.exec("PRAGMA cache_size = 10; BEGIN IMMEDIATE; "
                "INSERT INTO attachment VALUES ('x', 'part', randomblob(4000000))");
        if (::write(ends[1], "x", 1) == 1) ::pause();
        ::_exit(0);
    }
    char told = 0;
    ASSERT_EQ(::read(ends[0], &told, 1), 1);
    ::kill(child, SIGKILL);
    ::waitpid(child, nullptr, 0);
    ASSERT_GT(fs::file_size(book), before) << "the writing has begun";
    ASSERT_TRUE(fs::exists(book.string() + "-journal"));
    EXPECT_EQ(wait_for(start({"shop", book.string(), "import", new_job(0)}, folder_ / "said")), 0)
        << read_file(folder_ / "said");
    EXPECT_EQ(names_in(book), (std::set<std::string>{"Avocet", "Dunlin", "Dunlin 0"}));
    expect_sound(book, "the book");
}

TEST_F(Kills, ManyBeginOneBookTogether) {
    const fs::path out = folder_ / "said";
    std::vector<std::string> jobs;
    for (int n = 0; n < 6; ++n)
        jobs.push_back(new_job(n));
    for (int round = 0; round < times(8); ++round) {
        const fs::path book = folder_ / fmt::format("together{}.book", round);
        if (round % 2 == 0) write_file(book, "");
        std::vector<pid_t> children;
        for (std::size_t n = 0; n < jobs.size(); ++n)
            children.push_back(start({"shop", book.string(), "import", jobs[n]},
                                     folder_ / fmt::format("said{}", n)));
        for (std::size_t n = 0; n < jobs.size(); ++n)
            ASSERT_EQ(wait_for(children[n]), 0)
                << "round " << round << ": " << read_file(folder_ / fmt::format("said{}", n));
        EXPECT_EQ(names_in(book).size(), jobs.size());
        expect_sound(book, "the book");
    }
}

TEST_F(Kills, WhatIsAcknowledgedWhileAnotherGoesBackIsInACopy) {
    const fs::path book = folder_ / "shop.book", old = folder_ / "old.book";
    make_worked_book(book);
    {
        Book now = fresh(book);
        ASSERT_TRUE(now.copy_to(old));
    }
    for (int round = 0; round < times(3); ++round) {
        int ends[2];
        ASSERT_EQ(::pipe(ends), 0);
        const pid_t writer = ::fork();
        if (writer == 0) {
            // Adds jobs as fast as it can, and tells each.
            for (int n = 0;; ++n) {
                auto own = Book::open(book, Access::read_write);
                job::Job job = files::bare(demo("dunlin"));
                job.name = fmt::format("Told {} {}", round, n);
                if (own && own->add(job, "new") && ::write(ends[1], &n, sizeof n) != sizeof n)
                    ::_exit(0);
            }
        }
        ::close(ends[1]);
        int told = 0;
        ASSERT_EQ(::read(ends[0], &told, sizeof told), static_cast<ssize_t>(sizeof told));
        for (int i = 0; i < 4; ++i)
            ASSERT_TRUE(restore(book, old));
        ::kill(writer, SIGKILL);
        ::waitpid(writer, nullptr, 0);
        int last = told;
        while (::read(ends[0], &told, sizeof told) == sizeof told)
            last = told;
        ::close(ends[0]);
        std::set<std::string> names;
        const auto collect = [&](const fs::path& path) { names.merge(names_in(path)); };
        collect(book);
        for (const Backup& b : backups_of(book))
            collect(b.path);
        for (int n = 0; n <= last; ++n)
            ASSERT_TRUE(names.contains(fmt::format("Told {} {}", round, n)))
                << n << " of " << last << " was acknowledged";
    }
}

} // namespace
} // namespace conductus::shop
