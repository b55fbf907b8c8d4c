// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/drawing_view.h"

#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <QFileDialog>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMessageBox>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "app/drawing/section_drawing.h"
#include "app/session/words.h"

namespace conductus::app {
namespace {

constexpr double most_zoom = 12, a_step = 1.25;

} // namespace

DrawingView::DrawingView(const char* object, const QString& name, const Appearance& appearance,
                         Make make, QWidget* parent)
    : QWidget(parent), appearance_(appearance), make_(std::move(make)) {
    setObjectName(object);
    setAccessibleName(name);
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    make_menu();
    connect(&appearance, &Appearance::changed, this, &DrawingView::redraw);
}

void DrawingView::make_menu() {
    setContextMenuPolicy(Qt::ActionsContextMenu);
    const auto add = [this](const char* object, const QString& text, QList<QKeySequence> keys,
                            auto&& act) {
        auto* action = new QAction(text, this);
        action->setObjectName(object);
        action->setShortcuts(keys);
        action->setShortcutContext(Qt::WidgetShortcut);
        connect(action, &QAction::triggered, this, act);
        addAction(action);
    };
    add("copyDrawing", tr("Copy the drawing"), {QKeySequence::Copy},
        [this] { QApplication::clipboard()->setImage(image()); });
    add("saveDrawing", tr("Save the drawing…"), {}, [this] {
        const QString path = QFileDialog::getSaveFileName(
            window(), tr("Save the drawing"), accessibleName().toLower().replace(' ', '-') + ".svg",
            tr("Pictures (*.svg *.pdf *.png)"));
        if (path.isEmpty()) return;
        if (const auto ok = save(path); !ok)
            QMessageBox::warning(window(), tr("Not saved"), words(ok.error()));
    });
    auto* line = new QAction(this);
    line->setSeparator(true);
    addAction(line);
    const auto middle = [this] { return frame().center(); };
    add("zoomIn", tr("Larger"), {Qt::Key_Plus, Qt::Key_Equal},
        [this, middle] { zoom_to(zoom_ * a_step, middle()); });
    add("zoomOut", tr("Smaller"), {Qt::Key_Minus},
        [this, middle] { zoom_to(zoom_ / a_step, middle()); });
    add("zoomWhole", tr("The whole drawing"), {Qt::Key_0}, [this] { zoom_to(1, {}); });
}

void DrawingView::redraw() {
    const QSize was = sizeHint();
    drawing_ = make_();
    if (const QString says = drawing_ ? drawing_->description() : QString();
        says != accessibleDescription())
        setAccessibleDescription(says);
    if (sizeHint() != was) updateGeometry();
    update();
}

QSize DrawingView::sizeHint() const {
    const QSizeF size = drawing_ ? drawing_->size(lettering()) : QSizeF(200, lettering() * 5);
    return {qRound(lettering() * 20), qCeil(size.height())};
}

QSize DrawingView::minimumSizeHint() const {
    return {qRound(lettering() * 12),
            keeps_height_ ? sizeHint().height() : qRound(lettering() * 6)};
}

QString DrawingView::ref_at(QPointF at) const {
    QString best;
    double least = 0;
    for (const HitBox& box : boxes_) {
        const double size = box.box.width() * box.box.height();
        if (box.box.contains(at) && (best.isEmpty() || size < least)) best = box.ref, least = size;
    }
    return best;
}

QPointF DrawingView::to_drawing(QPointF in_widget) const { return (in_widget + corner_) / zoom_; }
QPointF DrawingView::to_widget(QPointF in_drawing) const { return in_drawing * zoom_ - corner_; }

void DrawingView::zoom_to(double zoom, QPointF about) {
    const QPointF stays = to_drawing(about);
    zoom_ = std::clamp(zoom, 1.0, most_zoom);
    corner_ = stays * zoom_ - about;
    pan_by({0, 0});
}

void DrawingView::zoom_to_box(const QRectF& box) {
    if (box.isEmpty()) return;
    constexpr double most_of_it = 0.6;
    zoom_ = std::clamp(most_of_it * std::min(width() / box.width(), height() / box.height()), 1.0,
                       most_zoom);
    corner_ = box.center() * zoom_ - QPointF(width() / 2.0, height() / 2.0);
    pan_by({0, 0});
}

void DrawingView::pan_by(QPointF by) {
    const QPointF end(width() * (zoom_ - 1), height() * (zoom_ - 1));
    corner_ = {std::clamp(corner_.x() + by.x(), 0.0, end.x()),
               std::clamp(corner_.y() + by.y(), 0.0, end.y())};
    update();
}

void DrawingView::paintEvent(QPaintEvent* event) {
    QPainter p(this);
    const Inks& inks = appearance_.inks();
    p.fillRect(rect(), inks.paper);
    drawing_ = make_();
    boxes_.clear();
    if (drawing_) {
        p.save();
        p.translate(-corner_);
        p.scale(zoom_, zoom_);
        const QRectF in_sight(to_drawing(event->rect().topLeft()),
                              QSizeF(event->rect().size()) / zoom_);
        boxes_ = drawing_->paint({p, frame(), lettering(), inks, in_sight});
        p.restore();
    }
    if (!hasFocus()) return;
    p.setPen(QPen(inks.petrol, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5));
}

void DrawingView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    pan_by({0, 0});
}

