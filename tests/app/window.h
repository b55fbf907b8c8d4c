// SPDX-License-Identifier: GPL-3.0-or-later
// The real window on a fresh demo shop, driven by mouse and keyboard.
#pragma once

#include <QAbstractButton>
#include <QApplication>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QSlider>
#include <QTabBar>
#include <QTest>
#include <QTimer>
#include <gtest/gtest.h>

#include "app/shelf/shelf_page.h"
#include "app/shell/gauge_bar.h"
#include "app/shell/job_view.h"
#include "app/shell/main_window.h"
#include "app/table/table.h"
#include "core/job/lookup.h"
#include "support/fixtures.h"

namespace conductus::app {

using namespace test;

/// What was put off until the next turn is done.
inline void turn() {
    QCoreApplication::processEvents();
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    QCoreApplication::processEvents();
}

/// An item of a list that drops down, by its keys.
inline void choose_item(QComboBox* combo, int index) {
    ASSERT_GE(index, 0) << combo->objectName().toStdString() << " has no such item";
    combo->setFocus();
    for (int i = 0; i < combo->count() && combo->currentIndex() != index; ++i)
        QTest::keyClick(combo, combo->currentIndex() < index ? Qt::Key_Down : Qt::Key_Up);
    ASSERT_EQ(combo->currentIndex(), index);
}

/// The cursor of a table to a cell, by its keys.
inline void go(Table* table, int row, int column) {
    table->setFocus();
    if (!table->currentIndex().isValid()) QTest::keyClick(table, Qt::Key_Home, Qt::ControlModifier);
    const auto step = [&](Qt::Key key) {
        const QModelIndex was = table->currentIndex();
        QTest::keyClick(table, key);
        return table->currentIndex() != was;
    };
    while (table->currentIndex().row() < row && step(Qt::Key_Down)) {
    }
    while (table->currentIndex().row() > row && step(Qt::Key_Up)) {
    }
    while (table->currentIndex().column() < column && step(Qt::Key_Right)) {
    }
    while (table->currentIndex().column() > column && step(Qt::Key_Left)) {
    }
    ASSERT_EQ(table->currentIndex(), table->model()->index(row, column));
}

/// Types over a cell, and Enter.
inline void retype(Table* table, int row, int column, const QString& text) {
    go(table, row, column);
    QTest::keyClick(table, Qt::Key_F2);
    auto* field = QApplication::focusWidget();
    ASSERT_TRUE(field && field != table) << row << " " << column << " is not typed in";
    QTest::keyClick(field, Qt::Key_A, Qt::ControlModifier);
    QTest::keyClick(field, Qt::Key_Delete);
    QTest::keyClicks(field, text);
    QTest::keyClick(field, Qt::Key_Return);
    turn(); // the table takes the text a turn later
}

/// Does that with the next window of that kind that opens, however long it takes to open: what is
/// modal would otherwise stand for ever where the machine is slow.
template <class W, class Then>
void once_shown(Then then) {
    auto* look = new QTimer(qApp);
    QObject::connect(look, &QTimer::timeout, look, [look, then] {
        for (QWidget* shown : QApplication::topLevelWidgets())
            if (auto* wanted = qobject_cast<W*>(shown); wanted && wanted->isVisible()) {
                look->stop();
                look->deleteLater();
                // It is in sight; a moment more and it has loaded what it shows.
                QTimer::singleShot(300, wanted, [wanted, then] { then(wanted); });
                return;
            }
    });
    look->start(20);
}

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
        // What is offered comes after what is found: it is judged first.
        if (name.startsWith("fix:") || name.startsWith("other:"))
            (void)QTest::qWaitFor([&] { return window_->findChild<T*>(name) != nullptr; });
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
            [&] { return session().plan() && session().plan()->whole == session().job_ptr(); },
            10000));
        ASSERT_TRUE(QTest::qWaitFor([&] { return session().keeper().all_kept(); }, 10000));
        turn(); // panes are painted a turn after the gauges
    }
    QString gauge(int n) { return find<Gauge>(QString("gauge%1").arg(n))->value_text(); }
    void keys(Qt::Key key, Qt::KeyboardModifiers modifiers = {}) {
        QTest::keyClick(QApplication::focusWidget() ? QApplication::focusWidget() : window_.get(),
                        key, modifiers);
    }
    /// Goes on by Tab until the widget of that name has the focus.
    void tab_to(const QString& name) {
        for (int i = 0; i < 200; ++i) {
            auto* now = QApplication::focusWidget();
            if (now && now->objectName() == name) return;
            keys(Qt::Key_Tab);
        }
        auto* now = QApplication::focusWidget();
        FAIL() << "Tab does not come to " << name.toStdString() << ", it stays at "
               << (now ? now->objectName().toStdString() : "nothing");
    }
    /// To a sheet of the station in hand, by its keys.
    void turn_to(const QString& tabs, int sheet) {
        auto* bar = find<QTabBar>(tabs);
        for (int i = 0; i < bar->count() && bar->currentIndex() != sheet; ++i)
            keys(bar->currentIndex() < sheet ? Qt::Key_PageDown : Qt::Key_PageUp,
                 Qt::ControlModifier);
        ASSERT_EQ(bar->currentIndex(), sheet);
        settled();
    }
    /// A new job, made on the start sheet as it is offered there, by keyboard.
    void begin_job(const QString& name) {
        keys(Qt::Key_N, Qt::ControlModifier);
        type(name);
        keys(Qt::Key_Return);
        settled();
        keys(Qt::Key_2, Qt::AltModifier);
        tab_to("toStartSheet");
        keys(Qt::Key_Space);
        tab_to("startMake");
        keys(Qt::Key_Space);
        settled();
        ASSERT_FALSE(session().job().parts.empty());
    }
    void type(const QString& text) {
        ASSERT_TRUE(QApplication::focusWidget());
        QTest::keyClicks(QApplication::focusWidget(), text);
    }
    /// As a person finds and fits a part: words into the field of the sheet of parts, Enter.
    void fit(const QString& part) {
        auto* field = find<QLineEdit>("trayWords");
        field->setFocus();
        field->selectAll();
        type(part);
        keys(Qt::Key_Return);
        settled();
    }
    job::Job in_book(const std::string& name) {
        auto book = shop::Book::open(book_, shop::Access::read_only);
        return book->load(name, parts())->job;
    }

    TemporaryFolder folder_;
    std::filesystem::path book_;
    std::unique_ptr<MainWindow> window_;
};

} // namespace conductus::app
