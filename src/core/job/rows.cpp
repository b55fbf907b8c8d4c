// SPDX-License-Identifier: GPL-3.0-or-later
// Rows of the lists of a job: counted, added with the usual values, taken out with what hung on
// them.
#include <algorithm>
#include <fmt/format.h>

#include "core/job/lookup.h"
#include "core/job/names.h"
#include "core/job/place_walk.h"
#include "core/job/places.h"

namespace conductus::job {
namespace {

// What a new element of a list starts with.
template <class T>
T fresh(const Job&, const std::vector<T>&) {
    return {};
}
Wire fresh(const Job& job, const std::vector<Wire>& list) {
    Wire w;
    w.ref = free_ref(job, "W");
    for (int n = 1; &list == &job.built && find_ref(list, w.ref); ++n)
        w.ref = fmt::format("W{}", n);
    return w;
}
template <class T>
std::string numbered(const std::vector<T>& list, const char* stem) {
    for (std::size_t n = list.size() + 1;; ++n)
        if (const std::string name = fmt::format("{} {}", stem, n); !find_name(list, name))
            return name;
}
Joint fresh(const Job&, const std::vector<Joint>& list) {
    Joint j;
    j.name = numbered(list, "joint");
    return j;
}
Fastener fresh(const Job&, const std::vector<Fastener>& list) {
    Fastener f;
    f.name = numbered(list, "screw");
    return f;
}
Opening fresh(const Job&, const std::vector<Opening>& list) {
    Opening o;
    o.name = numbered(list, "opening");
    o.length = o.width = Millimetre(5);
    return o;
}
SocketBore fresh(const Job& job, const std::vector<SocketBore>& list) {
    SocketBore b;
    b.bore = !list.empty()                         ? list.back().bore
             : job.hilt.socket.nominal.value() > 1 ? job.hilt.socket.nominal
                                                   : Millimetre(25.7);
    return b;
}
SideBore fresh(const Job& job, const std::vector<SideBore>& list) {
    if (!list.empty()) return {list.back().socket, {}, list.back().bore};
    SideBore b;
    b.bore = Millimetre(19.4);
    for (const Blade& blade : job.blades)
        if (blade.angle != Degree(0) && !blade.connector.empty() && b.socket.empty())
            b = {blade.connector, {}, blade.outer + Millimetre(0.3)};
    return b;
}
Carrier fresh(const Job& job, const std::vector<Carrier>&) {
    Carrier c;
    c.ref = free_ref(job, "C");
    c.wall = Millimetre(1.2);
    return c;
}
Effect fresh(const Job&, const std::vector<Effect>& list) {
    Effect e;
    e.name = numbered(list, "effect");
    e.colour = {1, 1, 1, 0};
    e.lasts = Second(0.2);
    return e;
}
Line fresh(const Job&, const std::vector<Line>&) { return {"", 1}; }
Stretch fresh(const Job& job, const std::vector<Stretch>& list) {
    Stretch s;
    s.name = numbered(list, "stretch");
    for (const Blade& blade : job.blades)
        for (const Strip& strip : blade.strips)
            if (s.of.empty()) s.of = strip.ref, s.last = strip.pixels;
    return s;
}
Preset fresh(const Job& job, const std::vector<Preset>& list) {
    Preset p;
    p.name = numbered(list, "preset");
    if (!job.looks.empty()) p.look = job.looks.front().name;
    return p;
}
Plug fresh(const Job& job, const std::vector<Plug>&) {
    Plug p;
    p.ref = free_ref(job, "PG");
    return p;
}
HandState fresh(const Job&, const std::vector<HandState>& list) {
    HandState s;
    s.name = numbered(list, "state");
    return s;
}
TriggerButton fresh(const Job&, const std::vector<TriggerButton>&) { return {}; }
Command fresh(const Job& job, const std::vector<Command>& list) {
    Command c;
    c.name = numbered(list, "command");
    if (!list.empty())
        c.state = list.back().state;
    else if (!job.handling.states.empty())
        c.state = job.handling.states.front().name;
    c.trigger.motion = Motion::tap; // a trigger is something that a person does
    return c;
}
Rehearsed fresh(const Job&, const std::vector<Rehearsed>&) { return {}; }
FontSound fresh(const Job&, const std::vector<FontSound>&) { return {}; }
CardFile fresh(const Job&, const std::vector<CardFile>&) { return {}; }
MeantDifference fresh(const Job&, const std::vector<MeantDifference>&) { return {}; }
PresetTold fresh(const Job&, const std::vector<PresetTold>& list) {
    PresetTold p;
    p.name = numbered(list, "preset");
    return p;
}
BenchReading fresh(const Job&, const std::vector<BenchReading>& list) {
    BenchReading r;
    r.state = list.empty() ? std::string("idle") : list.back().state;
    if (r.state.empty()) r.state = "idle";
    return r;
}
BenchSymptom fresh(const Job&, const std::vector<BenchSymptom>&) { return {}; }
BenchTried fresh(const Job&, const std::vector<BenchTried>&) { return {}; }
BenchMend fresh(const Job&, const std::vector<BenchMend>&) { return {}; }
Practised fresh(const Job&, const std::vector<Practised>&) { return {}; }
DischargePoint fresh(const Job&, const std::vector<DischargePoint>&) { return {}; }
DischargeLog fresh(const Job&, const std::vector<DischargeLog>&) { return {}; }
MotionTest fresh(const Job&, const std::vector<MotionTest>&) {
    MotionTest m;
    m.movement = "swing";
    return m;
}
ButtonUse fresh(const Job&, const std::vector<ButtonUse>& list) {
    return {"", list.empty() ? "main" : "second"};
}
Phase fresh(const Job&, const std::vector<Phase>&) {
    Phase p;
    p.lasts = Minute(10);
    return p;
}

struct Counts : PassesOver {
    std::size_t out = 0;

