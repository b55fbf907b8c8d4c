// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lights/chains.h"

#include <algorithm>
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
    Walk(const job::Job& job, const catalogue::Catalogue& parts, const job::Wiring& wiring)
        : job_(job), parts_(parts), wiring_(wiring) {
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
            const auto& figures = parts_.find(part.type)->figures;
            const auto pixels = catalogue::pixels_in(figures);
            if (!pixels) continue;
            if (std::holds_alternative<catalogue::Connector>(figures))
                g.kind = Group::Kind::connector;
            g.pixel = pixels->pixel.empty() ? part.type : std::string(pixels->pixel);
            g.pixels = pixels->count;
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
        if (!hangs_on(pad)) return;
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
        wiring_.each_wire_at(terminal, [&](const job::Wiring::Joint& joint) {
            if (joint.role != job::Role::data) return;
            const std::string to(joint.to);
            if (!seen_.insert(to).second) return;
            Signal next = as;
            next.terminal = to;
            queue.push_back(std::move(next));
            leave(to, as, queue); // wires go on from a shared joint
        });
    }
    [[nodiscard]] bool hangs_on(const std::string& terminal) const {
        return wiring_.is_wired(terminal, {job::Role::data});
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
            if (!hangs_on(strip.ref + ".data")) hear(strip.ref, signal, chain, queue);
    }

    void arrive(Signal signal, Chain& chain, std::vector<Signal>& queue) {
        const auto [owner, terminal] = job::split_terminal(signal.terminal);
        const std::string ref(owner);
        if (const job::Part* part = job::find_ref(job_.parts, ref)) {
            // Through what carries data: resistors as they come, shifters from in to out.
            bool through = false;
            wiring_.each_across(signal.terminal, [&](const job::Wiring::Inside& inside) {
                if (inside.carries == catalogue::Pass::Carries::supply || through) return;
                through = true;
                Signal behind = signal;
                if (inside.how == catalogue::Pass::How::converts)
                    behind.shifter = ref;
                else if (const auto* r = parts_.find_as<catalogue::Resistor>(part->type))
                    behind.series += job::resistance_of(*part, *r);
                pass(std::string(inside.to), behind, queue);
            });
            if (through) return;
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
    const job::Wiring& wiring_;
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

Chains chains_of(const job::Job& job, const catalogue::Catalogue& parts,
                 const job::Wiring& wiring) {
    return Walk(job, parts, wiring).run();
}

Chains chains_of(const job::Job& job, const catalogue::Catalogue& parts) {
    return chains_of(job, parts, job::Wiring(job, parts));
}

} // namespace conductus::lights
