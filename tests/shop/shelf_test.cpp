// SPDX-License-Identifier: GPL-3.0-or-later
// What the shelf shows and finds; books of an older format; backups and going back to them.
#include <algorithm>

#include "core/job/lookup.h"
#include "core/job/words.h"
#include "shop/backup.h"
#include "shop/books.h"
#include "support/fixtures.h"

namespace conductus::shop {
namespace {

using namespace test;

Book demo_shop(const TemporaryFolder& folder) {
    if (!make_demo_book(folder / "b", source_dir() / "data/demo", parts()))
        throw std::runtime_error("no demo shop");
    return fresh(folder / "b");
}

std::vector<std::string> found(Book& book, const std::string& words) {
    std::vector<std::string> names;
    const auto hits = book.find(words);
    for (const Hit& hit : *hits) {
        names.push_back(hit.name);
        EXPECT_EQ(*book.excerpt(hit.id, words), hit.excerpt);
    }
    EXPECT_EQ(book.matching(words)->size(), names.size());
    std::sort(names.begin(), names.end());
    return names;
}

using Names = std::vector<std::string>;

TEST(Shelf, EntriesFollowTheDocument) {
    TemporaryFolder folder;
    Book book = demo_shop(folder);
    const auto entries = book.entries();
    ASSERT_EQ(entries->size(), 6u);
    for (const Entry& e : *entries) {
        const job::Job job = book.load(e.id, parts())->job;
        EXPECT_EQ(e.kind, job::word(job.kind));
        EXPECT_EQ(e.stage, job::word(job.stage));
        EXPECT_EQ(e.promised, job.promised);
        EXPECT_EQ(e.purpose, job.purpose);
        EXPECT_EQ(e.came_back, e.name == "Avocet");
        EXPECT_EQ(e.changed.size(), 20u);
    }
    const auto heron = book.load("Heron", parts());
    job::Job job = heron->job;
    job.stage = job::Stage::handed_over;
    job.promised = "2028-01-01";
    ASSERT_TRUE(book.commit(heron->id, heron->at, job, "done"));
    auto entry = [&] {
        const auto list = book.entries();
        return *std::find_if(list->begin(), list->end(), [](auto& e) { return e.name == "Heron"; });
    };
    EXPECT_EQ(entry().stage, "handed over");
    EXPECT_EQ(entry().promised, "2028-01-01");
    ASSERT_TRUE(book.move(heron->id, heron->at.seq + 1, heron->at.seq));
    EXPECT_EQ(entry().stage, "wiring") << "undo takes the columns along";
}

TEST(Search, FindsWordsOfEveryPaper) {
    TemporaryFolder folder;
    Book book = demo_shop(folder);
    EXPECT_EQ(found(book, "Heron"), Names{"Heron"});
    EXPECT_EQ(found(book, "crate playhouse"), Names{"Heron"}) << "the log";
    EXPECT_EQ(found(book, "optic"), Names{"Curlew"}) << "a wish, the inspection";
    EXPECT_EQ(found(book, "BURR").size(), 3u) << "any case; beginnings of words";
    EXPECT_EQ(found(book, "swollen"), Names{"Curlew"});
    EXPECT_EQ(found(book, "ferry hour"), Names{"Dunlin"}) << "every word, wherever it stands";
    EXPECT_EQ(found(book, "lively"), Names{"Avocet"}) << "the configuration as found";
    EXPECT_EQ(found(book, "21700"), Names{"Bittern"}) << "what is fitted";
    EXPECT_EQ(found(book, "ringed"), Names{"Avocet"}) << "a picture's caption";
    EXPECT_TRUE(found(book, "ferry zeppelin").empty());
    EXPECT_TRUE(found(book, "").empty());
    for (const char* odd : {"\"", "a\" OR \"b", "*", "NEAR(", "left-hand\"",
                            "'; DROP TABLE job; --", "…", "é", "(", "-", "^lantern"})
        EXPECT_TRUE(book.find(odd)) << odd;
    EXPECT_EQ(book.find("optic")->front().excerpt.find('\n'), std::string::npos);
    EXPECT_NE(book.find("optic")->front().excerpt.find("optic"), std::string::npos);
}

TEST(Search, FollowsEditsAndUndo) {
    TemporaryFolder folder;
    Book book = demo_shop(folder);
    const auto heron = book.load("Heron", parts());
    job::Job job = heron->job;
    job.log.push_back({"2027-01-02", "Wrapped in oilcloth."});
    ASSERT_TRUE(book.commit(heron->id, heron->at, job, "note"));
    EXPECT_EQ(found(book, "oilcl"), Names{"Heron"});
    ASSERT_TRUE(book.move(heron->id, heron->at.seq + 1, heron->at.seq));
    EXPECT_TRUE(found(book, "oilcloth").empty());
}

TEST(Attachments, AreKeptWithTheEditThatNamesThem) {
    TemporaryFolder folder;
    Book book = demo_shop(folder);
    const auto avocet = book.load("Avocet", parts());
    const auto named = book.attachments_of(avocet->job);
    ASSERT_TRUE(named) << named.error().text();
    EXPECT_EQ(named->size(), 4u) << "three states, one picture";
    for (const auto& [id, a] : *named)
        EXPECT_EQ(files::content_id(a.bytes), id);
    EXPECT_FALSE(book.attachment("nothing"));
    EXPECT_TRUE(book.verify(parts()));
    // Damage is found, by name.
    SQLite::Database((folder / "b").string(), SQLite::OPEN_READWRITE)
        .exec("UPDATE attachment SET bytes = x'00' WHERE type = 'image/png'");
    const auto bad = book.verify(parts());
    ASSERT_FALSE(bad);
    EXPECT_NE(bad.error().text().find("damaged"), std::string::npos);
    EXPECT_FALSE(bad.error().mend.empty());
}

TEST(Names, AnUndoneNameThatIsTakenIsRefused) {
    TemporaryFolder folder;
    Book book = demo_shop(folder);
    const auto heron = book.load("Heron", parts());
    job::Job job = heron->job;
    job.name = "Egret";
    ASSERT_TRUE(book.commit(heron->id, heron->at, job, "rename"));
    job::Job other = demo("heron");
    other.milestones.clear();
    for (auto& i : other.inspection)
        i.pictures.clear();
    ASSERT_TRUE(book.add(other, "new"));
    const auto back = book.move(heron->id, heron->at.seq + 1, heron->at.seq);
    ASSERT_FALSE(back);
    EXPECT_NE(back.error().text().find("another job named 'Heron'"), std::string::npos);
    EXPECT_EQ(book.load(heron->id, parts())->job.name, "Egret");
}

/// Heron as a book of format 1 knew it.
job::Job old_heron() {
    job::Job job = demo("heron");
    job.brief = {};
    job.inspection.clear();
    job.as_found = {};
    job.log.clear();
    job.milestones.clear();
    return job;
}

TEST(Migration, AnOldBookIsCopiedAndBroughtUpToDate) {
    TemporaryFolder folder;
    job::Job first = old_heron(), second = first;
    second.notes = "Brass finial found.";
    make_old_book(folder / "b", "Heron", {files::job_text(first), files::job_text(second)});
    // Looking changes nothing.
    {
        auto reading = Book::open(folder / "b", Access::read_only);
        ASSERT_TRUE(reading);
        EXPECT_EQ(reading->load("Heron", parts())->job, second);
        EXPECT_EQ(reading->entries()->front().stage, "wiring");
    }
    EXPECT_TRUE(backups_of(folder / "b").empty());

    Book book = fresh(folder / "b");
    const auto opened = book.load("Heron", parts());
    ASSERT_TRUE(opened);
    EXPECT_EQ(opened->job, second);
    EXPECT_EQ(book.history(opened->id)->size(), 2u);
    EXPECT_EQ(found(book, "finial"), Names{"Heron"});
    EXPECT_EQ(book.entries()->front().kind, "conversion");
    ASSERT_TRUE(book.move(opened->id, 1, 0));
    EXPECT_EQ(book.load("Heron", parts())->job, first);
    job::Job job = demo("heron");
    EXPECT_TRUE(book.verify(parts()));

    const auto backups = backups_of(folder / "b");
    ASSERT_EQ(backups.size(), 1u);
    EXPECT_EQ(backups[0].about, "before format 3");
    auto old = Book::open(backups[0].path, Access::read_only);
    ASSERT_TRUE(old) << old.error().text();
    EXPECT_EQ(old->load("Heron", parts())->job, second);
    // Opened once more it is not migrated again.
    { Book again = fresh(folder / "b"); }
    EXPECT_EQ(backups_of(folder / "b").size(), 1u);
}

TEST(Migration, ADocumentThatIsNoLongerReadableDoesNotStopTheOthers) {
    TemporaryFolder folder;
    make_old_book(folder / "b", "Heron", {"{not json"});
    Book book = fresh(folder / "b");
    EXPECT_EQ(book.entries()->size(), 1u);
    EXPECT_FALSE(book.load("Heron", parts()));
    // It is what was written, so nothing is damaged; that it can not be judged is said.
    const auto report = book.look_through(&parts());
    ASSERT_TRUE(report && report->sound());
    EXPECT_EQ(report->jobs.front().unjudged, 1u);
    EXPECT_TRUE(book.add(demo("dunlin"), "new"));
}

TEST(Migration, WhereNothingCanBeCopiedNothingIsChanged) {
    TemporaryFolder folder;
    make_old_book(folder / "b", "Heron", {files::job_text(old_heron())});
    write_file(folder / "b.backups", "a file where the folder should be");
    const auto book = Book::open(folder / "b", Access::read_write);
    ASSERT_FALSE(book);
    EXPECT_NE(book.error().text().find("backups"), std::string::npos);
    SQLite::Database db((folder / "b").string());
    EXPECT_EQ(db.execAndGet("PRAGMA user_version").getInt(), 1);
}

TEST(Backups, OnceADayWhileThereAreChanges) {
    TemporaryFolder folder;
    const auto path = folder / "b";
    { Book book = demo_shop(folder); }
    EXPECT_TRUE(*back_up_daily(path, "2027-01-02"));
    EXPECT_FALSE(*back_up_daily(path, "2027-01-02"));
    EXPECT_FALSE(*back_up_daily(path, "2027-01-03")) << "nothing changed";
    Book book = fresh(path);
    auto edit = [&] {
        const auto heron = book.load("Heron", parts());
        job::Job job = heron->job;
        job.notes += ".";
        ASSERT_TRUE(book.commit(heron->id, heron->at, job, "note"));
    };
    edit();
    EXPECT_TRUE(*back_up_daily(path, "2027-01-04"));
    // The clock is set back: the copy is made all the same, and comes after those before.
    edit();
    EXPECT_TRUE(*back_up_daily(path, "2026-12-24"));
    auto all = backups_of(path);
    ASSERT_EQ(all.size(), 3u);
    EXPECT_EQ(all.back().about, "2026-12-24");
    EXPECT_GT(all.back().number, all.front().number);
    for (int day = 10; day < 40; ++day) {
        edit();
        ASSERT_TRUE(*back_up_daily(path, "2027-02-" + std::to_string(day)));
    }
    all = backups_of(path);
    EXPECT_EQ(all.size(), backups_kept);
    EXPECT_EQ(all.back().about, "2027-02-39");
    for (const Backup& b : all) {
        auto copy = Book::open(b.path, Access::read_only);
        ASSERT_TRUE(copy);
        EXPECT_TRUE(copy->verify(parts()));
    }
}

TEST(Restore, MakesTheBookWhatItWasAndKeepsWhatItIs) {
    TemporaryFolder folder;
    const auto path = folder / "b";
    Book book = demo_shop(folder);
    const auto heron = book.load("Heron", parts());
    ASSERT_TRUE(book.copy_to(folder / "copy"));
    job::Job job = heron->job;
    job.notes = "newer";
    ASSERT_TRUE(book.commit(heron->id, heron->at, job, "note"));
    ASSERT_TRUE(restore(path, folder / "copy"));
    // The connection that was open all the time sees it too.
    EXPECT_EQ(book.load("Heron", parts())->job, heron->job);
    EXPECT_TRUE(book.verify(parts()));
    const auto before = backups_of(path);
    ASSERT_EQ(before.size(), 1u);
    EXPECT_EQ(before[0].about, "before restore");
    auto kept = Book::open(before[0].path, Access::read_only);
    EXPECT_EQ(kept->load("Heron", parts())->job.notes, "newer");
    EXPECT_TRUE(*back_up_daily(path, "2027-01-02")) << "a restored book is a changed book";
}

TEST(Restore, RefusesWhatIsNoSoundBook) {
    TemporaryFolder folder;
    const auto path = folder / "b";
    Book book = demo_shop(folder);
    write_file(folder / "notes", "no book at all");
    EXPECT_FALSE(restore(path, folder / "notes"));
    EXPECT_FALSE(restore(path, folder / "none"));
    EXPECT_FALSE(restore(path, path));
    ASSERT_TRUE(book.copy_to(folder / "copy"));
    std::string bytes = read_file(folder / "copy");
    for (std::size_t i = 20000; i < bytes.size() - 4000; i += 97)
        bytes[i] = static_cast<char>(~bytes[i]);
    write_file(folder / "copy", bytes);
    const auto damaged = restore(path, folder / "copy");
    ASSERT_FALSE(damaged);
    EXPECT_EQ(book.entries()->size(), 6u);
    EXPECT_TRUE(book.verify(parts()));
    EXPECT_TRUE(backups_of(path).empty()) << "nothing was touched, so nothing was copied";
    write_file(folder / "mine.txt", "my own file");
    ASSERT_TRUE(book.copy_to(folder / "good"));
    EXPECT_FALSE(restore(folder / "mine.txt", folder / "good"));
    EXPECT_EQ(read_file(folder / "mine.txt"), "my own file");
}

TEST(Restore, ADamagedBookIsSetAsideNotWrittenOver) {
    TemporaryFolder folder;
    const auto path = folder / "b";
    {
        Book book = demo_shop(folder);
        ASSERT_TRUE(book.copy_to(folder / "copy"));
    }
    std::string bytes = read_file(path);
    for (std::size_t i = 4096; i < bytes.size(); i += 31)
        bytes[i] = static_cast<char>(~bytes[i]);
    write_file(path, bytes);
    ASSERT_TRUE(restore(path, folder / "copy"));
    EXPECT_TRUE(fresh(path).verify(parts()));
    EXPECT_EQ(read_file(path.string() + ".damaged-1"), bytes);
    // And where there is nothing at all, a backup becomes the book.
    ASSERT_TRUE(restore(folder / "new", folder / "copy"));
    EXPECT_EQ(fresh(folder / "new").entries()->size(), 6u);
}

TEST(Restore, ABackupOfAnOlderFormatIsBroughtUpToDate) {
    TemporaryFolder folder;
    make_old_book(folder / "old", "Heron", {files::job_text(old_heron())});
    ASSERT_TRUE(restore(folder / "b", folder / "old"));
    Book book = fresh(folder / "b");
    EXPECT_EQ(book.entries()->size(), 1u);
    EXPECT_EQ(found(book, "Tidewater"), Names{"Heron"});
}

TEST(TwoPrograms, EachSeesTheOtherAndOverwritesNothing) {
    TemporaryFolder folder;
    Book one = demo_shop(folder);
    Book two = fresh(folder / "b");
    const auto seen = *two.data_version();
    const auto heron = one.load("Heron", parts());
    job::Job mine = heron->job, theirs = heron->job;
    mine.notes = "mine";
    theirs.notes = "theirs";
    ASSERT_TRUE(one.commit(heron->id, heron->at, mine, "note"));
    EXPECT_NE(*two.data_version(), seen) << "it can be seen that something changed";
    EXPECT_EQ(two.current(heron->id)->seq, heron->at.seq + 1);
    const auto late = two.commit(heron->id, heron->at, theirs, "note");
    ASSERT_FALSE(late);
    EXPECT_NE(late.error().text().find("another program"), std::string::npos);
    EXPECT_EQ(two.load(heron->id, parts())->job.notes, "mine");
    EXPECT_FALSE(two.move(heron->id, heron->at, heron->at.seq));
}

} // namespace
} // namespace conductus::shop
