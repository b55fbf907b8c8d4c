// SPDX-License-Identifier: GPL-3.0-or-later
// Job files: what is read can be written, and reads back equal; it can be analysed and compared.
#include <algorithm>

#include "core/plan/analyse.h"
#include "core/plan/compare.h"
#include "fuzz.h"

using namespace conductus;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string text(reinterpret_cast<const char*>(data), size);
    const auto file = files::parse_job_file(text, fuzz::parts(), "fuzzed");
    if (!file) {
        fuzz::promise(!file.error().what.empty(), "a refusal says why");
        return 0;
    }
    const auto again = files::job_file_text(*file, fuzz::parts());
    fuzz::promise(again.has_value(), "what was read can be written");
    const auto back = files::parse_job_file(*again, fuzz::parts(), "again");
    // Text that was not UTF-8 was refused, so nothing is lost in writing.
    fuzz::promise(back && back->job == file->job, "what was written reads back equal");
    fuzz::promise(job::changes(file->job, back->job, fuzz::parts()).empty(), "and has no changes");
    int pixels = 0;
    for (const auto& blade : file->job.blades)
        for (const auto& strip : blade.strips)
            pixels += strip.pixels;
    if (pixels < 2000 && file->job.looks.size() + file->job.effects.size() < 20)
        (void)plan::analyse_figures(std::make_shared<const job::Job>(file->job),
                                    std::make_shared<const catalogue::Catalogue>(fuzz::parts()));
    return 0;
}
