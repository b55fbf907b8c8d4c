// SPDX-License-Identifier: GPL-3.0-or-later
// Every terminal of a job that a wire may end on.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::job {

/// Names of terminals by ref of their owner: parts from the catalogue, blades with the pads at
/// their foot, strips with their data. Parts of unknown type are left out.
using TerminalsByOwner = std::map<std::string, std::vector<std::string>, std::less<>>;
TerminalsByOwner terminals_of(const Job& job, const catalogue::Catalogue& parts);

/// Terminals of a blade: its pads, and those of the string in it.
std::vector<std::string> blade_terminals(const Blade& blade, const catalogue::Catalogue& parts);

} // namespace conductus::job
