// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/shell/fields.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"

namespace conductus::app {

/// Joints, screws, openings, socket, carriers, and the hilt as a whole.
class JointsSheet : public StationPage {
    Q_OBJECT
public:
    JointsSheet(const PageContext& context, QWidget* parent);
    void show_job() override;

private:
    /// A titled table over a list of the hilt, its refusals under it.
    Table* table(QLayout* column, const QString& object, const QString& title,
                 const QString& remark, const std::string& list, std::vector<Column> columns,
                 const QString& empty);
    /// A field over one value of the hilt, "/hilt/clearance_mm".
    EntryField* value_field(const QString& object, const QString& name, const std::string& at);
    QWidget* hilt_row();

    Table *joints_, *screws_, *openings_, *bores_, *side_, *carriers_;
    QComboBox *opens_, *chassis_, *material_;
    EntryField *clearance_, *wall_, *nominal_;
};

} // namespace conductus::app
