// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <numeric>
#include <string>
#include <string_view>
#include <vector>

namespace conductus {

/// Letters to change, add or drop to turn one word into the other.
inline std::size_t edit_distance(std::string_view a, std::string_view b) {
    std::vector<std::size_t> row(b.size() + 1);
    std::iota(row.begin(), row.end(), std::size_t{0});
    for (std::size_t i = 0; i < a.size(); ++i) {
        std::size_t diagonal = row[0]++;
        for (std::size_t j = 0; j < b.size(); ++j) {
            const std::size_t kept = diagonal + (a[i] == b[j] ? 0 : 1);
            diagonal = row[j + 1];
            row[j + 1] = std::min({kept, row[j] + 1, row[j + 1] + 1});
        }
    }
    return row.back();
}

/// The candidate nearest to a mistyped word; empty where none is within a third of its length.
template <class Range>
std::string nearest_word(std::string_view word, const Range& candidates) {
    std::string best;
    if (word.size() > 100) return best; // no word that was mistyped
    std::size_t least = std::max<std::size_t>(2, word.size() / 3) + 1;
    for (const auto& candidate : candidates)
        if (const std::size_t d = edit_distance(word, candidate); d < least) {
            least = d;
            best = std::string(candidate);
        }
    return best;
}

} // namespace conductus
