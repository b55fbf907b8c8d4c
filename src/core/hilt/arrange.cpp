// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/arrange.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <functional>
#include <map>
#include <set>

#include "core/base/format.h"
#include "core/hilt/assembly.h"
#include "core/hilt/sound_space.h"
#include "core/hilt/start_places.h"
#include "core/job/lookup.h"

namespace conductus::hilt {
namespace {

constexpr double least_gap = 1e-6;
constexpr std::size_t most_blocks = 14, most_orders = 10, most_told = 6;
constexpr double least_wall = 0.8, least_carrier = 0.4; ///< mm, of hilt and printed carrier

/// Refs of parts that lie beside each other, pommel first; most stand alone.
using Groups = std::vector<std::vector<std::string>>;

Groups groups_of(const job::Job& job, const catalogue::Catalogue& parts) {
    const auto bodies = place_all(job, parts);
    std::vector<const PlacedBody*> sorted;
    for (const PlacedBody& b : bodies)
        if (b.in_bore) sorted.push_back(&b);
    std::stable_sort(sorted.begin(), sorted.end(),
                     [](auto* a, auto* b) { return a->from < b->from; });
    Groups groups;
    std::vector<const PlacedBody*> last;
    Millimetre end(0);
    for (const PlacedBody* b : sorted) {
        bool joins = !last.empty() && b->from < end - Millimetre(least_gap);
        for (const PlacedBody* other : last)
            for (const Solid& s : b->solids)
                for (const Solid& t : other->solids)
                    joins = joins && !outlines_overlap(s, t);
        if (!joins) groups.emplace_back(), last.clear(), end = b->to;
        groups.back().push_back(b->ref);
        last.push_back(b);
        end = std::max(end, b->to);
    }
    return groups;
}

/// The bodies of a job as blocks, and which of them may move.
struct Blocks {
    std::vector<Block> moving;
    std::vector<std::pair<double, double>> taken; ///< stretches that stay as they are
    bool clear = true;                            ///< what stays fits where it is
};

/// Whether a block stands beside the one that takes that stretch, neither in the other.
bool beside(const Block& block, const std::vector<Block>& staying, double from, double to) {
    for (const Block& other : staying) {
        if (other.start != from || other.start + other.length != to) continue;
        for (const PlacedBody* a : block.bodies)
            for (const PlacedBody* b : other.bodies)
                for (const Solid& s : a->solids)
                    for (const Solid& t : b->solids)
                        if (outlines_overlap(s, t)) return false;
        return true;
    }
    return false;
}

Blocks blocks_of(const job::Job& job, const std::vector<PlacedBody>& bodies, const Groups& groups,
                 const catalogue::Catalogue& parts) {
    const auto stays = [&](const std::string& ref) {
        return parts.find_as<catalogue::Connector>(job::find_ref(job.parts, ref)->type) ||
               std::any_of(job.hilt.openings.begin(), job.hilt.openings.end(),
                           [&](auto& o) { return o.part == ref; });
    };
    Blocks blocks;
    std::vector<Block> staying;
    const double end_of_hilt = job.hilt.sections.back().to.value();
    // The blade stands on its connector.
    for (const job::Blade& blade : job.blades)
        if (blade.stands_at || blade.angle != Degree(0))
            continue; // across the hilt: it takes nothing of its axis
        else if (const PlacedBody* c = job::find_ref(bodies, blade.connector))
            if (c->to.value() < end_of_hilt) blocks.taken.emplace_back(c->to.value(), end_of_hilt);
    for (const auto& group : groups) {
        Block block;
        block.start = INFINITY;
        double end = -INFINITY;
        for (const std::string& ref : group) {
            const PlacedBody* body = job::find_ref(bodies, ref);
            for (const PlacedBody* other : block.bodies)
                for (const Solid& s : body->solids)
                    for (const Solid& t : other->solids)
                        if (outlines_overlap(s, t)) blocks.clear = false;
            block.bodies.push_back(body);
            block.start = std::min(block.start, body->from.value());
            end = std::max(end, body->to.value());
            block.stays = block.stays || stays(ref);
            if (!parts.find_as<catalogue::Speaker>(job::find_ref(job.parts, ref)->type)) continue;
            const bool pommel = (body->from + body->to).value() <= end_of_hilt;
            block.first = block.first || pommel;
            block.last = block.last || !pommel;
        }
        block.length = end - block.start;
        describe(block);
        if (block.stays || blocks.moving.size() == most_blocks) {
            for (const auto& [from, to] : blocks.taken) {
                const bool apart = end <= from + least_gap || block.start >= to - least_gap;
                // What stays beside something else that stays is no matter, if it is beside it.
                blocks.clear = blocks.clear && (apart || beside(block, staying, from, to));
            }
            blocks.taken.emplace_back(block.start, end);
            staying.push_back(block);
            blocks.clear = blocks.clear && StartPlaces(job.hilt, block, {}).may_start(block.start);
        } else {
            blocks.moving.push_back(block);
        }
    }
    return blocks;
}

/// Least end and latest start of every set of blocks.
class Orders {
public:
    Orders(const job::Hilt& hilt, const Blocks& blocks)
        : blocks_(blocks.moving), clear_(blocks.clear) {
        end_ = hilt.sections.back().to.value();
        for (const Block& b : blocks_)
            places_.emplace_back(hilt, b, blocks.taken);
        const std::size_t sets = std::size_t{1} << blocks_.size();
        latest_.assign(sets, -INFINITY);
        latest_[0] = INFINITY;
        for (std::size_t set = 1; set < sets; ++set)
            for (std::size_t b = 0; b < blocks_.size(); ++b) {
                if (!(set >> b & 1) || !may_lead(b, set)) continue;
                const double after = std::min(latest_[set ^ (std::size_t{1} << b)], end_);
                latest_[set] = std::max(latest_[set], places_[b].latest(after - blocks_[b].length));
            }
    }

