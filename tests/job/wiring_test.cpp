// SPDX-License-Identifier: GPL-3.0-or-later
// What is joined to what, and the table of kinds it is told by.
#include "core/job/wiring.h"

#include <random>

#include "core/harness/derive.h"
#include "core/hilt/body.h"
#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "core/plan/analyse.h"
#include "core/plan/plan.h"
#include "core/power/storage.h"
#include "support/fixtures.h"

namespace conductus::job {
namespace {

using namespace test;
using catalogue::Pass;
using Through = Wiring::Through;

Part fitted(const char* ref, const char* type) {
    Part part;
    part.ref = ref, part.type = type;
    return part;
}

Job with(std::vector<Part> fit, std::vector<Wire> wires) {
    Job job;
    job.name = "bench";
    job.parts = std::move(fit);
    job.wires = std::move(wires);
    return job;
}

TEST(Wiring, GoesThroughWhatCarriesTheKindThatIsFollowed) {
    const Job job = with({fitted("B1", "cell.18650-power"), fitted("K1", "kill.slide-10a"),
                          fitted("F1", "fuse.blade-7a5"), fitted("R1", "resistor.0w25"),
                          fitted("U1", "board.standard")},
                         {{"W1", "B1.plus", "F1.a", Role::supply, 22, {}, {}},
                          {"W2", "F1.b", "K1.in", Role::supply, 22, {}, {}},
                          {"W3", "K1.out", "R1.a", Role::supply, 22, {}, {}},
                          {"W4", "R1.b", "U1.bat", Role::supply, 22, {}, {}},
                          {"W5", "B1.minus", "U1.gnd", Role::return_path, 22, {}, {}},
                          {"W6", "U1.d1", "U1.gnd", Role::data, 28, {}, {}}});
    const Wiring wiring(job, parts());
    EXPECT_EQ(wiring.reached({"B1.plus"}, power_roles, Through::nothing),
              (Terminals{"B1.plus", "F1.a"}));
    EXPECT_EQ(wiring.reached({"B1.plus"}, power_roles, Through::contacts),
              (Terminals{"B1.plus", "F1.a", "F1.b", "K1.in", "K1.out", "R1.a"}))
        << "a resistor is no contact";
    EXPECT_TRUE(wiring.reached({"B1.plus"}, power_roles, Through::conductors).contains("U1.bat"));
    EXPECT_FALSE(wiring.reached({"B1.plus"}, power_roles, Through::conductors).contains("U1.gnd"))
        << "a cell is another potential, and a data wire carries none";
    EXPECT_TRUE(wiring.is_wired("U1.gnd"));
    EXPECT_TRUE(wiring.is_wired("U1.d1", {Role::data}));
    EXPECT_FALSE(wiring.is_wired("U1.d1", power_roles));
    EXPECT_FALSE(wiring.is_wired("U1.l1"));
    EXPECT_FALSE(wiring.is_loose(job.parts[1]));
    EXPECT_EQ(wiring.nearest(
                  "R1.b", power_roles, Through::conductors,
                  [](std::string_view at) { return at.starts_with("K1"); },
                  [](std::string_view) { return false; }),
              "K1.out");
    EXPECT_EQ(wiring.nearest(
                  "B1.plus", power_roles, Through::conductors,
                  [](std::string_view at) { return at == "U1.bat"; },
                  [](std::string_view at) { return at == "F1.b"; }),
              "")
        << "not beyond where it stops";
}

TEST(Wiring, ConvertersLeadOneWay) {
    const Job job = with({fitted("V1", "regulator.5v-step-up"), fitted("H1", "shifter.one-line")},
                         {{"W1", "V1.in", "X.a", Role::supply, 22, {}, {}},
                          {"W2", "V1.out", "X.b", Role::supply, 22, {}, {}},
                          {"W3", "H1.in", "Y.a", Role::data, 28, {}, {}}});
    ASSERT_TRUE(parts().find(job.parts[0].type) && parts().find(job.parts[1].type));
    const Wiring wiring(job, parts());
    const auto all = Through::conductors_and_converters;
    EXPECT_TRUE(wiring.reached({"X.a"}, power_roles, all).contains("X.b"));
    EXPECT_FALSE(wiring.reached({"X.b"}, power_roles, all).contains("X.a"));
    EXPECT_FALSE(wiring.reached({"X.a"}, power_roles, Through::conductors).contains("X.b"));
    EXPECT_FALSE(wiring.reached({"Y.a"}, {Role::data}, Through::conductors).contains("H1.out"));
}

/// Follows wires alone, by looking at all of them again and again.
Terminals by_wires(const Job& job, const std::string& from, Roles roles) {
    Terminals seen{from};
    for (bool grew = true; grew;) {
        grew = false;
        for (const Wire& w : job.wires)
            if (roles.holds(w.role) && seen.contains(w.from) != seen.contains(w.to)) {
                seen.insert(w.from);
                seen.insert(w.to);
                grew = true;
            }
    }
    return seen;
}

TEST(Wiring, IsWhatTheWiresSayInAnyOrder) {
    std::mt19937 random(7);
    for (const std::string name : demo_jobs) {
        Job job = demo(name);
        for (int turn = 0; turn < 5; ++turn) {
            std::shuffle(job.wires.begin(), job.wires.end(), random);
            // Half of them as they come, half added.
            Job half = job;
            half.wires.resize(job.wires.size() / 2);
            Wiring wiring(half, parts());
            for (std::size_t i = half.wires.size(); i < job.wires.size(); ++i)
                wiring.add(job.wires[i]);
            for (const Wire& w : job.wires)
                for (const Roles roles : {power_roles, Roles{Role::data}, Roles{Role::button}}) {
                    EXPECT_EQ(wiring.reached({w.from}, roles, Through::nothing),
                              by_wires(job, w.from, roles))
                        << name << " " << w.from;
                    // What more is followed reaches no less.
                    const auto far = wiring.reached({w.from}, roles, Through::conductors);
                    for (const std::string& t : by_wires(job, w.from, roles))
                        EXPECT_TRUE(far.contains(t));
                }
        }
    }
}

TEST(Kinds, EveryTypeOfTheCatalogueHasTheTerminalsItsKindSays) {
    std::set<std::string_view> keys, words;
    for (const catalogue::Kind& kind : catalogue::kinds()) {
        EXPECT_TRUE(keys.insert(kind.key).second) << kind.key;
        EXPECT_TRUE(words.insert(kind.word).second) << kind.word;
        EXPECT_FALSE(kind.words.empty());
        EXPECT_EQ(catalogue::kind_named(kind.key), &kind);
        EXPECT_EQ(kind.lettering.empty(), kind.stands == catalogue::Stands::apart) << kind.key;
    }
    EXPECT_EQ(catalogue::kind_named("spoon"), nullptr);
    std::set<std::string_view> seen;
    for (const std::string& id : parts().ids()) {
        const auto& type = *parts().find(id);
        const catalogue::Kind& kind = catalogue::kind_of(type.figures);
        seen.insert(kind.key);
        const auto has = [&](std::string_view terminal) {
            return std::find(type.terminals.begin(), type.terminals.end(), terminal) !=
                   type.terminals.end();
        };
        for (const Pass& pass : catalogue::passes(type.figures)) {
            EXPECT_TRUE(has(pass.a) && has(pass.b)) << id;
            // A wire may be led through it: both ends take a kind alike.
            const auto a = catalogue::takes(type.figures, pass.a),
                       b = catalogue::takes(type.figures, pass.b);
            EXPECT_TRUE((a.supply && b.supply) || (a.data && b.data)) << id;
        }
        for (const std::string& terminal : type.terminals)
            EXPECT_NE(catalogue::takes(type.figures, terminal), catalogue::Takes{})
                << id << "." << terminal << " takes no wire";
        EXPECT_EQ(catalogue::letterings(type).empty(), kind.stands == catalogue::Stands::apart)
            << id;
    }
    EXPECT_EQ(seen.size(), catalogue::kinds().size()) << "every kind is in the catalogue";
}

TEST(Kinds, AJackWithAContactOfItsOwnChargesAndKills) {
    // Heron with a jack in place of its kill, wired by what is fitted.
    Job job = demo("heron");
    Part jack = *find_ref(job.parts, "K1");
    jack.ref = "J1", jack.type = "jack.switched-2p1";
    std::erase_if(job.parts, [](const Part& p) { return p.ref == "K1"; });
    job.parts.push_back(jack);
    job.wires.clear();
    job.charger = "charger.jack-1a";
    ASSERT_TRUE(harness::wire_missing(parts())(job));
    ASSERT_TRUE(validate(job, parts())) << validate(job, parts()).error().text();
    const auto plan = plan::analyse(std::make_shared<const Job>(job), shared_parts());
    ASSERT_FALSE(plan.trouble) << plan.trouble->text();
    const auto found = [&](const char* id) {
        return std::any_of(plan.findings.begin(), plan.findings.end(),
                           [&](const auto& f) { return f.id == id; });
    };
    EXPECT_TRUE(harness::missing_wires(job, parts()).empty());
    EXPECT_FALSE(found("supply.no-kill")) << "it is in the return";
    EXPECT_FALSE(found("charge.no-port"));
    EXPECT_FALSE(found("harness.wrong-role"));
    // All that the board draws goes through its contact; killed, nothing does.
    const auto& point = plan.looks[0].fresh->point;
    const auto& network = plan.looks[0].fresh->network;
    double through = 0;
    for (std::size_t i = 0; i < network.resistors.size(); ++i)
        if (network.resistors[i].ref == "J1") through = std::abs(point.resistor_amps[i]);
    EXPECT_NEAR(through, point.source_amps[0], 1e-9);
    const auto stored = power::storage_of(job, parts());
    ASSERT_TRUE(stored);
    EXPECT_TRUE(stored->has_kill);
    // A plug stands in the wall and takes no room in the bore.
    EXPECT_FALSE(hilt::place(jack, job.hilt, parts()).in_bore);
    // More than it is made for is said.
    EXPECT_TRUE(found("kill.over-current"));
    // The supply crossed over it is not: out of the jack straight to the cell's minus is no kill.
    for (Wire& w : job.wires)
        if (w.from == "J1.out" || w.to == "J1.out")
            (w.from == "J1.out" ? w.from : w.to) = "B1.minus";
    const auto past = plan::analyse(std::make_shared<const Job>(job), shared_parts());
    EXPECT_TRUE(std::any_of(past.findings.begin(), past.findings.end(),
                            [](const auto& f) { return f.id == "supply.no-kill"; }));
}

} // namespace
} // namespace conductus::job
