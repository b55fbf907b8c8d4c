// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/book.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <sys/stat.h>
#include <unistd.h>

#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "files/job_json.h"
#include "shop/books.h"
#include "support/fixtures.h"

namespace conductus::shop {
namespace {

using namespace test;

TEST(Book, KeepsJobsExactly) {
    TemporaryFolder folder;
    std::mt19937 random(51);
    std::vector<job::Job> jobs;
    {
        Book book = fresh(folder / "b");
        for (int i = 0; i < 20; ++i) {
            // Without pictures and milestones: a book that names what it does not have is not
            // sound.
            jobs.push_back(files::bare(random_job(random)));
            ASSERT_TRUE(book.add(jobs.back(), "new"));
        }
    }
    Book book = fresh(folder / "b");
    const auto entries = book.entries();
    ASSERT_EQ(entries->size(), jobs.size());
    for (std::size_t i = 0; i < jobs.size(); ++i) {
        const auto opened = book.load((*entries)[i].id, parts());
        ASSERT_TRUE(opened) << opened.error().text();
        EXPECT_EQ(opened->job, jobs[i]);
    }
    EXPECT_TRUE(book.verify());
}

TEST(Book, KeptStatesAndPicturesAreSmallAndComeBackEqual) {
    TemporaryFolder folder;
    const auto path = folder / "shop.book";
    Book book = fresh(path);
    const std::string state = files::job_text(files::bare(demo("heron"))),
                      picture = "\x89PNG\r\n\x1a\n" + std::string("already small: 3.1415");
    const std::string state_id = files::content_id(state), picture_id = files::content_id(picture);
    ASSERT_TRUE(book.add(files::bare(demo("dunlin")), "new",
                         {{state_id, {"job", state}}, {picture_id, {"image/png", picture}}}));
    EXPECT_EQ(book.attachment(state_id)->bytes, state);
    EXPECT_EQ(book.attachment(picture_id)->bytes, picture);
    SQLite::Database db(path.string(), SQLite::OPEN_READONLY);
    SQLite::Statement q(db, "SELECT length(bytes) FROM attachment WHERE id = ?");
    q.bind(1, state_id);
    ASSERT_TRUE(q.executeStep());
    EXPECT_LT(static_cast<std::size_t>(q.getColumn(0).getInt64()) * 4, state.size());
}

TEST(Book, HistoryWithUndoAndRedo) {
    TemporaryFolder folder;
    Book book = fresh(folder / "b");
    job::Job job = demo("heron");
    const JobId id = *book.add(job, "new");
    job::fit_type("B1", "cell.18350")(job);
    EXPECT_EQ(book.commit(id, 0, job, "fit the 18350")->seq, 1);
    job.use.volume = 0.2;
    EXPECT_EQ(book.commit(id, 1, job, "quieter")->seq, 2);
    ASSERT_TRUE(book.move(id, 2, 0));
    EXPECT_EQ(book.load(id, parts())->job, demo("heron"));
    ASSERT_TRUE(book.move(id, 0, 1));
    EXPECT_EQ(job::find_ref(book.load(id, parts())->job.parts, "B1")->type, "cell.18350");
    EXPECT_EQ(book.history(id)->size(), 3u);
    // An edit after undo drops what was undone.
    job.use.volume = 0.9;
    EXPECT_EQ(book.commit(id, 1, job, "louder")->seq, 2);
    const auto history = book.history(id);
    ASSERT_EQ(history->size(), 3u);
    EXPECT_EQ((*history)[2].label, "louder");
    EXPECT_EQ((*history)[2].at.size(), 20u);
    EXPECT_FALSE(book.move(id, 2, 7));
}

TEST(Book, NeverOverwritesWhatAnotherProgramWrote) {
    TemporaryFolder folder;
    Book one = fresh(folder / "b");
    const JobId id = *one.add(demo("heron"), "new");
    Book two = fresh(folder / "b");
    job::Job job = demo("heron");
    job.notes = "from two";
    ASSERT_TRUE(two.commit(id, 0, job, "note"));
    job.notes = "from one";
    const auto r = one.commit(id, 0, job, "note");
    ASSERT_FALSE(r);
    EXPECT_NE(r.error().text().find("another program"), std::string::npos);
    EXPECT_EQ(one.load(id, parts())->job.notes, "from two");
    EXPECT_FALSE(one.move(id, 0, 0));
}

TEST(Book, AStateThatAnotherProgramPutInTheSamePlaceIsNotMistaken) {
    // Every so many states one is kept whole, and later ones are told from it: this program has
    // that state at hand, and another puts a different one in its place.
    TemporaryFolder folder;
    job::Job job = files::bare(demo("dunlin"));
    Book here = fresh(folder / "b");
    const JobId id = *here.add(job, "new");
    At at = here.load(id, parts())->at;
    for (int n = 1; n <= 80; ++n) {
        job.notes = "note " + std::to_string(n);
        at = *here.commit(id, at, job, "note");
        Book there = fresh(folder / "b");
        const At back = *there.move(id, at, at.seq - 1);
        job.notes = std::string(500, 'x') + std::to_string(n);
        (void)*there.commit(id, back, job, "another");
        at = here.load(id, parts())->at;
        ASSERT_EQ(here.load(id, parts())->job, job) << n;
    }
    job.notes = "last";
    ASSERT_TRUE(here.commit(id, at, job, "last"));
    EXPECT_EQ(here.load(id, parts())->job, job);
    const auto sound = fresh(folder / "b").verify();
    EXPECT_TRUE(sound) << sound.error().text();
}

TEST(Book, ANameThatIsNotThereIsMetWithTheNearestAndNotWithAllOfThem) {
    TemporaryFolder folder;
    Book book = fresh(folder / "b");
    job::Job job = files::bare(demo("dunlin"));
    (void)book.add(job, "new");
    EXPECT_NE(book.load("Dunlyn", parts()).error().mend.english().find("There are: Dunlin"),
              std::string::npos);
    for (int n = 0; n < 40; ++n) {
        job.name = "Job " + std::string(3, static_cast<char>('A' + n % 26)) + std::to_string(n);
        (void)book.add(job, "new");
    }
    EXPECT_EQ(book.load("Dunlyn", parts()).error().mend, "Did you mean 'Dunlin'?");
    EXPECT_LT(book.load("something else", parts()).error().text().size(), 300u);
}

TEST(Book, NamesAreUnique) {
    TemporaryFolder folder;
    Book book = fresh(folder / "b");
    ASSERT_TRUE(book.add(demo("heron"), "new"));
    const auto r = book.add(demo("heron"), "new");
    ASSERT_FALSE(r);
    EXPECT_NE(r.error().mend.english().find("another name"), std::string::npos);
    EXPECT_FALSE(book.load("Curlew", parts()));
    EXPECT_NE(book.load("Curlew", parts()).error().mend.english().find("Heron"), std::string::npos);
}

TEST(Book, RefusesWhatIsNotABookAndLeavesItAlone) {
    TemporaryFolder folder;
    const auto path = folder / "notes.txt";
    for (const std::string& content : {std::string("these are notes"), std::string(8192, '\x5a')}) {
        write_file(path, content);
        for (const Access access : {Access::read_write, Access::read_only}) {
            const auto r = Book::open(path, access);
            ASSERT_FALSE(r);
            EXPECT_NE(r.error().what.english().find("not a shop book"), std::string::npos)
                << r.error().text();
            EXPECT_EQ(read_file(path), content);
        }
    }
    EXPECT_FALSE(Book::open(folder.path(), Access::read_write));
    EXPECT_FALSE(Book::open(folder / "none", Access::read_only));
    {
        SQLite::Database other((folder / "other.db").string(),
                               SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
        other.exec("CREATE TABLE songs (name TEXT)");
    }
    const std::string before = read_file(folder / "other.db");
    EXPECT_FALSE(Book::open(folder / "other.db", Access::read_write));
    EXPECT_EQ(read_file(folder / "other.db"), before);
}

TEST(Book, RefusesANewerBook) {
    TemporaryFolder folder;
    { fresh(folder / "b"); }
    {
        SQLite::Database db((folder / "b").string(), SQLite::OPEN_READWRITE);
        db.exec("PRAGMA user_version = 9");
    }
    const auto r = Book::open(folder / "b", Access::read_write);
    ASSERT_FALSE(r);
    EXPECT_NE(r.error().text().find("newer"), std::string::npos);
}

TEST(Book, LockedByAnotherProgram) {
    TemporaryFolder folder;
    Book book = fresh(folder / "b");
    const JobId id = *book.add(demo("heron"), "new");
    SQLite::Database other((folder / "b").string(), SQLite::OPEN_READWRITE);
    {
        SQLite::Transaction holds(other, SQLite::TransactionBehavior::EXCLUSIVE);
        job::Job job = demo("heron");
        job.notes = "later";
        book.be_patient(200);
        const auto r = book.commit(id, 0, job, "note");
        ASSERT_FALSE(r);
        EXPECT_EQ(r.error().cause, Cause::locked);
        EXPECT_NE(r.error().text().find("locked"), std::string::npos);
    }
    job::Job job = demo("heron");
    job.notes = "later";
    EXPECT_TRUE(book.commit(id, 0, job, "note")) << "and goes through once it is free";
}

TEST(Book, ReadOnlyIsSaid) {
    TemporaryFolder folder;
    {
        Book book = fresh(folder / "b");
        ASSERT_TRUE(book.add(demo("heron"), "new"));
    }
    auto reading = Book::open(folder / "b", Access::read_only);
    ASSERT_TRUE(reading);
    EXPECT_TRUE(reading->load("Heron", parts()));
    const auto r = reading->add(demo("dunlin"), "new");
    ASSERT_FALSE(r);
    EXPECT_NE(r.error().text().find("read-only"), std::string::npos);
}

TEST(Book, ADamagedBookIsFoundOut) {
    TemporaryFolder folder;
    {
        Book book = fresh(folder / "b");
        for (int i = 0; i < rounds(40); ++i) {
            job::Job j = demo("heron");
            j.name += std::to_string(i);
            ASSERT_TRUE(book.add(j, "new"));
        }
    }
    std::string bytes = read_file(folder / "b");
    for (std::size_t i = 4096 * 3; i < 4096 * 6 && i < bytes.size(); ++i)
        bytes[i] = static_cast<char>(i * 7);
    write_file(folder / "b", bytes);
    auto book = Book::open(folder / "b", Access::read_write);
    const bool found_out = !book || !book->verify();
    EXPECT_TRUE(found_out);
}

TEST(DemoShop, IsMadeOnceAndNeverOverAnother) {
    TemporaryFolder folder;
    const auto path = folder / "new/folder/shop.book";
    const auto demo_folder = source_dir() / "data/demo";
    ASSERT_TRUE(*make_demo_book(path, demo_folder, parts()));
    Book book = fresh(path);
    const auto entries = book.entries();
    EXPECT_EQ(entries->size(), 6u);
    const auto heron = book.load("Heron", parts());
    job::Job job = heron->job;
    job.notes = "mine";
    ASSERT_TRUE(book.commit(heron->id, heron->at, job, "note"));
    EXPECT_FALSE(*make_demo_book(path, demo_folder, parts()));
    EXPECT_EQ(fresh(path).load("Heron", parts())->job.notes, "mine");
    write_file(folder / "mine.txt", "not a book");
    EXPECT_FALSE(*make_demo_book(folder / "mine.txt", demo_folder, parts()));
    EXPECT_EQ(read_file(folder / "mine.txt"), "not a book");
    int files = 0;
    for ([[maybe_unused]] const auto& e : std::filesystem::directory_iterator(path.parent_path()))
        ++files;
    EXPECT_LE(files, 3) << "nothing left over beside the book and its journal";
    EXPECT_FALSE(make_demo_book(folder / "x", folder / "no-demo", parts()));
}

TEST(JobNamed, AFileOrAJobInABook) {
    TemporaryFolder folder;
    ASSERT_TRUE(*make_demo_book(folder / "a@b.book", source_dir() / "data/demo", parts()));
    EXPECT_EQ(job_named("Heron@" + (folder / "a@b.book").string(), parts())->job, demo("heron"));
    EXPECT_EQ(job_named((source_dir() / "data/demo/dunlin.json").string(), parts())->job,
              demo("dunlin"));
    EXPECT_FALSE(job_named("Nobody@" + (folder / "a@b.book").string(), parts()));
    EXPECT_FALSE(job_named("Heron@" + (folder / "none.book").string(), parts()));
}

} // namespace
} // namespace conductus::shop
