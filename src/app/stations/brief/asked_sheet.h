// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/shell/fields.h"
#include "app/stations/station_page.h"

class QGridLayout;

namespace conductus::app {

class WishList;

/// Kind, use and terms of the job, and the wishes.
class AskedSheet : public StationPage {
    Q_OBJECT
public:
    AskedSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    using Show = std::function<QString(const job::Job&)>;
    void add_field(const QString& name, const char* object, Show show, EntryField::Commit commit,
                   int columns = 1);
    void add_combo(QComboBox* combo, std::function<int(const job::Job&)> show,
                   std::function<void(int)> chosen);
    void place(const QString& name, QWidget* editor, int columns);
    void add_terms();
    void add_use();
    EntryField::Commit minutes(const QString& label, const char* at);

    QGridLayout* grid_;
    int at_ = 0;
    std::vector<std::pair<EntryField*, Show>> fields_;
    std::vector<std::pair<QComboBox*, std::function<int(const job::Job&)>>> combos_;
    WishList* wishes_;
};

} // namespace conductus::app
