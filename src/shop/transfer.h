// SPDX-License-Identifier: GPL-3.0-or-later
// In and out of a book: job files, the whole book as a folder, other books, the list as CSV.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "shop/book.h"

namespace conductus::shop {

/// Writes every job with its history, the states of its milestones and its pictures into a folder
/// that is not there yet or empty: book.json, jobs/, history/, kept/, pictures/. Returns how many
/// jobs. On an error the folder holds no book.json, which makes it no book.
Result<std::size_t> export_folder(Book& book, const std::filesystem::path& folder,
                                  const catalogue::Catalogue& parts);

/// Reads a job file, a folder as export_folder writes it, or another shop book, whole: for
/// Book::add_whole. Nothing is written.
Result<std::vector<Whole>> read_import(const std::filesystem::path& path,
                                       const catalogue::Catalogue& parts);

/// Takes in what read_import reads: all of it or nothing. Names that are taken get a number;
/// returned are the names the jobs came in under.
Result<std::vector<std::string>> import_into(Book& book, const std::filesystem::path& path,
                                             const catalogue::Catalogue& parts);

/// A job as a file: with its milestones and pictures, or bare.
Result<void> export_job(Book& book, const job::Job& job, bool whole,
                        const std::filesystem::path& path, const catalogue::Catalogue& parts);

/// name, kind, purpose, stage, promised, came back, changed.
std::string list_csv(const std::vector<Entry>& entries);

} // namespace conductus::shop
