// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/handling/rehearse_sheet.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/drawing/commands_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/job/trigger.h"
#include "core/job/words.h"

namespace conductus::app {
namespace {

struct MotionKey {
    int key;
    job::Motion motion;
    job::Side side;
    const char* name;
};
constexpr MotionKey motion_keys[] = {
    {Qt::Key_Left, job::Motion::twist, job::Side::left, QT_TRANSLATE_NOOP("Rehearse", "←")},
    {Qt::Key_Right, job::Motion::twist, job::Side::right, QT_TRANSLATE_NOOP("Rehearse", "→")},
    {Qt::Key_Up, job::Motion::thrust, job::Side::left, QT_TRANSLATE_NOOP("Rehearse", "↑")},
    {Qt::Key_Down, job::Motion::tap, job::Side::left, QT_TRANSLATE_NOOP("Rehearse", "↓")},
    {Qt::Key_S, job::Motion::swing, job::Side::left, QT_TRANSLATE_NOOP("Rehearse", "S")},
    {Qt::Key_R, job::Motion::roll, job::Side::left, QT_TRANSLATE_NOOP("Rehearse", "R")}};

} // namespace

RehearseSheet::RehearseSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("The hilt, played by keys"));
    auto [left, left_column] = paper(tr("Rehearse"), {}, this);
    state_ = label({}, "title", left);
    state_->setObjectName("playState");
    heard_ = label({}, "", left);
    heard_->setObjectName("playHeard");
    heard_->setWordWrap(true);
    heard_->setMinimumHeight(qRound(context.appearance.text() * 3));
    heard_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    left_column->addWidget(state_);
    left_column->addWidget(heard_);
    buttons_ = new QWidget(left);
    buttons_->setLayout(new FlowLayout(8, 4));
    left_column->addWidget(buttons_);
    attitude_ = new QComboBox(left);
    attitude_->setObjectName("playAttitude");
    attitude_->setAccessibleName(tr("How the blade is held"));
    for (const auto a : {job::Attitude::level, job::Attitude::up, job::Attitude::down})
        attitude_->addItem(term(job::word(a)), static_cast<int>(a));
    blade_ = new QComboBox(left);
    blade_->setObjectName("playBlade");
    blade_->setAccessibleName(tr("Whether a blade is in"));
    blade_->addItem(tr("in"));
    blade_->addItem(tr("out"));
    auto* how = new FlowLayout(14, 4);
    how->addWidget(grouped(tr("the blade is held"), attitude_, {}, left));
    how->addWidget(grouped(tr("and is"), blade_, {}, left));
    left_column->addLayout(how);
    keys_ = label({}, "second", left);
    keys_->setWordWrap(true);
    left_column->addWidget(keys_);
    const auto understood = [this](int row) -> const job::Command* {
        const auto r = static_cast<std::size_t>(row);
        return plan_ && r < here_.size() ? &map().commands[here_[r]] : nullptr;
    };
    Column trigger = reading(tr("trigger"), [this, understood](int row) {
        const auto* c = understood(row);
        return c ? CellText(words(plan::told_trigger(c->trigger, handled_.buttons))) : CellText();
    });
    trigger.picture = [this, understood](QPainter& p, const QRectF& box, int row) {
        if (const auto* c = understood(row))
            paint_trigger(p, box, c->trigger, handled_.buttons, context_.appearance.inks());
    };
    understood_ = new Table({.object = "understoodHere",
                             .name = tr("What is understood in this state"),
                             .columns = {trigger, reading(tr("here it means"),
                                                          [understood](int row) {
                                                              const auto* c = understood(row);
                                                              return c ? CellText(words(c->name))
                                                                       : CellText();
                                                          })},
                             .rows = {[this] { return static_cast<int>(here_.size()); }},
                             .wide = 1,
                             .dense = true,
                             .empty = tr("Nothing is understood in this state.")},
                            context.appearance, left);
    keep_column(understood_, context.appearance, 0, 10);
    left_column->addWidget(understood_, 1);

    auto [right, right_column] =
        paper(tr("The tour"), tr("every command once, in the fewest steps"), this);
    auto* again = new QPushButton(tr("Begin again"), right);
    again->setObjectName("beginTour");
    right_column->addWidget(again, 0, Qt::AlignLeft);
    steps_ = new Table(
        {.object = "tour",
         .name = tr("Steps of the tour"),
         .columns = {figures(tr("no."), [](int row) { return CellText(QString::number(row + 1)); }),
                     reading(tr("do"),
                             [this](int row) {
                                 return CellText(step_text(static_cast<std::size_t>(row)));
                             }),
                     reading(tr("done"),
                             [this](int row) {
                                 const auto r = static_cast<std::size_t>(row);
                                 return r < step_    ? CellText(tr("done"), CellInk::fine)
                                        : r == step_ ? CellText(tr("now"), CellInk::petrol)
                                                     : CellText();
                             })},
         .rows = {[this] { return static_cast<int>(handled_.tour.steps.size()); }},
         .wide = 1,
         .dense = true,
         .main = true,
         .empty = tr("The tour stands here as soon as the map has commands.")},
        context.appearance, right);
    right_column->addWidget(steps_, 1);

    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    row->addWidget(left, 1);
    row->addWidget(right, 1);
    timer_.setSingleShot(true);
    connect(&timer_, &QTimer::timeout, this, [this] {
        if (player_) take(player_->wait_until(now()));
    });
    connect(again, &QPushButton::clicked, this, [this] {
        start();
        setFocus();
    });
    for (QComboBox* combo : {attitude_, blade_})
        connect(combo, &QComboBox::activated, this, [this] {
            if (player_)
                player_->hold(static_cast<job::Attitude>(attitude_->currentData().toInt()),
                              blade_->currentIndex() == 0);
            setFocus();
        });
    clock_.start();
}

