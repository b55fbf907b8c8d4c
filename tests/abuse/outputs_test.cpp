// SPDX-License-Identifier: GPL-3.0-or-later
// Every output to where it must not go, to where there is no room, and over what is there.
#include <fstream>
#include <sched.h>
#include <sys/mount.h>
#include <sys/stat.h>

#include "abuse/abuse.h"
#include "files/csv.h"

namespace conductus::shop {
namespace {

using namespace test;

/// A command that writes a file, with OUT where its name goes, and what kind of file it is.
struct Writes {
    std::string command;
    files::Content content;
};

class Outputs : public testing::Test {
protected:
    void SetUp() override {
        make_worked_book(folder_ / "shop.book");
        fs::copy_file(source_dir() / "data/demo/dunlin.json", folder_ / "dunlin.json");
    }
    std::vector<Writes> all() {
        const std::string job = (folder_ / "dunlin.json").string(),
                          book = (folder_ / "shop.book").string(),
                          window = (bin_dir() / "conductus").string();
        std::vector<Writes> list{
            {program() + " export " + job + " --as spice -o OUT", files::Content::text},
            {program() + " export " + job + " --as cutlist -o OUT", files::Content::text},
            {program() + " export " + job + " --as labels -o OUT", files::Content::svg},
            {program() + " export " + job + " --as config -o OUT", files::Content::ours},
            {program() + " harness " + job + " -o OUT", files::Content::job},
            {program() + " discharge " + job + " -o OUT", files::Content::text},
            {program() + " shop " + book + " backup OUT", files::Content::book},
            {program() + " shop " + book + " rescue -o OUT", files::Content::book},
            {program() + " shop " + book + " export OUT", files::Content::other},
        };
        if (fs::exists(window)) {
            list.push_back({window + " picture " + job + " --drawing section -o OUT.svg",
                            files::Content::svg});
            list.push_back({window + " page " + job + " -o OUT.pdf", files::Content::pdf});
            list.push_back({window + " page " + job + " -o OUT.txt", files::Content::text});
        }
        return list;
    }
    static std::string to(std::string command, const std::string& out) {
        const auto at = command.find("OUT");
        const std::string quoted = "'" + out + "'";
        return command.replace(at, 3, quoted);
    }
    static Ran run_bounded(const std::string& command) {
        return run("timeout -s KILL 60 " + command);
    }
    TemporaryFolder folder_;
};

TEST_F(Outputs, OverwriteNothingThatIsSomethingElse) {
    const fs::path other = folder_ / "other.book";
    make_worked_book(other);
    ASSERT_TRUE(back_up_daily(other, "2027-01-02"));
    const fs::path backup = backups_of(other).front().path;
    write_file(folder_ / "job.json", files::job_text(files::bare(demo("heron"))));
    write_file(folder_ / "picture.png", "\x89PNG\r\n\x1a\n....");
    ASSERT_EQ(::mkfifo((folder_ / "pipe").c_str(), 0600), 0);
    fs::create_directory(folder_ / "folder");
    write_file(folder_ / "folder/inside", "mine");
    // A book without its ending, known by what is in it alone.
    fs::copy_file(folder_ / "shop.book", folder_ / "plain");
    fs::create_symlink(other, folder_ / "link");
    fs::create_symlink(folder_ / "nowhere", folder_ / "dangling");
    const std::vector<fs::path> targets{other,
                                        backup,
                                        folder_ / "job.json",
                                        folder_ / "picture.png",
                                        folder_ / "pipe",
                                        folder_ / "folder",
                                        folder_ / "plain",
                                        folder_ / "link",
                                        folder_ / "dangling",
                                        other.string() + "-journal",
                                        "/dev/full",
                                        "/dev/null"};
    for (const Writes& w : all())
        for (const fs::path& target : targets) {
            const bool ending = w.command.find("OUT.") != std::string::npos;
            if (ending) continue; // those go through the same function; their own test is below
            if (w.content == files::Content::job && target == folder_ / "job.json") continue;
            // A copy of this very book, as old as it is: what a backup may replace.
            if (w.command.find("backup") != std::string::npos && target == folder_ / "plain")
                continue;
            std::error_code error;
            const bool regular = fs::is_regular_file(target, error);
            const std::string before = regular ? read_file(target) : "";
            const Ran ran = run_bounded(to(w.command, target.string()));
            EXPECT_EQ(ran.code, 3) << w.command << " to " << target << ": " << ran.err;
            EXPECT_NE(ran.err.find(". "), std::string::npos) << "a remedy: " << ran.err;
            if (regular) {
                EXPECT_EQ(read_file(target), before) << w.command << " to " << target;
            }
            EXPECT_FALSE(fs::exists(folder_ / "nowhere"));
            EXPECT_EQ(read_file(folder_ / "folder/inside"), "mine");
        }
    EXPECT_TRUE(fs::is_symlink(folder_ / "link"));
    EXPECT_FALSE(fs::exists(other.string() + "-journal"));
    for (const char* book : {"shop.book", "other.book"})
        EXPECT_TRUE(Book::open(folder_ / book, Access::read_only)->verify());
    for (const auto& e : fs::recursive_directory_iterator(folder_.path()))
        EXPECT_EQ(e.path().string().find(".part"), std::string::npos) << e.path();
}

TEST_F(Outputs, ReplaceTheirOwnKindAtOnceAndKeepItsPermissions) {
    for (const Writes& w : all()) {
        if (w.content == files::Content::other || w.command.find("rescue") != std::string::npos)
            continue; // a folder, and a new book, are never replaced
        const std::string ending = w.command.find("OUT.svg") != std::string::npos   ? ".svg"
                                   : w.command.find("OUT.pdf") != std::string::npos ? ".pdf"
                                   : w.command.find("OUT.txt") != std::string::npos ? ".txt"
                                                                                    : "";
        const fs::path out = folder_ / "written", file = out.string() + ending;
        ASSERT_EQ(run_bounded(to(w.command, out.string())).code, 0) << w.command;
        struct stat s {};
        ASSERT_EQ(::stat(file.c_str(), &s), 0) << w.command;
        EXPECT_EQ(s.st_mode & 0777, 0600u) << w.command << ": for nobody else";
        const std::string first = read_file(file);
        ASSERT_FALSE(first.empty());
        ::chmod(file.c_str(), 0640);
        fs::create_symlink(file, folder_ / "link");
        const fs::path again = ending.empty() ? folder_ / "link" : out;
        const Ran ran = run_bounded(to(w.command, again.string()));
        EXPECT_EQ(ran.code, 0) << w.command << ": " << ran.err;
        ASSERT_EQ(::stat(file.c_str(), &s), 0);
        EXPECT_EQ(s.st_mode & 0777, 0640u) << w.command << ": permissions stay";
        EXPECT_TRUE(fs::is_symlink(folder_ / "link")) << "a link stays a link";
        ::chmod(file.c_str(), 0440);
        EXPECT_EQ(run_bounded(to(w.command, out.string())).code, 3) << w.command << ": read-only";
        for (const fs::path& p : {file, folder_ / "link", fs::path(file.string() + ".backups")})
            fs::remove_all(p);
    }
}

TEST_F(Outputs, PicturesAndPagesRefuseToo) {
    if (!fs::exists(bin_dir() / "conductus")) GTEST_SKIP() << "the window is not built";
    const std::string job = (folder_ / "dunlin.json").string(),
                      window = (bin_dir() / "conductus").string();
    make_worked_book(folder_ / "b.svg");
    const std::string before = read_file(folder_ / "b.svg");
    for (const char* how : {" picture JOB -o ", " picture JOB --drawing lanes -o "}) {
        std::string command = window + how;
        command.replace(command.find("JOB"), 3, job);
        EXPECT_EQ(run_bounded(command + (folder_ / "b.svg").string()).code, 3);
        EXPECT_EQ(read_file(folder_ / "b.svg"), before);
        fs::create_directories(folder_ / "d.pdf");
        EXPECT_EQ(run_bounded(command + (folder_ / "d.pdf").string()).code, 3);
    }
    write_file(folder_ / "p.pdf", "my letter");
    EXPECT_EQ(run_bounded(window + " page " + job + " -o " + (folder_ / "p.pdf").string()).code, 3);
    EXPECT_EQ(read_file(folder_ / "p.pdf"), "my letter");
    EXPECT_EQ(
        run_bounded(window + " picture " + job + " --at 100 -o " + (folder_ / "n.svg").string())
            .code,
        2)
        << "an option that says nothing of the drawing";
    EXPECT_FALSE(fs::exists(folder_ / "n.svg"));
}

TEST_F(Outputs, WhatCanNotBePrintedIsAnError) {
    const std::string job = (folder_ / "dunlin.json").string(),
                      book = (folder_ / "shop.book").string();
    for (const std::string& command :
         {"plan " + job, "plan --json " + job, "check " + job, "solve " + job, "fit " + job,
          "lights --json " + job, "brief " + job, "harness " + job,
          "size-wires " + job + " --budget-mV 100", "export " + job + " --as cutlist",
          "shop " + book + " list", "shop " + book + " list --csv", "shop " + book + " list --json",
          "shop " + book + " find note", "shop " + book + " verify --json", std::string("--help"),
          std::string("--version"), std::string("plan --help")}) {
        const Ran ran = run(program() + " " + command + " >/dev/full");
        EXPECT_EQ(ran.code, 3) << command;
        EXPECT_NE(ran.err.find("can not be written"), std::string::npos) << command;
    }
}

/// In a file system of this process alone with so much room; 77 where none may be mounted.
template <class Work>
int in_little_room(const fs::path& place, const char* size, Work&& work) {
    const pid_t child = ::fork();
    if (child == 0) {
        if (::unshare(CLONE_NEWNS) != 0 ||
            ::mount(nullptr, "/", nullptr, MS_REC | MS_PRIVATE, nullptr) != 0 ||
            ::mount("tmpfs", place.c_str(), "tmpfs", 0, size) != 0)
            ::_exit(77);
        ::_exit(work());
    }
    return wait_for(child);
}

TEST_F(Outputs, AFullDiskLosesNothingAndLeavesNothing) {
    fs::create_directory(folder_ / "small");
    const auto commands = all();
    const int code = in_little_room(folder_ / "small", "size=96k", [&] {
        // A file's name can still be written, and not one byte of its content.
        const fs::path small = folder_ / "small";
        std::ofstream(small / "full") << std::string(200 << 10, 'x');
        int which = 10;
        for (const Writes& w : commands) {
            ++which;
            const Ran ran = run_bounded(to(w.command, (small / "out").string()));
            if (ran.code != 3 || ran.err.find("oom") == std::string::npos) return which;
            for (const auto& e : fs::directory_iterator(small))
                if (e.path().filename() != "full") return which + 100;
        }
        return 0;
    });
    if (code == 77) GTEST_SKIP() << "no file system may be mounted here";
    EXPECT_EQ(code, 0);
}

TEST_F(Outputs, AFirstStartOnAFullDiskBlocksNothing) {
    fs::create_directory(folder_ / "small");
    const int code = in_little_room(folder_ / "small", "size=64k", [&] {
        const fs::path book = folder_ / "small/shop.book";
        const std::string import =
            "shop " + book.string() + " import " + (source_dir() / "data/demo/heron.json").string();
        if (bounded(import).code != 3) return 1;
        if (fs::exists(book) && Book::open(book, Access::read_only) &&
            !Book::open(book, Access::read_only)->entries()->empty())
            return 2;
        if (::mount(nullptr, (folder_ / "small").c_str(), nullptr, MS_REMOUNT, "size=4m") != 0)
            return 77;
        return bounded(import).code == 0 ? 0 : 3;
    });
    if (code == 77) GTEST_SKIP() << "no file system may be mounted here";
    EXPECT_EQ(code, 0);
}

TEST_F(Outputs, ModesAreForThisUserAlone) {
    const fs::path home = folder_ / "home";
    // A umask that takes nothing away.
    const std::string open = "umask 000; XDG_DATA_HOME=" + home.string() + " ";
    const fs::path book = folder_ / "new/folder/shop.book";
    ASSERT_EQ(run(open + program() + " shop " + book.string() + " import " +
                  (folder_ / "dunlin.json").string())
                  .code,
              0);
    ASSERT_EQ(run(open + program() + " shop " + book.string() + " export " +
                  (folder_ / "new/out").string())
                  .code,
              0);
    ASSERT_EQ(run(open + program() + " shop " + book.string() + " backup " +
                  (folder_ / "new/copy").string())
                  .code,
              0);
    ASSERT_EQ(run(open + program() + " shop " + book.string() + " restore " +
                  (folder_ / "new/copy").string())
                  .code,
              0);
    for (const auto& e : fs::recursive_directory_iterator(folder_ / "new")) {
        struct stat s {};
        ASSERT_EQ(::stat(e.path().c_str(), &s), 0);
        EXPECT_EQ(s.st_mode & 0777, e.is_directory() ? 0700u : 0600u) << e.path();
    }
}

TEST(Csv, ASpreadsheetExecutesNothingAndAllReadsBackEqual) {
    std::mt19937 random(91);
    const std::string signs = "=+-@\t'\",;\r\n 1a\xc3\xa9";
    for (int n = 0; n < times(2000); ++n) {
        std::vector<std::string> cells(1 + random() % 4);
        for (std::string& cell : cells)
            for (std::size_t k = random() % 5; k > 0; --k) {
                const std::size_t at = random() % (signs.size() - 1);
                cell += at >= signs.size() - 2 ? std::string("\xc3\xa9") : signs.substr(at, 1);
            }
        if (cells.size() == 1 && cells[0].empty()) continue; // an empty line is no record
        const std::string line = files::csv_record({"a,b"}) + files::csv_record(cells);
        const auto table = files::read_csv(line, "table", 10);
        ASSERT_TRUE(table.problems.empty());
        ASSERT_EQ(table.records.size(), 2u) << line;
        ASSERT_EQ(table.records[1].size(), cells.size()) << line;
        for (std::size_t i = 0; i < cells.size(); ++i) {
            ASSERT_EQ(table.records[1][i].text, cells[i]);
            const std::string written = files::csv_record({cells[i]});
            const std::size_t first = written[0] == '"' ? 1 : 0;
            const bool number = files::read_csv(written, "", 1).records.empty() == false &&
                                cells[i].find_first_not_of("+-0123456789.") == std::string::npos;
            if (!number) {
                ASSERT_EQ(std::string("=+-@\t").find(written[first]), std::string::npos) << written;
            }
        }
    }
    EXPECT_EQ(files::csv_record({"-3.5", "+2", "=A1", "-A1"}), "-3.5,+2,'=A1,'-A1\r\n");
}

} // namespace
} // namespace conductus::shop
