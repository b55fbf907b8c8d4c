// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/derive.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

#include "core/catalogue/kinds.h"
#include "core/circuit/copper.h"
#include "core/harness/levels.h"
#include "core/harness/nets.h"
#include "core/job/lookup.h"
#include "core/job/mating.h"
#include "core/job/names.h"
#include "core/lights/chains.h"

namespace conductus::harness {
namespace {

using catalogue::Catalogue;
using job::Job;
using job::Role;

constexpr int signal_gauge = 28, sound_gauge = 26;
constexpr double data_ohms = 330; // before a first pixel, 220 to 470

/// Adds what is missing to a copy, one need after another: each sees what those before it took.
class MissingWireFinder {
public:
    MissingWireFinder(const Job& job, const Catalogue& parts, std::string only)
        : job_(job), parts_(parts), wiring_(job, parts), only_(std::move(only)) {}

    std::vector<Missing> run() {
        const auto board = job::first_of<catalogue::Board>(job_, parts_);
        if (board) board_ = board.part->ref;
        ends_ = pack_ends(job_, parts_, wiring_);
        cells();
        if (!board_.empty() && !ends_.plus.empty()) supply();
        // What feeds others first.
        for (const bool feeds : {true, false})
            for (const job::Part& part : job_.parts)
                if (feeds == (parts_.find_as<catalogue::Regulator>(part.type) != nullptr))
                    fed(part);
        for (const job::Blade& blade : job_.blades)
            lit(blade);
        for (const job::Part& part : job_.parts)
            signals(part);
        if (!only_.empty()) keep_only(only_);
        return std::move(missing_);
    }

private:
    void want(const std::string& from, const std::string& to, Role role, int gauge,
              const std::string& why) {
        if (clash(from, to)) return;
        missing_.push_back({from, to, role, gauge, why});
        need_.push_back(needs_);
        if (!in_need_) ++needs_;
        job::Wire wire;
        wire.ref = job::free_ref(job_, "W");
        wire.from = from, wire.to = to, wire.role = role, wire.gauge = gauge;
        wiring_.add(wire);
        job_.wires.push_back(std::move(wire));
    }
    /// The two stand at other levels of the cells: what is wrong there is another wire, and one
    /// more would short them.
    [[nodiscard]] bool clash(const std::string& from, const std::string& to) const {
        const Levels levels(job_, parts_);
        if (!levels.one_pack()) return false;
        const auto a = levels.stands_at(from), b = levels.stands_at(to);
        return a && b && *a != *b;
    }
    /// Something is soldered to it that keeps it at the wrong level: to be moved, not joined.
    [[nodiscard]] bool held_elsewhere(const std::string& terminal) const {
        return Levels(job_, parts_).stands_at(terminal).has_value();
    }
    /// All that `wires` wants is one need.
    template <class Wires>
    void together(const Wires& wires) {
        in_need_ = true;
        wires();
        in_need_ = false;
        ++needs_;
    }
    /// Of one part asked for: every need that it is part of.
    void keep_only(std::string_view ref) {
        std::set<int> asked;
        for (std::size_t i = 0; i < missing_.size(); ++i)
            for (const std::string& end : {missing_[i].from, missing_[i].to})
                if (job::split_terminal(end).first == ref) asked.insert(need_[i]);
        std::size_t i = 0;
        std::erase_if(missing_, [&](const Missing&) { return !asked.contains(need_[i++]); });
    }
    void want_through(const std::string& from, const InARow& part, const std::string& to, Role role,
                      int gauge, const std::string& why) {
        want(from, part.in, role, gauge, why);
        want(part.out, to, role, gauge, why);
    }
    [[nodiscard]] bool touched(const std::string& terminal) const {
        return wiring_.is_wired(terminal);
    }
    /// A loose part of that kind that `suits`, and where it goes in a row.
    template <class Figures, class Suits>
    [[nodiscard]] std::optional<InARow> loose(const Suits& suits) const {
        for (const job::Part& part : job_.parts)
            if (const auto* f = parts_.find_as<Figures>(part.type);
                f && suits(*f) && wiring_.is_loose(part))
                return in_row(part, parts_);
        return std::nullopt;
    }
    /// The loose resistor nearest to that, in proportion, if it is near at all.
    [[nodiscard]] std::optional<InARow> loose_resistor(double ohms) const {
        std::optional<InARow> best;
        double apart = 3; // times more or less
        for (const job::Part& part : job_.parts) {
            const auto* r = parts_.find_as<catalogue::Resistor>(part.type);
            if (!r || !wiring_.is_loose(part)) continue;
            const double has = job::resistance_of(part, *r).value();
            const double by = std::max(has / ohms, ohms / has);
            if (by < apart) apart = by, best = in_row(part, parts_);
        }
        return best;
    }
    enum class Feed { board, pixels, display };
    /// What feeds pixels or a display: a regulator that is fitted for such, not yet spoken for, and
    /// gives enough; else the board's supply.
    [[nodiscard]] std::string feed_for(double amps, bool pixels) {
        for (const job::Part& part : job_.parts) {
            const auto* r = parts_.find_as<catalogue::Regulator>(part.type);
            if (!r || (r->method == catalogue::Regulator::Method::step_up) != pixels) continue;
            // What was wired to it before is the person's; what is added here is counted.
            const std::string out = part.ref + ".out";
            const auto given = given_.find(part.ref);
            if (given == given_.end() && touched(out)) continue;
            const double sum = amps + (given == given_.end() ? 0 : given->second);
            if (sum > r->limit.value()) continue;
            given_[part.ref] = sum;
            return out;
        }
        return bat();
    }
    [[nodiscard]] Terminals supply_net() const {
        return wiring_.reached(ends_.plus, job::power_roles, everything);
    }
    /// Ground and everything switched pads pull to it.
    [[nodiscard]] Terminals return_net() const {
        std::vector<std::string> from = ends_.minus;
        if (!board_.empty()) from.push_back(board_ + ".gnd");
        for (const std::string& pad : pads(job_, parts_, 'l'))
            from.push_back(pad);
        return wiring_.reached(from, job::power_roles, everything);
    }
    [[nodiscard]] std::string bat() const {
        return board_.empty() ? ends_.plus.front() : board_ + ".bat";
    }
    [[nodiscard]] std::string gnd() const {
        return board_.empty() ? ends_.minus.front() : board_ + ".gnd";
    }

