// SPDX-License-Identifier: GPL-3.0-or-later
// Every figure, finding and exported file of the demo jobs, as the command line gives them, against
// what tests/golden/*.json says that they were. A difference that is meant is taken over with
// CONDUCTUS_UPDATE=1, and its reason is written into tests/golden/changes.md.
#include <charconv>
#include <cstdlib>
#include <fmt/format.h>
#include <sstream>

#include "cli/cli.h"
#include "files/attachment.h"

namespace conductus {
namespace {

using namespace test;
using files::Json;
namespace fs = std::filesystem;

/// Most entries of a list that are kept one by one, and most lines of a text.
constexpr std::size_t longest_list = 8, longest_text = 30;

/// As far as every machine agrees on it.
double rounded(double v) { return std::stod(fmt::format("{:.7g}", v)); }

/// The same text, its numbers rounded.
std::string rounded(const std::string& text) {
    std::string out;
    for (std::size_t i = 0; i < text.size();) {
        const bool begins = std::isdigit(static_cast<unsigned char>(text[i])) &&
                            (i == 0 || (!std::isalnum(static_cast<unsigned char>(text[i - 1])) &&
                                        text[i - 1] != '.'));
        double value = 0;
        const auto [end, bad] =
            begins ? std::from_chars(text.data() + i, text.data() + text.size(), value)
                   : std::from_chars_result{nullptr, std::errc::invalid_argument};
        const std::string_view number =
            bad == std::errc() ? std::string_view(text.data() + i, end) : std::string_view();
        if (number.size() > 8) {
            out += fmt::format("{:.7g}", value);
        } else if (!number.empty()) {
            out += number;
        } else {
            out += text[i++];
            continue;
        }
        i += number.size();
    }
    return out;
}

std::string hash_of(const std::string& text) { return files::content_id(text).substr(0, 16); }

/// What is kept of an answer: all of it, but of long lists the ends and a hash.
Json kept(const Json& answer) {
    if (answer.is_number_float()) return rounded(answer.get<double>());
    if (answer.is_object()) {
        Json all = Json::object();
        for (const auto& [key, value] : answer.items())
            if (key != "solve_us") all[key] = kept(value); // a time differs each time
        return all;
    }
    if (!answer.is_array()) return answer;
    Json all = Json::array();
    for (const auto& entry : answer)
        all.push_back(kept(entry));
    if (all.size() <= longest_list) return all;
    return {{"entries", all.size()},
            {"hash", hash_of(all.dump())},
            {"first", all.front()},
            {"last", all.back()}};
}

Json kept_text(const std::string& text) {
    std::vector<std::string> lines;
    std::istringstream in(rounded(text));
    for (std::string line; std::getline(in, line);)
        lines.push_back(line);
    if (lines.size() <= longest_text) return lines;
    Json all{{"lines", lines.size()}, {"hash", hash_of(rounded(text))}};
    lines.resize(longest_text / 2);
    all["first"] = lines;
    return all;
}

class Golden : public testing::TestWithParam<const char*> {
protected:
    void SetUp() override {
        file_ = demo_file(GetParam());
        job_ = demo(GetParam());
    }
    void keep(const std::string& command, Ran ran) {
        // Where the project lies is nobody's figure.
        const std::string place = source_dir().string() + "/";
        for (std::string* text : {&ran.out, &ran.err})
            for (auto at = text->find(place); at != std::string::npos; at = text->find(place))
                text->erase(at, place.size());
        Json& entry = now_[command];
        entry["exit"] = ran.code;
        if (!ran.err.empty()) entry["said"] = ran.err;
        const Json json = Json::parse(ran.out, nullptr, false);
        if (!ran.out.empty()) entry["out"] = json.is_structured() ? kept(json) : kept_text(ran.out);
    }
    void ask(const std::string& command, const std::string& options = "") {
        keep(command + (options.empty() ? "" : " " + options),
             cli(command + " " + file_ + " " + options));
    }
    void write(const std::string& command, const std::string& options = "") {
        const fs::path out = folder_ / "out";
        Ran ran = cli(command + " " + file_ + " " + options + " -o " + out.string());
        ran.out = fs::exists(out) ? read_file(out) : "";
        fs::remove(out);
        keep(command + " " + options + " -o", ran);
    }
    TemporaryFolder folder_;
    std::string file_;
    job::Job job_;
    Json now_ = Json::object();
};

TEST_P(Golden, EveryFigureFindingAndFileIsWhatItWas) {
    for (const char* command : {"plan", "check", "brief", "lights", "fit", "harness", "options"})
        ask(command);
    for (const char* command : {"plan", "brief", "lights", "fit", "arrange", "harness"})
        ask(command, "--json");
    ask("harness", "--derive --json");
    ask("runtime", "--days 40 --seed 1 --json");
    for (const char* use : {"stage run", "quay fair", "shelf piece", "festival day", "rehearsal"}) {
        ask("runtime", fmt::format("--use '{}' --json", use));
        write("discharge", fmt::format("--use '{}'", use));
    }
    write("discharge");
    for (const char* figure :
         {"peak-current", "board-sag", "tip-brightness", "first-crackle", "dim", "cells-per-day",
          "tightest-fit", "hottest-part", "off", "storage"})
        ask("why", fmt::format("{} --json", figure));
    ask("cap", "--for 90 --json");
    ask("size-wires", "--budget-mV 80 --json");
    for (const char* as : {"cutlist", "labels", "config"})
        ask("export", fmt::format("--as {}", as));
    std::vector<std::string> states{"stored", "killed", "idle", "worst"};
    for (const auto& look : job_.looks)
        states.push_back(look.name);
    for (const auto& effect : job_.effects)
        states.push_back(effect.name);
    for (const std::string& state : states)
        ask("solve", fmt::format("--state '{}' --json", state));
    for (const auto& look : job_.looks)
        for (const char* charge : {"0.5", "0.1"})
            ask("solve", fmt::format("--look '{}' --soc {} --exact --json", look.name, charge));
    write("export", "--as spice");
    write("export", "--as spice --state worst");

    const auto golden = source_dir() / "tests/golden" / (std::string(GetParam()) + ".json");
    if (std::getenv("CONDUCTUS_UPDATE")) { // a command a line
        std::string text;
        for (const auto& [command, answer] : now_.items())
            text += (text.empty() ? "{" : ",") + std::string("\n") + Json(command).dump() + ": " +
                    answer.dump();
        write_file(golden, text + "\n}\n");
    }
    const Json then = Json::parse(read_file(golden), nullptr, false);
    ASSERT_TRUE(then.is_object()) << golden;
    const Json changes = Json::diff(then, now_);
    std::string shown;
    for (std::size_t i = 0; i < changes.size() && i < 25; ++i) {
        const Json::json_pointer at(changes[i]["path"].get<std::string>());
        shown += fmt::format("\n{}: {} -> {}", at.to_string(),
                             then.contains(at) ? then.at(at).dump().substr(0, 200) : "nothing",
                             now_.contains(at) ? now_.at(at).dump().substr(0, 200) : "nothing");
    }
    EXPECT_TRUE(changes.empty()) << changes.size() << " differences:" << shown;
}

INSTANTIATE_TEST_SUITE_P(Demo, Golden, testing::ValuesIn(demo_jobs),
                         [](const auto& named) { return std::string(named.param); });

} // namespace
} // namespace conductus
