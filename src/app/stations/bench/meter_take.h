// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/stations/bench/bench_work.h"

class QCheckBox;
class QPushButton;

namespace conductus::app {

/// Takes what the meter reads: by a button that says what it would take, or by itself once the
/// probes are at their new place and it is steady.
class MeterTake : public QWidget {
    Q_OBJECT
public:
    /// `object`: of the button; of the tick it is that and "ByItself". `idle`: words of the button
    /// while the meter reads nothing, and it can not be pressed.
    MeterTake(BenchWork& work, const QString& object, const QString& idle, QWidget* parent);

signals:
    void taken(double value);

private:
    void follow();
    void take();
    BenchWork& work_;
    QString idle_;
    QPushButton* button_;
    QCheckBox* by_itself_;
};

} // namespace conductus::app
