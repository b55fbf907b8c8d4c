// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/names.h"

#include <algorithm>
#include <fmt/format.h>

#include "core/job/lookup.h"

namespace conductus::job {
namespace {

/// Findings that were answered follow the name of what they are about, and so do the agreements
/// made of them.
void rename_answered(Job& job, const std::string& was, const std::string& now) {
    for (Answered& a : job.answered)
        if (a.about == was) a.about = now;
    for (Agreement& a : job.brief.agreements)
        if (a.measure.starts_with(finding_measure) && a.measure.ends_with(" " + was))
            a.measure.replace(a.measure.size() - was.size(), was.size(), now);
}

/// Replaces one reference by another wherever it is told to look.
class Renaming {
public:
    Renaming(const std::string& was, const std::string& now) : was_(was), now_(now) {}

    void name(std::string& text) const {
        if (text == was_) text = now_;
    }
    /// "B1.plus"
    void terminal(std::string& text) const {
        const auto [ref, terminal] = split_terminal(text);
        if (ref == was_ && !terminal.empty()) text = fmt::format("{}.{}", now_, terminal);
    }
    void wires(std::vector<Wire>& list) const {
        for (Wire& w : list) {
            name(w.ref);
            terminal(w.from);
            terminal(w.to);
        }
    }
    void effect(Effect& e) const {
        for (EffectLight& l : e.lights)
            name(l.light);
    }
    /// Words that stand between separators, each a name or a terminal.
    void among(std::string& text, std::string_view separator) const {
        std::string all;
        for (std::size_t at = 0; at <= text.size();) {
            const std::size_t end = std::min(text.find(separator, at), text.size());
            std::string one = text.substr(at, end - at);
            name(one);
            terminal(one);
            all += one;
            if (end < text.size()) all += separator;
            at = end + separator.size();
        }
        text = std::move(all);
    }
    void bench(Bench& b) const {
        for (BenchSymptom& s : b.symptoms)
            name(s.where);
        for (BenchReading& r : b.readings) {
            name(r.state);
            name(r.from);
            terminal(r.from);
            terminal(r.to);
        }
        for (BenchTried& t : b.tried)
            among(t.step, " | ");
        for (BenchMend& m : b.mends) {
            among(m.fault, " ");
            name(m.where);
        }
        for (DischargeLog& d : b.discharges)
            name(d.cell);
    }
    void config(Config& c) const {
        for (ButtonUse& b : c.pads)
            terminal(b.pad);
        terminal(c.sense_pad);
    }
    void hilt(Hilt& h) const {
        for (Carrier& c : h.carriers)
            name(c.ref);
        for (Fastener& f : h.fasteners) {
            name(f.holds);
            name(f.socket);
        }
        for (SideBore& b : h.side_bores)
            name(b.socket);
        for (Opening& o : h.openings)
            name(o.part);
    }
    /// What a job and its variants have alike.
    template <class Build>
    void build(Build& b) const {
        for (Part& p : b.parts) {
            name(p.ref);
            name(p.carrier);
        }
        for (Blade& blade : b.blades) {
            name(blade.ref);
            name(blade.connector);
            for (GoesInto& g : blade.goes_into)
                name(g.socket);
            for (Strip& s : blade.strips)
                name(s.ref);
            for (LedString& s : blade.strings)
                name(s.ref);
        }
        wires(b.wires);
        for (Line& l : b.lines)
            terminal(l.pad);
        for (Stretch& s : b.stretches)
            name(s.of);
        for (Look& look : b.looks)
            for (LightOverride& s : look.lights)
                name(s.light);
        for (Effect& e : b.effects)
            effect(e);
        for (Preset& p : b.presets)
            for (Effect& e : p.effects)
                effect(e);
        for (Resting& r : b.resting)
            for (LightOverride& s : r.lights)
                name(s.light);
        for (Plug& p : b.plugs) {
            name(p.ref);
            name(p.jack);
        }
        for (Soldered& s : b.soldered)
            name(s.wire);
    }

private:
    const std::string &was_, &now_;
};

template <class Change>
void in_every_build(Job& job, Change change) {
    change(job);
    for (Variant& v : job.variants)
        change(v);
}

} // namespace

std::string free_ref(const Job& job, std::string_view stem) {
    for (int n = 1;; ++n) {
        const std::string ref = fmt::format("{}{}", stem, n);
        bool taken = find_ref(job.parts, ref) || find_ref(job.wires, ref) ||
                     find_ref(job.blades, ref) || find_ref(job.hilt.carriers, ref) ||
                     find_ref(job.plugs, ref);
        for (const Blade& blade : job.blades)
            taken = taken || find_ref(blade.strips, ref) || find_ref(blade.strings, ref);
        if (!taken) return ref;
    }
}

void rename_ref(Job& job, std::string was, std::string now) {
    if (was.empty()) return;
    const Renaming rename(was, now);
    rename.bench(job.bench);
    in_every_build(job, [&](auto& build) { rename.build(build); });
    for (Mated& m : job.mated) {
        rename.name(m.socket);
        rename.name(m.blade);
    }
    rename.hilt(job.hilt);
    rename.config(job.config);
    for (Command& c : job.handling.commands)
        for (TriggerButton& b : c.trigger.buttons)
            rename.name(b.button);
    for (Variant& v : job.variants) {
        if (v.hilt) rename.hilt(*v.hilt);
        rename.config(v.config);
    }
    rename.wires(job.built);
    for (Wish& w : job.brief.wishes)
        if (w.by == Proof::part) rename.name(w.target);
    rename_answered(job, was, now);
    for (Inspected& i : job.inspection)
        rename.name(i.part);
    for (FoundWire& w : job.as_found.wires) {
        rename.terminal(w.from);
        rename.terminal(w.to);
    }
}

void rename_look(Job& job, std::string was, std::string now) {
    const Renaming rename(was, now);
    rename.bench(job.bench);
    for (Look& l : job.looks)
        rename.name(l.name);
    rename.name(job.use.look);
    for (Use& u : job.uses)
        rename.name(u.look);
    for (Preset& p : job.presets)
        rename.name(p.look);
    for (Wish& w : job.brief.wishes)
        if (w.by == Proof::look) rename.name(w.target);
    for (Agreement& a : job.brief.agreements)
        if (a.measure == percent_measure + was) a.measure = percent_measure + now;
    rename_answered(job, was, now);
}

void rename_preset(Job& job, std::string was, std::string now) {
    if (was.empty()) return;
    const Renaming rename(was, now);
    rename.bench(job.bench);
    const bool found = std::any_of(job.presets_found.begin(), job.presets_found.end(),
                                   [&](const PresetTold& p) { return p.name == was; });
    for (Preset& p : job.presets) {
        // It stays the one that was found under its old name.
        if (p.name == was && p.was.empty() && found) p.was = was;
        rename.name(p.name);
        if (p.was == p.name) p.was.clear();
    }
    rename.name(job.use.preset);
    for (Use& u : job.uses)
        rename.name(u.preset);
    for (Resting& r : job.resting)
        rename.name(r.preset);
    for (Command& c : job.handling.commands) {
        rename.name(c.preset);
        if (c.does == Does::preset) rename.name(c.what);
    }
    rename_answered(job, was, now);
}

void rename_found(Job& job, std::string was, std::string now) {
    if (was.empty()) return;
    const Renaming rename(was, now);
    for (PresetTold& p : job.presets_found)
        rename.name(p.name);
    for (Preset& p : job.presets) {
        if (p.was.empty() && p.name == was) p.was = was;
        rename.name(p.was);
        if (p.was == p.name) p.was.clear();
    }
}

void rename_effect(Job& job, std::string was, std::string now) {
    if (was.empty()) return;
    const Renaming rename(was, now);
    rename.bench(job.bench);
    for (Effect& e : job.effects)
        rename.name(e.name);
    for (Preset& p : job.presets) {
        for (Effect& e : p.effects)
            rename.name(e.name);
        for (LeftOut& l : p.left_out)
            rename.name(l.effect);
    }
    for (Command& c : job.handling.commands)
        if (c.does == Does::effect) rename.name(c.what);
    rename_answered(job, was, now);
}

void rename_state(Job& job, std::string was, std::string now) {
    if (was.empty()) return;
    const Renaming rename(was, now);
    for (HandState& s : job.handling.states) {
        rename.name(s.name);
        rename.name(s.then);
    }
    for (Command& c : job.handling.commands) {
        rename.name(c.state);
        rename.name(c.leads);
    }
    for (Rehearsed& r : job.handling.rehearsed)
        rename.name(r.state);
    rename_answered(job, was, now);
}

void rename_stretch(Job& job, std::string was, std::string now) {
    const Renaming rename(was, now);
    for (Stretch& s : job.stretches)
        rename.name(s.name);
    rename_answered(job, was, now);
    for (Look& look : job.looks)
        for (LightOverride& s : look.lights)
            rename.name(s.light);
    for (Resting& r : job.resting)
        for (LightOverride& s : r.lights)
            rename.name(s.light);
}

void rename_joint(Job& job, std::string was, std::string now) {
    const Renaming rename(was, now);
    for (Joint& j : job.hilt.joints)
        rename.name(j.name);
    for (Fastener& f : job.hilt.fasteners)
        rename.name(f.holds);
    rename_answered(job, was, now);
}

} // namespace conductus::job
