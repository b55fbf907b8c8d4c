// SPDX-License-Identifier: GPL-3.0-or-later
// What was read, tried, found and mended at the bench.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/quantity.h"

namespace conductus::job {

/// What is read: with a meter, counted (pixels), or seen and heard (1: it is so, 0: it is not).
enum class Reads { volts, amps, ohms, pixels, decibels, seen };

/// One reading. Volts and ohms are between two terminals, "U1.bat" and "U1.gnd"; amps are those of
/// the cell, whose positive end is `from`; pixels are those of a strip, whose ref is `from`.
struct BenchReading {
    Reads what = Reads::volts;
    std::string state; ///< "idle", the name of a look or effect, "cell out", "cell out, kill open"
    std::string from, to;
    double value = 0;    ///< V, A or ohms; 1e6 ohms and more are open
    bool turned = false; ///< the least or most while something was turned
    std::string on;      ///< ISO date
    std::string source;  ///< what read it; empty: typed
    int mends = 0;       ///< faults that had been mended by then
    bool operator==(const BenchReading&) const = default;
};

/// A symptom, and of what.
struct BenchSymptom {
    std::string symptom; ///< a word of docs/job-format.md, "boots, no blade"
    std::string where;   ///< ref of a strip or light; empty: of the hilt
    int mends = 0;       ///< faults that had been mended by then
    bool operator==(const BenchSymptom&) const = default;
};

/// A step of the test plan that was tried.
struct BenchTried {
    std::string step; ///< its id, which follows from what is read where
    std::optional<double> read;
    bool fine = false; ///< what was seen is as it should be, or what was read is not out
    std::string on;    ///< ISO date
    std::string note;
    bool operator==(const BenchTried&) const = default;
};

/// A fault that was named and mended.
struct BenchMend {
    std::string fault; ///< its id, "open W5"
    std::string says;  ///< "W5 is open"
    std::string where; ///< ref of the part or wire
    std::string on;    ///< ISO date
    std::string proof; ///< the reading that proves it, in words; empty: not proved yet
    bool operator==(const BenchMend&) const = default;
};

/// A moment of a discharge.
struct DischargePoint {
    double seconds = 0, volts = 0, amps = 0; ///< at the cell's own ends or at the board
    bool operator==(const DischargePoint&) const = default;
};

/// Where the volts of a discharge were read.
enum class DischargeAt { cell, board };

/// A discharge that was logged.
struct DischargeLog {
    std::string cell; ///< ref
    DischargeAt at = DischargeAt::cell;
    std::string on;   ///< ISO date
    std::string name; ///< of the file or the instrument
    std::vector<DischargePoint> points;
    bool operator==(const DischargeLog&) const = default;
};

/// A hidden case that somebody practised on.
struct Practised {
    double seed = 0; ///< a whole number: which case
    int level = 1;
    bool right = false;
    double minutes = 0, finder = 0; ///< that it took, and that the finder takes
    std::string on;                 ///< ISO date
    bool operator==(const Practised&) const = default;
};

struct Bench {
    std::vector<BenchSymptom> symptoms;
    std::vector<BenchReading> readings; ///< in the order they were taken
    std::vector<BenchTried> tried;
    std::vector<BenchMend> mends; ///< oldest first
    std::vector<DischargeLog> discharges;
    std::string signed_on;            ///< ISO date; empty: the test plan is not signed off
    std::string signed_by;            ///< a role, "shop"
    int steps = 0;                    ///< of the test plan on the day it was signed
    std::string untried;              ///< steps that were not tried on that day, in words
    std::vector<Practised> practised; ///< oldest first
    bool operator==(const Bench&) const = default;
};

} // namespace conductus::job
