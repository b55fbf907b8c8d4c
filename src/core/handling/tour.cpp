// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/handling/tour.h"

#include <algorithm>
#include <limits>
#include <map>
#include <numeric>
#include <optional>
#include <queue>
#include <set>

#include "core/handling/gestures.h"
#include "core/job/lookup.h"

namespace conductus::handling {
namespace {

using job::BladeThere;
using job::Command;
using job::Does;

constexpr int restart_costs = 5;
constexpr int far = std::numeric_limits<int>::max() / 4;
constexpr std::size_t tries = 300; ///< of joining what is apart, before the best is taken as it is

struct Arc {
    std::size_t from = 0, to = 0;
    int cost = 1;
    bool asked = false; ///< has to be walked
    TourStep step;
};

/// The states of the hilt, with the preset that is shown and whether the blade is in, as far as the
/// map tells them apart.
class Graph {
public:
    explicit Graph(const job::Job& job) : job_(job), map_(job.handling) {
        const auto any = [&](auto which) {
            return std::any_of(map_.commands.begin(), map_.commands.end(), which);
        };
        if (any([](const Command& c) { return !c.preset.empty(); })) presets_ = job.presets.size();
        if (any([](const Command& c) { return c.blade != BladeThere::any; })) blades_ = 2;
        vertices = map_.states.size() * presets_ * blades_;
        add_commands();
        add_others();
    }

    std::size_t vertices = 0;
    std::vector<Arc> arcs;

private:
    [[nodiscard]] std::size_t vertex(std::size_t state, std::size_t preset, std::size_t out) const {
        return (state * presets_ + preset) * blades_ + out;
    }
    [[nodiscard]] std::size_t state(const std::string& name) const {
        return static_cast<std::size_t>(job::find_name(map_.states, name) - map_.states.data());
    }
    [[nodiscard]] std::string preset_name(std::size_t p) const {
        return presets_ > 1 ? job_.presets[p].name : std::string();
    }

    [[nodiscard]] bool is_so(const Command& c, std::size_t p, std::size_t out) const {
        Circumstance now;
        now.attitude =
            c.trigger.attitude == job::Attitude::any ? job::Attitude::level : c.trigger.attitude;
        now.blade_in = out == 0;
        now.preset = preset_name(p);
        if (!applies(c, c.state, now)) return false;
        // Where a preset has it otherwise, the usual is not understood.
        return std::none_of(map_.commands.begin(), map_.commands.end(), [&](const Command& o) {
            return applies(o, c.state, now) && o.trigger == c.trigger && goes_before(o, c);
        });
    }

    [[nodiscard]] std::size_t preset_after(const Command& c, std::size_t p) const {
        if (presets_ < 2) return p;
        if (c.does == Does::next_preset) return (p + 1) % presets_;
        if (c.does == Does::previous_preset) return (p + presets_ - 1) % presets_;
        if (c.does == Does::preset)
            if (const auto* named = job::find_name(job_.presets, c.what))
                return static_cast<std::size_t>(named - job_.presets.data());
        return p;
    }

    void add_commands() {
        for (std::size_t i = 0; i < map_.commands.size(); ++i) {
            const Command& c = map_.commands[i];
            const std::size_t from = state(c.state), to = c.leads.empty() ? from : state(c.leads);
            bool asked = false;
            for (std::size_t p = 0; p < presets_; ++p)
                for (std::size_t out = 0; out < blades_; ++out) {
                    if (!is_so(c, p, out)) continue;
                    TourStep step{
                        TourStep::Kind::command, i,       false, c.state, map_.states[to].name,
                        preset_name(p),          out == 0};
                    arcs.push_back({vertex(from, p, out), vertex(to, preset_after(c, p), out), 1,
                                    !asked, step});
                    asked = true;
                }
        }
    }

