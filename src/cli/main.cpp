// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include "cli/commands.h"
#include "files/catalogue_json.h"

namespace {

void add_state(CLI::App& command, conductus::cli::StateChoice& state) {
    command.add_option("JOB", state.job, "a job file, or NAME@BOOK")->required();
    command.add_option("--look", state.look, "name of a look; the job's first if not given");
    command.add_option("--state", state.state,
                       "stored, killed, idle, worst, or the name of a look or effect");
    command.add_option("--soc", state.charge, "state of charge, 0 to 1")
        ->check(CLI::Range(0.0, 1.0));
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
    action("list", "all jobs")->add_flag("--csv", choice.csv, "comma separated values");
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
    action("verify", "check the file, every state of every job, and all they name");
    return shop;
}

} // namespace

int main(int argc, char** argv) {
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
    plan->add_flag("--json", json, "JSON on standard output");

    auto* check = app.add_subcommand("check", "the findings; exit 1 if one says stop");
    check->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    check->add_flag("--json", json, "JSON on standard output");

    auto* solve = app.add_subcommand("solve", "voltages and currents of one look at one charge");
    add_state(*solve, state);
    solve->add_flag("--exact", exact, "every pixel rail a node, instead of strips as ports");
    solve->add_option("--repeat", repeat, "solve N times and give the mean time")
        ->check(CLI::Range(1, 10000000));
    solve->add_flag("--json", json, "JSON on standard output");

    auto* lights =
        app.add_subcommand("lights", "what looks, effects and single lights draw and show");
    lights->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    lights->add_flag("--json", json, "JSON on standard output");

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
    runtime->add_option("--days", use.days, "days lived at random")->check(CLI::Range(1, 100000));
    runtime->add_option("--seed", use.seed, "of the first of them");
    runtime->add_flag("--json", use.json, "JSON on standard output");

    auto* discharge = app.add_subcommand("discharge", "a use until it is off, event by event");
    discharge->add_option("JOB", use.job, "a job file, or NAME@BOOK")->required();
    discharge->add_option("--use", use.use, "the job's use, one it keeps, or a usual day");
    discharge->add_option("-o", out, "CSV file to write")->required();

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
    cap->add_option("--for", minutes, "minutes clean")->required()->check(CLI::Range(0.1, 10000.0));
    cap->add_flag("--json", json, "JSON on standard output");

    cli::HarnessChoice wiring;
    auto* harness = app.add_subcommand("harness", "every wire, its length, its load and its place");
    harness->add_option("JOB", wiring.job, "a job file, or NAME@BOOK")->required();
    harness->add_flag("--json", wiring.json, "JSON on standard output");
    harness->add_option("--wires", wiring.csv, "a CSV file of wires, in place of the job's");
    harness->add_flag("--derive", wiring.derive, "add the wires that are missing first");
    harness->add_option("-o", wiring.out, "job file to write, with those wires");

    double budget = 0;
    auto* size = app.add_subcommand("size-wires", "gauges under a budget of volts, least copper");
    size->add_option("JOB", job, "a job file, or NAME@BOOK")->required();
    size->add_option("--budget-mV", budget, "what all wires together may lose")
        ->required()
        ->check(CLI::Range(0.001, 10000.0));
    size->add_flag("--json", json, "JSON on standard output");

    cli::ShopChoice shop_choice;
    std::vector<std::string> words;
    auto* shop = add_shop(app, shop_choice, words);

    auto* write = app.add_subcommand("export", "write the network, cut list, labels, settings");
    add_state(*write, state);
    write->add_option("--as", format, "spice, cutlist, labels or config")
        ->required()
        ->check(CLI::IsMember({"spice", "cutlist", "labels", "config"}));
    write->add_option("--seconds", seconds, "a transient that long, cells with their polarisation")
        ->check(CLI::Range(0.01, 1e6));
    write->add_option("-o", out, "file to write; but for spice, else standard output");

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        return app.exit(e) == 0 ? cli::fine : cli::usage;
    }

    const auto data = conductus::files::find_data(conductus::files::this_executable());
    if (!data) return cli::refuse(data.error());
    const auto parts = conductus::files::read_catalogues(*data);
    if (!parts) return cli::refuse(parts.error());

    if (*plan) return cli::plan(*parts, job, json);
    if (*check) return cli::check(*parts, job, json);
    if (*solve) return cli::solve(*parts, state, exact, repeat, json);
    if (*lights) return cli::lights(*parts, job, json);
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
    if (*shop) {
        for (const std::string& word : words)
            shop_choice.argument += (shop_choice.argument.empty() ? "" : " ") + word;
        return cli::shop(*parts, shop_choice);
    }
    if (format != "spice") return cli::export_harness(*parts, state.job, format, out);
    if (out.empty()) {
        fmt::print(stderr, "-o is required with --as spice\n");
        return cli::usage;
    }
    return cli::export_spice(*parts, state, seconds, out);
}
