// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/circuit/compile.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

#include "core/catalogue/kinds.h"
#include "core/circuit/copper.h"
#include "core/circuit/junction.h"
#include "core/circuit/pulse.h"
#include "core/job/lookup.h"

namespace conductus::circuit {
namespace {

/// A contact of no resistance at all would have no conductance matrix, and one of next to none
/// drowns the rest of it in rounding.
constexpr double least_ohms = 1e-8;
/// What a soldered joint has: pixels of accents sit right on their pads.
constexpr double joint_ohms = 1e-3;

std::string lower(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return out;
}

/// Between nodes that nothing else may join: an open switch, a dark LED. Real ones leak as much.
constexpr double leak_ohms = 1e6;
/// Of a button that stands in a supply.
constexpr Ohm button_contact{0.05};
/// Coil and switch of a step-up whose part does not say.
constexpr double usual_step_up_pass = 0.05;
/// The divider that measures a converter's output.
constexpr double divider_ohms = 1e5;

Ohm contact_of(const job::Part& part, const catalogue::Connector& c) {
    return part.measured.resistance.value_or(c.pin_resistance);
}
Ohm contact_of(const job::Part& part, std::string_view pin, Ohm usual) {
    for (const job::MeasuredPin& m : part.measured.pins)
        if (m.pin == pin) return m.resistance;
    return usual;
}

class Compiler {
public:
    Compiler(const job::Job& job, const catalogue::Catalogue& parts, const Moment& moment)
        : job_(job), parts_(parts), moment_(moment) {}

    Result<Network> run() {
        const auto cell = job::first_of<catalogue::Cell>(job_, parts_);
        if (!cell) return problem("/parts", "there is no cell", "Fit a cell");
        nodes_[cell.part->ref + ".minus"] = 0;
        find_pads_that_are_on();
        std::size_t cells = 0;
        for (const job::Part& part : job_.parts) {
            const catalogue::PartType* type = parts_.find(part.type);
            if (!type)
                return problem(part.ref, "has an unknown type", "Choose one of the catalogue");
            if (std::holds_alternative<catalogue::Cell>(type->figures)) {
                if (cells >= moment_.cells.size())
                    return problem(part.ref, "has no state of charge", "Give every cell one");
                add_cell(part, moment_.cells[cells++]);
            } else {
                add_part(part, *type);
            }
        }
        for (const job::Blade& blade : job_.blades)
            add_blade(blade);
        for (const job::Wire& wire : job_.wires)
            if (conducts(wire)) add_wire(wire);
        pulse(network_, pulsed_, dark_, moment_.pulses);
        return std::move(network_);
    }

private:
    static bool conducts(const job::Wire& wire) {
        return wire.role == job::Role::supply || wire.role == job::Role::return_path;
    }
    [[nodiscard]] bool is_wired(const std::string& terminal) const {
        return moment_.wiring->is_wired(terminal, job::power_roles);
    }
    [[nodiscard]] bool are_wired(const std::string& ref, const char* a, const char* b) const {
        return is_wired(ref + a) && is_wired(ref + b);
    }
    [[nodiscard]] bool lit() const { return moment_.board == BoardMode::active; }
    /// Whether anything can be shown: a blade is lit, or lights are on at rest.
    [[nodiscard]] bool shows() const { return lit() || !pads_on_.empty() || shows_at_rest_; }
    /// At rest a pad conducts where it leads to a light that shows something.
    [[nodiscard]] bool is_on(const std::string& pad) const {
        return lit() || std::find(pads_on_.begin(), pads_on_.end(), pad) != pads_on_.end();
    }
    void find_pads_that_are_on() {
        if (lit()) return;
        const auto leads_to = [&](const std::string& minus) {
            shows_at_rest_ = true;
            if (std::string pad = pad_of(job_, parts_, *moment_.wiring, minus); !pad.empty())
                pads_on_.push_back(std::move(pad));
        };
        for (const lights::Group& group : moment_.chains->groups) {
            if (!moment_.scene.lights_up(group.ref, group.owner)) continue;
            const job::Blade* blade = job::find_ref(job_.blades, group.owner);
            leads_to((blade && !blade->connector.empty() ? blade->connector : group.owner) +
                     ".minus");
        }
        for (const job::Part& part : job_.parts) {
            const catalogue::PartType* type = parts_.find(part.type);
            const catalogue::Led* led = type ? catalogue::led_in(type->figures) : nullptr;
            if (!led || !moment_.scene.lights_up(part.ref, {})) continue;
            const bool inside = !std::holds_alternative<catalogue::Led>(type->figures);
            const std::string minus = part.ref + (inside ? ".led_minus" : ".minus");
            for (std::size_t i = 0; i < led->dies.size(); ++i) {
                const std::string end = led->dies.size() == 1 ? minus
                                                              : fmt::format("{}{}", minus, i + 1);
                if (is_wired(end)) leads_to(end);
            }
        }
        for (const job::Blade& blade : job_.blades)
            for (const job::LedString& string : blade.strings) {
                if (!moment_.scene.lights_up(string.ref, blade.ref)) continue;
                const std::string at = blade.connector.empty() ? blade.ref : blade.connector;
                const auto* type = parts_.find_as<catalogue::SegmentedString>(string.type);
                for (int i = 1; i <= type->segments; ++i)
                    leads_to(fmt::format("{}.seg{}", at, i));
            }
    }
    /// Of that much at 20 °C. What a job says in ohms was measured, and is taken as it is.
    [[nodiscard]] double copper(double ohms) const { return ohms * copper_at(moment_.air); }

