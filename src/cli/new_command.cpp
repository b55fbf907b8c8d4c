// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"
#include "core/base/parse.h"
#include "core/job/edits.h"
#include "core/job/validate.h"
#include "core/job/words.h"
#include "core/plan/start.h"
#include "files/disk.h"
#include "files/job_json.h"

namespace conductus::cli {
namespace {

Result<void> take(const std::string& typed, const char* option, std::optional<Millimetre>& into) {
    if (typed.empty()) return {};
    const auto read = parse_length(typed);
    if (!read) {
        Problem problem = read.error();
        problem.where = option;
        return tl::unexpected(std::move(problem));
    }
    into = *read;
    return {};
}

Result<plan::Start> start_of(const NewChoice& choice) {
    plan::Start start;
    if (auto ok = take(choice.length, "--length", start.length); !ok)
        return tl::unexpected(ok.error());
    if (auto ok = take(choice.bore, "--bore", start.bore); !ok) return tl::unexpected(ok.error());
    if (choice.blade == plan::Start::later)
        start.blade = Millimetre(0);
    else if (auto ok = take(choice.blade, "--blade", start.blade); !ok)
        return tl::unexpected(ok.error());
    if (auto ok = take(choice.blade_outer, "--blade-diameter", start.blade_outer); !ok)
        return tl::unexpected(ok.error());
    if (choice.strips >= 0) start.strips = choice.strips;
    if (choice.buttons >= 0) start.buttons = choice.buttons;
    start.strip = choice.strip, start.board = choice.board, start.cell = choice.cell;
    start.speaker = choice.speaker, start.kill = choice.kill, start.connector = choice.connector;
    if (!choice.occasion.empty()) start.occasion = job::from_word<job::Occasion>(choice.occasion);
    return start;
}

} // namespace

int new_job(const catalogue::Catalogue& parts, const NewChoice& choice) {
    const auto start = start_of(choice);
    if (!start) return refuse(start.error());
    if (auto ok = plan::check_start(*start, parts); !ok) {
        Problem problem = ok.error();
        problem.where = problem.where == "blade_outer" ? "--blade-diameter" : "--" + problem.where;
        return refuse(problem);
    }
    job::Job job = job::blank(
        choice.name, job::from_word<job::Kind>(choice.kind).value_or(job::Kind::conversion));
    if (auto ok = plan::begin_job(*start, parts)(job); !ok) return refuse(ok.error());
    if (auto ok = job::validate(job, parts); !ok) return refuse(ok.error());
    const auto text = files::job_file_text({std::move(job), {}}, parts);
    if (!text) return refuse(text.error());
    if (auto ok = files::write_output(choice.out, *text, files::Content::job); !ok)
        return refuse(ok.error());
    // The job is made; what is to be said of it is said, and is no failure of this command.
    const int said = plan(parts, choice.out, {}, choice.json);
    return said == stop_finding ? fine : said;
}

} // namespace conductus::cli
