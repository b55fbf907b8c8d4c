// SPDX-License-Identifier: GPL-3.0-or-later
// How a job arrived, what was noted on the way, and the states that are kept.
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace conductus::job {

enum class Area { mechanical, electrical, sound, lights, switches, fasteners, card };
enum class Condition { unknown, fine, worn, broken, missing };
enum class Fate { undecided, kept, replaced };
enum class ReadingUnit { none, volt, ampere, ohm, milliohm, milliampere_hour, millimetre, decibel };
enum class Mark { received, agreed, built, handed_over, came_back };

/// A picture is kept beside the document; `id` is the hash of its bytes.
struct Picture {
    std::string id;
    std::string caption;
    bool operator==(const Picture&) const = default;
};

struct Inspected {
    Area area = Area::mechanical;
    std::string item;
    Condition condition = Condition::unknown;
    std::string note;
    std::optional<double> reading;
    ReadingUnit unit = ReadingUnit::none;
    std::string part; ///< ref of the part it is about; its reading then overrides the catalogue
    Fate fate = Fate::undecided;
    std::string why; ///< kept or replaced, and why
    std::vector<Picture> pictures;
    bool operator==(const Inspected&) const = default;
};

/// A wire as it was found, before anything was changed: free words, for its parts may be unknown.
struct FoundWire {
    std::string from, to, colour, note;
    bool operator==(const FoundWire&) const = default;
};

struct Setting {
    std::string name, value;
    bool operator==(const Setting&) const = default;
};

struct AsFound {
    std::string on; ///< ISO date, may be empty
    std::vector<FoundWire> wires;
    std::vector<Setting> settings;
    bool operator==(const AsFound&) const = default;
};

struct LogEntry {
    std::string on; ///< ISO date
    std::string text;
    bool operator==(const LogEntry&) const = default;
};

/// The whole job as it stood: `kept` is the hash of the document that is kept beside this one.
struct Milestone {
    Mark mark = Mark::received;
    std::string on; ///< ISO date
    std::string note;
    std::string kept;
    bool operator==(const Milestone&) const = default;
};

} // namespace conductus::job
