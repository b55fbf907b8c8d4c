// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/diagnose/words.h"

#include <fmt/format.h>

#include "core/base/format.h"
#include "core/job/lookup.h"

namespace conductus::diagnose {

Message words_of(const job::Job& job, const Measure& m, bool turned) {
    Message at;
    switch (m.what) {
    case Quantity::amps:
        at = say("current out of {}", std::string(job::split_terminal(m.from).first));
        break;
    case Quantity::pixels:
        at = say("pixels of {} that are lit", m.from);
        break;
    case Quantity::decibels:
        at = "loudness at a metre";
        break;
    case Quantity::seen:
        at = m.from;
        break;
    default: {
        at = say("{} to {}", m.from, m.to);
        for (const job::Wire& w : job.wires)
            if ((w.from == m.from && w.to == m.to) || (w.from == m.to && w.to == m.from))
                at = say("{} from end to end, {} to {}", w.ref, m.from, m.to);
    }
    }
    return turned ? say("{}, while it is turned", at) : at;
}

Message state_words(const World& world, const std::string& state) {
    if (state == cell_out) return "cell out, kill closed";
    if (state == kill_open) return "cell out, kill open";
    if (state == "killed") return "cell in, kill open";
    if (state == "asleep") return "asleep";
    if (state == "idle") return "idle, nothing lit";
    for (const job::Effect& e : world.job().effects)
        if (e.name == state) return say("lit, during {}", state);
    return say("lit with {}", state);
}

std::string value_words(Quantity what, double value) {
    switch (what) {
    case Quantity::ohms:
        return value >= 5e4 ? "open" : with_unit(value, "Ohm");
    case Quantity::pixels:
        return fmt::format("{:.0f} pixels", value);
    case Quantity::decibels:
        return fmt::format("{:.0f} dB", value);
    case Quantity::seen:
        return value > 0.5 ? "yes" : "no";
    default:
        return with_unit(value, unit_of(what));
    }
}

Message mend_words(const Fault& fault) {
    const std::string& id = fault.id;
    const auto is = [&](std::string_view begins) { return id.starts_with(begins); };
    if (is("open W") || is("joint")) return say("Solder {} again at both ends", fault.where);
    if (is("pad")) return say("Solder {} to the pad that the plan names", fault.where);
    if (is("touch")) return say("Part what touches at {}, and insulate it", fault.where);
    if (is("worn") || is("open") || is("turned"))
        return say("Clean the contacts of {} and bend its spring, or replace it", fault.where);
    if (is("stuck")) return say("Replace {}: it does not open", fault.where);
    if (is("dead") || is("shorted"))
        return say("Move the light to another pad of {}, or replace the board", fault.where);
    if (is("weak")) return say("Replace {}: it is worn out", fault.where);
    if (is("flat")) return say("Charge {}", fault.where);
    if (is("reversed")) return say("Turn {} round, and mark the bay", fault.where);
    if (is("pixel")) return say("Replace the dead pixel of {}", fault.where);
    if (is("data")) return say("Look at the data joint at the foot of {}", fault.where);
    if (is("setting")) return "Correct the setting, and copy it to the card";
    if (is("missing")) return "Copy the font to the card";
    return say("Replace {}", fault.where);
}

} // namespace conductus::diagnose
