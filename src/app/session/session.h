// SPDX-License-Identifier: GPL-3.0-or-later
// The open job: its edits, its history, and the plan that follows from it.
#pragma once

#include <QDateTime>
#include <QFutureWatcher>
#include <QObject>
#include <QThreadPool>
#include <memory>
#include <vector>

#include "app/session/asking.h"
#include "app/session/keeper.h"
#include "core/job/edits.h"
#include "core/job/habits.h"
#include "core/plan/plan.h"

namespace conductus::app {

using CataloguePtr = std::shared_ptr<const catalogue::Catalogue>;

/// As many of the tasks at once as the machine has cores: what the core takes as a ParallelFor.
void side_by_side(std::size_t count, const std::function<void(std::size_t)>& task);

class Session : public QObject {
    Q_OBJECT
public:
    /// Opens a job of a book with its whole history. Error: as of shop::Book.
    static Result<std::unique_ptr<Session>> open(const std::filesystem::path& book, shop::JobId id,
                                                 CataloguePtr parts);
    ~Session() override;

    [[nodiscard]] const job::Job& job() const { return *job_; }
    [[nodiscard]] JobPtr job_ptr() const { return job_; }
    [[nodiscard]] const catalogue::Catalogue& parts() const { return *parts_; }
    /// The newest finished plan; null until the first is there. May be older than the job.
    [[nodiscard]] PlanPtr plan() const { return plan_; }
    /// The newest figures and findings: a plan without options, there before plan().
    [[nodiscard]] PlanPtr figures() const { return figures_; }
    /// The figures before the latest edit, to compare with; null before any edit.
    [[nodiscard]] PlanPtr before() const { return before_; }

    /// Applies a named edit to a copy. A job that would not be valid is refused: the problem comes
    /// back and nothing changes. An edit that changes nothing is no edit.
    [[nodiscard]] Result<void> edit(const QString& label, const job::Edit& change,
                                    files::Attachments attachments = {});
    /// The same where nothing on the page can tell a refusal: refused() tells it.
    void change(const QString& label, const job::Edit& change, files::Attachments attachments = {});
    /// The same for an edit that fits or wires parts, as the shop usually does it.
    void fit(const QString& label, const job::Edit& change);
    /// The shop's habits; none before.
    void set_habits(job::Habits habits) { habits_ = std::move(habits); }
    /// What the job would be, unless the edit would be refused.
    [[nodiscard]] Result<job::Job> tried(const job::Edit& change) const;

    /// Shows what an edit would bring while it is being dragged: figures are made of it and told by
    /// previewed(), job() stays what it is. The next edit, undo or end_preview() ends it. A job
    /// that would not be valid is refused.
    Result<void> preview(const job::Edit& change);
    void end_preview();

    /// Keeps the whole job as it stands as a milestone.
    Result<void> mark(job::Mark mark, const QString& note);
    /// A picture or kept document the job names, kept already or just added.
    [[nodiscard]] Result<files::Attachment> attachment(const std::string& id) const;
    /// The job a milestone kept.
    [[nodiscard]] Result<job::Job> kept_job(std::size_t milestone) const;
    /// All attachments the job names: to export it, or to keep it as another job.
    [[nodiscard]] Result<files::Attachments> attachments() const;

    /// Every state since the job was made, oldest first.
    struct Past {
        QString label;
        QDateTime at;
    };
    [[nodiscard]] std::vector<Past> history() const;
    [[nodiscard]] std::size_t at() const { return at_; }
    /// The job of a state of the history.
    [[nodiscard]] Result<JobPtr> state(std::size_t index) const;

    /// Reads the job anew, as another program left it. Edits of ours that came too late are gone.
    /// Error (Cause::missing): this very job is not in the book any more; nothing changes then.
    Result<void> read_again();
    [[nodiscard]] bool is_overtaken() const { return overtaken_; }

    [[nodiscard]] bool can_undo() const { return at_ > 0; }
    [[nodiscard]] bool can_redo() const { return at_ + 1 < history_.size(); }
    [[nodiscard]] QString undo_label() const;
    [[nodiscard]] QString redo_label() const;
    void undo();
    void redo();

    /// Asks what the plan does not hold, of the newest figures there are; as of Asking::ask(). As
    /// long as there are none only Between is asked at all.
    template <class Q>
    void ask(Q question, const QObject* asker, std::function<void(const plan::AnswerPtr<Q>&)> done,
             Asking::Told told = {}) {
        if (const PlanPtr of = asked_of(std::is_same_v<Q, plan::Between>))
            asking_.ask(of, std::move(question), asker, std::move(done), std::move(told));
    }
    Asking& asking() { return asking_; }
    Keeper& keeper() { return *keeper_; }

signals:
    /// An edit of change() can not be made.
    void refused(QString label, conductus::Problem problem);
    void job_changed();
    void figures_changed();
    /// The same figures; their findings have the fixes now that may be offered.
    void fixes_offered();
    void plan_changed();
    /// Figures of what is being dragged; the newest there are, if not yet of the newest drag.
    void previewed(conductus::app::PlanPtr figures);
    void not_kept(conductus::Problem problem);
    void kept();
    /// Another program changed the job after `waiting` edits here that were not kept in time.
    void overtaken(qsizetype waiting);

private:
    struct State {
        QString label;
        QDateTime at;
        mutable JobPtr job; ///< null until it is needed: states from the book are read then
        shop::At in_book;   ///< of those that were read from the book
    };
    Session(CataloguePtr parts, std::filesystem::path book, shop::JobId id);
    Result<void> read();
    void go_to(std::size_t at);
    void show_job(JobPtr job);
    void analyse();
    [[nodiscard]] PlanPtr asked_of(bool job_is_enough) const;

    /// Own parts are those that the job is planned with: another catalogue where that changes.
    void follow_own_parts();
    CataloguePtr parts_;
    CataloguePtr given_;              ///< without what the book knows of own parts
    std::vector<CataloguePtr> older_; ///< that edits and plans may still hold on to
    files::OwnParts own_;
    std::filesystem::path book_;
    shop::JobId id_;
    std::string uid_; ///< of the job, once it was read: ids may come to be another's
    bool overtaken_ = false;
    files::Attachments added_; ///< by this session: the book may not have them yet
    JobPtr job_;
    JobPtr preview_;  ///< being dragged; null: nothing is
    JobPtr analysed_; ///< what the worker has
    PlanPtr figures_, plan_, before_;
    PlanPtr latest_; ///< of whichever job: the next analysis takes from it what still holds
    std::vector<State> history_;
    std::size_t at_ = 0;
    std::int64_t first_seq_ = 0;
    job::Habits habits_;
    std::unique_ptr<Keeper> keeper_;
    QThreadPool pool_;
    QFutureWatcher<PlanPtr>* running_ = nullptr;
    Asking asking_;
};

} // namespace conductus::app