    template <class T>
    void list(const T& v) {
        out = v.size();
    }
};

/// Changes a list of the job: adds to it, or takes one out.
struct Changes : PassesOver {
    explicit Changes(const Job& of, std::optional<std::size_t> which = {}) : job(of), out(which) {}
    const Job& job;
    std::optional<std::size_t> out; ///< which one to take out; nothing: one is added
    bool found = false;

    template <class T>
    void list(std::vector<T>& v) {
        if (!out) {
            found = true;
            v.push_back(fresh(job, v));
        } else if (*out < v.size()) {
            found = true;
            v.erase(v.begin() + static_cast<std::ptrdiff_t>(*out));
        }
    }
};

} // namespace

std::size_t count_at(const Job& job, std::string_view list) {
    Counts counts;
    Walk<Counts> walk(list, counts);
    describe(walk, job);
    return counts.out;
}

Edit add_at(std::string list) {
    return [list = std::move(list)](Job& job) -> Result<void> {
        if (list == "/hilt/sections") return add_section(job.hilt), Result<void>{};
        Changes changes(job);
        Walk<Changes> walk(list, changes);
        describe(walk, job);
        return changes.found ? Result<void>{} : nowhere(list);
    };
}

Edit take_out_at(std::string element) {
    return [element = std::move(element)](Job& job) -> Result<void> {
        const auto [list, index] = split_element(element);
        if (!index || *index >= count_at(job, list)) return nowhere(element);
        const std::size_t i = *index;
        if (list == "/hilt/sections") return remove_section(job.hilt, i), Result<void>{};
        if (list == "/parts") return remove_part(job.parts[i].ref)(job);
        if (list == "/hilt/carriers")
            for (Part& part : job.parts)
                if (part.carrier == job.hilt.carriers[i].ref) part.carrier.clear();
        if (list == "/stretches")
            for (Look& look : job.looks)
                std::erase_if(look.lights,
                              [&](auto& s) { return s.light == job.stretches[i].name; });
        const std::string gone = list == "/looks" ? job.looks[i].name : std::string();
        Changes changes(job, i);
        Walk<Changes> walk(list, changes);
        describe(walk, job);
        if (!gone.empty()) {
            if (job.use.look == gone) job.use.look = job.looks.empty() ? "" : job.looks[0].name;
            for (Use& use : job.uses)
                if (use.look == gone) use.look.clear();
        }
        return {};
    };
}

} // namespace conductus::job
