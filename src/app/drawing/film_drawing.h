// SPDX-License-Identifier: GPL-3.0-or-later
// One frame of a look or effect: the blades above, the cell's current in time under them.
#pragma once

#include <QCoreApplication>

#include "app/drawing/blade_drawing.h"
#include "app/drawing/drawing.h"
#include "core/plan/film.h"

namespace conductus::app {

class FilmDrawing : public Drawing {
    Q_DECLARE_TR_FUNCTIONS(FilmDrawing)
public:
    /// `film` null: there is nothing to play. `job`: the film's, for the places of its blades.
    FilmDrawing(std::shared_ptr<const job::Job> job, std::shared_ptr<const plan::Film> film,
                std::size_t now);

    [[nodiscard]] QSizeF size(double lettering) const override;
    std::vector<HitBox> paint(const Surface& on) const override;
    [[nodiscard]] QString description() const override;

    /// The frame of the film that is drawn at that place.
    [[nodiscard]] std::size_t frame_at(QPointF at, const QRectF& frame, double lettering) const;
    /// The one that is shown at so many seconds.
    static std::size_t frame_after(const plan::Film& film, double seconds);

private:
    [[nodiscard]] QRectF trace(const QRectF& frame, double lettering) const;
    std::shared_ptr<const job::Job> job_;
    std::shared_ptr<const plan::Film> film_;
    std::size_t now_;
    std::vector<BladePlace> places_;
    std::size_t lines_ = 1;
};

} // namespace conductus::app
