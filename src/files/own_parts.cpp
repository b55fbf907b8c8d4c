// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/own_parts.h"

#include <algorithm>
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

bool brings_parts(const catalogue::Catalogue& parts, const Attachments& attachments) {
    for (const auto& [part, written] : parts_in(attachments))
        if (!parts.find(part.id)) return true;
    return false;
}

} // namespace conductus::files
