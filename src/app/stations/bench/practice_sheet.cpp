// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/bench/practice_sheet.h"

#include <QComboBox>
#include <QCompleter>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>
#include <functional>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "app/stations/bench/points_fields.h"
#include "core/base/format.h"
#include "core/diagnose/words.h"
#include "files/cases_csv.h"
#include "files/disk.h"

namespace conductus::app {
PracticeSheet::PracticeSheet(const PageContext& context, BenchWork& work, QWidget* parent)
    : StationPage(context, parent), work_(work) {
    setObjectName("backdropPage");
    auto [sheet, column] =
        paper(tr("Practice"), tr("nothing of it touches the job's readings"), this);
    const auto combo = [&](const char* object, const QString& name, bool typed, double letters) {
        auto* c = new QComboBox(sheet);
        c->setObjectName(object);
        c->setAccessibleName(name);
        c->setEditable(typed);
        c->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        keep_least_width(c, context_.appearance, letters);
        return c;
    };
    const auto button = [&](const char* object, const QString& title) {
        auto* b = new QPushButton(title, sheet);
        b->setObjectName(object);
        return b;
    };
    level_ = combo("practiceLevel", tr("Level"), false, 18);
    level_->addItems({tr("1: one fault, always there"), tr("2: it may come and go"),
                      tr("3: two faults"), tr("4: two that come and go")});
    seed_ = new QSpinBox(sheet);
    seed_->setObjectName("practiceSeed");
    seed_->setAccessibleName(tr("Number of the case"));
    seed_->setRange(0, 999999);
    seed_->setButtonSymbols(QAbstractSpinBox::NoButtons);
    seed_->setValue(1);
    auto* begin_it = button("practiceBegin", tr("Begin the case"));
    auto* another = button("practiceNext", tr("Another"));
    list_ = combo("practiceList", tr("A teacher's list"), false, 20);
    in_list_ = grouped(tr("of the list"), list_, {}, sheet);
    auto* lists = button("practiceLists", tr("Lists"));
    auto* cases = new FlowLayout(10, 4);
    cases->addWidget(grouped(tr("level"), level_, {}, sheet));
    cases->addWidget(grouped(tr("case"), seed_, {}, sheet));
    for (QWidget* w : {static_cast<QWidget*>(begin_it), static_cast<QWidget*>(another),
                       static_cast<QWidget*>(lists), in_list_})
        cases->addWidget(w);
    column->addLayout(cases);
    seen_ = label({}, "heading", sheet);
    seen_->setObjectName("practiceSeen");
    seen_->setWordWrap(true);
    column->addWidget(seen_);
    points_ = new PointsFields("practice", context_.appearance, sheet);
    supply_ = combo("practiceSupply", tr("What feeds it"), false, 9);
    supply_->addItems({tr("its cell"), tr("a supply limited to 0.5 A")});
    measure_ = button("practiceMeasure", tr("Measure"));
    points_->add(grouped(tr("fed by"), supply_, {}, sheet));
    points_->add(measure_);
    named_ = combo("practiceNamed", tr("What it is"), true, 22);
    named_->setInsertPolicy(QComboBox::NoInsert);
    mend_ = button("practiceMend", tr("It is this: mend it"));
    points_->add(grouped(tr("it is"), named_, {}, sheet));
    points_->add(mend_);
    column->addWidget(points_);
    said_ = label({}, "", sheet);
    said_->setObjectName("practiceSaid");
    score_ = label({}, "", sheet);
    score_->setObjectName("practiceScore");
    for (QLabel* l : {said_, score_}) {
        l->setWordWrap(true);
        column->addWidget(l);
    }
    const auto taken = [this](int row) -> const diagnose::Exercise::Taken* {
        const auto r = static_cast<std::size_t>(row);
        return exercise_ && row >= 0 && r < exercise_->taken().size() ? &exercise_->taken()[r]
                                                                      : nullptr;
    };
    taken_ = new Table(
        {.object = "practiceTaken",
         .name = tr("What was measured"),
         .columns = {figures(tr("no."), [](int row) { return CellText(QString::number(row + 1)); }),
                     reading(tr("where"),
                             [this, taken](int row) {
                                 const auto* t = taken(row);
                                 return t ? CellText(words(diagnose::words_of(
                                                exercise_->finder().world().job(), t->measure,
                                                t->turned)))
                                          : CellText();
                             }),
                     reading(tr("state"),
                             [this, taken](int row) {
                                 const auto* t = taken(row);
                                 return t ? CellText(words(diagnose::state_words(
                                                exercise_->finder().world(), t->measure.state)))
                                          : CellText();
                             }),
                     figures(tr("read"),
                             [taken](int row) {
                                 const auto* t = taken(row);
                                 if (!t) return CellText();
                                 if (!t->stopped.empty())
                                     return CellText(tr("■ stopped"), words(t->stopped),
                                                     CellInk::stop);
                                 return t->value ? CellText(words(diagnose::value_words(
                                                       t->measure.what, *t->value)))
                                                 : CellText(tr("nothing"), CellInk::second);
                             }),
                     figures(tr("min"),
                             [taken](int row) {
                                 const auto* t = taken(row);
                                 return t ? CellText(words(decimals(t->minutes, 1))) : CellText();
                             }),
                     reading(tr("was it worth it?"),
                             [this, taken](int row) {
                                 const auto* t = taken(row);
                                 if (!t || !over_) return CellText();
                                 if (!t->stopped.empty() || !t->value)
                                     return CellText(tr("it told nothing"), CellInk::second);
                                 if (t->limited && t->measure.what != job::Reads::ohms)
                                     return CellText(tr("safe, and told little"), CellInk::second);
                                 const QString told = t->bits > 0.3 ? tr("it told much: %1 bits")
                                                      : t->bits > 0.05
                                                          ? tr("it told a little: %1 bits")
                                                          : tr("it told nothing: %1 bits");
                                 return CellText(told.arg(words(decimals(t->bits, 2))),
                                                 t->bits > 0.3 ? CellInk::fine : CellInk::second);
                             })},
         .rows = {[this] { return exercise_ ? static_cast<int>(exercise_->taken().size()) : 0; }},
         .wide = 1,
         .dense = true,
         .empty = tr("Begin a case: what is seen is told, and you choose what to measure.")},
        context.appearance, sheet);
    column->addWidget(taken_, 1);
    progress_ = label({}, "second", sheet);
    progress_->setObjectName("practiceProgress");
    progress_->setWordWrap(true);
    column->addWidget(progress_);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);

