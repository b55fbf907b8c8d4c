// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/bench/find_sheet.h"

#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

#include "app/drawing/bench_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "app/stations/bench/meter_take.h"
#include "app/stations/bench/points_fields.h"
#include "app/stations/bench/probed_faces_view.h"
#include "core/base/format.h"
#include "core/diagnose/words.h"
#include "files/bench_csv.h"
#include "files/disk.h"

namespace conductus::app {
namespace {

using diagnose::Diagnosis;

} // namespace

FindSheet::FindSheet(const PageContext& context, BenchWork& work, QWidget* parent)
    : StationPage(context, parent), work_(work) {
    setObjectName("backdropPage");
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    row->addWidget(make_seen(this), 11);
    row->addWidget(make_may(this), 9);
    with_text_size(this, context.appearance, [this, row] {
        row->setDirection(context_.appearance.percent() >= 140 ? QBoxLayout::TopToBottom
                                                               : QBoxLayout::LeftToRight);
    });
    connect(&work, &BenchWork::bench_changed, this, [this] {
        if (work_.bench()) {
            QStringList looks{words(diagnose::by_itself)};
            for (const job::Look& l : context_.session.job().looks)
                looks << words(l.name);
            points_->fill(work_.bench()->finder->candidates(), looks);
        }
        refresh();
    });
    connect(&work, &BenchWork::diagnosis_changed, this, [this] {
        chosen_may_ = 0;
        by_hand_ = false;
        refresh();
        follow_next();
    });
}

QWidget* FindSheet::make_seen(QWidget* parent) {
    auto [sheet, column] = paper(tr("What was seen and read"), {}, parent);
    symptoms_ = new QWidget(sheet);
    symptoms_->setObjectName("symptoms");
    symptoms_->setLayout(new FlowLayout(6, 4));
    symptom_ = new QComboBox(sheet);
    symptom_->setObjectName("symptomToTell");
    symptom_->setAccessibleName(tr("Another symptom"));
    symptom_->setEditable(true);
    symptom_->setInsertPolicy(QComboBox::NoInsert);
    keep_least_width(symptom_, context_.appearance, 15);
    auto* tell = new QPushButton(tr("Tell it"), sheet);
    tell->setObjectName("symptomTell");
    auto* line = new FlowLayout(8, 4);
    line->addWidget(grouped(tr("it"), symptom_, {}, sheet));
    line->addWidget(tell);
    auto* read_table = new QPushButton(tr("Read a table…"), sheet);
    read_table->setObjectName("readingsTable");
    line->addWidget(read_table);
    column->addLayout(line);
    column->addWidget(symptoms_);
    auto* box = new QFrame(sheet);
    box->setObjectName("nextBox");
    box->setProperty("role", "offer");
    auto* next = new QVBoxLayout(box);
    next->setContentsMargins(10, 8, 10, 8);
    next->setSpacing(4);
    next_words_ = label({}, "heading", box);
    next_words_->setObjectName("nextWords");
    next_means_ = label({}, "second", box);
    next_means_->setObjectName("nextMeans");
    for (QLabel* l : {next_words_, next_means_})
        l->setWordWrap(true);
    next->addWidget(next_words_);
    points_ = new PointsFields("read", context_.appearance, box);
    value_ = new QLineEdit(box);
    value_->setObjectName("readValue");
    value_->setAccessibleName(tr("What the meter reads"));
    value_->installEventFilter(this);
    value_->setPlaceholderText(tr("reading, Enter"));
    keep_width(value_, context_.appearance, 9);
    points_->add(value_);
    auto* take = new MeterTake(work_, "readTake", tr("From the meter"), box);
    points_->add(take);
    next->addWidget(points_);
    refused_ = label({}, "refused", box);
    refused_->setObjectName("readRefused");
    refused_->setWordWrap(true);
    refused_->hide();
    next->addWidget(refused_);
    next->addWidget(next_means_);
    column->addWidget(box);
    bands_ = new DrawingView(
        "benchBands", tr("Readings against their bands"), context_.appearance,
        [this]() -> DrawingPtr {
            return work_.diagnosis() ? bands_drawing(work_.diagnosis(), chosen_reading_) : nullptr;
        },
        sheet);
    bands_->setMinimumHeight(qRound(context_.appearance.text() * 6));
    column->addWidget(bands_, 1);
    use_ = new QPushButton(tr("Use it as the part's value"), sheet);
    use_->setObjectName("readingUse");
    auto* drop = new QPushButton(tr("Take the reading back"), sheet);
    drop->setObjectName("readingDrop");
    auto* of_reading = new FlowLayout(8, 4);
    of_reading->addWidget(use_);
    of_reading->addWidget(drop);
    column->addLayout(of_reading);

    connect(tell, &QPushButton::clicked, this, [this] {
        const auto sight = diagnose::sight_named(symptom_->currentText().toStdString());
        const bool there =
            sight && work_.diagnosis() &&
            std::find(work_.diagnosis()->sights.begin(), work_.diagnosis()->sights.end(), *sight) !=
                work_.diagnosis()->sights.end();
        refused_->setVisible(!there);
        if (!there)
            return refused_->setText(tr("“%1” is no symptom of this hilt: choose one of the list.")
                                         .arg(symptom_->currentText()));
        context_.session.change(tr("Tell a symptom"), diagnose::tell_symptom(*sight));
    });
    connect(bands_, &DrawingView::pressed, this, [this](QPointF at) {
        const QString ref = bands_->ref_at(at);
        chosen_reading_ = ref.startsWith("reading ") ? ref.mid(8).toInt() : -1;
        refresh();
    });
    connect(bands_, &DrawingView::stepped, this, [this](int step) {
        const auto count = static_cast<int>(context_.session.job().bench.readings.size());
        if (count > 0) chosen_reading_ = (std::max(chosen_reading_, -1) + step + count) % count;
        refresh();
    });
    connect(drop, &QPushButton::clicked, this, [this] {
        const auto count = static_cast<int>(context_.session.job().bench.readings.size());
        const int which = chosen_reading_ >= 0 ? chosen_reading_ : count - 1;
        if (which >= 0)
            context_.session.change(tr("Take a reading back"),
                                    diagnose::drop_reading(static_cast<std::size_t>(which)));
    });
    connect(read_table, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getOpenFileName(window(), tr("Read a table of readings"),
                                                          {}, tr("Tables (*.csv)"), nullptr,
                                                          QFileDialog::DontUseNativeDialog);
        if (!path.isEmpty()) take_table(path);
    });
    connect(use_, &QPushButton::clicked, this, [this] {
        const auto& readings = context_.session.job().bench.readings;
        const auto which = static_cast<std::size_t>(std::max(
            0, chosen_reading_ >= 0 ? chosen_reading_ : static_cast<int>(readings.size()) - 1));
        if (!work_.bench() || which >= readings.size()) return;
        if (const auto found = diagnose::found_by(*work_.bench()->finder, readings[which]))
            context_.session.change(tr("Use a reading for %1").arg(words(found->ref)), found->take);
    });
    connect(points_, &PointsFields::touched, this, [this] { by_hand_ = true; });
    connect(points_, &PointsFields::chosen, this, [this] {
        by_hand_ = true;
        show_probes();
    });
    connect(value_, &QLineEdit::returnPressed, this, &FindSheet::enter);
    connect(take, &MeterTake::taken, this, [this](double value) {
        if (work_.meter().measures() == about().what)
            enter_value(value, work_.meter().identity().toStdString());
    });
    return sheet;
}

