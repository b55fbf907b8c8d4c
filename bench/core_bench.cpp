// SPDX-License-Identifier: GPL-3.0-or-later
// Speed of the core, against the independent simulator where there is one. Printed, never asserted.
#include <benchmark/benchmark.h>

#include <algorithm>
#include <chrono>
#include <fmt/format.h>
#include <regex>

#include "core/circuit/ladder.h"
#include "core/circuit/solver.h"
#include "core/hilt/arrange.h"
#include "core/hilt/report.h"
#include "core/job/lookup.h"
#include "core/plan/analyse.h"
#include "core/power/runtime.h"
#include "core/power/state.h"
#include "files/card_reader.h"
#include "files/spice.h"
#include "support/fixtures.h"
#include "support/made_up_card.h"
#include "threads/side_by_side.h"

using namespace conductus;

namespace {

/// Seconds of one operating point, the least of many tries, of ours and of the referee turn about:
/// a shared machine is now fast, now slow, and both shall have met it fast.
struct Least {
    double ours = 1e9, referee = 1e9;
};
Least least_of(const circuit::Network& network) {
    using Clock = std::chrono::steady_clock;
    test::TemporaryFolder folder;
    test::write_file(folder / "net.cir", files::spice_text(network, "bench"));
    const std::regex analysis("Total analysis time \\(seconds\\) = ([0-9.e+-]+)");
    Least least;
    for (int turn = 0; turn < 12; ++turn) {
        // What ngspice itself says its analysis took, without reading and writing.
        const std::string out = test::run("ngspice -b " + (folder / "net.cir").string()).out;
        std::smatch m;
        if (std::regex_search(out, m, analysis))
            least.referee = std::min(least.referee, std::stod(m[1]));
        for (int batch = 0; batch < 40; ++batch) {
            const auto start = Clock::now();
            for (int i = 0; i < 50; ++i)
                benchmark::DoNotOptimize(circuit::solve(network));
            const std::chrono::duration<double> took = Clock::now() - start;
            least.ours = std::min(least.ours, took.count() / 50);
        }
    }
    return least;
}

void compare(benchmark::State& state, const circuit::Network& network, const Least& least) {
    for (auto _ : state)
        benchmark::DoNotOptimize(circuit::solve(network));
    state.counters["referee_ms"] = least.referee * 1e3;
    state.counters["least_us"] = least.ours * 1e6;
    state.counters["times_faster"] = least.referee / least.ours;
}

void reference_by_ports(benchmark::State& state) {
    const auto network = test::reference_network();
    static const Least least = least_of(network);
    compare(state, network, least);
}
BENCHMARK(reference_by_ports)->Unit(benchmark::kMicrosecond);

/// Bittern: three blades of two strips on one data line, its first look at full charge.
void bittern_by_ports(benchmark::State& state) {
    const job::Job job = test::demo("bittern");
    const auto network = *power::network_of(job, test::parts(), {job.looks[0], {}, {}, {}, 1});
    static const Least least = least_of(network);
    compare(state, network, least);
}
BENCHMARK(bittern_by_ports)->Unit(benchmark::kMicrosecond);

void reference_whole(benchmark::State& state) {
    const auto network = test::reference_network();
    for (auto _ : state)
        benchmark::DoNotOptimize(circuit::solve_exact(network));
}
BENCHMARK(reference_whole)->Unit(benchmark::kMicrosecond);

/// Strips of more and more pixels on copper that grows with them: cost must grow linearly.
void pixels(benchmark::State& state) {
    auto network = test::reference_network();
    const auto n = static_cast<int>(state.range(0));
    for (auto& s : network.strips) {
        s.segment *= 117.0 * 117.0 / n / n; // the same drop over the whole strip
        s.pixels = n;
        s.spans = {{0, n, {1, 1, 1, 0}}};
        for (auto& full : s.pixel.full)
            full *= 117.0 / n;
    }
    for (auto _ : state)
        benchmark::DoNotOptimize(circuit::solve(network));
    state.SetComplexityN(n);
}
BENCHMARK(pixels)
    ->RangeMultiplier(10)
    ->Range(100, 100000)
    ->Unit(benchmark::kMicrosecond)
    ->Complexity(benchmark::oN);

void runtime_of_heron(benchmark::State& state) {
    const auto job = test::demo("heron");
    for (auto _ : state)
        benchmark::DoNotOptimize(power::run_down(job, test::parts()));
}
BENCHMARK(runtime_of_heron)->Unit(benchmark::kMillisecond);

void whole_plan(benchmark::State& state, const char* name) {
    const auto job = std::make_shared<const job::Job>(test::demo(name));
    for (auto _ : state)
        benchmark::DoNotOptimize(plan::analyse(job, test::shared_parts()));
}
/// Ten bodies that may move, in a hilt with rings, every cell tried.
void arrange_ten_bodies(benchmark::State& state) {
    job::Job job = test::demo("heron");
    test::survey_plainly(job);
    job.hilt.sections.back().to = Millimetre(600);
    std::erase_if(job.parts, [](const job::Part& p) { return p.ref == "P1"; });
    job.blades.clear();
    job.wires.clear();
    for (int i = 0; i < 6; ++i) {
        job::Part extra = *job::find_ref(job.parts, i % 2 ? "K1" : "U1");
        extra.ref = "X" + std::to_string(i);
        extra.at = Millimetre(240 + 50 * i);
        job.parts.push_back(extra);
    }
    for (auto _ : state)
        benchmark::DoNotOptimize(hilt::arrange(job, test::parts()));
}
BENCHMARK(arrange_ten_bodies)->Unit(benchmark::kMillisecond);

void fit_and_study(benchmark::State& state) {
    const job::Job job = test::demo("heron");
    for (auto _ : state) {
        const hilt::Fit fit = hilt::fit(job, test::parts());
        benchmark::DoNotOptimize(hilt::report_on(job, test::parts(), fit));
    }
}
BENCHMARK(fit_and_study)->Unit(benchmark::kMicrosecond);

void figures_of_heron(benchmark::State& state) {
    const auto job = std::make_shared<const job::Job>(test::demo("heron"));
    for (auto _ : state)
        benchmark::DoNotOptimize(plan::analyse_figures(job, test::shared_parts()));
}
/// As while a look's colour is dragged: what has not changed is taken from the plan before.
void figures_of_a_drag(benchmark::State& state, const char* name, bool used) {
    const auto base = std::make_shared<const job::Job>(test::demo(name));
    const plan::Plan before = plan::analyse_figures(base, test::shared_parts());
    auto next = std::make_shared<job::Job>(*base);
    (used ? next->looks.front() : next->looks.back()).colour.red = 0.37;
    for (auto _ : state)
        benchmark::DoNotOptimize(plan::analyse_figures(next, test::shared_parts(), &before));
}
BENCHMARK_CAPTURE(figures_of_a_drag, heron_used, "heron", true)->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(figures_of_a_drag, bittern_used, "bittern", true)->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(figures_of_a_drag, bittern_other, "bittern", false)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(figures_of_heron)->Unit(benchmark::kMillisecond);

void figures_of_bittern(benchmark::State& state) {
    const auto job = std::make_shared<const job::Job>(test::demo("bittern"));
    for (auto _ : state)
        benchmark::DoNotOptimize(plan::analyse_figures(job, test::shared_parts()));
}
BENCHMARK(figures_of_bittern)->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(whole_plan, heron, "heron")->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(whole_plan, bittern, "bittern")->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(whole_plan, dunlin, "dunlin")->Unit(benchmark::kMillisecond);

/// A card whose sounds last about three minutes a font is read, hashed and measured.
void card_is_read(benchmark::State& state) {
    test::TemporaryFolder folder;
    double seconds = 0;
    for (int font = 0; font < 8; ++font)
        for (int k = 0; k < 4; ++k) {
            test::Tone tone;
            tone.seconds = 45;
            tone.noise = 0.3;
            tone.seed = static_cast<unsigned>(font * 10 + k);
            test::write_tone(folder / fmt::format("font{}", font) / fmt::format("{}.wav", k), tone);
            seconds += tone.seconds;
        }
    const card::Layout layout;
    double bytes = 0;
    for (auto _ : state) {
        const auto read = files::read_card(folder.path(), layout, side_by_side);
        bytes += static_cast<double>(read->used);
    }
    state.counters["MB_per_s"] = benchmark::Counter(bytes / 1e6, benchmark::Counter::kIsRate);
    state.counters["times_as_fast_as_it_sounds"] = benchmark::Counter(
        seconds * static_cast<double>(state.iterations()), benchmark::Counter::kIsRate);
}
BENCHMARK(card_is_read)->Unit(benchmark::kMillisecond)->UseRealTime();

} // namespace

BENCHMARK_MAIN();
