// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>

#include "app/drawing/inks.h"

namespace conductus::app {

/// Day or night, and how large text is. One a window, given to whoever paints.
class Appearance : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;
    [[nodiscard]] const Inks& inks() const { return inks_; }
    /// Pixels of running text at this text size; everything is laid out from it.
    [[nodiscard]] double text() const { return 13.0 * percent_ / 100; }
    [[nodiscard]] int percent() const { return percent_; }

    void set_night(bool night) {
        inks_ = night ? Inks::night_variant() : Inks::day();
        emit changed();
    }
    void set_percent(int percent) {
        percent_ = std::clamp(percent, 80, 200);
        emit changed();
    }

    /// Rows that the main table of a page keeps in sight.
    [[nodiscard]] int rows() const { return rows_; }
    void set_rows(int rows) {
        if (rows == rows_) return;
        rows_ = rows;
        emit rows_changed();
    }

signals:
    void changed();
    void rows_changed();

private:
    Inks inks_ = Inks::day();
    int percent_ = 100, rows_ = 8;
};

} // namespace conductus::app
