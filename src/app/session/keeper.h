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
    files::Attachments attachments; ///< pictures, states and own parts the job has come to name
    std::shared_ptr<const job::Job> stands; ///< the job as it stands after it
};

/// The job that is kept: in which book, and what the book last had of it.
struct JobInBook {
    std::filesystem::path book;
    std::string identity; ///< of the book
    shop::JobId id = 0;
    std::string uid;
    shop::At at;
    std::shared_ptr<const catalogue::Catalogue> parts;
};

/// Lives in a thread of its own. What can not be kept yet (locked book, full disk, a book that is
/// no longer at its place) is tried again every second, in order, until it is, and lies in a file
/// of its own meanwhile. What another program wrote is never written over: once it changed the job,
/// nothing more is kept.
class KeeperWorker : public QObject {
    Q_OBJECT
public:
    explicit KeeperWorker(JobInBook job);

public slots:
    void take(conductus::app::Keep keep);
    void work();
    void start_watching();

signals:
    void kept(qsizetype waiting);
    void not_kept(conductus::Problem problem);
    /// The book is at its place again, and nothing waits.
    void found_again();
    /// Another program changed the job; `waiting` edits of ours came too late.
    void overtaken();
    /// It looked at the book, or tried to write what waits, whatever came of it.
    void looked_or_tried();

private:
    Result<void> open();
    Result<void> write(const Keep& keep);
    void look();
    bool is_overtaken();
    void put_aside(bool with_what_the_book_has);

    JobInBook job_;
    std::optional<shop::Book> book_;
    std::int64_t version_ = -1; ///< of the book's data, as this connection last saw it
    bool overtaken_ = false, lost_ = false, aside_ = false;
    std::deque<Keep> waiting_;
    files::Attachments attachments_; ///< of all that waits
    QTimer* retry_ = nullptr;
};

class Keeper : public QObject {
    Q_OBJECT
public:
    explicit Keeper(JobInBook job, QObject* parent = nullptr);
    ~Keeper() override;

    void keep(std::shared_ptr<const job::Job> job, const QString& label,
              files::Attachments attachments = {});
    void step_to(std::int64_t seq, std::shared_ptr<const job::Job> stands);

    /// Waits until everything is kept, or `milliseconds` have passed, or it never will be since
    /// another program was first. True if it is.
    bool finish(int milliseconds);
    [[nodiscard]] bool all_kept() const { return sent_ == done_; }
    /// How often it looked at the book or tried to write what waits.
    [[nodiscard]] int rounds() const { return rounds_; }
    /// What waits is kept elsewhere, or not wanted: no file is left of it.
    void let_go();

signals:
    void kept();
    void not_kept(conductus::Problem problem);
    void overtaken(qsizetype waiting);
    void take(conductus::app::Keep keep);

private:
    QThread thread_;
    std::filesystem::path book_;
    std::string uid_;
    qsizetype sent_ = 0, done_ = 0;
    int rounds_ = 0;
    bool overtaken_ = false, let_go_ = false;
};

} // namespace conductus::app
