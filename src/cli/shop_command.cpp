// SPDX-License-Identifier: GPL-3.0-or-later
#include <filesystem>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "cli/commands.h"
#include "files/json_text.h"
#include "shop/backup.h"
#include "shop/rescue.h"
#include "shop/transfer.h"

namespace conductus::cli {
namespace {

using files::Json;
using shop::Access;
using shop::Book;

void print_json(const Json& json) { fmt::print("{}\n", files::json_text(json)); }

/// What could not be judged is said beside whatever was done.
void say_as_they_are(const std::vector<std::string>& lines) {
    for (const std::string& line : lines)
        fmt::print(stderr, "conductus-cli: {}\n", shown(line, 600));
}

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
            fmt::print("{:<20} {:<11} {:<13} {:<11} {}\n", shown(e.name), e.kind, e.stage,
                       shown(e.promised), shown(e.purpose));
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
        fmt::print("{:<20} {}\n", shown(hit.name), shown(hit.excerpt));
    if (hits->empty()) fmt::print("no job holds these words\n");
    return fine;
}

int export_book(Book& book, const ShopChoice& choice, const catalogue::Catalogue& parts) {
    const auto passed = shop::export_folder(book, choice.argument, parts);
    if (!passed) return refuse(passed.error());
    say_as_they_are(passed->as_they_are);
    if (choice.json)
        print_json({{"exported", passed->jobs},
                    {"folder", shown(choice.argument)},
                    {"kept_as_they_are", passed->as_they_are}});
    else
        fmt::print("{} jobs in {}\n", passed->jobs, shown(choice.argument));
    return fine;
}

int import_path(const ShopChoice& choice, const catalogue::Catalogue& parts) {
    std::error_code error;
    if (std::filesystem::equivalent(choice.argument, choice.book, error))
        return refuse({shown(choice.argument), "this is the book itself", "Name another one"});
    // Read before the book is touched or made.
    auto jobs = shop::read_import(choice.argument, parts);
    if (!jobs) return refuse(jobs.error());
    auto book = Book::open(choice.book, Access::read_write);
    if (!book) return refuse(book.error());
    const auto unjudged = shop::as_they_are(*jobs);
    const auto names = book->add_whole(std::move(*jobs));
    if (!names) return refuse(names.error());
    if (const auto shelf = shop::take_in_shelf(*book, choice.argument, parts); !shelf)
        return refuse(shelf.error());
    say_as_they_are(unjudged);
    std::vector<std::string> told;
    for (const std::string& name : *names)
        told.push_back(shown(name));
    if (choice.json)
        print_json({{"imported", *names}, {"kept_as_they_are", unjudged}});
    else
        fmt::print("imported {}\n", fmt::join(told, ", "));
    return fine;
}

int backup(Book& book, const ShopChoice& choice) {
    if (auto ok = shop::back_up_to(book, choice.argument); !ok) return refuse(ok.error());
    if (choice.json)
        print_json({{"backup", shown(choice.argument)}});
    else
        fmt::print("copied to {}\n", shown(choice.argument));
    return fine;
}

int restore(const ShopChoice& choice) {
    if (auto ok = shop::restore(choice.book, choice.argument); !ok) return refuse(ok.error());
    const std::string book = shown(choice.book);
    if (choice.json)
        print_json({{"restored", shown(choice.argument)}});
    else
        fmt::print("{} is what {} was; a copy of what it was before is in {}.backups\n", book,
                   shown(choice.argument), book);
    return fine;
}

int verify(Book& book, const ShopChoice& choice, const catalogue::Catalogue& parts) {
    const auto report = book.look_through(&parts);
    if (!report) return refuse(report.error());
    Json jobs = Json::array();
    std::vector<std::string> unjudged;
    for (const shop::JobReport& job : report->jobs) {
        jobs.push_back({{"name", job.name},
                        {"states", job.states},
                        {"whole", job.whole},
                        {"current_lost", job.current_lost},
                        {"not_judged", job.unjudged},
                        {"lost", job.lost}});
        if (job.unjudged > 0)
            unjudged.push_back(
                fmt::format("{}: {} of {} states are whole and can not be judged with "
                            "the parts on this machine",
                            shown(job.name, 60), job.unjudged, job.whole));
    }
    const bool sound = report->sound();
    say_as_they_are(unjudged);
    if (choice.json) {
        Json said{{"sound", sound}, {"damage", report->damage}, {"jobs", jobs}};
        if (!sound) said["problem"] = report->problem(choice.book).text();
        print_json(said);
    } else if (sound) {
        fmt::print("the book is sound\n");
    } else {
        for (const shop::JobReport& job : report->jobs)
            fmt::print("{:<20} {} of {} states whole{}\n", shown(job.name, 60), job.whole,
                       job.states, job.lost.empty() ? "" : ": " + shown(job.lost.front(), 120));
        for (const std::string& line : report->damage)
            fmt::print("{}\n", line);
    }
    return sound ? fine : refuse(report->problem(choice.book));
}

int rescue(const ShopChoice& choice) {
    const auto saved = shop::rescue(choice.book, choice.argument);
    if (!saved) return refuse(saved.error());
    Json jobs = Json::array();
    for (const shop::RescuedJob& job : saved->about) {
        jobs.push_back(
            {{"name", job.name}, {"states", job.states}, {"lost", job.lost}, {"notes", job.notes}});
        if (choice.json) continue;
        fmt::print("{:<20} {} states saved, {} lost\n", shown(job.name, 60), job.states, job.lost);
        for (const std::string& note : job.notes)
            fmt::print("{:<20} {}\n", "", note);
    }
    if (choice.json) {
        print_json(
            {{"rescued", shown(choice.argument)}, {"jobs", jobs}, {"jobs_lost", saved->jobs_lost}});
        return fine;
    }
    if (saved->jobs_lost > 0) fmt::print("{} jobs can not be saved\n", saved->jobs_lost);
    fmt::print("{} holds what is whole; {} is untouched\n", shown(choice.argument),
               shown(choice.book));
    return fine;
}

} // namespace

int shop(const catalogue::Catalogue& parts, const ShopChoice& choice) {
    if (choice.action == "restore") return restore(choice);
    if (choice.action == "import") return import_path(choice, parts);
    if (choice.action == "rescue") return rescue(choice);
    // Looking makes no book, and writes to none.
    auto book = Book::open(choice.book, Access::read_only);
    if (!book) return refuse(book.error());
    if (choice.action == "list") return list(*book, choice);
    if (choice.action == "find") return find(*book, choice);
    if (choice.action == "export") return export_book(*book, choice, parts);
    if (choice.action == "backup") return backup(*book, choice);
    return verify(*book, choice, parts);
}

} // namespace conductus::cli
