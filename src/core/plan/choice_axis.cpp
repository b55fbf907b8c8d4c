// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/choices.h"

namespace conductus::plan {

double value_of(const Choice& c, Axis axis) {
    switch (axis) {
    case Axis::clean:
        return c.clean.value();
    case Axis::margin:
        return c.margin.value();
    case Axis::light:
        return c.light;
    case Axis::loudness:
        return c.loudness;
    case Axis::clearance:
        return c.clearance.value();
    case Axis::mass:
        return c.mass.value();
    case Axis::price:
        return c.price;
    case Axis::spares:
        return c.spares;
    }
    return 0;
}

bool more_is_better(Axis axis) {
    return axis == Axis::clean || axis == Axis::margin || axis == Axis::light ||
           axis == Axis::loudness || axis == Axis::clearance;
}

std::string_view word(Axis axis) {
    switch (axis) {
    case Axis::clean:
        return "clean runtime";
    case Axis::margin:
        return "crackle margin";
    case Axis::light:
        return "light";
    case Axis::loudness:
        return "loudness";
    case Axis::clearance:
        return "clearance";
    case Axis::mass:
        return "mass";
    case Axis::price:
        return "price";
    case Axis::spares:
        return "spares a day";
    }
    return {};
}

std::string_view unit_of(Axis axis) {
    switch (axis) {
    case Axis::clean:
        return "min";
    case Axis::margin:
        return "V";
    case Axis::light:
        return "%";
    case Axis::loudness:
        return "dB";
    case Axis::clearance:
        return "mm";
    case Axis::mass:
        return "g";
    case Axis::price:
        return "EUR";
    case Axis::spares:
        return "";
    }
    return {};
}

} // namespace conductus::plan