QString RehearseSheet::step_text(std::size_t step) const {
    const handling::TourStep& s = handled_.tour.steps[step];
    switch (s.kind) {
    case handling::TourStep::Kind::wait:
        return tr("wait until it is %1").arg(words(s.to));
    case handling::TourStep::Kind::blade:
        return s.blade_in ? tr("put the blade in") : tr("draw the blade");
    case handling::TourStep::Kind::restart:
        return tr("open the kill and close it");
    case handling::TourStep::Kind::command:
        break;
    }
    const job::Command& c = map().commands[s.command];
    const QString how = words(plan::told_trigger(c.trigger, handled_.buttons));
    return s.first ? tr("%1: %2").arg(how, words(c.name))
                   : tr("%1: %2 again").arg(how, words(c.name));
}

void RehearseSheet::show_plan(const PlanPtr& plan) {
    const bool same = plan_ && plan_->whole->handling == plan->whole->handling &&
                      plan_->whole->presets == plan->whole->presets;
    // The player keeps the job that it was made with.
    const PlanPtr before = plan_;
    if (same && player_) return;
    plan_ = plan;
    handled_ = plan::handled(*plan->whole, *plan->parts);
    show_buttons();
    start();
}

void RehearseSheet::show_buttons() {
    for (QPushButton* button : shown_buttons_)
        button->deleteLater();
    shown_buttons_.clear();
    QStringList letters;
    for (const handling::HandButton& b : handled_.buttons) {
        auto* button = new QPushButton(tr("%1, %2").arg(words(b.letter), words(b.place)), buttons_);
        button->setObjectName("play:" + words(b.ref));
        button->setFocusPolicy(Qt::NoFocus); // the keys stay with the hilt
        buttons_->layout()->addWidget(button);
        button->show();
        connect(button, &QPushButton::pressed, this,
                [this, ref = b.ref] { hear(handling::EventKind::down, ref); });
        connect(button, &QPushButton::released, this,
                [this, ref = b.ref] { hear(handling::EventKind::up, ref); });
        shown_buttons_.push_back(button);
        letters << words(b.letter);
    }
    QStringList motions;
    for (const MotionKey& k : motion_keys) {
        QString what = term(job::word(k.motion));
        if (k.motion == job::Motion::twist) what += " " + term(job::word(k.side));
        motions << QStringLiteral("%1 %2").arg(QString::fromUtf8(k.name), what);
    }
    keys_->setText(
        letters.isEmpty()
            ? tr("No button is fitted.")
            : tr("Click here, then play: the keys %1 are the buttons, as long as they "
                 "are held; %2.")
                  .arg(letters.join(QStringLiteral(", ")), motions.join(QStringLiteral(", "))));
}

void RehearseSheet::start() {
    step_ = 0;
    down_.clear();
    timer_.stop();
    player_ = map().commands.empty() ? nullptr : std::make_unique<handling::Player>(*plan_->whole);
    clock_.restart();
    attitude_->setCurrentIndex(0);
    blade_->setCurrentIndex(0);
    heard_->setText(player_ ? QString() : tr("The map has no commands yet."));
    tell();
    wait();
}

