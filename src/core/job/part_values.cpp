// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/part_values.h"

#include <algorithm>
#include <fmt/format.h>

#include "core/catalogue/kinds.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"

namespace conductus::job {
namespace {

using catalogue::Catalogue;

/// Ids of the parts of the same kind.
std::vector<std::string> alike(const Catalogue& parts, const catalogue::PartType& type) {
    std::vector<std::string> ids;
    for (const std::string& id : parts.ids())
        if (parts.find(id)->figures.index() == type.figures.index()) ids.push_back(id);
    return ids;
}

template <class T>
std::vector<std::string> all_of_kind(const Catalogue& parts) {
    std::vector<std::string> ids;
    for (const catalogue::PartType* type : parts.all<T>())
        ids.push_back(type->id);
    return ids;
}

/// What a contact, a cell or a resistor of that type has.
std::optional<Ohm> resistance_in(const catalogue::PartType& type) {
    return std::visit(
        catalogue::EachKind{
            [](const catalogue::Cell& c) { return std::optional(c.resistance); },
            [](const catalogue::Kill& k) { return std::optional(k.contact); },
            [](const catalogue::Connector& c) { return std::optional(c.pin_resistance); },
            [](const catalogue::Resistor& r) { return std::optional(r.usual); },
            [](const catalogue::Fuse& f) { return std::optional(f.resistance); },
            [](const catalogue::Jack& j) { return std::optional(j.contact); },
            [](const auto&) { return std::optional<Ohm>(); }},
        type.figures);
}

std::vector<PartValue> of_part(const Job& job, const Catalogue& parts, std::size_t index) {
    const Part& part = job.parts[index];
    const catalogue::PartType& type = *parts.find(part.type);
    const auto stands = catalogue::kind_of(type.figures).stands;
    const std::string base = fmt::format("/parts/{}/", index);
    std::vector<PartValue> values;
    const auto value = [&](const char* key, Message name, std::string unit = {}) -> PartValue& {
        PartValue& v = values.emplace_back();
        v.at = base + key, v.name = std::move(name), v.unit = std::move(unit);
        return v;
    };
    value("ref", "called");
    PartValue& what = value("type", "type");
    what.choices = alike(parts, type), what.is_type = true;
    value("at_mm", "starts at", "mm");
    value("off_axis_mm", "up", "mm");
    value("side_mm", "to the side", "mm");
    if (type.body.shape != catalogue::Body::Shape::cylinder)
        value("turn_deg", "turned about the axis", "°");
    if (stands == catalogue::Stands::bore && !job.hilt.carriers.empty()) {
        PartValue& rides = value("carrier", "rides on");
        rides.may_be_empty = true;
        rides.otherwise = "nothing";
        for (const Carrier& c : job.hilt.carriers)
            rides.choices.push_back(c.ref);
    }
    if (const auto* cell = std::get_if<catalogue::Cell>(&type.figures)) {
        value("minus_faces", "its minus faces");
        value("top", "top");
        PartValue& protection = value("protection", "protection");
        protection.choices = all_of_kind<catalogue::Protection>(parts);
        protection.may_be_empty = true, protection.otherwise = "bare";
        PartValue& adapter = value("adapter", "adapter");
        for (const catalogue::PartType* a : parts.all<catalogue::Adapter>())
            if (std::get<catalogue::Adapter>(a->figures).takes == cell->size)
                adapter.choices.push_back(a->id);
        adapter.may_be_empty = true, adapter.otherwise = "none";
        PartValue& bay = value("bay", "held between");
        bay.choices = all_of_kind<catalogue::Bay>(parts);
        bay.may_be_empty = true;
        bay.otherwise =
            type.body.shape == catalogue::Body::Shape::cylinder ? "spring and plate" : "leads";
        Part unmeasured = part;
        unmeasured.bay_measured.reset();
        value("bay_Ohm", "measured bay contacts", "mΩ").otherwise =
            say("{} of the catalogue", text(bay_of(unmeasured, parts).contacts));
        value("measured/capacity_mAh", "measured capacity", "mAh").otherwise =
            say("{} of the catalogue", text(cell->capacity));
    }
    if (std::holds_alternative<catalogue::Resistor>(type.figures))
        value("chosen/resistance_Ohm", "chosen value", "Ω").otherwise =
            say("{} of the catalogue", text(*resistance_in(type)));
    if (const auto* driver = std::get_if<catalogue::Driver>(&type.figures))
        value("chosen/current_A", "set to", "A").otherwise =
            say("{} of the catalogue", text(driver->current));
    if (const auto* board = std::get_if<catalogue::Board>(&type.figures))
        value("chosen/sleep_after_s", "sleeps after", "s").otherwise =
            say("{} of the catalogue", with_unit(board->sleep_after.value(), "s"));
    if (const auto ohms = resistance_in(type)) {
        const bool pins = std::holds_alternative<catalogue::Connector>(type.figures);
        value("measured/resistance_Ohm",
              pins ? Message("measured, each pin") : Message("measured resistance"), "mΩ")
            .otherwise = say("{} of the catalogue", text(*ohms));
    }
    if (const auto* connector = std::get_if<catalogue::Connector>(&type.figures))
        for (const auto& [pole, count] :
             {std::pair{"plus", connector->plus_pins}, {"minus", connector->minus_pins}})
            for (int n = 1; n <= count; ++n) {
                PartValue& pin = values.emplace_back();
                pin.pin = fmt::format("{}{}", pole, n);
                pin.name = say("measured, pin {}", pin.pin);
                pin.unit = "mΩ", pin.may_be_empty = true;
                pin.otherwise = "as each pin";
            }
    value("note", "note");
    return values;
}

std::vector<PartValue> of_strip(const Job& job, const Catalogue& parts, std::size_t blade,
                                std::size_t index) {
    const Strip& strip = job.blades[blade].strips[index];
    const auto& type = *parts.find(strip.type);
    const auto& figures = std::get<catalogue::Strip>(type.figures);
    const std::string base = fmt::format("/blades/{}/strips/{}/", blade, index);
    std::vector<PartValue> values{
        {base + "ref", "called", {}, {}, false, false, {}},
        {base + "type", "type", {}, alike(parts, type), false, true, {}},
        {base + "pixels", "pixels", {}, {}, false, false, {}},
        {base + "length_mm", "length", "mm", {}, false, false, {}},
        {base + "lead_Ohm", "lead at the foot", "mΩ", {}, false, false, {}},
        {base + "rail_Ohm_per_m", "measured copper of a rail", "Ω/m", {}, true, false, {}}};
    values.back().otherwise = say("{} of the catalogue", with_unit(figures.rail.value(), "Ohm/m"));
    return values;
}

} // namespace

std::vector<PartValue> values_of(const Job& job, const Catalogue& parts, std::string_view ref) {
    for (std::size_t i = 0; i < job.parts.size(); ++i)
        if (job.parts[i].ref == ref) return of_part(job, parts, i);
    for (std::size_t b = 0; b < job.blades.size(); ++b) {
        const Blade& blade = job.blades[b];
        for (std::size_t s = 0; s < blade.strips.size(); ++s)
            if (blade.strips[s].ref == ref) return of_strip(job, parts, b, s);
        const std::string base = fmt::format("/blades/{}/", b);
        for (std::size_t s = 0; s < blade.strings.size(); ++s)
            if (blade.strings[s].ref == ref) {
                const auto& type = *parts.find(blade.strings[s].type);
                const std::string string = fmt::format("{}strings/{}/", base, s);
                return {{string + "ref", "called", {}, {}, false, false, {}},
                        {string + "type", "type", {}, alike(parts, type), false, true, {}}};
            }
        if (blade.ref != ref) continue;
        std::vector<PartValue> values{
            {base + "ref", "called", {}, {}, false, false, {}},
            {base + "length_mm", "length", "mm", {}, false, false, {}},
            {base + "outer_mm", "diameter", "mm", {}, false, false, {}},
            {base + "connector", "sits on", {}, {}, true, false, "nothing: wired to its pads"}};
        for (const Part& part : job.parts)
            if (parts.find_as<catalogue::Connector>(part.type))
                values.back().choices.push_back(part.ref);
        values.push_back({base + "stands_at_mm",
                          "its axis meets the hilt's at",
                          "mm",
                          {},
                          true,
                          false,
                          "where its connector is, or the mouth"});
        values.push_back({base + "angle_deg",
                          "points, from the axis; 90 is up",
                          "°",
                          {},
                          true,
                          false,
                          "straight on"});
        return values;
    }
    return {};
}

Edit picture_part(std::string ref, Picture picture) {
    return [ref = std::move(ref), picture = std::move(picture)](Job& job) -> Result<void> {
        for (std::size_t i = 0; i < job.inspection.size(); ++i)
            if (job.inspection[i].part == ref) return add_picture(i, picture)(job);
        Inspected item;
        item.item = ref;
        item.part = ref;
        job.inspection.push_back(std::move(item));
        return add_picture(job.inspection.size() - 1, picture)(job);
    };
}

} // namespace conductus::job
