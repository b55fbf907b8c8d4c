// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of what a job asks of its board, and of what the board says it can.
#include <algorithm>
#include <cctype>
#include <fmt/format.h>
#include <map>

#include "core/base/utf8.h"
#include "core/catalogue/kinds.h"
#include "core/findings/facts.h"
#include "core/findings/rule_tools.h"
#include "core/job/lookup.h"
#include "core/job/words.h"

namespace conductus::findings {
namespace {

const char* order_word(catalogue::ColourOrder order) {
    return order == catalogue::ColourOrder::green_first ? "green first"
           : order == catalogue::ColourOrder::red_first ? "red first"
                                                        : "blue first";
}

struct AtBoard {
    const Facts& f;
    const job::Part& part;
    const catalogue::Board& board;
    std::vector<Finding>& out;

    /// Boards of the catalogue that can what this one can not take its place.
    template <class Can>
    void propose_board(Finding& finding, Can can) const {
        const auto* own = f.parts->find(part.type);
        for (const catalogue::PartType* type : f.parts->all<catalogue::Board>()) {
            const auto has_all = std::all_of(
                own->terminals.begin(), own->terminals.end(), [&](const std::string& t) {
                    return !f.wiring->is_wired(part.ref + "." + t) ||
                           std::find(type->terminals.begin(), type->terminals.end(), t) !=
                               type->terminals.end();
                });
            if (type->id != part.type && has_all && can(std::get<catalogue::Board>(type->figures)))
                finding.proposed.push_back(
                    {say("fit a {}", type->name), job::fit_type(part.ref, type->id)});
        }
    }

    void pixels() const {
        std::vector<std::string> four;
        std::map<catalogue::ColourOrder, std::vector<std::string>> foreign;
        for (const lights::Group& g : f.chains.groups) {
            if (g.line.empty() || job::split_terminal(g.line).first != part.ref) continue;
            const auto* pixel = f.parts->find_as<catalogue::Pixel>(g.pixel);
            if (static_cast<int>(pixel->channels.size()) > board.channels) four.push_back(g.ref);
            const bool driven = board.orders.empty() ||
                                std::any_of(board.orders.begin(), board.orders.end(),
                                            [&](auto& o) { return o.order == pixel->order; });
            if (!driven) foreign[pixel->order].push_back(g.ref);
        }
        if (!four.empty()) {
            auto where = four;
            where.push_back(part.ref);
            Finding finding =
                raise("board.pixel-kind", Severity::warn, Station::lights, where,
                      say("{} drives pixels of {} colours, {} {} four", part.ref, board.channels,
                          conductus::joined(four, ", "), four.size() == 1 ? "has" : "have"),
                      "Every pixel after the first takes the wrong bytes: colours run along the "
                      "blade.",
                      {{"colours asked", 4, ""},
                       {"colours driven", static_cast<double>(board.channels), ""}});
            propose_board(finding, [](const catalogue::Board& b) { return b.channels >= 4; });
            out.push_back(std::move(finding));
        }
        for (const auto& [order, refs] : foreign) {
            auto where = refs;
            where.push_back(part.ref);
            Finding finding = raise(
                "board.colour-order", Severity::warn, Station::lights, where,
                say("{} does not drive pixels that take {}: {}", part.ref, order_word(order),
                    conductus::joined(refs, ", ")),
                "Colours come out exchanged. Fit pixels of another order, or a board that can be "
                "set to it.",
                {{"lights", static_cast<double>(refs.size()), ""}});
            propose_board(finding, [want = order](const catalogue::Board& b) {
                return b.orders.empty() ||
                       std::any_of(b.orders.begin(), b.orders.end(),
                                   [&](auto& o) { return o.order == want; });
            });
            out.push_back(std::move(finding));
        }
    }

    /// Pads with a button, and the buttons in parallel on each.
    void buttons() const {
        std::map<std::string, std::vector<std::string>> on;
        for (const job::Part* button : parts_of<catalogue::Button>(f)) {
            const auto pad = f.wiring->nearest(
                button->ref + ".a", {job::Role::button}, job::Wiring::Through::nothing,
                [&](std::string_view at) { return is_button_pad(at); }, [](auto) { return false; });
            const auto other = f.wiring->nearest(
                button->ref + ".b", {job::Role::button}, job::Wiring::Through::nothing,
                [&](std::string_view at) { return is_button_pad(at); }, [](auto) { return false; });
            if (const std::string& at = pad.empty() ? other : pad; !at.empty())
                on[at].push_back(button->ref);
        }
        const int most = board.most_buttons;
        if (most > 0 && static_cast<int>(on.size()) > most) {
            std::vector<std::string> where{part.ref};
            for (const auto& [pad, refs] : on)
                where.insert(where.end(), refs.begin(), refs.end());
            Finding finding =
                raise("board.too-many-buttons", Severity::warn, Station::harness, where,
                      say("{} tells {} buttons apart, {} are wired", part.ref, most, on.size()),
                      "What is beyond does nothing.",
                      {{"buttons", static_cast<double>(on.size()), ""},
                       {"told apart", static_cast<double>(most), ""}});
            propose_board(finding, [n = static_cast<int>(on.size())](const catalogue::Board& b) {
                return b.most_buttons == 0 || b.most_buttons >= n;
            });
            out.push_back(std::move(finding));
        }
    }
    [[nodiscard]] bool is_button_pad(std::string_view at) const {
        const auto [ref, terminal] = job::split_terminal(at);
        return ref == part.ref && terminal.size() > 1 && terminal[0] == 's' &&
               std::isdigit(static_cast<unsigned char>(terminal[1]));
    }

