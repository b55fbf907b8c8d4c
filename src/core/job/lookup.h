// SPDX-License-Identifier: GPL-3.0-or-later
// Finding things in a job by their reference or name.
#pragma once

#include <algorithm>
#include <string_view>
#include <utility>

#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::job {

/// The element of a job's list with that ref, or null. Works on const and mutable lists.
template <class List>
auto find_ref(List& list, std::string_view ref) -> decltype(&*list.begin()) {
    const auto it = std::find_if(list.begin(), list.end(), [&](auto& e) { return e.ref == ref; });
    return it == list.end() ? nullptr : &*it;
}

template <class List>
auto find_name(List& list, std::string_view name) -> decltype(&*list.begin()) {
    const auto it = std::find_if(list.begin(), list.end(), [&](auto& e) { return e.name == name; });
    return it == list.end() ? nullptr : &*it;
}

/// A part of the job with its catalogue figures of kind T.
template <class T>
struct Fitted {
    const Part* part = nullptr;
    const catalogue::PartType* type = nullptr;
    const T* figures = nullptr;
    explicit operator bool() const { return figures != nullptr; }
};

/// The first part of kind T, in the order of the list.
template <class T>
Fitted<T> first_of(const Job& job, const catalogue::Catalogue& parts) {
    for (const Part& part : job.parts)
        if (const T* figures = parts.find_as<T>(part.type))
            return {&part, parts.find(part.type), figures};
    return {};
}

/// "B1.plus" as ref and terminal; the terminal is empty where there is no dot.
inline std::pair<std::string_view, std::string_view> split_terminal(std::string_view name) {
    const auto dot = name.find('.');
    if (dot == std::string_view::npos) return {name, {}};
    return {name.substr(0, dot), name.substr(dot + 1)};
}

/// What a resistor has: as it was measured, else as it was chosen, else the usual one of its type.
inline Ohm resistance_of(const Part& part, const catalogue::Resistor& figures) {
    return part.measured.resistance.value_or(part.chosen.resistance.value_or(figures.usual));
}

/// What a cell is held between: as it was measured, else as it was chosen, else a spring and a
/// plate; nothing for a pack or pouch, which comes with leads.
inline catalogue::Bay bay_of(const Part& part, const catalogue::Catalogue& parts) {
    catalogue::Bay bay;
    const catalogue::PartType* type = parts.find(part.type);
    if (const auto* chosen = part.bay ? parts.find_as<catalogue::Bay>(*part.bay) : nullptr)
        bay = *chosen;
    else if (type && type->body.shape != catalogue::Body::Shape::cylinder)
        bay.contacts = Ohm(0);
    bay.contacts = part.bay_measured.value_or(bay.contacts);
    return bay;
}

/// Where the segments of a blade's string are soldered to: the connector that has contacts for
/// them, else the blade itself.
inline const std::string& string_end(const Job& job, const catalogue::Catalogue& parts,
                                     const Blade& blade) {
    const Part* part = find_ref(job.parts, blade.connector);
    const auto* c = part ? parts.find_as<catalogue::Connector>(part->type) : nullptr;
    return c && c->segments > 0 ? blade.connector : blade.ref;
}

/// How long a board is idle until it falls asleep; 0: it never does.
inline Second sleep_after(const Part& part, const catalogue::Board& board) {
    return part.chosen.sleep_after.value_or(board.sleep_after);
}

} // namespace conductus::job
