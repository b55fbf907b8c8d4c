// SPDX-License-Identifier: GPL-3.0-or-later
// What pages ask of a job beside its plan: answered off the interface's thread, handed over on it.
#pragma once

#include <QObject>
#include <QPointer>
#include <QThreadPool>
#include <atomic>
#include <functional>
#include <memory>
#include <vector>

#include "core/plan/questions.h"

namespace conductus::app {

using JobPtr = std::shared_ptr<const job::Job>;
using PlanPtr = std::shared_ptr<const plan::Plan>;
using StudyPtr = plan::AnswerPtr<plan::UseLivedThrough>;

/// Answers on the calling thread, which is not the interface's: a Result of the question's own
/// answer.
std::shared_ptr<const void>
answer_here(const plan::Question& question, const plan::Plan& plan,
            const std::function<bool()>& stop = {},
            const std::function<void(std::size_t, std::size_t)>& told = {});

/// One queue for all questions, and the answers of the jobs looked at last.
///
/// Of each kind of question an asker has one open at a time: asking another one of that kind means
/// that the first is not wanted any more. The same question of the same job asked by several is
/// worked on once. Questions that take long wait for each other and for nothing else.
class Asking : public QObject {
    Q_OBJECT
public:
    explicit Asking(QObject* parent = nullptr);
    /// Stops what is being worked on and waits for it.
    ~Asking() override;

    using Told = std::function<void(std::size_t done, std::size_t all)>;

    /// `done` is called on the interface's thread: at once where the answer is there already, never
    /// where it was not wanted any more or the asker has gone. `told`: how far it is.
    template <class Q>
    void ask(const PlanPtr& plan, Q question, const QObject* asker,
             std::function<void(const plan::AnswerPtr<Q>&)> done, Told told = {}) {
        put(
            {plan, plan::Question(std::move(question))}, asker,
            [done = std::move(done)](const Answer& answer) {
                done(std::static_pointer_cast<const Result<typename Q::Answer>>(answer));
            },
            std::move(told));
    }
    /// The asker's question of that kind ends with what is known by now, which is handed over and
    /// not kept.
    template <class Q>
    void stop(const QObject* asker) {
        stop_kind(kind_of<Q>(), asker);
    }
    /// The asker does not want an answer of that kind any more.
    template <class Q>
    void forget(const QObject* asker) {
        forget_kind(kind_of<Q>(), asker);
    }
    template <class Q>
    [[nodiscard]] bool is_waiting(const QObject* asker) const {
        return is_waiting_for(kind_of<Q>(), asker);
    }
    /// Whether nothing is asked that is not answered.
    [[nodiscard]] bool is_idle() const { return open_.empty(); }

private:
    using Answer = std::shared_ptr<const void>; ///< a Result of the question's own answer
    struct Of {
        PlanPtr plan;
        plan::Question question;
        [[nodiscard]] bool same(const Of& other) const {
            return plan->whole == other.plan->whole && question == other.question;
        }
    };
    struct Listener {
        QPointer<const QObject> asker;
        std::function<void(const Answer&)> done;
        Told told;
    };
    struct Open {
        Of of;
        std::vector<Listener> listeners;
        std::atomic<bool> stop{false};  ///< ends with what there is
        std::atomic<bool> wanted{true}; ///< false: nobody listens any more
    };
    using OpenPtr = std::shared_ptr<Open>;

    template <class Q>
    static std::size_t kind_of() {
        return plan::Question(Q{}).index();
    }
    void put(Of of, const QObject* asker, std::function<void(const Answer&)> done, Told told);
    void work_on(const OpenPtr& open);
    void hand_over(const OpenPtr& open, const Answer& answer);
    void tell(const OpenPtr& open, std::size_t done, std::size_t all);
    void stop_kind(std::size_t kind, const QObject* asker);
    void forget_kind(std::size_t kind, const QObject* asker, const OpenPtr& but = nullptr);
    [[nodiscard]] bool is_waiting_for(std::size_t kind, const QObject* asker) const;

    std::vector<OpenPtr> open_;
    std::vector<std::pair<Of, Answer>> kept_; ///< the newest last
    QThreadPool quick_, long_;                ///< a thread each; what was asked last comes first
    int asked_ = 0;
};

} // namespace conductus::app
