// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/asking.h"

#include <QMetaObject>
#include <algorithm>

#include "app/session/session.h"
#include "core/plan/answers.h"

namespace conductus::app {
namespace {

/// Answers that are kept. A film, the largest, is about half a megabyte.
constexpr std::size_t answers_kept = 32;

/// Questions that keep every core busy for seconds.
bool takes_long(const plan::Question& question) {
    return std::holds_alternative<plan::WaysToBuild>(question) ||
           std::holds_alternative<plan::ManyDays>(question);
}

} // namespace

std::shared_ptr<const void> answer_here(const plan::Question& question, const plan::Plan& plan,
                                        const std::function<bool()>& stop,
                                        const std::function<void(std::size_t, std::size_t)>& told) {
    const plan::Answering by{side_by_side, stop, told};
    return std::visit(
        [&](const auto& q) -> std::shared_ptr<const void> {
            using Q = std::decay_t<decltype(q)>;
            return std::make_shared<const Result<typename Q::Answer>>(plan::answer(q, plan, by));
        },
        question);
}

Asking::Asking(QObject* parent) : QObject(parent) {
    quick_.setMaxThreadCount(1);
    long_.setMaxThreadCount(1);
}

Asking::~Asking() {
    for (const OpenPtr& open : open_)
        open->stop = true, open->wanted = false;
    for (QThreadPool* pool : {&quick_, &long_}) {
        pool->clear();
        pool->waitForDone();
    }
}

void Asking::put(Of of, const QObject* asker, std::function<void(const Answer&)> done, Told told) {
    const auto open = std::find_if(open_.begin(), open_.end(),
                                   [&](const OpenPtr& o) { return !o->stop && o->of.same(of); });
    if (open != open_.end()) {
        auto& listeners = (*open)->listeners;
        const auto it = std::find_if(listeners.begin(), listeners.end(),
                                     [&](const Listener& l) { return l.asker == asker; });
        Listener listener{asker, std::move(done), std::move(told)};
        if (it != listeners.end()) {
            *it = std::move(listener);
            return;
        }
        listeners.push_back(std::move(listener));
        return forget_kind(of.question.index(), asker, *open);
    }
    forget_kind(of.question.index(), asker);
    const auto known = std::find_if(kept_.begin(), kept_.end(),
                                    [&](const auto& kept) { return kept.first.same(of); });
    if (known != kept_.end()) {
        std::rotate(known, known + 1, kept_.end());
        const Answer answer = kept_.back().second; // `done` may ask something else
        return done(answer);
    }
    auto asked = std::make_shared<Open>();
    asked->of = std::move(of);
    asked->listeners.push_back({asker, std::move(done), std::move(told)});
    open_.push_back(asked);
    work_on(asked);
}

void Asking::work_on(const OpenPtr& open) {
    QThreadPool& pool = takes_long(open->of.question) ? long_ : quick_;
    const auto work = [this, open] {
        if (!open->wanted) return;
        const Answer answer = answer_here(
            open->of.question, *open->of.plan, [&] { return open->stop.load(); },
            [&](std::size_t done, std::size_t all) { tell(open, done, all); });
        QMetaObject::invokeMethod(this, [this, open, answer] { hand_over(open, answer); });
    };
    pool.start(work, ++asked_);
}

void Asking::hand_over(const OpenPtr& open, const Answer& answer) {
    std::erase(open_, open);
    // Moments are as many as a slider has places: the study they are of is kept.
    if (!open->stop && !std::holds_alternative<plan::MomentOf>(open->of.question)) {
        kept_.emplace_back(open->of, answer);
        if (kept_.size() > answers_kept) kept_.erase(kept_.begin());
    }
    for (const Listener& listener : open->listeners)
        if (listener.asker) listener.done(answer);
}

void Asking::tell(const OpenPtr& open, std::size_t done, std::size_t all) {
    QMetaObject::invokeMethod(this, [open, done, all] {
        for (const Listener& listener : open->listeners)
            if (listener.asker && listener.told) listener.told(done, all);
    });
}

void Asking::stop_kind(std::size_t kind, const QObject* asker) {
    for (const OpenPtr& open : open_)
        if (open->of.question.index() == kind)
            for (const Listener& listener : open->listeners)
                if (listener.asker == asker) open->stop = true;
}

void Asking::forget_kind(std::size_t kind, const QObject* asker, const OpenPtr& but) {
    for (const OpenPtr& open : open_) {
        if (open == but || open->of.question.index() != kind) continue;
        std::erase_if(open->listeners, [&](const Listener& l) { return l.asker == asker; });
        if (open->listeners.empty()) open->stop = true, open->wanted = false;
    }
    std::erase_if(open_, [](const OpenPtr& open) { return !open->wanted; });
}

bool Asking::is_waiting_for(std::size_t kind, const QObject* asker) const {
    return std::any_of(open_.begin(), open_.end(), [&](const OpenPtr& open) {
        return open->of.question.index() == kind &&
               std::any_of(open->listeners.begin(), open->listeners.end(),
                           [&](const Listener& l) { return l.asker == asker; });
    });
}

} // namespace conductus::app
