// SPDX-License-Identifier: GPL-3.0-or-later
// What a meter would read at a hilt, whole or with faults in it. docs/models.md, "Fault finding".
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "core/circuit/network.h"
#include "core/circuit/solver.h"
#include "core/job/job.h"

namespace conductus::diagnose {

using Quantity = job::Reads;
/// "V", "A", "Ohm", "pixels", "dB" or "seen".
const char* unit_of(Quantity quantity);

/// Both have the cell out: for ohms.
inline constexpr const char *cell_out = "cell out", *kill_open = "cell out, kill open";
/// The cell in the hand, plus to minus: how far it is charged.
inline constexpr const char* by_itself = "cell by itself";

/// As the network calls the node of a terminal, or the resistor of a wire: "u1_bat", "w3".
std::string node_name(const std::string& terminal);

/// One reading that could be taken. Volts and ohms are between two terminals, "U1.bat" and
/// "U1.gnd"; amps are those of the cells, `from` its positive end and `to` empty; pixels are those
/// of a strip, `from` its ref, that are seen to be lit.
struct Measure {
    Quantity what = Quantity::volts;
    std::string state; ///< as power::state_named() has it, cell_out or kill_open
    std::string from, to;
    bool operator==(const Measure&) const = default;
};

/// What a person tells in the craft's words.
enum class Symptom {
    nothing_at_all,   ///< no light, no sound
    no_blade,         ///< it boots, no blade lights
    dead_after_pixel, ///< a blade is dark from a pixel on
    flickers_turned,  ///< it flickers when something is turned
    wrong_colours,
    crackles_early,
    button_dead,
    buttons_swapped,
    lit_while_off,
    hot,
    resets_at_clash,
    does_not_kill, ///< the kill is open and it is on
    silent,
    dark, ///< that strip or light
    dim   ///< that strip or light, far less than it should be
};

/// A symptom, and of what: the ref of a strip or light where it is of one; empty: of the hilt.
struct Sight {
    Symptom symptom = Symptom::nothing_at_all;
    std::string where;
    bool operator==(const Sight&) const = default;
};

/// A change of the network, in the names that it has there.
struct Alteration {
    enum class Kind {
        ohms,        ///< of a resistor: set
        more_ohms,   ///< of a resistor: added
        bridge,      ///< between two terminals
        emf,         ///< of a source: times
        source_ohms, ///< of a source: times
        dark_from    ///< of a strip: from that pixel on
    };
    Kind kind = Kind::ohms;
    std::string name;  ///< of the device; of a bridge one terminal
    std::string other; ///< of a bridge
    double value = 0;
};

/// A thing that is wrong, and what it does.
struct Fault {
    std::string id;    ///< "open W5", as a command line names it
    std::string where; ///< ref of the part or wire
    Message says;      ///< "W5 is open"
    double prior = 1;  ///< how common it is against others
    std::vector<Alteration> does;
    /// It is there only while something is turned: at rest all reads as if it were not.
    bool turned = false;
    std::string signal;      ///< a data, button or sound wire that is interrupted or crossed
    std::vector<Sight> seen; ///< that follow from it by itself, whatever the network does
};

/// Scales of one build within its tolerances; empty: as in the catalogue.
struct Draw {
    std::map<std::string, double> ohms;   ///< of resistors by name: times
    double cell_ohms = 1, cell_volts = 0; ///< times; volts of each source more
    double pixels = 1, board = 1;         ///< currents, times
};

/// One standard deviation of a resistor of that kind within a build's tolerances, as a share.
double tolerance_of(circuit::Part part);
/// The same of cells (of their ohms, and in volts), of pixels' and of a board's current.
inline constexpr double cell_ohms_off = 0.15, cell_volts_off = 0.015, pixels_off = 0.05,
                        board_current_off = 0.08;

/// The networks of a job in the states that are measured, solved with faults and tolerances. Not
/// for several threads at once.
class World {
public:
    /// `parts` must outlive it; the job is copied. `charge`: of the cells, 0 to 1.
    World(const job::Job& job, const catalogue::Catalogue& parts, double charge = 1);
    [[nodiscard]] double charge() const { return charge_; }

