// SPDX-License-Identifier: GPL-3.0-or-later
#include "threads/side_by_side.h"

#include <algorithm>
#include <atomic>
#include <thread>
#include <vector>

namespace conductus {

void side_by_side(std::size_t count, const std::function<void(std::size_t)>& task) {
    std::atomic<std::size_t> next{0};
    auto work = [&] {
        for (std::size_t i = next++; i < count; i = next++)
            task(i);
    };
    std::vector<std::jthread> others;
    const std::size_t threads = std::min<std::size_t>(std::thread::hardware_concurrency(), count);
    for (std::size_t i = 1; i < threads; ++i)
        others.emplace_back(work);
    work();
}

} // namespace conductus
