// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/settings_panel.h"

#include <QCheckBox>
#include <QFormLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>

#include "app/session/words.h"
#include "app/shell/fields.h"

namespace conductus::app {

SettingsPanel::SettingsPanel(Settings& settings, QWidget* parent) : QDialog(parent) {
    setObjectName("settingsPanel");
    setWindowTitle(tr("Settings"));
    setAttribute(Qt::WA_DeleteOnClose);
    auto* shop = new QLineEdit(settings.shop(), this);
    shop->setObjectName("shopName");
    shop->setAccessibleName(tr("Name of the shop"));
    shop->setPlaceholderText(tr("what your shop is called"));
    auto* size = new QSpinBox(this);
    size->setObjectName("textPercent");
    size->setAccessibleName(tr("Size of the text"));
    size->setRange(80, 200);
    size->setSingleStep(10);
    size->setButtonSymbols(QAbstractSpinBox::NoButtons);
    size->setToolTip(tr("80 to 200 %: typed, or by the up and down keys"));
    size->setSuffix(tr(" %"));
    size->setValue(settings.text_percent());
    auto* night = new QCheckBox(tr("dark paper"), this);
    night->setObjectName("nightPaper");
    night->setChecked(settings.night());
    auto* log = label(shown_path(log_file()), "second", this);
    log->setTextInteractionFlags(Qt::TextSelectableByMouse);
    log->setObjectName("logFile");
    auto* close = new QPushButton(tr("Close"), this);
    close->setObjectName("closeSettings");
    auto* form = new QFormLayout(this);
    form->setContentsMargins(18, 14, 18, 14);
    form->setVerticalSpacing(10);
    form->addRow(tr("Name of the shop"), shop);
    form->addRow(tr("Size of the text"), size);
    form->addRow(tr("Night"), night);
    form->addRow(tr("The log is kept in"), log);
    form->addRow(QString(), close);
    connect(shop, &QLineEdit::editingFinished, &settings,
            [&settings, shop] { settings.set_shop(shop->text()); });
    connect(size, &QSpinBox::valueChanged, &settings, &Settings::set_text_percent);
    connect(night, &QCheckBox::toggled, &settings, &Settings::set_night);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
}

} // namespace conductus::app
