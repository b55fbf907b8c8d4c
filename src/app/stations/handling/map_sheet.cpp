// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/handling/map_sheet.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <fmt/format.h>

#include "app/drawing/commands_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/job/places.h"
#include "core/job/trigger.h"
#include "core/job/words.h"

namespace conductus::app {

MapSheet::MapSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    Session& session = context.session;
    auto [sheet, column] = paper(tr("Map"), {}, this);
    said_ = label({}, "second", sheet);
    said_->setObjectName("mapSaid");
    said_->setWordWrap(true);
    column->addWidget(said_);
    state_ = new QComboBox(sheet);
    state_->setObjectName("mapState");
    state_->setAccessibleName(tr("State, button or preset whose commands are shown"));
    order_ = new QComboBox(sheet);
    order_->setObjectName("mapOrder");
    order_->setAccessibleName(tr("Order of the commands"));
    for (const QString& order : {tr("state"), tr("button"), tr("what they do"), tr("as entered")})
        order_->addItem(order);
    keep_width(state_, context.appearance, 11);
    keep_width(order_, context.appearance, 11);
    auto* which = new FlowLayout(14, 4);
    which->addWidget(grouped(tr("commands of"), state_, {}, sheet));
    which->addWidget(grouped(tr("by"), order_, {}, sheet));
    column->addLayout(which);

    begin_ = new QWidget(sheet);
    auto* ways = new FlowLayout(8, 4);
    begin_->setLayout(ways);
    ways->addWidget(label(tr("Begin with a map by"), "second", begin_));
    const std::pair<QString, handling::Scheme> schemes[] = {
        {tr("presses and holds"), handling::Scheme::presses},
        {tr("one button after the other"), handling::Scheme::chords},
        {tr("motions"), handling::Scheme::motions}};
    const char* const objects[] = {"beginPresses", "beginChords", "beginMotions"};
    for (std::size_t i = 0; i < std::size(schemes); ++i) {
        auto* button = new QPushButton(schemes[i].first, begin_);
        button->setObjectName(objects[i]);
        ways->addWidget(button);
        connect(button, &QPushButton::clicked, this, [this, scheme = schemes[i].second] {
            const auto done = context_.session.edit(
                tr("Begin the map"), handling::begin_with(scheme, context_.session.parts()));
            said_->setText(done ? QString() : words(done.error().text()));
        });
    }
    column->addWidget(begin_);

    const auto at = [this](int row) {
        const auto r = static_cast<std::size_t>(row);
        return r < shown_.size() ? shown_[r] : map().commands.size() + r - shown_.size();
    };
    Column trigger = reading(tr("trigger"), [this](int row) {
        const auto* c = command(row);
        return c ? CellText(words(job::trigger_text(c->trigger))) : CellText();
    });
    trigger.edit = [at](int row, const std::string& typed) {
        return job::set_trigger(at(row), typed);
    };
    trigger.picture = [this](QPainter& p, const QRectF& box, int row) {
        if (const auto* c = command(row))
            paint_trigger(p, box, c->trigger, handled_.buttons, context_.appearance.inks());
    };
    Column lines = reading(tr("states"), [this](int row) {
        const auto* c = command(row);
        return c ? CellText(words(job::way_text(*c))) : CellText();
    });
    lines.edit = [at](int row, const std::string& typed) { return job::set_way(at(row), typed); };
    lines.choices = [this](int) {
        QStringList all;
        for (const job::HandState& s : map().states) {
            all << words(s.name);
            for (const job::HandState& to : map().states)
                if (to.name != s.name) all << words(s.name + " > " + to.name);
        }
        return all;
    };
    lines.picture = [this](QPainter& p, const QRectF& box, int row) {
        if (const auto* c = command(row))
            paint_command_lines(p, box.adjusted(0, -3, 0, 3), *c, map().states,
                                context_.appearance.inks());
    };
    lines.head = [this](QPainter& p, const QRectF& box) {
        paint_state_names(p, box, map().states, context_.appearance.inks());
    };
    table_ = new Table(
        {.object = "commandMap",
         .name = tr("Commands as state lines"),
         .what = tr("Command"),
         .columns = {placed_column(session, tr("command"), "name",
                                   [this](int row) { return place(row) + "/name"; }),
                     trigger, lines, reading({}, [this](int row) { return remark(row); })},
         .rows = {[this] { return static_cast<int>(shown_.size()); },
                  [this](int row) {
                      const auto* c = command(row);
                      return c ? words(c->name) : QString();
                  },
                  [] { return handling::add_command(); },
                  [this](int row) { return job::take_out_at(place(row)); }},
         .wide = 2,
         .dense = true,
         .main = true,
         .empty = tr("Type what a command does, its trigger, as “S1 twice”, and the "
                     "states, as “lit > idle”."),
         .session = &session},
        context.appearance, sheet);
    keep_column(table_, context.appearance, 1, 10);
    column->addWidget(table_, 1);
    column->addWidget(table_->refusal());
    legend_ = label({}, "second", sheet);
    legend_->setWordWrap(true);
    column->addWidget(legend_);

    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);
    for (QComboBox* combo : {state_, order_})
        connect(combo, &QComboBox::activated, this, [this] {
            arrange();
            table_->refresh();
        });
    connect(table_, &Table::row_chosen, this, [this](int row) {
        const auto* c = command(row);
        if (c && !c->trigger.buttons.empty())
            context_.selection.choose(words(c->trigger.buttons.front().button));
    });
}

