// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/made_up_card.h"

#include <algorithm>
#include <cmath>
#include <memory>
#include <numbers>
#include <set>
#include <sndfile.h>
#include <stdexcept>
#include <vector>

#include "core/base/random.h"
#include "core/card/card.h"

namespace conductus::test {
namespace {

void write(const std::filesystem::path& file, const std::vector<float>& samples, int rate,
           int channels, int bits, bool flac) {
    std::filesystem::create_directories(file.parent_path());
    SF_INFO info{};
    info.samplerate = rate;
    info.channels = channels;
    info.format = (flac ? SF_FORMAT_FLAC : SF_FORMAT_WAV) | (bits == 8    ? SF_FORMAT_PCM_U8
                                                             : bits == 24 ? SF_FORMAT_PCM_24
                                                                          : SF_FORMAT_PCM_16);
    const std::unique_ptr<SNDFILE, int (*)(SNDFILE*)> out(sf_open(file.c_str(), SFM_WRITE, &info),
                                                          sf_close);
    if (!out) throw std::runtime_error("cannot write " + file.string());
    sf_command(out.get(), SFC_SET_CLIPPING, nullptr, SF_TRUE);
    std::vector<float> frames(samples.size() * static_cast<std::size_t>(channels));
    for (std::size_t i = 0; i < frames.size(); ++i)
        frames[i] = samples[i / static_cast<std::size_t>(channels)];
    sf_writef_float(out.get(), frames.data(), static_cast<sf_count_t>(samples.size()));
}

} // namespace

void write_tone(const std::filesystem::path& file, const Tone& tone) {
    Random random(tone.seed);
    std::vector<float> samples(static_cast<std::size_t>(tone.seconds * tone.rate));
    for (std::size_t i = 0; i < samples.size(); ++i) {
        const double t = static_cast<double>(i) / tone.rate;
        // Begins and ends softly.
        const double edge = std::min({1.0, t / 0.01, (tone.seconds - t) / 0.01});
        const double wave = std::sin(2 * std::numbers::pi * tone.hertz * t) * (1 - tone.noise) +
                            (tone.noise > 0 ? random.uniform(-1, 1) * tone.noise : 0);
        samples[i] = static_cast<float>(std::clamp(wave * tone.peak * edge, -1.0, 1.0));
    }
    write(file, samples, tone.rate, tone.channels, tone.bits, tone.flac);
}

void write_sound(const std::filesystem::path& file, double seconds, int rate, int channels,
                 int bits, const std::function<double(double t)>& of_time) {
    std::vector<float> samples(static_cast<std::size_t>(std::lround(seconds * rate)));
    for (std::size_t i = 0; i < samples.size(); ++i)
        samples[i] = static_cast<float>(of_time(static_cast<double>(i) / rate));
    write(file, samples, rate, channels, bits, false);
}

void make_card(const std::filesystem::path& folder, const job::Job& job,
               const catalogue::Catalogue& parts) {
    const card::Layout layout = card::layout_of(job, parts);
    Tone usual;
    if (layout.board) {
        if (layout.board->sound_rate > 0) usual.rate = layout.board->sound_rate;
        if (layout.board->sound_bits > 0) usual.bits = layout.board->sound_bits;
    }
    std::set<std::string> fonts;
    unsigned seed = 1;
    for (const job::Preset& p : job.presets) {
        if (!p.font.empty() && fonts.insert(p.font).second) {
            const auto in = folder / card::font_folder(layout, p.font);
            std::filesystem::create_directories(in);
            const double base = 380 + 17 * static_cast<double>(fonts.size());
            const auto sound = [&](const std::string& begins, double seconds, double hertz,
                                   double noise) {
                Tone tone = usual;
                tone.seconds = seconds, tone.hertz = hertz, tone.noise = noise;
                tone.seed = ++seed;
                write_tone(in / (begins + ".wav"), tone);
            };
            if (layout.board && !layout.board->sounds.empty()) {
                double n = 0;
                for (const catalogue::SoundKind& kind : layout.board->sounds) {
                    sound(kind.begins, n == 0 ? 0.9 : 0.35, base * (1 + 0.13 * n), 0.1 * n / 2);
                    ++n;
                }
            } else {
                sound("steady", 0.9, base, 0);
            }
        }
        for (const job::Track& t : p.tracks) {
            if (t.name.empty()) continue;
            Tone music = usual;
            music.seconds = 1.5, music.hertz = 470 + 9 * static_cast<double>(seed % 12),
            music.peak = 0.28, music.seed = ++seed;
            write_tone(folder /
                           (layout.tracks_in.empty() ? t.name : layout.tracks_in + "/" + t.name),
                       music);
        }
    }
}

} // namespace conductus::test
