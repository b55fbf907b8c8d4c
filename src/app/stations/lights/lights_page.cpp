// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/lights_page.h"

#include "app/stations/lights/blades_sheet.h"
#include "app/stations/lights/currents_sheet.h"
#include "app/stations/lights/effects_sheet.h"
#include "app/stations/lights/follow_sheet.h"
#include "app/stations/lights/lines_sheet.h"
#include "app/stations/lights/loads_sheet.h"
#include "app/stations/lights/looks_sheet.h"
#include "app/stations/lights/presets_sheet.h"
#include "app/stations/lights/states_sheet.h"
#include "app/stations/lights/variants_sheet.h"

namespace conductus::app {

LightsPage::LightsPage(const PageContext& context, QWidget* parent)
    : SheetsPage(context, "lightsSheets", tr("Sheets of the lights"), parent) {
    add_sheet(tr("Looks"), new LooksSheet(context, this));
    add_sheet(tr("Loads"), new LoadsSheet(context, this));
    add_sheet(tr("Currents"), new CurrentsSheet(context, this));
    add_sheet(tr("In time"), new EffectsSheet(context, this));
    add_sheet(tr("Data lines"), new LinesSheet(context, this));
    add_sheet(tr("Variants"), new VariantsSheet(context, this));
    add_sheet(tr("Blades"), new BladesSheet(context, this));
    add_sheet(tr("Presets"), new PresetsSheet(context, this));
    add_sheet(tr("States"), new StatesSheet(context, this));
    add_sheet(tr("Goes along"), new FollowSheet(context, this));
}

} // namespace conductus::app
