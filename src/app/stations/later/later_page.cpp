// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/later/later_page.h"

#include <QVBoxLayout>

#include "app/shell/fields.h"
#include "app/shell/station_rail.h"

namespace conductus::app {
namespace {

QString promise(std::size_t station) {
    switch (station) {
    case 4:
        return LaterPage::tr(
            "Every wire with its length, gauge, load and drop, drawn as lanes under the section; "
            "which data pad feeds which pixels; the list that is cut and soldered.");
    case 5:
        return LaterPage::tr(
            "Buttons, gestures and commands as one map, presets, and a check of the card.");
    case 6:
        return LaterPage::tr("Expected against measured at each test point, and where to measure "
                             "next to find a fault.");
    default:
        return LaterPage::tr("The owner's card, the wiring as built, the configuration sheet and "
                             "the cautions, as they will print.");
    }
}

} // namespace

LaterPage::LaterPage(std::size_t station, const Bench& bench, QWidget* parent)
    : StationPage(bench, parent) {
    setObjectName("paper");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 12, 16, 12);
    column->addWidget(label(station_name(station), "title", this));
    auto* text = label(promise(station), "second", this);
    text->setWordWrap(true);
    text->setMaximumWidth(560);
    column->addWidget(text);
    auto* state = label(tr("This station is not built yet. Brief, Hilt, Lights and Power are."),
                        "heading", this);
    column->addSpacing(8);
    column->addWidget(state);
    column->addStretch();
}

} // namespace conductus::app
