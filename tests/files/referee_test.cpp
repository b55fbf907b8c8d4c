// SPDX-License-Identifier: GPL-3.0-or-later
// An independent circuit simulator as the referee: it is given the exported netlist and must find
// the same voltage at every node.
#include <cstdlib>
#include <fmt/format.h>
#include <map>
#include <regex>
#include <sstream>

#include "core/circuit/solver.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/mating.h"
#include "core/job/presets.h"
#include "core/job/validate.h"
#include "core/plan/states.h"
#include "core/power/runtime.h"
#include "core/power/state.h"
#include "files/spice.h"
#include "support/fixtures.h"
#include "support/lit_jobs.h"

namespace conductus {
namespace {

using namespace test;

/// Node voltages that ngspice prints, by name.
std::map<std::string, double> refereed(const circuit::Network& network,
                                       const circuit::OperatingPoint* start = nullptr) {
    TemporaryFolder folder;
    write_file(folder / "net.cir", files::spice_text(network, "refereed", start));
    const Ran ran = run("timeout 60 ngspice -b " + (folder / "net.cir").string());
    EXPECT_EQ(ran.code, 0) << ran.err;
    std::map<std::string, double> volts;
    const std::regex row("^\\s*([a-z0-9_]+)\\s+(-?[0-9.]+e[-+][0-9]+)\\s*$");
    std::istringstream lines(ran.out);
    std::smatch m;
    for (std::string line; std::getline(lines, line);)
        if (std::regex_match(line, m, row)) volts.emplace(m[1], std::stod(m[2]));
    return volts;
}

void agree(const circuit::Network& n, const std::string& what) {
    const auto p = circuit::solve(n);
    ASSERT_TRUE(p) << what << ": " << p.error().text();
    // Alone, the simulator does not find its way through a converter's knees.
    const auto referee = refereed(n, n.converters.empty() ? nullptr : &*p);
    auto check = [&](const std::string& node, double volts) {
        const auto it = referee.find(node);
        ASSERT_NE(it, referee.end()) << what << " " << node;
        EXPECT_NEAR(volts, it->second, 1e-4) << what << " " << node;
    };
    for (circuit::Node k = 1; k < n.nodes.size(); ++k)
        check(n.nodes[k], p->volts[k]);
    for (std::size_t s = 0; s < n.strips.size(); ++s)
        for (std::size_t k = 0; k < p->strips[s].volts.size(); ++k) {
            check(files::plus_node(n.strips[s], k + 1), p->strips[s].rail[k]);
            check(files::minus_node(n.strips[s], k + 1),
                  p->strips[s].rail[k] - p->strips[s].volts[k]);
        }
}

class Refereed : public testing::TestWithParam<const char*> {
protected:
    /// The job, and each way of building it that was kept beside it.
    static std::vector<job::Job> ways() {
        const job::Job job = demo(GetParam());
        std::vector<job::Job> all{job};
        for (std::size_t i = 0; i < job.variants.size(); ++i)
            all.push_back(job::with_variant(job, i));
        return all;
    }
};

TEST_P(Refereed, EveryLookAtEveryCharge) {
    for (const job::Job& job : ways())
        for (const job::Look& look : job.looks)
            for (const double charge : {1.0, 0.5, 0.05}) {
                const auto n = power::network_of(job, parts(), {look, {}, {}, {}, charge});
                ASSERT_TRUE(n);
                agree(*n, look.name + " at " + std::to_string(charge));
            }
}

TEST_P(Refereed, EveryEffectAndEveryDarkState) {
    for (const job::Job& job : ways()) {
        std::vector<std::string> names{"asleep", "killed", "idle", "charging", "worst"};
        for (const job::Effect& effect : job::effects_of_use(job))
            names.push_back(effect.name);
        for (const std::string& name : names) {
            const auto state = power::state_named(job, parts(), name, {}, 1);
            ASSERT_TRUE(state) << name;
            const auto n = power::network_of(job, parts(), *state);
            ASSERT_TRUE(n);
            agree(*n, name);
        }
    }
}

TEST_P(Refereed, EveryPresetWithItsEffectsAndEverySetInEveryState) {
    const job::Job whole = demo(GetParam());
    for (const job::Preset& preset : whole.presets) {
        std::vector<std::string> names{preset.name};
        for (const job::Effect& effect : job::effects_of(whole, preset))
            names.push_back(effect.name);
        for (const std::string& name : names) {
            const auto of = plan::state_of(whole, parts(), name, {}, preset.name, 1);
            ASSERT_TRUE(of) << name << ": " << of.error().text();
            const auto n = power::network_of(of->job, parts(), of->state);
            ASSERT_TRUE(n);
            agree(*n, name + " in " + preset.name);
        }
    }
    if (!job::has_choice(whole)) return;
    // Every set once, each in the next of the states.
    const std::vector<std::string> states{"idle", "blade out", "asleep", "worst", whole.looks[0].name};
    const auto sets = job::all_sets(whole, 1000);
    for (std::size_t i = 0; i < sets.size(); ++i) {
        job::Job mated = whole;
        mated.mated = sets[i];
        const std::string& name = states[i % states.size()];
        const auto of = plan::state_of(mated, parts(), name, {}, {}, 1);
        ASSERT_TRUE(of) << name;
        const auto n = power::network_of(of->job, parts(), of->state);
        ASSERT_TRUE(n);
        agree(*n, job::set_text(sets[i]) + ", " + name);
    }
}

INSTANTIATE_TEST_SUITE_P(Demo, Refereed, testing::ValuesIn(demo_jobs),
                         [](const auto& tested) { return std::string(tested.param); });

TEST(Referee, TheReferenceCase) {
    const auto volts = refereed(reference_network());
    EXPECT_NEAR(volts.at("bl1_plus") - volts.at("bl1_minus"), 3.546119, 2e-6);
    EXPECT_NEAR(volts.at("st1_p117") - volts.at("st1_n117"), 2.959500, 2e-6);
}

TEST(Referee, RandomNetworks) {
    std::mt19937 random(41);
    for (int i = 0; i < 25; ++i)
        agree(random_network(random), "random " + std::to_string(i));
}

TEST(Referee, RandomJobsWithEveryDevice) {
    std::mt19937 random(5);
    for (int i = 0; i < rounds(200); ++i) {
        const job::Job job = random_lit_job(random);
        const auto n = power::network_of(job, parts(), random_state(job, random));
        ASSERT_TRUE(n) << i << ": " << n.error().text();
        agree(*n, "random job " + std::to_string(i));
    }
}

TEST(Referee, PinsAndWiresSideBySideShareUnevenly) {
    job::Job job = demo("heron");
    auto* p1 = job::find_ref(job.parts, "P1");
    p1->type = "connector.pins-5";
    p1->measured.pins = {{"plus2", Ohm(0.11)}, {"minus1", Ohm(0.3)}};
    job::find_ref(job.wires, "W5")->gauge = 26; // beside W6 of 22
    ASSERT_TRUE(job::validate(job, parts()));
    const auto state = power::state_named(job, parts(), "clash flash", {}, 1);
    const auto n = power::network_of(job, parts(), *state);
    ASSERT_TRUE(n);
    agree(*n, "uneven pins");
    const auto p = circuit::solve(*n);
    ASSERT_TRUE(p);
    const auto volts = refereed(*n);
    // Every share, by the simulator's own node voltages.
    auto at = [&](circuit::Node node) { return node == 0 ? 0.0 : volts.at(n->nodes[node]); };
    int pins = 0;
    double least = 1e9, most = 0;
    for (std::size_t i = 0; i < n->resistors.size(); ++i) {
        const auto& r = n->resistors[i];
        if (r.part != circuit::Part::pins && r.ref != "W5" && r.ref != "W6") continue;
        // It prints seven digits of each voltage.
        EXPECT_NEAR(p->resistor_amps[i], (at(r.a) - at(r.b)) / r.ohms, 2e-6 / r.ohms) << r.name;
        if (r.part != circuit::Part::pins) continue;
        ++pins;
        least = std::min(least, std::abs(p->resistor_amps[i]));
        most = std::max(most, std::abs(p->resistor_amps[i]));
    }
    EXPECT_EQ(pins, 4);
    EXPECT_GT(most, 2 * least);
    const plan::Plan plan = plan_of(job);
    double plus = 0;
    for (const auto& l : plan.harness.pins)
        if (l.pin.starts_with("plus")) plus += l.amps.value();
    EXPECT_NEAR(plus, plan.harness.wire("W3")->amps.value(), 1e-9);
}

TEST(Referee, ContactsOfADockShareUnevenly) {
    job::Job job = docked_heron();
    std::erase_if(job.wires, [](const job::Wire& w) { return w.ref == "W8" || w.ref == "W9"; });
    job::find_ref(job.parts, "DK1")->measured.pins = {{"plus2", Ohm(0.09)}};
    ASSERT_TRUE(job::validate(job, parts()));
    const auto state = power::state_named(job, parts(), "clash flash", {}, 1);
    const auto n = power::network_of(job, parts(), *state);
    ASSERT_TRUE(n);
    agree(*n, "docked");
    const plan::Plan plan = plan_of(job);
    const double all = plan.harness.wire("W3")->amps.value();
    auto load = [&](const std::string& pin) {
        for (const auto& l : plan.harness.pins)
            if (l.ref == "DK1" && l.pin == pin) return l.amps.value();
        return -1.0;
    };
    EXPECT_GT(all, 1);
    EXPECT_NEAR(load("plus1"), all * 0.09 / (0.09 + 0.015), 1e-9);
    EXPECT_NEAR(load("plus2"), all * 0.015 / (0.09 + 0.015), 1e-9);
    EXPECT_EQ(load("data1"), 0);
    // Without the dock's contacts more would flow.
    job.parts.pop_back();
    EXPECT_GT(plan_of(job).harness.wire("W3")->amps.value(), all);
}

TEST(Spice, ATitleCanNotBreakTheNetlist) {
    const std::string text = files::spice_text(reference_network(), "two\nlines\r.end");
    EXPECT_EQ(text.find("\n.end"), text.size() - 6);
    EXPECT_TRUE(text.starts_with("* two lines"));
}

/// Node voltages that ngspice prints of a transient, in time: s, V.
std::vector<std::pair<double, double>> transient(const std::string& text) {
    TemporaryFolder folder;
    write_file(folder / "net.cir", text);
    const Ran ran = run("timeout 120 ngspice -b " + (folder / "net.cir").string());
    EXPECT_EQ(ran.code, 0) << ran.err;
    std::vector<std::pair<double, double>> rows;
    const std::regex row("^\\s*[0-9]+\\s+([0-9.]+e[-+][0-9]+)\\s+(-?[0-9.]+e[-+][0-9]+)\\s*$");
    std::istringstream lines(ran.out);
    std::smatch m;
    for (std::string line; std::getline(lines, line);)
        if (std::regex_match(line, m, row)) rows.emplace_back(std::stod(m[1]), std::stod(m[2]));
    return rows;
}

/// A short discharge of a small job: the cell's terminal, stepped by the referee with open-circuit
/// curve, charge and both polarisations as elements.
TEST(RefereedTransient, AShortDischargeAgreesWithinAMillivolt) {
    job::Job job = demo("dunlin");
    for (job::Strip& strip : job.blades[0].strips)
        strip.pixels = 12; // a small one: the referee takes every pixel's node at every step
    for (const double charge : {1.0, 0.62}) {
        const power::State state = power::mean_state(job.looks[0], charge);
        const auto network = power::network_of(job, parts(), state);
        ASSERT_TRUE(network);
        const auto rows = transient(files::spice_transient_text(
            *network, "discharge", files::spice_cells(job, parts(), *network, charge), 600, 2,
            fmt::format(".print tran v({})\n", network->nodes[network->sources[0].plus])));
        ASSERT_GT(rows.size(), 100u);

        auto figures = power::cells_of(job, parts());
        figures[0].to_air = KelvinPerWatt(1e-9); // the netlist's resistances do not warm up
        const auto curve =
            power::LoadCurve::of(*network, {}, {}, power::Watched::Light::none, 2, 4.19);
        ASSERT_TRUE(curve);
        power::Bank bank(figures, {}, job.use.temperature);
        bank.cells[0].charge = charge;
        power::Steps steps;
        power::Held held = bank.hold(*curve);
        double now = 0;
        for (const auto& [at, volts] : rows) {
            while (now < at - 1e-9)
                now += steps.take(bank, *curve, held, at - now, job.use.temperature);
            EXPECT_NEAR(bank.terminal(0, held).value(), volts, 1e-3) << at << " s";
        }
        EXPECT_LT(bank.charge(), charge - 0.02); // something was taken
    }
}

} // namespace
} // namespace conductus
