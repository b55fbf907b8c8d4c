// SPDX-License-Identifier: GPL-3.0-or-later
// The words that stand for the enumerations in files, on the command line and in findings.
#pragma once

#include <array>
#include <optional>
#include <string_view>
#include <utility>

#include "core/job/job.h"

namespace conductus::job {

template <class E>
struct Words;

template <class E, std::size_t N>
using WordTable = std::array<std::pair<E, std::string_view>, N>;

template <>
struct Words<Kind> {
    static constexpr WordTable<Kind, 3> table{
        {{Kind::conversion, "conversion"}, {Kind::repair, "repair"}, {Kind::upgrade, "upgrade"}}};
};
template <>
struct Words<Stage> {
    static constexpr WordTable<Stage, 6> table{{{Stage::brief, "brief"},
                                                {Stage::survey, "survey"},
                                                {Stage::agreed, "agreed"},
                                                {Stage::wiring, "wiring"},
                                                {Stage::bench, "on the bench"},
                                                {Stage::handed_over, "handed over"}}};
};
template <>
struct Words<End> {
    static constexpr WordTable<End, 2> table{{{End::pommel, "pommel"}, {End::emitter, "emitter"}}};
};
template <>
struct Words<Chassis> {
    static constexpr WordTable<Chassis, 3> table{{{Chassis::fixed, "fixed"},
                                                  {Chassis::removable, "removable"},
                                                  {Chassis::slide_out, "slide-out"}}};
};
template <>
struct Words<CellTop> {
    static constexpr WordTable<CellTop, 2> table{
        {{CellTop::flat, "flat"}, {CellTop::button, "button"}}};
};
template <>
struct Words<Style> {
    static constexpr WordTable<Style, 5> table{{{Style::steady, "steady"},
                                                {Style::pulse, "pulse"},
                                                {Style::flicker, "flicker"},
                                                {Style::fire, "fire"},
                                                {Style::bands, "bands"}}};
};
template <>
struct Words<Role> {
    static constexpr WordTable<Role, 5> table{{{Role::supply, "supply"},
                                               {Role::ground, "return"},
                                               {Role::data, "data"},
                                               {Role::button, "button"},
                                               {Role::sound, "sound"}}};
};

template <class E>
constexpr std::string_view word(E value) {
    for (const auto& [e, w] : Words<E>::table)
        if (e == value) return w;
    return {};
}

template <class E>
constexpr std::optional<E> from_word(std::string_view text) {
    for (const auto& [e, w] : Words<E>::table)
        if (w == text) return e;
    return std::nullopt;
}

} // namespace conductus::job
