// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/bench/bench_page.h"

#include "app/stations/bench/bench_work.h"
#include "app/stations/bench/discharge_record_sheet.h"
#include "app/stations/bench/find_sheet.h"
#include "app/stations/bench/meter_sheet.h"
#include "app/stations/bench/practice_sheet.h"
#include "app/stations/bench/test_sheet.h"

namespace conductus::app {

BenchPage::BenchPage(const PageContext& context, QWidget* parent)
    : SheetsPage(context, "benchSheets", tr("Sheets of the bench"), parent),
      work_(new BenchWork(context, this)) {
    add_sheet(tr("Test plan"), new TestSheet(context, *work_, this));
    add_sheet(tr("Find the fault"), new FindSheet(context, *work_, this));
    add_sheet(tr("Meter"), new MeterSheet(context, *work_, this));
    add_sheet(tr("Discharge record"), new DischargeRecordSheet(context, *work_, this));
    add_sheet(tr("Practice"), new PracticeSheet(context, *work_, this));
}

} // namespace conductus::app