    void cells() {
        std::vector<const job::Part*> all;
        for (const job::Part& part : job_.parts)
            if (parts_.find_as<catalogue::Cell>(part.type)) all.push_back(&part);
        const bool row = cells_in_row(job_, parts_);
        for (std::size_t i = 1; i < all.size(); ++i) {
            const std::string &low = all[i - 1]->ref, &high = all[i]->ref;
            const auto up = wiring_.reached({low + ".plus"}, job::power_roles, everything);
            if (row) {
                if (!up.contains(high + ".minus") && !touched(low + ".plus") &&
                    !touched(high + ".minus"))
                    want(low + ".plus", high + ".minus", Role::supply, 22,
                         low + " and " + high + " are one behind the other");
            } else if (!touched(high + ".plus") && !touched(high + ".minus")) {
                want(low + ".plus", high + ".plus", Role::supply, 22,
                     low + " and " + high + " are side by side");
                want(low + ".minus", high + ".minus", Role::return_path, 22,
                     low + " and " + high + " are side by side");
            }
        }
    }

    /// From the cells through fuse and kill to the board, and back.
    void supply() {
        const int gauge = gauge_for(Ampere(std::min(amps_of_all(), 20.0)));
        if (!supply_net().contains(bat())) {
            std::string at = ends_.plus.front();
            auto lead = [&](const std::string& in, const std::string& out) {
                if (touched(in) || touched(out)) return;
                want(at, in, Role::supply, gauge, "the board has no supply");
                at = out;
            };
            // Where a wire leaves one end of the pair already, the missing wires begin at the far
            // end of that wire; where one arrives, they end there.
            const Terminals net = supply_net(),
                            behind = wiring_.reached({bat()}, job::power_roles, everything);
            std::string to = bat();
            for (const job::Part& part : job_.parts) {
                const bool kill = parts_.find_as<catalogue::Kill>(part.type) != nullptr;
                if (!kill && !parts_.find_as<catalogue::Fuse>(part.type)) continue;
                const std::string in = part.ref + (kill ? ".in" : ".a"),
                                  out = part.ref + (kill ? ".out" : ".b");
                if (net.contains(out) && !touched(out)) at = out;
                if (behind.contains(in) && !touched(in)) to = in;
            }
            for (const job::Part& part : job_.parts)
                if (parts_.find_as<catalogue::Fuse>(part.type))
                    lead(part.ref + ".a", part.ref + ".b");
            for (const job::Part& part : job_.parts)
                if (parts_.find_as<catalogue::Kill>(part.type))
                    lead(part.ref + ".in", part.ref + ".out");
            want(at, to, Role::supply, gauge, "the board has no supply");
        }
        const auto back = wiring_.reached(ends_.minus, job::power_roles, everything);
        if (back.contains(gnd())) return;
        // Through the contact of a jack, where one is fitted and loose: a plug takes the board off.
        const auto jack = loose<catalogue::Jack>([](const catalogue::Jack&) { return true; });
        if (jack)
            together([&] {
                want_through(ends_.minus.front(), *jack, gnd(), Role::return_path, gauge,
                             "the board has no return");
            });
        else
            want(ends_.minus.front(), gnd(), Role::return_path, gauge, "the board has no return");
    }

