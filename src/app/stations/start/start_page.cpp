// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/start/start_page.h"

#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QVBoxLayout>

#include "app/session/words.h"
#include "core/base/parse.h"
#include "core/catalogue/kinds.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

template <class T>
constexpr std::size_t kind_index() {
    return catalogue::Figures(T{}).index();
}

/// As much of a name as a narrow column takes.
QString shortened(const QString& text) {
    constexpr qsizetype most = 24;
    return text.size() > most ? text.left(most - 1).trimmed() + QChar(0x2026) : text;
}

constexpr auto& occasions = job::Words<job::Occasion>::table;

QString figure_text(const std::vector<Explained>& figures, const char* id) {
    for (const Explained& e : figures)
        if (e.id == id && e.value)
            return e.unit == "min" ? words(duration(Minute(*e.value)))
                                   : words(with_unit(*e.value, e.unit));
    return QStringLiteral("–");
}

} // namespace

StartPage::StartPage(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [left, column] = paper(tr("What is in hand"), {}, this);
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(10);
    grid->setVerticalSpacing(3);
    grid->setColumnStretch(2, 1);
    column->addLayout(grid);
    using S = plan::Start;
    add_length(grid, "length", tr("length of the hilt"), &S::length, tr("survey it later"), {});
    add_length(grid, "bore", tr("bore"), &S::bore, tr("survey it later"), {});
    add_length(grid, "blade", tr("blade, length"), &S::blade, tr("usual: 813 mm"),
               {610, 711, 813, 914});
    add_length(grid, "blade_outer", tr("blade, diameter"), &S::blade_outer, tr("usual: 25.4 mm"),
               {22.2, 25.4});
    add_count(grid, "strips", tr("strips in it"), &S::strips, 4, tr("none yet"));
    add_part(grid, "strip", tr("pixels"), &S::strip, kind_index<catalogue::Strip>());
    add_part(grid, "cell", tr("cell"), &S::cell, kind_index<catalogue::Cell>());
    add_part(grid, "board", tr("sound board"), &S::board, kind_index<catalogue::Board>());
    add_part(grid, "speaker", tr("speaker"), &S::speaker, kind_index<catalogue::Speaker>());
    add_part(grid, "kill", tr("kill"), &S::kill, kind_index<catalogue::Kill>());
    add_part(grid, "connector", tr("hilt connector"), &S::connector,
             kind_index<catalogue::Connector>());
    add_count(grid, "buttons", tr("buttons"), &S::buttons, plan::most_buttons, tr("none yet"));

    auto* use = new QComboBox(left);
    use->addItem(QString(), 0);
    for (std::size_t i = 1; i < occasions.size(); ++i)
        use->addItem(term(occasions[i].second), static_cast<int>(i));
    Line& line = add_line(grid, "occasion", tr("what it is for"), use);
    line.combo = use;
    connect(use, &QComboBox::activated, this, [this](int index) {
        start_.occasion.reset();
        if (index > 0) start_.occasion = static_cast<job::Occasion>(index);
        changed();
    });
    line.usual = [](S& s) { s.occasion.reset(); };
    line.choices = [this] {
        std::vector<S> all;
        for (std::size_t i = 1; i < occasions.size(); ++i)
            all.push_back(start_), all.back().occasion = static_cast<job::Occasion>(i);
        return all;
    };

    make_ = new QPushButton(tr("Make the job"), left);
    make_->setObjectName("startMake");
    make_->setToolTip(tr("Ctrl+Enter"));
    auto* skip = new QPushButton(tr("Type it all by hand"), left);
    skip->setObjectName("startSkip");
    said_ = label({}, "refused", left);
    said_->setObjectName("startSaid");
    said_->setWordWrap(true);
    said_->hide();
    auto* head = qobject_cast<QHBoxLayout*>(column->itemAt(0)->layout());
    head->addWidget(make_);
    head->addWidget(skip);
    column->addWidget(said_);
    column->addStretch();

    auto [right, right_column] = paper(tr("Instead"), {}, this);
    beside_ = label({}, "second", right);
    beside_->setObjectName("startBeside");
    beside_->setWordWrap(true);
    const auto outcome = [this](int r) -> const plan::StartsTried::Outcome* {
        const auto i = static_cast<std::size_t>(r);
        return outcomes_ && *outcomes_ && i < (*outcomes_)->size() ? &(**outcomes_)[i] : nullptr;
    };
    const auto figure = [outcome](const char* id) {
        return [outcome, id](int r) -> CellText {
            const auto* o = outcome(r);
            return o ? figure_text(o->figures, id) : QStringLiteral("…");
        };
    };
    table_ = new Table(
        {.object = "startChoices",
         .name = tr("What each choice would bring"),
         .columns = {reading(tr("choice"),
                             [this, outcome](int r) -> CellText {
                                 const auto* o = outcome(r);
                                 const bool bad = o && o->worst == findings::Severity::stop;
                                 const QString text = choice_text(
                                     choices_[static_cast<std::size_t>(r)], lines_[asked_]);
                                 const bool usual = text == lines_[asked_].usual_words;
                                 return {usual ? tr("%1 (usual)").arg(shortened(text))
                                               : shortened(text),
                                         text, bad ? CellInk::stop : CellInk::ink};
                             }),
                     figures(tr("crackle"), figure("first-crackle")),
                     figures(tr("tip"), figure("tip-brightness")),
                     figures(tr("room"), figure("tightest-fit")),
                     reading(tr("says"),
                             [outcome](int r) -> CellText {
                                 const auto* o = outcome(r);
                                 if (!o) return QString();
                                 if (!o->worst) return {tr("fine"), CellInk::fine};
                                 return {words(o->said), *o->worst == findings::Severity::stop
                                                             ? CellInk::stop
                                                             : CellInk::warn};
                             })},
         .rows = {[this] { return static_cast<int>(choices_.size()); },
                  [this](int r) {
                      return choice_text(choices_[static_cast<std::size_t>(r)], lines_[asked_]);
                  }},
         .wide = 4,
         .dense = true,
         .empty = tr("A length is typed as the calipers say it: 280, 28.4, 1 1/8 in.")},
        context.appearance, right);
    right_column->addWidget(beside_);
    table_->as_high_as_its_rows(14);
    right_column->addWidget(table_);
    right_column->addStretch();
    row_ = new QBoxLayout(QBoxLayout::LeftToRight, this);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(10);
    row_->addWidget(left, 12);
    row_->addWidget(right, 11);

    connect(make_, &QPushButton::clicked, this, &StartPage::make_it);
    connect(skip, &QPushButton::clicked, this, &StartPage::skipped);
    connect(table_, &Table::row_activated, this, &StartPage::take);
    // Nothing is asked before the blank job itself was looked at.
    connect(&context.session, &Session::figures_changed, this, [this] {
        if (isVisible() && !outcomes_) ask_choices();
    });
    for (const Line& l : lines_)
        (l.field ? static_cast<QWidget*>(l.field->line()) : l.combo)->installEventFilter(this);
    setFocusProxy(lines_.front().field->line());
    show_usual();
}

