// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/drawing.h"

namespace conductus::app {
namespace {

class MadeDrawing : public Drawing {
public:
    MadeDrawing(std::function<QSizeF(double)> size,
                std::function<std::vector<HitBox>(const Surface&)> paint,
                std::function<QString()> description)
        : size_(std::move(size)), paint_(std::move(paint)), description_(std::move(description)) {}
    [[nodiscard]] QSizeF size(double lettering) const override { return size_(lettering); }
    std::vector<HitBox> paint(const Surface& on) const override { return paint_(on); }
    [[nodiscard]] QString description() const override { return description_(); }

private:
    std::function<QSizeF(double)> size_;
    std::function<std::vector<HitBox>(const Surface&)> paint_;
    std::function<QString()> description_;
};

} // namespace

DrawingPtr make_drawing(std::function<QSizeF(double lettering)> size,
                        std::function<std::vector<HitBox>(const Surface&)> paint,
                        std::function<QString()> description) {
    return std::make_shared<const MadeDrawing>(std::move(size), std::move(paint),
                                               std::move(description));
}

void paint_words(const Surface& on, const QString& words) {
    on.p.setPen(on.inks.second);
    on.p.setFont(page_font(on.lettering));
    on.p.drawText(on.frame.adjusted(8, 5, -8, 0), Qt::TextWordWrap, words);
}

} // namespace conductus::app
