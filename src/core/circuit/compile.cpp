// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/circuit/compile.h"

#include <algorithm>
#include <cctype>
#include <map>
#include <set>

#include "core/circuit/copper.h"
#include "core/job/lookup.h"

namespace conductus::circuit {
namespace {

/// A contact of no resistance at all would have no conductance matrix.
constexpr double least_ohms = 1e-9;

std::string lower(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return out;
}

class Compiler {
public:
    Compiler(const job::Job& job, const catalogue::Catalogue& parts, const Moment& moment)
        : job_(job), parts_(parts), moment_(moment) {}

    Result<Network> run() {
        const auto cell = job::first_of<catalogue::Cell>(job_, parts_);
        if (!cell) return problem("/parts", "there is no cell", "Fit a cell");
        nodes_[cell.part->ref + ".minus"] = 0;
        for (const job::Wire& wire : job_.wires)
            if (conducts(wire)) {
                wired_.insert(wire.from);
                wired_.insert(wire.to);
            }
        std::size_t cells = 0;
        for (const job::Part& part : job_.parts) {
            const catalogue::PartType* type = parts_.find(part.type);
            if (!type)
                return problem(part.ref, "has an unknown type", "Choose one of the catalogue");
            if (std::holds_alternative<catalogue::Cell>(type->figures)) {
                if (cells >= moment_.cells.size())
                    return problem(part.ref, "has no state of charge", "Give every cell one");
                add_cell(part, moment_.cells[cells++]);
            } else {
                add_part(part, type->figures);
            }
        }
        for (const job::Blade& blade : job_.blades)
            add_blade(blade);
        for (const job::Wire& wire : job_.wires)
            if (conducts(wire)) add_wire(wire);
        return std::move(network_);
    }

private:
    static bool conducts(const job::Wire& wire) {
        return wire.role == job::Role::supply || wire.role == job::Role::ground;
    }
    [[nodiscard]] bool is_wired(const std::string& terminal) const {
        return wired_.contains(terminal);
    }

    Node node(const std::string& terminal) {
        const auto [it, fresh] = nodes_.try_emplace(terminal, network_.nodes.size());
        if (fresh) {
            std::string name = lower(terminal);
            std::replace(name.begin(), name.end(), '.', '_');
            network_.nodes.push_back(std::move(name));
        }
        return it->second;
    }

    void resistor(const std::string& suffix, const std::string& ref, Part part,
                  const std::string& a, const std::string& b, double ohms) {
        network_.resistors.push_back(
            {lower(ref) + suffix, ref, part, node(a), node(b), std::max(ohms, least_ohms)});
    }

    void add_cell(const job::Part& part, const CellState& state) {
        const auto* board =
            part.protection ? parts_.find_as<catalogue::Protection>(*part.protection) : nullptr;
        const std::string plus = part.ref + ".plus";
        const std::string inner = board ? part.ref + ".core" : plus;
        const Node minus = node(part.ref + ".minus");
        network_.sources.push_back({lower(part.ref), part.ref, node(inner), minus,
                                    state.emf.value(),
                                    std::max(state.resistance.value(), least_ohms)});
        if (board)
            resistor("_protection", part.ref, Part::protection, inner, plus,
                     board->resistance.value());
    }

    void add_part(const job::Part& part, const catalogue::Figures& figures) {
        const std::string& ref = part.ref;
        if (const auto* kill = std::get_if<catalogue::Kill>(&figures)) {
            if (is_wired(ref + ".in") || is_wired(ref + ".out"))
                resistor("_contact", ref, Part::kill, ref + ".in", ref + ".out",
                         part.measured.resistance.value_or(kill->contact).value());
        } else if (const auto* board = std::get_if<catalogue::Board>(&figures)) {
            add_board(ref, *board);
        } else if (const auto* pixel = std::get_if<catalogue::Pixel>(&figures)) {
            if (is_wired(ref + ".plus") && is_wired(ref + ".minus"))
                add_strip(ref, ref, *pixel, 1, least_ohms, 0);
        }
    }

