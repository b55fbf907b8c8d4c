// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/asked_sheet.h"

#include <QDate>
#include <QGridLayout>
#include <QLocale>
#include <QRegularExpression>

#include "app/stations/brief/wish_list.h"
#include "core/base/format.h"
#include "core/base/parse.h"
#include "core/job/edits.h"
#include "core/job/limits.h"
#include "core/job/places.h"
#include "core/job/words.h"
#include "core/power/use_day.h"

namespace conductus::app {
namespace {

constexpr int columns_across = 4;

Result<void> out_of(const job::limits::Range& range, double value, const char* unit) {
    if (range.holds(value)) return {};
    return problem("", "this is out of range",
                   QString("It lies between %1 and %2 %3")
                       .arg(range.least)
                       .arg(range.most)
                       .arg(unit)
                       .toStdString());
}

Result<QString> date_of(const QString& typed) {
    const QString text = typed.trimmed();
    if (text.isEmpty()) return text;
    const QLocale english(QLocale::English);
    for (const char* format : {"yyyy-MM-dd", "d MMMM yyyy", "d MMM yyyy", "d.M.yyyy"})
        if (const QDate date = english.toDate(text, format); date.isValid())
            return date.toString(Qt::ISODate);
    return problem("", "this is no date", "Write it like 2027-03-12 or 12 March 2027");
}

QString length_text(Millimetre length) { return QString::number(length.value()); }

/// "813 × 25.4; 178 × 19.1", or with units: "32 in x 1 in".
Result<std::vector<job::WantedBlade>> blades_of(const QString& text) {
    static const QRegularExpression cross("[x×*]");
    std::vector<job::WantedBlade> blades;
    for (const QString& one : text.split(';', Qt::SkipEmptyParts)) {
        if (one.trimmed().isEmpty()) continue;
        const QStringList sides = one.split(cross);
        if (sides.size() != 2)
            return problem("", "a blade is its length and its width",
                           "Write 813 × 25.4, or 32 in x 1 in; several with a semicolon between");
        const auto length = parse_length(sides[0].trimmed().toStdString());
        const auto outer = parse_length(sides[1].trimmed().toStdString());
        if (!length) return tl::unexpected(length.error());
        if (!outer) return tl::unexpected(outer.error());
        if (auto ok = out_of(job::limits::length_mm, length->value(), "mm"); !ok)
            return tl::unexpected(ok.error());
        if (auto ok = out_of(job::limits::diameter_mm, outer->value(), "mm"); !ok)
            return tl::unexpected(ok.error());
        blades.push_back({*length, *outer});
    }
    return blades;
}

} // namespace

AskedSheet::AskedSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(10);

    auto* form = new QFrame(this);
    form->setObjectName("paper");
    grid_ = new QGridLayout(form);
    grid_->setContentsMargins(14, 8, 14, 10);
    grid_->setHorizontalSpacing(14);
    grid_->setVerticalSpacing(1);
    for (int i = 0; i < columns_across; ++i)
        grid_->setColumnStretch(i, 1);
    column->addWidget(form);
    add_terms();
    add_use();

    wishes_ = new WishList(context, this);
    column->addWidget(wishes_);
    column->addStretch();
    show_job();
}

void AskedSheet::place(const QString& name, QWidget* editor, int columns) {
    if (at_ % columns_across + columns > columns_across)
        at_ += columns_across - at_ % columns_across;
    const int row = at_ / columns_across * 2, column = at_ % columns_across;
    auto* title = label(name, "second");
    title->setBuddy(editor);
    grid_->addWidget(title, row, column, 1, columns);
    grid_->addWidget(editor, row + 1, column, 1, columns, Qt::AlignTop);
    at_ += columns;
}

void AskedSheet::add_field(const QString& name, const char* object, Show show,
                           EntryField::Commit commit, int columns) {
    auto* field = new EntryField(name, std::move(commit));
    field->line()->setObjectName(object);
    place(name, field, columns);
    fields_.emplace_back(field, std::move(show));
}

void AskedSheet::add_combo(QComboBox* combo, std::function<int(const job::Job&)> show,
                           std::function<void(int)> chosen) {
    place(combo->accessibleName(), combo, 1);
    connect(combo, &QComboBox::activated, this, std::move(chosen));
    combos_.emplace_back(combo, std::move(show));
}