    /// What the meter reads; empty: the state can not be solved, or a terminal is in no network.
    /// Ohms above a million are a million: open. Readings "turned" are with faults of that kind.
    std::optional<double> read(const Measure& measure, const std::vector<const Fault*>& faults,
                               const Draw& draw = {}, bool turned = false);
    /// Contacts that open the load: of a kill, or of a jack that a plug opens.
    struct Opening {
        std::string ref, in, out; ///< terminals "K1.in"
    };
    std::vector<Opening> openings();
    /// Whether there is such a reading at this hilt. Error: the state or the point that there is
    /// not, with those that there are.
    Result<void> check(const Measure& measure);
    /// One standard deviation of what sound builds read there, to first order in every tolerance;
    /// of ohms the same. 0: nothing can be read there.
    double spread(const Measure& measure);
    /// Amps through that light in a state, with a fault in the hilt or none; 0: it is dark, or the
    /// state can not be solved.
    double light(const std::string& state, const std::string& light, const Fault* fault = nullptr);
    /// How likely a symptom is there with faults of that kind, 0 to 1: what needs a larger one than
    /// the usual is there with those that are large enough.
    double likely_seen(const Sight& sight, const std::vector<const Fault*>& faults);
    /// Whether a symptom is there with those very faults.
    bool shows(const Sight& sight, const std::vector<const Fault*>& faults);
    /// Whether with those faults a cell would burn something in that state: more current than twice
    /// what any state of the whole hilt draws and 3 A more, or a board the wrong way round.
    bool burns(const std::string& state, const std::vector<const Fault*>& faults);
    /// Whether the cells feed anything: the board, or of a hilt without one a light.
    bool is_fed();
    /// Everything that could be seen at this hilt.
    std::vector<Sight> sights();
    /// Whether a strip or light is of a blade; of one that is lit from the hilt all are.
    [[nodiscard]] bool is_of_blade(const std::string& light) const;

    [[nodiscard]] const job::Job& job() const { return job_; }
    [[nodiscard]] const catalogue::Catalogue& parts() const { return *parts_; }
    /// The state in which it is lit as in its use, and the effect that asks for most.
    [[nodiscard]] const std::string& lit() const { return lit_; }
    [[nodiscard]] const std::string& flash() const { return flash_; }
    /// The network of a state; null: it can not be made.
    const circuit::Network* network(const std::string& state);
    /// The terminals that a network's nodes are called after.
    [[nodiscard]] std::optional<circuit::Node> node(const circuit::Network& network,
                                                    const std::string& terminal) const;

private:
    struct Solved {
        circuit::Network network;
        circuit::OperatingPoint point;
        bool board_off = false;
    };
    std::optional<Solved> solved(const std::string& state, const std::vector<const Fault*>& faults,
                                 const Draw& draw, bool turned);
    /// Volts of a cell by itself.
    std::optional<double> in_the_hand(const Measure& measure,
                                      const std::vector<const Fault*>& faults, const Draw& draw);
    std::optional<double> ohms(const Measure& measure, const std::vector<const Fault*>& faults,
                               const Draw& draw, bool turned, double* spread = nullptr);
    /// A state as built; empty: it can not be solved.
    const std::optional<Solved>& sound(const std::string& state);
    std::map<std::string, std::optional<Solved>> sound_;
    [[nodiscard]] double board_volts(const Solved& s) const;
    /// Whether any light is lit, or any of the blades'.
    [[nodiscard]] bool any_lit(const Solved& s, bool of_blades = false) const;
    /// Of a strip or light, as its current goes.
    static double light_of(const Solved& s, const std::string& light);
    /// "A1", or "LS1.seg3" where it is one of several.
    static std::string light_named(const circuit::Diode& diode);
    [[nodiscard]] std::optional<double> value_of(const Solved& s, const Measure& measure) const;
    /// A state as built, and with each figure off by one standard deviation.
    struct Shifted {
        std::optional<Solved> sound;
        std::vector<Solved> moved;
    };
    const Shifted& shifted(const std::string& state);
    std::map<std::string, Shifted> shifted_;
    job::Job job_;
    const catalogue::Catalogue* parts_;
    std::map<std::string, std::optional<circuit::Network>> networks_;
    std::map<std::string, circuit::Guess> guesses_;
    std::string lit_, flash_, board_;
    double reset_ = 0, clean_ = 0, most_amps_ = -1, charge_ = 1;
};

} // namespace conductus::diagnose
