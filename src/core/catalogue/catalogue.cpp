// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/catalogue/catalogue.h"

#include "core/base/nearest.h"

namespace conductus::catalogue {

Result<void> Catalogue::add(PartType type) {
    if (types_.contains(type.id))
        return problem(type.id, "this part id is in the catalogue twice", "Give one another id");
    const auto* strip = std::get_if<Strip>(&type.figures);
    const auto* group = std::get_if<PixelGroup>(&type.figures);
    const auto* connector = std::get_if<Connector>(&type.figures);
    const std::string pixel = strip       ? strip->pixel
                              : group     ? group->pixel
                              : connector ? connector->pixel
                                          : std::string();
    if ((strip || group || !pixel.empty()) && !find_as<Pixel>(pixel))
        return problem(type.id, say("names the pixel class '{}', which is unknown", pixel),
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

const std::string* Catalogue::written(std::string_view id) const {
    const auto it = own_.find(id);
    return it == own_.end() ? nullptr : &it->second;
}

const PartType* Catalogue::find(std::string_view id) const {
    const auto it = types_.find(id);
    return it == types_.end() ? nullptr : &it->second;
}

std::string Catalogue::nearest(std::string_view id) const { return nearest_word(id, order_); }

} // namespace conductus::catalogue
