// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of contacts by their readings, and of resistors in the wrong place.
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

#include "core/base/format.h"
#include "core/catalogue/kinds.h"
#include "core/circuit/compile.h"
#include "core/circuit/copper.h"
#include "core/findings/facts.h"
#include "core/findings/poles.h"
#include "core/findings/rule_tools.h"
#include "core/harness/nets.h"
#include "core/job/lookup.h"

namespace conductus::findings {
namespace {

/// A contact is poor from this many times what its class has, and from this much more.
constexpr double poor_times = 3;
constexpr double poor_more = 0.03; // Ω
/// A soldered lead of a strip, foot pad to first pixel and back.
constexpr double poor_lead = 0.25; // Ω

bool poor(Ohm measured, Ohm usual) {
    return measured.value() > poor_times * usual.value() &&
           measured.value() > usual.value() + poor_more;
}

struct PoorContact {
    std::string what; ///< "pin plus2 of P1", "joint of W3"
    std::string ref;
    double ohms = 0, usual = 0;
};

std::vector<PoorContact> poor_contacts(const Facts& f) {
    std::vector<PoorContact> all;
    for (const job::Part& part : f.job->parts) {
        const auto& figures = f.parts->find(part.type)->figures;
        const auto judge = [&](Ohm usual) {
            if (const auto read = part.measured.resistance; read && poor(*read, usual))
                all.push_back({part.ref, part.ref, read->value(), usual.value()});
        };
        std::visit(catalogue::EachKind{
                       [](const auto&) {}, [&](const catalogue::Kill& k) { judge(k.contact); },
                       [&](const catalogue::Jack& j) { judge(j.contact); },
                       [&](const catalogue::Fuse& k) { judge(k.resistance); },
                       [&](const catalogue::Connector& c) {
                           judge(c.pin_resistance);
                           for (const job::MeasuredPin& pin : part.measured.pins)
                               if (poor(pin.resistance, c.pin_resistance))
                                   all.push_back({fmt::format("{} of {}", pin.pin, part.ref),
                                                  part.ref, pin.resistance.value(),
                                                  c.pin_resistance.value()});
                       }},
                   figures);
    }
    for (const job::Wire& w : f.job->wires) {
        const harness::WireRow* row = f.harness.wire(w.ref);
        if (!w.resistance || !row) continue;
        using circuit::operator*;
        const Ohm copper = circuit::wire_resistance(w.gauge) * row->length;
        if (poor(*w.resistance, copper + Ohm(0.005)))
            all.push_back({w.ref, w.ref, w.resistance->value(), copper.value()});
    }
    for (const job::Blade& blade : f.job->blades)
        for (const job::Strip& strip : blade.strips) {
            if (strip.lead.value() > poor_lead)
                all.push_back({"the lead of " + strip.ref, strip.ref, strip.lead.value(), 0.05});
            for (const job::Feed& feed : strip.feeds)
                if (feed.lead.value() > 4 * poor_lead)
                    all.push_back({"a feed of " + strip.ref, strip.ref, feed.lead.value(), 0.1});
        }
    return all;
}

void contacts(const Facts& f, std::vector<Finding>& out) {
    std::map<std::string, std::vector<PoorContact>> by_ref;
    for (PoorContact& c : poor_contacts(f))
        by_ref[c.ref].push_back(std::move(c));
    for (const auto& [ref, all] : by_ref) {
        const PoorContact& worst = *std::max_element(
            all.begin(), all.end(), [](const auto& a, const auto& b) { return a.ohms < b.ohms; });
        out.push_back(
            {.id = "contact.poor",
             .severity = Severity::warn,
             .station = Station::power,
             .where = {ref},
             .text = say("{} has {}, usual is {}", worst.what, text(Ohm(worst.ohms)),
                         text(Ohm(worst.usual))),
             .detail = all.size() > 1 ? say("{} contacts of {} are like that. A poor contact drops "
                                            "volts, gets warm and gets worse: clean, bend or "
                                            "solder it again, then measure it again.",
                                            all.size(), ref)
                                      : Message("A poor contact drops volts, gets warm and gets "
                                                "worse: clean, bend or solder it again, then "
                                                "measure it again."),
             .evidence = {{"measured", worst.ohms * 1e3, "mΩ"}, {"usual", worst.usual * 1e3, "mΩ"}},
             .fix = {}});
    }
}

/// Copper that joins a terminal, and what hangs beyond resistors.
bool reached_past(const Facts& f, const std::string& plus, std::string& resistor, double& ohms) {
    if (f.levels->level(plus)) return false; // copper all the way
    for (const job::Part& part : f.job->parts) {
        const auto* r = f.parts->find_as<catalogue::Resistor>(part.type);
        if (!r) continue;
        const std::string a = part.ref + ".a", b = part.ref + ".b";
        if (!f.levels->joined(plus, a) && !f.levels->joined(plus, b)) continue;
        resistor = part.ref, ohms = job::resistance_of(part, *r).value();
        return true;
    }
    return false;
}

void resistors(const Facts& f, std::vector<Finding>& out) {
    std::set<std::string> told;
    // In the supply of what wants all the volts there are.
    for (const Poles& p : poles_of(*f.job, *f.parts)) {
        const job::Part* part = job::find_ref(f.job->parts, p.ref);
        const bool led = (part && catalogue::led_in(f.parts->find(part->type)->figures)) ||
                         (!part && !job::find_ref(f.job->blades, p.ref)->strings.empty());
        std::string resistor;
        double ohms = 0;
        if (led || !(reached_past(f, p.plus, resistor, ohms) ||
                     (f.levels->on_minus(p.minus) && reached_past(f, p.minus, resistor, ohms) &&
                      f.levels->on_plus(p.plus))))
            continue;
        if (!f.levels->on_plus(p.plus) || ohms < 1 || !told.insert(resistor).second) continue;
        Finding finding{.id = "resistor.in-supply",
                        .severity = Severity::warn,
                        .station = Station::harness,
                        .where = {resistor, p.ref},
                        .text =
                            say("{}, {}, is in the supply of {}", resistor, text(Ohm(ohms)), p.ref),
                        .detail = "It drops the volts that the pixels need. A resistor of a data "
                                  "line goes into the data wire, before the first pixel.",
                        .evidence = {{"resistor", ohms, "Ohm"}},
                        .fix = {}};
        out.push_back(std::move(finding));
    }
    for (const harness::DataLine& line : f.harness.data.lines) {
        const double ohms = line.series.value();
        const bool none = ohms == 0;
        if (none || (ohms >= 68 && ohms <= 1500)) continue;
        std::vector<std::string> in_line;
        const auto data =
            f.wiring->reached({line.pad}, {job::Role::data}, job::Wiring::Through::conductors);
        for (const job::Part& part : f.job->parts)
            if (f.parts->find_as<catalogue::Resistor>(part.type) && data.contains(part.ref + ".a"))
                in_line.push_back(part.ref);
        if (in_line.empty()) continue;
        Finding finding{.id = "data.resistor",
                        .severity = Severity::warn,
                        .station = Station::harness,
                        .where = {in_line[0]},
                        .text = say("{} in the data line of {}, 220 to 470 Ω suit",
                                    text(line.series), line.pad),
                        .detail = ohms > 470
                                      ? Message("So much rounds the edges of the data off: pixels "
                                                "flicker or stay dark.")
                                      : Message("So little neither tames the edges nor spares the "
                                                "first pixel."),
                        .evidence = {{"resistor", ohms, "Ohm"}, {"usual", 330, "Ohm"}},
                        .fix = {}};
        finding.proposed.push_back(
            {say("make {} {}", in_line[0], text(Ohm(330))), [ref = in_line[0]](job::Job& job) {
                 if (auto* part = job::find_ref(job.parts, ref)) {
                     part->chosen.resistance = Ohm(330);
                     part->measured.resistance.reset();
                 }
             }});
        out.push_back(std::move(finding));
    }
    // A resistor in a speaker's or a button's wires.
    for (const job::Part& part : f.job->parts) {
        const auto* r = f.parts->find_as<catalogue::Resistor>(part.type);
        if (!r || job::resistance_of(part, *r).value() < 20) continue;
        const auto sound = f.wiring->reached({part.ref + ".a", part.ref + ".b"}, {job::Role::sound},
                                             job::Wiring::Through::nothing);
        const bool speaks = std::any_of(sound.begin(), sound.end(), [&](const std::string& t) {
            const job::Part* at = job::find_ref(f.job->parts, job::split_terminal(t).first);
            return at && f.parts->find_as<catalogue::Speaker>(at->type);
        });
        if (!speaks || !told.insert(part.ref).second) continue;
        out.push_back({.id = "resistor.in-sound",
                       .severity = Severity::warn,
                       .station = Station::harness,
                       .where = {part.ref},
                       .text = say("{} is in the speaker's wire", part.ref),
                       .detail = "Nearly all of the sound is lost in it: lead the wire past it.",
                       .evidence = {{"resistor", job::resistance_of(part, *r).value(), "Ohm"}},
                       .fix = {}});
    }
}

} // namespace

void judge_contacts(const Facts& f, std::vector<Finding>& out) {
    contacts(f, out);
    if (!f.levels->shorts().empty()) return;
    resistors(f, out);
}

} // namespace conductus::findings
