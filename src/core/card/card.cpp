// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/card/card.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>

#include "core/job/limits.h"
#include "core/job/lookup.h"

namespace conductus::card {

Layout layout_of(const job::Job& job, const catalogue::Catalogue& parts) {
    Layout layout;
    if (const auto board = job::first_of<catalogue::Board>(job, parts)) {
        layout.board = board.figures;
        layout.fonts_in = board.figures->fonts_in;
        layout.tracks_in = board.figures->tracks_in;
    }
    return layout;
}

std::string font_folder(const Layout& layout, const std::string& font) {
    return layout.fonts_in.empty() ? font : layout.fonts_in + "/" + font;
}

std::string measured_with(const Layout& layout, const std::string& path) {
    if (!layout.tracks_in.empty() && path.starts_with(layout.tracks_in + "/")) return path;
    const std::string start = layout.fonts_in.empty() ? std::string() : layout.fonts_in + "/";
    if (!path.starts_with(start)) return path;
    const auto slash = path.find('/', start.size());
    return slash == std::string::npos ? path : path.substr(0, slash);
}

bool is_sound(const std::string& path) {
    const auto dot = path.rfind('.');
    if (dot == std::string::npos) return false;
    std::string ending = path.substr(dot + 1);
    std::transform(ending.begin(), ending.end(), ending.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    constexpr std::array endings{"wav", "wave", "aif", "aiff", "flac", "ogg", "mp3", "au", "w64"};
    return std::find(endings.begin(), endings.end(), ending) != endings.end();
}

std::vector<job::CardFile> manifest_of(const Card& card) {
    std::vector<job::CardFile> all;
    for (const File& f : card.files)
        all.push_back({f.path, static_cast<double>(f.bytes), f.hash});
    return all;
}

job::Edit plan_with_sounds(std::vector<job::FontSound> fonts) {
    return [fonts = std::move(fonts)](job::Job& job) { job.card.fonts = fonts; };
}

job::Edit keep_manifest(std::vector<job::CardFile> files, std::string on) {
    return [files = std::move(files), on = std::move(on)](job::Job& job) -> Result<void> {
        if (files.size() > job::limits::longest<job::CardFile>)
            return problem("/card/files", say("there are {} files on the card", files.size()),
                           "Choose the folder of the card alone");
        job.card.files = files;
        job.card.on = on;
        return {};
    };
}

job::Edit mean_difference(std::string path, std::string why) {
    return [path = std::move(path), why = std::move(why)](job::Job& job) {
        auto& meant = job.card.meant;
        std::erase_if(meant, [&](const job::MeantDifference& m) { return m.path == path; });
        if (!why.empty()) meant.push_back({path, why});
    };
}

std::vector<job::FontSound> sounds_of(const job::Job& job, const catalogue::Catalogue& parts,
                                      const Card& card) {
    const Layout layout = layout_of(job, parts);
    std::vector<job::FontSound> all;
    for (const job::Preset& preset : job.presets) {
        const auto is = [&](const job::FontSound& f) { return f.font == preset.font; };
        if (preset.font.empty() || std::any_of(all.begin(), all.end(), is)) continue;
        const std::string folder = font_folder(layout, preset.font);
        job::FontSound font{preset.font, 0, 0, 0, 0};
        double energy = 0, seconds = 0;
        for (const File& f : card.files) {
            if (!f.path.starts_with(folder + "/") || !f.sound || !f.sound->trouble.empty())
                continue;
            font.peak = std::max(font.peak, f.sound->peak);
            font.loudest = std::max(font.loudest, f.sound->loudest);
            energy += f.sound->power * f.sound->seconds;
            seconds += f.sound->seconds;
        }
        if (!(seconds > 0) || !(font.peak > 0)) continue;
        font.mean = std::sqrt(energy / seconds);
        if (const auto it = card.loudness.find(folder); it != card.loudness.end())
            font.loudness = it->second;
        all.push_back(std::move(font));
    }
    return all;
}

} // namespace conductus::card
