// SPDX-License-Identifier: GPL-3.0-or-later
// What happens to the book under an open window: moved, deleted, cut off, replaced, gone back; and
// to what is typed when the program is asked to end.
#include <csignal>
#include <fstream>
#include <sys/wait.h>
#include <unistd.h>

#include "app/shell/at_the_end.h"
#include "files/json_text.h"
#include "shop/backup.h"
#include "shop/books.h"
#include "shop/unkept.h"
#include "window.h"

namespace conductus::app {
namespace {

namespace fs = std::filesystem;

class PlaceTest : public Window {
protected:
    QString notice() {
        auto* n = window_->findChild<QLabel*>("noticeText");
        return n->isVisible() ? n->text() : QString();
    }
    bool offers(const char* name) {
        auto* b = window_->findChild<QAbstractButton*>(name);
        return b && b->isVisible();
    }
    void press(const char* name) {
        ASSERT_TRUE(QTest::qWaitFor([&] { return offers(name); }, 8000)) << name;
        QTest::mouseClick(window_->findChild<QAbstractButton*>(name), Qt::LeftButton);
    }
    void quieter(double volume) {
        ASSERT_TRUE(session().edit("Quieter", [volume](job::Job& j) { j.use.volume = volume; }));
    }
    bool waits_for_words(const QString& words) {
        return QTest::qWaitFor([&] { return notice().contains(words); }, 8000);
    }
    fs::path away() { return folder_ / "away.book"; }
    /// Waits until whoever keeps the job has looked at the book so often again.
    void after_rounds(int n) {
        const int now = session().keeper().rounds();
        ASSERT_TRUE(QTest::qWaitFor([&] { return session().keeper().rounds() >= now + n; }, 20000));
    }
};

TEST_F(PlaceTest, AMovedBookIsSaidTheWorkWaitsAndGoesInWhereItIsBack) {
    open_card("Heron");
    fs::rename(book_, away());
    ASSERT_TRUE(waits_for_words("deleted or moved")) << notice().toStdString();
    quieter(0.1);
    quieter(0.2);
    ASSERT_TRUE(QTest::qWaitFor([&] { return offers("keepElsewhere"); }, 20000));
    after_rounds(3);
    EXPECT_FALSE(session().keeper().all_kept());
    EXPECT_FALSE(fs::exists(book_)) << "no new book is begun in its place";
    EXPECT_TRUE(offers("keepElsewhere"));
    // It lies in a file of its own meanwhile, so that a kill loses nothing.
    int files = 0;
    for (const auto& e : fs::directory_iterator(book_.string() + ".unkept")) {
        const auto aside = files::read_job_file(e.path(), parts());
        ASSERT_TRUE(aside) << aside.error().text();
        EXPECT_NEAR(aside->job.use.volume, 0.2, 1e-12);
        ++files;
    }
    EXPECT_EQ(files, 1);
    fs::rename(away(), book_);
    ASSERT_TRUE(QTest::qWaitFor([&] { return session().keeper().all_kept(); }, 8000));
    EXPECT_NEAR(in_book("Heron").use.volume, 0.2, 1e-12);
    EXPECT_EQ(notice(), "");
    EXPECT_FALSE(fs::exists(book_.string() + ".unkept"));
}

TEST_F(PlaceTest, AnotherBookInItsPlaceIsLeftAlone) {
    open_card("Heron");
    {
        // As a synchronising program does: written beside, and renamed over.
        auto other = fresh(away());
        job::Job job = files::bare(demo("heron"));
        job.notes = "another shop's";
        ASSERT_TRUE(other.add(job, "new"));
    }
    const std::string before = read_file(away());
    fs::rename(away(), book_);
    quieter(0.1);
    ASSERT_TRUE(waits_for_words("another")) << notice().toStdString();
    after_rounds(2);
    EXPECT_EQ(read_file(book_), before) << "not a byte of it is changed";
    press("goOnHere");
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return window_->job_view() && session().job().name == "Heron 2"; }, 8000));
    EXPECT_NEAR(in_book("Heron 2").use.volume, 0.1, 1e-12);
    EXPECT_EQ(in_book("Heron").notes, "another shop's");
}

