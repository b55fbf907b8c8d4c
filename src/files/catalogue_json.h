// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"

namespace conductus::files {

/// Reads every *.json of a folder, in the order of their names (pixel classes before strips).
Result<catalogue::Catalogue> read_catalogue(const std::filesystem::path& folder);

/// The shipped catalogue of `data`, and after it the shop's own parts: every *.json of
/// $XDG_DATA_HOME/conductus/catalogue (~/.local/share where not set), if that folder is there.
Result<catalogue::Catalogue> read_catalogues(const std::filesystem::path& data);

/// The folder with catalogue/, demo/ and fonts/: $CONDUCTUS_DATA, else beside the program
/// (installed or in the build folder). Error: none of them is there.
Result<std::filesystem::path> find_data(const std::filesystem::path& executable);

/// The running program's own file.
std::filesystem::path this_executable();

} // namespace conductus::files
