// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/brief_page.h"

#include "app/stations/brief/agreement_list.h"
#include "app/stations/brief/asked_sheet.h"
#include "app/stations/brief/found_sheet.h"
#include "app/stations/brief/owner_sheet.h"
#include "app/stations/brief/past_sheet.h"
#include "app/stations/brief/received_sheet.h"

namespace conductus::app {

BriefPage::BriefPage(const Bench& bench, QWidget* parent)
    : SheetsPage(bench, "briefSheets", tr("Sheets of the brief"), parent) {
    add_sheet(tr("Asked"), new AskedSheet(bench, this));
    add_sheet(tr("Agreed"), new AgreementList(bench, this));
    add_sheet(tr("As received"), new ReceivedSheet(bench, this));
    add_sheet(tr("As found"), new FoundSheet(bench, this));
    add_sheet(tr("Milestones"), new PastSheet(bench, this));
    add_sheet(tr("Owner's page"), new OwnerSheet(bench, this));
}

} // namespace conductus::app
