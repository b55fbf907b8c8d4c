// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/section_electric.h"

#include "core/base/format.h"
#include "core/job/lookup.h"
#include <QCoreApplication>

namespace conductus::app {
namespace {

struct Electric {
    Q_DECLARE_TR_FUNCTIONS(Electric)
};

QString words(const std::string& text) { return QString::fromStdString(text); }

/// A flag over a fitted body; none where it is not drawn.
void over_body(const ElectricGround& g, const std::string& ref, const QString& text,
               const QColor& colour, std::vector<Flag>& flags) {
    const auto* b = job::find_ref(g.plan.fit.bodies, ref);
    if (!b) return;
    flags.push_back({g.scale.x(b->from + (b->to - b->from) / 2),
                     g.scale.y(b->off_axis.value() + b->height.value() / 2), text, colour, 0});
}

} // namespace

std::vector<Flag> volt_flags(const ElectricGround& g) {
    std::vector<Flag> flags;
    if (!g.view) return flags;
    auto volts = [](Volt v) {
        return QString("%1 V").arg(v.value(), 0, 'f', 2).replace(' ', QChar(0x202f));
    };
    for (const plan::VoltFlag& f : g.view->flags) {
        if (job::find_ref(g.plan.fit.bodies, f.ref)) {
            over_body(g, f.ref, volts(f.volts), g.inks.petrol, flags);
        } else if (g.blade) {
            flags.push_back({f.label == "first pixel" ? g.foot_x : g.tip_x, g.blade_y,
                             words(f.label) + " " + volts(f.volts), g.inks.petrol, 0});
        }
    }
    return flags;
}

std::vector<Flag> amp_flags(const ElectricGround& g) {
    std::vector<Flag> flags;
    if (!g.view) return flags;
    for (const plan::PartAmps& part : g.view->part_amps) {
        QString said = words(text(part.amps));
        if (part.over) said += Electric::tr(", rated %1").arg(words(text(*part.over)));
        over_body(g, part.ref, said, part.over ? g.inks.stop : g.inks.petrol, flags);
    }
    if (!g.blade || g.view->blades.empty()) return flags;
    const plan::BladeView& blade = g.view->blades.front();
    if (blade.strip.empty() || blade.amps.empty()) return flags;
    if (const auto* strip = job::find_ref(g.view->part_amps, blade.strip))
        flags.push_back({g.foot_x, g.blade_y,
                         Electric::tr("%1 in %2").arg(words(text(strip->amps)), words(blade.strip)),
                         g.inks.petrol, 0});
    flags.push_back({g.tip_x, g.blade_y,
                     Electric::tr("last pixel %1").arg(words(text(Ampere(blade.amps.back())))),
                     g.inks.petrol, 0});
    return flags;
}

std::vector<Flag> heat_flags(const ElectricGround& g) {
    std::vector<Flag> flags;
    if (!g.look) return flags;
    for (const power::PartHeat& h : g.look->heat) {
        const power::Warmth warmth = h.warmth();
        const QColor colour = warmth == power::Warmth::hot    ? g.inks.stop
                              : warmth == power::Warmth::warm ? g.inks.warn
                                                              : g.inks.petrol;
        QString said = words(text(h.temperature));
        if (h.die) said += Electric::tr(", die %1").arg(words(text(*h.die)));
        if (warmth == power::Warmth::hot)
            said += Electric::tr(" hot");
        else if (warmth == power::Warmth::warm)
            said += Electric::tr(" warm");
        over_body(g, h.ref, said, colour, flags);
        const bool strip =
            g.blade && !g.view->blades.empty() && g.view->blades.front().strip == h.ref;
        if (strip)
            flags.push_back(
                {g.foot_x, g.blade_y, Electric::tr("%1 %2").arg(words(h.ref), said), colour, 0});
    }
    return flags;
}

} // namespace conductus::app