std::string MapSheet::place(int row) const {
    const auto r = static_cast<std::size_t>(row);
    return fmt::format("/handling/commands/{}",
                       r < shown_.size() ? shown_[r] : map().commands.size() + r - shown_.size());
}

const job::Command* MapSheet::command(int row) const {
    const auto r = static_cast<std::size_t>(row);
    if (row < 0 || r >= shown_.size() || shown_[r] >= map().commands.size()) return nullptr;
    return &map().commands[shown_[r]];
}

CellText MapSheet::remark(int row) const {
    const auto* c = command(row);
    if (!c) return {};
    const std::size_t i = shown_[static_cast<std::size_t>(row)];
    for (const handling::Conflict& k : handled_.conflicts)
        if (k.one == i || k.other == i) {
            const std::size_t other = k.one == i ? k.other : k.one;
            if (other < map().commands.size())
                return CellText(tr("also %1").arg(words(map().commands[other].name)), {},
                                CellInk::stop);
        }
    if (std::find(handled_.masked.begin(), handled_.masked.end(), i) != handled_.masked.end())
        return CellText(tr("never understood"), {}, CellInk::warn);
    for (const handling::Late& l : handled_.late)
        if (l.command == i && l.seconds >= handling::noticed_s)
            return CellText(tr("%1 s late").arg(words(decimals(l.seconds, 2))),
                            tr("Its trigger may still become another one"), CellInk::warn);
    if (!c->preset.empty()) return CellText(tr("in %1").arg(words(c->preset)), CellInk::second);
    return c->tried_on.empty() ? CellText(tr("untried"), CellInk::second)
                               : CellText(tr("tried"), words(c->tried_on), CellInk::fine);
}

void MapSheet::arrange() {
    // "state:lit", "button:S1", "preset:Harbour": one of them, or all.
    const std::string only = state_->currentData().toString().toStdString();
    const auto is_shown = [&](const job::Command& c) {
        const auto colon = only.find(':');
        if (colon == std::string::npos) return true;
        const std::string kind = only.substr(0, colon), name = only.substr(colon + 1);
        if (kind == "state") return c.state == name;
        if (kind == "preset") return c.preset == name;
        return std::any_of(c.trigger.buttons.begin(), c.trigger.buttons.end(),
                           [&](const job::TriggerButton& b) { return b.button == name; });
    };
    shown_.clear();
    for (std::size_t i = 0; i < map().commands.size(); ++i)
        if (is_shown(map().commands[i])) shown_.push_back(i);
    const auto state = [this](std::size_t i) {
        return job::find_name(map().states, map().commands[i].state) - map().states.data();
    };
    const auto button = [this](std::size_t i) {
        const auto& buttons = map().commands[i].trigger.buttons;
        const auto* known =
            buttons.empty() ? nullptr : job::find_ref(handled_.buttons, buttons.front().button);
        return known ? known->letter : std::string("~");
    };
    switch (static_cast<Order>(order_->currentIndex())) {
    case Order::state:
        std::stable_sort(shown_.begin(), shown_.end(),
                         [&](auto a, auto b) { return state(a) < state(b); });
        break;
    case Order::button:
        std::stable_sort(shown_.begin(), shown_.end(),
                         [&](auto a, auto b) { return button(a) < button(b); });
        break;
    case Order::does:
        std::stable_sort(shown_.begin(), shown_.end(), [&](auto a, auto b) {
            return map().commands[a].does < map().commands[b].does;
        });
        break;
    case Order::map:
        break;
    }
}

void MapSheet::show_job() {
    const QString was = state_->currentData().toString();
    state_->clear();
    state_->addItem(tr("all states"), QString());
    for (const job::HandState& s : map().states)
        state_->addItem(words(s.name), "state:" + words(s.name));
    for (const handling::HandButton& b : handled_.buttons)
        state_->addItem(tr("button %1").arg(words(b.letter)), "button:" + words(b.ref));
    for (const job::Preset& p : context_.session.job().presets)
        if (std::any_of(map().commands.begin(), map().commands.end(),
                        [&](const job::Command& c) { return c.preset == p.name; }))
            state_->addItem(tr("only with %1").arg(words(p.name)), "preset:" + words(p.name));
    state_->setCurrentIndex(std::max(0, state_->findData(was)));
    begin_->setVisible(map().commands.empty());
    arrange();
    table_->refresh();
}

void MapSheet::show_plan(const PlanPtr& plan) {
    handled_ = plan::handled(*plan->whole, *plan->parts);
    show_job();
    const auto& tour = handled_.tour;
    if (map().commands.empty())
        said_->setText(
            tr("Nothing was entered yet: what the buttons and motions of this hilt do."));
    else
        said_->setText(tr("%n commands", "", static_cast<int>(map().commands.size())) + " " +
                       tr("on %n buttons;", "", static_cast<int>(handled_.buttons.size())) + " " +
                       (tour.shortest ? tr("the shortest tour tries all in %n steps", "",
                                           static_cast<int>(tour.steps.size()))
                                      : tr("a tour tries all in %n steps", "",
                                           static_cast<int>(tour.steps.size()))));
    QStringList legend;
    for (const handling::HandButton& b : handled_.buttons)
        legend << tr("%1 is %2, %3").arg(words(b.letter), words(b.ref), words(b.place));
    legend << tr("dot: press, bar: hold, arrow: motion, wedge: how the blade is held");
    legend_->setText(legend.join(QStringLiteral(" · ")));
}

} // namespace conductus::app
