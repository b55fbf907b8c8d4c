// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/assembly.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/base/format.h"
#include "core/hilt/access.h"
#include "core/hilt/route.h"
#include "core/job/lookup.h"

namespace conductus::hilt {
namespace {

std::string listed(const std::vector<std::string>& words) {
    return fmt::format("{}", fmt::join(words, ", "));
}

class Builder {
public:
    Builder(const job::Job& job, const catalogue::Catalogue& parts, const Fit& fit)
        : job_(job), hilt_(job.hilt), parts_(parts), fit_(fit), pieces_(pieces(job.hilt)) {}

    Assembly run() {
        if (hilt_.sections.empty()) return std::move(result_);
        collect();
        if (!order()) {
            result_.possible = false;
        } else {
            put_together();
        }
        warn();
        result_.access = reach_everything(job_, parts_, fit_, pieces_, items_);
        return std::move(result_);
    }

private:
    // --- what there is ---------------------------------------------------------------------

    [[nodiscard]] bool is_cell(const std::string& ref) const {
        const job::Part* part = job::find_ref(job_.parts, ref);
        return part && parts_.find_as<catalogue::Cell>(part->type);
    }

    [[nodiscard]] std::string name_of(const std::string& ref) const {
        const job::Part* part = job::find_ref(job_.parts, ref);
        const catalogue::PartType* type = part ? parts_.find(part->type) : nullptr;
        return type ? fmt::format("{}, {}", ref, type->name) : ref;
    }

    void collect() {
        const auto all = riders(hilt_, fit_.bodies);
        for (const Rider& rider : all) {
            Item item;
            item.ref = rider.ref;
            item.carrier = rider.carrier;
            Rider rest = rider;
            std::vector<std::string> on;
            std::vector<std::size_t> cells;
            for (const std::size_t i : rider.bodies) {
                const bool apart = rider.carrier && rider.kind == job::CarrierKind::fixed &&
                                   rider.bodies.size() > 1 && is_cell(fit_.bodies[i].ref);
                if (apart) {
                    cells.push_back(i);
                } else {
                    on.push_back(fit_.bodies[i].ref);
                }
            }
            item.title = rider.carrier ? fmt::format("{} with {}", rider.ref, listed(on))
                                       : name_of(rider.ref);
            item.from = rider.from;
            item.to = rider.to;
            item.piece = piece_of(pieces_, rider.from, rider.to);
            for (const bool left : {true, false}) {
                Rider one = rider;
                if (one.goes_in == job::End::both)
                    one.goes_in = left ? job::End::pommel : job::End::emitter;
                const Passing p = passing(hilt_, fit_.bodies, one);
                if (p.ok && p.from_pommel == left) item.ways[left ? 0 : 1] = true;
            }
            item.left = item.ways[0];
            items_.push_back(item);
            for (const std::size_t i : cells)
                add_cell(i, rider, item);
        }
        for (const PlacedBody& b : fit_.bodies) {
            if (b.in_bore) continue;
            Item item;
            item.ref = b.ref;
            item.title = name_of(b.ref);
            item.from = b.from;
            item.to = b.to;
            item.button = true;
            item.piece = piece_of(pieces_, b.from, b.to);
            items_.push_back(item);
        }
    }

    /// The cell of a fixed chassis goes in and out by itself, unless what rides beside it in the
    /// chassis shuts it in on both sides.
    void add_cell(std::size_t i, const Rider& rider, const Item& chassis) {
        const PlacedBody& cell = fit_.bodies[i];
        Item item;
        item.ref = cell.ref;
        item.title = name_of(cell.ref);
        item.from = cell.from;
        item.to = cell.to;
        item.piece = chassis.piece;
        item.inside = chassis.ref;
        bool before = false, after = false;
        for (const std::size_t k : rider.bodies) {
            if (k == i) continue;
            before = before || fit_.bodies[k].to <= cell.from;
            after = after || fit_.bodies[k].from >= cell.to;
        }
        item.ways[0] = !before && pieces_[item.piece].open_left;
        item.ways[1] = !after && pieces_[item.piece].open_right;
        if (!item.ways[0] && !item.ways[1]) return; // it goes in with the chassis
        item.left = item.ways[0];
        items_.push_back(item);
    }

    // --- order -----------------------------------------------------------------------------

    /// Whether `first` has to be in before `second`, and why.
    [[nodiscard]] std::optional<std::string> before(const Item& first, const Item& second) const {
        if (second.inside == first.ref)
            return fmt::format("{} goes into {}", second.ref, first.ref);
        if (first.inside == second.ref || first.piece != second.piece) return std::nullopt;
        if (first.button) return std::nullopt;
        if (second.button) {
            const Piece& p = pieces_[first.piece];
            const Millimetre from = first.left ? p.from : first.from;
            const Millimetre to = first.left ? first.to : p.to;
            if (second.from >= to || second.to <= from) return std::nullopt;
            return fmt::format("{} in the wall would stand in its way", second.ref);
        }
        const bool first_is_left = first.from + first.to < second.from + second.to;
        const bool overlap =
            std::min(first.to, second.to) - std::max(first.from, second.from) > Millimetre(1e-6);
        if (overlap && first.inside.empty() && second.inside.empty()) return std::nullopt;
        // The first would have to pass the place of the second, or the second shuts it off.
        if (first_is_left && !first.left)
            return fmt::format("{} would stand in its way", second.ref);
        if (!first_is_left && first.left)
            return fmt::format("{} would stand in its way", second.ref);
        return std::nullopt;
    }

