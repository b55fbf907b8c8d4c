// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/csv.h"

namespace conductus::files {

std::string csv_record(const std::vector<std::string>& cells) {
    std::string line;
    for (std::size_t i = 0; i < cells.size(); ++i) {
        if (i > 0) line += ',';
        if (cells[i].find_first_of(",\"\r\n") == std::string::npos) {
            line += cells[i];
            continue;
        }
        line += '"';
        for (const char c : cells[i]) {
            if (c == '"') line += '"';
            line += c;
        }
        line += '"';
    }
    return line + "\r\n";
}

} // namespace conductus::files