void AskedSheet::add_terms() {
    auto text = [this](const QString& label, const char* at) -> EntryField::Commit {
        return [this, label, at](const QString& typed) {
            return context_.session.edit(label, job::write_at(at, typed.toStdString()));
        };
    };
    add_field(
        tr("Job"), "briefName", [](const job::Job& j) { return QString::fromStdString(j.name); },
        text(tr("Name the job"), "/name"));
    add_combo(
        word_combo<job::Kind>(this, "briefKind", tr("Kind")),
        [](const job::Job& j) { return static_cast<int>(j.kind); },
        [this](int i) {
            context_.session.change(tr("Kind of job"), job::set_kind(static_cast<job::Kind>(i)));
        });
    add_combo(
        word_combo<job::Stage>(this, "briefStage", tr("Stage")),
        [](const job::Job& j) { return static_cast<int>(j.stage); },
        [this](int i) {
            context_.session.change(
                tr("Stage of the job"),
                job::write_at("/stage", std::string(job::word(static_cast<job::Stage>(i)))));
        });
    add_field(
        tr("Promised for"), "briefPromised",
        [](const job::Job& j) { return QString::fromStdString(j.promised); },
        [this](const QString& typed) -> Result<void> {
            const auto date = date_of(typed);
            if (!date) return tl::unexpected(date.error());
            return context_.session.edit(tr("Promise a date"),
                                         job::write_at("/promised", date->toStdString()));
        });
    add_field(
        tr("For"), "briefPurpose",
        [](const job::Job& j) { return QString::fromStdString(j.purpose); },
        text(tr("What the job is for"), "/purpose"), 2);
    add_field(
        tr("Blades wanted, mm or in"), "briefBlades",
        [](const job::Job& j) {
            QStringList all;
            for (const auto& b : j.brief.blades)
                all << length_text(b.length) + QString::fromUtf8(" × ") + length_text(b.outer);
            return all.join("; ");
        },
        [this](const QString& typed) -> Result<void> {
            const auto blades = blades_of(typed);
            if (!blades) return tl::unexpected(blades.error());
            return context_.session.edit(tr("Blades wanted"), job::want_blades(*blades));
        });
    add_field(
        tr("Budget"), "briefBudget",
        [](const job::Job& j) {
            return j.brief.budget ? QString::number(*j.brief.budget) + " " +
                                        QString::fromStdString(j.brief.currency)
                                  : QString();
        },
        [this](const QString& typed) -> Result<void> {
            const QStringList words = typed.split(' ', Qt::SkipEmptyParts);
            std::vector<job::Edit> edits{
                job::write_at("/brief/budget", words.value(0).toStdString())};
            if (words.size() > 1)
                edits.push_back(job::write_at("/brief/currency", words[1].toStdString()));
            return context_.session.edit(tr("Budget"), job::all_of(std::move(edits)));
        });
}

EntryField::Commit AskedSheet::minutes(const QString& label, const char* at) {
    return [this, label, at](const QString& typed) {
        return context_.session.edit(
            label, job::all_of({job::write_at(at, typed.toStdString()), power::follow_minutes()}));
    };
}

void AskedSheet::add_use() {
    auto shown = [](Minute job::Use::*member) -> Show {
        return [member](const job::Job& j) {
            return QString::number((j.use.*member).value()) + QString::fromUtf8(" min");
        };
    };
    add_combo(
        word_combo<job::Occasion>(this, "briefUse", tr("Use")),
        [](const job::Job& j) { return static_cast<int>(j.brief.occasion); },
        [this](int i) {
            context_.session.change(tr("Use"), job::set_occasion(static_cast<job::Occasion>(i)));
        });
    add_field(tr("Clean runtime wanted"), "briefClean", shown(&job::Use::clean),
              minutes(tr("Clean runtime wanted"), "/use/clean_min"));
    add_field(tr("Lit on a day"), "briefLit", shown(&job::Use::ignited),
              minutes(tr("Lit on a day"), "/use/ignited_min"));
    add_field(
        tr("Loudness"), "briefLoudness",
        [](const job::Job& j) { return QString::number(j.use.volume * 100) + " %"; },
        [this](const QString& typed) -> Result<void> {
            return context_.session.edit(tr("Loudness"),
                                         job::write_at("/use/volume", typed.toStdString(), "%"));
        });
    add_combo(
        word_combo<job::Swap>(this, "briefSwap", tr("Swap of cells during the day")),
        [](const job::Job& j) { return static_cast<int>(j.brief.swap); },
        [this](int i) {
            context_.session.change(
                tr("Swap of cells"),
                job::write_at("/brief/swap", std::string(job::word(static_cast<job::Swap>(i)))));
        });
    add_field(
        tr("Notes"), "briefNotes",
        [](const job::Job& j) { return QString::fromStdString(j.notes); },
        [this](const QString& typed) {
            return context_.session.edit(tr("Notes"),
                                         job::write_at("/notes", typed.left(4000).toStdString()));
        },
        3);
}

void AskedSheet::show_job() {
    const job::Job& job = context_.session.job();
    for (auto& [field, show] : fields_) {
        field->show_value(show(job));
        if (!field->line()->hasFocus()) field->line()->setCursorPosition(0);
    }
    for (auto& [combo, show] : combos_)
        combo->setCurrentIndex(show(job));
    wishes_->show_job();
}

void AskedSheet::show_plan(const PlanPtr& plan) { wishes_->show_plan(plan); }

} // namespace conductus::app
