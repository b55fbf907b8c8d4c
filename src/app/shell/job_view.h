// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <array>

#include "app/session/selection.h"
#include "app/session/settings.h"
#include "app/shell/station_rail.h"
#include "app/stations/station_page.h"

class QSplitter;
class QStackedWidget;
#include "core/job/habits.h"

namespace conductus::app {

class FindingsPane;
class GaugeBar;
class HandOnSection;
class PartPage;
class SectionPane;
class StartPage;
class WhyPanel;

/// One open job: rail, long section, the station's page, findings and gauges.
class JobView : public QWidget {
    Q_OBJECT
public:
    JobView(std::unique_ptr<Session> session, Appearance& appearance, Settings& settings,
            QWidget* parent);
    ~JobView() override;
    [[nodiscard]] Session& session() { return *session_; }
    [[nodiscard]] Selection& selection() { return selection_; }
    /// The shop's habits, which a job that is made here begins with.
    void begin_with(const job::Habits& habits);
    void go_to(std::size_t station);
    /// The sheet that a blank job is begun on.
    void go_to_start();
    /// Moves the focus to the next pane: rail, section, page, findings, gauges.
    void next_pane(bool backwards);
    void focus_rail();
    /// Folds or unfolds the long section, or the findings, at the station in hand.
    void fold_section(bool folded);
    void fold_findings(bool folded);
    [[nodiscard]] bool section_folded() const { return room().section_folded; }
    [[nodiscard]] bool findings_folded() const { return room().findings_folded; }
    void open_chosen();
    /// The section to the chosen part, and back.
    void zoom_to_chosen();

signals:
    void shelf_wanted();

protected:
    void resizeEvent(QResizeEvent*) override;

private:
    void show_figures();
    void follow_blank();
    void open_part(const QString& ref);
    void close_part();
    [[nodiscard]] bool at_start() const;
    [[nodiscard]] bool at_part() const;
    void show_why(std::size_t figure);
    void place_why();
    void lay_out();
    void keep_dragged();
    [[nodiscard]] std::size_t place() const;
    [[nodiscard]] const Room& room() const { return settings_.room(place()); }

    std::unique_ptr<Session> session_;
    Appearance& appearance_;
    Settings& settings_;
    Selection selection_;
    StationRail* rail_;
    SectionPane* section_;
    QStackedWidget* stack_;
    QSplitter *above_, *beside_; ///< section over the rest, page beside findings
    std::array<StationPage*, station_count> pages_{};
    StartPage* start_;
    PartPage* part_;
    FindingsPane* findings_;
    GaugeBar* gauges_;
    WhyPanel* why_;
    std::size_t why_figure_ = 0, station_ = 1;
    std::array<bool, station_count> stale_{};
    HandOnSection* hand_;
};

} // namespace conductus::app
