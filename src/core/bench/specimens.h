// SPDX-License-Identifier: GPL-3.0-or-later
// One search a specimen, and what they share. Of core/bench alone.
#pragma once

#include <cmath>

#include "core/bench/characterise.h"
#include "core/bench/least_squares.h"

namespace conductus::bench {

/// What meters of the usual class are uncertain by, 1 σ.
inline double volts_sigma(double volts) { return 0.0007 + 0.0005 * std::abs(volts); }
inline double amps_sigma(double amps) { return 0.0005 + 0.003 * std::abs(amps); }

/// An unknown with what it is called.
struct Named {
    Unknown unknown;
    std::string name, unit;
    bool known = false; ///< its start's value is what it is: it is no finding
};

/// The search with names, and how the misfit is said.
struct Asked {
    std::vector<Named> unknowns;
    Residuals residuals;
    std::vector<double> sigma;
    std::vector<int> group;
    std::vector<std::size_t> line;  ///< of each residual, for messages
    std::vector<double> millivolts; ///< a residual's unit in mV
    std::vector<double> whole;      ///< what is measured, in the residual's unit
};
/// Fills parameters, residual and notes. Errors: nothing determined, contradiction.
/// `values`: of every unknown, to draw the model with.
Result<Characterised> solved(Specimen specimen, const Asked& asked, std::vector<double>& values);

Result<Characterised> of_strip(Specimen specimen, const Readings& readings,
                               const catalogue::PartType& like, const catalogue::Catalogue& parts);
Result<Characterised> of_cell(const Readings& readings, const catalogue::Cell& like);

/// "line 7", or the number of the reading where it was read nowhere.
Message where_read(const Reading& reading, std::size_t number);

} // namespace conductus::bench
