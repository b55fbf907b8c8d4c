// SPDX-License-Identifier: GPL-3.0-or-later
// Cards that are prepared: nothing else is touched, nothing half written looks whole.
#include "files/card_prepare.h"

#include <csignal>
#include <fstream>
#include <sys/resource.h>

#include "core/card/check.h"
#include "files/card_reader.h"
#include "support/fixtures.h"
#include "support/made_up_card.h"

namespace conductus::files {
namespace {

namespace fs = std::filesystem;
using test::parts;

class Preparing : public testing::Test {
protected:
    void SetUp() override {
        job_ = test::demo("heron");
        test::make_card(from_.path(), job_, parts());
        test::write_tone(from_.path() / "spare" / "steady.wav", {});
        to_ = into_.path() / "card";
    }
    CardPlan planned() {
        auto plan = plan_card(job_, parts(), from_.path(), to_);
        EXPECT_TRUE(plan) << plan.error().text();
        return plan.value_or(CardPlan{});
    }
    std::map<std::string, std::string> content(const fs::path& folder) {
        std::map<std::string, std::string> all;
        if (fs::exists(folder))
            for (const auto& e : fs::recursive_directory_iterator(folder))
                if (e.is_regular_file())
                    all[fs::relative(e.path(), folder).generic_string()] = *hash_of_file(e.path());
        return all;
    }
    card::Checked checked() {
        const auto read = read_card(to_, card::layout_of(job_, parts()));
        EXPECT_TRUE(read);
        return card::check(job_, parts(), *read);
    }
    test::TemporaryFolder from_, into_;
    fs::path to_;
    job::Job job_;
};

TEST_F(Preparing, ADryRunChangesNothingAndACopyIsWhole) {
    const auto before = content(from_.path());
    const CardPlan plan = planned();
    EXPECT_TRUE(plan.troubles.empty());
    EXPECT_FALSE(fs::exists(to_));
    EXPECT_EQ(plan.files.size(), 7u * 6 + 2) << "what the presets name, no spare font";
    const auto copied = prepare_card(plan, from_.path(), to_);
    ASSERT_TRUE(copied) << copied.error().text();
    EXPECT_EQ(*copied, plan.files.size());
    EXPECT_EQ(content(from_.path()), before);
    auto expected = before;
    std::erase_if(expected, [](const auto& f) { return f.first.starts_with("spare"); });
    EXPECT_EQ(content(to_), expected);
    EXPECT_TRUE(checked().troubles.empty());
    // Once more there is nothing to do.
    EXPECT_EQ(planned().to_copy, 0u);
    EXPECT_EQ(*prepare_card(planned(), from_.path(), to_), 0u);
}

TEST_F(Preparing, NothingElseIsTouchedAndNothingIsWrittenOver) {
    fs::create_directories(to_ / "kelp");
    std::ofstream(to_ / "holiday.txt") << "keep me";
    std::ofstream(to_ / "kelp" / "mine.wav") << "keep me too";
    CardPlan plan = planned();
    EXPECT_EQ(plan.others, 2u);
    ASSERT_TRUE(prepare_card(plan, from_.path(), to_));
    EXPECT_EQ(*hash_of_file(to_ / "kelp" / "mine.wav"), *hash_of_file(to_ / "kelp" / "mine.wav"));
    std::ifstream in(to_ / "holiday.txt");
    EXPECT_EQ(std::string(std::istreambuf_iterator<char>(in), {}), "keep me");
    // A file of the same name with another content is in the way.
    std::ofstream(to_ / "dusk" / "bolt.wav", std::ios::trunc) << "another";
    const auto was = content(to_);
    plan = planned();
    ASSERT_EQ(plan.troubles.size(), 1u);
    EXPECT_EQ(plan.troubles[0].id, "card.in-the-way");
    EXPECT_FALSE(prepare_card(plan, from_.path(), to_));
    EXPECT_EQ(content(to_), was);
}

TEST_F(Preparing, WhatTheSourceLacksIsToldBeforeAnythingIsCopied) {
    fs::remove_all(from_.path() / "moon");
    fs::remove(from_.path() / "tracks" / "march.wav");
    const CardPlan plan = planned();
    ASSERT_EQ(plan.troubles.size(), 2u);
    EXPECT_FALSE(prepare_card(plan, from_.path(), to_));
    EXPECT_FALSE(fs::exists(to_));
    // Folders that make no sense.
    EXPECT_FALSE(plan_card(job_, parts(), from_.path() / "nowhere", to_));
    EXPECT_FALSE(plan_card(job_, parts(), from_.path(), from_.path() / "inside"));
    EXPECT_FALSE(plan_card(job_, parts(), from_.path() / "moon" / "..", from_.path()));
    EXPECT_FALSE(plan_card(job_, parts(), from_.path(), from_.path() / "dusk" / "bolt.wav"));
}

TEST_F(Preparing, StoppedAnywhereItGoesOnAndNeverLooksWhole) {
    const std::size_t all = planned().files.size();
    for (std::size_t stop = 1; stop < all; stop += 7) {
        fs::remove_all(to_);
        const auto stopped = prepare_card(planned(), from_.path(), to_,
                                          [&](const CardProgress& p) { return p.files < stop; });
        ASSERT_FALSE(stopped);
        EXPECT_EQ(stopped.error().cause, Cause::stopped);
        const auto c = checked();
        ASSERT_FALSE(c.troubles.empty());
        EXPECT_EQ(c.troubles[0].id, "card.unfinished");
        for (const auto& [path, hash] : content(to_))
            EXPECT_FALSE(path.ends_with(card::part_ending)) << path;
        const auto rest = prepare_card(planned(), from_.path(), to_);
        ASSERT_TRUE(rest) << rest.error().text();
        EXPECT_EQ(*rest, all - stop) << "what was there is not copied again";
        EXPECT_TRUE(checked().troubles.empty());
    }
}

TEST_F(Preparing, ACardThatGoesAwayIsToldSo) {
    const auto gone = prepare_card(planned(), from_.path(), to_, [&](const CardProgress& p) {
        if (p.files == 4) fs::remove_all(to_), std::ofstream(to_) << "no folder any more";
        return true;
    });
    ASSERT_FALSE(gone);
    EXPECT_NE(gone.error().text().find("went away"), std::string::npos) << gone.error().text();
}

TEST_F(Preparing, AFullCardIsToldSoAndLeavesNoHalfFile) {
    // Files may not be larger than that any more, as on a card that is full.
    const CardPlan plan = planned();
    rlimit before{};
    ASSERT_EQ(getrlimit(RLIMIT_FSIZE, &before), 0);
    const auto ignored = std::signal(SIGXFSZ, SIG_IGN);
    rlimit small = before;
    small.rlim_cur = 20000;
    ASSERT_EQ(setrlimit(RLIMIT_FSIZE, &small), 0);
    const auto full = prepare_card(plan, from_.path(), to_);
    setrlimit(RLIMIT_FSIZE, &before);
    std::signal(SIGXFSZ, ignored);
    ASSERT_FALSE(full);
    EXPECT_EQ(full.error().cause, Cause::no_room) << full.error().text();
    const auto there = content(to_);
    EXPECT_TRUE(there.contains(card::unfinished_mark));
    for (const auto& [path, hash] : there)
        if (path != card::unfinished_mark) {
            EXPECT_EQ(hash, *hash_of_file(from_.path() / path)) << path;
        }
    EXPECT_TRUE(prepare_card(planned(), from_.path(), to_));
    EXPECT_TRUE(checked().troubles.empty());
}

} // namespace
} // namespace conductus::files