    /// A topological order for the ends chosen; empty where there is a circle.
    [[nodiscard]] std::vector<std::size_t> sorted() const {
        std::vector<std::size_t> order;
        std::vector<bool> done(items_.size());
        while (order.size() < items_.size()) {
            std::optional<std::size_t> next;
            for (std::size_t i = 0; i < items_.size() && !next; ++i) {
                if (done[i]) continue;
                bool free = true;
                for (std::size_t k = 0; k < items_.size() && free; ++k)
                    free = done[k] || k == i || !before(items_[k], items_[i]);
                if (free) next = i;
            }
            if (!next) return {};
            done[*next] = true;
            order.push_back(*next);
        }
        return order;
    }

    bool order() {
        for (const Item& item : items_)
            if (!item.button && !item.ways[0] && !item.ways[1]) {
                const auto* p = find_pass(item.ref);
                result_.trouble = p && !p->reason.empty()
                                      ? say("{} does not go in: {}", item.ref, p->reason)
                                      : say("{} does not pass {}", item.ref,
                                            p ? p->section : std::string("the bore"));
                return false;
            }
        // The usual end of each first; then every other choice of ends.
        std::vector<std::size_t> free;
        for (std::size_t i = 0; i < items_.size(); ++i)
            if (items_[i].ways[0] && items_[i].ways[1]) free.push_back(i);
        for (Item& item : items_)
            if (const auto* p = find_pass(item.ref); p && item.ways[0] && item.ways[1])
                item.left = p->from_pommel;
        if (free.size() > 14) free.resize(14);
        std::vector<bool> usual;
        for (const std::size_t i : free)
            usual.push_back(items_[i].left);
        for (std::size_t choice = 0; choice < std::size_t{1} << free.size(); ++choice) {
            for (std::size_t k = 0; k < free.size(); ++k)
                items_[free[k]].left = ((choice >> k) & 1) != 0 ? !usual[k] : usual[k];
            order_ = sorted();
            if (!order_.empty() || items_.empty()) return true;
        }
        result_.trouble = "each way in is barred by another part";
        return false;
    }

    [[nodiscard]] const Passing* find_pass(const std::string& ref) const {
        for (const Passing& p : fit_.passes)
            if (p.carrier == ref) return &p;
        return nullptr;
    }

    // --- together --------------------------------------------------------------------------

    [[nodiscard]] std::string end_name(const Item& item) const {
        const Piece& p = pieces_[item.piece];
        const Millimetre end = item.left ? p.from : p.to;
        if (end <= Millimetre(0)) return "the pommel end";
        if (end >= hilt_.sections.back().to) return "the emitter end";
        const job::Joint* joint = joint_at(hilt_, end);
        return joint ? fmt::format("{} at {}", joint->name, text(end)) : text(end);
    }

    /// The reason for an item's place in the order: what would bar it, else the only way, else
    /// where the opening that it must face is.
    [[nodiscard]] std::string why(std::size_t k) const {
        const Item& item = items_[order_[k]];
        for (std::size_t later = k + 1; later < order_.size(); ++later)
            if (const auto reason = before(item, items_[order_[later]])) return "first: " + *reason;
        if (!item.inside.empty()) return "its bay in " + item.inside + " is there now";
        if (item.ways[0] != item.ways[1]) {
            const auto* p = find_pass(item.ref);
            return p && !p->section.empty()
                       ? fmt::format("the only way in; {} to spare at {} in {}",
                                     text(std::max(p->room, Millimetre(0))), text(p->at),
                                     p->section)
                       : "the only way in";
        }
        return "nothing is in its way";
    }

    [[nodiscard]] std::string clocking(const Item& item) const {
        for (const job::Opening& o : hilt_.openings) {
            if (o.part.empty()) continue;
            const PlacedBody* b = job::find_ref(fit_.bodies, o.part);
            if (!b || !(b->ref == item.ref || b->carrier == item.ref)) continue;
            return fmt::format("; clock it so that {} meets {} at {}°", o.part, o.name,
                               three_figures(o.angle.value()));
        }
        return {};
    }

