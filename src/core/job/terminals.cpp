// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/terminals.h"

#include <fmt/format.h>

namespace conductus::job {

TerminalsByOwner terminals_of(const Job& job, const catalogue::Catalogue& parts) {
    TerminalsByOwner all;
    for (const Part& part : job.parts)
        if (const auto* type = parts.find(part.type)) all[part.ref] = type->terminals;
    for (const Blade& blade : job.blades) {
        all[blade.ref] = blade_terminals(blade, parts);
        for (const Strip& strip : blade.strips)
            all[strip.ref] = {"data", "out"};
    }
    return all;
}

std::vector<std::string> blade_terminals(const Blade& blade, const catalogue::Catalogue& parts) {
    std::vector<std::string> all{"plus", "minus", "data"};
    for (const LedString& string : blade.strings) {
        const auto* type = parts.find_as<catalogue::SegmentedString>(string.type);
        for (int i = 0; i < type->segments; ++i)
            all.push_back(fmt::format("seg{}", i + 1));
        if (type->has_flash) all.push_back("flash");
    }
    return all;
}

} // namespace conductus::job
