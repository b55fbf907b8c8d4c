// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>

#include "cli/commands.h"
#include "core/base/format.h"
#include "core/harness/order.h"
#include "core/job/validate.h"
#include "core/job/words.h"
#include "core/plan/analyse.h"
#include "core/plan/answers.h"
#include "files/configuration.h"
#include "files/cut_list.h"
#include "files/job_json.h"
#include "files/json_text.h"
#include "files/template_text.h"
#include "files/wires_csv.h"
#include "shop/book.h"

namespace conductus::cli {
namespace {

using files::Json;

Json wires_json(const harness::Harness& h) {
    Json list = Json::array();
    for (const harness::WireRow& w : h.wires) {
        Json pieces = Json::array();
        for (const Millimetre p : w.route.pieces)
            pieces.push_back(p.value());
        list.push_back({{"ref", w.ref},
                        {"from", w.from},
                        {"to", w.to},
                        {"role", job::word(w.role)},
                        {"gauge_awg", w.gauge},
                        {"length_mm", w.length.value()},
                        {"amps", w.amps.value()},
                        {"drop_mV", w.drop.value() * 1e3},
                        {"rise_K", w.rise.value()},
                        {"rise_held_K", w.rise_held.value()},
                        {"colour", w.colour},
                        {"state", w.state},
                        {"measured", w.own_length},
                        {"route",
                         {{"length_mm", w.route.length().value()},
                          {"along_mm", w.route.along.value()},
                          {"around_mm", w.route.around.value()},
                          {"ends_mm", w.route.ends.value()},
                          {"slack_mm", w.route.slack.value()},
                          {"slack_for", w.route.why},
                          {"docks", w.route.docks},
                          {"pieces_mm", pieces},
                          {"turn_deg", w.route.turn.value()}}},
                        {"gauge_wanted_awg", w.gauge_wanted},
                        {"advice", w.advice}});
    }
    return list;
}

Json twist_json(const harness::Harness& h) {
    Json list = Json::array();
    for (const harness::Twist& t : h.twists)
        list.push_back({{"joint", t.joint},
                        {"turns", t.turns},
                        {"pretwist", t.pretwist},
                        {"hand", job::word(t.hand)},
                        {"how", t.how},
                        {"wires", t.wires},
                        {"turns_per_100mm", t.per_100mm}});
    return list;
}

Json pins_json(const harness::Harness& h) {
    Json list = Json::array();
    for (const harness::PinLoad& p : h.pins)
        list.push_back({{"ref", p.ref},
                        {"pin", p.pin},
                        {"amps", p.amps.value()},
                        {"rated_A", p.rated.value()},
                        {"wire", p.wire.empty() ? Json(nullptr) : Json(p.wire)},
                        {"state", p.state}});
    return list;
}

Json data_json(const harness::DataMap& map) {
    Json list = Json::array();
    for (const harness::DataLine& line : map.lines) {
        Json ranges = Json::array();
        for (const harness::Range& r : line.ranges)
            ranges.push_back({{"ref", r.ref}, {"first", r.first}, {"last", r.last}});
        list.push_back({{"pad", line.pad},
                        {"resistor_Ohm", line.series.value()},
                        {"shifter", line.shifter},
                        {"lights", ranges},
                        {"pixels", line.wired},
                        {"configured", line.configured ? Json(*line.configured) : Json(nullptr)},
                        {"mirrored", line.mirrored}});
    }
    return list;
}

Json mismatches_json(const harness::DataMap& map) {
    Json list = Json::array();
    auto text = [](const std::string& s) { return s.empty() ? Json(nullptr) : Json(s); };
    for (const harness::Mismatch& m : map.mismatches)
        list.push_back(
            {{"id", m.id},
             {"where", m.where},
             {"text", m.text},
             {"detail", m.detail},
             {"fixes", {{"solder", text(m.solder_text)}, {"configuration", text(m.config_text)}}}});
    return list;
}

Json faces_json(const plan::Plan& plan) {
    Json list = Json::array();
    for (const job::Part& part : plan.job->parts) {
        if (!plan.parts->find_as<catalogue::Connector>(part.type)) continue;
        const harness::Face face = harness::face_of(*plan.parts->find(part.type));
        Json touches = Json::array();
        for (const harness::Touch& t :
             harness::wrong_way(face, harness::carries_of(plan.harness.rails, *plan.job, part.ref)))
            touches.push_back({{"hilt", t.hilt}, {"blade", t.blade}, {"harmful", t.harmful}});
        list.push_back({{"ref", part.ref},
                        {"layout", face.layout == harness::Face::Layout::rings ? "rings" : "rows"},
                        {"wrong_way", touches}});
    }
    return list;
}

Json order_json(const plan::Plan& plan) {
    Json list = Json::array();
    for (const harness::SolderStep& s : harness::solder_order(*plan.job, *plan.parts, plan.harness))
        list.push_back({{"wire", s.wire}, {"where", s.where}, {"why", s.why}, {"done", s.done}});
    return list;
}

Json missing_json(const harness::Harness& h) {
    Json list = Json::array();
    for (const harness::Missing& m : h.missing)
        list.push_back({{"from", m.from},
                        {"to", m.to},
                        {"role", job::word(m.role)},
                        {"gauge_awg", m.gauge},
                        {"why", m.why}});
    return list;
}

} // namespace

int harness(const catalogue::Catalogue& all_parts, const HarnessChoice& choice) {
    if (!choice.out.empty())
        if (auto ok = files::output_target(choice.out, files::Content::job); !ok)
            return refuse(ok.error());
    auto named = shop::job_named(choice.job, all_parts);
    if (!named) return refuse(named.error());
    job::Job* job = &named->job;
    const catalogue::Catalogue& parts = *named->parts;
    if (!choice.csv.empty()) {
        const auto text = files::read_text(choice.csv);
        if (!text) return refuse(text.error());
        auto read = files::read_wires_csv(*text, *job, parts, shown(choice.csv));
        for (const Problem& p : read.problems)
            (void)refuse(p);
        if (!read.problems.empty()) return bad_input;
        job->wires = std::move(read.wires);
    }
    if (choice.derive) harness::wire_missing(parts)(*job);
    // What is written is judged as what is read.
    if (auto ok = job::validate(*job, parts); !ok) return refuse(ok.error());
    if (!choice.out.empty()) {
        const auto text = shop::text_of_named(choice.job, *named);
        if (!text) return refuse(text.error());
        if (auto ok = files::write_output(choice.out, *text, files::Content::job); !ok)
            return refuse(ok.error());
    }
    const plan::Plan plan = plan::analyse_figures(
        std::make_shared<const job::Job>(std::move(named->job)), named->parts);
    const harness::Harness& h = plan.harness;
    if (choice.json) {
        Json contradictions = Json::array();
        for (const harness::WireConflict& c : h.conflicts)
            contradictions.push_back({{"id", c.id}, {"where", c.where}, {"text", c.text}});
        const Json all{
            {"job", plan.job->name},
            {"wires", wires_json(h)},
            {"total_mm", h.total.value()},
            {"drop_mV", h.drop.value() * 1e3},
            {"worst", h.worst},
            {"coil",
             {{"needs_mm3", h.coil.needs}, {"has_mm3", h.coil.has}, {"where", h.coil.where}}},
            {"twist", twist_json(h)},
            {"pins", pins_json(h)},
            {"data", data_json(h.data)},
            {"buttons", {{"configured", h.data.button_mode}, {"wired", h.data.buttons_wired}}},
            {"mismatches", mismatches_json(h.data)},
            {"missing", missing_json(h)},
            {"contradictions", contradictions},
            {"faces", faces_json(plan)},
            {"crossings", h.crossings},
            {"order", order_json(plan)}};
        fmt::print("{}\n", all.dump(2));
        return fine;
    }
    for (const harness::WireRow& w : h.wires)
        fmt::print("{:<5} {:<12} {:<12} {:<7} {} AWG {:>7} {:>9} {:>9} {:>7} {}\n", w.ref, w.from,
                   w.to, job::word(w.role), w.gauge, text(w.length), text(w.amps), text(w.drop),
                   with_unit(w.rise.value(), "K"), w.colour);
    fmt::print("\n{} of wire, {} lost in it ({})\n", text(h.total), text(h.drop), h.worst);
    fmt::print("slack needs {:.2f} ml, {:.1f} ml are {}\n", h.coil.needs / 1e3, h.coil.has / 1e3,
               h.coil.where);
    for (const harness::Twist& t : h.twists)
        fmt::print("{}: {}\n", t.joint, t.how);
    for (const harness::Missing& m : h.missing)
        fmt::print("missing: {} to {}: {}\n", m.from, m.to, m.why);
    for (const harness::Mismatch& m : h.data.mismatches)
        fmt::print("{}: {}\n", m.id, m.text);
    return fine;
}

int size_wires(const catalogue::Catalogue& parts, const std::string& job, double budget_mV,
               bool json) {
    const auto plan = analysed(parts, job);
    if (!plan) return refuse(plan.error());
    const auto sized = plan::size_wires(*plan, Volt(budget_mV / 1e3));
    if (!sized) return refuse(sized.error());
    if (json) {
        Json wires = Json::array();
        for (const plan::SizedWire& w : sized->wires)
            wires.push_back({{"ref", w.ref},
                             {"gauge_awg", w.wanted},
                             {"gauge_now_awg", w.now},
                             {"amps", w.amps.value()},
                             {"drop_mV", w.drop.value() * 1e3}});
        const Json all{{"budget_mV", budget_mV},
                       {"drop_mV", sized->drop.value() * 1e3},
                       {"now_mV", sized->now.value() * 1e3},
                       {"copper_mm3", sized->copper},
                       {"copper_now_mm3", sized->copper_now},
                       {"state", sized->state},
                       {"reached", sized->reached},
                       {"wires", wires}};
        fmt::print("{}\n", all.dump(2));
        return fine;
    }
    for (const plan::SizedWire& w : sized->wires)
        fmt::print("{:<5} {} AWG{} {:>9} {:>9}\n", w.ref, w.wanted,
                   w.wanted == w.now ? "          " : fmt::format(" (now {})", w.now), text(w.amps),
                   text(w.drop));
    fmt::print("{} in all, {} now, {} allowed ({}); copper {:.0f} mm3, {:.0f} now\n",
               text(sized->drop), text(sized->now), text(sized->budget), sized->state,
               sized->copper, sized->copper_now);
    if (!sized->reached) fmt::print("not reached: even the thickest wires lose more\n");
    return fine;
}

int export_harness(const catalogue::Catalogue& parts, const std::string& job,
                   const std::string& format, const std::string& template_file,
                   const std::string& out) {
    const auto plan = analysed(parts, job);
    if (!plan) return refuse(plan.error());
    std::string text;
    if (format == "template") {
        const auto written = files::read_text(template_file);
        if (!written) return refuse(written.error());
        auto filled = files::filled_template(*written, template_file,
                                             files::config_json(*plan->whole, plan->harness.data));
        if (!filled) return refuse(filled.error());
        text = std::move(*filled);
    } else if (format == "cutlist") {
        text = files::cutlist_csv(plan->harness);
    } else if (format == "labels") {
        text = files::labels_svg(plan->harness, plan->job->name);
    } else if (out.ends_with(".txt")) {
        text = files::config_text(*plan->job, plan->harness.data);
    } else {
        text = files::config_json(*plan->job, plan->harness.data).dump(2) + "\n";
    }
    if (out.empty()) {
        fmt::print("{}", text);
        return fine;
    }
    const auto content = format == "labels"                             ? files::Content::svg
                         : format == "config" && !out.ends_with(".txt") ? files::Content::ours
                                                                        : files::Content::text;
    if (auto ok = files::write_output(out, text, content); !ok) return refuse(ok.error());
    return fine;
}

} // namespace conductus::cli
