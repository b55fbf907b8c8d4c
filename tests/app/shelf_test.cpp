// SPDX-License-Identifier: GPL-3.0-or-later
// The shelf: cards, search, new jobs, backups, and other windows on the same book.
#include <QDir>
#include <QThread>

#include "files/json_text.h"
#include "shop/backup.h"
#include "shop/books.h"
#include "window.h"

namespace conductus::app {
namespace {

class ShelfTest : public Window {
protected:
    std::vector<QString> cards() {
        std::vector<QString> names;
        for (auto* card : window_->findChildren<JobCard*>())
            if (card->isVisible()) names.push_back(card->text());
        std::sort(names.begin(), names.end());
        return names;
    }
    QString notice() {
        auto* n = window_->findChild<QLabel*>("noticeText");
        return n->isVisible() ? n->text() : QString();
    }
    void judged() {
        ASSERT_TRUE(QTest::qWaitFor(
            [&] {
                for (auto* card : window_->findChildren<JobCard*>())
                    if (!card->is_judged()) return false;
                return true;
            },
            10000));
    }
};

using Cards = std::vector<QString>;

TEST_F(ShelfTest, CardsSayWhatWaits) {
    judged();
    EXPECT_EQ(cards(), (Cards{"Avocet", "Bittern", "Curlew", "Dunlin", "Godwit", "Heron"}));
    EXPECT_TRUE(find<JobCard>("card:Dunlin")->foot().contains("agreement broken: clean runtime"));
    EXPECT_TRUE(find<JobCard>("card:Heron")->accessibleDescription().contains("1 stop"));
    EXPECT_TRUE(find<JobCard>("card:Heron")->foot().contains("2 wishes open"));
    EXPECT_TRUE(find<JobCard>("card:Avocet")->accessibleDescription().contains("came back"));
    const std::pair<const char*, Cards> shelves[] = {
        {"shelfBroken", {"Dunlin"}},
        {"shelfHanded", {"Godwit"}},
        {"shelfBack", {"Avocet"}},
        {"shelfWork", {"Avocet", "Bittern", "Curlew", "Dunlin", "Heron"}}};
    for (const auto& [shelf, expected] : shelves) {
        QTest::mouseClick(find(shelf), Qt::LeftButton);
        EXPECT_EQ(cards(), expected) << shelf;
        EXPECT_TRUE(
            find(shelf)->accessibleDescription().startsWith(QString::number(expected.size())));
    }
    QTest::mouseClick(find("shelfAll"), Qt::LeftButton);
    EXPECT_EQ(cards().size(), 6u);
}

TEST_F(ShelfTest, SearchAsYouType) {
    keys(Qt::Key_F, Qt::ControlModifier);
    EXPECT_EQ(QApplication::focusWidget()->objectName(), "search");
    type("burr");
    EXPECT_EQ(cards(), (Cards{"Bittern", "Dunlin", "Heron"}));
    type(" crate");
    EXPECT_EQ(cards(), (Cards{"Bittern", "Heron"}));
    type(" zeppelin");
    EXPECT_TRUE(cards().empty());
    EXPECT_TRUE(window_->shelf()->message().contains("zeppelin"));
    find<QLineEdit>("search")->clear();
    EXPECT_EQ(cards().size(), 6u);
    EXPECT_EQ(window_->shelf()->message(), "");
}

TEST_F(ShelfTest, ArrowsWalkTheCards) {
    auto focus = [] { return QApplication::focusWidget()->objectName(); };
    EXPECT_EQ(focus(), "card:Heron") << "what is promised first";
    keys(Qt::Key_Right);
    EXPECT_EQ(focus(), "card:Bittern");
    keys(Qt::Key_Down);
    EXPECT_EQ(focus(), "card:Avocet");
    keys(Qt::Key_Left);
    EXPECT_EQ(focus(), "card:Dunlin");
    keys(Qt::Key_Up);
    keys(Qt::Key_Up);
    EXPECT_EQ(focus(), "card:Heron") << "and no further";
}

TEST_F(ShelfTest, ANewJobFromACopy) {
    find("card:Avocet")->setFocus();
    window_->shelf()->begin_new(true);
    EXPECT_EQ(find<QComboBox>("newLike")->currentText(), "as a copy of Avocet");
    keys(Qt::Key_Return);
    EXPECT_TRUE(find<QLabel>("newRefusal")->text().contains("no name"));
    type("Heron");
    keys(Qt::Key_Return);
    EXPECT_TRUE(find<QLabel>("newRefusal")->text().contains("already"));
    EXPECT_EQ(find<QLineEdit>("newName")->text(), "Heron") << "what was typed stays";
    type(" twin");
    keys(Qt::Key_Return);
    settled();
    EXPECT_EQ(session().job().name, "Heron twin");
    EXPECT_EQ(session().job().hilt, demo("avocet").hilt);
    EXPECT_EQ(session().undo_label(), "");
    window_->show_shelf();
    EXPECT_EQ(cards().size(), 7u);
    window_->shelf()->begin_new(false);
    keys(Qt::Key_Escape);
    EXPECT_FALSE(find("newName")->isVisible());
}

TEST_F(ShelfTest, FollowsWhatAnotherWindowDoes) {
    MainWindow other(shared_parts(), book_);
    other.open_book();
    other.show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(&other));
    auto book = fresh(book_);
    const auto heron = book.load("Heron", parts());
    open_card("Heron");
    // The second window opens the same job.
    other.open_job(heron->id);
    Session& theirs = other.job_view()->session();
    ASSERT_TRUE(session().edit("Quieter", [](job::Job& j) { j.use.volume = 0.1; }));
    ASSERT_TRUE(QTest::qWaitFor([&] { return theirs.job().use.volume == 0.1; }, 8000))
        << "it sees what the first wrote";
    EXPECT_EQ(theirs.undo_label(), "Quieter");
    // Both edit at once: the later is told, and may keep both.
    ASSERT_TRUE(theirs.keeper().finish(2000));
    settled();
    auto now = book.load("Heron", parts());
    now->job.notes = "mine";
    ASSERT_TRUE(book.commit(heron->id, now->at, now->job, "Mine"));
    // Also if its keeper has looked since, and only the window has not heard of it.
    QThread::msleep(1000);
    ASSERT_TRUE(theirs.edit("Theirs", [](job::Job& j) { j.notes = "theirs"; }));
    auto keep_mine = [&] { return other.findChild<QAbstractButton*>("keepMine"); };
    ASSERT_TRUE(QTest::qWaitFor([&] { return keep_mine() != nullptr; }, 8000));
    EXPECT_EQ(in_book("Heron").notes, "mine");
    other.show_shelf();
    EXPECT_TRUE(other.job_view()) << "what is not kept is not left";
    QTest::mouseClick(keep_mine(), Qt::LeftButton);
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return other.job_view() && other.job_view()->session().job().name == "Heron 2"; },
        8000));
    EXPECT_EQ(in_book("Heron 2").notes, "theirs");
    EXPECT_EQ(in_book("Heron").notes, "mine");
    EXPECT_TRUE(book.verify(parts()));
    window_->show_shelf();
    EXPECT_EQ(cards().size(), 7u);
    ASSERT_TRUE(book.add(files::bare(job::blank("Plover", job::Kind::repair)), "new"));
    ASSERT_TRUE(QTest::qWaitFor([&] { return cards().size() == 8; }, 8000))
        << "the shelf follows too";
}

