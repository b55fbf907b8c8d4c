// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/state_mark.h"

namespace conductus::app {

StateMark::StateMark(const Appearance& appearance, QWidget* parent)
    : QWidget(parent), appearance_(appearance) {
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
    connect(&appearance, &Appearance::changed, this, [this] { updateGeometry(); });
}

void StateMark::show_state(State state, const QString& word) {
    state_ = state;
    word_ = word;
    setAccessibleName(word);
    setToolTip(word);
    update();
}

QSize StateMark::sizeHint() const {
    return {qRound(appearance_.text() * 5.6), qRound(appearance_.text() * 1.7)};
}

void StateMark::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Inks& inks = appearance_.inks();
    const double text = appearance_.text(), m = text * 1.15;
    const QRectF box(1, (height() - m) / 2, m, m);
    QColor ink = inks.second;
    if (state_ == State::fine) {
        paint_tick(p, box, inks);
        ink = inks.fine;
    } else if (state_ == State::broken) {
        paint_mark(p, box, findings::Severity::warn, inks);
        ink = inks.warn;
    } else {
        p.setPen(QPen(inks.second, 1.4));
        p.drawEllipse(box.adjusted(2, 2, -2, -2));
    }
    p.setPen(ink);
    p.setFont(page_font(text * 0.92, state_ == State::broken));
    p.drawText(QRectF(m + text * 0.5, 0, width(), height()), Qt::AlignVCenter, word_);
}

} // namespace conductus::app
