// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/faces.h"

#include <cmath>
#include <fmt/format.h>
#include <numbers>
#include <optional>

#include "core/job/lookup.h"

namespace conductus::harness {
namespace {

/// Contacts nearer than this stand in rows; spring pins need more room for their barrels.
constexpr double row_pitch = 3; // mm

/// Empty: nothing. Of a blade's connector all contacts of a pole are one wire.
std::optional<Carried> carried(std::string_view pin, const Carries& carries) {
    if (!carries.empty()) {
        const auto it = carries.find(pin);
        return it == carries.end() ? std::nullopt : std::optional(it->second);
    }
    const auto pole = pin.substr(0, pin.find_first_of("0123456789"));
    if (pole == "seg" || pole == "flash")
        return Carried{std::string(pin), job::Role::return_path};
    return Carried{std::string(pole), pole == "plus"    ? job::Role::supply
                                      : pole == "minus" ? job::Role::return_path
                                                        : job::Role::data};
}

} // namespace

Face face_of(const catalogue::PartType& type) {
    Face face;
    const auto& c = std::get<catalogue::Connector>(type.figures);
    // A connector across the hilt stands in a box: its face is round within that.
    face.radius = type.body.shape == catalogue::Body::Shape::cylinder
                      ? type.body.diameter.value() / 2
                      : std::min(type.body.length, type.body.width).value() / 2;
    const double pitch = c.pitch.value() > 0 ? c.pitch.value() : 4;
    auto add = [&](const char* name, int n, double x, double y) {
        face.contacts.push_back({fmt::format("{}{}", name, n), x, y});
    };
    if (pitch < row_pitch) {
        face.layout = Face::Layout::rows;
        // Plus and data above, minus below: the shortest way to its own kind for each.
        const int above = c.plus_pins + c.data_pins, below = c.minus_pins;
        for (int i = 0; i < above; ++i)
            add(i < c.plus_pins ? "plus" : "data", i < c.plus_pins ? i + 1 : i - c.plus_pins + 1,
                (i - (above - 1) / 2.0) * pitch, pitch / 2);
        for (int i = 0; i < below; ++i)
            add("minus", i + 1, (i - (below - 1) / 2.0) * pitch, -pitch / 2);
        return face;
    }
    for (int i = 0; i < c.data_pins; ++i)
        add("data", i + 1, i * pitch, 0);
    auto ring = [&](const char* name, int count, double radius, double first) {
        for (int i = 0; i < count; ++i) {
            const double angle = first + 2 * std::numbers::pi * i / count;
            add(name, i + 1, radius * std::sin(angle), radius * std::cos(angle));
        }
    };
    if (c.segments > 0) {
        // The supply stands in a row in the middle, the segments round it.
        const int middle = c.plus_pins + c.minus_pins;
        for (int i = 0; i < middle; ++i)
            add(i < c.plus_pins ? "plus" : "minus", i < c.plus_pins ? i + 1 : i - c.plus_pins + 1,
                (i - (middle - 1) / 2.0) * std::min(pitch, 3.0), 0);
    } else {
        ring("plus", c.plus_pins, pitch, 0);
        ring("minus", c.minus_pins, std::min(2 * pitch, face.radius - 1), std::numbers::pi);
    }
    // Segments stand round the rim, the flash row's contact behind the last.
    const int rim = c.segments + (c.flash_pin ? 1 : 0);
    for (int i = 0; i < rim; ++i) {
        const double angle = 2 * std::numbers::pi * (i + 0.5) / rim;
        const double r = std::min(3 * pitch, face.radius - 1);
        face.contacts.push_back({i < c.segments ? fmt::format("seg{}", i + 1) : "flash",
                                 r * std::sin(angle), r * std::cos(angle)});
    }
    return face;
}

Face mirrored(const Face& face) {
    Face other = face;
    for (Contact& c : other.contacts)
        c.x = -c.x;
    return other;
}

Carries carries_of(const std::vector<hilt::Rail>& rails, const job::Job& job,
                   std::string_view dock) {
    Carries carries;
    for (const hilt::Rail& rail : rails)
        for (const std::string& pin : rail.pins)
            if (rail.dock == dock)
                carries[pin] = {rail.wire, job::find_ref(job.wires, rail.wire)->role};
    return carries;
}

std::vector<Touch> wrong_way(const Face& face, const Carries& carries) {
    std::vector<Touch> touches;
    if (face.layout == Face::Layout::rings) return touches;
    for (const Contact& a : face.contacts)
        for (const Contact& b : face.contacts) {
            // The mate's contact lies where the pin is; half round it lies opposite.
            if (std::hypot(a.x + b.x, a.y + b.y) > 0.6) continue; // half a contact
            const auto p = carried(a.pin, carries), q = carried(b.pin, carries);
            if (!p || !q || p->wire == q->wire) continue;
            // Data on the return is only a dark blade.
            const bool supply = p->role == job::Role::supply, other = q->role == job::Role::supply;
            touches.push_back({a.pin, b.pin, supply != other});
        }
    return touches;
}

} // namespace conductus::harness
