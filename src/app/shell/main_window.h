// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QMainWindow>
#include <filesystem>
#include <set>

#include "app/session/appearance.h"
#include "app/session/book_care.h"
#include "app/session/importer.h"
#include "app/session/session.h"
#include "app/session/settings.h"

class QLabel;
class QMenu;
class QStackedWidget;
class QToolButton;
#include "core/job/habits.h"

namespace conductus::app {

class JobView;
class NoticeBar;
class ShelfPage;

/// The window: top strip, then the shelf or one job.
class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    /// `settings` is where what a person sets is kept; without a file it holds for this run.
    MainWindow(CataloguePtr parts, std::filesystem::path book,
               const std::filesystem::path& settings = {}, QWidget* parent = nullptr);
    ~MainWindow() override;

    /// Reads the book and shows the shelf, or says why it can not.
    void open_book();
    void open_job(shop::JobId id);
    void show_shelf();
    [[nodiscard]] JobView* job_view() const { return job_view_; }
    [[nodiscard]] ShelfPage* shelf() const { return shelf_; }
    Appearance& appearance() { return appearance_; }
    Settings& settings() { return settings_; }
    void show_settings();
    void show_habits();

    /// Says what was found wrong before the window was there.
    void say_first(const std::vector<Problem>& problems);

    /// In and out; what goes wrong is said in the window. A job goes out with its milestones and
    /// pictures, or bare; jobs come in in the background.
    void import_job(const QString& path);
    [[nodiscard]] bool importing() const { return importer_.busy(); }
    void export_job(const QString& path, bool whole = true);

    /// Takes what is half typed and keeps everything, for the session or the program ends without
    /// asking. False where something could not be kept in the book: it lies in a file of its own.
    bool leave();

protected:
    void closeEvent(QCloseEvent* event) override;

private:
    void make_top_strip(QLayout* column);
    void make_commands();
    void follow_job();
    void say(const Problem& problem);
    void be_quiet();
    void not_kept(const Problem& problem);
    void overtaken(qsizetype waiting);
    void read_again();
    void keep_mine();
    void export_by_dialog();
    void offer_left_aside();
    void rescue_book();
    void export_list(const QString& path);
    void go_back_to(const QString& backup);
    void close_job();
    /// Takes what is half typed in a field, as leaving the field would.
    void take_typing();

    CataloguePtr parts_;
    /// What the shop usually does; none: it has not said, or the book can not be read.
    [[nodiscard]] job::Habits habits() const;
    /// Says once in what the open job differs from that.
    void tell_habits();
    std::set<std::string> habits_told_; ///< names of jobs
    std::filesystem::path book_;
    Appearance appearance_;
    Settings settings_;
    QLabel *name_, *purpose_;
    QMenu* menu_;
    QList<QAction*> of_job_; ///< commands that take an open job
    QToolButton *undo_, *redo_, *export_, *night_;
    NoticeBar* notice_;
    BookCare care_;
    Importer importer_;
    QStackedWidget* stack_;
    ShelfPage* shelf_;
    JobView* job_view_ = nullptr;
};

} // namespace conductus::app
