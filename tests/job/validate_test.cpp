// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/validate.h"

#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/words.h"
#include "support/fixtures.h"

namespace conductus {
namespace {

using namespace test;
using job::Job;

struct Breakage {
    const char* name;
    void (*breaks)(Job&);
    const char* pointer; ///< where the problem must point
};

class Validate : public testing::TestWithParam<Breakage> {};

TEST_P(Validate, PointsAtWhatIsWrong) {
    Job job = demo("heron");
    ASSERT_TRUE(job::validate(job, parts()));
    GetParam().breaks(job);
    const auto r = job::validate(job, parts());
    ASSERT_FALSE(r);
    EXPECT_EQ(r.error().where, GetParam().pointer);
    EXPECT_FALSE(r.error().what.empty());
    EXPECT_FALSE(r.error().mend.empty());
}

INSTANTIATE_TEST_SUITE_P(
    All, Validate,
    testing::Values(
        Breakage{"NoName", [](Job& j) { j.name.clear(); }, "/name"},
        Breakage{"UnknownPart", [](Job& j) { j.parts[1].type = "cell.18651"; }, "/parts/1/type"},
        Breakage{"StripAsPart", [](Job& j) { j.parts[1].type = "strip.rgb-144"; }, "/parts/1/type"},
        Breakage{"RefTwice", [](Job& j) { j.parts[2].ref = "b1"; }, "/parts/2/ref"},
        Breakage{"RefWithDot", [](Job& j) { j.parts[2].ref = "K.1"; }, "/parts/2/ref"},
        Breakage{"RefWithDigitFirst", [](Job& j) { j.parts[2].ref = "1K"; }, "/parts/2/ref"},
        Breakage{"ProtectionOnSwitch", [](Job& j) { j.parts[2].protection = "protection.8a"; },
                 "/parts/2/protection"},
        Breakage{"ProtectionIsCell", [](Job& j) { j.parts[1].protection = "cell.18350"; },
                 "/parts/1/protection"},
        Breakage{"NoSuchConnector", [](Job& j) { j.blades[0].connector = "P9"; },
                 "/blades/0/connector"},
        Breakage{"StripIsKill", [](Job& j) { j.blades[0].strips[1].type = "kill.slide-3a"; },
                 "/blades/0/strips/1/type"},
        Breakage{"StripLongerThanBlade",
                 [](Job& j) { j.blades[0].strips[0].length = Millimetre(900); },
                 "/blades/0/strips/0/length_mm"},
        Breakage{"WireToNowhere", [](Job& j) { j.wires[0].to = "K2.in"; }, "/wires/0/to"},
        Breakage{"WireToNoTerminal", [](Job& j) { j.wires[0].from = "B1.plsu"; }, "/wires/0/from"},
        Breakage{"Gap", [](Job& j) { j.hilt.sections[1].from = Millimetre(40); },
                 "/hilt/sections/1/from_mm"},
        Breakage{"Overlap", [](Job& j) { j.hilt.sections[1].from = Millimetre(30); },
                 "/hilt/sections/1/from_mm"},
        Breakage{"Backwards", [](Job& j) { j.hilt.sections[0].to = Millimetre(0); },
                 "/hilt/sections/0/to_mm"},
        Breakage{"BoreOverOuter", [](Job& j) { j.hilt.sections[2].bore = Millimetre(36); },
                 "/hilt/sections/2/bore_mm"},
        Breakage{"LookTwice", [](Job& j) { j.looks[1].name = j.looks[0].name; }, "/looks/1/name"},
        Breakage{"LookUnnamed", [](Job& j) { j.looks[1].name.clear(); }, "/looks/1/name"},
        Breakage{"UseOfNoLook", [](Job& j) { j.use.look = "Nightfall"; }, "/use/look"},
        Breakage{"EffectOfNothing", [](Job& j) { j.effects[0].to = 0; }, "/effects/0/to"}),
    [](const auto& tested) { return tested.param.name; });

TEST(Edits, FittingAnotherTypeForgetsWhatWasMeasured) {
    Job job = demo("heron");
    job::find_ref(job.parts, "B1")->measured.capacity = MilliAmpereHour(2800);
    job::fit_type("B1", "cell.18350")(job);
    EXPECT_EQ(job::find_ref(job.parts, "B1")->type, "cell.18350");
    EXPECT_FALSE(job::find_ref(job.parts, "B1")->measured.capacity);
    const Job before = job;
    job::fit_type("Z9", "cell.18350")(job);
    EXPECT_EQ(job, before);
}

TEST(Edits, RenamingALookTakesTheUseAlong) {
    Job job = demo("heron");
    job::Look look = job.looks[0];
    look.name = "High water";
    job::set_look(0, look)(job);
    EXPECT_EQ(job.use.look, "High water");
    EXPECT_EQ(job.uses.at(0).look, "High water"); // the one that is kept too
    EXPECT_TRUE(job::validate(job, parts()));
}

TEST(Edits, SectionsStayJoined) {
    Job job = demo("heron");
    job::move_boundary(job.hilt, 1, Millimetre(140));
    EXPECT_EQ(job.hilt.sections[2].from, Millimetre(140));
    job::remove_section(job.hilt, 1);
    EXPECT_EQ(job.hilt.sections.size(), 4u);
    EXPECT_TRUE(job::validate_sections(job.hilt.sections));
    job::add_section(job.hilt);
    EXPECT_TRUE(job::validate_sections(job.hilt.sections));
    EXPECT_EQ(job.hilt.sections.back().from, job.hilt.sections[3].to);
    job.hilt.sections.clear();
    job::add_section(job.hilt);
    EXPECT_TRUE(job::validate_sections(job.hilt.sections));
}

TEST(Words, GoBothWays) {
    for (const auto& [value, word] : job::Words<job::Style>::table)
        EXPECT_EQ(job::from_word<job::Style>(word), value);
    for (const auto& [value, word] : job::Words<job::Role>::table)
        EXPECT_EQ(job::word(value), word);
    EXPECT_FALSE(job::from_word<job::Style>("sparkle"));
}

} // namespace
} // namespace conductus
