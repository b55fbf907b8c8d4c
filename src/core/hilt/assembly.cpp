// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/assembly.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/base/format.h"
#include "core/job/lookup.h"

namespace conductus::hilt {
namespace {

/// What is handled as one: a rider, the cell of a fixed chassis, or a button in the wall.
struct Item {
    std::string ref;
    std::string title;
    Millimetre from, to;
    std::size_t piece = 0;
    bool ways[2] = {false, false}; ///< by the left end, by the right end of its piece
    bool button = false;
    bool left = true; ///< chosen
    bool carrier = false;
    std::string inside; ///< carrier of a cell that is handled by itself
};

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
        reach_everything();
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
                                      ? fmt::format("{} does not go in: {}", item.ref, p->reason)
                                      : fmt::format("{} does not pass {}", item.ref,
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

    void key(const std::string& key, std::vector<std::string>& keys) const {
        if (!key.empty() && std::find(keys.begin(), keys.end(), key) == keys.end())
            keys.push_back(key);
    }

    [[nodiscard]] std::string end_name(const Item& item) const {
        const Piece& p = pieces_[item.piece];
        const Millimetre end = item.left ? p.from : p.to;
        if (end <= Millimetre(0)) return "the pommel end";
        if (end >= hilt_.sections.back().to) return "the emitter end";
        const job::Joint* joint = joint_at(end);
        return joint ? fmt::format("{} at {}", joint->name, text(end)) : text(end);
    }

    [[nodiscard]] const job::Joint* joint_at(Millimetre at) const {
        for (const job::Joint& j : hilt_.joints)
            if (j.at == at) return &j;
        return nullptr;
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

    [[nodiscard]] bool is_blade(const std::string& holds) const {
        return holds == "blade" || job::find_ref(job_.blades, holds);
    }

    void put_together() {
        for (std::size_t k = 0; k < order_.size(); ++k) {
            const Item& item = items_[order_[k]];
            if (item.button) {
                result_.steps.push_back({fmt::format("{} into its hole at {}", item.title,
                                                     text((item.from + item.to) / 2)),
                                         "what passes under it is in", item.ref});
            } else if (is_cell(item.ref)) {
                result_.steps.push_back(
                    {fmt::format("{} in by {}, the way round its bay says; to {}", item.title,
                                 end_name(item), text(item.from)),
                     why(k), item.ref});
            } else {
                result_.steps.push_back(
                    {fmt::format("{} in by {}, to {}{}", item.title, end_name(item),
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
            const bool said = job::find_name(hilt_.joints, f.holds) || is_blade(f.holds) ||
                              std::any_of(items_.begin(), items_.end(),
                                          [&](const Item& i) { return i.ref == f.holds; });
            if (!said) tighten(f);
        }
        for (const job::Blade& b : job_.blades)
            result_.steps.push_back({fmt::format("Blade {} in, until it drops no further", b.ref),
                                     "by its own weight; a rammed blade pushes the connector loose",
                                     b.ref});
        for (const job::Fastener& f : hilt_.fasteners)
            if (is_blade(f.holds)) tighten(f);
    }

    void tighten(const job::Fastener& f) {
        const std::string holds = f.holds.empty() ? "what it holds" : f.holds;
        if (f.loosen == job::Loosen::never) {
            result_.steps.push_back({fmt::format("Leave {} at {} alone", f.name, text(f.at)),
                                     fmt::format("it holds {} and is never loosened", holds),
                                     f.holds});
            return;
        }
        key(f.key, result_.keys);
        result_.steps.push_back(
            {fmt::format("Tighten {} at {}{}", f.name, text(f.at),
                         f.key.empty() ? "" : fmt::format(" with the {}", f.key)),
             fmt::format("it holds {}; snug, no more", holds), f.holds});
    }

    [[nodiscard]] int wires_across(Millimetre at) const {
        int count = 0;
        for (const job::Wire& w : job_.wires) {
            const auto* a = job::find_ref(fit_.bodies, job::split_terminal(w.from).first);
            const auto* b = job::find_ref(fit_.bodies, job::split_terminal(w.to).first);
            if (!a || !b) continue;
            const auto low = std::min(a->from + a->to, b->from + b->to) / 2;
            const auto high = std::max(a->from + a->to, b->from + b->to) / 2;
            if (low < at && at < high) ++count;
        }
        return count;
    }

    void close(const job::Joint& j) {
        Step step;
        step.ref = j.name;
        if (j.kind == job::JointKind::push_fit) {
            step.text = fmt::format("Push {} together at {}", j.name, text(j.at));
            step.why = "all that goes in by it is in";
        } else {
            const double turns = j.pitch > Millimetre(0) ? j.engaged / j.pitch : 0;
            const bool left = j.hand == job::Hand::left;
            step.text = fmt::format(
                "Screw {} together at {}, {}-hand{}", j.name, text(j.at), left ? "left" : "right",
                turns > 0 ? fmt::format(", {} turns", three_figures(turns)) : "");
            step.why = left ? "left-hand: it closes anticlockwise; forced the other way it strips"
                            : "all that goes in by it is in";
            if (const int wires = wires_across(j.at); wires > 0 && turns > 0)
                step.why += fmt::format("; {} wire{} cross it: twist them {} turns {} first", wires,
                                        wires == 1 ? "" : "s", three_figures(turns),
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

    // --- apart -----------------------------------------------------------------------------

    /// Undoes the screws that hold a thing; false where one is never loosened.
    bool loosen(const std::string& holds, Access& a) const {
        for (const job::Fastener& f : hilt_.fasteners) {
            if (f.holds != holds && !(holds == "blade" && is_blade(f.holds))) continue;
            if (f.loosen == job::Loosen::never) return false;
            a.steps.push_back({fmt::format("Loosen {} at {}{}", f.name, text(f.at),
                                           f.key.empty() ? "" : fmt::format(" with the {}", f.key)),
                               fmt::format("it holds {}", holds), f.name});
            key(f.key, a.keys);
        }
        return true;
    }

    bool blade_out(Access& a) const {
        if (job_.blades.empty()) return true;
        if (std::any_of(a.steps.begin(), a.steps.end(),
                        [&](const Step& s) { return s.ref == job_.blades.front().ref; }))
            return true;
        if (!loosen("blade", a)) return false;
        a.steps.push_back({fmt::format("Draw the blade {} out", job_.blades.front().ref),
                           "it stands in the mouth", job_.blades.front().ref});
        return true;
    }

    /// Opens one end of a piece.
    bool open(const Piece& p, bool left, Access& a) const {
        const Millimetre end = left ? p.from : p.to;
        if (end <= Millimetre(0)) return true;
        if (end >= hilt_.sections.back().to) return blade_out(a);
        const job::Joint* j = joint_at(end);
        if (!j) return false;
        if (std::any_of(a.steps.begin(), a.steps.end(),
                        [&](const Step& s) { return s.ref == j->name; }))
            return true;
        if (!loosen(j->name, a)) return false;
        const bool left_hand = j->kind == job::JointKind::thread && j->hand == job::Hand::left;
        a.steps.push_back(
            {fmt::format("{} {} at {}{}",
                         j->kind == job::JointKind::thread ? "Unscrew" : "Pull apart", j->name,
                         text(j->at), left_hand ? ", clockwise: left-hand" : ""),
             "that end opens there", j->name});
        return true;
    }

    bool take_out(const Item& item, Access& a, std::vector<std::string>& out, int depth) const {
        if (std::find(out.begin(), out.end(), item.ref) != out.end()) return true;
        if (depth > 12) return false;
        std::optional<Access> best;
        std::vector<std::string> best_out;
        for (const bool left : {true, false}) {
            if (!item.ways[left ? 0 : 1]) continue;
            Access way = a;
            std::vector<std::string> gone = out;
            if (!open(pieces_[item.piece], left, way)) continue;
            bool ok = true;
            for (const Item& other : items_) {
                if (!ok) break;
                if (other.ref == item.ref || other.button || other.piece != item.piece ||
                    other.inside == item.ref || item.inside == other.ref)
                    continue;
                const bool bars = left ? other.from + other.to < item.from + item.to
                                       : other.from + other.to > item.from + item.to;
                if (bars) ok = take_out(other, way, gone, depth + 1);
            }
            if (!ok || !loosen(item.ref, way)) continue;
            way.steps.push_back({fmt::format("Take {} out", item.ref),
                                 item.inside.empty() ? "it is free now" : "the cell is free now",
                                 item.ref});
            gone.push_back(item.ref);
            if (!best || way.steps.size() < best->steps.size()) {
                best = std::move(way);
                best_out = std::move(gone);
            }
        }
        if (!best) return false;
        a = std::move(*best);
        out = std::move(best_out);
        return true;
    }

    [[nodiscard]] bool seen_through(const std::string& ref,
                                    std::initializer_list<job::OpeningUse> uses) const {
        return std::any_of(hilt_.openings.begin(), hilt_.openings.end(), [&](auto& o) {
            return o.part == ref && std::find(uses.begin(), uses.end(), o.use) != uses.end();
        });
    }

    void reach(const std::string& what, const std::string& ref,
               std::initializer_list<job::OpeningUse> uses) {
        Access a;
        a.what = what;
        a.ref = ref;
        if (!seen_through(ref, uses)) {
            const Item* item = nullptr;
            for (const Item& i : items_)
                if (i.ref == ref) item = &i;
            std::string inside;
            if (!item)
                if (const PlacedBody* b = job::find_ref(fit_.bodies, ref)) {
                    inside = b->carrier;
                    for (const Item& i : items_)
                        if (i.ref == inside) item = &i;
                }
            std::vector<std::string> out;
            a.possible = item && take_out(*item, a, out, 0);
            if (a.possible && !inside.empty() && what == "cell")
                a.steps.push_back(
                    {fmt::format("Lift {} out of {}", ref, inside), "it rides in it", ref});
        }
        if (!a.possible) a.steps.clear(), a.keys.clear();
        result_.access.push_back(std::move(a));
    }

    void reach_everything() {
        using job::OpeningUse;
        if (const auto cell = job::first_of<catalogue::Cell>(job_, parts_))
            reach("cell", cell.part->ref, {OpeningUse::slot});
        if (const auto board = job::first_of<catalogue::Board>(job_, parts_)) {
            reach("card", board.part->ref, {OpeningUse::slot});
            reach("data_port", board.part->ref, {OpeningUse::port});
        }
        if (const auto kill = job::first_of<catalogue::Kill>(job_, parts_))
            reach("kill", kill.part->ref,
                  {OpeningUse::switch_hole, OpeningUse::port, OpeningUse::slot});
        if (!job_.blades.empty()) {
            Access a;
            a.what = "blade";
            a.ref = job_.blades.front().ref;
            a.possible = blade_out(a);
            result_.access.push_back(std::move(a));
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
