// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/data_map.h"

#include <algorithm>
#include <fmt/format.h>

#include "core/harness/derive.h"
#include "core/harness/nets.h"
#include "core/job/lookup.h"

namespace conductus::harness {
namespace {

using catalogue::Catalogue;
using job::Job;

std::string owner(const std::string& pad) { return std::string(job::split_terminal(pad).first); }

job::Edit set_line(std::string pad, int pixels) {
    return [pad = std::move(pad), pixels](Job& job) {
        for (job::Line& line : job.lines)
            if (line.pad == pad) {
                line.pixels = pixels;
                return;
            }
        job.lines.push_back({pad, pixels});
    };
}

/// Makes the line that many pixels long: the lights at its end take what is over or missing.
job::Edit fit_pixels(const std::vector<Range>& ranges, int pixels) {
    std::vector<std::string> last; // several that end there mirror each other
    int end = 0;
    for (const Range& r : ranges)
        end = std::max(end, r.last);
    for (const Range& r : ranges)
        if (r.last == end) last.push_back(r.ref);
    return [last, more = pixels - end](Job& job) {
        for (job::Blade& blade : job.blades)
            for (job::Strip& strip : blade.strips)
                if (std::find(last.begin(), last.end(), strip.ref) != last.end()) {
                    const int fit = std::max(1, strip.pixels + more);
                    strip.length = strip.length * fit / strip.pixels; // pixels keep their pitch
                    strip.pixels = fit;
                }
    };
}

class Reader {
public:
    Reader(const Job& job, const Catalogue& parts, const job::Wiring& wiring,
           const lights::Chains& chains)
        : job_(job), parts_(parts), wiring_(wiring), chains_(chains) {}

    DataMap run() {
        lines();
        buttons();
        if (!job_.lines.empty()) {
            moved_lines();
            odd_lines();
        }
        if (job_.config.buttons > 0 || !job_.config.pads.empty()) compare_buttons();
        return std::move(map_);
    }

private:
    void lines() {
        for (const std::string& pad : pads(job_, parts_, 'd')) {
            DataLine line;
            line.pad = pad;
            for (const job::Line& set : job_.lines)
                if (set.pad == pad) line.configured = set.pixels;
            if (const lights::Chain* chain = chains_.chain(pad)) {
                line.wired = line.suits = chain->longest;
                line.mirrored = chain->mirrors();
                for (const std::size_t i : chain->groups) {
                    const lights::Group& g = chains_.groups[i];
                    line.ranges.push_back({g.ref, g.first + 1, g.first + g.pixels});
                    if (g.before.empty()) {
                        line.series = std::max(line.series, g.series);
                        if (line.shifter.empty()) line.shifter = g.shifter;
                    }
                }
            }
            if (line.configured || line.wired > 0) map_.lines.push_back(std::move(line));
        }
    }

    void buttons() {
        map_.button_mode = job_.config.buttons;
        for (const std::string& pad : pads(job_, parts_, 's')) {
            ButtonLine line;
            line.pad = pad;
            const auto on = wiring_.reached({pad}, {job::Role::button}, Through::nothing);
            for (const job::Part& part : job_.parts)
                if (parts_.find_as<catalogue::Button>(part.type) &&
                    (on.contains(part.ref + ".a") || on.contains(part.ref + ".b"))) {
                    if (line.button.empty())
                        line.button = part.ref;
                    else
                        line.beside.push_back(part.ref);
                }
            for (const job::ButtonUse& use : job_.config.pads)
                if (use.pad == pad) line.use = use.use;
            map_.buttons_wired += !line.button.empty();
            if (!line.button.empty() || !line.use.empty()) map_.buttons.push_back(std::move(line));
        }
    }

    /// A pad that is set and bare beside one that is wired and not set: one is meant for the other.
    void moved_lines() {
        for (DataLine& bare : map_.lines) {
            if (!bare.configured || bare.wired > 0) continue;
            const DataLine* best = nullptr;
            for (const DataLine& other : map_.lines) {
                if (other.configured || other.wired == 0 || taken(other.pad)) continue;
                // The one of the same length is the likelier.
                if (!best || (other.wired == *bare.configured && best->wired != *bare.configured))
                    best = &other;
            }
            if (!best) continue;
            handled_.push_back(bare.pad), handled_.push_back(best->pad);
            Mismatch m;
            m.id = "config.line-elsewhere";
            m.where = {owner(bare.pad)};
            for (const Range& r : best->ranges)
                m.where.push_back(r.ref);
            m.text = say("{} is set to {} pixels and bare; {} hang on {}", bare.pad,
                         *bare.configured, best->wired, best->pad);
            m.detail = "Nothing lights up until both say the same pad.";
            m.set = *bare.configured, m.wired = best->wired;
            m.solder_text = fmt::format("solder {} to {}", best->pad, bare.pad);
            m.solder = move_pad(best->pad, bare.pad);
            m.config_text = fmt::format("set {} in its place", best->pad);
            m.config = [from = bare.pad, to = best->pad, n = best->wired](Job& job) {
                std::erase_if(job.lines, [&](const job::Line& line) { return line.pad == to; });
                for (job::Line& line : job.lines)
                    if (line.pad == from) line.pad = to, line.pixels = n;
            };
            map_.mismatches.push_back(std::move(m));
        }
    }
    [[nodiscard]] bool taken(const std::string& pad) const {
        return std::find(handled_.begin(), handled_.end(), pad) != handled_.end();
    }

