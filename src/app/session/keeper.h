// SPDX-License-Identifier: GPL-3.0-or-later
// Keeps every edit in the shop book, off the interface thread.
#pragma once

#include <QObject>
#include <QThread>
#include <QTimer>
#include <deque>
#include <memory>
#include <optional>

#include "core/job/job.h"
#include "shop/book.h"

namespace conductus::app {

/// One thing to keep: a new state, or a step through the history.
struct Keep {
    std::shared_ptr<const job::Job> job; ///< null: a step to `to`
    std::string label;
    std::int64_t to = 0;
    files::Attachments attachments; ///< pictures and states the job has come to name
};

/// Lives in a thread of its own. What can not be kept yet (locked book, full disk) is tried again
/// every second, in order, until it is. What another program wrote is never written over: once it
/// changed the job, nothing more is kept.
class KeeperWorker : public QObject {
    Q_OBJECT
public:
    KeeperWorker(std::filesystem::path book, shop::JobId id, std::int64_t seq);

public slots:
    void take(conductus::app::Keep keep);
    void work();
    void start_watching();

signals:
    void kept(qsizetype waiting);
    void not_kept(QString where, QString what, QString mend);
    /// Another program changed the job; `waiting` edits of ours came too late.
    void overtaken();

private:
    Result<void> open();
    Result<void> write(const Keep& keep);
    void look();
    bool is_overtaken();

    std::filesystem::path path_;
    std::optional<shop::Book> book_;
    shop::JobId id_;
    std::int64_t seq_;
    std::int64_t version_ = -1; ///< of the book's data, as this connection last saw it
    bool overtaken_ = false;
    std::deque<Keep> waiting_;
    QTimer* retry_ = nullptr;
};

class Keeper : public QObject {
    Q_OBJECT
public:
    Keeper(const std::filesystem::path& book, shop::JobId id, std::int64_t seq,
           QObject* parent = nullptr);
    ~Keeper() override;

    void keep(std::shared_ptr<const job::Job> job, const QString& label,
              files::Attachments attachments = {});
    void step_to(std::int64_t seq);

    /// Waits until everything is kept, or `milliseconds` have passed, or it never will be since
    /// another program was first. True if it is.
    bool finish(int milliseconds);
    [[nodiscard]] bool all_kept() const { return sent_ == done_; }

signals:
    void kept();
    void not_kept(conductus::Problem problem);
    void overtaken(qsizetype waiting);
    void take(conductus::app::Keep keep);

private:
    QThread thread_;
    qsizetype sent_ = 0, done_ = 0;
    bool overtaken_ = false;
};

} // namespace conductus::app
