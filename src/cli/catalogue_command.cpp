// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "cli/commands.h"
#include "core/catalogue/deciding.h"
#include "core/catalogue/kinds.h"
#include "core/job/part_type_fields.h"
#include "files/catalogue_json.h"
#include "files/json_text.h"
#include "shop/book.h"

namespace conductus::cli {
namespace {

using catalogue::Body;
using catalogue::PartType;
using files::Json;

Json part_json(const catalogue::Catalogue& parts, const PartType& type) {
    Json figures = Json::array();
    for (const catalogue::Deciding& figure : catalogue::deciding_figures(type))
        figures.push_back({{"value", figure.value}, {"unit", figure.unit}});
    Json body{{"shape", job::word(type.body.shape)}, {"length_mm", type.body.length.value()}};
    if (type.body.shape == Body::Shape::cylinder) body["diameter_mm"] = type.body.diameter.value();
    if (type.body.shape == Body::Shape::box) {
        body["width_mm"] = type.body.width.value();
        body["height_mm"] = type.body.height.value();
    }
    return {{"id", type.id},
            {"kind", catalogue::kind_of(type.figures).key},
            {"name", type.name},
            {"own", parts.written(type.id) != nullptr},
            {"figures", figures},
            {"body", body},
            {"mass_g", type.mass.value()},
            {"price", type.price},
            {"terminals", type.terminals}};
}

int list(const catalogue::Catalogue& parts, const CatalogueChoice& choice) {
    Json found = Json::array();
    for (const std::string& id : parts.ids()) {
        const PartType& type = *parts.find(id);
        if (!choice.kind.empty() && catalogue::kind_of(type.figures).key != choice.kind) continue;
        if (!catalogue::is_asked_for(type, choice.argument)) continue;
        if (choice.json)
            found.push_back(part_json(parts, type));
        else
            fmt::print("{:<30} {:<44} {}\n", id, type.name, catalogue::deciding_text(type));
    }
    if (choice.json) fmt::print("{}\n", files::json_text({{"parts", found}}));
    return fine;
}

int show(const catalogue::Catalogue& parts, const CatalogueChoice& choice) {
    const PartType* type = parts.find(choice.argument);
    if (!type) {
        const std::string near = parts.nearest(choice.argument);
        return refuse({{},
                       say("no part is called '{}'", shown(choice.argument, 60)),
                       near.empty() ? Message("See conductus-cli catalogue list")
                                    : say("Did you mean '{}'?", near)});
    }
    if (choice.json) {
        fmt::print("{}\n", files::json_text(part_json(parts, *type)));
        return fine;
    }
    fmt::print("{}\n{}, {}\n{}\n{} long, {} g", type->name, catalogue::kind_of(type->figures).word,
               parts.written(type->id) ? "the shop's own" : "shipped",
               catalogue::deciding_text(*type), text(type->body.length), type->mass.value());
    if (type->price > 0) fmt::print(", about {:.2f} EUR", type->price);
    fmt::print("\n");
    if (!type->terminals.empty()) fmt::print("{}\n", fmt::join(type->terminals, ", "));
    return fine;
}

int check(const catalogue::Catalogue& parts, const CatalogueChoice& choice) {
    std::vector<std::string> added;
    const auto with = files::with_file(parts, choice.argument, added);
    if (!with) return refuse(with.error());
    if (choice.json) {
        Json found = Json::array();
        for (const std::string& id : added)
            found.push_back(part_json(*with, *with->find(id)));
        fmt::print("{}\n", files::json_text({{"parts", found}}));
        return fine;
    }
    for (const std::string& id : added)
        fmt::print("{:<30} {:<44} {}\n", id, with->find(id)->name,
                   catalogue::deciding_text(*with->find(id)));
    return fine;
}

int add(const catalogue::Catalogue& parts, const CatalogueChoice& choice) {
    std::vector<std::string> added;
    const auto with = files::with_file(parts.shipped(), choice.argument, added);
    if (!with) return refuse(with.error());
    auto book = shop::Book::open(choice.book, shop::Access::read_write);
    if (!book) return refuse(book.error());
    Json kept = Json::array();
    for (const std::string& id : added) {
        const auto part = book->keep_own_part(*with->written(id));
        if (!part) return refuse(part.error());
        if (choice.json)
            kept.push_back({{"id", id}, {"version", part->version}});
        else
            fmt::print("{:<30} version {}\n", id, part->version);
    }
    if (choice.json) fmt::print("{}\n", files::json_text({{"parts", kept}}));
    return fine;
}

} // namespace

int catalogue_of(const catalogue::Catalogue& given, const CatalogueChoice& choice) {
    if (choice.action == "add") return add(given, choice);
    std::shared_ptr<const catalogue::Catalogue> of_book;
    if (!choice.book.empty()) {
        auto book = shop::Book::open(choice.book, shop::Access::read_only);
        if (!book) return refuse(book.error());
        const auto with = book->with_own_parts(given);
        if (!with) return refuse(with.error());
        of_book = *with;
    }
    const catalogue::Catalogue& parts = of_book ? *of_book : given;
    if (choice.action == "list") return list(parts, choice);
    return choice.action == "show" ? show(parts, choice) : check(parts, choice);
}

} // namespace conductus::cli
