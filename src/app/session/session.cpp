// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/session.h"
#include "app/session/words.h"

#include <QtConcurrentMap>
#include <numeric>

#include "core/job/places.h"
#include "core/job/validate.h"
#include "core/job/words.h"
#include "core/plan/analyse.h"
#include "core/plan/fixes.h"
#include "core/plan/sets.h"
#include "files/job_json.h"
#include "files/own_parts.h"

namespace conductus::app {

// The thread that waits for the others works as well.
void side_by_side(std::size_t count, const std::function<void(std::size_t)>& task) {
    std::vector<std::size_t> tasks(count);
    std::iota(tasks.begin(), tasks.end(), std::size_t{0});
    QtConcurrent::blockingMap(tasks, [&](std::size_t& i) { task(i); });
}

Session::Session(CataloguePtr parts, std::filesystem::path book, shop::JobId id)
    : parts_(std::move(parts)), given_(parts_), book_(std::move(book)), id_(id) {
    pool_.setMaxThreadCount(1);
}

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
    std::unique_ptr<Session> session(new Session(std::move(parts), path, id));
    if (auto ok = session->read(); !ok) return tl::unexpected(ok.error());
    session->analyse();
    return session;
}

Result<void> Session::read() {
    auto book = shop::Book::open(book_, shop::Access::read_write);
    if (!book) return tl::unexpected(book.error());
    if (!uid_.empty()) {
        const auto id = book->id_of(uid_);
        if (!id) return tl::unexpected(id.error());
        id_ = *id;
    }
    auto opened = book->load(id_, *given_);
    if (!opened) return tl::unexpected(opened.error());
    auto states = book->history(id_);
    if (!states) return tl::unexpected(states.error());

    history_.clear();
    for (auto& state : *states) {
        if (state.seq == opened->at.seq) at_ = history_.size();
        history_.push_back({QString::fromStdString(state.label),
                            QDateTime::fromString(QString::fromStdString(state.at), Qt::ISODate),
                            nullptr, shop::At(state.seq, state.stamp)});
    }
    first_seq_ = states->front().seq;
    uid_ = opened->uid;
    own_ = std::move(opened->own);
    if (!own_.definitions.empty()) {
        older_.push_back(parts_);
        parts_ = opened->parts;
    }
    job_ = std::make_shared<const job::Job>(std::move(opened->job));
    history_[at_].job = job_;
    // What is not kept of ours was seen and is not wanted, or is kept elsewhere.
    if (overtaken_ && keeper_) keeper_->let_go();
    overtaken_ = false;
    keeper_ =
        std::make_unique<Keeper>(JobInBook{book_, book->identity(), id_, uid_, opened->at, parts_});
    connect(keeper_.get(), &Keeper::not_kept, this, &Session::not_kept);
    connect(keeper_.get(), &Keeper::kept, this, &Session::kept);
    connect(keeper_.get(), &Keeper::overtaken, this, [this](qsizetype waiting) {
        overtaken_ = true;
        emit overtaken(waiting);
    });
    return {};
}

Result<void> Session::read_again() {
    if (auto ok = read(); !ok) return ok;
    preview_.reset();
    before_.reset();
    analyse();
    emit job_changed();
    return {};
}

Result<void> Session::preview(const job::Edit& change) {
    auto next = std::make_shared<job::Job>(*job_);
    if (auto ok = change(*next); !ok) return end_preview(), ok;
    if (auto ok = job::validate(*next, *parts_); !ok) return ok;
    preview_ = std::move(next);
    analyse();
    return {};
}

void Session::end_preview() {
    if (!preview_) return;
    preview_.reset();
    if (figures_) emit figures_changed();
    if (plan_) emit plan_changed();
}

Result<job::Job> Session::tried(const job::Edit& change) const {
    job::Job next = *job_;
    if (auto ok = change(next); !ok) return tl::unexpected(ok.error());
    if (next == *job_) return next;
    if (auto ok = job::validate(next, *parts_); !ok) {
        Problem problem = ok.error();
        problem.where = job::said_place(next, problem.where);
        return tl::unexpected(std::move(problem));
    }
    return next;
}

void Session::change(const QString& label, const job::Edit& change,
                     files::Attachments attachments) {
    if (auto ok = edit(label, change, std::move(attachments)); !ok) emit refused(label, ok.error());
}

void Session::fit(const QString& label, const job::Edit& edit_of) {
    change(label, job::fitted_as_usual(edit_of, habits_, *parts_));
}

Result<void> Session::edit(const QString& label, const job::Edit& change,
                           files::Attachments attachments) {
    auto tried = this->tried(change);
    if (!tried) return end_preview(), tl::unexpected(tried.error());
    if (*tried == *job_) return end_preview(), Result<void>();
    files::name_own_parts(*tried, *parts_);
    auto next = std::make_shared<job::Job>(std::move(*tried));
    preview_.reset();
    attachments.merge(files::own_parts_of(*next, *parts_));
    added_.insert(attachments.begin(), attachments.end());
    history_.resize(at_ + 1);
    history_.push_back({label, QDateTime::currentDateTimeUtc(), next, {}});
    ++at_;
    keeper_->keep(next, label, std::move(attachments));
    show_job(std::move(next));
    return {};
}

Result<void> Session::mark(job::Mark mark, const QString& note) {
    std::string document = files::kept_text(*job_);
    const std::string id = files::content_id(document);
    const std::string day = QDate::currentDate().toString(Qt::ISODate).toStdString();
    return edit(tr("Milestone: %1").arg(term(job::word(mark))),
                job::add_milestone({mark, day, note.toStdString(), id}),
                {{id, {"job", std::move(document)}}});
}

