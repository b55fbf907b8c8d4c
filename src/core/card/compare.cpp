// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/card/compare.h"

#include <algorithm>
#include <map>

namespace conductus::card {

const char* word(Became became) {
    constexpr const char* words[] = {"same", "changed", "moved", "gone", "added"};
    return words[static_cast<int>(became)];
}

std::vector<CardLine> compare(const std::vector<job::CardFile>& was,
                              const std::vector<job::CardFile>& now,
                              const std::vector<job::MeantDifference>& meant) {
    std::map<std::string, const job::CardFile*> then, here;
    for (const job::CardFile& f : was)
        then[f.path] = &f;
    for (const job::CardFile& f : now)
        here[f.path] = &f;
    std::multimap<std::string, std::string> gone; // paths by content
    for (const auto& [path, f] : then)
        if (!here.contains(path)) gone.emplace(f->hash, path);
    std::vector<CardLine> lines;
    for (const auto& [path, f] : here) {
        CardLine line{path, {}, Became::same, {}};
        if (const auto it = then.find(path); it != then.end()) {
            if (it->second->hash != f->hash) line.became = Became::changed;
        } else if (const auto from = gone.find(f->hash); from != gone.end() && f->bytes > 0) {
            line.became = Became::moved;
            line.was = from->second;
            gone.erase(from);
        } else {
            line.became = Became::added;
        }
        lines.push_back(std::move(line));
    }
    for (const auto& [hash, path] : gone)
        lines.push_back({path, {}, Became::gone, {}});
    for (CardLine& line : lines)
        for (const job::MeantDifference& m : meant)
            if (line.became != Became::same && !m.path.empty() &&
                (line.path == m.path || line.was == m.path || line.path.starts_with(m.path + "/")))
                line.meant = m.why.empty() ? "meant" : m.why;
    std::sort(lines.begin(), lines.end(),
              [](const CardLine& a, const CardLine& b) { return a.path < b.path; });
    return lines;
}

} // namespace conductus::card
