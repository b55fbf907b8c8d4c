// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/harness/wire_columns.h"

#include <QCoreApplication>

#include "app/session/words.h"
#include "core/harness/usual.h"
#include "core/job/terminals.h"

namespace conductus::app {
namespace {

struct WireWords {
    Q_DECLARE_TR_FUNCTIONS(WireWords)
};

/// Every terminal that a wire may end at.
QStringList ends_for(const Session& session) {
    QStringList all;
    for (const auto& [ref, terminals] : job::terminals_of(session.job(), session.parts()))
        for (const std::string& terminal : terminals)
            all << words(ref + "." + terminal);
    return all;
}

} // namespace

std::vector<Column> wire_columns(const Session& session, const std::string& list) {
    const auto tr = [](const char* text) { return WireWords::tr(text); };
    std::vector<Column> all{value_column(session, tr("wire"), list, "ref"),
                            value_column(session, tr("from"), list, "from"),
                            value_column(session, tr("to"), list, "to"),
                            value_column(session, tr("role"), list, "role"),
                            value_column(session, tr("AWG"), list, "gauge_awg"),
                            value_column(session, tr("colour"), list, "colour"),
                            value_column(session, tr("cut to"), list, "length_mm"),
                            value_column(session, tr("loop"), list, "loop_mm"),
                            value_column(session, tr("turn"), list, "turn_deg")};
    const bool built = list == "/built";
    const auto wire_of = [&session, built](int row) -> const job::Wire& {
        const auto& wires = built ? session.job().built : session.job().wires;
        return wires[static_cast<std::size_t>(row)];
    };
    for (const WireColumn end : {wire_from, wire_to})
        all[end].choices = [&session](int) { return ends_for(session); };
    all[wire_role].sort_by = [wire_of](int row) { return double(wire_of(row).role); };
    all[wire_colour].show = [&session, wire_of](int row) {
        const job::Wire& wire = wire_of(row);
        if (!wire.colour.empty()) return CellText(words(wire.colour));
        return CellText(words(harness::usual_colour(session.job(), session.parts(), wire)),
                        WireWords::tr("the usual colour"), CellInk::second);
    };
    all[wire_colour].choices = [](int) {
        QStringList colours;
        for (const std::string_view colour : harness::insulation_colours)
            colours << words(colour);
        return colours;
    };
    // No service loop is nothing to read.
    all[wire_loop].show = [wire_of, show = all[wire_loop].show](int row) {
        return wire_of(row).loop > Millimetre(0) ? show(row) : CellText();
    };
    return all;
}

} // namespace conductus::app
