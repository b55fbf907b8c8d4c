// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/harness/harness_page.h"

#include "app/stations/harness/built_sheet.h"
#include "app/stations/harness/data_sheet.h"
#include "app/stations/harness/faces_sheet.h"
#include "app/stations/harness/sizing_sheet.h"
#include "app/stations/harness/solder_sheet.h"
#include "app/stations/harness/wires_sheet.h"

namespace conductus::app {

HarnessPage::HarnessPage(const Bench& bench, QWidget* parent)
    : SheetsPage(bench, "harnessSheets", tr("Sheets of the harness"), parent) {
    add_sheet(tr("Wires"), new WiresSheet(bench, this));
    add_sheet(tr("Gauges"), new SizingSheet(bench, this));
    add_sheet(tr("Connectors"), new FacesSheet(bench, this));
    add_sheet(tr("Data and buttons"), new DataSheet(bench, this));
    add_sheet(tr("Soldering"), new SolderSheet(bench, this));
    add_sheet(tr("As built"), new BuiltSheet(bench, this));
}

} // namespace conductus::app
