// SPDX-License-Identifier: GPL-3.0-or-later
#include <atomic>
#include <csignal>
#include <fmt/format.h>
#include <unistd.h>

#include "cli/commands.h"
#include "core/base/format.h"
#include "core/card/check.h"
#include "core/card/compare.h"
#include "core/job/preset_changes.h"
#include "core/job/words.h"
#include "files/card_prepare.h"
#include "files/card_reader.h"
#include "files/json_text.h"
#include "threads/side_by_side.h"

namespace conductus::cli {
namespace {

using files::Json;

volatile std::sig_atomic_t interrupted = 0;

/// Tells how far it is on a terminal, and stops at Ctrl+C.
bool watch(const files::CardProgress& p) {
    if (::isatty(STDERR_FILENO) != 0)
        fmt::print(stderr, "\r{} of {} files, {:.0f} of {:.0f} MB{}", p.files, p.of_files,
                   static_cast<double>(p.bytes) / 1e6, static_cast<double>(p.of_bytes) / 1e6,
                   p.files == p.of_files ? "\n" : "");
    return interrupted == 0;
}

/// Ctrl+C stops the work at a whole file while it lives.
class StopsAtCtrlC {
public:
    StopsAtCtrlC() {
        before_ = std::signal(SIGINT, [](int) { interrupted = 1; });
    }
    ~StopsAtCtrlC() { (void)std::signal(SIGINT, before_); }
    StopsAtCtrlC(const StopsAtCtrlC&) = delete;
    StopsAtCtrlC& operator=(const StopsAtCtrlC&) = delete;
    StopsAtCtrlC(StopsAtCtrlC&&) = delete;
    StopsAtCtrlC& operator=(StopsAtCtrlC&&) = delete;

private:
    void (*before_)(int) = nullptr;
};

Json trouble_json(const card::Trouble& t) {
    return {{"id", t.id},
            {"gravity", job::word(t.gravity)},
            {"where", t.where},
            {"what", t.what.english()},
            {"mend", t.mend.english()}};
}

Json checked_json(const job::Job& job, const card::Checked& checked) {
    const auto changes = job::preset_changes(job);
    Json presets = Json::array(), problems = Json::array(), loudness = Json::array(),
         list = Json::array();
    for (const card::PresetOnCard& p : checked.presets)
        presets.push_back({{"order", p.order},
                           {"name", p.name},
                           {"font", p.font},
                           {"state", p.state.english()},
                           {"change", job::label(changes[p.order - 1]).english()}});
    for (const card::Trouble& t : checked.troubles)
        problems.push_back(trouble_json(t));
    for (const job::NotAsAsked& n : job::not_as_asked(job))
        problems.push_back({{"id", "presets.not-as-asked"},
                            {"gravity", "warn"},
                            {"where", n.preset},
                            {"what", n.text.english()},
                            {"mend", "Change the preset, or agree it with the owner"}});
    for (const card::Loudness& l : checked.loudness)
        loudness.push_back({{"font", l.name},
                            {"track", l.track},
                            {"lufs", l.lufs ? Json(*l.lufs) : Json(nullptr)},
                            {"peak_dBFS", l.peak_dBFS},
                            {"gain_dB", l.gain ? Json(*l.gain) : Json(nullptr)}});
    for (const Message& line : job::change_list(job))
        list.push_back(line.english());
    return {{"presets", presets}, {"problems", problems},       {"loudness", loudness},
            {"changes", list},    {"used_bytes", checked.used}, {"free_bytes", checked.free}};
}

void print_words(const job::Job& job, const card::Checked& checked) {
    for (const card::PresetOnCard& p : checked.presets)
        fmt::print("{:>3}  {:<24} {:<20} {}\n", p.order, p.name, p.font, p.state.english());
    if (!checked.loudness.empty()) fmt::print("\n");
    for (const card::Loudness& l : checked.loudness)
        fmt::print("{:<6} {:<24} {:>11}  peak {:>6.1f} dBFS{}\n", l.track ? "track" : "font",
                   l.name, l.lufs ? fmt::format("{:.1f} LUFS", *l.lufs) : "silent", l.peak_dBFS,
                   l.gain && std::abs(*l.gain) >= 0.05
                       ? fmt::format("  evened by {:+.1f} dB", *l.gain)
                       : "");
    for (const card::Trouble& t : checked.troubles)
        fmt::print("\n{}  {}: {}\n   {}\n", job::word(t.gravity), t.where, t.what.english(),
                   t.mend.english());
    for (const job::NotAsAsked& n : job::not_as_asked(job))
        fmt::print("\nwarn  {}\n", n.text.english());
    if (checked.troubles.empty()) fmt::print("\nnothing is wrong with the card\n");
    if (!job.presets_found.empty()) {
        fmt::print("\nWhat was changed\n");
        for (const Message& line : job::change_list(job))
            fmt::print("{}\n", line.english());
    }
}

} // namespace

int card(const catalogue::Catalogue& parts, const CardChoice& choice) {
    const auto plan = analysed(parts, choice.job);
    if (!plan) return refuse(plan.error());
    const job::Job& job = *plan->whole;
    const StopsAtCtrlC stops;
    const auto read =
        files::read_card(choice.folder, card::layout_of(job, *plan->parts), side_by_side, watch);
    if (!read) return refuse(read.error());
    const card::Checked checked = card::check(job, *plan->parts, *read);
    Json lines = Json::array();
    if (!job.card.files.empty())
        for (const card::CardLine& line :
             card::compare(job.card.files, card::manifest_of(*read), job.card.meant))
            if (line.became != card::Became::same)
                lines.push_back({{"path", line.path},
                                 {"became", card::word(line.became)},
                                 {"was", line.was},
                                 {"meant", line.meant}});
    if (choice.json) {
        Json all = checked_json(job, checked);
        if (!job.card.files.empty()) all["since_kept"] = lines;
        fmt::print("{}\n", all.dump(2));
    } else {
        print_words(job, checked);
        if (!job.card.files.empty())
            fmt::print("\nagainst the card as it was kept on {}: {}\n", job.card.on,
                       lines.empty() ? "the same" : fmt::format("{} differences", lines.size()));
        for (const Json& line : lines)
            fmt::print("  {:<8} {}\n", line["became"].get<std::string>(),
                       line["path"].get<std::string>());
    }
    return checked.count(job::Gravity::stop) > 0 ? stop_finding : fine;
}

int prepare_card(const catalogue::Catalogue& parts, const CardChoice& choice) {
    const auto plan = analysed(parts, choice.job);
    if (!plan) return refuse(plan.error());
    const auto what = files::plan_card(*plan->whole, *plan->parts, choice.from, choice.to);
    if (!what) return refuse(what.error());
    Json copies = Json::array(), problems = Json::array();
    for (const files::CardCopy& f : what->files) {
        copies.push_back({{"from", f.from}, {"to", f.to}, {"bytes", f.bytes}, {"there", f.there}});
        if (!choice.json && !f.there && choice.dry_run)
            fmt::print("copy  {}  →  {}\n", f.from, f.to);
    }
    for (const card::Trouble& t : what->troubles) {
        problems.push_back(trouble_json(t));
        if (!choice.json)
            fmt::print("{}  {}: {}\n   {}\n", job::word(t.gravity), t.where, t.what.english(),
                       t.mend.english());
    }
    Json all{
        {"files", copies},          {"problems", problems},       {"to_copy_bytes", what->to_copy},
        {"free_bytes", what->free}, {"left_alone", what->others}, {"copied", 0}};
    if (!choice.json)
        fmt::print("{} files, {:.1f} MB to copy; {} other files are left alone\n",
                   what->files.size(), static_cast<double>(what->to_copy) / 1e6, what->others);
    if (!choice.dry_run && what->troubles.empty()) {
        const StopsAtCtrlC stops;
        const auto copied = files::prepare_card(*what, choice.from, choice.to, watch);
        if (!copied) return refuse(copied.error());
        all["copied"] = *copied;
        if (!choice.json) fmt::print("{} files were copied and read back\n", *copied);
    }
    if (choice.json) fmt::print("{}\n", all.dump(2));
    return what->troubles.empty() ? fine : stop_finding;
}

} // namespace conductus::cli
