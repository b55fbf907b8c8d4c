// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <filesystem>

#include "app/session/appearance.h"
#include "core/catalogue/catalogue.h"
#include "core/job/habits.h"

class QLabel;

namespace conductus::app {

class EntryField;

/// What the shop usually does, kept in its book: typed, or taken from the open job.
class HabitsPanel : public QDialog {
    Q_OBJECT
public:
    /// `job`: the one that is open; null: none is.
    HabitsPanel(std::filesystem::path book, std::shared_ptr<const catalogue::Catalogue> parts,
                const job::Job* job, QWidget* parent);

signals:
    void kept(const conductus::job::Habits& habits);

private:
    Result<void> keep(const job::Habits& habits);
    void show_all();
    std::filesystem::path book_;
    std::shared_ptr<const catalogue::Catalogue> parts_;
    job::Habits habits_;
    std::vector<std::pair<std::string, EntryField*>> fields_;
    QLabel* said_;
};

} // namespace conductus::app