StartPage::Line& StartPage::add_line(QGridLayout* grid, const char* member, const QString& name,
                                     QWidget* widget) {
    const int row = grid->rowCount();
    auto* title = label(name, "", this);
    title->setBuddy(widget);
    widget->setObjectName(QStringLiteral("start_") + member);
    widget->setAccessibleName(name);
    keep_width(widget, context_.appearance, 19);
    auto* comes = label({}, "second", this);
    comes->setObjectName(QStringLiteral("comes_") + member);
    comes->setMinimumWidth(10);
    grid->addWidget(title, row, 0);
    grid->addWidget(widget, row, 1);
    grid->addWidget(comes, row, 2);
    Line& line = lines_.emplace_back();
    line.member = member, line.name = name, line.comes = comes;
    return line;
}

void StartPage::add_length(QGridLayout* grid, const char* member, const QString& name,
                           std::optional<Millimetre> plan::Start::*value, const QString& empty,
                           std::vector<double> usual_mm) {
    auto* field = new EntryField(
        name,
        [this, value, member = std::string(member)](const QString& typed) -> Result<void> {
            std::optional<Millimetre> length;
            if (!typed.trimmed().isEmpty()) {
                const auto read = parse_length(typed.toStdString());
                if (!read) return tl::unexpected(read.error());
                length = *read;
            }
            plan::Start tried = start_;
            tried.*value = length;
            // That the other reading of the hilt is still missing is no mistake of this one.
            plan::Start alone = tried;
            if (alone.length.has_value() != alone.bore.has_value()) {
                if (!alone.length) alone.length = Millimetre(280);
                if (!alone.bore) alone.bore = Millimetre(28);
            }
            if (auto ok = plan::check_start(alone, context_.session.parts()); !ok) {
                Problem problem = ok.error();
                problem.where.clear();
                return tl::unexpected(std::move(problem));
            }
            start_ = std::move(tried);
            for (const Line& l : lines_)
                if (l.member == member) l.field->show_value(length ? words(*length) : QString());
            changed();
            return {};
        },
        this);
    field->line()->setPlaceholderText(empty);
    Line& line = add_line(grid, member, name, field);
    field->line()->setObjectName(QStringLiteral("start_%1_typed").arg(member));
    line.field = field;
    line.usual = [value](plan::Start& s) { (s.*value).reset(); };
    line.choices = [this, value, usual_mm = std::move(usual_mm)] {
        std::vector<plan::Start> all;
        for (const double mm : usual_mm)
            all.push_back(start_), all.back().*value = Millimetre(mm);
        return all;
    };
}

