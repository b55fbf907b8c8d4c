// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/handling/handling_page.h"

#include "app/stations/handling/card_sheet.h"
#include "app/stations/handling/commands_sheet.h"
#include "app/stations/handling/hand_states_sheet.h"
#include "app/stations/handling/map_sheet.h"
#include "app/stations/handling/motion_sheet.h"
#include "app/stations/handling/preset_changes_sheet.h"
#include "app/stations/handling/rehearse_sheet.h"

namespace conductus::app {

HandlingPage::HandlingPage(const PageContext& context, QWidget* parent)
    : SheetsPage(context, "handlingSheets", tr("Sheets of the handling"), parent) {
    add_sheet(tr("Map"), new MapSheet(context, this));
    add_sheet(tr("Commands"), new CommandsSheet(context, this));
    add_sheet(tr("States"), new HandStatesSheet(context, this));
    add_sheet(tr("Rehearse"), new RehearseSheet(context, this));
    add_sheet(tr("Presets"), new PresetChangesSheet(context, this));
    add_sheet(tr("Card"), new CardSheet(context, this));
    add_sheet(tr("Motion"), new MotionSheet(context, this));
}

} // namespace conductus::app
