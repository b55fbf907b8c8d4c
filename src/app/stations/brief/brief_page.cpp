// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/brief_page.h"

#include "app/stations/brief/agreement_list.h"
#include "app/stations/brief/asked_sheet.h"
#include "app/stations/brief/found_sheet.h"
#include "app/stations/brief/owner_sheet.h"
#include "app/stations/brief/past_sheet.h"
#include "app/stations/brief/received_sheet.h"

namespace conductus::app {

BriefPage::BriefPage(const PageContext& context, QWidget* parent)
    : SheetsPage(context, "briefSheets", tr("Sheets of the brief"), parent) {
    add_sheet(tr("Asked"), new AskedSheet(context, this));
    add_sheet(tr("Agreed"), new AgreementList(context, this));
    add_sheet(tr("As received"), new ReceivedSheet(context, this));
    add_sheet(tr("As found"), new FoundSheet(context, this));
    add_sheet(tr("Milestones"), new PastSheet(context, this));
    add_sheet(tr("Owner's page"), new OwnerSheet(context, this));
}

} // namespace conductus::app
