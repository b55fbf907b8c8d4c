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

Result<void> KeeperWorker::write(const Keep& keep) {
    if (!book_) {
        auto book = shop::Book::open(path_, shop::Access::read_write);
        if (!book) return tl::unexpected(book.error());
        book_ = std::move(*book);
    }
    if (!keep.job) {
        auto ok = book_->move(id_, seq_, keep.to);
        if (ok) seq_ = keep.to;
        return ok;
    }
    auto seq = book_->commit(id_, seq_, *keep.job, keep.label);
    if (!seq) return tl::unexpected(seq.error());
    seq_ = *seq;
    return {};
}

void KeeperWorker::work() {
    while (!waiting_.empty()) {
        if (auto ok = write(waiting_.front()); !ok) {
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

void Keeper::keep(std::shared_ptr<const job::Job> job, const QString& label) {
    ++sent_;
    emit take({std::move(job), label.toStdString(), 0});
}

void Keeper::step_to(std::int64_t seq) {
    ++sent_;
    emit take({nullptr, {}, seq});
}

bool Keeper::finish(int milliseconds) {
    QDeadlineTimer deadline(milliseconds);
    while (!all_kept() && !deadline.hasExpired())
        QCoreApplication::processEvents(
            QEventLoop::ExcludeUserInputEvents | QEventLoop::WaitForMoreEvents, 20);
    return all_kept();
}

} // namespace conductus::app
