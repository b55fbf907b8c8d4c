// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/presets_sheet.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <fmt/format.h>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/job/places.h"
#include "core/job/presets.h"
#include "core/job/words.h"

namespace conductus::app {
namespace {

const char* word_of(job::Effects how) {
    return how == job::Effects::own        ? QT_TRANSLATE_NOOP("PresetsSheet", "its own")
           : how == job::Effects::as_first ? QT_TRANSLATE_NOOP("PresetsSheet", "as the first")
                                           : QT_TRANSLATE_NOOP("PresetsSheet", "none");
}

} // namespace

PresetsSheet::PresetsSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    Session& session = context.session;
    auto [top, top_column] =
        paper(tr("Presets"), tr("in the order in which the board steps through them"), this);
    auto* each = new QPushButton(tr("One for each look"), top);
    each->setObjectName("presetEachLook");
    auto* earlier = new QPushButton(tr("Earlier"), top);
    earlier->setObjectName("presetEarlier");
    auto* later = new QPushButton(tr("Later"), top);
    later->setObjectName("presetLater");
    auto* used = new QPushButton(tr("Light the use with it"), top);
    used->setObjectName("presetUsed");

    const auto look_names = [&session](int) {
        QStringList all;
        for (const job::Look& l : session.job().looks)
            all << words(l.name);
        return all;
    };
    Column look = value_column(session, tr("look"), "/presets", "look");
    look.choices = look_names;
    look.edit = [](int row, const std::string& typed) {
        return job::show_look(static_cast<std::size_t>(row), typed);
    };
    Column tracks = reading(tr("tracks"), [&session](int row) {
        QStringList all;
        for (const job::Track& t : session.job().presets[static_cast<std::size_t>(row)].tracks)
            all << words(t.name);
        return CellText(all.join(", "));
    });
    tracks.edit = [](int row, const std::string& typed) {
        return job::give_tracks(static_cast<std::size_t>(row), typed);
    };
    const auto own = [&session](int row) {
        const job::Preset& p = session.job().presets[static_cast<std::size_t>(row)];
        QStringList all;
        for (const job::Effect& e : p.effects)
            all << words(e.name);
        for (const job::LeftOut& l : p.left_out)
            all << tr("no %1").arg(words(l.effect));
        return all.isEmpty() ? CellText(tr("as the first"), CellInk::second)
                             : CellText(all.join(", "));
    };
    TableRows rows = list_rows(session, "/presets", "name");
    rows.add = [] { return job::add_preset(); };
    presets_ = new Table(
        {.object = "presets",
         .name = tr("Presets"),
         .what = tr("Preset"),
         .columns = {figures(tr("no."), [](int row) { return CellText(QString::number(row + 1)); }),
                     value_column(session, tr("preset"), "/presets", "name"),
                     value_column(session, tr("font"), "/presets", "font"), look, tracks,
                     reading(tr("effects"), own), figures(tr("mean"),
                                                          [this](int row) {
                                                              const auto* p = planned(row);
                                                              return CellText(
                                                                  p ? words(text(p->mean))
                                                                    : QString());
                                                          }),
                     figures(tr("most"),
                             [this](int row) {
                                 const auto* p = planned(row);
                                 return p ? CellText(words(text(p->peak)),
                                                     tr("in %1").arg(words(p->peak_event)))
                                          : CellText();
                             }),
                     figures(tr("clean"),
                             [this](int row) {
                                 const auto* p = planned(row);
                                 return CellText(p ? words(duration(p->clean)) : QString());
                             })},
         .rows = rows,
         .wide = 4,
         .dense = true,
         .main = true,
         .empty = tr("Type a name in the empty row, or take one for each look."),
         .session = &session},
        context.appearance, top);
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(8);
    buttons->addWidget(each);
    buttons->addWidget(earlier);
    buttons->addWidget(later);
    buttons->addStretch(1);
    buttons->addWidget(used);
    top_column->addLayout(buttons);
    top_column->addWidget(presets_, 1);
    top_column->addWidget(presets_->refusal());