Result<files::Attachment> Session::attachment(const std::string& id) const {
    if (const auto it = added_.find(id); it != added_.end()) return it->second;
    auto book = shop::Book::open(book_, shop::Access::read_only);
    if (!book) return tl::unexpected(book.error());
    return book->attachment(id);
}

Result<files::Attachments> Session::attachments() const {
    auto book = shop::Book::open(book_, shop::Access::read_only);
    if (!book) return tl::unexpected(book.error());
    files::Attachments all = added_;
    // What the book does not have yet is among those just added.
    job::Job rest = *job_;
    std::erase_if(rest.milestones, [&](auto& m) { return added_.contains(m.kept); });
    for (auto& item : rest.inspection)
        std::erase_if(item.pictures, [&](auto& p) { return added_.contains(p.id); });
    auto kept = book->attachments_of(rest);
    if (!kept) return kept;
    all.merge(*kept);
    return all;
}

Result<job::Job> Session::kept_job(std::size_t milestone) const {
    const auto kept = attachment(job_->milestones.at(milestone).kept);
    if (!kept) return tl::unexpected(kept.error());
    return files::parse_stored(kept->bytes, *parts_, job_->name);
}

std::vector<Session::Past> Session::history() const {
    std::vector<Past> list;
    for (const State& state : history_)
        list.push_back({state.label, state.at});
    return list;
}

Result<JobPtr> Session::state(std::size_t index) const {
    const State& state = history_.at(index);
    if (!state.job) {
        auto book = shop::Book::open(book_, shop::Access::read_only);
        if (!book) return tl::unexpected(book.error());
        const auto document = book->document(id_, state.in_book);
        if (!document) return tl::unexpected(document.error());
        auto job = files::parse_stored(*document, *parts_, state.label.toStdString());
        if (!job) return tl::unexpected(job.error());
        state.job = std::make_shared<const job::Job>(std::move(*job));
    }
    return state.job;
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
    const auto job = state(at);
    if (!job) {
        emit not_kept(job.error());
        return;
    }
    at_ = at;
    keeper_->step_to(first_seq_ + static_cast<std::int64_t>(at), *job);
    show_job(*job);
}

void Session::show_job(JobPtr job) {
    preview_.reset();
    if (figures_ && figures_->whole == job_) before_ = figures_;
    const bool other_parts = job->planned_with != job_->planned_with;
    job_ = std::move(job);
    if (other_parts) follow_own_parts();
    analyse(); // at once: pages are drawn while it works
    emit job_changed();
}

void Session::follow_own_parts() {
    if (own_.definitions.empty()) return;
    older_.push_back(parts_);
    parts_ =
        std::make_shared<const catalogue::Catalogue>(files::catalogue_for(*job_, *given_, own_));
}

PlanPtr Session::asked_of(bool job_is_enough) const {
    if (figures_ || !job_is_enough) return figures_;
    plan::Plan bare;
    bare.job = bare.whole = job_;
    bare.parts = parts_;
    return std::make_shared<const plan::Plan>(std::move(bare));
}

namespace {
/// An analysis comes in three: figures, the same with fixes, and all of it.
constexpr int whole_stage = 2;
} // namespace

void Session::analyse() {
    if (running_) {
        // Its end sees that the job has moved on. What is dragged is shown on its way, though.
        if (!preview_) running_->cancel();
        return;
    }
    analysed_ = preview_ ? preview_ : job_;
    auto* watcher = running_ = new QFutureWatcher<PlanPtr>(this);
    // Newest wins: what belongs to an older job is dropped.
    connect(watcher, &QFutureWatcher<PlanPtr>::resultReadyAt, this, [this, watcher](int stage) {
        const PlanPtr plan = watcher->resultAt(stage);
        latest_ = plan;
        if (plan->whole != job_) {
            if (preview_ && stage == 0) emit previewed(plan);
            return;
        }
        if (stage < whole_stage) {
            figures_ = plan;
            if (stage == 0)
                emit figures_changed();
            else
                emit fixes_offered();
        } else {
            plan_ = plan;
            emit plan_changed();
        }
    });
    connect(watcher, &QFutureWatcher<PlanPtr>::finished, this, [this, watcher] {
        watcher->deleteLater();
        running_ = nullptr;
        const bool dragged_on = preview_ && analysed_ != preview_;
        if (dragged_on || (!preview_ && (!plan_ || plan_->whole != job_))) analyse();
    });
    auto promise = std::make_shared<QPromise<PlanPtr>>();
    watcher->setFuture(promise->future());
    // Only figures are made of what is being dragged.
    pool_.start(
        [promise, job = analysed_, parts = parts_, whole_too = !preview_, before = latest_] {
            promise->start();
            auto figures = std::make_shared<const plan::Plan>(
                plan::analyse_figures(job, parts, before.get(), side_by_side));
            promise->addResult(figures, 0);
            const auto stop = [&] { return promise->isCanceled(); };
            if (whole_too && !stop()) {
                // Fixes are judged first: somebody may be waiting to take one.
                auto mended = std::make_shared<plan::Plan>(*figures);
                if (plan::judge_worst_set(*mended, side_by_side, stop) &&
                    plan::offer_fixes(*mended, stop, side_by_side)) {
                    promise->addResult(PlanPtr(mended), 1);
                    auto whole = std::make_shared<plan::Plan>(*mended);
                    if (plan::add_options(*whole, stop, side_by_side))
                        promise->addResult(PlanPtr(whole), whole_stage);
                }
            }
            promise->finish();
        });
}

} // namespace conductus::app
