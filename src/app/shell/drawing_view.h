// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <optional>

#include "app/drawing/drawing.h"
#include "app/session/appearance.h"
#include "core/base/problem.h"

namespace conductus::app {

/// Shows any drawing: with zoom and pan, to be copied (Ctrl+C while it has the focus) and saved as
/// SVG, PDF or PNG by its menu, and told in words to who does not see it. Pages tell by `make` what
/// is drawn, and connect to what is done with the mouse; places are those of the drawing, whatever
/// the zoom.
class DrawingView : public QWidget {
    Q_OBJECT
public:
    /// What is drawn now; null: nothing. Called often: it must only put things together.
    using Make = std::function<DrawingPtr()>;
    DrawingView(const char* object, const QString& name, const Appearance& appearance, Make make,
                QWidget* parent);

    /// What is drawn has changed.
    void redraw();
    /// What hovering over a place tells; empty: nothing.
    void tell(std::function<QString(QPointF at)> tip) { tip_ = std::move(tip); }
    /// As high as the drawing is best read, whatever the layout would give: for a scroll area.
    void keep_height() { keeps_height_ = true; }

    [[nodiscard]] const DrawingPtr& drawing() const { return drawing_; }
    [[nodiscard]] QRectF frame() const { return QRectF(rect()); }
    [[nodiscard]] double lettering() const { return appearance_.text(); }
    [[nodiscard]] const std::vector<HitBox>& boxes() const { return boxes_; }
    /// The part or wire that is drawn there; the smallest of several, empty for none.
    [[nodiscard]] QString ref_at(QPointF at) const;

    [[nodiscard]] double zoom() const { return zoom_; }
    /// As many times as large, between 1 and 12, with what lies at `about` of the widget left
    /// there.
    void zoom_to(double zoom, QPointF about);
    /// As large as makes that place fill most of the view, in its middle.
    void zoom_to_box(const QRectF& in_drawing);
    [[nodiscard]] QPointF to_drawing(QPointF in_widget) const;
    [[nodiscard]] QPointF to_widget(QPointF in_drawing) const;

    /// Errors: as of write_picture().
    Result<void> save(const QString& path) const;

    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;

signals:
    void pressed(QPointF at);
    void dragged(QPointF at); ///< with the left button held
    void released(QPointF at);
    void hovered(QPointF at); ///< without a button
    void left();
    void opened();          ///< a double click, or Enter
    void stepped(int step); ///< an arrow key: +1 right or down, −1 left or up

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    bool event(QEvent* event) override;
    const Appearance& appearance_;

private:
    void make_menu();
    void pan_by(QPointF by);
    [[nodiscard]] QImage image() const;
    void paint_whole(QPainter& p, const QRectF& frame) const;

    Make make_;
    DrawingPtr drawing_;
    std::vector<HitBox> boxes_;
    std::function<QString(QPointF)> tip_;
    bool keeps_height_ = false;
    double zoom_ = 1;
    QPointF corner_; ///< of the widget, in the enlarged drawing
    std::optional<QPointF> grabbed_;
};

} // namespace conductus::app
