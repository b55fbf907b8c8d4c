// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/handling/rehearse_sheet.h"

#include <QApplication>
#include <QCloseEvent>
#include <QComboBox>
#include <QDateTime>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/drawing/blade_drawing.h"
#include "app/drawing/commands_drawing.h"
#include "app/drawing/film_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "app/shell/theme.h"
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

struct AttitudeKey {
    int key;
    job::Attitude attitude;
};
constexpr AttitudeKey attitude_keys[] = {{Qt::Key_U, job::Attitude::up},
                                         {Qt::Key_L, job::Attitude::level},
                                         {Qt::Key_D, job::Attitude::down}};

/// The blade as it is lit now.
class BladeView : public QWidget {
public:
    BladeView(const Appearance& appearance, std::function<const plan::Frame*()> now,
              std::function<bool()> is_in, QWidget* parent)
        : QWidget(parent), appearance_(appearance), now_(std::move(now)), is_in_(std::move(is_in)) {
        setObjectName("playedBlade");
        setAccessibleName(QObject::tr("The blade as it is lit now"));
        with_text_size(this, appearance,
                       [this] { setFixedHeight(qRound(appearance_.text() * 2.4)); });
    }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        const Inks& inks = appearance_.inks();
        const QRectF all = QRectF(rect()).adjusted(1, 2, -1, -2);
        const double grip = std::min(all.width() * 0.22, all.height() * 6);
        const QRectF hilt(all.left(), all.top(), grip, all.height());
        p.setPen(QPen(inks.ink, 1));
        p.setBrush(inks.board);
        p.drawRoundedRect(hilt, 3, 3);
        p.setFont(page_font(appearance_.text() * 0.85));
        p.drawText(hilt, Qt::AlignCenter, QObject::tr("hilt"));
        if (!is_in_()) {
            p.setPen(inks.second);
            p.drawText(QRectF(hilt.right() + 8, all.top(), all.width(), all.height()),
                       Qt::AlignVCenter, QObject::tr("the blade is out"));
            return;
        }
        const plan::Frame* frame = now_();
        const std::size_t blades = frame ? std::max<std::size_t>(1, frame->blades.size()) : 1;
        const double each = all.height() / static_cast<double>(blades);
        for (std::size_t b = 0; b < blades; ++b)
            paint_blade(p,
                        QRectF(hilt.right(), all.top() + each * static_cast<double>(b),
                               all.right() - hilt.right(), each)
                            .adjusted(0, each * 0.14, 0, -each * 0.14),
                        frame && b < frame->blades.size() ? frame->blades[b]
                                                          : std::vector<lights::Rgb>(),
                        inks);
    }

private:
    const Appearance& appearance_;
    std::function<const plan::Frame*()> now_;
    std::function<bool()> is_in_;
};

/// Whether two maps are the same to play: what was learned of them is beside that.
bool plays_alike(job::Handling a, job::Handling b) {
    a.rehearsed.clear(), b.rehearsed.clear();
    return a == b;
}

} // namespace

