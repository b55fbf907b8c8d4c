// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/preset_changes.h"

#include <algorithm>
#include <cctype>

#include "core/job/lookup.h"

namespace conductus::job {
namespace {

std::string plain(std::string_view text) {
    std::string all;
    for (const char c : text)
        all += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    const auto first = all.find_first_not_of(" \t");
    if (first == std::string::npos) return {};
    return all.substr(first, all.find_last_not_of(" \t") - first + 1);
}

/// Tracks in one line, as they are typed: "march.wav, storm.wav".
std::string tracks_text(const Preset& p) {
    std::string all;
    for (const Track& t : p.tracks)
        all += (all.empty() ? "" : ", ") + t.name;
    return all;
}

/// The same tracks, in whatever order and with whatever between them.
std::vector<std::string> track_names(const std::string& text) {
    std::vector<std::string> all;
    std::string one;
    for (const char c : text + ",") {
        if (c != ',' && c != ';') {
            one += c;
            continue;
        }
        if (const std::string name = plain(one); !name.empty()) all.push_back(name);
        one.clear();
    }
    std::sort(all.begin(), all.end());
    return all;
}

/// Whether the look that somebody told is that one: its words are the name, or have it in them.
bool is_look(const std::string& told, const std::string& look) {
    const std::string words = plain(told), name = plain(look);
    return words.empty() || words == name ||
           (!name.empty() && words.find(name) != std::string::npos);
}

std::size_t place_of(const std::vector<PresetTold>& list, const std::string& name) {
    for (std::size_t i = 0; i < list.size(); ++i)
        if (plain(list[i].name) == plain(name)) return i + 1;
    return 0;
}

/// Of places in a row those that are not in a longest rising row: those that were moved.
std::vector<bool> out_of_order(const std::vector<std::size_t>& places) {
    const std::size_t n = places.size();
    std::vector<std::size_t> longest(n, 1), before(n, n);
    for (std::size_t i = 0; i < n; ++i)
        for (std::size_t k = 0; k < i; ++k)
            // Of two that changed places the one that came forward was moved.
            if (places[k] < places[i] && longest[k] + 1 >= longest[i] && longest[k] + 1 > 1)
                longest[i] = longest[k] + 1, before[i] = k;
    std::vector<bool> moved(n, true);
    if (n == 0) return moved;
    auto at = static_cast<std::size_t>(std::max_element(longest.begin(), longest.end()) -
                                       longest.begin());
    for (; at != n; at = before[at])
        moved[at] = false;
    return moved;
}

Message or_none(const std::string& text) { return text.empty() ? Message("none") : Message(text); }

} // namespace

Message label(const PresetChange& c) {
    std::vector<Message> words;
    if (c.added) words.emplace_back("added");
    if (c.gone) words.emplace_back("taken out");
    if (c.renamed) words.emplace_back("renamed");
    if (c.moved) words.emplace_back("moved");
    if (c.recoloured) words.emplace_back("recoloured");
    if (c.mended) words.emplace_back("mended");
    if (words.empty()) return "untouched";
    return joined(words, ", ");
}

std::vector<PresetChange> preset_changes(const Job& job) {
    std::vector<PresetChange> all;
    std::vector<std::size_t> stayed, places; // in `all`, and where they were
    std::vector<bool> taken(job.presets_found.size(), false);
    for (std::size_t i = 0; i < job.presets.size(); ++i) {
        const Preset& p = job.presets[i];
        PresetChange c;
        c.name = p.name;
        c.now = i + 1;
        c.found = place_of(job.presets_found, p.was.empty() ? p.name : p.was);
        if (c.found > 0 && taken[c.found - 1]) c.found = 0;
        c.asked = place_of(job.presets_asked, p.name);
        if (c.found == 0) {
            c.added = true;
            c.lines.push_back(say("font {}, look {}", or_none(p.font), p.look));
        } else {
            taken[c.found - 1] = true;
            const PresetTold& was = job.presets_found[c.found - 1];
            if (plain(was.name) != plain(p.name)) {
                c.renamed = true;
                c.lines.push_back(say("name: {} → {}", was.name, p.name));
            }
            if (!is_look(was.look, p.look)) {
                c.recoloured = true;
                c.lines.push_back(say("look: {} → {}", was.look, p.look));
            }
            if (!was.font.empty() && was.font != p.font) {
                c.mended = true;
                c.lines.push_back(say("font: {} → {}", was.font, or_none(p.font)));
            }
            if (track_names(was.tracks) != track_names(tracks_text(p)) &&
                !(was.tracks.empty() && p.tracks.empty())) {
                c.mended = true;
                c.lines.push_back(
                    say("tracks: {} → {}", or_none(was.tracks), or_none(tracks_text(p))));
            }
            if (!was.note.empty()) c.lines.push_back(say("found: {}", was.note));
            stayed.push_back(all.size());
            places.push_back(c.found);
        }
        const std::string note = c.asked > 0 ? job.presets_asked[c.asked - 1].note : std::string();
        if (!note.empty()) c.wishes.push_back(note);
        for (const Wish& w : job.brief.wishes) {
            const bool ties =
                (w.by == Proof::look && !w.target.empty() && w.target == p.look) ||
                (!p.name.empty() && plain(w.text).find(plain(p.name)) != std::string::npos);
            if (!ties) continue;
            // The same asked for twice is told once, in the fuller words.
            if (!note.empty() && plain(w.text).find(plain(note)) != std::string::npos)
                std::erase(c.wishes, note);
            c.wishes.push_back(w.text);
        }
        all.push_back(std::move(c));
    }
    const auto moved = out_of_order(places);
    for (std::size_t k = 0; k < stayed.size(); ++k)
        if (moved[k]) {
            PresetChange& c = all[stayed[k]];
            c.moved = true;
            c.lines.push_back(say("place: {} → {}", c.found, c.now));
        }
    for (std::size_t i = 0; i < job.presets_found.size(); ++i) {
        if (taken[i]) continue;
        PresetChange c;
        c.name = job.presets_found[i].name;
        c.found = i + 1;
        c.gone = true;
        c.asked = place_of(job.presets_asked, c.name);
        all.push_back(std::move(c));
    }
    return all;
}

Edit write_down_as_found() {
    return [](Job& job) {
        job.presets_found.clear();
        for (Preset& p : job.presets) {
            job.presets_found.push_back({p.name, p.font, p.look, tracks_text(p), {}});
            p.was.clear();
        }
    };
}

Edit take_told(std::vector<PresetTold> told, bool asked) {
    return [told = std::move(told), asked](Job& job) {
        auto& list = asked ? job.presets_asked : job.presets_found;
        list.insert(list.end(), told.begin(), told.end());
    };
}

std::vector<NotAsAsked> not_as_asked(const Job& job) {
    std::vector<NotAsAsked> all;
    std::vector<std::size_t> places;
    std::vector<const PresetTold*> there;
    for (const PresetTold& asked : job.presets_asked) {
        const auto is = [&](const Preset& p) { return plain(p.name) == plain(asked.name); };
        const auto it = std::find_if(job.presets.begin(), job.presets.end(), is);
        if (it == job.presets.end()) {
            all.push_back({asked.name, "missing",
                           say("preset {} is asked for and is not there", asked.name)});
            continue;
        }
        places.push_back(static_cast<std::size_t>(it - job.presets.begin()));
        there.push_back(&asked);
        if (!is_look(asked.look, it->look))
            all.push_back({asked.name, "look",
                           say("preset {} is asked for with {}, it shows {}", asked.name,
                               asked.look, or_none(it->look))});
        if (!asked.font.empty() && asked.font != it->font)
            all.push_back({asked.name, "font",
                           say("preset {} is asked for with the font {}, it has {}", asked.name,
                               asked.font, or_none(it->font))});
        if (!asked.tracks.empty() && track_names(asked.tracks) != track_names(tracks_text(*it)))
            all.push_back({asked.name, "tracks",
                           say("preset {} is asked for with {}, it plays {}", asked.name,
                               asked.tracks, or_none(tracks_text(*it)))});
    }
    const auto moved = out_of_order(places);
    for (std::size_t i = 0; i < places.size(); ++i)
        if (moved[i])
            all.push_back(
                {there[i]->name, "order",
                 say("preset {} is asked for in another place of the order", there[i]->name)});
    return all;
}

std::vector<Message> change_list(const Job& job) {
    std::vector<Message> lines;
    for (const PresetChange& c : preset_changes(job)) {
        lines.push_back(c.now > 0 ? say("{}. {}: {}", c.now, c.name, label(c))
                                  : say("{}: {}", c.name, label(c)));
        for (const Message& line : c.lines)
            lines.push_back(say("   {}", line));
        for (const std::string& wish : c.wishes)
            lines.push_back(say("   asked: {}", wish));
    }
    for (const NotAsAsked& n : not_as_asked(job))
        lines.push_back(say("Not as asked: {}", n.text));
    return lines;
}

} // namespace conductus::job
