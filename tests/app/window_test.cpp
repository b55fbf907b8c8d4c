// SPDX-License-Identifier: GPL-3.0-or-later
// The real window, driven by mouse and keyboard, reading what a person would read.
#include <QAbstractButton>
#include <QApplication>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QSlider>
#include <QTableWidget>
#include <QTest>
#include <SQLiteCpp/SQLiteCpp.h>
#include <csignal>
#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include "app/shelf/shelf_page.h"
#include "app/shell/gauge_bar.h"
#include "app/shell/job_view.h"
#include "app/shell/main_window.h"
#include "app/shell/section_pane.h"
#include "app/stations/power/ribbon_list.h"
#include "core/job/lookup.h"
#include "files/job_json.h"
#include "support/fixtures.h"

namespace conductus::app {
namespace {

using namespace test;

/// A window on a fresh demo shop.
class Window : public testing::Test {
protected:
    void SetUp() override {
        book_ = folder_ / "shop.book";
        ASSERT_TRUE(*shop::make_demo_book(book_, source_dir() / "data/demo", parts()));
        open();
    }
    void open() {
        window_ = std::make_unique<MainWindow>(shared_parts(), book_);
        window_->open_book();
        window_->show();
        ASSERT_TRUE(QTest::qWaitForWindowExposed(window_.get()));
    }
    template <class T = QWidget>
    T* find(const QString& name) {
        T* found = window_->findChild<T*>(name);
        EXPECT_TRUE(found) << name.toStdString();
        return found;
    }
    void open_card(const QString& name) {
        auto* card = find<QAbstractButton>("card:" + name);
        ASSERT_TRUE(card);
        card->setFocus();
        QTest::keyClick(card, Qt::Key_Space);
        settled();
    }
    Session& session() { return window_->job_view()->session(); }
    /// Waits until the plan is that of the job, and everything is in the book.
    void settled() {
        ASSERT_TRUE(window_->job_view());
        ASSERT_TRUE(QTest::qWaitFor(
            [&] { return session().plan() && session().plan()->job == session().job_ptr(); },
            10000));
        ASSERT_TRUE(QTest::qWaitFor([&] { return session().keeper().all_kept(); }, 10000));
        QTest::qWait(1); // panes are painted a turn after the gauges
    }
    QString gauge(int n) { return find<Gauge>(QString("gauge%1").arg(n))->value_text(); }
    void keys(Qt::Key key, Qt::KeyboardModifiers modifiers = {}) {
        QTest::keyClick(QApplication::focusWidget() ? QApplication::focusWidget() : window_.get(),
                        key, modifiers);
    }
    job::Job in_book(const std::string& name) {
        auto book = shop::Book::open(book_, shop::Access::read_only);
        return book->load(name, parts())->job;
    }

