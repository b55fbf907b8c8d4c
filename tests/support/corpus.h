// SPDX-License-Identifier: GPL-3.0-or-later
// Sound builds and planted mistakes, as patches on a few base jobs: tests/data/corpus.
#pragma once

#include <string>
#include <vector>

#include "core/job/job.h"
#include "core/plan/start.h"
#include "files/json_text.h"

namespace conductus::test {

struct Case {
    std::string name, base;
    std::vector<std::string> ids; ///< any of these names the mistake; empty: it is a sound build
    std::string severity;         ///< empty: any
    job::Job job;
};

/// Applies a patch: a list of operations on things that are named by their ref or name.
///   ["set", "parts/K1/type", "kill.slide-3a"]   ["remove", "wires/W2"]
///   ["add", "wires", {...}]                     ["swap", "B1.plus", "B1.minus"]
/// "swap" exchanges the wires at two terminals. Throws where a path leads nowhere.
void apply_patch(files::Json& document, const files::Json& patch);

std::vector<Case> planted_mistakes();
std::vector<Case> sound_builds();
/// The base jobs by name.
std::vector<std::pair<std::string, job::Job>> base_jobs();

} // namespace conductus::test
