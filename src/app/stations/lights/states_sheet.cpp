// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/states_sheet.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QVBoxLayout>
#include <algorithm>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "app/stations/lights/light_columns.h"
#include "core/base/format.h"
#include "core/catalogue/kinds.h"
#include "core/job/lookup.h"
#include "core/job/presets.h"
#include "core/job/words.h"

namespace conductus::app {
namespace {

QString days_text(double days) {
    return days >= 2 ? QObject::tr("%1 days").arg(words(decimals(days, 0)))
                     : words(duration(Minute(days * 1440)));
}

} // namespace

StatesSheet::StatesSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    Session& session = context.session;
    auto [top, top_column] =
        paper(tr("States"), tr("of the hilt as it is mated, from full cells"), this);
    const auto title = [this](int row) -> CellText {
        const auto* s = state(row);
        if (!s) return {};
        if (!s->effect.empty())
            return CellText(tr("%1 over %2").arg(words(s->effect), words(s->look)));
        return s->state == "lit" ? CellText(tr("lit, %1").arg(words(s->look)))
                                 : CellText(words(s->state));
    };
    const auto of = [this](auto show) {
        return [this, show](int row) {
            const auto* s = state(row);
            return s ? show(*s) : CellText();
        };
    };
    states_ = new Table(
        {.object = "states",
         .name = tr("States of the hilt"),
         .columns = {reading(tr("state"), title),
                     reading(tr("preset"), of([](const plan::HiltState& s) {
                                 return CellText(words(s.preset), CellInk::second);
                             })),
                     figures(tr("draws"), of([](const plan::HiltState& s) {
                                 return CellText(words(text(s.amps)));
                             })),
                     figures(tr("at most"), of([](const plan::HiltState& s) {
                                 return s.peak ? CellText(words(text(*s.peak))) : CellText();
                             })),
                     figures(tr("lasts"), of([](const plan::HiltState& s) {
                                 return s.days ? CellText(days_text(*s.days)) : CellText();
                             })),
                     figures(tr("warmest, if it lasts"), of([](const plan::HiltState& s) {
                                 return s.hottest ? CellText(QObject::tr("%1, %2").arg(
                                                        words(s.hottest->ref),
                                                        words(text(s.hottest->steady))))
                                                  : CellText();
                             })),
                     reading(tr("lights"), of([](const plan::HiltState& s) {
                                 QStringList all;
                                 for (const std::string& l : s.lights)
                                     all << words(l);
                                 return all.isEmpty()
                                            ? CellText(QObject::tr("dark"), CellInk::second)
                                            : CellText(all.join(", "));
                             }))},
         .rows = {[this] { return made_ && *made_ ? static_cast<int>((**made_).size()) : 0; },
                  [title](int row) { return title(row).text; }},
         .wide = 6,
         .dense = true,
         .least_rows = 5,
         .empty = tr("The states are told here as soon as the hilt can be solved."),
         .session = nullptr},
        context.appearance, top);
    top_column->addWidget(states_, 1);

