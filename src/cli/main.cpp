// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <cerrno>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <sstream>
#include <unistd.h>

#include "cli/commands.h"
#include "cli/numbers.h"
#include "core/base/nearest.h"
#include "core/bench/characterise.h"
#include "core/catalogue/kinds.h"
#include "core/job/words.h"
#include "core/plan/start.h"
#include "files/catalogue_json.h"

namespace {

using conductus::cli::add_number;

/// What commands print is collected and written in the end, all of it or with an error: a full disk
/// is no "0", and half a JSON text is no answer.
class Output {
public:
    Output() : real_(stdout), collected_(open_memstream(&text_, &size_)) {
        if (collected_) stdout = collected_;
    }
    ~Output() {
        stdout = real_;
        if (collected_) std::fclose(collected_);
        std::free(text_);
    }
    Output(const Output&) = delete;
    Output& operator=(const Output&) = delete;

    /// The exit code: `code`, or bad_input where not everything could be written.
    int end(int code) {
        if (!collected_) return std::fflush(real_) == 0 ? code : conductus::cli::bad_input;
        std::fflush(collected_);
        for (std::size_t done = 0; done < size_;) {
            const auto n = ::write(STDOUT_FILENO, text_ + done, size_ - done);
            if (n < 0 && errno == EINTR) continue;
            if (n < 0) {
                fmt::print(stderr,
                           "conductus-cli: the output can not be written: {}. Make room, or "
                           "write it somewhere else\n",
                           std::strerror(errno));
                return conductus::cli::bad_input;
            }
            done += static_cast<std::size_t>(n);
        }
        return code;
    }

private:
    char* text_ = nullptr;
    std::size_t size_ = 0;
    std::FILE *real_, *collected_;
};

/// A command, or an action of `shop`, that there is not: named, with what is near and what there
/// is.
std::string unknown_command(const CLI::App& app, const char* kind, const std::string& word) {
    std::vector<std::string> names;
    for (const auto* sub : app.get_subcommands([](const CLI::App*) { return true; }))
        names.push_back(sub->get_name());
    if (word.empty() || word[0] == '-' ||
        std::find(names.begin(), names.end(), word) != names.end())
        return {};
    const std::string near = conductus::nearest_word(word, names);
    return fmt::format("there is no {} '{}'. {}There are: {}", kind, conductus::shown(word, 60),
                       near.empty() ? "" : fmt::format("Did you mean '{}'? ", near),
                       fmt::join(names, ", "));
}

CLI::Option* not_empty(CLI::Option* option) {
    return option->check([](const std::string& text) {
        return text.empty() ? std::string("the name of a file is empty") : std::string();
    });
}

constexpr const char* mated_help =
    "what stands in a socket: SOCKET=BLADE, SOCKET= for nothing, or worst";

void add_state(CLI::App& command, conductus::cli::StateChoice& state) {
    command.add_option("JOB", state.job, "a job file, or NAME@BOOK")->required();
    command.add_option("--look", state.look, "name of a look; the job's first if not given");
    command.add_option("--state", state.state,
                       "killed, asleep, idle, blade out, charging, worst, or the name of a look, "
                       "preset or effect");
    command.add_option("--preset", state.preset, "name of the preset that the hilt is set to");
    command.add_option("--mated", state.mated, mated_help);
    add_number(command, "--soc", state.charge, 0.0, 1.0, "state of charge, 0 to 1");
}

/// `shop BOOK ACTION`: each action with its own argument.
CLI::App* add_shop(CLI::App& app, conductus::cli::ShopChoice& choice,
                   std::vector<std::string>& words) {
    auto* shop = app.add_subcommand("shop", "the shop book: list, search, in and out, backups");
    shop->add_option("BOOK", choice.book, "the file of the shop book")->required();
    shop->require_subcommand(1);
    auto action = [&](const char* name, const char* what) {
        auto* sub = shop->add_subcommand(name, what);
        sub->add_flag("--json", choice.json, "JSON on standard output");
        sub->callback([&choice, name] { choice.action = name; });
        return sub;
    };
    auto* list = action("list", "all jobs");
    list->add_flag("--csv", choice.csv, "comma separated values")->excludes("--json");
    action("find", "jobs that hold every word, in any of their texts")
        ->add_option("WORDS", words, "beginnings of words")
        ->required();
    action("export", "the whole book as a folder of JSON")
        ->add_option("DIR", choice.argument, "a folder that is not there yet, or empty")
        ->required();
    action("import", "take in a job file, an exported folder or another book")
        ->add_option("PATH", choice.argument, "file or folder")
        ->required();
    action("backup", "a sound copy of the book as it is now")
        ->add_option("FILE", choice.argument, "file to write; another backup may be replaced")
        ->required();
    action("restore", "make the book what a backup is; what it was is kept in BOOK.backups")
        ->add_option("FILE", choice.argument, "a backup")
        ->required();
    action("verify", "look at every byte: the file, every state of every job, and all they name");
    not_empty(action("rescue", "save what is whole of a damaged book")
                  ->add_option("-o", choice.argument, "file of the new book, not there yet")
                  ->required());
    return shop;
}

CLI::App* add_catalogue(CLI::App& app, conductus::cli::CatalogueChoice& choice,
                        std::vector<std::string>& words) {
    auto* catalogue =
        app.add_subcommand("catalogue", "the parts there are: list, show, check, add");
    catalogue->require_subcommand(1);
    auto action = [&](const char* name, const char* what) {
        auto* sub = catalogue->add_subcommand(name, what);
        sub->add_flag("--json", choice.json, "JSON on standard output");
        not_empty(sub->add_option("--book", choice.book, "a shop book, for its own parts"));
        sub->callback([&choice, name] { choice.action = name; });
        return sub;
    };
    auto* list = action("list", "parts by words and figures: 18650 15 A, 5 pins, fuse");
    list->add_option("WORDS", words, "beginnings of words, and figures with their units");
    std::vector<std::string> kinds;
    for (const auto& kind : conductus::catalogue::kinds())
        kinds.emplace_back(kind.key);
    list->add_option("--kind", choice.kind, "parts of that kind alone")
        ->check(CLI::IsMember(kinds));
    action("show", "one part, with its figures")
        ->add_option("ID", choice.argument, "as of list")
        ->required();
    action("check", "whether a file of parts of one's own can be used")
        ->add_option("FILE", choice.argument, "a catalogue file")
        ->required();
    auto* add = action("add", "the parts of a file become the shop's own, in its book");
    add->add_option("FILE", choice.argument, "a catalogue file")->required();
    add->get_option("--book")->required();
    return catalogue;
}

template <class E>
std::vector<std::string> words_of() {
    std::vector<std::string> words;
    for (const auto& [value, word] : conductus::job::Words<E>::table)
        words.emplace_back(word);
    return words;
}

CLI::App* add_new(CLI::App& app, conductus::cli::NewChoice& choice) {
    auto* made = app.add_subcommand("new", "a whole job from a few readings and choices");
    made->add_option("NAME", choice.name, "what the job is called")->required();
    made->add_option("--kind", choice.kind, "conversion, repair or upgrade")
        ->check(CLI::IsMember(words_of<conductus::job::Kind>()));
    made->add_option("--for", choice.occasion, "what it is for: 'stage', 'bout' …")
        ->check(CLI::IsMember(words_of<conductus::job::Occasion>()));
    made->add_option("--length", choice.length, "of the hilt: 280, or '11 in'");
    made->add_option("--bore", choice.bore, "of the hilt: 28.4, or '1.1 in'");
    made->add_option("--blade", choice.blade, "its length: 813, '32 in', or later");
    made->add_option("--blade-diameter", choice.blade_outer, "25.4, or '7/8 in'");
    add_number(*made, "--strips", choice.strips, 0, conductus::plan::most_strips, "in the blade");
    add_number(*made, "--buttons", choice.buttons, 0, conductus::plan::most_buttons, "fitted");
    const std::tuple<const char*, std::string*> parts[] = {
        {"strip", &choice.strip},     {"board", &choice.board}, {"cell", &choice.cell},
        {"speaker", &choice.speaker}, {"kill", &choice.kill},   {"connector", &choice.connector}};
    for (const auto& [kind, id] : parts)
        made->add_option(std::string("--") + kind, *id, "id of the catalogue, or later");
    not_empty(made->add_option("-o", choice.out, "job file to write")->required());
    made->add_flag("--json", choice.json, "JSON on standard output");
    return made;
}

int run(int argc, char** argv) {
    namespace cli = conductus::cli;
    CLI::App app("Plans the electronics of a saber hilt.\n"
                 "Exit: 0 fine, 1 a stop finding, 2 usage, 3 bad input.",
                 "conductus-cli");
    app.set_version_flag("--version", "conductus-cli 0.1.0");
    app.require_subcommand(1);

    std::string job, other, out, format;
    bool json = false, exact = false;
    int repeat = 1;
    cli::StateChoice state;

    auto* plan = app.add_subcommand("plan", "the eight figures and all findings");
    plan->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    cli::MatedChoice mated;
    plan->add_option("--mated", mated, mated_help);
    plan->add_flag("--json", json, "JSON on standard output");

    auto* check = app.add_subcommand("check", "the findings; exit 1 if one says stop");
    check->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    check->add_flag("--json", json, "JSON on standard output");

    auto* rules = app.add_subcommand("rules", "every rule that judges a job");
    bool markdown = false;
    rules->add_flag("--json", json, "JSON on standard output");
    rules->add_flag("--markdown", markdown, "as docs/rules.md");

    auto* mend = app.add_subcommand("mend", "apply the fix that is offered for a finding");
    mend->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    mend->add_option("FINDING", other, "its id, such as cell.reversed")->required();
    mend->add_option("-o,--output", out, "job file to write")->required();

    auto* accept = app.add_subcommand("accept", "live with a finding, for a reason; one about "
                                                "lithium is acknowledged and goes on to count");
    std::string why_accepted, about;
    accept->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    accept->add_option("FINDING", other, "its id, such as blade.tip-dim")->required();
    accept->add_option("--why", why_accepted, "the reason")->required();
    accept->add_option("--about", about, "only of what it names first: a part, a look");
    accept->add_option("-o,--output", out, "job file to write")->required();

    auto* solve = app.add_subcommand("solve", "voltages and currents of one look at one charge");
    add_state(*solve, state);
    solve->add_flag("--exact", exact, "every pixel rail a node, instead of strips as ports");
    add_number(*solve, "--repeat", repeat, 1, 10000000, "solve N times and give the mean time");
    solve->add_flag("--json", json, "JSON on standard output");

    auto* lights =
        app.add_subcommand("lights", "what looks, effects and single lights draw and show");
    lights->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    lights->add_flag("--json", json, "JSON on standard output");

    auto* states = app.add_subcommand(
        "states", "every state of the hilt: what it draws, what is lit, how long cells last");
    auto* presets = app.add_subcommand(
        "presets", "every preset: what it shows, its effects, what it draws, how long it lasts");
    for (CLI::App* command : {states, presets}) {
        command->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
        command->add_option("--mated", mated, mated_help);
        command->add_flag("--json", json, "JSON on standard output");
    }

    cli::CardChoice of_card;
    auto* card = app.add_subcommand("card", "presets against a memory card; prepare one");
    card->add_option("JOB", of_card.job, "a job file, or NAME@BOOK");
    card->add_option("FOLDER", of_card.folder, "of the card, or of a copy of it");
    card->add_flag("--json", of_card.json, "JSON on standard output");
    auto* prepare =
        card->add_subcommand("prepare", "copy what the presets need onto a card, and read it back");
    prepare->add_option("JOB", of_card.job, "a job file, or NAME@BOOK")->required();
    prepare->add_option("FROM", of_card.from, "folder that has the fonts and tracks")->required();
    prepare->add_option("TO", of_card.to, "an empty folder, or a card")->required();
    prepare->add_flag("--dry-run", of_card.dry_run, "say what would be copied, and change nothing");
    prepare->add_flag("--json", of_card.json, "JSON on standard output");
    std::string trace;
    auto* motion = app.add_subcommand("motion", "what the board takes a movement for");
    motion->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    motion->add_option("TRACE", trace, "a log of acceleration and turning, CSV")->required();
    motion->add_flag("--json", json, "JSON on standard output");

    cli::DiagnoseChoice bench;
    auto* diagnose =
        app.add_subcommand("diagnose", "what may be wrong, and the reading that tells most");
    diagnose->add_option("JOB", bench.job, "a job file, or NAME@BOOK")->required();
    diagnose->add_option("--readings", bench.readings, "a table of readings, CSV");
    diagnose->add_option("--symptom", bench.symptoms, "what was seen: \"boots, no blade\"");
    diagnose->add_flag("--json", bench.json, "JSON on standard output");
    auto* tests =
        app.add_subcommand("tests", "how a build is tried: every step, and what it reads");
    tests->add_option("JOB", bench.job, "a job file, or NAME@BOOK")->required();
    tests->add_flag("--json", bench.json, "JSON on standard output");

    auto* practice = app.add_subcommand("practice", "a hidden fault, found by a policy");
    practice->add_option("JOB", bench.job, "a job file, or NAME@BOOK")->required();
    add_number(*practice, "--seed", bench.seed, 0U, 4000000000U, "which case");
    add_number(*practice, "--level", bench.level, 1, 4,
               "1: one fault, 2: intermittent ones too, 3: two faults, 4: two intermittent ones");
    practice
        ->add_option("--policy", bench.policy,
                     "finder: what tells most for a minute; halving: the supply path, halved and "
                     "halved; habit: from the cell on")
        ->check(CLI::IsMember({"finder", "halving", "habit"}));
    practice->add_flag("--json", bench.json, "JSON on standard output");

    auto* handling = app.add_subcommand(
        "handling", "every command, what is ambiguous, late or out of reach, the shortest tour");
    handling->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    handling->add_flag("--json", json, "JSON on standard output");

    auto* fit = app.add_subcommand("fit", "what fits, what passes, in what order it goes together");
    fit->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    fit->add_flag("--json", json, "JSON on standard output");

    auto* arrange = app.add_subcommand("arrange", "orders and places of the parts that go in");
    arrange->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    arrange->add_flag("--json", json, "JSON on standard output");

    auto* brief = app.add_subcommand("brief", "wishes and agreements, and whether they hold");
    brief->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    brief->add_flag("--json", json, "JSON on standard output");

    auto* diff = app.add_subcommand("diff", "what differs between two jobs, in words");
    diff->add_option("JOB_A", job, "a job file, or NAME@BOOK")->required();
    diff->add_option("JOB_B", other, "a job file, or NAME@BOOK")->required();
    diff->add_flag("--json", json, "JSON on standard output");

    cli::RuntimeChoice use;
    auto* runtime = app.add_subcommand("runtime", "how long it runs, a day's cells, storage");
    runtime->add_option("JOB", use.job, "a job file, or NAME@BOOK")->required();
    runtime->add_option("--use", use.use, "the job's use, one it keeps, or a usual day");
    add_number(*runtime, "--days", use.days, 1, 100000, "days lived at random");
    add_number<std::uint64_t>(*runtime, "--seed", use.seed, 0, UINT64_MAX, "of the first of them");
    runtime->add_flag("--json", use.json, "JSON on standard output");

    auto* discharge = app.add_subcommand("discharge", "a use until it is off, event by event");
    discharge->add_option("JOB", use.job, "a job file, or NAME@BOOK")->required();
    discharge->add_option("--use", use.use, "the job's use, one it keeps, or a usual day");
    not_empty(discharge->add_option("-o", out, "CSV file to write")->required());

    auto* options = app.add_subcommand("options", "cells, strips, speakers … that fit, compared");
    options->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    options->add_flag("--json", json, "JSON on standard output");

    std::string figure;
    auto* why = app.add_subcommand("why", "what a figure is made of and what would change it");
    why->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    why->add_option("FIGURE", figure, "first-crackle, dim, off, storage, peak-current …")
        ->required();
    why->add_flag("--json", json, "JSON on standard output");

    double minutes = 0, seconds = 0;
    auto* cap = app.add_subcommand("cap", "the brightness cap for a clean runtime");
    cap->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    add_number(*cap, "--for", minutes, 0.1, 10000.0, "minutes clean")->required();
    cap->add_flag("--json", json, "JSON on standard output");

    cli::HarnessChoice wiring;
    auto* harness = app.add_subcommand("harness", "every wire, its length, its load and its place");
    harness->add_option("JOB", wiring.job, "a job file, or NAME@BOOK")->required();
    harness->add_flag("--json", wiring.json, "JSON on standard output");
    not_empty(harness->add_option("--wires", wiring.csv, "a CSV file of wires, not the job's"));
    harness->add_flag("--derive", wiring.derive, "add the wires that are missing first");
    not_empty(harness->add_option("-o", wiring.out, "job file to write, with those wires"));

    double budget = 0;
    auto* size = app.add_subcommand("size-wires", "gauges under a budget of volts, least copper");
    size->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    add_number(*size, "--budget-mV", budget, 0.001, 10000.0, "what all wires together may lose")
        ->required();
    size->add_flag("--json", json, "JSON on standard output");

    cli::ShopChoice shop_choice;
    std::vector<std::string> words;
    auto* shop = add_shop(app, shop_choice, words);

    cli::FitPartChoice measured;
    auto* fit_part = app.add_subcommand("fit-part", "a part's figures from readings of it");
    fit_part->add_option("KIND", measured.kind, "strip, pixel, cell, contact, switch, wire …")
        ->required()
        ->check(CLI::IsMember(conductus::bench::specimen_words()));
    not_empty(fit_part->add_option("READINGS.csv", measured.readings, "what the meters said")
                  ->required());
    fit_part->add_option("--like", measured.like, "id of the part of the catalogue it is like");
    add_number(*fit_part, "--pixels", measured.pixels, 1, 100000, "of the strip");
    add_number(*fit_part, "--length", measured.length_mm, 0.1, 100000.0,
               "of the strip or wire, mm");
    fit_part->add_flag("--json", measured.json, "JSON on standard output");

    cli::NewChoice begun;
    auto* made = add_new(app, begun);

    cli::CatalogueChoice parts_asked;
    auto* catalogue = add_catalogue(app, parts_asked, words);

    auto* write = app.add_subcommand("export", "write the network, cut list, labels, settings");
    add_state(*write, state);
    write->add_option("--as", format, "spice, cutlist, labels, config or template")
        ->required()
        ->check(CLI::IsMember({"spice", "cutlist", "labels", "config", "template"}));
    std::string template_file;
    not_empty(write->add_option("--template", template_file,
                                "a text whose markers are filled with the configuration"));
    add_number(*write, "--seconds", seconds, 0.01, 1e6,
               "a transient that long, cells with their polarisation");
    not_empty(write->add_option("-o", out, "file to write; but for spice, else standard output"));

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        std::string unknown;
        if (e.get_exit_code() != 0 && argc > 1) unknown = unknown_command(app, "command", argv[1]);
        if (unknown.empty() && *shop && argc > 3 && shop->get_subcommands().empty())
            unknown = unknown_command(*shop, "action", argv[3]);
        if (unknown.empty() && *catalogue && argc > 2 && catalogue->get_subcommands().empty())
            unknown = unknown_command(*catalogue, "action", argv[2]);
        if (!unknown.empty()) {
            fmt::print(stderr, "conductus-cli: {}\n", unknown);
            return cli::usage;
        }
        std::ostringstream said, complained;
        const int code = app.exit(e, said, complained);
        fmt::print("{}", said.str());
        fmt::print(stderr, "{}", complained.str());
        return code == 0 ? cli::fine : cli::usage;
    }
    // What says nothing is not passed over in silence.
    if (*write && format != "spice")
        for (const char* name : {"--look", "--state", "--soc", "--seconds"})
            if (write->count(name) > 0) {
                fmt::print(stderr, "conductus-cli: {} says nothing with --as {}: leave it out\n",
                           name, format);
                return cli::usage;
            }