RehearseSheet::RehearseSheet(const PageContext& context, QWidget* parent, Alone alone)
    : StationPage(context, parent), alone_(alone) {
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
    blade_view_ = new BladeView(
        context.appearance,
        [this]() -> const plan::Frame* {
            if (!film_ || film_->frames.empty()) return nullptr;
            const double at = now() - film_since_;
            return &film_->frames[FilmDrawing::frame_after(*film_, std::max(0.0, at))];
        },
        [this] { return blade_->currentIndex() == 0; }, left);
    left_column->addWidget(blade_view_);
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
    left_column->addStretch(0);

    auto [right, right_column] = paper(tr("Learn it"), {}, this);
    way_ = new QComboBox(right);
    way_->setObjectName("rehearseWay");
    way_->setAccessibleName(tr("How it is rehearsed"));
    way_->addItems({tr("the tour: every command once"), tr("asked, in turn")});
    who_ = new QComboBox(right);
    who_->setObjectName("rehearseWho");
    who_->setAccessibleName(tr("Who rehearses"));
    who_->addItem(tr("the owner"), QStringLiteral("owner"));
    who_->addItem(tr("the shop"), QStringLiteral("shop"));
    auto* ways = new FlowLayout(12, 4);
    ways->addWidget(grouped(tr("by"), way_, {}, right));
    ways->addWidget(grouped(tr("with"), who_, {}, right));
    right_column->addLayout(ways);
    learned_ = label({}, "second", right);
    learned_->setObjectName("rehearseLearned");
    learned_->setWordWrap(true);
    right_column->addWidget(learned_);

    quiz_box_ = new QWidget(right);
    auto* quiz_column = new QVBoxLayout(quiz_box_);
    quiz_column->setContentsMargins(0, 0, 0, 0);
    question_ = label({}, "title", quiz_box_);
    question_->setObjectName("quizQuestion");
    question_->setWordWrap(true);
    score_ = label({}, "second", quiz_box_);
    score_->setObjectName("quizScore");
    score_->setWordWrap(true);
    keep_ = new QPushButton(tr("Keep what was learned"), quiz_box_);
    keep_->setObjectName("quizKeep");
    keep_->setFocusPolicy(Qt::NoFocus);
    quiz_column->addWidget(question_);
    quiz_column->addWidget(score_);
    quiz_column->addWidget(keep_, 0, Qt::AlignLeft);
    quiz_column->addStretch(1);
    right_column->addWidget(quiz_box_, 1);
    quiz_box_->hide();

    tour_box_ = new QWidget(right);
    auto* tour_column = new QVBoxLayout(tour_box_);
    tour_column->setContentsMargins(0, 0, 0, 0);
    auto* again = new QPushButton(tr("Begin again"), tour_box_);
    again->setObjectName("beginTour");
    auto* apart = new QPushButton(tr("In a window of its own"), tour_box_);
    apart->setObjectName("rehearseApart");
    apart->setVisible(alone == Alone::no);
    auto* tour_tools = new FlowLayout(8, 4);
    tour_tools->addWidget(again);
    tour_tools->addWidget(apart);
    tour_column->addLayout(tour_tools);
    right_column->addWidget(tour_box_, 1);
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
        context.appearance, tour_box_);
    tour_column->addWidget(steps_, 1);

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
            blade_view_->update();
        });
    connect(way_, &QComboBox::activated, this, [this](int index) {
        if (index == 1)
            quiz(who_->currentData().toString());
        else
            lead_through();
        setFocus();
    });
    connect(who_, &QComboBox::activated, this, [this] {
        if (quiz_) quiz(who_->currentData().toString());
        setFocus();
    });
    connect(keep_, &QPushButton::clicked, this, &RehearseSheet::keep_results);
    connect(apart, &QPushButton::clicked, this, [this] {
        auto* window = new RehearseWindow(context_, this);
        window->show_plan(plan_);
        window->show();
    });
    frames_.setInterval(33);
    connect(&frames_, &QTimer::timeout, this, [this] {
        if (!film_ || !isVisible()) return frames_.stop();
        const double lasts =
            film_->rate > 0 ? static_cast<double>(film_->frames.size()) / film_->rate : 0;
        if (film_once_ && now() - film_since_ > lasts) show_film({});
        blade_view_->update();
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
    if (!plan) return;
    const bool same = plan_ && plays_alike(plan_->whole->handling, plan->whole->handling) &&
                      plan_->whole->presets == plan->whole->presets;
    QStringList learned;
    for (const handling::Learned& one : handling::learned(plan->whole->handling))
        learned << tr("%1 knew %2 of %3 on %4")
                       .arg(one.who == "owner" ? tr("the owner") : tr("the shop"))
                       .arg(one.right)
                       .arg(one.of)
                       .arg(words(one.on));
    learned_->setText(learned.join(QStringLiteral("; ")));
    learned_->setVisible(!learned.isEmpty());
    // The player and the questions keep the job that they were made with.
    if (same && player_) return;
    quiz_.reset();
    const PlanPtr before = plan_;
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
                 "are held; %2; U, L, D hold the blade up, level, down.")
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
    show_film({});
    tell();
    wait();
}