void StartPage::add_count(QGridLayout* grid, const char* member, const QString& name,
                          std::optional<int> plan::Start::*value, int most, const QString& none) {
    auto* combo = new QComboBox(this);
    combo->addItem(QString());
    for (int n = 1; n <= most; ++n)
        combo->addItem(QString::number(n), n);
    combo->addItem(none, 0);
    Line& line = add_line(grid, member, name, combo);
    line.combo = combo;
    connect(combo, &QComboBox::activated, this, [this, combo, value](int index) {
        (start_.*value).reset();
        if (index > 0) start_.*value = combo->itemData(index).toInt();
        changed();
    });
    line.usual = [value](plan::Start& s) { (s.*value).reset(); };
    line.choices = [this, value, most] {
        std::vector<plan::Start> all;
        for (int n = 1; n <= most; ++n)
            all.push_back(start_), all.back().*value = n;
        return all;
    };
}

void StartPage::add_part(QGridLayout* grid, const char* member, const QString& name,
                         std::string plan::Start::*value, std::size_t kind) {
    auto* combo = new QComboBox(this);
    combo->addItem(QString());
    const catalogue::Catalogue& parts = context_.session.parts();
    std::vector<std::string> ids;
    for (const std::string& id : parts.ids())
        if (parts.find(id)->figures.index() == kind) ids.push_back(id);
    for (const std::string& id : ids)
        combo->addItem(words(parts.find(id)->name), words(id));
    combo->addItem(tr("later"), QString(plan::Start::later));
    Line& line = add_line(grid, member, name, combo);
    line.combo = combo;
    connect(combo, &QComboBox::activated, this, [this, combo, value](int index) {
        start_.*value = index > 0 ? combo->itemData(index).toString().toStdString() : "";
        changed();
    });
    line.usual = [value](plan::Start& s) { (s.*value).clear(); };
    line.choices = [this, value, ids = std::move(ids)] {
        std::vector<plan::Start> all;
        for (const std::string& id : ids)
            all.push_back(start_), all.back().*value = id;
        return all;
    };
}

QString StartPage::choice_text(const plan::Start& s, const Line& line) const {
    const catalogue::Catalogue& parts = context_.session.parts();
    const auto part = [&](const std::string& id) {
        const auto* type = parts.find(id);
        return type ? words(type->name) : tr("later");
    };
    const std::string& m = line.member;
    if (m == "length") return s.length ? words(*s.length) : tr("survey it later");
    if (m == "bore") return s.bore ? words(*s.bore) : tr("survey it later");
    if (m == "blade") return s.blade ? words(*s.blade) : QString();
    if (m == "blade_outer") return s.blade_outer ? words(*s.blade_outer) : QString();
    if (m == "strips") return s.strips ? QString::number(*s.strips) : QString();
    if (m == "buttons") return s.buttons ? QString::number(*s.buttons) : QString();
    if (m == "occasion") return s.occasion ? term(job::word(*s.occasion)) : QString();
    if (m == "strip") return part(s.strip);
    if (m == "cell") return part(s.cell);
    if (m == "board") return part(s.board);
    if (m == "speaker") return part(s.speaker);
    if (m == "kill") return part(s.kill);
    return part(s.connector);
}

