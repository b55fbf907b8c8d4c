// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QSlider>
#include <array>

#include "app/stations/station_page.h"

class QBoxLayout;
class QComboBox;
class QLabel;
class QPushButton;
class QWidget;

namespace conductus::app {

class Field;
class LookList;

/// Looks, the blades they light, what they draw and what would change that.
class LooksSheet : public StationPage {
    Q_OBJECT
public:
    LooksSheet(const Bench& bench, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    [[nodiscard]] std::size_t look_index() const;
    void show_look();
    void edit_look(const QString& what, const std::function<void(job::Look&)>& change);
    void make_look_editor(QBoxLayout* column);
    void make_blade_editor(QBoxLayout* column);
    void show_changes();

    LookList* looks_;
    Field* name_;
    QComboBox* style_;
    std::array<QSlider*, 5> sliders_{}; ///< red, green, blue, white, cap
    std::array<QLabel*, 5> shares_{};
    QComboBox* strip_;
    Field *pixels_, *length_;
    QLabel* arithmetic_;
    QWidget* changes_; ///< what would change the chosen look
    PlanPtr plan_;
};

} // namespace conductus::app