    connect(begin_it, &QPushButton::clicked, this, [this] {
        begin(level_->currentIndex() + 1, static_cast<unsigned long long>(seed_->value()));
    });
    connect(another, &QPushButton::clicked, this, [this] {
        seed_->setValue(seed_->value() + 1);
        begin(level_->currentIndex() + 1, static_cast<unsigned long long>(seed_->value()));
    });
    connect(measure_, &QPushButton::clicked, this, &PracticeSheet::measure);
    connect(mend_, &QPushButton::clicked, this, &PracticeSheet::mend);
    connect(points_, &PointsFields::chosen, this, [this] {
        const diagnose::Measure m = points_->measure();
        std::vector<Probe> probes{{words(m.from), 1}};
        if (!m.to.empty()) probes.push_back({words(m.to), 2});
        context_.selection.put_probes(probes);
    });
    const auto dialog = [this](bool save) {
        return save
                   ? QFileDialog::getSaveFileName(window(), tr("Write a list of cases"),
                                                  QStringLiteral("cases.csv"), tr("Tables (*.csv)"),
                                                  nullptr, QFileDialog::DontUseNativeDialog)
                   : QFileDialog::getOpenFileName(window(), tr("Open a list of cases"), {},
                                                  tr("Tables (*.csv)"), nullptr,
                                                  QFileDialog::DontUseNativeDialog);
    };
    auto* menu = new QMenu(lists);
    const auto item = [&](const char* object, const QString& text, std::function<void()> does) {
        QAction* action = menu->addAction(text, this, std::move(does));
        action->setObjectName(object);
    };
    item("practiceOpenList", tr("Open a list…"), [this, dialog] {
        if (const QString path = dialog(false); !path.isEmpty()) read_list(path);
    });
    item("practiceAddToList", tr("Add this case to the list"), [this] {
        cases_.push_back({context_.session.job().name,
                          level_->currentIndex() + 1,
                          static_cast<unsigned long long>(seed_->value()),
                          {}});
        refresh();
        list_->setCurrentIndex(list_->count() - 1);
    });
    item("practiceWriteList", tr("Write the list…"), [this, dialog] {
        if (const QString path = dialog(true); !path.isEmpty()) write_list(path);
    });
    lists->setMenu(menu);
    connect(list_, &QComboBox::activated, this, [this](int index) {
        const auto i = static_cast<std::size_t>(index);
        if (index < 0 || i >= cases_.size()) return;
        if (cases_[i].job != context_.session.job().name)
            return said_->setText(
                tr("That case is of the job %1: open it first.").arg(words(cases_[i].job)));
        level_->setCurrentIndex(cases_[i].level - 1);
        seed_->setValue(static_cast<int>(cases_[i].seed));
        begin(cases_[i].level, cases_[i].seed);
    });
    connect(&work, &BenchWork::bench_changed, this, &PracticeSheet::refresh);
}