    auto [bottom, bottom_column] = paper(tr("Effects in it"), tr("all shares in %"), this);
    of_ = label({}, "second", bottom);
    of_->setObjectName("presetSaid");
    const auto chosen_effect = [this](int row) { return effects()[static_cast<std::size_t>(row)]; };
    Column here = reading(tr("here"), [this, &session, chosen_effect](int row) {
        const auto how = job::has_effect(session.job(), preset(), chosen_effect(row));
        return CellText(tr(word_of(how)),
                        how == job::Effects::as_first ? CellInk::second : CellInk::ink);
    });
    here.choices = [](int) {
        return QStringList{tr(word_of(job::Effects::as_first)), tr(word_of(job::Effects::own)),
                           tr(word_of(job::Effects::none))};
    };
    here.edit = [this, chosen_effect](int row, const std::string& typed) -> job::Edit {
        for (const auto how : {job::Effects::as_first, job::Effects::own, job::Effects::none})
            if (!typed.empty() &&
                tr(word_of(how)).startsWith(QString::fromStdString(typed), Qt::CaseInsensitive))
                return job::let_have(preset(), chosen_effect(row), how);
        return job::refused(
            {"", say("'{}' is not known here", shown(typed, 60)),
             "Write as the first, its own, or none"});
    };
    const auto value = [this, &session](const QString& title, const char* key,
                                        const QString& unit = {}) {
        Column c = placed_column(
            session, title, key, [this, key](int row) { return place_of(row, key); }, unit);
        // What is as the first preset's is shown, and changed there.
        const auto shown_here = c.show;
        c.show = [this, shown_here, key, unit](int row) {
            if (!place_of(row, key).empty()) return shown_here(row);
            const std::string name = effects()[static_cast<std::size_t>(row)];
            const auto& all = context_.session.job().effects;
            const auto it =
                std::find_if(all.begin(), all.end(), [&](auto& e) { return e.name == name; });
            if (it == all.end()) return CellText();
            const std::string at = fmt::format("/effects/{}/{}", it - all.begin(), key);
            const auto typed = job::typed_at(context_.session.job(), at, unit.toStdString());
            return CellText(typed ? words(*typed) : QString(), CellInk::second);
        };
        c.unit.clear(); // said once, above
        return c;
    };
    TableRows effect_rows;
    effect_rows.count = [this] { return static_cast<int>(effects().size()); };
    effect_rows.name = [chosen_effect](int row) { return words(chosen_effect(row)); };
    effect_rows.add = [this] { return job::add_at(fmt::format("/presets/{}/effects", preset())); };
    effect_rows.take_out = [this, chosen_effect](int row) {
        return job::let_have(preset(), chosen_effect(row), job::Effects::none);
    };
    Column name = value(tr("effect"), "name");
    name.show = [chosen_effect](int row) { return CellText(words(chosen_effect(row))); };
    effects_ = new Table({.object = "presetEffects",
                          .name = tr("Effects of the chosen preset"),
                          .what = tr("Effect"),
                          .columns = {name, here, value(tr("kind"), "kind"),
                                      value(tr("from"), "from", "%"), value(tr("to"), "to", "%"),
                                      value(tr("lasts, s"), "lasts_s"),
                                      value(tr("cap"), "cap", "%"),
                                      value(tr("red"), "colour/red", "%"),
                                      value(tr("green"), "colour/green", "%"),
                                      value(tr("blue"), "colour/blue", "%"),
                                      value(tr("white"), "colour/white", "%")},
                          .rows = effect_rows,
                          .wide = 0,
                          .dense = true,
                          .empty = tr("Choose a preset above."),
                          .session = &session},
                         context.appearance, bottom);
    bottom_column->addWidget(of_);
    bottom_column->addWidget(effects_, 1);
    bottom_column->addWidget(effects_->refusal());

    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(top, 3);
    column->addWidget(bottom, 2);
    connect(each, &QPushButton::clicked, this, [this] {
        context_.session.change(tr("A preset for each look"), job::preset_each_look());
    });
    connect(earlier, &QPushButton::clicked, this, [this] { move(-1); });
    connect(later, &QPushButton::clicked, this, [this] { move(1); });
    connect(used, &QPushButton::clicked, this, [this] {
        const auto& all = context_.session.job().presets;
        if (preset() < all.size())
            context_.session.change(tr("Light the use with %1").arg(words(all[preset()].name)),
                                    job::use_preset(all[preset()].name));
    });
    connect(presets_, &Table::row_chosen, this, [this](int row) {
        const auto& all = context_.session.job().presets;
        if (row >= 0 && static_cast<std::size_t>(row) < all.size())
            context_.selection.look_at(words(all[static_cast<std::size_t>(row)].look));
        show_effects();
    });
}

