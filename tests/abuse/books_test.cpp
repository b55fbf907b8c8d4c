// SPDX-License-Identifier: GPL-3.0-or-later
// Books, exported folders and histories that come in: hostile, altered, large, with parts that are
// not known here.
#include <sys/stat.h>

#include "abuse/imports.h"

namespace conductus::shop {
namespace {

using namespace test;
using files::Json;

class Books : public Imports {};

TEST_F(Books, HistoriesThatGrowOutOfLittle) {
    const fs::path out = folder_ / "out";
    {
        auto book = Book::open(folder_ / "shop.book", Access::read_only);
        ASSERT_TRUE(export_folder(*book, out, parts()));
    }
    Json manifest = *files::parse_json(read_file(out / "book.json"), "");
    manifest.erase("hashes"); // as an older export, in which nothing is held against its hash
    write_file(out / "book.json", manifest.dump());
    const fs::path file = fs::directory_iterator(out / "history")->path();
    const Json good = *files::parse_json(read_file(file), "");
    const auto refused_with = [&](const Json& change, const char* why) {
        Json history = good;
        history["states"][1]["change"] = change;
        history["states"][1].erase("hash");
        write_file(file, history.dump());
        const Ran ran = bounded(shop("import " + out.string()));
        EXPECT_EQ(ran.code, 3) << why << ran.err;
        write_file(file, good.dump());
    };
    Json copies = Json::array();
    for (int i = 0; i < 60; ++i)
        copies.push_back({{"op", "copy"}, {"from", ""}, {"path", "/notes"}});
    refused_with(copies, "a copy of all in itself, sixty times");
    refused_with(Json::array({{{"op", "move"}, {"from", "/name"}, {"path", "/notes"}}}), "move");
    refused_with(Json::array({{{"op", "test"}, {"path", "/name"}, {"value", "x"}}}), "test");
    refused_with(Json::array({{{"op", "add"}, {"path", "/notes/0/0"}, {"value", 1}}}), "nowhere");
    refused_with(Json::array({Json("add")}), "no operation");
    refused_with(Json::array({{{"op", "remove"}, {"path", "/looks"}}}), "then it is no job");
}

TEST_F(Books, AnExportedFolderThatWasAltered) {
    const fs::path out = folder_ / "out";
    {
        auto book = Book::open(folder_ / "shop.book", Access::read_only);
        ASSERT_TRUE(export_folder(*book, out, parts()));
    }
    int altered = 0;
    for (const auto& e : fs::recursive_directory_iterator(out)) {
        if (!e.is_regular_file()) continue;
        const std::string good = read_file(e.path());
        // One letter, in the middle of what it says.
        std::string bad = good;
        bad[good.size() / 2] = bad[good.size() / 2] == 'a' ? 'b' : 'a';
        write_file(e.path(), bad);
        EXPECT_EQ(bounded(shop("import " + out.string())).code, 3) << e.path();
        write_file(e.path(), good.substr(0, good.size() / 2));
        EXPECT_EQ(bounded(shop("import " + out.string())).code, 3) << e.path();
        write_file(e.path(), good);
        ++altered;
    }
    EXPECT_GT(altered, 8);
    // A job file alone is held to its hashes, too.
    Json job = *files::parse_json(read_file(source_dir() / "data/demo/avocet.json"), "");
    job["kept"].begin().value()["notes"] = "never said";
    write_file(folder_ / "avocet.json", job.dump(2));
    EXPECT_EQ(bounded(shop("import " + (folder_ / "avocet.json").string())).code, 3);
}

TEST_F(Books, ManyStatesComeIn) {
    // A history of many states of one job, as an exported folder.
    const fs::path out = folder_ / "many";
    Json states = Json::array();
    const job::Job dunlin = files::bare(demo("dunlin"));
    states.push_back({{"label", "new"},
                      {"at", "2026-11-01T10:00:00Z"},
                      {"change", Json::diff(Json::object(), files::job_json(dunlin))}});
    const int count = times(1500);
    for (int i = 1; i < count; ++i)
        states.push_back({{"label", "note"},
                          {"at", "2026-11-01T10:00:00Z"},
                          {"change", Json::array({{{"op", "replace"},
                                                   {"path", "/notes"},
                                                   {"value", fmt::format("note {}", i)}}})}});
    fs::create_directories(out / "history");
    write_file(out / "history/a.json", Json{{"format", "conductus-history"},
                                            {"version", 1},
                                            {"current", count - 1},
                                            {"states", states}}
                                           .dump());
    write_file(out / "book.json",
               Json{{"format", "conductus-book"}, {"version", 1}, {"jobs", {"a"}}}.dump());
    const fs::path book = folder_ / "many.book";
    ASSERT_EQ(bounded("shop " + book.string() + " import " + out.string()).code, 0);
    auto in = Book::open(book, Access::read_only);
    const auto entries = in->entries();
    const auto id = entries->front().id;
    EXPECT_EQ(in->history(id)->size(), static_cast<std::size_t>(count));
    EXPECT_EQ(in->load(id, parts())->job.notes, fmt::format("note {}", count - 1));
    const auto each = static_cast<double>(fs::file_size(book)) / count;
    fmt::print("{} states: {:.0f} bytes each, of {} that a document has\n", count, each,
               files::job_text(dunlin).size());
    EXPECT_LT(each, 1500) << "a history of 3,000 edits takes a few MB";
    EXPECT_TRUE(in->verify());
}

TEST_F(Books, OwnPartsTravelAndWhatIsUnknownIsKept) {
    // A cell of one's own, on a machine that has it.
    const fs::path home = folder_ / "home";
    fs::create_directories(home / "conductus/catalogue");
    Json catalogue;
    for (const auto& e : fs::directory_iterator(source_dir() / "data/catalogue")) {
        const Json file = *files::parse_json(read_file(e.path()), "");
        for (const Json& part : file["parts"])
            if (part["id"] == "cell.18350") {
                Json own = part;
                own["id"] = "cell.own";
                own["name"] = "a cell of our own";
                catalogue = {{"format", "conductus-catalogue"},
                             {"version", 1},
                             {"parts", Json::array({own})}};
            }
    }
    ASSERT_FALSE(catalogue.is_null());
    write_file(home / "conductus/catalogue/own.json", catalogue.dump(2));
    // Beside it one that is broken, which is said, with its line, and changes nothing else.
    write_file(home / "conductus/catalogue/x.json", "{\n  \"format\":5}");
    job::Job job = files::bare(demo("dunlin"));
    for (job::Part& part : job.parts)
        if (parts().find_as<catalogue::Cell>(part.type)) part.type = "cell.own";
    write_file(folder_ / "own.json", files::job_text(job));
    const fs::path book = folder_ / "own.book";
    const std::string there = "XDG_DATA_HOME=" + home.string() + " ";
    const std::string with = program() + " shop " + book.string() + " ";
    const Ran imported = run(there + with + "import " + (folder_ / "own.json").string());
    ASSERT_EQ(imported.code, 0) << imported.err;
    EXPECT_NE(imported.err.find("x.json, line 1"), std::string::npos) << imported.err;
    ASSERT_EQ(run(there + with + "export " + (folder_ / "out").string()).code, 0);
    ASSERT_EQ(run(there + with + "backup " + (folder_ / "copy").string()).code, 0);
    // On a machine without it, everything goes on, and the job can be planned.
    const std::string here = "XDG_DATA_HOME=" + (folder_ / "nothing").string() + " ";
    EXPECT_EQ(run(here + with + "verify").code, 0);
    EXPECT_NE(run(here + program() + " plan Dunlin@" + book.string()).code, 3);
    EXPECT_EQ(run(here + with + "export " + (folder_ / "out2").string()).code, 0);
    EXPECT_EQ(run(here + with + "restore " + (folder_ / "copy").string()).code, 0);
    const fs::path next = folder_ / "next.book";
    for (const char* from : {"out", "copy", "own.book"}) {
        fs::remove(next);
        const Ran ran = run(here + program() + " shop " + next.string() + " import " +
                            (folder_ / from).string());
        EXPECT_EQ(ran.code, 0) << from << ran.err;
        EXPECT_NE(run(here + program() + " plan Dunlin@" + next.string()).code, 3) << from;
    }
    const fs::path alone = fs::directory_iterator(folder_ / "out/jobs")->path();
    EXPECT_NE(run(here + program() + " plan " + alone.string()).code, 3);

    // A book that came about without the part in it: kept as it is, and said.
    const fs::path bare = folder_ / "bare.book";
    fs::copy_file(book, bare);
    {
        SQLite::Database db(bare.string(), SQLite::OPEN_READWRITE);
        db.exec("DELETE FROM attachment WHERE type = 'part'");
    }
    const auto saved = rescue(bare, folder_ / "bare2.book"); // its counts are right again
    ASSERT_TRUE(saved) << saved.error().text();
    const std::string lacks = here + program() + " shop " + (folder_ / "bare2.book").string() + " ";
    const Ran verified = run(lacks + "verify");
    EXPECT_EQ(verified.code, 0) << verified.err;
    EXPECT_NE(verified.err.find("can not be judged"), std::string::npos) << verified.err;
    EXPECT_EQ(run(lacks + "export " + (folder_ / "out3").string()).code, 0);
    fs::remove(next);
    const Ran taken =
        run(here + program() + " shop " + next.string() + " import " + (folder_ / "out3").string());
    EXPECT_EQ(taken.code, 0) << taken.err;
    EXPECT_NE(taken.err.find("cell.own"), std::string::npos) << taken.err;
    EXPECT_EQ(read_file(folder_ / "out3/history" /
                        fs::directory_iterator(folder_ / "out3/history")->path().filename())
                  .find("x.json"),
              std::string::npos);
    // And where the part is, it is judged again.
    EXPECT_NE(run(there + program() + " plan Dunlin@" + next.string()).code, 3);
}

TEST_F(Books, BooksAndFoldersThatMayNotBeRead) {
    if (::geteuid() == 0) {
        // To root everything is readable: another user tries.
        const fs::path place = folder_ / "p";
        fs::create_directory(place);
        ::chmod(folder_.path().c_str(), 0755);
        ::chmod(place.c_str(), 0777);
        fs::copy_file(folder_ / "shop.book", place / "b.book");
        fs::copy_file(folder_ / "shop.book", place / "copy.book");
        ::chmod((place / "b.book").c_str(), 0);
        ::chmod((place / "copy.book").c_str(), 0644);
        const auto as_nobody = [&](const std::string& command) {
            const pid_t child = ::fork();
            if (child == 0) {
                if (::setgid(65534) != 0 || ::setuid(65534) != 0) ::_exit(77);
                const Ran ran = run(command);
                ::_exit(ran.code);
            }
            return wait_for(child);
        };
        const std::string shop = program() + " shop " + (place / "b.book").string() + " ";
        const int code = as_nobody(shop + "restore " + (place / "copy.book").string());
        if (code == 77 || code == 127 || code == 126) GTEST_SKIP() << "no other user here";
        EXPECT_EQ(code, 3);
        EXPECT_TRUE(fs::exists(place / "b.book")) << "it was not set aside";
        EXPECT_FALSE(fs::exists(place / "b.book.damaged-1"));
    }
    // A copy in a folder that may only be read is read, and nothing is written beside it.
    const fs::path shelf = folder_ / "shelf";
    fs::create_directory(shelf);
    fs::copy_file(folder_ / "shop.book", shelf / "copy.book");
    make_old_book(shelf / "old.book", "Heron", {files::job_text(files::bare(demo("heron")))});
    fs::remove(shelf / "old.book-wal");
    fs::remove(shelf / "old.book-shm");
    const std::string old = read_file(shelf / "old.book"), copy = read_file(shelf / "copy.book");
    ::chmod(shelf.c_str(), 0555);
    for (const char* name : {"copy.book", "old.book"})
        for (const char* action : {"list", "verify", "find note", "export OUT"}) {
            std::string command = std::string("shop ") + (shelf / name).string() + " " + action;
            if (const auto at = command.find("OUT"); at != std::string::npos)
                command.replace(at, 3, (folder_ / (std::string("of-") + name)).string());
            const Ran ran = bounded(command);
            EXPECT_EQ(ran.code, 0) << command << ran.err;
            EXPECT_EQ(std::distance(fs::directory_iterator(shelf), fs::directory_iterator{}), 2);
        }
    EXPECT_EQ(read_file(shelf / "old.book"), old);
    EXPECT_EQ(read_file(shelf / "copy.book"), copy);
    ::chmod(shelf.c_str(), 0755);
}

TEST_F(Books, JournalsThatBelongToAnotherFile) {
    // A write-ahead log that an earlier file of that name left.
    const fs::path target = folder_ / "copy.book";
    make_old_book(folder_ / "old", "Heron", {files::job_text(files::bare(demo("heron")))});
    {
        SQLite::Database writer((folder_ / "old").string(), SQLite::OPEN_READWRITE);
        writer.exec("UPDATE job SET name = 'Egret'");
        fs::copy_file((folder_ / "old").string() + "-wal", target.string() + "-wal");
    }
    write_file(target.string() + "-journal", std::string(600, 'j'));
    ASSERT_EQ(bounded(shop("backup " + target.string())).code, 0);
    auto copy = Book::open(target, Access::read_only);
    ASSERT_TRUE(copy) << copy.error().text();
    EXPECT_TRUE(copy->verify());
    EXPECT_EQ(everything(*copy), before_);
    EXPECT_TRUE(fs::exists(target.string() + "-wal.set-aside-1")) << "nothing is thrown away";
}

} // namespace
} // namespace conductus::shop
