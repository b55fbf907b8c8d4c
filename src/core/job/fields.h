// SPDX-License-Identifier: GPL-3.0-or-later
// The fields of a job document, once: name with unit, member, range. Visitors read, write, compare
// and describe jobs through it: files/json_visitors.h, core/job/tree.h.
#pragma once

#include <concepts>
#include <type_traits>

#include "core/job/job.h"
#include "core/job/limits.h"

namespace conductus::job {

template <class T, class S>
concept Either = std::same_as<std::remove_const_t<T>, S>; ///< S or const S

template <class V, Either<BoreSection> T>
void describe(V& v, T& s) {
    v.text("name", s.name);
    v.number("from_mm", s.from, limits::place_mm);
    v.number("to_mm", s.to, limits::place_mm);
    v.number("bore_mm", s.bore, limits::diameter_mm);
    v.number("outer_mm", s.outer, limits::diameter_mm);
    v.optional_number("bore_end_mm", s.bore_end, limits::diameter_mm);
    v.optional_number("outer_end_mm", s.outer_end, limits::diameter_mm);
}

template <class V, Either<Joint> T>
void describe(V& v, T& j) {
    v.text("name", j.name);
    v.number("at_mm", j.at, limits::place_mm);
    v.word("kind", j.kind);
    v.word("hand", j.hand);
    v.number("pitch_mm", j.pitch, limits::pitch_mm);
    v.number("engaged_mm", j.engaged, limits::depth_mm);
}

template <class V, Either<Fastener> T>
void describe(V& v, T& f) {
    v.text("name", f.name);
    v.number("at_mm", f.at, limits::place_mm);
    v.number("angle_deg", f.angle, limits::angle_deg);
    v.text("thread", f.thread);
    v.text("key", f.key);
    v.text("holds", f.holds);
    v.usual_text("socket", f.socket);
    v.word("loosen", f.loosen);
    v.word("state", f.state);
    v.text("note", f.note);
}

template <class V, Either<Opening> T>
void describe(V& v, T& o) {
    v.text("name", o.name);
    v.word("use", o.use);
    v.number("at_mm", o.at, limits::place_mm);
    v.number("angle_deg", o.angle, limits::angle_deg);
    v.number("length_mm", o.length, limits::depth_mm);
    v.number("width_mm", o.width, limits::depth_mm);
    v.text("part", o.part);
}

template <class V, Either<SocketBore> T>
void describe(V& v, T& b) {
    v.number("depth_mm", b.depth, limits::depth_mm);
    v.number("bore_mm", b.bore, limits::diameter_mm);
}

template <class V, Either<Socket> T>
void describe(V& v, T& s) {
    v.number("nominal_mm", s.nominal, limits::depth_mm);
    v.list("bores", s.bores);
}

template <class V, Either<SideBore> T>
void describe(V& v, T& b) {
    v.text("socket", b.socket);
    v.number("depth_mm", b.depth, limits::depth_mm);
    v.number("bore_mm", b.bore, limits::diameter_mm);
}

template <class V, Either<Carrier> T>
void describe(V& v, T& c) {
    v.text("ref", c.ref);
    v.word("kind", c.kind);
    v.number("wall_mm", c.wall, limits::wall_mm);
    v.word("goes_in", c.goes_in);
}

template <class V, Either<Hilt> T>
void describe(V& v, T& h) {
    v.list("sections", h.sections);
    v.word("opens", h.opens);
    v.number("clearance_mm", h.clearance, limits::clearance_mm);
    v.word("chassis", h.chassis);
    v.number("chassis_wall_mm", h.chassis_wall, limits::wall_mm);
    v.usual_word("material", h.material);
    v.optional_list("joints", h.joints);
    v.optional_list("openings", h.openings);
    v.optional_list("fasteners", h.fasteners);
    v.optional_object("socket", h.socket);
    v.optional_list("side_bores", h.side_bores);
    v.optional_list("carriers", h.carriers);
}

template <class V, Either<MeasuredPin> T>
void describe(V& v, T& p) {
    v.text("pin", p.pin);
    v.number("resistance_Ohm", p.resistance, limits::resistance_Ohm);
}

template <class V, Either<Measured> T>
void describe(V& v, T& m) {
    v.optional_number("resistance_Ohm", m.resistance, limits::resistance_Ohm);
    v.optional_number("capacity_mAh", m.capacity, limits::capacity_mAh);
    v.optional_list("pins", m.pins);
}

template <class V, Either<Chosen> T>
void describe(V& v, T& c) {
    v.optional_number("resistance_Ohm", c.resistance, limits::resistor_Ohm);
    v.optional_number("current_A", c.current, limits::current_A);
    v.optional_number("sleep_after_s", c.sleep_after, limits::day_seconds);
}

template <class V, Either<Part> T>
void describe(V& v, T& p) {
    v.text("ref", p.ref);
    v.text("type", p.type);
    v.number("at_mm", p.at, limits::place_mm);
    v.number("off_axis_mm", p.off_axis, limits::off_axis_mm);
    v.usual_number("side_mm", p.side, limits::off_axis_mm);
    v.usual_number("turn_deg", p.turn, limits::angle_deg);
    v.usual_text("carrier", p.carrier);
    v.optional_text("protection", p.protection);
    v.word("top", p.top);
    v.object("measured", p.measured);
    v.optional_object("chosen", p.chosen);
    v.optional_text("adapter", p.adapter);
    v.optional_text("bay", p.bay);
    v.optional_number("bay_Ohm", p.bay_measured, limits::resistance_Ohm);
    v.usual_word("minus_faces", p.minus_faces);
    v.usual_text("note", p.note);
}

template <class V, Either<Feed> T>
void describe(V& v, T& f) {
    v.number("at", f.at, limits::fraction);
    v.number("lead_Ohm", f.lead, limits::resistance_Ohm);
}

template <class V, Either<Strip> T>
void describe(V& v, T& s) {
    v.text("ref", s.ref);
    v.text("type", s.type);
    v.integer("pixels", s.pixels, limits::pixels);
    v.number("length_mm", s.length, limits::length_mm);
    v.number("lead_Ohm", s.lead, limits::resistance_Ohm);
    v.optional_number("rail_Ohm_per_m", s.rail, limits::rail_Ohm_per_m);
    v.optional_list("feeds", s.feeds);
}

template <class V, Either<LedString> T>
void describe(V& v, T& s) {
    v.text("ref", s.ref);
    v.text("type", s.type);
}

template <class V, Either<GoesInto> T>
void describe(V& v, T& g) {
    v.text("socket", g.socket);
}

template <class V, Either<Mated> T>
void describe(V& v, T& m) {
    v.text("socket", m.socket);
    v.text("blade", m.blade);
}

template <class V, Either<Tube> T>
void describe(V& v, T& t) {
    v.usual_number("bore_mm", t.bore, limits::depth_mm);
    v.usual_word("material", t.material);
    v.usual_word("tint", t.tint);
    v.usual_word("diffuser", t.diffuser);
    v.usual_number("diffuser_mm", t.diffuser_thick, limits::wall_mm);
    v.optional_number("passes", t.passes, limits::fraction);
    v.usual_number("dark_mm", t.dark, limits::depth_mm);
    v.usual_integer("tip_pixels", t.tip_pixels, limits::tip_pixels);
    v.usual_word("closing", t.closing);
    v.usual_number("foot_mm", t.foot, limits::depth_mm);
    v.usual_number("foot_length_mm", t.foot_length, limits::depth_mm);
}

template <class V, Either<Blade> T>
void describe(V& v, T& b) {
    v.text("ref", b.ref);
    v.number("length_mm", b.length, limits::length_mm);
    v.number("outer_mm", b.outer, limits::diameter_mm);
    v.text("connector", b.connector);
    v.list("strips", b.strips);
    v.optional_list("strings", b.strings);
    v.optional_number("stands_at_mm", b.stands_at, limits::place_mm);
    v.usual_number("angle_deg", b.angle, limits::angle_deg);
    v.optional_list("goes_into", b.goes_into);
    v.usual_word("form", b.form);
    v.usual_word("count", b.count);
    v.optional_object("tube", b.tube);
}

template <class V, Either<ButtonUse> T>
void describe(V& v, T& b) {
    v.text("pad", b.pad);
    v.text("use", b.use);
}

template <class V, Either<MotionSettings> T>
void describe(V& v, T& m) {
    v.usual_number("swing_deg_s", m.swing, limits::turning_deg_s);
    v.usual_number("twist_deg_s", m.twist, limits::turning_deg_s);
    v.usual_number("roll_deg", m.roll, limits::turned_deg);
    v.usual_number("thrust_g", m.thrust, limits::acceleration_g);
    v.usual_number("tap_g", m.tap, limits::acceleration_g);
    v.usual_number("clash_g", m.clash, limits::acceleration_g);
}

template <class V, Either<Config> T>
void describe(V& v, T& c) {
    v.integer("buttons", c.buttons, limits::buttons);
    v.list("pads", c.pads);
    v.usual_word("blade_out", c.blade_out);
    v.usual_text("sense_pad", c.sense_pad);
    v.optional_object("motion", c.motion);
}

template <class V, Either<Soldered> T>
void describe(V& v, T& s) {
    v.text("wire", s.wire);
}

template <class V, Either<Wire> T>
void describe(V& v, T& w) {
    v.text("ref", w.ref);
    v.text("from", w.from);
    v.text("to", w.to);
    v.word("role", w.role);
    v.integer("gauge_awg", w.gauge, limits::gauge_awg);
    v.optional_number("length_mm", w.length, limits::length_mm);
    v.optional_number("resistance_Ohm", w.resistance, limits::resistance_Ohm);
    v.usual_text("colour", w.colour);
    v.optional_number("turn_deg", w.turn, limits::angle_deg);
    v.usual_number("loop_mm", w.loop, limits::depth_mm);
}

template <class V, Either<Colour> T>
void describe(V& v, T& c) {
    v.number("red", c.red, limits::fraction);
    v.number("green", c.green, limits::fraction);
    v.number("blue", c.blue, limits::fraction);
    v.number("white", c.white, limits::fraction);
}

template <class V, Either<LightOverride> T>
void describe(V& v, T& s) {
    v.text("light", s.light);
    v.object("colour", s.colour);
    v.word("style", s.style);
    v.number("cap", s.cap, limits::fraction);
    v.optional_object("second", s.second);
    v.optional_number("meets", s.meets, limits::fraction);
}

template <class V, Either<Look> T>
void describe(V& v, T& l) {
    v.text("name", l.name);
    v.object("colour", l.colour);
    v.word("style", l.style);
    v.number("cap", l.cap, limits::fraction);
    v.optional_list("lights", l.lights);
    v.optional_object("second", l.second);
    v.optional_number("meets", l.meets, limits::fraction);
}

template <class V, Either<EffectLight> T>
void describe(V& v, T& l) {
    v.text("light", l.light);
    v.usual_word("follows", l.follows);
    v.optional_object("colour", l.colour);
    v.number("cap", l.cap, limits::fraction);
    v.usual_word("segments", l.segments);
    v.usual_word("flash_row", l.flash_row);
}

template <class V, Either<Effect> T>
void describe(V& v, T& e) {
    v.text("name", e.name);
    v.object("colour", e.colour);
    v.number("cap", e.cap, limits::fraction);
    v.number("from", e.from, limits::fraction);
    v.number("to", e.to, limits::fraction);
    v.number("lasts_s", e.lasts, limits::seconds);
    v.usual_word("kind", e.kind);
    v.optional_list("lights", e.lights);
}

template <class V, Either<Track> T>
void describe(V& v, T& t) {
    v.text("name", t.name);
}

template <class V, Either<LeftOut> T>
void describe(V& v, T& l) {
    v.text("effect", l.effect);
}

template <class V, Either<Preset> T>
void describe(V& v, T& p) {
    v.text("name", p.name);
    v.usual_text("was", p.was);
    v.text("font", p.font);
    v.text("look", p.look);
    v.optional_list("tracks", p.tracks);
    v.optional_list("effects", p.effects);
    v.optional_list("left_out", p.left_out);
}

template <class V, Either<Resting> T>
void describe(V& v, T& r) {
    v.word("when", r.when);
    v.usual_text("preset", r.preset);
    v.list("lights", r.lights);
}

template <class V, Either<Plug> T>
void describe(V& v, T& p) {
    v.text("ref", p.ref);
    v.word("use", p.use);
    v.text("jack", p.jack);
    v.number("diameter_mm", p.diameter, limits::depth_mm);
    v.number("length_mm", p.length, limits::depth_mm);
    v.usual_text("mark", p.mark);
    v.usual_text("proved_on", p.proved_on);
    v.optional_number("out_V", p.volts_out, limits::volts);
    v.optional_number("in_V", p.volts_in, limits::volts);
}

template <class V, Either<Line> T>
void describe(V& v, T& l) {
    v.text("pad", l.pad);
    v.integer("pixels", l.pixels, limits::pixels);
}

template <class V, Either<Stretch> T>
void describe(V& v, T& s) {
    v.text("name", s.name);
    v.text("of", s.of);
    v.integer("first", s.first, limits::pixels);
    v.integer("last", s.last, limits::pixels);
}

template <class V, Either<Variant> T>
void describe(V& v, T& o) {
    v.text("name", o.name);
    v.text("look", o.look);
    v.list("parts", o.parts);
    v.list("blades", o.blades);
    v.list("wires", o.wires);
    v.optional_list("lines", o.lines);
    v.optional_list("stretches", o.stretches);
    v.list("looks", o.looks);
    v.list("effects", o.effects);
    v.optional_list("soldered", o.soldered);
    v.maybe_object("hilt", o.hilt);
    v.optional_object("config", o.config);
    v.usual_text("preset", o.preset);
    v.optional_list("presets", o.presets);
    v.optional_list("resting", o.resting);
    v.optional_list("plugs", o.plugs);
}

template <class V, Either<Rate> T>
void describe(V& v, T& r) {
    v.word("kind", r.kind);
    v.number("per_minute", r.per_minute, limits::per_minute);
}

template <class V, Either<Phase> T>
void describe(V& v, T& p) {
    v.word("kind", p.kind);
    v.number("lasts_min", p.lasts, limits::minutes);
    v.integer("times", p.times, limits::times);
    v.number("pause_min", p.pause, limits::minutes);
    v.list("rates", p.rates);
    v.optional_number("temperature_degC", p.temperature, limits::temperature_degC);
    v.optional_number("volume", p.volume, limits::fraction);
}

template <class V, Either<Use> T>
void describe(V& v, T& u) {
    v.text("name", u.name);
    v.text("look", u.look);
    v.usual_text("preset", u.preset);
    v.number("clean_min", u.clean, limits::minutes);
    v.number("ignited_min", u.ignited, limits::minutes);
    v.number("idle_min", u.idle, limits::minutes);
    v.number("temperature_degC", u.temperature, limits::temperature_degC);
    v.number("volume", u.volume, limits::fraction);
    v.optional_list("day", u.day);
}

template <class V, Either<WantedBlade> T>
void describe(V& v, T& b) {
    v.number("length_mm", b.length, limits::length_mm);
    v.number("outer_mm", b.outer, limits::diameter_mm);
}

template <class V, Either<Wish> T>
void describe(V& v, T& w) {
    v.text("text", w.text);
    v.word("by", w.by);
    v.text("target", w.target);
    v.flag("done", w.done);
}

template <class V, Either<Agreement> T>
void describe(V& v, T& a) {
    v.text("text", a.text);
    v.word("kind", a.kind);
    v.text("measure", a.measure);
    v.word("bound", a.bound);
    v.optional_number("value", a.value, limits::figure);
    v.text("word", a.word);
    v.text("on", a.on);
    v.optional_number("that_day", a.that_day, limits::figure);
}

template <class V, Either<Brief> T>
void describe(V& v, T& b) {
    v.word("occasion", b.occasion);
    v.list("blades", b.blades);
    v.word("swap", b.swap);
    v.optional_number("budget", b.budget, limits::amount);
    v.text("currency", b.currency);
    v.list("wishes", b.wishes);
    v.list("agreements", b.agreements);
}

template <class V, Either<Picture> T>
void describe(V& v, T& p) {
    v.text("id", p.id);
    v.text("caption", p.caption);
}

template <class V, Either<Inspected> T>
void describe(V& v, T& i) {
    v.word("area", i.area);
    v.text("item", i.item);
    v.word("condition", i.condition);
    v.text("note", i.note);
    v.optional_number("reading", i.reading, limits::figure);
    v.word("unit", i.unit);
    v.text("part", i.part);
    v.word("fate", i.fate);
    v.text("why", i.why);
    v.list("pictures", i.pictures);
}

template <class V, Either<FoundWire> T>
void describe(V& v, T& w) {
    v.text("from", w.from);
    v.text("to", w.to);
    v.text("colour", w.colour);
    v.text("note", w.note);
}

template <class V, Either<Setting> T>
void describe(V& v, T& s) {
    v.text("name", s.name);
    v.text("value", s.value);
}

template <class V, Either<AsFound> T>
void describe(V& v, T& f) {
    v.text("on", f.on);
    v.list("wires", f.wires);
    v.list("settings", f.settings);
}

template <class V, Either<LogEntry> T>
void describe(V& v, T& e) {
    v.text("on", e.on);
    v.text("text", e.text);
}

template <class V, Either<Milestone> T>
void describe(V& v, T& m) {
    v.word("mark", m.mark);
    v.text("on", m.on);
    v.text("note", m.note);
    v.text("kept", m.kept);
}

template <class V, Either<AnsweredFigure> T>
void describe(V& v, T& f) {
    v.text("label", f.label);
    v.number("value", f.value, limits::figure);
    v.text("unit", f.unit);
}

template <class V, Either<Answered> T>
void describe(V& v, T& a) {
    v.text("finding", a.finding);
    v.text("about", a.about);
    v.usual_word("how", a.how);
    v.text("why", a.why);
    v.text("on", a.on);
    v.word("gravity", a.gravity);
    v.list("figures", a.figures);
}

template <class V, Either<PlannedWith> T>
void describe(V& v, T& p) {
    v.text("type", p.type);
    v.text("definition", p.definition);
    v.usual_text("passed_over", p.passed_over);
}

template <class V, Either<HandState> T>
void describe(V& v, T& s) {
    v.text("name", s.name);
    v.word("kind", s.kind);
    v.usual_number("limit_s", s.limit, limits::day_seconds);
    v.usual_text("then", s.then);
    v.usual_text("signal", s.signal);
}

template <class V, Either<TriggerButton> T>
void describe(V& v, T& b) {
    v.text("button", b.button);
}

template <class V, Either<Trigger> T>
void describe(V& v, T& t) {
    v.usual_word("press", t.press);
    v.optional_list("buttons", t.buttons);
    v.usual_number("held_s", t.held, limits::press_seconds);
    v.usual_word("motion", t.motion);
    v.usual_word("side", t.side);
    v.usual_word("attitude", t.attitude);
}

template <class V, Either<Command> T>
void describe(V& v, T& c) {
    v.text("name", c.name);
    v.text("state", c.state);
    v.object("trigger", c.trigger);
    v.word("does", c.does);
    v.usual_text("what", c.what);
    v.usual_text("leads", c.leads);
    v.usual_text("preset", c.preset);
    v.usual_word("blade", c.blade);
    v.usual_text("source", c.source);
    v.usual_text("tried_on", c.tried_on);
}

template <class V, Either<Rehearsed> T>
void describe(V& v, T& r) {
    v.text("command", r.command);
    v.text("state", r.state);
    v.text("who", r.who);
    v.integer("right", r.right, limits::tries);
    v.integer("wrong", r.wrong, limits::tries);
    v.usual_number("took_s", r.took, limits::day_seconds);
    v.usual_text("on", r.on);
}

template <class V, Either<Handling> T>
void describe(V& v, T& h) {
    v.list("states", h.states);
    v.list("commands", h.commands);
    v.number("again_s", h.again, limits::press_seconds);
    v.optional_list("rehearsed", h.rehearsed);
}

template <class V, Either<MotionTest> T>
void describe(V& v, T& m) {
    v.text("movement", m.movement);
    v.word("wanted", m.wanted);
    v.word("observed", m.observed);
    v.usual_text("on", m.on);
}

template <class V, Either<FontSound> T>
void describe(V& v, T& f) {
    v.text("font", f.font);
    v.number("peak", f.peak, limits::fraction);
    v.number("loudest", f.loudest, limits::fraction);
    v.number("mean", f.mean, limits::fraction);
    v.number("loudness_LUFS", f.loudness, limits::loudness_LUFS);
}

template <class V, Either<CardFile> T>
void describe(V& v, T& f) {
    v.text("path", f.path);
    v.number("bytes", f.bytes, limits::bytes);
    v.text("hash", f.hash);
}

template <class V, Either<MeantDifference> T>
void describe(V& v, T& m) {
    v.text("path", m.path);
    v.text("why", m.why);
}

template <class V, Either<Card> T>
void describe(V& v, T& c) {
    v.usual_text("on", c.on);
    v.optional_list("fonts", c.fonts);
    v.optional_list("files", c.files);
    v.optional_list("meant", c.meant);
}

template <class V, Either<PresetTold> T>
void describe(V& v, T& p) {
    v.text("name", p.name);
    v.usual_text("font", p.font);
    v.usual_text("look", p.look);
    v.usual_text("tracks", p.tracks);
    v.usual_text("note", p.note);
}

template <class V, Either<BenchReading> T>
void describe(V& v, T& r) {
    v.word("reads", r.what);
    v.text("state", r.state);
    v.text("from", r.from);
    v.usual_text("to", r.to);
    v.number("value", r.value, limits::figure);
    v.usual_flag("turned", r.turned);
    v.usual_text("on", r.on);
    v.usual_text("source", r.source);
    v.usual_integer("mends", r.mends, limits::tries);
}

template <class V, Either<BenchSymptom> T>
void describe(V& v, T& s) {
    v.text("symptom", s.symptom);
    v.usual_text("where", s.where);
    v.usual_integer("mends", s.mends, limits::tries);
}

template <class V, Either<BenchTried> T>
void describe(V& v, T& t) {
    v.text("step", t.step);
    v.optional_number("read", t.read, limits::figure);
    v.flag("fine", t.fine);
    v.usual_text("on", t.on);
    v.usual_text("note", t.note);
}

template <class V, Either<BenchMend> T>
void describe(V& v, T& m) {
    v.text("fault", m.fault);
    v.text("says", m.says);
    v.usual_text("where", m.where);
    v.usual_text("on", m.on);
    v.usual_text("proof", m.proof);
}

template <class V, Either<DischargePoint> T>
void describe(V& v, T& p) {
    v.number("s", p.seconds, limits::log_seconds);
    v.number("V", p.volts, limits::volts);
    v.number("A", p.amps, limits::log_A);
}

template <class V, Either<DischargeLog> T>
void describe(V& v, T& d) {
    v.text("cell", d.cell);
    v.word("at", d.at);
    v.usual_text("on", d.on);
    v.usual_text("name", d.name);
    v.list("points", d.points);
}

template <class V, Either<Practised> T>
void describe(V& v, T& p) {
    v.number("seed", p.seed, limits::seed);
    v.integer("level", p.level, limits::level);
    v.flag("right", p.right);
    v.number("minutes", p.minutes, limits::figure);
    v.number("finder_minutes", p.finder, limits::figure);
    v.usual_text("on", p.on);
}

template <class V, Either<Bench> T>
void describe(V& v, T& b) {
    v.optional_list("symptoms", b.symptoms);
    v.optional_list("readings", b.readings);
    v.optional_list("tried", b.tried);
    v.optional_list("mends", b.mends);
    v.optional_list("discharges", b.discharges);
    v.usual_text("signed_on", b.signed_on);
    v.usual_text("signed_by", b.signed_by);
    v.usual_integer("steps", b.steps, limits::tries);
    v.usual_text("untried", b.untried);
    v.optional_list("practised", b.practised);
}

template <class V, Either<Job> T>
void describe(V& v, T& j) {
    v.text("name", j.name);
    v.word("kind", j.kind);
    v.text("purpose", j.purpose);
    v.text("promised", j.promised);
    v.word("stage", j.stage);
    v.text("notes", j.notes);
    v.object("use", j.use);
    v.optional_list("uses", j.uses);
    v.usual_text("charger", j.charger);
    v.object("hilt", j.hilt);
    v.list("parts", j.parts);
    v.list("blades", j.blades);
    v.optional_list("mated", j.mated);
    v.list("wires", j.wires);
    v.list("looks", j.looks);
    v.list("effects", j.effects);
    v.optional_list("presets", j.presets);
    v.optional_list("resting", j.resting);
    v.optional_list("lines", j.lines);
    v.optional_list("stretches", j.stretches);
    v.optional_object("config", j.config);
    v.optional_list("plugs", j.plugs);
    v.optional_object("handling", j.handling);
    v.optional_list("motion_tests", j.motion_tests);
    v.optional_list("presets_found", j.presets_found);
    v.optional_list("presets_asked", j.presets_asked);
    v.optional_object("card", j.card);
    v.optional_list("soldered", j.soldered);
    v.optional_list("built", j.built);
    v.usual_text("variant", j.variant);
    v.optional_list("variants", j.variants);
    v.optional_object("brief", j.brief);
    v.optional_list("inspection", j.inspection);
    v.optional_object("as_found", j.as_found);
    v.optional_list("log", j.log);
    v.optional_list("milestones", j.milestones);
    v.optional_list("answered", j.answered);
    v.optional_list("planned_with", j.planned_with);
    v.optional_object("bench", j.bench);
}

} // namespace conductus::job
