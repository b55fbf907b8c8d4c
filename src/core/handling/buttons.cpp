// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/handling/buttons.h"

#include <algorithm>
#include <map>
#include <set>

#include "core/job/lookup.h"
#include "core/job/places.h"
#include "core/job/presets.h"
#include "core/job/trigger.h"

namespace conductus::handling {
namespace {

using job::Command;
using job::Does;
using job::Trigger;

/// What a command is for, before it has a trigger.
struct Wanted {
    std::string name;
    Does does = Does::other;
    std::string what, leads;
};

/// How the triggers of one state are written, the handiest first; A, B and C are the buttons.
using Written = std::vector<const char*>;
struct Lists {
    Written idle, lit;
};

Lists lists_of(Scheme scheme, std::size_t buttons) {
    switch (scheme) {
    case Scheme::presses:
        if (buttons == 1)
            return {{"A", "A twice", "A held 1 s", "A three times", "A held 3 s"},
                    {"A held 1 s", "A", "A twice", "A, blade down", "A with twist", "A three times",
                     "A with thrust"}};
        if (buttons == 2)
            return {{"A", "B", "A held 1 s", "B held 1 s", "B held 3 s"},
                    {"A held 1 s", "A", "B", "B, blade down", "B held 1 s", "B with twist",
                     "A with twist"}};
        return {{"A", "B", "A held 1 s", "C", "C held 1 s"},
                {"A held 1 s", "A", "B", "B held 1 s", "C", "C held 1 s", "B with twist"}};
    case Scheme::chords:
        if (buttons == 1)
            return {{"A", "A twice", "A three times", "A held 1 s", "A held 3 s"},
                    {"A held 1 s", "A", "A twice", "A three times", "A, blade down", "A with twist",
                     "A with thrust"}};
        if (buttons == 2)
            return {{"A", "A then B", "B", "B held 1 s", "A held 1 s"},
                    {"A held 1 s", "A", "B", "A then B", "B held 1 s", "B, blade down",
                     "B with twist"}};
        return {{"A", "A then B", "B", "B then C", "C held 1 s"},
                {"A held 1 s", "A", "B", "C", "A then B", "B then C", "C held 1 s"}};
    case Scheme::motions:
        if (buttons == 1)
            return {{"A", "A with twist right", "A held 1 s", "A with twist left", "A with thrust"},
                    {"A held 1 s", "A", "A with thrust", "A, blade down", "A with twist",
                     "A with roll", "A with swing"}};
        return {{"A", "B with twist right", "A held 1 s", "B with twist left", "B"},
                {"A held 1 s", "A", "B", "B with thrust", "B with twist", "A with twist",
                 "A with roll"}};
    }
    return {};
}

std::vector<Wanted> effects_of(const job::Job& job) {
    std::vector<Wanted> all;
    std::set<std::string> names;
    std::vector<const job::Effect*> effects;
    for (const job::Effect& e : job.effects)
        effects.push_back(&e);
    for (const job::Preset& p : job.presets)
        for (const job::Effect& e : p.effects)
            effects.push_back(&e);
    for (const auto kind : {job::EffectKind::mark, job::EffectKind::lock_up, job::EffectKind::drag,
                            job::EffectKind::melt})
        for (const job::Effect* e : effects)
            if (e->kind == kind && names.insert(e->name).second)
                all.push_back({e->name, Does::effect, e->name, ""});
    return all;
}

class Builder {
public:
    Builder(job::Job& job, const catalogue::Catalogue& parts, Scheme scheme)
        : job_(job), parts_(parts), buttons_(hand_buttons(job, parts)),
          lists_(lists_of(scheme, buttons_.size())) {}

