// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <vector>

#include "app/table/table.h"
#include "core/base/explained.h"

namespace conductus::app {

/// What a figure is made of: part, value, where, from. A row's name is the reference of its part.
class ExplainedTable : public Table {
    Q_OBJECT
public:
    ExplainedTable(const QString& object, const Appearance& appearance, QWidget* parent);
    void show_figure(const Explained& figure);
    /// The reference of the part of that row; empty: it is of none.
    [[nodiscard]] QString ref(int row) const;

private:
    using Parts = std::shared_ptr<std::vector<Contribution>>;
    ExplainedTable(const QString& object, const Appearance& appearance, QWidget* parent,
                   Parts parts);
    Parts parts_; ///< the columns look at them
};

} // namespace conductus::app
