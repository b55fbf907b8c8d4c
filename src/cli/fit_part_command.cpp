// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>

#include "cli/commands.h"
#include "core/bench/characterise.h"
#include "files/disk.h"
#include "files/json_text.h"
#include "files/readings_csv.h"

namespace conductus::cli {

int fit_part(const catalogue::Catalogue& parts, const FitPartChoice& choice) {
    const auto text = files::read_text(choice.readings);
    if (!text) return refuse(text.error());
    auto readings = files::read_readings(*text, shown(choice.readings));
    if (!readings) return refuse(readings.error());
    if (choice.pixels > 0) readings->pixels = choice.pixels;
    if (choice.length_mm > 0) readings->metres = choice.length_mm * 1e-3;
    const auto specimen = bench::specimen_named(choice.kind);
    const auto found = bench::characterise(specimen.value_or(bench::Specimen::contact), *readings,
                                           parts, choice.like);
    if (!found) {
        Problem problem = found.error();
        problem.where =
            shown(choice.readings) + (problem.where.empty() ? "" : ", " + problem.where);
        return refuse(problem);
    }
    if (choice.json) {
        files::Json list = files::Json::array();
        for (const bench::Found& f : found->parameters) {
            files::Json one{{"name", f.name},   {"value", f.value},  {"unit", f.unit},
                            {"low95", nullptr}, {"high95", nullptr}, {"determined", f.determined}};
            if (f.determined) one["low95"] = f.low, one["high95"] = f.high;
            list.push_back(std::move(one));
        }
        const files::Json all{{"kind", bench::word(found->specimen)},
                              {"like", choice.like.empty()
                                           ? bench::usual_like(found->specimen, *readings, parts)
                                           : choice.like},
                              {"readings", found->readings},
                              {"spare", found->spare},
                              {"parameters", list},
                              {"residual_mV", found->residual_mV},
                              {"notes", found->notes}};
        fmt::print("{}\n", files::json_text(all));
        return fine;
    }
    for (const bench::Found& f : found->parameters)
        if (f.determined)
            fmt::print("{:<36} {:<12} ± {}\n", f.name, with_unit(f.value, f.unit),
                       with_unit((f.high - f.low) / 2, f.unit));
        else
            fmt::print("{:<36} {:<12} of its class\n", f.name, with_unit(f.value, f.unit));
    fmt::print("\nresidual {}, {} {}\n", with_unit(found->residual_mV, "mV"), found->readings,
               found->readings == 1 ? "reading" : "readings");
    for (const Message& note : found->notes)
        fmt::print("{}\n", note);
    return fine;
}

} // namespace conductus::cli
