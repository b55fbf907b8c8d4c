// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QThreadPool>
#include <QTimer>
#include <QWidget>
#include <array>
#include <map>
#include <optional>

#include "app/session/appearance.h"
#include "app/session/session.h"
#include "app/shelf/card_grid.h"
#include "app/shell/station_rail.h"

class QLabel;
class QLineEdit;
class QPushButton;
class QScrollArea;

namespace conductus::app {

class NewJobPanel;
class PartsPage;

/// All jobs of the book as cards: a rail of what waits, search over every word, new jobs. It
/// follows what other windows and programs write.
class ShelfPage : public QWidget {
    Q_OBJECT
public:
    ShelfPage(CataloguePtr parts, const Appearance& appearance, QWidget* parent);
    ~ShelfPage() override;
    /// Reads the book and shows it, or the problem with it.
    void read(const std::filesystem::path& book);
    /// Lets go of the book: another page has it.
    void close();
    [[nodiscard]] QString message() const;
    void begin_new(bool copy);
    /// Finds in the place that is open: jobs, or parts.
    void focus_search();
    /// The parts of the shop in place of its jobs, and back.
    void show_parts(bool parts);
    [[nodiscard]] PartsPage& parts() const { return *parts_page_; }
    [[nodiscard]] bool at_parts() const;

signals:
    void job_chosen(conductus::shop::JobId id);
    void import_wanted();
    void list_wanted();
    void retry();
    /// Go back to a backup of the book: the newest that is sound.
    void restore_wanted(QString backup);
    /// Save what is whole of a damaged book, and go on with it.
    void rescue_wanted();

public slots:
    void show_message(const conductus::Problem& problem);

private:
    enum Shelf { all, due_soon, in_work, broken, handed_over, came_back, shelves };
    [[nodiscard]] bool belongs(const JobCard& card, int shelf) const;
    void make_rail();
    void read_entries();
    void look();
    void filter();
    void count_shelves();
    /// Has the card's plan computed: those in sight first, then all others for what they say.
    void compute(JobCard* card, int priority);
    void judge_rest();
    void forget_far();
    void make_job(const QString& name, job::Kind kind, shop::JobId like);

    CataloguePtr parts_;
    const Appearance& appearance_;
    std::filesystem::path path_;
    std::optional<shop::Book> book_;
    std::int64_t version_ = -1;
    std::map<shop::JobId, JobCard*> cards_;
    std::vector<shop::Entry> entries_;
    QWidget* rail_;
    std::array<RailButton*, shelves> shelves_{};
    RailButton* parts_button_;
    PartsPage* parts_page_;
    QWidget* jobs_; ///< the cards with what stands over them
    int shelf_ = all;
    QLineEdit* search_;
    NewJobPanel* new_;
    QScrollArea* scroll_;
    CardGrid* grid_;
    QLabel* message_;
    QPushButton *retry_, *restore_, *rescue_;
    std::filesystem::path backup_; ///< what going back goes back to
    std::vector<QPushButton*> makers_;
    QThreadPool pool_;
    QTimer watch_;
};

} // namespace conductus::app
