// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>

#include "app/session/appearance.h"
#include "app/session/selection.h"
#include "app/session/session.h"

namespace conductus::app {

/// What every page is given.
struct Bench {
    Session& session;
    Selection& selection;
    Appearance& appearance;
};

/// The page of one station. The job is shown at once after an edit, the plan when it is there.
class StationPage : public QFrame {
    Q_OBJECT
public:
    explicit StationPage(const Bench& bench, QWidget* parent) : QFrame(parent), bench_(bench) {}
    virtual void show_job() {}
    virtual void show_plan(const PlanPtr&) {}
    /// Figures of what is being dragged: only what moves with it.
    virtual void show_preview(const PlanPtr&) {}

protected:
    Bench bench_;
};

} // namespace conductus::app
