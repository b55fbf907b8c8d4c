// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/power_page.h"

#include "app/stations/power/care_sheet.h"
#include "app/stations/power/cold_sheet.h"
#include "app/stations/power/day_sheet.h"
#include "app/stations/power/discharge_sheet.h"
#include "app/stations/power/options_sheet.h"
#include "app/stations/power/plugs_sheet.h"
#include "app/stations/power/runtime_sheet.h"
#include "app/stations/power/spares_sheet.h"
#include "app/stations/power/why_sheet.h"

namespace conductus::app {

PowerPage::PowerPage(const PageContext& context, QWidget* parent)
    : SheetsPage(context, "powerSheets", tr("Sheets of the power"), parent) {
    add_sheet(tr("Runtime"), new RuntimeSheet(context, this));
    add_sheet(tr("The day"), new DaySheet(context, this));
    add_sheet(tr("Spares"), new SparesSheet(context, this));
    add_sheet(tr("Discharge"), new DischargeSheet(context, this));
    add_sheet(tr("Cold and warm"), new ColdSheet(context, this));
    add_sheet(tr("Options"), new OptionsSheet(context, this));
    add_sheet(tr("Why"), new WhySheet(context, this));
    add_sheet(tr("Charging"), new CareSheet(context, this));
    add_sheet(tr("Plugs"), new PlugsSheet(context, this));
}

} // namespace conductus::app