    Node node(const std::string& terminal) {
        const auto [it, fresh] = nodes_.try_emplace(terminal, network_.nodes.size());
        if (fresh) {
            std::string name = lower(terminal);
            std::replace(name.begin(), name.end(), '.', '_');
            network_.nodes.push_back(std::move(name));
        }
        return it->second;
    }

    void resistor(const std::string& suffix, const std::string& ref, Part part,
                  const std::string& a, const std::string& b, double ohms) {
        network_.resistors.push_back(
            {lower(ref) + suffix, ref, part, node(a), node(b), std::max(ohms, least_ohms), {}});
    }
    /// One contact, or all of a pole; `to` is what it leads to.
    void contact(const std::string& ref, const std::string& pin, const std::string& to,
                 const std::string& a, const std::string& b, double ohms) {
        const bool pole = pin == "plus" || pin == "minus";
        resistor("_" + pin + (pole ? "_pins_" : "_") + lower(to), ref, Part::pins, a, b, ohms);
        network_.resistors.back().pin = pin;
    }

    void add_cell(const job::Part& part, const CellState& state) {
        const auto* board =
            part.protection ? parts_.find_as<catalogue::Protection>(*part.protection) : nullptr;
        const std::string plus = part.ref + ".plus";
        const auto* adapter =
            part.adapter ? parts_.find_as<catalogue::Adapter>(*part.adapter) : nullptr;
        const auto springs = job::bay_of(part, parts_);
        // From the cell's own end through adapter and springs to the tab wires are soldered to.
        const std::string bay = springs.contacts > Ohm(0) ? part.ref + ".bay" : plus;
        const std::string outer = adapter ? part.ref + ".end" : bay;
        const std::string inner = board ? part.ref + ".core" : outer;
        const Node minus = node(part.ref + ".minus");
        network_.sources.push_back({lower(part.ref), part.ref, node(inner), minus,
                                    state.emf.value(),
                                    std::max(state.resistance.value(), least_ohms)});
        if (board)
            resistor("_protection", part.ref, Part::protection, inner, outer,
                     board->resistance.value());
        if (adapter)
            resistor("_adapter", part.ref, Part::bay, outer, bay, adapter->contacts.value());
        if (springs.contacts > Ohm(0))
            resistor("_bay", part.ref, Part::bay, bay, plus, springs.contacts.value());
    }

