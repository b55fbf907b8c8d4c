// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/plugs_sheet.h"

#include <QLabel>
#include <QVBoxLayout>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/base/format.h"
#include "core/harness/plugs.h"
#include "core/job/words.h"

namespace conductus::app {

PlugsSheet::PlugsSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    Session& session = context.session;
    auto [sheet, column] =
        paper(tr("Plugs"), tr("what goes into the jacks, and what it opens"), this);
    const auto plug = [&session](int row) -> const job::Plug& {
        return session.job().plugs[static_cast<std::size_t>(row)];
    };
    const auto hole = [&session, plug](int row) {
        return harness::hole_of(session.job(), session.parts(), plug(row).jack);
    };
    Column jack = value_column(session, tr("for"), "/plugs", "jack");
    jack.choices = [this](int) { return holes(); };
    const auto fits = [plug, hole](int row) -> CellText {
        const auto in = hole(row);
        if (!in) return CellText(tr("no jack named"), CellInk::second);
        switch (harness::in_hole(plug(row), *in)) {
        case harness::InHole::too_thick:
            return CellText(tr("too thick"), CellInk::stop);
        case harness::InHole::too_thin:
            return CellText(tr("too thin"), CellInk::stop);
        case harness::InHole::goes_in:
            return CellText(tr("goes in"), CellInk::fine);
        case harness::InHole::not_known:
            break;
        }
        return CellText(tr("not measured"), CellInk::second);
    };
    const auto opens = [plug, hole](int row) -> CellText {
        const auto in = hole(row);
        if (!in) return {};
        const bool kills = plug(row).use == job::PlugUse::kill;
        switch (harness::opens_contact(plug(row), *in)) {
        case harness::Opens::no_contact:
            return CellText(tr("nothing"), kills ? CellInk::stop : CellInk::second);
        case harness::Opens::too_short:
            return CellText(tr("too short: nothing"), kills ? CellInk::stop : CellInk::second);
        case harness::Opens::opens:
            return CellText(tr("its contact"), CellInk::fine);
        case harness::Opens::not_known:
            break;
        }
        return CellText(tr("not measured"), CellInk::second);
    };
    const auto proof = [plug](int row) -> CellText {
        if (plug(row).use != job::PlugUse::kill) return {};
        switch (harness::proved(plug(row))) {
        case harness::Proved::still_on:
            return CellText(tr("still on"), CellInk::stop);
        case harness::Proved::off:
            return plug(row).proved_on.empty() ? CellText(tr("off, no date"), CellInk::warn)
                                               : CellText(tr("off"), CellInk::fine);
        case harness::Proved::not_read:
            break;
        }
        return CellText(tr("not proved"), CellInk::warn);
    };
    plugs_ = new Table(
        {.object = "plugs",
         .name = tr("Plugs"),
         .what = tr("Plug"),
         .columns = {value_column(session, tr("ref"), "/plugs", "ref"),
                     value_column(session, tr("is a"), "/plugs", "use"), jack,
                     value_column(session, tr("ø, mm"), "/plugs", "diameter_mm"),
                     value_column(session, tr("goes in, mm"), "/plugs", "length_mm"),
                     value_column(session, tr("mark"), "/plugs", "mark"),
                     reading(tr("fits"), fits), reading(tr("opens"), opens),
                     value_column(session, tr("plug out, V"), "/plugs", "out_V"),
                     value_column(session, tr("plug in, V"), "/plugs", "in_V"),
                     value_column(session, tr("read on"), "/plugs", "proved_on"),
                     reading(tr("proved"), proof)},
         .rows = list_rows(session, "/plugs", "ref"),
         .wide = 5,
         .dense = true,
         .main = true,
         .empty = tr("Name a plug in the empty row: the kill plug, the charger's, a blank."),
         .session = &session},
        context.appearance, sheet);
    column->addWidget(plugs_, 1);
    column->addWidget(plugs_->refusal());
    jacks_ = label({}, "second", sheet);
    jacks_->setObjectName("jacksSaid");
    jacks_->setWordWrap(true);
    column->addWidget(jacks_);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);
    connect(plugs_, &Table::row_chosen, this,
            [this, plug](int row) { context_.selection.choose(words(plug(row).jack)); });
}

QStringList PlugsSheet::holes() const {
    QStringList all;
    const job::Job& job = context_.session.job();
    for (const job::Part& part : job.parts)
        if (harness::hole_of(job, context_.session.parts(), part.ref)) all << words(part.ref);
    return all;
}

void PlugsSheet::show_job() {
    plugs_->refresh();
    const job::Job& job = context_.session.job();
    QStringList lines;
    for (const QString& ref : holes()) {
        const auto hole = harness::hole_of(job, context_.session.parts(), ref.toStdString());
        QStringList what;
        if (hole->charges) what << tr("charges");
        if (hole->kills) what << tr("switches off");
        if (hole->configures) what << tr("is for the configuration");
        QString line = tr("%1 %2").arg(ref, what.join(tr(" and ")));
        if (hole->takes > Millimetre(0))
            line += tr(", takes a plug of %1").arg(words(text(hole->takes)));
        if (hole->opens > Millimetre(0))
            line += tr(" and opens with it %1 in").arg(words(text(hole->opens)));
        lines << line + ".";
    }
    jacks_->setText(lines.isEmpty() ? tr("No part of this hilt takes a plug.") : lines.join(" "));
}

void PlugsSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    show_job();
}

} // namespace conductus::app
