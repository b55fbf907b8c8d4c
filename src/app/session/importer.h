// SPDX-License-Identifier: GPL-3.0-or-later
// Takes jobs into the book off the interface thread, with progress, and can be stopped.
#pragma once

#include <QObject>
#include <QThreadPool>
#include <atomic>
#include <memory>

#include "app/session/session.h"
#include "shop/transfer.h"

namespace conductus::app {

class Importer : public QObject {
    Q_OBJECT
public:
    explicit Importer(CataloguePtr parts, QObject* parent = nullptr);
    ~Importer() override;
    /// False where one is under way: one after the other.
    bool take_in(const std::filesystem::path& book, const std::filesystem::path& path);
    void stop();
    [[nodiscard]] bool busy() const { return busy_; }

signals:
    void progressed(int percent);
    void taken_in(conductus::shop::Passed passed);
    void refused(conductus::Problem problem);
    void stopped();

private:
    void finish(const Result<shop::Passed>& passed);

    CataloguePtr parts_;
    QThreadPool pool_;
    std::shared_ptr<std::atomic<bool>> stop_;
    bool busy_ = false;
};

} // namespace conductus::app
