// SPDX-License-Identifier: GPL-3.0-or-later
// A hilt that is played: it is in a state, hears what the person does, and goes where that leads.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "core/handling/gestures.h"
#include "core/job/job.h"

namespace conductus::handling {

/// What came of something that was done, or of waiting.
struct Said {
    enum class Kind { understood, several, nothing, left };
    Kind kind = Kind::nothing;
    std::vector<std::size_t> commands; ///< one that was understood; several, that it could mean
    double late = 0;                   ///< s after the last that was done for it
    std::string state;                 ///< that the hilt is in then
};

class Player {
public:
    /// In the first state, with the first preset, the blade in. `job` must outlive it.
    explicit Player(const job::Job& job);

    /// Begins in that state, with that preset where it is one of the job's: as if the person had
    /// been led there.
    void begin_in(const std::string& state, const std::string& preset, double at);
    /// How the blade is held, and whether it is in.
    void hold(job::Attitude attitude, bool blade_in);
    /// Something is done at a time that never goes back, s.
    std::vector<Said> hear(const Event& event);
    std::vector<Said> wait_until(double at);
    /// When something will happen by itself; empty: never.
    [[nodiscard]] std::optional<double> due() const;

    [[nodiscard]] const std::string& state() const { return state_; }
    /// Name of the preset that is shown; empty: the job has none.
    [[nodiscard]] std::string preset() const;

private:
    void listen();
    void enter(const std::string& state, double at);
    void take(const std::vector<Understood>& all, std::vector<Said>& said);
    [[nodiscard]] std::optional<double> limit() const;

    const job::Job& job_;
    std::string state_;
    std::size_t preset_ = 0;
    Circumstance now_;
    bool answered_ = false; ///< what is still down was understood already
    double since_ = 0;      ///< when the state was entered, or something was last understood in it
    std::unique_ptr<Listener> listener_;
};

} // namespace conductus::handling
