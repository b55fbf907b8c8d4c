// SPDX-License-Identifier: GPL-3.0-or-later
// The fields of a part of the catalogue, once: name with unit, member, range. Visitors read, write
// and describe part types through it, as they do jobs through core/job/fields.h.
#pragma once

#include <algorithm>
#include <fmt/format.h>

#include "core/catalogue/kinds.h"
#include "core/job/fields.h"
#include "core/job/words.h"

namespace conductus::catalogue {
using job::Either;
using job::limits::Range;
inline constexpr Range size_mm{0.1, 2000}, positive{1e-9, 1e6}, zero_or_more{0, 1e6},
    count{0, 100000};

} // namespace conductus::catalogue

namespace conductus::job {

template <>
struct Words<catalogue::Body::Shape> {
    static constexpr WordTable<catalogue::Body::Shape, 3> table{
        {{catalogue::Body::Shape::cylinder, "cylinder"},
         {catalogue::Body::Shape::box, "box"},
         {catalogue::Body::Shape::compound, "compound"}}};
};
template <>
struct Words<catalogue::Board::NameCase> {
    using C = catalogue::Board::NameCase;
    static constexpr WordTable<C, 3> table{
        {{C::any, "any"}, {C::lower, "small letters"}, {C::upper, "capitals"}}};
};
template <>
struct Words<catalogue::Board::Edge> {
    static constexpr WordTable<catalogue::Board::Edge, 5> table{
        {{catalogue::Board::Edge::none, "none"},
         {catalogue::Board::Edge::start, "start"},
         {catalogue::Board::Edge::end, "end"},
         {catalogue::Board::Edge::side, "side"},
         {catalogue::Board::Edge::face, "face"}}};
};
template <>
struct Words<catalogue::Cell::Balancing> {
    static constexpr WordTable<catalogue::Cell::Balancing, 4> table{
        {{catalogue::Cell::Balancing::unsaid, "not said"},
         {catalogue::Cell::Balancing::none, "none"},
         {catalogue::Cell::Balancing::lead, "a lead for the charger"},
         {catalogue::Cell::Balancing::inside, "inside"}}};
};
template <>
struct Words<catalogue::Kill::Method> {
    static constexpr WordTable<catalogue::Kill::Method, 2> table{
        {{catalogue::Kill::Method::slide_switch, "switch"},
         {catalogue::Kill::Method::plug, "plug"}}};
};
template <>
struct Words<catalogue::Button::Action> {
    static constexpr WordTable<catalogue::Button::Action, 2> table{
        {{catalogue::Button::Action::momentary, "momentary"},
         {catalogue::Button::Action::latching, "latching"}}};
};

template <>
struct Words<catalogue::Pixel::Order> {
    static constexpr WordTable<catalogue::Pixel::Order, 3> table{
        {{catalogue::Pixel::Order::green_first, "green first"},
         {catalogue::Pixel::Order::red_first, "red first"},
         {catalogue::Pixel::Order::blue_first, "blue first"}}};
};
template <>
struct Words<catalogue::Driver::Method> {
    static constexpr WordTable<catalogue::Driver::Method, 3> table{
        {{catalogue::Driver::Method::linear, "linear"},
         {catalogue::Driver::Method::step_down, "step-down"},
         {catalogue::Driver::Method::step_up, "step-up"}}};
};
template <>
struct Words<catalogue::Regulator::Method> {
    static constexpr WordTable<catalogue::Regulator::Method, 2> table{
        {{catalogue::Regulator::Method::low_drop, "low-drop"},
         {catalogue::Regulator::Method::step_up, "step-up"}}};
};

} // namespace conductus::job

