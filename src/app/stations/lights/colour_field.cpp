// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/colour_field.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>

#include "core/lights/frame.h"

namespace conductus::app {
namespace {

/// What of the diagram is shown: the three primaries with a margin.
constexpr double left = 0.02, right = 0.56, bottom = 0.06, top = 0.61;

bool any(const std::array<double, 4>& luminous) {
    return luminous[0] > 0 && luminous[1] > 0 && luminous[2] > 0;
}

} // namespace

ColourField::ColourField(const PageContext& context, QWidget* parent)
    : QWidget(parent), context_(context) {
    setObjectName("colourField");
    setAccessibleName(tr("Colour by eye"));
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::CrossCursor);
    setToolTip(tr("Drag to choose a tint. The ring is what is set; the dot is where the tip ends "
                  "up on a full cell, the lozenge at 10 %"));
    connect(&context.appearance, &Appearance::changed, this, [this] {
        image_ = {};
        updateGeometry();
        update();
    });
}

QSize ColourField::sizeHint() const {
    const double text = context_.appearance.text();
    return {qRound(text * 14.5), qRound(text * 8)};
}

QRectF ColourField::field() const {
    const double text = context_.appearance.text();
    const double h = height() - 2,
                 w = std::min(h * (right - left) / (top - bottom), width() - text * 6.2);
    return {1, 1, w, h};
}

QPointF ColourField::place_of(const lights::Uv& tint) const {
    const QRectF f = field();
    return {f.left() + (tint.u - left) / (right - left) * f.width(),
            f.bottom() - (tint.v - bottom) / (top - bottom) * f.height()};
}

lights::Uv ColourField::tint_at(const QPointF& place) const {
    const QRectF f = field();
    return {left + (place.x() - f.left()) / f.width() * (right - left),
            bottom + (f.bottom() - place.y()) / f.height() * (top - bottom)};
}

void ColourField::show_pixel(const std::array<double, 4>& luminous) {
    setVisible(any(luminous));
    if (luminous == luminous_) return;
    luminous_ = luminous;
    image_ = {};
    show_colour(colour_);
}

void ColourField::show_colour(const job::Colour& colour) {
    colour_ = colour;
    auto light = lights::duties(colour, 1, luminous_[3] > 0 ? 4 : 3);
    for (std::size_t c = 0; c < 4; ++c)
        light[c] *= luminous_[c];
    set_ = lights::tint(lights::mix(light));
    update();
}

void ColourField::show_tips(const plan::LookPlan* look) {
    tip_ = look ? look->views[plan::full].tip_tint : std::nullopt;
    low_tip_ = look ? look->views[plan::low].tip_tint : std::nullopt;
    update();
}

job::Colour ColourField::colour_at(const lights::Uv& tint) const {
    auto d = lights::duties_of(tint, luminous_);
    for (double& share : d)
        share = std::round(share * 100) / 100; // as the sliders beside it tell it
    return {d[0], d[1], d[2], d[3]};
}

void ColourField::paint_field() {
    const double sharp = devicePixelRatioF();
    image_ = QImage((field().size() * sharp).toSize(), QImage::Format_ARGB32_Premultiplied);
    image_.setDevicePixelRatio(sharp);
    image_.fill(Qt::transparent);
    QPainterPath triangle;
    for (std::size_t c = 0; c < 3; ++c) {
        const QPointF at = place_of(lights::channel_tint(c)) - field().topLeft();
        c == 0 ? triangle.moveTo(at) : triangle.lineTo(at);
    }
    triangle.closeSubpath();
    const QPolygonF corners = triangle.toFillPolygon();
    QImage tints(image_.size(), QImage::Format_ARGB32_Premultiplied);
    for (int y = 0; y < tints.height(); ++y)
        for (int x = 0; x < tints.width(); ++x) {
            const QPointF at((x + 0.5) / sharp, (y + 0.5) / sharp);
            auto light = lights::duties_of(tint_at(at + field().topLeft()), luminous_);
            for (std::size_t c = 0; c < 4; ++c)
                light[c] *= luminous_[c];
            const lights::Xyz seen = lights::mix(light);
            tints.setPixelColor(x, y, colour(lights::on_screen(seen, lights::full_scale(seen))));
        }
    tints.setDevicePixelRatio(sharp);
    QPainter p(&image_);
    p.setRenderHint(QPainter::Antialiasing);
    p.setClipPath(triangle);
    p.drawImage(0, 0, tints);
    p.setClipping(false);
    p.setPen(QPen(context_.appearance.inks().ink, 1));
    p.setBrush(Qt::NoBrush);
    p.drawPolygon(corners);
}

