// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/bench/test_sheet.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/drawing/bench_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "app/stations/bench/meter_take.h"
#include "app/stations/bench/probed_faces_view.h"
#include "core/diagnose/words.h"

namespace conductus::app {
namespace {

using diagnose::TestStep;
using diagnose::Verdict;

enum Shown { all_steps, untried_steps, out_steps };

QString band_text(const TestStep& s) {
    if (s.what == job::Reads::seen) return TestSheet::tr("so it is");
    if (s.open()) return TestSheet::tr("open");
    if (s.what == job::Reads::pixels) return words(diagnose::value_words(s.what, s.expected));
    return TestSheet::tr("%1 to %2")
        .arg(words(diagnose::value_words(s.what, s.low)),
             words(diagnose::value_words(s.what, s.high)));
}

CellText verdict_text(Verdict v) {
    switch (v) {
    case Verdict::fine:
        return {TestSheet::tr("✓ fine"), CellInk::fine};
    case Verdict::edge:
        return {TestSheet::tr("◆ edge"), TestSheet::tr("At the edge of its band: read it again"),
                CellInk::warn};
    case Verdict::out:
        return {TestSheet::tr("■ out"), CellInk::stop};
    case Verdict::untried:
        break;
    }
    return {TestSheet::tr("untried"), CellInk::second};
}

} // namespace

TestSheet::TestSheet(const PageContext& context, BenchWork& work, QWidget* parent)
    : StationPage(context, parent), work_(work) {
    setObjectName("backdropPage");
    auto [sheet, column] = paper(tr("Test plan"), {}, this);
    shown_ = new QComboBox(sheet);
    shown_->setObjectName("testShown");
    shown_->setAccessibleName(tr("Which steps are shown"));
    shown_->addItems({tr("all steps"), tr("what is untried"), tr("what is out")});
    auto* take = new MeterTake(work, "testTake", tr("Take what the meter reads"), sheet);
    sign_ = new QPushButton(tr("Sign it off"), sheet);
    sign_->setObjectName("testSign");
    auto* untry = new QPushButton(tr("Untry the step"), sheet);
    untry->setObjectName("testUntry");
    said_ = label({}, "second", sheet);
    said_->setObjectName("testSaid");
    said_->setWordWrap(true);
    auto* tools = new FlowLayout(10, 4);
    tools->addWidget(grouped(tr("show"), shown_, {}, sheet));
    for (QWidget* b :
         {static_cast<QWidget*>(take), static_cast<QWidget*>(untry), static_cast<QWidget*>(sign_)})
        tools->addWidget(b);
    column->addLayout(tools);
    column->addWidget(said_);
    const auto text = [this](auto of) {
        return [this, of](int row) {
            const TestStep* s = step(row);
            return s ? CellText(of(*s)) : CellText();
        };
    };
    Column stage = reading(tr("when"), [this](int row) {
        const TestStep *s = step(row), *above = row > 0 ? step(row - 1) : nullptr;
        if (!s) return CellText();
        return CellText(words(diagnose::words_of(s->stage)),
                        above && above->stage == s->stage ? CellInk::second : CellInk::ink);
    });
    Column read = figures(tr("read"), [this](int row) {
        const TestStep* s = step(row);
        const job::BenchTried* t = s ? diagnose::tried(context_.session.job().bench, *s) : nullptr;
        if (!t) return CellText();
        return CellText(t->read   ? words(diagnose::value_words(s->what, *t->read))
                        : t->fine ? tr("yes")
                                  : tr("no"));
    });
    read.edit = [this](int row, const std::string& typed) { return typed_in(row, typed); };
    Column band = reading(tr("band"), text([](const TestStep& s) { return band_text(s); }));
    band.picture = [this](QPainter& p, const QRectF& box, int row) {
        const TestStep* s = step(row);
        if (!s || s->what == job::Reads::seen) return;
        const job::BenchTried* t = diagnose::tried(context_.session.job().bench, *s);
        paint_band(p, box, *s, t ? t->read : std::nullopt, context_.appearance.inks());
    };
    table_ = new Table(
        {.object = "testPlan",
         .name = tr("Steps of the test plan"),
         .what = tr("Step"),
         .columns = {stage,
                     reading(tr("what"), text([](const TestStep& s) { return words(s.words); })),
                     reading(tr("state"), text([](const TestStep& s) { return words(s.state); })),
                     reading(tr("should be"), text([](const TestStep& s) { return band_text(s); })),
                     band, read,
                     reading(tr("so far"),
                             [this](int row) {
                                 const TestStep* s = step(row);
                                 return s ? verdict_text(
                                                diagnose::judged(*s, context_.session.job().bench))
                                          : CellText();
                             })},
         .rows = {[this] { return static_cast<int>(rows_.size()); },
                  [this](int row) {
                      const TestStep* s = step(row);
                      return s ? words(s->words) : QString();
                  }},
         .wide = 1,
         .dense = true,
         .main = true,
         .empty = tr("The plan stands here as soon as the board is wired to the cell."),
         .session = &context_.session},
        context_.appearance, sheet);
    for (const auto& [at, letters] : {std::pair{0, 5.6}, {2, 6.6}, {4, 6.0}, {5, 5.4}, {6, 5.2}})
        keep_column(table_, context_.appearance, at, letters);
    column->addWidget(table_, 1);
    column->addWidget(table_->refusal());
    what_for_ = label({}, "", sheet);
    what_for_->setObjectName("testFor");
    when_out_ = label({}, "second", sheet);
    when_out_->setObjectName("testWhenOut");
    face_ = new ProbedFacesView("testFace", context_, sheet);
    auto* says = new QVBoxLayout;
    for (QLabel* l : {what_for_, when_out_}) {
        l->setWordWrap(true);
        says->addWidget(l);
    }
    says->addStretch();
    auto* beside = new QHBoxLayout;
    beside->addLayout(says, 1);
    beside->addWidget(face_);
    column->addLayout(beside);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);
    connect(table_, &Table::row_chosen, this, &TestSheet::look_at);
    connect(shown_, &QComboBox::activated, this, &TestSheet::refresh);
    connect(take, &MeterTake::taken, this, &TestSheet::take_reading);
    connect(untry, &QPushButton::clicked, this, [this] {
        if (const TestStep* s = step(table_->chosen()))
            context_.session.change(tr("Untry a step"), diagnose::untry_step(*s));
    });
    connect(sign_, &QPushButton::clicked, this, [this] {
        if (work_.bench())
            context_.session.change(tr("Sign the test plan off"),
                                    diagnose::sign_off(work_.bench()->tests, today(), "shop"));
    });
    connect(&work, &BenchWork::bench_changed, this, &TestSheet::refresh);
}

