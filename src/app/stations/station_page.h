// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>

#include "app/session/appearance.h"
#include "app/session/selection.h"
#include "app/session/session.h"
#include "app/session/settings.h"

namespace conductus::app {

/// What every page is given.
struct PageContext {
    Session& session;
    Selection& selection;
    Appearance& appearance;
    Settings* settings = nullptr; ///< of this machine; null: nothing is kept
};

/// The page of one station. The job is shown at once after an edit, the plan when it is there.
class StationPage : public QFrame {
    Q_OBJECT
public:
    explicit StationPage(const PageContext& context, QWidget* parent)
        : QFrame(parent), context_(context) {}
    virtual void show_job() {}
    virtual void show_plan(const PlanPtr&) {}
    /// Figures of what is being dragged: only what moves with it.
    virtual void show_preview(const PlanPtr&) {}

signals:
    /// The sheet that a blank job is begun on.
    void start_wanted();

protected:
    PageContext context_;
};

} // namespace conductus::app