QWidget* FindSheet::make_may(QWidget* parent) {
    auto [sheet, column] = paper(tr("What it may be"), {}, parent);
    may_head_ = label({}, "second", sheet);
    may_head_->setObjectName("mayHead");
    may_head_->setWordWrap(true);
    column->addWidget(may_head_);
    may_ = new DrawingView(
        "benchMay", tr("What it may be, the likeliest first"), context_.appearance,
        [this]() -> DrawingPtr {
            return work_.diagnosis() && work_.diagnosis()->anything
                       ? may_drawing(work_.diagnosis(), chosen_may_)
                       : nullptr;
        },
        sheet);
    may_->setMinimumHeight(qRound(context_.appearance.text() * 7.4));
    column->addWidget(may_, 1);
    face_ = new ProbedFacesView("benchFace", context_, sheet);
    it_is_ = new QPushButton(tr("It is this one"), sheet);
    it_is_->setObjectName("itIsThis");
    clear_ = new QPushButton(tr("Begin anew"), sheet);
    clear_->setObjectName("benchClear");
    clear_->setToolTip(tr("Takes away what was told and read since the latest mend; undo brings it "
                          "back"));
    mend_words_ = label({}, "second", sheet);
    mend_words_->setObjectName("mendWords");
    mend_words_->setWordWrap(true);
    auto* tools = new FlowLayout(8, 4);
    tools->addWidget(it_is_);
    tools->addWidget(clear_);
    auto* named = new QVBoxLayout;
    named->addWidget(mend_words_);
    named->addLayout(tools);
    named->addStretch();
    auto* beside = new QHBoxLayout;
    beside->addLayout(named, 1);
    beside->addWidget(face_);
    column->addLayout(beside);
    const auto then = [this](int r) -> const Diagnosis::Then* {
        const auto i = static_cast<std::size_t>(r);
        return work_.diagnosis() && r >= 0 && i < work_.diagnosis()->next.size()
                   ? &work_.diagnosis()->next[i]
                   : nullptr;
    };
    Column bits = reading(tr("tells"), [then](int r) {
        const auto* t = then(r);
        return t ? CellText(tr("%1 bits").arg(words(decimals(t->bits, 2)))) : CellText();
    });
    bits.picture = [this, then](QPainter& p, const QRectF& area, int r) {
        const auto *t = then(r), *best = then(0);
        if (!t || !best) return;
        double most = 0;
        for (const auto& one : work_.diagnosis()->next)
            most = std::max(most, one.bits / one.minutes);
        p.fillRect(QRectF(area.left(), area.center().y() - area.height() * 0.22,
                          area.width() * t->bits / t->minutes / std::max(most, 1e-9),
                          area.height() * 0.44),
                   context_.appearance.inks().clean_pale);
    };
    others_ = new Table(
        {.object = "nextReadings",
         .name = tr("Readings that tell most for a minute"),
         .columns = {reading(tr("next, and others"),
                             [then](int r) {
                                 const auto* t = then(r);
                                 return t ? CellText(words(t->words)) : CellText();
                             }),
                     reading(tr("state"),
                             [then](int r) {
                                 const auto* t = then(r);
                                 return t ? CellText(words(t->state)) : CellText();
                             }),
                     bits,
                     figures(tr("min"),
                             [then](int r) {
                                 const auto* t = then(r);
                                 return t ? CellText(words(decimals(t->minutes, 1))) : CellText();
                             })},
         .rows = {[this] {
             const auto& d = work_.diagnosis();
             return d && d->anything ? static_cast<int>(d->next.size()) : 0;
         }},
         .wide = 0,
         .dense = true,
         .empty = tr("Tell a symptom, or read something: the readings that tell most stand here.")},
        context_.appearance, sheet);
    others_->as_high_as_its_rows(3);
    column->addWidget(others_);

    connect(others_, &Table::row_chosen, this, [this, then](int r) {
        if (const auto* t = then(r)) {
            by_hand_ = false;
            ask_for(*t);
            show_probes();
        }
    });
    connect(others_, &Table::row_activated, this, [this] { value_->setFocus(); });
    connect(may_, &DrawingView::pressed, this, [this](QPointF at) {
        const QString ref = may_->ref_at(at);
        if (!ref.startsWith("may ")) return;
        chosen_may_ = ref.mid(4).toInt();
        refresh();
    });
    connect(may_, &DrawingView::stepped, this, [this](int step) {
        if (!work_.diagnosis()) return;
        chosen_may_ = std::clamp(chosen_may_ + step, 0,
                                 std::max(0, static_cast<int>(work_.diagnosis()->may.size()) - 1));
        refresh();
    });
    connect(it_is_, &QPushButton::clicked, this, [this] {
        if (!work_.diagnosis()) return;
        const auto i = static_cast<std::size_t>(chosen_may_);
        if (i < work_.diagnosis()->may.size())
            context_.session.change(tr("It was this one"),
                                    diagnose::mend(work_.diagnosis()->may[i], today()));
    });
    connect(clear_, &QPushButton::clicked, this, [this] {
        context_.session.change(tr("Begin the search anew"), diagnose::clear_bench());
    });
    return sheet;
}

