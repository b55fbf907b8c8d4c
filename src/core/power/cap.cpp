// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/cap.h"

#include <algorithm>
#include <cmath>

#include "core/job/lookup.h"
#include "core/job/presets.h"
#include "core/power/runtime.h"
#include "core/power/state.h"

namespace conductus::power {
namespace {

constexpr double least_cap = 0.01; // darker than that is dark

/// Dims the look to that cap, the effects by that factor.
job::Edit dim(std::string look, double cap, double effects) {
    return [look = std::move(look), cap, effects](job::Job& job) {
        if (auto* l = job::find_name(job.looks, look)) l->cap = cap;
        job::each_effect(job, [&](job::Effect& e) { e.cap = std::max(e.cap * effects, 0.0); });
    };
}

/// The largest x in least_cap..1 for which `clean`(x) is at least `wanted`; clean falls with x, is
/// less at 1 and enough at the least. Secants that keep the root between them (Illinois).
template <class F>
Result<double> largest(F&& clean, double wanted, double at_least, double at_one) {
    double lo = least_cap, hi = 1, flo = at_least - wanted, fhi = at_one - wanted;
    int side = 0;
    for (int i = 0; i < 40 && hi - lo > 1e-5; ++i) {
        double x = (lo * fhi - hi * flo) / (fhi - flo);
        if (!(x > lo && x < hi) || i % 5 == 4) x = (lo + hi) / 2;
        const auto at = clean(x);
        if (!at) return tl::unexpected(at.error());
        const double f = at->value() - wanted;
        if (f >= 0) {
            lo = x, flo = f;
            if (f < 1e-4 * wanted) break;
            if (side == 1) fhi /= 2;
            side = 1;
        } else {
            hi = x, fhi = f;
            if (side == -1) flo /= 2;
            side = -1;
        }
    }
    return lo;
}

} // namespace

Result<CapFor> cap_for(const job::Job& job, const catalogue::Catalogue& parts, Minute wanted) {
    const auto look = look_named(job, job.use.look);
    if (!look) return tl::unexpected(look.error());
    CapFor c;
    c.look = look->name;
    c.now = look->cap;
    auto run = [&](double cap, double effects) {
        job::Job with = job;
        with.variants.clear();
        dim(c.look, cap, effects)(with);
        return run_down(with, parts);
    };
    auto clean = [&](double cap, double effects) -> Result<Minute> {
        const auto r = run(cap, effects);
        if (!r) return tl::unexpected(r.error());
        return r->clean();
    };
    const auto now = clean(c.now, 1);
    if (!now) return tl::unexpected(now.error());
    c.clean_now = *now;
    const auto full = clean(1, 1);
    if (!full) return tl::unexpected(full.error());
    if (*full >= wanted) {
        c.reached = true;
        c.clean = *full;
        c.edit = dim(c.look, 1, 1);
        return c;
    }
    const auto dark = clean(least_cap, 1);
    if (!dark) return tl::unexpected(dark.error());
    if (*dark >= wanted) {
        const auto cap = largest([&](double x) { return clean(x, 1); }, wanted.value(),
                                 dark->value(), full->value());
        if (!cap) return tl::unexpected(cap.error());
        c.cap = *cap;
    } else {
        const auto all_dark = run(least_cap, least_cap);
        if (!all_dark) return tl::unexpected(all_dark.error());
        if (all_dark->clean() < wanted) {
            c.cap = c.effects = least_cap;
            c.clean = all_dark->clean();
            c.in_the_way = all_dark->crackle
                               ? Message("the sound asks for more volts than the cell keeps")
                               : all_dark->off_because;
            return c;
        }
        const auto x = largest([&](double f) { return clean(f, f); }, wanted.value(),
                               all_dark->clean().value(), full->value());
        if (!x) return tl::unexpected(x.error());
        c.cap = c.effects = *x;
    }
    const auto then = clean(c.cap, c.effects);
    if (!then) return tl::unexpected(then.error());
    c.clean = *then;
    c.reached = true;
    c.edit = dim(c.look, c.cap, c.effects);
    return c;
}

} // namespace conductus::power
