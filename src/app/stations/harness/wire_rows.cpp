// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/harness/wire_rows.h"

#include <QCoreApplication>

#include "app/session/words.h"
#include "core/harness/derive.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

struct WireWords {
    Q_DECLARE_TR_FUNCTIONS(WireWords)
};

QString millimetres(Millimetre v) { return QString::number(std::round(v.value() * 10) / 10); }

} // namespace

QStringList wire_columns() {
    return {WireWords::tr("wire"),   WireWords::tr("from"), WireWords::tr("to"),
            WireWords::tr("role"),   WireWords::tr("AWG"),  WireWords::tr("colour"),
            WireWords::tr("cut to"), WireWords::tr("loop"), WireWords::tr("turn")};
}

QStringList wire_cells(const job::Wire& w, const job::Job& job, const catalogue::Catalogue& parts) {
    return {words(w.ref),
            words(w.from),
            words(w.to),
            said(w.role),
            QString::number(w.gauge),
            words(w.colour.empty() ? harness::usual_colour(job, parts, w) : w.colour),
            w.length ? millimetres(*w.length) : QString(),
            w.loop > Millimetre(0) ? millimetres(w.loop) : QString(),
            w.turn ? QString::number(std::round(w.turn->value())) + QChar(0xb0) : QString()};
}

Result<void> read_wires(const RowsTable::Rows& rows, const job::Job& job,
                        const catalogue::Catalogue& parts, const std::vector<job::Wire>& before,
                        std::vector<job::Wire>& into) {
    job::Job naming = job;
    return read_rows(rows, wire_columns(), into, [&](RowReader& r, std::size_t) {
        const std::string ref = r.words();
        job::Wire w;
        const job::Wire* was = job::find_ref(before, ref);
        if (was) w = *was;
        w.ref = ref.empty() ? harness::next_wire_ref(naming) : ref;
        w.from = r.words();
        w.to = r.words();
        w.role = r.choice(job::Role::supply);
        w.gauge = r.whole(job::limits::gauge_awg, 26);
        w.colour = r.words();
        // The usual one was shown, not chosen.
        if (was && was->colour.empty() && w.colour == harness::usual_colour(job, parts, *was))
            w.colour.clear();
        const Millimetre length = r.length({0, job::limits::length_mm.most});
        w.length = length > Millimetre(0) ? std::optional(length) : std::nullopt;
        w.loop = r.length(job::limits::depth_mm);
        const bool runs = !r.rest_is_empty();
        const Degree turn = r.angle();
        w.turn = runs ? std::optional(turn) : std::nullopt;
        naming.wires.push_back(w);
        return w;
    });
}

} // namespace conductus::app
