// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/lights_page.h"

#include "app/stations/lights/currents_sheet.h"
#include "app/stations/lights/effects_sheet.h"
#include "app/stations/lights/lines_sheet.h"
#include "app/stations/lights/loads_sheet.h"
#include "app/stations/lights/looks_sheet.h"
#include "app/stations/lights/variants_sheet.h"

namespace conductus::app {

LightsPage::LightsPage(const Bench& bench, QWidget* parent)
    : SheetsPage(bench, "lightsSheets", tr("Sheets of the lights"), parent) {
    add_sheet(tr("Looks"), new LooksSheet(bench, this));
    add_sheet(tr("Loads"), new LoadsSheet(bench, this));
    add_sheet(tr("Currents"), new CurrentsSheet(bench, this));
    add_sheet(tr("In time"), new EffectsSheet(bench, this));
    add_sheet(tr("Data lines"), new LinesSheet(bench, this));
    add_sheet(tr("Variants"), new VariantsSheet(bench, this));
}

} // namespace conductus::app
