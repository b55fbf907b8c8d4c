// SPDX-License-Identifier: GPL-3.0-or-later
// Threads for whoever has none of an interface's: the command line, benches.
#pragma once

#include <cstddef>
#include <functional>

namespace conductus {

/// A ParallelFor: as many threads as the machine has, the caller's among them; each takes the next
/// task.
void side_by_side(std::size_t count, const std::function<void(std::size_t)>& task);

} // namespace conductus