    [[nodiscard]] double amps_of(const job::Blade& blade) const {
        double amps = 0;
        for (const job::Strip& s : blade.strips)
            amps +=
                full_white_amps(parts_, parts_.find_as<catalogue::Strip>(s.type)->pixel, s.pixels)
                    .value();
        for (const job::LedString& s : blade.strings) {
            const auto* t = parts_.find_as<catalogue::SegmentedString>(s.type);
            amps += t->segments * t->parallel * t->die.stated.value();
        }
        return amps;
    }
    [[nodiscard]] double amps_of_all() const {
        double amps = 0.5;
        for (const job::Blade& blade : job_.blades)
            amps += amps_of(blade);
        return amps;
    }

    /// Parts that want supply and return of their own.
    void fed(const job::Part& part) {
        if (ends_.plus.empty()) return;
        const auto& f = parts_.find(part.type)->figures;
        const std::string& r = part.ref;
        auto between = [&](const std::string& plus, const std::string& minus, bool switched,
                           Ampere amps, const std::string& what, Feed feed) {
            const int gauge = std::max(22, gauge_for(amps));
            if (!supply_net().contains(plus))
                want(feed == Feed::board ? bat() : feed_for(amps.value(), feed == Feed::pixels),
                     plus, Role::supply, gauge, what + " has no supply");
            if (return_net().contains(minus)) return;
            const auto free = free_pads(job_, parts_, wiring_, 'l');
            want(minus, switched && !free.empty() ? free.front() : gnd(), Role::return_path, gauge,
                 what + " has no return");
        };
        if (const auto* group = std::get_if<catalogue::PixelGroup>(&f)) {
            const double amps = full_white_amps(parts_, group->pixel, group->count).value();
            between(r + ".plus", r + ".minus", false, Ampere(amps), r, Feed::pixels);
        } else if (std::holds_alternative<catalogue::Pixel>(f)) {
            between(r + ".plus", r + ".minus", false, Ampere(0.06), r, Feed::pixels);
        } else if (const auto* led = std::get_if<catalogue::Led>(&f)) {
            const auto end = [&](std::size_t i) {
                return led->dies.size() == 1 ? r + ".minus" : fmt::format("{}.minus{}", r, i + 1);
            };
            // Of dies that are alike one may be left out: it is used, the other is spare.
            const auto is_spare = [&](std::size_t i) {
                for (std::size_t k = 0; k < led->dies.size(); ++k)
                    if (k != i && led->dies[k] == led->dies[i] && wiring_.is_wired(end(k)))
                        return !wiring_.is_wired(end(i));
                return false;
            };
            for (std::size_t i = 0; i < led->dies.size(); ++i)
                if (!is_spare(i)) die(r, end(i), led->dies[i], led->built_in > Ohm(0));
        } else if (const auto* button = std::get_if<catalogue::Button>(&f);
                   button && !button->light.dies.empty()) {
            between(r + ".led_plus", r + ".led_minus", true, Ampere(0.02), "the light in " + r,
                    Feed::board);
        } else if (const auto* display = std::get_if<catalogue::Display>(&f)) {
            between(r + ".plus", r + ".minus", false, display->lit, r, Feed::display);
        } else if (std::holds_alternative<catalogue::Shifter>(f)) {
            between(r + ".plus", r + ".minus", false, Ampere(0.05), r, Feed::pixels);
        } else if (std::holds_alternative<catalogue::Regulator>(f)) {
            between(r + ".in", r + ".gnd", false, Ampere(1), r, Feed::board);
        } else if (const auto hole = catalogue::plug_hole(f);
                   hole && hole->charges &&
                   (std::holds_alternative<catalogue::Port>(f) ||
                    std::holds_alternative<catalogue::Jack>(f))) {
            // Right at the cells: a kill that is open must not keep them from being charged.
            const int gauge = std::max(22, gauge_for(catalogue::rating_of(f).value_or(Ampere(1))));
            if (!supply_net().contains(r + ".plus"))
                want(r + ".plus", ends_.plus.front(), Role::supply, gauge,
                     r + " does not reach the cell");
            const auto back = wiring_.reached(ends_.minus, job::power_roles, everything);
            if (!back.contains(r + ".minus"))
                want(r + ".minus", ends_.minus.front(), Role::return_path, gauge,
                     r + " does not reach the cell");
            if (catalogue::led_in(f))
                between(r + ".led_plus", r + ".led_minus", true, Ampere(0.02), "the light in " + r,
                        Feed::board);
        }
    }

