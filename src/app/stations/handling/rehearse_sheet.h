// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QElapsedTimer>
#include <QTimer>
#include <memory>

#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/handling/player.h"
#include "core/plan/handled.h"

class QComboBox;
class QLabel;
class QPushButton;

namespace conductus::app {

/// The hilt is played by keys and mouse: what was understood, and how long after; and the tour
/// through all commands, step by step.
class RehearseSheet : public StationPage {
    Q_OBJECT
public:
    RehearseSheet(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void keyReleaseEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    void start();
    void hear(handling::EventKind kind, const std::string& button,
              job::Motion motion = job::Motion::none, job::Side side = job::Side::left);
    void take(const std::vector<handling::Said>& all);
    void wait();
    void tell();
    void show_buttons();
    void release_all();
    [[nodiscard]] double now() const { return static_cast<double>(clock_.elapsed()) / 1000.0; }
    [[nodiscard]] const job::Handling& map() const { return plan_->whole->handling; }
    [[nodiscard]] QString step_text(std::size_t step) const;
    PlanPtr plan_;
    plan::Handled handled_;
    std::unique_ptr<handling::Player> player_;
    QElapsedTimer clock_;
    QTimer timer_;
    std::vector<std::string> down_; ///< buttons, as the keys and the mouse hold them
    std::size_t step_ = 0;          ///< of the tour that is to be done next
    QLabel *state_, *heard_, *keys_;
    QComboBox* attitude_;
    QComboBox* blade_;
    QWidget* buttons_;
    std::vector<QPushButton*> shown_buttons_;
    Table *steps_, *understood_;
    std::vector<std::size_t> here_; ///< commands of the state that it is in
};

} // namespace conductus::app
