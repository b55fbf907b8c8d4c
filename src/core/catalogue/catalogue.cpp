// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/catalogue/catalogue.h"

#include <algorithm>

#include "core/base/nearest.h"

namespace conductus::catalogue {
namespace {

/// The class of pixels it is made of; null: of none.
const std::string* pixel_named(const PartType& type) {
    if (const auto* strip = std::get_if<Strip>(&type.figures)) return &strip->pixel;
    if (const auto* group = std::get_if<PixelGroup>(&type.figures)) return &group->pixel;
    if (const auto* c = std::get_if<Connector>(&type.figures))
        return c->pixel.empty() ? nullptr : &c->pixel;
    return nullptr;
}

} // namespace

Result<void> Catalogue::add(PartType type) {
    if (types_.contains(type.id))
        return problem(type.id, "this part id is in the catalogue twice", "Give one another id");
    if (const auto* pixel = pixel_named(type); pixel && !find_as<Pixel>(*pixel))
        return problem(type.id, say("names the pixel class '{}', which is unknown", *pixel),
                       "Add that pixel class to the catalogue");
    order_.push_back(type.id);
    std::string id = type.id;
    types_.emplace(std::move(id), std::move(type));
    return {};
}

Result<void> Catalogue::add_own(PartType type, std::string written) {
    const std::string id = type.id;
    if (auto ok = add(std::move(type)); !ok) return ok;
    own_.emplace(id, std::move(written));
    return {};
}

Result<void> Catalogue::set_own(PartType type, std::string written) {
    const auto there = own_.find(type.id);
    if (there == own_.end()) return add_own(std::move(type), std::move(written));
    if (const auto* pixel = pixel_named(type); pixel && !find_as<Pixel>(*pixel))
        return problem(type.id, say("names the pixel class '{}', which is unknown", *pixel),
                       "Add that pixel class to the catalogue");
    there->second = std::move(written);
    if (std::find(order_.begin(), order_.end(), type.id) == order_.end()) order_.push_back(type.id);
    types_[type.id] = std::move(type);
    return {};
}

void Catalogue::set_newer(PartType type, std::string definition) {
    std::string id = type.id;
    newer_.insert_or_assign(std::move(id), Newer{std::move(type), std::move(definition)});
}

void Catalogue::decide_newer(std::string_view id, bool take) {
    const auto it = newer_.find(id);
    if (it == newer_.end()) return;
    if (const auto type = types_.find(id); take && type != types_.end())
        type->second = it->second.type;
    newer_.erase(it);
}

const Catalogue::Newer* Catalogue::newer(std::string_view id) const {
    const auto it = newer_.find(id);
    return it == newer_.end() ? nullptr : &it->second;
}

const std::string* Catalogue::written(std::string_view id) const {
    const auto it = own_.find(id);
    return it == own_.end() ? nullptr : &it->second;
}

const PartType* Catalogue::find(std::string_view id) const {
    const auto it = types_.find(id);
    return it == types_.end() ? nullptr : &it->second;
}

void Catalogue::lay_aside(std::string_view id) { std::erase(order_, id); }

Catalogue Catalogue::shipped() const {
    Catalogue all;
    for (const std::string& id : order_)
        if (!own_.contains(id)) (void)all.add(*find(id));
    return all;
}

std::string Catalogue::nearest(std::string_view id) const { return nearest_word(id, order_); }

} // namespace conductus::catalogue