    /// Every kind says here what it is in the network.
    void add_part(const job::Part& part, const catalogue::PartType& type) {
        using namespace catalogue;
        const std::string& ref = part.ref;
        const auto nothing = [](const auto&) {};
        const auto in_a_row = [&](const char* name, Part is, const char* a, const char* b,
                                  double ohms) {
            if (is_wired(ref + a) || is_wired(ref + b))
                resistor(name, ref, is, ref + a, ref + b, ohms);
        };
        const auto light_inside = [&](const Led& light) {
            if (!light.dies.empty() && is_wired(ref + ".led_plus"))
                add_led(ref, light, ref + ".led_plus", ref + ".led_minus");
        };
        const auto takes = [&](Ampere amps) {
            if (are_wired(ref, ".plus", ".minus"))
                network_.sinks.push_back(
                    {lower(ref), ref, node(ref + ".plus"), node(ref + ".minus"), amps.value(), {}});
        };
        const auto pixels = [&](Ohm segment) {
            if (are_wired(ref, ".plus", ".minus"))
                add_pixels(ref, joint_ohms, std::max(copper(segment.value()), joint_ohms), {});
        };
        std::visit(
            EachKind{
                [&](const Cell& f) { nothing(f); }, // a source, added before
                [&](const Protection& f) { nothing(f); },
                [&](const Board& f) { add_board(ref, f, type.terminals); },
                [&](const Speaker& f) { nothing(f); }, // what it draws, the board does
                [&](const Kill& f) {
                    in_a_row("_contact", Part::kill, ".in", ".out",
                             moment_.killed ? leak_ohms
                                            : part.measured.resistance.value_or(f.contact).value());
                },
                [&](const Button& f) {
                    light_inside(f.light);
                    // As the switch of a light: pressed or latched while anything is lit.
                    if (job::switches_power(job_, part))
                        resistor("_contact", ref, Part::kill, ref + ".a", ref + ".b",
                                 moment_.killed || moment_.board != BoardMode::active
                                     ? leak_ohms
                                     : part.measured.resistance.value_or(button_contact).value());
                },
                [&](const Connector& f) {
                    if (f.pixels > 0) pixels({});
                },
                [&](const Pixel&) { pixels({}); },
                [&](const catalogue::Strip& f) { nothing(f); },
                [&](const Spacer& f) { nothing(f); },
                [&](const PixelGroup& f) { pixels(f.segment); },
                [&](const Led& f) {
                    if (is_wired(ref + ".plus")) add_led(ref, f, ref + ".plus", ref + ".minus");
                },
                [&](const SegmentedString& f) { nothing(f); }, // of a blade
                [&](const catalogue::Resistor& f) {
                    in_a_row("", Part::resistor, ".a", ".b", job::resistance_of(part, f).value());
                },
                [&](const Driver& f) { add_driver(part, f); },
                [&](const Regulator& f) { add_regulator(part, f); },
                [&](const Fuse& f) {
                    in_a_row("", Part::fuse, ".a", ".b",
                             part.measured.resistance.value_or(f.resistance).value());
                },
                [&](const Display& f) {
                    takes(moment_.board == BoardMode::asleep ? f.dark : f.lit);
                },
                [&](const Shifter& f) { takes(f.quiet); },
                [&](const Port& f) { light_inside(f.light); },
                [&](const Adapter& f) { nothing(f); },
                [&](const Bay& f) { nothing(f); }, // of a cell
                [&](const Charger& f) { nothing(f); },
                [&](const Jack& f) {
                    in_a_row("_contact", Part::kill, ".minus", ".out",
                             moment_.killed || moment_.plugged ? leak_ohms
                                            : part.measured.resistance.value_or(f.contact).value());
                }},
            type.figures);
    }

    void add_board(const std::string& ref, const catalogue::Board& board,
                   const std::vector<std::string>& terminals) {
        const Ampere own = moment_.board == BoardMode::active ? board.active
                           : moment_.board == BoardMode::idle ? board.idle
                                                              : board.sleep;
        // The board first: its supply is what others are judged by.
        network_.sinks.insert(
            network_.sinks.begin(),
            {lower(ref), ref, node(ref + ".bat"), node(ref + ".gnd"), own.value(), moment_.sound});
        // Only pads that something is soldered to: a bare pad is a node without a path.
        for (const std::string& terminal : terminals)
            if (terminal[0] == 'l' && is_wired(ref + "." + terminal))
                pad(ref, terminal,
                    is_on(ref + "." + terminal) ? board.pad_resistance.value() : leak_ohms);
    }

    void pad(const std::string& ref, const std::string& terminal, double ohms) {
        resistor("_" + terminal, ref, Part::board, ref + "." + terminal, ref + ".gnd", ohms);
        network_.resistors.back().pin = terminal;
    }

