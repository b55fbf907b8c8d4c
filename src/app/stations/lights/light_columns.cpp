// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/light_columns.h"

#include <fmt/format.h>

#include "app/session/words.h"
#include "core/catalogue/kinds.h"
#include "core/job/places.h"

namespace conductus::app {

std::vector<std::string> lights_of(const job::Job& job, const catalogue::Catalogue& parts,
                                   bool stretches) {
    std::vector<std::string> all;
    for (const job::Part& part : job.parts) {
        const auto* type = parts.find(part.type);
        if (type && (catalogue::pixels_in(type->figures) || catalogue::led_in(type->figures)))
            all.push_back(part.ref);
    }
    for (const job::Blade& blade : job.blades)
        if (job.blades.size() > 1 && !(blade.strips.empty() && blade.strings.empty()))
            all.push_back(blade.ref);
    for (const job::Blade& blade : job.blades) {
        for (const job::Strip& strip : blade.strips)
            all.push_back(strip.ref);
        for (const job::LedString& string : blade.strings)
            all.push_back(string.ref);
    }
    if (stretches)
        for (const job::Stretch& s : job.stretches)
            all.push_back(s.name);
    return all;
}

Result<double> share_typed(const std::string& typed) {
    if (typed.empty()) return 0.0;
    const auto percent = job::number_typed(typed, "%", {0, 100});
    if (!percent) return tl::unexpected(percent.error());
    return *percent / 100;
}

QString share_text(double share) { return words(fmt::format("{:.10g}", share * 100)); }

} // namespace conductus::app
