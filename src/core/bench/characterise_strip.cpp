// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/bench/specimens.h"
#include "core/catalogue/count.h"
#include "core/circuit/ladder.h"

namespace conductus::bench {
namespace {

using circuit::Duties;

/// Channels that a colour lights; nothing: it is no colour of such a pixel.
std::optional<Duties> lit(std::string_view colour,
                          const std::vector<catalogue::Channel>& channels) {
    const bool four = channels.size() > 3;
    if (colour == "red") return Duties{1, 0, 0, 0};
    if (colour == "green") return Duties{0, 1, 0, 0};
    if (colour == "blue") return Duties{0, 0, 1, 0};
    if (colour == "white die") return four ? std::optional(Duties{0, 0, 0, 1}) : std::nullopt;
    if (colour == "white") return four ? Duties{0, 0, 0, 1} : Duties{1, 1, 1, 0};
    if (colour == "mixed white") return Duties{1, 1, 1, 0};
    if (colour == "all") return four ? Duties{1, 1, 1, 1} : Duties{1, 1, 1, 0};
    if (colour == "dark") return Duties{};
    return std::nullopt;
}

/// What a strip takes and shows at its tip for volts at its foot.
class StripModel {
public:
    StripModel(const Readings& readings, std::vector<Duties> duties, circuit::Strip like)
        : readings_(readings), duties_(std::move(duties)), strip_(std::move(like)),
          tips_(duties_.size()) {
        for (std::size_t i = 0; i < tips_.size(); ++i)
            tips_[i] = *readings.rows[i].volts;
    }
    struct Said {
        double amps, tip;
    };
    Said of(std::size_t row, const circuit::PixelModel& pixel, double segment) {
        return at(*readings_.rows[row].volts, duties_[row], pixel, segment, tips_[row]);
    }
    /// `tip`: where the search begins, and what it finds.
    Said at(double volts, const Duties& duty, const circuit::PixelModel& pixel, double segment,
            double& tip) {
        if (strip_.pixels <= 1 || segment <= 0) {
            tip = volts;
            return {strip_.pixels * circuit::pixel_current(pixel, duty, volts).amps, volts};
        }
        strip_.pixel = pixel;
        strip_.segment = segment;
        strip_.spans = {{0, strip_.pixels, duty}};
        // The foot rises faster than the tip, and the steeper the higher: Newton from above.
        circuit::Foot foot;
        for (int step = 0; step < 60; ++step) {
            foot = circuit::sweep(strip_, tip);
            const double by = (foot.volts - volts) / foot.volts_slope;
            tip = std::clamp(tip - by, 0.0, volts);
            if (std::abs(by) < 1e-10) break;
        }
        foot = circuit::sweep(strip_, tip);
        return {foot.amps, tip};
    }

private:
    const Readings& readings_;
    std::vector<Duties> duties_;
    circuit::Strip strip_;
    std::vector<double> tips_;
};

} // namespace

Result<Characterised> of_strip(Specimen specimen, const Readings& readings,
                               const catalogue::PartType& like, const catalogue::Catalogue& parts) {
    const auto* strip = std::get_if<catalogue::Strip>(&like.figures);
    const auto& pixel = strip ? *parts.find_as<catalogue::Pixel>(strip->pixel)
                              : std::get<catalogue::Pixel>(like.figures);
    const auto& channels = pixel.channels;
    int pixels = readings.pixels.value_or(1);
    if (specimen == Specimen::strip && !readings.pixels) {
        if (!readings.metres)
            return problem("", "the number of pixels is not said",
                           "Give it in a column 'pixels', or with --pixels");
        pixels = catalogue::pixels_on(Millimetre(*readings.metres * 1e3), strip->density);
    }
    if (pixels < 1 || pixels > 100000)
        return problem("", say("a strip does not have {} pixels", pixels), "Count them");
    const double metres = readings.metres.value_or(strip ? pixels / strip->density.value() : 0);

    std::vector<Duties> duties;
    std::array<bool, 4> read{};
    std::array<double, 4> most{};
    double most_volts = 0;
    bool any_tip = false;
    for (std::size_t i = 0; i < readings.rows.size(); ++i) {
        const Reading& r = readings.rows[i];
        const std::string at = where_read(r, i).english();
        if (!r.volts || (!r.amps && !r.tip))
            return problem(at, "the volts at the foot, or the amps, are missing",
                           "Each reading has the volts at the foot and what it took there");
        if (*r.volts <= 0 || *r.volts > 30)
            return problem(at, say("{} V at the foot can not be", *r.volts),
                           "Write volts, or mV in the column's name");
        const auto duty = lit(r.condition, channels);
        if (!duty)
            return problem(at, say("'{}' is no colour of such a pixel", shown(r.condition, 40)),
                           "Write red, green, blue, white or dark");
        duties.push_back(*duty);
        most_volts = std::max(most_volts, *r.volts);
        int count = 0, last = 0;
        for (int c = 0; c < 4; ++c)
            if ((*duty)[static_cast<std::size_t>(c)] > 0)
                ++count, last = c, read[static_cast<std::size_t>(c)] = true;
        if (count == 1 && r.amps)
            most[static_cast<std::size_t>(last)] =
                std::max(most[static_cast<std::size_t>(last)], *r.amps / pixels);
        any_tip = any_tip || r.tip.has_value();
    }

    Asked asked;
    for (std::size_t c = 0; c < channels.size(); ++c) {
        const double full = most[c] > 0 ? most[c] : channels[c].full.value();
        asked.unknowns.push_back({{.start = full,
                                   .scale = full,
                                   .least = 1e-5,
                                   .most = 2,
                                   .fixed = !read[c],
                                   .widest = 0.5},
                                  fmt::format("full current, {}", colour_word(channels[c].colour)),
                                  "A"});
        if (!read[c]) asked.unknowns.back().unknown.start = channels[c].full.value();
        asked.unknowns.push_back({{.start = channels[c].on.value(),
                                   .scale = 1,
                                   .least = 0.3,
                                   .most = 20,
                                   .fixed = !read[c],
                                   .widest = 0.3},
                                  fmt::format("threshold, {}", colour_word(channels[c].colour)),
                                  "V"});
    }
    const std::size_t knee = asked.unknowns.size(), quiet = knee + 1, copper = knee + 2;
    asked.unknowns.push_back({{.start = pixel.knee.value(),
                               .scale = pixel.knee.value(),
                               .least = 0.02,
                               .most = 5,
                               .widest = 0.6},
                              "knee",
                              "V"});
    asked.unknowns.push_back(
        {{.start = pixel.quiet.value(), .scale = 1e-3, .least = -0.01, .most = 0.1, .widest = 1},
         "quiet current",
         "A"});
    const bool ladder = specimen == Specimen::strip && pixels > 1;
    if (ladder)
        asked.unknowns.push_back({{.start = strip->rail.value(),
                                   .scale = strip->rail.value(),
                                   .least = 1e-4,
                                   .most = 20,
                                   .widest = 0.7},
                                  "copper",
                                  "Ohm/m"});
    const double pitch = pixels > 0 ? metres / pixels : 0;

    for (std::size_t i = 0; i < readings.rows.size(); ++i) {
        const Reading& r = readings.rows[i];
        if (r.amps) {
            asked.sigma.push_back(amps_sigma(*r.amps));
            asked.millivolts.push_back(1e3 * *r.volts / std::max(std::abs(*r.amps), 1e-4));
            asked.whole.push_back(*r.amps);
            asked.line.push_back(i);
            asked.group.push_back(0);
        }
        if (r.tip) {
            asked.sigma.push_back(volts_sigma(*r.tip));
            asked.millivolts.push_back(1e3);
            asked.whole.push_back(*r.tip);
            asked.line.push_back(i);
            asked.group.push_back(1);
        }
    }
    circuit::Strip body;
    body.pixels = pixels;
    StripModel model(readings, duties, body);
    const auto pixel_of = [&](const std::vector<double>& v) {
        circuit::PixelModel p;
        p.channels = static_cast<int>(channels.size());
        for (std::size_t c = 0; c < channels.size(); ++c)
            p.full[c] = v[2 * c], p.on[c] = v[2 * c + 1];
        p.knee = v[knee], p.quiet = v[quiet];
        return p;
    };
    const auto segment_of = [&](const std::vector<double>& v) {
        return ladder ? 2 * v[copper] * pitch : 0;
    };
    asked.residuals = [&](const std::vector<double>& v, std::vector<double>& out) {
        const circuit::PixelModel p = pixel_of(v);
        std::size_t at = 0;
        for (std::size_t i = 0; i < readings.rows.size(); ++i) {
            const Reading& r = readings.rows[i];
            const StripModel::Said said = model.of(i, p, segment_of(v));
            if (r.amps) out[at++] = *r.amps - said.amps;
            if (r.tip) out[at++] = *r.tip - said.tip;
        }
    };
    std::vector<double> values;
    auto found = solved(specimen, asked, values);
    if (!found) return found;
    if (ladder && !any_tip)
        found->notes.push_back("Volts at the tip were not read: the copper is told by the currents "
                               "alone");
    if (ladder && !readings.metres)
        found->notes.push_back(say("The length was not said: {} pixels of the class are {} mm long",
                                   pixels, std::round(metres * 1e3)));
    found->overlay = {"volts at the foot", "amps", {}};
    std::vector<std::string> order;
    for (const Reading& r : readings.rows)
        if (std::find(order.begin(), order.end(), r.condition) == order.end())
            order.push_back(r.condition);
    for (const std::string& colour : order) {
        Series line{colour, {}, {}};
        Duties duty{};
        for (std::size_t i = 0; i < readings.rows.size(); ++i)
            if (readings.rows[i].condition == colour) {
                duty = duties[i];
                if (readings.rows[i].amps)
                    line.measured.push_back({*readings.rows[i].volts, *readings.rows[i].amps});
            }
        double tip = 0.5;
        for (int i = 0; i <= 60; ++i) {
            const double volts = 1 + (std::max(most_volts, 1.5) * 1.04 - 1) * i / 60;
            tip = volts;
            line.model.push_back(
                {volts, model.at(volts, duty, pixel_of(values), segment_of(values), tip).amps});
        }
        found->overlay.series.push_back(std::move(line));
    }
    return found;
}

} // namespace conductus::bench
