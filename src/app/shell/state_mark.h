// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPainter>
#include <QWidget>

#include "app/drawing/marks.h"
#include "app/session/appearance.h"

namespace conductus::app {

/// A sign with its word: tick, lozenge, or an empty ring for what is open.
class StateMark : public QWidget {
    Q_OBJECT
public:
    enum class State { fine, broken, open };
    StateMark(const Appearance& appearance, QWidget* parent);
    void show_state(State state, const QString& word);
    [[nodiscard]] QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    const Appearance& appearance_;
    State state_ = State::open;
    QString word_;
};

} // namespace conductus::app
