// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractButton>
#include <QWidget>
#include <vector>

#include "app/session/appearance.h"
#include "app/session/session.h"

namespace conductus::app {

/// A figure of the gauge bar as a person reads it: "5.35 A", "1 h 28", "2 cells".
QString figure_text(const Explained& figure);

/// True if larger is better for that figure.
bool larger_is_better(std::string_view id);

/// One figure: value, what it is, and what the last edit did to it. Clicking it asks why.
class Gauge : public QAbstractButton {
    Q_OBJECT
public:
    Gauge(const Appearance& appearance, QWidget* parent);
    void show_figure(const Explained& figure, const Explained* before);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QString value_text() const { return value_; }
    [[nodiscard]] QString change_text() const { return change_; }
    [[nodiscard]] QString worst_text() const {
        return worst_;
    } ///< with the worst set; empty: alike

protected:
    void paintEvent(QPaintEvent*) override;

private:
    const Appearance& appearance_;
    QString value_, label_, change_, worst_;
    int better_ = 0; ///< +1 better, -1 worse than before the last edit
};

/// The eight figures that decide.
class GaugeBar : public QWidget {
    Q_OBJECT
public:
    explicit GaugeBar(const Appearance& appearance, QWidget* parent = nullptr);
    void show_plan(const PlanPtr& plan, const PlanPtr& before);
    [[nodiscard]] Gauge* gauge(std::size_t i) const { return gauges_[i]; }

signals:
    void why(std::size_t figure);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    const Appearance& appearance_;
    std::vector<Gauge*> gauges_;
};

} // namespace conductus::app