    void add_blade(const job::Blade& blade) {
        if (const job::Part* part = job::find_ref(job_.parts, blade.connector)) {
            if (const auto* c = parts_.find_as<catalogue::Connector>(part->type);
                c && !(blade.strips.empty() && blade.strings.empty())) {
                add_pins(*part, blade.ref, "plus", *c, c->plus_pins);
                // A string returns by its segments: a minus that leads nowhere is none.
                if (!blade.strips.empty() || is_wired(part->ref + ".minus"))
                    add_pins(*part, blade.ref, "minus", *c, c->minus_pins);
                add_segment_pins(*part, blade, *c);
            }
        }
        for (const job::Strip& strip : blade.strips) {
            const auto* type = parts_.find_as<catalogue::Strip>(strip.type);
            const double pitch_m = strip.length.value() * 1e-3 / strip.pixels;
            std::vector<Feed> feeds;
            for (const job::Feed& feed : strip.feeds)
                feeds.push_back(
                    {std::clamp(static_cast<int>(std::lround(feed.at * strip.pixels)) - 1, 0,
                                strip.pixels - 1),
                     std::max(feed.lead.value(), least_lead)});
            const double rail = strip.rail ? strip.rail->value() : copper(type->rail.value());
            add_pixels(strip.ref, std::max(strip.lead.value(), least_lead), 2 * rail * pitch_m,
                       std::move(feeds));
        }
        for (const job::LedString& string : blade.strings)
            add_string(blade, string);
    }

    /// Contacts side by side: as one, or each where some were measured by themselves.
    void add_pins(const job::Part& part, const std::string& blade, const std::string& pole,
                  const catalogue::Connector& c, int count) {
        const double usual = contact_of(part, c).value();
        const std::string a = part.ref + "." + pole, b = blade + "." + pole;
        const bool plus = pole == "plus"; // current goes a to b
        const auto &from = plus ? a : b, &to = plus ? b : a;
        if (part.measured.pins.empty())
            return contact(part.ref, pole, blade, from, to, usual / count);
        for (int i = 1; i <= count; ++i) {
            const std::string pin = pole + std::to_string(i);
            contact(part.ref, pin, blade, from, to, contact_of(part, pin, Ohm(usual)).value());
        }
    }

    /// A contact for each segment of a string and for its flash row, where the connector has them.
    void add_segment_pins(const job::Part& part, const job::Blade& blade,
                          const catalogue::Connector& c) {
        for (const job::LedString& string : blade.strings) {
            const auto* type = parts_.find_as<catalogue::SegmentedString>(string.type);
            const auto lead = [&](const std::string& pin) {
                if (!is_wired(part.ref + "." + pin)) return;
                contact(part.ref, pin, blade.ref, blade.ref + "." + pin, part.ref + "." + pin,
                        contact_of(part, pin, contact_of(part, c)).value());
            };
            for (int i = 1; i <= std::min(c.segments, type->segments); ++i)
                lead(fmt::format("seg{}", i));
            if (c.flash_pin && type->has_flash) lead("flash");
        }
    }

    void add_pixels(const std::string& ref, double lead, double segment, std::vector<Feed> feeds) {
        const lights::Group& group = *moment_.chains->group(ref);
        Strip strip;
        strip.name = lower(ref);
        strip.ref = ref;
        strip.plus = node(group.owner + ".plus");
        strip.minus = node(group.owner + ".minus");
        strip.lead = lead;
        strip.segment = segment;
        strip.pixels = group.pixels;
        strip.pixel = pixel_model(*parts_.find_as<catalogue::Pixel>(group.pixel));
        strip.feeds = std::move(feeds);
        strip.spans = shows() ? spans_of(group, strip.pixel.channels)
                              : std::vector<Span>{{0, group.pixels, {}}};
        network_.strips.push_back(std::move(strip));
        shown_.push_back(&group);
    }

    /// Strips that mirror each other show the same.
    std::vector<Span> spans_of(const lights::Group& group, int channels) const {
        for (std::size_t i = 0; i < shown_.size(); ++i)
            if (network_.strips[i].pixel.channels == channels &&
                moment_.scene.alike(*shown_[i], group))
                return network_.strips[i].spans;
        return moment_.scene.spans(group, channels);
    }

    /// A junction and its resistance between two terminals, lit for `duty` of the time.
    void add_junction(const Junction& junction, const std::string& ref, const DieModel& die,
                      const std::string& plus, const std::string& minus, double duty) {
        const std::string name = junction.name(), inner = ref + "." + name;
        resistor("_" + name + "_r", ref, Part::light, plus, inner, die.ohms);
        resistor("_" + name + "_leak", ref, Part::leak, inner, minus, leak_ohms);
        if (duty <= 0) {
            dark_.push_back(node(inner));
            return;
        }
        pulsed_.push_back({network_.diodes.size(), duty});
        network_.diodes.push_back({lower(ref) + "_" + name, ref, node(inner), node(minus),
                                   die.saturation, die.slope, die.stated, junction});
    }

