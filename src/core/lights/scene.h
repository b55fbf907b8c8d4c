// SPDX-License-Identifier: GPL-3.0-or-later
// All lights of a job at one instant: which pixel shows what, by the data it hears.
#pragma once

#include <memory>
#include <optional>

#include "core/lights/chains.h"
#include "core/lights/frame.h"

namespace conductus::lights {

/// Brightest: where style and effect are most; bands as they stand after `seconds`. Even: the
/// look's style at `share` everywhere, other styles at their mean. Spread: one of a few frames that
/// have the style's mean exactly, by `spread_frame`. Instant: a frame of the film, `seconds` from
/// its start.
enum class Pace { brightest, even, spread, instant };

struct Tempo {
    Pace pace = Pace::brightest;
    double share = 1;
    int spread_frame = 0;
    double seconds = 0;
    std::uint64_t seed = 1;
    double charge = 1; ///< that a light which shows it shows
};

class Scene {
public:
    /// A scene in which everything is dark.
    Scene() = default;
    /// `job` must outlive the scene.
    Scene(const job::Job& job, std::shared_ptr<const Chains> chains, job::Look look,
          std::optional<job::Effect> effect, Tempo tempo);

    [[nodiscard]] bool dark() const { return !job_; }
    /// Spans that cover a group's pixels. Groups soldered to one line show the same data from its
    /// first pixel on; what lies beyond the programmed count stays dark.
    [[nodiscard]] std::vector<Span> spans(const Group& group, int channels) const;
    /// Whether two groups hear the same pixels of one line and are told the same of their own, so
    /// that their spans are equal.
    [[nodiscard]] bool alike(const Group& a, const Group& b) const;
    /// Duty of a die of an LED, by its colour: its channel of the look. `dies` are all colours of
    /// that LED; white alone also shows the white that red, green and blue mix. `lights_blade`:
    /// effects show on it as on a blade.
    [[nodiscard]] double die(const std::string& ref, char colour, const std::string& dies,
                             bool lights_blade) const;
    /// Duty of a segment of a blade's string, its middle at `place`.
    [[nodiscard]] double segment(const std::string& ref, const std::string& blade,
                                 double place) const;
    /// Duty of the flash row of that string of a blade.
    [[nodiscard]] double flash(const std::string& ref, const std::string& blade) const;
    /// Whether that light is told to show anything. `owner`: the blade of a strip or string.
    [[nodiscard]] bool lights_up(const std::string& ref, const std::string& owner) const;

private:
    struct Setting {
        job::Colour colour;
        job::Style style = job::Style::steady;
        double cap = 1;
        job::Colour second;
        double meets = 0.5;
        bool own = false; ///< not what the blade shows: effects usually pass it by
        bool operator==(const Setting&) const = default;
    };
    /// Who decides what a pixel of a line shows, and where on its light that pixel is.
    struct Place {
        const Group* leads = nullptr;
        double at = 0;
        Setting setting;
        const job::EffectLight* follows = nullptr; ///< what the effect says of that light
        bool whole = false; ///< one light: all of it shows what an effect does in its middle
    };
    [[nodiscard]] Setting setting_of(const std::string& light, const std::string& owner) const;
    [[nodiscard]] Place place_of(const Group& group, double index) const;
    [[nodiscard]] Duties duty_at(const Place& place, int channels) const;
    [[nodiscard]] double level_of(const Setting& setting, double at) const;
    [[nodiscard]] double second_of(const Setting& setting, double at) const;
    [[nodiscard]] Duties base_of(const Setting& setting, double at, int channels) const;
    /// What the effect says of a light; null: as usual.
    [[nodiscard]] const job::EffectLight* follows(const std::string& light,
                                                  const std::string& owner) const;
    [[nodiscard]] Cover cover_at(double place) const;

    const job::Job* job_ = nullptr;
    std::shared_ptr<const Chains> chains_;
    job::Look look_;
    std::optional<job::Effect> effect_;
    Tempo tempo_;
};

/// Lights that are given different colours though they hear the same data: "ST3", "ST1".
struct LookConflict {
    std::string light, leads;
};
std::vector<LookConflict> look_conflicts(const Chains& chains, const job::Look& look);

} // namespace conductus::lights
