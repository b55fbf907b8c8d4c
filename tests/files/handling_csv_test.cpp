// SPDX-License-Identifier: GPL-3.0-or-later
// Commands and presets from tables and texts, and configurations through templates.
#include "files/handling_csv.h"

#include <algorithm>
#include <set>

#include "core/job/places.h"
#include "core/job/preset_changes.h"
#include "core/job/trigger.h"
#include "core/job/validate.h"
#include "files/configuration.h"
#include "files/template_text.h"
#include "support/fixtures.h"

namespace conductus::files {
namespace {

using test::parts;

job::Job without_map() {
    job::Job job = test::demo("heron");
    job.handling = {};
    return job;
}

TEST(CommandsCsv, TheMapComesBackThroughATable) {
    const job::Job job = test::demo("heron");
    ASSERT_FALSE(job.handling.commands.empty());
    const auto read = read_commands(commands_csv(job.handling), "map.csv", job, parts());
    ASSERT_TRUE(read) << read.error().text();
    ASSERT_EQ(read->size(), job.handling.commands.size());
    for (std::size_t i = 0; i < read->size(); ++i) {
        job::Command a = (*read)[i], b = job.handling.commands[i];
        a.source = b.source, a.tried_on = b.tried_on;
        EXPECT_EQ(a, b) << b.name;
    }
}

TEST(CommandsCsv, ALineOfWordsIsUnderstood) {
    const job::Job job = without_map();
    const auto read = read_commands("# the board's sheet\n"
                                    "idle: A: light > lit\n"
                                    "lit: A held 1 s: put out > idle\n"
                                    "lit: b twice: blast mark\n"
                                    "lit: near the pommel: lock-up\n"
                                    "lit: S1 then S2: next preset\n"
                                    "volume menu: swing: volume\n",
                                    "sheet.txt", job, parts());
    ASSERT_TRUE(read) << read.error().text();
    ASSERT_EQ(read->size(), 6u);
    const auto trigger = [&](std::size_t i) { return job::trigger_text((*read)[i].trigger); };
    EXPECT_EQ(trigger(0), "S2") << "A is nearest to the emitter";
    EXPECT_EQ((*read)[0].does, job::Does::light);
    EXPECT_EQ((*read)[0].leads, "lit");
    EXPECT_EQ(trigger(1), "S2 held 1 s");
    EXPECT_EQ(trigger(3), "S1");
    EXPECT_EQ((*read)[3].does, job::Does::effect);
    EXPECT_EQ((*read)[3].what, "lock-up");
    EXPECT_EQ(trigger(4), "S1 then S2");
    EXPECT_EQ(trigger(5), "swing");
    EXPECT_EQ((*read)[0].source, "sheet.txt");
    job::Job with = job;
    ASSERT_TRUE(take_commands(*read)(with));
    ASSERT_EQ(with.handling.states.size(), 3u) << "the states come with them";
    EXPECT_EQ(with.handling.states[1].kind, job::StateKind::lit);
    EXPECT_EQ(with.handling.states[2].kind, job::StateKind::menu);
    EXPECT_TRUE(job::validate(with, parts())) << "and make a map that is valid";
}

TEST(CommandsCsv, EveryMistakeIsToldWithItsPlace) {
    const job::Job job = without_map();
    const std::pair<const char*, const char*> wrong[] = {
        {"", "no commands"},
        {"lit A put out", "line 1"},
        {"lit: A: put out\nlit: A held: out\n", "line 2"},
        {"lit: S7: put out\n", "no button 'S7'"},
        {"command,trigger\nput out,A\nlight,\n", "line 3"},
        {"command,trigger,does\nput out,A,dance\n", "column"},
        {"command,trigger,blade\nput out,A,perhaps\n", "in, out or any"},
        {"command,trigger,preset\nput out,A,Nowhere\n", "no preset named 'Nowhere'"}};
    for (const auto& [text, says] : wrong) {
        const auto read = read_commands(text, "sheet.csv", job, parts());
        ASSERT_FALSE(read) << text;
        EXPECT_NE(read.error().text().find(says), std::string::npos) << read.error().text();
    }
}

TEST(PresetsTold, AreReadByTheNamesOfColumnsOrInTheirOrder) {
    const auto named =
        read_presets_told("Note;Preset;Colour;Font\nfirst;Harbour;blue;harbour\n", "found.csv");
    ASSERT_TRUE(named) << named.error().text();
    EXPECT_EQ(named->at(0), (job::PresetTold{"Harbour", "harbour", "blue", "", "first"}));
    const auto bare =
        read_presets_told("Harbour,harbour,blue,march.wav\nStorm,storm\n", "found.csv");
    ASSERT_TRUE(bare);
    EXPECT_EQ(bare->at(0).tracks, "march.wav");
    EXPECT_EQ(bare->size(), 2u);
    EXPECT_FALSE(read_presets_told("", "found.csv"));
    EXPECT_FALSE(read_presets_told("name,font\n,harbour\n", "found.csv"));
}

TEST(PresetChanges, SayWhatBecameOfEachAndTieToWishes) {
    const job::Job job = test::demo("avocet");
    const auto all = job::preset_changes(job);
    ASSERT_EQ(all.size(), 3u);
    EXPECT_EQ(job::label(all[0]), "moved, mended") << "Signal lamp";
    EXPECT_EQ(job::label(all[1]), "recoloured") << "Fog horn";
    EXPECT_EQ(job::label(all[2]), "renamed") << "Low tide was Ebb";
    for (const job::PresetChange& c : all)
        EXPECT_FALSE(c.wishes.empty()) << c.name;
    EXPECT_TRUE(job::not_as_asked(job).empty());
    // Written down as found, nothing has changed; taken out, it is told.
    job::Job now = job;
    ASSERT_TRUE(job::write_down_as_found()(now));
    for (const job::PresetChange& c : job::preset_changes(now))
        EXPECT_TRUE(c.untouched()) << c.name;
    std::swap(now.presets[0], now.presets[2]);
    int moved = 0;
    for (const job::PresetChange& c : job::preset_changes(now))
        moved += c.moved;
    EXPECT_EQ(moved, 2) << "the two that changed places; one of three stands in its order";
    now.presets.pop_back();
    EXPECT_TRUE(job::preset_changes(now).back().gone);
    std::set<std::string> kinds;
    for (const job::NotAsAsked& n : job::not_as_asked(now))
        kinds.insert(n.kind);
    EXPECT_TRUE(kinds.contains("missing"));
    // A preset that is renamed stays the one that was found.
    job::Job renamed = job;
    ASSERT_TRUE(job::write_at("/presets/1/name", "Fog")(renamed));
    EXPECT_EQ(renamed.presets[1].was, "Fog horn");
    EXPECT_TRUE(job::preset_changes(renamed)[1].renamed);
    EXPECT_FALSE(job::preset_changes(renamed)[1].added);
}

Json config_of(const job::Job& job) { return config_json(job, test::plan_of(job).harness.data); }

TEST(Templates, AreFilledWithTheConfiguration) {
    const job::Job job = test::demo("heron");
    const auto text = filled_template("volume={{VOLUME}}\n{{! a remark }}"
                                      "{{#PRESETS}}[{{INDEX}} of {{COUNT}}] {{NAME}}, {{FONT}}, "
                                      "{{STYLE}}{{#TRACKS}} +{{NAME}}{{/TRACKS}}\n{{/PRESETS}}",
                                      "board.tpl", config_of(job));
    ASSERT_TRUE(text) << text.error().text();
    EXPECT_TRUE(text->starts_with("volume=0.7\n[1 of 8] Harbour, harbour, steady\n")) << *text;
    EXPECT_NE(text->find("[3 of 8] Signal, signal, steady +march.wav\n"), std::string::npos);
    EXPECT_EQ(std::count(text->begin(), text->end(), '\n'), 9);
}

TEST(Templates, EveryMistakeIsToldWithItsLine) {
    const Json data = config_of(test::demo("heron"));
    const std::pair<const char*, const char*> wrong[] = {
        {"a\n{{VOLUM}}", "Did you mean 'VOLUME'"},
        {"a\n\n{{VOLUME", "line 3"},
        {"{{#PRESETS}}{{NAME}}", "not closed"},
        {"{{/PRESETS}}", "was not opened"},
        {"{{#PRESETS}}\n{{#TRACKS}}{{/PRESETS}}{{/TRACKS}}", "line 2"},
        {"{{#PRESET}}{{/PRESET}}", "Did you mean 'PRESETS'"},
        {"{{>/etc/passwd}}", "not for these templates"},
        {"{{=<% %>=}}", "not for these templates"}};
    for (const auto& [text, says] : wrong) {
        const auto filled = filled_template(text, "board.tpl", data);
        ASSERT_FALSE(filled) << text;
        EXPECT_NE(filled.error().text().find(says), std::string::npos) << filled.error().text();
    }
}

} // namespace
} // namespace conductus::files
