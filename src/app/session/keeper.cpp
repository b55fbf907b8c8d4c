// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/keeper.h"

#include <QCoreApplication>
#include <QDeadlineTimer>

namespace conductus::app {

KeeperWorker::KeeperWorker(std::filesystem::path book, shop::JobId id, std::int64_t seq)
    : path_(std::move(book)), id_(id), seq_(seq) {}

void KeeperWorker::take(Keep keep) {
    waiting_.push_back(std::move(keep));
    if (waiting_.size() == 1) work();
}

Result<void> KeeperWorker::open() {
    if (book_) return {};
    auto book = shop::Book::open(path_, shop::Access::read_write);
    if (!book) return tl::unexpected(book.error());
    book_ = std::move(*book);
    return {};
}

Result<void> KeeperWorker::write(const Keep& keep) {
    if (auto ok = open(); !ok) return ok;
    if (!keep.job) {
        auto ok = book_->move(id_, seq_, keep.to);
        if (ok) seq_ = keep.to;
        return ok;
    }
    auto seq = book_->commit(id_, seq_, *keep.job, keep.label, keep.attachments);
    if (!seq) return tl::unexpected(seq.error());
    seq_ = *seq;
    return {};
}

bool KeeperWorker::is_overtaken() {
    const auto now = book_ ? book_->current(id_) : Result<std::int64_t>(seq_);
    return now && *now != seq_;
}

void KeeperWorker::start_watching() {
    auto* timer = new QTimer(this);
    connect(timer, &QTimer::timeout, this, &KeeperWorker::look);
    timer->start(700);
    look();
}

void KeeperWorker::look() {
    if (overtaken_ || !waiting_.empty() || !open()) return;
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
            if (is_overtaken()) {
                overtaken_ = true;
                emit overtaken();
                break;
            }
            emit not_kept(QString::fromStdString(ok.error().where),
                          QString::fromStdString(ok.error().what),
                          QString::fromStdString(ok.error().mend));
            if (!retry_) {
                retry_ = new QTimer(this);
                retry_->setInterval(1000);
                connect(retry_, &QTimer::timeout, this, &KeeperWorker::work);
            }
            retry_->start();
            return;
        }
        waiting_.pop_front();
        emit kept(static_cast<qsizetype>(waiting_.size()));
    }
    if (retry_) retry_->stop();
}

Keeper::Keeper(const std::filesystem::path& book, shop::JobId id, std::int64_t seq, QObject* parent)
    : QObject(parent) {
    qRegisterMetaType<Keep>();
    auto* worker = new KeeperWorker(book, id, seq);
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
    connect(worker, &KeeperWorker::not_kept, this,
            [this](const QString& where, const QString& what, const QString& mend) {
                emit not_kept({where.toStdString(), what.toStdString(), mend.toStdString()});
            });
    thread_.start();
}

Keeper::~Keeper() {
    finish(3000);
    thread_.quit();
    thread_.wait();
}

void Keeper::keep(std::shared_ptr<const job::Job> job, const QString& label,
                  files::Attachments attachments) {
    ++sent_;
    emit take({std::move(job), label.toStdString(), 0, std::move(attachments)});
}

void Keeper::step_to(std::int64_t seq) {
    ++sent_;
    emit take({nullptr, {}, seq, {}});
}

bool Keeper::finish(int milliseconds) {
    QDeadlineTimer deadline(milliseconds);
    while (!all_kept() && !overtaken_ && !deadline.hasExpired())
        QCoreApplication::processEvents(
            QEventLoop::ExcludeUserInputEvents | QEventLoop::WaitForMoreEvents, 20);
    return all_kept();
}

} // namespace conductus::app
