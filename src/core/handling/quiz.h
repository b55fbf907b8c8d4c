// SPDX-License-Identifier: GPL-3.0-or-later
// Which command is asked for next when somebody learns a map by heart: what fails is asked again
// sooner, what is known later and later.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/job/edit.h"
#include "core/job/handling.h"

namespace conductus::handling {

class Quiz {
public:
    /// `who`: the person's part in it. What they did before begins it: what they failed most comes
    /// first, then what they never did. The same seed asks in the same order. `map` must outlive
    /// it.
    Quiz(const job::Handling& map, std::string who, unsigned seed);

    /// The command that is asked for; empty: the map has none.
    [[nodiscard]] std::optional<std::size_t> asked() const;
    /// What came of it, and how long it took, s. The next one is asked for.
    void answered(bool right, double seconds);

    [[nodiscard]] int right() const { return right_; }
    [[nodiscard]] int wrong() const { return wrong_; }
    /// Commands that were right the latest time they were asked for.
    [[nodiscard]] std::size_t known() const;

    /// What was rehearsed before, with what was answered now.
    [[nodiscard]] std::vector<job::Rehearsed> results(const std::string& on) const {
        return results(on, map_.rehearsed);
    }
    /// The same where more was kept since the quiz began: `before` is what is kept now.
    [[nodiscard]] std::vector<job::Rehearsed> results(const std::string& on,
                                                      std::vector<job::Rehearsed> before) const;

private:
    struct Card {
        std::size_t command = 0;
        int due = 0;      ///< number of the question from which on it may come again
        int interval = 0; ///< questions until it comes again after the latest answer
        int right = 0, wrong = 0;
        double took = 0;
        bool known = false;
        unsigned order = 0; ///< among those that are due alike
    };
    void ask();
    const job::Handling& map_;
    std::string who_;
    std::vector<Card> cards_;
    std::optional<std::size_t> now_;
    int number_ = 0, right_ = 0, wrong_ = 0;
};

/// Keeps what was rehearsed.
job::Edit keep_learned(std::vector<job::Rehearsed> results);

/// How well a map is known by each of those who rehearsed it: "owner: 9 of 12 right".
struct Learned {
    std::string who;
    std::size_t right = 0, of = 0; ///< commands that were right more often than wrong
    std::string on;                ///< ISO date of the latest time
};
std::vector<Learned> learned(const job::Handling& map);

} // namespace conductus::handling