void RehearseSheet::hear(handling::EventKind kind, const std::string& button, job::Motion motion,
                         job::Side side) {
    if (!player_) return;
    if (kind == handling::EventKind::down) down_.push_back(button);
    if (kind == handling::EventKind::up) std::erase(down_, button);
    take(player_->hear({kind, button, motion, side, now()}));
}

void RehearseSheet::take(const std::vector<handling::Said>& all) {
    using Kind = handling::Said::Kind;
    for (const handling::Said& s : all) {
        const auto* step =
            step_ < handled_.tour.steps.size() ? &handled_.tour.steps[step_] : nullptr;
        QString says;
        bool done = false;
        switch (s.kind) {
        case Kind::understood: {
            const job::Command& c = map().commands[s.commands.front()];
            says = s.late >= 0.005 ? tr("Understood: %1, %2 s after the last that you did.")
                                         .arg(words(c.name), words(decimals(s.late, 2)))
                                   : tr("Understood: %1, at once.").arg(words(c.name));
            done = step && step->kind == handling::TourStep::Kind::command &&
                   step->command == s.commands.front();
            if (step && !done) says += "\n" + tr("The tour asks for: %1.").arg(step_text(step_));
            break;
        }
        case Kind::several: {
            QStringList names;
            for (const std::size_t i : s.commands)
                names << words(map().commands[i].name);
            says = tr("It could mean: %1. Nobody knows which.").arg(names.join(tr(" or ")));
            break;
        }
        case Kind::nothing:
            says = tr("Nothing is understood by that in this state.");
            break;
        case Kind::left:
            says = tr("The time is over: it is %1 now.").arg(words(s.state));
            done = step && step->kind == handling::TourStep::Kind::wait && step->to == s.state;
            break;
        }
        heard_->setText(says);
        if (done && ++step_ == handled_.tour.steps.size())
            heard_->setText(says + "\n" + tr("Every command was given once: the tour is done."));
    }
    if (!all.empty()) tell();
    wait();
}

void RehearseSheet::tell() {
    here_.clear();
    for (std::size_t i = 0; player_ && i < map().commands.size(); ++i)
        if (map().commands[i].state == player_->state()) here_.push_back(i);
    understood_->refresh();
    if (!player_) {
        state_->setText({});
        steps_->refresh();
        return;
    }
    const QString preset = words(player_->preset());
    state_->setText(preset.isEmpty()
                        ? tr("It is %1").arg(words(player_->state()))
                        : tr("It is %1, with %2").arg(words(player_->state()), preset));
    steps_->refresh();
    if (step_ < handled_.tour.steps.size()) steps_->choose(static_cast<int>(step_));
}

void RehearseSheet::wait() {
    timer_.stop();
    if (!player_) return;
    if (const auto when = player_->due())
        timer_.start(std::max(1, static_cast<int>(std::ceil((*when - now()) * 1000)) + 1));
}

void RehearseSheet::release_all() {
    for (const std::string& button : std::vector(down_))
        hear(handling::EventKind::up, button);
}

void RehearseSheet::keyPressEvent(QKeyEvent* event) {
    if (event->modifiers() & (Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier))
        return StationPage::keyPressEvent(event);
    for (const handling::HandButton& b : handled_.buttons)
        if (event->key() == Qt::Key_A + (b.letter.front() - 'A') && b.letter.front() < 'D') {
            if (!event->isAutoRepeat()) hear(handling::EventKind::down, b.ref);
            return;
        }
    for (const MotionKey& k : motion_keys)
        if (event->key() == k.key) {
            if (!event->isAutoRepeat()) hear(handling::EventKind::motion, {}, k.motion, k.side);
            return;
        }
    StationPage::keyPressEvent(event);
}

void RehearseSheet::keyReleaseEvent(QKeyEvent* event) {
    for (const handling::HandButton& b : handled_.buttons)
        if (event->key() == Qt::Key_A + (b.letter.front() - 'A') && b.letter.front() < 'D') {
            if (!event->isAutoRepeat()) hear(handling::EventKind::up, b.ref);
            return;
        }
    StationPage::keyReleaseEvent(event);
}

void RehearseSheet::focusOutEvent(QFocusEvent* event) {
    release_all();
    StationPage::focusOutEvent(event);
}

void RehearseSheet::hideEvent(QHideEvent* event) {
    timer_.stop();
    StationPage::hideEvent(event);
}

} // namespace conductus::app