    TemporaryFolder folder_;
    std::filesystem::path book_;
    std::unique_ptr<MainWindow> window_;
};

TEST_F(Window, ShelfShowsTheDemoJobs) {
    for (const char* name : {"card:Heron", "card:Dunlin"})
        EXPECT_TRUE(find<JobCard>(name)->isVisible());
    EXPECT_EQ(window_->shelf()->message(), "");
    EXPECT_EQ(find<QLabel>("jobName")->text(), "Shelf");
}

TEST_F(Window, ChangesTheCellByKeyboardAndUndoes) {
    open_card("Heron");
    EXPECT_EQ(find<QLabel>("jobName")->text(), "Heron");
    keys(Qt::Key_4, Qt::AltModifier);
    auto* ribbons = find<RibbonList>("ribbons");
    EXPECT_TRUE(ribbons->isVisible());
    ribbons->setFocus();
    const QString clean = gauge(4), fitted = ribbons->row_words(0);
    EXPECT_TRUE(fitted.startsWith("18650 power cell"));
    // Down to the 18350, Enter.
    for (int i = 0; i < 9 && !ribbons->row_words(ribbons->row()).startsWith("18350"); ++i)
        keys(Qt::Key_Down);
    ASSERT_TRUE(ribbons->row_words(ribbons->row()).startsWith("18350"));
    keys(Qt::Key_Return);
    settled();
    EXPECT_EQ(job::find_ref(session().job().parts, "B1")->type, "cell.18350");
    EXPECT_TRUE(ribbons->row_words(0).startsWith("18350"));
    EXPECT_NE(gauge(4), clean);
    EXPECT_TRUE(find<Gauge>("gauge4")->change_text().startsWith("worse, was"));
    const job::Job kept = in_book("Heron");
    EXPECT_EQ(job::find_ref(kept.parts, "B1")->type, "cell.18350");

    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(gauge(4), clean);
    EXPECT_EQ(ribbons->row_words(0), fitted);
    EXPECT_EQ(in_book("Heron"), demo("heron"));
    keys(Qt::Key_Y, Qt::ControlModifier);
    settled();
    EXPECT_EQ(job::find_ref(session().job().parts, "B1")->type, "cell.18350");
}

TEST_F(Window, AFixIsAnEditThatTakesItsFindingAway) {
    open_card("Heron");
    auto* fix = find<QAbstractButton>("fix:pins.over-current");
    ASSERT_TRUE(fix);
    EXPECT_TRUE(fix->text().contains("5 spring pins"));
    QTest::mouseClick(fix, Qt::LeftButton);
    settled();
    EXPECT_EQ(job::find_ref(session().job().parts, "P1")->type, "connector.pins-5");
    EXPECT_TRUE(QTest::qWaitFor(
        [&] { return !window_->findChild<QWidget*>("finding:pins.over-current"); }));
    EXPECT_TRUE(find<QAbstractButton>("undo")->isEnabled());
    EXPECT_TRUE(find<QAbstractButton>("undo")->toolTip().contains("spring pins"));
    QTest::mouseClick(find("undo"), Qt::LeftButton);
    settled();
    EXPECT_TRUE(window_->findChild<QWidget*>("finding:pins.over-current"));
}

TEST_F(Window, StationsByKeyAndWhatComesLaterSaysSo) {
    open_card("Dunlin");
    for (int n = 1; n <= 8; ++n) {
        keys(static_cast<Qt::Key>(Qt::Key_0 + n), Qt::AltModifier);
        auto* button = find<QAbstractButton>(QString("station%1").arg(n));
        EXPECT_TRUE(button->isChecked()) << n;
    }
    keys(Qt::Key_5, Qt::AltModifier);
    bool said = false;
    for (auto* label : window_->findChildren<QLabel*>())
        said |= label->isVisible() && label->text().contains("not built yet");
    EXPECT_TRUE(said);
    keys(Qt::Key_0, Qt::AltModifier);
    EXPECT_EQ(find<QLabel>("jobName")->text(), "Shelf");
    EXPECT_EQ(window_->job_view(), nullptr);
}

TEST_F(Window, F6GoesRoundThePanes) {
    open_card("Heron");
    keys(Qt::Key_2, Qt::AltModifier);
    std::vector<QWidget*> seen;
    for (int i = 0; i < 5; ++i) {
        keys(Qt::Key_F6);
        ASSERT_TRUE(QApplication::focusWidget());
        seen.push_back(QApplication::focusWidget());
    }
    keys(Qt::Key_F6);
    EXPECT_EQ(QApplication::focusWidget(), seen[0]) << "the sixth is the first again";
    for (std::size_t i = 0; i < seen.size(); ++i)
        for (std::size_t k = i + 1; k < seen.size(); ++k)
            EXPECT_NE(seen[i], seen[k]);
    keys(Qt::Key_F6, Qt::ShiftModifier);
    EXPECT_EQ(QApplication::focusWidget(), seen[4]);
}

TEST_F(Window, SurveyIsTypedAndNonsenseIsKeptBesideItsReason) {
    open_card("Heron");
    keys(Qt::Key_2, Qt::AltModifier);
    auto* survey = find<QTableWidget>("survey");
    auto type = [&](int row, int column, const QString& text) {
        survey->setFocus();
        survey->setCurrentCell(row, column);
        QTest::keyClick(survey, Qt::Key_F2);
        auto* editor = survey->findChild<QLineEdit*>();
        ASSERT_TRUE(editor);
        editor->selectAll();
        QTest::keyClicks(editor, text);
        QTest::keyClick(editor, Qt::Key_Return);
        QCoreApplication::processEvents(); // the table takes the text a turn later
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    };
    type(2, 3, "1 in");
    settled();
    EXPECT_NEAR(session().job().hilt.sections[2].bore.value(), 25.4, 1e-9);
    type(1, 2, "145,5");
    settled();
    EXPECT_EQ(session().job().hilt.sections[1].to, Millimetre(145.5));
    EXPECT_EQ(session().job().hilt.sections[2].from, Millimetre(145.5));

    auto* refusal = find<QLabel>("surveyRefusal");
    EXPECT_FALSE(refusal->isVisible());
    const job::Job before = session().job();
    type(2, 3, "wide");
    EXPECT_TRUE(refusal->isVisible());
    EXPECT_TRUE(refusal->text().contains("not a number"));
    EXPECT_EQ(survey->item(2, 3)->text(), "wide") << "what was typed is kept";
    EXPECT_EQ(session().job(), before);
    type(2, 3, "36");
    EXPECT_TRUE(refusal->text().contains("no wall"));
    type(2, 3, "25.2");
    settled();
    EXPECT_FALSE(refusal->isVisible());
    EXPECT_NEAR(session().job().hilt.sections[2].bore.value(), 25.2, 1e-9);
}

TEST_F(Window, SectionsAreAddedAndRemoved) {
    open_card("Dunlin");
    keys(Qt::Key_2, Qt::AltModifier);
    auto* survey = find<QTableWidget>("survey");
    const int rows = survey->rowCount();
    QTest::mouseClick(find("addSection"), Qt::LeftButton);
    settled();
    EXPECT_EQ(survey->rowCount(), rows + 1);
    survey->setCurrentCell(0, 0);
    QTest::mouseClick(find("removeSection"), Qt::LeftButton);
    settled();
    EXPECT_EQ(survey->rowCount(), rows);
    EXPECT_EQ(session().job().hilt.sections[0].from, Millimetre(0));
    keys(Qt::Key_Z, Qt::ControlModifier);
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job(), demo("dunlin"));
}

TEST_F(Window, PartsAreChosenAndMoved) {
    open_card("Heron");
    keys(Qt::Key_2, Qt::AltModifier);
    auto* kill = find<QComboBox>("type:K1");
    kill->setFocus();
    QTest::keyClick(kill, Qt::Key_Down);
    settled();
    EXPECT_EQ(job::find_ref(session().job().parts, "K1")->type, "kill.slide-10a");
    auto* table = find<QTableWidget>("parts");
    table->setCurrentCell(2, 2);
    table->item(2, 2)->setText("5");
    settled();
    EXPECT_EQ(job::find_ref(session().job().parts, "K1")->at, Millimetre(5));
    EXPECT_TRUE(QTest::qWaitFor(
        [&] { return window_->findChild<QWidget*>("finding:fit.body-does-not-fit"); }));
    const job::Job before = session().job();
    table->item(2, 2)->setText("beside the cell");
    EXPECT_EQ(session().job(), before);
    EXPECT_EQ(table->item(2, 2)->text(), "beside the cell");
    EXPECT_TRUE(table->item(2, 2)->toolTip().contains("not a number"));
}

TEST_F(Window, LooksAreEditedInPlace) {
    open_card("Heron");
    keys(Qt::Key_3, Qt::AltModifier);
    auto* looks = find("looks");
    looks->setFocus();
    keys(Qt::Key_Down);
    EXPECT_EQ(find<QComboBox>("sectionLook")->currentText(), "Lamplight");
    EXPECT_EQ(find<QLineEdit>("lookName")->text(), "Lamplight");
    auto* cap = find<QSlider>("lookCap");
    cap->setFocus();
    QTest::keyClick(cap, Qt::Key_PageDown);
    settled();
    EXPECT_NEAR(session().job().looks[1].cap, 0.9, 1e-9);
    auto* style = find<QComboBox>("lookStyle");
    style->setFocus();
    QTest::keyClick(style, Qt::Key_Home);
    settled();
    EXPECT_EQ(session().job().looks[1].style, job::Style::steady);
    auto* name = find<QLineEdit>("lookName");
    name->setFocus();
    name->selectAll();
    QTest::keyClicks(name, "Dusk");
    QTest::keyClick(name, Qt::Key_Return);
    EXPECT_EQ(session().job().looks[1].name, "Lamplight") << "a name that is taken is refused";
    EXPECT_EQ(name->text(), "Dusk");
    EXPECT_TRUE(name->accessibleDescription().contains("used twice"));
    name->selectAll();
    QTest::keyClicks(name, "Oil lamp");
    QTest::keyClick(name, Qt::Key_Return);
    settled();
    EXPECT_EQ(session().job().looks[1].name, "Oil lamp");
    EXPECT_EQ(name->accessibleDescription(), "");
    const auto count = session().job().looks.size();
    QTest::mouseClick(find("addLook"), Qt::LeftButton);
    settled();
    EXPECT_EQ(session().job().looks.size(), count + 1);
    QTest::mouseClick(find("removeLook"), Qt::LeftButton);
    settled();
    EXPECT_EQ(session().job().looks.size(), count);
}

TEST_F(Window, UseFieldsRefuseNonsenseBesideThem) {
    open_card("Heron");
    keys(Qt::Key_4, Qt::AltModifier);
    auto* clean = find<QLineEdit>("useClean");
    auto type = [&](const QString& text) {
        clean->setFocus();
        clean->selectAll();
        QTest::keyClicks(clean, text);
        QTest::keyClick(clean, Qt::Key_Return);
    };
    type("soon");
    EXPECT_EQ(clean->text(), "soon");
    EXPECT_TRUE(clean->accessibleDescription().contains("not a number"));
    EXPECT_EQ(session().job(), demo("heron"));
    type("99999");
    EXPECT_TRUE(clean->accessibleDescription().contains("out of range"));
    type("20 min");
    settled();
    EXPECT_EQ(session().job().use.clean, Minute(20));
    EXPECT_EQ(clean->text(), "20");
    EXPECT_FALSE(window_->findChild<QWidget*>("finding:sound.crackle-early"));
}

TEST_F(Window, AGaugeSaysWhyAndJumpsToThePart) {
    open_card("Heron");
    auto* gauge4 = find<Gauge>("gauge4");
    gauge4->setFocus();
    keys(Qt::Key_Space);
    auto* parts_table = find<QTableWidget>("whyParts");
    ASSERT_TRUE(parts_table->isVisible());
    EXPECT_TRUE(find<QLabel>("whyTitle")->text().contains("to first crackle"));
    EXPECT_GT(parts_table->rowCount(), 3);
    QTest::keyClick(parts_table, Qt::Key_Return);
    EXPECT_EQ(window_->job_view()->selection().options().chosen, "B1");
    QTest::keyClick(parts_table, Qt::Key_Escape);
    EXPECT_FALSE(parts_table->isVisible());
    EXPECT_EQ(QApplication::focusWidget(), gauge4);
}

TEST_F(Window, TheSectionIsChosenFromByMouseAndKeys) {
    open_card("Heron");
    QTest::mouseClick(find("overlayVolts"), Qt::LeftButton);
    EXPECT_EQ(window_->job_view()->selection().options().overlay, Overlay::volts);
    auto* section = find<SectionView>("section");
    section->grab();
    ASSERT_FALSE(section->spots().empty());
    for (const Spot& spot : section->spots())
        if (spot.ref == "U1")
            QTest::mouseClick(section, Qt::LeftButton, {}, spot.box.center().toPoint());
    EXPECT_EQ(window_->job_view()->selection().options().chosen, "U1");
    section->setFocus();
    QTest::keyClick(section, Qt::Key_Left);
    EXPECT_EQ(window_->job_view()->selection().options().chosen, "K1");
}

TEST_F(Window, AFindingUnderTheMouseLightsItsParts) {
    open_card("Heron");
    auto* row = find("finding:pins.over-current");
    ASSERT_TRUE(row);
    row->setFocus();
    EXPECT_TRUE(window_->job_view()->selection().options().lit.contains("P1"));
    QTest::keyClick(row, Qt::Key_Return);
    EXPECT_TRUE(find<QAbstractButton>("station4")->isChecked());
}

TEST_F(Window, EveryControlHasAnAccessibleName) {
    open_card("Heron");
    for (auto* w : window_->findChildren<QWidget*>()) {
        if (w->focusPolicy() == Qt::NoFocus || qobject_cast<QLabel*>(w) ||
            w->objectName().startsWith("qt_"))
            continue;
        auto* button = qobject_cast<QAbstractButton*>(w);
        const bool named = !w->accessibleName().isEmpty() || (button && !button->text().isEmpty());
        const bool inner =
            w->parentWidget() && (w->parentWidget()->inherits("QComboBox") ||
                                  w->parentWidget()->inherits("QAbstractItemView") ||
                                  w->inherits("QComboBoxPrivateContainer") ||
                                  w->inherits("QComboBoxListView") || w->inherits("QHeaderView"));
        EXPECT_TRUE(named || inner || w->inherits("QStackedWidget") ||
                    w->inherits("QAbstractScrollArea"))
            << w->metaObject()->className() << " " << w->objectName().toStdString();
    }
}

TEST_F(Window, NightAndLargeTextKeepEverythingInTheWindow) {
    open_card("Heron");
    window_->appearance().set_night(true);
    window_->appearance().set_percent(150);
    window_->resize(1024, 700);
    for (int n = 2; n <= 4; ++n) {
        keys(static_cast<Qt::Key>(Qt::Key_0 + n), Qt::AltModifier);
        QTest::qWait(20);
        window_->grab();
        EXPECT_LE(window_->width(), 1024);
        EXPECT_LE(find("gaugeBar")->mapTo(window_.get(), QPoint(0, 0)).y() +
                      find("gaugeBar")->height(),
                  window_->height());
    }
}

TEST_F(Window, ExportAndImportOfAJob) {
    open_card("Heron");
    const QString file = QString::fromStdString((folder_ / "out.json").string());
    window_->export_job(file);
    EXPECT_EQ(*files::read_job((folder_ / "out.json"), parts()), demo("heron"));
    window_->show_shelf();
    window_->import_job(file);
    EXPECT_TRUE(window_->findChild<QWidget*>("card:Heron 2"));
    job::Job expected = demo("heron");
    expected.name = "Heron 2";
    EXPECT_EQ(in_book("Heron 2"), expected);
    write_file(folder_ / "bad.json", "{\"format\": \"conductus-job\"");
    window_->import_job(QString::fromStdString((folder_ / "bad.json").string()));
    EXPECT_TRUE(find<QLabel>("noticeText")->isVisible());
    EXPECT_TRUE(find<QLabel>("noticeText")->text().contains("line"));
    auto book = shop::Book::open(book_, shop::Access::read_only);
    EXPECT_EQ(book->entries()->size(), 3u) << "a refused file changes nothing";
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

TEST(Pictures, SameDrawingAsSvgPngAndPdfWithoutADisplay) {
    TemporaryFolder folder;
    const std::string program = "env -u DISPLAY -u WAYLAND_DISPLAY -u QT_QPA_PLATFORM " +
                                (bin_dir() / "conductus").string();
    const std::string job = (source_dir() / "data/demo/heron.json").string();
    for (const char* overlay : {"body", "volts"})
        for (const char* ending : {"svg", "png", "pdf"}) {
            const auto file = folder / (std::string(overlay) + "." + ending);
            const Ran ran = run(program + " picture " + job + " --drawing section --overlay " +
                                overlay + " -o " + file.string());
            ASSERT_EQ(ran.code, 0) << ran.err;
            EXPECT_GT(std::filesystem::file_size(file), 2000u);
        }
    EXPECT_TRUE(read_file(folder / "body.png").starts_with("\x89PNG"));
    EXPECT_TRUE(read_file(folder / "body.pdf").starts_with("%PDF"));
    const std::string svg = read_file(folder / "volts.svg");
    EXPECT_NE(svg.find("<svg"), std::string::npos);
    EXPECT_NE(svg.find("first pixel"), std::string::npos);
    EXPECT_NE(svg, read_file(folder / "body.svg"));
    EXPECT_EQ(
        run(program + " picture " + job + " --drawing section -o " + (folder / "x.gif").string())
            .code,
        3);
    EXPECT_EQ(run(program + " picture " + job + " --drawing cube -o x.svg").code, 2);
    EXPECT_EQ(run(program + " picture none.json --drawing section -o x.svg").code, 3);
}

/// Run as `app_tests --edit-until-killed BOOK`: edits Heron in a real window by keyboard, and tells
/// each edit that is in the book.
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

TEST(Killed, TheWorkIsThereAtTheNextStart) {
    for (const int patience_ms : {700, 1200, 1900}) {
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
        ::usleep(static_cast<useconds_t>(patience_ms) * 1000 - 500000);
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

int main(int argc, char** argv) {
    if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM")) qputenv("QT_QPA_PLATFORM", "offscreen");
    const QString fonts =
        QString::fromStdString((conductus::test::source_dir() / "data/fonts").string());
    conductus::app::prepare_fonts(fonts);
    testing::InitGoogleTest(&argc, argv);
    QApplication application(argc, argv);
    conductus::app::register_fonts(fonts);
    if (argc == 3 && std::string(argv[1]) == "--edit-until-killed")
        return conductus::app::edit_until_killed(argv[2]);
    return RUN_ALL_TESTS();
}
