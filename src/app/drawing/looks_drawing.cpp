// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/looks_drawing.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "app/session/words.h"
#include "core/base/format.h"
#include "core/job/words.h"
#include "core/plan/pixel_seen.h"
#include "core/power/runtime.h"

namespace conductus::app {

LooksDrawing::Rows LooksDrawing::rows_of(const plan::Plan& plan, bool by_demand) {
    Rows rows;
    std::vector<std::string> shown;
    for (const plan::LookPlan& look : plan.looks)
        if (const auto& blades = look.views[plan::full].blades; blades.size() > shown.size()) {
            shown.clear();
            for (const plan::BladeView& blade : blades)
                shown.push_back(blade.ref);
        }
    rows.places = place_blades(*plan.job, shown);
    rows.lines = std::max<std::size_t>(1, lines_of(rows.places));
    rows.order.resize(plan.looks.size());
    std::iota(rows.order.begin(), rows.order.end(), std::size_t{0});
    if (by_demand)
        std::stable_sort(rows.order.begin(), rows.order.end(), [&](std::size_t a, std::size_t b) {
            return plan.looks[a].mean > plan.looks[b].mean;
        });
    return rows;
}

QSizeF LooksDrawing::size(double lettering) const {
    const double rows = std::max<double>(1, static_cast<double>(rows_.order.size()));
    return {lettering * 60, head_height(lettering) + rows * row_height(lettering)};
}

LooksDrawing::Columns LooksDrawing::columns(double width, double text) {
    Columns c{};
    c.blade = std::max(text * 8.4, std::min(text * 10.5, width * 0.2));
    c.end = width - 6;
    c.bars = c.end - std::max(text * 9.5, width * 0.24);
    c.tip = c.bars - text * 4.6;
    c.blade_end = c.tip - text * 0.8;
    return c;
}

QRectF LooksDrawing::box_of(const BladePlace& place, const Columns& c, double top, double height) {
    const double width = c.blade_end - c.blade;
    return {c.blade + place.from * width, top, (place.to - place.from) * width, height};
}

double LooksDrawing::largest(const plan::Plan& plan) {
    double most = 0.1;
    for (const auto& look : plan.looks)
        most = std::max(most, look.peak.value());
    return most;
}

double LooksDrawing::row_height(double text) const {
    return std::max(text * 2.35, lane(plan::low, rows_.lines - 1, text).top +
                                     lane(plan::low, 0, text).height + text * 0.2);
}

LooksDrawing::Lane LooksDrawing::lane(plan::Charge charge, std::size_t line, double text) const {
    const auto n = static_cast<double>(rows_.lines);
    // Two lines of blades share the height of one; of more each keeps what can be seen.
    const double gap = n > 1 ? 1 : 2, room = text * (n > 1 ? 1.95 : 1.8);
    const double h = std::max(text * 0.35, (room - 3) / (2 * n) - gap), all = n * (h + gap);
    const double edge = n > 1 ? text * 0.2 : (text * 2.35 - 2 * all + gap) / 2;
    return {edge + (charge == plan::full ? 0 : all + (n > 1 ? 3 : 0)) +
                static_cast<double>(line) * (h + gap),
            h};
}

const plan::LookPlan* LooksDrawing::look_in(int row) const {
    if (row < 0 || row >= rows()) return nullptr;
    return &plan_->looks[rows_.order[static_cast<std::size_t>(row)]];
}

int LooksDrawing::chosen_row() const {
    const std::string chosen = chosen_.toStdString();
    for (int row = 0; row < rows(); ++row)
        if (look_in(row)->name == chosen) return row;
    return -1;
}

QRectF LooksDrawing::row_box(int row, double width, double lettering) const {
    return {0, head_height(lettering) + row * row_height(lettering), width, row_height(lettering)};
}

int LooksDrawing::row_at(double y, double lettering) const {
    return static_cast<int>(std::floor((y - head_height(lettering)) / row_height(lettering)));
}

QString LooksDrawing::description() const {
    const plan::LookPlan* look = look_in(chosen_row());
    if (!look) return {};
    return tr("%1, tip %2 % full, %3 % nearly empty, mean %4, peak %5")
        .arg(words(look->name))
        .arg(qRound(look->views[plan::full].tip * 100))
        .arg(qRound(look->views[plan::low].tip * 100))
        .arg(words(text(look->mean)), words(text(look->peak)));
}

void LooksDrawing::paint_row(const Surface& on, const plan::LookPlan& look, double y, double most,
                             bool chosen) const {
    QPainter& p = on.p;
    const Inks& inks = on.inks;
    const double text = on.lettering, row = row_height(text), width = on.frame.width();
    const Columns c = columns(width, text);
    if (chosen) {
        p.fillRect(QRectF(0, y + 2, width, row - 4), inks.chosen);
        p.fillRect(QRectF(0, y + 2, 3, row - 4), inks.petrol);
    }
    const double r = text * 0.62;
    p.setPen(QPen(inks.ink, 1.2));
    p.setBrush(colour(look.swatch));
    p.drawEllipse(QPointF(text * 1.2, y + row / 2), r, r);
    p.setPen(inks.ink);
    const QRectF words(text * 2.4, y + row / 2 - text * 1.15, c.blade - text * 2.9, text * 1.2);
    p.setFont(page_font(text, chosen));
    p.drawText(words, Qt::AlignVCenter,
               QFontMetricsF(p.font()).elidedText(QString::fromStdString(look.name), Qt::ElideRight,
                                                  words.width()));
    p.setFont(page_font(text * 0.86));
    p.setPen(inks.second);
    p.drawText(words.translated(0, text * 1.1), Qt::AlignVCenter, term(job::word(look.style)));

    for (const plan::Charge charge : {plan::full, plan::low}) {
        const plan::View& view = look.views[charge];
        for (std::size_t i = 0; i < std::min(view.blades.size(), rows_.places.size()); ++i) {
            const Lane at = lane(charge, rows_.places[i].line, text);
            paint_blade(p, box_of(rows_.places[i], c, y + at.top, at.height).toRect(),
                        view.blades[i].paint, inks);
        }
        // Only a strip's tip is solved: how a string or a tube carries light is not.
        const bool solved = !view.pixel_volts.empty();
        const double half = row / 2, top = y + (charge == plan::full ? 0 : half) + 1,
                     bottom = top + half - 2;
        p.setFont(page_font(text * 0.92));
        p.setPen(solved && view.tip < power::dim_share ? inks.warn : inks.ink);
        p.drawText(QRectF(c.tip, top, text * 3.4, bottom - top), Qt::AlignRight | Qt::AlignVCenter,
                   solved ? QString("%1").arg(qRound(view.tip * 100)) + QChar(0x202f) + "%"
                          : QString(QChar(0x2013)));
    }
    const double room = c.end - c.bars - text * 4.6, h = text * 1.0;
    auto bar = [&](double top, double height, double amps, const QColor& fill, bool bold) {
        p.fillRect(QRectF(c.bars, top + (h - height) / 2, room * amps / most, height), fill);
        p.setFont(page_font(text * 0.92, bold));
        p.setPen(bold ? inks.ink : inks.second);
        p.drawText(QRectF(c.bars + room * amps / most + 6, top, text * 4.6, h), Qt::AlignVCenter,
                   QString::fromStdString(conductus::text(Ampere(amps))));
    };
    bar(y + row / 2 - h - 0.5, h * 0.8, look.mean.value(), inks.clean, true);
    bar(y + row / 2 + 0.5, h * 0.55, look.peak.value(), inks.clean_pale, false);
}

std::vector<HitBox> LooksDrawing::paint(const Surface& on) const {
    const InFrame corner(on);
    QPainter& p = on.p;
    const Inks& inks = on.inks;
    const double text = on.lettering, width = on.frame.width();
    const QRectF seen = on.exposed.translated(-on.frame.topLeft());
    p.setRenderHint(QPainter::Antialiasing);
    const Columns c = columns(width, text);
    p.setFont(page_font(text * 0.86));
    p.setPen(inks.second);
    const double h = head_height(text);
    p.drawText(QRectF(text * 2.4, 0, c.blade, h), Qt::AlignVCenter, tr("look"));
    p.drawText(QRectF(c.blade, 0, c.blade_end - c.blade, h), Qt::AlignVCenter,
               QFontMetricsF(p.font()).elidedText(tr("foot to tip: full cell above, at 10 % below"),
                                                  Qt::ElideRight, c.blade_end - c.blade));
    p.drawText(QRectF(c.tip, 0, text * 3.4, h), Qt::AlignVCenter | Qt::AlignRight, tr("tip"));
    p.drawText(QRectF(c.bars, 0, c.end - c.bars, h), Qt::AlignVCenter,
               QFontMetricsF(p.font()).elidedText(tr("mean above, peak below"), Qt::ElideRight,
                                                  c.end - c.bars));
    const double most = largest(*plan_);
    const int chosen = chosen_row();
    for (int row = 0; row < rows(); ++row) {
        const double y = h + row_height(text) * row;
        if (seen.intersects(QRectF(0, y, width, row_height(text))))
            paint_row(on, *look_in(row), y, most, row == chosen);
    }
    if (focused_ && chosen >= 0) {
        p.setPen(QPen(inks.petrol, 1.5));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(1, h + row_height(text) * chosen + 2, width - 2, row_height(text) - 4));
    }
    return {};
}

