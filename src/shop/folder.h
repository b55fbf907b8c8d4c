// SPDX-License-Identifier: GPL-3.0-or-later
// The folder that a book is exported as: what its files are, and how they are read.
#pragma once

#include <filesystem>
#include <vector>

#include "shop/book.h"

namespace conductus::shop {

inline constexpr const char* folder_format = "conductus-book";
inline constexpr const char* history_format = "conductus-history";
inline constexpr int folder_version = 2; ///< from 2 on each file is held against its hash

/// All jobs of a folder with their histories, as read_import gives them. Errors name the file; a
/// file that was altered since it was exported is one.
Result<std::vector<Whole>> read_folder(const std::filesystem::path& folder,
                                       const catalogue::Catalogue& parts, const files::GoOn& go_on);

} // namespace conductus::shop
