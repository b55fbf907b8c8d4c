// SPDX-License-Identifier: GPL-3.0-or-later
// The house has one street: an include may only point up it.
#include <fstream>
#include <map>
#include <regex>
#include <set>

#include "support/fixtures.h"

namespace conductus {
namespace {

namespace fs = std::filesystem;

const std::map<std::string, int> street{
    {"core/base", 0},     {"core/catalogue", 1}, {"core/job", 2},
    {"core/hilt", 3},     {"core/handling", 3},  {"core/motion", 3},
    {"core/card", 3},     {"core/meter", 3},     {"core/lights", 3},
    {"core/circuit", 4},  {"core/power", 5},     {"core/harness", 5},
    {"core/findings", 6}, {"core/bench", 6},     {"core/plan", 7},
    {"core/diagnose", 6}, {"files", 8},          {"threads", 8},
    {"shop", 9},          {"cli", 10},           {"meter", 10},
    {"app", 10}};

std::string room_of(const std::string& path) {
    for (const auto& [room, floor] : street)
        if (path.starts_with(room + "/")) return room;
    return {};
}

template <class Visit>
void every_include(Visit&& visit) {
    const fs::path src = test::source_dir() / "src";
    const std::regex include("^\\s*#include\\s+[<\"]([^>\"]+)[>\"]");
    for (const auto& entry : fs::recursive_directory_iterator(src)) {
        const std::string ending = entry.path().extension();
        if (ending != ".h" && ending != ".cpp") continue;
        std::ifstream in(entry.path());
        std::string line;
        std::smatch found;
        while (std::getline(in, line))
            if (std::regex_search(line, found, include))
                visit(fs::relative(entry.path(), src).string(), found[1].str());
    }
}

TEST(Structure, IncludesPointUpTheStreet) {
    int checked = 0;
    every_include([&](const std::string& file, const std::string& included) {
        const std::string from = room_of(file), to = room_of(included);
        ASSERT_FALSE(from.empty()) << file << " is in no room";
        if (to.empty() || to == from) return;
        ++checked;
        EXPECT_LT(street.at(to), street.at(from)) << file << " includes " << included;
    });
    EXPECT_GT(checked, 100);
}

TEST(Structure, NoInterfaceAndNoClockInTheCore) {
    every_include([&](const std::string& file, const std::string& included) {
        if (!file.starts_with("app/")) {
            EXPECT_FALSE(included.starts_with("Q")) << file << " includes " << included;
        }
        if (file.starts_with("core/")) {
            for (const char* outside :
                 {"chrono", "fstream", "filesystem", "random", "thread", "iostream", "ctime"})
                EXPECT_NE(included, outside) << file;
        }
    });
}

template <class Visit>
void every_line(const char* folder, Visit&& visit) {
    for (const auto& entry : fs::recursive_directory_iterator(test::source_dir() / folder)) {
        const std::string ending = entry.path().extension();
        if (ending != ".h" && ending != ".cpp") continue;
        std::ifstream in(entry.path());
        std::string line;
        for (int n = 1; std::getline(in, line); ++n)
            visit(entry.path().filename().string() + ":" + std::to_string(n), line);
    }
}

TEST(Structure, PagesChangeAJobByNamedEditsAlone) {
    // A lambda that is given a job to change; a copy that is changed by hand; a refusal that is
    // thrown away.
    const std::regex by_hand(R"(\[[^\]]*\]\((job::)?Job&)"),
        copy(R"(job::Job \w+ = \*?(context_|session))"), unheard(R"(\(void\).*session.*edit\()");
    every_line("src/app", [&](const std::string& where, const std::string& line) {
        EXPECT_FALSE(std::regex_search(line, by_hand)) << where << ": " << line;
        EXPECT_FALSE(std::regex_search(line, copy)) << where << ": " << line;
        EXPECT_FALSE(std::regex_search(line, unheard)) << where << ": " << line;
    });
}

TEST(Structure, ThereIsOneTable) {
    every_line("src/app", [&](const std::string& where, const std::string& line) {
        for (const char* other : {"QTableWidget", "QTreeWidget", "QTreeView", "QStandardItemModel"})
            EXPECT_EQ(line.find(other), std::string::npos) << where << ": " << line;
        const bool table = where.starts_with("table.") || where.starts_with("table_model.");
        if (!table) {
            EXPECT_EQ(line.find("public QAbstractTableModel"), std::string::npos) << where;
        }
    });
}

TEST(Structure, TheInterfaceSolvesNothing) {
    // Headers whose functions solve: a page asks instead, and Asking answers beside it. Each of the
    // others runs on a thread of its own or before there is a window.
    const std::map<std::string, std::set<std::string>> may{
        {"core/plan/answers.h", {"app/session/asking.cpp"}},
        {"core/plan/analyse.h",
         {"app/session/session.cpp", "app/session/plan_in_book.cpp", "app/main.cpp"}},
        {"core/plan/view.h", {}},
        {"core/plan/figures.h", {}},
        {"core/plan/options.h", {}},
        {"core/plan/choice_build.h", {}},
        {"core/plan/choice_leads.h", {}},
        {"core/plan/choice_advice.h", {}},
        {"core/power/use_loads.h", {}},
        {"core/power/load_curve.h", {}},
        {"core/power/state.h", {}},
        {"core/power/film.h", {}},
        {"core/power/cap.h", {}},
        {"core/power/cell_model.h", {}},
        {"core/hilt/arrange.h", {}},
        {"core/hilt/route.h", {}}};
    every_include([&](const std::string& file, const std::string& included) {
        if (!file.starts_with("app/")) return;
        EXPECT_TRUE(!included.starts_with("core/circuit/") || included == "core/circuit/feeds.h" ||
                    included == "core/circuit/copper.h")
            << file << " includes " << included;
        if (const auto it = may.find(included); it != may.end()) {
            EXPECT_TRUE(it->second.contains(file)) << file << " includes " << included;
        }
    });
    // Nor by a header that brings them along.
    const std::regex solving(
        R"(\b(analyse|analyse_figures|add_options|run_down|live|many_days|use_study|moment_of|film_of|choices_of|size_wires|arrange|solve|network_of|view_of|compare)\()");
    const std::regex call(R"((plan|power|hilt|circuit|harness)::)");
    every_line("src/app", [&](const std::string& where, const std::string& line) {
        for (const char* one : {"asking.cpp:", "session.cpp:", "plan_in_book.cpp:", "main.cpp:"})
            if (where.starts_with(one)) return;
        std::smatch found;
        if (std::regex_search(line, found, solving)) {
            EXPECT_FALSE(std::regex_search(line, call)) << where << ": " << line;
        }
    });
}

TEST(Structure, ThereIsOneWayToAsk) {
    // Threads and pools of the interface: the queue of questions, the analysis, the keeper of the
    // book, and the shelves that read books.
    const std::set<std::string> may{"asking.h", "asking.cpp", "session.h", "session.cpp",
                                    "keeper.h", "keeper.cpp", "shelf_page.h", "shelf_page.cpp",
                                    "importer.h", "importer.cpp", "book_care.h", "book_care.cpp",
                                    "own_shelf.h", "own_shelf.cpp",
                                    // A card is read and prepared beside the window.
                                    "card_work.h", "card_work.cpp"};
    every_line("src/app", [&](const std::string& where, const std::string& line) {
        const bool thread = line.find("QThread") != std::string::npos ||
                            line.find("std::thread") != std::string::npos ||
                            line.find("QtConcurrent") != std::string::npos;
        if (thread) {
            EXPECT_TRUE(may.contains(where.substr(0, where.find(':')))) << where << ": " << line;
        }
    });
}

TEST(Structure, NobodyFollowsWiresByHand) {
    // Going from one end of a wire to the other and on: both ends compared to the same terminal.
    const std::regex step(R"(\.from == (at|terminal)\).*go\()");
    every_line("src", [&](const std::string& where, const std::string& line) {
        EXPECT_FALSE(std::regex_search(line, step)) << where << ": " << line;
    });
}

TEST(Structure, EverySourceNamesItsLicenceOnce) {
    for (const char* folder : {"src", "tests", "bench"})
        for (const auto& entry : fs::recursive_directory_iterator(test::source_dir() / folder)) {
            const std::string ending = entry.path().extension();
            if (ending != ".h" && ending != ".cpp") continue;
            const std::string text = test::read_file(entry.path());
            EXPECT_TRUE(text.starts_with("// SPDX-License-Identifier: GPL-3.0-or-later\n"))
                << entry.path();
        }
}

} // namespace
} // namespace conductus