    void put_together() {
        for (std::size_t k = 0; k < order_.size(); ++k) {
            const Item& item = items_[order_[k]];
            if (item.button) {
                result_.steps.push_back(
                    {say("{} into its hole at {}", item.title, text((item.from + item.to) / 2)),
                     "what passes under it is in", item.ref});
            } else if (is_cell(item.ref)) {
                result_.steps.push_back({say("{} in by {}, the way round its bay says; to {}",
                                             item.title, end_name(item), text(item.from)),
                                         why(k), item.ref});
            } else {
                result_.steps.push_back({say("{} in by {}, to {}{}", item.title, end_name(item),
                                             text(item.from), clocking(item)),
                                         why(k), item.ref});
            }
            for (const job::Fastener& f : hilt_.fasteners)
                if (f.holds == item.ref) tighten(f);
        }
        std::vector<const job::Joint*> joints;
        for (const job::Joint& j : hilt_.joints)
            if (j.kind != job::JointKind::glued) joints.push_back(&j);
        std::sort(joints.begin(), joints.end(), [](auto* a, auto* b) { return a->at > b->at; });
        for (const job::Joint* j : joints)
            close(*j);
        for (const job::Fastener& f : hilt_.fasteners) {
            const bool said = job::find_name(hilt_.joints, f.holds) || is_blade(job_, f.holds) ||
                              std::any_of(items_.begin(), items_.end(),
                                          [&](const Item& i) { return i.ref == f.holds; });
            if (!said) tighten(f);
        }
        for (const job::Blade& b : job_.blades)
            result_.steps.push_back({say("Blade {} in, until it drops no further", b.ref),
                                     "by its own weight; a rammed blade pushes the connector loose",
                                     b.ref});
        for (const job::Fastener& f : hilt_.fasteners)
            if (is_blade(job_, f.holds)) tighten(f);
    }

    void tighten(const job::Fastener& f) {
        const std::string holds = f.holds.empty() ? "what it holds" : f.holds;
        if (f.loosen == job::Loosen::never) {
            result_.steps.push_back({say("Leave {} at {} alone", f.name, text(f.at)),
                                     say("it holds {} and is never loosened", holds), f.holds});
            return;
        }
        note_key(f.key, result_.keys);
        result_.steps.push_back({say("Tighten {} at {}{}", f.name, text(f.at),
                                     f.key.empty() ? "" : say(" with the {}", f.key)),
                                 say("it holds {}; snug, no more", holds), f.holds});
    }

    /// As the harness counts them: docks cut a wire in two.
    [[nodiscard]] int wires_across(Millimetre at) const {
        const Router router(job_, parts_);
        int count = 0;
        for (const job::Wire& w : job_.wires) {
            const Route r = router.route(w);
            count += r.docks.empty() && std::min(r.from, r.to) < at && at < std::max(r.from, r.to);
        }
        return count;
    }

    void close(const job::Joint& j) {
        Step step;
        step.ref = j.name;
        if (j.kind == job::JointKind::push_fit) {
            step.text = say("Push {} together at {}", j.name, text(j.at));
            step.why = "all that goes in by it is in";
        } else {
            const double turns = j.pitch > Millimetre(0) ? j.engaged / j.pitch : 0;
            const bool left = j.hand == job::Hand::left;
            step.text = say("Screw {} together at {}, {}-hand{}", j.name, text(j.at),
                            left ? "left" : "right",
                            turns > 0 ? say(", {} turns", three_figures(turns)) : "");
            step.why = left ? "left-hand: it closes anticlockwise; forced the other way it strips"
                            : "all that goes in by it is in";
            if (const int wires = turns > 0 ? wires_across(j.at) : 0; wires > 0)
                step.why = say("{}; {} wire{} cross it: twist them {} turns {} first", step.why,
                               wires, wires == 1 ? "" : "s", three_figures(turns),
                               left ? "clockwise" : "anticlockwise");
        }
        result_.steps.push_back(std::move(step));
        for (const job::Fastener& f : hilt_.fasteners)
            if (f.holds == j.name) tighten(f);
    }

    void warn() {
        for (const job::Joint& j : hilt_.joints)
            if (j.kind == job::JointKind::thread && j.hand == job::Hand::left)
                result_.warnings.push_back(
                    fmt::format("{} at {} has a left-hand thread", j.name, text(j.at)));
        for (const job::Fastener& f : hilt_.fasteners) {
            if (f.loosen == job::Loosen::never)
                result_.warnings.push_back(
                    fmt::format("{} at {} is never loosened", f.name, text(f.at)));
            if (f.state != job::ScrewState::fine)
                result_.warnings.push_back(fmt::format("{} at {} is {}", f.name, text(f.at),
                                                       f.state == job::ScrewState::chewed ? "chewed"
                                                       : f.state == job::ScrewState::seized
                                                           ? "seized"
                                                           : "hidden"));
        }
    }

    const job::Job& job_;
    const job::Hilt& hilt_;
    const catalogue::Catalogue& parts_;
    const Fit& fit_;
    const std::vector<Piece> pieces_;
    std::vector<Item> items_;
    std::vector<std::size_t> order_;
    Assembly result_;
};

} // namespace

const Access* Assembly::to(std::string_view what) const {
    for (const Access& a : access)
        if (a.what == what) return &a;
    return nullptr;
}

Assembly assembly(const job::Job& job, const catalogue::Catalogue& parts, const Fit& fit) {
    return Builder(job, parts, fit).run();
}

} // namespace conductus::hilt