    void add_led(const std::string& ref, const catalogue::Led& led, const std::string& plus,
                 const std::string& minus) {
        std::string colours;
        for (const auto& die : led.dies)
            colours += die.colour;
        const bool blade = std::any_of(job_.blades.begin(), job_.blades.end(),
                                       [&](const job::Blade& b) { return b.connector == ref; });
        for (std::size_t i = 0; i < led.dies.size(); ++i) {
            const Junction junction{Junction::Of::die,
                                    led.dies.size() == 1 ? 0 : static_cast<int>(i + 1)};
            const std::string end = minus + junction.suffix();
            if (!is_wired(end)) continue;
            const bool switched = !pad_of(job_, parts_, *moment_.wiring, end).empty();
            const double duty =
                !switched ? 1
                : shows() ? moment_.scene.die(ref, led.dies[i].colour, colours, blade)
                          : 0;
            add_junction(junction, ref, die_model(led.dies[i], led.built_in.value()), plus, end,
                         duty);
        }
    }

    /// Whether that terminal of a blade is soldered to something, or mates with a contact that is.
    [[nodiscard]] bool leads_on(const job::Blade& blade, const std::string& terminal) const {
        return is_wired(blade.ref + "." + terminal) ||
               (!blade.connector.empty() && is_wired(blade.connector + "." + terminal));
    }

    void add_string(const job::Blade& blade, const job::LedString& string) {
        const auto* type = parts_.find_as<catalogue::SegmentedString>(string.type);
        const std::string plus = blade.ref + ".plus";
        for (int i = 0; i < type->segments; ++i) {
            const Junction segment{Junction::Of::segment, i + 1};
            const std::string minus = blade.ref + "." + segment.name();
            if (!leads_on(blade, segment.name())) continue;
            const double place = (i + 0.5) / type->segments;
            add_junction(segment, string.ref,
                         die_model(type->die, type->resistor.value(), type->series, type->parallel),
                         plus, minus,
                         shows() ? moment_.scene.segment(string.ref, blade.ref, place) : 0);
        }
        if (type->has_flash && leads_on(blade, "flash"))
            add_junction({Junction::Of::flash, 0}, string.ref,
                         die_model(type->flash, type->flash_resistor.value(), type->flash_series,
                                   type->flash_parallel),
                         plus, blade.ref + ".flash", shows() ? moment_.scene.flash(string.ref, blade.ref) : 0);
    }

    void add_driver(const job::Part& part, const catalogue::Driver& driver) {
        const std::string& ref = part.ref;
        const double amps = part.chosen.current.value_or(driver.current).value();
        if (!are_wired(ref, ".in", ".out")) return;
        if (driver.method == catalogue::Driver::Method::linear) {
            resistor("_leak", ref, Part::leak, ref + ".in", ref + ".out", leak_ohms);
            network_.limiters.push_back({lower(ref), ref, node(ref + ".in"), node(ref + ".out"),
                                         amps, driver.dropout.value()});
            return;
        }
        if (!is_wired(ref + ".gnd")) return;
        Converter c = converter(ref);
        c.steps_up = driver.method == catalogue::Driver::Method::step_up;
        c.amps = shows() ? amps : 0;
        // Switched off, one that steps up cuts its LED from the supply as well.
        c.pass = shows() || !c.steps_up ? driver.pass.value() : 0;
        c.limit = 2 * driver.most.value();
        c.efficiency = driver.efficiency;
        c.least = driver.least.value();
        c.quiet = driver.quiet.value();
        network_.converters.push_back(std::move(c));
    }

    void add_regulator(const job::Part& part, const catalogue::Regulator& regulator) {
        const std::string& ref = part.ref;
        if (!are_wired(ref, ".in", ".out") || !is_wired(ref + ".gnd")) return;
        Converter c = converter(ref);
        c.steps_up = regulator.method == catalogue::Regulator::Method::step_up;
        c.switching = c.steps_up;
        c.volts = regulator.volts.value();
        c.output = regulator.output.value();
        c.pass =
            c.steps_up && !(regulator.pass > Ohm(0)) ? usual_step_up_pass : regulator.pass.value();
        c.limit = regulator.limit.value();
        c.efficiency = regulator.efficiency;
        c.least = regulator.least.value();
        c.quiet = regulator.quiet.value();
        network_.converters.push_back(std::move(c));
    }

