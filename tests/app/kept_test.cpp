// SPDX-License-Identifier: GPL-3.0-or-later
// Nothing is lost: files, locked books, restarts and kills.
#include <SQLiteCpp/SQLiteCpp.h>
#include <csignal>
#include <sys/wait.h>
#include <unistd.h>

#include "files/job_json.h"
#include "window.h"

namespace conductus::app {
namespace {

TEST_F(Window, ExportAndImportOfAJob) {
    open_card("Heron");
    const QString file = QString::fromStdString((folder_ / "out.json").string());
    window_->export_job(file);
    const auto out = files::read_job_file(folder_ / "out.json", parts());
    ASSERT_TRUE(out) << out.error().text();
    EXPECT_EQ(out->job, in_book("Heron"));
    EXPECT_EQ(out->attachments.size(), 3u) << "two states and a picture";
    const QString bare = QString::fromStdString((folder_ / "bare.json").string());
    window_->export_job(bare, false);
    EXPECT_EQ(files::read_job_file(folder_ / "bare.json", parts())->job,
              files::bare(in_book("Heron")));
    window_->show_shelf();
    window_->import_job(file);
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return window_->findChild<QWidget*>("card:Heron 2") != nullptr; }, 8000));
    job::Job expected = in_book("Heron");
    expected.name = "Heron 2";
    EXPECT_EQ(in_book("Heron 2"), expected);
    write_file(folder_ / "bad.json", "{\"format\": \"conductus-job\"");
    window_->import_job(QString::fromStdString((folder_ / "bad.json").string()));
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return find<QLabel>("noticeText")->text().contains("line"); }, 8000));
    EXPECT_TRUE(find<QLabel>("noticeText")->isVisible());
    auto book = shop::Book::open(book_, shop::Access::read_only);
    EXPECT_EQ(book->entries()->size(), 7u) << "a refused file changes nothing";
}

TEST_F(Window, ALockedBookIsSaidAndTheEditGoesInLater) {
    open_card("Heron");
    SQLite::Database other(book_.string(), SQLite::OPEN_READWRITE);
    auto holds =
        std::make_unique<SQLite::Transaction>(other, SQLite::TransactionBehavior::EXCLUSIVE);
    ASSERT_TRUE(session().edit("Quieter", [](job::Job& j) { j.use.volume = 0.1; }));
    auto* notice = find<QLabel>("noticeText");
    ASSERT_TRUE(QTest::qWaitFor([&] { return notice->isVisible(); }, 6000));
    EXPECT_TRUE(notice->text().contains("locked"));
    holds.reset();
    ASSERT_TRUE(QTest::qWaitFor([&] { return session().keeper().all_kept(); }, 8000));
    EXPECT_FALSE(notice->isVisible());
    EXPECT_NEAR(in_book("Heron").use.volume, 0.1, 1e-12);
}

TEST_F(Window, WhatIsHalfTypedIsTakenWhenTheJobIsClosed) {
    open_card("Heron");
    keys(Qt::Key_4, Qt::AltModifier);
    auto* clean = find<QLineEdit>("useClean");
    clean->setFocus();
    clean->selectAll();
    QTest::keyClicks(clean, "33");
    window_->show_shelf();
    EXPECT_EQ(in_book("Heron").use.clean, Minute(33));
}

TEST_F(Window, UndoGoesOnAfterARestart) {
    open_card("Heron");
    ASSERT_TRUE(session().edit("Quieter", [](job::Job& j) { j.use.volume = 0.1; }));
    settled();
    window_.reset();
    open();
    open_card("Heron");
    EXPECT_NEAR(session().job().use.volume, 0.1, 1e-12);
    EXPECT_EQ(session().undo_label(), "Quieter");
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job(), demo("heron"));
}

TEST_F(Window, ManyEditsInARowShowTheNewestPlan) {
    open_card("Heron");
    for (int i = 1; i <= 40; ++i)
        ASSERT_TRUE(session().edit("Louder", [i](job::Job& j) { j.use.volume = i / 100.0; }));
    settled();
    EXPECT_NEAR(session().plan()->job->use.volume, 0.4, 1e-12);
    EXPECT_NEAR(in_book("Heron").use.volume, 0.4, 1e-12);
}

