// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QThreadPool>
#include <functional>

namespace conductus::app {

/// Makes things off the interface thread, one after the other; of what is asked for only the newest
/// is handed over, on the interface thread. Going away, it waits for what is being made.
template <class T>
class Newest {
public:
    Newest() { pool_.setMaxThreadCount(1); }
    ~Newest() {
        pool_.clear();
        pool_.waitForDone();
    }
    Newest(const Newest&) = delete;
    Newest& operator=(const Newest&) = delete;

    /// `make` must own all it reads.
    void ask(std::function<T()> make, std::function<void(T)> done) {
        pool_.clear();
        pool_.start([this, n = ++asked_, make = std::move(make), done = std::move(done)] {
            // Made into a call to the receiver, it goes with the receiver where that goes first.
            QMetaObject::invokeMethod(&receiver_, [this, n, done, made = make()] {
                if (n == asked_) done(made);
            });
        });
    }
    /// Waits until nothing is being made any more; what was made is handed over a turn later.
    void finish() { pool_.waitForDone(); }
    /// What was asked for is not wanted any more.
    void forget() { ++asked_; }

private:
    QObject receiver_;
    QThreadPool pool_;
    int asked_ = 0;
};

} // namespace conductus::app
