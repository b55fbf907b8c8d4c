// SPDX-License-Identifier: GPL-3.0-or-later
// Every station of the program in one list: its name, its page, what it will do. The rail, the
// pages and the shortcuts follow it; a station is added here and nowhere else.
#pragma once

#include <QString>
#include <array>

#include "core/findings/finding.h"

class QWidget;

namespace conductus::app {

class StationPage;
struct PageContext;

struct StationEntry {
    findings::Station station; ///< whose findings lead here
    const char* name;          ///< untranslated: see station_name
    /// The page; null where the station is still to come.
    StationPage* (*make)(const PageContext& context, QWidget* parent);
    const char* will_do; ///< of a station to come, untranslated
};

inline constexpr std::size_t station_count = 8;

/// In the order of the work.
const std::array<StationEntry, station_count>& stations();

QString station_name(std::size_t station);
/// What a station to come will do.
QString station_promise(std::size_t station);
/// The stations that are there: "Brief, Hilt and Lights".
QString stations_there();

/// The page of a station; of one to come, a page that says so.
StationPage* make_station(std::size_t station, const PageContext& context, QWidget* parent);

} // namespace conductus::app