const TestStep* TestSheet::step(int row) const {
    const auto r = static_cast<std::size_t>(row);
    if (!work_.bench() || row < 0 || r >= rows_.size()) return nullptr;
    const auto& steps = work_.bench()->tests.steps;
    return rows_[r] < steps.size() ? &steps[rows_[r]] : nullptr;
}

job::Edit TestSheet::typed_in(int row, const std::string& typed) const {
    const TestStep* s = step(row);
    if (!s) return {};
    if (typed.empty()) return diagnose::untry_step(*s);
    const auto value = diagnose::value_typed(s->what, typed);
    if (!value) return job::refused(value.error());
    if (s->what == job::Reads::seen)
        return diagnose::try_step(*s, std::nullopt, *value > 0.5, today());
    return diagnose::try_step(*s, *value, false, today());
}

void TestSheet::take_reading(double value) {
    const int row = table_->chosen();
    const TestStep* s = step(row);
    if (!s) return;
    if (s->what != work_.meter().measures())
        return said_->setText(
            tr("The meter reads %1, the step wants %2: choose the step again.")
                .arg(term(job::word(work_.meter().measures())), term(job::word(s->what))));
    context_.session.change(tr("Read a step"), diagnose::try_step(*s, value, false, today()));
    if (row + 1 < static_cast<int>(rows_.size())) {
        table_->choose(row + 1, 5);
        look_at(row + 1);
    }
}