TEST_F(ShelfTest, BacksUpByItselfAndGoesBack) {
    ASSERT_TRUE(QTest::qWaitFor([&] { return shop::backups_of(book_).size() == 1; }, 8000));
    EXPECT_EQ(shop::backups_of(book_)[0].about,
              QDate::currentDate().toString(Qt::ISODate).toStdString());
    window_.reset();
    std::string bytes = read_file(book_);
    for (std::size_t i = 4096; i < bytes.size(); i += 31)
        bytes[i] = static_cast<char>(~bytes[i]);
    write_file(book_, bytes);
    window_ = std::make_unique<MainWindow>(shared_parts(), book_);
    window_->open_book();
    window_->show();
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return window_->shelf()->message().contains("damaged"); }, 8000));
    auto* back = find<QAbstractButton>("restoreBook");
    ASSERT_TRUE(back->isVisible());
    EXPECT_TRUE(back->text().contains(QDate::currentDate().toString(Qt::ISODate)));
    QTest::mouseClick(back, Qt::LeftButton);
    ASSERT_TRUE(QTest::qWaitFor([&] { return cards().size() == 6; }, 8000));
    EXPECT_TRUE(notice().contains("backup"));
    EXPECT_EQ(in_book("Heron").notes, demo("heron").notes);
    EXPECT_EQ(read_file(book_.string() + ".damaged-1"), bytes);
}

TEST_F(ShelfTest, AnOldBookOpensAndIsCopiedFirst) {
    window_.reset();
    job::Job old = files::bare(demo("heron"));
    old.brief = {};
    old.inspection.clear();
    old.log.clear();
    make_old_book(folder_ / "old.book", "Heron", {files::job_text(old)});
    book_ = folder_ / "old.book";
    open();
    EXPECT_EQ(cards(), Cards{"Heron"});
    EXPECT_EQ(shop::backups_of(book_).front().about, "before format 3");
    open_card("Heron");
    EXPECT_EQ(session().job(), old);
}

} // namespace
} // namespace conductus::app
