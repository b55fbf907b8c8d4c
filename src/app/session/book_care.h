// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QThreadPool>
#include <QTimer>
#include <filesystem>

#include "app/session/session.h"
#include "core/base/problem.h"

namespace conductus::app {

/// Looks after the book in the background: checks it when it is opened, and backs it up once a day
/// while it changes.
class BookCare : public QObject {
    Q_OBJECT
public:
    explicit BookCare(CataloguePtr parts, QObject* parent = nullptr);
    ~BookCare() override;
    void look_after(const std::filesystem::path& book);

signals:
    void damaged(conductus::Problem problem);
    void not_backed_up(conductus::Problem problem);
    void looked_after();

private:
    void work();
    CataloguePtr parts_;
    std::filesystem::path book_;
    QThreadPool pool_;
    QTimer hourly_;
};

} // namespace conductus::app
