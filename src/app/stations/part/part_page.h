// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QBoxLayout>
#include <QLabel>
#include <QPushButton>

#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/job/part_values.h"

namespace conductus::app {

class PictureStrip;

/// All of one part: its values, its terminals and what is on them, its pictures. It opens over the
/// station's page, from wherever a part can be chosen, and Esc closes it.
class PartPage : public StationPage {
    Q_OBJECT
public:
    PartPage(const PageContext& context, QWidget* parent);
    /// Shows what has that reference; false where nothing does.
    bool show_part(const QString& ref);
    [[nodiscard]] QString ref() const { return ref_; }
    /// What it showed is no longer in the job.
    [[nodiscard]] bool gone() const { return values_.empty(); }
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

signals:
    void closed();
    void tray_wanted(); ///< another part in its place is looked for

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    /// A terminal, and a wire on it; no wire: it is free.
    struct End {
        std::string terminal, other;
        const harness::WireRow* wire = nullptr;
    };
    [[nodiscard]] const catalogue::PartType* type() const;
    /// What stands in a value's field, to the last digit.
    [[nodiscard]] std::string typed_text(const job::PartValue& value) const;
    [[nodiscard]] QString shown(const job::PartValue& value, const std::string& typed) const;
    [[nodiscard]] job::Edit edit(int row, const std::string& typed);
    /// What is said of a terminal that no wire is on.
    [[nodiscard]] QString free_words(const std::string& terminal) const;
    void follow_terminals();

    QString ref_;
    PlanPtr plan_;
    std::vector<job::PartValue> values_;
    std::vector<End> ends_;
    QLabel *title_, *said_, *found_;
    QPushButton *again_, *remove_;
    Table *table_, *terminals_;
    DrawingView* drawing_;
    PictureStrip* pictures_;
    QBoxLayout* row_;
};

} // namespace conductus::app