    /// An LED's die: through a driver or a resistor where one is fitted that suits it.
    void die(const std::string& led, const std::string& minus, const catalogue::Die& d,
             bool has_resistor) {
        using Method = catalogue::Driver::Method;
        const int gauge = std::max(22, gauge_for(d.stated));
        const std::string no_supply = led + " has no supply", no_return = led + " has no return";
        const auto drives = [&](const catalogue::Driver& f) { return f.most >= d.stated / 2; };
        if (!supply_net().contains(led + ".plus")) {
            const job::Part* step = nullptr;
            for (const job::Part& part : job_.parts)
                if (const auto* f = parts_.find_as<catalogue::Driver>(part.type);
                    f && !step && f->method != Method::linear && drives(*f) &&
                    d.stated > Ampere(0.1) && wiring_.is_loose(part))
                    step = &part;
            if (step) {
                const std::string& ref = step->ref;
                together([&] {
                    want_through(bat(), {ref, ref + ".in", ref + ".out"}, led + ".plus",
                                 Role::supply, gauge, no_supply);
                    want(ref + ".gnd", gnd(), Role::return_path, gauge, no_supply);
                });
                has_resistor = true;
            } else {
                want(bat(), led + ".plus", Role::supply, gauge, no_supply);
            }
        }
        if (return_net().contains(minus)) return;
        const auto free = free_pads(job_, parts_, wiring_, 'l');
        const std::string to = free.empty() ? gnd() : free.front();
        std::optional<InARow> through;
        if (!has_resistor && d.stated > Ampere(0.1))
            through = loose<catalogue::Driver>([&](const catalogue::Driver& f) {
                return f.method == Method::linear && drives(f);
            });
        // What a half full cell leaves over the die.
        const double over = (3.8 * cells_in_a_row() - d.forward.value()) / d.stated.value();
        if (!has_resistor && !through && over > 0) through = loose_resistor(over);
        together([&] {
            if (through)
                want_through(minus, *through, to, Role::return_path, gauge, no_return);
            else
                want(minus, to, Role::return_path, gauge, no_return);
        });
    }
    [[nodiscard]] int cells_in_a_row() const {
        int row = 0, most = 0;
        for (const job::Part& part : job_.parts)
            if (const auto* cell = parts_.find_as<catalogue::Cell>(part.type))
                row += cell->series, most = std::max(most, cell->series);
        return cells_in_row(job_, parts_) ? row : most;
    }

