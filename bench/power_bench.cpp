// SPDX-License-Identifier: GPL-3.0-or-later
// Runtime: the trade's arithmetic and a circuit simulator's stepping beside ours, for every demo
// job; and the time that days take. Printed, never asserted.
#include <chrono>
#include <cstdio>
#include <fmt/format.h>
#include <regex>
#include <sstream>

#include "core/plan/analyse.h"
#include "core/power/day_run.h"
#include "core/power/runtime.h"
#include "files/spice.h"
#include "support/fixtures.h"
#include "threads/side_by_side.h"

using namespace conductus;

namespace {

using Clock = std::chrono::steady_clock;

double seconds_since(Clock::time_point start) {
    return std::chrono::duration<double>(Clock::now() - start).count();
}

/// Volts at the first cell's terminal after `seconds` of the use's look held, by the simulator.
struct Stepped {
    double volts = 0, took = 0;
};
Stepped stepped(const job::Job& job, const circuit::Network& network, double seconds) {
    test::TemporaryFolder folder;
    const std::string node = network.nodes[network.sources[0].plus];
    test::write_file(folder / "net.cir",
                     files::spice_transient_text(
                         network, "bench", files::spice_cells(job, test::parts(), network, 1),
                         seconds, seconds / 60, fmt::format(".print tran v({})\n", node)));
    const auto start = Clock::now();
    const auto ran = test::run("timeout 600 ngspice -b " + (folder / "net.cir").string());
    Stepped s;
    s.took = seconds_since(start);
    const std::regex row("^\\s*[0-9]+\\s+[0-9.]+e[-+][0-9]+\\s+(-?[0-9.]+e[-+][0-9]+)\\s*$");
    std::istringstream lines(ran.out);
    std::smatch m;
    for (std::string line; std::getline(lines, line);)
        if (std::regex_match(line, m, row)) s.volts = std::stod(m[1]);
    return s;
}

} // namespace

int main() {
    constexpr double held_for = 300; // s
    std::printf("%-9s %21s %21s %26s\n", "", "runtime until off", "count x 60 mA says",
                "held 300 s, against ngspice");
    std::printf("%-9s %9s %11s %9s %11s %9s %9s %8s\n", "job", "min", "ms", "min", "off by",
                "mV apart", "its s", "times");
    for (const char* name : {"avocet", "bittern", "curlew", "dunlin", "godwit", "heron"}) {
        const job::Job job = test::demo(name);
        auto start = Clock::now();
        const auto run = power::run_down(job, test::parts());
        const double took = seconds_since(start);
        if (!run) continue;
        const auto plan =
            plan::analyse_figures(std::make_shared<const job::Job>(job), test::shared_parts());
        const auto figures = power::cells_of(job, test::parts());
        const double by_count = figures.front().capacity.value() / 1e3 / plan.by_count.value() * 60;

        // The referee steps the network as it is; the cell stays as warm as it was.
        const power::State state = power::mean_state(*power::look_named(job, job.use.look));
        const auto network = power::network_of(job, test::parts(), state);
        const auto pack = power::pack_of(*network);
        Stepped referee;
        double apart = 0, ours = 0;
        if (network->converters.empty()) {
            referee = stepped(job, *network, held_for);
            start = Clock::now();
            auto cold = figures;
            double row = 0;
            for (auto& f : cold)
                f.to_air = KelvinPerWatt(1e-9), row += f.series;
            const auto curve = power::LoadCurve::of(
                *network, *pack, {}, power::Watched::Light::none, 2 * row, 4.19 * row);
            power::Bank bank(cold, *pack, job.use.temperature);
            power::Steps steps;
            power::Held held = bank.hold(*curve);
            for (double now = 0; now < held_for - 1e-9;)
                now += steps.take(bank, *curve, held, held_for - now, job.use.temperature);
            ours = seconds_since(start);
            apart = (bank.terminal(0, held).value() - referee.volts) * 1e3;
        }
        std::printf("%-9s %9.1f %11.1f %9.1f %10.0f%% %9.3f %9.2f %8.0f\n", name, run->off.value(),
                    took * 1e3, by_count, (by_count / run->off.value() - 1) * 100, apart,
                    referee.took, ours > 0 ? referee.took / ours : 0);
    }
    const job::Job bittern = test::demo("bittern");
    auto start = Clock::now();
    const auto loads = power::day_loads(bittern, test::parts(), bittern.use, side_by_side);
    std::printf("\nBittern: curves of all its states %.1f ms", seconds_since(start) * 1e3);
    start = Clock::now();
    for (int i = 0; i < 20; ++i)
        (void)power::live(*loads, {});
    std::printf(", one day %.2f ms", seconds_since(start) / 20 * 1e3);
    start = Clock::now();
    const auto days = power::many_days(*loads, 1000, 1, side_by_side);
    std::printf(", 1000 days on two threads %.2f s (P50 %.0f min)\n", seconds_since(start),
                days.p50.value());
    return 0;
}
