// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/hand_on_section.h"

#include <cmath>
#include <fmt/format.h>

#include "app/session/words.h"
#include "app/shell/section_pane.h"
#include "core/hilt/part_edits.h"
#include "core/job/lookup.h"
#include "core/job/places.h"

namespace conductus::app {

HandOnSection::HandOnSection(Session& session, Selection& selection, SectionPane& section,
                             QObject* parent)
    : QObject(parent), session_(session), selection_(selection), section_(section) {
    move_parts();
    move_boundaries();
    fit_types();
}

void HandOnSection::move_parts() {
    const auto* view = section_.view();
    connect(view, &SectionView::part_dragged, this,
            [this](const QString& ref, hilt::HandPlace to, double snap_mm) {
                const std::string part = ref.toStdString();
                if (!job::find_ref(session_.job().parts, part)) return;
                Dragged now{part, to, {}};
                if (to.at != hilt::place_of(*job::find_ref(session_.job().parts, part)).at) {
                    const hilt::Snap snap = hilt::snap_along(session_.job(), session_.parts(), part,
                                                             to.at, Millimetre(snap_mm));
                    now.to.at = snap.at, now.snapped = snap.to;
                }
                if (dragged_ && dragged_->to == now.to) return;
                dragged_ = now;
                if (!session_.preview(hilt::move_part(part, now.to))) dragged_.reset();
            });
    connect(view, &SectionView::part_dropped, this, [this] {
        if (dragged_)
            session_.change(tr("Move %1").arg(words(dragged_->ref)),
                            hilt::move_part(dragged_->ref, dragged_->to));
        let_go();
    });
    connect(view, &SectionView::drag_given_up, this, [this] {
        session_.end_preview();
        let_go();
    });
    connect(view, &SectionView::part_nudged, this,
            [this](const QString& ref, double along, double up, double turn) {
                session_.change(tr("Move %1").arg(ref),
                                hilt::nudge_part(ref.toStdString(), Millimetre(along),
                                                 Millimetre(up), Degree(turn)));
            });
}

void HandOnSection::move_boundaries() {
    const auto* view = section_.view();
    const auto to = [](const Boundary& b) {
        return job::write_at(fmt::format("/hilt/sections/{}/to_mm", b.section),
                             fmt::format("{}", b.mm));
    };
    connect(view, &SectionView::boundary_dragged, this, [this, to](std::size_t section, double mm) {
        const Boundary now{section, mm};
        // Where it can not lie, it stays where it could.
        if (!session_.preview(to(now))) return;
        boundary_ = now; // the figures say where it is
    });
    connect(view, &SectionView::boundary_dropped, this, [this, to] {
        if (boundary_)
            session_.change(tr("Move the end of %1")
                                .arg(words(session_.job().hilt.sections[boundary_->section].name)),
                            to(*boundary_));
        let_go();
    });
}

void HandOnSection::fit_types() {
    const auto* view = section_.view();
    const auto fitted = [this](const QString& type, double middle_mm) {
        const std::string id = type.toStdString();
        const auto* found = session_.parts().find(id);
        const double half = found ? found->body.length.value() / 2 : 0;
        return hilt::add_part(id, Millimetre(std::max(0.0, std::round(middle_mm - half))),
                              session_.parts());
    };
    connect(view, &SectionView::type_held, this,
            [this, fitted](const QString& type, double middle_mm) {
                (void)session_.preview(fitted(type, middle_mm));
            });
    connect(view, &SectionView::type_taken_away, this, [this] { session_.end_preview(); });
    connect(view, &SectionView::type_dropped, this,
            [this, fitted](const QString& type, double middle_mm) {
                const auto* found = session_.parts().find(type.toStdString());
                if (!found) return;
                const std::size_t before = session_.job().parts.size();
                session_.change(tr("Fit a %1").arg(words(found->name)), fitted(type, middle_mm));
                const auto& parts = session_.job().parts;
                if (parts.size() > before) selection_.choose(words(parts.back().ref));
            });
}

void HandOnSection::let_go() {
    dragged_.reset();
    boundary_.reset();
    section_.say_drag({});
}

void HandOnSection::show_preview(const plan::Plan& plan) {
    const auto& sections = session_.job().hilt.sections;
    if (boundary_ && boundary_->section < sections.size())
        section_.say_drag(
            tr("end of %1 at %2")
                .arg(words(sections[boundary_->section].name), words(Millimetre(boundary_->mm))));
    if (!dragged_) return;
    QString said = tr("%1 at %2").arg(words(dragged_->ref), words(dragged_->to.at));
    if (dragged_->to.turn != Degree(0))
        said += tr(", turned %1°").arg(dragged_->to.turn.value(), 0, 'f', 0);
    if (!dragged_->snapped.empty()) said += tr(" · %1").arg(words(dragged_->snapped));
    if (const auto* c = plan.fit.of(dragged_->ref))
        said += c->spare < Millimetre(0)
                    ? tr(" · binds by %1 in %2").arg(words(-c->spare), words(c->against))
                    : tr(" · %1 spare in %2").arg(words(c->spare), words(c->against));
    section_.say_drag(said);
}

} // namespace conductus::app
