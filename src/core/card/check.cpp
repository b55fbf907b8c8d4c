// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/card/check.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

#include "core/base/format.h"
#include "core/base/nearest.h"
#include "core/base/utf8.h"

namespace conductus::card {
namespace {

using job::Gravity;

std::string name_of(const std::string& path) { return path.substr(path.rfind('/') + 1); }

std::string lower_case(std::string text) {
    for (char& c : text)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return text;
}

double decibels(double share) { return share > 0 ? 20 * std::log10(share) : -200; }

/// Loudness of the middle font.
double middle_of(const std::vector<Loudness>& all) {
    std::vector<double> levels;
    for (const Loudness& l : all)
        if (!l.track && l.lufs) levels.push_back(*l.lufs);
    std::sort(levels.begin(), levels.end());
    return levels.empty() ? 0 : levels[(levels.size() - 1) / 2];
}

/// Files that have the same thing wrong, told together.
struct Wrong {
    std::string id;
    Gravity gravity;
    std::string group; ///< the font's folder, or the track
    bool operator<(const Wrong& o) const { return std::tie(id, group) < std::tie(o.id, o.group); }
};

class Checker {
public:
    Checker(const job::Job& job, const catalogue::Catalogue& parts, const Card& card)
        : job_(job), card_(card), layout_(layout_of(job, parts)) {
        for (const File& f : card.files)
            by_path_[f.path] = &f;
    }

    Checked run() {
        out_.used = card_.used;
        out_.free = card_.free;
        if (by_path_.contains(unfinished_mark))
            tell("card.unfinished", Gravity::stop, unfinished_mark,
                 "the card was not prepared to its end",
                 "Prepare it again: what is there already is not copied twice");
        if (job_.presets.empty())
            tell("card.no-presets", Gravity::warn, "presets", "the job has no presets yet",
                 "Enter them at Lights, Presets: the card is held against them");
        for (std::size_t i = 0; i < job_.presets.size(); ++i)
            preset(i);
        files();
        loudness();
        duplicates();
        unused();
        std::stable_sort(out_.troubles.begin(), out_.troubles.end(),
                         [](const Trouble& a, const Trouble& b) { return a.gravity < b.gravity; });
        return std::move(out_);
    }

private:
    void tell(const char* id, Gravity gravity, std::string where, Message what, Message mend) {
        out_.troubles.push_back({id, gravity, std::move(where), std::move(what), std::move(mend)});
    }

    [[nodiscard]] bool has_folder(const std::string& folder) const {
        return std::find(card_.folders.begin(), card_.folders.end(), folder) != card_.folders.end();
    }
    [[nodiscard]] std::vector<const File*> sounds_in(const std::string& folder) const {
        std::vector<const File*> all;
        for (auto it = by_path_.lower_bound(folder + "/");
             it != by_path_.end() && it->first.starts_with(folder + "/"); ++it)
            if (it->second->sound) all.push_back(it->second);
        return all;
    }

    /// What to do about a name that is not there.
    Message instead_of(const std::string& wanted, const std::vector<std::string>& there,
                       Message otherwise) {
        for (const std::string& name : there)
            if (lower_case(name) == lower_case(wanted)) {
                taken_for_.insert(name);
                return say("Rename {} to {}: capitals count", name, wanted);
            }
        const std::string near = nearest_word(wanted, there);
        if (near.empty()) return otherwise;
        taken_for_.insert(near);
        return say("Is it {}? Rename one of both", near);
    }
    [[nodiscard]] std::vector<std::string> fonts_there() const {
        std::vector<std::string> all;
        const std::string start = layout_.fonts_in.empty() ? "" : layout_.fonts_in + "/";
        for (const std::string& folder : card_.folders)
            if (folder.starts_with(start) && folder.find('/', start.size()) == std::string::npos &&
                folder != layout_.tracks_in && folder.size() > start.size())
                all.push_back(folder.substr(start.size()));
        return all;
    }
    /// Where a track is looked for, the likeliest first.
    [[nodiscard]] std::vector<std::string> places_of(const std::string& track,
                                                     const std::string& font) const {
        if (!layout_.tracks_in.empty()) return {layout_.tracks_in + "/" + track};
        std::vector<std::string> all;
        if (!font.empty()) all.push_back(font_folder(layout_, font) + "/" + track);
        all.push_back(track);
        return all;
    }

