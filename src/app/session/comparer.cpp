// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/comparer.h"

namespace conductus::app {

Comparer::Comparer(CataloguePtr parts, QObject* parent)
    : QObject(parent), parts_(std::move(parts)) {}

void Comparer::compare(JobPtr before, JobPtr after) {
    comparisons_.ask(
        [parts = parts_, before = std::move(before), after = std::move(after)] {
            return plan::compare(plan::analyse_figures(before, parts),
                                 plan::analyse_figures(after, parts));
        },
        [this](const plan::Comparison& made) { emit compared(made); });
}

} // namespace conductus::app
