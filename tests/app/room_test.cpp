// SPDX-License-Identifier: GPL-3.0-or-later
// Room: folding, dragging, and how many rows of a page's main table are in sight.
#include <QMenu>
#include <QScrollArea>
#include <QScrollBar>
#include <QSplitter>
#include <QTabBar>
#include <QToolButton>

#include "app/shell/findings_pane.h"
#include "app/shell/section_pane.h"
#include "app/stations/lights/look_list.h"
#include "app/window.h"

namespace conductus::app {
namespace {

/// What of a widget is in sight, in its own pixels.
QRect in_sight_of(QWidget* w) {
    QRect seen = w->rect();
    for (QWidget* p = w; p && !p->isWindow(); p = p->parentWidget()) {
        if (QWidget* outer = p->parentWidget())
            seen &= QRect(w->mapFrom(outer, QPoint(0, 0)), outer->size());
    }
    return seen;
}

struct Seen {
    QString table;
    int rows = 0, all = 0;
    bool scrolls_twice = false; ///< a table that scrolls in a page that scrolls
};

/// The main table or list of what is in sight: the one with the most rows in it.
Seen main_rows(QWidget* window) {
    Seen best;
    bool twice = false;
    const auto page_scrolls = [](QWidget* w) {
        for (QWidget* p = w->parentWidget(); p; p = p->parentWidget())
            if (auto* scroll = qobject_cast<QScrollArea*>(p))
                if (scroll->verticalScrollBar()->isVisible()) return true;
        return false;
    };
    for (auto* table : window->findChildren<Table*>()) {
        if (!table->isVisible()) continue;
        const QRect seen = in_sight_of(table->viewport());
        Seen s{table->objectName(), 0, table->model()->rowCount(), false};
        for (int r = 0; r < s.all; ++r) {
            const QRect row = table->visualRect(table->model()->index(r, 0));
            s.rows +=
                row.isValid() && row.top() >= seen.top() - 1 && row.bottom() <= seen.bottom() + 1;
        }
        twice = twice || (table->verticalScrollBar()->maximum() > 0 && page_scrolls(table));
        if (s.all > best.all || (s.all == best.all && s.rows > best.rows)) best = s;
    }
    best.scrolls_twice = twice;
    return best;
}

class Room : public Window {
protected:
    Seen rows_of(const char* name) {
        auto* table = find<Table>(name);
        const QRect seen = in_sight_of(table->viewport());
        Seen s{name, 0, table->model()->rowCount(), false};
        for (int r = 0; r < s.all; ++r) {
            const QRect row = table->visualRect(table->model()->index(r, 0));
            s.rows +=
                row.isValid() && row.top() >= seen.top() - 1 && row.bottom() <= seen.bottom() + 2;
        }
        return s;
    }
    void size(int width, int height, int percent) {
        window_->settings().set_text_percent(percent);
        window_->resize(width, height);
        turn();
    }
    /// The looks have a list of their own.
    Seen looks_in_sight() {
        auto* list = window_->findChild<LookList*>();
        const QRect seen = in_sight_of(list);
        Seen s{"looks", 0, static_cast<int>(session().job().looks.size()), false};
        for (int r = 0; r < s.all; ++r)
            s.rows += list->height_of(r + 1) - 2 <= seen.bottom() + 2;
        return s;
    }
};

struct MainTable {
    std::size_t station;
    const char *bar, *sheet, *table;
};
/// The sheets that are a table first of all.
constexpr MainTable main_tables[] = {{0, "briefSheets", "As received", "inspection"},
                                     {1, "hiltSheets", "Survey", "survey"},
                                     {1, "hiltSheets", "Parts", "trayParts"},
                                     {2, "lightsSheets", "Looks", "looks"},
                                     {2, "lightsSheets", "Loads", "loads"},
                                     {2, "lightsSheets", "Currents", "currents"},
                                     {3, "powerSheets", "The day", "phases"},
                                     {4, "harnessSheets", "Wires", "wires"},
                                     {4, "harnessSheets", "Gauges", "gaugesTable"},
                                     {4, "harnessSheets", "Soldering", "solderOrder"},
                                     {4, "harnessSheets", "As built", "plannedWires"},
                                     {4, "harnessSheets", "Data and buttons", "dataMap"}};

TEST_F(Room, MainTablesShowTheirRowsAndNoTableScrollsInAPageThatScrolls) {
    open_card("Bittern");
    struct Size {
        int width, height, percent, rows;
    };
    for (const Size s : {Size{1280, 800, 100, 8}, {1024, 700, 100, 5}, {1280, 800, 150, 4}})
        for (const bool folded : {false, true}) {
            size(s.width, s.height, s.percent);
            for (const MainTable& main : main_tables) {
                window_->job_view()->go_to(main.station);
                window_->job_view()->fold_section(folded);
                window_->job_view()->fold_findings(folded);
                auto* tabs = find<QTabBar>(main.bar);
                for (int i = 0; i < tabs->count(); ++i)
                    if (tabs->tabText(i) == main.sheet) tabs->setCurrentIndex(i);
                settled();
                turn();
                const Seen seen = main_rows(window_.get());
                const Seen of =
                    main.table == std::string("looks") ? looks_in_sight() : rows_of(main.table);
                const std::string what =
                    std::string(main.sheet) + " at " + std::to_string(s.width) + ", " +
                    std::to_string(s.percent) + " %" + (folded ? ", folded" : "");
                EXPECT_GE(of.rows, std::min(of.all, folded ? 2 * s.rows : s.rows)) << what;
                EXPECT_FALSE(seen.scrolls_twice) << what;
            }
        }
}

TEST_F(Room, SectionAndFindingsFoldByButtonAndKeyAndEachStationRemembers) {
    open_card("Heron");
    auto* pane = window_->findChild<SectionPane*>();
    auto* findings = window_->findChild<FindingsPane*>();
    const int high = pane->height();
    QTest::mouseClick(find<QPushButton>("foldSection"), Qt::LeftButton);
    turn();
    EXPECT_LT(pane->height(), high / 3);
    EXPECT_TRUE(find<QLabel>("sectionWorst")->isVisible());
    EXPECT_TRUE(find<QLabel>("sectionWorst")->text().contains("mm")) << "the tightest fit";
    keys(Qt::Key_F8);
    turn();
    EXPECT_LT(findings->width(), 60);
    EXPECT_TRUE(find<QAbstractButton>("unfoldFindings")->accessibleName().contains("1 stop"));
    // Another station has its own.
    keys(Qt::Key_3, Qt::AltModifier);
    turn();
    EXPECT_EQ(pane->height(), high);
    EXPECT_GT(findings->width(), 100);
    keys(Qt::Key_2, Qt::AltModifier);
    turn();
    EXPECT_LT(pane->height(), high / 3);
    keys(Qt::Key_F7);
    QTest::mouseClick(find<QAbstractButton>("unfoldFindings"), Qt::LeftButton);
    turn();
    EXPECT_EQ(pane->height(), high);
    EXPECT_GT(findings->width(), 100);
    // Dragged lower, it stays so there, and in the next run.
    auto* split = find<QSplitter>("sectionAndPage");
    auto* handle = split->handle(1);
    const QPoint at = handle->rect().center();
    QTest::mousePress(handle, Qt::LeftButton, {}, at);
    QTest::mouseMove(handle, at - QPoint(0, 40));
    QTest::mouseRelease(handle, Qt::LeftButton, {}, at - QPoint(0, 40));
    turn();
    EXPECT_LT(pane->height(), high - 20);
    EXPECT_GT(window_->settings().room(1).section, 0);
}

TEST_F(Room, FindingsOfTheStationInHandComeFirst) {
    open_card("Heron");
    const auto first = [this] {
        turn();
        for (auto* row : window_->findChild<FindingsPane*>()->findChildren<FindingRow*>())
            if (row->isVisible()) return row->objectName();
        return QString();
    };
    keys(Qt::Key_3, Qt::AltModifier);
    EXPECT_EQ(first(), "finding:blade.tip-dim");
    EXPECT_EQ(find<QLabel>("findingsElsewhere")->text(), "At other stations:");
    keys(Qt::Key_4, Qt::AltModifier);
    EXPECT_EQ(first(), "finding:pins.over-current");
    keys(Qt::Key_5, Qt::AltModifier);
    turn();
    EXPECT_TRUE(find<QLabel>("findingsElsewhere")->text().startsWith("Nothing at this station"));
}

TEST_F(Room, TheMenuHoldsEveryCommandWithItsKey) {
    open_card("Heron");
    auto* menu = find<QMenu>("commands");
    QStringList keys_said;
    int commands = 0;
    for (QAction* group : menu->actions()) {
        ASSERT_TRUE(group->menu());
        for (QAction* action : group->menu()->actions()) {
            if (action->isSeparator()) continue;
            ++commands;
            EXPECT_FALSE(action->text().isEmpty());
            for (const QKeySequence& keys : action->shortcuts())
                keys_said << keys.toString();
        }
    }
    EXPECT_GT(commands, 25);
    for (const char* key : {"Ctrl+Z", "Ctrl+Y", "Alt+1", "Alt+8", "Alt+0", "F6", "F7", "F8",
                            "Ctrl+N", "Ctrl+F", "Alt+Return"})
        EXPECT_TRUE(keys_said.contains(key)) << key;
    EXPECT_EQ(keys_said.removeDuplicates(), 0) << "no key does two things";
    // What is chosen there is done.
    for (QAction* action : window_->actions())
        if (action->objectName() == "doFoldSection") action->trigger();
    turn();
    EXPECT_TRUE(window_->job_view()->section_folded());
}

} // namespace
} // namespace conductus::app
