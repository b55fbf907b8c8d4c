// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/effects_sheet.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/drawing/film_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/job/presets.h"

namespace conductus::app {
EffectsSheet::EffectsSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [sheet, column] =
        paper(tr("In time"), tr("from a full cell; effects over the look chosen above"), this);
    which_ = new QComboBox(sheet);
    which_->setObjectName("filmOf");
    which_->setAccessibleName(tr("Effect or look to play"));
    keep_least_width(which_, context.appearance, 13);
    play_ = new QPushButton(tr("Play"), sheet);
    play_->setObjectName("playFilm");
    play_->setCheckable(true);
    slow_ = new QCheckBox(tr("ten times slower"), sheet);
    slow_->setObjectName("slowFilm");
    time_ = new QSlider(Qt::Horizontal, sheet);
    time_->setObjectName("filmTime");
    time_->setAccessibleName(tr("Place in time"));
    said_ = label({}, "second", sheet);
    said_->setObjectName("filmFigures");
    said_->setWordWrap(true);
    view_ = new DrawingView(
        "film", tr("Blades and the cell's current in time"), context.appearance,
        [this]() -> DrawingPtr {
            // The film is of what is mated, which the plan tells.
            return std::make_shared<const FilmDrawing>(
                plan_ ? plan_->job : context_.session.job_ptr(), film_,
                static_cast<std::size_t>(time_->value()));
        },
        sheet);
    view_->setMinimumHeight(qRound(context.appearance.text() * 9));
    clock_ = new QTimer(this);
    clock_->setObjectName("filmClock");
    clock_->setInterval(16);
    auto* top = new QHBoxLayout;
    top->setSpacing(10);
    top->addWidget(which_);
    top->addWidget(play_);
    top->addWidget(slow_);
    top->addWidget(time_, 1);
    column->addLayout(top);
    column->addWidget(view_, 1);
    column->addWidget(said_);
    auto [below, below_column] =
        paper(tr("Effects"), tr("along the blade foot 0 to tip 100; all shares in %"), this);
    Session& session = context.session;
    const std::string list = "/effects";
    const auto solved = [this](int row) {
        const auto& effect = context_.session.job().effects[static_cast<std::size_t>(row)];
        return plan_ ? job::find_name(plan_->effects, effect.name) : nullptr;
    };
    const auto share = [&](const QString& title, const char* key) {
        Column c = value_column(session, title, list, key, "%");
        c.unit.clear(); // said once, above
        return c;
    };
    Column mean = figures(tr("mean"), [solved](int row) {
        return solved(row) ? words(text(solved(row)->mean)) : QString();
    });
    Column peak = figures(tr("peak"), [solved](int row) {
        return solved(row) ? words(text(solved(row)->peak)) : QString();
    });
    effects_ = new Table(
        {.object = "effects",
         .name = tr("Effects"),
         .what = tr("Effect"),
         .columns = {value_column(session, tr("effect"), list, "name"),
                     value_column(session, tr("kind"), list, "kind"), share(tr("from"), "from"),
                     share(tr("to"), "to"), value_column(session, tr("lasts, s"), list, "lasts_s"),
                     share(tr("cap"), "cap"), share(tr("red"), "colour/red"),
                     share(tr("green"), "colour/green"), share(tr("blue"), "colour/blue"),
                     share(tr("white"), "colour/white"), mean, peak},
         .rows = list_rows(session, list, "name"),
         .wide = 0,
         .dense = true,
         .main = true,
         .empty = tr("Name an effect: a clash flash, a blast mark, a lock-up."),
         .session = &session},
        context.appearance, below);
    effects_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    // A row chosen is the one that plays.
    connect(effects_, &Table::row_chosen, this, [this](int chosen) {
        const auto& all = context_.session.job().effects;
        const int i = which_->findText(words(all[static_cast<std::size_t>(chosen)].name));
        if (i < 0 || i == which_->currentIndex()) return;
        which_->setCurrentIndex(i);
        film();
    });
    below_column->addWidget(effects_, 1);
    below_column->addWidget(effects_->refusal());
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(8);
    all->addWidget(sheet, 8);
    all->addWidget(below, 5);

