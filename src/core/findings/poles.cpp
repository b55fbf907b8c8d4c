// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/findings/poles.h"

#include <algorithm>
#include <fmt/format.h>

#include "core/catalogue/kinds.h"
#include "core/job/lookup.h"

namespace conductus::findings {
namespace {

void of_part(const job::Part& part, const catalogue::PartType& type, std::vector<Poles>& all) {
    using namespace catalogue;
    const std::string& r = part.ref;
    const std::string word(kind_of(type.figures).word);
    const auto add = [&](const char* plus, const std::string& minus, const std::string& as) {
        all.push_back({r, r + plus, r + minus, as, false, false});
    };
    const auto light = [&](const Led& led) {
        if (!led.dies.empty()) add(".led_plus", ".led_minus", "light in it");
    };
    std::visit(EachKind{[](const auto&) {},
                        [&](const Board&) {
                            add(".bat", ".gnd", word);
                            all.back().board = true;
                        },
                        [&](const Button& f) { light(f.light); },
                        [&](const Connector&) { add(".plus", ".minus", word); },
                        [&](const Pixel&) { add(".plus", ".minus", word); },
                        [&](const PixelGroup&) { add(".plus", ".minus", word); },
                        [&](const Led& f) {
                            for (std::size_t i = 0; i < f.dies.size(); ++i)
                                add(".plus",
                                    f.dies.size() == 1 ? std::string(".minus")
                                                       : fmt::format(".minus{}", i + 1),
                                    word);
                        },
                        [&](const Driver& f) {
                            if (f.method != Driver::Method::linear) add(".in", ".gnd", word);
                        },
                        [&](const Regulator&) { add(".in", ".gnd", word); },
                        [&](const Display&) { add(".plus", ".minus", word); },
                        [&](const Shifter&) { add(".plus", ".minus", word); },
                        [&](const Port& f) {
                            if (!f.configures) {
                                add(".plus", ".minus", word);
                                all.back().charges = true;
                            }
                            light(f.light);
                        },
                        [&](const Jack&) {
                            add(".plus", ".minus", word);
                            all.back().charges = true;
                        }},
               type.figures);
}

} // namespace

std::vector<Poles> poles_of(const job::Job& job, const catalogue::Catalogue& parts) {
    std::vector<Poles> all;
    for (const job::Part& part : job.parts)
        of_part(part, *parts.find(part.type), all);
    for (const job::Blade& blade : job.blades) {
        const job::Part* at = job::find_ref(job.parts, blade.connector);
        const bool connected = at && parts.find_as<catalogue::Connector>(at->type);
        if (!blade.strips.empty() && !connected)
            all.push_back(
                {blade.ref, blade.ref + ".plus", blade.ref + ".minus", "blade", false, false});
        for (const job::LedString& string : blade.strings) {
            const auto* type = parts.find_as<catalogue::SegmentedString>(string.type);
            for (int i = 1; i <= type->segments; ++i)
                all.push_back({blade.ref, blade.ref + ".plus",
                               fmt::format("{}.seg{}", blade.ref, i), "blade", false, false});
            if (type->has_flash)
                all.push_back(
                    {blade.ref, blade.ref + ".plus", blade.ref + ".flash", "blade", false, false});
        }
    }
    return all;
}

} // namespace conductus::findings
