// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>

#include "app/session/newest.h"
#include "app/session/session.h"
#include "core/plan/compare.h"

namespace conductus::app {

/// Compares two states of a job off the interface thread; only the newest question is answered.
class Comparer : public QObject {
    Q_OBJECT
public:
    explicit Comparer(CataloguePtr parts, QObject* parent = nullptr);
    void compare(JobPtr before, JobPtr after);

signals:
    void compared(conductus::plan::Comparison comparison);

private:
    CataloguePtr parts_;
    Newest<plan::Comparison> comparisons_;
};

} // namespace conductus::app