void DrawingView::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    if (event->button() == Qt::MiddleButton && zoom_ > 1) {
        grabbed_ = event->position();
        setCursor(Qt::ClosedHandCursor);
    } else if (event->button() == Qt::LeftButton) {
        emit pressed(to_drawing(event->position()));
    }
}

void DrawingView::mouseMoveEvent(QMouseEvent* event) {
    if (grabbed_) {
        pan_by(*grabbed_ - event->position());
        grabbed_ = event->position();
    } else if (event->buttons() & Qt::LeftButton) {
        emit dragged(to_drawing(event->position()));
    } else {
        emit hovered(to_drawing(event->position()));
    }
}

void DrawingView::mouseReleaseEvent(QMouseEvent* event) {
    if (grabbed_) {
        grabbed_.reset();
        unsetCursor();
    } else {
        emit released(to_drawing(event->position()));
    }
}

void DrawingView::leaveEvent(QEvent* event) {
    QWidget::leaveEvent(event);
    emit left();
}

void DrawingView::wheelEvent(QWheelEvent* event) {
    const double steps = event->angleDelta().y() / 120.0;
    if (event->modifiers() & Qt::ControlModifier) {
        zoom_to(zoom_ * std::pow(a_step, steps), event->position());
    } else if (zoom_ > 1) {
        const double by = -steps * height() / 6.0;
        pan_by(event->modifiers() & Qt::ShiftModifier ? QPointF(by, 0) : QPointF(0, by));
    } else {
        return event->ignore(); // what it lies in scrolls
    }
    event->accept();
}

void DrawingView::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return QWidget::mouseDoubleClickEvent(event);
    emit pressed(to_drawing(event->position()));
    emit opened();
}

void DrawingView::keyPressEvent(QKeyEvent* event) {
    const int key = event->key();
    if (key == Qt::Key_Return || key == Qt::Key_Enter) return emit opened();
    const int across = key == Qt::Key_Right ? 1 : key == Qt::Key_Left ? -1 : 0;
    const int down = key == Qt::Key_Down ? 1 : key == Qt::Key_Up ? -1 : 0;
    if (across == 0 && down == 0) return QWidget::keyPressEvent(event);
    if (event->modifiers() & Qt::ShiftModifier)
        return pan_by(QPointF(across * width() / 6.0, down * height() / 6.0));
    emit stepped(across + down);
}

void DrawingView::focusInEvent(QFocusEvent* event) {
    QWidget::focusInEvent(event);
    redraw();
}
void DrawingView::focusOutEvent(QFocusEvent* event) {
    QWidget::focusOutEvent(event);
    redraw();
}

bool DrawingView::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip || !tip_) return QWidget::event(event);
    const auto* help = static_cast<QHelpEvent*>(event);
    const QString said = tip_(to_drawing(help->pos()));
    said.isEmpty() ? QToolTip::hideText() : QToolTip::showText(help->globalPos(), said, this);
    return true;
}

void DrawingView::paint_whole(QPainter& p, const QRectF& frame) const {
    if (const DrawingPtr drawing = make_())
        (void)drawing->paint({p, frame, lettering(), appearance_.inks(), frame});
}

QImage DrawingView::image() const {
    QImage image(size() * 2, QImage::Format_RGB32); // sharp on paper as well
    image.setDevicePixelRatio(2);
    image.fill(appearance_.inks().paper);
    QPainter p(&image);
    paint_whole(p, frame());
    return image;
}

Result<void> DrawingView::save(const QString& path) const {
    return write_picture([this](QPainter& p, const QRectF& frame) { paint_whole(p, frame); },
                         accessibleName(), path, size() + QSize(20, 12), appearance_.inks());
}

} // namespace conductus::app