void PracticeSheet::begin(int level, unsigned long long seed) {
    if (!work_.bench()) return;
    level_now_ = level, seed_now_ = seed, over_ = false;
    level_->setCurrentIndex(level - 1);
    seed_->setValue(static_cast<int>(seed));
    exercise_ = std::make_unique<diagnose::Exercise>(*work_.bench()->finder, level, seed);
    // What there is to measure and to name is the case's own, whatever becomes of the job
    // meanwhile.
    points_->fill(exercise_->finder().candidates());
    named_->clear();
    const auto& faults = exercise_->finder().faults();
    for (std::size_t f = 0; f < faults.size(); ++f)
        named_->addItem(words(faults[f].says), static_cast<int>(f));
    named_->completer()->setFilterMode(Qt::MatchContains);
    named_->completer()->setCompletionMode(QCompleter::PopupCompletion);
    said_->setText(tr("Choose what to measure, then name what it is."));
    score_->clear();
    refresh();
}

void PracticeSheet::measure() {
    if (!exercise_ || over_) return;
    const auto& t =
        exercise_->measure(points_->measure(), points_->turned(), supply_->currentIndex() == 1);
    said_->setText(
        !t.stopped.empty() ? tr("■ Stopped: %1.").arg(words(t.stopped))
        : t.value ? tr("It reads %1.").arg(words(diagnose::value_words(t.measure.what, *t.value)))
                  : tr("Nothing can be read there in that state."));
    refresh();
}

void PracticeSheet::mend() {
    if (!exercise_ || over_) return;
    const int index = named_->findText(named_->currentText());
    if (index < 0) return said_->setText(tr("Choose one of the faults in the list."));
    const auto fault = static_cast<std::size_t>(named_->itemData(index).toInt());
    const auto& says = exercise_->finder().faults()[fault].says;
    if (!exercise_->mend(fault))
        said_->setText(tr("That was not it: %1 was sound. Three minutes are gone.")
                           .arg(words(exercise_->finder().faults()[fault].where)));
    else if (exercise_->solved())
        return end();
    else
        said_->setText(tr("Mended: %1. Something is left.").arg(words(says)));
    refresh();
}

