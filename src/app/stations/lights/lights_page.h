// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QSlider>
#include <array>

#include "app/stations/station_page.h"

class QBoxLayout;
class QComboBox;
class QLabel;
class QPushButton;

namespace conductus::app {

class Field;
class LookList;

/// Looks, the blade they light, and what they draw.
class LightsPage : public StationPage {
    Q_OBJECT
public:
    LightsPage(const Bench& bench, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    [[nodiscard]] std::size_t look_index() const;
    void show_look();
    void edit_look(const QString& what, const std::function<void(job::Look&)>& change);
    void make_look_editor(QBoxLayout* column);
    void make_blade_editor(QBoxLayout* column);

    LookList* looks_;
    Field* name_;
    QComboBox* style_;
    std::array<QSlider*, 5> sliders_{}; ///< red, green, blue, white, cap
    std::array<QLabel*, 5> shares_{};
    QComboBox* strip_;
    Field *pixels_, *length_;
    QLabel* arithmetic_;
};

} // namespace conductus::app
