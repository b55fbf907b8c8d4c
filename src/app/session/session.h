// SPDX-License-Identifier: GPL-3.0-or-later
// The open job: its edits, its history, and the plan that follows from it.
#pragma once

#include <QFutureWatcher>
#include <QObject>
#include <QThreadPool>
#include <memory>
#include <vector>

#include "app/session/keeper.h"
#include "core/job/edits.h"
#include "core/plan/plan.h"

namespace conductus::app {

using JobPtr = std::shared_ptr<const job::Job>;
using PlanPtr = std::shared_ptr<const plan::Plan>;
using CataloguePtr = std::shared_ptr<const catalogue::Catalogue>;

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
    Result<void> edit(const QString& label, const job::Edit& change);

    [[nodiscard]] bool can_undo() const { return at_ > 0; }
    [[nodiscard]] bool can_redo() const { return at_ + 1 < history_.size(); }
    [[nodiscard]] QString undo_label() const;
    [[nodiscard]] QString redo_label() const;
    void undo();
    void redo();

    [[nodiscard]] bool analysing() const { return running_; }
    Keeper& keeper() { return *keeper_; }

signals:
    void job_changed();
    void figures_changed();
    void plan_changed();
    void not_kept(conductus::Problem problem);
    void kept();

private:
    struct State {
        QString label;
        JobPtr job; ///< null until it is needed: states from the book are read when stepped to
        std::string document;
    };
    Session(CataloguePtr parts);
    void go_to(std::size_t at);
    void show_job(JobPtr job);
    void analyse();

    CataloguePtr parts_;
    JobPtr job_;
    PlanPtr figures_, plan_, before_;
    std::vector<State> history_;
    std::size_t at_ = 0;
    std::int64_t first_seq_ = 0;
    std::unique_ptr<Keeper> keeper_;
    QThreadPool pool_;
    QFutureWatcher<PlanPtr>* running_ = nullptr;
};

} // namespace conductus::app
