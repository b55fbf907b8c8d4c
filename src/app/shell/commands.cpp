// SPDX-License-Identifier: GPL-3.0-or-later
// The commands of the window, in its one menu and by their keys.
#include <QAction>
#include <QCoreApplication>
#include <QMenu>
#include <QShortcut>
#include <QToolButton>

#include "app/drawing/drawings.h"
#include "app/parts/parts_page.h"
#include "app/session/words.h"
#include "app/shelf/shelf_page.h"
#include "app/shell/job_view.h"
#include "app/shell/main_window.h"
#include "app/stations/stations.h"

namespace conductus::app {

void MainWindow::make_commands() {
    // Every command of the window, with its key: what a button does is here as well.
    QMenu* group = nullptr;
    const auto begin = [&](const QString& title) { group = menu_->addMenu(title); };
    const auto on = [&](const char* object, const QString& text, const QList<QKeySequence>& keys,
                        auto&& act, bool of_job = true) {
        auto* action = new QAction(text, this);
        action->setObjectName(object);
        action->setShortcuts(keys);
        addAction(action);
        group->addAction(action);
        connect(action, &QAction::triggered, this, act);
        if (of_job) of_job_ << action;
        return action;
    };
    const auto in_job = [this](auto&& act) {
        return [this, act] {
            if (job_view_) act(*job_view_);
        };
    };
    const auto alt = [](int digit) {
        return QList<QKeySequence>{QKeySequence(Qt::ALT | static_cast<Qt::Key>(Qt::Key_0 + digit))};
    };
    begin(tr("Jobs"));
    on(
        "doShelf", tr("All jobs"), alt(0), [this] { show_shelf(); }, false);
    on(
        "doNew", tr("New job"), {Qt::CTRL | Qt::Key_N},
        [this] {
            if (job_view_) show_shelf();
            if (!job_view_) shelf_->begin_new(false);
        },
        false);
    on(
        "doCopy", tr("New job, built like another"), {Qt::CTRL | Qt::SHIFT | Qt::Key_N},
        [this] {
            if (job_view_) show_shelf();
            if (!job_view_) shelf_->begin_new(true);
        },
        false);
    on(
        "doFind", tr("Find in all jobs, or in the parts"), {Qt::CTRL | Qt::Key_F},
        [this] {
            if (job_view_) show_shelf();
            if (!job_view_) shelf_->focus_search();
        },
        false);
    on(
        "doImport", tr("Take in a job, a folder or a book"), {Qt::CTRL | Qt::Key_O},
        [this] {
            if (job_view_) show_shelf();
            if (!job_view_) emit shelf_->import_wanted();
        },
        false);
    on(
        "doParts", tr("Parts of the shop"), {Qt::CTRL | Qt::SHIFT | Qt::Key_P},
        [this] {
            if (job_view_) show_shelf();
            if (!job_view_) shelf_->show_parts(true);
        },
        false);
    on(
        "doHabits", tr("The shop's habits"), {}, [this] { show_habits(); }, false);
    on("doExport", tr("Export the job"), {Qt::CTRL | Qt::Key_S}, [this] { export_by_dialog(); });
    begin(tr("Edit"));
    on(
        "doUndo", tr("Undo"), {Qt::CTRL | Qt::Key_Z},
        [this] { job_view_ ? job_view_->session().undo() : shelf_->parts().undo(); }, false);
    on(
        "doRedo", tr("Redo"), {Qt::CTRL | Qt::Key_Y, Qt::CTRL | Qt::SHIFT | Qt::Key_Z},
        [this] { job_view_ ? job_view_->session().redo() : shelf_->parts().redo(); }, false);
    on("doPart", tr("All of the chosen part"), {Qt::ALT | Qt::Key_Return},
       in_job([](JobView& v) { v.open_chosen(); }));
    begin(tr("Stations"));
    for (std::size_t i = 0; i < station_count; ++i)
        on(qPrintable(QStringLiteral("doStation%1").arg(i + 1)), station_name(i),
           alt(static_cast<int>(i) + 1), in_job([i](JobView& v) { v.go_to(i); }));
    begin(tr("Long section"));
    for (const OverlayEntry& entry : overlays())
        on(qPrintable(QStringLiteral("doOverlay_") + words(entry.id)),
           QCoreApplication::translate("Overlay", entry.title), {},
           in_job([overlay = entry.overlay](JobView& v) { v.selection().overlay(overlay); }));
    group->addSeparator();
    on("doZoomPart", tr("To the chosen part, and back"), {Qt::ALT | Qt::Key_Z},
       in_job([](JobView& v) { v.zoom_to_chosen(); }));
    on("doFoldSection", tr("Fold or unfold the section"), {Qt::Key_F7},
       in_job([](JobView& v) { v.fold_section(!v.section_folded()); }));
    begin(tr("Window"));
    on("doFoldFindings", tr("Fold or unfold the findings"), {Qt::Key_F8},
       in_job([](JobView& v) { v.fold_findings(!v.findings_folded()); }));
    on("doNextPane", tr("To the next pane"), {Qt::Key_F6},
       in_job([](JobView& v) { v.next_pane(false); }));
    on("doPaneBefore", tr("To the pane before"), {Qt::SHIFT | Qt::Key_F6},
       in_job([](JobView& v) { v.next_pane(true); }));
    on(
        "doLarger", tr("Larger text"), {Qt::CTRL | Qt::Key_Plus, Qt::CTRL | Qt::Key_Equal},
        [this] { settings_.set_text_percent(settings_.text_percent() + 10); }, false);
    on(
        "doSmaller", tr("Smaller text"), {Qt::CTRL | Qt::Key_Minus},
        [this] { settings_.set_text_percent(settings_.text_percent() - 10); }, false);
    on(
        "doNight", tr("Day or night"), {}, [this] { settings_.set_night(!settings_.night()); },
        false);
    on(
        "doSettings", tr("Settings"), {Qt::CTRL | Qt::Key_Comma}, [this] { show_settings(); },
        false);
    auto* open = new QShortcut(QKeySequence(Qt::Key_F10), this);
    connect(open, &QShortcut::activated, this, [this] {
        auto* button = findChild<QToolButton*>("menu");
        menu_->popup(button->mapToGlobal(QPoint(0, button->height())));
        if (!menu_->actions().isEmpty()) menu_->setActiveAction(menu_->actions().front());
    });
    connect(menu_, &QMenu::aboutToShow, this, [this] {
        for (QAction* action : of_job_)
            action->setEnabled(job_view_);
    });
    // A key works whether or not the menu was open when there was no job.
    connect(menu_, &QMenu::aboutToHide, this, [this] {
        for (QAction* action : of_job_)
            action->setEnabled(true);
    });
}

} // namespace conductus::app