void StartPage::show_usual() {
    for (Line& line : lines_) {
        plan::Start without = start_;
        line.usual(without);
        const plan::Start all = plan::decided(
            plan::with_the_brief(without, context_.session.job().brief), context_.session.parts());
        const QString usual = choice_text(all, line);
        line.usual_words = usual;
        if (!line.combo) continue;
        line.combo->setItemText(0, tr("usual: %1").arg(shortened(usual)));
        line.combo->setToolTip(line.combo->currentIndex() > 0 ? line.combo->currentText() : usual);
    }
}

void StartPage::changed() {
    show_usual();
    QString refused;
    if (const auto ok = plan::check_start(start_, context_.session.parts()); !ok) {
        for (const Line& line : lines_)
            if (line.member == ok.error().where) refused = words(ok.error().what);
        // One reading of the hilt without the other: the rest is shown without a survey.
        plan::Start rest = start_;
        rest.length.reset(), rest.bore.reset();
        (void)context_.session.preview(plan::begin_job(rest, context_.session.parts()));
    } else if (const auto shown =
                   context_.session.preview(plan::begin_job(start_, context_.session.parts()));
               !shown) {
        refused = words(shown.error());
    }
    said_->setText(refused);
    said_->setVisible(!refused.isEmpty());
    ask_choices();
}

void StartPage::ask_choices() {
    const Line& line = lines_[asked_];
    choices_ = line.choices ? line.choices() : std::vector<plan::Start>{};
    outcomes_.reset();
    table_->refresh();
    beside_->setText(choices_.empty()
                         ? QString()
                         : tr("%1: what each choice would bring; Enter takes it").arg(line.name));
    beside_->setVisible(!choices_.empty());
    if (choices_.empty()) return;
    context_.session.ask(plan::StartsTried{choices_}, this, [this](const StartsPtr& outcomes) {
        outcomes_ = outcomes;
        table_->refresh();
    });
}

void StartPage::take(int row) {
    if (row < 0 || row >= static_cast<int>(choices_.size())) return;
    start_ = choices_[static_cast<std::size_t>(row)];
    Line& line = lines_[asked_];
    const QString text = choice_text(start_, line);
    if (line.field) line.field->show_value(text);
    if (line.combo) line.combo->setCurrentIndex(line.combo->findText(text));
    changed();
}

void StartPage::begin_with(const job::Habits& habits) {
    habits_ = habits;
    if (!plan::is_blank(context_.session.job())) return;
    struct Usual {
        std::string plan::Start::*of;
        const std::string& id;
    };
    bool any = false;
    for (const auto& [of, id] : {Usual{&plan::Start::board, habits.board},
                                 {&plan::Start::cell, habits.cell},
                                 {&plan::Start::speaker, habits.speaker},
                                 {&plan::Start::kill, habits.kill},
                                 {&plan::Start::connector, habits.connector},
                                 {&plan::Start::strip, habits.strip}}) {
        if (id.empty() || !(start_.*of).empty() || !context_.session.parts().find(id)) continue;
        start_.*of = id;
        any = true;
    }
    if (!any) return;
    for (const Line& line : lines_)
        if (line.combo)
            line.combo->setCurrentIndex(
                std::max(0, line.combo->findText(choice_text(start_, line))));
    changed();
}

void StartPage::make_it() {
    // What is half typed is taken as leaving the field would take it.
    make_->setFocus(Qt::OtherFocusReason);
    for (const Line& line : lines_)
        if (line.field && !line.field->refusal().isEmpty()) {
            line.field->line()->setFocus(Qt::OtherFocusReason);
            return;
        }
    const auto ok = context_.session.edit(
        tr("Begin the job"),
        job::all_of({plan::begin_job(start_, context_.session.parts()), job::wire_as_usual(habits_),
                     job::pads_as_usual(habits_, context_.session.parts())}));
    if (ok) return emit made();
    said_->setText(words(ok.error()));
    said_->show();
    for (const Line& line : lines_)
        if (line.member == ok.error().where)
            (line.field ? static_cast<QWidget*>(line.field->line()) : line.combo)
                ->setFocus(Qt::OtherFocusReason);
}

