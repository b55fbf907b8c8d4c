// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <optional>

#include "app/session/selection.h"
#include "app/session/session.h"
#include "core/hilt/drag.h"

namespace conductus::app {

class SectionPane;

/// What a hand does on the long section, as edits of the job: parts moved along, across and turned,
/// boundaries between sections of the survey moved, types of the catalogue fitted where they are
/// let go. While something is in hand the figures follow, and nothing is changed yet.
class HandOnSection : public QObject {
    Q_OBJECT
public:
    HandOnSection(Session& session, Selection& selection, SectionPane& section, QObject* parent);
    /// The figures of what is in hand: clearance, or what binds, is said on the section.
    void show_preview(const plan::Plan& plan);

private:
    void move_parts();
    void move_boundaries();
    void fit_types();
    void let_go();
    /// The part that is dragged, where to, and what it snapped to.
    struct Dragged {
        std::string ref;
        hilt::HandPlace to;
        Message snapped;
    };
    struct Boundary {
        std::size_t section;
        double mm;
    };
    Session& session_;
    Selection& selection_;
    SectionPane& section_;
    std::optional<Dragged> dragged_;
    std::optional<Boundary> boundary_;
};

} // namespace conductus::app