    void preset(std::size_t i) {
        const job::Preset& p = job_.presets[i];
        PresetOnCard on{i + 1, p.name, p.font, "ready", true};
        const auto not_ready = [&](Message state) {
            if (on.ready) on.state = std::move(state);
            on.ready = false;
        };
        if (p.font.empty()) {
            tell("card.no-font", Gravity::warn, p.name, say("preset {} names no font", p.name),
                 "Name the folder of its sounds in the list of presets");
            not_ready("no font named");
        } else {
            if (const Message state = font(p); !state.empty()) not_ready(state);
        }
        for (const job::Track& t : p.tracks) {
            if (t.name.empty()) continue;
            const auto places = places_of(t.name, p.font);
            const auto found = std::find_if(places.begin(), places.end(),
                                            [&](auto& at) { return by_path_.contains(at); });
            if (found != places.end()) {
                tracks_.try_emplace(*found, p.font);
                continue;
            }
            not_ready("track missing");
            if (!told_.insert("track/" + t.name).second) continue;
            std::vector<std::string> there;
            const std::string folder =
                layout_.tracks_in.empty() ? font_folder(layout_, p.font) : layout_.tracks_in;
            for (const File* f : sounds_in(folder))
                there.push_back(name_of(f->path));
            tell("card.track-missing", Gravity::stop, places.front(),
                 say("track {} of preset {} is not on the card", t.name, p.name),
                 instead_of(t.name, there, say("Copy it to {}", places.front())));
        }
        out_.presets.push_back(std::move(on));
    }

    /// What is wrong with the font of a preset; empty: nothing.
    Message font(const job::Preset& p) {
        const std::string folder = font_folder(layout_, p.font);
        const bool first = told_.insert("font/" + p.font).second;
        if (!has_folder(folder)) {
            if (first)
                tell("card.font-missing", Gravity::stop, folder,
                     say("font {} of preset {} is not on the card", p.font, p.name),
                     instead_of(p.font, fonts_there(), say("Copy its folder to {}", folder)));
            return "font missing";
        }
        fonts_.insert(folder);
        const auto sounds = sounds_in(folder);
        if (sounds.empty()) {
            if (first)
                tell("card.font-empty", Gravity::stop, folder,
                     say("font {} has no sound in its folder", p.font),
                     "Copy the sounds of the font into it");
            return "font empty";
        }
        if (!layout_.board) return {};
        bool complete = true;
        for (const catalogue::SoundKind& kind : layout_.board->sounds) {
            const bool there = std::any_of(sounds.begin(), sounds.end(), [&](const File* f) {
                const std::string inside = f->path.substr(folder.size() + 1);
                return lower_case(inside).starts_with(lower_case(kind.begins));
            });
            if (there) continue;
            complete = false;
            if (first)
                tell("card.sound-missing", Gravity::warn, folder,
                     say("font {} has no sound for {}: none begins with “{}”", p.font, kind.kind,
                         kind.begins),
                     "Add it, or name the file as the board expects");
        }
        return complete ? Message() : Message("sounds missing");
    }

    /// Everything about one file that a board may not take.
    void files() {
        for (const File& f : card_.files) {
            const std::string group = measured_with(layout_, f.path);
            if (!fonts_.contains(group) && !tracks_.contains(f.path)) continue;
            name(f.path, group);
            if (f.sound) sound(f, *f.sound, group);
        }
        for (const auto& [wrong, all] : wrong_) {
            const auto& [what, mend, paths] = all;
            Message told = what;
            if (paths.size() > 1) told = say("{}, and {} more like it", what, paths.size() - 1);
            out_.troubles.push_back({wrong.id, wrong.gravity, paths.front(), told, mend});
        }
    }
    void wrong(const char* id, Gravity gravity, const std::string& group, const std::string& path,
               Message what, Message mend) {
        auto& one = wrong_[{id, gravity, group}];
        if (one.paths.empty()) one.what = std::move(what), one.mend = std::move(mend);
        one.paths.push_back(path);
    }

