// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <functional>

#include "app/session/appearance.h"
#include "app/table/column.h"
#include "core/catalogue/part_type.h"

class QComboBox;
class QHBoxLayout;
class QLineEdit;

namespace conductus::app {

/// The line over a table of parts: words and figures to find them by, and their kind.
class PartSearch : public QWidget {
    Q_OBJECT
public:
    /// `stem` begins the object names of what is in it: "trayWords", "trayKind".
    PartSearch(const QString& stem, const Appearance& appearance, QWidget* parent);
    /// Whether a part is what is asked for.
    [[nodiscard]] bool asks_for(const catalogue::PartType& type) const;
    [[nodiscard]] QLineEdit* words() const { return words_; }
    /// Something more to choose by, at the end of the line.
    void add(QWidget* more);

signals:
    void changed();
    void entered(); ///< Enter in the words

private:
    QLineEdit* words_;
    QComboBox* kind_;
    QHBoxLayout* row_;
};

/// A column that draws the part of a row from the side, all rows at one scale.
Column part_column(const Appearance& appearance,
                   std::function<const catalogue::PartType&(int row)> type);

} // namespace conductus::app
