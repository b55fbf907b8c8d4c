// SPDX-License-Identifier: GPL-3.0-or-later
// The commands of conductus-cli: thin callers of the core.
#pragma once

#include <string>

#include "core/base/message_format.h"
#include "core/catalogue/catalogue.h"
#include "core/plan/plan.h"
#include "shop/book.h"

namespace conductus::cli {

enum Exit { fine = 0, stop_finding = 1, usage = 2, bad_input = 3 };

/// What is to stand in the sockets: "SOCKET=BLADE", "SOCKET=" for nothing, or "worst"; empty: as
/// the job says.
using MatedChoice = std::vector<std::string>;

/// A job of a file or a book with what is mated put into its sockets; what is not mated is still
/// there. Errors: of reading; no such socket, or it does not go in there.
Result<shop::Named> job_with(const catalogue::Catalogue& parts, const std::string& name,
                             const MatedChoice& mated);
/// The same as it stands, what is in no socket left out: for figures, not for files of jobs.
Result<shop::Named> job_as_it_stands(const catalogue::Catalogue& parts, const std::string& name,
                                     const MatedChoice& mated = {});

struct StateChoice {
    MatedChoice mated;
    std::string job;
    std::string look;
    std::string state;  ///< as of plan::state_of
    std::string preset; ///< that the hilt is set to; empty: the use's
    double charge = 1;
};

int plan(const catalogue::Catalogue& parts, const std::string& job, const MatedChoice& mated,
         bool json);
int check(const catalogue::Catalogue& parts, const std::string& job, bool json);
int solve(const catalogue::Catalogue& parts, const StateChoice& state, bool exact, int repeat,
          bool json);
/// `seconds` above 0: a transient of that long, cells with their curves and polarisation.
int export_spice(const catalogue::Catalogue& parts, const StateChoice& state, double seconds,
                 const std::string& out);

/// Looks, effects, chains, LEDs: what they draw and show.
int lights(const catalogue::Catalogue& parts, const std::string& job, bool json);

/// Every state of the hilt: what it draws, what is lit, how many days full cells last.
int states(const catalogue::Catalogue& parts, const std::string& job, const MatedChoice& mated,
           bool json);
/// Every preset: what it shows, which effects come, what it draws, how long it lasts.
int presets(const catalogue::Catalogue& parts, const std::string& job, const MatedChoice& mated,
            bool json);

/// Commands, what one input means twice, what answers late, what is out of reach, the tour.
int handling(const catalogue::Catalogue& parts, const std::string& job, bool json);
struct CardChoice {
    std::string job, folder, from, to;
    bool dry_run = false, json = false;
};
/// `card JOB FOLDER`: the presets against what is on it. 1 where something of it stops.
int card(const catalogue::Catalogue& parts, const CardChoice& choice);
/// `card prepare JOB FROM TO`: 1 where something stands in the way.
int prepare_card(const catalogue::Catalogue& parts, const CardChoice& choice);
struct DiagnoseChoice {
    std::string job, readings;
    std::vector<std::string> symptoms;
    int level = 1;
    unsigned seed = 1;
    std::string policy = "finder"; ///< finder, halving or habit
    bool json = false;
};
/// `diagnose JOB --readings FILE.csv --symptom WORD`: what it may be, and the next reading.
int diagnose(const catalogue::Catalogue& parts, const DiagnoseChoice& choice);
/// `tests JOB`: how the build is tried, step by step, with what each should read.
int tests(const catalogue::Catalogue& parts, const DiagnoseChoice& choice);
/// `practice JOB --seed N --level L --policy finder`: a hidden fault, and the finder's way to it.
int practice(const catalogue::Catalogue& parts, const DiagnoseChoice& choice);
/// `motion JOB TRACE.csv`
int motion(const catalogue::Catalogue& parts, const std::string& job, const std::string& file,
           bool json);

/// What fits, what passes, in what order it goes together.
int fit(const catalogue::Catalogue& parts, const std::string& job, bool json);
/// Ranked arrangements, or the smallest changes that would make one possible.
int arrange(const catalogue::Catalogue& parts, const std::string& job, bool json);

int brief(const catalogue::Catalogue& parts, const std::string& job, bool json);
int diff(const catalogue::Catalogue& parts, const std::string& before, const std::string& after,
         bool json);

/// What is asked of a use.
struct RuntimeChoice {
    std::string job;
    std::string use; ///< empty: the job's own
    int days = 200;
    std::uint64_t seed = 1;
    bool json = false;
};
/// How long it runs, what ends it, how many cells a day takes, how long it may lie.
int runtime(const catalogue::Catalogue& parts, const RuntimeChoice& choice);
/// Days of that use until it is off, event by event, as CSV.
int discharge(const catalogue::Catalogue& parts, const std::string& job, const std::string& use,
              const std::string& out);

/// Every way to build it that fits, with what it gives and costs.
int options(const catalogue::Catalogue& parts, const std::string& job, bool json);
/// What a figure is made of, and what a tenth more of each input would do to it.
int why(const catalogue::Catalogue& parts, const std::string& job, const std::string& figure,
        bool json);
/// The brightness cap for a clean runtime.
int cap(const catalogue::Catalogue& parts, const std::string& job, double minutes, bool json);

/// What is asked of a harness.
struct HarnessChoice {
    std::string job;
    std::string csv;     ///< wires to take in; empty: the job's
    std::string out;     ///< job file to write them into; empty: none
    bool derive = false; ///< adds what is missing first
    bool json = false;
};
int harness(const catalogue::Catalogue& parts, const HarnessChoice& choice);
/// Least copper that keeps what all wires lose under a budget.
int size_wires(const catalogue::Catalogue& parts, const std::string& job, double budget_mV,
               bool json);
/// `format`: cutlist, labels, config or template. `out` empty: standard output.
int export_harness(const catalogue::Catalogue& parts, const std::string& job,
                   const std::string& format, const std::string& template_file,
                   const std::string& out);

/// What is said of a new job; empty: the usual.
struct NewChoice {
    std::string name, kind = "conversion", occasion;
    std::string length, bore, blade, blade_outer;             ///< lengths as typed
    std::string strip, board, cell, speaker, kill, connector; ///< ids, or "later"
    int strips = -1, buttons = -1;                            ///< −1: the usual
    std::string out;
    bool json = false;
};
/// Makes a whole job from a few readings and choices, writes it, and says what plan says of it.
int new_job(const catalogue::Catalogue& parts, const NewChoice& choice);

/// What is read of a part.
struct FitPartChoice {
    std::string kind, readings; ///< a word of bench::specimen_words(), a CSV file
    std::string like;           ///< id of its class; empty: the usual
    int pixels = 0;             ///< of a strip; 0: as the readings say
    double length_mm = 0;       ///< the same
    bool json = false;
};
/// The figures of a part that fit its readings best.
int fit_part(const catalogue::Catalogue& parts, const FitPartChoice& choice);

/// What is asked of the catalogue.
struct CatalogueChoice {
    std::string action;   ///< list, show, check or add
    std::string book;     ///< whose own parts are there too; empty: none's
    std::string argument; ///< words, id or file, by the action
    std::string kind;     ///< key of a kind; empty: all
    bool json = false;
};
/// The parts that words and figures ask for; one of them; whether a file of own parts can be used.
int catalogue_of(const catalogue::Catalogue& parts, const CatalogueChoice& choice);

/// Every rule there is; as JSON, or as docs/rules.md.
int rules(bool json, bool markdown);
/// Applies the fix that is offered for the first finding of that id, and writes the job.
int mend(const catalogue::Catalogue& parts, const std::string& job, const std::string& id,
         const std::string& out);
/// Answers the findings of that id, today: accepted, or acknowledged where they are about lithium.
/// `about`: only what names that first; empty: all of them.
int accept(const catalogue::Catalogue& parts, const std::string& job, const std::string& id,
           const std::string& about, const std::string& why, const std::string& out);

/// What is asked of a shop book.
struct ShopChoice {
    std::string book, action;
    std::string argument; ///< words, folder or file, by the action
    bool json = false, csv = false;
};
int shop(const catalogue::Catalogue& parts, const ShopChoice& choice);

/// The plan of a job file or NAME@BOOK, without runtimes of other cells.
Result<plan::Plan> analysed(const catalogue::Catalogue& parts, const std::string& name,
                            const MatedChoice& mated = {});
/// The same with every fix that may be offered.
Result<plan::Plan> with_fixes(const catalogue::Catalogue& parts, const std::string& name);

/// Prints the problem in one line on standard error; always bad_input.
int refuse(const Problem& problem);

} // namespace conductus::cli
