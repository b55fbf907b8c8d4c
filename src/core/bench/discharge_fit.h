// SPDX-License-Identifier: GPL-3.0-or-later
// What a logged discharge says of the cell, and of what lies between the cell and the board:
// docs/models.md, "Discharge record".
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "core/base/message.h"
#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "core/job/edit.h"
#include "core/job/job.h"

namespace conductus::bench {

/// A value that was found, with its 95 % interval; what the log can not tell is as planned.
struct FoundFigure {
    double value = 0, low = 0, high = 0, planned = 0;
    bool determined = false;
    /// The interval does not hold what was planned.
    [[nodiscard]] bool differs() const { return determined && (planned < low || planned > high); }
};

struct DischargeFit {
    FoundFigure capacity;   ///< mAh
    FoundFigure resistance; ///< ohm, of the cell with what protects it, at 25 °C
    FoundFigure path;       ///< ohm between the cell and the board, both ways; 0 at the cell
    FoundFigure charge;     ///< at its start, 0 to 1
    double taken = 0;       ///< mAh that the log took out
    double residual_mV = 0; ///< rms
    std::vector<std::array<double, 2>> measured, fitted, planned; ///< s and V
    std::vector<Message> says;                                    ///< what differs, in words
};

/// `planned_path`: ohms between cell and board as planned; of a log at the cell 0. Errors: fewer
/// than five moments; times that go back; no current that says anything; the cell is not fitted.
Result<DischargeFit> fit_discharge(const job::DischargeLog& log, const job::Job& job,
                                   const catalogue::Catalogue& parts, double planned_path);

/// What was found becomes the cell's measured values.
job::Edit take_discharge(const job::DischargeLog& log, const DischargeFit& fit);

/// As many moments as a job keeps of a log: those that part the curve most evenly, first and last
/// among them.
std::vector<job::DischargePoint> thinned(std::vector<job::DischargePoint> points,
                                         std::size_t most = 600);
/// A log more in the job; one of the same name takes the place of the other.
job::Edit keep_discharge(job::DischargeLog log);
job::Edit drop_discharge(std::size_t index);

} // namespace conductus::bench
