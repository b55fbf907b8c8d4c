// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/habits.h"

#include "core/harness/data_map.h"
#include "core/harness/derive.h"
#include "core/hilt/part_edits.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/words.h"
#include "core/plan/start.h"
#include "files/habits_json.h"
#include "shop/book.h"
#include "support/fixtures.h"

namespace conductus::shop {
namespace {

using namespace test;
using job::Habits;

TEST(HabitsOfAShop, AreWhatMostWiresOfAJobHave) {
    const Habits h = job::habits_of(demo("heron"), parts());
    EXPECT_EQ(h.board, "board.standard");
    ASSERT_FALSE(h.wires.empty());
    EXPECT_EQ(h.wires[0].role, job::Role::supply);
    EXPECT_TRUE(job::differs_from(demo("heron"), parts(), h).empty())
        << job::differs_from(demo("heron"), parts(), h)[0];
    EXPECT_TRUE(job::differs_from(demo("dunlin"), parts(), Habits{}).empty())
        << "no habit, no difference";
}

TEST(HabitsOfAShop, ADifferenceIsToldOnceOfEachKind) {
    job::Job job = demo("heron");
    const Habits h = job::habits_of(job, parts());
    job::fit_type("U1", "board.large")(job);
    job.hilt.clearance = job.hilt.clearance + Millimetre(0.2);
    for (job::Wire& w : job.wires)
        if (w.role == job::Role::supply) w.gauge = 30;
    const auto lines = job::differs_from(job, parts(), h);
    ASSERT_EQ(lines.size(), 3u);
    EXPECT_NE(lines[0].english().find("usually standard sound board"), std::string::npos)
        << lines[0];
    EXPECT_NE(lines[1].english().find("clearance"), std::string::npos);
    EXPECT_NE(lines[2].english().find("thinner than"), std::string::npos);
    // A thicker wire is nothing to tell of.
    for (job::Wire& w : job.wires)
        if (w.role == job::Role::supply) w.gauge = 16;
    EXPECT_EQ(job::differs_from(job, parts(), h).size(), 2u);
}

TEST(HabitsOfAShop, PadsAreAsUsualInANewJob) {
    job::Job job = demo("heron");
    const Habits h = job::habits_of(job, parts());
    ASSERT_FALSE(h.blade_pad.empty());
    ASSERT_FALSE(h.main_pad.empty());
    const auto& terminals = parts().find(job::find_ref(job.parts, "U1")->type)->terminals;
    const auto other = [&](const std::string& is, char kind) {
        for (const std::string& t : terminals)
            if (t.size() == 2 && t[0] == kind && t != is) return t;
        return std::string();
    };
    Habits usual;
    usual.blade_pad = other(h.blade_pad, 'd');
    usual.main_pad = other(h.main_pad, 's');
    ASSERT_FALSE(usual.blade_pad.empty());
    ASSERT_EQ(job::differs_from(job, parts(), usual).size(), usual.main_pad.empty() ? 1u : 2u);
    ASSERT_TRUE(job::pads_as_usual(usual, parts())(job));
    EXPECT_TRUE(job::differs_from(job, parts(), usual).empty());
    EXPECT_EQ(plan_of(job).figure("peak-current")->value,
              plan_of(demo("heron")).figure("peak-current")->value)
        << "the same lights on another pad";
    Habits nowhere;
    nowhere.blade_pad = "d9";
    const job::Job before = job;
    ASSERT_TRUE(job::pads_as_usual(nowhere, parts())(job));
    EXPECT_EQ(job, before) << "a board without that pad stays as it is";
}

/// A job begun with that many buttons and nothing else said.
job::Job begun(int buttons, const Habits& habits, const char* board = "") {
    job::Job job;
    job.name = "Begun";
    plan::Start start;
    start.length = Millimetre(280);
    start.bore = Millimetre(32);
    start.buttons = buttons;
    start.board = board;
    EXPECT_TRUE(plan::begin_job(start, parts())(job));
    EXPECT_TRUE(job::pads_as_usual(habits, parts())(job));
    return job;
}

TEST(HabitsOfAShop, TheMainButtonOfANewJobIsAtTheUsualEnd) {
    for (const job::End end : {job::End::emitter, job::End::pommel}) {
        Habits usual;
        usual.main_button = end;
        const job::Job job = begun(2, usual);
        EXPECT_EQ(job::habits_of(job, parts()).main_button, end) << job::word(end);
        EXPECT_TRUE(job::differs_from(job, parts(), usual).empty());
    }
    // One button has no end of its own, and no habit changes nothing.
    Habits usual;
    usual.main_button = job::End::pommel;
    EXPECT_EQ(begun(1, usual), begun(1, {}));
}

TEST(HabitsOfAShop, AnAccentThatIsFittedLaterTakesTheUsualPadWhereItIsFree) {
    const job::Job bare = begun(1, {}, "board.large");
    const auto& board = parts().find(job::find_ref(bare.parts, "U1")->type)->terminals;
    const std::string accent = "pixels.stick-8-rgb";
    ASSERT_TRUE(parts().find(accent));
    const job::Edit fit = job::add_accent(accent, job::Mount::own_line, parts());
    job::Job as_free = bare;
    ASSERT_TRUE(fit(as_free));
    const std::string first = job::habits_of(as_free, parts()).accent_pad;
    ASSERT_FALSE(first.empty());
    int others = 0;
    for (const std::string& pad : board) {
        if (pad[0] != 'd') continue;
        Habits usual;
        usual.accent_pad = pad;
        job::Job job = bare;
        ASSERT_TRUE(job::fitted_as_usual(fit, usual, parts())(job));
        const bool taken = pad == job::habits_of(bare, parts()).blade_pad;
        EXPECT_EQ(job::habits_of(job, parts()).accent_pad, taken ? first : pad);
        others += !taken && pad != first;
        // A second accent leaves the first where it is.
        const job::Job with_one = job;
        Habits changed;
        changed.accent_pad = first;
        ASSERT_TRUE(job::fitted_as_usual(fit, changed, parts())(job));
        EXPECT_EQ(job::habits_of(job, parts()).accent_pad,
                  job::habits_of(with_one, parts()).accent_pad);
    }
    EXPECT_GT(others, 0) << "the board has a free pad that is not the first";
}

TEST(HabitsOfAShop, ASecondButtonIsFittedAsUsualAndItsWiresAre) {
    for (const job::End end : {job::End::emitter, job::End::pommel}) {
        Habits usual;
        usual.main_button = end;
        usual.wires = {{job::Role::button, 22, "violet"}};
        job::Job job = begun(1, {});
        const std::size_t wires = job.wires.size();
        const std::string type = job::find_ref(job.parts, "S1")->type;
        ASSERT_TRUE(job::fitted_as_usual(hilt::add_part(type, Millimetre(20), parts()), usual,
                                         parts())(job));
        ASSERT_TRUE(job::fitted_as_usual(harness::wire_missing(parts()), usual, parts())(job));
        ASSERT_GT(job.wires.size(), wires);
        for (std::size_t i = wires; i < job.wires.size(); ++i) {
            EXPECT_EQ(job.wires[i].gauge, 22);
            EXPECT_EQ(job.wires[i].colour, "violet");
        }
        ASSERT_TRUE(harness::configure_as_wired(parts())(job));
        EXPECT_EQ(job::habits_of(job, parts()).main_button, end) << job::word(end);
    }
}

TEST(HabitsOfAShop, AreTypedAndRefused) {
    Habits h;
    for (const auto& [key, typed] : {std::pair{"cell", "cell.18350"},
                                     {"volume", "65"},
                                     {"main_button", "emitter"},
                                     {"clearance_mm", "0.4"},
                                     {"wires/data/gauge_awg", "28"},
                                     {"wires/data/colour", "green"}}) {
        const auto with = job::with_habit(h, key, typed);
        ASSERT_TRUE(with) << key;
        h = *with;
        EXPECT_EQ(job::habit_typed(h, key), typed) << key;
    }
    EXPECT_EQ(h.volume, 0.65);
    for (const auto& [key, typed] : {std::pair{"volume", "650"},
                                     {"clearance_mm", "wide"},
                                     {"main_button", "left"},
                                     {"wires/data/gauge_awg", "7"},
                                     {"wires/nothing/gauge_awg", "20"},
                                     {"nothing", "1"}})
        EXPECT_FALSE(job::with_habit(h, key, typed)) << key;
    // Nothing typed is no habit.
    for (const char* key :
         {"cell", "volume", "main_button", "clearance_mm", "wires/data/gauge_awg"})
        h = job::with_habit(h, key, "").value();
    EXPECT_EQ(h, Habits{});
}

TEST(HabitsOfAShop, AreKeptInTheBookAndReadBack) {
    TemporaryFolder folder;
    auto book = Book::open(folder / "shop.book", Access::read_write);
    ASSERT_TRUE(book);
    EXPECT_EQ(book->habits().value(), Habits{});
    const Habits h = job::habits_of(demo("bittern"), parts());
    ASSERT_TRUE(book->keep_habits(h));
    EXPECT_EQ(book->habits().value(), h);
    Habits other = h;
    other.accent_pad = "d2";
    ASSERT_TRUE(book->keep_habits(other));
    EXPECT_EQ(Book::open(folder / "shop.book", Access::read_only)->habits().value(), other);
    EXPECT_TRUE(book->own_parts().value().empty()) << "habits are no part";
    EXPECT_EQ(run(bin_dir().string() + "/conductus-cli shop " + (folder / "shop.book").string() +
                  " verify")
                  .code,
              0);
    ASSERT_TRUE(book->keep_habits({}));
    EXPECT_EQ(book->habits().value(), Habits{});
    EXPECT_FALSE(files::parse_habits("{\"cell\": 5}"));
    EXPECT_FALSE(files::parse_habits("{"));
    EXPECT_EQ(files::parse_habits(files::habits_text(h)).value(), h);
}

} // namespace
} // namespace conductus::shop
