// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"

class QComboBox;
class QLabel;
class QListWidget;
class QPushButton;

namespace conductus::app {

class EntryField;

/// The states that were kept, what changed between them, and the dated log.
class PastSheet : public StationPage {
    Q_OBJECT
public:
    PastSheet(const PageContext& context, QWidget* parent);
    void show_job() override;

private:
    /// A state to look at: a milestone, a step of the history, or the job as it is now.
    [[nodiscard]] Result<JobPtr> state_of(const QComboBox* which) const;
    void make_states(QLayout* column);
    void make_log(QLayout* column);
    void ask();
    void show_comparison(const plan::Comparison& comparison);
    void go_back();

    QComboBox *mark_, *before_, *after_;
    EntryField *note_, *log_;
    QListWidget *milestones_, *words_, *entries_;
    QLabel* summary_;
    QPushButton* back_;
};

} // namespace conductus::app
