// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/job_json.h"

#include <csignal>
#include <cstdlib>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include "support/fixtures.h"

namespace conductus {
namespace {

using namespace test;
using files::Json;

Json heron_json() { return Json::parse(read_file(source_dir() / "data/demo/heron.json")); }

/// Set CONDUCTUS_UPDATE=1 to write the files in their own form after they were edited.
TEST(JobJson, EveryDemoFileIsAJobInItsOwnForm) {
    int files_read = 0;
    for (const auto& entry : std::filesystem::directory_iterator(source_dir() / "data/demo")) {
        const std::string text = read_file(entry.path());
        const auto file = files::parse_job_file(text, parts(), entry.path().filename());
        ASSERT_TRUE(file) << file.error().text();
        const auto again = files::job_file_text(*file, parts());
        ASSERT_TRUE(again) << again.error().text();
        if (std::getenv("CONDUCTUS_UPDATE")) write_file(entry.path(), *again);
        EXPECT_EQ(*again, read_file(entry.path())) << entry.path();
        EXPECT_EQ(*files::parse_job(text, parts(), "job"), file->job)
            << "but for the milestones' ids";
        // A job of the shop has a brief, an inspection and a past.
        EXPECT_FALSE(file->job.brief.wishes.empty());
        EXPECT_FALSE(file->job.brief.agreements.empty());
        EXPECT_FALSE(file->job.inspection.empty());
        EXPECT_GE(file->job.milestones.size(), 2u);
        ++files_read;
    }
    EXPECT_EQ(files_read, 6);
}

TEST(JobJson, RoundTripIsExact) {
    std::mt19937 random(7);
    for (int i = 0; i < rounds(300); ++i) {
        const job::Job job = random_job(random);
        const std::string text = files::job_text(job);
        const auto back = files::parse_job(text, parts(), "random");
        ASSERT_TRUE(back) << back.error().text();
        ASSERT_EQ(*back, job);
        ASSERT_EQ(files::job_text(*back), text);
    }
}

struct Refusal {
    const char* name;
    void (*change)(Json&);
    const char* where; ///< pointer
    const char* says;  ///< part of reason or remedy
};

class Refuses : public testing::TestWithParam<Refusal> {};

TEST_P(Refuses, WithPointerReasonAndRemedy) {
    Json json = heron_json();
    GetParam().change(json);
    const auto r = files::parse_job(json.dump(), parts(), "heron.json");
    ASSERT_FALSE(r);
    EXPECT_EQ(r.error().where, std::string("heron.json ") + GetParam().where);
    EXPECT_NE(r.error().text().find(GetParam().says), std::string::npos) << r.error().text();
    EXPECT_FALSE(r.error().mend.empty());
}

INSTANTIATE_TEST_SUITE_P(
    All, Refuses,
    testing::Values(
        Refusal{"UnknownKey", [](Json& j) { j["hilt"]["colour"] = 1; }, "/hilt/colour",
                "not known"},
        Refusal{"MisspeltKey",
                [](Json& j) {
                    j["hilt"]["clearence_mm"] = j["hilt"]["clearance_mm"];
                    j["hilt"].erase("clearance_mm");
                },
                "/hilt/clearence_mm", "clearance_mm"},
        Refusal{"OtherUnit",
                [](Json& j) {
                    j["blades"][0]["length_in"] = 32;
                    j["blades"][0].erase("length_mm");
                },
                "/blades/0/length_in", "in the unit 'mm'"},
        Refusal{"Missing", [](Json& j) { j["use"].erase("volume"); }, "/use",
                "'volume' is missing"},
        Refusal{"TextForNumber", [](Json& j) { j["parts"][1]["at_mm"] = "22"; }, "/parts/1/at_mm",
                "not a number"},
        Refusal{"NumberForText", [](Json& j) { j["name"] = 5; }, "/name", "not a text"},
        Refusal{"ListForObject", [](Json& j) { j["hilt"] = Json::array(); }, "/hilt",
                "not an object"},
        Refusal{"ObjectForList", [](Json& j) { j["wires"] = Json::object(); }, "/wires",
                "not a list"},
        Refusal{"NumberInList", [](Json& j) { j["wires"][2] = 3; }, "/wires/2", "not an object"},
        Refusal{"NegativeLength", [](Json& j) { j["wires"][2]["length_mm"] = -3; },
                "/wires/2/length_mm", "between"},
        Refusal{"TooLarge", [](Json& j) { j["looks"][0]["colour"]["red"] = 255; },
                "/looks/0/colour/red", "between 0 and 1"},
        Refusal{"HalfAPixel", [](Json& j) { j["blades"][0]["strips"][0]["pixels"] = 117.5; },
                "/blades/0/strips/0/pixels", "whole"},
        Refusal{"UnknownWord", [](Json& j) { j["kind"] = "restoration"; }, "/kind", "conversion"},
        Refusal{"UnknownPart", [](Json& j) { j["parts"][1]["type"] = "cell.18560-power"; },
                "/parts/1/type", "cell.18650-power"},
        Refusal{"WrongTerminal", [](Json& j) { j["wires"][0]["from"] = "B1.positive"; },
                "/wires/0/from", "plus"},
        Refusal{"NullValue", [](Json& j) { j["use"]["clean_min"] = nullptr; }, "/use/clean_min",
                "not a number"},
        Refusal{"LongText", [](Json& j) { j["notes"] = std::string(5000, 'n'); }, "/notes", "4000"},
        Refusal{"Newer",
                [](Json& j) {
                    j["version"] = files::job_format_version + 1;
                    j["fresh"] = 1;
                },
                "/version", "newer"},
        Refusal{"OtherFormat", [](Json& j) { j["format"] = "hilt"; }, "/format",
                "not a Conductus job"},
        Refusal{"NoVersion", [](Json& j) { j.erase("version"); }, "/version", "version"},
        Refusal{"NotAnObject", [](Json& j) { j = Json::array(); }, "/", "a list"}),
    [](const auto& tested) { return tested.param.name; });

TEST(JobJson, NewerVersionIsRefusedPolitely) {
    Json json = heron_json();
    json["version"] = 99;
    const auto r = files::parse_job(json.dump(), parts(), "heron.json");
    ASSERT_FALSE(r);
    EXPECT_NE(r.error().mend.english().find("left as it is"), std::string::npos);
}

TEST(JobJson, GarbageNeverParsesAndNeverThrows) {
    const std::string good = read_file(source_dir() / "data/demo/dunlin.json");
    std::mt19937 random(11);
    int refused = 0;
    for (int i = 0; i < rounds(2000); ++i) {
        std::string text = good;
        const int hits = 1 + static_cast<int>(random() % 4);
        for (int h = 0; h < hits; ++h) {
            const std::size_t at = random() % text.size();
            switch (random() % 3) {
            case 0:
                text[at] = static_cast<char>(random() % 256);
                break;
            case 1:
                text.erase(at, 1 + random() % 20);
                break;
            default:
                text.insert(at, 1 + random() % 3, static_cast<char>(random() % 256));
                break;
            }
        }
        const auto r = files::parse_job(text, parts(), "fuzzed");
        if (!r) {
            ++refused;
            EXPECT_FALSE(r.error().what.empty());
        } else {
            EXPECT_TRUE(files::parse_job(files::job_text(*r), parts(), "again"));
        }
    }
    EXPECT_GT(refused, rounds(1000));
}

TEST(JobJson, TruncationIsSaidWithItsPlace) {
    const std::string good = read_file(source_dir() / "data/demo/dunlin.json");
    for (std::size_t n = 1; n + 2 < good.size();
         n += good.size() / static_cast<std::size_t>(rounds(160))) {
        const auto r = files::parse_job(good.substr(0, n), parts(), "cut.json");
        ASSERT_FALSE(r) << n;
        EXPECT_NE(r.error().where.find("line"), std::string::npos);
    }
}

TEST(JsonText, SaysWhatIsWrongWithAFile) {
    TemporaryFolder folder;
    auto refused = [&](const std::string& text) {
        write_file(folder / "x.json", text);
        const auto r = files::read_job(folder / "x.json", parts());
        EXPECT_FALSE(r);
        return r ? std::string() : r.error().text();
    };
    EXPECT_NE(refused("").find("empty"), std::string::npos);
    EXPECT_NE(refused("  \n").find("empty"), std::string::npos);
    EXPECT_NE(refused("{\"format\": 1, \"format\": 2}").find("twice"), std::string::npos);
    EXPECT_NE(refused(std::string(100000, '[')).find("x.json"), std::string::npos);
    EXPECT_NE(refused(std::string(200, '[') + std::string(200, ']')).find("nested"),
              std::string::npos);
    EXPECT_FALSE(refused("{\"a\": 1e999}").empty());
    EXPECT_FALSE(refused("\xff\xfe\x00garbage").empty());
    EXPECT_NE(refused(std::string(80u << 20, ' ')).find("80 MB"), std::string::npos);
    EXPECT_NE(files::read_job(folder / "none.json", parts()).error().text().find("no such file"),
              std::string::npos);
    EXPECT_NE(files::read_job(folder.path(), parts()).error().text().find("not a file"),
              std::string::npos);
}

TEST(JsonText, AFailedWriteLeavesTheOldFile) {
    TemporaryFolder folder;
    write_file(folder / "kept.json", "old");
    EXPECT_TRUE(files::write_output(folder / "kept.json", "new", files::Content::text));
    EXPECT_EQ(read_file(folder / "kept.json"), "new");
    const auto r = files::write_output(folder / "no/such/folder.json", "x", files::Content::text);
    ASSERT_FALSE(r);
    EXPECT_NE(r.error().mend.english().find("untouched"), std::string::npos);
    // A disk with no room: a child whose files may not grow past a hundred bytes.
    const pid_t child = ::fork();
    if (child == 0) {
        ::signal(SIGXFSZ, SIG_IGN);
        const rlimit little{100, 100};
        ::setrlimit(RLIMIT_FSIZE, &little);
        const auto full =
            files::write_output(folder / "kept.json", std::string(5000, 'x'), files::Content::text);
        ::_exit(!full && !full.error().mend.empty() ? 0 : 1);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    EXPECT_TRUE(WIFEXITED(status) && WEXITSTATUS(status) == 0);
    EXPECT_EQ(read_file(folder / "kept.json"), "new") << "the old file is whole";
    int left = 0;
    for (const auto& e : std::filesystem::directory_iterator(folder.path()))
        left += e.path().string().find(".part") != std::string::npos;
    EXPECT_EQ(left, 0);
}

/// Set CONDUCTUS_UPDATE=1 to write the schema anew after a change of the fields.
TEST(Schema, TheDocumentedOneIsTheOneRead) {
    const auto path = source_dir() / "docs/job-format.schema.json";
    const std::string now = files::job_schema().dump(2) + "\n";
    if (std::getenv("CONDUCTUS_UPDATE")) write_file(path, now);
    EXPECT_EQ(read_file(path), now);
    // And the words beside it speak of the same formats.
    EXPECT_NE(read_file(source_dir() / "docs/job-format.md")
                  .find("format version 1 to " + std::to_string(files::job_format_version)),
              std::string::npos);
}

TEST(Schema, DescribesEveryKeyOfTheDemo) {
    const Json schema = files::job_schema();
    const Json job = heron_json();
    for (const auto& [key, value] : job.items())
        EXPECT_TRUE(schema["properties"].contains(key)) << key;
    EXPECT_EQ(schema["properties"]["hilt"]["properties"]["sections"]["items"]["properties"]
                    ["bore_mm"]["minimum"],
              1);
    // The papers came with format 2, days and charger with format 5, and may be missing; what they
    // name is beside the job.
    for (const auto& [key, value] : job.items()) {
        const bool papers = key == "brief" || key == "inspection" || key == "as_found" ||
                            key == "log" || key == "milestones" || key == "kept" ||
                            key == "pictures" || key == "uses" || key == "charger" ||
                            key == "presets" || key == "handling";
        const auto& required = schema["required"];
        EXPECT_NE(std::find(required.begin(), required.end(), key) != required.end(), papers)
            << key;
    }
}

} // namespace
} // namespace conductus