TEST_F(PlaceTest, ANewerCopyOfTheSameBookIsGoneOnIn) {
    open_card("Heron");
    fs::copy_file(book_, away());
    {
        auto elsewhere = fresh(away());
        const auto dunlin = elsewhere.load("Dunlin", parts());
        job::Job job = dunlin->job;
        job.notes = "from the other machine";
        ASSERT_TRUE(elsewhere.commit(dunlin->id, dunlin->at, job, "note"));
    }
    fs::rename(away(), book_);
    quieter(0.1);
    ASSERT_TRUE(QTest::qWaitFor([&] { return session().keeper().all_kept(); }, 8000));
    EXPECT_NEAR(in_book("Heron").use.volume, 0.1, 1e-12);
    EXPECT_EQ(in_book("Dunlin").notes, "from the other machine");
    auto book = shop::Book::open(book_, shop::Access::read_only);
    EXPECT_TRUE(book->verify());
}

TEST_F(PlaceTest, ACutOffOrOverwrittenBookIsNotWrittenInto) {
    for (const bool overwritten : {false, true}) {
        open_card("Heron");
        const std::string whole = read_file(book_);
        // In place, as a copying program does: it stays the same file.
        std::ofstream out(book_, std::ios::binary | std::ios::trunc);
        if (overwritten) {
            { fresh(away()); }
            const std::string other = read_file(away());
            out << other;
            fs::remove(away());
        }
        out.close();
        const std::string before = read_file(book_);
        quieter(overwritten ? 0.3 : 0.1);
        ASSERT_TRUE(QTest::qWaitFor([&] { return offers("keepElsewhere"); }, 8000))
            << notice().toStdString();
        EXPECT_EQ(read_file(book_), before);
        const fs::path kept = folder_ / (overwritten ? "b.json" : "a.json");
        window_->export_job(QString::fromStdString(kept.string()), false);
        EXPECT_NEAR(files::read_job(kept, parts())->use.volume, overwritten ? 0.3 : 0.1, 1e-12)
            << "the work can be kept elsewhere";
        std::ofstream(book_, std::ios::binary | std::ios::trunc) << whole;
        ASSERT_TRUE(QTest::qWaitFor([&] { return session().keeper().all_kept(); }, 8000));
        window_->show_shelf();
    }
}

TEST_F(PlaceTest, AJobThatIsAnotherAfterGoingBackIsNotWrittenOver) {
    // A book in which the same number stands for another job.
    {
        auto other = fresh(away());
        for (const char* name : {"godwit", "heron", "dunlin", "curlew", "bittern", "avocet"}) {
            auto file = files::read_job_file(
                source_dir() / "data/demo" / (std::string(name) + ".json"), parts());
            ASSERT_TRUE(other.add(file->job, "new", file->attachments));
        }
    }
    open_card("Avocet");
    ASSERT_TRUE(shop::restore(book_, away()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return offers("keepMine") || offers("goOnHere"); }, 8000))
        << notice().toStdString();
    EXPECT_EQ(session().job().name, "Avocet") << "the window does not go on with another job";
    quieter(0.1);
    after_rounds(2);
    EXPECT_EQ(in_book("Godwit"), demo("godwit"));
    EXPECT_EQ(in_book("Avocet"), demo("avocet"));
    auto book = shop::Book::open(book_, shop::Access::read_only);
    EXPECT_TRUE(book->verify(parts()));
}

TEST_F(PlaceTest, AWindowAsleepWhileAnotherUndoesAndEditsOverwritesNothing) {
    open_card("Heron");
    quieter(0.1);
    settled();
    auto other = fresh(book_);
    const auto heron = other.load("Heron", parts());
    const auto undone = other.move(heron->id, heron->at, heron->at.seq - 1);
    ASSERT_TRUE(undone);
    job::Job theirs = other.load("Heron", parts())->job;
    theirs.notes = "theirs";
    const auto at = other.commit(heron->id, *undone, theirs, "note");
    ASSERT_TRUE(at);
    EXPECT_EQ(at->seq, heron->at.seq) << "the same place in the history";
    // The window has not looked since.
    ASSERT_TRUE(session().edit("Mine", [](job::Job& j) { j.notes = "mine"; }));
    ASSERT_TRUE(QTest::qWaitFor([&] { return session().is_overtaken(); }, 8000));
    EXPECT_EQ(in_book("Heron").notes, "theirs");
}

