// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/access.h"

#include <algorithm>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/hilt/socket.h"
#include "core/job/lookup.h"

namespace conductus::hilt {
namespace {

class Reach {
public:
    Reach(const job::Job& job, const catalogue::Catalogue& parts, const Fit& fit,
          const std::vector<Piece>& pieces, const std::vector<Item>& items)
        : job_(job), hilt_(job.hilt), parts_(parts), fit_(fit), pieces_(pieces), items_(items) {}

    std::vector<Access> run() {
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
            all_.push_back(std::move(a));
        }
        return std::move(all_);
    }

private:
    /// Undoes the screws that hold a thing; false where one is never loosened.
    bool loosen(const std::string& holds, Access& a) const {
        for (const job::Fastener& f : hilt_.fasteners) {
            if (holds == "blade" ? !retains(job_, f, job_.blades.front()) : f.holds != holds)
                continue;
            if (f.loosen == job::Loosen::never) return false;
            a.steps.push_back({say("Loosen {} at {}{}", f.name, text(f.at),
                                   f.key.empty() ? "" : say(" with the {}", f.key)),
                               say("it holds {}", holds), f.name});
            note_key(f.key, a.keys);
        }
        return true;
    }

    bool blade_out(Access& a) const {
        if (job_.blades.empty()) return true;
        if (std::any_of(a.steps.begin(), a.steps.end(),
                        [&](const Step& s) { return s.ref == job_.blades.front().ref; }))
            return true;
        if (!loosen("blade", a)) return false;
        a.steps.push_back({say("Draw the blade {} out", job_.blades.front().ref),
                           "it stands in the mouth", job_.blades.front().ref});
        return true;
    }

    /// Opens one end of a piece.
    bool open(const Piece& p, bool left, Access& a) const {
        const Millimetre end = left ? p.from : p.to;
        if (end <= Millimetre(0)) return true;
        if (end >= hilt_.sections.back().to) return blade_out(a);
        const job::Joint* j = joint_at(hilt_, end);
        if (!j) return false;
        if (std::any_of(a.steps.begin(), a.steps.end(),
                        [&](const Step& s) { return s.ref == j->name; }))
            return true;
        if (!loosen(j->name, a)) return false;
        const bool left_hand = j->kind == job::JointKind::thread && j->hand == job::Hand::left;
        a.steps.push_back(
            {say("{} {} at {}{}", j->kind == job::JointKind::thread ? "Unscrew" : "Pull apart",
                 j->name, text(j->at), left_hand ? ", clockwise: left-hand" : ""),
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
            way.steps.push_back({say("Take {} out", item.ref),
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
                a.steps.push_back({say("Lift {} out of {}", ref, inside), "it rides in it", ref});
        }
        if (!a.possible) a.steps.clear(), a.keys.clear();
        all_.push_back(std::move(a));
    }

    const job::Job& job_;
    const job::Hilt& hilt_;
    const catalogue::Catalogue& parts_;
    const Fit& fit_;
    const std::vector<Piece>& pieces_;
    const std::vector<Item>& items_;
    std::vector<Access> all_;
};

} // namespace

void note_key(const std::string& key, std::vector<std::string>& keys) {
    if (!key.empty() && std::find(keys.begin(), keys.end(), key) == keys.end()) keys.push_back(key);
}

const job::Joint* joint_at(const job::Hilt& hilt, Millimetre at) {
    for (const job::Joint& j : hilt.joints)
        if (j.at == at) return &j;
    return nullptr;
}

bool is_blade(const job::Job& job, const std::string& holds) {
    return holds == "blade" || job::find_ref(job.blades, holds);
}

std::vector<Access> reach_everything(const job::Job& job, const catalogue::Catalogue& parts,
                                     const Fit& fit, const std::vector<Piece>& pieces,
                                     const std::vector<Item>& items) {
    return Reach(job, parts, fit, pieces, items).run();
}

} // namespace conductus::hilt