    void presets() const {
        const auto many = f.job->presets.size();
        if (board.most_presets > 0 && static_cast<int>(many) > board.most_presets) {
            Finding finding =
                raise("board.too-many-presets", Severity::warn, Station::lights, {part.ref},
                      say("{} holds {} presets, there are {}", part.ref, board.most_presets, many),
                      "The last ones can not be reached.",
                      {{"presets", static_cast<double>(many), ""},
                       {"board holds", static_cast<double>(board.most_presets), ""}});
            propose_board(finding, [n = static_cast<int>(many)](const catalogue::Board& b) {
                return b.most_presets == 0 || b.most_presets >= n;
            });
            out.push_back(std::move(finding));
        }
        if (board.name_length <= 0) return;
        std::size_t longest = 0;
        std::vector<std::string> where;
        const auto judge_name = [&](const std::string& name) {
            const std::size_t letters = utf8_letters(name);
            if (letters <= static_cast<std::size_t>(board.name_length)) return;
            longest = std::max(longest, letters);
            if (std::find(where.begin(), where.end(), name) == where.end()) where.push_back(name);
        };
        for (const job::Preset& p : f.job->presets) {
            judge_name(p.font);
            for (const job::Track& t : p.tracks)
                judge_name(t.name);
        }
        if (where.empty()) return;
        const std::string first = where.front();
        where.push_back(part.ref);
        out.push_back(raise("board.name-too-long", Severity::warn, Station::lights, where,
                            say("{} reads names of {} letters, “{}” has {}", part.ref,
                                board.name_length, first, longest),
                            "The board does not find it on its card. Shorten the name, there and "
                            "here.",
                            {{"letters", static_cast<double>(longest), ""},
                             {"letters read", static_cast<double>(board.name_length), ""}}));
    }

    /// Whether a blade that is out is felt, as wired and as set.
    void blade_out() const {
        const job::Config& c = f.job->config;
        const bool set = c.blade_out != job::BladeOut::unsensed;
        const auto reaches_sense = [&](const std::string& pad) {
            return !f.wiring
                        ->nearest(
                            pad, {job::Role::button}, job::Wiring::Through::nothing,
                            [](std::string_view at) {
                                return job::split_terminal(at).second == "sense";
                            },
                            [](auto) { return false; })
                        .empty();
        };
        if (set && !board.senses_blade) {
            out.push_back(raise("sense.board-can-not", Severity::warn, Station::harness, {part.ref},
                                say("{} does not feel whether a blade is in", part.ref),
                                say("It is set so that without one it {}.",
                                    job::word(c.blade_out)),
                                {{"feels it", 0, ""}}));
            return;
        }
        if (set && (c.sense_pad.empty() || !reaches_sense(c.sense_pad))) {
            out.push_back(raise(
                "sense.not-wired", Severity::warn, Station::harness, {part.ref},
                c.sense_pad.empty()
                    ? Message("No pad is named that feels whether a blade is in")
                    : say("{} leads to no contact that feels a blade", c.sense_pad),
                "The board takes the blade for out, or for in, at all times. Wire the pad to the "
                "sense contact of the socket.",
                {{"wires", 0, ""}}));
            return;
        }
        if (set || !board.senses_blade) return;
        for (const std::string& terminal : f.parts->find(part.type)->terminals)
            if (terminal[0] == 's' && reaches_sense(part.ref + "." + terminal)) {
                Finding finding = raise(
                    "sense.not-set", Severity::note, Station::harness, {part.ref},
                    say("{}.{} is wired to feel the blade, the board is not set to it", part.ref,
                        terminal),
                    "Set what it does without a blade.", {{"wires", 1, ""}});
                finding.proposed.push_back(
                    {"stay dark without a blade",
                     [pad = fmt::format("{}.{}", part.ref, terminal)](job::Job& job) {
                         job.config.blade_out = job::BladeOut::stays_dark;
                         job.config.sense_pad = pad;
                     }});
                out.push_back(std::move(finding));
            }
    }
};

} // namespace

void judge_board(const Facts& facts, std::vector<Finding>& out) {
    if (const auto board = job::first_of<catalogue::Board>(*facts.job, *facts.parts)) {
        const AtBoard at{facts, *board.part, *board.figures, out};
        at.pixels();
        at.buttons();
        at.presets();
        at.blade_out();
    }
}

} // namespace conductus::findings