job::BenchReading FindSheet::about() const {
    const diagnose::Measure m = points_->measure();
    return {m.what, m.state, m.from, m.to, 0, points_->turned(), today()};
}

void FindSheet::ask_for(const Diagnosis::Then& then) {
    points_->show(then.measure, then.turned);
    next_words_->setText(
        tr("Next, %1 min: %2").arg(words(decimals(then.minutes, 1)), words(then.words)));
    QString text;
    if (then.limited)
        text = tr("from a supply that limits its current: something may be shorted\n");
    // What each outcome would mean, and what would then be read: a branch a line.
    for (const Diagnosis::Outcome& o : then.outcomes)
        text += (o.then.empty()
                     ? tr("%1 → %2").arg(words(o.when), words(o.means))
                     : tr("%1 → %2; then %3").arg(words(o.when), words(o.means), words(o.then))) +
                QStringLiteral("\n");
    next_means_->setText(text.trimmed());
}

void FindSheet::follow_next() {
    if (by_hand_ || !work_.diagnosis()) return;
    const Diagnosis& d = *work_.diagnosis();
    if (d.proof) {
        ask_for(*d.proof);
        next_words_->setText(tr("To prove the mend: %1").arg(words(d.proof->words)));
        next_means_->setText(
            tr("%1; it should read %2 to %3")
                .arg(words(d.proof->state),
                     words(diagnose::value_words(d.proof->measure.what, d.proof->low)),
                     words(diagnose::value_words(d.proof->measure.what, d.proof->high))));
    } else if (d.anything && !d.next.empty()) {
        others_->choose(0);
        ask_for(d.next.front());
    } else {
        next_words_->setText(d.anything ? tr("No reading tells anything more")
                                        : tr("Tell what is seen, or read something"));
        next_means_->clear();
    }
    show_probes();
}

