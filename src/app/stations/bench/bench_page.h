// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/sheets_page.h"

namespace conductus::app {

class BenchWork;

/// The bench: how a build is tried, how a fault is found, the meter, discharges, and practice.
class BenchPage : public SheetsPage {
    Q_OBJECT
public:
    BenchPage(const PageContext& context, QWidget* parent);
    [[nodiscard]] BenchWork& work() const { return *work_; }

private:
    BenchWork* work_;
};

} // namespace conductus::app
