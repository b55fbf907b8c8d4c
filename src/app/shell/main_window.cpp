// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/main_window.h"

#include <QApplication>
#include <QCloseEvent>
#include <QFileDialog>
#include <QLabel>
#include <QLocale>
#include <QShortcut>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/shelf/shelf_page.h"
#include "app/shell/fields.h"
#include "app/shell/job_view.h"
#include "app/shell/theme.h"
#include "core/job/words.h"
#include "files/job_json.h"

namespace conductus::app {

MainWindow::MainWindow(CataloguePtr parts, std::filesystem::path book, QWidget* parent)
    : QMainWindow(parent), parts_(std::move(parts)), book_(std::move(book)) {
    setWindowTitle(tr("Conductus"));
    resize(1280, 800);
    setMinimumSize(1024, 700);
    auto* centre = new QWidget(this);
    centre->setObjectName("bench");
    auto* column = new QVBoxLayout(centre);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    make_top_strip(column);

    notice_ = new QWidget(centre);
    notice_->setObjectName("notice");
    notice_->setAttribute(Qt::WA_StyledBackground);
    auto* notice_row = new QHBoxLayout(notice_);
    notice_row->setContentsMargins(16, 6, 16, 6);
    notice_text_ = new QLabel(notice_);
    notice_text_->setObjectName("noticeText");
    notice_text_->setWordWrap(true);
    notice_text_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    auto* seen = new QToolButton(notice_);
    seen->setText(tr("Seen"));
    seen->setObjectName("noticeSeen");
    notice_row->addWidget(notice_text_, 1);
    notice_row->addWidget(seen);
    connect(seen, &QToolButton::clicked, this, &MainWindow::be_quiet);
    notice_->hide();
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
            QFileDialog::getOpenFileName(this, tr("Import a job"), {}, tr("Jobs (*.json)"), nullptr,
                                         QFileDialog::DontUseNativeDialog);
        if (!path.isEmpty()) import_job(path);
    });
    connect(&appearance_, &Appearance::changed, this, [this] { apply_theme(*this, appearance_); });
    apply_theme(*this, appearance_);
    make_shortcuts();
    follow_job();
}

MainWindow::~MainWindow() { close_job(); }

void MainWindow::make_top_strip(QLayout* column) {
    auto* strip = new QWidget(this);
    strip->setObjectName("topStrip");
    strip->setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(strip);
    row->setContentsMargins(16, 6, 12, 6);
    name_ = new QLabel(strip);
    name_->setObjectName("jobName");
    purpose_ = new QLabel(strip);
    purpose_->setObjectName("jobPurpose");
    row->addWidget(name_);
    row->addSpacing(10);
    row->addWidget(purpose_, 1);
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
    auto* night = button(tr("Night"), "night");
    night->setCheckable(true);
    connect(undo_, &QToolButton::clicked, this, [this] {
        if (job_view_) job_view_->session().undo();
    });
    connect(redo_, &QToolButton::clicked, this, [this] {
        if (job_view_) job_view_->session().redo();
    });
    connect(export_, &QToolButton::clicked, this, [this] {
        if (!job_view_) return;
        const QString name =
            QString::fromStdString(job_view_->session().job().name).toLower() + ".json";
        const QString path =
            QFileDialog::getSaveFileName(this, tr("Export the job"), name, tr("Jobs (*.json)"),
                                         nullptr, QFileDialog::DontUseNativeDialog);
        if (!path.isEmpty()) export_job(path);
    });
    connect(night, &QToolButton::toggled, this, [this, night](bool on) {
        night->setText(on ? tr("Day") : tr("Night"));
        appearance_.set_night(on);
    });
    column->addWidget(strip);
}

