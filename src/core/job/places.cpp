// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/places.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/base/parse.h"
#include "core/job/names.h"
#include "core/job/place_values.h"
#include "core/job/place_walk.h"
#include "core/job/tree.h"
#include "core/job/words.h"

namespace conductus::job {
namespace {

/// Whether the place is the reference or the name of an element of that list.
bool names(std::string_view at, std::string_view list, std::string_view key) {
    if (!at.starts_with(list) || !at.ends_with(key)) return false;
    const std::string_view between = at.substr(list.size(), at.size() - list.size() - key.size());
    return between.size() > 2 && between.front() == '/' && between.back() == '/' &&
           index_of(between.substr(1, between.size() - 2)).has_value();
}

/// Renames with everything that names the thing, where the place is such a name.
bool renamed(Job& job, std::string_view at, const std::string& was, const std::string& now) {
    const bool is_ref =
        at.ends_with("/ref") && !at.starts_with("/built/") && !at.starts_with("/variants/");
    if (is_ref)
        rename_ref(job, was, now);
    else if (names(at, "/looks", "name"))
        rename_look(job, was, now);
    else if (names(at, "/presets", "name"))
        rename_preset(job, was, now);
    else if (names(at, "/presets_found", "name"))
        rename_found(job, was, now);
    else if (names(at, "/effects", "name"))
        rename_effect(job, was, now);
    else if (names(at, "/handling/states", "name"))
        rename_state(job, was, now);
    else if (names(at, "/stretches", "name"))
        rename_stretch(job, was, now);
    else if (names(at, "/hilt/joints", "name"))
        rename_joint(job, was, now);
    else
        return false;
    return true;
}

/// The same of the boundaries between sections of the survey.
bool moved(Job& job, std::string_view at, const std::string& typed, Result<void>& done) {
    const bool from = names(at, "/hilt/sections", "from_mm");
    if (!from && !names(at, "/hilt/sections", "to_mm")) return false;
    const std::string_view inner = at.substr(std::string_view("/hilt/sections/").size());
    const auto index = index_of(inner.substr(0, inner.find('/')));
    if (!index || *index >= job.hilt.sections.size()) return false;
    const auto to = read_number(typed, {"mm", 1, true}, limits::place_mm);
    if (!to)
        done = tl::unexpected(to.error());
    else if (from && *index == 0)
        done = problem("", "the first section starts at 0", "Survey from the pommel end");
    else
        move_boundary(job.hilt, from ? *index - 1 : *index, Millimetre(*to));
    return true;
}

/// A blade made shorter than its strips cuts them along: as many pixels as are left.
bool cut(Job& job, std::string_view at, const std::string& typed, Result<void>& done) {
    if (!names(at, "/blades", "length_mm")) return false;
    const std::string_view inner = at.substr(std::string_view("/blades/").size());
    const auto index = index_of(inner.substr(0, inner.find('/')));
    if (!index || *index >= job.blades.size()) return false;
    const auto to = read_number(typed, {"mm", 1, true}, limits::length_mm);
    if (!to) {
        done = tl::unexpected(to.error());
        return true;
    }
    Blade& blade = job.blades[*index];
    blade.length = Millimetre(*to);
    for (Strip& strip : blade.strips) {
        if (strip.length <= blade.length) continue;
        strip.pixels = std::max(1, static_cast<int>(strip.pixels * (blade.length / strip.length)));
        strip.length = blade.length;
    }
    return true;
}

} // namespace

std::optional<std::string> typed_at(const Job& job, std::string_view at, std::string_view unit) {
    Shows shows{unit, {}};
    Walk<Shows> walk(at, shows);
    describe(walk, job);
    return shows.out;
}

std::vector<std::string_view> words_at(const Job& job, std::string_view at) {
    Offers offers;
    Walk<Offers> walk(at, offers);
    describe(walk, job);
    return offers.out;
}

Edit write_at(std::string at, std::string typed, std::string unit) {
    return [at = std::move(at), typed = trimmed(typed),
            unit = std::move(unit)](Job& job) -> Result<void> {
        const auto was = typed_at(job, at, unit);
        if (!was) return nowhere(at);
        if (*was == typed || renamed(job, at, *was, typed)) return {};
        Result<void> done;
        if (moved(job, at, typed, done) || cut(job, at, typed, done)) return done;
        const auto take = [&](Job& into) {
            Takes takes{typed, unit};
            Walk<Takes> walk(at, takes);
            describe(walk, into);
            return takes.done;
        };
        // What is found on an item may be a figure its part is planned with.
        const auto [items, rest] = first_name(at);
        if (const auto index = index_of(first_name(rest).first); items == "inspection" && index) {
            Job found = job;
            if (auto ok = take(found); !ok) return ok;
            return inspect(*index, found.inspection.at(*index))(job);
        }
        return take(job);
    };
}

Result<double> number_typed(const std::string& typed, std::string_view unit, limits::Range range) {
    return read_number(typed, {unit, 1, unit == "mm"}, range);
}

Edit tick_at(std::string at, bool on) { return write_at(std::move(at), on ? "yes" : "no"); }

std::string said_place(const Job& job, std::string_view at) {
    const Node root = tree_of(job, {});
    const Node* node = &root;
    std::string said;
    std::string_view rest = at;
    while (!rest.empty()) {
        const auto [name, deeper] = first_name(rest);
        const Node* next = nullptr;
        if (node->kind == Node::Kind::list) {
            if (const auto index = index_of(name); index && *index < node->children.size())
                next = &node->children[*index];
        } else {
            for (const Node& child : node->children)
                if (child.key == name) next = &child;
        }
        if (!next) break;
        // A list says nothing beside its element.
        if (next->kind != Node::Kind::list || deeper.empty())
            said += (said.empty() ? "" : ", ") + next->title;
        node = next;
        rest = deeper;
    }
    return said.empty() ? std::string(at) : said;
}

} // namespace conductus::job
