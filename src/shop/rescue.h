// SPDX-License-Identifier: GPL-3.0-or-later
// What is whole in a damaged book, in a new one.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "core/base/problem.h"
#include "shop/book.h"

namespace conductus::shop {

struct RescuedJob {
    std::string name;
    std::size_t states = 0;         ///< saved
    std::size_t lost = 0;           ///< states that the damaged book had, and that are not whole
    std::vector<std::string> notes; ///< what is otherwise than it was
};
struct Rescue {
    std::vector<Whole> jobs;
    std::vector<RescuedJob> about; ///< of each of `jobs`
    std::size_t jobs_lost = 0;     ///< of which no state is whole
};

/// Everything in a file that proves to be whole by its hash, wherever it stands in it. The file is
/// only read. Error: it can not be read, or holds nothing of a book.
Result<Rescue> what_is_whole(const std::filesystem::path& book);

/// Writes that into a new book at `to`, where nothing may be yet. Error as above, and where no job
/// can be saved; then there is no new book.
Result<Rescue> rescue(const std::filesystem::path& book, const std::filesystem::path& to);

} // namespace conductus::shop
