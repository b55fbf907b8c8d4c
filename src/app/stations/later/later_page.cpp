// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/later/later_page.h"

#include <QVBoxLayout>

#include "app/shell/fields.h"
#include "app/stations/stations.h"

namespace conductus::app {

LaterPage::LaterPage(std::size_t station, const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("paper");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 12, 16, 12);
    column->addWidget(label(station_name(station), "title", this));
    auto* text = label(station_promise(station), "second", this);
    text->setWordWrap(true);
    text->setMaximumWidth(560);
    column->addWidget(text);
    auto* state =
        label(tr("This station is not built yet; %1 are.").arg(stations_there()), "heading", this);
    column->addSpacing(8);
    column->addWidget(state);
    column->addStretch();
}

} // namespace conductus::app