namespace conductus::catalogue {

template <class V, Either<BodyPiece> T>
void describe(V& v, T& p) {
    v.word("shape", p.shape);
    v.number("from_mm", p.from, zero_or_more);
    v.number("length_mm", p.length, size_mm);
    v.usual_number("up_mm", p.up, {-100, 100});
    v.usual_number("side_mm", p.side, {-100, 100});
    if (p.shape == Body::Shape::cylinder) {
        v.number("diameter_mm", p.diameter, size_mm);
    } else {
        v.number("width_mm", p.width, size_mm);
        v.number("height_mm", p.height, size_mm);
    }
    if (p.shape == Body::Shape::compound)
        v.invalid("shape", "a piece of a compound is a cylinder or a box", "Write one of them");
}

template <class V, Either<Body> T>
void describe(V& v, T& b) {
    v.word("shape", b.shape);
    v.number("length_mm", b.length, size_mm);
    if (b.shape == Body::Shape::compound) {
        v.list("pieces", b.pieces);
        if (b.pieces.empty())
            v.invalid("pieces", "a compound has no pieces", "Describe at least one");
        for (const BodyPiece& p : b.pieces)
            if (p.from + p.length > b.length + Millimetre(1e-9))
                v.invalid("pieces", "a piece is longer than the body", "Make the body longer");
    } else if (b.shape == Body::Shape::cylinder) {
        v.number("diameter_mm", b.diameter, size_mm);
    } else {
        v.number("width_mm", b.width, size_mm);
        v.number("height_mm", b.height, size_mm);
    }
}

template <class V, Either<ByCharge> T>
void describe(V& v, T& b) {
    v.number("charge", b.charge, {0, 1});
    v.number("times", b.times, {0.05, 50});
}

template <class V, Either<Cell> T>
void describe(V& v, T& c) {
    v.text("size", c.size);
    v.number("capacity_mAh", c.capacity, positive);
    v.number("continuous_A", c.continuous, positive);
    v.number("resistance_Ohm", c.resistance, positive);
    v.usual_integer("series", c.series, {1, 8});
    v.usual_number("charge_A", c.charge, zero_or_more);
    v.usual_word("balancing", c.balancing);
    v.optional_list("by_charge", c.by_charge);
    v.usual_number("quick_share", c.lag.quick_share, {0, 20});
    v.usual_number("slow_share", c.lag.slow_share, {0, 20});
    v.usual_number("quick_s", c.lag.quick, {0.05, 2000});
    v.usual_number("slow_s", c.lag.slow, {1, 20000});
    for (std::size_t i = 1; i < c.by_charge.size(); ++i)
        if (!(c.by_charge[i].charge > c.by_charge[i - 1].charge))
            v.invalid("by_charge", "the charges do not rise", "Begin with the emptiest");
}

template <class V, Either<Protection> T>
void describe(V& v, T& p) {
    v.number("resistance_Ohm", p.resistance, zero_or_more);
    v.number("trip_A", p.trip, positive);
    v.number("cut_off_V", p.cut_off, positive);
    v.number("adds_mm", p.adds, zero_or_more);
    v.usual_number("trip_after_s", p.trip_after, positive);
}

template <class V, Either<Adapter> T>
void describe(V& v, T& a) {
    v.text("takes", a.takes);
    v.text("bay", a.bay);
    v.number("contacts_Ohm", a.contacts, zero_or_more);
}

template <class V, Either<Bay> T>
void describe(V& v, T& b) {
    v.number("contacts_Ohm", b.contacts, positive);
    v.number("rating_A", b.rating, positive);
    v.usual_number("worn_Ohm", b.worn, zero_or_more);
    v.usual_integer("changes", b.changes, count);
    if (b.worn > Ohm(0) && b.worn < b.contacts)
        v.invalid("worn_Ohm", "worn contacts have less than new ones",
                  "Give what they have when they are due");
}

template <class V, Either<Charger> T>
void describe(V& v, T& c) {
    v.flag("in_hilt", c.in_hilt);
    v.number("current_A", c.current, positive);
    v.integer("cells", c.cells, {1, 8});
    v.flag("balances", c.balances);
    v.usual_number("gives_up_s", c.gives_up, positive);
}

template <class V, Either<OrderDriven> T>
void describe(V& v, T& o) {
    v.word("order", o.order);
}

template <class V, Either<SoundKind> T>
void describe(V& v, T& s) {
    v.text("kind", s.kind);
    v.text("begins", s.begins);
}

template <class V, Either<Board> T>
void describe(V& v, T& b) {
    v.number("active_A", b.active, zero_or_more);
    v.number("idle_A", b.idle, zero_or_more);
    v.number("sleep_A", b.sleep, positive);
    v.number("pad_resistance_Ohm", b.pad_resistance, zero_or_more);
    v.number("pad_rating_A", b.pad_rating, positive);
    v.number("total_rating_A", b.total_rating, positive);
    v.integer("max_pixels", b.max_pixels, count);
    v.number("clean_min_V", b.clean_min, positive);
    v.flag("boosted_rail", b.boosted);
    v.number("headroom_V", b.headroom, zero_or_more);
    v.number("amplifier_efficiency", b.amplifier_efficiency, {0.1, 1});
    v.number("reset_V", b.reset, positive);
    v.number("cut_off_V", b.cut_off, positive);
    v.usual_number("most_V", b.most, positive);
    v.usual_number("logic_V", b.logic, zero_or_more);
    v.usual_integer("max_lights", b.max_lights, count);
    v.usual_number("capacitor_F", b.capacitor, zero_or_more);
    v.usual_number("rail_V", b.rail, positive);
    v.usual_number("sleep_after_s", b.sleep_after, {0, 86400});
    v.usual_integer("pixel_channels", b.channels, {3, 4});
    v.optional_list("colour_orders", b.orders);
    v.usual_integer("most_buttons", b.most_buttons, count);
    v.usual_integer("most_presets", b.most_presets, count);
    v.usual_integer("name_length", b.name_length, count);
    v.usual_word("name_case", b.name_case);
    v.usual_text("name_letters", b.name_letters);
    v.usual_text("fonts_in", b.fonts_in);
    v.usual_text("tracks_in", b.tracks_in);
    v.optional_list("sounds", b.sounds);
    v.usual_integer("sound_rate_Hz", b.sound_rate, count);
    v.usual_integer("sound_bits", b.sound_bits, count);
    v.usual_integer("sound_channels", b.sound_channels, count);
    v.usual_flag("senses_blade", b.senses_blade);
    v.usual_word("card_edge", b.card);
    v.usual_word("port_edge", b.port);
}

template <class V, Either<Speaker> T>
void describe(V& v, T& s) {
    v.number("impedance_Ohm", s.impedance, positive);
    v.number("power_W", s.power, positive);
    v.usual_number("sensitivity_dB", s.sensitivity, {0, 120});
}

template <class V, Either<Spacer> T>
void describe(V& v, T& s) {
    v.flag("closed", s.closed);
}

template <class V, Either<Kill> T>
void describe(V& v, T& k) {
    v.word("method", k.method);
    v.number("contact_Ohm", k.contact, zero_or_more);
    v.number("rating_A", k.rating, positive);
    v.usual_number("plug_mm", k.plug, zero_or_more);
    v.usual_number("opens_mm", k.opens, zero_or_more);
}

/// The one letter of a channel or die.
template <class V, Either<char> T>
void colour_letter(V& v, T& colour) {
    std::string text(1, colour);
    v.text("colour", text);
    if constexpr (!std::is_const_v<T>) colour = text.size() == 1 ? text[0] : '?';
    if (text.size() != 1 || std::string_view("RGBW").find(text[0]) == std::string_view::npos)
        v.invalid("colour", "'" + text + "' is not a colour of a die", "Write R, G, B or W");
}

template <class V, Either<Die> T>
void describe(V& v, T& d) {
    colour_letter(v, d.colour);
    v.number("forward_V", d.forward, positive);
    v.number("stated_A", d.stated, positive);
    v.number("most_A", d.most, positive);
    v.usual_number("slope_V", d.slope, {0.02, 2});
    v.usual_number("series_Ohm", d.series, zero_or_more);
    v.number("luminous", d.luminous, zero_or_more);
    if (!(d.forward > d.stated * d.series))
        v.invalid("series_Ohm", "all of its voltage would be lost in its resistance",
                  "Make it smaller");
}

template <class V, Either<Led> T>
void describe(V& v, T& l) {
    v.list("dies", l.dies);
    v.usual_number("built_in_Ohm", l.built_in, zero_or_more);
    v.usual_number("junction_K_per_W", l.junction, zero_or_more);
    v.usual_number("hottest_die_degC", l.hottest_die, {40, 250});
    v.usual_number("light_share", l.light_share, {0, 0.9});
    if (l.dies.empty() || l.dies.size() > 4)
        v.invalid("dies", "an LED has one to four dies", "List each with its colour");
}

template <class V, Either<SegmentedString> T>
void describe(V& v, T& s) {
    v.integer("segments", s.segments, {1, 16});
    v.integer("series", s.series, {1, 12});
    v.integer("parallel", s.parallel, {1, 200});
    v.object("die", s.die);
    v.usual_number("resistor_Ohm", s.resistor, zero_or_more);
    v.flag("has_flash", s.has_flash);
    if (!s.has_flash) return;
    v.integer("flash_series", s.flash_series, {1, 12});
    v.integer("flash_parallel", s.flash_parallel, {1, 200});
    v.object("flash", s.flash);
    v.usual_number("flash_resistor_Ohm", s.flash_resistor, zero_or_more);
}

template <class V, Either<Resistor> T>
void describe(V& v, T& r) {
    v.number("usual_Ohm", r.usual, positive);
    v.number("power_W", r.power, positive);
}

template <class V, Either<Driver> T>
void describe(V& v, T& d) {
    v.word("method", d.method);
    v.number("current_A", d.current, positive);
    v.number("most_A", d.most, positive);
    if (d.method == Driver::Method::linear) {
        v.number("dropout_V", d.dropout, positive);
        return;
    }
    v.number("pass_Ohm", d.pass, positive);
    v.number("efficiency", d.efficiency, {0.1, 1});
    v.number("quiet_A", d.quiet, zero_or_more);
    v.number("least_V", d.least, zero_or_more);
}

template <class V, Either<Regulator> T>
void describe(V& v, T& r) {
    v.word("method", r.method);
    v.number("volts_V", r.volts, positive);
    v.number("output_Ohm", r.output, positive);
    v.number("limit_A", r.limit, positive);
    v.number("quiet_A", r.quiet, zero_or_more);
    if (r.method == Regulator::Method::low_drop) {
        v.number("pass_Ohm", r.pass, positive);
        return;
    }
    v.number("efficiency", r.efficiency, {0.1, 1});
    v.number("least_V", r.least, zero_or_more);
    v.usual_number("pass_Ohm", r.pass, zero_or_more);
}

template <class V, Either<Fuse> T>
void describe(V& v, T& f) {
    v.number("resistance_Ohm", f.resistance, positive);
    v.number("hold_A", f.hold, positive);
    v.number("trip_A", f.trip, positive);
    v.flag("resettable", f.resettable);
    v.usual_number("warms_s", f.warms, {0, 600});
}

template <class V, Either<Display> T>
void describe(V& v, T& d) {
    v.number("lit_A", d.lit, zero_or_more);
    v.number("dark_A", d.dark, zero_or_more);
}

template <class V, Either<Shifter> T>
void describe(V& v, T& s) {
    v.number("quiet_A", s.quiet, zero_or_more);
}

template <class V, Either<Button> T>
void describe(V& v, T& b) {
    v.word("action", b.action);
    v.optional_object("light", b.light);
}

template <class V, Either<Port> T>
void describe(V& v, T& p) {
    v.number("rating_A", p.rating, positive);
    v.optional_object("light", p.light);
    v.usual_flag("configures", p.configures);
    v.usual_number("plug_mm", p.plug, zero_or_more);
}

template <class V, Either<Jack> T>
void describe(V& v, T& j) {
    v.number("rating_A", j.rating, positive);
    v.number("contact_Ohm", j.contact, zero_or_more);
    v.usual_number("plug_mm", j.plug, zero_or_more);
    v.usual_number("opens_mm", j.opens, zero_or_more);
}

template <class V, Either<Connector> T>
void describe(V& v, T& c) {
    v.integer("plus_pins", c.plus_pins, {1, 32});
    v.integer("minus_pins", c.minus_pins, {1, 32});
    v.integer("data_pins", c.data_pins, {0, 32});
    v.number("pin_resistance_Ohm", c.pin_resistance, zero_or_more);
    v.number("pin_rating_A", c.pin_rating, positive);
    v.usual_integer("segment_pins", c.segments, {0, 16});
    v.usual_flag("flash_pin", c.flash_pin);
    v.usual_flag("keyed", c.keyed);
    v.usual_text("insertion", c.insertion);
    v.usual_number("travel_mm", c.travel, zero_or_more);
    v.usual_number("pitch_mm", c.pitch, zero_or_more);
    v.usual_text("pixel", c.pixel);
    v.usual_integer("pixels", c.pixels, count);
    if (c.pixel.empty() != (c.pixels == 0))
        v.invalid("pixels", "a lit connector has a pixel class and a count", "Give both");
}

template <class V, Either<Channel> T>
void describe(V& v, T& c) {
    colour_letter(v, c.colour);
    v.number("full_A", c.full, positive);
    v.number("on_V", c.on, positive);
    v.number("luminous", c.luminous, zero_or_more);
}

template <class V, Either<Pixel> T>
void describe(V& v, T& p) {
    v.list("channels", p.channels);
    v.number("knee_V", p.knee, positive);
    v.number("quiet_A", p.quiet, zero_or_more);
    v.usual_number("most_V", p.most, positive);
    v.usual_word("colour_order", p.order);
    if (p.channels.empty() || p.channels.size() > 4)
        v.invalid("channels", "a pixel has one to four channels", "List them in the order R G B W");
}

template <class V, Either<PixelGroup> T>
void describe(V& v, T& g) {
    v.text("pixel", g.pixel);
    v.integer("count", g.count, {1, 1000});
    v.usual_number("segment_Ohm", g.segment, zero_or_more);
}

template <class V, Either<Strip> T>
void describe(V& v, T& s) {
    v.text("pixel", s.pixel);
    v.number("density_per_m", s.density, positive);
    v.number("rail_Ohm_per_m", s.rail, positive);
    v.number("width_mm", s.width, size_mm);
}

/// A visitor that reads a part from nothing says so: the kind's word tells it which figures there
/// are. All others are given a part that has its figures.
template <class V>
concept MakesPart = requires {
    requires V::makes;
};

/// The figures of the kind at place I of Figures, where that is the one.
template <std::size_t I, class V, Either<Figures> T>
bool figures_at(V& v, const std::string& kind, T& figures) {
    if (kind != kinds()[I].key) return false;
    if constexpr (!std::is_const_v<T>)
        if (figures.index() != I) figures.template emplace<I>();
    v.object(kinds()[I].key.data(), std::get<I>(figures));
    return true;
}

template <class V, Either<Figures> T, std::size_t... I>
bool any_figures(V& v, const std::string& kind, T& figures, std::index_sequence<I...>) {
    return (figures_at<I>(v, kind, figures) || ...);
}

/// "cell, protection … or charger"
inline std::string all_keys() {
    std::string all;
    for (std::size_t i = 0; i < kinds().size(); ++i)
        all += fmt::format("{}{}",
                           i == 0                    ? ""
                           : i + 1 == kinds().size() ? " or "
                                                     : ", ",
                           kinds()[i].key);
    return all;
}

template <class V, Either<PartType> T>
void describe(V& v, T& p) {
    std::string kind(MakesPart<V> ? std::string_view() : kind_of(p.figures).key);
    v.text("id", p.id);
    v.text("kind", kind);
    v.text("name", p.name);
    v.object("body", p.body);
    v.number("mass_g", p.mass, zero_or_more);
    v.number("thermal_K_per_W", p.thermal, positive);
    v.usual_number("price", p.price, zero_or_more);
    v.list("terminals", p.terminals);
    // Wires name them: "U1.bat".
    for (std::size_t i = 0; i < p.terminals.size(); ++i) {
        const std::string& name = p.terminals[i];
        if (name.empty() || std::any_of(name.begin(), name.end(), [](char c) {
                return c == ' ' || c == '.' || c == '/' || static_cast<unsigned char>(c) < 32;
            }))
            v.invalid("terminals", "a terminal is called '" + name + "'",
                      "Its name has letters, and no space, point or stroke");
        else if (std::find(p.terminals.begin(), p.terminals.begin() + std::ptrdiff_t(i), name) !=
                 p.terminals.begin() + std::ptrdiff_t(i))
            v.invalid("terminals", "two terminals are called '" + name + "'",
                      "Give each a name of its own");
    }
    const auto each = std::make_index_sequence<std::variant_size_v<Figures>>();
    if (!any_figures(v, kind, p.figures, each))
        v.invalid("kind", "'" + kind + "' is not a kind of part", "Write " + all_keys());
}

} // namespace conductus::catalogue
