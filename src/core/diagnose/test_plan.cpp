// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/diagnose/test_plan.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

#include "core/base/format.h"
#include "core/diagnose/diagnosis.h"
#include "core/diagnose/words.h"
#include "core/handling/buttons.h"
#include "core/handling/tour.h"
#include "core/job/lookup.h"
#include "core/job/trigger.h"
#include "core/job/words.h"
#include "core/power/cell_model.h"

namespace conductus::diagnose {
namespace {

std::string step_id(Quantity what, const std::string& state, const std::string& from,
                    const std::string& to, bool turned) {
    return fmt::format("{} | {} | {} | {}{}", job::word(what), state, from, to,
                       turned ? " | turned" : "");
}

class Planner {
public:
    Planner(Finder& finder, std::optional<double> loudness)
        : finder_(finder), world_(finder.world()), job_(world_.job()), parts_(world_.parts()),
          loudness_(loudness), openings_(world_.openings()), found_(finder.faults().size(), 0) {}

    TestPlan run() {
        const auto cell = job::first_of<catalogue::Cell>(job_, parts_);
        if (!cell || finder_.faults().empty()) return {};
        cell_ = cell.part->ref;
        find_ends();
        if (const auto board = job::first_of<catalogue::Board>(job_, parts_))
            board_ = board.part->ref;
        for (const job::Part& part : job_.parts)
            if (const auto* figures = parts_.find_as<catalogue::Cell>(part.type))
                in_hand(part, *figures);
        cell_out_steps();
        killed();
        first_power();
        at_rest();
        lit();
        handling();
        // Where the probes have just been in that state, the hilt is open already.
        for (std::size_t i = 0; i < plan_.steps.size(); ++i) {
            TestStep& s = plan_.steps[i];
            if (i > 0 && plan_.steps[i - 1].state == s.state &&
                plan_.steps[i - 1].what != Quantity::seen)
                s.minutes = std::min(s.minutes, 0.5);
            plan_.minutes += s.minutes;
        }
        for (std::size_t f = 0; f < found_.size(); ++f)
            if (!found_[f]) plan_.not_found.push_back(f);
        return std::move(plan_);
    }

private:
    /// The step is taken into the plan if it finds anything new, or has another purpose.
    bool take(TestStep step, const std::vector<std::size_t>& could) {
        for (const std::size_t f : could)
            if (!found_[f]) step.finds.push_back(f);
        if (step.finds.empty() && step.purpose.empty()) return false;
        for (const TestStep& s : plan_.steps)
            if (s.id == step.id) return false;
        for (const std::size_t f : step.finds)
            found_[f] = 1;
        if (step.below.empty()) step.below = suspects(step);
        if (step.above.empty()) step.above = suspects(step);
        plan_.steps.push_back(std::move(step));
        return true;
    }

    /// What is the likeliest of the faults that a step finds.
    Message suspects(const TestStep& step) const {
        std::vector<std::size_t> all = step.finds;
        if (all.empty()) return "Read it again; then find the fault with it";
        std::stable_sort(all.begin(), all.end(), [&](std::size_t a, std::size_t b) {
            return finder_.faults()[a].prior > finder_.faults()[b].prior;
        });
        std::vector<Message> names;
        for (const std::size_t f : all)
            if (names.size() < 3) names.push_back(finder_.faults()[f].says);
        if (names.size() == 1) return say("Find the fault: it may be that {}", names[0]);
        if (names.size() == 2)
            return say("Find the fault: it may be that {}, or that {}", names[0], names[1]);
        return say("Find the fault: it may be that {}, that {}, or that {}", names[0], names[1],
                   names[2]);
    }

    TestStep step_of(TestStage stage, const Measure& m, bool turned, double minutes) {
        TestStep s;
        s.stage = stage;
        s.words = words_of(job_, m, turned);
        s.what = m.what, s.state = m.state, s.from = m.from, s.to = m.to, s.turned = turned;
        s.id = step_id(m.what, m.state, m.from, m.to, turned);
        s.minutes = minutes, s.measured = m;
        if (const auto band = band_of(finder_, m, turned)) static_cast<Band&>(s) = *band;
        return s;
    }