void ColourField::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Inks& inks = context_.appearance.inks();
    const double text = context_.appearance.text();
    if (!any(luminous_)) return;
    if (image_.isNull() || image_.deviceIndependentSize().toSize() != field().size().toSize())
        paint_field();
    p.setRenderHint(QPainter::Antialiasing);
    p.drawImage(field().topLeft(), image_);
    // Marks in ink with a rim of paper, so that they show on any tint.
    auto ring = [&](const QPointF& at) {
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(Qt::white, 3.4));
        p.drawEllipse(at, text * 0.42, text * 0.42);
        p.setPen(QPen(QColor("#1d2b33"), 1.6));
        p.drawEllipse(at, text * 0.42, text * 0.42);
    };
    auto dot = [&](const QPointF& at) {
        p.setPen(QPen(Qt::white, 1.2));
        p.setBrush(QColor("#1d2b33"));
        p.drawEllipse(at, text * 0.26, text * 0.26);
    };
    auto lozenge = [&](const QPointF& at) {
        const double r = text * 0.36;
        p.setPen(QPen(Qt::white, 1.2));
        p.setBrush(QColor("#1d2b33"));
        p.drawPolygon(QPolygonF(
            {at + QPointF(0, -r), at + QPointF(r, 0), at + QPointF(0, r), at + QPointF(-r, 0)}));
    };
    if (set_) ring(place_of(*set_));
    if (tip_) dot(place_of(*tip_));
    if (low_tip_) lozenge(place_of(*low_tip_));
    double y = text * 0.8;
    const double x = field().right() + text * 0.9;
    p.setFont(page_font(text * 0.86));
    auto legend = [&](auto mark, bool there, const QString& words) {
        if (!there) return;
        mark(QPointF(x, y));
        p.setPen(inks.second);
        p.drawText(QRectF(x + text * 0.8, y - text, width() - x - text * 0.8, text * 2),
                   Qt::AlignVCenter, words);
        y += text * 1.6;
    };
    legend(ring, set_.has_value(), tr("set"));
    legend(dot, tip_.has_value(), tr("tip, full"));
    legend(lozenge, low_tip_.has_value(), tr("tip at 10 %"));
    if (hasFocus()) {
        p.setPen(QPen(inks.petrol, 1.5));
        p.setBrush(Qt::NoBrush);
        p.drawRect(field().adjusted(0.5, 0.5, -0.5, -0.5));
    }
}

void ColourField::take(const QPointF& place) {
    show_colour(colour_at(tint_at(place)));
    emit dragged(colour_);
}

void ColourField::mousePressEvent(QMouseEvent* event) {
    if (!isEnabled() || event->button() != Qt::LeftButton || !any(luminous_)) return;
    pressed_ = true;
    take(event->position());
}

void ColourField::mouseMoveEvent(QMouseEvent* event) {
    if (pressed_) take(event->position());
}

void ColourField::mouseReleaseEvent(QMouseEvent*) {
    if (!pressed_) return;
    pressed_ = false;
    emit chosen(colour_);
}

void ColourField::keyPressEvent(QKeyEvent* event) {
    QPointF step;
    switch (event->key()) {
    case Qt::Key_Left:
        step = {-4, 0};
        break;
    case Qt::Key_Right:
        step = {4, 0};
        break;
    case Qt::Key_Up:
        step = {0, -4};
        break;
    case Qt::Key_Down:
        step = {0, 4};
        break;
    default:
        return QWidget::keyPressEvent(event);
    }
    if (!any(luminous_)) return;
    const lights::Uv from = set_.value_or(lights::channel_tint(3));
    show_colour(colour_at(tint_at(place_of(from) + step)));
    emit chosen(colour_);
}

} // namespace conductus::app
