// SPDX-License-Identifier: GPL-3.0-or-later
// What the bench of a job says by now: every reading against its band, what it may be, what to read
// next and what each outcome would mean.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "core/diagnose/band.h"
#include "core/job/edit.h"

namespace conductus::diagnose {

/// How far the cell is charged, 0 to 1, by the latest reading of the cell by itself; where there is
/// none by the latest one across the supply while nothing is lit, where that is under what a full
/// cell shows. 1 where there is neither, or where it says that the cell is nearly empty.
double charge_told(const job::Job& job, const catalogue::Catalogue& parts);
/// The readings that it may go by: where they are the same, so is the charge.
std::vector<job::BenchReading> readings_of_charge(const job::Bench& bench);

/// Ohms between the cell's own ends and the board, both ways together, as planned.
double path_ohms(World& world);

struct Diagnosis {
    /// Something that it may be.
    struct May {
        Message says;
        std::string id, where; ///< of its fault or both, "open W5 + worn K1"; empty: none
        double p = 0;
        double before = 0; ///< before the last reading
        Message mend;      ///< what to do about it
        bool unknown = false;
        std::vector<std::size_t> faults;
    };
    /// A reading that was taken, with the band of a sound build.
    struct Row : Band {
        std::size_t reading = 0; ///< index of the bench's readings
        Message words, state;
        std::string value; ///< in words
        double read = 0;
        Verdict verdict = Verdict::untried; ///< untried: nothing is known to judge it by
        bool earlier = false;               ///< it was taken before the latest mend
        [[nodiscard]] bool known() const { return verdict != Verdict::untried; }
    };
    struct Outcome {
        Message when, means; ///< "about 187 mV", "P1.plus has a worn spring"
        Message then;        ///< what would be read next; empty: it would be sure enough to name it
        double p = 0;
    };
    /// A reading to come, with the band of a sound build.
    struct Then : Band {
        Measure measure;
        bool turned = false, limited = false;
        double minutes = 0, bits = 0;
        Message words, state;
        std::vector<Outcome> outcomes;
    };
    std::vector<May> may; ///< the likeliest first, those under one in a thousand left out
    std::vector<Row> rows;
    std::vector<Then> next; ///< the best first
    /// The reading that proves the latest mend, until it was taken.
    std::optional<Then> proof;
    std::vector<Sight> sights; ///< all that could be seen at this hilt
    std::vector<Sight> told;
    bool anything = false; ///< something was told or read since the latest mend
    double charge = 1;     ///< of the cell, that the bands and all else are worked out with
    Message charge_words;  ///< "with a full cell", "with the cell at 52 %"
};

/// `fresh` has told and read nothing, and is of the same job.
Diagnosis diagnosed(const Finder& fresh, const job::Bench& bench);

job::Edit tell_symptom(const Sight& sight);
job::Edit untell_symptom(const Sight& sight);
/// Error: a value that is none, a state or point that the reading lacks.
job::Edit add_reading(job::BenchReading reading);
job::Edit drop_reading(std::size_t index);
/// It was that, and it is mended: what was told and read before stays as history, and counts no
/// more. A proof is asked for.
job::Edit mend(const Diagnosis::May& found, std::string on);
/// The latest mend is proved.
job::Edit prove(std::string words);
/// Begins a new search: all that was told and read is taken away.
job::Edit clear_bench();

/// A reading that says what one part or wire is by itself.
struct Found {
    std::string ref;
    Message words;  ///< "W3 has 70 mΩ"
    job::Edit take; ///< it becomes that part's measured value
};
/// Empty: it is of several parts, or too coarse for what it is of: a reading of 20 mΩ that is good
/// to 20 mΩ says nothing.
std::optional<Found> found_by(const Finder& fresh, const job::BenchReading& reading);

} // namespace conductus::diagnose
