// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

#include "app/session/settings.h"

namespace conductus::app {

/// What can be set for the program: each is kept as it is changed, and can be changed back.
class SettingsPanel : public QDialog {
    Q_OBJECT
public:
    SettingsPanel(Settings& settings, QWidget* parent);
};

} // namespace conductus::app
