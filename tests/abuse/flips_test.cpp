// SPDX-License-Identifier: GPL-3.0-or-later
// Single bits that change, in every page of a book; and what can be saved of what is left.
#include "abuse/abuse.h"

namespace conductus::shop {
namespace {

using namespace test;

std::set<std::string> documents_of(const fs::path& path) {
    std::set<std::string> all;
    auto book = Book::open(path, Access::read_only);
    const auto entries = book->entries();
    for (const Entry& e : *entries) {
        const auto whole = book->whole(e.id, parts());
        for (const HistoryState& s : whole->states)
            all.insert(s.document);
    }
    return all;
}

TEST(Flips, EveryChangeOfADocumentIsNoticed) {
    TemporaryFolder folder;
    const fs::path good = folder / "good", hit = folder / "hit";
    make_worked_book(good);
    std::string before;
    {
        auto book = Book::open(good, Access::read_only);
        before = everything(*book);
    }
    const std::string bytes = read_file(good);
    const auto originals = documents_of(good);
    constexpr std::size_t page = 4096;
    std::mt19937 random(81);
    int noticed = 0, unchanged = 0;
    std::size_t saved = 0, could_be = 0;
    const int all = times(200);
    for (int n = 0; n < all; ++n) {
        // Every page in turn, any bit in it.
        const std::size_t pages = bytes.size() / page;
        const std::size_t at = (static_cast<std::size_t>(n) % pages) * page +
                               std::uniform_int_distribution<std::size_t>(0, page - 1)(random);
        std::string flipped = bytes;
        flipped[at] =
            static_cast<char>(flipped[at] ^ (1 << std::uniform_int_distribution<>(0, 7)(random)));
        write_file(hit, flipped);
        auto book = Book::open(hit, Access::read_only);
        const auto report = book ? book->look_through() : tl::unexpected(book.error());
        if (!report || !report->sound()) {
            ++noticed;
        } else {
            ++unchanged;
            ASSERT_EQ(everything(*book), before)
                << "byte " << at << " changed a document unnoticed";
        }
        if (n % 10 != 0) continue;
        const fs::path to = folder / fmt::format("saved{}", n);
        const auto rescued = rescue(hit, to);
        ASSERT_TRUE(rescued) << rescued.error().text();
        auto fresh_book = Book::open(to, Access::read_only);
        ASSERT_TRUE(fresh_book && fresh_book->verify());
        could_be += originals.size();
        for (const std::string& document : documents_of(to))
            saved += originals.contains(document);
    }
    EXPECT_EQ(noticed + unchanged, all);
    EXPECT_GT(noticed, all / 8) << "much of a book is what somebody wrote";
    // One bit costs one state, or where it hits what others are told from, those.
    EXPECT_GT(saved * 10, could_be * 8);
    RecordProperty("flips", all);
    RecordProperty("noticed", noticed);
    fmt::print("{} flips: {} noticed, {} changed nothing that is kept; of {} states after flips {} "
               "saved\n",
               all, noticed, unchanged, could_be, saved);
}

/// Rewrites a value behind the program's back, as its neighbours on a disk might.
void tamper(const fs::path& path, const std::string& sql) {
    SQLite::Database db(path.string(), SQLite::OPEN_READWRITE);
    db.exec(sql);
}

TEST(Flips, WhatIsMissingOrLooseIsNoticed) {
    TemporaryFolder folder;
    const fs::path good = folder / "good", hit = folder / "hit";
    make_worked_book(good);
    for (const char* sql : {
             "UPDATE job SET current = 2 WHERE id = 1",
             "UPDATE job SET current = 77 WHERE id = 1",
             "UPDATE job SET name = 'Dunlim' WHERE id = 1",
             "UPDATE job SET stage = 'agreed' WHERE id = 1",
             "UPDATE state SET label = 'nothing' WHERE job = 1 AND seq = 3",
             "UPDATE state SET at = '2001-01-01T00:00:00Z' WHERE job = 1 AND seq = 3",
             "UPDATE state SET stamp = 'x' WHERE job = 1 AND seq = 3",
             "UPDATE state SET body = (SELECT body FROM state WHERE job = 2 AND seq = 0) WHERE job "
             "= "
             "1 AND seq = 0",
             "UPDATE state SET job = 2, seq = 9 WHERE job = 1 AND seq = 5",
             "DELETE FROM state WHERE job = 1 AND seq = 5",
             "DELETE FROM state WHERE job = 1 AND seq = 2",
             "PRAGMA foreign_keys = OFF; DELETE FROM job WHERE id = 2",
             "DELETE FROM attachment WHERE type = 'image/png'",
             "DELETE FROM attachment WHERE type = 'job'",
             "UPDATE attachment SET type = 'image/jpeg' WHERE type = 'image/png'",
             "UPDATE attachment SET bytes = x'00' WHERE type = 'job'",
             "UPDATE book SET identity = 'mine'",
             "UPDATE book SET changes = changes + 1",
             "DELETE FROM book",
             "DELETE FROM change",
             "UPDATE words SET text = 'other' WHERE rowid = 1",
             "DELETE FROM words WHERE rowid = 1",
             "DROP TABLE words",
             "DROP TABLE attachment",
             "CREATE TABLE mine (x)",
             "CREATE INDEX mine ON state (label)",
             "CREATE VIEW mine AS SELECT 1",
             "CREATE TRIGGER mine AFTER INSERT ON job BEGIN DELETE FROM state; END",
         }) {
        fs::copy_file(good, hit, fs::copy_options::overwrite_existing);
        tamper(hit, sql);
        auto book = Book::open(hit, Access::read_only);
        const auto sound = book ? book->verify() : tl::unexpected(book.error());
        EXPECT_FALSE(sound) << sql;
        if (!sound) {
            EXPECT_EQ(sound.error().cause, Cause::damaged) << sql << ": " << sound.error().text();
            EXPECT_FALSE(sound.error().mend.empty());
        }
        // No such book is copied, gone back to, or taken in.
        EXPECT_FALSE(back_up_daily(hit, "2027-01-02")) << sql;
        EXPECT_TRUE(backups_of(hit).empty());
        EXPECT_FALSE(restore(folder / "other", hit)) << sql;
        EXPECT_FALSE(fs::exists(folder / "other"));
        EXPECT_FALSE(read_import(hit, parts())) << sql;
        const fs::path to = folder / "saved";
        fs::remove(to);
        const auto saved = rescue(hit, to);
        EXPECT_TRUE(saved) << sql << ": " << saved.error().text();
    }
}

TEST(Rescue, SaysJobByJobWhatIsLost) {
    TemporaryFolder folder;
    make_worked_book(folder / "b");
    tamper(folder / "b", "UPDATE state SET body = x'0011' WHERE job = 1 AND seq = 4");
    const Ran verified = bounded("shop " + (folder / "b").string() + " verify --json");
    EXPECT_EQ(verified.code, 3);
    const auto report = files::Json::parse(verified.out);
    EXPECT_FALSE(report["sound"]);
    EXPECT_EQ(report["jobs"][0]["name"], "Dunlin");
    EXPECT_EQ(report["jobs"][0]["whole"], 6);
    EXPECT_TRUE(report["jobs"][0]["current_lost"]);
    EXPECT_TRUE(report["jobs"][1]["lost"].empty()) << "the other job is whole";
    const Ran saved = bounded("shop " + (folder / "b").string() + " rescue -o " +
                              (folder / "n").string() + " --json");
    EXPECT_EQ(saved.code, 0) << saved.err;
    const auto said = files::Json::parse(saved.out);
    EXPECT_EQ(said["jobs"][0]["states"], 6);
    EXPECT_EQ(said["jobs"][0]["lost"], 1);
    Book book = fresh(folder / "n");
    EXPECT_TRUE(book.verify(parts()));
    EXPECT_EQ(book.load("Dunlin", parts())->job.notes, "note 2 of dunlin")
        << "the newest whole state before the one that is lost";
    // Never over something.
    EXPECT_EQ(
        bounded("shop " + (folder / "b").string() + " rescue -o " + (folder / "n").string()).code,
        3);
}

TEST(Rescue, ReadsPastABrokenHead) {
    TemporaryFolder folder;
    make_worked_book(folder / "b");
    std::string bytes = read_file(folder / "b");
    std::fill(bytes.begin(), bytes.begin() + 4096, '\0');
    write_file(folder / "b", bytes);
    EXPECT_FALSE(Book::open(folder / "b", Access::read_write));
    const auto saved = rescue(folder / "b", folder / "n");
    ASSERT_TRUE(saved) << saved.error().text();
    std::size_t states = 0;
    for (const RescuedJob& job : saved->about)
        states += job.states;
    EXPECT_EQ(states, 14u);
}

} // namespace
} // namespace conductus::shop