void FindSheet::show_probes() {
    if (!isVisible()) return;
    const job::BenchReading r = about();
    work_.put_probes(r.what, r.state, r.from, r.to, r.turned);
}

Result<void> FindSheet::check(const diagnose::Measure& measure) const {
    if (!work_.bench()) return {};
    diagnose::Finder finder = *work_.bench()->finder;
    return finder.world().check(measure);
}

void FindSheet::take_table(const QString& path) {
    const auto text = files::read_text(path.toStdString());
    auto read = text ? files::read_bench_csv(*text, QFileInfo(path).fileName().toStdString())
                     : tl::unexpected(text.error());
    refused_->setVisible(!read);
    if (!read) return refused_->setText(words(read.error()));
    std::vector<job::Edit> edits;
    for (const diagnose::Reading& r : *read) {
        if (auto known = check(r.measure); !known) {
            refused_->setText(words(known.error()));
            return refused_->show();
        }
        edits.push_back(diagnose::add_reading({r.measure.what, r.measure.state, r.measure.from,
                                               r.measure.to, r.value, r.turned, today(),
                                               QFileInfo(path).fileName().toStdString(), 0}));
    }
    if (auto ok =
            context_.session.edit(tr("Read a table of readings"), job::all_of(std::move(edits)));
        !ok) {
        refused_->setText(words(ok.error()));
        refused_->show();
    }
}

void FindSheet::enter() {
    const job::BenchReading r = about();
    const auto value = diagnose::value_typed(r.what, value_->text().toStdString());
    refused_->setVisible(!value);
    if (!value) return refused_->setText(words(value.error()));
    enter_value(*value, {});
}

void FindSheet::enter_value(double value, const std::string& source) {
    job::BenchReading r = about();
    r.value = value, r.source = source;
    if (auto known = check({r.what, r.state, r.from, r.to}); !known) {
        refused_->setText(words(known.error()));
        return refused_->show();
    }
    job::Edit edit = diagnose::add_reading(r);
    if (work_.diagnosis() && work_.diagnosis()->proof) {
        const Diagnosis::Then& proof = *work_.diagnosis()->proof;
        const bool same = proof.measure == diagnose::Measure{r.what, r.state, r.from, r.to} &&
                          proof.turned == r.turned;
        if (same && proof.judge(value) == diagnose::Verdict::fine)
            edit = job::all_of(
                {edit,
                 diagnose::prove(
                     say("{}: {}", proof.words, diagnose::value_words(r.what, value)).english())});
    }
    if (auto ok = context_.session.edit(tr("Read %1").arg(words(r.from)), edit); !ok) {
        refused_->setText(words(ok.error()));
        refused_->show();
        return;
    }
    refused_->hide();
    value_->setText({}); // and what was typed is no step of the field's own undo
    by_hand_ = false;
    chosen_reading_ = -1;
    value_->setFocus();
}