TEST_F(PlaceTest, ABlankBookBesideItsCopiesOffersThem) {
    ASSERT_TRUE(QTest::qWaitFor([&] { return shop::backups_of(book_).size() == 1; }, 8000));
    const std::string whole = read_file(book_);
    // The newest copy is damaged itself: the newest sound one is offered.
    {
        auto book = fresh(book_);
        const auto heron = book.load("Heron", parts());
        job::Job job = heron->job;
        job.notes = "newer";
        ASSERT_TRUE(book.commit(heron->id, heron->at, job, "note"));
    }
    ASSERT_TRUE(*shop::back_up_daily(book_, "2099-01-01"));
    const fs::path newest = shop::backups_of(book_).back().path;
    std::string bytes = read_file(newest);
    std::fill(bytes.begin() + 8192, bytes.begin() + 20000, 'x');
    write_file(newest, bytes);
    for (const std::string& content : {std::string(), std::string(whole.size(), '\0')}) {
        window_.reset();
        write_file(book_, content);
        open();
        EXPECT_TRUE(window_->shelf()->message().contains("damaged"))
            << window_->shelf()->message().toStdString();
        auto* back = find<QAbstractButton>("restoreBook");
        ASSERT_TRUE(back->isVisible());
        EXPECT_FALSE(back->text().contains("2099"));
        QTest::mouseClick(back, Qt::LeftButton);
        ASSERT_TRUE(QTest::qWaitFor(
            [&] { return window_->findChild<QWidget*>("card:Heron") != nullptr; }, 8000));
        EXPECT_EQ(in_book("Heron").notes, demo("heron").notes);
    }
    // A book that is gone is not begun anew over its copies.
    window_.reset();
    fs::remove(book_);
    open();
    EXPECT_FALSE(fs::exists(book_));
    EXPECT_TRUE(find<QAbstractButton>("restoreBook")->isVisible());
}

TEST_F(PlaceTest, WhatIsWholeOfADamagedBookIsSaidAndSaved) {
    window_.reset();
    {
        SQLite::Database db(book_.string(), SQLite::OPEN_READWRITE);
        db.exec("UPDATE state SET label = 'x' WHERE job = 2");
    }
    fs::remove_all(book_.string() + ".backups");
    window_ = std::make_unique<MainWindow>(shared_parts(), book_);
    window_->open_book();
    window_->show();
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return window_->shelf()->message().contains("damaged"); }, 8000));
    EXPECT_TRUE(window_->shelf()->message().contains("Bittern: 1 state can be saved, 0 lost"))
        << window_->shelf()->message().toStdString();
    EXPECT_TRUE(window_->shelf()->message().contains("Whole in this file: Avocet"));
    press("rescueBook");
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return window_->findChild<QWidget*>("card:Heron") != nullptr; }, 8000));
    EXPECT_TRUE(fs::exists(book_.string() + ".damaged-1"));
    auto book = shop::Book::open(book_, shop::Access::read_only);
    EXPECT_TRUE(book->verify(parts()));
    EXPECT_EQ(book->entries()->size(), 6u);
}

TEST_F(PlaceTest, WhatAKilledProgramCouldNotKeepIsOffered) {
    window_.reset();
    const pid_t child = ::fork();
    if (child == 0) {
        job::Job job = demo("heron");
        job.notes = "not kept in time";
        (void)shop::keep_aside(book_, "0123456789abcdef0123", {files::bare(job), {}}, parts());
        ::_exit(0);
    }
    ::waitpid(child, nullptr, 0);
    ASSERT_EQ(shop::left_aside(book_).size(), 1u);
    // After a restart its number may be that of another process, as of this one.
    const fs::path left = shop::left_aside(book_).front();
    const std::string name = left.filename().string();
    const auto mark = name.rfind('.', name.size() - 6) + 1, middle = name.find('_', mark);
    fs::rename(left, left.parent_path() /
                         (name.substr(0, mark) + std::to_string(::getpid()) + name.substr(middle)));
    ASSERT_EQ(shop::left_aside(book_).size(), 1u);
    open();
    press("takeAside");
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return window_->findChild<QWidget*>("card:Heron 2") != nullptr; }, 8000));
    EXPECT_EQ(in_book("Heron 2").notes, "not kept in time");
    EXPECT_TRUE(shop::left_aside(book_).empty());
}

