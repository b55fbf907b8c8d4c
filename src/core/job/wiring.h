// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <functional>
#include <initializer_list>
#include <set>
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/catalogue/kinds.h"
#include "core/job/job.h"

namespace conductus::job {

/// Names of terminals, "B1.plus".
using Terminals = std::set<std::string, std::less<>>;

/// Which roles of wires are followed.
class Roles {
public:
    constexpr Roles(std::initializer_list<Role> roles) {
        for (const Role r : roles)
            bits_ |= bit(r);
    }
    [[nodiscard]] constexpr bool holds(Role r) const { return (bits_ & bit(r)) != 0; }

private:
    static constexpr unsigned bit(Role r) { return 1U << static_cast<unsigned>(r); }
    unsigned bits_ = 0;
};
inline constexpr Roles power_roles{Role::supply, Role::return_path};

/// A button that stands in a supply, as the switch of a light without a board does: wires of supply
/// or return are soldered to both its sides.
bool switches_power(const Job& job, const Part& button);

/// What is joined to what in a job: wires by role, and what conducts inside parts. Built once for
/// an analysis; network, nets, chains, packs, findings and drawings ask it.
class Wiring {
public:
    /// `parts` must outlive it; of the job a copy is kept of what it needs.
    Wiring(const Job& job, const catalogue::Catalogue& parts);

    /// One more wire, as if it had been there.
    void add(const Wire& wire);

    /// Something is soldered to that terminal.
    [[nodiscard]] bool is_wired(std::string_view terminal) const;
    [[nodiscard]] bool is_wired(std::string_view terminal, Roles roles) const;
    /// Nothing is soldered to any terminal of that part.
    [[nodiscard]] bool is_loose(const Part& part) const;

    /// A wire's other end.
    struct Joint {
        std::string_view to;
        Role role;
    };
    /// Every wire at a terminal, in the order of the job.
    void each_wire_at(std::string_view terminal, const std::function<void(Joint)>& visit) const;

    /// The other terminals that are joined to it inside its part, and how.
    struct Inside {
        std::string_view to;
        catalogue::Pass::Carries carries;
        catalogue::Pass::How how;
    };
    void each_across(std::string_view terminal, const std::function<void(Inside)>& visit) const;

    /// Which passes inside parts are followed.
    enum class Through {
        nothing,
        contacts,                 ///< what conducts as copper does, switches as if closed
        conductors,               ///< and what limits
        conductors_and_converters ///< and converters, from their input to their output
    };
    /// Everything reached from these terminals along wires of these roles, and through what carries
    /// such in parts.
    [[nodiscard]] Terminals reached(const std::vector<std::string>& from, Roles roles,
                                    Through through) const;

    /// The first terminal reached that `wanted` holds for, nearest first, not going beyond those
    /// that `stop` holds for; empty: none.
    [[nodiscard]] std::string nearest(const std::string& from, Roles roles, Through through,
                                      const std::function<bool(std::string_view)>& wanted,
                                      const std::function<bool(std::string_view)>& stop) const;

private:
    using Id = std::uint32_t;
    struct Link {
        Id to;
        Role role;
    };
    struct Way {
        Id to;
        catalogue::Pass::Carries carries;
        catalogue::Pass::How how;
        bool forward; ///< from `a` to `b`
    };
    struct Hash {
        using is_transparent = void;
        std::size_t operator()(std::string_view s) const {
            return std::hash<std::string_view>{}(s);
        }
    };
    Id intern(std::string_view terminal);
    [[nodiscard]] const Id* find(std::string_view terminal) const;
    /// Goes from terminal to terminal, nearest first, until `visit` says false; beyond a terminal
    /// only where `beyond` says so.
    template <class Visit, class Beyond>
    void walk(std::vector<Id> queue, Roles roles, Through through, Visit visit,
              Beyond beyond) const;
    const catalogue::Catalogue& parts_;
    std::unordered_map<std::string, Id, Hash, std::equal_to<>> ids_;
    std::vector<const std::string*> names_;
    std::vector<std::vector<Link>> links_;
    std::vector<std::vector<Way>> ways_;
};

} // namespace conductus::job