    void odd_lines() {
        for (const DataLine& line : map_.lines) {
            if (taken(line.pad)) continue;
            Mismatch m;
            m.where = {owner(line.pad)};
            m.set = line.configured.value_or(0), m.wired = line.wired;
            if (line.configured && line.wired == 0) {
                m.id = "config.line-bare";
                m.text = say("{} is set to {} pixels, nothing is wired to it", line.pad,
                             *line.configured);
                m.detail = "Either lights are missing there, or the setting is of another build.";
                m.config_text = "take its setting out";
                m.config = [pad = line.pad](Job& job) {
                    std::erase_if(job.lines, [&](const job::Line& l) { return l.pad == pad; });
                };
            } else if (!line.configured) {
                m.id = "config.line-not-set";
                m.text = say("{} pixels hang on {}, which is not set", line.wired, line.pad);
                m.detail = "The board sends nothing there: they stay dark.";
                m.config_text = fmt::format("set {} to {} pixels", line.pad, line.wired);
                m.config = set_line(line.pad, line.wired);
                for (const DataLine& other : map_.lines)
                    if (other.configured && other.wired > 0 && m.solder_text.empty()) {
                        m.solder_text = fmt::format("solder them to {}, to mirror", other.pad);
                        m.solder = move_pad(line.pad, other.pad);
                    }
            } else if (*line.configured != line.wired) {
                m.id = "line.programmed-differs";
                m.text = say("{} is set to {} pixels, {} are fitted", line.pad, *line.configured,
                             line.wired);
                m.detail = *line.configured < line.wired
                               ? "The last ones stay dark."
                               : "The board draws a blade longer than it is: effects near the tip "
                                 "are lost.";
                m.config_text = fmt::format("program {}", line.wired);
                m.config = set_line(line.pad, line.wired);
                const bool strips =
                    std::all_of(line.ranges.begin(), line.ranges.end(), [&](const Range& r) {
                        return r.last != line.wired || job::find_ref(job_.parts, r.ref) == nullptr;
                    });
                if (strips) {
                    m.solder_text = fmt::format("fit {} pixels", *line.configured);
                    m.solder = fit_pixels(line.ranges, *line.configured);
                }
            } else {
                continue;
            }
            map_.mismatches.push_back(std::move(m));
        }
    }

