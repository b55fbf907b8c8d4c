// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/checklist.h"

#include <algorithm>

namespace conductus::job {
namespace {

constexpr unsigned conversion = 1, repair = 2, upgrade = 4, wired = repair | upgrade,
                   every = conversion | wired;

struct Item {
    unsigned kinds;
    Area area;
    const char* name;
    ReadingUnit unit = ReadingUnit::none;
};

constexpr Item items[] = {
    {every, Area::mechanical, "Hilt body: dents, cracks, finish"},
    {every, Area::mechanical, "Sections unscrew; hand of each thread"},
    {every, Area::mechanical, "Bore free of burrs and swarf"},
    {every, Area::mechanical, "Blade socket: depth, step, wear", ReadingUnit::millimetre},
    {wired, Area::mechanical, "Chassis: cracks, rattle, comes out freely"},
    {conversion, Area::mechanical, "Room for a chassis: nothing cast or glued in"},
    {repair, Area::mechanical, "Trouble as the owner tells it, seen again"},
    {wired, Area::electrical, "Cell: dents, swelling, wrap"},
    {wired, Area::electrical, "Cell: volts at rest", ReadingUnit::volt},
    {wired, Area::electrical, "Cell: resistance", ReadingUnit::milliohm},
    {wired, Area::electrical, "Cell: capacity", ReadingUnit::milliampere_hour},
    {wired, Area::electrical, "Which pad goes where, drawn up before anything is cut"},
    {wired, Area::electrical, "Joints and insulation"},
    {wired, Area::electrical, "Draw while off", ReadingUnit::ampere},
    {wired, Area::electrical, "Hilt connector: pins straight, spring, clean",
     ReadingUnit::milliohm},
    {wired, Area::electrical, "Charging: jack or port"},
    {conversion, Area::electrical, "Whatever is in it already"},
    {wired, Area::sound, "Speaker: cone, seat, buzz", ReadingUnit::ohm},
    {wired, Area::sound, "Boot sound and loudness", ReadingUnit::decibel},
    {every, Area::sound, "Vents: open, where"},
    {wired, Area::lights, "Blade: every pixel, each colour"},
    {wired, Area::lights, "Accents"},
    {wired, Area::lights, "Light in the hilt and its optic"},
    {conversion, Area::lights, "Windows and lenses: colour, clear or not"},
    {every, Area::switches, "Main button: travel, sticks"},
    {wired, Area::switches, "Button mode: one, two or three"},
    {wired, Area::switches, "Kill: does it open?", ReadingUnit::milliohm},
    {conversion, Area::switches, "Holes for button, kill and port", ReadingUnit::millimetre},
    {every, Area::fasteners, "Retention screw: thread, key, bite"},
    {every, Area::fasteners, "Other screws: seized, chewed, missing"},
    {wired, Area::fasteners, "Screw that holds the connector"},
    {wired, Area::card, "Card is readable; copy taken"},
    {wired, Area::card, "Fonts and tracks the presets name are there"},
    {wired, Area::card, "Configuration matches the wiring"},
};

} // namespace

std::vector<Inspected> checklist(Kind kind) {
    const unsigned bit = kind == Kind::conversion ? conversion
                         : kind == Kind::repair   ? repair
                                                  : upgrade;
    std::vector<Inspected> list;
    for (const Item& item : items)
        if (item.kinds & bit) {
            Inspected one;
            one.area = item.area;
            one.item = item.name;
            one.unit = item.unit;
            list.push_back(std::move(one));
        }
    return list;
}

bool untouched(const Inspected& i) {
    return i.condition == Condition::unknown && i.note.empty() && !i.reading &&
           i.fate == Fate::undecided && i.why.empty() && i.part.empty() && i.pictures.empty();
}

void follow_checklist(Job& job) {
    auto& now = job.inspection;
    auto take = [&](const std::string& item) -> std::vector<Inspected>::iterator {
        return std::find_if(now.begin(), now.end(), [&](auto& i) { return i.item == item; });
    };
    std::vector<Inspected> next = checklist(job.kind);
    for (Inspected& wanted : next)
        if (const auto it = take(wanted.item); it != now.end()) {
            wanted = std::move(*it);
            now.erase(it);
        }
    auto on_some_list = [](const Inspected& i) {
        return std::any_of(std::begin(items), std::end(items),
                           [&](const Item& item) { return i.item == item.name; });
    };
    for (Inspected& left : now)
        if (!untouched(left) || !on_some_list(left)) next.push_back(std::move(left));
    now = std::move(next);
}

} // namespace conductus::job