    connect(which_, &QComboBox::activated, this, [this] { film(); });
    connect(play_, &QPushButton::toggled, this, &EffectsSheet::play);
    connect(time_, &QSlider::valueChanged, this, [this](int frame) {
        view_->redraw();
        if (!film_ || film_->frames.empty()) return;
        const plan::Frame& now = film_->frames[static_cast<std::size_t>(frame)];
        said_->setText(tr("%1 s: cell %2, board %3. Mean %4 (dashed), peak %5; the board never "
                          "below %6.")
                           .arg(now.seconds, 0, 'f', 2)
                           .arg(words(text(now.amps)), words(text(now.board)),
                                words(text(film_->mean)), words(text(film_->peak)),
                                words(text(film_->lowest))));
    });
    const auto go = [this](QPointF at) {
        const auto* drawn = dynamic_cast<const FilmDrawing*>(view_->drawing().get());
        if (drawn && film_ && !film_->frames.empty())
            time_->setValue(
                static_cast<int>(drawn->frame_at(at, view_->frame(), view_->lettering())));
    };
    connect(view_, &DrawingView::pressed, this, go);
    connect(view_, &DrawingView::dragged, this, go);
    connect(view_, &DrawingView::stepped, this,
            [this](int step) { time_->setValue(time_->value() + step); });
    connect(&context.selection, &Selection::changed, this, [this] {
        if (isVisible()) film();
    });
    connect(clock_, &QTimer::timeout, this, [this] {
        if (!film_ || film_->frames.empty()) return;
        ahead_ += film_->rate * clock_->interval() / 1000.0 / (slow_->isChecked() ? 10 : 1);
        const int frames = static_cast<int>(ahead_);
        ahead_ -= frames;
        if (frames > 0)
            time_->setValue((time_->value() + frames) % static_cast<int>(film_->frames.size()));
    });
}

void EffectsSheet::play(bool on) {
    play_->setText(on ? tr("Stop") : tr("Play"));
    on ? clock_->start() : clock_->stop();
}

void EffectsSheet::show_job() { effects_->refresh(); }

void EffectsSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    show_job();
    QStringList names;
    // An effect that presets have of their own comes over their looks.
    for (const auto& effect :
         job::effects_over(*plan->job, context_.selection.options().look.toStdString()))
        if (!names.contains(words(effect.name))) names << words(effect.name);
    for (const auto& effect : plan->effects)
        if (!names.contains(words(effect.name))) names << words(effect.name);
    const int effects = static_cast<int>(names.size());
    for (const auto& look : plan->looks)
        names << words(look.name);
    QStringList shown;
    for (int i = 0; i < which_->count(); ++i)
        if (!which_->itemText(i).isEmpty()) shown << which_->itemText(i);
    if (names != shown) {
        const QString was = which_->currentText();
        which_->clear();
        which_->addItems(names);
        if (effects > 0 && effects < names.size()) which_->insertSeparator(effects);
        if (const int i = which_->findText(was); i >= 0 && !was.isEmpty())
            which_->setCurrentIndex(i);
    }
    film();
}

void EffectsSheet::film() {
    if (!plan_ || plan_->trouble || which_->currentText().isEmpty()) {
        said_->setText(tr("Nothing to play: add a look, and see the findings."));
        context_.session.asking().forget<plan::FilmOf>(this);
        film_.reset();
        view_->redraw();
        return;
    }
    context_.session.ask(plan::FilmOf{which_->currentText().toStdString(),
                                      context_.selection.options().look.toStdString()},
                         this, [this](const plan::AnswerPtr<plan::FilmOf>& made) {
                             film_ = *made ? FilmPtr(made, &**made) : nullptr;
                             view_->redraw();
                             const int frames = film_ ? static_cast<int>(film_->frames.size()) : 1;
                             time_->setRange(0, std::max(0, frames - 1));
                             emit time_->valueChanged(time_->value());
                         });
}

} // namespace conductus::app
