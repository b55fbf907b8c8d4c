// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/usual_parts.h"

#include <fmt/format.h>

#include "core/catalogue/kinds.h"

namespace conductus::job {

using catalogue::Body;
using catalogue::PartType;

catalogue::Die usual_die() {
    catalogue::Die die;
    die.colour = 'R';
    die.forward = Volt(2);
    die.stated = Ampere(0.02);
    die.most = Ampere(0.03);
    die.luminous = 0.28;
    return die;
}

PartType usual_type(std::size_t kind) {
    PartType type;
    type.id = "usual";
    type.name = fmt::format("{} of one's own", catalogue::kinds().at(kind).word);
    type.body = {Body::Shape::box, Millimetre(10), Millimetre(10),
                 Millimetre(10),   Millimetre(10), {}};
    type.mass = Gram(1);
    type.thermal = KelvinPerWatt(50);
    const auto make = [&]<std::size_t... I>(std::index_sequence<I...>) {
        ((I == kind ? void(type.figures.emplace<I>()) : void()), ...);
    };
    make(std::make_index_sequence<std::variant_size_v<catalogue::Figures>>());
    std::visit(
        catalogue::EachKind{
            [](catalogue::Cell& c) {
                c.size = "18650";
                c.capacity = MilliAmpereHour(3000);
                c.continuous = Ampere(10);
                c.resistance = Ohm(0.03);
            },
            [](catalogue::Protection& p) {
                p.resistance = Ohm(0.02);
                p.trip = Ampere(10);
                p.cut_off = Volt(2.5);
                p.adds = Millimetre(3);
            },
            [](catalogue::Board& b) {
                b.active = Ampere(0.06), b.idle = Ampere(0.03), b.sleep = Ampere(6e-5);
                b.pad_resistance = Ohm(0.008), b.pad_rating = Ampere(6);
                b.total_rating = Ampere(10), b.max_pixels = 400;
                b.clean_min = Volt(3), b.headroom = Volt(0.3), b.reset = Volt(2.7);
                b.cut_off = Volt(2.85);
            },
            [](catalogue::Speaker& s) { s.impedance = Ohm(8), s.power = Watt(2); },
            [](catalogue::Kill& k) { k.contact = Ohm(0.02), k.rating = Ampere(5); },
            [](catalogue::Button&) {},
            [](catalogue::Connector& c) { c.pin_resistance = Ohm(0.03), c.pin_rating = Ampere(3); },
            [](catalogue::Pixel& p) {
                p.channels.resize(3);
                for (std::size_t i = 0; i < 3; ++i) {
                    p.channels[i].colour = "RGB"[i];
                    p.channels[i].full = Ampere(0.012);
                    p.channels[i].on = Volt(i == 0 ? 1.95 : 2.9);
                }
                p.knee = Volt(0.45), p.quiet = Ampere(0.0008);
            },
            [](catalogue::Strip& s) {
                s.pixel = "pixel.rgb-5050", s.density = PerMetre(144);
                s.rail = OhmPerMetre(0.33), s.width = Millimetre(10);
            },
            [](catalogue::Spacer&) {},
            [](catalogue::PixelGroup& g) { g.pixel = "pixel.rgb-5050"; },
            [](catalogue::Led& l) { l.dies = {usual_die()}; },
            [](catalogue::SegmentedString& s) { s.die = s.flash = usual_die(); },
            [](catalogue::Resistor& r) { r.usual = Ohm(100), r.power = Watt(0.25); },
            [](catalogue::Driver& d) {
                d.current = Ampere(1), d.most = Ampere(1.5), d.dropout = Volt(0.15);
                d.pass = Ohm(0.1), d.efficiency = 0.9;
            },
            [](catalogue::Regulator& r) {
                r.volts = Volt(3.3), r.output = Ohm(0.02), r.pass = Ohm(0.3);
                r.limit = Ampere(1), r.efficiency = 0.9;
            },
            [](catalogue::Fuse& f) {
                f.resistance = Ohm(0.01), f.hold = Ampere(7.5), f.trip = Ampere(10);
            },
            [](catalogue::Display&) {},
            [](catalogue::Shifter&) {},
            [](catalogue::Port& p) { p.rating = Ampere(2); },
            [](catalogue::Adapter& a) { a.takes = "18350", a.bay = "18650"; },
            [](catalogue::Bay&) {},
            [](catalogue::Charger& c) { c.current = Ampere(1); },
            [](catalogue::Jack& j) { j.rating = Ampere(2); },
        },
        type.figures);
    return type;
}

void complete(PartType& type) {
    const auto body = [](auto& b) {
        const Millimetre some = b.diameter > Millimetre(0) ? b.diameter
                                : b.width > Millimetre(0)  ? b.width
                                                           : Millimetre(5);
        if (!(b.diameter > Millimetre(0))) b.diameter = some;
        if (!(b.width > Millimetre(0))) b.width = some;
        if (!(b.height > Millimetre(0))) b.height = some;
    };
    body(type.body);
    if (type.body.shape == Body::Shape::compound && type.body.pieces.empty()) {
        catalogue::BodyPiece piece;
        piece.length = type.body.length;
        type.body.pieces.push_back(piece);
    }
    for (auto& piece : type.body.pieces)
        body(piece);
    const auto usual = usual_type(type.figures.index());
    const auto fill = [](auto& value, const auto& from) {
        if (!(value.value() > 0)) value = from;
    };
    if (auto* driver = std::get_if<catalogue::Driver>(&type.figures)) {
        const auto& from = std::get<catalogue::Driver>(usual.figures);
        fill(driver->dropout, from.dropout);
        if (!(driver->pass.value() > 0)) driver->efficiency = from.efficiency;
        fill(driver->pass, from.pass);
    }
    if (auto* regulator = std::get_if<catalogue::Regulator>(&type.figures))
        fill(regulator->pass, regulator->method == catalogue::Regulator::Method::step_up
                                  ? Ohm(0.05)
                                  : std::get<catalogue::Regulator>(usual.figures).pass);
    if (auto* string = std::get_if<catalogue::SegmentedString>(&type.figures))
        if (!(string->flash.forward > Volt(0))) string->flash = string->die;
    if (auto* connector = std::get_if<catalogue::Connector>(&type.figures)) {
        if (connector->pixel.empty()) connector->pixels = 0;
        if (!connector->pixel.empty() && connector->pixels == 0) connector->pixels = 1;
    }
}

void tidy(PartType& type) {
    const auto body = [](auto& b) {
        if (b.shape != Body::Shape::cylinder) b.diameter = {};
        if (b.shape != Body::Shape::box) b.width = b.height = {};
    };
    body(type.body);
    if (type.body.shape != Body::Shape::compound) type.body.pieces.clear();
    for (auto& piece : type.body.pieces)
        body(piece);
    if (auto* driver = std::get_if<catalogue::Driver>(&type.figures)) {
        const catalogue::Driver none;
        if (driver->method == catalogue::Driver::Method::linear) {
            driver->pass = none.pass, driver->efficiency = none.efficiency;
            driver->quiet = none.quiet, driver->least = none.least;
        } else {
            driver->dropout = none.dropout;
        }
    }
    if (auto* regulator = std::get_if<catalogue::Regulator>(&type.figures)) {
        const catalogue::Regulator none;
        if (regulator->method == catalogue::Regulator::Method::low_drop)
            regulator->efficiency = none.efficiency, regulator->least = none.least;
    }
    if (auto* string = std::get_if<catalogue::SegmentedString>(&type.figures))
        if (!string->has_flash) {
            const catalogue::SegmentedString none;
            string->flash_series = none.flash_series, string->flash_parallel = none.flash_parallel;
            string->flash = none.flash, string->flash_resistor = none.flash_resistor;
        }
}

} // namespace conductus::job
