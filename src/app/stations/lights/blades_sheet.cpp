// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/blades_sheet.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QVBoxLayout>
#include <algorithm>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/gauge_bar.h"
#include "app/table/table.h"
#include "core/base/format.h"
#include "core/catalogue/catalogue.h"
#include "core/hilt/tube.h"
#include "core/job/lookup.h"
#include "core/job/mating.h"

namespace conductus::app {
namespace {

/// Connectors, and LEDs that shine into a blade.
QStringList sockets(const Session& session) {
    QStringList all;
    for (const job::Part& part : session.job().parts) {
        const auto* type = session.parts().find(part.type);
        if (type && (std::holds_alternative<catalogue::Connector>(type->figures) ||
                     std::holds_alternative<catalogue::Led>(type->figures)))
            all << words(part.ref);
    }
    return all;
}

QString socket_of(const job::Job& job, const std::string& blade) {
    for (const job::Mated& m : job::mated_set(job))
        if (m.blade == blade) return words(m.socket);
    return {};
}

} // namespace

BladesSheet::BladesSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    Session& session = context.session;
    const auto blade = [&session](int row) -> const job::Blade& {
        return session.job().blades[static_cast<std::size_t>(row)];
    };
    auto [top, top_column] =
        paper(tr("Blades and plugs"), tr("a row for each thing that goes into a socket"), this);
    Column socket = value_column(session, tr("own socket"), "/blades", "connector");
    socket.choices = [&session](int) { return sockets(session); };
    Column also = reading(tr("also into"), [blade](int row) {
        QStringList all;
        for (const job::GoesInto& g : blade(row).goes_into)
            all << words(g.socket);
        return CellText(all.join(", "));
    });
    also.edit = [](int row, const std::string& typed) {
        return job::also_into(static_cast<std::size_t>(row), typed);
    };
    const auto pixels = [blade](int row) {
        QStringList all;
        for (const job::Strip& s : blade(row).strips)
            all << QString::number(s.pixels);
        for (const job::LedString& s : blade(row).strings)
            all << words(s.ref);
        if (all.isEmpty())
            return CellText(blade(row).form == job::BladeForm::plug ? tr("plain") : tr("no strip"),
                            CellInk::second);
        return CellText(all.join(" + "));
    };
    Column pixel_column = reading(tr("pixels"), pixels);
    pixel_column.edit = [&session](int row, const std::string& typed) {
        return job::give_pixels(static_cast<std::size_t>(row), typed, session.parts());
    };
    const auto mated = [&session, blade](int row) {
        const job::Blade& b = blade(row);
        const QString in = socket_of(session.job(), b.ref);
        if (!in.isEmpty()) return CellText(tr("in %1").arg(in), CellInk::petrol);
        return b.connector.empty() && b.goes_into.empty()
                   ? CellText(tr("wired"), CellInk::second)
                   : CellText(tr("laid aside"), CellInk::second);
    };
    TableRows rows = list_rows(session, "/blades", "ref");
    rows.add = [] { return job::add_mate(); };
    blades_ = new Table(
        {.object = "blades",
         .name = tr("Blades and plugs"),
         .what = tr("Blade"),
         .columns = {value_column(session, tr("ref"), "/blades", "ref"),
                     value_column(session, tr("is a"), "/blades", "form"),
                     value_column(session, tr("length"), "/blades", "length_mm"),
                     value_column(session, tr("outer ø"), "/blades", "outer_mm"), socket, also,
                     pixel_column, value_column(session, tr("count"), "/blades", "count"),
                     reading(tr("now"), mated)},
         .rows = rows,
         .wide = 5,
         .main = true,
         .empty = tr("Type a name in the empty row: a blade, a short one, a plug."),
         .session = &session},
        context.appearance, top);
    top_column->addWidget(blades_, 1);
    top_column->addWidget(blades_->refusal());

    auto [middle, middle_column] =
        paper(tr("How each is made"), tr("diameters in mm; nothing typed: not measured"), this);
    const auto made = [&session](const QString& title, const char* key, const QString& unit = {}) {
        Column c = value_column(session, title, "/blades", std::string("tube/") + key, unit);
        const auto show = c.show;
        // What was not measured is no nought.
        if (c.figures)
            c.show = [show](int row) {
                const CellText shown = show(row);
                return shown.text == "0" ? CellText() : shown;
            };
        c.unit.clear();
        return c;
    };
    Column passes = made(tr("passes, %"), "passes", "%");
    const auto passes_shown = passes.show;
    passes.show = [passes_shown, blade](int row) {
        const CellText said = passes_shown(row);
        return said.text.isEmpty()
                   ? CellText(words(decimals(hilt::light_passed(blade(row).tube) * 100, 0)),
                              tr("As usual for its tube and layer; type what was measured"),
                              CellInk::second)
                   : said;
    };
    const auto room = [&session, blade](int row) -> CellText {
        const auto r = hilt::room_in_tube(blade(row), session.parts());
        if (!r) return {};
        const bool fits = r->needs <= r->inside;
        return CellText(
            tr("%1 of %2")
                .arg(words(decimals(r->needs.value(), 1)), words(decimals(r->inside.value(), 1))),
            tr("What the strips take across, and what the tube leaves"),
            fits ? CellInk::fine : CellInk::warn);
    };
    TableRows made_rows = list_rows(session, "/blades", "ref");
    made_rows.add = {}, made_rows.take_out = {};
    made_ = new Table(
        {.object = "tubes",
         .name = tr("How each blade is made"),
         .what = tr("Blade"),
         .columns = {reading(tr("ref"), [blade](int row) { return words(blade(row).ref); }),
                     made(tr("bore"), "bore_mm"), made(tr("tube"), "material"),
                     made(tr("tint"), "tint"), made(tr("layer"), "diffuser"),
                     made(tr("thick"), "diffuser_mm"), reading(tr("room"), room), passes,
                     made(tr("dark foot"), "dark_mm"), made(tr("tip pixels"), "tip_pixels"),
                     made(tr("closed"), "closing"), made(tr("foot ø"), "foot_mm"),
                     made(tr("foot long"), "foot_length_mm")},
         .rows = made_rows,
         .wide = 2,
         .dense = true,
         .least_rows = 4,
         .empty = tr("A blade that stands above has its tube here."),
         .session = &session},
        context.appearance, middle);
    middle_column->addWidget(made_, 1);
    middle_column->addWidget(made_->refusal());

