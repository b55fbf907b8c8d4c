// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/shell/fields.h"
#include "app/shell/rows_table.h"
#include "app/stations/station_page.h"
#include "core/job/limits.h"

namespace conductus::app {

/// Joints, screws, openings, socket, carriers, and the hilt as a whole.
class JointsSheet : public StationPage {
    Q_OBJECT
public:
    JointsSheet(const Bench& bench, QWidget* parent);
    void show_job() override;

private:
    using Read = std::function<Result<void>(job::Job&, const RowsTable::Rows&)>;
    /// A titled table whose rows are read into the job whole; what can not be read stays as typed,
    /// with the reason under the table.
    RowsTable* table(QLayout* column, const QString& object, const QString& title,
                     const QString& remark, const QStringList& columns, const Read& read);
    Field* length_field(const QString& object, const QString& name, Millimetre job::Hilt::*member,
                        job::limits::Range range);
    QWidget* hilt_row();

    RowsTable *joints_, *screws_, *openings_, *bores_, *carriers_;
    QComboBox *opens_, *chassis_, *material_;
    Field *clearance_, *wall_, *nominal_;
};

} // namespace conductus::app