    /// Faults with which that step would read out of its band, by a column of the finder.
    std::vector<std::size_t> finds(const TestStep& step, const Finder::Column& column) const {
        std::vector<std::size_t> all;
        for (std::size_t f = 0; f < finder_.faults().size(); ++f) {
            // What is there only while something is turned is found by turning.
            if (finder_.faults()[f].turned && !step.turned) continue;
            const auto v = column.values[f + 1];
            if (!v || step.judge(*v) == Verdict::out) all.push_back(f);
        }
        return all;
    }

    /// Of the readings that could be taken: those that find most that is new for a minute, until
    /// nothing is new; then in the order in which the probes move least.
    void cover(TestStage stage, const std::vector<std::size_t>& candidates,
               const std::vector<Candidate>& more = {}) {
        struct Option {
            TestStep step;
            std::vector<std::size_t> could;
        };
        std::vector<Option> options;
        const auto add = [&](const Candidate& c, const Finder::Column& column) {
            if (!column.values[0]) return;
            Option o{step_of(stage, c.measure, c.turned, c.minutes), {}};
            o.could = finds(o.step, column);
            if (!o.could.empty()) options.push_back(std::move(o));
        };
        for (const Candidate& c : more)
            add(c, finder_.column(c.measure, c.turned));
        for (const std::size_t k : candidates)
            add(finder_.candidates()[k], finder_.column_of(k));
        std::vector<char> found = found_;
        std::vector<Option> chosen;
        for (;;) {
            double best = 0;
            std::size_t which = 0;
            for (std::size_t i = 0; i < options.size(); ++i) {
                double fresh = 0;
                for (const std::size_t f : options[i].could)
                    fresh += found[f] ? 0 : 1;
                // What is read with the kill open costs a change; what finds most goes first.
                if (fresh / options[i].step.minutes > best)
                    best = fresh / options[i].step.minutes, which = i;
            }
            if (best <= 0) break;
            for (const std::size_t f : options[which].could)
                found[f] = 1;
            chosen.push_back(options[which]);
        }
        // Isolation before continuity: what touches does harm, what is open does none.
        std::stable_sort(chosen.begin(), chosen.end(), [](const Option& a, const Option& b) {
            const auto rank = [](const TestStep& s) {
                return std::tuple(s.state == kill_open, !s.open(), s.turned, s.state,
                                  s.what != Quantity::pixels, s.from, s.to);
            };
            return rank(a.step) < rank(b.step);
        });
        for (Option& o : chosen) {
            if (o.step.stage == TestStage::before_power && o.step.open())
                o.step.below =
                    say("Do not put the cell in: something touches. {}", suspects_of(o.could));
            take(std::move(o.step), o.could);
        }
    }
    Message suspects_of(const std::vector<std::size_t>& faults) const {
        TestStep s;
        for (const std::size_t f : faults)
            if (!found_[f]) s.finds.push_back(f);
        return suspects(s);
    }

    std::vector<std::size_t> candidates(const std::vector<std::string>& states) const {
        std::vector<std::size_t> all;
        for (std::size_t k = 0; k < finder_.candidates().size(); ++k)
            if (std::find(states.begin(), states.end(), finder_.candidates()[k].measure.state) !=
                states.end())
                all.push_back(k);
        return all;
    }

