// SPDX-License-Identifier: GPL-3.0-or-later
// Something drawn of a job: the same on the screen, in a file and on paper.
#pragma once

#include <QPainter>
#include <QSizeF>
#include <functional>
#include <memory>
#include <vector>

#include "app/drawing/inks.h"

namespace conductus::app {

/// What is painted on.
struct Surface {
    QPainter& p;
    QRectF frame;     ///< the drawing fills it; pixels of the painter
    double lettering; ///< height of running text, pixels
    const Inks& inks;
    QRectF exposed; ///< what is in sight: a drawing may leave out what is not
};

class Drawing {
public:
    Drawing() = default;
    Drawing(const Drawing&) = delete;
    Drawing& operator=(const Drawing&) = delete;
    virtual ~Drawing() = default;

    /// As it is best read with letters of that height, pixels.
    [[nodiscard]] virtual QSizeF size(double lettering) const = 0;
    /// Returns where parts and wires were drawn, in the painter's pixels.
    virtual std::vector<HitBox> paint(const Surface& on) const = 0;
    /// What it shows, for who does not see it.
    [[nodiscard]] virtual QString description() const = 0;
};
using DrawingPtr = std::shared_ptr<const Drawing>;

/// A drawing out of what it is made of.
DrawingPtr make_drawing(std::function<QSizeF(double lettering)> size,
                        std::function<std::vector<HitBox>(const Surface&)> paint,
                        std::function<QString()> description);

/// While it lives, the painter's corner is the frame's, and all else of it is given back after.
class InFrame {
public:
    explicit InFrame(const Surface& on) : p_(on.p) {
        p_.save();
        p_.translate(on.frame.topLeft());
    }
    ~InFrame() { p_.restore(); }
    InFrame(const InFrame&) = delete;
    InFrame& operator=(const InFrame&) = delete;

private:
    QPainter& p_;
};

/// Words in the place of a drawing that there is nothing for.
void paint_words(const Surface& on, const QString& words);

} // namespace conductus::app
