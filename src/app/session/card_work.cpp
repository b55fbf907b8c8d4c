// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/card_work.h"

#include <QCoreApplication>
#include <QPointer>
#include <chrono>

#include "app/session/session.h"

namespace conductus::app {

CardWork::CardWork(QObject* parent) : QObject(parent) { pool_.setMaxThreadCount(1); }

CardWork::~CardWork() {
    stop();
    pool_.waitForDone();
}

void CardWork::stop() {
    if (stopped_) *stopped_ = true;
}

files::CardWatch CardWork::watch(std::shared_ptr<std::atomic<bool>> stopped) {
    using Clock = std::chrono::steady_clock;
    struct Told {
        std::atomic<Clock::rep> at = 0;
    };
    // At most twenty times a second: a card has thousands of files.
    return [self = QPointer(this), stopped,
            told = std::make_shared<Told>()](const files::CardProgress& p) {
        if (*stopped) return false;
        const auto now = Clock::now().time_since_epoch().count();
        const auto gap = std::chrono::duration_cast<Clock::duration>(std::chrono::milliseconds(50));
        auto last = told->at.load();
        const bool due = now - last > gap.count() || p.files == p.of_files;
        if (due && told->at.compare_exchange_strong(last, now))
            QMetaObject::invokeMethod(qApp, [self, stopped, p] {
                if (self && !*stopped)
                    emit self->progressed(static_cast<int>(p.files), static_cast<int>(p.of_files),
                                          static_cast<double>(p.bytes) / 1e6,
                                          static_cast<double>(p.of_bytes) / 1e6);
            });
        return true;
    };
}

template <class Work, class Done>
void CardWork::begin(Work work, Done done) {
    stop();
    auto stopped = stopped_ = std::make_shared<std::atomic<bool>>(false);
    busy_ = true;
    pool_.start([self = QPointer(this), stopped, work, done, watch = watch(stopped)] {
        auto result = work(watch);
        QMetaObject::invokeMethod(qApp, [self, stopped, done, result = std::move(result)] {
            if (!self || self->stopped_ != stopped) return; // other work began in the meantime
            self->busy_ = false;
            done(*self, result);
        });
    });
}

void CardWork::read(const QString& folder, card::Layout layout) {
    begin(
        [path = std::filesystem::path(folder.toStdString()), layout](const files::CardWatch& w) {
            return files::read_card(path, layout, side_by_side, w);
        },
        [](CardWork& self, const Result<card::Card>& card) {
            emit self.was_read(std::make_shared<const Result<card::Card>>(card));
        });
}

void CardWork::prepare(files::CardPlan plan, const QString& from, const QString& to) {
    begin(
        [plan = std::move(plan), from = std::filesystem::path(from.toStdString()),
         to = std::filesystem::path(to.toStdString())](const files::CardWatch& w) {
            return files::prepare_card(plan, from, to, w);
        },
        [](CardWork& self, const Result<std::size_t>& copied) { emit self.was_prepared(copied); });
}

} // namespace conductus::app
