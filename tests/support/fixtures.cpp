// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/fixtures.h"

#include <cmath>
#include <cstdlib>
#include <fmt/format.h>
#include <fstream>
#include <sstream>
#include <sys/wait.h>

#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/plan/analyse.h"
#include "files/catalogue_json.h"
#include "files/job_json.h"

namespace conductus::test {

namespace fs = std::filesystem;

fs::path source_dir() { return CONDUCTUS_SOURCE_DIR; }
fs::path bin_dir() { return CONDUCTUS_BIN_DIR; }

std::shared_ptr<const catalogue::Catalogue> shared_parts() {
    static const auto shared = [] {
        auto read = files::read_catalogue(source_dir() / "data" / "catalogue");
        if (!read) throw std::runtime_error(read.error().text());
        return std::make_shared<const catalogue::Catalogue>(std::move(*read));
    }();
    return shared;
}

const catalogue::Catalogue& parts() { return *shared_parts(); }

job::Job demo(const std::string& name) {
    auto job = files::read_job(source_dir() / "data" / "demo" / (name + ".json"), parts());
    if (!job) throw std::runtime_error(job.error().text());
    return *job;
}

job::Job one_button_heron() {
    job::Job job = demo("heron");
    std::erase_if(job.parts, [](const job::Part& p) { return p.ref == "S2"; });
    std::erase_if(job.wires, [](const job::Wire& w) { return w.ref == "W12" || w.ref == "W13"; });
    std::erase_if(job.hilt.openings, [](const job::Opening& o) { return o.part == "S2"; });
    for (job::Agreement& a : job.brief.agreements)
        if (a.measure == "buttons") a.value = 1, a.that_day = 1;
    job.presets.clear();
    job.handling = {};
    return job;
}

job::Job clean_job() {
    job::Job job = one_button_heron();
    survey_plainly(job);
    job::fit_type("P1", "connector.pins-7")(job);
    job::find_ref(job.parts, "P1")->at = Millimetre(216);
    job::fit_type("K1", "kill.slide-10a")(job);
    job::fit_strips("strip.rgb-144-wide-2oz")(job);
    for (job::Look& look : job.looks)
        look.cap *= 0.5;
    job.effects[0].cap = 0.6;
    job.use.clean = Minute(45);
    return job;
}

job::Job docked_heron() {
    job::Job job = one_button_heron();
    job.hilt.carriers[0].kind = job::CarrierKind::removable;
    job::Part dock;
    dock.ref = "DK1";
    dock.type = "connector.dock-6";
    dock.at = Millimetre(158);
    job.parts.push_back(dock);
    return job;
}

void survey_plainly(job::Job& job) {
    job::Hilt plain;
    plain.sections = job.hilt.sections;
    plain.opens = job.hilt.opens;
    plain.clearance = job.hilt.clearance;
    plain.chassis = job.hilt.chassis;
    plain.chassis_wall = job.hilt.chassis_wall;
    job.hilt = plain;
    for (job::Part& part : job.parts)
        part.carrier.clear(), part.side = {}, part.turn = {};
    for (job::Effect& effect : job.effects)
        effect.kind = {};
}

plan::Plan plan_of(const job::Job& job) {
    return plan::analyse(std::make_shared<const job::Job>(job), shared_parts());
}

circuit::Network reference_network() {
    circuit::Network n;
    n.nodes = {"0", "b1_plus", "u1_bat", "bl1_plus", "bl1_minus"};
    n.sources.push_back({"b1", "B1", 1, 0, 4.0, 0.045});
    n.resistors = {{"k1_contact", "K1", circuit::Part::kill, 1, 2, 0.020},
                   {"w1_wire", "W1", circuit::Part::wire, 2, 3, 0.012},
                   {"u1_l1", "U1", circuit::Part::board, 4, 0, 0.008}};
    n.sinks.push_back({"u1", "U1", 2, 0, 0.060});
    for (const char* name : {"st1", "st2"}) {
        circuit::Strip s;
        s.name = s.ref = name;
        s.plus = 3;
        s.minus = 4;
        s.lead = 0.05;
        s.segment = 2 * 0.25 * 0.813 / 117;
        s.pixels = 117;
        s.pixel = {3, {0.012, 0.012, 0.012, 0}, {1.95, 2.85, 2.95, 0}, 0.45, 0.0008};
        s.spans = {{0, 117, {1, 1, 1, 0}}};
        n.strips.push_back(s);
    }
    return n;
}

circuit::Network random_network(std::mt19937& random) {
    auto uniform = [&](double a, double b) {
        return std::uniform_real_distribution<>(a, b)(random);
    };
    auto whole = [&](int a, int b) { return std::uniform_int_distribution<>(a, b)(random); };
    circuit::Network n = reference_network();
    n.sources[0].emf = uniform(2.6, 4.2);
    n.sources[0].ohms = uniform(0.01, 0.15);
    for (auto& r : n.resistors)
        r.ohms = uniform(0.001, 0.1);
    n.sinks[0].amps = uniform(0, 0.8);
    n.strips.clear();
    const int strips = whole(1, 4);
    for (int i = 0; i < strips; ++i) {
        circuit::Strip s;
        s.name = s.ref = "st" + std::to_string(i + 1);
        s.plus = 3;
        s.minus = 4;
        s.lead = uniform(0.005, 0.2);
        s.pixels = whole(1, 160);
        s.segment = 2 * uniform(0.05, 0.4) / 144;
        const int channels = whole(3, 4);
        s.pixel.channels = channels;
        for (std::size_t c = 0; c < 4; ++c) {
            s.pixel.full[c] = c < static_cast<std::size_t>(channels) ? uniform(0.004, 0.02) : 0;
            s.pixel.on[c] = uniform(1.9, 3.0);
        }
        s.pixel.knee = uniform(0.3, 0.6);
        s.pixel.quiet = uniform(0.0003, 0.0012);
        const int cut = whole(0, s.pixels);
        auto duty = [&] {
            return lights::Duties{uniform(0, 1), uniform(0, 1), uniform(0, 1),
                                  channels == 4 ? uniform(0, 1) : 0};
        };
        if (cut > 0) s.spans.push_back({0, cut, duty()});
        if (cut < s.pixels) s.spans.push_back({cut, s.pixels, duty()});
        n.strips.push_back(s);
    }
    return n;
}

namespace {

/// Joints between sections, screws, openings, socket and carrier of every kind.
void random_survey(job::Hilt& hilt, std::mt19937& random) {
    auto uniform = [&](double a, double b) {
        return std::uniform_real_distribution<>(a, b)(random);
    };
    auto whole = [&](int a, int b) { return std::uniform_int_distribution<>(a, b)(random); };
    const double end = hilt.sections.back().to.value();
    hilt.material = static_cast<job::Material>(whole(0, 3));
    hilt.joints.clear();
    for (std::size_t i = 0; i + 1 < hilt.sections.size(); ++i)
        if (whole(0, 2) == 0)
            hilt.joints.push_back({"joint " + std::to_string(i), hilt.sections[i].to,
                                   static_cast<job::JointKind>(whole(0, 2)),
                                   static_cast<job::Hand>(whole(0, 1)), Millimetre(uniform(0.5, 2)),
                                   Millimetre(uniform(3, 15))});
    hilt.openings.clear();
    for (int i = whole(0, 3); i > 0; --i)
        hilt.openings.push_back(
            {"opening " + std::to_string(i), static_cast<job::OpeningUse>(whole(0, 4)),
             Millimetre(uniform(0, end)), Degree(uniform(0, 360)), Millimetre(uniform(2, 15)),
             Millimetre(uniform(2, 15)), whole(0, 1) ? "U1" : ""});
    hilt.fasteners.clear();
    const char* held[] = {"P1", "blade", "joint 0", "C1", ""};
    for (int i = whole(0, 3); i > 0; --i)
        hilt.fasteners.push_back({"screw " + std::to_string(i), Millimetre(uniform(0, end)),
                                  Degree(uniform(0, 360)), "M3", "2 mm hex", held[whole(0, 4)],
                                  static_cast<job::Loosen>(whole(0, 1)),
                                  static_cast<job::ScrewState>(whole(0, 3)), "note"});
    hilt.socket = {};
    double depth = 0;
    for (int i = whole(0, 3); i > 0; --i)
        hilt.socket.bores.push_back(
            {Millimetre(depth += uniform(5, 30)), Millimetre(uniform(21, 27))});
    if (depth > 0) hilt.socket.nominal = Millimetre(25.4);
    hilt.carriers.clear();
    if (whole(0, 1))
        hilt.carriers.push_back({"C1", static_cast<job::CarrierKind>(whole(0, 3)),
                                 Millimetre(uniform(0, 2)), static_cast<job::End>(whole(0, 3))});
    for (job::BoreSection& s : hilt.sections)
        if (whole(0, 4) == 0) {
            s.bore_end = s.bore - Millimetre(uniform(0, 2));
            s.outer_end = s.outer + Millimetre(uniform(0, 2));
        } else {
            s.bore_end.reset(), s.outer_end.reset();
        }
}

/// Presets, lights at rest, plugs, tubes and looks of two colours.
void random_states(job::Job& job, std::mt19937& random) {
    auto uniform = [&](double a, double b) {
        return std::uniform_real_distribution<>(a, b)(random);
    };
    auto whole = [&](int a, int b) { return std::uniform_int_distribution<>(a, b)(random); };
    for (job::Look& look : job.looks) {
        look.style = static_cast<job::Style>(whole(0, 8));
        if (look.style > job::Style::bands) look.second = {uniform(0, 1), 0, uniform(0, 1), 0};
        if (whole(0, 3) == 0) look.meets = uniform(0, 1);
    }
    const std::string blade = job.blades.front().ref;
    for (job::Effect& effect : job.effects)
        if (whole(0, 2) == 0)
            effect.lights = {{blade,
                              static_cast<job::Follows>(whole(0, 3)),
                              {uniform(0, 1), 0, 0, 0},
                              uniform(0, 1),
                              static_cast<job::Segments>(whole(0, 2)),
                              static_cast<job::FlashRow>(whole(0, 2))}};
    job.presets.clear(), job.resting.clear(), job.plugs.clear();
    for (int i = whole(0, 3); i > 0 && !job.looks.empty(); --i) {
        job::Preset p{"preset " + std::to_string(i),
                      whole(0, 1) ? "tide" : "",
                      job.looks[0].name,
                      {},
                      {},
                      {}};
        for (int k = whole(0, 2); k > 0; --k)
            p.tracks.push_back({"track " + std::to_string(k) + ".wav"});
        if (!job.effects.empty() && whole(0, 1))
            p.effects = {job.effects.back()};
        else if (!job.effects.empty() && whole(0, 1))
            p.left_out = {{job.effects.back().name}};
        job.presets.push_back(std::move(p));
    }
    if (whole(0, 1))
        job.resting.push_back({static_cast<job::Rest>(whole(0, 3)),
                               job.presets.empty() ? "" : job.presets[0].name,
                               {{blade, {uniform(0, 1), 0, 0, 0}, job::Style::pulse, 0.5}}});
    if (whole(0, 1)) {
        job::Plug plug{"PG1",
                       static_cast<job::PlugUse>(whole(0, 3)),
                       "",
                       Millimetre(uniform(0, 9)),
                       Millimetre(uniform(0, 20)),
                       whole(0, 1) ? "red" : ""};
        if (whole(0, 1)) plug.proved_on = "2027-01-02", plug.volts_in = Volt(0.1);
        job.plugs.push_back(plug);
    }
    if (whole(0, 1)) {
        job.config.blade_out = static_cast<job::BladeOut>(whole(0, 2));
        job.config.sense_pad = whole(0, 1) ? "U1.s2" : "";
    }
    job::Tube& tube = job.blades.front().tube;
    if (whole(0, 1)) {
        tube.bore = Millimetre(uniform(0, 22));
        tube.material = static_cast<job::TubeMaterial>(whole(0, 3));
        tube.tint = static_cast<job::Tint>(whole(0, 3));
        tube.diffuser = static_cast<job::Diffuser>(whole(0, 2));
        if (whole(0, 1)) tube.passes = uniform(0, 1);
        tube.tip_pixels = whole(0, 3);
        tube.closing = static_cast<job::Closing>(whole(0, 2));
        tube.foot = Millimetre(uniform(0, 25));
    }
}

/// Brief, inspection, snapshot, log and milestones with random figures and words.
void random_papers(job::Job& job, std::mt19937& random) {
    auto uniform = [&](double a, double b) {
        return std::uniform_real_distribution<>(a, b)(random);
    };
    auto whole = [&](int a, int b) { return std::uniform_int_distribution<>(a, b)(random); };
    auto word = [&](const char* stem) { return stem + std::to_string(whole(1, 99999)); };
    auto day = [&] {
        return fmt::format("20{:02}-{:02}-{:02}", whole(20, 40), whole(1, 12), whole(1, 28));
    };
    job::Brief& brief = job.brief = {};
    brief.occasion = static_cast<job::Occasion>(whole(0, 5));
    brief.swap = static_cast<job::Swap>(whole(0, 2));
    if (whole(0, 1)) brief.budget = std::round(uniform(0, 2000));
    brief.currency = word("C");
    for (int i = whole(0, 3); i > 0; --i)
        brief.blades.push_back({Millimetre(uniform(100, 1000)), Millimetre(uniform(15, 26))});
    for (int i = whole(0, 4); i > 0; --i)
        brief.wishes.push_back({word("wish "), static_cast<job::Proof>(whole(0, 3)), word("target"),
                                whole(0, 1) == 1});
    const char* measures[] = {"first-crackle", "cell", "pixels", "board-sag", "nothing"};
    for (int i = whole(0, 4); i > 0; --i) {
        job::Agreement a;
        a.text = word("agreement ");
        a.kind = static_cast<job::Bargain>(whole(0, 1));
        a.measure = measures[whole(0, 4)];
        a.bound = static_cast<job::Bound>(whole(0, 2));
        if (whole(0, 1)) a.value = uniform(-10, 200);
        if (whole(0, 1)) a.word = word("word");
        if (whole(0, 1)) a.on = day();
        if (whole(0, 1)) a.that_day = uniform(-10, 200);
        brief.agreements.push_back(a);
    }
    job.inspection.clear();
    for (int i = whole(0, 6); i > 0; --i) {
        job::Inspected item;
        item.area = static_cast<job::Area>(whole(0, 6));
        item.item = word("item ");
        item.condition = static_cast<job::Condition>(whole(0, 4));
        item.note = word("note ");
        if (whole(0, 1)) item.reading = uniform(-5, 5000);
        item.unit = static_cast<job::ReadingUnit>(whole(0, 7));
        item.fate = static_cast<job::Fate>(whole(0, 2));
        item.why = word("why ");
        for (int k = whole(0, 2); k > 0; --k)
            item.pictures.push_back({word("id"), word("caption ")});
        job.inspection.push_back(item);
    }
    job.as_found = {};
    if (whole(0, 1)) job.as_found.on = day();
    for (int i = whole(0, 4); i > 0; --i)
        job.as_found.wires.push_back({word("A"), word("B"), word("red"), word("note ")});
    for (int i = whole(0, 4); i > 0; --i)
        job.as_found.settings.push_back({word("setting "), word("")});
    job.log.clear();
    for (int i = whole(0, 4); i > 0; --i)
        job.log.push_back({day(), word("said „so“ ")});
    job.milestones.clear();
    for (int i = whole(0, 3); i > 0; --i)
        job.milestones.push_back(
            {static_cast<job::Mark>(whole(0, 4)), day(), word("note "), word("kept")});
}

} // namespace

job::Job random_job(std::mt19937& random) {
    auto uniform = [&](double a, double b) {
        return std::uniform_real_distribution<>(a, b)(random);
    };
    auto whole = [&](int a, int b) { return std::uniform_int_distribution<>(a, b)(random); };
    job::Job job = demo(whole(0, 1) ? "heron" : "dunlin");
    job.name = "Random " + std::to_string(whole(1, 999999)) + " „ö“ \"quoted\" \\ \n\t";
    job.kind = static_cast<job::Kind>(whole(0, 2));
    job.stage = static_cast<job::Stage>(whole(0, 5));
    job.notes = std::string(static_cast<std::size_t>(whole(0, 300)), 'x');
    double at = 0;
    for (auto& s : job.hilt.sections) {
        s.from = Millimetre(at);
        at += uniform(5, 120);
        s.to = Millimetre(at);
        s.bore = Millimetre(uniform(18, 30));
        s.outer = s.bore + Millimetre(uniform(0.5, 10));
    }
    job.hilt.clearance = Millimetre(uniform(0, 1));
    job.hilt.opens = static_cast<job::End>(whole(0, 1));
    job.hilt.chassis = static_cast<job::Chassis>(whole(0, 2));
    random_survey(job.hilt, random);
    for (auto& p : job.parts) {
        if (whole(0, 2) == 0)
            p.side = Millimetre(uniform(-2, 2)), p.turn = Degree(uniform(-90, 90));
        p.carrier = job.hilt.carriers.empty() || whole(0, 2) == 0 ? "" : job.hilt.carriers[0].ref;
        p.at = Millimetre(uniform(0, 200));
        p.off_axis = Millimetre(uniform(-3, 3));
        if (whole(0, 2) == 0) p.measured.resistance = Ohm(uniform(0.005, 0.2));
    }
    const auto cells = parts().all<catalogue::Cell>();
    for (auto& p : job.parts)
        if (parts().find_as<catalogue::Cell>(p.type)) {
            p.type =
                cells[static_cast<std::size_t>(whole(0, static_cast<int>(cells.size()) - 1))]->id;
            if (whole(0, 2) == 0) p.measured.capacity = MilliAmpereHour(uniform(300, 5000));
            p.top = static_cast<job::CellTop>(whole(0, 1));
            if (whole(0, 3) == 0) p.protection.reset();
        }
    const auto strips = parts().all<catalogue::Strip>();
    for (auto& b : job.blades)
        for (auto& s : b.strips) {
            s.type =
                strips[static_cast<std::size_t>(whole(0, static_cast<int>(strips.size()) - 1))]->id;
            s.pixels = whole(1, 200);
            s.length = Millimetre(uniform(10, b.length.value()));
            s.lead = Ohm(uniform(0.005, 0.1));
            if (whole(0, 2) == 0) s.rail = OhmPerMetre(uniform(0.05, 0.4));
            if (whole(0, 3) == 0) s.feeds.push_back({uniform(0.1, 1), Ohm(uniform(0.01, 0.2))});
        }
    if (whole(0, 2) == 0) job.lines.push_back({"U1.d1", whole(1, 500)});
    random_states(job, random);
    if (whole(0, 2) == 0) job.stretches.push_back({"stretch", job.blades[0].strips[0].ref, 1, 1});
    for (auto& p : job.parts)
        if (const auto* cell = parts().find_as<catalogue::Cell>(p.type); cell && whole(0, 1))
            for (const auto* adapter : parts().all<catalogue::Adapter>())
                if (std::get<catalogue::Adapter>(adapter->figures).takes == cell->size)
                    p.adapter = adapter->id;
    const auto bays = parts().all<catalogue::Bay>();
    for (auto& p : job.parts) {
        if (parts().find_as<catalogue::Cell>(p.type) && whole(0, 2) == 0)
            p.bay = bays[static_cast<std::size_t>(whole(0, static_cast<int>(bays.size()) - 1))]->id;
        if (parts().find_as<catalogue::Cell>(p.type) && whole(0, 3) == 0)
            p.bay_measured = Ohm(uniform(0.001, 0.2));
        if (parts().find_as<catalogue::Board>(p.type) && whole(0, 2) == 0)
            p.chosen.sleep_after = Second(whole(0, 1200));
    }
    auto random_day = [&] {
        std::vector<job::Phase> day;
        for (int i = whole(0, 3); i > 0; --i) {
            job::Phase p;
            p.kind = static_cast<job::PhaseKind>(whole(0, 2));
            p.lasts = Minute(uniform(0.5, 20));
            p.times = whole(1, 5);
            p.pause = Minute(uniform(0, 10));
            if (p.kind == job::PhaseKind::ignited && whole(0, 1))
                p.rates = {{job::EffectKind::flash, uniform(0, 20)},
                           {job::EffectKind::lock_up, uniform(0, 2)}};
            if (whole(0, 1)) p.temperature = Celsius(uniform(-10, 40));
            if (whole(0, 1)) p.volume = uniform(0, 1);
            day.push_back(p);
        }
        return day;
    };
    job.use.day = random_day();
    if (whole(0, 1)) {
        job.uses.push_back(job.use);
        job.uses.back().name = "another";
        job.uses.back().day = random_day();
    }
    if (whole(0, 1)) job.charger = parts().all<catalogue::Charger>().front()->id;
    for (auto& w : job.wires) {
        w.length = Millimetre(uniform(5, 300));
        w.gauge = whole(18, 30);
        if (whole(0, 3) == 0) w.length.reset();
        if (whole(0, 2) == 0) w.colour = "orange";
        if (whole(0, 3) == 0) w.turn = Degree(uniform(-180, 180));
        if (whole(0, 3) == 0) w.loop = Millimetre(uniform(1, 40));
    }
    job.config.buttons = whole(0, 3);
    if (whole(0, 1)) job.config.pads.push_back({"U1.s1", "main"});
    if (whole(0, 1)) job.soldered.push_back({job.wires.front().ref});
    if (whole(0, 1)) job.built = job.wires;
    for (auto& l : job.looks) {
        l.colour = {uniform(0, 1), uniform(0, 1), uniform(0, 1), whole(0, 1) ? uniform(0, 1) : 0};
        l.style = static_cast<job::Style>(whole(0, 4));
        l.cap = uniform(0.1, 1);
        if (whole(0, 2) == 0)
            l.lights.push_back(
                {job.blades[0].ref, {uniform(0, 1), 0, 0, 0}, job::Style::pulse, uniform(0, 1)});
    }
    for (auto& e : job.effects)
        e.kind = static_cast<job::EffectKind>(whole(0, 6));
    if (whole(0, 3) == 0) {
        job.variant = "as planned";
        job::keep_variant("the other way", "as planned")(job);
    }
    random_papers(job, random);
    job.use.temperature = Celsius(uniform(-5, 40));
    job.use.volume = uniform(0, 1);
    job.use.clean = Minute(uniform(0, 200));
    return job;
}

TemporaryFolder::TemporaryFolder() {
    std::string name = (fs::temp_directory_path() / "conductus-test-XXXXXX").string();
    if (!::mkdtemp(name.data())) throw std::runtime_error("no temporary folder");
    path_ = name;
}

TemporaryFolder::~TemporaryFolder() {
    std::error_code error;
    fs::remove_all(path_, error);
}

Ran run(const std::string& command) {
    TemporaryFolder folder;
    const auto out = folder / "out", err = folder / "err";
    const int status = std::system(
        ("(" + command + ") >" + out.string() + " 2>" + err.string() + " </dev/null").c_str());
    return {WIFEXITED(status) ? WEXITSTATUS(status) : -1, read_file(out), read_file(err)};
}

std::string read_file(const fs::path& path) {
    std::ifstream in(path, std::ios::binary);
    std::ostringstream text;
    text << in.rdbuf();
    return text.str();
}

void write_file(const fs::path& path, const std::string& text) {
    std::ofstream(path, std::ios::binary) << text;
}

} // namespace conductus::test