QString StartPage::comes_of(const Line& line, const plan::Plan& plan) const {
    const auto figure = [&](const char* id) -> QString {
        const Explained* e = plan.figure(id);
        return e && e->value ? figure_text(plan.figures, id) : QString();
    };
    /// What a part of that kind carries where it carries most.
    const auto carries = [&](const char* stem, std::optional<Ampere> rated) -> QString {
        Ampere most;
        for (const auto* views : {&plan.looks, &plan.effects})
            for (const plan::LookPlan& look : *views)
                for (const plan::PartAmps& a : look.views[plan::full].part_amps)
                    if (a.ref == std::string(stem) + "1") most = std::max(most, a.amps);
        if (most <= Ampere(0)) return {};
        return rated ? tr("carries %1 of %2").arg(words(text(most)), words(text(*rated)))
                     : tr("carries %1").arg(words(text(most)));
    };
    const auto type_of = [&](const char* ref) -> const catalogue::PartType* {
        const job::Part* part = job::find_ref(plan.job->parts, ref);
        return part ? plan.parts->find(part->type) : nullptr;
    };
    const std::string& m = line.member;
    if (m == "length" && !plan.job->hilt.sections.empty()) {
        Millimetre used;
        for (const hilt::PlacedBody& b : plan.fit.bodies)
            if (b.in_bore) used += b.to - b.from;
        return tr("parts take %1 of it").arg(words(used));
    }
    if (m == "bore" && !figure("tightest-fit").isEmpty())
        return tr("%1 spare: %2")
            .arg(figure("tightest-fit"), words(plan.figure("tightest-fit")->label));
    if (m == "blade" && !plan.job->blades.empty() && !plan.job->blades[0].strips.empty())
        return tr("%1 pixels a strip").arg(plan.job->blades[0].strips[0].pixels);
    if (m == "blade_outer" && plan.hilt_report.socket)
        return tr("seat holds for: %1").arg(term(hilt::word(plan.hilt_report.socket->holds)));
    if (m == "strips" && !figure("peak-current").isEmpty())
        return tr("%1 at the peak").arg(figure("peak-current"));
    if (m == "strip" && !figure("tip-brightness").isEmpty())
        return tr("tip at %1 of its foot").arg(figure("tip-brightness"));
    if (m == "cell" && !figure("first-crackle").isEmpty())
        return tr("%1 to the first crackle").arg(figure("first-crackle"));
    if (m == "board")
        if (const auto* type = type_of("U1"))
            return carries("U", std::get<catalogue::Board>(type->figures).total_rating);
    if (m == "speaker")
        if (const auto* type = type_of("SP1")) return tr("%1 wide").arg(words(type->body.diameter));
    if (m == "kill")
        if (const auto* type = type_of("K1"))
            return carries("K", catalogue::rating_of(type->figures));
    if (m == "connector")
        if (const auto* type = type_of("P1")) {
            const auto& c = std::get<catalogue::Connector>(type->figures);
            return carries("P", c.pin_rating * std::min(c.plus_pins, c.minus_pins));
        }
    if (m == "buttons") return tr("%1 wires in all").arg(plan.job->wires.size());
    if (m == "occasion" && !figure("cells-per-day").isEmpty())
        return tr("%1 a day: %2 lit")
            .arg(figure("cells-per-day"), words(duration(plan.job->use.ignited)));
    return {};
}

void StartPage::show_preview(const PlanPtr& plan) {
    for (Line& line : lines_) {
        const QString comes = comes_of(line, *plan);
        line.comes->setText(comes);
        line.comes->setToolTip(comes);
    }
}

void StartPage::showEvent(QShowEvent* event) {
    StationPage::showEvent(event);
    changed();
}

void StartPage::hideEvent(QHideEvent* event) {
    context_.session.end_preview();
    StationPage::hideEvent(event);
}

void StartPage::resizeEvent(QResizeEvent* event) {
    StationPage::resizeEvent(event);
    const bool narrow = width() < context_.appearance.text() * 70;
    row_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

void StartPage::keyPressEvent(QKeyEvent* event) {
    const bool enter = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
    if (enter && event->modifiers().testFlag(Qt::ControlModifier)) return make_it();
    StationPage::keyPressEvent(event);
}

bool StartPage::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::FocusIn)
        for (std::size_t i = 0; i < lines_.size(); ++i)
            if (watched == lines_[i].combo ||
                (lines_[i].field && watched == lines_[i].field->line())) {
                if (asked_ == i) break;
                asked_ = i;
                ask_choices();
            }
    return StationPage::eventFilter(watched, event);
}

} // namespace conductus::app