void PracticeSheet::end() {
    over_ = true;
    QStringList hidden;
    for (const std::size_t f : exercise_->hidden())
        hidden << words(exercise_->finder().faults()[f].says);
    said_->setText(tr("It was: %1.").arg(hidden.join(tr(", and "))));
    score_->setText(
        tr("%1 min; the finder is being asked …").arg(words(decimals(exercise_->minutes(), 1))));
    refresh();
    context_.session.ask(
        plan::CasePlayed{work_.answer(), level_now_, seed_now_}, this,
        [this](const plan::AnswerPtr<plan::CasePlayed>& answer) {
            if (!*answer || !exercise_ || !over_) return;
            const diagnose::Played& finder = **answer;
            QStringList way;
            for (const diagnose::Reading& r : finder.readings)
                way << words(
                    diagnose::words_of(exercise_->finder().world().job(), r.measure, r.turned));
            score_->setText((exercise_->right()
                                 ? tr("✓ Right, in %1 min; the finder took %2 min: %3.")
                                 : tr("◆ In the end, in %1 min; the finder took %2 min: %3."))
                                .arg(words(decimals(exercise_->minutes(), 1)),
                                     words(decimals(finder.minutes, 1)), way.join(tr(", then "))));
            context_.session.change(
                tr("Practise a case"),
                diagnose::keep_practised({static_cast<double>(seed_now_), level_now_,
                                          exercise_->right(), exercise_->minutes(), finder.minutes,
                                          today()}));
        });
}

void PracticeSheet::read_list(const QString& path) {
    const auto text = files::read_text(path.toStdString());
    auto read = text ? files::read_cases_csv(*text, QFileInfo(path).fileName().toStdString())
                     : tl::unexpected(text.error());
    if (!read) return said_->setText(words(read.error()));
    cases_ = std::move(*read);
    refresh();
}

void PracticeSheet::write_list(const QString& path) {
    if (auto ok =
            files::write_output(path_of(path), files::cases_csv(cases_), files::Content::text);
        !ok)
        said_->setText(words(ok.error()));
}

void PracticeSheet::refresh() {
    QStringList listed;
    for (const diagnose::ListedCase& c : cases_)
        listed << tr("%1, level %2, case %3%4")
                      .arg(words(c.job))
                      .arg(c.level)
                      .arg(c.seed)
                      .arg(c.note.empty() ? QString() : QStringLiteral(": ") + words(c.note));
    QStringList shown;
    for (int i = 0; i < list_->count(); ++i)
        shown << list_->itemText(i);
    if (shown != listed) {
        list_->clear();
        list_->addItems(listed);
    }
    in_list_->setVisible(!listed.isEmpty());
    score_->setVisible(!score_->text().isEmpty());
    if (exercise_) {
        QStringList seen;
        if (!over_)
            for (const diagnose::Sight& s : exercise_->seen())
                seen << words(diagnose::told(s));
        seen_->setText(over_ ? tr("It works again.")
                             : tr("Level %1, case %2. Seen and heard: %3. So far %4 min.")
                                   .arg(level_now_)
                                   .arg(seed_now_)
                                   .arg(seen.join(QStringLiteral("; ")),
                                        words(decimals(exercise_->minutes(), 1))));
    } else {
        seen_->setText(work_.bench()               ? tr("No case was begun.")
                       : work_.trouble().isEmpty() ? tr("It is being worked out …")
                                                   : work_.trouble());
    }
    measure_->setEnabled(exercise_ && !over_);
    mend_->setEnabled(exercise_ && !over_);
    const auto& practised = context_.session.job().bench.practised;
    int right = 0;
    double took = 0, best = 0;
    for (const job::Practised& p : practised)
        right += p.right, took += p.minutes, best += p.finder;
    progress_->setText(practised.empty()
                           ? tr("No case of this job was practised yet.")
                           : counted(static_cast<int>(practised.size()), tr("Practised %1 case"),
                                     tr("Practised %1 cases")) +
                                 tr(": %1 right, %2 min where the finder takes %3.")
                                     .arg(right)
                                     .arg(words(decimals(took, 0)), words(decimals(best, 0))));
    taken_->refresh();
}

void PracticeSheet::show_job() { refresh(); }
void PracticeSheet::show_plan(const PlanPtr& plan) {
    work_.follow(plan);
    refresh();
}

} // namespace conductus::app