TEST(Books, WhatIsNoBookIsSaidInTheWindow) {
    TemporaryFolder folder;
    write_file(folder / "notes.txt", "these are notes");
    MainWindow window(shared_parts(), folder / "notes.txt");
    window.open_book();
    window.show();
    EXPECT_TRUE(window.shelf()->message().contains("not a shop book"));
    EXPECT_TRUE(window.findChild<QAbstractButton*>("retryBook")->isVisible());
    EXPECT_EQ(read_file(folder / "notes.txt"), "these are notes");
}

/// Run as `app_tests --edit-until-killed BOOK`: edits Heron in a real window by keyboard, and tells
/// each edit that is in the book.
} // namespace

int edit_until_killed(const char* book) {
    MainWindow window(shared_parts(), book);
    window.open_book();
    window.show();
    auto list = shop::Book::open(book, shop::Access::read_only)->entries();
    for (const auto& e : *list)
        if (e.name == "Heron") window.open_job(e.id);
    QTest::keyClick(&window, Qt::Key_4, Qt::AltModifier);
    auto* field = window.findChild<QLineEdit*>("useClean");
    for (int n = 1;; ++n) {
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, QString::number(n % 1000));
        QTest::keyClick(field, Qt::Key_Return);
        if (!QTest::qWaitFor([&] { return window.job_view()->session().keeper().all_kept(); }))
            return 2;
        if (::write(STDOUT_FILENO, &n, sizeof n) != sizeof n) return 1;
    }
}

namespace {

TEST(Killed, TheWorkIsThereAtTheNextStart) {
    // CONDUCTUS_KILL_ROUNDS for more of them.
    const char* wanted = std::getenv("CONDUCTUS_KILL_ROUNDS");
    std::mt19937 random(61);
    for (int round = wanted ? std::atoi(wanted) : rounds(5); round > 0; --round) {
        const int patience_ms = std::uniform_int_distribution<>(0, 700)(random);
        TemporaryFolder folder;
        const auto book = folder / "shop.book";
        ASSERT_TRUE(*shop::make_demo_book(book, source_dir() / "data/demo", parts()));
        int ends[2];
        ASSERT_EQ(::pipe(ends), 0);
        const std::string self = (bin_dir() / "app_tests").string(), path = book.string();
        const pid_t child = ::fork();
        if (child == 0) {
            ::dup2(ends[1], STDOUT_FILENO);
            ::execl(self.c_str(), self.c_str(), "--edit-until-killed", path.c_str(), nullptr);
            ::_exit(127);
        }
        ::close(ends[1]);
        int told = 0, last = 0;
        // From the first edit on, so that a slow machine tests the same thing.
        ASSERT_EQ(::read(ends[0], &told, sizeof told), static_cast<ssize_t>(sizeof told));
        last = told;
        ::usleep(static_cast<useconds_t>(patience_ms) * 1000);
        ::kill(child, SIGKILL);
        ::waitpid(child, nullptr, 0);
        while (::read(ends[0], &told, sizeof told) == sizeof told)
            last = told;
        ::close(ends[0]);

        MainWindow window(shared_parts(), book);
        window.open_book();
        window.show();
        auto opened = shop::Book::open(book, shop::Access::read_write);
        EXPECT_TRUE(opened->verify());
        const auto list = opened->entries();
        for (const auto& e : *list)
            if (e.name == "Heron") window.open_job(e.id);
        ASSERT_TRUE(window.job_view());
        const int there = static_cast<int>(window.job_view()->session().job().use.clean.value());
        EXPECT_GE(there, last % 1000);
        EXPECT_LE(there, last % 1000 + 1) << "at most the edit it was killed in is ahead";
        EXPECT_EQ(window.findChild<QLineEdit*>("useClean")->text(), QString::number(there));
        EXPECT_TRUE(window.job_view()->session().can_undo());
    }
}

} // namespace
} // namespace conductus::app
