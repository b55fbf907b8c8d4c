// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/mating.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

#include "core/job/lookup.h"
#include "core/job/names.h"

namespace conductus::job {
namespace {

bool goes_into(const Blade& blade, const std::string& socket) {
    return blade.connector == socket ||
           std::any_of(blade.goes_into.begin(), blade.goes_into.end(),
                       [&](const GoesInto& g) { return g.socket == socket; });
}

/// A count at a strip's density may say that little more than its blade is long.
constexpr double strip_over = 4; // mm, half a pixel of the usual densities

bool is_loose(const Blade& blade) { return !blade.connector.empty() || !blade.goes_into.empty(); }

const Mated* in_set(const std::vector<Mated>& set, const std::string& blade) {
    const auto it =
        std::find_if(set.begin(), set.end(), [&](const Mated& m) { return m.blade == blade; });
    return it == set.end() ? nullptr : &*it;
}

/// Adds one socket after the other; every set is complete when the sockets are through.
void add_sets(const Job& job, const std::vector<std::string>& sockets, std::vector<Mated>& set,
              std::size_t most, std::vector<std::vector<Mated>>& all) {
    if (all.size() >= most) return;
    if (set.size() == sockets.size()) {
        all.push_back(set);
        return;
    }
    const std::string& socket = sockets[set.size()];
    for (const std::string& blade : mates_of(job, socket)) {
        if (in_set(set, blade)) continue;
        set.push_back({socket, blade});
        add_sets(job, sockets, set, most, all);
        set.pop_back();
    }
    set.push_back({socket, {}});
    add_sets(job, sockets, set, most, all);
    set.pop_back();
}

} // namespace

std::vector<std::string> sockets_of(const Job& job) {
    std::vector<std::string> sockets;
    for (const Part& part : job.parts)
        if (std::any_of(job.blades.begin(), job.blades.end(),
                        [&](const Blade& b) { return goes_into(b, part.ref); }))
            sockets.push_back(part.ref);
    return sockets;
}

std::vector<std::string> mates_of(const Job& job, const std::string& socket) {
    std::vector<std::string> mates;
    for (const Blade& blade : job.blades)
        if (goes_into(blade, socket)) mates.push_back(blade.ref);
    return mates;
}

std::vector<Mated> mated_set(const Job& job) {
    std::vector<Mated> set;
    for (const std::string& socket : sockets_of(job)) {
        const auto said = std::find_if(job.mated.begin(), job.mated.end(),
                                       [&](const Mated& m) { return m.socket == socket; });
        if (said != job.mated.end()) {
            set.push_back(*said);
            continue;
        }
        const auto own = std::find_if(job.blades.begin(), job.blades.end(), [&](const Blade& b) {
            return b.connector == socket && !in_set(job.mated, b.ref);
        });
        set.push_back({socket, own == job.blades.end() ? std::string() : own->ref});
    }
    return set;
}

std::string set_text(const std::vector<Mated>& set) {
    std::string all;
    for (const Mated& m : set)
        all += fmt::format("{}{} in {}", all.empty() ? "" : ", ",
                           m.blade.empty() ? "nothing" : m.blade, m.socket);
    return all;
}

std::string set_text(const std::vector<Mated>& set, const std::vector<Mated>& now) {
    std::vector<Mated> other;
    for (const Mated& m : set)
        if (std::find(now.begin(), now.end(), m) == now.end()) other.push_back(m);
    return set_text(other.empty() ? set : other);
}

bool has_choice(const Job& job) {
    for (const std::string& socket : sockets_of(job))
        if (mates_of(job, socket).size() > 1) return true;
    return std::any_of(job.blades.begin(), job.blades.end(),
                       [](const Blade& b) { return !b.goes_into.empty(); });
}

Job as_mated(const Job& job, const std::vector<Mated>& set) {
    Job as = job;
    as.mated.clear();
    std::vector<std::string> out;
    std::erase_if(as.blades, [&](const Blade& blade) {
        const bool goes = is_loose(blade) && !in_set(set, blade.ref);
        if (goes) out.push_back(blade.ref);
        return goes;
    });
    for (Blade& blade : as.blades) {
        const Mated* m = in_set(set, blade.ref);
        if (!m) continue;
        // It stands as what has its home there does, unless it says how it stands itself.
        const bool elsewhere = blade.connector != m->socket;
        if (elsewhere || (!blade.stands_at && blade.angle == Degree(0))) {
            const auto home =
                std::find_if(job.blades.begin(), job.blades.end(),
                             [&](const Blade& b) { return b.connector == m->socket; });
            blade.stands_at = home == job.blades.end() ? std::nullopt : home->stands_at;
            blade.angle = home == job.blades.end() ? Degree(0) : home->angle;
            blade.connector = m->socket;
        }
        blade.goes_into.clear();
    }
    std::erase_if(as.wires, [&](const Wire& wire) {
        return std::any_of(out.begin(), out.end(), [&](const std::string& ref) {
            return split_terminal(wire.from).first == ref || split_terminal(wire.to).first == ref;
        });
    });
    return as;
}

std::vector<std::vector<Mated>> all_sets(const Job& job, std::size_t most) {
    const auto sockets = sockets_of(job);
    std::vector<std::vector<Mated>> all{mated_set(job)}, others;
    std::vector<Mated> set;
    add_sets(job, sockets, set, most, others);
    for (auto& other : others)
        if (other != all.front() && all.size() < most) all.push_back(std::move(other));
    return all;
}

void forget_lost_mates(Job& job) {
    for (Blade& blade : job.blades)
        std::erase_if(blade.goes_into, [&](const GoesInto& g) {
            return !find_ref(job.parts, g.socket) || g.socket == blade.connector;
        });
    std::erase_if(job.mated, [&](const Mated& m) {
        const auto mates = mates_of(job, m.socket);
        return mates.empty() ||
               (!m.blade.empty() && std::find(mates.begin(), mates.end(), m.blade) == mates.end());
    });
}

Edit add_mate() {
    return [](Job& job) {
        Blade blade;
        const auto like = std::find_if(job.blades.rbegin(), job.blades.rend(),
                                       [](const Blade& b) { return is_loose(b); });
        if (like != job.blades.rend()) {
            blade = *like;
        } else {
            blade.length = Millimetre(813);
            blade.outer = Millimetre(25.4);
        }
        blade.ref.clear();
        // Where it stands is its socket's affair, which may be another than the one it is like.
        blade.stands_at.reset(), blade.angle = Degree(0);
        std::vector<Mated> set = mated_set(job);
        for (Strip& strip : blade.strips)
            strip.ref.clear();
        blade.strings.clear(); // a string is soldered to pads of its own
        job.blades.push_back(blade);
        Blade& added = job.blades.back();
        added.ref = free_ref(job, "BL");
        for (Strip& strip : added.strips)
            strip.ref = free_ref(job, "ST");
        // What stands in the sockets stays there.
        if (!added.connector.empty()) job.mated = std::move(set);
    };
}

namespace {

/// "117 + 117", "117, 117": the counts; empty: something else is written there.
std::vector<int> counts_in(const std::string& typed) {
    std::vector<int> counts;
    std::string digits;
    for (const char c : typed + " ") {
        if (c >= '0' && c <= '9') {
            digits += c;
        } else if (c == ' ' || c == '+' || c == ',' || c == ';' || c == '\t') {
            if (digits.size() > 6) return {};
            if (!digits.empty()) counts.push_back(std::stoi(digits));
            digits.clear();
        } else {
            return {};
        }
    }
    return counts;
}

} // namespace

Edit give_pixels(std::size_t index, std::string typed, const catalogue::Catalogue& parts) {
    return [index, typed = std::move(typed), &parts](Job& job) -> Result<void> {
        if (index >= job.blades.size()) return {};
        Blade& blade = job.blades[index];
        if (typed == "plain") {
            if (!is_loose(blade))
                return problem(blade.ref, "is wired to its pads, and would leave them loose",
                               "Name its socket first, or take the blade out");
            blade.strips.clear();
            return {};
        }
        const std::vector<int> counts = counts_in(typed);
        if (counts.empty() || *std::min_element(counts.begin(), counts.end()) < 1)
            return problem(blade.ref, say("'{}' is no count of pixels", typed),
                           "Write them as 117 + 117, a strip each, or plain");
        if (blade.strips.empty()) {
            // A strip that fills one tube goes into another of the same diameter.
            const auto far = [&](const Blade& b) {
                return b.strips.empty() ? std::numeric_limits<double>::infinity()
                                        : std::abs((b.outer - blade.outer).value());
            };
            const auto like =
                std::min_element(job.blades.begin(), job.blades.end(),
                                 [&](const Blade& a, const Blade& b) { return far(a) < far(b); });
            if (like->strips.empty())
                return problem(blade.ref, "has no strip, and no other blade has one to go by",
                               "Fit a strip on it on the sheet Parts of the hilt");
            blade.strips.push_back(like->strips.front());
            blade.strips.back().ref = free_ref(job, "ST");
        }
        while (blade.strips.size() > counts.size())
            blade.strips.pop_back();
        while (blade.strips.size() < counts.size()) {
            Strip more = blade.strips.back();
            more.ref.clear();
            more.ref = free_ref(job, "ST");
            blade.strips.push_back(std::move(more));
        }
        for (std::size_t i = 0; i < counts.size(); ++i) {
            Strip& strip = blade.strips[i];
            if (strip.pixels == counts[i]) continue;
            strip.pixels = counts[i];
            if (const auto* type = parts.find_as<catalogue::Strip>(strip.type))
                strip.length = Millimetre(std::round(1e3 * counts[i] / type->density.value()));
            // A strip that runs to the tip ends there.
            if (strip.length > blade.length && strip.length - blade.length < Millimetre(strip_over))
                strip.length = blade.length;
        }
        return {};
    };
}

Edit also_into(std::size_t index, std::string typed) {
    return [index, typed = std::move(typed)](Job& job) -> Result<void> {
        if (index >= job.blades.size()) return {};
        Blade& blade = job.blades[index];
        std::vector<GoesInto> all;
        std::string word;
        const auto take = [&]() -> Result<void> {
            if (word.empty()) return {};
            if (!find_ref(job.parts, word))
                return problem(word, "is no part of this job",
                               "Name hilt connectors, with commas between them");
            if (word != blade.connector) all.push_back({word});
            word.clear();
            return {};
        };
        for (const char c : typed) {
            const bool between = c == ',' || c == ';' || c == ' ' || c == '\t';
            if (!between) {
                word += c;
                continue;
            }
            if (auto ok = take(); !ok) return ok;
        }
        if (auto ok = take(); !ok) return ok;
        const std::vector<Mated> set = mated_set(job);
        blade.goes_into = std::move(all);
        job.mated = set;
        return {};
    };
}

Edit mate(std::string socket, std::string blade) {
    return [socket = std::move(socket), blade = std::move(blade)](Job& job) -> Result<void> {
        const auto mates = mates_of(job, socket);
        if (mates.empty())
            return problem(socket, "is no socket of this hilt",
                           "Name the hilt connector that a blade goes into");
        if (!blade.empty() && std::find(mates.begin(), mates.end(), blade) == mates.end())
            return problem(blade, say("does not go into {}", socket),
                           say("Into {} go {}", socket, conductus::joined(mates, ", ")));
        std::vector<Mated> set = mated_set(job);
        for (Mated& m : set) {
            if (!blade.empty() && m.blade == blade) m.blade.clear();
            if (m.socket == socket) m.blade = blade;
        }
        job.mated = std::move(set);
        return {};
    };
}

} // namespace conductus::job
