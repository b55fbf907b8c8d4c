// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QSlider>
#include <array>

#include "app/stations/station_page.h"

class QBoxLayout;
class QComboBox;
class QLabel;
class QPushButton;
class QScrollArea;
class QSpinBox;
class QWidget;

namespace conductus::app {

class ColourField;
class EntryField;
class LookList;

/// Looks, the blades they light, what they draw and what would change that.
class LooksSheet : public StationPage {
    Q_OBJECT
public:
    LooksSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;
    void show_preview(const PlanPtr& plan) override;

private:
    [[nodiscard]] std::size_t look_index() const;
    void show_look();
    /// Colour, style and cap as edited: of the whole look, or of one light in it.
    struct Setting {
        job::Colour colour;
        job::Style style = job::Style::steady;
        double cap = 1;
        job::Colour second;
        std::optional<double> meets;
    };
    /// Whether the second of two colours is edited.
    [[nodiscard]] bool second() const;
    /// The colour of a setting that is edited.
    [[nodiscard]] job::Colour& edited(Setting& setting) const;
    /// What slider `i` moves: red, green, blue, white, cap.
    [[nodiscard]] double& share_of(Setting& setting, std::size_t i) const;
    /// The light that is edited; empty: the whole look.
    [[nodiscard]] std::string light() const;
    [[nodiscard]] Setting setting() const;
    /// The look with that setting in its place.
    [[nodiscard]] job::Look look_with(const Setting& setting) const;
    void edit_setting(const QString& what, const Setting& setting);
    void preview_setting(const Setting& setting);
    void make_look_editor(QBoxLayout* column);
    void make_slider(std::size_t i, QLayout* flow);
    void show_lights();
    void show_changes();
    void show_tips(const PlanPtr& plan);

    void keep_rows_in_sight();
    LookList* looks_;
    QScrollArea* list_;
    EntryField* name_;
    QComboBox* style_;
    QComboBox* colour_;  ///< which of two colours is edited
    QSpinBox* meets_;    ///< where the second begins, %
    QWidget* colours_;    ///< the one, with its word
    QWidget* meeting_;    ///< the other, with its word

    QComboBox* light_;
    QPushButton* as_look_; ///< the light shows what the look shows again
    ColourField* field_;
    std::array<QSlider*, 5> sliders_{}; ///< red, green, blue, white, cap
    std::array<QSpinBox*, 5> shares_{};
    QWidget* white_ = nullptr; ///< slider and percent of the white die
    QLabel* arithmetic_;
    QWidget* changes_; ///< what would change the chosen look
    PlanPtr plan_;
};

} // namespace conductus::app
