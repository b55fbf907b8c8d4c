// SPDX-License-Identifier: GPL-3.0-or-later
// What copper joins, whatever a wire is called, and how many cells' volts stand where.
// docs/models.md, "Polarity and shorts".
#pragma once

#include <map>
#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::harness {

/// The copper of a job in one state of its contacts. A short does not ask what a wire is meant
/// for, so wires of every role count; a resistor below a tenth of an ohm counts as copper.
class Levels {
public:
    /// Which contacts are closed. At rest kills, fuses and jacks are, buttons and pads are not.
    struct Closed {
        bool kills = true, jacks = true, fuses = true;
        bool pads = false;             ///< the transistors of the boards' pads conduct
        std::set<std::string> buttons; ///< refs of those that are pressed or latched
        std::string but;               ///< ref of one contact that is open all the same
    };
    /// A closed way round at least one cell whose volts do not cancel.
    struct Short {
        std::vector<std::string> cells;    ///< refs, in the order of the job
        std::vector<std::string> wires;    ///< refs, along the way
        std::vector<std::string> contacts; ///< refs of kills, fuses, jacks, buttons and boards
        int row = 1;                       ///< volts of the way round, in cells
    };

    /// `parts` must hold every type of the job.
    Levels(const job::Job& job, const catalogue::Catalogue& parts, const Closed& closed);
    Levels(const job::Job& job, const catalogue::Catalogue& parts) : Levels(job, parts, Closed{}) {}

    /// Each cell that is in one, once.
    [[nodiscard]] const std::vector<Short>& shorts() const { return shorts_; }
    /// Cells above the lowest copper that it is joined to; nothing: no copper joins it to a cell.
    [[nodiscard]] std::optional<int> level(std::string_view terminal) const;
    /// Whether copper joins all cells to one pack, so that levels can be compared.
    [[nodiscard]] bool one_pack() const { return islands_ <= 1; }
    /// The highest level there is.
    [[nodiscard]] int top() const { return top_; }
    /// Reached from the highest level through copper, what limits, and converters.
    [[nodiscard]] bool on_plus(std::string_view terminal) const;
    /// Reached from the lowest level through copper, what limits, and pads.
    [[nodiscard]] bool on_minus(std::string_view terminal) const;
    /// What stands there against the lowest level, in cells: of copper, or of what reaches it
    /// through what limits. Nothing: no pole reaches it.
    [[nodiscard]] std::optional<double> stands_at(std::string_view terminal) const;
    /// Copper joins the two.
    [[nodiscard]] bool joined(std::string_view a, std::string_view b) const;
    /// Refs of the wires along the shortest way of copper; empty: none joins them, or no wire is
    /// needed.
    [[nodiscard]] std::vector<std::string> way(std::string_view a, std::string_view b) const;
    /// Every terminal that copper joins to this one, itself included.
    [[nodiscard]] std::vector<std::string> island(std::string_view terminal) const;

private:
    using Id = std::size_t;
    enum class Kind { wire, contact, joint, cell, limits, converts, pad };
    struct Edge {
        Id to;
        Kind kind;
        int volts = 0;     ///< gained on the way, in cells
        bool back = false; ///< against the way a converter gives
        std::string ref;
    };
    struct Step {
        Id from = 0;
        const Edge* by = nullptr;
        int level = 0;
    };
    Id id(std::string_view terminal);
    [[nodiscard]] const Id* find(std::string_view terminal) const;
    void join(const std::string& a, const std::string& b, Kind kind, const std::string& ref,
              int volts = 0);
    static bool copper(Kind kind) { return kind <= Kind::joint; }
    /// From `from`, copper first and then through cells: how each terminal is reached.
    [[nodiscard]] std::map<Id, Step> reach(Id from, std::string_view but_cell,
                                           bool through_cells) const;
    void find_shorts(const std::vector<std::string>& cells, const std::map<std::string, int>& rows);
    void set_levels(const std::vector<std::string>& cells);
    void spread(bool plus, std::vector<bool>& mark) const;
    void spread_middle();

    std::map<std::string, Id, std::less<>> ids_;
    std::vector<std::string> names_;
    std::vector<std::vector<Edge>> edges_;
    std::vector<std::optional<int>> levels_;
    std::vector<bool> plus_, minus_;
    std::vector<int> middle_; ///< the level between that reaches it through what limits; 0: none
    std::vector<Short> shorts_;
    int top_ = 0, islands_ = 0;
};

} // namespace conductus::harness
