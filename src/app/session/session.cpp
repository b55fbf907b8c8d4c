// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/session.h"

#include "core/job/validate.h"
#include "files/job_json.h"

namespace conductus::app {

Session::Session(CataloguePtr parts) : parts_(std::move(parts)) { pool_.setMaxThreadCount(1); }

Session::~Session() {
    // An analysis under way has nobody to tell any more.
    if (running_) {
        running_->disconnect(this);
        running_->cancel();
    }
    pool_.waitForDone();
    // The keeper waits for its last writing in an event loop: while all of this session is there.
    keeper_.reset();
}

Result<std::unique_ptr<Session>> Session::open(const std::filesystem::path& path, shop::JobId id,
                                               CataloguePtr parts) {
    auto book = shop::Book::open(path, shop::Access::read_write);
    if (!book) return tl::unexpected(book.error());
    auto opened = book->load(id, *parts);
    if (!opened) return tl::unexpected(opened.error());
    auto history = book->history(id);
    if (!history) return tl::unexpected(history.error());

    std::unique_ptr<Session> session(new Session(std::move(parts)));
    for (auto& state : *history) {
        if (state.seq == opened->seq) session->at_ = session->history_.size();
        session->history_.push_back(
            {QString::fromStdString(state.label), nullptr, std::move(state.document)});
    }
    session->first_seq_ = history->front().seq;
    session->keeper_ = std::make_unique<Keeper>(path, id, opened->seq);
    connect(session->keeper_.get(), &Keeper::not_kept, session.get(), &Session::not_kept);
    connect(session->keeper_.get(), &Keeper::kept, session.get(), &Session::kept);
    session->job_ = std::make_shared<const job::Job>(std::move(opened->job));
    session->history_[session->at_].job = session->job_;
    session->analyse();
    return session;
}

Result<void> Session::edit(const QString& label, const job::Edit& change) {
    auto next = std::make_shared<job::Job>(*job_);
    change(*next);
    if (*next == *job_) return {};
    if (auto ok = job::validate(*next, *parts_); !ok) return ok;
    history_.resize(at_ + 1);
    history_.push_back({label, next, {}});
    ++at_;
    keeper_->keep(next, label);
    show_job(std::move(next));
    return {};
}

QString Session::undo_label() const { return can_undo() ? history_[at_].label : QString(); }
QString Session::redo_label() const { return can_redo() ? history_[at_ + 1].label : QString(); }

void Session::undo() {
    if (can_undo()) go_to(at_ - 1);
}
void Session::redo() {
    if (can_redo()) go_to(at_ + 1);
}

void Session::go_to(std::size_t at) {
    State& state = history_[at];
    if (!state.job) {
        auto job = files::parse_job(state.document, *parts_, state.label.toStdString());
        if (!job) {
            emit not_kept(job.error());
            return;
        }
        state.job = std::make_shared<const job::Job>(std::move(*job));
    }
    at_ = at;
    keeper_->step_to(first_seq_ + static_cast<std::int64_t>(at));
    show_job(state.job);
}

void Session::show_job(JobPtr job) {
    if (figures_ && figures_->job == job_) before_ = figures_;
    job_ = std::move(job);
    analyse(); // at once: pages are drawn while it works
    emit job_changed();
}

void Session::analyse() {
    if (running_) {
        running_->cancel(); // its end sees that the job has moved on
        return;
    }
    auto* watcher = running_ = new QFutureWatcher<PlanPtr>(this);
    // Newest wins: what belongs to an older job is dropped.
    connect(watcher, &QFutureWatcher<PlanPtr>::resultReadyAt, this, [this, watcher](int stage) {
        const PlanPtr plan = watcher->resultAt(stage);
        if (plan->job != job_) return;
        if (stage == 0) {
            figures_ = plan;
            emit figures_changed();
        } else {
            plan_ = plan;
            emit plan_changed();
        }
    });
    connect(watcher, &QFutureWatcher<PlanPtr>::finished, this, [this, watcher] {
        watcher->deleteLater();
        running_ = nullptr;
        if (!plan_ || plan_->job != job_) analyse();
    });
    auto promise = std::make_shared<QPromise<PlanPtr>>();
    watcher->setFuture(promise->future());
    pool_.start([promise, job = job_, parts = parts_] {
        promise->start();
        auto figures = std::make_shared<const plan::Plan>(plan::analyse_figures(job, parts));
        promise->addResult(figures, 0);
        if (!promise->isCanceled()) {
            auto whole = std::make_shared<plan::Plan>(*figures);
            plan::add_options(*whole);
            promise->addResult(whole, 1);
        }
        promise->finish();
    });
}

} // namespace conductus::app
