// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/sound.h"

#include <algorithm>
#include <cmath>

#include "core/circuit/sink.h"
#include "core/job/lookup.h"
#include "core/job/presets.h"

namespace conductus::power {

double Sound::compression(Volt supply) const {
    const double most = circuit::amplitude_at(at_peak, supply.value());
    if (!(at_peak.siemens > 0) || most >= peak.value()) return 0;
    return most > 0 ? 20 * std::log10(peak.value() / most) : 200;
}

namespace {

const job::FontSound* font_in(const job::Job& job, const job::Preset& preset) {
    for (const job::FontSound& f : job.card.fonts)
        if (!preset.font.empty() && f.font == preset.font && f.peak > 0) return &f;
    return nullptr;
}

} // namespace

const job::FontSound* font_of(const job::Job& job, const std::string& look, bool loudest) {
    if (job.card.fonts.empty()) return nullptr;
    const job::Preset* of_use = job::preset_of_use(job);
    if (loudest) {
        const job::FontSound* most = nullptr;
        for (const job::Preset& p : job.presets) {
            if (p.look != (look.empty() && of_use ? of_use->look : look)) continue;
            const job::FontSound* font = font_in(job, p);
            if (!font) return nullptr; // one that was not measured may be as loud as can be
            if (!most || font->loudest > most->loudest) most = font;
        }
        return most;
    }
    if (of_use && (look.empty() || look == of_use->look)) return font_in(job, *of_use);
    for (const job::Preset& p : job.presets)
        if (p.look == look) return font_in(job, p);
    return nullptr;
}

Sound sound_of(const job::Job& job, const catalogue::Catalogue& parts, const std::string& look,
               bool loudest_font) {
    const auto board = job::first_of<catalogue::Board>(job, parts);
    const auto speaker = job::first_of<catalogue::Speaker>(job, parts);
    Sound sound;
    if (!board) return sound;
    sound.need = board.figures->clean_min;
    if (!speaker || job.use.volume <= 0) return sound;
    const double z = speaker.figures->impedance.value();
    const job::FontSound* font = font_of(job, look, loudest_font);
    const double full = job.use.volume * std::sqrt(2 * speaker.figures->power.value() * z);
    sound.peak = Volt(full * (font ? font->peak : 1));
    circuit::Amplifier& a = sound.at_peak;
    a.peak = sound.peak.value();
    a.siemens = 1 / (z * board.figures->amplifier_efficiency);
    a.headroom = board.figures->headroom.value();
    a.boosted = board.figures->boosted;
    a.rail = board.figures->rail.value();
    sound.hum = a;
    if (font) {
        // Its largest sample may be cut, its power is what was measured.
        a.siemens *= std::pow(font->loudest / font->peak, 2);
        sound.hum.siemens *= std::pow(font->mean / font->peak, 2);
    } else {
        sound.hum.siemens *= hum_share;
    }
    const double uncut = a.peak * std::pow(10, -heard_clipping / 20);
    // A boosted rail is what it is, down to where the board gives up.
    sound.clips = !a.boosted                    ? Volt(uncut + a.headroom)
                  : uncut > a.rail - a.headroom ? Volt(1e3)
                                                : Volt(0);
    return sound;
}

std::optional<LoudnessFigure> loudness_of(const job::Job& job, const catalogue::Catalogue& parts,
                                          Volt supply, double cavity_dB) {
    const auto speaker = job::first_of<catalogue::Speaker>(job, parts);
    const Sound sound = sound_of(job, parts);
    if (!(sound.at_peak.siemens > 0)) return std::nullopt;
    LoudnessFigure l;
    l.full = circuit::amplitude_at(sound.at_peak, supply.value());
    l.below_full = l.full > 0 ? 20 * std::log10(sound.peak.value() / l.full) : 0;
    const double amplitude = std::min(sound.peak.value(), l.full);
    l.power = Watt(amplitude * amplitude / 2 / speaker.figures->impedance.value());
    if (speaker.figures->sensitivity > 0 && l.power > Watt(0))
        l.level = speaker.figures->sensitivity + 10 * std::log10(l.power.value()) + cavity_dB;
    return l;
}

} // namespace conductus::power
