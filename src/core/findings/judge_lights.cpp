// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of blades, sound and runtime.
#include <algorithm>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/catalogue/count.h"
#include "core/circuit/sink.h"
#include "core/circuit/solver.h"
#include "core/findings/facts.h"
#include "core/job/lookup.h"
#include "core/power/luminance.h"
#include "core/power/sound.h"
#include "core/power/state.h"

namespace conductus::findings {
namespace {

void crackle_early(const Facts& f, std::vector<Finding>& out) {
    if (!f.run) return;
    const Minute clean = f.run->clean();
    // Where no minutes were asked for, only what crackles from the first second is a mistake.
    const bool at_once = f.job->use.clean <= Minute(0) && clean < Minute(0.1);
    if (clean >= f.job->use.clean && !at_once) return;
    const auto board = job::first_of<catalogue::Board>(*f.job, *f.parts);
    out.push_back({
        .id = "sound.crackle-early",
        .severity = Severity::warn,
        .station = Station::power,
        .where = {board ? board.part->ref : std::string(), f.run->peak_event},
        .text = at_once ? Message("It crackles from the first second")
                        : say("Clean for {}, asked for {}", duration(clean),
                              duration(f.job->use.clean)),
        .detail = f.run->crackle ? say("{} pulls the board below the {} its sound needs.",
                                       f.run->peak_event, text(f.run->need))
                                 : say("Then {}.", f.run->off_because),
        .evidence = {{"clean", clean.value(), "min"},
                     {"asked for", f.job->use.clean.value(), "min"}},
        .fix = {},
    });
}

/// Peaks that are cut from the first minute on.
void clips(const Facts& f, std::vector<Finding>& out) {
    if (!f.run || !f.run->clips || *f.run->clips > Minute(0) || f.run->samples.empty()) return;
    const power::Sound sound = power::sound_of(*f.job, *f.parts);
    const Volt board = f.run->samples.front().board_peak;
    const double most = circuit::amplitude_at(sound.at_peak, board.value());
    const double loudness = f.job->use.volume * most / sound.peak.value();
    const auto fitted = job::first_of<catalogue::Board>(*f.job, *f.parts);
    Finding finding{
        .id = "sound.clips",
        .severity = Severity::note,
        .station = Station::power,
        .where = {fitted.part->ref},
        .text = say("Peaks of sound are cut by {} dB", decimals(sound.compression(board), 1)),
        .detail = say("At that loudness a peak wants {} across the speaker, the "
                      "amplifier has {}. From {} dB on it is heard.",
                      text(sound.peak), text(Volt(most)), decimals(power::heard_clipping, 0)),
        .evidence = {{"wants", sound.peak.value(), "V"}, {"has", most, "V"}},
        .fix = {}};
    // A hundredth, and as loud as is still heard to be whole.
    const double quieter =
        std::floor(100 * loudness * std::pow(10, power::heard_clipping / 20) - 1) / 100;
    if (quieter > 0.1)
        finding.proposed.push_back(
            {say("set the loudness to {} %", decimals(quieter * 100, 0)), [quieter](job::Job& job) {
                 job.use.volume = quieter;
                 for (job::Phase& p : job.use.day)
                     if (p.volume && *p.volume > quieter) p.volume = quieter;
             }});
    out.push_back(std::move(finding));
}

/// Last over first pixel of a look at half charge; nothing where it can not be solved.
std::optional<double> tip_of(const job::Job& job, const catalogue::Catalogue& parts,
                             const std::string& name) {
    const auto look = power::look_named(job, name);
    if (!look) return std::nullopt;
    const auto network = power::network_of(job, parts, {*look, {}, {}, {}, 0.5});
    if (!network) return std::nullopt;
    const auto point = circuit::solve(*network);
    if (!point) return std::nullopt;
    const power::Ends ends = power::dimmest_ends(power::strip_lights(job, parts), *network, *point);
    return ends.foot > 0 ? ends.tip / ends.foot : 1;
}

/// The first strip of the catalogue with the same pixels and more copper that brings the tip up;
/// else the highest cap, in steps of 5 %, that does.
std::optional<Fix> mend_tip(const Facts& f) {
    const job::Strip* strip = nullptr;
    for (const job::Blade& blade : f.job->blades)
        if (!blade.strips.empty()) strip = &blade.strips.front();
    const auto* fitted = strip ? f.parts->find_as<catalogue::Strip>(strip->type) : nullptr;
    if (!fitted) return std::nullopt;
    auto mends = [&](const job::Edit& edit) {
        job::Job with = *f.job;
        edit(with);
        return tip_of(with, *f.parts, f.tip->look).value_or(0) >= power::dim_share;
    };
    for (const catalogue::PartType* type : f.parts->all<catalogue::Strip>()) {
        const auto& other = std::get<catalogue::Strip>(type->figures);
        if (other.pixel != fitted->pixel || other.density != fitted->density) continue;
        if (other.rail >= strip->rail.value_or(fitted->rail)) continue;
        if (const auto edit = job::fit_strips(type->id); mends(edit))
            return Fix{say("use {}", type->name), edit};
    }
    const auto look = std::find_if(f.job->looks.begin(), f.job->looks.end(),
                                   [&](const job::Look& l) { return l.name == f.tip->look; });
    for (int percent = static_cast<int>(look->cap * 20) * 5; percent >= 5; percent -= 5) {
        const job::Edit edit = [name = look->name, percent](job::Job& job) {
            if (auto* l = job::find_name(job.looks, name)) l->cap = percent / 100.0;
        };
        if (mends(edit)) return Fix{say("cap {} at {} %", look->name, percent), edit};
    }
    return std::nullopt;
}

void tip_dim(const Facts& f, std::vector<Finding>& out) {
    if (!f.tip || f.tip->ratio >= power::dim_share) return;
    Finding finding{
        .id = "blade.tip-dim",
        .severity = Severity::warn,
        .station = Station::lights,
        .where = {f.tip->look},
        .text = say("{}: tip at {} % of its foot", f.tip->look, decimals(f.tip->ratio * 100, 0)),
        .detail = "At half charge. Below 70 % a person sees the blade fade.",
        .evidence = {{"tip against foot", f.tip->ratio * 100, "%"}, {"wanted", 70, "%"}},
        .fix = {}};
    for (const job::Blade& blade : f.job->blades)
        for (const job::Strip& strip : blade.strips)
            finding.where.push_back(strip.ref);
    finding.fix = mend_tip(f);
    out.push_back(std::move(finding));
}

void dims_early(const Facts& f, std::vector<Finding>& out) {
    if (!f.run || !f.run->dim() || f.job->use.clean <= Minute(0)) return;
    if (f.run->bright() >= f.job->use.clean || f.run->bright() >= f.run->clean()) return;
    out.push_back({.id = "blade.dims-early",
                   .severity = Severity::note,
                   .station = Station::lights,
                   .where = {f.job->use.look},
                   .text = f.run->dim() == f.run->uneven
                               ? say("The tip dims after {}, {} were asked for",
                                     duration(f.run->bright()), duration(f.job->use.clean))
                               : say("The blade is at half its light after {}, {} were asked for",
                                     duration(f.run->bright()), duration(f.job->use.clean)),
                   .detail = "It still sounds clean then, but it is seen to fade.",
                   .evidence = {{"bright", f.run->bright().value(), "min"},
                                {"asked for", f.job->use.clean.value(), "min"}},
                   .fix = {}});
}

void count_mismatch(const Facts& f, std::vector<Finding>& out) {
    for (const job::Blade& blade : f.job->blades)
        for (const job::Strip& strip : blade.strips) {
            const auto* type = f.parts->find_as<catalogue::Strip>(strip.type);
            const int follows = catalogue::pixels_on(strip.length, type->density);
            if (follows == strip.pixels) continue;
            Finding finding{.id = "strip.count-mismatch",
                            .severity = Severity::warn,
                            .station = Station::lights,
                            .where = {strip.ref},
                            .text = say("{} is set to {} pixels, its length gives {}", strip.ref,
                                        strip.pixels, follows),
                            .detail = say("{} at {} per metre.", text(strip.length),
                                          decimals(type->density.value(), 0)),
                            .evidence = {{"set", static_cast<double>(strip.pixels), "px"},
                                         {"from length", static_cast<double>(follows), "px"}},
                            .fix = {}};
            if (follows >= 1)
                finding.fix =
                    Fix{say("set {} pixels", follows), [ref = strip.ref, follows](job::Job& job) {
                            for (job::Blade& b : job.blades)
                                if (auto* s = job::find_ref(b.strips, ref)) s->pixels = follows;
                        }};
            out.push_back(std::move(finding));
        }
}

} // namespace

void judge_lights(const Facts& facts, std::vector<Finding>& out) {
    crackle_early(facts, out);
    clips(facts, out);
    tip_dim(facts, out);
    dims_early(facts, out);
    count_mismatch(facts, out);
}

} // namespace conductus::findings