    /// A step in which something is seen or heard; it finds what shows those symptoms.
    void see(TestStage stage, const std::string& state, const std::string& what, Message words,
             Message purpose, const std::vector<Symptom>& symptoms, double minutes = 0.3,
             const std::string& of = {}) {
        TestStep s;
        s.stage = stage, s.what = Quantity::seen, s.state = state, s.from = of;
        s.words = std::move(words), s.purpose = std::move(purpose), s.minutes = minutes;
        s.id = step_id(Quantity::seen, state, of, what, false);
        std::vector<std::size_t> could;
        for (std::size_t f = 0; f < finder_.faults().size(); ++f)
            for (const Sight& sight : finder_.sights())
                if (std::find(symptoms.begin(), symptoms.end(), sight.symptom) != symptoms.end() &&
                    finder_.shows(f, sight)) {
                    could.push_back(f);
                    break;
                }
        take(std::move(s), could);
    }
    /// A reading with a purpose of its own.
    void read(TestStage stage, const Measure& m, double minutes, Message purpose,
              Message below = {}, Message above = {}) {
        if (m.state.empty() || !world_.read(m, {})) return;
        TestStep s = step_of(stage, m, false, minutes);
        s.purpose = std::move(purpose), s.below = std::move(below), s.above = std::move(above);
        take(std::move(s), {});
    }
    /// The same, that also finds faults.
    void read_and_find(TestStage stage, const Measure& m, double minutes, Message purpose,
                       Message below = {}, Message above = {}) {
        if (m.state.empty() || !world_.read(m, {})) return;
        TestStep s = step_of(stage, m, false, minutes);
        s.purpose = std::move(purpose), s.below = std::move(below), s.above = std::move(above);
        const auto could = finds(s, finder_.column(m, false));
        take(std::move(s), could);
    }

    /// The ends of the supply: of cells in a row those of the last and of the first.
    void find_ends() {
        plus_ = cell_ + ".plus", minus_ = cell_ + ".minus";
        for (const job::Part& part : job_.parts) {
            if (!parts_.find_as<catalogue::Cell>(part.type)) continue;
            const auto above = [&](const std::string& one, const std::string& other) {
                return world_.read({Quantity::volts, "idle", one, other}, {}).value_or(0) > 1;
            };
            if (above(part.ref + ".plus", plus_)) plus_ = part.ref + ".plus";
            if (above(minus_, part.ref + ".minus")) minus_ = part.ref + ".minus";
        }
    }

    void in_hand(const job::Part& part, const catalogue::Cell& cell) {
        TestStep s;
        s.stage = TestStage::in_hand, s.what = Quantity::volts, s.state = by_itself;
        s.from = part.ref + ".plus", s.to = part.ref + ".minus";
        s.id = step_id(s.what, s.state, s.from, s.to, false);
        s.words = say("{} in the hand, plus to minus", part.ref);
        s.measured = Measure{s.what, s.state, s.from, s.to};
        const double cells = std::max(1, cell.series);
        s.low = power::open_circuit(0.3).value() * cells - 0.02;
        s.high = power::open_circuit(1).value() * cells + 0.05;
        s.expected = power::open_circuit(0.9).value() * cells;
        s.minutes = 0.5;
        s.purpose = "What is read later is told against how far the cell is charged";
        s.below = "Charge it; a cell that was under 2.5 V is not used any more";
        s.above = "Do not fit it: it was charged too far, or it is another cell";
        std::vector<std::size_t> could;
        for (std::size_t f = 0; f < finder_.faults().size(); ++f)
            if (finder_.faults()[f].id == "flat " + part.ref) could.push_back(f);
        take(std::move(s), could);
        TestStep way;
        way.stage = TestStage::in_hand, way.what = Quantity::seen, way.state = by_itself;
        way.from = part.ref;
        way.id = step_id(way.what, way.state, part.ref, "way round", false);
        way.words = say("the minus of {} is toward the {}, and the bay is marked so", part.ref,
                        Message(std::string(job::word(part.minus_faces))));
        way.minutes = 0.3;
        way.below = "Turn the cell round: the wrong way round destroys the board";
        could.clear();
        for (std::size_t f = 0; f < finder_.faults().size(); ++f)
            if (finder_.faults()[f].id == "reversed " + part.ref) could.push_back(f);
        take(std::move(way), could);
    }

