// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <optional>

#include "app/session/card_work.h"
#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/card/check.h"
#include "core/card/compare.h"

class QComboBox;
class QLabel;
class QProgressBar;
class QPushButton;
class QLineEdit;
class QStackedWidget;

namespace conductus::app {

/// The presets against a memory card: what is missing, how loud it is, what differs from the card
/// as it was kept; and a card prepared for them.
class CardSheet : public StationPage {
    Q_OBJECT
public:
    /// What is looked at of the card.
    enum View { wrong, loud, course, changes, preparing };
    CardSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

    /// Reads the card in that folder; what comes of it is shown when it was read.
    void check(const QString& folder);
    void look_at(View view);
    /// Says what preparing a card from one folder into another would do; begin() does it.
    void plan_preparing(const QString& from, const QString& to);
    void begin();

private:
    QWidget* make_wrong(QWidget* parent);
    QWidget* make_course(QWidget* parent);
    QWidget* make_changes(QWidget* parent);
    QWidget* make_preparing(QWidget* parent);
    void judge();
    void refresh();
    void tell();
    void say(const QString& text, bool refused = false);
    void be_busy(bool busy);
    void follow_sound();
    [[nodiscard]] const card::File* chosen_sound() const;
    [[nodiscard]] std::vector<const card::File*> sounds() const;

    CardWork* work_;
    std::optional<card::Card> card_;
    card::Checked checked_;
    std::vector<card::CardLine> lines_; ///< that differ from the card as it was kept
    std::optional<files::CardPlan> plan_;
    QString from_, to_;
    QComboBox* folder_;
    QPushButton *check_, *stop_, *take_, *keep_, *prepare_, *begin_;
    QProgressBar* progress_;
    QLabel *said_, *room_;
    QComboBox* view_;
    QStackedWidget* stack_;
    QLineEdit *from_field_, *to_field_;
    Table *presets_, *troubles_, *sounds_, *differences_, *copies_;
    DrawingView *loudness_, *wave_;
};

} // namespace conductus::app