void TestSheet::look_at(int row) {
    const TestStep* s = step(row);
    if (!s) {
        what_for_->clear();
        when_out_->clear();
        return context_.selection.put_probes({});
    }
    QStringList finds;
    for (const std::size_t f : s->finds)
        if (finds.size() < 4) finds << words(work_.bench()->finder->faults()[f].says);
    if (static_cast<int>(s->finds.size()) > finds.size())
        finds << tr("%1 more").arg(static_cast<int>(s->finds.size()) - finds.size());
    QString what_for = words(s->purpose);
    if (!finds.isEmpty())
        what_for += (what_for.isEmpty() ? QString() : QStringLiteral(". ")) +
                    tr("First to find: %1").arg(finds.join(QStringLiteral("; ")));
    what_for_->setText(what_for + QStringLiteral("."));
    const QString below = words(s->below), above = words(s->above);
    when_out_->setText(s->what == job::Reads::seen || below == above ? tr("If not: %1.").arg(below)
                       : s->open() ? tr("If it conducts: %1.").arg(below)
                                   : tr("If less: %1. If more: %2.").arg(below, above));
    if (s->what == job::Reads::seen || s->what == job::Reads::decibels) {
        context_.selection.put_probes({});
        if (!s->from.empty()) context_.selection.choose(words(s->from).section('.', 0, 0));
        return;
    }
    work_.put_probes(s->what, s->measured ? s->measured->state : s->state, s->from, s->to,
                     s->turned);
}

void TestSheet::refresh() {
    rows_.clear();
    const job::Bench& bench = context_.session.job().bench;
    std::size_t tried = 0, out = 0, edge = 0, all = 0;
    if (work_.bench()) {
        const auto& steps = work_.bench()->tests.steps;
        all = steps.size();
        for (std::size_t i = 0; i < steps.size(); ++i) {
            const Verdict v = diagnose::judged(steps[i], bench);
            tried += v != Verdict::untried, out += v == Verdict::out, edge += v == Verdict::edge;
            if (shown_->currentIndex() == all_steps ||
                (shown_->currentIndex() == untried_steps && v == Verdict::untried) ||
                (shown_->currentIndex() == out_steps && v == Verdict::out))
                rows_.push_back(i);
        }
    }
    table_->refresh();
    QString said;
    if (!work_.bench())
        said = work_.trouble().isEmpty() ? tr("The plan is being worked out …") : work_.trouble();
    else {
        said = tr("%1 of %2 steps tried, about %3 min in all")
                   .arg(tried)
                   .arg(all)
                   .arg(qRound(work_.bench()->tests.minutes));
        if (out) said += tr(", ■ %1 out: find the fault before you go on").arg(out);
        if (edge) said += tr(", ◆ %1 at the edge").arg(edge);
        if (!bench.signed_on.empty())
            said += bench.untried.empty()
                        ? tr(". Signed off on %1: everything was tried").arg(words(bench.signed_on))
                        : tr(". Signed off on %1; untried: %2")
                              .arg(words(bench.signed_on), words(bench.untried));
        said += QStringLiteral(".");
    }
    said_->setText(said);
    sign_->setEnabled(work_.bench() && tried > 0 && bench.signed_on.empty());
    look_at(table_->chosen());
}

void TestSheet::show_job() { refresh(); }
void TestSheet::show_plan(const PlanPtr& plan) {
    face_->show_plan(plan);
    work_.follow(plan);
    refresh();
}
void TestSheet::hideEvent(QHideEvent* event) {
    context_.selection.put_probes({});
    StationPage::hideEvent(event);
}
void TestSheet::resizeEvent(QResizeEvent* event) {
    // Where it is narrow the words of the step need the room of what says the same twice: the
    // stage, which the state tells, and the picture of the band beside its figures.
    const bool narrow = width() < context_.appearance.text() * 52;
    for (const int column : {0, 4})
        table_->setColumnHidden(column, narrow);
    StationPage::resizeEvent(event);
}

} // namespace conductus::app
