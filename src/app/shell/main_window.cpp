// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/main_window.h"

#include <QApplication>
#include <QCloseEvent>
#include <QFileDialog>
#include <QLabel>
#include <QLocale>
#include <QMenu>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/session/log.h"
#include "app/session/words.h"
#include "app/shelf/shelf_page.h"
#include "app/shell/fields.h"
#include "app/shell/habits_panel.h"
#include "app/shell/job_view.h"
#include "app/shell/notice_bar.h"
#include "app/shell/settings_panel.h"
#include "app/shell/theme.h"
#include "core/job/words.h"
#include "files/json_text.h"
#include "core/plan/start.h"
#include "shop/backup.h"
#include "shop/rescue.h"
#include "shop/transfer.h"
#include "shop/unkept.h"

namespace conductus::app {

MainWindow::MainWindow(CataloguePtr parts, std::filesystem::path book,
                       const std::filesystem::path& settings, QWidget* parent)
    : QMainWindow(parent), parts_(std::move(parts)), book_(std::move(book)), settings_(settings),
      care_(parts_), importer_(parts_) {
    setWindowTitle(tr("Conductus"));
    resize(1280, 800);
    setMinimumSize(1024, 700);
    auto* centre = new QWidget(this);
    centre->setObjectName("backdrop");
    auto* column = new QVBoxLayout(centre);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    make_top_strip(column);

    notice_ = new NoticeBar(centre);
    column->addWidget(notice_);

    stack_ = new QStackedWidget(centre);
    shelf_ = new ShelfPage(parts_, appearance_, stack_);
    stack_->addWidget(shelf_);
    column->addWidget(stack_, 1);
    setCentralWidget(centre);
    connect(shelf_, &ShelfPage::job_chosen, this, &MainWindow::open_job);
    connect(shelf_, &ShelfPage::retry, this, &MainWindow::open_book);
    connect(shelf_, &ShelfPage::import_wanted, this, [this] {
        const QString path =
            QFileDialog::getOpenFileName(this, tr("Take in a job file, or another shop book"), {},
                                         tr("Jobs and books (*.json *.book);;All files (*)"),
                                         nullptr, QFileDialog::DontUseNativeDialog);
        if (!path.isEmpty()) import_job(path);
    });
    connect(shelf_, &ShelfPage::list_wanted, this, [this] {
        const QString path = QFileDialog::getSaveFileName(
            this, tr("Write the list of jobs"), "jobs.csv", tr("Comma separated values (*.csv)"),
            nullptr, QFileDialog::DontUseNativeDialog);
        if (!path.isEmpty()) export_list(path);
    });
    connect(shelf_, &ShelfPage::restore_wanted, this, &MainWindow::go_back_to);
    connect(shelf_, &ShelfPage::rescue_wanted, this, &MainWindow::rescue_book);
    connect(&importer_, &Importer::progressed, this, [this](int percent) {
        notice_->going_on(tr("Taking in jobs: %1 %").arg(percent),
                          {tr("Stop"), "stopImport", [this] { importer_.stop(); }});
    });
    connect(&importer_, &Importer::taken_in, this, [this](const shop::Passed& passed) {
        if (!job_view_) open_book();
        QString said = counted(static_cast<int>(passed.names.size()), tr("%1 job was taken in."),
                               tr("%1 jobs were taken in."));
        for (const std::string& line : passed.as_they_are)
            said += " " + words(shown(line, 300));
        notice_->tell(said);
    });
    connect(&importer_, &Importer::refused, this, &MainWindow::say);
    connect(&importer_, &Importer::stopped, this,
            [this] { notice_->tell(tr("The import was stopped; nothing was taken in.")); });
    connect(&care_, &BookCare::damaged, shelf_, &ShelfPage::show_message);
    // The shelf says it itself.
    connect(&care_, &BookCare::damaged, this, [this](const Problem& problem) {
        if (job_view_) say(problem);
    });
    connect(&care_, &BookCare::not_backed_up, this, &MainWindow::say);
    connect(&appearance_, &Appearance::changed, this, [this] { apply_theme(*this, appearance_); });
    apply_theme(*this, appearance_);
    make_commands();
    const auto as_set = [this] {
        if (appearance_.percent() != settings_.text_percent())
            appearance_.set_percent(settings_.text_percent());
        if (appearance_.inks().night != settings_.night()) appearance_.set_night(settings_.night());
        night_->setChecked(settings_.night());
        night_->setText(settings_.night() ? tr("Day") : tr("Night"));
        follow_job();
    };
    connect(&settings_, &Settings::changed, this, as_set);
    connect(&settings_, &Settings::not_kept, this, [this](const QString& file) {
        say({file.toStdString(), "the settings can not be written",
             "Make the file writable; they hold until the program ends"});
    });
    as_set();
}

MainWindow::~MainWindow() { close_job(); }

void MainWindow::make_top_strip(QLayout* column) {
    auto* strip = new QWidget(this);
    strip->setObjectName("topStrip");
    strip->setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(strip);
    row->setContentsMargins(16, 6, 12, 6);
    name_ = label({}, "title", strip);
    name_->setObjectName("jobName");
    purpose_ = new QLabel(strip);
    purpose_->setObjectName("jobPurpose");
    row->addWidget(name_);
    row->addSpacing(10);
    row->addWidget(purpose_, 1);
    auto* menu_button = new QToolButton(strip);
    menu_button->setText(tr("Menu"));
    menu_button->setObjectName("menu");
    menu_button->setToolTip(tr("Every command, with its key (F10)"));
    menu_button->setAutoRaise(true);
    menu_button->setPopupMode(QToolButton::InstantPopup);
    menu_ = new QMenu(menu_button);
    menu_->setObjectName("commands");
    menu_button->setMenu(menu_);
    row->insertWidget(0, menu_button);
    row->insertSpacing(1, 8);
    auto button = [&](const QString& text, const char* object) {
        auto* b = new QToolButton(strip);
        b->setText(text);
        b->setObjectName(object);
        b->setAutoRaise(true);
        row->addWidget(b);
        return b;
    };
    undo_ = button(tr("Undo"), "undo");
    redo_ = button(tr("Redo"), "redo");
    export_ = button(tr("Export"), "export");
    night_ = button(tr("Night"), "night");
    night_->setCheckable(true);
    auto* settings = button(tr("Settings"), "settings");
    connect(settings, &QToolButton::clicked, this, &MainWindow::show_settings);
    connect(undo_, &QToolButton::clicked, this, [this] {
        if (job_view_) job_view_->session().undo();
    });
    connect(redo_, &QToolButton::clicked, this, [this] {
        if (job_view_) job_view_->session().redo();
    });
    connect(export_, &QToolButton::clicked, this, &MainWindow::export_by_dialog);
    connect(night_, &QToolButton::toggled, &settings_, &Settings::set_night);
    column->addWidget(strip);
}

void MainWindow::export_by_dialog() {
    if (!job_view_) return;
    const QString name =
        QString::fromStdString(job_view_->session().job().name).toLower() + ".json";
    const QString whole = tr("With milestones and pictures (*.json)"),
                  bare = tr("The job alone (*.json)");
    QString chosen = whole;
    const QString path =
        QFileDialog::getSaveFileName(this, tr("Export the job"), name, whole + ";;" + bare, &chosen,
                                     QFileDialog::DontUseNativeDialog);
    if (!path.isEmpty()) export_job(path, chosen != bare);
}

job::Habits MainWindow::habits() const {
    auto opened = shop::Book::open(book_, shop::Access::read_only);
    return opened ? opened->habits().value_or(job::Habits{}) : job::Habits{};
}

void MainWindow::show_habits() {
    auto* panel = new HabitsPanel(book_, parts_, job_view_ ? &job_view_->session().job() : nullptr,
                                  this);
    connect(panel, &HabitsPanel::kept, this, [this](const job::Habits& kept) {
        if (job_view_) job_view_->begin_with(kept);
    });
    panel->open();
}

void MainWindow::tell_habits() {
    const job::Job& job = job_view_->session().job();
    const job::Habits usual = habits();
    job_view_->begin_with(usual);
    if (plan::is_blank(job) || !habits_told_.insert(job.name).second) return;
    QStringList lines;
    for (const Message& line : job::differs_from(job, job_view_->session().parts(), usual))
        lines << words(line);
    if (!lines.isEmpty())
        notice_->tell(tr("Not as the shop usually does it: %1.").arg(lines.join("; ")));
}

void MainWindow::show_settings() { (new SettingsPanel(settings_, this))->open(); }

void MainWindow::open_book() {
    close_job();
    be_quiet();
    stack_->setCurrentWidget(shelf_);
    shelf_->read(book_);
    follow_job();
    if (shelf_->message().isEmpty()) care_.look_after(book_);
    offer_left_aside();
}

void MainWindow::offer_left_aside() {
    const auto left = shop::left_aside(book_);
    if (left.empty()) return;
    notice_->say(
        {{},
         tr("Edits of a job could not be kept in the book when the program ended; they lie "
            "in %1")
             .arg(words(files::path_text(left.front())))
             .toStdString(),
         tr("Take them in as a job of its own").toStdString()},
        {{tr("Take them in"), "takeAside", [this, file = left.front()] {
              auto book = shop::Book::open(book_, shop::Access::read_write);
              const auto passed =
                  book ? shop::import_into(*book, file, *parts_) : tl::unexpected(book.error());
              if (!passed) return say(passed.error());
              std::error_code error;
              std::filesystem::remove(file, error);
              std::filesystem::remove(file.parent_path(), error); // where it is empty
              open_book();
          }}});
}

void MainWindow::say_first(const std::vector<Problem>& problems) {
    if (!problems.empty()) say(problems.front());
}

void MainWindow::open_job(shop::JobId id) {
    close_job();
    auto session = Session::open(book_, id, parts_);
    if (!session) return say(session.error());
    be_quiet();
    shelf_->close();
    job_view_ = new JobView(std::move(*session), appearance_, settings_, stack_);
    stack_->addWidget(job_view_);
    stack_->setCurrentWidget(job_view_);
    connect(job_view_, &JobView::shelf_wanted, this, &MainWindow::show_shelf);
    connect(&job_view_->session(), &Session::job_changed, this, &MainWindow::follow_job);
    connect(&job_view_->session(), &Session::not_kept, this, &MainWindow::not_kept);
    connect(&job_view_->session(), &Session::refused, this,
            [this](const QString& label, const Problem& problem) {
                say({label.toStdString(), problem.what, problem.mend});
            });
    connect(&job_view_->session(), &Session::kept, this, &MainWindow::be_quiet);
    connect(&job_view_->session(), &Session::overtaken, this, &MainWindow::overtaken,
            Qt::QueuedConnection);
    follow_job();
    job_view_->focus_rail();
    tell_habits();
}

void MainWindow::take_typing() {
    // Of this window, whether it is the active one or not.
    QWidget* typed = job_view_ ? focusWidget() : nullptr;
    if (!typed || !job_view_->isAncestorOf(typed)) return;
    if (typed->hasFocus()) return typed->clearFocus();
    // A window that is not active keeps its focus, and a field what is typed, until it is again.
    QFocusEvent leaves(QEvent::FocusOut, Qt::OtherFocusReason);
    QApplication::sendEvent(typed, &leaves);
}

bool MainWindow::leave() {
    take_typing();
    importer_.stop();
    return !job_view_ || job_view_->session().keeper().finish(3000);
}

void MainWindow::close_job() {
    if (!job_view_) return;
    take_typing();
    if (!job_view_->session().keeper().finish(3000))
        say({files::path_text(book_),
             tr("the last edits are not in the book; they lie in a file of their own")
                 .toStdString(),
             tr("They are offered at the next start").toStdString()});
    delete job_view_;
    job_view_ = nullptr;
}

void MainWindow::show_shelf() {
    take_typing();
    if (job_view_ && !job_view_->session().keeper().finish(1500)) return; // the notice says why
    open_book();
}

void MainWindow::follow_job() {
    const bool open = job_view_ != nullptr;
    for (auto* b : {undo_, redo_, export_})
        b->setVisible(open);
    if (!open) {
        name_->setText(tr("Shelf"));
        purpose_->setText(settings_.shop().isEmpty() ? shown_path(book_.filename())
                                                     : settings_.shop());
        setWindowTitle(tr("Conductus"));
        return;
    }
    Session& session = job_view_->session();
    const job::Job& job = session.job();
    name_->setText(QString::fromStdString(job.name));
    QString purpose = term(job::word(job.kind)) + " " + QString::fromStdString(job.purpose);
    const QDate promised = QDate::fromString(QString::fromStdString(job.promised), Qt::ISODate);
    if (promised.isValid())
        purpose += QString::fromUtf8(" · ") +
                   tr("promised %1").arg(QLocale(QLocale::English).toString(promised, "d MMMM"));
    purpose_->setText(purpose);
    setWindowTitle(tr("%1 – Conductus").arg(QString::fromStdString(job.name)));
    undo_->setEnabled(session.can_undo());
    redo_->setEnabled(session.can_redo());
    undo_->setToolTip(session.can_undo() ? tr("Undo: %1 (Ctrl+Z)").arg(session.undo_label())
                                         : tr("Nothing to undo"));
    redo_->setToolTip(session.can_redo() ? tr("Redo: %1 (Ctrl+Y)").arg(session.redo_label())
                                         : tr("Nothing to redo"));
}

void MainWindow::say(const Problem& problem) {
    log_line(problem.text());
    notice_->say(problem);
}

void MainWindow::be_quiet() { notice_->be_quiet(); }

void MainWindow::not_kept(const Problem& problem) {
    if (problem.cause != Cause::moved) return say(problem);
    // The work waits, and lies in a file of its own; where it shall go, the person says.
    std::vector<NoticeBar::Offer> offers{
        {tr("Keep it in a file"), "keepElsewhere", [this] { export_by_dialog(); }}};
    std::error_code error;
    if (std::filesystem::exists(book_, error))
        offers.push_back({tr("Go on in the book that is here now"), "goOnHere", [this] {
                              if (!job_view_) return;
                              if (job_view_->session().keeper().all_kept()) return read_again();
                              keep_mine();
                          }});
    notice_->say(problem, std::move(offers));
}

void MainWindow::read_again() {
    if (const auto ok = job_view_->session().read_again(); !ok) {
        if (ok.error().cause != Cause::missing) return say(ok.error());
        // The book was gone back to a state without it, or is another book.
        return notice_->say(ok.error(),
                            {{tr("Keep mine as well"), "keepMine", [this] { keep_mine(); }},
                             {tr("To the shelf"), "leaveJob", [this] {
                                  job_view_->session().keeper().let_go();
                                  open_book();
                              }}});
    }
    be_quiet();
}

void MainWindow::overtaken(qsizetype waiting) {
    if (!job_view_ || !job_view_->session().is_overtaken()) return;
    if (waiting == 0) {
        const auto ok = job_view_->session().read_again();
        if (!ok) return read_again();
        return notice_->tell(tr("Another window changed this job. This is what it is now."));
    }
    notice_->say(
        {job_view_->session().job().name,
         tr("another window changed this job before your last edits were kept").toStdString(),
         tr("Nothing was overwritten. Take what the other wrote, or keep yours as a job "
            "of its own")
             .toStdString()},
        {{tr("Take theirs"), "takeTheirs", [this] { read_again(); }},
         {tr("Keep mine as well"), "keepMine", [this] { keep_mine(); }}});
}

void MainWindow::keep_mine() {
    Session& session = job_view_->session();
    auto book = shop::Book::open(book_, shop::Access::read_write);
    if (!book) return say(book.error());
    shop::Whole mine;
    auto attachments = session.attachments();
    // Pictures that are in a book which is gone can not come along; the job can.
    const job::Job job = attachments ? session.job() : files::bare(session.job());
    mine.states.push_back(
        {0, tr("kept beside another window's").toStdString(), {}, files::job_text(job), {}});
    if (attachments) mine.attachments = std::move(*attachments);
    std::vector<shop::Whole> jobs;
    jobs.push_back(std::move(mine));
    const auto names = book->add_whole(std::move(jobs));
    if (!names) return say(names.error());
    const auto kept = book->load(names->front(), *parts_);
    if (!kept) return say(kept.error());
    session.keeper().let_go();
    open_job(kept->id);
}

void MainWindow::import_job(const QString& path) {
    if (importer_.take_in(book_, path_of(path)))
        notice_->going_on(tr("Taking in jobs"),
                          {tr("Stop"), "stopImport", [this] { importer_.stop(); }});
    else
        say({{},
             tr("Jobs are being taken in already").toStdString(),
             tr("Wait until that has ended, or stop it").toStdString()});
}

void MainWindow::export_job(const QString& path, bool whole) {
    if (!job_view_) return;
    const Session& session = job_view_->session();
    auto text = [&]() -> Result<std::string> {
        if (!whole) return files::job_text(files::bare(session.job()));
        auto attachments = session.attachments();
        if (!attachments) return tl::unexpected(attachments.error());
        return files::job_file_text({session.job(), std::move(*attachments)}, *parts_);
    }();
    auto ok = text ? files::write_output(path_of(path), *text, files::Content::job)
                   : tl::unexpected(text.error());
    if (!ok) say(ok.error());
}

void MainWindow::export_list(const QString& path) {
    auto book = shop::Book::open(book_, shop::Access::read_only);
    auto entries = book ? book->entries() : tl::unexpected(book.error());
    auto ok =
        entries ? files::write_output(path_of(path), shop::list_csv(*entries), files::Content::text)
                : tl::unexpected(entries.error());
    if (!ok) say(ok.error());
}

void MainWindow::go_back_to(const QString& backup) {
    shelf_->close();
    const auto ok = shop::restore(book_, path_of(backup));
    open_book();
    if (!ok) return say(ok.error());
    notice_->tell(
        tr("The book is what it was at the backup; what it was before is kept beside it."));
}

void MainWindow::rescue_book() {
    shelf_->close();
    // Saved beside the damaged file first; then that is moved aside, and this put in its place.
    std::filesystem::path saved;
    std::error_code error;
    for (int n = 1; saved.empty() || std::filesystem::exists(saved, error); ++n)
        saved = book_.string() + ".rescued-" + std::to_string(n);
    const auto rescued = shop::rescue(book_, saved);
    const auto ok = rescued ? shop::restore(book_, saved) : tl::unexpected(rescued.error());
    if (ok) std::filesystem::remove(saved, error);
    open_book();
    if (!ok) return say(ok.error());
    notice_->tell(tr("What was whole is in the book; the damaged file is kept beside it."));
}

void MainWindow::closeEvent(QCloseEvent* event) {
    take_typing();
    if (job_view_ && !job_view_->session().keeper().finish(3000)) {
        // Once more with the reason in sight; closing a second time lets go.
        if (!property("warned").toBool()) {
            setProperty("warned", true);
            event->ignore();
            return;
        }
    }
    event->accept();
}

} // namespace conductus::app