    auto [bottom, bottom_column] =
        paper(tr("Mated"), tr("one thing in each socket at a time"), this);
    const auto set = [&session] { return job::mated_set(session.job()); };
    Column what = reading(tr("what is in it"), [set](int row) {
        const job::Mated m = set()[static_cast<std::size_t>(row)];
        return m.blade.empty() ? CellText(tr("nothing"), CellInk::second)
                               : CellText(words(m.blade));
    });
    what.choices = [&session, set](int row) {
        QStringList all{tr("nothing")};
        for (const std::string& ref :
             job::mates_of(session.job(), set()[static_cast<std::size_t>(row)].socket))
            all << words(ref);
        return all;
    };
    what.edit = [set, nothing = tr("nothing").toStdString()](int row, const std::string& typed) {
        return job::mate(set()[static_cast<std::size_t>(row)].socket,
                         typed == nothing ? std::string() : typed);
    };
    const auto seat = [this, set](int row) -> const hilt::SocketFit* {
        if (!plan_) return nullptr;
        const std::string ref = set()[static_cast<std::size_t>(row)].blade;
        const auto& all = plan_->hilt_report.sockets;
        const auto it = std::find_if(all.begin(), all.end(),
                                     [&](const hilt::SocketFit& s) { return s.blade == ref; });
        return it == all.end() ? nullptr : &*it;
    };
    const Column seats = reading(tr("seats"), [seat](int row) -> CellText {
        const auto* s = seat(row);
        if (!s) return {};
        return CellText(
            tr("%1 of %2")
                .arg(words(decimals(s->seats.value(), 0)), words(decimals(s->depth.value(), 0))),
            tr("How far it goes in, and how deep its socket is, mm"),
            s->mend > Millimetre(0) ? CellInk::warn : CellInk::ink);
    });
    const Column good = reading(tr("good for"), [seat](int row) -> CellText {
        const auto* s = seat(row);
        return s ? CellText(term(hilt::word(s->holds)), words(s->why)) : CellText();
    });
    sockets_ = new Table(
        {.object = "sockets",
         .name = tr("What stands in each socket"),
         .columns = {reading(tr("socket"),
                             [set](int row) {
                                 return words(set()[static_cast<std::size_t>(row)].socket);
                             }),
                     what, seats, good},
         .rows = {[set] { return static_cast<int>(set().size()); },
                  [set](int row) { return words(set()[static_cast<std::size_t>(row)].socket); }},
         .wide = 1,
         .dense = true,
         .empty = tr("A blade that names its own socket above is mated in it here."),
         .session = &session},
        context.appearance, bottom);
    bottom_column->addWidget(sockets_, 1);
    bottom_column->addWidget(sockets_->refusal());
    sets_ = label({}, "second", bottom);
    sets_->setObjectName("setsSaid");
    sets_->setWordWrap(true);
    bottom_column->addWidget(sets_);

    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(top, 3);
    column->addWidget(middle, 2);
    column->addWidget(bottom, 1);
    connect(blades_, &Table::row_chosen, this,
            [this, blade](int row) { context_.selection.choose(words(blade(row).ref)); });
}

void BladesSheet::show_job() {
    blades_->refresh();
    sockets_->refresh();
    made_->refresh();
}

void BladesSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    show_job();
    say_sets();
}

void BladesSheet::say_sets() {
    QStringList lines;
    if (const auto& worst = plan_->worst_mated) {
        lines << (worst->is_mated
                      ? tr("What is mated now is the worst set: no other asks for more.")
                      : tr("The worst set that may be mated: %1.")
                            .arg(words(job::set_text(worst->set))));
        const Explained* now = plan_->figure("peak-current");
        const Explained* then = worst->plan ? worst->plan->figure("peak-current") : nullptr;
        if (now && then && now->value && then->value)
            lines << tr("It asks for %1 at its peak, what is mated now for %2.")
                         .arg(figure_text(*then), figure_text(*now));
    }
    for (const harness::DataLine& line : plan_->harness.data.lines)
        if (plan_->worst_mated && line.suits > 0)
            lines << tr("%1: %2 pixels suit all that may be mated.")
                         .arg(words(line.pad))
                         .arg(line.suits);
    for (const job::Blade& b : context_.session.job().blades)
        if (b.count == job::PixelCount::assumed)
            lines << tr("The pixels of %1 are assumed: it is the owner's own, nobody counted them.")
                         .arg(words(b.ref));
    sets_->setText(lines.join("\n"));
}

} // namespace conductus::app
