// SPDX-License-Identifier: GPL-3.0-or-later
// Jobs with what they name: pictures and the states of milestones. CSV.
#include "files/csv.h"
#include "files/job_json.h"
#include "support/fixtures.h"

namespace conductus {
namespace {

using namespace test;
using files::Json;

/// The bytes of the smallest PNG there is, and of a picture that differs from it.
std::string tiny_png(char tail = 0) {
    std::string png("\x89PNG\r\n\x1a\n", 8);
    png.append(20, tail);
    return png;
}

files::JobFile with_papers() {
    files::JobFile file{demo("heron"), {}};
    file.job.milestones.clear();
    for (auto& item : file.job.inspection)
        item.pictures.clear();
    const std::string png = tiny_png();
    const std::string picture = files::content_id(png);
    file.attachments[picture] = {"image/png", png};
    file.job.inspection[1].pictures = {{picture, "left-hand"}};
    const std::string state = files::kept_text(file.job);
    const std::string kept = files::content_id(state);
    file.attachments[kept] = {"job", state};
    file.job.milestones = {{job::Mark::received, "2026-10-05", "in a crate", kept}};
    return file;
}

TEST(JobFile, RoundTripWithPicturesAndMilestones) {
    const files::JobFile file = with_papers();
    const auto text = files::job_file_text(file, parts());
    ASSERT_TRUE(text) << text.error().text();
    const auto back = files::parse_job_file(*text, parts(), "x.json");
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(back->job, file.job);
    EXPECT_EQ(back->attachments, file.attachments);
    EXPECT_EQ(*files::job_file_text(*back, parts()), *text);
}

TEST(JobFile, BareIsCompleteInItself) {
    const job::Job bare = files::bare(with_papers().job);
    const auto back = files::parse_job_file(files::job_text(bare), parts(), "x.json");
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(back->job, bare);
    EXPECT_TRUE(back->attachments.empty());
    EXPECT_FALSE(bare.inspection.empty());
}

std::string refused(void (*change)(Json&)) {
    Json json = Json::parse(*files::job_file_text(with_papers(), parts()));
    change(json);
    const auto r = files::parse_job_file(json.dump(), parts(), "x.json");
    return r ? std::string() : r.error().text();
}

TEST(JobFile, WhatItNamesMustBeThereAndWhole) {
    auto says = [](void (*change)(Json&), const char* part) {
        const std::string text = refused(change);
        EXPECT_NE(text.find(part), std::string::npos) << "'" << text << "' lacks '" << part << "'";
    };
    says([](Json& j) { j.erase("pictures"); }, "is not in the file");
    says([](Json& j) { j.erase("kept"); }, "/milestones/0/kept");
    says([](Json& j) { j["pictures"] = 3; }, "not an object");
    says([](Json& j) { j["pictures"].begin().value() = 3; }, "not a picture");
    says([](Json& j) { j["pictures"].begin().value() = "data:image/png;base64,????"; },
         "not readable");
    says([](Json& j) { j["pictures"].begin().value() = "data:image/png;base64,aGVsbG8="; },
         "neither a PNG nor a JPEG");
    says(
        [](Json& j) {
            j["pictures"].begin().value() =
                std::string("data:image/png;base64,").append(files::to_base64(tiny_png('x')));
        },
        "damaged");
    says(
        [](Json& j) {
            j["pictures"].begin().value() =
                std::string("data:image/png;base64,")
                    .append(files::to_base64(tiny_png() + std::string(3u << 20, 'x')));
        },
        "Keep it under");
    says([](Json& j) { j["kept"].begin().value()["use"]["volume"] = 7; }, "/use/volume");
    says([](Json& j) { j["kept"].begin().value() = "text"; }, "not a job");
    EXPECT_EQ(refused([](Json& j) { j["notes"] = "changed"; }), "");
}

TEST(JobFile, AStateOfAnOlderFormatIsWrittenAnewUnderItsNewId) {
    Json json = Json::parse(*files::job_file_text(with_papers(), parts()));
    Json state = json["kept"].begin().value();
    for (const char* key : {"brief", "inspection", "as_found", "log"})
        state.erase(key);
    state["version"] = 1;
    json["kept"] = {{"old", state}};
    json["milestones"][0]["kept"] = "old";
    const auto file = files::parse_job_file(json.dump(), parts(), "x.json");
    ASSERT_TRUE(file) << file.error().text();
    const std::string id = file->job.milestones[0].kept;
    ASSERT_TRUE(file->attachments.contains(id));
    EXPECT_EQ(files::content_id(file->attachments.at(id).bytes), id);
}

TEST(JobFormat, AJobWithoutPapersIsStillFormat1) {
    auto without_days = [](job::Job j) {
        j.use.day.clear();
        j.uses.clear();
        j.charger.clear();
        for (job::Wire& w : j.wires) // one that follows its route is newer
            w.length = Millimetre(60);
        return j;
    };
    job::Job job = without_days(one_button_heron());
    job.brief = {};
    job.inspection.clear();
    job.as_found = {};
    job.log.clear();
    job.milestones.clear();
    survey_plainly(job);
    const Json json = Json::parse(files::job_text(job));
    EXPECT_EQ(json["version"], 1);
    EXPECT_FALSE(json.contains("brief"));
    EXPECT_EQ(*files::parse_job(json.dump(), parts(), "x"), job);
    // Each newer thing asks for the newer format, and nothing else does.
    EXPECT_EQ(Json::parse(files::job_text(one_button_heron()))["version"], 6);
    job::Job heron = without_days(one_button_heron());
    heron.use.day = one_button_heron().use.day;
    EXPECT_EQ(Json::parse(files::job_text(heron))["version"], 5);
    heron.use.day.clear();
    EXPECT_EQ(Json::parse(files::job_text(heron))["version"], 4);
    for (job::Effect& effect : heron.effects)
        effect.kind = {};
    EXPECT_EQ(Json::parse(files::job_text(heron))["version"], 3);
    survey_plainly(heron);
    EXPECT_EQ(Json::parse(files::job_text(heron))["version"], 2);
    EXPECT_EQ(Json::parse(files::job_text(without_days(demo("godwit"))))["version"], 4);
}

TEST(Base64, KnownAnswersAndBack) {
    const std::pair<const char*, const char*> known[] = {{"", ""},
                                                         {"f", "Zg=="},
                                                         {"fo", "Zm8="},
                                                         {"foo", "Zm9v"},
                                                         {"foob", "Zm9vYg=="},
                                                         {"fooba", "Zm9vYmE="},
                                                         {"foobar", "Zm9vYmFy"}};
    for (const auto& [plain, coded] : known) {
        EXPECT_EQ(files::to_base64(plain), coded);
        EXPECT_EQ(files::from_base64(coded), plain);
    }
    std::mt19937 random(5);
    for (int i = 0; i < 200; ++i) {
        std::string bytes(random() % 300, 0);
        for (char& c : bytes)
            c = static_cast<char>(random());
        EXPECT_EQ(files::from_base64(files::to_base64(bytes)), bytes);
    }
    for (const char* bad : {"A", "AB", "ABC", "AB=C", "=ABC", "A BC", "AB\xc3\x28"})
        EXPECT_FALSE(files::from_base64(bad)) << bad;
}

TEST(ContentId, IsTheKnownHash) {
    EXPECT_EQ(files::content_id(""), "99aa06d3014798d86001c324468d497f");
    EXPECT_EQ(files::content_id("a").size(), 32u);
    EXPECT_NE(files::content_id("a"), files::content_id("b"));
}

TEST(Csv, QuotesWhatNeedsIt) {
    EXPECT_EQ(files::csv_record({"a", "b c", ""}), "a,b c,\r\n");
    EXPECT_EQ(files::csv_record({"1,5", "say \"hi\"", "two\nlines"}),
              "\"1,5\",\"say \"\"hi\"\"\",\"two\nlines\"\r\n");
}

} // namespace
} // namespace conductus
