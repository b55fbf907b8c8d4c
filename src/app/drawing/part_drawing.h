// SPDX-License-Identifier: GPL-3.0-or-later
// A part by itself, to scale: from the side and from its end, dimensioned.
#pragma once

#include <QCoreApplication>

#include "app/drawing/drawing.h"
#include "core/catalogue/part_type.h"

namespace conductus::app {

/// A part in a row of a list: from the side at so many pixels per millimetre, the same for all;
/// what is longer than the box ends in a break, what is higher is clipped to it.
void paint_part_in_row(QPainter& p, const QRectF& box, const catalogue::PartType& type,
                       double per_mm, const Inks& inks);

class PartDrawing : public Drawing {
    Q_DECLARE_TR_FUNCTIONS(PartDrawing)
public:
    explicit PartDrawing(catalogue::PartType type) : type_(std::move(type)) {}
    [[nodiscard]] QSizeF size(double lettering) const override;
    std::vector<HitBox> paint(const Surface& on) const override;
    [[nodiscard]] QString description() const override;

private:
    catalogue::PartType type_;
};

} // namespace conductus::app