    [[nodiscard]] bool possible() const { return clear_ && latest_.back() >= -least_gap; }

    /// Up to `most` orders with a place for each block, the order the job has first.
    [[nodiscard]] std::vector<std::vector<std::pair<std::size_t, double>>>
    list(std::size_t most) const {
        std::vector<std::vector<std::pair<std::size_t, double>>> found;
        std::vector<std::size_t> order;
        const std::function<void(double, std::size_t)> go = [&](double at, std::size_t rest) {
            if (found.size() >= most) return;
            if (rest == 0) return found.push_back(spread(order));
            for (std::size_t b = 0; b < blocks_.size(); ++b) {
                if (!(rest >> b & 1) || !may_lead(b, rest)) continue;
                const std::size_t then = rest ^ (std::size_t{1} << b);
                const double x = places_[b].earliest(at);
                if (x + blocks_[b].length > std::min(latest_[then], end_) + least_gap) continue;
                order.push_back(b);
                go(x + blocks_[b].length, then);
                order.pop_back();
            }
        };
        if (possible()) go(0, latest_.size() - 1);
        return found;
    }

private:
    /// Whether a block may be the first of a set: the set is what stands from there on.
    [[nodiscard]] bool may_lead(std::size_t b, std::size_t set) const {
        const bool all = set == latest_.size() - 1, alone = set == std::size_t{1} << b;
        for (std::size_t k = 0; k < blocks_.size(); ++k) {
            if (blocks_[k].first && k != b && all) return false;
            if (blocks_[k].last && k == b && !alone) return false;
        }
        return !blocks_[b].first || all;
    }

    /// Each block of an order as near to where it was as the others allow.
    [[nodiscard]] std::vector<std::pair<std::size_t, double>>
    spread(const std::vector<std::size_t>& order) const {
        std::vector<double> last(order.size());
        double before = end_;
        for (std::size_t i = order.size(); i-- > 0;)
            before = last[i] = places_[order[i]].latest(before - blocks_[order[i]].length);
        std::vector<std::pair<std::size_t, double>> placed;
        double at = 0;
        for (std::size_t i = 0; i < order.size(); ++i) {
            const Block& b = blocks_[order[i]];
            const double x = places_[order[i]].nearest(b.start, at, last[i]);
            placed.emplace_back(order[i], x);
            at = x + b.length;
        }
        return placed;
    }

