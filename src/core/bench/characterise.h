// SPDX-License-Identifier: GPL-3.0-or-later
// A part characterised from readings that a bench can take: docs/models.md, "Measured parts".
#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/message.h"
#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"

namespace conductus::bench {

/// What is measured.
enum class Specimen { strip, pixel, cell, contact, led, board };

/// Words that name one: strip, pixel, cell, led, board; contact, switch, wire, spring and the kinds
/// of parts that are contacts.
std::optional<Specimen> specimen_named(std::string_view word);
/// What a part is measured as; nothing: its figures are not found from readings.
std::optional<Specimen> specimen_of(const catalogue::PartType& type);
/// The words there are, for help.
std::vector<std::string> specimen_words();
std::string_view word(Specimen specimen);

/// One line that was read off the meters.
struct Reading {
    std::string condition; ///< strips: the colour lit; boards: idle, active or asleep
    std::optional<double> seconds;
    std::optional<double> volts;  ///< across it; of a strip at its foot
    std::optional<double> amps;   ///< through it; out of a cell
    std::optional<double> tip;    ///< volts at a strip's last pixel
    std::optional<double> charge; ///< of a cell, 0 to 1
    std::size_t line = 0;         ///< where it was read, for messages; 0: nowhere
};

struct Readings {
    std::vector<Reading> rows;
    std::optional<int> pixels;    ///< of the strip
    std::optional<double> metres; ///< of the strip or the wire
};

/// What it was found to be.
struct Found {
    std::string name;         ///< "full current, red"
    double value = 0;         ///< in `unit`
    std::string unit;         ///< SI or as the catalogue has it: A, V, Ohm, Ohm/m, mAh, s
    bool determined = true;   ///< else: the class's
    double low = 0, high = 0; ///< 95 %; of what was determined
};

/// Readings and model over each other.
struct Series {
    std::string label; ///< "red"
    std::vector<std::array<double, 2>> measured, model;
};
struct Overlay {
    Message across, up; ///< "volts at the foot, V"
    std::vector<Series> series;
};

struct Characterised {
    Specimen specimen = Specimen::contact;
    std::vector<Found> parameters;
    double residual_mV = 0; ///< rms; a misfit of amps counts as the same share of the volts
    int readings = 0, spare = 0;
    std::vector<Message> notes; ///< what could not be determined, what does not agree
    Overlay overlay;
    [[nodiscard]] const Found* find(std::string_view name) const;
};

/// The values that fit the readings best. `like`: id of the part of the catalogue whose class it
/// is, which gives what can not be determined; empty: the usual one of its kind. Errors: too few
/// readings to determine anything; readings that contradict each other or the model by far, with
/// the line that does so most.
Result<Characterised> characterise(Specimen specimen, const Readings& readings,
                                   const catalogue::Catalogue& parts, const std::string& like = {});

/// "red" of 'R'; the white die of a four-colour pixel is "white die".
std::string_view colour_word(char channel);

/// The id that stands for `like` where none is said.
std::string usual_like(Specimen specimen, const Readings& readings,
                       const catalogue::Catalogue& parts);

/// Part types with those figures in place of `like`'s, ids and names still `like`'s; of a strip its
/// pixel class comes first. What it is made of must be of the kind that was measured.
std::vector<catalogue::PartType> with_found(const catalogue::PartType& like,
                                            const Characterised& found,
                                            const catalogue::Catalogue& parts);

} // namespace conductus::bench