    void cell_out_steps() {
        read_and_find(TestStage::before_power, {Quantity::ohms, cell_out, plus_, minus_}, 1,
                      "Nothing is shorted",
                      "Do not put the cell in: plus and minus touch somewhere");
        std::vector<Candidate> chains;
        const auto chain = [&](const std::string& from, const std::string& to) {
            const Measure m{Quantity::ohms, cell_out, from, to};
            const auto sound = from != to ? world_.read(m, {}) : std::nullopt;
            if (sound && *sound > 0.002 && *sound < 3) chains.push_back({m, 2, false});
        };
        if (!board_.empty()) {
            chain(plus_, board_ + ".bat");
            chain(board_ + ".gnd", minus_);
        }
        const std::set<std::string> pads = light_pads();
        // A pad that is shorted lights what hangs on it for ever.
        for (const std::string& pad : pads) {
            const Measure m{Quantity::ohms, cell_out, board_ + ".gnd", pad};
            if (const auto band = band_of(finder_, m, false); band && band->open())
                chains.push_back({m, 1, false});
        }
        for (const job::Blade& b : job_.blades) {
            chain(plus_, b.ref + ".plus");
            chain(b.ref + ".minus", minus_);
            for (const std::string& pad : pads)
                chain(pad, b.ref + ".minus");
        }
        cover(TestStage::before_power, candidates({cell_out, kill_open}), chains);
        // Each plug is proved by itself, however like its neighbour it looks.
        for (const job::Plug& p : job_.plugs) {
            const bool kills = p.use == job::PlugUse::kill;
            if ((!kills && p.use != job::PlugUse::charge) || p.jack.empty()) continue;
            for (const World::Opening& contact : openings_) {
                if (contact.ref != p.jack) continue;
                for (const bool in : {false, true}) {
                    TestStep s = step_of(
                        TestStage::before_power,
                        {Quantity::ohms, in ? kill_open : cell_out, contact.in, contact.out}, false,
                        1);
                    s.state = (in ? say("cell out, {} in {}", p.ref, p.jack)
                                  : say("cell out, {} out of {}", p.ref, p.jack))
                                  .english();
                    s.id = step_id(s.what, s.state, s.from, s.to, false);
                    s.purpose = !in     ? say("{} closes again once {} is drawn", p.jack, p.ref)
                                : kills ? say("{} is proved to open {}", p.ref, p.jack)
                                        : say("The board is off while {} is in {}", p.ref, p.jack);
                    s.below = say("{} opens nothing: it is too thin, too short, or a blank", p.ref);
                    s.above = say("{} stays open: its spring is bent or worn", p.jack);
                    take(std::move(s), {});
                }
            }
        }
        for (const World::Opening& contact : openings_)
            read(TestStage::before_power, {Quantity::ohms, kill_open, contact.in, contact.out}, 1,
                 say("{} is proved to open", contact.ref),
                 say("{} does not open: nothing would switch the hilt off", contact.ref));
    }

    /// Pads of the board that the minus of a light is wired to.
    [[nodiscard]] std::set<std::string> light_pads() const {
        std::set<std::string> pads;
        for (const job::Wire& w : job_.wires)
            for (const std::string& end : {w.from, w.to})
                if (!board_.empty() && w.role == job::Role::return_path &&
                    end.starts_with(board_ + ".") && end != board_ + ".gnd")
                    pads.insert(end);
        return pads;
    }

    void killed() {
        if (openings_.empty()) return;
        read_and_find(TestStage::killed, {Quantity::amps, "killed", cell_ + ".plus", {}}, 1.8,
                      "The kill kills with the cell in", {},
                      "Take the cell out: the kill is by-passed");
        cover(TestStage::killed, candidates({"killed"}));
    }

    void first_power() {
        const Measure idle{Quantity::amps, "idle", cell_ + ".plus", {}};
        if (!world_.read(idle, {})) return;
        TestStep s = step_of(TestStage::first_power, idle, false, 2.5);
        limit_ = std::ceil((1.5 * s.high + 0.05) * 10) / 10;
        s.words = say("{} from a supply at {} that is limited to {}", s.words,
                      with_unit(supply(), "V"), with_unit(limit_, "A"));
        s.id = step_id(s.what, "first power", s.from, {}, false);
        s.purpose = "A fault that is left draws no more than the supply gives";
        s.below = "The board does not start: read the volts along the supply";
        s.above = "Switch it off at once, and do not raise the limit: find what draws the current";
        take(std::move(s),
             finds(step_of(TestStage::first_power, idle, false, 1), finder_.column(idle, false)));
    }
    /// Volts of a supply that stands in for all the cells.
    double supply() {
        double one = 0;
        if (const circuit::Network* n = world_.network("idle"))
            for (const circuit::Source& source : n->sources)
                one = std::max(one, source.emf);
        const double all = world_.read({Quantity::volts, "idle", plus_, minus_}, {}).value_or(one);
        return std::round(one * std::max(1.0, std::round(all / std::max(one, 1e-3))) * 10) / 10;
    }

