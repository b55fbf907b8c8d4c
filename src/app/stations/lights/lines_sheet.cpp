// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/lines_sheet.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/base/format.h"
#include "core/job/places.h"

namespace conductus::app {
LinesSheet::LinesSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [top, top_column] = paper(tr("Data lines"), tr("one pixel as long on every line"), this);
    none_ = label({}, "second", top);
    none_->setWordWrap(true);
    chains_ = new DrawingView(
        "chains", tr("Data lines as chains of pixels"), context.appearance,
        [this]() -> DrawingPtr {
            return plan_ ? chains_drawing(plan_, context_.selection.options().chosen) : nullptr;
        },
        top);
    chains_->keep_height();
    connect(&context.selection, &Selection::changed, chains_, &DrawingView::redraw);
    connect(chains_, &DrawingView::pressed, this, [this](QPointF at) {
        if (const QString ref = chains_->ref_at(at); !ref.isEmpty()) context_.selection.choose(ref);
    });
    auto* scroll = new QScrollArea(top);
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(chains_);
    top_column->addWidget(none_);
    top_column->addWidget(scroll, 1);

    auto [left, left_column] = paper(tr("Programmed"), tr("pixels"), this);
    Session& session = context.session;
    const auto chain = [this](int row) -> const lights::Chain& {
        return plan_->chains.chains[static_cast<std::size_t>(row)];
    };
    const auto programmed = [this](const std::string& pad) -> std::optional<int> {
        for (const job::Line& line : context_.session.job().lines)
            if (line.pad == pad) return line.pixels;
        return std::nullopt;
    };
    Column told = figures(tr("told"), [this, chain, programmed](int row) {
        const auto pixels = programmed(chain(row).pad);
        int suits = chain(row).longest;
        for (const harness::DataLine& line : plan_->harness.data.lines)
            if (line.pad == chain(row).pad) suits = line.suits;
        return CellText(pixels ? QString::number(*pixels) : QString(),
                        tr("Type how many pixels the board is told"),
                        pixels && *pixels != suits ? CellInk::warn : CellInk::ink);
    });
    told.edit = [chain](int row, const std::string& typed) {
        return job::program_line(chain(row).pad, typed);
    };
    lines_ = new Table(
        {.object = "programmedLines",
         .name = tr("Pixels programmed of each line"),
         .what = tr("Program"),
         .columns = {reading(tr("pad"), [chain](int row) { return words(chain(row).pad); }),
                     figures(tr("fitted"),
                             [chain](int row) { return QString::number(chain(row).longest); }),
                     told},
         .rows = {[this] { return plan_ ? static_cast<int>(plan_->chains.chains.size()) : 0; },
                  [chain](int row) { return words(chain(row).pad); }},
         .dense = true,
         .empty =
             tr("No data line has pixels on it. Fit a strip or an accent on the sheet Parts of "
                "the hilt, and wire its data to a pad of the board."),
         .session = &session},
        context.appearance, left);
    left_column->addWidget(lines_, 1);
    left_column->addWidget(lines_->refusal());
    auto [right, right_column] = paper(tr("Data level"), tr("at its least"), this);
    const auto hop = [this](int row) -> const power::DataHop& {
        return plan_->hops[static_cast<std::size_t>(row)];
    };
    hops_ = new Table(
        {.object = "dataHops",
         .name = tr("Data level at every hop"),
         .columns = {reading(tr("from"),
                             [hop](int row) {
                                 const power::DataHop& h = hop(row);
                                 return h.shifter.empty()
                                            ? words(h.from)
                                            : tr("%1, %2").arg(words(h.from), words(h.shifter));
                             }),
                     reading(tr("to"), [hop](int row) { return words(hop(row).to); }),
                     figures(tr("level"), [hop](int row) { return words(text(hop(row).high)); }),
                     figures(tr("needs"), [hop](int row) { return words(text(hop(row).need)); }),
                     figures(tr("in hand"),
                             [hop](int row) {
                                 const Volt margin = hop(row).margin();
                                 return margin < Volt(0)
                                            ? CellText(
                                                  tr("too low by %1").arg(words(text(-margin))),
                                                  CellInk::warn)
                                            : CellText(words(text(margin)));
                             })},
         .rows = {[this] { return plan_ ? static_cast<int>(plan_->hops.size()) : 0; }},
         .wide = 0,
         .dense = true,
         .main = true},
        context.appearance, right);
    right_column->addWidget(hops_, 1);
    auto [middle, middle_column] = paper(tr("Stretches"), tr("type in the empty row"), this);
    Column of = value_column(session, tr("of"), "/stretches", "of");
    of.choices = [this](int) {
        QStringList all;
        if (plan_)
            for (const lights::Group& group : plan_->chains.groups)
                all << words(group.ref);
        return all;
    };
    stretches_ =
        new Table({.object = "stretches",
                   .name = tr("Stretches of a chain as lights of their own"),
                   .what = tr("Stretch"),
                   .columns = {value_column(session, tr("name"), "/stretches", "name"), of,
                               value_column(session, tr("first"), "/stretches", "first", "px"),
                               value_column(session, tr("last"), "/stretches", "last", "px")},
                   .rows = list_rows(session, "/stretches", "name"),
                   .wide = 0,
                   .dense = true,
                   .empty = tr("Name a stretch of a strip to light it by itself."),
                   .session = &session},
                  context.appearance, middle);
    stretches_->setToolTip(tr("Pixels are counted from 1 at the light's data end"));
    middle_column->addWidget(stretches_, 1);
    middle_column->addWidget(stretches_->refusal());
    auto* below = new QHBoxLayout;
    below->setSpacing(8);
    below->addWidget(left, 5);
    below->addWidget(middle, 5);
    below->addWidget(right, 6);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(top, 3);
    column->addLayout(below, 2);

    connect(hops_, &Table::row_chosen, this,
            [this, hop](int row) { context_.selection.choose(words(hop(row).to)); });
}

void LinesSheet::show_job() {
    stretches_->refresh();
    lines_->refresh();
}

void LinesSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    const auto& chains = plan->chains.chains;
    none_->setVisible(chains.empty());
    chains_->setVisible(!chains.empty());
    none_->setText(
        plan->chains.groups.empty()
            ? tr("Nothing here hears data: there are no pixels. Strings and LEDs are lit "
                 "by their pads.")
            : tr("There are pixels, but no data wire leads to them from a board. Until "
                 "one does, each is taken to show the look."));
    chains_->redraw();
    lines_->refresh();
    hops_->refresh();
    stretches_->refresh();
}

} // namespace conductus::app