    auto [bottom, bottom_column] =
        paper(tr("While no blade is lit"), tr("shares in %; all 0: dark"), this);
    rest_ = word_combo<job::Rest>(bottom, "restState", tr("State that lights are set for"));
    rest_->setCurrentIndex(static_cast<int>(job::Rest::idle));
    preset_ = new QComboBox(bottom);
    preset_->setObjectName("restPreset");
    preset_->setAccessibleName(tr("Preset in which it is so"));
    keep_width(preset_, context.appearance, 14);
    keep_width(rest_, context.appearance, 9);
    said_ = label({}, "second", bottom);
    said_->setObjectName("restSaid");
    said_->setWordWrap(true);
    const std::function<job::LightOverride(int)> light = [this](int row) { return shown_by(row); };
    const std::function<job::Edit(job::LightOverride)> write = [this](job::LightOverride l) {
        return job::let_rest(rest(), preset(), std::move(l));
    };
    std::vector<Column> columns{
        reading(tr("light"),
                [this](int row) { return words(refs_[static_cast<std::size_t>(row)]); }),
        reading(tr("shows"), [light](int row) {
            const job::LightOverride l = light(row);
            return l.colour == job::Colour{} ? CellText(tr("dark"), CellInk::second)
                                             : CellText(tr("lit"), CellInk::petrol);
        })};
    Column style = reading(
        tr("style"), [light](int row) { return CellText(words(job::word(light(row).style))); });
    style.choices = [](int) {
        QStringList all;
        for (const auto& entry : job::Words<job::Style>::table)
            all << words(entry.second);
        return all;
    };
    style.edit = [light, write](int row, const std::string& typed) -> job::Edit {
        job::LightOverride l = light(row);
        const auto read = word_typed<job::Style>(typed);
        if (!read) return job::refused(read.error());
        l.style = *read;
        return write(l);
    };
    // A dark light has no style, and nothing that could be capped.
    const auto dark = [light](int row) {
        const job::LightOverride l = light(row);
        return l.colour == job::Colour{} && l.second == job::Colour{};
    };
    style.fixed = dark;
    columns.push_back(style);
    for (Column& c : share_columns<job::LightOverride>(light, write))
        columns.push_back(std::move(c));
    columns.back().fixed = dark;
    lights_ = new Table(
        {.object = "restLights",
         .name = tr("What lights show while no blade is lit"),
         .what = tr("Light"),
         .columns = columns,
         .rows = {[this] { return static_cast<int>(refs_.size()); },
                  [this](int row) { return words(refs_[static_cast<std::size_t>(row)]); }},
         .wide = 0,
         .dense = true,
         .empty = tr("Accents, LEDs and strips that the job has stand here."),
         .session = &session},
        context.appearance, bottom);
    auto* which = new FlowLayout(14, 4);
    which->addWidget(grouped(tr("state"), rest_, {}, bottom));
    which->addWidget(grouped(tr("in"), preset_, {}, bottom));
    bottom_column->addLayout(which);
    bottom_column->addWidget(lights_, 1);
    bottom_column->addWidget(lights_->refusal());
    bottom_column->addWidget(said_);

    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(top, 2);
    column->addWidget(bottom, 1);
    for (QComboBox* combo : {rest_, preset_})
        connect(combo, &QComboBox::activated, this, [this] { show_job(); });
    connect(lights_, &Table::row_chosen, this, [this](int row) {
        context_.selection.choose(words(refs_[static_cast<std::size_t>(row)]));
    });
}

const plan::HiltState* StatesSheet::state(int row) const {
    const bool there =
        made_ && *made_ && row >= 0 && static_cast<std::size_t>(row) < (*made_)->size();
    return there ? &(**made_)[static_cast<std::size_t>(row)] : nullptr;
}

job::Rest StatesSheet::rest() const { return static_cast<job::Rest>(rest_->currentIndex()); }

std::string StatesSheet::preset() const { return preset_->currentData().toString().toStdString(); }

job::LightOverride StatesSheet::shown_by(int row) const {
    job::LightOverride light;
    light.light = refs_[static_cast<std::size_t>(row)];
    for (const job::LightOverride& l :
         job::lights_at_rest(context_.session.job(), rest(), preset()))
        if (l.light == light.light) light = l;
    return light;
}

void StatesSheet::show_job() {
    const job::Job& job = context_.session.job();
    refs_ = lights_of(job, context_.session.parts());
    const std::string was = preset();
    preset_->clear();
    preset_->addItem(tr("always"), QString());
    for (const job::Preset& p : job.presets)
        preset_->addItem(words(p.name), words(p.name));
    preset_->setCurrentIndex(std::max(0, preset_->findData(words(was))));
    preset_->setEnabled(!job.presets.empty());
    states_->refresh();
    lights_->refresh();
    const bool felt = job.config.blade_out == job::BladeOut::lights_accents;
    said_->setText(
        rest() != job::Rest::blade_out ? QString()
        : felt ? tr("The board feels whether a blade is in, and shows this without one.")
        : job.config.blade_out == job::BladeOut::stays_dark
            ? tr("The board is set to stay dark without a blade: this is not shown.")
            : tr("The board does not feel the blade: without one it is idle. Set what it does on "
                 "the sheet Data map of the harness."));
}

void StatesSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    show_job();
    if (plan->trouble) {
        context_.session.asking().forget<plan::StatesOf>(this);
        made_.reset();
        states_->refresh();
        return;
    }
    context_.session.ask(plan::StatesOf{}, this,
                         [this](const plan::AnswerPtr<plan::StatesOf>& made) {
                             made_ = made;
                             states_->refresh();
                         });
}

} // namespace conductus::app
