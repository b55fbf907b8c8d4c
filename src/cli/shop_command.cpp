// SPDX-License-Identifier: GPL-3.0-or-later
#include <filesystem>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "cli/commands.h"
#include "files/json_text.h"
#include "shop/backup.h"
#include "shop/transfer.h"

namespace conductus::cli {
namespace {

using files::Json;
using shop::Access;
using shop::Book;

void print_json(const Json& json) { fmt::print("{}\n", json.dump(2)); }

int list(Book& book, const ShopChoice& choice) {
    const auto entries = book.entries();
    if (!entries) return refuse(entries.error());
    if (choice.csv) {
        fmt::print("{}", shop::list_csv(*entries));
    } else if (choice.json) {
        Json jobs = Json::array();
        for (const shop::Entry& e : *entries)
            jobs.push_back({{"name", e.name},
                            {"kind", e.kind},
                            {"purpose", e.purpose},
                            {"stage", e.stage},
                            {"promised", e.promised},
                            {"came_back", e.came_back},
                            {"changed", e.changed}});
        print_json({{"jobs", jobs}});
    } else {
        for (const shop::Entry& e : *entries)
            fmt::print("{:<20} {:<11} {:<13} {:<11} {}\n", e.name, e.kind, e.stage, e.promised,
                       e.purpose);
    }
    return fine;
}

int find(Book& book, const ShopChoice& choice) {
    const auto hits = book.find(choice.argument);
    if (!hits) return refuse(hits.error());
    if (choice.json) {
        Json jobs = Json::array();
        for (const shop::Hit& hit : *hits)
            jobs.push_back({{"name", hit.name}, {"excerpt", hit.excerpt}});
        print_json({{"jobs", jobs}});
        return fine;
    }
    for (const shop::Hit& hit : *hits)
        fmt::print("{:<20} {}\n", hit.name, hit.excerpt);
    if (hits->empty()) fmt::print("no job holds these words\n");
    return fine;
}

int export_book(Book& book, const ShopChoice& choice, const catalogue::Catalogue& parts) {
    const auto count = shop::export_folder(book, choice.argument, parts);
    if (!count) return refuse(count.error());
    if (choice.json)
        print_json({{"exported", *count}, {"folder", choice.argument}});
    else
        fmt::print("{} jobs in {}\n", *count, choice.argument);
    return fine;
}

int import_path(const ShopChoice& choice, const catalogue::Catalogue& parts) {
    std::error_code error;
    if (std::filesystem::equivalent(choice.argument, choice.book, error))
        return refuse({choice.argument, "this is the book itself", "Name another one"});
    // Read before the book is touched or made.
    auto jobs = shop::read_import(choice.argument, parts);
    if (!jobs) return refuse(jobs.error());
    auto book = Book::open(choice.book, Access::read_write);
    if (!book) return refuse(book.error());
    const auto names = book->add_whole(std::move(*jobs), parts);
    if (!names) return refuse(names.error());
    if (choice.json)
        print_json({{"imported", *names}});
    else
        fmt::print("imported {}\n", fmt::join(*names, ", "));
    return fine;
}

int backup(Book& book, const ShopChoice& choice) {
    // An older backup may be replaced; anything else is somebody's file.
    std::error_code error;
    if (std::filesystem::equivalent(choice.argument, choice.book, error))
        return refuse({choice.argument, "this is the book itself", "Name another file"});
    if (std::filesystem::exists(choice.argument, error))
        if (const auto there = Book::open(choice.argument, Access::read_only); !there)
            return refuse({choice.argument, "there is another file here, and it is no shop book",
                           "Name a file that is not there yet"});
    if (auto ok = book.copy_to(choice.argument); !ok) return refuse(ok.error());
    if (choice.json)
        print_json({{"backup", choice.argument}});
    else
        fmt::print("copied to {}\n", choice.argument);
    return fine;
}

int restore(const ShopChoice& choice, const catalogue::Catalogue& parts) {
    if (auto ok = shop::restore(choice.book, choice.argument, parts); !ok)
        return refuse(ok.error());
    if (choice.json)
        print_json({{"restored", choice.argument}});
    else
        fmt::print("{} is what {} was; a copy of what it was before is in {}.backups\n",
                   choice.book, choice.argument, choice.book);
    return fine;
}

int verify(Book& book, const ShopChoice& choice, const catalogue::Catalogue& parts) {
    const auto ok = book.verify(parts);
    if (choice.json) {
        Json said{{"sound", ok.has_value()}};
        if (!ok) said["problem"] = ok.error().text();
        print_json(said);
    }
    if (!ok) return refuse(ok.error());
    if (!choice.json) fmt::print("the book is sound\n");
    return fine;
}

} // namespace

int shop(const catalogue::Catalogue& parts, const ShopChoice& choice) {
    if (choice.action == "restore") return restore(choice, parts);
    if (choice.action == "import") return import_path(choice, parts);
    // Looking makes no book; and one that may only be read can be looked at.
    std::error_code error;
    const bool there = std::filesystem::exists(choice.book, error);
    auto book = Book::open(choice.book, there ? Access::read_write : Access::read_only);
    if (!book && there)
        if (auto reading = Book::open(choice.book, Access::read_only); reading)
            book = std::move(reading);
    if (!book) return refuse(book.error());
    if (choice.action == "list") return list(*book, choice);
    if (choice.action == "find") return find(*book, choice);
    if (choice.action == "export") return export_book(*book, choice, parts);
    if (choice.action == "backup") return backup(*book, choice);
    return verify(*book, choice, parts);
}

} // namespace conductus::cli
