// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/comparer.h"

#include <QCoreApplication>
#include <QPointer>

namespace conductus::app {

Comparer::Comparer(CataloguePtr parts, QObject* parent)
    : QObject(parent), parts_(std::move(parts)) {
    pool_.setMaxThreadCount(1);
}

Comparer::~Comparer() {
    pool_.clear();
    pool_.waitForDone();
}

void Comparer::compare(JobPtr before, JobPtr after) {
    pool_.clear();
    pool_.start([self = QPointer(this), n = ++asked_, parts = parts_, before, after] {
        const auto a = plan::analyse_figures(before, parts),
                   b = plan::analyse_figures(after, parts);
        QMetaObject::invokeMethod(qApp, [self, n, c = plan::compare(a, b)] {
            if (self && self->asked_ == n) emit self->compared(c);
        });
    });
}

} // namespace conductus::app
