// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/sound.h"

#include <algorithm>
#include <cmath>

#include "core/job/lookup.h"

namespace conductus::power {

Sound sound_of(const job::Job& job, const catalogue::Catalogue& parts) {
    // Hum and swing use about an eighth of the power of a steady tone at the set loudness.
    constexpr double hum_share = 0.125;
    const Volt nominal(3.7);

    const auto board = job::first_of<catalogue::Board>(job, parts);
    const auto speaker = job::first_of<catalogue::Speaker>(job, parts);
    Sound sound;
    if (!board) return sound;
    sound.need = board.figures->clean_min;
    if (!speaker || job.use.volume <= 0) return sound;
    const double z = speaker.figures->impedance.value();
    sound.peak = Volt(job.use.volume * std::sqrt(2 * speaker.figures->power.value() * z));
    const double peak_watt = sound.peak.value() * sound.peak.value() / z;
    const double efficiency = board.figures->amplifier_efficiency;
    sound.at_peak = Ampere(peak_watt / (efficiency * nominal.value()));
    sound.mean = Ampere(hum_share * peak_watt / 2 / (efficiency * nominal.value()));
    if (!board.figures->boosted)
        sound.need = std::max(sound.need, sound.peak + board.figures->headroom);
    return sound;
}

} // namespace conductus::power
