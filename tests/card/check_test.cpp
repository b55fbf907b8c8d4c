// SPDX-License-Identifier: GPL-3.0-or-later
// Cards: what is planted is found, what is sound is left in peace, loudness is what the reference
// signals say.
#include "core/card/check.h"

#include <cmath>
#include <fstream>
#include <numbers>
#include <set>
#include <sndfile.h>

#include "core/card/compare.h"
#include "core/handling/buttons.h"
#include "core/power/sound.h"
#include "core/power/state.h"
#include "files/card_reader.h"
#include "support/fixtures.h"
#include "support/made_up_card.h"
#include "threads/side_by_side.h"

namespace conductus::card {
namespace {

namespace fs = std::filesystem;
using test::parts;
using test::Tone;

/// Heron's presets on a card without a fault.
class OnACard : public testing::Test {
protected:
    void SetUp() override {
        job_ = test::demo("heron");
        test::make_card(folder_.path(), job_, parts());
    }
    Checked checked() {
        const auto read = files::read_card(folder_.path(), layout_of(job_, parts()));
        EXPECT_TRUE(read) << read.error().text();
        return read ? check(job_, parts(), *read) : Checked{};
    }
    fs::path at(const std::string& path) const { return folder_.path() / path; }
    static std::string told(const Checked& c) {
        std::string all;
        for (const Trouble& t : c.troubles)
            all += t.id + " " + t.where + ": " + t.what.english() + "\n";
        return all;
    }
    test::TemporaryFolder folder_;
    job::Job job_;
};

TEST_F(OnACard, ASoundCardIsInPeace) {
    const Checked c = checked();
    EXPECT_TRUE(c.troubles.empty()) << told(c);
    ASSERT_EQ(c.presets.size(), 8u);
    for (const PresetOnCard& p : c.presets)
        EXPECT_TRUE(p.ready) << p.name << p.state;
    EXPECT_EQ(c.loudness.size(), 7u + 2u) << "seven fonts and two tracks";
}

TEST_F(OnACard, TheDemoCardHasItsFourFaults) {
    const auto read =
        files::read_card(test::source_dir() / "data" / "cards" / "heron", layout_of(job_, parts()));
    ASSERT_TRUE(read) << read.error().text();
    const Checked c = check(job_, parts(), *read);
    std::multiset<std::string> ids;
    for (const Trouble& t : c.troubles)
        if (t.gravity != job::Gravity::note) ids.insert(t.id);
    EXPECT_EQ(ids, (std::multiset<std::string>{"card.font-missing", "card.sound-missing",
                                               "card.track-missing", "card.uneven"}))
        << told(c);
}

TEST_F(OnACard, WithoutPresetsNothingIsCalledReady) {
    job_.presets.clear();
    const Checked c = checked();
    EXPECT_TRUE(c.presets.empty());
    ASSERT_FALSE(c.troubles.empty());
    EXPECT_EQ(c.troubles[0].id, "card.no-presets") << told(c);
}

/// One mistake on the card, and the finding that it should be.
struct Planted {
    const char* id;
    const char* what;
    std::function<void(const fs::path&)> plant;
};

void PrintTo(const Planted& planted, std::ostream* out) { *out << planted.what; }

Tone usual() { return {0.5, 440, 0.4, 22050, 1, 16, 0, 9, false}; }

std::vector<Planted> planted() {
    const auto with = [](auto change) {
        Tone tone = usual();
        change(tone);
        return tone;
    };
    return {
        {"card.font-missing", "a font that is not there",
         [](const fs::path& c) { fs::remove_all(c / "kelp"); }},
        {"card.font-missing", "a font whose name is in capitals",
         [](const fs::path& c) { fs::rename(c / "kelp", c / "Kelp"); }},
        {"card.font-missing", "a font with one letter wrong",
         [](const fs::path& c) { fs::rename(c / "harbour", c / "harbor"); }},
        {"card.font-empty", "an empty folder",
         [](const fs::path& c) {
             fs::remove_all(c / "moon");
             fs::create_directory(c / "moon");
         }},
        {"card.font-empty", "a folder with notes alone",
         [](const fs::path& c) {
             fs::remove_all(c / "moon");
             fs::create_directory(c / "moon");
             std::ofstream(c / "moon" / "read-me.txt") << "where are they";
         }},
        {"card.sound-missing", "no sound of a blast",
         [](const fs::path& c) { fs::remove(c / "dusk" / "bolt.wav"); }},
        {"card.sound-missing", "no hum",
         [](const fs::path& c) { fs::remove(c / "dusk" / "steady.wav"); }},
        {"card.sound-missing", "a sound with another name",
         [](const fs::path& c) { fs::rename(c / "dusk" / "fall.wav", c / "dusk" / "down.wav"); }},
        {"card.track-missing", "a track that is not there",
         [](const fs::path& c) { fs::remove(c / "tracks" / "march.wav"); }},
        {"card.track-missing", "a track in the wrong folder",
         [](const fs::path& c) { fs::rename(c / "tracks" / "march.wav", c / "march.wav"); }},
        {"card.track-missing", "a track with another ending",
         [](const fs::path& c) {
             fs::rename(c / "tracks" / "march.wav", c / "tracks" / "march.wave");
         }},
        {"card.name-long", "a name that is too long",
         [](const fs::path& c) {
             fs::rename(c / "storm" / "bolt.wav",
                        c / "storm" / "bolt-over-the-harbour-at-midnight-in-november.wav");
         }},
        {"card.name-letters", "a blank in a name",
         [](const fs::path& c) {
             fs::rename(c / "storm" / "bolt.wav", c / "storm" / "bolt 1.wav");
         }},
        {"card.name-letters", "an accent in a name",
         [](const fs::path& c) {
             fs::rename(c / "storm" / "bolt.wav", c / "storm" / "boltö.wav");
         }},
        {"card.name-case", "a name in capitals",
         [](const fs::path& c) { fs::rename(c / "storm" / "bolt.wav", c / "storm" / "Bolt.wav"); }},
        {"card.unreadable", "an empty file",
         [](const fs::path& c) { std::ofstream(c / "signal" / "bolt.wav", std::ios::trunc); }},
        {"card.unreadable", "a text that is called a sound",
         [](const fs::path& c) { std::ofstream(c / "signal" / "bolt.wav") << "no sound at all"; }},
        {"card.unreadable", "a file that is cut short",
         [](const fs::path& c) {
             fs::resize_file(c / "signal" / "bolt.wav",
                             fs::file_size(c / "signal" / "bolt.wav") / 2);
         }},
        {"card.format", "another format",
         [with](const fs::path& c) {
             fs::remove(c / "lantern" / "bolt.wav");
             test::write_tone(c / "lantern" / "bolt.flac", with([](Tone& t) { t.flac = true; }));
         }},
        {"card.rate", "another rate",
         [with](const fs::path& c) {
             test::write_tone(c / "lantern" / "bolt.wav", with([](Tone& t) { t.rate = 44100; }));
         }},
        {"card.bits", "8 bit",
         [with](const fs::path& c) {
             test::write_tone(c / "lantern" / "bolt.wav", with([](Tone& t) { t.bits = 8; }));
         }},
        {"card.bits", "24 bit",
         [with](const fs::path& c) {
             test::write_tone(c / "lantern" / "bolt.wav", with([](Tone& t) { t.bits = 24; }));
         }},
        {"card.channels", "two channels",
         [with](const fs::path& c) {
             test::write_tone(c / "lantern" / "bolt.wav",
                              with([](Tone& t) { t.channels = 2, t.peak = 0.25; }));
         }},
        {"card.short", "a click of ten samples",
         [with](const fs::path& c) {
             test::write_tone(c / "lantern" / "bolt.wav",
                              with([](Tone& t) { t.seconds = 0.0005; }));
         }},
        {"card.silent", "silence",
         [with](const fs::path& c) {
             test::write_tone(c / "lantern" / "bolt.wav", with([](Tone& t) { t.peak = 0; }));
         }},
        {"card.clipped", "a clipped sound",
         [with](const fs::path& c) {
             // Short, so that the font is no louder for it.
             test::write_tone(c / "lantern" / "bolt.wav",
                              with([](Tone& t) { t.peak = 1.6, t.seconds = 0.03; }));
         }},
        {"card.uneven", "a font that is too loud",
         [](const fs::path& c) {
             int n = 0;
             for (const char* name : {"steady", "sweep", "strike", "bolt", "rise", "fall"})
                 test::write_tone(c / "moon" / (std::string(name) + ".wav"),
                                  {0.6, 400.0 + 7 * static_cast<double>(n++), 0.95, 22050, 1, 16, 0,
                                   static_cast<unsigned>(name[0] + name[1]), false});
         }},
        {"card.uneven", "a font that is too soft",
         [](const fs::path& c) {
             int n = 0;
             for (const char* name : {"steady", "sweep", "strike", "bolt", "rise", "fall"})
                 test::write_tone(
                     c / "moon" / (std::string(name) + ".wav"),
                     {0.5, 400.0 + 7 * static_cast<double>(n++), 0.1, 22050, 1, 16, 0, 1, false});
         }},
        {"card.music-level", "music that covers the effects",
         [](const fs::path& c) {
             test::write_tone(c / "tracks" / "storm.wav",
                              {1.5, 500, 0.98, 22050, 1, 16, 0, 1, false});
         }},
        {"card.music-level", "music that is not heard",
         [](const fs::path& c) {
             test::write_tone(c / "tracks" / "storm.wav",
                              {1.5, 500, 0.08, 22050, 1, 16, 0, 1, false});
         }},
        {"card.duplicate", "the same sound twice",
         [](const fs::path& c) {
             fs::copy_file(c / "dusk" / "bolt.wav", c / "dusk" / "bolt-again.wav");
         }},
        {"card.unused", "a font that no preset names",
         [](const fs::path& c) { test::write_tone(c / "spare" / "steady.wav", usual()); }},
        {"card.unfinished", "a card that was not finished",
         [](const fs::path& c) { std::ofstream(c / unfinished_mark) << "not finished"; }}};
}

class PlantedOnACard : public OnACard, public testing::WithParamInterface<Planted> {};

TEST_P(PlantedOnACard, IsExactlyItsFinding) {
    GetParam().plant(folder_.path());
    const Checked c = checked();
    ASSERT_EQ(c.troubles.size(), 1u) << told(c);
    EXPECT_EQ(c.troubles[0].id, GetParam().id) << told(c);
    EXPECT_FALSE(c.troubles[0].where.empty());
    EXPECT_FALSE(c.troubles[0].mend.empty());
}
INSTANTIATE_TEST_SUITE_P(Cards, PlantedOnACard, testing::ValuesIn(planted()));

/// 20 cards that are sound: other boards, other presets, layouts as boards have them.
class SoundCards : public testing::TestWithParam<int> {};

TEST_P(SoundCards, AreInPeace) {
    const int k = GetParam();
    job::Job job = test::demo("heron");
    constexpr const char* boards[] = {"board.small", "board.standard", "board.standard-store",
                                      "board.large", "board.strings-8"};
    job::Part* board = nullptr;
    for (job::Part& p : job.parts)
        if (p.ref == "U1") board = &p;
    ASSERT_NE(board, nullptr);
    board->type = boards[k % 5];
    job.presets.resize(static_cast<std::size_t>(1 + k % 8));
    for (std::size_t i = 0; i < job.presets.size(); ++i) {
        if (k % 3 == 0) job.presets[i].font = "one-for-all";
        if (k % 4 == 1) job.presets[i].tracks = {{"song.wav"}};
    }
    test::TemporaryFolder folder;
    test::make_card(folder.path(), job, parts());
    // What lies beside the sounds is nobody's business.
    if (k % 2) std::ofstream(folder.path() / "Settings of the Board.INI") << "volume 70";
    if (k % 2) fs::create_directories(folder.path() / ".hidden" / "Big Name Ä");
    const auto read = files::read_card(folder.path(), layout_of(job, parts()), side_by_side);
    ASSERT_TRUE(read) << read.error().text();
    const Checked c = check(job, parts(), *read);
    for (const Trouble& t : c.troubles)
        ADD_FAILURE() << t.id << " " << t.where << ": " << t.what;
    for (const PresetOnCard& p : c.presets)
        EXPECT_TRUE(p.ready) << p.name;
}
INSTANTIATE_TEST_SUITE_P(Twenty, SoundCards, testing::Range(0, 20));

TEST_F(OnACard, SeveralFilesWithTheSameMistakeAreOneFinding) {
    for (const char* name : {"bolt", "strike", "sweep"}) {
        Tone tone = usual();
        tone.rate = 44100;
        tone.seed = static_cast<unsigned>(name[0]);
        tone.hertz = 400 + name[1];
        test::write_tone(at("lantern/" + std::string(name) + ".wav"), tone);
    }
    const Checked c = checked();
    ASSERT_EQ(c.troubles.size(), 1u) << told(c);
    EXPECT_NE(c.troubles[0].what.english().find("2 more"), std::string::npos) << c.troubles[0].what;
}

TEST_F(OnACard, GainsEvenTheFontsWithoutClipping) {
    int n = 0;
    for (const char* name : {"steady", "sweep", "strike", "bolt", "rise", "fall"})
        test::write_tone(at("moon/" + std::string(name) + ".wav"),
                         {0.6, 400.0 + 7 * static_cast<double>(n++), 0.95, 22050, 1, 16, 0,
                          static_cast<unsigned>(name[1]), false});
    const Checked c = checked();
    std::optional<double> meets;
    for (const Loudness& l : c.loudness) {
        ASSERT_TRUE(l.lufs && l.gain) << l.name;
        EXPECT_LE(l.peak_dBFS + *l.gain, 1e-6) << l.name;
        const double to = *l.lufs + *l.gain + (l.track ? music_below_LU : 0);
        if (!meets) meets = to;
        EXPECT_NEAR(to, *meets, 1e-6) << l.name;
    }
}

/// A signal of dBFS peak at 1 kHz in two channels for stretches of time.
void stretches(const fs::path& file, int rate,
               const std::vector<std::pair<double, double>>& seconds_dB) {
    double all = 0;
    for (const auto& [seconds, dB] : seconds_dB)
        all += seconds;
    test::write_sound(file, all, rate, 2, 24, [&](double t) {
        double from = 0;
        for (const auto& [seconds, dB] : seconds_dB) {
            if (t < from + seconds)
                return std::pow(10, dB / 20) * std::sin(2 * std::numbers::pi * 1000 * t);
            from += seconds;
        }
        return 0.0;
    });
}

TEST(LoudnessOfSounds, IsThatOfTheReferenceSignals) {
    // The minimum requirements of EBU Tech 3341: 1 kHz in both channels, and what it measures.
    const std::pair<std::vector<std::pair<double, double>>, double> signals[] = {
        {{{20, -23}}, -23},
        {{{20, -33}}, -33},
        {{{10, -36}, {60, -23}, {10, -36}}, -23},
        {{{10, -72}, {10, -36}, {60, -23}, {10, -36}, {10, -72}}, -23},
        {{{20, -26}, {20.1, -20}, {20, -26}}, -23}};
    test::TemporaryFolder folder;
    for (const int rate : {44100, 48000})
        for (const auto& [signal, lufs] : signals) {
            const fs::path file = folder.path() / "signal.wav";
            stretches(file, rate, signal);
            const auto measured = files::measure_sound(file);
            EXPECT_TRUE(measured.sound.trouble.empty());
            EXPECT_NEAR(measured.loudness, lufs, 0.1) << rate;
        }
}

TEST(LoudnessOfSounds, PeakLoudestHalfSecondAndMeanAreClosedForms) {
    test::TemporaryFolder folder;
    const fs::path file = folder.path() / "steps.wav";
    // 2 s of a sine of a quarter, one second of three quarters.
    test::write_sound(file, 3, 22050, 1, 16, [](double t) {
        return (t < 2 ? 0.25 : 0.75) * std::sin(2 * std::numbers::pi * 441 * t);
    });
    const card::Sound s = files::measure_sound(file).sound;
    EXPECT_NEAR(s.peak, 0.75, 2e-3) << "between two samples";
    EXPECT_NEAR(s.loudest, 0.75 / std::sqrt(2), 1e-3);
    EXPECT_NEAR(s.power, (2 * 0.25 * 0.25 + 0.75 * 0.75) / 2 / 3, 1e-3);
    EXPECT_NEAR(s.seconds, 3, 1e-3);
    EXPECT_EQ(s.clipped, 0);
    // A tenth of a second is a fifth of the half second that it is heard in.
    test::write_sound(file, 0.1, 22050, 1, 16,
                      [](double t) { return 0.75 * std::sin(2 * std::numbers::pi * 441 * t); });
    EXPECT_NEAR(files::measure_sound(file).sound.loudest, 0.75 / std::sqrt(2 * 5), 1e-3);
}

TEST_F(OnACard, TheAmplifierFollowsTheFontOfThePreset) {
    const auto read = files::read_card(folder_.path(), layout_of(job_, parts()));
    ASSERT_TRUE(read);
    job::Job with = job_;
    with.card.fonts = sounds_of(job_, parts(), *read);
    ASSERT_EQ(with.card.fonts.size(), 7u);
    const auto tide = power::sound_of(with, parts(), "Tidewater"),
               unknown = power::sound_of(job_, parts(), "Tidewater");
    const job::FontSound& font = with.card.fonts[0];
    EXPECT_EQ(font.font, "harbour");
    EXPECT_NEAR(tide.peak.value(), unknown.peak.value() * font.peak, 1e-9);
    // Watts at the peak are the loudest half second's, on average those of the mean.
    const auto watts = [](const circuit::Amplifier& a) { return a.siemens * a.peak * a.peak; };
    EXPECT_NEAR(watts(tide.at_peak), watts(unknown.at_peak) * font.loudest * font.loudest, 1e-9);
    EXPECT_NEAR(watts(tide.hum), watts(unknown.at_peak) * font.mean * font.mean, 1e-9);
    // A font that was not measured is as before.
    with.card.fonts.clear();
    EXPECT_EQ(watts(power::sound_of(with, parts(), "Tidewater").at_peak), watts(unknown.at_peak));
}

TEST_F(OnACard, TheWorstIsWithTheLoudestFontOfTheLook) {
    // Tidewater is shown by Harbour and by Storm; the storm is the louder one.
    const auto set = [&](double harbour, double storm) {
        job_.card.fonts = {{"harbour", 0.9, harbour, 0.1, -20}, {"storm", 0.9, storm, 0.1, -20}};
        for (const char* font : {"lantern", "signal", "moon", "kelp", "dusk"})
            job_.card.fonts.push_back({font, 0.9, 0.01, 0.01, -20});
        return test::plan_of(job_);
    };
    const auto soft = set(0.1, 0.1), loud = set(0.1, 0.6), other = set(0.6, 0.1);
    const auto peak = [](const plan::Plan& p) { return *p.figure("peak-current")->value; };
    EXPECT_GT(peak(loud), peak(soft) + 0.01);
    EXPECT_NEAR(peak(loud), peak(other), 1e-6) << "whichever preset has it";
    bool told = false;
    for (const auto& part : loud.figure("peak-current")->parts)
        told = told || part.label.english().find("loudest half second") != std::string::npos;
    EXPECT_TRUE(told) << "why says so";
}

TEST(CompareCards, FindsWhatChangedMovedWentAndCame) {
    const std::vector<job::CardFile> was{{"a/1.wav", 10, "h1"},
                                         {"a/2.wav", 10, "h2"},
                                         {"b/1.wav", 10, "h3"},
                                         {"gone.wav", 10, "h4"}};
    const std::vector<job::CardFile> now{
        {"a/1.wav", 10, "h1"}, {"a/2.wav", 11, "h5"}, {"c/1.wav", 10, "h3"}, {"new.wav", 3, "h6"}};
    const auto lines = compare(was, now, {{"new.wav", "asked for"}});
    std::map<std::string, Became> all;
    for (const CardLine& l : lines) {
        all[l.path] = l.became;
        EXPECT_EQ(l.meant, l.path == "new.wav" ? "asked for" : "");
        if (l.path == "c/1.wav") {
            EXPECT_EQ(l.was, "b/1.wav");
        }
    }
    EXPECT_EQ(all, (std::map<std::string, Became>{{"a/1.wav", Became::same},
                                                  {"a/2.wav", Became::changed},
                                                  {"c/1.wav", Became::moved},
                                                  {"gone.wav", Became::gone},
                                                  {"new.wav", Became::added}}));
    for (const CardLine& l : compare(was, was, {}))
        EXPECT_EQ(l.became, Became::same);
}

TEST_F(OnACard, ACardThatGoesAwayOrIsStoppedIsToldSo) {
    const auto layout = layout_of(job_, parts());
    const auto gone =
        files::read_card(folder_.path(), layout, one_by_one, [&](const files::CardProgress& p) {
            if (p.files == 3) fs::remove_all(folder_.path());
            return true;
        });
    ASSERT_FALSE(gone);
    EXPECT_EQ(gone.error().cause, Cause::missing);
    EXPECT_NE(gone.error().text().find("went away"), std::string::npos) << gone.error().text();
    const auto none = files::read_card(folder_.path(), layout);
    ASSERT_FALSE(none);
    EXPECT_NE(none.error().text().find("no such folder"), std::string::npos);
    test::make_card(folder_.path(), job_, parts());
    const auto stopped = files::read_card(folder_.path(), layout, side_by_side,
                                          [](const files::CardProgress& p) { return p.files < 5; });
    ASSERT_FALSE(stopped);
    EXPECT_EQ(stopped.error().cause, Cause::stopped);
}

} // namespace
} // namespace conductus::card
