// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/stations.h"

#include <QCoreApplication>
#include <QStringList>

#include "app/stations/bench/bench_page.h"
#include "app/stations/brief/brief_page.h"
#include "app/stations/handling/handling_page.h"
#include "app/stations/harness/harness_page.h"
#include "app/stations/hilt/hilt_page.h"
#include "app/stations/later/later_page.h"
#include "app/stations/lights/lights_page.h"
#include "app/stations/power/power_page.h"

namespace conductus::app {
namespace {

using findings::Station;

template <class Page>
StationPage* page(const PageContext& context, QWidget* parent) {
    return new Page(context, parent);
}

QString translated(const char* text) { return QCoreApplication::translate("Stations", text); }

} // namespace

const std::array<StationEntry, station_count>& stations() {
    static constexpr std::array<StationEntry, station_count> all{{
        {Station::brief, QT_TRANSLATE_NOOP("Stations", "Brief"), page<BriefPage>, ""},
        {Station::hilt, QT_TRANSLATE_NOOP("Stations", "Hilt"), page<HiltPage>, ""},
        {Station::lights, QT_TRANSLATE_NOOP("Stations", "Lights"), page<LightsPage>, ""},
        {Station::power, QT_TRANSLATE_NOOP("Stations", "Power"), page<PowerPage>, ""},
        {Station::harness, QT_TRANSLATE_NOOP("Stations", "Harness"), page<HarnessPage>, ""},
        {Station::handling, QT_TRANSLATE_NOOP("Stations", "Handling"), page<HandlingPage>, ""},
        {Station::bench, QT_TRANSLATE_NOOP("Stations", "Bench"), page<BenchPage>, ""},
        {Station::handover, QT_TRANSLATE_NOOP("Stations", "Handover"), nullptr,
         QT_TRANSLATE_NOOP("Stations", "The owner's card, the wiring as built, the configuration "
                                       "sheet and the cautions, as they will be printed.")},
    }};
    return all;
}

QString station_name(std::size_t station) { return translated(stations()[station].name); }
QString station_promise(std::size_t station) { return translated(stations()[station].will_do); }

QString stations_there() {
    QStringList names;
    for (std::size_t i = 0; i < station_count; ++i)
        if (stations()[i].make) names << station_name(i);
    const QString last = names.takeLast();
    return names.isEmpty() ? last
                           : QCoreApplication::translate("Stations", "%1 and %2")
                                 .arg(names.join(QStringLiteral(", ")), last);
}

StationPage* make_station(std::size_t station, const PageContext& context, QWidget* parent) {
    const auto make = stations()[station].make;
    StationPage* made = make ? make(context, parent) : new LaterPage(station, context, parent);
    made->setAccessibleName(station_name(station));
    return made;
}

} // namespace conductus::app
