// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/hilt/hilt_page.h"

#include "app/stations/hilt/arrange_sheet.h"
#include "app/stations/hilt/assembly_sheet.h"
#include "app/stations/hilt/joints_sheet.h"
#include "app/stations/hilt/passing_sheet.h"
#include "app/stations/hilt/survey_sheet.h"
#include "app/stations/hilt/tray_sheet.h"

namespace conductus::app {

HiltPage::HiltPage(const PageContext& context, QWidget* parent)
    : SheetsPage(context, "hiltSheets", tr("Sheets of the hilt"), parent) {
    add_sheet(tr("Survey"), new SurveySheet(context, this));
    add_sheet(tr("Joints and screws"), new JointsSheet(context, this));
    add_sheet(tr("Passing"), new PassingSheet(context, this));
    add_sheet(tr("Assembly"), new AssemblySheet(context, this));
    add_sheet(tr("Arrange"), new ArrangeSheet(context, this));
    add_sheet(tr("Parts"), new TraySheet(context, this));
}

} // namespace conductus::app
