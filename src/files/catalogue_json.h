// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string_view>
#include <vector>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"

namespace conductus::files {

/// Reads every *.json of a folder, in the order of their names (pixel classes before strips).
Result<catalogue::Catalogue> read_catalogue(const std::filesystem::path& folder);

/// The parts that jobs may use on this machine.
struct Catalogues {
    catalogue::Catalogue parts;
    std::vector<Problem> skipped; ///< files of own parts that can not be used, each with its line
};

/// The shipped catalogue of `data`, and after it the shop's own parts: every *.json of
/// $XDG_DATA_HOME/conductus/catalogue (~/.local/share where not set), if that folder is there. A
/// broken file of own parts is left out whole and said; a broken shipped one is an error.
Result<Catalogues> read_catalogues(const std::filesystem::path& data);

/// A catalogue with the parts of a file beside its own, JSON or, where it is called so, CSV;
/// `added` gets their ids, in the file's order. Error: what the file says that can not be used,
/// with its line; an id that is there already.
Result<catalogue::Catalogue> with_file(const catalogue::Catalogue& parts,
                                       const std::filesystem::path& file,
                                       std::vector<std::string>& added);

/// One part from its definition, as a catalogue file lists it. `name`: what errors call it.
Result<catalogue::PartType> parse_part(std::string_view text, const std::string& name);

/// The definition of a part, with every usual value: what parse_part() reads back as the same.
std::string part_text(const catalogue::PartType& type);
/// A catalogue file of these parts.
std::string catalogue_text(const std::vector<catalogue::PartType>& types);
/// The parts of a file: JSON as catalogue_text() writes it, a single definition, or a table as of
/// parts_csv(), whichever the text is. `name`: what errors call it.
Result<std::vector<catalogue::PartType>> read_parts(std::string_view text, const std::string& name);

/// The folder with catalogue/, demo/ and fonts/: $CONDUCTUS_DATA, else beside the program
/// (installed or in the build folder). Error: none of them is there.
Result<std::filesystem::path> find_data(const std::filesystem::path& executable);

/// The running program's own file.
std::filesystem::path this_executable();

} // namespace conductus::files
