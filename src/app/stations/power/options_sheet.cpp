// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/options_sheet.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/base/format.h"

namespace conductus::app {

OptionsSheet::OptionsSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [sheet, column] = paper(tr("Options"), {}, this);
    work_ = new QPushButton(tr("Work them out"), sheet);
    work_->setObjectName("workOptions");
    progress_ = new QProgressBar(sheet);
    progress_->setObjectName("optionsProgress");
    progress_->setTextVisible(false);
    progress_->setMaximumHeight(qRound(context.appearance.text() * 0.7));
    progress_->hide();
    auto axis = [&](const char* object, const QString& name, plan::Axis at) {
        auto* combo = new QComboBox(sheet);
        combo->setObjectName(object);
        combo->setAccessibleName(name);
        for (const plan::Axis a : plan::axes)
            combo->addItem(term(plan::word(a)));
        combo->setCurrentIndex(static_cast<int>(at));
        connect(combo, &QComboBox::activated, this, [this] { picture_->redraw(); });
        return combo;
    };
    across_ = axis("optionsAcross", tr("Axis across"), plan::Axis::clean);
    up_ = axis("optionsUp", tr("Axis up"), plan::Axis::light);
    best_ = new QCheckBox(tr("only the best"), sheet);
    best_->setObjectName("optionsBest");
    best_->setToolTip(tr("Those that no other beats in one thing without losing in another"));
    few_ = new QCheckBox(tr("few changes"), sheet);
    few_->setObjectName("optionsFew");
    few_->setToolTip(tr("Two changes at most to what is built"));
    few_->setChecked(true);
    build_ = new QPushButton(tr("Build it so"), sheet);
    build_->setObjectName("buildOption");
    build_->setEnabled(false);
    auto* top = new QHBoxLayout;
    top->setSpacing(8);
    top->addWidget(work_);
    top->addWidget(progress_, 1);
    top->addWidget(label(tr("across"), "second", sheet));
    top->addWidget(across_);
    top->addWidget(label(tr("up"), "second", sheet));
    top->addWidget(up_);
    top->addWidget(best_);
    top->addWidget(few_);
    top->addStretch();
    top->addWidget(build_);
    said_ = label({}, "second", sheet);
    said_->setObjectName("optionsSaid");
    said_->setWordWrap(true);
    picture_ = new DrawingView(
        "choicesPicture", tr("Options on two axes"), context.appearance,
        [this]() -> DrawingPtr { return drawn(); }, sheet);
    picture_->setMinimumHeight(qRound(context.appearance.text() * 14));
    picture_->tell([this](QPointF at) {
        const auto i = drawn()->nearest(at, picture_->frame(), picture_->lettering());
        return i ? drawn()->words_of(*i) : QString();
    });
    picture_->redraw();
    advice_ = new QWidget(sheet);
    advice_->setObjectName("optionsAdvice");
    new QVBoxLayout(advice_);
    advice_->layout()->setContentsMargins(0, 0, 0, 0);
    auto* scroll = new QScrollArea(sheet);
    scroll->setWidgetResizable(true);
    scroll->setWidget(advice_);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* middle = new QHBoxLayout;
    middle->addWidget(picture_, 7);
    middle->addWidget(scroll, 4);
    const auto choice = [this](int row) -> const plan::Choice& {
        return choices_->all[shown_[static_cast<std::size_t>(row)]];
    };
    std::vector<Column> columns{
        reading(tr("what is changed"), [choice](int row) { return changes_of(choice(row)); })};
    const QString titles[] = {tr("clean"),     tr("crackle margin"), tr("light"), tr("loudness"),
                              tr("clearance"), tr("mass"),           tr("EUR"),   tr("spares")};
    static_assert(std::size(titles) == std::size(plan::axes));
    for (std::size_t i = 0; i < std::size(titles); ++i) {
        const plan::Axis by = plan::axes[i];
        Column c = figures(titles[i], [=](int row) { return shown_text(choice(row), by); });
        c.sort_by = [=](int row) { return plan::value_of(choice(row), by); };
        columns.push_back(std::move(c));
    }
    table_ = new Table({.object = "optionsTable",
                        .name = tr("Options"),
                        .columns = std::move(columns),
                        .rows = {[this] { return choices_ ? static_cast<int>(shown_.size()) : 0; }},
                        .wide = 0,
                        .sortable = true,
                        .empty = tr("Work the options out: everything that fits in place of what "
                                    "is fitted, alone and together.")},
                       context.appearance, sheet);
    column->addLayout(top);
    column->addWidget(said_);
    column->addLayout(middle, 6);
    column->addWidget(table_, 4);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);

    connect(work_, &QPushButton::clicked, this, &OptionsSheet::work);
    connect(best_, &QCheckBox::toggled, this, &OptionsSheet::list);
    connect(few_, &QCheckBox::toggled, this, &OptionsSheet::list);
    connect(picture_, &DrawingView::pressed, this, [this](QPointF at) {
        if (const auto i = drawn()->nearest(at, picture_->frame(), picture_->lettering()))
            choose(*i);
    });
    connect(table_, &Table::row_chosen, this,
            [this](int row) { choose(shown_[static_cast<std::size_t>(row)]); });
    connect(build_, &QPushButton::clicked, this, [this] {
        if (!choices_ || chosen_ >= choices_->all.size()) return;
        const plan::Choice& c = choices_->all[chosen_];
        if (auto ok = context_.session.edit(tr("Build it so: %1").arg(changes_of(c)),
                                            plan::take_choice(context_.session.parts(), c));
            !ok)
            said_->setText(words(ok.error()));
    });
}