    job::Handling build() {
        const auto board = job::first_of<catalogue::Board>(job_, parts_);
        const Second sleeps = board ? job::sleep_after(*board.part, *board.figures) : Second(0);
        auto state = [&](const char* name, job::StateKind kind) -> job::HandState& {
            job::HandState s;
            s.name = name, s.kind = kind;
            return map_.states.emplace_back(std::move(s));
        };
        job::HandState& idle = state("idle", job::StateKind::idle);
        if (sleeps > Second(0)) idle.limit = sleeps, idle.then = "asleep";
        state("lit", job::StateKind::lit);
        job::HandState& menu = state("volume menu", job::StateKind::menu);
        menu.limit = Second(10), menu.then = "lit", menu.signal = "two beeps when it is left";
        if (sleeps > Second(0)) state("asleep", job::StateKind::asleep);

        std::vector<Wanted> at_rest{{"light the blade", Does::light, "", "lit"}};
        if (job_.presets.size() > 1) at_rest.push_back({"next preset", Does::next_preset, "", ""});
        at_rest.push_back({"light it without sound", Does::light_silent, "", "lit"});
        if (job_.presets.size() > 2)
            at_rest.push_back({"previous preset", Does::previous_preset, "", ""});
        at_rest.push_back({"tell the charge level", Does::charge, "", ""});
        give("idle", at_rest, lists_.idle);

        std::vector<Wanted> lit{{"put it out", Does::put_out, "", "idle"}};
        for (Wanted& e : effects_of(job_))
            lit.push_back(std::move(e));
        lit.push_back({"into the volume menu", Does::menu, "", "volume menu"});
        give("lit", lit, lists_.lit);

        const std::string a = "A", b = buttons_.size() > 1 ? "B" : "A twice";
        add("volume menu", {"louder", Does::volume, "louder", ""}, a);
        add("volume menu", {"softer", Does::volume, "softer", ""}, b);
        add("volume menu", {"take it", Does::take, "", "lit"}, "A held 1 s");
        if (sleeps > Second(0)) add("asleep", {"wake", Does::wake, "", "idle"}, a);
        return std::move(map_);
    }

private:
    /// What has no trigger left goes without: the person gives it one.
    void give(const char* state, const std::vector<Wanted>& wanted, const Written& written) {
        for (std::size_t i = 0; i < std::min(wanted.size(), written.size()); ++i)
            add(state, wanted[i], written[i]);
    }

    void add(const char* state, const Wanted& w, const std::string& written) {
        auto trigger = job::read_trigger(written);
        for (job::TriggerButton& t : trigger->buttons)
            for (const HandButton& button : buttons_)
                if (button.letter == t.button) {
                    t.button = button.ref;
                    break;
                }
        Command c;
        c.name = w.name, c.state = state, c.trigger = std::move(*trigger);
        c.does = w.does, c.what = w.what, c.leads = w.leads;
        map_.commands.push_back(std::move(c));
    }

    job::Job& job_;
    const catalogue::Catalogue& parts_;
    std::vector<HandButton> buttons_;
    Lists lists_;
    job::Handling map_;
};

} // namespace

std::vector<HandButton> hand_buttons(const job::Job& job, const catalogue::Catalogue& parts) {
    std::vector<const job::Part*> fitted;
    for (const job::Part& part : job.parts)
        if (parts.find_as<catalogue::Button>(part.type)) fitted.push_back(&part);
    std::stable_sort(fitted.begin(), fitted.end(),
                     [](const job::Part* a, const job::Part* b) { return a->at > b->at; });
    std::vector<HandButton> all;
    for (std::size_t i = 0; i < fitted.size(); ++i) {
        HandButton b;
        b.ref = fitted[i]->ref;
        b.letter = std::string(1, static_cast<char>('A' + std::min<std::size_t>(i, 25)));
        b.place = fitted.size() == 1       ? Message("the button")
                  : i == 0                 ? Message("near the emitter")
                  : i + 1 == fitted.size() ? Message("near the pommel")
                                           : Message("between the others");
        const auto* figures = parts.find_as<catalogue::Button>(fitted[i]->type);
        b.latching = figures->action == catalogue::Button::Action::latching;
        all.push_back(std::move(b));
    }
    return all;
}

job::Edit add_command() {
    return [](job::Job& job) -> Result<void> {
        if (job.handling.states.empty()) {
            job::HandState idle, lit;
            idle.name = "idle", idle.kind = job::StateKind::idle;
            lit.name = "lit", lit.kind = job::StateKind::lit;
            job.handling.states = {std::move(idle), std::move(lit)};
        }
        return job::add_at("/handling/commands")(job);
    };
}

job::Edit begin_with(Scheme scheme, const catalogue::Catalogue& parts) {
    return [scheme, &parts](job::Job& job) -> Result<void> {
        if (hand_buttons(job, parts).empty())
            return problem("/parts", "no button is fitted", "Fit a button at Hilt first");
        job.handling = Builder(job, parts, scheme).build();
        return {};
    };
}

} // namespace conductus::handling
