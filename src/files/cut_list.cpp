// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/cut_list.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <set>

#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/job/words.h"
#include "files/csv.h"

namespace conductus::files {
namespace {

/// Stripped at each end; of a wire's solder end the rest goes into the joint.
constexpr double strip_mm = 3;

std::string escaped(std::string_view text) {
    std::string out;
    for (const char c : text)
        switch (c) {
        case '&':
            out += "&amp;";
            break;
        case '<':
            out += "&lt;";
            break;
        case '>':
            out += "&gt;";
            break;
        case '"':
            out += "&quot;";
            break;
        default:
            out += c;
        }
    return out;
}

/// "W3", or "W3.1", "W3.2" of a wire that docks cut, each with its ends: "DK1.plus1+plus2".
struct Piece {
    std::string ref, from, to;
    Millimetre length;
};
std::vector<Piece> pieces_of(const harness::Harness& harness, const harness::WireRow& w) {
    if (w.route.docks.empty()) return {{w.ref, w.from, w.to, w.length}};
    std::vector<Piece> pieces;
    // What was measured is of the whole; its pieces keep their proportion.
    const double share = w.length / w.route.length();
    std::string from = w.from;
    for (std::size_t i = 0; i < w.route.pieces.size(); ++i) {
        std::string to = w.to;
        if (i < w.route.docks.size()) {
            to = w.route.docks[i];
            for (const hilt::Rail& rail : harness.rails)
                if (rail.dock == to && rail.wire == w.ref && !rail.pins.empty()) {
                    to += fmt::format(".{}", fmt::join(rail.pins, "+"));
                    break;
                }
        }
        pieces.push_back({fmt::format("{}.{}", w.ref, i + 1), from, to, w.route.pieces[i] * share});
        from = to;
    }
    return pieces;
}

} // namespace

std::string cutlist_csv(const harness::Harness& harness) {
    std::string csv = csv_record({"ref", "from", "to", "role", "gauge_awg", "colour", "length_mm",
                                  "strip_mm", "amps", "drop_mV", "note"});
    for (const harness::WireRow& w : harness.wires)
        for (const Piece& p : pieces_of(harness, w))
            csv += csv_record(
                {p.ref, p.from, p.to, std::string(job::word(w.role)), std::to_string(w.gauge),
                 w.colour, fmt::format("{:.0f}", std::ceil(p.length.value() - 1e-9)),
                 fmt::format("{:.0f}", strip_mm), fmt::format("{:.3f}", w.amps.value()),
                 fmt::format("{:.2f}", w.drop.value() * 1e3), joined(w.advice, "; ").english()});
    return csv;
}

std::string labels_svg(const harness::Harness& harness, const std::string& job) {
    // Flags that fold round a wire: 3 across an A4 sheet.
    constexpr double width = 60, height = 14, left = 15, top = 22, across = 3;
    std::vector<std::pair<std::string, std::string>> labels; // big, small
    for (const harness::WireRow& w : harness.wires)
        for (const Piece& p : pieces_of(harness, w)) {
            labels.emplace_back(p.ref + "  " + p.from, "to " + p.to);
            labels.emplace_back(p.ref + "  " + p.to, "to " + p.from);
        }
    const double rows = std::ceil(static_cast<double>(labels.size()) / across);
    const double tall = std::max(297.0, top + rows * height + 10);
    std::string svg = fmt::format(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"210mm\" height=\"{0:g}mm\" "
        "viewBox=\"0 0 210 {0:g}\">\n<rect width=\"210\" height=\"{0:g}\" fill=\"#ffffff\"/>\n"
        "<text x=\"15\" y=\"14\" font-family=\"osifont, sans-serif\" font-size=\"5\">{1}: labels, "
        "one for each end of a wire</text>\n",
        tall, escaped(job));
    for (std::size_t i = 0; i < labels.size(); ++i) {
        const double x = left + width * static_cast<double>(i % static_cast<std::size_t>(across));
        const double y = top + height * std::floor(static_cast<double>(i) / across);
        svg += fmt::format(
            "<rect x=\"{0:g}\" y=\"{1:g}\" width=\"{2:g}\" height=\"{3:g}\" fill=\"none\" "
            "stroke=\"#5c6b72\" stroke-width=\"0.15\"/>\n"
            "<text x=\"{4:g}\" y=\"{5:g}\" font-family=\"osifont, sans-serif\" "
            "font-size=\"4.4\">{6}</text>\n"
            "<text x=\"{4:g}\" y=\"{7:g}\" font-family=\"osifont, sans-serif\" "
            "font-size=\"3.4\">{8}</text>\n",
            x, y, width, height, x + 2.5, y + 6, escaped(labels[i].first), y + 11,
            escaped(labels[i].second));
    }
    return svg + "</svg>\n";
}

} // namespace conductus::files
