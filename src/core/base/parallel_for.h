// SPDX-License-Identifier: GPL-3.0-or-later
// Work in pieces that a caller with threads may do side by side: the core has none of its own.
#pragma once

#include <cstddef>
#include <functional>

namespace conductus {

/// Calls task(0) to task(count - 1), each once, in any order or at once; returns when all are done.
/// Tasks do not touch what another one writes.
using ParallelFor =
    std::function<void(std::size_t count, const std::function<void(std::size_t)>& task)>;

inline void one_by_one(std::size_t count, const std::function<void(std::size_t)>& task) {
    for (std::size_t i = 0; i < count; ++i)
        task(i);
}

} // namespace conductus
