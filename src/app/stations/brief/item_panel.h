// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"

class QComboBox;
class QLabel;

namespace conductus::app {

class EntryField;
class PictureStrip;

/// Everything about one inspected item.
class ItemPanel : public StationPage {
    Q_OBJECT
public:
    ItemPanel(const PageContext& context, QWidget* parent);
    /// Shows item `index` of the job; -1 shows what to do.
    void show_item(int index);

private:
    [[nodiscard]] QString label_of() const;
    /// Writes one field of the item that is shown.
    [[nodiscard]] Result<void> write(const char* key, const QString& typed);
    void tell(const Result<void>& done);
    Result<void> take_reading(const QString& typed);
    int index_ = -1;
    QLabel *title_, *feeds_;
    QWidget* form_;
    QComboBox *condition_, *unit_, *part_, *fate_;
    EntryField *reading_, *note_, *why_;
    PictureStrip* pictures_;
};

} // namespace conductus::app
