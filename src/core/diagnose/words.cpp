// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/diagnose/words.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <utility>

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
    case Quantity::volts: // no finer than a meter shows
        return with_unit(std::round(value * 1e5) / 1e5, "V");
    default:
        return with_unit(std::round(value * 1e6) / 1e6, "A");
    }
}

Result<double> value_typed(Quantity what, const std::string& typed) {
    std::string text;
    for (const char c : typed)
        if (c != ' ') text += c == ',' ? '.' : c;
    // Thin and hard spaces, as figures are shown with.
    for (const char* space : {"\u2009", "\u202f", "\u00a0"})
        for (std::size_t at; (at = text.find(space)) != std::string::npos;)
            text.erase(at, std::string_view(space).size());
    for (std::size_t at; (at = text.find("\u2212")) != std::string::npos;) {
        text[at] = '-'; // a true minus has three bytes
        text.erase(at + 1, 2);
    }
    const auto is = [&](std::initializer_list<const char*> all) {
        return std::any_of(all.begin(), all.end(), [&](const char* word) { return text == word; });
    };
    if (what == Quantity::seen) {
        if (is({"yes", "y", "1", "ok", "fine"})) return 1;
        if (is({"no", "n", "0", "not"})) return 0;
        return problem("what was seen", say("'{}' is neither yes nor no", shown(typed, 40)),
                       "Type yes or no");
    }
    if (what == Quantity::ohms && is({"open", "OL", "ol", "Open"})) return 1e6;
    const char* begin = text.data();
    if (*begin == '+') ++begin;
    double value = 0;
    const auto [end, error] = std::from_chars(begin, text.data() + text.size(), value);
    const std::string unit = text.substr(static_cast<std::size_t>(end - text.data()));
    struct Unit {
        Quantity what;
        const char* word;
        double times;
    };
    static constexpr Unit units[] = {
        {Quantity::volts, "", 1},        {Quantity::volts, "V", 1},
        {Quantity::volts, "mV", 1e-3},   {Quantity::amps, "", 1},
        {Quantity::amps, "A", 1},        {Quantity::amps, "mA", 1e-3},
        {Quantity::amps, "uA", 1e-6},    {Quantity::amps, "µA", 1e-6},
        {Quantity::ohms, "", 1},         {Quantity::ohms, "Ohm", 1},
        {Quantity::ohms, "ohm", 1},      {Quantity::ohms, "Ω", 1},
        {Quantity::ohms, "Ω", 1},        {Quantity::ohms, "mOhm", 1e-3},
        {Quantity::ohms, "mohm", 1e-3},  {Quantity::ohms, "mΩ", 1e-3},
        {Quantity::ohms, "mΩ", 1e-3},    {Quantity::ohms, "kOhm", 1e3},
        {Quantity::ohms, "kohm", 1e3},   {Quantity::ohms, "kΩ", 1e3},
        {Quantity::ohms, "k", 1e3},      {Quantity::pixels, "", 1},
        {Quantity::pixels, "pixels", 1}, {Quantity::decibels, "", 1},
        {Quantity::decibels, "dB", 1}};
    if (error == std::errc() && std::isfinite(value) && std::abs(value) < 1e9)
        for (const Unit& u : units)
            if (u.what == what && unit == u.word) return value * u.times;
    const std::string wanted = what == Quantity::volts    ? "3.71 V or 3710 mV"
                               : what == Quantity::amps   ? "1.2 A or 90 mA"
                               : what == Quantity::ohms   ? "120 mOhm, 4.7 kOhm or open"
                               : what == Quantity::pixels ? "117"
                                                          : "78 dB";
    return problem("the reading", say("'{}' is no reading of {}", shown(typed, 40), unit_of(what)),
                   say("Type it like {}", wanted));
}

Message mend_words(const Fault& fault) {
    const std::string& id = fault.id;
    const auto is = [&](std::string_view begins) { return id.starts_with(begins); };
    // A resistor of a line of data: what is open and no wire, and leaves pixels dark.
    if (is("open") && fault.signal.empty() &&
        std::any_of(fault.does.begin(), fault.does.end(),
                    [](const Alteration& a) { return a.kind == Alteration::Kind::dark_from; }))
        return say("Replace {} by what the plan names", fault.where);
    if (is("open W") || is("joint")) return say("Solder {} again at both ends", fault.where);
    if (is("pad")) return say("Solder {} to the pad that the plan names", fault.where);
    if (is("swap")) return say("Change {} for its neighbour at the board", fault.where);
    if (is("wrong")) return say("Replace {} by what the plan names", fault.where);
    if (is("latching")) return say("Replace {} by a button that does not latch", fault.where);
    if (is("loose")) return say("Fasten {}, and solder its supply again", fault.where);
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
