// SPDX-License-Identifier: GPL-3.0-or-later
// A mesh of conductances, solved by taking its nodes out one by one (star–mesh transform).
#pragma once

#include <algorithm>
#include <bit>
#include <cstdint>
#include <limits>
#include <vector>

namespace conductus::circuit {

/// Nodes 1 to n; 0 is ground. Taking a node out joins its neighbours by products and sums of
/// positive conductances alone: nothing is subtracted, so milliohms beside megohms lose no digits.
/// The node with fewest neighbours goes first, which keeps a hilt's tree of wires a tree.
class StarMesh {
public:
    explicit StarMesh(std::size_t n)
        : n_(n), words_((n + 63) / 64), y_(n * n, 0.0), ground_(n, 0.0), near_(n * words_, 0),
          degree_(n, 0) {}

    /// `siemens` > 0 between two nodes.
    void join(std::size_t a, std::size_t b, double siemens) {
        if (a == b) return;
        if (a && b)
            between(a - 1, b - 1, siemens);
        else
            ground_[(a ? a : b) - 1] += siemens;
    }

    /// False where a node has no way to ground.
    bool eliminate() {
        stars_.reserve(n_);
        rays_.reserve(2 * n_);
        for (std::size_t round = 0; round < n_; ++round) {
            const auto node = static_cast<std::size_t>(
                std::min_element(degree_.begin(), degree_.end()) - degree_.begin());
            degree_[node] = taken_out;
            Star star{node, rays_.size(), rays_.size(), ground_[node]};
            for (std::size_t w = 0; w < words_; ++w)
                for (std::uint64_t bits = near_[node * words_ + w]; bits; bits &= bits - 1) {
                    const std::size_t i = w * 64 + static_cast<std::size_t>(std::countr_zero(bits));
                    rays_.push_back({i, y_[node * n_ + i]});
                    star.sum += rays_.back().siemens;
                    near_[i * words_ + node / 64] &= ~(std::uint64_t{1} << node % 64);
                    --degree_[i];
                }
            star.end = rays_.size();
            if (!(star.sum > 0)) return false;
            for (std::size_t r = star.begin; r < star.end; ++r) {
                const double share = rays_[r].siemens / star.sum;
                ground_[rays_[r].node] += share * ground_[node];
                for (std::size_t q = r + 1; q < star.end; ++q)
                    between(rays_[r].node, rays_[q].node, share * rays_[q].siemens);
            }
            stars_.push_back(star);
        }
        return true;
    }

    /// `width` cases side by side, node after node (without ground). In: A into each node. Out: V
    /// of each.
    void solve(double* b, std::size_t width = 1) const {
        for (const Star& star : stars_) {
            const double* from = b + star.node * width;
            for (std::size_t r = star.begin; r < star.end; ++r) {
                double* to = b + rays_[r].node * width;
                const double share = rays_[r].siemens / star.sum;
                for (std::size_t c = 0; c < width; ++c)
                    to[c] += share * from[c];
            }
        }
        for (auto star = stars_.rbegin(); star != stars_.rend(); ++star) {
            double* to = b + star->node * width;
            for (std::size_t r = star->begin; r < star->end; ++r) {
                const double* from = b + rays_[r].node * width;
                for (std::size_t c = 0; c < width; ++c)
                    to[c] += rays_[r].siemens * from[c];
            }
            for (std::size_t c = 0; c < width; ++c)
                to[c] /= star->sum;
        }
    }

private:
    struct Ray {
        std::size_t node;
        double siemens;
    };
    struct Star {
        std::size_t node, begin, end; ///< of its rays
        double sum;                   ///< of all it was joined by
    };
    void between(std::size_t a, std::size_t b, double siemens) {
        y_[a * n_ + b] += siemens;
        y_[b * n_ + a] += siemens;
        std::uint64_t& near = near_[a * words_ + b / 64];
        const std::uint64_t bit = std::uint64_t{1} << b % 64;
        if (near & bit) return;
        near |= bit;
        near_[b * words_ + a / 64] |= std::uint64_t{1} << a % 64;
        ++degree_[a], ++degree_[b];
    }

    static constexpr int taken_out = std::numeric_limits<int>::max();
    std::size_t n_, words_;
    std::vector<double> y_, ground_;
    std::vector<std::uint64_t> near_; ///< a bit a neighbour
    std::vector<int> degree_;         ///< neighbours left
    std::vector<Star> stars_;
    std::vector<Ray> rays_;
};

} // namespace conductus::circuit