void RehearseSheet::lead_through() {
    keep_results();
    quiz_.reset();
    way_->setCurrentIndex(0);
    quiz_box_->hide();
    tour_box_->show();
    understood_->show();
    if (plan_) start();
}

void RehearseSheet::quiz(const QString& who) {
    keep_results();
    if (!plan_) return;
    way_->setCurrentIndex(1);
    who_->setCurrentIndex(std::max(0, who_->findData(who)));
    tour_box_->hide();
    quiz_box_->show();
    understood_->hide(); // it has the answers
    start();
    // Another order each time: by the clock, which no figure hangs on.
    const auto seed = static_cast<unsigned>(QDateTime::currentSecsSinceEpoch());
    quiz_ = std::make_unique<handling::Quiz>(map(), who.toStdString(), seed);
    ask_next();
}

void RehearseSheet::ask_next() {
    ask_when_released_ = false;
    const auto asked = quiz_ ? quiz_->asked() : std::nullopt;
    if (!asked || !player_) {
        question_->setText(tr("The map has no commands yet."));
        return;
    }
    const job::Command& c = map().commands[*asked];
    blade_->setCurrentIndex(c.blade == job::BladeThere::out ? 1 : 0);
    player_->hold(static_cast<job::Attitude>(attitude_->currentData().toInt()),
                  blade_->currentIndex() == 0);
    player_->begin_in(c.state, c.preset, now());
    asked_at_ = now();
    show_film({});
    tell();
    tell_quiz();
    wait();
}

void RehearseSheet::tell_quiz() {
    const auto asked = quiz_->asked();
    if (!asked) return;
    const job::Command& c = map().commands[*asked];
    QString where = tr("The state is %1").arg(words(c.state));
    if (!c.preset.empty()) where += tr(", with %1").arg(words(c.preset));
    if (c.blade == job::BladeThere::out) where += tr(", the blade is out");
    question_->setText(tr("How do you do this: %1?").arg(words(c.name)));
    score_->setText(where + QStringLiteral(".\n") +
                    tr("%1 right, %2 wrong; %3 of %4 known")
                        .arg(quiz_->right())
                        .arg(quiz_->wrong())
                        .arg(quiz_->known())
                        .arg(map().commands.size()));
}

void RehearseSheet::judge(const handling::Said& said) {
    using Kind = handling::Said::Kind;
    const auto asked = quiz_->asked();
    if (!asked || ask_when_released_) return;
    const job::Command& c = map().commands[*asked];
    const double took = now() - asked_at_;
    if (said.kind == Kind::left) return ask_next(); // it was left by itself: once more from there
    const bool right = said.kind == Kind::understood && said.commands.front() == *asked;
    const QString how = words(plan::told_trigger(c.trigger, handled_.buttons));
    if (right)
        heard_->setText(tr("Right: %1, after %2 s.").arg(words(c.name), words(decimals(took, 1))));
    else if (said.kind == Kind::understood)
        heard_->setText(
            tr("That is %1. For %2: %3.")
                .arg(words(map().commands[said.commands.front()].name), words(c.name), how));
    else
        heard_->setText(tr("Not that. For %1: %2.").arg(words(c.name), how));
    quiz_->answered(right, took);
    // The next is asked with the hands free.
    ask_when_released_ = !down_.empty();
    if (!ask_when_released_) ask_next();
}

void RehearseSheet::keep_results() {
    if (!quiz_ || quiz_->right() + quiz_->wrong() == 0) return;
    const std::string today = QDate::currentDate().toString(Qt::ISODate).toStdString();
    auto results = quiz_->results(today, context_.session.job().handling.rehearsed);
    const std::string who = who_->currentData().toString().toStdString();
    // What is kept is not counted again.
    quiz_ = std::make_unique<handling::Quiz>(map(), who, static_cast<unsigned>(results.size()));
    context_.session.change(tr("Keep what was learned"),
                            handling::keep_learned(std::move(results)));
    if (way_->currentIndex() == 1) ask_next();
}