    Converter converter(const std::string& ref) {
        resistor("_divider", ref, Part::leak, ref + ".out", ref + ".gnd", divider_ohms);
        Converter c;
        c.name = lower(ref);
        c.ref = ref;
        c.in = node(ref + ".in");
        c.gnd = node(ref + ".gnd");
        c.out = node(ref + ".out");
        return c;
    }

    void add_wire(const job::Wire& wire) {
        const Ohm ohms = wire.resistance ? *wire.resistance
                                         : Ohm(copper((wire_resistance(wire.gauge) *
                                                       moment_.runs->lengths.find(wire.ref)->second)
                                                          .value()));
        std::string at = wire.to;
        for (const hilt::Rail& rail : moment_.runs->rails) {
            if (rail.wire != wire.ref) continue;
            // Which end of the copper they stand at makes no difference to what flows.
            const std::string before = fmt::format("{}.{}", wire.ref, rail.dock);
            add_rail(rail, before, at);
            at = before;
        }
        resistor("_wire", wire.ref, Part::wire, wire.from, at, ohms.value());
    }

    void add_rail(const hilt::Rail& rail, const std::string& from, const std::string& to) {
        const job::Part& part = *job::find_ref(job_.parts, rail.dock);
        const Ohm usual = contact_of(part, *parts_.find_as<catalogue::Connector>(part.type));
        // Without a contact it is reckoned with one; a finding says there is none.
        if (rail.pins.empty()) contact(rail.dock, "none", rail.wire, from, to, usual.value());
        for (const std::string& pin : rail.pins)
            contact(rail.dock, pin, rail.wire, from, to, contact_of(part, pin, usual).value());
    }

    static constexpr double least_lead = 1e-4;
    const job::Job& job_;
    const catalogue::Catalogue& parts_;
    const Moment& moment_;
    Network network_;
    std::vector<const lights::Group*> shown_; ///< of each of its strips
    std::map<std::string, Node> nodes_;
    std::vector<Pulsed> pulsed_;
    std::vector<Node> dark_;
    std::vector<std::string> pads_on_; ///< at rest
    bool shows_at_rest_ = false;
};

} // namespace

std::string Junction::name() const {
    switch (of) {
    case Of::die:
        return "die" + suffix();
    case Of::segment:
        return "seg" + suffix();
    case Of::flash:
        break;
    }
    return "flash";
}

PixelModel pixel_model(const catalogue::Pixel& pixel) {
    PixelModel model;
    model.channels = static_cast<int>(pixel.channels.size());
    for (std::size_t c = 0; c < pixel.channels.size(); ++c) {
        model.full[c] = pixel.channels[c].full.value();
        model.on[c] = pixel.channels[c].on.value();
    }
    model.knee = pixel.knee.value();
    model.quiet = pixel.quiet.value();
    return model;
}

DieModel die_model(const catalogue::Die& die, double extra_ohms, int series, int rows) {
    DieModel m;
    const double slope = die.slope.value(), stated = die.stated.value();
    m.saturation = rows * saturation_of(die.forward.value(), stated, slope, die.series.value());
    m.slope = series * slope;
    m.stated = rows * stated;
    m.ohms = (series * die.series.value() + extra_ohms) / rows;
    return m;
}

std::string pad_of(const job::Job& job, const catalogue::Catalogue& parts,
                   const job::Wiring& wiring, const std::string& terminal) {
    const auto on_board = [&](std::string_view at) {
        const job::Part* part = job::find_ref(job.parts, job::split_terminal(at).first);
        return part && parts.find_as<catalogue::Board>(part->type);
    };
    return wiring.nearest(
        terminal, job::power_roles, job::Wiring::Through::conductors,
        [&](std::string_view at) {
            return job::split_terminal(at).second.starts_with('l') && on_board(at);
        },
        on_board);
}

Result<Network> compile(const job::Job& job, const catalogue::Catalogue& parts,
                        const Moment& moment) {
    return Compiler(job, parts, moment).run();
}

} // namespace conductus::circuit