void FindSheet::refresh() {
    const job::Bench& bench = context_.session.job().bench;
    // Symptoms that were told, each to be taken back.
    auto* flow = symptoms_->layout();
    while (QLayoutItem* item = flow->takeAt(0)) {
        if (item->widget()) item->widget()->deleteLater();
        delete item;
    }
    const int now = static_cast<int>(bench.mends.size());
    for (const job::BenchSymptom& s : bench.symptoms) {
        if (s.mends != now) continue;
        auto sight = diagnose::sight_named(s.symptom);
        if (!sight) continue;
        sight->where = s.where;
        auto* chip =
            new QPushButton(words(diagnose::told(*sight)) + QStringLiteral("  ×"), symptoms_);
        chip->setObjectName("told:" + words(diagnose::told(*sight)));
        chip->setProperty("role", "choice");
        chip->setToolTip(tr("Take it back"));
        connect(chip, &QPushButton::clicked, this, [this, sight = *sight] {
            context_.session.change(tr("Take a symptom back"), diagnose::untell_symptom(sight));
        });
        flow->addWidget(chip);
    }
    symptoms_->setVisible(flow->count() > 0);
    if (const auto& d = work_.diagnosis()) {
        QStringList all;
        for (const diagnose::Sight& s : d->sights)
            all << words(diagnose::told(s));
        QStringList shown;
        for (int i = 0; i < symptom_->count(); ++i)
            shown << symptom_->itemText(i);
        if (all != shown) {
            symptom_->clear();
            symptom_->addItems(all);
        }
        const int count = static_cast<int>(bench.readings.size());
        may_head_->setText(
            !d->anything ? tr("Nothing was told and nothing read: there is nothing to judge yet.")
                         : counted(static_cast<int>(std::count_if(
                                       d->rows.begin(), d->rows.end(),
                                       [](const Diagnosis::Row& r) { return !r.earlier; })),
                                   tr("after %1 reading"), tr("after %1 readings")) +
                               QStringLiteral(", ") + words(d->charge_words));
        if (!bench.mends.empty()) {
            const job::BenchMend& last = bench.mends.back();
            const QString mended =
                last.proof.empty()
                    ? tr("Mended: %1, not proved yet. ").arg(words(last.says))
                    : tr("Mended: %1, proved by %2. ").arg(words(last.says), words(last.proof));
            may_head_->setText(mended + (d->anything ? may_head_->text() : QString()));
        }
        if (chosen_reading_ >= count) chosen_reading_ = -1;
    } else {
        may_head_->setText(work_.trouble().isEmpty() ? tr("It is being worked out …")
                                                     : work_.trouble());
    }
    use_->setEnabled(false);
    use_->setText(tr("Use it as the part's value"));
    const int which =
        chosen_reading_ >= 0 ? chosen_reading_ : static_cast<int>(bench.readings.size()) - 1;
    if (which >= 0 && work_.bench()) {
        const auto& r = bench.readings[static_cast<std::size_t>(which)];
        if (const auto one = diagnose::found_by(*work_.bench()->finder, r)) {
            use_->setText(tr("Use it: %1").arg(words(one->words)));
            use_->setEnabled(true);
        }
    }
    const auto& d = work_.diagnosis();
    const auto i = static_cast<std::size_t>(chosen_may_);
    const bool names = d && d->anything && i < d->may.size() && !d->may[i].id.empty();
    it_is_->setEnabled(names);
    clear_->setEnabled(d && d->anything);
    mend_words_->setText(names ? tr("%1: %2.").arg(words(d->may[i].says), words(d->may[i].mend))
                               : QString());
    others_->refresh();
    bands_->redraw();
    may_->redraw();
}

void FindSheet::show_job() { refresh(); }
void FindSheet::show_plan(const PlanPtr& plan) {
    face_->show_plan(plan);
    work_.follow(plan);
    refresh();
    show_probes();
}
bool FindSheet::eventFilter(QObject* watched, QEvent* event) {
    // An empty field has nothing of its own to undo: the reading is undone.
    if (watched == value_ && event->type() == QEvent::ShortcutOverride &&
        static_cast<QKeyEvent*>(event)->matches(QKeySequence::Undo) && !value_->isUndoAvailable()) {
        event->ignore();
        return true;
    }
    return StationPage::eventFilter(watched, event);
}
void FindSheet::hideEvent(QHideEvent* event) {
    context_.selection.put_probes({});
    StationPage::hideEvent(event);
}

} // namespace conductus::app