    void at_rest() {
        read_and_find(TestStage::at_rest, {Quantity::amps, "asleep", cell_ + ".plus", {}}, 1.8,
                      "What it draws in storage", {},
                      "Something stays on while it is off: it empties the cell in storage");
        see(TestStage::at_rest, "asleep", "dark", "nothing is lit while it is off",
            "What is lit while it is off empties the cell", {Symptom::lit_while_off});
        cover(TestStage::at_rest, candidates({"asleep", "idle"}));
        if (!job_.config.sense_pad.empty())
            see(TestStage::at_rest, "blade out", "sensed",
                "draw the blade and put it back: the board tells both", "The blade is sensed", {},
                0.5);
    }

    void lit() {
        const std::string& look = world_.lit();
        if (look.empty()) return;
        see(TestStage::lit, look, "whole",
            say("{} has its colour on the whole blade and on every light", look),
            "What a person sees at once",
            {Symptom::wrong_colours, Symptom::no_blade, Symptom::nothing_at_all});
        if (const circuit::Network* n = world_.network(look)) {
            // Each where it shows something: an accent may be dark in the look of the use.
            std::vector<std::string> states{look, "idle"};
            for (const job::Look& l : job_.looks)
                states.push_back(l.name);
            if (!world_.flash().empty()) states.push_back(world_.flash());
            for (const circuit::Strip& strip : n->strips)
                for (const std::string& state : states) {
                    const Measure m{Quantity::pixels, state, strip.ref, {}};
                    if (world_.read(m, {}).value_or(0) < 1) continue;
                    read_and_find(TestStage::lit, m, 0.4, "Each strip, to its last pixel");
                    break;
                }
            std::set<std::string> seen;
            for (const circuit::Diode& d : n->diodes)
                if (seen.insert(d.ref + d.junction.name()).second) see_light(d, states);
        }
        std::vector<Candidate> pads;
        for (const std::string& pad : light_pads())
            pads.push_back({{Quantity::volts, look, pad, board_ + ".gnd"}, 1, false});
        cover(TestStage::lit, candidates({look}), pads);
        for (const job::Look& l : job_.looks)
            read(TestStage::lit, {Quantity::amps, l.name, cell_ + ".plus", {}}, 0.7,
                 say("{} draws what the runtime was planned with", l.name));
        if (!world_.flash().empty()) {
            cover(TestStage::lit, candidates({world_.flash()}));
            if (!board_.empty())
                read(TestStage::lit,
                     {Quantity::volts, world_.flash(), board_ + ".bat", board_ + ".gnd"}, 1,
                     say("The sag at {}: what first crackles follows it", world_.flash()));
        }
    }
    /// A light, in the first state in which it carries a current.
    void see_light(const circuit::Diode& d, const std::vector<std::string>& states) {
        const bool several = d.junction.number > 0 || d.junction.of == circuit::Junction::Of::flash;
        const std::string light = several ? d.ref + "." + d.junction.name() : d.ref;
        for (const std::string& state : states) {
            const double amps = world_.light(state, light);
            if (amps < 1e-4) continue;
            TestStep s;
            s.stage = TestStage::lit, s.what = Quantity::seen, s.state = state, s.from = light;
            s.id = step_id(Quantity::seen, state, light, "lit", false);
            s.words = say("{} is lit", light), s.purpose = "Each light by itself", s.minutes = 0.2;
            std::vector<std::size_t> could;
            for (std::size_t f = 0; f < finder_.faults().size(); ++f)
                if (!found_[f] && !finder_.faults()[f].turned &&
                    world_.light(state, light, &finder_.faults()[f]) < 0.5 * amps)
                    could.push_back(f);
            take(std::move(s), could);
            return;
        }
    }