    void add_board(const std::string& ref, const catalogue::Board& board) {
        network_.sinks.push_back({lower(ref), ref, node(ref + ".bat"), node(ref + ".gnd"),
                                  (board.active + moment_.sound).value()});
        // Only pads that something is soldered to: a bare pad is a node without a path.
        for (const std::string& terminal :
             parts_.find(job::find_ref(job_.parts, ref)->type)->terminals)
            if (terminal[0] == 'l' && is_wired(ref + "." + terminal))
                resistor("_" + terminal, ref, Part::board, ref + "." + terminal, ref + ".gnd",
                         board.pad_resistance.value());
    }

    void add_blade(const job::Blade& blade) {
        if (const job::Part* part = job::find_ref(job_.parts, blade.connector)) {
            const auto* c = parts_.find_as<catalogue::Connector>(part->type);
            const double pin = part->measured.resistance.value_or(c->pin_resistance).value();
            resistor("_plus_pins_" + lower(blade.ref), part->ref, Part::pins, part->ref + ".plus",
                     blade.ref + ".plus", pin / c->plus_pins);
            resistor("_minus_pins_" + lower(blade.ref), part->ref, Part::pins, blade.ref + ".minus",
                     part->ref + ".minus", pin / c->minus_pins);
        }
        for (const job::Strip& strip : blade.strips) {
            const auto* type = parts_.find_as<catalogue::Strip>(strip.type);
            const auto* pixel = parts_.find_as<catalogue::Pixel>(type->pixel);
            const double pitch_m = strip.length.value() * 1e-3 / strip.pixels;
            add_strip(blade.ref, strip.ref, *pixel, strip.pixels,
                      std::max(strip.lead.value(), least_ohms),
                      2 * strip.rail.value_or(type->rail).value() * pitch_m);
        }
    }

    void add_strip(const std::string& owner, const std::string& ref, const catalogue::Pixel& pixel,
                   int pixels, double lead, double segment) {
        Strip strip;
        strip.name = lower(ref);
        strip.ref = ref;
        strip.plus = node(owner + ".plus");
        strip.minus = node(owner + ".minus");
        strip.lead = lead;
        strip.segment = segment;
        strip.pixels = pixels;
        strip.pixel = pixel_model(pixel);
        strip.spans = spans_of(moment_.frame(strip.pixel.channels), pixels);
        network_.strips.push_back(std::move(strip));
    }

    void add_wire(const job::Wire& wire) {
        const Ohm ohms = wire.resistance.value_or(wire_resistance(wire.gauge) * wire.length);
        resistor("_wire", wire.ref, Part::wire, wire.from, wire.to, ohms.value());
    }

    const job::Job& job_;
    const catalogue::Catalogue& parts_;
    const Moment& moment_;
    Network network_;
    std::map<std::string, Node> nodes_;
    std::set<std::string> wired_;
};

} // namespace

PixelModel pixel_model(const catalogue::Pixel& pixel) {
    PixelModel model;
    model.channels = static_cast<int>(pixel.channels.size());
    for (std::size_t c = 0; c < pixel.channels.size(); ++c) {
        model.full[c] = pixel.channels[c].full.value();
        model.on[c] = pixel.channels[c].on.value();
    }
    model.knee = pixel.knee.value();
    model.quiet = pixel.quiet.value();
    return model;
}

std::vector<Span> spans_of(const lights::Frame& frame, int pixels) {
    std::vector<Span> spans;
    int first = 0;
    for (std::size_t i = 0; i < frame.size(); ++i) {
        const bool last_band = i + 1 == frame.size();
        const int last = last_band ? pixels : static_cast<int>(frame[i].to * pixels + 0.5);
        if (last <= first) continue;
        spans.push_back({first, last, frame[i].duty});
        first = last;
    }
    return spans;
}

Result<Network> compile(const job::Job& job, const catalogue::Catalogue& parts,
                        const Moment& moment) {
    return Compiler(job, parts, moment).run();
}

} // namespace conductus::circuit