    void name(const std::string& path, const std::string& group) {
        if (!layout_.board) return;
        const catalogue::Board& b = *layout_.board;
        const std::string file = name_of(path);
        const std::string stem = file.substr(0, file.rfind('.'));
        if (b.name_length > 0 && utf8_letters(stem) > static_cast<std::size_t>(b.name_length))
            wrong("card.name-long", Gravity::warn, group, path,
                  say("“{}” has {} letters, the board reads {}", file, utf8_letters(stem),
                      b.name_length),
                  "Shorten the name");
        if (!b.name_letters.empty() && std::any_of(stem.begin(), stem.end(), [&](unsigned char c) {
                return c >= 0x80 ||
                       (!std::isalnum(c) &&
                        b.name_letters.find(static_cast<char>(c)) == std::string::npos);
            }))
            wrong("card.name-letters", Gravity::warn, group, path,
                  say("“{}” has a letter that the board does not read", file),
                  say("Use letters without accents, digits and {}", b.name_letters));
        using Case = catalogue::Board::NameCase;
        const auto other = [&](unsigned char c) {
            return b.name_case == Case::lower ? std::isupper(c) != 0 : std::islower(c) != 0;
        };
        if (b.name_case != Case::any && std::any_of(file.begin(), file.end(), other))
            wrong("card.name-case", Gravity::warn, group, path,
                  say("“{}” is not in {}", file,
                      b.name_case == Case::lower ? Message("small letters") : Message("capitals")),
                  b.name_case == Case::lower ? Message("Rename it in small letters")
                                             : Message("Rename it in capitals"));
    }

    void sound(const File& f, const Sound& s, const std::string& group) {
        const std::string file = name_of(f.path);
        if (!s.trouble.empty()) {
            wrong("card.unreadable", Gravity::stop, group, f.path,
                  say("“{}” can not be read: {}", file, s.trouble),
                  "Copy it again from its source");
            return;
        }
        if (!s.plain)
            wrong("card.format", Gravity::warn, group, f.path,
                  say("“{}” is {}; boards play plain WAV", file, s.format),
                  "Save it as WAV with 16 bit whole numbers");
        if (layout_.board && s.plain) {
            const catalogue::Board& b = *layout_.board;
            if (b.sound_rate > 0 && s.rate != b.sound_rate)
                wrong("card.rate", Gravity::warn, group, f.path,
                      say("“{}” has {} samples a second, the board plays {}", file, s.rate,
                          b.sound_rate),
                      say("Save it with {} samples a second", b.sound_rate));
            if (b.sound_bits > 0 && s.bits != b.sound_bits)
                wrong("card.bits", Gravity::warn, group, f.path,
                      say("“{}” has {} bit, the board plays {}", file, s.bits, b.sound_bits),
                      say("Save it with {} bit", b.sound_bits));
            if (b.sound_channels > 0 && s.channels > b.sound_channels)
                wrong("card.channels", Gravity::warn, group, f.path,
                      say("“{}” has {} channels, the board plays {}", file, s.channels,
                          b.sound_channels),
                      "Mix it down to one channel");
        }
        if (s.seconds < 0.02)
            wrong("card.short", Gravity::warn, group, f.path,
                  say("“{}” lasts {} ms: nothing is heard of it", file,
                      std::lround(s.seconds * 1000)),
                  "Copy it again from its source");
        else if (decibels(s.peak) < -60)
            wrong("card.silent", Gravity::warn, group, f.path, say("“{}” is silent", file),
                  "Copy it again from its source, or take it out");
        if (s.clipped > 0)
            wrong("card.clipped", Gravity::warn, group, f.path,
                  say("“{}” is clipped: {} samples in a row and more at full scale", file, 3),
                  "Take it from a source that is not clipped; turning it down does not mend it");
    }