    /// A blade's supply, its switched negatives, its data.
    void lit(const job::Blade& blade) {
        const bool string = !blade.strings.empty();
        if ((blade.strips.empty() && !string) || ends_.plus.empty()) return;
        const std::string at = blade.connector.empty() ? blade.ref : blade.connector;
        const double amps = amps_of(blade);
        if (!supply_net().contains(at + ".plus"))
            want(string ? bat() : feed_for(amps, true), at + ".plus", Role::supply,
                 gauge_for(Ampere(amps)), at + " has no supply");
        if (string) {
            const auto* t = parts_.find_as<catalogue::SegmentedString>(blade.strings.front().type);
            const std::string& end_of = job::string_end(job_, parts_, blade);
            std::vector<std::string> ends;
            for (int i = 1; i <= t->segments; ++i)
                ends.push_back(fmt::format("{}.seg{}", end_of, i));
            if (t->has_flash) ends.push_back(end_of + ".flash");
            for (const std::string& end : ends) {
                if (return_net().contains(end)) continue;
                const auto free = free_pads(job_, parts_, wiring_, 'l');
                if (free.empty()) return; // the board has too few pads
                want(end, free.front(), Role::return_path, 26, end + " is on no pad");
            }
        }
        if (blade.strips.empty()) return;
        const std::string minus = at + ".minus";
        if (!return_net().contains(minus)) {
            const auto free = free_pads(job_, parts_, wiring_, 'l');
            const auto board = job::first_of<catalogue::Board>(job_, parts_);
            const double each = board ? board.figures->pad_rating.value() : 1;
            // A strip a pad where there are enough; one is left for every blade that has none yet.
            std::size_t others = 0;
            const Terminals net = return_net();
            for (const job::Blade& other : job_.blades)
                others += other.ref != blade.ref && !other.strips.empty() &&
                          !net.contains((other.connector.empty() ? other.ref : other.connector) +
                                        ".minus");
            const auto asked = std::max(static_cast<std::size_t>(std::ceil(amps / each)),
                                        std::min<std::size_t>(2, blade.strips.size()));
            const auto pads = std::max<std::size_t>(
                1, std::min(asked, free.size() > others ? free.size() - others : 1));
            if (free.empty())
                want(minus, gnd(), Role::return_path, gauge_for(Ampere(amps)),
                     at + " has no return");
            for (std::size_t i = 0; i < std::min(pads, free.size()); ++i)
                want(minus, free[i], Role::return_path,
                     gauge_for(Ampere(amps / static_cast<double>(pads))), at + " has no return");
        }
        const auto chains = lights::chains_of(job_, parts_, wiring_);
        const bool hears =
            std::any_of(blade.strips.begin(), blade.strips.end(), [&](const job::Strip& s) {
                const auto* g = chains.group(s.ref);
                return g && !g->line.empty();
            });
        if (!hears) data_into(at + ".data", at + " hears no data");
    }