void RehearseSheet::show_film(const std::string& effect) {
    const job::HandState* state =
        player_ ? job::find_name(map().states, player_->state()) : nullptr;
    const job::Preset* preset =
        player_ ? job::find_name(plan_->whole->presets, player_->preset()) : nullptr;
    std::string look = preset ? preset->look : std::string();
    if (look.empty() && plan_ && !plan_->whole->looks.empty()) look = plan_->whole->looks[0].name;
    // A menu that falls back to a lit blade is over a lit blade.
    const auto is_lit = [&](const job::HandState* s) {
        return s && s->kind == job::StateKind::lit;
    };
    const bool over_lit = state && is_lit(job::find_name(map().states, state->then));
    const bool lit = !look.empty() && (is_lit(state) || over_lit);
    if (!lit || plan_->trouble) {
        context_.session.asking().forget<plan::FilmOf>(this);
        film_.reset();
        frames_.stop();
        blade_view_->update();
        return;
    }
    context_.session.ask(plan::FilmOf{effect.empty() ? look : effect, look}, this,
                         [this, effect](const plan::AnswerPtr<plan::FilmOf>& made) {
                             film_ = *made ? FilmPtr(made, &**made) : nullptr;
                             film_since_ = now();
                             film_once_ = !effect.empty();
                             if (film_) frames_.start();
                             blade_view_->update();
                         });
}

void RehearseSheet::hear(handling::EventKind kind, const std::string& button, job::Motion motion,
                         job::Side side) {
    if (!player_) return;
    if (kind == handling::EventKind::down) down_.push_back(button);
    if (kind == handling::EventKind::up) std::erase(down_, button);
    take(player_->hear({kind, button, motion, side, now()}));
    if (ask_when_released_ && down_.empty()) ask_next();
}

void RehearseSheet::take(const std::vector<handling::Said>& all) {
    using Kind = handling::Said::Kind;
    for (const handling::Said& s : all) {
        if (s.kind == Kind::understood) {
            const job::Command& c = map().commands[s.commands.front()];
            show_film(c.does == job::Does::effect ? c.what : std::string());
        } else if (s.kind == Kind::left) {
            show_film({});
        }
        if (quiz_) {
            judge(s);
            return wait();
        }
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
                        ? tr("State: %1").arg(words(player_->state()))
                        : tr("State: %1, with %2").arg(words(player_->state()), preset));
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
    for (const AttitudeKey& k : attitude_keys)
        if (event->key() == k.key) {
            attitude_->setCurrentIndex(attitude_->findData(static_cast<int>(k.attitude)));
            if (player_) player_->hold(k.attitude, blade_->currentIndex() == 0);
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
    frames_.stop();
    StationPage::hideEvent(event);
}

RehearseWindow::RehearseWindow(const PageContext& context, QWidget* parent)
    : QWidget(parent, Qt::Window), session_(context.session), selection_(this) {
    setObjectName("rehearseWindow");
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("%1: every command").arg(words(context.session.job().name)));
    appearance_.set_night(context.appearance.inks().night);
    appearance_.set_percent(150);
    apply_theme(*this, appearance_);
    QApplication::setFont(page_font(context.appearance.text())); // of the other windows
    sheet_ = new RehearseSheet({context.session, selection_, appearance_}, this,
                               RehearseSheet::Alone::yes);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 12, 12, 12);
    column->addWidget(sheet_);
    resize(1180, 760);
    connect(&context.session, &Session::plan_changed, this, [this] { show_plan(session_.plan()); });
}

void RehearseWindow::show_plan(const PlanPtr& plan) {
    if (!plan) return;
    sheet_->show_plan(plan);
    sheet_->setFocus();
}

void RehearseWindow::closeEvent(QCloseEvent* event) {
    sheet_->keep_results();
    QWidget::closeEvent(event);
}

} // namespace conductus::app