QString LooksDrawing::told_at(QPointF at_place, double width, double lettering) const {
    const double y = at_place.y() - head_height(lettering);
    const int row = static_cast<int>(std::floor(y / row_height(lettering)));
    const plan::LookPlan* look = y < 0 ? nullptr : look_in(row);
    if (!look) return {};
    const Columns c = columns(width, lettering);
    const double in_row = y - row_height(lettering) * row;
    const plan::Charge charge = in_row < lane(plan::low, 0, lettering).top ? plan::full : plan::low;
    const auto& seen = look->views[charge].blades;
    for (std::size_t i = 0; i < std::min(seen.size(), rows_.places.size()); ++i) {
        const Lane at = lane(charge, rows_.places[i].line, lettering);
        const QRectF box = box_of(rows_.places[i], c, at.top, at.height);
        if (!box.contains(at_place.x(), in_row)) continue;
        const plan::BladeView& blade = seen[i];
        const double along = (at_place.x() - box.left()) / box.width();
        const QString cell = charge == plan::full ? tr("full cell") : tr("cell at 10 %");
        const std::size_t count = blade.amps.size();
        const auto k = std::min(static_cast<std::size_t>(along * static_cast<double>(count)),
                                count > 0 ? count - 1 : 0);
        auto words = [](auto quantity) { return QString::fromStdString(text(quantity)); };
        if (const auto pixel = plan::pixel_seen(*plan_, *look, charge, i, k))
            return tr("%1, strip %2, pixel %3 of %4 (%5): %6, %7, %8 % of the foot's brightness, "
                      "tint shift %9")
                .arg(QString::fromStdString(blade.ref), QString::fromStdString(blade.strip))
                .arg(k + 1)
                .arg(count)
                .arg(cell, words(pixel->volts), words(pixel->amps))
                .arg(qRound(pixel->brightness * 100))
                .arg(pixel->tint_shift, 0, 'f', 3);
        if (count > 0)
            return tr("%1, segment %2 of %3: %4 (%5)")
                .arg(QString::fromStdString(blade.ref))
                .arg(k + 1)
                .arg(count)
                .arg(words(Ampere(blade.amps[k])), cell);
        return tr("%1, lit from the hilt (%2)").arg(QString::fromStdString(blade.ref), cell);
    }
    return {};
}

} // namespace conductus::app
