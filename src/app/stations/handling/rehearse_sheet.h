// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QElapsedTimer>
#include <QTimer>
#include <memory>

#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/handling/player.h"
#include "core/handling/quiz.h"
#include "core/plan/film.h"
#include "core/plan/handled.h"

class QComboBox;
class QLabel;
class QPushButton;

namespace conductus::app {

using FilmPtr = std::shared_ptr<const plan::Film>;

/// The hilt is played by keys and mouse: its blade shows what it does, the sheet says what was
/// understood and how long after. The tour leads through all commands step by step; asked in turn,
/// what fails comes again sooner.
class RehearseSheet : public StationPage {
    Q_OBJECT
public:
    enum class Alone { no, yes };
    /// Alone in a window of its own it has nothing that changes the job but what was learned.
    RehearseSheet(const PageContext& context, QWidget* parent, Alone alone = Alone::no);
    void show_plan(const PlanPtr& plan) override;

    /// Asks for commands one after the other, of the one who has that part in it; without, leads
    /// through the tour.
    void quiz(const QString& who);
    void lead_through();
    /// Keeps in the job what was answered so far.
    void keep_results();
    [[nodiscard]] const handling::Quiz* quiz() const { return quiz_.get(); }

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
    void ask_next();
    void judge(const handling::Said& said);
    void tell_quiz();
    /// The film of what the blade shows now: the look of its preset, or an effect over it.
    void show_film(const std::string& effect);
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
    std::vector<std::string> down_;        ///< buttons, as the keys and the mouse hold them
    std::size_t step_ = 0;                 ///< of the tour that is to be done next
    std::unique_ptr<handling::Quiz> quiz_; ///< null: the tour is shown
    double asked_at_ = 0;
    bool ask_when_released_ = false;
    FilmPtr film_;
    double film_since_ = 0;
    bool film_once_ = false; ///< an effect: the look goes on behind it
    QTimer frames_;
    Alone alone_;
    QWidget* blade_view_;
    QComboBox *way_, *who_;
    QLabel *question_, *score_, *learned_;
    QWidget *tour_box_, *quiz_box_;
    QPushButton* keep_;
    QLabel *state_, *heard_, *keys_;
    QComboBox* attitude_;
    QComboBox* blade_;
    QWidget* buttons_;
    std::vector<QPushButton*> shown_buttons_;
    Table *steps_, *understood_;
    std::vector<std::size_t> here_; ///< commands of the state that it is in
};

/// The hilt alone in a large window that can be left running for an owner: nothing in it changes
/// the job but what was learned.
class RehearseWindow : public QWidget {
    Q_OBJECT
public:
    /// The parent goes before the session does.
    RehearseWindow(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan);
    [[nodiscard]] RehearseSheet* sheet() const { return sheet_; }

protected:
    void closeEvent(QCloseEvent* event) override;

private:
    Session& session_;
    Appearance appearance_;
    Selection selection_;
    RehearseSheet* sheet_;
};

} // namespace conductus::app
