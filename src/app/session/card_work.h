// SPDX-License-Identifier: GPL-3.0-or-later
// A memory card read or prepared beside the window, with its progress; stoppable.
#pragma once

#include <QObject>
#include <QString>
#include <QThreadPool>
#include <atomic>
#include <functional>
#include <memory>

#include "files/card_prepare.h"
#include "files/card_reader.h"

namespace conductus::app {

/// A card that was read, or why not.
using CardRead = std::shared_ptr<const Result<card::Card>>;

class CardWork : public QObject {
    Q_OBJECT
public:
    explicit CardWork(QObject* parent);
    ~CardWork() override;

    [[nodiscard]] bool busy() const { return busy_; }
    /// Reads the card. Work under way is stopped first, and tells nothing any more.
    void read(const QString& folder, card::Layout layout);
    void prepare(files::CardPlan plan, const QString& from, const QString& to);
    void stop();

signals:
    void progressed(int files, int of_files, double megabytes, double of_megabytes);
    void was_read(const conductus::app::CardRead& card);
    void was_prepared(const conductus::Result<std::size_t>& copied);

private:
    template <class Work, class Done>
    void begin(Work work, Done done);
    [[nodiscard]] files::CardWatch watch(std::shared_ptr<std::atomic<bool>> stopped);
    QThreadPool pool_;
    std::shared_ptr<std::atomic<bool>> stopped_;
    bool busy_ = false;
};

} // namespace conductus::app
