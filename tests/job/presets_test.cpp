// SPDX-License-Identifier: GPL-3.0-or-later
// Presets own their effects, one edit serves all that are as the first, and nothing that is named
// is lost or left dangling.
#include "core/job/presets.h"

#include "core/job/lookup.h"
#include "core/job/places.h"
#include "core/job/validate.h"
#include "support/fixtures.h"

namespace conductus::job {
namespace {

using namespace test;

Job with_presets() {
    Job job = one_button_heron(); // six looks, three effects
    EXPECT_TRUE(preset_each_look()(job));
    return job;
}

TEST(Presets, EachLookHasOneAndEffectsAreAsTheFirst) {
    Job job = with_presets();
    ASSERT_EQ(job.presets.size(), job.looks.size());
    ASSERT_TRUE(validate(job, parts()));
    for (const Preset& p : job.presets)
        EXPECT_EQ(effects_of(job, p), job.effects);
    // One edit serves all.
    ASSERT_TRUE(write_at("/effects/0/lasts_s", "0.4")(job));
    for (const Preset& p : job.presets)
        EXPECT_EQ(effects_of(job, p)[0].lasts, Second(0.4));
    ASSERT_TRUE(preset_each_look()(job));
    EXPECT_EQ(job.presets.size(), job.looks.size()) << "each has one already";
}

TEST(Presets, OneOfItsOwnStandsInItsPlaceAndNoOtherChanges) {
    Job job = with_presets();
    const std::string flash = job.effects[0].name, mark = job.effects[1].name;
    ASSERT_TRUE(let_have(2, flash, Effects::own)(job));
    EXPECT_EQ(has_effect(job, 2, flash), Effects::own);
    EXPECT_EQ(effects_of(job, job.presets[2]), job.effects) << "a copy to begin with";
    job.presets[2].effects[0].colour = {1, 0, 0, 0};
    ASSERT_TRUE(let_have(2, mark, Effects::none)(job));
    ASSERT_TRUE(add_at("/presets/2/effects")(job));
    ASSERT_TRUE(validate(job, parts()));
    const auto all = effects_of(job, job.presets[2]);
    ASSERT_EQ(all.size(), job.effects.size()); // one less, one more
    EXPECT_EQ(all[0].colour, (Colour{1, 0, 0, 0}));
    EXPECT_EQ(find_name(all, mark), nullptr);
    EXPECT_EQ(all.back().name, job.presets[2].effects.back().name);
    EXPECT_EQ(effects_of(job, job.presets[1]), job.effects);
    // Back again.
    ASSERT_TRUE(let_have(2, flash, Effects::as_first)(job));
    ASSERT_TRUE(let_have(2, mark, Effects::as_first)(job));
    EXPECT_EQ(has_effect(job, 2, mark), Effects::as_first);
    EXPECT_FALSE(let_have(2, "no such", Effects::own)(job));
    EXPECT_FALSE(let_have(20, flash, Effects::own)(job));
}

TEST(Presets, TheUseIsLitWithOneAndFollowsItsLook) {
    Job job = with_presets();
    ASSERT_TRUE(use_preset(job.presets[3].name)(job));
    EXPECT_EQ(job.use.look, job.presets[3].look);
    EXPECT_EQ(preset_of_use(job), &job.presets[3]);
    ASSERT_TRUE(show_look(3, job.looks[5].name)(job));
    EXPECT_EQ(job.use.look, job.looks[5].name);
    ASSERT_TRUE(validate(job, parts()));
    // Another look is chosen for the use: the preset is not its own any more.
    ASSERT_TRUE(write_at("/use/look", job.looks[0].name)(job));
    EXPECT_EQ(job.use.preset, "");
    EXPECT_EQ(preset_of_use(job), &job.presets[0]) << "the first that shows it";
    EXPECT_FALSE(use_preset("no such")(job));
    EXPECT_FALSE(show_look(0, "no such")(job));
}

TEST(Presets, TwoThatShowOneLookHaveAllTheirEffectsOverIt) {
    Job job = with_presets();
    ASSERT_TRUE(show_look(1, job.looks[0].name)(job));
    ASSERT_TRUE(let_have(1, job.effects[0].name, Effects::own)(job));
    job.presets[1].effects[0].cap = 0.9;
    const auto over = effects_over(job, job.looks[0].name);
    EXPECT_EQ(over.size(), job.effects.size() + 1);
    EXPECT_NE(std::find(over.begin(), over.end(), job.presets[1].effects[0]), over.end());
    EXPECT_EQ(effects_over(job, "shown by none"), job.effects);
}

TEST(Presets, NamesTakeAlongAllThatNamesThem) {
    Job job = with_presets();
    ASSERT_TRUE(use_preset(job.presets[1].name)(job));
    ASSERT_TRUE(let_rest(Rest::idle, job.presets[1].name,
                         {"ST1", {1, 0, 0, 0}, Style::steady, 0.5})(job));
    ASSERT_TRUE(let_have(2, job.effects[1].name, Effects::none)(job));
    ASSERT_TRUE(let_follow(job.effects[0].name, {}, {"ST1", Follows::none})(job));
    ASSERT_TRUE(write_at("/presets/1/name", "Second")(job));
    EXPECT_EQ(job.use.preset, "Second");
    EXPECT_EQ(job.resting[0].preset, "Second");
    ASSERT_TRUE(write_at("/effects/1/name", "spot")(job));
    EXPECT_EQ(job.presets[2].left_out[0].effect, "spot");
    ASSERT_TRUE(write_at("/looks/1/name", "Oil")(job));
    EXPECT_EQ(job.presets[1].look, "Oil");
    EXPECT_EQ(job.use.look, "Oil");
    ASSERT_TRUE(write_at("/blades/0/strips/0/ref", "STX")(job));
    EXPECT_EQ(job.effects[0].lights[0].light, "STX");
    EXPECT_EQ(job.resting[0].lights[0].light, "STX");
    ASSERT_TRUE(validate(job, parts()));
    // What is taken out takes along what named it.
    ASSERT_TRUE(take_out_at("/effects/1")(job));
    EXPECT_TRUE(job.presets[2].left_out.empty());
    ASSERT_TRUE(take_out_at("/looks/1")(job));
    EXPECT_EQ(job.presets[1].look, job.looks[0].name);
    ASSERT_TRUE(take_out_at("/presets/1")(job));
    EXPECT_TRUE(job.resting.empty());
    ASSERT_TRUE(remove_strip("STX")(job));
    EXPECT_TRUE(job.effects[0].lights.empty());
    ASSERT_TRUE(validate(job, parts()));
}

TEST(Presets, WhatLightsShowAtRestIsOfEveryPresetOrOfOne) {
    Job job = with_presets();
    const LightOverride red{"ST1", {1, 0, 0, 0}, Style::steady, 0.2},
        blue{"ST1", {0, 0, 1, 0}, Style::pulse, 0.2}, dark{"ST1", {}, Style::steady, 1};
    const std::string second = job.presets[1].name;
    ASSERT_TRUE(let_rest(Rest::idle, {}, red)(job));
    EXPECT_EQ(lights_at_rest(job, Rest::idle, second), std::vector<LightOverride>{red});
    ASSERT_TRUE(let_rest(Rest::idle, second, blue)(job));
    EXPECT_EQ(lights_at_rest(job, Rest::idle, second), std::vector<LightOverride>{blue});
    EXPECT_EQ(lights_at_rest(job, Rest::idle, job.presets[0].name),
              std::vector<LightOverride>{red});
    EXPECT_TRUE(lights_at_rest(job, Rest::asleep, {}).empty());
    // Dark in one preset takes back what is lit always.
    ASSERT_TRUE(let_rest(Rest::idle, second, dark)(job));
    EXPECT_TRUE(lights_at_rest(job, Rest::idle, second).empty());
    ASSERT_TRUE(validate(job, parts()));
    ASSERT_TRUE(let_rest(Rest::idle, {}, dark)(job));
    EXPECT_TRUE(lights_at_rest(job, Rest::idle, {}).empty());
    EXPECT_FALSE(let_rest(Rest::idle, "no such", red)(job));
}

TEST(Presets, OrderAndTracksAreTyped) {
    Job job = with_presets();
    const std::string first = job.presets[0].name;
    move_preset(0, 3)(job);
    EXPECT_EQ(job.presets[3].name, first);
    ASSERT_TRUE(give_tracks(0, " march.wav; storm.wav ,, rain.wav ")(job));
    EXPECT_EQ(job.presets[0].tracks,
              (std::vector<Track>{{"march.wav"}, {"storm.wav"}, {"rain.wav"}}));
    ASSERT_TRUE(give_tracks(0, "")(job));
    EXPECT_TRUE(job.presets[0].tracks.empty());
    EXPECT_FALSE(give_tracks(99, "x")(job));
    Job blank_job = blank("Nothing", Kind::conversion);
    EXPECT_FALSE(add_preset()(blank_job)) << "there is no look";
}

TEST(Presets, WhatNamesNothingIsRefusedWithItsPlace) {
    const auto where = [](void (*breaks)(Job&)) {
        Job job = with_presets();
        breaks(job);
        const auto ok = validate(job, parts());
        return ok ? std::string() : ok.error().where;
    };
    EXPECT_EQ(where([](Job& j) { j.presets[1].look = "none"; }), "/presets/1/look");
    EXPECT_EQ(where([](Job& j) { j.presets[1].name = j.presets[0].name; }), "/presets/1/name");
    EXPECT_EQ(where([](Job& j) { j.presets[0].left_out = {{"none"}}; }),
              "/presets/0/left_out/0/effect");
    EXPECT_EQ(where([](Job& j) { j.presets[0].tracks = {{""}}; }), "/presets/0/tracks/0/name");
    EXPECT_EQ(where([](Job& j) { j.use.preset = "none"; }), "/use/preset");
    EXPECT_EQ(where([](Job& j) { j.use.preset = j.presets[1].name; }), "/use/preset");
    EXPECT_EQ(where([](Job& j) { j.resting = {{Rest::idle, "none", {}}}; }), "/resting/0/preset");
    EXPECT_EQ(where([](Job& j) {
                  j.resting = {{Rest::idle, "", {{"Q1", {1, 0, 0, 0}, Style::steady, 1}}}};
              }),
              "/resting/0/lights/0/light");
    EXPECT_EQ(where([](Job& j) { j.effects[0].lights = {{"Q1"}}; }), "/effects/0/lights/0/light");
    EXPECT_EQ(where([](Job& j) { j.plugs = {{"PG1", PlugUse::kill, "U1"}}; }), "/plugs/0/jack");
    EXPECT_EQ(where([](Job& j) { j.plugs = {{"U1"}}; }), "/plugs/0/ref");
}

TEST(Variants, HoldHiltCarriersAndConfiguration) {
    Job job = docked_heron();
    ASSERT_TRUE(keep_variant("docked", "slide-out")(job));
    const Job docked = job;
    job.hilt.carriers[0].kind = CarrierKind::slide_out;
    job.hilt.chassis = Chassis::slide_out;
    job.config.buttons = 1;
    Plug plug;
    plug.ref = "PG1";
    job.plugs.push_back(plug);
    ASSERT_TRUE(preset_each_look()(job));
    const Job slides = job;
    ASSERT_TRUE(take_variant(0)(job));
    EXPECT_EQ(job.hilt, docked.hilt);
    EXPECT_EQ(job.config, docked.config);
    EXPECT_TRUE(job.plugs.empty());
    EXPECT_TRUE(job.presets.empty());
    ASSERT_TRUE(validate(job, parts()));
    ASSERT_TRUE(take_variant(0)(job));
    EXPECT_EQ(job.hilt, slides.hilt);
    EXPECT_EQ(job.config, slides.config);
    EXPECT_EQ(job.plugs, slides.plugs);
    EXPECT_EQ(job.presets, slides.presets);
}

} // namespace
} // namespace conductus::job