    void compare_buttons() {
        std::vector<const ButtonLine*> bare, unset;
        for (const ButtonLine& line : map_.buttons) {
            if (line.button.empty() && !line.use.empty()) bare.push_back(&line);
            if (!line.button.empty() && line.use.empty() && !job_.config.pads.empty())
                unset.push_back(&line);
        }
        for (std::size_t i = 0; i < std::max(bare.size(), unset.size()); ++i) {
            Mismatch m;
            if (i < bare.size() && i < unset.size()) {
                m.id = "config.button-elsewhere";
                m.where = {unset[i]->button, owner(bare[i]->pad)};
                m.text = say("{} is the {} button and bare; {} is on {}", bare[i]->pad,
                             bare[i]->use, unset[i]->button, unset[i]->pad);
                m.detail = "Pressed, it does nothing, or what another button should do.";
                m.solder_text = fmt::format("solder {} to {}", unset[i]->button, bare[i]->pad);
                m.solder = move_pad(unset[i]->pad, bare[i]->pad);
                m.config_text = fmt::format("make {} the {} button", unset[i]->pad, bare[i]->use);
                m.config = [from = bare[i]->pad, to = unset[i]->pad](Job& job) {
                    for (job::ButtonUse& use : job.config.pads)
                        if (use.pad == from) use.pad = to;
                };
            } else if (i < bare.size()) {
                m.id = "config.button-bare";
                m.where = {owner(bare[i]->pad)};
                m.text = say("{} is set as the {} button, none is wired to it", bare[i]->pad,
                             bare[i]->use);
                m.detail = "What it should do can not be reached.";
                m.config_text = "take its setting out";
                m.config = [pad = bare[i]->pad](Job& job) {
                    std::erase_if(job.config.pads,
                                  [&](const job::ButtonUse& use) { return use.pad == pad; });
                };
            } else {
                m.id = "config.button-not-set";
                m.where = {unset[i]->button};
                m.text = say("{} is on {}, which is not set", unset[i]->button, unset[i]->pad);
                m.detail = "Pressed, it does nothing.";
                m.config_text = fmt::format("set {} as a button", unset[i]->pad);
                m.config = [pad = unset[i]->pad](Job& job) {
                    job.config.pads.push_back({pad, job.config.pads.empty() ? "main" : "second"});
                };
            }
            map_.mismatches.push_back(std::move(m));
        }
        if (map_.button_mode > 0 && map_.button_mode != map_.buttons_wired) {
            Mismatch m;
            m.id = "config.button-mode";
            m.set = map_.button_mode, m.wired = map_.buttons_wired;
            m.text = say("the board is set to {} {}, {} wired", map_.button_mode,
                         map_.button_mode == 1 ? "button" : "buttons",
                         map_.buttons_wired == 1 ? "1 is" : say("{} are", map_.buttons_wired));
            for (const ButtonLine& line : map_.buttons)
                if (!line.button.empty()) m.where.push_back(line.button);
            m.detail = "In the wrong mode a button is dead, or a command can not be given.";
            if (map_.buttons_wired >= 1 && map_.buttons_wired <= 3) {
                m.config_text = fmt::format("set it to {}", map_.buttons_wired);
                m.config = [n = map_.buttons_wired](Job& job) { job.config.buttons = n; };
            }
            std::vector<std::string> loose; // fitted, and on no pad
            for (const job::Part& part : job_.parts)
                if (parts_.find_as<catalogue::Button>(part.type) &&
                    std::none_of(map_.buttons.begin(), map_.buttons.end(),
                                 [&](const ButtonLine& l) {
                                     return l.button == part.ref ||
                                            std::find(l.beside.begin(), l.beside.end(),
                                                      part.ref) != l.beside.end();
                                 }))
                    loose.push_back(part.ref);
            if (map_.button_mode < map_.buttons_wired) {
                std::string last;
                for (const ButtonLine& line : map_.buttons)
                    if (!line.button.empty()) last = line.button;
                m.solder_text = fmt::format("take the wires of {} off", last);
                m.solder = [last](Job& job) {
                    std::erase_if(job.wires, [&](const job::Wire& w) {
                        return w.role == job::Role::button &&
                               (job::split_terminal(w.from).first == last ||
                                job::split_terminal(w.to).first == last);
                    });
                };
            } else if (!loose.empty()) {
                m.solder_text = fmt::format("solder {} to its pad", loose.front());
                m.solder = wire_missing(parts_, loose.front());
            }
            map_.mismatches.push_back(std::move(m));
        }
    }

    const Job& job_;
    const Catalogue& parts_;
    const job::Wiring& wiring_;
    const lights::Chains& chains_;
    DataMap map_;
    std::vector<std::string> handled_; ///< pads
};

} // namespace

std::string ButtonLine::named() const {
    if (beside.empty()) return button;
    std::vector<std::string> all{button};
    all.insert(all.end(), beside.begin(), beside.end());
    return conductus::joined(all, " and ") + " in parallel";
}

DataMap data_map(const Job& job, const Catalogue& parts, const job::Wiring& wiring,
                 const lights::Chains& chains) {
    return Reader(job, parts, wiring, chains).run();
}

job::Edit configure_as_wired(const Catalogue& parts) {
    return [&parts](Job& job) {
        const job::Wiring wiring(job, parts);
        const DataMap map = data_map(job, parts, wiring, lights::chains_of(job, parts, wiring));
        job.lines.clear();
        for (const DataLine& line : map.lines)
            if (line.wired > 0) job.lines.push_back({line.pad, line.wired});
        job.config.buttons = std::min(3, map.buttons_wired);
        job.config.pads.clear();
        constexpr const char* uses[] = {"main", "second", "third"};
        for (const ButtonLine& line : map.buttons)
            if (!line.button.empty())
                job.config.pads.push_back(
                    {line.pad, uses[std::min<std::size_t>(2, job.config.pads.size())]});
    };
}

job::Edit move_pad(std::string pad, std::string other) {
    return [pad = std::move(pad), other = std::move(other)](Job& job) {
        for (job::Wire& w : job.wires) {
            if (w.from == pad) w.from = other;
            if (w.to == pad) w.to = other;
        }
    };
}

} // namespace conductus::harness