    void loudness() {
        std::vector<double> levels;
        for (const std::string& folder : fonts_) {
            Loudness one;
            one.name = folder.substr(layout_.fonts_in.empty() ? 0 : layout_.fonts_in.size() + 1);
            measure(one, folder);
            if (one.lufs) levels.push_back(*one.lufs);
            out_.loudness.push_back(std::move(one));
        }
        for (const auto& [path, font] : tracks_) {
            Loudness one;
            one.name = name_of(path);
            one.track = true;
            measure(one, path);
            out_.loudness.push_back(std::move(one));
        }
        if (levels.empty()) return;
        const double middle = middle_of(out_.loudness);
        even_out(out_.loudness);
        for (const Loudness& l : out_.loudness) {
            if (l.track || !l.lufs || std::abs(*l.lufs - middle) <= uneven_LU) continue;
            tell("card.uneven", Gravity::warn, font_folder(layout_, l.name),
                 say("font {} is {} LU {} than the others", l.name,
                     text(std::abs(*l.lufs - middle), 1),
                     *l.lufs > middle ? Message("louder") : Message("softer")),
                 say("Change its level by {} dB; the list of loudness says it for each font",
                     signed_text(*l.gain)));
        }
        for (const auto& [path, font] : tracks_) {
            const auto* music = loudness_of(name_of(path), true);
            const auto* beside = loudness_of(font, false);
            if (!music || !beside || !music->lufs || !beside->lufs) continue;
            const double off = *music->lufs - (*beside->lufs - music_below_LU);
            if (std::abs(off) <= music_off_LU) continue;
            tell("card.music-level", Gravity::warn, path,
                 off > 0 ? say("track {} is {} LU louder than the font {}: it covers its effects",
                               music->name, text(*music->lufs - *beside->lufs, 1), font)
                         : say("track {} is {} LU softer than the font {}: it is not heard",
                               music->name, text(*beside->lufs - *music->lufs, 1), font),
                 say("Change its level by {} dB", signed_text(-off)));
        }
    }
    [[nodiscard]] const Loudness* loudness_of(const std::string& name, bool track) const {
        for (const Loudness& l : out_.loudness)
            if (l.track == track && l.name == name) return &l;
        return nullptr;
    }
    void measure(Loudness& one, const std::string& group) const {
        double peak = 0;
        for (const File& f : card_.files)
            if (f.sound && (f.path == group || f.path.starts_with(group + "/")))
                peak = std::max(peak, f.sound->peak);
        one.peak_dBFS = decibels(peak);
        if (const auto it = card_.loudness.find(group);
            it != card_.loudness.end() && std::isfinite(it->second) && it->second > -70)
            one.lufs = it->second;
    }
    static std::string text(double value, int digits) {
        return fmt::format("{:.{}f}", value, digits);
    }
    static std::string signed_text(double value) {
        return (value >= 0.05 ? "+" : value <= -0.05 ? "−" : "") + text(std::abs(value), 1);
    }

    void duplicates() {
        std::map<std::string, std::vector<const File*>> alike;
        for (const File& f : card_.files)
            if (f.sound && f.bytes > 0) alike[f.hash].push_back(&f);
        for (const auto& [hash, all] : alike) {
            if (all.size() < 2) continue;
            tell("card.duplicate", Gravity::note, all[1]->path,
                 say("the same sound as {}", all[0]->path),
                 "Keep one where that is not meant: it takes room");
        }
    }

    void unused() {
        for (const std::string& font : fonts_there()) {
            const std::string folder = font_folder(layout_, font);
            if (fonts_.contains(folder) || taken_for_.contains(font) || sounds_in(folder).empty())
                continue;
            tell("card.unused", Gravity::note, folder, say("no preset names the font {}", font),
                 "Leave it, or take it off for room");
        }
    }

    struct Alike {
        Message what, mend;
        std::vector<std::string> paths;
    };
    const job::Job& job_;
    const Card& card_;
    Layout layout_;
    std::map<std::string, const File*> by_path_;
    std::set<std::string> taken_for_;           ///< names that may be meant by one that is missing
    std::set<std::string> fonts_, told_;        ///< folders of fonts that presets name
    std::map<std::string, std::string> tracks_; ///< paths, with the font of their first preset
    std::map<Wrong, Alike> wrong_;
    Checked out_;
};

} // namespace

std::size_t Checked::count(Gravity gravity) const {
    return static_cast<std::size_t>(std::count_if(
        troubles.begin(), troubles.end(), [&](const Trouble& t) { return t.gravity == gravity; }));
}

void even_out(std::vector<Loudness>& all) {
    double meet = middle_of(all);
    // Nobody is turned up beyond full scale: then all meet lower.
    for (const Loudness& l : all)
        if (l.lufs) meet = std::min(meet, *l.lufs - l.peak_dBFS + (l.track ? music_below_LU : 0));
    for (Loudness& l : all)
        if (l.lufs) l.gain = meet - (l.track ? music_below_LU : 0) - *l.lufs;
}

Checked check(const job::Job& job, const catalogue::Catalogue& parts, const Card& card) {
    return Checker(job, parts, card).run();
}

} // namespace conductus::card
