// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/own_parts.h"

#include <algorithm>
#include <map>
#include <set>

#include "files/catalogue_json.h"

namespace conductus::files {
namespace {

/// The class of pixels a part is made of; empty where it is not.
std::string pixel_of(const catalogue::PartType& type) {
    if (const auto* strip = std::get_if<catalogue::Strip>(&type.figures)) return strip->pixel;
    if (const auto* group = std::get_if<catalogue::PixelGroup>(&type.figures)) return group->pixel;
    if (const auto* c = std::get_if<catalogue::Connector>(&type.figures)) return c->pixel;
    return {};
}

template <class Build>
void collect(const Build& build, std::vector<std::string>& types) {
    for (const job::Part& part : build.parts) {
        types.push_back(part.type);
        if (part.protection) types.push_back(*part.protection);
        if (part.adapter) types.push_back(*part.adapter);
        if (part.bay) types.push_back(*part.bay);
    }
    for (const job::Blade& blade : build.blades) {
        for (const job::Strip& strip : blade.strips)
            types.push_back(strip.type);
        for (const job::LedString& string : blade.strings)
            types.push_back(string.type);
    }
}

/// Parts among the attachments, classes of pixels first.
std::vector<std::pair<catalogue::PartType, std::string>> parts_in(const Attachments& attachments) {
    std::vector<std::pair<catalogue::PartType, std::string>> found;
    for (const auto& [id, attachment] : attachments) {
        if (attachment.type != "part") continue;
        if (auto part = parse_part(attachment.bytes, id))
            found.emplace_back(std::move(*part), attachment.bytes);
    }
    std::stable_partition(found.begin(), found.end(), [](const auto& p) {
        return std::holds_alternative<catalogue::Pixel>(p.first.figures);
    });
    return found;
}

} // namespace

std::vector<std::string> types_of(const job::Job& job) {
    std::vector<std::string> types;
    collect(job, types);
    for (const job::Variant& variant : job.variants)
        collect(variant, types);
    if (!job.charger.empty()) types.push_back(job.charger);
    std::sort(types.begin(), types.end());
    types.erase(std::unique(types.begin(), types.end()), types.end());
    return types;
}

Attachments own_parts_of(const job::Job& job, const catalogue::Catalogue& parts) {
    Attachments own;
    for (const std::string& id : types_of(job)) {
        const catalogue::PartType* type = parts.find(id);
        if (!type) continue;
        for (const std::string& needed : {id, pixel_of(*type)})
            if (const std::string* written = parts.written(needed))
                own.emplace(content_id(*written), Attachment{"part", *written});
    }
    return own;
}

catalogue::Catalogue with_own_parts(const catalogue::Catalogue& parts,
                                    const Attachments& attachments) {
    catalogue::Catalogue with = parts;
    for (auto& [part, written] : parts_in(attachments))
        if (!with.find(part.id)) (void)with.add_own(std::move(part), std::move(written));
    return with;
}

catalogue::Catalogue catalogue_for(const job::Job& job, const catalogue::Catalogue& parts,
                                   const OwnParts& own) {
    std::map<std::string, std::string> wanted = own.newest;
    for (const job::PlannedWith& p : job.planned_with)
        if (own.definitions.contains(p.definition)) wanted[p.type] = p.definition;
    Attachments chosen;
    for (const auto& [type, definition] : wanted)
        if (const auto it = own.definitions.find(definition); it != own.definitions.end())
            chosen.insert(*it);
    catalogue::Catalogue with = parts;
    for (auto& [part, written] : parts_in(chosen))
        (void)with.set_own(std::move(part), std::move(written));
    with = with_own_parts(with, own.definitions);
    // What was taken off the shelf is offered to the jobs alone that use it.
    // A job that is still to be read says by what it is planned with.
    auto of_job = types_of(job);
    for (const job::PlannedWith& p : job.planned_with)
        of_job.push_back(p.type);
    const std::set<std::string> used(of_job.begin(), of_job.end());
    const std::vector<std::string> offered = with.ids();
    for (const std::string& id : offered)
        if (with.written(id) && !parts.find(id) && !own.newest.contains(id) && !used.contains(id))
            with.lay_aside(id);
    for (const job::PlannedWith& p : job.planned_with) {
        const auto now = own.newest.find(p.type);
        if (now == own.newest.end() || now->second == p.definition || now->second == p.passed_over)
            continue;
        const auto it = own.definitions.find(now->second);
        if (it == own.definitions.end()) continue;
        if (auto part = parse_part(it->second.bytes, p.type))
            with.set_newer(std::move(*part), now->second);
    }
    return with;
}

std::vector<job::PlannedWith> planned_with_in(const Json& document) {
    std::vector<job::PlannedWith> planned;
    const auto list = document.is_object() ? document.find("planned_with") : document.end();
    if (!document.is_object() || list == document.end() || !list->is_array()) return planned;
    for (const Json& entry : *list) {
        const auto text = [&](const char* key) {
            const auto it = entry.is_object() ? entry.find(key) : entry.end();
            return entry.is_object() && it != entry.end() && it->is_string()
                       ? it->get<std::string>()
                       : std::string();
        };
        planned.push_back({text("type"), text("definition"), text("passed_over")});
    }
    return planned;
}

void name_own_parts(job::Job& job, const catalogue::Catalogue& parts) {
    std::map<std::string, std::string> used;
    for (const auto& [definition, attachment] : own_parts_of(job, parts))
        if (const auto part = parse_part(attachment.bytes, definition)) used[part->id] = definition;
    // What is not known here may be known elsewhere: only a known part that is not used goes.
    std::erase_if(job.planned_with, [&](const job::PlannedWith& p) {
        return parts.find(p.type) && !used.contains(p.type);
    });
    for (const auto& [type, definition] : used) {
        const bool named = std::any_of(job.planned_with.begin(), job.planned_with.end(),
                                       [&, id = type](const auto& p) { return p.type == id; });
        if (!named) job.planned_with.push_back({type, definition, {}});
    }
}

bool brings_parts(const catalogue::Catalogue& parts, const Attachments& attachments) {
    for (const auto& [part, written] : parts_in(attachments))
        if (!parts.find(part.id)) return true;
    return false;
}

} // namespace conductus::files