void MainWindow::make_shortcuts() {
    auto on = [this](const QKeySequence& keys, auto&& act) {
        connect(new QShortcut(keys, this), &QShortcut::activated, this, act);
    };
    for (std::size_t i = 0; i < station_count; ++i)
        on(QKeySequence(Qt::ALT | static_cast<Qt::Key>(Qt::Key_1 + static_cast<int>(i))),
           [this, i] {
               if (job_view_) job_view_->go_to(i);
           });
    on(QKeySequence(Qt::ALT | Qt::Key_0), [this] { show_shelf(); });
    on(QKeySequence(Qt::Key_F6), [this] {
        if (job_view_) job_view_->next_pane(false);
    });
    on(QKeySequence(Qt::SHIFT | Qt::Key_F6), [this] {
        if (job_view_) job_view_->next_pane(true);
    });
    on(QKeySequence(Qt::CTRL | Qt::Key_Z), [this] {
        if (job_view_) job_view_->session().undo();
    });
    on(QKeySequence(Qt::CTRL | Qt::Key_Y), [this] {
        if (job_view_) job_view_->session().redo();
    });
    on(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), [this] {
        if (job_view_) job_view_->session().redo();
    });
    for (const auto key : {Qt::Key_Plus, Qt::Key_Equal})
        on(QKeySequence(Qt::CTRL | key),
           [this] { appearance_.set_percent(appearance_.percent() + 10); });
    on(QKeySequence(Qt::CTRL | Qt::Key_Minus),
       [this] { appearance_.set_percent(appearance_.percent() - 10); });
}

void MainWindow::open_book() {
    close_job();
    be_quiet();
    stack_->setCurrentWidget(shelf_);
    shelf_->read(book_);
    follow_job();
}

void MainWindow::open_job(shop::JobId id) {
    close_job();
    auto session = Session::open(book_, id, parts_);
    if (!session) return say(session.error());
    be_quiet();
    job_view_ = new JobView(std::move(*session), appearance_, stack_);
    stack_->addWidget(job_view_);
    stack_->setCurrentWidget(job_view_);
    connect(job_view_, &JobView::shelf_wanted, this, &MainWindow::show_shelf);
    connect(&job_view_->session(), &Session::job_changed, this, &MainWindow::follow_job);
    connect(&job_view_->session(), &Session::not_kept, this, &MainWindow::say);
    connect(&job_view_->session(), &Session::kept, this, &MainWindow::be_quiet);
    follow_job();
    job_view_->focus_rail();
}

void MainWindow::take_typing() {
    QWidget* typed = job_view_ ? QApplication::focusWidget() : nullptr;
    if (typed && job_view_->isAncestorOf(typed)) typed->clearFocus();
}

void MainWindow::close_job() {
    if (!job_view_) return;
    take_typing();
    if (!job_view_->session().keeper().finish(3000))
        say({book_.string(), tr("the last edits are not kept").toStdString(),
             tr("Export the job to keep them").toStdString()});
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
        purpose_->setText(tr("Quayside Prop Workshop"));
        setWindowTitle(tr("Conductus"));
        return;
    }
    Session& session = job_view_->session();
    const job::Job& job = session.job();
    name_->setText(QString::fromStdString(job.name));
    QString purpose =
        QString::fromUtf8(job::word(job.kind).data()) + " " + QString::fromStdString(job.purpose);
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
    notice_text_->setText(QString::fromStdString(problem.text()));
    notice_->show();
}

void MainWindow::be_quiet() { notice_->hide(); }

void MainWindow::import_job(const QString& path) {
    auto job = files::read_job(path.toStdString(), *parts_);
    if (!job) return say(job.error());
    auto book = shop::Book::open(book_, shop::Access::read_write);
    if (!book) return say(book.error());
    // A name that is taken is not a reason to refuse a job: it comes in beside the other.
    auto list = book->entries();
    if (!list) return say(list.error());
    const std::string name = job->name;
    auto taken = [&] {
        return std::any_of(list->begin(), list->end(),
                           [&](const shop::Entry& e) { return e.name == job->name; });
    };
    for (int n = 2; taken(); ++n)
        job->name = name + " " + std::to_string(n);
    auto id = book->add(*job, tr("import from %1").arg(path).toStdString());
    if (!id) return say(id.error());
    open_book();
}

void MainWindow::export_job(const QString& path) {
    if (!job_view_) return;
    if (auto ok =
            files::write_text(path.toStdString(), files::job_text(job_view_->session().job()));
        !ok)
        say(ok.error());
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
