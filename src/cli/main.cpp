// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>

#include "cli/commands.h"
#include "files/catalogue_json.h"

namespace {

void add_state(CLI::App& command, conductus::cli::StateChoice& state) {
    command.add_option("JOB", state.job, "a job file, or NAME@BOOK")->required();
    command.add_option("--look", state.look, "name of a look; the job's first if not given");
    command.add_option("--soc", state.charge, "state of charge, 0 to 1")
        ->check(CLI::Range(0.0, 1.0));
}

} // namespace

int main(int argc, char** argv) {
    namespace cli = conductus::cli;
    CLI::App app("Plans the electronics of a saber hilt.\n"
                 "Exit: 0 fine, 1 a stop finding, 2 usage, 3 bad input.",
                 "conductus-cli");
    app.set_version_flag("--version", "conductus-cli 0.1.0");
    app.require_subcommand(1);

    std::string job, out, format;
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

    auto* write = app.add_subcommand("export", "write the network for another program");
    add_state(*write, state);
    write->add_option("--as", format, "spice")->required()->check(CLI::IsMember({"spice"}));
    write->add_option("-o", out, "file to write")->required();

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        return app.exit(e) == 0 ? cli::fine : cli::usage;
    }

    const auto data = conductus::files::find_data(conductus::files::this_executable());
    if (!data) return cli::refuse(data.error());
    const auto parts = conductus::files::read_catalogue(*data / "catalogue");
    if (!parts) return cli::refuse(parts.error());

    if (*plan) return cli::plan(*parts, job, json);
    if (*check) return cli::check(*parts, job, json);
    if (*solve) return cli::solve(*parts, state, exact, repeat, json);
    return cli::export_spice(*parts, state, out);
}
