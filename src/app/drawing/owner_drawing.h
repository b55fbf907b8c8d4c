// SPDX-License-Identifier: GPL-3.0-or-later
// The page put to the owner, A4, as it prints: one code for screen and PDF.
#pragma once

#include <QPainter>
#include <QString>

#include "app/drawing/inks.h"
#include "core/plan/owner_page.h"

namespace conductus::app {

class OwnerDrawing {
public:
    /// A4 in points.
    static constexpr QSizeF paper{595, 842};

    explicit OwnerDrawing(std::shared_ptr<const plan::Plan> plan);
    [[nodiscard]] int pages() const { return static_cast<int>(breaks_.size()); }
    /// Paints a page with its upper left corner at 0, 0, in points.
    void paint(QPainter& p, int page, const Inks& inks) const;

private:
    struct Block;
    void lay_out();
    double paint_block(QPainter* p, std::size_t block, double y, const Inks& inks) const;
    std::shared_ptr<const plan::Plan> plan_;
    plan::OwnerPage page_;
    std::vector<std::pair<std::size_t, std::size_t>> lines_; ///< section and line; line = heading
    std::vector<std::size_t> breaks_;                        ///< first block of each page
};

/// Writes the page; the ending says how: pdf or txt.
Result<void> write_owner_page(std::shared_ptr<const plan::Plan> plan, const QString& path);

} // namespace conductus::app
