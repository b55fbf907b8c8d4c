// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shelf/shelf_page.h"

#include <QApplication>
#include <QDate>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPointer>
#include <QPushButton>
#include <QScrollArea>
#include <unordered_set>

#include "app/parts/parts_page.h"
#include "app/session/plan_in_book.h"
#include "app/session/words.h"
#include "app/shelf/new_job_panel.h"
#include "app/shell/fields.h"
#include "core/job/habits.h"
#include "core/job/edits.h"
#include "core/job/validate.h"
#include "core/job/words.h"
#include "files/own_parts.h"
#include "shop/backup.h"
#include "shop/rescue.h"

namespace conductus::app {
namespace {

constexpr int soon_days = 14;
constexpr std::size_t plans_held = 48;

} // namespace

ShelfPage::ShelfPage(CataloguePtr parts, const Appearance& appearance, QWidget* parent)
    : QWidget(parent), parts_(std::move(parts)), appearance_(appearance) {
    setObjectName("backdrop");
    setAttribute(Qt::WA_StyledBackground);
    pool_.setMaxThreadCount(1);
    make_rail();

    auto* bar = new QFrame(this);
    bar->setObjectName("paper");
    auto* row = new QHBoxLayout(bar);
    row->setContentsMargins(16, 8, 12, 8);
    search_ = new QLineEdit(bar);
    search_->setObjectName("search");
    search_->setAccessibleName(tr("Find in every job and note"));
    search_->setPlaceholderText(tr("Find in every job and note (Ctrl+F)"));
    search_->setClearButtonEnabled(true);
    row->addWidget(search_, 1);
    auto button = [&](const QString& text, const char* object) {
        auto* b = new QPushButton(text, bar);
        b->setObjectName(object);
        row->addWidget(b);
        return b;
    };
    retry_ = button(tr("Try again"), "retryBook");
    restore_ = button(tr("Go back to a backup"), "restoreBook");
    rescue_ = button(tr("Save what is whole"), "rescueBook");
    rescue_->setToolTip(tr("The damaged file is kept beside the book"));
    auto* make = button(tr("New job"), "newJob");
    make->setToolTip(tr("A blank job (Ctrl+N)"));
    auto* copy = button(tr("From a copy"), "copyJob");
    auto* import = button(tr("From a file"), "importJob");
    import->setToolTip(tr("A job file, or another shop book"));
    auto* list = button(tr("List as CSV"), "listCsv");
    makers_ = {make, copy, import, list};

    new_ = new NewJobPanel(appearance, this);
    message_ = label({}, "heading", this);
    message_->setObjectName("shelfMessage");
    message_->setWordWrap(true);
    message_->setContentsMargins(16, 16, 16, 16);
    scroll_ = new QScrollArea(this);
    scroll_->setObjectName("shelfScroll");
    scroll_->setWidgetResizable(true);
    scroll_->setFocusPolicy(Qt::NoFocus);
    scroll_->setFrameShape(QFrame::NoFrame);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    grid_ = new CardGrid(appearance, scroll_);
    scroll_->setWidget(grid_);

    jobs_ = new QWidget(this);
    auto* column = new QVBoxLayout(jobs_);
    column->setContentsMargins(12, 12, 6, 12);
    column->setSpacing(12);
    column->addWidget(bar);
    column->addWidget(new_);
    column->addWidget(message_);
    column->addWidget(scroll_, 1);
    auto* across = new QHBoxLayout(this);
    across->setContentsMargins(0, 0, 0, 0);
    across->setSpacing(0);
    across->addWidget(rail_);
    across->addWidget(jobs_, 1);
    parts_page_ = new PartsPage(parts_, appearance_, this);
    parts_page_->setContentsMargins(12, 12, 12, 12);
    connect(&parts_page_->shelf(), &OwnShelf::changed, this, [this] {
        const int own = static_cast<int>(parts_page_->shelf().own_ids().size());
        parts_button_->set_tail(QString::number(own));
        parts_button_->setAccessibleDescription(
            counted(own, tr("%1 part of the shop's own"), tr("%1 parts of the shop's own")));
    });
    parts_page_->hide();
    across->addWidget(parts_page_, 1);

    connect(make, &QPushButton::clicked, this, [this] { begin_new(false); });
    connect(copy, &QPushButton::clicked, this, [this] { begin_new(true); });
    connect(import, &QPushButton::clicked, this, &ShelfPage::import_wanted);
    connect(list, &QPushButton::clicked, this, &ShelfPage::list_wanted);
    connect(retry_, &QPushButton::clicked, this, &ShelfPage::retry);
    connect(restore_, &QPushButton::clicked, this,
            [this] { emit restore_wanted(shown_path(backup_)); });
    connect(rescue_, &QPushButton::clicked, this, &ShelfPage::rescue_wanted);
    connect(search_, &QLineEdit::textChanged, this, &ShelfPage::filter);
    connect(search_, &QLineEdit::returnPressed, this, [this] {
        if (!grid_->cards().empty()) grid_->cards().front()->setFocus(Qt::TabFocusReason);
    });
    connect(new_, &NewJobPanel::wanted, this, &ShelfPage::make_job);
    connect(&watch_, &QTimer::timeout, this, &ShelfPage::look);
    watch_.setInterval(1000);
    retry_->hide();
    restore_->hide();
    rescue_->hide();
    message_->hide();
}

ShelfPage::~ShelfPage() {
    pool_.clear();
    pool_.waitForDone();
}

void ShelfPage::make_rail() {
    rail_ = new QWidget(this);
    rail_->setObjectName("shelfRail");
    rail_->setAttribute(Qt::WA_StyledBackground);
    auto* column = new QVBoxLayout(rail_);
    column->setContentsMargins(0, 10, 0, 10);
    column->setSpacing(0);
    const QString names[] = {tr("All jobs"),         tr("Due soon"),    tr("In work"),
                             tr("Agreement broken"), tr("Handed over"), tr("Came back")};
    const char* objects[] = {"shelfAll",    "shelfSoon",   "shelfWork",
                             "shelfBroken", "shelfHanded", "shelfBack"};
    for (int i = 0; i < shelves; ++i) {
        auto* b = shelves_[static_cast<std::size_t>(i)] =
            new RailButton({}, names[i], appearance_, rail_);
        b->setObjectName(objects[i]);
        b->setAutoExclusive(true);
        column->addWidget(b);
        connect(b, &QAbstractButton::clicked, this, [this, i] {
            shelf_ = i;
            show_parts(false);
            filter();
        });
    }
    shelves_[all]->setChecked(true);
    column->addSpacing(14);
    parts_button_ = new RailButton({}, tr("Parts"), appearance_, rail_);
    parts_button_->setObjectName("shelfParts");
    parts_button_->setAutoExclusive(true);
    column->addWidget(parts_button_);
    connect(parts_button_, &QAbstractButton::clicked, this, [this] { show_parts(true); });
    column->addStretch();
    keep_width(rail_, appearance_, 13.5);
}

void ShelfPage::show_parts(bool parts) {
    // Without a book there are none of the shop's own, and what is to be done is said by the jobs.
    parts = parts && book_;
    if (parts == at_parts() && parts != parts_page_->isHidden()) return;
    jobs_->setVisible(!parts);
    parts_page_->setVisible(parts);
    if (parts) {
        parts_button_->setChecked(true);
        parts_page_->read(path_);
        parts_page_->show_list();
    } else {
        shelves_[static_cast<std::size_t>(shelf_)]->setChecked(true);
    }
}

bool ShelfPage::at_parts() const { return !parts_page_->isHidden(); }

QString ShelfPage::message() const { return message_->isHidden() ? QString() : message_->text(); }

void ShelfPage::show_message(const Problem& problem) {
    jobs_->show();
    parts_page_->hide();
    QString text = words(problem);
    const bool damaged = problem.cause == Cause::damaged;
    const bool gone = problem.cause == Cause::missing;
    std::optional<shop::Backup> backup;
    if (damaged || gone) backup = shop::newest_sound_backup(path_);
    // What can be saved, job by job: a backup may be older than what is still whole in the file.
    const auto whole =
        damaged ? shop::what_is_whole(path_) : Result<shop::Rescue>(tl::unexpected(problem));
    if (whole) {
        constexpr int most = 8;
        // What is to be done here has buttons; the command line has its own words for it.
        text = words(Problem{problem.where, problem.what, {}}.text()) + ". " +
               tr("Whichever you choose, the damaged file is kept beside the book.");
        QStringList complete, hurt;
        for (const shop::RescuedJob& job : whole->about) {
            const QString name = words(shown(job.name, 60));
            if (job.lost == 0 && job.notes.empty()) {
                complete << name;
                continue;
            }
            QString line = tr("%1: %2 can be saved, %3 lost")
                               .arg(name, counted(static_cast<int>(job.states), tr("%1 state"),
                                                  tr("%1 states")))
                               .arg(job.lost);
            for (const std::string& note : job.notes)
                line += "; " + words(shown(note, 120));
            hurt << line;
        }
        for (int i = 0; i < hurt.size() && i < most; ++i)
            text += "\n" + hurt[i];
        if (hurt.size() > most) text += "\n" + tr("and %1 more jobs").arg(hurt.size() - most);
        if (whole->jobs_lost > 0)
            text += "\n" + counted(static_cast<int>(whole->jobs_lost),
                                   tr("%1 job can not be saved"), tr("%1 jobs can not be saved"));
        if (!complete.isEmpty())
            text += "\n" + tr("Whole in this file: %1")
                               .arg(complete.size() <= most ? complete.join(", ")
                                                            : tr("%1 jobs").arg(complete.size()));
    }
    message_->setText(text);
    message_->show();
    retry_->show();
    restore_->setVisible(backup.has_value());
    rescue_->setVisible(whole.has_value());
    if (backup) {
        backup_ = backup->path;
        restore_->setText(tr("Go back to backup %1").arg(words(backup->about)));
    }
    for (auto* b : makers_)
        b->setEnabled(false);
    for (auto* shelf : shelves_)
        shelf->set_tail(QString(QChar(0x2013))); // how many is not known
}

void ShelfPage::close() {
    watch_.stop();
    pool_.clear();
    book_.reset();
}

void ShelfPage::read(const std::filesystem::path& path) {
    close();
    path_ = path;
    message_->hide();
    retry_->hide();
    restore_->hide();
    rescue_->hide();
    new_->hide();
    for (auto* b : makers_)
        b->setEnabled(true);
    version_ = -1;
    // A book that has gone and left its copies is not begun anew without a word.
    std::error_code error;
    if (!std::filesystem::exists(path, error) && !shop::backups_of(path).empty()) {
        grid_->show_cards({});
        return show_message({files::path_text(path),
                             tr("the shop book is not here, and its copies are").toStdString(),
                             tr("Put it back, or go back to a copy").toStdString(),
                             Cause::missing});
    }
    auto book = shop::Book::open(path, shop::Access::read_write);
    if (!book) {
        grid_->show_cards({});
        return show_message(book.error());
    }
    book_ = std::move(*book);
    parts_page_->read(path_);
    const auto version = book_->data_version();
    version_ = version ? *version : -1;
    read_entries();
    watch_.start();
    if (!grid_->cards().empty()) grid_->cards().front()->setFocus();
}

void ShelfPage::read_entries() {
    auto entries = book_->entries();
    if (!entries) return show_message(entries.error());
    entries_ = std::move(*entries);
    // What is promised first comes first; what is handed over comes last.
    auto key = [](const shop::Entry& e) {
        return std::tuple(e.stage == job::word(job::Stage::handed_over) && !e.came_back,
                          e.promised.empty(), e.promised, e.name);
    };
    std::sort(entries_.begin(), entries_.end(),
              [&](const auto& a, const auto& b) { return key(a) < key(b); });
    std::map<shop::JobId, JobCard*> there;
    for (const shop::Entry& entry : entries_) {
        JobCard*& card = there[entry.id];
        if (const auto it = cards_.find(entry.id); it != cards_.end()) {
            card = it->second;
            card->show_entry(entry);
            cards_.erase(it);
            continue;
        }
        card = new JobCard(entry, appearance_, grid_);
        connect(card, &JobCard::clicked, this, [this, id = entry.id] { emit job_chosen(id); });
        connect(card, &JobCard::plan_wanted, this, [this, card] { compute(card, 1); });
        connect(card, &JobCard::excerpt_wanted, this, [this, card] {
            if (!book_) return;
            const auto excerpt =
                book_->excerpt(card->entry().id, search_->text().trimmed().toStdString());
            if (excerpt) card->show_excerpt(QString::fromStdString(*excerpt));
        });
    }
    for (const auto& [id, gone] : cards_)
        gone->deleteLater();
    cards_ = std::move(there);
    filter();
    QTimer::singleShot(300, this, &ShelfPage::judge_rest);
}

void ShelfPage::judge_rest() {
    for (const shop::Entry& entry : entries_)
        if (JobCard* card = cards_.at(entry.id); !card->is_judged()) compute(card, 0);
}

void ShelfPage::look() {
    // Another file in its place is another book, or none.
    if (book_)
        if (const auto there = book_->check_place(); !there) {
            watch_.stop();
            return emit retry();
        }
    const auto version = book_ ? book_->data_version() : Result<std::int64_t>(version_);
    if (!version || *version == version_) return;
    version_ = *version;
    read_entries();
    if (at_parts()) parts_page_->follow();
}

bool ShelfPage::belongs(const JobCard& card, int shelf) const {
    const shop::Entry& e = card.entry();
    const bool done = e.stage == job::word(job::Stage::handed_over);
    switch (shelf) {
    case due_soon: {
        const QDate due = QDate::fromString(QString::fromStdString(e.promised), Qt::ISODate);
        return !done && due.isValid() && QDate::currentDate().daysTo(due) <= soon_days;
    }
    case in_work:
        return !done && e.stage != job::word(job::Stage::brief);
    case broken:
        return card.has_broken();
    case handed_over:
        return done;
    case came_back:
        return e.came_back;
    default:
        return true;
    }
}

void ShelfPage::count_shelves() {
    for (int i = 0; i < shelves; ++i) {
        int count = 0;
        for (const auto& [id, card] : cards_)
            count += belongs(*card, i);
        auto* b = shelves_[static_cast<std::size_t>(i)];
        b->set_tail(QString::number(count));
        b->setAccessibleDescription(counted(count, tr("%1 job"), tr("%1 jobs")));
    }
}

void ShelfPage::filter() {
    const QString words = search_->text().trimmed();
    std::unordered_set<shop::JobId> hits;
    if (!words.isEmpty() && book_) {
        const auto found = book_->matching(words.toStdString());
        if (!found) return show_message(found.error());
        hits.insert(found->begin(), found->end());
    }
    std::vector<JobCard*> shown;
    for (const shop::Entry& entry : entries_) {
        JobCard* card = cards_.at(entry.id);
        const bool hit = hits.contains(entry.id);
        card->be_found(hit);
        if (belongs(*card, shelf_) && (words.isEmpty() || hit)) shown.push_back(card);
    }
    count_shelves();
    if (retry_->isHidden()) {
        message_->setVisible(shown.empty());
        message_->setText(
            entries_.empty()
                ? tr("The book is empty. New job begins one; From a file takes one in.")
            : words.isEmpty()
                ? tr("No job is here. All jobs shows every one.")
                : tr("No job here holds “%1”. A few letters of each word are enough.").arg(words));
    }
    grid_->show_cards(std::move(shown));
}

void ShelfPage::compute(JobCard* card, int priority) {
    if (!book_) return;
    const shop::Entry& entry = card->entry();
    // Asked once for a state; once more if it came into sight while it waits behind others.
    const QString ask = words(entry.at.stamp);
    const QString asked = card->property("asked").toString();
    if (asked == ask + "!" || (asked == ask && priority == 0)) return;
    card->setProperty("asked", priority > 0 ? ask + "!" : ask);
    pool_.start(
        [page = QPointer(this), card = QPointer(card), id = entry.id, at = entry.at, path = path_,
         parts = parts_] {
            QMetaObject::invokeMethod(qApp, [page, card, at, plan = plan_in_book(path, id, parts)] {
                if (!page || !card || card->entry().at != at) return;
                card->setProperty("asked", {});
                if (!plan) return card->show_problem(plan.error());
                const bool was_broken = card->has_broken();
                card->show_plan(*plan);
                page->forget_far();
                if (card->has_broken() != was_broken) page->count_shelves();
            });
        },
        priority);
}

void ShelfPage::forget_far() {
    // Plans are large; cards far out of sight ask again when they come back into it.
    std::vector<JobCard*> with;
    for (const auto& [id, card] : cards_)
        if (card->has_plan()) with.push_back(card);
    if (with.size() <= plans_held) return;
    const QRect sight = scroll_->viewport()->rect();
    for (JobCard* card : with) {
        const QRect at(card->mapTo(scroll_->viewport(), QPoint(0, 0)), card->size());
        if (!card->isVisible() || !at.intersects(sight)) card->forget_plan();
    }
}

void ShelfPage::begin_new(bool copy) {
    show_parts(false);
    shop::JobId like = 0;
    if (copy && !entries_.empty()) {
        like = entries_.front().id;
        if (auto* card = qobject_cast<JobCard*>(QApplication::focusWidget()))
            like = card->entry().id;
    }
    new_->begin(entries_, like);
}

void ShelfPage::focus_search() {
    if (at_parts()) return parts_page_->focus_words();
    search_->setFocus(Qt::ShortcutFocusReason);
    search_->selectAll();
}

void ShelfPage::make_job(const QString& name, job::Kind kind, shop::JobId like) {
    if (!book_) return;
    job::Job job = job::blank(name.toStdString(), kind);
    if (const auto habits = book_->habits()) job::begin_with(job, *habits);
    QString label = tr("New job");
    if (like != 0) {
        auto old = book_->load(like, *parts_);
        if (!old) return new_->refuse(old.error());
        label = tr("Copy of %1").arg(QString::fromStdString(old->job.name));
        job = job::built_like(old->job, name.toStdString(), kind);
    }
    if (auto ok = job::validate(job, *parts_); !ok && ok.error().cause != Cause::unknown_part)
        return new_->refuse(ok.error());
    files::name_own_parts(job, *parts_);
    const auto id = book_->add(job, label.toStdString(), files::own_parts_of(job, *parts_));
    if (!id) return new_->refuse(id.error());
    new_->hide();
    emit job_chosen(*id);
}

} // namespace conductus::app