    void add_others() {
        for (std::size_t s = 0; s < map_.states.size(); ++s)
            for (std::size_t p = 0; p < presets_; ++p)
                for (std::size_t out = 0; out < blades_; ++out) {
                    const job::HandState& now = map_.states[s];
                    const std::size_t here = vertex(s, p, out);
                    TourStep step{TourStep::Kind::wait, 0,       false, now.name, now.then,
                                  preset_name(p),       out == 0};
                    if (!now.then.empty())
                        arcs.push_back({here, vertex(state(now.then), p, out), 1, false, step});
                    step.to = now.name, step.kind = TourStep::Kind::blade, step.blade_in = out != 0;
                    if (blades_ > 1) arcs.push_back({here, vertex(s, p, 1 - out), 1, false, step});
                    step.kind = TourStep::Kind::restart, step.to = map_.states.front().name;
                    step.blade_in = true;
                    if (here != 0) arcs.push_back({here, 0, restart_costs, false, step});
                }
    }

    const job::Job& job_;
    const job::Handling& map_;
    std::size_t presets_ = 1, blades_ = 1;
};

/// Shortest ways between all vertices.
class Ways {
public:
    explicit Ways(const Graph& g) : n_(g.vertices), cost_(n_ * n_, far), by_(n_ * n_) {
        for (std::size_t v = 0; v < n_; ++v)
            cost_[v * n_ + v] = 0;
        for (std::size_t a = 0; a < g.arcs.size(); ++a) {
            const Arc& arc = g.arcs[a];
            int& c = cost_[arc.from * n_ + arc.to];
            if (arc.from != arc.to && arc.cost < c) c = arc.cost, by_[arc.from * n_ + arc.to] = a;
        }
        for (std::size_t k = 0; k < n_; ++k)
            for (std::size_t i = 0; i < n_; ++i) {
                if (cost(i, k) >= far) continue;
                for (std::size_t j = 0; j < n_; ++j)
                    if (const int c = cost(i, k) + cost(k, j); c < cost(i, j))
                        cost_[i * n_ + j] = c, by_[i * n_ + j] = by_[i * n_ + k];
            }
    }
    [[nodiscard]] int cost(std::size_t from, std::size_t to) const { return cost_[from * n_ + to]; }
    /// The arcs on the way.
    [[nodiscard]] std::vector<std::size_t> arcs(const Graph& g, std::size_t from,
                                                std::size_t to) const {
        std::vector<std::size_t> all;
        while (from != to) {
            all.push_back(by_[from * n_ + to]);
            from = g.arcs[all.back()].to;
        }
        return all;
    }

private:
    std::size_t n_;
    std::vector<int> cost_;
    std::vector<std::size_t> by_; ///< first arc of the way
};

/// Least-cost flow from what has to be left to what has to be reached, one unit after the other.
class Transport {
public:
    Transport(std::vector<std::size_t> from, std::vector<std::size_t> to)
        : from_(std::move(from)), to_(std::move(to)) {}
    /// Pairs of vertices, a way from the first to the second each. `end` stands for the end of the
    /// walk, which is reached from everywhere at no cost.
    static constexpr std::size_t end = std::numeric_limits<std::size_t>::max();
    std::vector<std::pair<std::size_t, std::size_t>> solve(const Ways& ways) {
        // An assignment, by successive shortest augmenting paths with potentials (row by row).
        const std::size_t n = to_.size();
        const auto price = [&](std::size_t i, std::size_t j) {
            return to_[j] == end ? 0 : ways.cost(from_[i], to_[j]);
        };
        std::vector<int> u(n + 1), v(n + 1);
        std::vector<std::size_t> row(n + 1), way(n + 1);
        for (std::size_t i = 1; i <= n; ++i) {
            row[0] = i;
            std::size_t j0 = 0;
            std::vector<int> least(n + 1, far);
            std::vector<bool> used(n + 1);
            do {
                used[j0] = true;
                const std::size_t i0 = row[j0];
                int delta = far;
                std::size_t j1 = 0;
                for (std::size_t j = 1; j <= n; ++j) {
                    if (used[j]) continue;
                    const int c = price(i0 - 1, j - 1) - u[i0] - v[j];
                    if (c < least[j]) least[j] = c, way[j] = j0;
                    if (least[j] < delta) delta = least[j], j1 = j;
                }
                for (std::size_t j = 0; j <= n; ++j)
                    if (used[j])
                        u[row[j]] += delta, v[j] -= delta;
                    else
                        least[j] -= delta;
                j0 = j1;
            } while (row[j0] != 0);
            do {
                const std::size_t j1 = way[j0];
                row[j0] = row[j1];
                j0 = j1;
            } while (j0);
        }
        std::vector<std::pair<std::size_t, std::size_t>> pairs;
        for (std::size_t j = 1; j <= n; ++j)
            pairs.emplace_back(from_[row[j] - 1], to_[j - 1]);
        return pairs;
    }

private:
    std::vector<std::size_t> from_, to_; ///< as many of one as of the other
};

/// Arcs that are walked, each as often as it is there, and what they cost.
struct Walked {
    std::vector<std::size_t> arcs;
    int cost = 0;
    std::vector<std::size_t> forced; ///< beside those that are asked
};

Walked balanced(const Graph& g, const Ways& ways, const std::vector<std::size_t>& asked,
                std::vector<std::size_t> forced) {
    Walked w;
    w.arcs = asked;
    w.arcs.insert(w.arcs.end(), forced.begin(), forced.end());
    w.forced = std::move(forced);
    std::vector<int> leaves(g.vertices);
    for (const std::size_t a : w.arcs)
        ++leaves[g.arcs[a].from], --leaves[g.arcs[a].to];
    --leaves[0]; // the walk comes from nowhere to the first state
    std::vector<std::size_t> from, to;
    for (std::size_t v = 0; v < g.vertices; ++v)
        for (int k = 0; k < std::abs(leaves[v]); ++k)
            (leaves[v] < 0 ? from : to).push_back(v);
    to.push_back(Transport::end);
    for (const auto& [a, b] : Transport(std::move(from), std::move(to)).solve(ways))
        if (b != Transport::end)
            for (const std::size_t arc : ways.arcs(g, a, b))
                w.arcs.push_back(arc);
    for (const std::size_t a : w.arcs)
        w.cost += g.arcs[a].cost;
    return w;
}

/// Which vertices the walk's arcs join with which; those without an arc stand alone.
std::vector<std::size_t> joined(const Graph& g, const std::vector<std::size_t>& arcs) {
    std::vector<std::size_t> of(g.vertices);
    std::iota(of.begin(), of.end(), std::size_t{0});
    const auto root = [&](std::size_t v) {
        while (of[v] != v)
            v = of[v] = of[of[v]];
        return v;
    };
    for (const std::size_t a : arcs)
        of[root(g.arcs[a].from)] = root(g.arcs[a].to);
    for (std::size_t v = 0; v < g.vertices; ++v)
        of[v] = root(v);
    return of;
}

/// A set of vertices that the walk has arcs in and does not come to; empty: it comes to all.
std::optional<std::size_t> apart(const Graph& g, const Walked& w,
                                 const std::vector<std::size_t>& part) {
    for (const std::size_t a : w.arcs)
        if (part[g.arcs[a].from] != part[0]) return part[g.arcs[a].from];
    return std::nullopt;
}

struct Joined {
    Walked walked;
    int least = 0; ///< no walk costs less
};

/// The walk with one arc more into the piece that is apart, for each arc there is.
template <class Visit>
void each_way_in(const Graph& g, const Ways& ways, const Walked& w,
                 const std::vector<std::size_t>& part, std::size_t piece, Visit visit) {
    for (std::size_t a = 0; a < g.arcs.size(); ++a) {
        const Arc& arc = g.arcs[a];
        if (part[arc.to] != piece || part[arc.from] == piece || ways.cost(0, arc.from) >= far)
            continue;
        auto forced = w.forced;
        forced.push_back(a);
        std::sort(forced.begin(), forced.end());
        visit(std::move(forced));
    }
}

/// Joins one piece after the other, each by the arc that costs least.
Walked joined_nearest(const Graph& g, const Ways& ways, const std::vector<std::size_t>& asked,
                      Walked w) {
    for (;;) {
        const auto part = joined(g, w.arcs);
        const auto piece = apart(g, w, part);
        if (!piece) return w;
        std::optional<Walked> nearest;
        each_way_in(g, ways, w, part, *piece, [&](std::vector<std::size_t> forced) {
            Walked next = balanced(g, ways, asked, std::move(forced));
            if (!nearest || next.cost < nearest->cost) nearest = std::move(next);
        });
        if (!nearest) return w; // nothing leads there
        w = std::move(*nearest);
    }
}

/// Adds arcs until all is in one piece: the best first, each way into a piece that is apart.
Joined join_pieces(const Graph& g, const Ways& ways, const std::vector<std::size_t>& asked,
                   Walked first) {
    const auto dearer = [](const Walked& a, const Walked& b) { return a.cost > b.cost; };
    std::priority_queue<Walked, std::vector<Walked>, decltype(dearer)> open(dearer);
    Walked best = joined_nearest(g, ways, asked, first);
    open.push(std::move(first));
    std::set<std::vector<std::size_t>> seen;
    for (std::size_t round = 0; !open.empty() && open.top().cost < best.cost; ++round) {
        if (round >= tries) return {std::move(best), open.top().cost};
        Walked w = open.top();
        open.pop();
        const auto part = joined(g, w.arcs);
        const auto piece = apart(g, w, part);
        if (!piece) {
            best = std::move(w);
            break;
        }
        each_way_in(g, ways, w, part, *piece, [&](std::vector<std::size_t> forced) {
            if (!seen.insert(forced).second) return;
            Walked next = balanced(g, ways, asked, std::move(forced));
            if (next.cost < best.cost) open.push(std::move(next));
        });
    }
    const int least = best.cost;
    return {std::move(best), least};
}

/// The arcs one after the other, from the first vertex on.
std::vector<std::size_t> trail(const Graph& g, std::vector<std::size_t> arcs) {
    std::vector<std::vector<std::size_t>> out(g.vertices);
    std::sort(arcs.begin(), arcs.end(), std::greater<>());
    for (const std::size_t a : arcs)
        out[g.arcs[a].from].push_back(a);
    std::vector<std::size_t> stack, walk; // arcs; the first vertex is entered by none
    std::size_t at = 0;
    for (;;) {
        if (!out[at].empty()) {
            stack.push_back(out[at].back());
            out[at].pop_back();
            at = g.arcs[stack.back()].to;
        } else if (!stack.empty()) {
            walk.push_back(stack.back());
            at = g.arcs[stack.back()].from;
            stack.pop_back();
        } else {
            break;
        }
    }
    std::reverse(walk.begin(), walk.end());
    return walk;
}

} // namespace

Tour shortest_tour(const job::Job& job) {
    Tour tour;
    if (job.handling.states.empty() || job.handling.commands.empty()) return tour;
    const Graph g(job);
    const Ways ways(g);
    std::vector<std::size_t> asked;
    std::set<std::size_t> reached;
    for (std::size_t a = 0; a < g.arcs.size(); ++a)
        if (g.arcs[a].asked && ways.cost(0, g.arcs[a].from) < far) {
            asked.push_back(a);
            reached.insert(g.arcs[a].step.command);
        }
    for (std::size_t c = 0; c < job.handling.commands.size(); ++c)
        if (!reached.contains(c)) tour.left_out.push_back(c);
    if (asked.empty()) return tour;
    const Joined all = join_pieces(g, ways, asked, balanced(g, ways, asked, {}));
    tour.cost = all.walked.cost;
    tour.least = all.least;
    tour.shortest = tour.cost == tour.least;
    std::set<std::size_t> tried;
    for (const std::size_t a : trail(g, all.walked.arcs)) {
        TourStep step = g.arcs[a].step;
        step.first = step.kind == TourStep::Kind::command && tried.insert(step.command).second;
        tour.steps.push_back(std::move(step));
    }
    return tour;
}

} // namespace conductus::handling