std::shared_ptr<const ChoicesDrawing> OptionsSheet::drawn() const {
    return std::make_shared<const ChoicesDrawing>(
        choices_, ChoicesDrawing::Shown{shown_, static_cast<plan::Axis>(across_->currentIndex()),
                                        static_cast<plan::Axis>(up_->currentIndex()), chosen_});
}

void OptionsSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    work_->setEnabled(!plan->trouble);
    if (!worked_) {
        said_->setText(plan->trouble ? words(*plan->trouble) : QString());
        return;
    }
    if (worked_->whole == plan->whole) return;
    // What was worked out is of the job as it was: it stays to be read, not to be built.
    context_.session.asking().stop<plan::WaysToBuild>(this);
    build_->setEnabled(false);
    if (choices_) said_->setText(tr("Worked out before the last edit: work them out anew."));
}

void OptionsSheet::work() {
    if (context_.session.asking().is_waiting<plan::WaysToBuild>(this)) {
        context_.session.asking().stop<plan::WaysToBuild>(this);
        return;
    }
    if (!plan_) return;
    worked_ = plan_;
    work_->setText(tr("Stop"));
    progress_->setValue(0);
    progress_->show();
    said_->clear();
    context_.session.ask(
        plan::WaysToBuild{}, this,
        [this](const plan::AnswerPtr<plan::WaysToBuild>& made) {
            work_->setText(tr("Work them out"));
            progress_->hide();
            if (!*made) {
                said_->setText(words(made->error()));
                return;
            }
            choices_ = {made, &**made};
            chosen_ = 0;
            list();
            fill(static_cast<QVBoxLayout*>(advice_->layout()));
        },
        [this](std::size_t done, std::size_t all) {
            progress_->setRange(0, static_cast<int>(all));
            progress_->setValue(static_cast<int>(done));
        });
}

void OptionsSheet::list() {
    if (!choices_) return;
    shown_.clear();
    std::size_t best = 0;
    for (std::size_t i = 0; i < choices_->all.size(); ++i) {
        const plan::Choice& c = choices_->all[i];
        best += c.best;
        if (c.fitted ||
            ((!best_->isChecked() || c.best) && (!few_->isChecked() || c.changes.size() <= 2)))
            shown_.push_back(i);
    }
    said_->setText((choices_->whole ? QString() : tr("Stopped before all were worked out. ")) +
                   tr("%1 options fit; %2 of them are better in something than every other; %3 "
                      "shown.")
                       .arg(choices_->all.size())
                       .arg(best)
                       .arg(shown_.size()));
    if (worked_ != plan_ && worked_->job != plan_->job)
        said_->setText(tr("Worked out before the last edit: work them out anew."));
    picture_->redraw();
    table_->refresh();
}

void OptionsSheet::fill(QVBoxLayout* into) {
    while (QLayoutItem* item = into->takeAt(0)) {
        if (item->widget()) item->widget()->deleteLater();
        delete item;
    }
    auto say = [&](const QString& text, const char* role) {
        auto* l = label(text, role, advice_);
        l->setWordWrap(true);
        into->addWidget(l);
    };
    if (!choices_->reach.empty()) {
        say(tr("To reach %1").arg(words(duration(choices_->wanted))), "heading");
        for (const plan::Reach& r : choices_->reach) {
            const QString text = tr("%1: %2").arg(words(r.text), words(duration(r.clean)));
            if (!r.edit) {
                say(text, "second");
                continue;
            }
            auto* link = new LinkButton(text, context_.appearance, advice_);
            link->setObjectName("reachLink");
            into->addWidget(link);
            connect(link, &QAbstractButton::clicked, this, [this, edit = *r.edit, what = r.text] {
                if (worked_->whole == context_.session.job_ptr())
                    context_.session.change(words(what), edit);
            });
        }
    } else if (choices_->wanted > Minute(0)) {
        say(tr("The %1 clean that were asked for are reached.")
                .arg(words(duration(choices_->wanted))),
            "second");
    }
    if (!choices_->gives_up.empty()) {
        say(tr("What it gives up as it is built"), "heading");
        for (const auto& g : choices_->gives_up) {
            auto* link = new LinkButton(words(g.text), context_.appearance, advice_);
            link->setObjectName("givesUpLink");
            into->addWidget(link);
            connect(link, &QAbstractButton::clicked, this, [this, i = g.choice] { choose(i); });
        }
    }
    into->addStretch();
}

void OptionsSheet::choose(std::size_t choice) {
    if (!choices_ || choice >= choices_->all.size()) return;
    chosen_ = choice;
    picture_->redraw();
    const plan::Choice& c = choices_->all[choice];
    build_->setEnabled(!c.fitted && worked_->whole == context_.session.job_ptr());
    const auto it = std::find(shown_.begin(), shown_.end(), choice);
    if (it == shown_.end()) return;
    if (const int row = static_cast<int>(it - shown_.begin()); row != table_->chosen())
        table_->choose(row);
}

} // namespace conductus::app
