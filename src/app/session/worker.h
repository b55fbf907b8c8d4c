// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <atomic>
#include <functional>
#include <thread>

namespace conductus::app {

/// One long piece of work off the interface thread that tells how far it is and can be stopped.
/// Going away, it stops and waits.
class Worker : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;
    ~Worker() override {
        stop();
        if (thread_.joinable()) thread_.join();
    }
    [[nodiscard]] bool working() const { return working_; }
    void stop() { stop_ = true; }
    [[nodiscard]] bool stopped() const { return stop_; }

    /// `work` runs on another thread, `then` on this one when it is done, stopped or not. Not while
    /// working.
    void start(std::function<void()> work, std::function<void()> then) {
        if (working_) return;
        if (thread_.joinable()) thread_.join();
        working_ = true;
        stop_ = false;
        thread_ = std::thread([this, work = std::move(work), then = std::move(then)] {
            work();
            QMetaObject::invokeMethod(this, [this, then] {
                working_ = false;
                then();
            });
        });
    }
    /// From any thread: how many of how many steps are done.
    void tell(std::size_t done, std::size_t all) {
        QMetaObject::invokeMethod(this, [this, done, all] {
            emit progressed(static_cast<int>(done), static_cast<int>(all));
        });
    }

signals:
    void progressed(int done, int all);

private:
    std::thread thread_;
    std::atomic<bool> stop_{false};
    bool working_ = false;
};

} // namespace conductus::app