    if (*card && !*prepare && (of_card.job.empty() || of_card.folder.empty())) {
        fmt::print(stderr, "conductus-cli: card wants JOB and FOLDER, or prepare JOB FROM TO\n");
        return cli::usage;
    }
    if (*write && (format == "template") != (write->count("--template") > 0)) {
        fmt::print(stderr, "conductus-cli: {}\n",
                   format == "template" ? "--as template wants --template FILE"
                                        : "--template goes with --as template");
        return cli::usage;
    }

    const auto data = conductus::files::find_data(conductus::files::this_executable());
    if (!data) return cli::refuse(data.error());
    const auto read = conductus::files::read_catalogues(*data);
    if (!read) return cli::refuse(read.error());
    for (const auto& skipped : read->skipped)
        fmt::print(stderr, "conductus-cli: {}\n", skipped.text());
    const auto* parts = &read->parts;

    if (*plan) return cli::plan(*parts, job, mated, json);
    if (*check) return cli::check(*parts, job, json);
    if (*rules) return cli::rules(json, markdown);
    if (*mend) return cli::mend(*parts, job, other, out);
    if (*accept) return cli::accept(*parts, job, other, about, why_accepted, out);
    if (*solve) return cli::solve(*parts, state, exact, repeat, json);
    if (*lights) return cli::lights(*parts, job, json);
    if (*states) return cli::states(*parts, job, mated, json);
    if (*presets) return cli::presets(*parts, job, mated, json);
    if (*handling) return cli::handling(*parts, job, json);
    if (*diagnose) return cli::diagnose(*parts, bench);
    if (*tests) return cli::tests(*parts, bench);
    if (*practice) return cli::practice(*parts, bench);
    if (*prepare) return cli::prepare_card(*parts, of_card);
    if (*card) return cli::card(*parts, of_card);
    if (*motion) return cli::motion(*parts, job, trace, json);
    if (*fit) return cli::fit(*parts, job, json);
    if (*arrange) return cli::arrange(*parts, job, json);
    if (*runtime) return cli::runtime(*parts, use);
    if (*discharge) return cli::discharge(*parts, use.job, use.use, out);
    if (*options) return cli::options(*parts, job, json);
    if (*why) return cli::why(*parts, job, figure, json);
    if (*harness) return cli::harness(*parts, wiring);
    if (*size) return cli::size_wires(*parts, job, budget, json);
    if (*cap) return cli::cap(*parts, job, minutes, json);
    if (*brief) return cli::brief(*parts, job, json);
    if (*diff) return cli::diff(*parts, job, other, json);
    if (*fit_part) return cli::fit_part(*parts, measured);
    if (*made) return cli::new_job(*parts, begun);
    if (*catalogue) {
        if (parts_asked.action == "list") parts_asked.argument = conductus::joined(words, " ");
        return cli::catalogue_of(*parts, parts_asked);
    }
    if (*shop) {
        for (const std::string& word : words)
            shop_choice.argument += (shop_choice.argument.empty() ? "" : " ") + word;
        return cli::shop(*parts, shop_choice);
    }
    if (format != "spice")
        return cli::export_harness(*parts, state.job, format, template_file, out);
    if (out.empty()) {
        fmt::print(stderr, "-o is required with --as spice\n");
        return cli::usage;
    }
    return cli::export_spice(*parts, state, seconds, out);
}

} // namespace

int main(int argc, char** argv) {
    Output output;
    int code = conductus::cli::bad_input;
    try {
        code = run(argc, argv);
    } catch (const std::exception& e) {
        // No exception is meant to come here; what was not foreseen ends with an error, too.
        fmt::print(stderr, "conductus-cli: this could not be done ({}). Nothing was changed\n",
                   conductus::shown(e.what(), 200));
    }
    return output.end(code);
}