    /// From the first free data pad; where none is free, from the first: it mirrors. Through a
    /// level shifter and a resistor where such are fitted and loose.
    void data_into(const std::string& terminal, const std::string& why) {
        const auto all = pads(job_, parts_, 'd'), free = free_pads(job_, parts_, wiring_, 'd');
        if (all.empty()) return;
        together([&] {
            std::string at = free.empty() ? all.front() : free.front();
            const auto resistor = free.empty() ? std::nullopt : loose_resistor(data_ohms);
            for (const job::Part& part : job_.parts) {
                const std::string& ref = part.ref;
                if (free.empty() || !parts_.find_as<catalogue::Shifter>(part.type) ||
                    touched(ref + ".in") || touched(ref + ".out"))
                    continue;
                want(at, ref + ".in", Role::data, signal_gauge, why);
                at = ref + ".out";
                break;
            }
            if (resistor)
                want_through(at, *resistor, terminal, Role::data, signal_gauge, why);
            else
                want(at, terminal, Role::data, signal_gauge, why);
        });
    }

    void signals(const job::Part& part) {
        const auto& f = parts_.find(part.type)->figures;
        const std::string& r = part.ref;
        if (std::holds_alternative<catalogue::PixelGroup>(f) ||
            std::holds_alternative<catalogue::Pixel>(f)) {
            const auto chains = lights::chains_of(job_, parts_, wiring_);
            const auto* g = chains.group(r);
            if (g && g->line.empty()) data_into(r + ".data", r + " hears no data");
        } else if (std::holds_alternative<catalogue::Button>(f) && !board_.empty()) {
            if (job::switches_power(job_, part)) return; // the switch of a light
            const Levels levels(job_, parts_);
            if (levels.on_plus(r + ".a") || levels.on_plus(r + ".b")) return;
            constexpr job::Roles any{Role::button, Role::return_path, Role::supply};
            const auto on =
                wiring_.reached(pads(job_, parts_, 's'), {Role::button}, Through::nothing);
            const bool heard = on.contains(r + ".a") || on.contains(r + ".b");
            const bool a_first = !on.contains(r + ".b");
            if (!heard) {
                const auto free = free_pads(job_, parts_, wiring_, 's');
                if (free.empty()) return;
                want(free.front(), r + ".a", Role::button, signal_gauge,
                     r + " is on no button pad");
            }
            const std::string back = r + (a_first ? ".b" : ".a");
            if (!wiring_.reached({gnd()}, any, Through::nothing).contains(back))
                want(gnd(), back, Role::button, signal_gauge, r + " has no return");
        } else if (std::holds_alternative<catalogue::Speaker>(f) && !board_.empty()) {
            const auto on = wiring_.reached({board_ + ".spk_plus", board_ + ".spk_minus"},
                                            {Role::sound}, Through::nothing);
            for (const char* pole : {"plus", "minus"})
                if (!on.contains(r + "." + pole) && !held_elsewhere(r + "." + pole) &&
                    !held_elsewhere(board_ + ".spk_" + pole))
                    want(board_ + ".spk_" + pole, r + "." + pole, Role::sound, sound_gauge,
                         r + " is not wired to the amplifier");
        }
    }

    static constexpr Through everything = Through::conductors_and_converters;
    Job job_;
    const Catalogue& parts_;
    job::Wiring wiring_;
    std::string only_, board_;
    PackEnds ends_;
    std::vector<Missing> missing_;
    std::map<std::string, double> given_; ///< amps that regulators are asked for here
    std::vector<int> need_;               ///< of each, which need it is part of
    int needs_ = 0;
    bool in_need_ = false;
};

} // namespace

std::vector<Missing> missing_wires(const Job& job, const Catalogue& parts) {
    return MissingWireFinder(job, parts, {}).run();
}

job::Edit wire_missing(const Catalogue& parts, std::string of_part) {
    return [&parts, of_part = std::move(of_part)](Job& job) {
        // A socket is wired for what belongs in it, whatever stands there now.
        Job own = job;
        own.mated.clear();
        own = job::as_it_stands(own);
        for (const Missing& m : MissingWireFinder(own, parts, of_part).run()) {
            job::Wire wire;
            wire.ref = job::free_ref(job, "W");
            wire.from = m.from, wire.to = m.to, wire.role = m.role, wire.gauge = m.gauge;
            job.wires.push_back(std::move(wire));
        }
    };
}

} // namespace conductus::harness