    const std::vector<Block>& blocks_;
    std::vector<StartPlaces> places_;
    std::vector<double> latest_;
    double end_ = 0;
    bool clear_;
};

bool possible(const job::Job& job, const Groups& groups, const catalogue::Catalogue& parts) {
    const auto bodies = place_all(job, parts);
    const Blocks blocks = blocks_of(job, bodies, groups, parts);
    return Orders(job.hilt, blocks).possible();
}

/// The job with every cell of another type.
job::Job with_cell(job::Job job, const catalogue::Catalogue& parts, const std::string& type) {
    for (job::Part& p : job.parts)
        if (parts.find_as<catalogue::Cell>(p.type)) p.type = type;
    return job;
}

struct Found {
    Arrangement arrangement;
    double capacity = 0;
};

Arrangement measured(const job::Job& job, const catalogue::Catalogue& parts) {
    const Fit f = fit(job, parts);
    Arrangement a;
    std::vector<const PlacedBody*> bodies;
    for (const PlacedBody& b : f.bodies)
        if (b.in_bore) bodies.push_back(&b);
    std::stable_sort(bodies.begin(), bodies.end(),
                     [](auto* x, auto* y) { return x->from < y->from; });
    Millimetre at(0);
    for (const PlacedBody* b : bodies) {
        a.parts.push_back({b->ref, job::find_ref(job.parts, b->ref)->type, b->from});
        a.spare_length = std::max(a.spare_length, b->from - at);
        at = std::max(at, b->to);
    }
    a.clearance = f.tightest() ? f.tightest()->spare : Millimetre(INFINITY);
    for (const Passing& p : f.passes)
        a.clearance = std::min(a.clearance, p.ok ? p.room : Millimetre(-INFINITY));
    if (const auto space = sound_space(job, parts, f.bodies)) a.cavity_ml = space->cavity_ml;
    const Assembly together = assembly(job, parts, f);
    if (const Access* cell = together.to("cell"); cell && cell->possible)
        a.cell_steps = static_cast<int>(cell->steps.size());
    if (const auto cell = job::first_of<catalogue::Cell>(job, parts)) a.cell = cell.part->type;
    return a;
}

void find(const job::Job& job, const job::Job& as_is, const Groups& groups,
          const catalogue::Catalogue& parts, std::vector<Found>& found, std::size_t& orders) {
    const auto bodies = place_all(job, parts);
    const Blocks blocks = blocks_of(job, bodies, groups, parts);
    const Orders all(job.hilt, blocks);
    std::vector<Found> own;
    for (const auto& order : all.list(most_orders)) {
        job::Job there = job;
        for (const auto& [b, start] : order)
            for (const PlacedBody* body : blocks.moving[b].bodies)
                job::find_ref(there.parts, body->ref)->at =
                    Millimetre(start + body->from.value() - blocks.moving[b].start);
        Found f{measured(there, parts), 0};
        // The carrier as one may bind where none of its slices does.
        if (f.arrangement.clearance < Millimetre(-least_gap)) continue;
        ++orders;
        f.arrangement.as_it_is = there.parts == as_is.parts;
        if (const auto* cell = parts.find_as<catalogue::Cell>(f.arrangement.cell))
            f.capacity = cell->capacity.value();
        own.push_back(std::move(f));
    }
    std::stable_sort(own.begin(), own.end(), [](const Found& x, const Found& y) {
        const auto& a = x.arrangement;
        const auto& b = y.arrangement;
        const auto steps = [](int s) { return s < 0 ? 99 : s; };
        if (steps(a.cell_steps) != steps(b.cell_steps))
            return steps(a.cell_steps) < steps(b.cell_steps);
        if (std::abs((a.clearance - b.clearance).value()) > 0.05) return a.clearance > b.clearance;
        return a.cavity_ml > b.cavity_ml + 0.05;
    });
    if (own.size() > 2) own.resize(2);
    found.insert(found.end(), own.begin(), own.end());
}

/// Least d in (0, most] for which `works`, which holds from some d on; empty where it never does.
std::optional<double> least(double most, const std::function<bool(double)>& works) {
    if (most <= 0 || !works(most)) return std::nullopt;
    double low = 0, high = most;
    while (high - low > 0.01)
        (works((low + high) / 2) ? high : low) = (low + high) / 2;
    return std::ceil(high * 10 - 1e-6) / 10 <= most ? std::ceil(high * 10 - 1e-6) / 10 : high;
}

std::string mm(double v) { return three_figures(v); }

void remedies(const job::Job& job, const Groups& groups, const catalogue::Catalogue& parts,
              Arranged& result) {
    for (std::size_t i = 0; i < job.hilt.sections.size(); ++i) {
        const job::BoreSection& s = job.hilt.sections[i];
        const double most = std::min(s.outer, s.outer_end.value_or(s.outer)).value() -
                            std::max(s.bore, s.bore_end.value_or(s.bore)).value() - 2 * least_wall;
        const auto by = least(most, [&](double d) {
            job::Job wider = job;
            wider.hilt.sections[i].bore += Millimetre(d);
            if (s.bore_end) *wider.hilt.sections[i].bore_end += Millimetre(d);
            return possible(wider, groups, parts);
        });
        if (by)
            result.remedies.push_back({say("bore {} from {} to {} mm", s.name, mm(s.bore.value()),
                                           mm(s.bore.value() + *by)),
                                       s.from, Millimetre(*by)});
    }
    double wall = 0;
    for (const job::Carrier& c : carriers_of(job.hilt))
        wall = std::max(wall, c.wall.value());
    const auto thinner = least(wall - least_carrier, [&](double d) {
        job::Job thin = job;
        auto less = [d](Millimetre& w) { w = std::max(w - Millimetre(d), Millimetre(0)); };
        less(thin.hilt.chassis_wall);
        for (job::Carrier& c : thin.hilt.carriers)
            less(c.wall);
        return possible(thin, groups, parts);
    });
    if (thinner)
        result.remedies.push_back(
            {say("thin the chassis wall from {} to {} mm", mm(wall), mm(wall - *thinner)),
             Millimetre(0), Millimetre(*thinner * 2)});
    if (const auto speaker = job::first_of<catalogue::Speaker>(job, parts))
        for (const auto* type : parts.all<catalogue::Speaker>()) {
            const Millimetre less = speaker.type->body.diameter - type->body.diameter;
            if (less <= Millimetre(0)) continue;
            job::Job smaller = job;
            job::find_ref(smaller.parts, speaker.part->ref)->type = type->id;
            if (possible(smaller, groups, parts))
                result.remedies.push_back({"fit a " + type->name, speaker.part->at, less});
        }
    const auto& sections = job.hilt.sections;
    std::size_t longest = 0;
    for (std::size_t i = 0; i < sections.size(); ++i)
        if (sections[i].to - sections[i].from > sections[longest].to - sections[longest].from)
            longest = i;
    const auto longer = least(200, [&](double d) {
        job::Job stretched = job;
        const Millimetre at = sections[longest].to, more(d);
        for (std::size_t i = longest; i < sections.size(); ++i) {
            if (i > longest) stretched.hilt.sections[i].from += more;
            stretched.hilt.sections[i].to += more;
        }
        for (job::Joint& j : stretched.hilt.joints)
            if (j.at >= at) j.at += more;
        for (job::Opening& o : stretched.hilt.openings)
            if (o.at >= at) o.at += more;
        for (job::Part& p : stretched.parts)
            if (p.at >= at) p.at += more;
        return possible(stretched, groups, parts);
    });
    if (longer)
        result.remedies.push_back(
            {say("{} mm more length in {}", mm(*longer), sections[longest].name),
             sections[longest].to, Millimetre(*longer)});
    std::stable_sort(result.remedies.begin(), result.remedies.end(),
                     [](const Remedy& a, const Remedy& b) { return a.by < b.by; });
}

} // namespace

job::Job arranged(job::Job job, const Arrangement& a) {
    for (const ArrangedPart& p : a.parts)
        if (job::Part* part = job::find_ref(job.parts, p.ref)) {
            part->at = p.at;
            if (part->type != p.type) part->type = p.type, part->measured = {};
        }
    return job;
}

Arranged arrange(const job::Job& job, const catalogue::Catalogue& parts) {
    Arranged result;
    if (job.hilt.sections.empty()) return result;
    const Groups groups = groups_of(job, parts);
    std::vector<Found> found;
    const auto cell = job::first_of<catalogue::Cell>(job, parts);
    if (cell) {
        for (const auto* type : parts.all<catalogue::Cell>())
            find(with_cell(job, parts, type->id), job, groups, parts, found, result.orders);
    } else {
        find(job, job, groups, parts, found, result.orders);
    }
    std::stable_sort(found.begin(), found.end(),
                     [](const Found& a, const Found& b) { return a.capacity > b.capacity; });
    for (Found& f : found)
        if (result.best.size() < most_told) result.best.push_back(std::move(f.arrangement));
    if (result.best.empty()) remedies(job, groups, parts, result);
    return result;
}

job::Edit arrange_so(Arrangement arrangement) {
    return [arrangement = std::move(arrangement)](job::Job& job) {
        job = arranged(std::move(job), arrangement);
    };
}

} // namespace conductus::hilt
