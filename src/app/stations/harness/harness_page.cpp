// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/harness/harness_page.h"

#include "app/stations/harness/built_sheet.h"
#include "app/stations/harness/data_sheet.h"
#include "app/stations/harness/faces_sheet.h"
#include "app/stations/harness/sizing_sheet.h"
#include "app/stations/harness/solder_sheet.h"
#include "app/stations/harness/wires_sheet.h"

namespace conductus::app {

HarnessPage::HarnessPage(const PageContext& context, QWidget* parent)
    : SheetsPage(context, "harnessSheets", tr("Sheets of the harness"), parent) {
    add_sheet(tr("Wires"), new WiresSheet(context, this));
    add_sheet(tr("Gauges"), new SizingSheet(context, this));
    add_sheet(tr("Connectors"), new FacesSheet(context, this));
    add_sheet(tr("Data and buttons"), new DataSheet(context, this));
    add_sheet(tr("Soldering"), new SolderSheet(context, this));
    add_sheet(tr("As built"), new BuiltSheet(context, this));
}

} // namespace conductus::app
