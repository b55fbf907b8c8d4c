// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"

class QLabel;

namespace conductus::app {

class PagePreview;

/// The page for the owner, as it will print.
class OwnerSheet : public StationPage {
    Q_OBJECT
public:
    OwnerSheet(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;
    /// Writes the page as PDF or text, by the ending; says what goes wrong beside the buttons.
    void write(const QString& path);

private:
    void ask(const QString& ending);
    PagePreview* preview_;
    QLabel* note_;
    PlanPtr plan_;
};

} // namespace conductus::app