TEST_F(PlaceTest, ALongImportCanBeStopped) {
    // Many jobs, so that there is something to stop.
    constexpr int count = 300;
    const fs::path many = folder_ / "many.book";
    {
        std::vector<shop::Whole> jobs;
        for (int n = 0; n < count; ++n) {
            job::Job job = files::bare(demo("dunlin"));
            job.name = "Dunlin " + std::to_string(n + 10);
            shop::Whole whole;
            whole.states.push_back({0, "new", {}, files::job_text(job), {}});
            jobs.push_back(std::move(whole));
        }
        ASSERT_TRUE(fresh(many).add_whole(std::move(jobs)));
    }
    window_->import_job(QString::fromStdString(many.string()));
    EXPECT_TRUE(window_->importing());
    press("stopImport");
    ASSERT_TRUE(QTest::qWaitFor([&] { return !window_->importing(); }, 120000));
    const auto size = shop::Book::open(book_, shop::Access::read_only)->entries()->size();
    EXPECT_TRUE(size == 6 || size == 6 + count) << "all or nothing: " << size;
    if (size == 6) {
        EXPECT_TRUE(notice().contains("stopped")) << notice().toStdString();
    }
}

} // namespace

/// Run as `app_tests --type-and-wait BOOK`: types into a field of Heron, does not enter it, and
/// tells that it waits to be asked to end.
int type_and_wait(const char* book) {
    MainWindow window(shared_parts(), book);
    keep_all_at_the_end(*qApp, window);
    window.open_book();
    window.show();
    auto list = shop::Book::open(book, shop::Access::read_only)->entries();
    for (const auto& e : *list)
        if (e.name == "Heron") window.open_job(e.id);
    window.activateWindow(); // shortcuts go to the active window alone
    if (!QTest::qWaitForWindowActive(&window)) return 4;
    QTest::keyClick(&window, Qt::Key_4, Qt::AltModifier);
    auto* field = window.findChild<QLineEdit*>("useClean");
    if (!QTest::qWaitFor([&] { return field->isVisible(); })) return 5;
    field->setFocus();
    field->selectAll();
    QTest::keyClicks(field, "37");
    if (window.focusWidget() != field) return 6;
    QTimer::singleShot(0, [] {
        const char told = 'x';
        if (::write(STDOUT_FILENO, &told, 1) != 1) std::exit(1);
    });
    return QApplication::exec();
}

namespace {

TEST(AskedToEnd, WhatIsTypedAndNotEnteredIsKept) {
    for (const int signal_number : {SIGTERM, SIGHUP, SIGINT}) {
        TemporaryFolder folder;
        const auto book = folder / "shop.book";
        ASSERT_TRUE(*shop::make_demo_book(book, source_dir() / "data/demo", parts()));
        int ends[2];
        ASSERT_EQ(::pipe(ends), 0);
        const std::string self = (bin_dir() / "app_tests").string(), path = book.string();
        const pid_t child = ::fork();
        if (child == 0) {
            ::dup2(ends[1], STDOUT_FILENO);
            ::execl(self.c_str(), self.c_str(), "--type-and-wait", path.c_str(), nullptr);
            ::_exit(127);
        }
        ::close(ends[1]);
        char told = 0;
        ASSERT_EQ(::read(ends[0], &told, 1), 1);
        ::kill(child, signal_number);
        int status = 0;
        ::waitpid(child, &status, 0);
        ::close(ends[0]);
        EXPECT_TRUE(WIFEXITED(status) && WEXITSTATUS(status) == 0);
        EXPECT_EQ(fresh(book).load("Heron", parts())->job.use.clean, Minute(37));
    }
}

} // namespace
} // namespace conductus::app
