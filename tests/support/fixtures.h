// SPDX-License-Identifier: GPL-3.0-or-later
// What tests share: the shipped catalogue and demo jobs, the reference network, random jobs.
#pragma once

#include <filesystem>
#include <gtest/gtest.h>
#include <memory>
#include <random>
#include <string>

#include "core/catalogue/catalogue.h"
#include "core/circuit/network.h"
#include "core/job/job.h"
#include "core/plan/plan.h"

namespace conductus::test {

std::filesystem::path source_dir(); ///< the project's root
std::filesystem::path bin_dir();    ///< where the programs are

const catalogue::Catalogue& parts(); ///< data/catalogue
std::shared_ptr<const catalogue::Catalogue> shared_parts();

job::Job demo(const std::string& name); ///< data/demo/NAME.json
constexpr const char* demo_jobs[] = {"avocet", "bittern", "curlew", "dunlin", "godwit", "heron"};

/// Heron with its first button alone, and without presets and commands.
job::Job one_button_heron();
/// The same with everything mended: the only finding is the note about lithium cells.
job::Job clean_job();
/// Heron on a removable chassis, with a docking board of 6 contacts, DK1, from 158 to 164 mm: W3
/// and W5 to W9 cross it.
job::Job docked_heron();

/// A valid job with random figures in every field.
job::Job random_job(std::mt19937& random);

/// Takes joints, screws, openings, socket, carriers and kinds of effects out: what format 2 can
/// say.
void survey_plainly(job::Job& job);

plan::Plan plan_of(const job::Job& job);

/// How often to try something random: less often under a sanitizer, which is slow.
constexpr int rounds(int usual) {
#ifdef CONDUCTUS_SANITIZE
    return usual / 8 + 1;
#else
    return usual;
#endif
}

/// The reference of docs/models.md: two strips of 117 pixels on a 4.0 V source.
circuit::Network reference_network();

/// A network of one cell, a few wires and strips with random figures.
circuit::Network random_network(std::mt19937& random);

/// A folder that goes with the test.
class TemporaryFolder {
public:
    TemporaryFolder();
    ~TemporaryFolder();
    TemporaryFolder(const TemporaryFolder&) = delete;
    TemporaryFolder& operator=(const TemporaryFolder&) = delete;
    [[nodiscard]] std::filesystem::path operator/(const std::string& name) const {
        return path_ / name;
    }
    [[nodiscard]] const std::filesystem::path& path() const { return path_; }

private:
    std::filesystem::path path_;
};

/// Runs a command line; what it printed and its exit code.
struct Ran {
    int code = -1;
    std::string out, err;
};
Ran run(const std::string& command);

std::string read_file(const std::filesystem::path& path);
void write_file(const std::filesystem::path& path, const std::string& text);

} // namespace conductus::test
