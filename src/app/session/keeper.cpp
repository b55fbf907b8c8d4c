// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/keeper.h"

#include <QCoreApplication>
#include <QDeadlineTimer>

#include "shop/unkept.h"

namespace conductus::app {
namespace {

/// How long one try waits for another program: it is told soon, and tried again.
constexpr int patience_ms = 2000;

} // namespace

KeeperWorker::KeeperWorker(JobInBook job) : job_(std::move(job)) {}

void KeeperWorker::take(Keep keep) {
    attachments_.insert(keep.attachments.begin(), keep.attachments.end());
    waiting_.push_back(std::move(keep));
    if (waiting_.size() == 1)
        work();
    else if (aside_)
        put_aside(false);
}

Result<void> KeeperWorker::open() {
    if (book_) return {};
    // A book that has gone is not made anew: what it held would seem to be lost.
    std::error_code error;
    if (!std::filesystem::exists(job_.book, error))
        return problem(files::path_text(job_.book), "the shop book was deleted or moved away",
                       "Put it back, or keep the work in a file", Cause::moved);
    auto book = shop::Book::open(job_.book, shop::Access::read_write);
    if (!book) {
        // An emptied or foreign file in its place: that it was the book is known here.
        if (book.error().cause == Cause::foreign || book.error().cause == Cause::damaged)
            book.error().cause = Cause::moved;
        return tl::unexpected(book.error());
    }
    book->be_patient(patience_ms);
    if (book->identity() != job_.identity)
        return problem(files::path_text(job_.book), "another shop book is at this place now",
                       "Put the book back, or go on in the one that is there", Cause::moved);
    book_ = std::move(*book);
    return {};
}

Result<void> KeeperWorker::write(const Keep& keep) {
    if (auto ok = open(); !ok) return ok;
    auto at = keep.job ? book_->commit(job_.id, job_.at, *keep.job, keep.label, keep.attachments)
                       : book_->move(job_.id, job_.at, keep.to);
    if (at) {
        job_.at = std::move(*at);
        return {};
    }
    // A file that is another one is looked at anew the next time.
    if (at.error().cause == Cause::moved) book_.reset();
    return tl::unexpected(at.error());
}

bool KeeperWorker::is_overtaken() {
    if (!book_) return false;
    const auto now = book_->current(job_.id);
    return now ? *now != job_.at : now.error().cause == Cause::missing;
}

void KeeperWorker::put_aside(bool with_what_the_book_has) {
    if (waiting_.empty() || !waiting_.back().stands) return;
    aside_ = true;
    files::JobFile file{*waiting_.back().stands, attachments_};
    // A book that another program holds would be waited for.
    if (book_ && with_what_the_book_has)
        if (auto more = book_->attachments_of(file.job)) file.attachments.merge(*more);
    (void)shop::keep_aside(job_.book, job_.uid, file, *job_.parts);
}

void KeeperWorker::start_watching() {
    auto* timer = new QTimer(this);
    connect(timer, &QTimer::timeout, this, [this] {
        look();
        emit looked_or_tried();
    });
    timer->start(700);
    look();
}

void KeeperWorker::look() {
    if (overtaken_ || !waiting_.empty()) return;
    auto there = open();
    if (there) there = book_->check_place();
    if (!there) {
        book_.reset();
        version_ = -1;
        // Told before anything is typed that could not be kept.
        if (there.error().cause == Cause::moved && !lost_) {
            lost_ = true;
            emit not_kept(there.error());
        }
        return;
    }
    if (lost_) {
        lost_ = false;
        emit found_again();
    }
    const auto version = book_->data_version();
    if (!version || *version == version_) return;
    version_ = *version;
    if (!is_overtaken()) return;
    overtaken_ = true;
    emit overtaken();
}

void KeeperWorker::work() {
    while (!waiting_.empty() && !overtaken_) {
        if (auto ok = write(waiting_.front()); !ok) {
            const Cause cause = ok.error().cause;
            overtaken_ = cause == Cause::overtaken || (cause == Cause::missing && book_);
            if (overtaken_)
                emit overtaken();
            else
                emit not_kept(ok.error());
            put_aside(cause != Cause::locked);
            if (overtaken_) break;
            if (!retry_) {
                retry_ = new QTimer(this);
                retry_->setInterval(1000);
                connect(retry_, &QTimer::timeout, this, [this] {
                    work();
                    emit looked_or_tried();
                });
            }
            retry_->start();
            return;
        }
        waiting_.pop_front();
        lost_ = false;
        if (waiting_.empty()) {
            attachments_.clear();
            if (aside_) shop::forget_aside(job_.book, job_.uid);
            aside_ = false;
        }
        emit kept(static_cast<qsizetype>(waiting_.size()));
    }
    if (retry_) retry_->stop();
}

Keeper::Keeper(JobInBook job, QObject* parent) : QObject(parent), book_(job.book), uid_(job.uid) {
    qRegisterMetaType<Keep>();
    qRegisterMetaType<Problem>();
    auto* worker = new KeeperWorker(std::move(job));
    worker->moveToThread(&thread_);
    connect(&thread_, &QThread::finished, worker, &QObject::deleteLater);
    connect(this, &Keeper::take, worker, &KeeperWorker::take);
    connect(&thread_, &QThread::started, worker, &KeeperWorker::start_watching);
    connect(worker, &KeeperWorker::overtaken, this, [this] {
        overtaken_ = true; // nothing more will be kept: whoever waits need not
        // Counted here: an edit may have been made since the worker looked.
        emit overtaken(static_cast<qsizetype>(sent_ - done_));
    });
    connect(worker, &KeeperWorker::kept, this, [this](qsizetype) {
        ++done_;
        if (all_kept()) emit kept();
    });
    connect(worker, &KeeperWorker::found_again, this, [this] {
        if (all_kept()) emit kept();
    });
    connect(worker, &KeeperWorker::not_kept, this, &Keeper::not_kept);
    connect(worker, &KeeperWorker::looked_or_tried, this, [this] { ++rounds_; });
    thread_.start();
}

Keeper::~Keeper() {
    if (!let_go_) finish(3000);
    thread_.quit();
    thread_.wait();
    if (let_go_) shop::forget_aside(book_, uid_);
}

void Keeper::keep(std::shared_ptr<const job::Job> job, const QString& label,
                  files::Attachments attachments) {
    ++sent_;
    emit take({job, label.toStdString(), 0, std::move(attachments), job});
}

void Keeper::step_to(std::int64_t seq, std::shared_ptr<const job::Job> stands) {
    ++sent_;
    emit take({nullptr, {}, seq, {}, std::move(stands)});
}

bool Keeper::finish(int milliseconds) {
    QDeadlineTimer deadline(milliseconds);
    while (!all_kept() && !overtaken_ && !deadline.hasExpired())
        QCoreApplication::processEvents(
            QEventLoop::ExcludeUserInputEvents | QEventLoop::WaitForMoreEvents, 20);
    return all_kept();
}

void Keeper::let_go() { let_go_ = true; }

} // namespace conductus::app
