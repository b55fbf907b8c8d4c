// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/owner_drawing.h"

#include <QBuffer>
#include <QDate>
#include <QFile>
#include <QFileInfo>
#include <QFontMetricsF>
#include <QLocale>
#include <QPageSize>
#include <QPdfWriter>

#include "app/drawing/marks.h"
#include "app/drawing/section_drawing.h"
#include "files/json_text.h"

namespace conductus::app {
namespace {

constexpr double margin = 48, text_size = 9.5, gap = 4;
constexpr std::size_t heading = static_cast<std::size_t>(-1), cautions = heading - 1,
                      signature = heading - 2;
constexpr double middle = 0.5; ///< where figures begin, of the width between the margins

/// Height a text takes in a width; painted where there is a painter.
double flow(QPainter* p, const QFont& font, const QRectF& room, const QString& text) {
    const QRectF took =
        QFontMetricsF(font, p ? p->device() : nullptr)
            .boundingRect(QRectF(0, 0, room.width(), 10000), Qt::TextWordWrap, text);
    if (p) {
        p->setFont(font);
        p->drawText(QRectF(room.topLeft(), QSizeF(room.width(), took.height() + 2)),
                    Qt::TextWordWrap, text);
    }
    return took.height();
}

} // namespace

OwnerDrawing::OwnerDrawing(std::shared_ptr<const plan::Plan> plan)
    : plan_(std::move(plan)), page_(plan::owner_page(*plan_)) {
    for (std::size_t s = 0; s < page_.sections.size(); ++s) {
        lines_.emplace_back(s, heading);
        for (std::size_t i = 0; i < page_.sections[s].lines.size(); ++i)
            lines_.emplace_back(s, i);
    }
    lines_.emplace_back(0, cautions);
    lines_.emplace_back(0, signature);
    lay_out();
}

void OwnerDrawing::lay_out() {
    const Inks inks = Inks::day();
    const double bottom = paper.height() - margin - 14;
    double y = margin + (plan_->job->hilt.sections.empty() ? 60 : 150);
    breaks_ = {0};
    for (std::size_t b = 0; b < lines_.size(); ++b) {
        double need = paint_block(nullptr, b, 0, inks);
        // A heading stays with its first line.
        if (lines_[b].second == heading && b + 1 < lines_.size())
            need += paint_block(nullptr, b + 1, 0, inks);
        if (y + need > bottom && b > breaks_.back()) {
            breaks_.push_back(b);
            y = margin + 26;
        }
        y += paint_block(nullptr, b, 0, inks);
    }
}

double OwnerDrawing::paint_block(QPainter* p, std::size_t block, double y, const Inks& inks) const {
    const auto [section, line] = lines_[block];
    const double left = margin, width = paper.width() - 2 * margin;
    const QFont plain = page_font(text_size), bold = page_font(text_size * 1.12, true);
    if (p) p->setPen(inks.ink);
    if (line == heading) {
        const double high = flow(p, bold, QRectF(left, y + 10, width, 100),
                                 QString::fromStdString(page_.sections[section].heading));
        if (p) {
            p->setPen(inks.hair);
            p->drawLine(QPointF(left, y + 12 + high), QPointF(left + width, y + 12 + high));
        }
        return high + 16;
    }
    if (line == cautions) {
        const QFont small = page_font(text_size * 0.9);
        return 16 + flow(p, small, QRectF(left, y + 14, width, 200),
                         "Cautions. " + QString::fromStdString(page_.cautions));
    }
    if (line == signature) {
        if (p) {
            p->setFont(plain);
            for (const auto& [x, what] : {std::pair{0.0, "Agreed"}, {0.62, "Date"}}) {
                p->setPen(inks.second);
                p->drawText(QPointF(left + x * width, y + 50), what);
                p->setPen(inks.ink);
                p->drawLine(QPointF(left + x * width + 46, y + 52),
                            QPointF(left + (x > 0 ? 1 : 0.56) * width, y + 52));
            }
        }
        return 60;
    }
    const plan::OwnerLine& l = page_.sections[section].lines[line];
    const double indent = l.mark == plan::OwnerLine::Mark::none ? 0 : 16;
    if (p && indent > 0) {
        const QRectF box(left, y + 2, 10, 10);
        if (l.mark == plan::OwnerLine::Mark::holds) {
            paint_tick(*p, box, inks);
        } else if (l.mark == plan::OwnerLine::Mark::broken) {
            paint_mark(*p, box, findings::Severity::warn, inks);
        } else {
            p->setPen(QPen(inks.second, 1));
            p->drawRect(box.adjusted(1, 1, -1, -1));
        }
        p->setPen(inks.ink);
    }
    const double split = width * middle;
    const double a = flow(p, plain, QRectF(left + indent, y, split - indent - 12, 200),
                          QString::fromStdString(l.text));
    if (p) p->setPen(l.mark == plan::OwnerLine::Mark::broken ? inks.warn : inks.second);
    const double b = flow(p, plain, QRectF(left + split, y, width - split, 200),
                          QString::fromStdString(l.figure));
    return std::max(a, b) + gap;
}

void OwnerDrawing::paint(QPainter& p, int page, const Inks& inks) const {
    p.setRenderHint(QPainter::Antialiasing);
    const double left = margin, width = paper.width() - 2 * margin;
    double y = margin;
    if (page == 0) {
        p.setPen(inks.ink);
        p.setFont(page_font(text_size * 2.1, true));
        p.drawText(QPointF(left, y + 16), QString::fromStdString(page_.title));
        p.setFont(page_font(text_size * 1.05));
        p.setPen(inks.second);
        p.drawText(QPointF(left, y + 36), QString::fromStdString(page_.subject));
        y += 60;
        if (!plan_->job->hilt.sections.empty()) {
            LongSectionDrawing(plan_, {}).paint_small(p, QRectF(left, y - 8, width, 84), inks);
            y += 90;
        }
    } else {
        p.setPen(inks.second);
        p.setFont(page_font(text_size));
        p.drawText(QPointF(left, y + 8), QString::fromStdString(page_.title));
        y += 26;
    }
    const auto first = breaks_[static_cast<std::size_t>(page)];
    const auto last =
        page + 1 < pages() ? breaks_[static_cast<std::size_t>(page) + 1] : lines_.size();
    for (std::size_t b = first; b < last; ++b)
        y += paint_block(&p, b, y, inks);
    p.setPen(inks.second);
    p.setFont(page_font(text_size * 0.9));
    p.drawText(QRectF(left, paper.height() - margin, width, 14), Qt::AlignRight,
               QString("%1 / %2").arg(page + 1).arg(pages()));
}

Result<void> write_owner_page(std::shared_ptr<const plan::Plan> plan, const QString& path) {
    const QString ending = QFileInfo(path).suffix().toLower();
    if (ending == "txt")
        return files::write_output(QFile::encodeName(path).toStdString(),
                                   plan::owner_text(plan::owner_page(*plan)), files::Content::text);
    if (ending != "pdf")
        return problem(path.toStdString(), "this ending is no page", "Write .pdf or .txt");
    const std::filesystem::path place = QFile::encodeName(path).toStdString();
    if (auto ok = files::output_target(place, files::Content::pdf); !ok)
        return tl::unexpected(ok.error());
    QBuffer file;
    file.open(QIODevice::WriteOnly);
    {
        const OwnerDrawing drawing(std::move(plan));
        QPdfWriter pdf(&file);
        pdf.setResolution(72);
        pdf.setPageSize(QPageSize(QPageSize::A4));
        pdf.setPageMargins(QMarginsF(0, 0, 0, 0));
        QPainter p(&pdf);
        for (int page = 0; page < drawing.pages(); ++page) {
            if (page > 0) pdf.newPage();
            drawing.paint(p, page, Inks::day());
        }
    }
    return files::write_output(place, file.data().toStdString(), files::Content::pdf);
}

} // namespace conductus::app
