// SPDX-License-Identifier: GPL-3.0-or-later
// In and out of a book: job files, the whole book as a folder, other books, the list as CSV.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "shop/book.h"

namespace conductus::shop {

/// What came of writing or reading many jobs.
struct Passed {
    std::size_t jobs = 0;
    std::vector<std::string> names; ///< under which jobs came in
    /// One line a job of which states are kept as they are because they can not be judged here.
    std::vector<std::string> as_they_are;
};

/// Writes every job with its history, the states of its milestones, its pictures and the shop's own
/// parts into a folder that is not there yet or empty: book.json, jobs/, history/, kept/,
/// pictures/, parts/. The folder is there at once when it is complete; on an error there is
/// nothing.
Result<Passed> export_folder(Book& book, const std::filesystem::path& folder,
                             const catalogue::Catalogue& parts);

/// Reads a job file, a folder as export_folder writes it, or another shop book, whole: for
/// Book::add_whole. Nothing is written. `go_on` is asked all the while. Of a book and a folder,
/// states that can not be judged with these parts are kept as they are; a job file is refused then.
Result<std::vector<Whole>> read_import(const std::filesystem::path& path,
                                       const catalogue::Catalogue& parts,
                                       const files::GoOn& go_on = {});

/// Which jobs of an import can not be judged in full, a line each.
std::vector<std::string> as_they_are(const std::vector<Whole>& jobs);

/// Takes in the own parts on the shelf of an exported folder or another book that this book has
/// never had; returns their ids. A job file brings its parts with the job.
Result<std::vector<std::string>> take_in_shelf(Book& book, const std::filesystem::path& path,
                                               const catalogue::Catalogue& parts);

/// Takes in what read_import reads: all of it or nothing. Names that are taken get a number.
Result<Passed> import_into(Book& book, const std::filesystem::path& path,
                           const catalogue::Catalogue& parts, const files::GoOn& go_on = {});

/// A job as a file: with its milestones and pictures, or bare.
Result<void> export_job(Book& book, const job::Job& job, bool whole,
                        const std::filesystem::path& path, const catalogue::Catalogue& parts);

/// name, kind, purpose, stage, promised, came back, changed.
std::string list_csv(const std::vector<Entry>& entries);

} // namespace conductus::shop
