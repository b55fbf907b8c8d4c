// SPDX-License-Identifier: GPL-3.0-or-later
// Which fault it is: likelihood of everything that was read and seen, and the reading that would
// tell most for a minute of work. docs/models.md, "Fault finding".
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/diagnose/faults.h"

namespace conductus::diagnose {

struct Reading {
    Measure measure;
    double value = 0;    ///< V, A or ohms
    bool turned = false; ///< the least or most while it was turned
};

/// One or two faults together, nothing, or something that the finder does not know.
struct Hypothesis {
    std::vector<std::size_t> faults; ///< indices of Finder::faults(); empty: nothing is wrong
    double p = 0;
    bool unknown = false; ///< it is none of the faults that there are
};

struct Next {
    std::size_t candidate = 0; ///< index of Finder::candidates()
    bool turned = false;
    double minutes = 0;
    double bits = 0; ///< that entropy is expected to fall by
    /// The cell is likely enough to burn something there: a supply that limits its current feeds
    /// the hilt instead, which is in `minutes`.
    bool limited = false;
};

class Finder {
public:
    /// `parts` must outlive it. `charge`: of the cells, 0 to 1, when it is read.
    Finder(const job::Job& job, const catalogue::Catalogue& parts, double charge = 1);

    void tell(const Sight& sight);
    void read(const Reading& reading);
    /// All of it at once, weighed once.
    void take(const std::vector<Sight>& told, const std::vector<Reading>& readings);

    /// The likeliest first; together they are certain. Every pair of faults is weighed; the
    /// likeliest are solved together, of the others what each changes is added.
    [[nodiscard]] const std::vector<Hypothesis>& hypotheses() const { return hypotheses_; }
    /// The best first, readings that were taken left out; empty: nothing tells anything more.
    [[nodiscard]] std::vector<Next> next(std::size_t most = 5);

    [[nodiscard]] const std::vector<Sight>& sights() const { return sights_; }
    [[nodiscard]] const std::vector<Fault>& faults() const { return faults_; }
    [[nodiscard]] const std::vector<Candidate>& candidates() const { return candidates_; }
    [[nodiscard]] Message says(const Hypothesis& h) const;
    /// What would be read with that hypothesis, and how far that may be off (one standard
    /// deviation, of the build's tolerances, the instrument and the touch of the probes).
    struct Expected {
        double value = 0, sigma = 0;
    };
    std::optional<Expected> expected(const Measure& measure, const Hypothesis& h, bool turned);
    World& world() { return world_; }

    /// What is read there with no fault and with each.
    struct Column {
        Measure measure;
        bool turned = false;
        std::vector<std::optional<double>> values; ///< of no fault and of each
        double spread = 0;                         ///< of the sound build, tolerances alone
    };
    Column column(const Measure& measure, bool turned);
    /// Of a candidate.
    [[nodiscard]] const Column& column_of(std::size_t candidate) const {
        return columns_[candidate];
    }
    /// Whether that is seen with a fault alone.
    [[nodiscard]] bool shows(std::size_t fault, const Sight& sight) const;
    /// Whether the cell would burn something in that state with a fault alone.
    bool burns(std::size_t fault, const std::string& state);

private:
    struct Pair {
        std::size_t one = 0, two = 0;
        double log_p = 0;
    };
    /// Those that could be, the likeliest first.
    std::vector<Pair> pairs(double sum_priors) const;
    [[nodiscard]] double of_symptoms(const std::vector<double>& one,
                                     const std::vector<double>* two = nullptr) const;
    void weigh();
    /// What goes without saying beside what was told: of a blade that is dark nobody tells each
    /// strip.
    void mark_implied();
    void keep(const Reading& reading);
    /// One standard deviation of a reading that should be that, ohms by their logarithm.
    [[nodiscard]] double sigma_of(const Column& column, double predicted) const;
    /// Logarithms of how likely a reading is: against the best it could be, and as a density.
    [[nodiscard]] double likelihood(const Column& column, double value,
                                    const std::optional<double>& predicted) const;
    [[nodiscard]] double score(const Column& column, double value, double predicted) const;
    std::optional<double> both(const Column& column, std::size_t a, std::size_t b);
    std::optional<double> predicted(const Column& column, const std::vector<std::size_t>& faults);
    World world_;
    std::vector<Fault> faults_;
    std::vector<Candidate> candidates_;
    std::vector<Column> columns_; ///< of the candidates, and those in which a turn shows something
    std::vector<std::vector<double>> seen_; ///< of no fault and of each: how likely each symptom is
    std::vector<Sight> sights_, told_;
    std::vector<char> is_told_, is_implied_; ///< of sights_
    std::vector<std::pair<Column, double>> taken_;
    std::vector<Hypothesis> hypotheses_;
    /// Of pairs that were solved together: what was taken, in its order.
    std::map<std::pair<std::size_t, std::size_t>, std::vector<std::optional<double>>> pair_values_;
    std::map<std::pair<std::size_t, std::string>, bool> burns_;
};

/// A number as an instrument with that much noise shows it: what it adds to a reading, one standard
/// deviation.
double instrument_sigma(Quantity quantity, double value);

/// Builds of a job within its tolerances: standard deviations of wires 8 %, contacts 25 %, pads and
/// protection 15 %, cells 15 % and 15 mV, pixels 5 %, boards 8 %.
Draw drawn(World& world, unsigned long long seed);

/// Symptoms as they are told: "boots, no blade", "dim ST3".
std::string_view word(Symptom symptom);
std::string told(const Sight& sight);
/// The same read, in whatever of the craft's words; empty: it is none of these.
std::optional<Sight> sight_named(std::string_view words);

} // namespace conductus::diagnose
