// SPDX-License-Identifier: GPL-3.0-or-later
// How well and how fast faults are found: hidden faults of the demo jobs, single and double, read
// with noise at builds within their tolerances; the finder's way against two others.
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <map>
#include <vector>

#include "core/base/random.h"
#include "core/diagnose/practice.h"
#include "core/diagnose/test_plan.h"
#include "core/job/mating.h"
#include "support/fixtures.h"

using namespace conductus;
using namespace conductus::diagnose;

namespace {

double now() {
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch())
        .count();
}

void trials(const std::vector<Finder>& all, int level, int count,
            std::map<int, std::pair<int, int>>& said) {
    int first = 0, third = 0;
    double minutes = 0, readings = 0, next_sum = 0, next_most = 0;
    for (int i = 0; i < count; ++i) {
        const Finder& fresh = all[static_cast<std::size_t>(i) % all.size()];
        Finder hilt = fresh, finder = fresh;
        Case hidden(hilt, level, static_cast<unsigned>(i) + 1000);
        finder.take(hidden.seen(), {});
        for (int k = 0;
             k < (level > 2 ? 16 : 6) && finder.hypotheses()[0].p < (level > 2 ? 0.99 : 0.95);
             ++k) {
            const double begun = now();
            const auto next = finder.next(1);
            next_sum += now() - begun, next_most = std::max(next_most, now() - begun);
            if (next.empty()) break;
            const Measure m = finder.candidates()[next[0].candidate].measure;
            const auto value = hidden.read(m, next[0].turned);
            minutes += next[0].minutes, ++readings;
            if (!value) break;
            finder.read({m, *value, next[0].turned});
        }
        auto truth = hidden.faults();
        std::sort(truth.begin(), truth.end());
        const auto& h = finder.hypotheses();
        first += h[0].faults == truth;
        for (std::size_t r = 0; r < 3 && r < h.size(); ++r)
            third += h[r].faults == truth;
        auto& [right, of] = said[static_cast<int>(h[0].p * 10)];
        right += h[0].faults == truth, ++of;
    }
    std::printf(
        "%d cases of level %d: first %.1f %%, in the first three %.1f %%; %.1f readings, %.1f min; "
        "next reading %.0f ms on average, %.0f ms at most\n",
        count, level, 100.0 * first / count, 100.0 * third / count, readings / count,
        minutes / count, 1000 * next_sum / std::max(1.0, readings), 1000 * next_most);
}

/// How many builds within their tolerances read in the bands of the test plan.
void bands(const std::vector<Finder>& all, unsigned builds_of_each) {
    long held = 0, readings = 0;
    double worst = 1;
    for (const Finder& fresh : all) {
        Finder finder = fresh;
        Random noise(7);
        for (const TestStep& s : test_plan(finder).steps) {
            const bool measured = s.what == job::Reads::volts || s.what == job::Reads::amps ||
                                  (s.what == job::Reads::ohms && !s.open());
            if (!measured || !s.measured || s.state == by_itself) continue;
            long in = 0, of = 0;
            for (unsigned i = 0; i < builds_of_each; ++i) {
                const auto value =
                    finder.world().read(*s.measured, {}, drawn(finder.world(), 4000 + i), s.turned);
                if (!value) continue;
                in += s.judge(*value + noise.bell() * instrument_sigma(s.what, *value)) ==
                      Verdict::fine;
                ++of;
            }
            held += in, readings += of;
            if (of > 0) worst = std::min(worst, static_cast<double>(in) / static_cast<double>(of));
        }
    }
    std::printf(
        "%zu builds: %.2f %% of %ld readings are in their bands, of the worst step %.1f %%\n",
        all.size() * builds_of_each,
        100.0 * static_cast<double>(held) / static_cast<double>(readings), readings, 100 * worst);
}

} // namespace

/// finder_bench [SINGLE [DOUBLE]]: 500 and 200 where nothing is said. Single faults have six
/// readings at most, double ones sixteen.
int main(int argc, char** argv) {
    const int single = argc > 1 ? std::atoi(argv[1]) : 500,
              two = argc > 2 ? std::atoi(argv[2]) : 200;
    std::vector<Finder> all;
    for (const char* name : test::demo_jobs) {
        const double begun = now();
        all.emplace_back(job::as_it_stands(test::demo(name)), test::parts());
        const double made = now() - begun;
        // All pairs at once, with three readings taken.
        Finder pairs = all.back();
        std::vector<Reading> readings;
        for (std::size_t k = 0; k < pairs.candidates().size() && readings.size() < 3; k += 7)
            if (const auto v = pairs.world().read(pairs.candidates()[k].measure, {}))
                readings.push_back(
                    {pairs.candidates()[k].measure, *v, pairs.candidates()[k].turned});
        const double then = now();
        pairs.take({}, readings);
        std::printf("%-8s %3zu faults, %3zu readings that could be taken: every single fault "
                    "solved %.2f s, every pair "
                    "weighed with three readings %.2f s\n",
                    name, all.back().faults().size(), all.back().candidates().size(), made,
                    now() - then);
    }
    bands(all, 334);
    std::map<int, std::pair<int, int>> said;
    trials(all, 2, single, said);
    trials(all, 3, two, said);
    std::printf("said, and true:");
    for (const auto& [tenth, counts] : said)
        if (counts.second > 0)
            std::printf("  %d0 to %d0 %%: %d of %d", tenth, tenth + 1, counts.first, counts.second);
    std::printf("\n");
    const int each = std::max(1, single / 5);
    for (const auto& [policy, words] : {std::pair{Policy::finder, "the finder"},
                                        {Policy::halving, "halving the supply path"},
                                        {Policy::habit, "the order of habit"}}) {
        double minutes = 0, readings = 0;
        int right = 0;
        for (int i = 0; i < each; ++i) {
            const Played p = play(all[static_cast<std::size_t>(i) % all.size()], 2,
                                  static_cast<unsigned>(i) + 5000, policy);
            minutes += p.minutes, readings += static_cast<double>(p.readings.size());
            right += p.right;
        }
        std::printf("%-24s %5.1f min to the mend, %4.1f readings, %.0f %% right\n", words,
                    minutes / each, readings / each, 100.0 * right / each);
    }
    return 0;
}
