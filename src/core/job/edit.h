// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <concepts>
#include <functional>
#include <type_traits>
#include <utility>

#include "core/base/problem.h"
#include "core/job/job.h"

namespace conductus::job {

/// A change of a job, on a copy the caller owns. It is made of any function of a Job&; one that
/// returns a Result<void> can refuse, and the copy is then to be thrown away.
class Edit {
public:
    Edit() = default;
    template <class F>
    requires(std::invocable<F&, Job&> && !std::same_as<std::remove_cvref_t<F>, Edit>) Edit(F change)
        : change_([change = std::move(change)](Job& job) mutable -> Result<void> {
              if constexpr (std::is_void_v<std::invoke_result_t<F&, Job&>>) {
                  change(job);
                  return {};
              } else {
                  return change(job);
              }
          }) {}

    /// Error: why the edit can not be made of this job. An empty edit changes nothing.
    /// A tick of a wire that the edit took away goes with it, and so does what stood in a socket
    /// that is there no more.
    Result<void> operator()(Job& job) const;
    explicit operator bool() const { return static_cast<bool>(change_); }

private:
    std::function<Result<void>(Job&)> change_;
};

/// An edit that can not be made: what was typed says nothing that can be.
Edit refused(Problem why);

/// A change of something that lies beside the job, made as edits of the job are: the job stays.
Edit beside_the_job(std::function<Result<void>()> change);

/// One after the other; the first that refuses ends it.
Edit all_of(std::vector<Edit> edits);

} // namespace conductus::job
