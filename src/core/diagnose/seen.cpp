// SPDX-License-Identifier: GPL-3.0-or-later
// What is seen and heard at a hilt with faults in it: each symptom by solving what it is of.
#include <algorithm>
#include <cmath>

#include "core/diagnose/world.h"
#include "core/job/lookup.h"

namespace conductus::diagnose {
namespace {

/// Faults of a kind are of many sizes: the standard deviation of their size's logarithm.
constexpr double size_spread = 0.7;

/// How likely a fault is large enough, where one of usual size goes `reached` of the way that the
/// symptom `needs`.
double large_enough(double reached, double needs) {
    if (reached >= needs) return 1;
    if (reached <= 0.02 * needs) return 0;
    return 0.5 * std::erfc(std::log(needs / reached) / size_spread / std::sqrt(2.0));
}

} // namespace

std::vector<Sight> World::sights() {
    std::vector<Sight> all;
    for (const Symptom s :
         {Symptom::nothing_at_all, Symptom::no_blade, Symptom::dead_after_pixel,
          Symptom::flickers_turned, Symptom::wrong_colours, Symptom::crackles_early,
          Symptom::button_dead, Symptom::buttons_swapped, Symptom::lit_while_off, Symptom::hot,
          Symptom::resets_at_clash, Symptom::does_not_kill, Symptom::silent})
        all.push_back({s, {}});
    if (const circuit::Network* lit = network(lit_)) {
        for (const circuit::Strip& strip : lit->strips)
            for (const Symptom s : {Symptom::dark, Symptom::dim, Symptom::dead_after_pixel})
                all.push_back({s, strip.ref});
        for (const circuit::Diode& diode : lit->diodes)
            for (const Symptom s : {Symptom::dark, Symptom::dim})
                all.push_back({s, light_named(diode)});
    }
    return all;
}

const std::optional<World::Solved>& World::sound(const std::string& state) {
    const auto [it, fresh] = sound_.try_emplace(state);
    if (fresh) it->second = solved(state, {}, {}, false);
    return it->second;
}

double World::board_volts(const Solved& s) const {
    for (const circuit::Sink& sink : s.network.sinks)
        if (sink.ref == board_) return s.point.volts[sink.plus] - s.point.volts[sink.minus];
    return 0;
}

bool World::is_of_blade(const std::string& light) const {
    const std::string ref(job::split_terminal(light).first);
    bool blades_have_lights = false;
    for (const job::Blade& blade : job_.blades) {
        if (job::find_ref(blade.strips, ref) || job::find_ref(blade.strings, ref)) return true;
        blades_have_lights = blades_have_lights || !blade.strips.empty() || !blade.strings.empty();
    }
    return !blades_have_lights; // it is lit from the hilt, by all that there is
}

bool World::any_lit(const Solved& s, bool of_blades) const {
    for (std::size_t i = 0; i < s.network.strips.size(); ++i) {
        const circuit::Strip& strip = s.network.strips[i];
        if (of_blades && !is_of_blade(strip.ref)) continue;
        for (const lights::Span& span : strip.spans)
            for (int k = span.first; k < span.last; ++k)
                for (std::size_t c = 0; c < 4; ++c)
                    if (span.duty[c] > 0.02 &&
                        circuit::channel_current(
                            strip.pixel, c, 1,
                            s.point.strips[i].volts[static_cast<std::size_t>(k)]) > 0.001)
                        return true;
    }
    for (std::size_t i = 0; i < s.network.diodes.size(); ++i)
        if (s.point.diode_amps[i] > 0.001 &&
            (!of_blades || is_of_blade(light_named(s.network.diodes[i]))))
            return true;
    return false;
}

bool World::is_fed() {
    const auto& lit = sound(lit_);
    return lit && (board_.empty() ? any_lit(*lit) : std::abs(board_volts(*lit)) > 1);
}

double World::light_of(const Solved& s, const std::string& light) {
    double amps = 0;
    for (std::size_t i = 0; i < s.network.strips.size(); ++i)
        if (s.network.strips[i].ref == light)
            for (const lights::Span& span : s.network.strips[i].spans)
                for (int k = span.first; k < span.last; ++k)
                    for (std::size_t c = 0; c < 4; ++c)
                        amps += circuit::channel_current(
                            s.network.strips[i].pixel, c, span.duty[c],
                            s.point.strips[i].volts[static_cast<std::size_t>(k)]);
    for (std::size_t i = 0; i < s.network.diodes.size(); ++i)
        if (light_named(s.network.diodes[i]) == light) amps += s.point.diode_amps[i];
    return amps;
}

bool World::shows(const Sight& sight, const std::vector<const Fault*>& faults) {
    return likely_seen(sight, faults) >= 1;
}

double World::likely_seen(const Sight& sight, const std::vector<const Fault*>& faults) {
    const Symptom symptom = sight.symptom;
    for (const Fault* fault : faults)
        for (const Sight& seen : fault->seen)
            if (seen.symptom == symptom && (sight.where.empty() || seen.where == sight.where))
                return 1;
    const std::string& flash = flash_.empty() ? lit_ : flash_;
    const bool loose =
        std::any_of(faults.begin(), faults.end(), [](const Fault* f) { return f->turned; });
    switch (symptom) {
    case Symptom::nothing_at_all: {
        const auto s = solved(lit_, faults, {}, false);
        return !s || s->board_off ? 1 : 0;
    }
    case Symptom::no_blade: {
        // The accents may be lit all the same.
        const auto s = solved(lit_, faults, {}, false);
        return s && !s->board_off && !any_lit(*s, true) ? 1 : 0;
    }
    case Symptom::flickers_turned: {
        if (!loose) return 0;
        const auto still = solved(lit_, faults, {}, false), moved = solved(lit_, faults, {}, true);
        return still && moved &&
                       (still->board_off != moved->board_off ||
                        any_lit(*still) != any_lit(*moved) ||
                        std::abs(board_volts(*still) - board_volts(*moved)) > 0.15)
                   ? 1
                   : 0;
    }
    case Symptom::crackles_early: {
        const auto s = solved(flash, faults, {}, false);
        const auto& whole = sound(flash);
        if (!s || !whole || s->board_off || board_volts(*whole) < clean_) return 0;
        return large_enough(board_volts(*whole) - board_volts(*s), board_volts(*whole) - clean_);
    }
    case Symptom::resets_at_clash: {
        const auto s = solved(flash, faults, {}, false), calm = solved(lit_, faults, {}, false);
        if (!s || !calm || calm->board_off) return 0;
        if (s->board_off) return 1;
        // A clash is a blow: what is loose parts for a moment.
        if (loose)
            if (const auto moved = solved(flash, faults, {}, true); moved && moved->board_off)
                return 1;
        const auto &whole = sound(flash), &lit = sound(lit_);
        if (!whole || !lit) return 0;
        const double volts = board_volts(*whole), calm_volts = board_volts(*lit);
        // Large enough for the flash, and not for all else as well.
        return std::max(0.0,
                        large_enough(volts - board_volts(*s), volts - reset_) -
                            large_enough(calm_volts - board_volts(*calm), calm_volts - reset_));
    }
    case Symptom::lit_while_off: {
        const auto s = solved("asleep", faults, {}, false);
        const auto& whole = sound("asleep");
        return s && whole && any_lit(*s) && !any_lit(*whole) ? 1 : 0;
    }
    case Symptom::does_not_kill: {
        const auto s = solved("killed", faults, {}, false);
        return s && board_volts(*s) > reset_ ? 1 : 0;
    }
    case Symptom::hot: {
        const auto s = solved(lit_, faults, {}, false);
        const auto& whole = sound(lit_);
        if (!s || !whole) return 0;
        const auto hottest = [](const Solved& one) {
            double watts = 0;
            for (std::size_t i = 0; i < one.network.resistors.size(); ++i)
                watts = std::max(watts, std::pow(one.point.resistor_amps[i], 2) *
                                            one.network.resistors[i].ohms);
            return watts;
        };
        const double usual = hottest(*whole);
        return large_enough(hottest(*s) - usual, std::max(1.5, 2 * usual) - usual);
    }
    case Symptom::dark:
    case Symptom::dim: {
        const auto s = solved(lit_, faults, {}, false);
        const auto& whole = sound(lit_);
        if (!s || !whole || s->board_off) return 0;
        const double is = light_of(*s, sight.where), should = light_of(*whole, sight.where);
        if (should < 1e-4) return 0;
        if (symptom == Symptom::dark) return is < 0.03 * should ? 1 : 0;
        // A stretch that is dark is told as that, and is not dim.
        const bool stretch = std::any_of(faults.begin(), faults.end(), [&](const Fault* f) {
            return std::any_of(f->seen.begin(), f->seen.end(), [&](const Sight& seen) {
                return seen.symptom == Symptom::dead_after_pixel && seen.where == sight.where;
            });
        });
        return stretch || is < 0.03 * should ? 0 : large_enough(1 - is / should, 0.25);
    }
    default:
        return 0;
    }
}

} // namespace conductus::diagnose
