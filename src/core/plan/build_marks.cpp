// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/build_marks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/job/words.h"
#include "core/power/state.h"

namespace conductus::plan {
namespace {

BuildMark figure(Message label, std::optional<double> value, std::string shown, int better) {
    return {std::move(label), value ? std::move(shown) : std::string(), value, better};
}

/// Contacts of pins and docks, and volts lost in them, in the look of the use.
struct Contacts {
    int count = 0;
    double volts = 0, ohms = 0;
};

std::optional<Contacts> contacts_of(const Plan& plan) {
    const auto used = power::look_named(*plan.job, plan.job->use.look);
    const LookPlan* look = used ? plan.look(used->name) : nullptr;
    if (!look || !look->fresh) return std::nullopt;
    const auto& n = look->fresh->network;
    const auto& p = look->fresh->point;
    Contacts c;
    double amps = 0, watts = 0;
    for (const double a : p.source_amps)
        amps = std::max(amps, std::abs(a));
    std::set<std::string> once;
    for (std::size_t i = 0; i < n.resistors.size(); ++i) {
        if (n.resistors[i].part != circuit::Part::pins) continue;
        once.insert(n.resistors[i].name);
        watts += p.resistor_amps[i] * p.resistor_amps[i] * n.resistors[i].ohms;
    }
    c.count = static_cast<int>(once.size());
    // As one resistance that the whole current goes through and that burns as much.
    c.ohms = amps > 0 ? watts / (amps * amps) : 0;
    c.volts = amps > 0 ? watts / amps : 0;
    return c;
}

/// The size of the largest cell that fits as it would lie, by capacity.
std::string largest_cell(const Plan& plan) {
    double most = 0;
    std::string name;
    for (const hilt::CellTrial& trial : plan.cell_trials) {
        const auto* cell = plan.parts->find_as<catalogue::Cell>(trial.type);
        const bool fits = trial.trial.clearance.spare >= plan.job->hilt.clearance;
        if (!cell || !fits || cell->capacity.value() <= most) continue;
        most = cell->capacity.value();
        name = fmt::format("{}, {}", cell->size, with_unit(most, "mAh"));
    }
    return name;
}

double cost_of(const Plan& plan) {
    double sum = 0;
    const auto add = [&](const std::string& id, double times = 1) {
        if (const auto* type = plan.parts->find(id)) sum += type->price * times;
    };
    for (const job::Part& part : plan.job->parts) {
        add(part.type);
        if (part.protection) add(*part.protection);
        if (part.adapter) add(*part.adapter);
    }
    for (const job::Blade& blade : plan.job->blades) {
        for (const job::Strip& strip : blade.strips)
            if (const auto* type = plan.parts->find(strip.type))
                add(strip.type, strip.length / type->body.length);
        for (const job::LedString& string : blade.strings)
            add(string.type);
    }
    return sum;
}

BuildMark access(const Plan& plan, Message label, const char* what) {
    const hilt::Access* to =
        plan.job->hilt.sections.empty() ? nullptr : plan.hilt_report.assembly.to(what);
    if (!to) return {std::move(label), {}, {}, -1};
    if (!to->possible) return {std::move(label), "not without taking all out", {}, -1};
    const auto steps = static_cast<double>(to->steps.size());
    std::string shown = to->steps.empty() ? "as it is"
                                          : fmt::format("{} {}", to->steps.size(),
                                                        to->steps.size() == 1 ? "step" : "steps");
    if (!to->keys.empty())
        shown += fmt::format(", {} {}", to->keys.size(), to->keys.size() == 1 ? "key" : "keys");
    return {std::move(label), std::move(shown), steps, -1};
}

} // namespace

job::Chassis chassis_of(const job::Hilt& hilt) {
    for (const job::Carrier& c : hilt.carriers) {
        if (c.kind == job::CarrierKind::cell_bay) continue;
        return c.kind == job::CarrierKind::fixed       ? job::Chassis::fixed
               : c.kind == job::CarrierKind::removable ? job::Chassis::removable
                                                       : job::Chassis::slide_out;
    }
    return hilt.chassis;
}

std::vector<BuildMark> build_marks(const Plan& plan) {
    std::vector<BuildMark> all;
    all.push_back({"chassis", std::string(job::word(chassis_of(plan.job->hilt))), {}, 0});
    const auto contacts = contacts_of(plan);
    const auto of_contacts = [&](auto get) {
        return contacts ? std::optional<double>(get(*contacts)) : std::nullopt;
    };
    const auto count = of_contacts([](const Contacts& c) { return double(c.count); });
    all.push_back(figure("contacts", count, count ? fmt::format("{:.0f}", *count) : "", -1));
    const auto ohms = of_contacts([](const Contacts& c) { return c.ohms; });
    all.push_back(figure("ohms of contacts", ohms, ohms ? text(Ohm(*ohms)) : "", -1));
    const auto lost = of_contacts([](const Contacts& c) { return c.volts; });
    all.push_back(figure("lost in contacts", lost, lost ? text(Volt(*lost)) : "", -1));
    const double wire = plan.harness.total.value();
    all.push_back(
        figure("wire", wire > 0 ? std::optional(wire) : std::nullopt, with_unit(wire, "mm"), -1));
    all.push_back({"largest cell", largest_cell(plan), {}, 0});
    all.push_back(access(plan, "to the cell", "cell"));
    all.push_back(access(plan, "to the card", "card"));
    const Explained* fit = plan.figure("tightest-fit");
    const auto spare = fit ? fit->value : std::nullopt;
    all.push_back(figure("tightest fit", spare, spare ? with_unit(*spare, "mm") : "", 1));
    const double cost = cost_of(plan);
    all.push_back(figure("parts, typically", cost > 0 ? std::optional(cost) : std::nullopt,
                         fmt::format("{:.0f} EUR", cost), -1));
    return all;
}

} // namespace conductus::plan
