// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QBoxLayout>
#include <QComboBox>
#include <QPushButton>

#include "app/shell/fields.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/job/habits.h"
#include "core/plan/questions.h"

namespace conductus::app {

/// What a blank job opens on: the few things that are known of a hilt in hand, each with its usual
/// choice and what comes of it, and beside them what each other choice would bring. Nothing is
/// made before "Make the job"; section and gauges show all along what it would be.
class StartPage : public StationPage {
    Q_OBJECT
public:
    StartPage(const PageContext& context, QWidget* parent);
    void show_preview(const PlanPtr& plan) override;
    /// The way the job would be begun as the sheet stands.
    [[nodiscard]] const plan::Start& start() const { return start_; }

    /// Parts that the shop usually takes are chosen, where nothing was said yet; wires are made as
    /// usual.
    void begin_with(const job::Habits& habits);

signals:
    void made();    ///< the job is no longer blank
    void skipped(); ///< everything is to be typed by hand

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    /// A line of the sheet.
    struct Line {
        std::string member; ///< of Start, as check_start() names it
        QString name;
        EntryField* field = nullptr; ///< lengths
        QComboBox* combo = nullptr;  ///< choices; the first is the usual
        QLabel* comes = nullptr;     ///< what comes of it
        /// What may be chosen beside the usual, as ways to begin.
        std::function<std::vector<plan::Start>()> choices;
        std::function<void(plan::Start&)> usual; ///< back to the usual choice
        QString usual_words;                     ///< which that is, with all else as it stands
    };
    using StartsPtr = plan::AnswerPtr<plan::StartsTried>;

    void add_length(class QGridLayout* grid, const char* member, const QString& name,
                    std::optional<Millimetre> plan::Start::*value, const QString& empty,
                    std::vector<double> usual_mm);
    void add_count(QGridLayout* grid, const char* member, const QString& name,
                   std::optional<int> plan::Start::*value, int most, const QString& none);
    void add_part(QGridLayout* grid, const char* member, const QString& name,
                  std::string plan::Start::*value, std::size_t kind);
    Line& add_line(QGridLayout* grid, const char* member, const QString& name, QWidget* widget);
    void changed();
    void show_usual();
    void ask_choices();
    void take(int row);
    void make_it();
    [[nodiscard]] QString comes_of(const Line& line, const plan::Plan& plan) const;
    [[nodiscard]] QString choice_text(const plan::Start& start, const Line& line) const;

    plan::Start start_;
    job::Habits habits_;
    std::vector<Line> lines_;
    std::size_t asked_ = 0; ///< line whose choices are shown
    std::vector<plan::Start> choices_;
    StartsPtr outcomes_;
    Table* table_;
    QLabel *beside_, *said_;
    QPushButton* make_;
    QBoxLayout* row_;
};

} // namespace conductus::app
