// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/discharge_csv.h"

#include <fmt/format.h>

#include "files/csv.h"

namespace conductus::files {

std::string discharge_csv(const power::Day& day) {
    std::string csv = csv_record({"time_s", "state", "charge", "ocv_V", "cell_V", "board_V",
                                  "audio_V", "pixel_V", "tip", "amps_A", "temperature_degC",
                                  "taken_mAh", "drawn_J", "loads_J", "losses_J", "mark"});
    std::size_t next = 0; // mark to tell
    for (const power::DaySample& s : day.samples) {
        std::string marks;
        for (; next < day.marks.size() && day.marks[next].at <= s.at; ++next) {
            const power::DayMark& m = day.marks[next];
            marks +=
                fmt::format("{}{}: {}", marks.empty() ? "" : "; ", power::word(m.kind), m.event);
        }
        auto number = [](double v) { return fmt::format("{}", v); };
        csv += csv_record(
            {number(s.at.value()), std::string(s.shows), number(s.charge), number(s.open.value()),
             number(s.cell.value()), number(s.board.value()), number(s.audio.value()),
             number(s.pixel.value()), number(s.tip), number(s.amps.value()),
             number(s.warmth.value()), number(s.tally.charge / 3.6), number(s.tally.drawn),
             number(s.tally.loads()), number(s.tally.resistance + s.tally.polarisation), marks});
    }
    return csv;
}

} // namespace conductus::files