    void handling() {
        const auto stage = TestStage::handling;
        const job::Handling& map = job_.handling;
        const handling::Tour tour = handling::shortest_tour(job_);
        const auto hands = handling::hand_buttons(job_, parts_);
        bool pressed = false;
        for (const handling::TourStep& t : tour.steps) {
            if (t.kind != handling::TourStep::Kind::command || !t.first) continue;
            const job::Command& c = map.commands[t.command];
            const Message preset = c.preset.empty() ? Message() : say(", with {} only", c.preset);
            see(stage, c.state, c.name + (c.preset.empty() ? "" : " | " + c.preset),
                say("{}: {}{}", job::trigger_text(c.trigger), c.name, preset),
                "Every command is tried before it is printed",
                {Symptom::button_dead, Symptom::buttons_swapped}, 0.2);
            pressed = pressed || !c.trigger.buttons.empty();
        }
        if (!pressed)
            for (const handling::HandButton& b : hands)
                see(stage, "idle", "press", say("press {}: the board answers", b.ref),
                    "Each button by itself", {Symptom::button_dead, Symptom::buttons_swapped}, 0.2,
                    b.ref);
        if (!job_.presets.empty())
            see(stage, "card", "checked", "the card was checked against the presets",
                "A font or a track that is missing is silent only when it is wanted", {}, 1);
        for (const job::Preset& p : job_.presets)
            see(stage, p.name, "preset",
                say("{} plays {} and shows {}", p.name,
                    p.font.empty() ? Message("its sounds") : Message(p.font),
                    p.look.empty() ? Message("its look") : Message(p.look)),
                "Each preset in its order", {Symptom::silent, Symptom::wrong_colours}, 0.3);
        if (job_.presets.empty() && job::first_of<catalogue::Speaker>(job_, parts_))
            see(stage, world_.lit(), "sound", "it plays its sounds", "The speaker and the card",
                {Symptom::silent}, 0.3);
        if (loudness_) {
            TestStep s;
            s.stage = stage, s.what = Quantity::decibels, s.state = world_.lit();
            s.id = step_id(s.what, s.state, {}, {}, false);
            s.words = "loudness at a metre, of a steady hum at full volume";
            s.expected = *loudness_, s.low = *loudness_ - 6, s.high = *loudness_ + 6;
            s.purpose = "What the room before and behind the cone does to it";
            s.below = "Look for a finger, a cap or a wire on the cone, and for closed vents";
            s.above = "It is louder than planned: nothing to do";
            take(std::move(s), {});
        }
        if (!job_.config.motion.swing && job_.motion_tests.empty())
            see(stage, "lit", "motion", "swing it and set it down hard: no false clash",
                "Motion is as lively as was asked for", {});
        if (std::any_of(job_.blades.begin(), job_.blades.end(),
                        [](const job::Blade& b) { return !b.connector.empty(); }))
            see(stage, "blade out", "seats",
                "draw the blade and let it drop in: it seats by its own weight, and lights",
                "Every blade, in and out", {}, 0.5);
        see(stage, "closed", "rattle", "shake the closed hilt: nothing rattles",
            "What is loose shows in no reading", {});
        see(stage, "closed", "flicker", "turn cap and blade while it is lit: nothing flickers",
            "What touches only at rest", {Symptom::flickers_turned}, 0.5);
    }

    Finder& finder_;
    World& world_;
    const job::Job& job_;
    const catalogue::Catalogue& parts_;
    std::optional<double> loudness_;
    std::vector<World::Opening> openings_;
    std::string cell_, plus_, minus_, board_;
    double limit_ = 0;
    std::vector<char> found_;
    TestPlan plan_;
};

} // namespace

Message words_of(TestStage stage) {
    switch (stage) {
    case TestStage::in_hand:
        return "in the hand";
    case TestStage::before_power:
        return "cell out";
    case TestStage::killed:
        return "kill open";
    case TestStage::first_power:
        return "first power";
    case TestStage::at_rest:
        return "at rest";
    case TestStage::lit:
        return "lit";
    case TestStage::handling:
        return "handling";
    }
    return {};
}

TestPlan test_plan(Finder& finder, std::optional<double> loudness) {
    return Planner(finder, loudness).run();
}

} // namespace conductus::diagnose