std::size_t PresetsSheet::preset() const {
    const int row = presets_->chosen();
    return row < 0 ? 0 : static_cast<std::size_t>(row);
}

std::vector<std::string> PresetsSheet::effects() const {
    const job::Job& job = context_.session.job();
    std::vector<std::string> all;
    if (preset() >= job.presets.size()) return all;
    for (const job::Effect& e : job.effects)
        all.push_back(e.name);
    for (const job::Effect& e : job.presets[preset()].effects)
        if (std::find(all.begin(), all.end(), e.name) == all.end()) all.push_back(e.name);
    return all;
}

std::string PresetsSheet::place_of(int row, const std::string& key) const {
    const job::Job& job = context_.session.job();
    if (preset() >= job.presets.size()) return {};
    const auto names = effects();
    if (row < 0 || static_cast<std::size_t>(row) >= names.size()) return {};
    const auto& own = job.presets[preset()].effects;
    for (std::size_t i = 0; i < own.size(); ++i)
        if (own[i].name == names[static_cast<std::size_t>(row)])
            return fmt::format("/presets/{}/effects/{}/{}", preset(), i, key);
    return {};
}

const plan::PresetPlan* PresetsSheet::planned(int row) const {
    if (!made_ || !*made_) return nullptr;
    const auto& all = **made_;
    const auto i = static_cast<std::size_t>(row);
    const auto& presets = context_.session.job().presets;
    return i < all.size() && i < presets.size() && all[i].preset.name == presets[i].name ? &all[i]
                                                                                         : nullptr;
}

void PresetsSheet::move(int by) {
    const auto count = static_cast<int>(context_.session.job().presets.size());
    const int from = static_cast<int>(preset()), to = from + by;
    if (to < 0 || to >= count) return;
    context_.session.change(by < 0 ? tr("Move a preset earlier") : tr("Move a preset later"),
                            job::move_preset(static_cast<std::size_t>(from),
                                             static_cast<std::size_t>(to)));
    presets_->choose(to);
    show_job();
}

void PresetsSheet::show_job() {
    presets_->refresh();
    show_effects();
}

void PresetsSheet::show_effects() {
    effects_->refresh();
    const job::Job& job = context_.session.job();
    const job::Preset* in_use = job::preset_of_use(job);
    if (preset() >= job.presets.size()) {
        of_->setText(tr("Without presets each look comes with the effects of the job."));
        return;
    }
    const job::Preset& p = job.presets[preset()];
    of_->setText(in_use == &p ? tr("%1: the use is lit with it.").arg(words(p.name))
                              : words(p.name));
}

void PresetsSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    ask();
    show_job();
}

void PresetsSheet::ask() {
    if (!plan_ || plan_->trouble || context_.session.job().presets.empty()) {
        context_.session.asking().forget<plan::PresetsOf>(this);
        made_.reset();
        return;
    }
    context_.session.ask(plan::PresetsOf{}, this,
                         [this](const plan::AnswerPtr<plan::PresetsOf>& made) {
                             made_ = made;
                             presets_->refresh();
                         });
}

} // namespace conductus::app
