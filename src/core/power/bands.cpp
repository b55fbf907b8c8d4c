// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/bands.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "core/catalogue/kinds.h"
#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"

namespace conductus::power {
namespace {

/// So many moments are weighed first, and then all that lie beside the best of them.
constexpr std::size_t coarse_moments = 64, looked_closer = 2;
/// More edges than that are not told apart: what lies between differs by less than a pixel in a
/// thousand.
constexpr std::size_t most_edges = 4096;
/// So many of the pictures that weigh most are solved.
constexpr std::size_t solved_moments = 6;
/// A pixel at the far end of its copper draws about that much less than one at a foot.
constexpr double lost_at_the_end = 0.3;

/// Where along a strip its copper is fed, 0 foot to 1 tip.
std::vector<double> fed_at(const job::Job& job, const std::string& ref) {
    std::vector<double> at{0};
    for (const job::Blade& blade : job.blades)
        if (const auto* strip = job::find_ref(blade.strips, ref))
            for (const job::Feed& feed : strip->feeds)
                at.push_back(feed.at);
    return at;
}

/// What the first k pixels of a light weigh, for every k.
std::vector<double> weights_of(const lights::Group& group, const std::vector<double>& feeds) {
    std::vector<double> sums{0};
    for (int k = 0; k < group.pixels; ++k) {
        double nearest = 1;
        for (const double f : feeds)
            nearest = std::min(nearest, std::abs((k + 0.5) / group.pixels - f));
        sums.push_back(sums.back() + 1 - lost_at_the_end * nearest);
    }
    return sums;
}

/// LEDs and strings are on, whatever share of the time that is: they count by their amperes.
constexpr double pixel_amps = 0.012; // of a channel that counts one

double weight_of(const std::vector<lights::Span>& spans, const std::vector<double>& sums,
                 const catalogue::Pixel& pixel) {
    double sum = 0;
    for (const lights::Span& span : spans) {
        double amps = 0;
        for (std::size_t c = 0; c < pixel.channels.size(); ++c)
            amps += span.duty[c] * pixel.channels[c].full.value();
        sum += amps / pixel_amps *
               (sums[static_cast<std::size_t>(span.last)] -
                sums[static_cast<std::size_t>(span.first)]);
    }
    return sum;
}

double weight_of_dies(const job::Job& job, const catalogue::Catalogue& parts,
                      const lights::Scene& scene) {
    double amps = 0;
    for (const job::Part& part : job.parts) {
        const catalogue::Led* led = catalogue::led_in(parts.find(part.type)->figures);
        if (!led) continue;
        std::string colours;
        for (const catalogue::Die& die : led->dies)
            colours += die.colour;
        const bool blade = std::any_of(job.blades.begin(), job.blades.end(),
                                       [&](const auto& b) { return b.connector == part.ref; });
        for (const catalogue::Die& die : led->dies)
            if (scene.die(part.ref, die.colour, colours, blade) > 0) amps += die.stated.value();
    }
    for (const job::Blade& blade : job.blades)
        for (const job::LedString& string : blade.strings) {
            const auto* type = parts.find_as<catalogue::SegmentedString>(string.type);
            for (int i = 0; i < type->segments; ++i)
                if (scene.segment(string.ref, blade.ref, (i + 0.5) / type->segments) > 0)
                    amps += type->die.stated.value() * type->parallel;
        }
    return amps / pixel_amps;
}

/// When any of those changes: a die stands in the middle of its light, a segment in its own.
std::vector<double> places_of_dies(const job::Job& job, const catalogue::Catalogue& parts) {
    std::vector<double> places{0.5};
    for (const job::Blade& blade : job.blades)
        for (const job::LedString& string : blade.strings) {
            const auto* type = parts.find_as<catalogue::SegmentedString>(string.type);
            for (int i = 0; i < type->segments; ++i)
                places.push_back((i + 0.5) / type->segments);
        }
    return places;
}

bool moves_as(const State& state, job::Style style) {
    return state.look.style == style ||
           std::any_of(state.look.lights.begin(), state.look.lights.end(),
                       [&](const auto& l) { return l.style == style; });
}

/// What cycles is looked at in so many moments of half its time: the other half is the same way
/// back.
constexpr int cycle_moments = 24;

} // namespace

bool has_bands(const State& state) {
    return moves_as(state, job::Style::bands) || moves_as(state, job::Style::cycle);
}

Result<double> brightest_bands(const job::Job& job, const catalogue::Catalogue& parts,
                               const State& state) {
    State known = looked_up(job, parts, state);
    known.effect.reset();
    known.brightness = Brightness::brightest;
    // Pixels change where an edge of the bands passes their middle.
    const bool bands = moves_as(known, job::Style::bands);
    const bool cycles = moves_as(known, job::Style::cycle);
    std::set<double> edges{0, lights::bands_repeat_seconds};
    std::vector<std::vector<double>> weights;
    for (const lights::Group& g : known.chains->groups) {
        weights.push_back(weights_of(g, fed_at(job, g.ref)));
        for (int k = 0; k < g.pixels && edges.size() < most_edges; ++k)
            for (const double s : lights::bands_pass((k + 0.5) / g.pixels))
                edges.insert(s);
    }
    for (const double place : places_of_dies(job, parts))
        for (const double s : lights::bands_pass(place))
            edges.insert(s);
    std::vector<double> moments;
    for (auto it = edges.begin(), next = std::next(it); next != edges.end(); ++it, ++next)
        if (*next - *it > 1e-9) moments.push_back((*it + *next) / 2);
    if (cycles) {
        // Bands as they stand at every place of their way, with cycling at every place of its own.
        std::vector<double> within = bands ? std::move(moments) : std::vector<double>{};
        moments.clear();
        for (int k = 0; k <= cycle_moments; ++k) {
            const double at = k * lights::cycle_seconds / (2 * cycle_moments);
            if (!bands) moments.push_back(at);
            const double begins =
                std::floor(at / lights::bands_repeat_seconds) * lights::bands_repeat_seconds;
            if (bands && (k == 0 || begins > moments.back()))
                for (const double m : within)
                    moments.push_back(begins + m);
        }
    }
    std::vector<std::pair<double, std::size_t>> weighed; // weight, moment
    std::vector<char> done(moments.size());
    const auto weigh = [&](std::size_t i) {
        if (done[i]) return;
        done[i] = 1;
        const lights::Scene scene(job, known.chains, known.look, {},
                                  {Brightness::brightest, 1, 0, moments[i], known.seed});
        double weight = weight_of_dies(job, parts, scene);
        const auto& groups = known.chains->groups;
        std::vector<std::vector<lights::Span>> spans; // mirrored lights show the same
        for (std::size_t g = 0; g < weights.size(); ++g) {
            std::size_t same = 0;
            while (same < g && !scene.alike(groups[same], groups[g]))
                ++same;
            const auto& pixel = *parts.find_as<catalogue::Pixel>(groups[g].pixel);
            spans.push_back(same < g
                                ? spans[same]
                                : scene.spans(groups[g], static_cast<int>(pixel.channels.size())));
            weight += weight_of(spans.back(), weights[g], pixel);
        }
        weighed.emplace_back(weight, i);
    };
    const auto heaviest_first = [&] {
        std::sort(weighed.begin(), weighed.end(), [](const auto& a, const auto& b) {
            return a.first != b.first ? a.first > b.first : a.second < b.second;
        });
    };
    std::size_t stride = (moments.size() + coarse_moments - 1) / coarse_moments;
    for (std::size_t i = 0; i < moments.size(); i += stride)
        weigh(i);
    for (heaviest_first(); stride > 1; heaviest_first()) {
        const std::size_t finer = (stride + 3) / 4;
        const auto best = weighed;
        for (std::size_t k = 0; k < std::min(looked_closer, best.size()); ++k)
            for (std::size_t i = best[k].second > stride ? best[k].second - stride : 0;
                 i < std::min(moments.size(), best[k].second + stride + 1); i += finer)
                weigh(i);
        stride = finer;
    }
    // What cycles between two colours weighs much the same all the way: every moment is solved.
    if (bands) weighed.resize(std::min(weighed.size(), solved_moments));
    double most = -1, best = 0;
    circuit::Guess guess;
    for (const auto& [weight, i] : weighed) {
        State at = known;
        at.bands_at = moments[i];
        const auto network = network_of(job, parts, at);
        if (!network) return tl::unexpected(network.error());
        const auto point = circuit::solve(*network, &guess);
        if (!point) return tl::unexpected(point.error());
        const double amps = circuit::pack_amps(*network, *point);
        if (amps > most) most = amps, best = moments[i];
    }
    return best;
}

} // namespace conductus::power
