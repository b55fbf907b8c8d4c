// SPDX-License-Identifier: GPL-3.0-or-later
// Sound builds of every school of the trade, each at least twice: none of them may be warned of.
#include <fmt/format.h>
#include <functional>
#include <map>

#include "core/harness/data_map.h"
#include "core/job/lookup.h"
#include "core/job/mating.h"
#include "core/job/names.h"
#include "core/job/presets.h"
#include "core/job/validate.h"
#include "core/plan/analyse.h"
#include "core/plan/sets.h"
#include "core/plan/start.h"
#include "support/corpus.h"
#include "support/fixtures.h"

namespace conductus::findings {
namespace {

using namespace test;
using job::Job;
using plan::Start;

struct Build {
    std::string name;
    std::vector<std::string> schools;
    Job job;
};

/// What every one of them is at least twice; docs/guide.md names them.
constexpr const char* schools[] = {"short cell",
                                   "largest cell",
                                   "adapter",
                                   "flat top",
                                   "button top",
                                   "protected cell",
                                   "bare cell",
                                   "kill switch",
                                   "kill plug",
                                   "cell is pulled",
                                   "deep sleep alone",
                                   "jack that charges and kills",
                                   "charged in the hilt",
                                   "cell out to charge",
                                   "fixed chassis",
                                   "docked chassis",
                                   "slide-out chassis",
                                   "one button",
                                   "two buttons",
                                   "three buttons",
                                   "three-colour pixels",
                                   "four-colour pixels",
                                   "LED in the hilt",
                                   "segmented string",
                                   "mirrored blades",
                                   "blades on lines of their own",
                                   "accent on its own line",
                                   "accent ahead",
                                   "accent in parallel",
                                   "speaker at vents",
                                   "speaker with a spacer",
                                   "presets of their own",
                                   "accent at rest",
                                   "plug for the socket",
                                   "blade is felt"};

Job begun(double length, double bore, double blade, Start more = {}) {
    more.length = Millimetre(length);
    more.bore = Millimetre(bore);
    more.blade = Millimetre(blade);
    if (!more.occasion) more.occasion = job::Occasion::stage;
    Job job = job::blank("Sound", job::Kind::conversion);
    const auto ok = plan::begin_job(more, parts())(job);
    EXPECT_TRUE(ok) << (ok ? "" : ok.error().text());
    return job;
}

void wire(Job& job, const char* from, const char* to, job::Role role, int gauge) {
    job::Wire w;
    w.ref = job::free_ref(job, "W");
    w.from = from, w.to = to, w.role = role, w.gauge = gauge;
    job.wires.push_back(w);
}

std::string ref_of(const Job& job, std::string_view prefix) {
    for (const job::Part& p : job.parts)
        if (p.type.starts_with(prefix)) return p.ref;
    ADD_FAILURE() << "no part " << prefix;
    return {};
}

void accent(Job& job, job::Mount mount) {
    EXPECT_TRUE(job::add_accent("pixel.rgb-5050", mount, parts())(job));
    job::Part& a = job.parts.back();
    a.at = job::find_ref(job.parts, ref_of(job, "connector."))->at - Millimetre(8);
    EXPECT_TRUE(harness::configure_as_wired(parts())(job));
}

/// In place of the kill a jack that charges and kills.
void charging_jack(Job& job, bool with_plugs) {
    const std::string kill = ref_of(job, "kill."), board = ref_of(job, "board."),
                      cell = ref_of(job, "cell.");
    const Millimetre at = job::find_ref(job.parts, kill)->at;
    EXPECT_TRUE(job::remove_part(kill)(job));
    job::Part jack;
    jack.ref = "J1", jack.type = "jack.switched-8a", jack.at = at, jack.off_axis = Millimetre(9);
    job.parts.push_back(jack);
    std::erase_if(job.wires, [&](const job::Wire& w) {
        return (w.from == cell + ".minus" && w.to == board + ".gnd") ||
               (w.to == cell + ".minus" && w.from == board + ".gnd");
    });
    wire(job, (cell + ".plus").c_str(), (board + ".bat").c_str(), job::Role::supply, 20);
    wire(job, (cell + ".minus").c_str(), "J1.minus", job::Role::return_path, 20);
    wire(job, "J1.out", (board + ".gnd").c_str(), job::Role::return_path, 20);
    wire(job, (cell + ".plus").c_str(), "J1.plus", job::Role::supply, 24);
    job.charger = "charger.jack-1a";
    job::Opening hole;
    hole.name = "jack hole", hole.use = job::OpeningUse::port, hole.part = "J1";
    hole.at = at + Millimetre(9), hole.length = hole.width = Millimetre(12.5);
    job.hilt.openings.push_back(hole);
    if (with_plugs)
        job.plugs = {{"PG1", job::PlugUse::kill, "J1", Millimetre(5.5), Millimetre(9.5), "red cap",
                      "2027-01-20", Volt(4.0), Volt(0.01)},
                     {"PG2", job::PlugUse::charge, "J1", Millimetre(5.5), Millimetre(9.5)}};
}

using Change = std::function<void(Job&)>;

void add(std::vector<Build>& all, const std::string& name, std::vector<std::string> of, Job job,
         const Change& change = {}) {
    if (change) change(job);
    job.brief.swap = job::Swap::accepted;
    all.push_back({name, std::move(of), std::move(job)});
}

job::Job base(const std::string& name) {
    for (auto& [called, job] : base_jobs())
        if (called == name) return job;
    ADD_FAILURE() << "no base " << name;
    return {};
}

/// Cells, their ends, what switches them off, how they are charged.
void supplies(std::vector<Build>& all) {
    struct Hilt {
        double length, bore, blade;
    };
    for (const Hilt& h : {Hilt{300, 31, 813}, Hilt{280, 30, 710}}) {
        const auto of = [&](Start more = {}) { return begun(h.length, h.bore, h.blade, more); };
        Start start;
        start.cell = "cell.18350";
        add(all, "short cell and spares", {"short cell", "cell out to charge"}, of(start),
            [](Job& j) { j.charger = "charger.bay-0a5"; });
        start = {};
        start.cell = "cell.21700-power";
        add(all, "largest cell", {"largest cell", "protected cell", "three-colour pixels"},
            of(start));
        add(all, "small cell in the bay of a large one", {"adapter"}, of(), [](Job& j) {
            job::Part& cell = *job::find_ref(j.parts, ref_of(j, "cell."));
            cell.type = "cell.18350";
            for (const auto* type : parts().all<catalogue::Adapter>())
                if (const auto& a = std::get<catalogue::Adapter>(type->figures);
                    a.takes == "18350" && a.bay == "18650")
                    cell.adapter = type->id;
        });
        add(all, "flat top, bare", {"flat top", "bare cell", "kill switch"}, of(),
            [](Job& j) { job::find_ref(j.parts, ref_of(j, "cell."))->protection.reset(); });
        add(all, "button top", {"button top", "protected cell", "speaker at vents"}, of(),
            [](Job& j) {
                job::find_ref(j.parts, ref_of(j, "cell."))->top = job::CellTop::button;
                job::Opening vent;
                vent.name = "vents", vent.use = job::OpeningUse::vent;
                vent.at = Millimetre(12), vent.length = Millimetre(14), vent.width = Millimetre(30);
                j.hilt.openings.push_back(vent);
            });
        start = {};
        start.kill = "kill.plug-6a";
        add(all, "kill plug", {"kill plug", "flat top"}, of(start), [](Job& j) {
            j.plugs = {{"PG1", job::PlugUse::kill, ref_of(j, "kill."), Millimetre(5.5),
                        Millimetre(9), "red", "2027-01-20", Volt(4), Volt(0)}};
        });
        start = {};
        start.kill = Start::later;
        add(all, "the cell is pulled", {"cell is pulled", "deep sleep alone", "cell out to charge"},
            of(start), [](Job& j) { j.charger = "charger.bay-1a"; });
        add(all, "one jack charges and kills",
            {"jack that charges and kills", "charged in the hilt"}, of(),
            [](Job& j) { charging_jack(j, true); });
    }
}

/// Chassis, buttons, speakers.
void hilts(std::vector<Build>& all) {
    for (const double bore : {31.0, 33.0}) {
        for (const int buttons : {1, 2, 3}) {
            Start start;
            start.buttons = buttons;
            if (buttons == 3) start.board = "board.large";
            const char* names[] = {"one button", "two buttons", "three buttons"};
            add(all, names[buttons - 1], {names[buttons - 1], "fixed chassis"},
                begun(330, bore, 813, start), [](Job& j) { j.hilt.chassis = job::Chassis::fixed; });
        }
        add(all, "slide-out", {"slide-out chassis"}, begun(340, bore, 813),
            [](Job& j) { j.hilt.chassis = job::Chassis::slide_out; });
        add(all, "spacer behind the speaker", {"speaker with a spacer"}, begun(340, bore, 710),
            [&](Job& j) {
                job::Part spacer;
                spacer.ref = "SC1";
                for (const auto* type : parts().all<catalogue::Spacer>())
                    if (spacer.type.empty() && type->body.diameter.value() < bore - 0.5)
                        spacer.type = type->id;
                const job::Part& speaker = *job::find_ref(j.parts, ref_of(j, "speaker."));
                spacer.at = speaker.at + parts().find(speaker.type)->body.length + Millimetre(1);
                const Millimetre gap = parts().find(spacer.type)->body.length + Millimetre(2);
                for (job::Part& p : j.parts)
                    if (p.at > speaker.at && !p.type.starts_with("connector.") &&
                        !p.type.starts_with("button."))
                        p.at = p.at + gap;
                j.parts.push_back(spacer);
            });
    }
    for (const char* name : {"dock", "shelf"})
        add(all, std::string("base ") + name,
            {name == std::string("dock") ? "docked chassis" : "fixed chassis"}, base(name));
    add(all, "docked, with a jack in the cap", {"docked chassis"}, base("dock"),
        [](Job& j) { j.config.buttons = 0, j.config.pads.clear(); });
}

/// Blades, accents, presets, states.
void lights(std::vector<Build>& all) {
    for (const double blade : {813.0, 610.0}) {
        Start start;
        start.strip = "strip.rgbw-144-wide";
        add(all, "white dies", {"four-colour pixels"}, begun(300, 31, blade, start));
        const std::pair<const char*, job::Mount> mounts[] = {
            {"accent on its own line", job::Mount::own_line},
            {"accent ahead", job::Mount::ahead},
            {"accent in parallel", job::Mount::mirrored}};
        for (const auto& [name, mount] : mounts)
            add(all, name, {name}, begun(310, 31, blade),
                [mount = mount](Job& j) { accent(j, mount); });
        add(all, "accent at rest", {"accent at rest", "accent on its own line"},
            begun(310, 31, blade), [](Job& j) {
                accent(j, job::Mount::own_line);
                const std::string ref = j.parts.back().ref;
                EXPECT_TRUE(job::let_rest(job::Rest::idle, {},
                                          {ref, {0, 0.2, 0.4, 0}, job::Style::pulse, 0.5})(j));
            });
        add(all, "presets of their own", {"presets of their own"}, begun(300, 31, blade),
            [](Job& j) {
                EXPECT_TRUE(job::preset_each_look()(j));
                EXPECT_TRUE(job::let_have(1, j.effects[0].name, job::Effects::own)(j));
                j.presets[1].effects[0].colour = {1, 0.4, 0, 0};
                EXPECT_TRUE(job::let_have(2, j.effects[1].name, job::Effects::none)(j));
                j.presets[0].font = "harbour", j.presets[0].tracks = {{"march.wav"}};
            });
        add(all, "a plug for the socket", {"plug for the socket"}, begun(300, 31, blade),
            [](Job& j) {
                job::Blade plug;
                plug.ref = "PL1", plug.form = job::BladeForm::plug;
                plug.connector = j.blades[0].connector;
                plug.length = Millimetre(50), plug.outer = j.blades[0].outer;
                j.blades.push_back(plug);
            });
        Start large;
        large.board = "board.large";
        add(all, "the blade is felt", {"blade is felt", "fixed chassis"},
            begun(330, 31, blade, large), [](Job& j) {
                job::find_ref(j.parts, ref_of(j, "connector."))->type = "connector.pins-5-sense";
                wire(j, "U1.s3", (ref_of(j, "connector.") + ".sense").c_str(), job::Role::button,
                     28);
                j.config.blade_out = job::BladeOut::stays_dark;
                j.config.sense_pad = "U1.s3";
                for (job::Look& l : j.looks)
                    l.cap *= 0.6; // two pins a pole
                for (job::Effect& e : j.effects)
                    e.cap *= 0.5;
            });
    }
    for (const char* name : {"led", "lamp"})
        add(all, name, {"LED in the hilt"}, base(name));
    add(all, "Bittern", {"mirrored blades", "plug for the socket"}, demo("bittern"));
    add(all, "its side blades on a line of their own",
        {"blades on lines of their own", "mirrored blades"}, demo("bittern"), [](Job& j) {
            for (job::Wire& w : j.wires)
                if (w.to == "P2.data" || w.to == "P3.data") w.from = "U1.d2";
            j.lines = {{"U1.d1", 117}, {"U1.d2", 43}};
        });
    add(all, "each side blade on its own", {"blades on lines of their own"}, demo("bittern"),
        [](Job& j) {
            for (job::Wire& w : j.wires) {
                if (w.to == "P2.data") w.from = "U1.d2";
                if (w.to == "P3.data") w.from = "U1.d3";
            }
            j.lines = {{"U1.d1", 117}, {"U1.d2", 43}, {"U1.d3", 43}};
        });
    add(all, "Godwit", {"segmented string", "kill plug"}, demo("godwit"));
    add(all, "a string behind a keyed plug", {"segmented string"}, demo("godwit"), [](Job& j) {
        job::Part plug;
        plug.ref = "P1", plug.type = "connector.keyed-9", plug.at = Millimetre(188);
        j.parts.push_back(plug);
        j.blades[0].connector = "P1";
        for (job::Wire& w : j.wires)
            for (std::string* end : {&w.from, &w.to})
                if (end->starts_with("BL1.")) *end = "P1." + end->substr(4);
    });
    add(all, "Curlew", {"jack that charges and kills", "charged in the hilt", "accent at rest"},
        demo("curlew"));
}

TEST(Schools, FortySoundBuildsRaiseNoStopAndNoWarning) {
    std::vector<Build> all;
    supplies(all);
    hilts(all);
    lights(all);
    EXPECT_GE(all.size(), 40u);
    std::map<std::string, int> times;
    for (const Build& b : all) {
        for (const std::string& school : b.schools)
            ++times[school];
        const auto valid = job::validate(b.job, parts());
        ASSERT_TRUE(valid) << b.name << ": " << valid.error().text();
        plan::Plan plan = plan::analyse_figures(std::make_shared<const Job>(b.job), shared_parts());
        plan::judge_worst_set(plan, one_by_one);
        for (const Finding& f : plan.findings)
            EXPECT_EQ(f.severity, Severity::note)
                << b.name << ": " << f.id << ": " << f.text.english();
    }
    for (const char* school : schools)
        EXPECT_GE(times[school], 2) << school;
    EXPECT_EQ(times.size(), std::size(schools)) << "a school that is not in the list";
    fmt::print("  {} sound builds of {} schools\n", all.size(), times.size());
}

} // namespace
} // namespace conductus::findings
