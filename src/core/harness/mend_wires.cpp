// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/mend_wires.h"

#include <algorithm>

#include "core/harness/nets.h"
#include "core/job/lookup.h"
#include "core/job/terminals.h"
#include "core/job/wiring.h"

namespace conductus::harness {
namespace {

void exchange_ends(job::Job& job, const std::string& a, const std::string& b) {
    for (job::Wire& w : job.wires)
        for (std::string* end : {&w.from, &w.to}) {
            if (*end == a)
                *end = b;
            else if (*end == b)
                *end = a;
        }
}

} // namespace

WireMend exchange(const std::string& a, const std::string& b) {
    return {say("exchange the wires at {} and {}", a, b),
            [a, b](job::Job& job) { exchange_ends(job, a, b); }};
}

WireMend turn_round(const std::string& cell) {
    return {say("turn {} round", cell),
            [cell](job::Job& job) { exchange_ends(job, cell + ".plus", cell + ".minus"); }};
}

WireMend move_end(const std::string& wire, const std::string& from, const std::string& to) {
    return {say("move {} from {} to {}", wire, from, to), [wire, from, to](job::Job& job) {
                auto* w = job::find_ref(job.wires, wire);
                if (!w) return;
                (w->from == from ? w->from : w->to) = to;
                w->length.reset(); // it goes another way now
                w->resistance.reset();
            }};
}

WireMend take_out(const std::string& wire) {
    return {say("take {} out", wire), [wire](job::Job& job) {
                std::erase_if(job.wires, [&](const job::Wire& w) { return w.ref == wire; });
                std::erase_if(job.soldered, [&](const job::Soldered& s) { return s.wire == wire; });
            }};
}

std::vector<WireMend> other_places(const job::Job& job, const catalogue::Catalogue& parts,
                                   const std::vector<std::string>& wires) {
    const job::Wiring wiring(job, parts);
    const auto terminals = job::terminals_of(job, parts);
    std::vector<WireMend> free, taken, out;
    for (const std::string& ref : wires) {
        const job::Wire* wire = job::find_ref(job.wires, ref);
        if (!wire) continue;
        for (const std::string& end : {wire->from, wire->to}) {
            const std::string& far = end == wire->from ? wire->to : wire->from;
            const std::string owner(job::split_terminal(end).first);
            const auto of_owner = terminals.find(owner);
            if (of_owner == terminals.end()) continue;
            for (const std::string& name : of_owner->second) {
                const std::string to = owner + "." + name;
                if (to == end || to == far || !takes_wire(job, parts, to, wire->role)) continue;
                (wiring.is_wired(to) ? taken : free).push_back(move_end(ref, end, to));
            }
        }
        out.push_back(take_out(ref));
    }
    free.insert(free.end(), std::make_move_iterator(taken.begin()),
                std::make_move_iterator(taken.end()));
    free.insert(free.end(), std::make_move_iterator(out.begin()),
                std::make_move_iterator(out.end()));
    return free;
}

} // namespace conductus::harness
