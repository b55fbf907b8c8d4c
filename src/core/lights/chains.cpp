// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lights/chains.h"

#include <algorithm>
#include <map>
#include <set>

#include "core/job/lookup.h"

namespace conductus::lights {
namespace {

/// Data on its way along a wire.
struct Signal {
    std::string terminal;
    int index = 0;
    std::string before, shifter;
    Ohm series;
};

class Walk {
public:
    Walk(const job::Job& job, const catalogue::Catalogue& parts) : job_(job), parts_(parts) {
        for (const job::Wire& w : job.wires) {
            if (w.role != job::Role::data) continue;
            ends_.emplace(w.from, w.to);
            ends_.emplace(w.to, w.from);
        }
        list_groups();
    }

    Chains run() {
        for (const job::Part& part : job_.parts) {
            if (!parts_.find_as<catalogue::Board>(part.type)) continue;
            for (const std::string& terminal : parts_.find(part.type)->terminals)
                if (terminal[0] == 'd') follow(part.ref + "." + terminal);
        }
        return std::move(chains_);
    }

private:
    void list_groups() {
        for (const job::Part& part : job_.parts) {
            Group g;
            g.ref = g.owner = part.ref;
            g.kind = Group::Kind::accent;
            if (const auto* one = parts_.find_as<catalogue::Pixel>(part.type); one) {
                g.pixel = part.type;
            } else if (const auto* many = parts_.find_as<catalogue::PixelGroup>(part.type)) {
                g.pixel = many->pixel;
                g.pixels = many->count;
            } else if (const auto* c = parts_.find_as<catalogue::Connector>(part.type);
                       c && c->pixels > 0) {
                g.kind = Group::Kind::connector;
                g.pixel = c->pixel;
                g.pixels = c->pixels;
            } else {
                continue;
            }
            chains_.groups.push_back(std::move(g));
        }
        for (const job::Blade& blade : job_.blades)
            for (const job::Strip& strip : blade.strips) {
                Group g;
                g.ref = strip.ref;
                g.owner = blade.ref;
                g.pixel = parts_.find_as<catalogue::Strip>(strip.type)->pixel;
                g.pixels = strip.pixels;
                chains_.groups.push_back(std::move(g));
            }
    }

    void follow(const std::string& pad) {
        if (!ends_.contains(pad)) return;
        Chain chain;
        chain.pad = pad;
        for (const job::Line& line : job_.lines)
            if (line.pad == pad) chain.programmed = line.pixels;
        seen_.insert(pad);
        std::vector<Signal> queue;
        leave(pad, {}, queue);
        for (std::size_t i = 0; i < queue.size(); ++i) {
            const Signal signal = queue[i]; // the queue grows
            arrive(signal, chain, queue);
        }
        if (!chain.groups.empty()) chains_.chains.push_back(std::move(chain));
    }

    /// Puts what the wires at an output lead to into the queue.
    void leave(const std::string& terminal, const Signal& as, std::vector<Signal>& queue) {
        const auto [begin, end] = ends_.equal_range(terminal);
        for (auto it = begin; it != end; ++it) {
            if (!seen_.insert(it->second).second) continue;
            Signal next = as;
            next.terminal = it->second;
            queue.push_back(std::move(next));
            leave(it->second, as, queue); // wires go on from a shared joint
        }
    }

    /// A group hears `signal`; its output goes on.
    void hear(const std::string& ref, const Signal& signal, Chain& chain,
              std::vector<Signal>& queue) {
        for (std::size_t i = 0; i < chains_.groups.size(); ++i) {
            Group& g = chains_.groups[i];
            if (g.ref != ref || !g.line.empty()) continue;
            g.line = chain.pad;
            g.first = signal.index;
            g.before = signal.before;
            g.shifter = signal.shifter;
            g.series = signal.series;
            for (const std::size_t other : chain.groups)
                chain.mirrored |=
                    chains_.groups[other].first < g.first + g.pixels &&
                    g.first < chains_.groups[other].first + chains_.groups[other].pixels;
            chain.groups.push_back(i);
            chain.longest = std::max(chain.longest, g.first + g.pixels);
            leave(ref + ".out", {{}, g.first + g.pixels, ref, {}, {}}, queue);
        }
    }

    void blade(const job::Blade& blade, const Signal& signal, Chain& chain,
               std::vector<Signal>& queue) {
        for (const job::Strip& strip : blade.strips)
            if (!ends_.contains(strip.ref + ".data")) hear(strip.ref, signal, chain, queue);
    }

    void arrive(Signal signal, Chain& chain, std::vector<Signal>& queue) {
        const auto [owner, terminal] = job::split_terminal(signal.terminal);
        const std::string ref(owner);
        if (const job::Part* part = job::find_ref(job_.parts, ref)) {
            if (const auto* r = parts_.find_as<catalogue::Resistor>(part->type)) {
                signal.series += job::resistance_of(*part, *r);
                return pass(ref + (terminal == "a" ? ".b" : ".a"), signal, queue);
            }
            if (parts_.find_as<catalogue::Shifter>(part->type)) {
                if (terminal != "in") return;
                signal.shifter = ref;
                return pass(ref + ".out", signal, queue);
            }
            if (terminal != "data") return;
            if (parts_.find_as<catalogue::Connector>(part->type)) {
                hear(ref, signal, chain, queue);
                if (const Group* lit = chains_.group(ref)) {
                    signal.index = lit->first + lit->pixels;
                    signal.before = ref;
                    signal.shifter.clear();
                    signal.series = {};
                }
                for (const job::Blade& b : job_.blades)
                    if (b.connector == ref) blade(b, signal, chain, queue);
                return;
            }
            return hear(ref, signal, chain, queue);
        }
        if (terminal != "data") return;
        if (const job::Blade* b = job::find_ref(job_.blades, ref))
            return blade(*b, signal, chain, queue);
        hear(ref, signal, chain, queue);
    }

    void pass(const std::string& terminal, const Signal& signal, std::vector<Signal>& queue) {
        if (seen_.insert(terminal).second) leave(terminal, signal, queue);
    }

    const job::Job& job_;
    const catalogue::Catalogue& parts_;
    std::multimap<std::string, std::string> ends_;
    std::set<std::string> seen_;
    Chains chains_;
};

} // namespace

const Group* Chains::group(std::string_view ref) const { return job::find_ref(groups, ref); }

const Chain* Chains::chain(std::string_view pad) const {
    const auto it =
        std::find_if(chains.begin(), chains.end(), [&](const Chain& c) { return c.pad == pad; });
    return it == chains.end() ? nullptr : &*it;
}

Chains chains_of(const job::Job& job, const catalogue::Catalogue& parts) {
    return Walk(job, parts).run();
}

} // namespace conductus::lights
