// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/follow_sheet.h"

#include <QComboBox>
#include <QLabel>
#include <QVBoxLayout>
#include <algorithm>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "app/stations/lights/light_columns.h"
#include "core/job/lookup.h"
#include "core/job/presets.h"
#include "core/job/words.h"

namespace conductus::app {

FollowSheet::FollowSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [sheet, column] =
        paper(tr("What an effect does to each light"), tr("all shares in %"), this);
    effect_ = new QComboBox(sheet);
    effect_->setObjectName("followEffect");
    effect_->setAccessibleName(tr("Effect"));
    keep_width(effect_, context.appearance, 18);
    said_ = label({}, "second", sheet);
    said_->setObjectName("followSaid");
    said_->setWordWrap(true);
    const std::function<job::EffectLight(int)> light = [this](int row) { return follows(row); };
    const std::function<job::Edit(job::EffectLight)> put = [this](job::EffectLight l) {
        return write(std::move(l));
    };
    /// A column over one of the words of a light.
    const auto word_column = [&]<class E>(const QString& title, E job::EffectLight::* of,
                                          bool strings) {
        Column c = reading(title, [this, light, of, strings](int row) {
            if (strings && !is_string(row)) return CellText();
            const E value = light(row).*of;
            return CellText(words(job::word(value)),
                            value == E{} ? CellInk::second : CellInk::ink);
        });
        c.choices = [](int) {
            QStringList all;
            for (const auto& entry : job::Words<E>::table)
                all << words(entry.second);
            return all;
        };
        c.edit = [light, put, of](int row, const std::string& typed) -> job::Edit {
            job::EffectLight l = light(row);
            const auto read = typed.empty() ? Result<E>(E{}) : word_typed<E>(typed);
            if (!read) return job::refused(read.error());
            l.*of = *read;
            return put(l);
        };
        if (strings) c.fixed = [this](int row) { return !is_string(row); };
        return c;
    };
    std::vector<Column> columns{
        reading(tr("light"),
                [this](int row) { return words(refs_[static_cast<std::size_t>(row)]); }),
        word_column(tr("goes along"), &job::EffectLight::follows, false),
        word_column(tr("segments"), &job::EffectLight::segments, true),
        word_column(tr("flash row"), &job::EffectLight::flash_row, true)};
    for (Column& c : share_columns<job::EffectLight>(light, put)) {
        // A colour of its own is asked for where it goes its own way.
        c.fixed = [light](int row) { return light(row).follows != job::Follows::own; };
        const auto show = c.show;
        c.show = [light, show](int row) {
            return light(row).follows == job::Follows::own ? show(row) : CellText();
        };
        columns.push_back(std::move(c));
    }
    lights_ = new Table(
        {.object = "followLights",
         .name = tr("What the effect does to each light"),
         .what = tr("Light"),
         .columns = columns,
         .rows = {[this] { return effect() ? static_cast<int>(refs_.size()) : 0; },
                  [this](int row) { return words(refs_[static_cast<std::size_t>(row)]); }},
         .wide = 0,
         .dense = true,
         .main = true,
         .empty = tr("Name an effect on the sheet In time first."),
         .session = &context.session},
        context.appearance, sheet);
    auto* which = new FlowLayout(14, 4);
    which->addWidget(grouped(tr("effect"), effect_, {}, sheet));
    column->addLayout(which);
    column->addWidget(lights_, 1);
    column->addWidget(lights_->refusal());
    column->addWidget(said_);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);
    connect(effect_, &QComboBox::activated, this, [this] { show_job(); });
    connect(lights_, &Table::row_chosen, this, [this](int row) {
        context_.selection.choose(words(refs_[static_cast<std::size_t>(row)]));
    });
}

std::optional<std::size_t> FollowSheet::own_of() const {
    const int preset = effect_->currentData(Qt::UserRole + 1).toInt();
    return preset > 0 ? std::optional(static_cast<std::size_t>(preset - 1)) : std::nullopt;
}

const job::Effect* FollowSheet::effect() const {
    const job::Job& job = context_.session.job();
    const std::string name = effect_->currentData().toString().toStdString();
    const auto own = own_of();
    if (own && *own >= job.presets.size()) return nullptr;
    return job::find_name(own ? job.presets[*own].effects : job.effects, name);
}

job::EffectLight FollowSheet::follows(int row) const {
    job::EffectLight light;
    light.light = refs_[static_cast<std::size_t>(row)];
    const job::Effect* e = effect();
    if (!e) return light;
    light.colour = e->colour;
    light.cap = e->cap;
    for (const job::EffectLight& l : e->lights)
        if (l.light == light.light) light = l;
    return light;
}

job::Edit FollowSheet::write(job::EffectLight light) const {
    const job::Effect* e = effect();
    return job::let_follow(e ? e->name : std::string(), own_of(), std::move(light));
}

bool FollowSheet::is_string(int row) const {
    const std::string& ref = refs_[static_cast<std::size_t>(row)];
    const auto& blades = context_.session.job().blades;
    return std::any_of(blades.begin(), blades.end(), [&](const job::Blade& b) {
        return job::find_ref(b.strings, ref) || (b.ref == ref && !b.strings.empty());
    });
}

void FollowSheet::show_job() {
    const job::Job& job = context_.session.job();
    refs_ = lights_of(job, context_.session.parts(), false);
    const QString was = effect_->currentText();
    effect_->clear();
    const auto add = [this](const QString& text, const std::string& name, int preset) {
        effect_->addItem(text, words(name));
        effect_->setItemData(effect_->count() - 1, preset, Qt::UserRole + 1);
    };
    for (const job::Effect& e : job.effects)
        add(words(e.name), e.name, 0);
    for (std::size_t i = 0; i < job.presets.size(); ++i)
        for (const job::Effect& e : job.presets[i].effects)
            add(tr("%1 of %2").arg(words(e.name), words(job.presets[i].name)), e.name,
                static_cast<int>(i + 1));
    effect_->setCurrentIndex(std::max(0, effect_->findText(was)));
    lights_->refresh();
    said_->setText(tr("As usual: what shows the blade's look goes along, what has a setting of its "
                      "own does not."));
}

void FollowSheet::show_plan(const PlanPtr&) { show_job(); }

} // namespace conductus::app
