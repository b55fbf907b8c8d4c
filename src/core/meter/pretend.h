// SPDX-License-Identifier: GPL-3.0-or-later
// A meter, and a supply that limits its current, that are not there: they understand the commands
// of a dialect and read what a hilt would show. With ranges, noise and overload.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <string_view>

#include "core/base/random.h"
#include "core/meter/dialect.h"

namespace conductus::meter {

/// Where the probes are, and what the hilt is doing.
struct Probes {
    std::string state = "idle", from, to;
    bool turned = false;
    bool operator==(const Probes&) const = default;
};

/// The supply, where it stands in for the cell.
struct Supply {
    double volts = 4.1, limit = 0.5;
    bool on = false;
};

class Pretend {
public:
    /// What is there without noise; empty: nothing can be read there.
    using Hilt =
        std::function<std::optional<double>(job::Reads what, const Probes&, const Supply&)>;
    Pretend(Dialect dialect, Hilt hilt, std::uint64_t seed)
        : dialect_(std::move(dialect)), hilt_(std::move(hilt)), random_(seed) {}

    /// The answer to a line, without its end; empty: it has none. Commands may be small or capital,
    /// long or short. Beside the dialect's words: MEAS:VOLT?, MEAS:CURR?, MEAS:RES?; RANGE AUTO,
    /// RANGE x (V, A or ohms), SYST:ERR?; of the supply SOUR:VOLT x, SOUR:CURR x, OUTP ON, OUTP
    /// OFF, SUPP:CURR?; of the stand-in PROBES "state","from","to", TURN ON, TURN OFF.
    std::string hear(std::string_view line);
    [[nodiscard]] const Probes& probes() const { return probes_; }
    [[nodiscard]] const Supply& supply() const { return supply_; }
    [[nodiscard]] job::Reads reads() const { return reads_; }
    /// As if somebody turned its switch.
    void turn_switch(job::Reads what) { reads_ = what, range_ = 0; }

private:
    std::string value();
    Dialect dialect_;
    Hilt hilt_;
    Random random_;
    Probes probes_;
    Supply supply_;
    job::Reads reads_ = job::Reads::volts;
    double range_ = 0; ///< the largest it shows; 0: it finds that itself
    std::string error_ = "0,\"no error\"";
};

} // namespace conductus::meter
