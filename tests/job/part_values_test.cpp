// SPDX-License-Identifier: GPL-3.0-or-later
// What can be typed of a part is there, and can be typed.
#include "core/job/lookup.h"
#include "core/job/part_values.h"

#include "core/hilt/part_edits.h"
#include "core/job/places.h"
#include "core/job/validate.h"
#include "support/fixtures.h"

namespace conductus::job {
namespace {

using namespace test;

TEST(PartValues, EveryKindsValuesAreThereAndTakeBackWhatTheyShow) {
    Job job = demo("heron");
    for (const std::string& id : parts().ids()) {
        Job with = job;
        if (!hilt::add_part(id, std::nullopt, parts())(with)) continue;
        if (with.parts.size() == job.parts.size()) continue; // it is no part by itself
        const std::string ref = with.parts.back().ref;
        const auto values = values_of(with, parts(), ref);
        ASSERT_GE(values.size(), 5u) << id;
        for (const PartValue& v : values) {
            if (!v.pin.empty()) continue; // measure_pin() writes it
            const auto typed = typed_at(with, v.at, v.unit);
            ASSERT_TRUE(typed) << id << " " << v.at;
            Job again = with;
            EXPECT_TRUE(write_at(v.at, *typed, v.unit)(again)) << id << " " << v.at;
            EXPECT_EQ(again, with) << id << " " << v.at;
        }
    }
}

TEST(PartValues, ChoicesThatAreOfferedAreTaken) {
    const Job job = demo("heron");
    int taken = 0;
    for (const Part& part : job.parts)
        for (const PartValue& v : values_of(job, parts(), part.ref)) {
            if (v.is_type || !v.pin.empty()) continue; // hilt::replace_part() has tests of its own
            std::vector<std::string> choices = v.choices;
            if (choices.empty())
                for (const auto word : words_at(job, v.at))
                    choices.emplace_back(word);
            for (const std::string& choice : choices) {
                Job with = job;
                ASSERT_TRUE(write_at(v.at, choice, v.unit)(with)) << v.at << " " << choice;
                EXPECT_EQ(typed_at(with, v.at, v.unit), choice);
                EXPECT_TRUE(validate(with, parts())) << v.at << " " << choice;
                ++taken;
            }
            if (!v.may_be_empty) continue;
            Job without = job;
            EXPECT_TRUE(write_at(v.at, "", v.unit)(without)) << v.at;
            EXPECT_TRUE(validate(without, parts())) << v.at;
        }
    EXPECT_GT(taken, 10);
}

TEST(PartValues, EveryPinOfAConnectorIsThere) {
    const Job job = demo("bittern");
    std::vector<std::string> pins;
    for (const PartValue& v : values_of(job, parts(), "P1"))
        if (!v.pin.empty()) pins.push_back(v.pin);
    const auto& connector = *parts().find_as<catalogue::Connector>(find_ref(job.parts, "P1")->type);
    ASSERT_EQ(pins.size(), std::size_t(connector.plus_pins + connector.minus_pins));
    for (const std::string& pin : pins) {
        Job with = job;
        ASSERT_TRUE(measure_pin("P1", pin, "45")(with)) << pin;
        EXPECT_TRUE(validate(with, parts())) << pin;
    }
}

TEST(PartValues, APictureGoesToTheItemAboutThePart) {
    Job job = demo("avocet");
    const std::size_t before = job.inspection.size();
    std::string about;
    for (const Inspected& i : job.inspection)
        if (!i.part.empty()) about = i.part;
    ASSERT_FALSE(about.empty());
    ASSERT_TRUE(picture_part(about, {"id", "front"})(job));
    EXPECT_EQ(job.inspection.size(), before);
    ASSERT_TRUE(picture_part("S1", {"id", "back"})(job));
    const auto of = std::find_if(job.inspection.begin(), job.inspection.end(),
                                 [](const Inspected& i) { return i.part == "S1"; });
    ASSERT_NE(of, job.inspection.end());
    EXPECT_EQ(of->pictures.back().id, "id");
}

} // namespace
} // namespace conductus::job
