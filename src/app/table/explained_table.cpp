// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/table/explained_table.h"

#include "app/session/words.h"
#include "core/base/format.h"

namespace conductus::app {
namespace {

Table::Setup setup(const QString& object, const std::shared_ptr<std::vector<Contribution>>& parts) {
    const auto part = [parts](int row) -> const Contribution& {
        return (*parts)[static_cast<std::size_t>(row)];
    };
    return {.object = object,
            .name = ExplainedTable::tr("Parts of the figure"),
            .columns = {reading(ExplainedTable::tr("part"),
                                [part](int row) { return words(part(row).label); }),
                        figures(ExplainedTable::tr("value"),
                                [part](int row) {
                                    const Contribution& c = part(row);
                                    return c.unit == "min" ? words(duration(Minute(c.value)))
                                                           : words(with_unit(c.value, c.unit));
                                }),
                        reading(ExplainedTable::tr("where"),
                                [part](int row) { return words(part(row).ref); }),
                        reading(ExplainedTable::tr("from"),
                                [part](int row) { return words(part(row).source); })},
            .rows = {[parts] { return static_cast<int>(parts->size()); }},
            .wide = 0};
}

} // namespace

ExplainedTable::ExplainedTable(const QString& object, const Appearance& appearance, QWidget* parent)
    : ExplainedTable(object, appearance, parent, std::make_shared<std::vector<Contribution>>()) {}

ExplainedTable::ExplainedTable(const QString& object, const Appearance& appearance, QWidget* parent,
                               Parts parts)
    : Table(setup(object, parts), appearance, parent), parts_(std::move(parts)) {}

void ExplainedTable::show_figure(const Explained& figure) {
    *parts_ = figure.parts;
    refresh();
}

QString ExplainedTable::ref(int row) const {
    return words((*parts_)[static_cast<std::size_t>(row)].ref);
}

} // namespace conductus::app
