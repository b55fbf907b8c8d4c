// SPDX-License-Identifier: GPL-3.0-or-later
// Runs the command line as a script would.
#pragma once

#include "files/job_json.h"
#include "support/fixtures.h"

namespace conductus::test {

inline Ran cli(const std::string& arguments) {
    return run((bin_dir() / "conductus-cli").string() + " " + arguments);
}
inline std::string demo_file(const std::string& name) {
    return (source_dir() / "data/demo" / (name + ".json")).string();
}
inline std::string heron() { return demo_file("heron"); }

inline std::string job_file(const TemporaryFolder& folder, const job::Job& job) {
    write_file(folder / "job.json", files::job_text(job));
    return (folder / "job.json").string();
}

} // namespace conductus::test
